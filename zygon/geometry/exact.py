"""Shapes of Open CASCADE that are put in their places, put together, or sewn from a mesh. Open CASCADE is loaded only when one is asked for."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from zygon.geometry.mesh import Mesh
from zygon.tolerance import CONTACT

__all__ = ["compound", "placed", "sewn"]


def placed(shape: Any, rows: Sequence[Sequence[float]]) -> Any:
    """A shape where the rows (3, 4) of a matrix take it."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.gp import gp_Trsf

    move = gp_Trsf()
    move.SetValues(*(float(x) for row in rows for x in row))
    return BRepBuilderAPI_Transform(shape, move, True).Shape()


def compound(shapes: Sequence[Any]) -> Any:
    """Several shapes as one, each still itself."""
    from OCP.BRep import BRep_Builder
    from OCP.TopoDS import TopoDS_Compound

    made, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(made)
    for shape in shapes:
        builder.Add(made, shape)
    return made


def sewn(mesh: Mesh) -> Any:
    """A mesh's triangles as the faces of a solid, or of several where they close by themselves."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon, BRepBuilderAPI_MakeSolid, BRepBuilderAPI_Sewing
    from OCP.gp import gp_Pnt
    from OCP.TopAbs import TopAbs_SHELL
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopoDS import TopoDS

    sewing = BRepBuilderAPI_Sewing(CONTACT)
    for corners in mesh.positions[mesh.triangles]:
        polygon = BRepBuilderAPI_MakePolygon(*(gp_Pnt(*p.tolist()) for p in corners), True)
        sewing.Add(BRepBuilderAPI_MakeFace(polygon.Wire(), True).Face())
    sewing.Perform()
    shells, solids = TopExp_Explorer(sewing.SewedShape(), TopAbs_SHELL), []
    while shells.More():
        solids.append(BRepBuilderAPI_MakeSolid(TopoDS.Shell(shells.Current())).Solid())
        shells.Next()
    return solids[0] if len(solids) == 1 else compound(solids)
