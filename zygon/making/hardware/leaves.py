"""Leaves of hardware, and shapes as they were read, as closed meshes and exact solids."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

import manifold3d
import numpy as np

from zygon.design.parts.bought import Solid
from zygon.geometry.mesh import Mesh, creases
from zygon.geometry.solid import Tool, united
from zygon.making.hardware.pieces import OWNER, PAST, ROUND
from zygon.stock.hardware.shape import Block, Drum, Leaf, ScrewHole

__all__ = ["exact_leaf", "mesh_of_leaf", "mesh_of_shape"]

#: A countersink's included angle (radians), of wood screws by DIN 7997.
SINK = math.radians(90)


def _tool(solid: Block | Drum) -> Tool:
    if isinstance(solid, Block):
        size = [h - w for w, h in zip(solid.low, solid.high, strict=True)]
        return Tool(manifold3d.Manifold.cube(size).translate(solid.low), OWNER)
    return _drum(solid.axis, solid.at, solid.low, solid.high, solid.across / 2, solid.across / 2)


def _drum(axis: int, at: tuple[float, float, float], low: float, high: float, first: float, last: float) -> Tool:
    """A round from ``low`` to ``high`` along an axis that passes ``at``, its radius at both ends."""
    made = manifold3d.Manifold.cylinder(high - low, first, last, ROUND)
    turned = np.zeros((3, 4))
    for k in range(3):  # z to the axis, the others behind it in turn
        turned[(axis + 1 + k) % 3, k] = 1.0
    place = list(at)
    place[axis] = low
    turned[:, 3] = place
    return Tool(made.transform(turned), OWNER)


def _cut(leaf: Leaf, h: ScrewHole) -> list[tuple[float, float, float, float]]:
    """The hole along w as rounds: from, to, and the radius at both; the countersink on the side away from what it lies on."""
    found = [(h.low - PAST, h.high + PAST, h.across / 2, h.across / 2)]
    if h.sink > h.across:
        deep = (h.sink - h.across) / 2 / math.tan(SINK / 2)
        high = abs(leaf.lies - h.low) < abs(leaf.lies - h.high)
        wide, narrow = h.sink / 2, h.across / 2
        found.append((h.high - deep, h.high, narrow, wide) if high else (h.low, h.low + deep, wide, narrow))
    return found


@lru_cache(maxsize=512)
def mesh_of_leaf(leaf: Leaf) -> Mesh:
    """A leaf's closed mesh in its piece's own coordinates, where it is drawn."""
    holes = [_drum(2, (h.u, h.v, 0.0), *cut) for h in leaf.holes for cut in _cut(leaf, h)]
    return united([_tool(s) for s in leaf.solids], [*holes, *(_tool(d) for d in leaf.bored)])


def exact_leaf(leaf: Leaf) -> Any:
    """The same, a shape of Open CASCADE."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse

    whole = None
    for s in leaf.solids:
        whole = _exact(s) if whole is None else BRepAlgoAPI_Fuse(whole, _exact(s)).Shape()
    for h in leaf.holes:
        for low, high, first, last in _cut(leaf, h):
            whole = BRepAlgoAPI_Cut(whole, _exact_round(2, (h.u, h.v, 0.0), low, high, first, last)).Shape()
    for d in leaf.bored:
        whole = BRepAlgoAPI_Cut(whole, _exact(d)).Shape()
    return whole


def _exact(solid: Block | Drum) -> Any:
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
    from OCP.gp import gp_Pnt

    if isinstance(solid, Block):
        return BRepPrimAPI_MakeBox(gp_Pnt(*solid.low), gp_Pnt(*solid.high)).Shape()
    return _exact_round(solid.axis, solid.at, solid.low, solid.high, solid.across / 2, solid.across / 2)


def _exact_round(axis: int, at: tuple[float, float, float], low: float, high: float, first: float, last: float) -> Any:
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCone, BRepPrimAPI_MakeCylinder
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    place = list(at)
    place[axis] = low
    axes = gp_Ax2(gp_Pnt(*place), gp_Dir(*(float(k == axis) for k in range(3))))
    if first == last:
        return BRepPrimAPI_MakeCylinder(axes, first, high - low).Shape()
    return BRepPrimAPI_MakeCone(axes, first, last, high - low).Shape()


def mesh_of_shape(shape: Solid, *, mirror: bool) -> Mesh:
    """A shape as it was read, from its box's low corner; its mirror image across u."""
    positions = np.array(shape.positions, dtype=float).reshape(-1, 3)
    triangles = np.array(shape.triangles, dtype=np.int64).reshape(-1, 3)
    if mirror:
        positions, triangles = positions * (-1.0, 1.0, 1.0), triangles[:, ::-1]
    plain = Mesh(positions, triangles, (OWNER,) * len(triangles), np.empty((0, 2, 3)))
    return Mesh(positions, triangles, plain.owners, creases(plain))
