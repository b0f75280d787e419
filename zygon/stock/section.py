"""Sections of tube and bar: their outlines, and with them area and mass a metre.

A section stands in (u, v) about the middle of the box round it, its width along u and its height along v, in mm. A tube has a wall, a solid bar has none;
angles, channels and tees are open: their wall is the thickness of their legs. An angle's legs lie at the low u and the low v, a channel's web at the low u,
a tee's flange at the high v.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from zygon.errors import MemberError
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour, circle, polygon, rounded_rectangle
from zygon.geometry.offset import OffsetError, offset
from zygon.owner import edge_id
from zygon.tolerance import EPS

__all__ = ["OPEN", "Section", "SectionShape", "drawn_section"]

#: No tube has a thinner wall (mm).
LEAST_WALL = 0.1
SectionShape = Literal["round", "square", "rectangle", "hexagon", "angle", "channel", "tee", "drawn"]
#: Those that are more than an outline with a wall: they enclose nothing, or are drawn with whatever hollows they have.
OPEN = ("angle", "channel", "tee", "drawn")
#: The bulge of a rounded inner corner of 90 degrees.
_HOLLOW = -math.tan(math.pi / 8)


@dataclass(frozen=True)
class Section:
    """What a bar or tube looks like across: ``height`` is its diameter, its side, or its size across flats; ``width`` a rectangle's other size.

    ``wall`` is a tube's, 0 where it is solid, and the thickness of the legs of what is open; ``corner`` the outer radius of a square's or a rectangle's
    corners, the inner one is what the wall leaves of it; of what is open the radius between its legs. ``flipped``: left for right across u.
    Raises MemberError that names the entry.
    """

    shape: SectionShape
    height: float
    width: float = 0.0
    wall: float = 0.0
    corner: float = 0.0
    flipped: bool = False
    #: of one that is drawn: its outline and its hollows, about the middle of the box round it
    drawn: Region | None = None

    def __post_init__(self) -> None:
        least = min(self.extents)
        if not (math.isfinite(least) and least > 0):
            raise _refused("nominal" if self.height <= 0 or not self.width else "width", least, "a size greater than 0")
        if self.open:
            self._check_open()
            return
        if self.wall and not LEAST_WALL <= self.wall < least / 2 - EPS:
            raise _refused("wall", self.wall, f"at least {LEAST_WALL:g} mm, and less than half of {least:g} mm across")
        if not 0 <= self.corner <= least / 2 + EPS:
            raise _refused("corner", self.corner, f"at most half of {least:g} mm across")

    def _check_open(self) -> None:
        if self.shape == "drawn":
            return
        wide, high = self.extents
        # what lies between its legs, or beside its stem
        rooms = {"angle": (wide, high), "channel": (wide, high / 2), "tee": (wide, high)}[self.shape]
        if not LEAST_WALL <= self.wall < min(rooms) - EPS:
            raise _refused("wall", self.wall, f"at least {LEAST_WALL:g} mm, and less than {min(rooms):g} mm, so that its legs stand apart")
        beside = (wide - self.wall) / 2 if self.shape == "tee" else wide - self.wall
        room = min(beside, rooms[1] - self.wall)
        if not 0 <= self.corner <= room + EPS:
            raise _refused("corner", self.corner, f"at most the {room:g} mm that lie between its legs")

    @property
    def open(self) -> bool:
        """Whether it encloses nothing and is not filled either."""
        return self.shape in OPEN

    @property
    def hollow(self) -> bool:
        """Whether it is a tube."""
        return self.wall > 0 and not self.open

    @property
    def mirrored(self) -> Section:
        """Left for right across u; most are their own mirror image."""
        return replace(self, flipped=not self.flipped) if self.shape in ("angle", "channel", "drawn") else self

    @property
    def extents(self) -> tuple[float, float]:
        """The sizes of the box round it, along u and along v; a hexagon lies on a flat."""
        if self.shape == "hexagon":
            return self.height * 2 / math.sqrt(3), self.height
        return (self.width if self.shape == "rectangle" or self.open else self.height), self.height

    @cached_property
    def region(self) -> Region:
        """Its outline, and the hole of a tube."""
        if self.drawn is not None:
            return self.drawn if not self.flipped else Region(_flipped(self.drawn.outer), tuple(_flipped(c) for c in self.drawn.inner))
        if self.open:
            return Region(self._opened(), ())
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

    def _opened(self) -> Contour:
        """The outline of what is open, its inner corners rounded."""
        (wide, high), t, r = self.extents, self.wall, self.corner
        x, y = wide / 2, high / 2
        corners: list[tuple[float, float, bool]]
        if self.shape == "angle":
            corners = [(-x, -y, False), (x, -y, False), (x, t - y, False), (t - x, t - y, True), (t - x, y, False), (-x, y, False)]
        elif self.shape == "channel":
            corners = [
                (-x, -y, False),
                (x, -y, False),
                (x, t - y, False),
                (t - x, t - y, True),
                (t - x, y - t, True),
                (x, y - t, False),
                (x, y, False),
                (-x, y, False),
            ]
        else:
            corners = [
                (x, y, False),
                (-x, y, False),
                (-x, y - t, False),
                (-t / 2, y - t, True),
                (-t / 2, -y, False),
                (t / 2, -y, False),
                (t / 2, y - t, True),
                (x, y - t, False),
            ]
        points, bulges = list[tuple[float, float]](), list[float]()
        for k, (u, v, hollow) in enumerate(corners):
            if not hollow or r <= EPS:
                points.append((u, v))
                bulges.append(0.0)
                continue
            for at, bulge in ((corners[k - 1], _HOLLOW), (corners[(k + 1) % len(corners)], 0.0)):
                long = math.dist(at[:2], (u, v))
                points.append((u + (at[0] - u) * r / long, v + (at[1] - v) * r / long))
                bulges.append(bulge)
        # a round may take all of a leg
        kept = [k for k in range(len(points)) if math.dist(points[k], points[(k + 1) % len(points)]) > EPS]
        outline = Contour(tuple(points[k] for k in kept), tuple(bulges[k] for k in kept), (edge_id("round"),) * len(kept))
        return outline.moved(0.0, 0.0, mirrored=True) if self.flipped else outline

    def outline(self, gap: float) -> Contour:
        """The outside, a gap in mm off all round; of what is open that of its box where the gap closes it."""
        if not self.open:
            return self.grown(gap).region.outer
        try:
            return offset(self.region.outer, gap)
        except OffsetError:
            return self.grown(gap).region.outer

    def grown(self, gap: float) -> Section:
        """The same without its hole, larger by a gap in mm all round; of what is open the box round it."""
        width, height = self.extents
        if self.open:
            return Section("rectangle", height + 2 * gap, width + 2 * gap)
        if self.shape in ("round", "hexagon"):
            return Section(self.shape, self.height + 2 * gap)
        return Section("rectangle", height + 2 * gap, width + 2 * gap, corner=max(self.corner + gap, 0.0) if self.corner else 0.0)

    @property
    def area(self) -> float:
        """Of the material, in mm²."""
        return self.region.area

    def mass(self, density: float) -> float:
        """Of a metre in kg, of a material of so many g/cm³."""
        return self.area * density / 1000


def _flipped(contour: Contour) -> Contour:
    """Left for right, wound as it was."""
    return contour.moved(0.0, 0.0, mirrored=True)


def drawn_section(outer: Contour, inner: Sequence[Contour]) -> Section:
    """A section as it is drawn, wherever: about the middle of the box round it."""
    x0, y0, x1, y1 = outer.bounds
    du, dv = -(x0 + x1) / 2, -(y0 + y1) / 2
    names = [(outer.wound(ccw=True), "round"), *((c.wound(ccw=False), "inside") for c in inner)]
    outlines = [replace(c.moved(du, dv), owners=(edge_id(n),) * len(c.owners)) for c, n in names]
    return Section("drawn", round(y1 - y0, 7), round(x1 - x0, 7), drawn=Region(outlines[0], tuple(outlines[1:])))


def _refused(entry: str, value: float, rule: str) -> MemberError:
    return MemberError(f"{entry}: {value:g} mm is not allowed; {rule}", entry=entry, value=value, rule=rule)
