"""A member's outside laid flat at 1 : 1: where its ends are cut and where holes go through, to wrap round it or for a tube cutter.

x runs round the section from its side at 0 degrees by the right-hand rule, y along the member, both in mm; seen from outside.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour, Segment, polyline
from zygon.geometry.fitted import as_arcs
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import AtEnd, SideCut
from zygon.making.tube.unrolled import COLLAR, NEAR
from zygon.stock.section import Section
from zygon.tolerance import EPS, WITHIN

__all__ = ["Around", "EndTemplate", "developed", "end_path", "end_template"]

#: Places round a section at which it is looked which of several cuts comes first.
PLACES = 720
#: A way between two places is halved so often where it is not straight.
HALVINGS = 8


@dataclass(frozen=True)
class Around:
    """The way round a section's outside, from the middle of its side at 0 degrees."""

    section: Section

    @cached_property
    def runs(self) -> tuple[tuple[float, float, Segment], ...]:
        """Each stretch: from where to where round, in mm, and the segment."""
        segments = self.section.region.outer.wound(ccw=True).segments()
        found, at = [], 0.0
        for s in segments:
            found.append((at, at + s.length, s))
            at += s.length
        return tuple(found)

    @property
    def length(self) -> float:
        """Once round, mm."""
        return self.runs[-1][1]

    @cached_property
    def _start(self) -> float:
        return self._place(0.0, self.section.extents[1] / 2)

    def point(self, x: float) -> tuple[float, float]:
        """(u, v) at so many mm round."""
        at = (x + self._start) % self.length
        low, high, s = next((r for r in self.runs if r[0] <= at <= r[1]), self.runs[-1])
        share = (at - low) / (high - low)
        if not s.bulge:
            return s.p[0] + (s.q[0] - s.p[0]) * share, s.p[1] + (s.q[1] - s.p[1]) * share
        cx, cy, radius, begin, sweep = arc_from_bulge(s.p, s.q, s.bulge)
        return cx + radius * math.cos(begin + sweep * share), cy + radius * math.sin(begin + sweep * share)

    def place(self, u: float, v: float) -> float:
        """How many mm round a point of the outside lies, from 0 to once round."""
        return (self._place(u, v) - self._start) % self.length

    def _place(self, u: float, v: float) -> float:
        best, least = 0.0, math.inf
        for low, high, s in self.runs:
            if s.bulge:
                cx, cy, radius, begin, sweep = arc_from_bulge(s.p, s.q, s.bulge)
                turn = math.remainder(math.atan2(v - cy, u - cx) - begin - sweep / 2, 2 * math.pi) + sweep / 2
                share = min(max(turn / sweep, 0.0), 1.0)
                on = (cx + radius * math.cos(begin + sweep * share), cy + radius * math.sin(begin + sweep * share))
            else:
                dx, dy = s.q[0] - s.p[0], s.q[1] - s.p[1]
                share = min(max(((u - s.p[0]) * dx + (v - s.p[1]) * dy) / (dx * dx + dy * dy), 0.0), 1.0)
                on = (s.p[0] + dx * share, s.p[1] + dy * share)
            off = math.dist(on, (u, v))
            if off < least - EPS:
                best, least = low + (high - low) * share, off
        return best

    @cached_property
    def knots(self) -> tuple[float, ...]:
        """Where the way round turns or bends, and each quarter; from 0 to once round."""
        corners = [(low - self._start) % self.length for low, _, _ in self.runs]
        found = [0.0]
        for at in sorted((*corners, *(self.length * k / 4 for k in (1, 2, 3)))):
            if at - found[-1] > WITHIN and at < self.length - WITHIN:
                found.append(at)
        return (*found, self.length)


def _height(body: MemberBody, around: Around, end: AtEnd, x: float) -> float:
    return float(body.stops(np.array([around.point(x)]))[0 if end == "a" else 1][0])


