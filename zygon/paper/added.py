"""Dimensions that a maker put in, between two named places of a view; they wait while one of those is not there. And what is moved by hand."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from zygon.design.papers import AddedDimension, Shift
from zygon.paper.ink import Area, Dimension, Ink, Line, Point, Words, moved
from zygon.paper.lanes import turned
from zygon.paper.letters import width_of
from zygon.paper.marks import ARROW, dimension_line
from zygon.paper.style import CLEAR, PAST, Style, text_of
from zygon.paper.view import Spot, View, Way
from zygon.tolerance import EPS, SEEN

__all__ = ["added_to", "shifted"]

#: How far the line stands off where nothing is said, mm.
STANDS_OFF = 8.0


def added_to(view: View, style: Style, scale: float, to: Callable[[Point], Point]) -> tuple[list[Dimension], list[str]]:
    """What a maker put in, and sentences on what waits for a place that is not there."""
    found, faults = [], []
    for key, said in sorted(style.said.added.items(), key=lambda kd: (kd[1].order, kd[0])):
        if said.view != view.name:
            continue
        lost = [n for n in (said.a, said.b) if n not in view.spots]
        if lost:
            faults.append(f"A dimension waits: {lost[0]} is not there any more")
            continue
        found.append(_between(f"added/{key}", said, view, style, scale, to))
    return found, faults


def _between(name: str, said: AddedDimension, view: View, style: Style, scale: float, to: Callable[[Point], Point]) -> Dimension:
    a, b = view.spots[said.a], view.spots[said.b]
    line, of = said.line or STANDS_OFF, b.of or a.of
    if said.way == "straight" and a.along == b.along == "both":
        p, q = to(a.at), to(b.at)
        long = math.dist(p, q)
        way = ((q[0] - p[0]) / long, (q[1] - p[1]) / long) if long > EPS else (1.0, 0.0)
        return _drawn(name, p, q, way, line, style, scale, of, view)
    way_ = said.way if said.way != "straight" else _way_of(a, b)
    k = "xy".index(way_)
    p, q = sorted((to(a.at), to(b.at)), key=lambda e: e[k])
    low = min(p[1 - k], q[1 - k]) if line > 0 else max(p[1 - k], q[1 - k])
    lane = low - line
    value = abs(b.at[k] - a.at[k])
    text = text_of(style, name, value)
    start, end = turned(way_, (p[k], lane)), turned(way_, (q[k], lane))
    ink = dimension_line(start, end, text, style.height, _label(q[k] - p[k], text, style), of)
    down = math.copysign(1.0, line)
    for e in (p, q):
        ends = turned(way_, (e[k], e[1 - k] - down * CLEAR)), turned(way_, (e[k], lane - down * PAST))
        ink.append(Line("thin", *ends, of))
    turn = 0.0 if way_ == "x" else math.pi / 2
    return Dimension(name, "linear", value, text, tuple(ink), p, q, start, turn, scale, of, True, view.name)


def _way_of(a: Spot, b: Spot) -> Way:
    return "x" if "x" in (a.along, b.along) else "y"


def _label(long: float, text: str, style: Style) -> float:
    wide = width_of(text, style.height)
    return long / 2 if wide + 1.0 <= long else long + wide / 2 + 2 * ARROW


def _drawn(name: str, p: Point, q: Point, way: Point, line: float, style: Style, scale: float, of: str, view: View) -> Dimension:
    """The straight way between two points; its line lies to the right of the way from one to the other."""
    long, side = math.dist(p, q), (way[1], -way[0])
    a, b = ((s[0] + side[0] * line, s[1] + side[1] * line) for s in (p, q))
    text = text_of(style, name, long / scale)
    ink = dimension_line(a, b, text, style.height, _label(long, text, style), of)
    sign = math.copysign(1.0, line)
    for s in (p, q):
        near, far = sign * CLEAR, line + sign * PAST
        ink.append(Line("thin", (s[0] + side[0] * near, s[1] + side[1] * near), (s[0] + side[0] * far, s[1] + side[1] * far), of))
    return Dimension(name, "linear", long / scale, text, tuple(ink), p, q, a, math.atan2(way[1], way[0]), scale, of, True, view.name)


def shifted(d: Dimension, shift: Shift) -> Dimension:
    """A dimension moved by hand: its line and words go, what they point to stays. Along a dimension line only the figure goes."""
    if not (shift.x or shift.y):
        return d
    if d.kind == "linear":
        along, across = (math.cos(d.turned), math.sin(d.turned)), (-math.sin(d.turned), math.cos(d.turned))
        off = shift.x * across[0] + shift.y * across[1]
        dx, dy = off * across[0], off * across[1]
        ink = [moved(i, shift.x, shift.y) if isinstance(i, Words) else _lane_moved(i, along, dx, dy) for i in d.ink]
        return replace(d, ink=tuple(ink), base=(d.base[0] + dx, d.base[1] + dy))
    # the first line of a leader or of a coordinate begins at what is pointed to
    first = next((n for n, i in enumerate(d.ink) if isinstance(i, Line)), 0)
    found: list[Ink] = []
    for n, i in enumerate(d.ink):
        if n == first and isinstance(i, Line):
            found.append(replace(i, q=(i.q[0] + shift.x, i.q[1] + shift.y)))
        elif isinstance(i, Area):
            found.append(i)
        else:
            found.append(moved(i, shift.x, shift.y))
    return replace(d, ink=tuple(found), base=(d.base[0] + shift.x, d.base[1] + shift.y))


def _lane_moved(ink: Ink, along: Point, dx: float, dy: float) -> Ink:
    """An extension line is stretched, all else of a lane moved across it."""
    if isinstance(ink, Line):
        way = (ink.q[0] - ink.p[0], ink.q[1] - ink.p[1])
        if abs(way[0] * along[0] + way[1] * along[1]) < SEEN:
            return replace(ink, q=(ink.q[0] + dx, ink.q[1] + dy))
    return moved(ink, dx, dy)
