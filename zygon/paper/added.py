"""Dimensions that a maker put in, between two named places of a view; they wait while one of those is not there. And what is moved by hand."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from zygon.design.papers import AddedDimension, Shift
from zygon.paper.figures import degrees, worded
from zygon.paper.ink import Arc, Area, Dimension, Ink, Line, Point, Words, moved
from zygon.paper.lanes import turned
from zygon.paper.letters import width_of
from zygon.paper.marks import ARROW, arrow, dimension_line
from zygon.paper.style import CLEAR, PAST, Style, text_of
from zygon.paper.view import WAYS, Spot, View, Way
from zygon.tolerance import EPS, SEEN

__all__ = ["added_to", "shifted"]

#: How far the line stands off where nothing is said, mm.
STANDS_OFF = 8.0
#: The radius of an angle's arc where none is said, mm.
ANGLE = 14.0


def added_to(view: View, style: Style, scale: float, to: Callable[[Point], Point]) -> tuple[list[Dimension], list[str]]:
    """What a maker put in, and sentences on what waits for a place that is not there."""
    found, faults = [], []
    for key, said in sorted(style.said.added.items(), key=lambda kd: (kd[1].order, kd[0])):
        if said.view != view.name:
            continue
        lost = [n for n in (said.a, said.b, *((said.c,) if said.way == "angle" else ())) if n not in view.spots]
        if lost:
            faults.append(f"A dimension waits: {lost[0]} is not there any more")
            continue
        if said.way == "angle":
            turn = _angle(f"added/{key}", said, view, style, scale, to)
            if turn is None:
                faults.append("An angle waits: its three places lie on one another")
            else:
                found.append(turn)
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
        value = math.hypot(*(view.length(w, a.at[k], b.at[k]) for k, w in enumerate(WAYS)))
        return _drawn(name, (p, q), way, line, value, style, of, view)
    way_: Way = said.way if said.way in WAYS else _way_of(a, b)
    k = "xy".index(way_)
    p, q = sorted((to(a.at), to(b.at)), key=lambda e: e[k])
    low = min(p[1 - k], q[1 - k]) if line > 0 else max(p[1 - k], q[1 - k])
    lane = low - line
    value = view.length(way_, a.at[k], b.at[k])
    if view.gaps and value > SEEN:
        scale = (q[k] - p[k]) / value
    text = text_of(style, name, value)
    start, end = turned(way_, (p[k], lane)), turned(way_, (q[k], lane))
    ink = dimension_line(start, end, text, style.height, _label(q[k] - p[k], text, style), of)
    down = math.copysign(1.0, line)
    for e in (p, q):
        ends = turned(way_, (e[k], e[1 - k] - down * CLEAR)), turned(way_, (e[k], lane - down * PAST))
        ink.append(Line("thin", *ends, of))
    turn = 0.0 if way_ == "x" else math.pi / 2
    return Dimension(name, "linear", value, text, tuple(ink), p, q, start, turn, scale, of, True, view.name)


def _angle(name: str, said: AddedDimension, view: View, style: Style, scale: float, to: Callable[[Point], Point]) -> Dimension | None:
    """The angle at a place between the ways to two others, as an arc; None where one of those is it."""
    spots = [view.spots[n] for n in (said.a, said.b, said.c)]
    at, p, q = (to(s.at) for s in spots)
    if min(math.dist(at, p), math.dist(at, q)) < SEEN:
        return None
    # the angle of the part, which a broken view shows otherwise
    real = [
        math.atan2(
            *(math.copysign(view.length(w, spots[0].at[k], s.at[k]), s.at[k] - spots[0].at[k]) for k, w in ((1, WAYS[1]), (0, WAYS[0])))
        )
        for s in spots[1:]
    ]
    value = abs((real[1] - real[0] + math.pi) % (2 * math.pi) - math.pi)
    first, second = (math.atan2(e[1] - at[1], e[0] - at[0]) for e in (p, q))
    sweep = (second - first + math.pi) % (2 * math.pi) - math.pi
    radius, of = abs(said.line) or ANGLE, spots[1].of or spots[0].of
    text = worded(degrees(value), style.said.dimensions.get(name))
    arc = Arc("thin", at, radius, first, sweep, of)
    ink: list[Ink] = [arc]
    for end, turn, sign in ((0.0, first, -1.0), (1.0, second, 1.0)):
        back = math.copysign(1.0, sweep) * sign
        ink.append(arrow(arc.at(end), (-math.sin(turn) * back, math.cos(turn) * back), of))
    for e, turn in ((p, first), (q, second)):
        if math.dist(at, e) < radius:
            ways = [(at[0] + math.cos(turn) * r, at[1] + math.sin(turn) * r) for r in (math.dist(at, e) + CLEAR, radius + PAST)]
            ink.append(Line("thin", ways[0], ways[1], of))
    half = first + sweep / 2
    far = radius + 1.2 + abs(math.cos(half)) * width_of(text, style.height) / 2 + abs(math.sin(half)) * style.height / 2
    middle = at[0] + math.cos(half) * far, at[1] + math.sin(half) * far - style.height / 2
    ink.append(Words(text, middle, style.height, "middle", of=of))
    return Dimension(name, "angle", value, text, tuple(ink), p, q, arc.at(0.5), 0.0, scale, of, True, view.name, at)


def _way_of(a: Spot, b: Spot) -> Way:
    return "x" if "x" in (a.along, b.along) else "y"


def _label(long: float, text: str, style: Style) -> float:
    wide = width_of(text, style.height)
    return long / 2 if wide + 1.0 <= long else long + wide / 2 + 2 * ARROW


def _drawn(name: str, ends: tuple[Point, Point], way: Point, line: float, value: float, style: Style, of: str, view: View) -> Dimension:
    """The straight way between two points; its line lies to the right of the way from one to the other."""
    p, q = ends
    long, side = math.dist(p, q), (way[1], -way[0])
    a, b = ((s[0] + side[0] * line, s[1] + side[1] * line) for s in (p, q))
    text = text_of(style, name, value)
    ink = dimension_line(a, b, text, style.height, _label(long, text, style), of)
    sign = math.copysign(1.0, line)
    for s in (p, q):
        near, far = sign * CLEAR, line + sign * PAST
        ink.append(Line("thin", (s[0] + side[0] * near, s[1] + side[1] * near), (s[0] + side[0] * far, s[1] + side[1] * far), of))
    scale = long / value if value > SEEN else 1.0
    return Dimension(name, "linear", value, text, tuple(ink), p, q, a, math.atan2(way[1], way[0]), scale, of, True, view.name)


def shifted(d: Dimension, shift: Shift) -> Dimension:
    """A dimension moved by hand: its line and words go, what they point to stays. Along a dimension line only the figure goes."""
    if not (shift.x or shift.y):
        return d
    if d.kind == "angle":
        return replace(d, ink=tuple(moved(i, shift.x, shift.y) if isinstance(i, Words) else i for i in d.ink))
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