def _knots(body: MemberBody, around: Around, end: AtEnd) -> list[float]:
    """Where the edge of an end may have a corner: those of the section, and where another cut comes first."""
    found = set(around.knots)
    cuts = body.cuts(end)
    if len(cuts) > 1:

        def first(x: float) -> int:
            heights = [float(c.heights(np.array([around.point(x)]), end)[0]) for c in cuts]
            return int(np.argmin(heights) if end == "b" else np.argmax(heights))

        step = around.length / PLACES
        before = first(0.0)
        for k in range(1, PLACES + 1):
            low, high, now = (k - 1) * step, k * step, first(k * step)
            if now != before:
                for _ in range(40):
                    middle = (low + high) / 2
                    low, high = (middle, high) if first(middle) == before else (low, middle)
                found.add(high)
            before = now
    return sorted(found)


def _edge(body: MemberBody, around: Around, end: AtEnd) -> tuple[list[tuple[float, float]], list[float]]:
    knots = _knots(body, around, end)
    apart = [a for a, b in zip(knots, knots[1:], strict=False) if b - a > EPS] + [knots[-1]]
    return as_arcs(lambda x: (x, _height(body, around, end, x)), apart, NEAR / 2)


def end_path(body: MemberBody, end: AtEnd, places: int = 360) -> list[tuple[float, float, float]]:
    """The way that a torch takes round an end, from its side at 0 degrees once round by the right-hand rule: turn (degrees), mm round the outside, and mm from the long point of end A.

    ``places`` evenly round it, every corner, and as many more as it takes for the way between them to be straight (``NEAR``).
    """
    around, low = Around(body.section), body.span[0]
    at = sorted({*_knots(body, around, end), *(around.length * k / places for k in range(places + 1))})
    for _ in range(HALVINGS):
        heights = [_height(body, around, end, x) for x in at]
        middles = [(a + b) / 2 for a, b in zip(at, at[1:], strict=False)]
        bent = [
            m for m, a, b in zip(middles, heights, heights[1:], strict=False) if abs(_height(body, around, end, m) - (a + b) / 2) > NEAR
        ]
        if not bent:
            break
        at = sorted([*at, *bent])
    found: list[tuple[float, float, float]] = []
    for x in at:
        if found and x - found[-1][1] < WITHIN:
            continue
        u, v = around.point(min(x, around.length - EPS))
        turn = math.degrees(math.atan2(v, u)) - 90
        while found and turn < found[-1][0] - WITHIN:
            turn += 360
        found.append((turn if found else 0.0, x, _height(body, around, end, x) - low))
    return found


@dataclass(frozen=True)
class EndTemplate:
    """What is wrapped round one end, the end up: its outline, lines along it at each quarter, and how far its lower edge is from the long point."""

    outline: Contour
    marks: tuple[Contour, ...]
    from_long: float


def end_template(body: MemberBody, end: AtEnd) -> EndTemplate:
    """The template of an end, with ``COLLAR`` left below its shortest place; the seam is at 0 degrees."""
    around = Around(body.section)
    points, bulges = _edge(body, around, end)
    sign = 1.0 if end == "b" else -1.0
    ys = [sign * y for _, y in points]
    floor = min(ys) - COLLAR
    if end == "b":
        upper, back = [(x, y - floor) for (x, _), y in zip(points, ys, strict=True)], bulges
    else:  # turned by half, so that the end is up and the outside still looks at whoever reads it
        upper = [(around.length - x, y - floor) for (x, _), y in zip(reversed(points), reversed(ys), strict=True)]
        back = [-b for b in reversed(bulges)]
    outline = [(0.0, 0.0), (around.length, 0.0), *reversed(upper)]
    whole = Contour(tuple(outline), (0.0, 0.0, *(-b for b in reversed(back)), 0.0), ("",) * len(outline))
    marks = []
    for k in (1, 2, 3):
        x = around.length * k / 4
        y = sign * _height(body, around, end, x if end == "b" else around.length - x) - floor
        marks.append(polyline([(x, 0.0), (x, y)]))
    long = body.span[1] if end == "b" else -body.span[0]
    return EndTemplate(whole, tuple(marks), long - floor)


