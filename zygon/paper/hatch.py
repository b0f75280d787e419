"""Hatching of what a section cuts through (ISO 128-50): lines at 45 degrees, told apart by stock and from part to part; and the line where it is taken."""

from __future__ import annotations

import math
from collections.abc import Callable

import shapely

from zygon.paper.ink import Ink, Line, Point, Words
from zygon.paper.marks import arrow
from zygon.paper.view import CutFace, CutLine, View
from zygon.tolerance import EPS

__all__ = ["cut_lines", "hatched"]

#: Of each hatch: how far apart its lines stand, each a pair where a second distance is said (mm of paper), and whether they cross.
KINDS: dict[str, tuple[tuple[float, ...], bool]] = {
    "ply": ((3.2, 0.8), False),
    "metal": ((2.2,), False),
    "plastic": ((3.6,), True),
    "board": ((2.8, 1.4), False),
}
#: How far a cutting line reaches over its view, and how long its wide ends are, mm of paper.
OVER, END = 4.0, 5.0


def hatched(face: CutFace, scale: float, to: Callable[[Point], Point]) -> list[Ink]:
    """The hatching of one face on paper."""
    apart, crossed = KINDS.get(face.hatch, KINDS["metal"])
    outline = shapely.Polygon([to(p) for p in face.rings[0]], [[to(p) for p in r] for r in face.rings[1:]]).buffer(0)
    if outline.is_empty:
        return []
    turn = math.pi / 4 if face.turn % 2 == 0 else -math.pi / 4
    gap = apart[0] * (1.0 + 0.25 * (face.turn // 2 % 3))
    offsets = (0.0, *apart[1:])
    found: list[Ink] = []
    for angle in (turn, -turn) if crossed else (turn,):
        found += _lines(outline, angle, gap, offsets, face.of)
    return found


def _run(c: CutLine, a: Point, b: Point, to: Callable[[Point], Point]) -> list[Ink]:
    """The chain line of a section from end to end, with wide corners where a stepped one goes over."""
    path, at = [a], c.at
    for after, through in c.turns:
        path += [to((at, after) if c.way == "x" else (after, at)), to((through, after) if c.way == "x" else (after, through))]
        at = through
    path.append(b)
    ink: list[Ink] = [Line("centre", p, q) for p, q in zip(path, path[1:], strict=False)]
    for before, corner, behind in zip(path, path[1:], path[2:], strict=False):
        for other in (before, behind):
            long = math.dist(corner, other)
            if long > EPS:
                share = min(1.0, END / 2 / long)
                ink.append(
                    Line("visible", corner, (corner[0] + (other[0] - corner[0]) * share, corner[1] + (other[1] - corner[1]) * share))
                )
    return ink


def _lines(outline: shapely.Geometry, angle: float, gap: float, offsets: tuple[float, ...], of: str) -> list[Ink]:
    x0, y0, x1, y1 = outline.bounds
    way, across = (math.cos(angle), math.sin(angle)), (-math.sin(angle), math.cos(angle))
    middle, long = ((x0 + x1) / 2, (y0 + y1) / 2), math.hypot(x1 - x0, y1 - y0) + 1
    # lines lie on one grid over the whole paper, so that the pieces of a part are hatched alike
    start = middle[0] * across[0] + middle[1] * across[1]
    first, last = math.floor((start - long / 2) / gap), math.ceil((start + long / 2) / gap)
    found: list[Ink] = []
    for k in range(first, last + 1):
        for off in offsets:
            d = k * gap + off - start
            at = (middle[0] + across[0] * d, middle[1] + across[1] * d)
            line = shapely.LineString([(at[0] - way[0] * long, at[1] - way[1] * long), (at[0] + way[0] * long, at[1] + way[1] * long)])
            for part in shapely.get_parts(shapely.intersection(outline, line)):
                if part.geom_type == "LineString" and part.length > EPS:
                    p, q = part.coords[0], part.coords[-1]
                    found.append(Line("hatch", (p[0], p[1]), (q[0], q[1]), of))
    return found


def cut_lines(view: View, height: float, to: Callable[[Point], Point]) -> list[Ink]:
    """Where sections are taken: a chain line with wide ends, arrows in the way in which it is looked at, and its letter at both ends."""
    ink: list[Ink] = []
    x0, y0, x1, y1 = view.bounds
    for c in view.cuts:
        start, last = c.at, c.turns[-1][1] if c.turns else c.at
        low, high = (to((start, y0)), to((last, y1))) if c.way == "x" else (to((x0, start)), to((x1, last)))
        along = (0.0, 1.0) if c.way == "x" else (1.0, 0.0)
        seen = 1.0 if c.up else -1.0
        way = (seen, 0.0) if c.way == "x" else (0.0, seen)
        a, b = (low[0] - along[0] * OVER, low[1] - along[1] * OVER), (high[0] + along[0] * OVER, high[1] + along[1] * OVER)
        ink += _run(c, a, b, to)
        for end, sign in ((a, 1.0), (b, -1.0)):
            inner = (end[0] + along[0] * END * sign, end[1] + along[1] * END * sign)
            tip = (end[0] + way[0] * END, end[1] + way[1] * END)
            ink += [Line("visible", end, inner), Line("thin", end, tip), arrow(tip, way)]
            # beside the end, on the side from which it is looked, and no farther out than it
            tall = height * 1.2
            if c.way == "x":
                at = (end[0] - way[0] * tall, end[1] + (0.2 if sign > 0 else -tall))
            else:
                at = (end[0] + sign * tall / 2, end[1] - tall - 0.6 if way[1] > 0 else end[1] + 0.6)
            ink.append(Words(c.letter, at, tall, "middle", bold=True))
    return ink
