"""The closed mesh of a connector, and its exact solid."""

from __future__ import annotations

from typing import Any

import manifold3d
import numpy as np

from zygon.geometry.mesh import Mesh, creases
from zygon.geometry.motion import Motion
from zygon.geometry.solid import Tool, united
from zygon.making.connector.body import ConnectorBody, Sleeve
from zygon.owner import edge_id
from zygon.tolerance import CONTACT, DISPLAY_SAGITTA

__all__ = ["connector_exact", "connector_mesh"]

#: Chords round a ball, and round a plate.
BALL, DISC = 48, 96
#: Holes are drawn so far past the mouth (mm).
PAST = 1.0
ROUND, PLATE = edge_id("round"), edge_id("plate")


def socket_face(key: str) -> str:
    """What the inside of a socket is called, or the outside of a spigot."""
    return edge_id(f"socket_{key}")


def connector_mesh(body: ConnectorBody) -> Mesh:
    """The mesh in the connector's own coordinates."""
    if body.given:
        triangles = np.array(body.given.triangles).reshape(-1, 3)
        triangles = triangles[:, ::-1] if body.given.mirror else triangles
        mesh = Mesh(body.given_points, triangles, (ROUND,) * len(triangles), np.empty((0, 2, 3)))
        return Mesh(mesh.positions, triangles, mesh.owners, creases(mesh))
    solids = [Tool(_drawn(s.outer.grown(0.0).region.outer, s.place, *s.outside), ROUND) for s in body.sleeves if _long(s)]
    solids += [Tool(_drawn(s.inner.grown(0.0).region.outer, s.place, *_spigot(s)), socket_face(s.key)) for s in body.sleeves if s.inside]
    if body.ball:
        solids.append(Tool(manifold3d.Manifold.sphere(body.ball, BALL), ROUND))
    if body.plate:
        disc = manifold3d.Manifold.cylinder(body.plate.thick, body.plate.diameter / 2, body.plate.diameter / 2, DISC)
        solids.append(Tool(disc.transform(np.array(body.plate.place.rows)), PLATE))
    holes = [Tool(_drawn(s.inner.grown(0.0).region.outer, s.place, *_hole(s)), socket_face(s.key)) for s in body.sleeves if not s.inside]
    return united(solids, holes)


def _long(sleeve: Sleeve) -> bool:
    """Whether its outside is there at all: a spigot may have no shoulder."""
    low, high = sleeve.outside
    return high - low > CONTACT


def _spigot(sleeve: Sleeve) -> tuple[float, float]:
    """From the other end of its shoulder on, so that both are one."""
    return min(sleeve.outside), sleeve.out


def _hole(sleeve: Sleeve) -> tuple[float, float]:
    """Past its mouth by as much as what swings about the middle reaches over it: a tube that runs through has that room."""
    low, high = sleeve.hole
    past = max(sleeve.outer.extents) + PAST
    return (low - past if sleeve.through else low), high + (past if sleeve.through else PAST)


def _drawn(contour: Any, place: Motion, low: float, high: float) -> manifold3d.Manifold:
    ring = contour.wound(ccw=True).flatten(DISPLAY_SAGITTA / 2)
    solid = manifold3d.CrossSection([ring]).extrude(high - low).translate((0.0, 0.0, low))
    return solid.transform(np.array(place.rows))


def connector_exact(body: ConnectorBody) -> Any:
    """The solid, a shape of Open CASCADE; of a shape that was read the mesh as it came."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakeSphere
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    from zygon.geometry.exact import placed, prism, sewn

    if body.given:
        return sewn(connector_mesh(body))
    shapes = [placed(prism([s.outer.grown(0.0).region.outer], *s.outside), s.place.rows) for s in body.sleeves if _long(s)]
    shapes += [placed(prism([s.inner.grown(0.0).region.outer], *_spigot(s)), s.place.rows) for s in body.sleeves if s.inside]
    if body.ball:
        shapes.append(BRepPrimAPI_MakeSphere(body.ball).Shape())
    if body.plate:
        axes = gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))
        shapes.append(placed(BRepPrimAPI_MakeCylinder(axes, body.plate.diameter / 2, body.plate.thick).Shape(), body.plate.place.rows))
    made = shapes[0]
    for shape in shapes[1:]:
        made = BRepAlgoAPI_Fuse(made, shape).Shape()
    for s in (s for s in body.sleeves if not s.inside):
        made = BRepAlgoAPI_Cut(made, placed(prism([s.inner.grown(0.0).region.outer], *_hole(s)), s.place.rows)).Shape()
    return made