def developed(body: MemberBody) -> tuple[Contour, tuple[Contour, ...], tuple[Contour, ...]]:
    """The whole outside laid flat, y 0 at the long point of end A: its outline, a contour for each place where something passes through, and one
    for each that is marked."""
    around = Around(body.section)
    low = body.span[0]
    upper, bulges = _edge(body, around, "b")
    lower, below = _edge(body, around, "a")
    points = [*lower, *reversed(upper)]
    turned = [*below, 0.0, *(-b for b in reversed(bulges)), 0.0]
    outline = Contour(tuple((x, y - low) for x, y in points), tuple(turned), ("",) * len(points))
    holes, marks = (tuple(c.moved(0.0, -low) for h in some for c in _mouths(body, around, h)) for some in (body.holes, body.marks))
    return outline, holes, marks


def _mouths(body: MemberBody, around: Around, hole: SideCut) -> list[Contour]:
    """Where a hole goes in and comes out on the outside."""
    back = hole.motion.inverse
    passing = Around(hole.section.grown(hole.gap))
    outside = SideCut(back, body.section.grown(0.0), 0.0, "")
    found = []
    everywhere = outside.inside(np.array([passing.point(x) for x in np.linspace(0.0, passing.length, PLACES)]))[0]
    if not np.isfinite(everywhere).all():
        return _notches(around, hole)
    for which in (0, 1) if hole.begins is None else (1,):
        start: list[float] = []

        def mouth(x: float, which: int = which, start: list[float] = start) -> tuple[float, float]:
            on = passing.point(x)
            w = outside.inside(np.array([on]))[which][0]
            u, v, along = hole.motion.point((*on, float(w)))
            place = around.place(u, v)
            if start:  # round the seam and on
                place = start[0] + math.remainder(place - start[0], around.length)
            start[:] = [place]
            return place, along

        first = mouth(0.0)
        points, bulges = as_arcs(mouth, passing.knots, NEAR / 2)
        middle = sum(p[0] for p in points) / len(points)
        shift = -around.length * math.floor(middle / around.length)
        if all(map(math.isfinite, first)):
            found.append(Contour(tuple((x + shift, y) for x, y in points[:-1]), tuple(bulges), (hole.owner,) * len(bulges)))
    return found


def _notches(around: Around, hole: SideCut) -> list[Contour]:
    """What is taken of the outside where something lies in a notch: round it as far as it reaches, and from where to where along it."""

    def taken(x: float) -> tuple[float, float]:
        low, high = hole.inside(np.array([around.point(x)]))
        return float(low[0]), float(high[0])

    step = around.length / PLACES
    there = [math.isfinite(taken(k * step)[0]) for k in range(PLACES)]
    if all(there) or not any(there):
        return []
    bare = there.index(False)
    runs, start = list[tuple[float, float]](), None
    for k in range(bare, bare + PLACES + 1):
        now = there[k % PLACES]
        if now != (start is not None):
            out, into = ((k - 1) * step, k * step) if now else (k * step, (k - 1) * step)
            for _ in range(40):  # halved in on where it begins
                middle = (out + into) / 2
                out, into = (out, middle) if math.isfinite(taken(middle)[0]) else (middle, into)
            if now:
                start = into
            elif start is not None:
                runs.append((start, into))
                start = None
    found = []
    for first, last in runs:
        middle, half = (first + last) / 2, (last - first) / 2
        shift = -around.length * math.floor(middle / around.length)
        corners = {math.pi / 2}
        for knot in (k + n * around.length for k in around.knots for n in (0, 1, 2)):
            if first < knot < last:
                corners.add(math.acos((middle - knot) / half))
        knots = [0.0, *sorted(corners), math.pi]
        sides = []
        for which in (0, 1):

            def edge(t: float, which: int = which, middle: float = middle, half: float = half) -> tuple[float, float]:
                x = middle - half * math.cos(t)
                return x, taken(x)[which]

            sides.append(as_arcs(edge, knots, NEAR / 2))
        (low, below), (high, above) = sides
        points = [*low, *reversed(high)]
        bulges = [*below, 0.0, *(-b for b in reversed(above)), 0.0]
        kept = [k for k in range(len(points)) if math.dist(points[k], points[(k + 1) % len(points)]) > WITHIN]
        found.append(
            Contour(tuple((points[k][0] + shift, points[k][1]) for k in kept), tuple(bulges[k] for k in kept), (hole.owner,) * len(kept))
        )
    return found
