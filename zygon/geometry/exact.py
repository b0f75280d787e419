"""Exact shapes of Open CASCADE: contours as edges, wires and prisms, what is drawn round an axis; shapes placed, put together, sewn from a mesh.

Imported only where a solid is asked for: the bindings take seconds to load.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from OCP.BRep import BRep_Builder
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakePolygon,
    BRepBuilderAPI_MakeSolid,
    BRepBuilderAPI_MakeWire,
    BRepBuilderAPI_Sewing,
    BRepBuilderAPI_Transform,
)
from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism, BRepPrimAPI_MakeRevol
from OCP.GC import GC_MakeArcOfCircle
from OCP.gp import gp_Ax1, gp_Dir, gp_Pln, gp_Pnt, gp_Trsf, gp_Vec
from OCP.Message import Message
from OCP.TopAbs import TopAbs_SHELL
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Compound

from zygon.geometry.contour import Contour
from zygon.geometry.mesh import Mesh
from zygon.tolerance import CONTACT

# what it does is said by its results, not on the console
_MESSENGER = Message.DefaultMessenger_s()
for _printer in list(_MESSENGER.Printers()):
    _MESSENGER.RemovePrinter(_printer)

__all__ = ["compound", "drawn_round", "edge", "face", "middle", "placed", "prism", "ring_wire", "sewn", "wire"]

Point = tuple[float, float]


def edge(p: Point, q: Point, bulge: float, lift: Any) -> Any:
    """An edge of a line or arc; ``lift`` takes (x, y) to a point in space."""
    a, b = lift(p), lift(q)
    if not bulge:
        return BRepBuilderAPI_MakeEdge(gp_Pnt(*a), gp_Pnt(*b)).Edge()
    between = lift(middle(p, q, bulge))
    return BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(gp_Pnt(*a), gp_Pnt(*between), gp_Pnt(*b)).Value()).Edge()


def middle(p: Point, q: Point, bulge: float) -> Point:
    dx, dy = q[0] - p[0], q[1] - p[1]
    return (p[0] + q[0]) / 2 + dy * bulge / 2, (p[1] + q[1]) / 2 - dx * bulge / 2


def wire(edges: list[Any]) -> Any:
    made = BRepBuilderAPI_MakeWire()
    for e in edges:
        made.Add(e)
    return made.Wire()


def face(rings: list[list[Any]], plane: Any) -> Any:
    made = BRepBuilderAPI_MakeFace(plane, wire(rings[0]), True)
    for ring in rings[1:]:
        made.Add(wire(ring))
    return made.Face()


def ring_wire(contour: Contour) -> Any:
    """A closed contour as a wire in the plane of w 0."""
    return wire([edge(s.p, s.q, s.bulge, lambda r: (r[0], r[1], 0.0)) for s in contour.segments()])


def prism(contours: list[Contour], low: float, high: float) -> Any:
    """A region between two heights."""
    rings = [[edge(s.p, s.q, s.bulge, lambda r: (r[0], r[1], low)) for s in c.segments()] for c in contours]
    region = face(rings, gp_Pln(gp_Pnt(0, 0, low), gp_Dir(0, 0, 1)))
    return BRepPrimAPI_MakePrism(region, gp_Vec(0, 0, high - low)).Shape()


def drawn_round(profile: Contour) -> Any:
    """A closed contour in (r, w), one side of it on the axis, drawn round w."""
    ring = wire([edge(s.p, s.q, s.bulge, lambda r: (r[0], 0.0, r[1])) for s in profile.segments()])
    return BRepPrimAPI_MakeRevol(BRepBuilderAPI_MakeFace(ring, True).Face(), gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))).Shape()


def placed(shape: Any, rows: Sequence[Sequence[float]]) -> Any:
    """A shape where the rows (3, 4) of a matrix take it."""

    move = gp_Trsf()
    move.SetValues(*(float(x) for row in rows for x in row))
    return BRepBuilderAPI_Transform(shape, move, True).Shape()


def compound(shapes: Sequence[Any]) -> Any:
    """Several shapes as one, each still itself."""

    made, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(made)
    for shape in shapes:
        builder.Add(made, shape)
    return made


def sewn(mesh: Mesh) -> Any:
    """A mesh's triangles as the faces of a solid, or of several where they close by themselves."""

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
