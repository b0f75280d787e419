"""Rods: round bar, cut off square at both ends."""

from __future__ import annotations

from typing import Any

from zygon.design.parts.kinds import PlacedKind
from zygon.geometry.boolean import Region, to_polygon
from zygon.geometry.contour import circle
from zygon.geometry.frame import AXES
from zygon.geometry.mesh import Mesh, extrude
from zygon.geometry.motion import Motion
from zygon.making.flats.layers import Layer
from zygon.making.kinds.base import MadeKind, Sizes
from zygon.making.result.body import Prism
from zygon.making.result.box import Box
from zygon.memo import digest
from zygon.owner import edge_id
from zygon.tolerance import SAGITTA

__all__ = ["ROD"]

#: What the round of a rod is called among its faces.
ROUND = "round"


def _make(record: PlacedKind, box: Box) -> tuple[Prism, Motion]:
    """The round bar that a box encloses, w along its axis, and how it lies."""
    axis = next(a for a in AXES if a not in record.across)
    k = AXES.index(axis)
    u = (k + 1) % 3
    low, high = box.span(axis)
    radius = (box.high[u] - box.low[u]) / 2
    section = Region(circle(0.0, 0.0, round(radius, 7), edge_id(ROUND)), ())
    place = [(box.low[i] + box.high[i]) / 2 for i in range(3)]
    place[k] = low
    turns = [(1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)]
    # u, v and w run along the room's axes in their order, so that none is mirrored
    rows = tuple((*turns[(i - u) % 3], place[i]) for i in range(3))
    length = round(high - low, 7)
    return Prism(section, length, digest("rod", section, length)), Motion(rows)


def _meshes(rod: Prism) -> list[Mesh]:
    return [extrude(rod.section, rod.length)]


def _layers(rod: Prism) -> tuple[Layer, ...]:
    return (Layer(0.0, rod.length, to_polygon(rod.section.outer, SAGITTA * 5)),)


def _exact(rod: Prism) -> Any:
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder

    return BRepPrimAPI_MakeCylinder(_radius(rod), rod.length).Shape()


def _radius(rod: Prism) -> float:
    disc = rod.section.outer.as_circle
    assert disc
    return disc[2]


def _mirrored(rod: Prism) -> tuple[Prism, Motion]:
    """It is its own mirror image."""
    return rod, Motion(((-1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))


def _volume(rod: Prism) -> float:
    return rod.section.area * rod.length


def _sizes(rod: Prism) -> Sizes:
    return Sizes(rod.length, thickness=2 * _radius(rod))


ROD = MadeKind(_meshes, _layers, _volume, _exact, _sizes, _make, _mirrored)
