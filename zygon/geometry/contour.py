"""Contours: closed or open runs of lines and true arcs, as points with bulges; each segment has an owner.

Outer contours run counter-clockwise, inner ones clockwise, seen from the face that lies up. What this room does not hold:
booleans (``boolean.py``) and offsets (``offset.py``).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zygon.geometry.arc import arc_from_bulge, arc_points
from zygon.tolerance import EPS, MERGED, TINY, WITHIN

__all__ = ["Contour", "Segment", "circle", "obround", "polygon", "polyline", "rectangle", "rounded_rectangle"]

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Segment:
    """One line (bulge 0) or arc from p to q."""

    p: Point
    q: Point
    bulge: float
    owner: str

    @property
    def length(self) -> float:
        """Length along the segment in mm."""
        chord = math.dist(self.p, self.q)
        if not self.bulge:
            return chord
        _, _, radius, _, sweep = arc_from_bulge(self.p, self.q, self.bulge)
        return radius * abs(sweep)

    def tangents(self) -> tuple[Point, Point]:
        """Unit directions at the start and at the end."""
        chord = math.dist(self.p, self.q)
        dx, dy = (self.q[0] - self.p[0]) / chord, (self.q[1] - self.p[1]) / chord
        if not self.bulge:
            return (dx, dy), (dx, dy)
        half = 2 * math.atan(self.bulge)
        c, s = math.cos(half), math.sin(half)
        return (dx * c + dy * s, dy * c - dx * s), (dx * c - dy * s, dy * c + dx * s)


@dataclass(frozen=True)
class Contour:
    """Points, a bulge for the segment that starts at each, and an owner for each.

    An open contour has one point more than bulges. ``owners`` are ids of the feature, joint or blank side a segment is from.
    """

    points: tuple[Point, ...]
    bulges: tuple[float, ...]
    owners: tuple[str, ...]
    closed: bool = True

    def segments(self) -> list[Segment]:
        """The segments in order."""
        return list(self._segments)

    @cached_property
    def _segments(self) -> tuple[Segment, ...]:
        ends = (*self.points[1:], self.points[0])
        return tuple(Segment(p, q, b, o) for p, q, b, o in zip(self.points, ends, self.bulges, self.owners, strict=False))

    @cached_property
    def as_circle(self) -> tuple[float, float, float] | None:
        """Centre and radius where the contour is one full circle, else None."""
        if not self.closed or len(self.points) < 2 or not all(self.bulges):
            return None
        arcs = [arc_from_bulge(s.p, s.q, s.bulge) for s in self.segments()]
        cx, cy, r = arcs[0][:3]
        same = all(math.hypot(a[0] - cx, a[1] - cy) < MERGED and abs(a[2] - r) < MERGED for a in arcs)
        return (cx, cy, r) if same and abs(abs(sum(a[4] for a in arcs)) - 2 * math.pi) < WITHIN else None

    @cached_property
    def area(self) -> float:
        """Signed area in mm², positive counter-clockwise, exact for arcs."""
        total = 0.0
        for p, q, bulge in zip(self.points, (*self.points[1:], self.points[0]), self.bulges, strict=False):
            total += (p[0] * q[1] - q[0] * p[1]) / 2
            if bulge:
                _, _, r, _, sweep = arc_from_bulge(p, q, bulge)
                total += r * r * (sweep - math.sin(sweep)) / 2
        return total

    @cached_property
    def length(self) -> float:
        """Length along the contour in mm."""
        return sum(s.length for s in self.segments())

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """x0, y0, x1, y1, exact for arcs."""
        xs = [p[0] for p in self.points]
        ys = [p[1] for p in self.points]
        for s in self.segments():
            if s.bulge:
                cx, cy, r, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
                for quarter in range(4):
                    turn = (quarter * math.pi / 2 - start) * (1 if sweep > 0 else -1) % (2 * math.pi)
                    if turn <= abs(sweep):
                        xs.append(cx + r * (1, 0, -1, 0)[quarter])
                        ys.append(cy + r * (0, 1, 0, -1)[quarter])
        return min(xs), min(ys), max(xs), max(ys)

    def flatten(self, sagitta: float) -> np.ndarray:
        """(n, 2) float: the points with arcs as chords not farther than ``sagitta`` from them; not repeated at the end."""
        if not any(self.bulges):
            return np.array(self.points)
        chunks = [arc_points(s.p, s.q, s.bulge, sagitta) if s.bulge else np.array([s.p]) for s in self.segments()]
        if not self.closed:
            chunks.append(np.array([self.points[-1]]))
        found = np.vstack(chunks)
        # what is smaller than the sagitta keeps an area all the same
        return self.flatten(sagitta / 8) if self.closed and len(found) < 3 and sagitta > EPS else found

    def reversed(self) -> Contour:
        """The same run the other way round."""
        points = tuple(reversed(self.points))
        bulges = tuple(-b for b in reversed(self.bulges))
        owners = tuple(reversed(self.owners))
        if self.closed:  # the segment that starts at the new first point is the old last but one
            bulges = bulges[1:] + bulges[:1]
            owners = owners[1:] + owners[:1]
        return Contour(points, bulges, owners, self.closed)

    def wound(self, ccw: bool) -> Contour:
        """The contour running counter-clockwise (True) or clockwise."""
        return self if (self.area > 0) == ccw else self.reversed()

    def moved(self, dx: float, dy: float, angle: float = 0.0, mirrored: bool = False) -> Contour:
        """Mirrored (x to -x) if so said, turned by ``angle`` (radians, counter-clockwise) about the origin, then moved."""
        c, s = _cos_sin(angle)
        m = -1.0 if mirrored else 1.0
        points = tuple((m * x * c - y * s + dx, m * x * s + y * c + dy) for x, y in self.points)
        bulges = tuple(-b for b in self.bulges) if mirrored else self.bulges
        moved = Contour(points, bulges, self.owners, self.closed)
        return moved.reversed() if mirrored and self.closed else moved


def _cos_sin(angle: float) -> tuple[float, float]:
    """Cosine and sine, exact at quarter turns so that squared-up parts stay squared up."""
    quarter = angle / (math.pi / 2)
    if abs(quarter - round(quarter)) < TINY:
        return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarter) % 4]
    return math.cos(angle), math.sin(angle)


def polygon(points: Sequence[Point], owner: str | Sequence[str] = "") -> Contour:
    """A closed contour of straight lines."""
    n = len(points)
    owners = (owner,) * n if isinstance(owner, str) else tuple(owner)
    return Contour(tuple((float(x), float(y)) for x, y in points), (0.0,) * n, owners)


def polyline(points: Sequence[Point], owner: str = "") -> Contour:
    """An open run of straight lines."""
    return Contour(tuple(points), (0.0,) * (len(points) - 1), (owner,) * (len(points) - 1), closed=False)


def rectangle(x0: float, y0: float, x1: float, y1: float, owner: str | Sequence[str] = "") -> Contour:
    """A rectangle, counter-clockwise from its low corner; owners in the order bottom, right, top, left."""
    return polygon([(x0, y0), (x1, y0), (x1, y1), (x0, y1)], owner)


def circle(cx: float, cy: float, radius: float, owner: str = "") -> Contour:
    """A full circle, counter-clockwise, as two half turns."""
    return Contour(((cx - radius, cy), (cx + radius, cy)), (1.0, 1.0), (owner, owner))


def rounded_rectangle(cx: float, cy: float, width: float, height: float, radius: float, angle: float = 0.0, owner: str = "") -> Contour:
    """A rectangle about (cx, cy) with corner radius, turned by ``angle``; an obround where the radius is half the height."""
    r = min(radius, width / 2, height / 2)
    w, h = width / 2, height / 2
    if r <= EPS:
        return rectangle(-w, -h, w, h, owner).moved(cx, cy, angle)
    raw = [
        ((-w + r, -h), 0.0),
        ((w - r, -h), _QUARTER),
        ((w, -h + r), 0.0),
        ((w, h - r), _QUARTER),
        ((w - r, h), 0.0),
        ((-w + r, h), _QUARTER),
        ((-w, h - r), 0.0),
        ((-w, -h + r), _QUARTER),
    ]
    points, bulges = [], []
    for i, (p, b) in enumerate(raw):
        if math.dist(p, raw[(i + 1) % 8][0]) > EPS:
            points.append(p)
            bulges.append(b)
    return _merge_arcs(Contour(tuple(points), tuple(bulges), (owner,) * len(points))).moved(cx, cy, angle)


_QUARTER = math.tan(math.pi / 8)


def _merge_arcs(contour: Contour) -> Contour:
    """Neighbouring quarter turns about one centre become one half turn."""
    segments = contour.segments()
    merged: list[Segment] = []
    for s in segments:
        if merged and s.bulge and merged[-1].bulge == s.bulge == _QUARTER:
            a, b = arc_from_bulge(merged[-1].p, merged[-1].q, s.bulge), arc_from_bulge(s.p, s.q, s.bulge)
            if math.hypot(a[0] - b[0], a[1] - b[1]) < EPS:
                merged[-1] = Segment(merged[-1].p, s.q, 1.0, s.owner)
                continue
        merged.append(s)
    return Contour(tuple(s.p for s in merged), tuple(s.bulge for s in merged), tuple(s.owner for s in merged))


def obround(cx: float, cy: float, length: float, width: float, angle: float = 0.0, owner: str = "") -> Contour:
    """A slot with full-round ends, ``length`` over all, about (cx, cy), one closed contour."""
    if length - width <= EPS:
        return circle(cx, cy, width / 2, owner)
    return rounded_rectangle(cx, cy, length, width, width / 2, angle, owner)
