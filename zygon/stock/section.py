"""Sections of tube and bar: their outlines, and with them area and mass a metre.

A section stands in (u, v) about the middle of the box round it, its width along u and its height along v, in mm. A tube has a wall, a solid bar has none.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from zygon.errors import MemberError
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour, circle, polygon, rounded_rectangle
from zygon.owner import edge_id
from zygon.tolerance import EPS

__all__ = ["Section", "SectionShape"]

#: No tube has a thinner wall (mm).
LEAST_WALL = 0.1
SectionShape = Literal["round", "square", "rectangle", "hexagon"]


@dataclass(frozen=True)
class Section:
    """What a bar or tube looks like across: ``height`` is its diameter, its side, or its size across flats; ``width`` a rectangle's other size.

    ``wall`` is a tube's, 0 where it is solid; ``corner`` the outer radius of a square's or a rectangle's corners. The inner one is what the wall
    leaves of it. Raises MemberError that names the entry.
    """

    shape: SectionShape
    height: float
    width: float = 0.0
    wall: float = 0.0
    corner: float = 0.0

    def __post_init__(self) -> None:
        least = min(self.extents)
        if not (math.isfinite(least) and least > 0):
            raise _refused("nominal" if self.height <= 0 or not self.width else "width", least, "a size greater than 0")
        if self.wall and not LEAST_WALL <= self.wall < least / 2 - EPS:
            raise _refused("wall", self.wall, f"at least {LEAST_WALL:g} mm, and less than half of {least:g} mm across")
        if not 0 <= self.corner <= least / 2 + EPS:
            raise _refused("corner", self.corner, f"at most half of {least:g} mm across")

    @property
    def extents(self) -> tuple[float, float]:
        """The sizes of the box round it, along u and along v; a hexagon lies on a flat."""
        if self.shape == "hexagon":
            return self.height * 2 / math.sqrt(3), self.height
        return (self.width if self.shape == "rectangle" else self.height), self.height

    @cached_property
    def region(self) -> Region:
        """Its outline, and the hole of a tube."""
        inner = self._outline(self.wall) if self.wall else None
        return Region(self._outline(0.0), (inner.wound(ccw=False),) if inner else ())

    def _outline(self, taken_in: float) -> Contour:
        name = "inside" if taken_in else "round"
        if self.shape == "round":
            return circle(0.0, 0.0, round(self.height / 2 - taken_in, 7), edge_id(name))
        if self.shape == "hexagon":
            far = (self.height / 2 - taken_in) * 2 / math.sqrt(3)
            return polygon([(far * math.cos(math.pi * k / 3), far * math.sin(math.pi * k / 3)) for k in range(6)], edge_id(name))
        width, height = (x - 2 * taken_in for x in self.extents)
        return rounded_rectangle(0.0, 0.0, width, height, max(self.corner - taken_in, 0.0), owner=edge_id(name))

    def grown(self, gap: float) -> Section:
        """The same without its hole, larger by a gap in mm all round."""
        width, height = self.extents
        if self.shape in ("round", "hexagon"):
            return Section(self.shape, self.height + 2 * gap)
        return Section("rectangle", height + 2 * gap, width + 2 * gap, corner=self.corner + gap if self.corner else 0.0)

    @property
    def area(self) -> float:
        """Of the material, in mm²."""
        return self.region.area

    def mass(self, density: float) -> float:
        """Of a metre in kg, of a material of so many g/cm³."""
        return self.area * density / 1000


def _refused(entry: str, value: float, rule: str) -> MemberError:
    return MemberError(f"{entry}: {value:g} mm is not allowed; {rule}", entry=entry, value=value, rule=rule)
