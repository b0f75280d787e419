"""Strokes that lie on one another are drawn once: what is seen before what is smooth before what is hidden; runs of one line or circle are one stroke again."""

from __future__ import annotations

import math
from collections.abc import Iterable

from zygon.paper.ink import Arc, Curve, Line, Point
from zygon.paper.pens import Pen
from zygon.tolerance import EPS, SEEN

__all__ = ["Stroke", "tidied"]

Stroke = Line | Arc | Curve
_RANK: dict[Pen, int] = {"visible": 0, "smooth": 1, "hidden": 2}
#: Strokes that lie nearer to one another (mm) lie on one another; what solids leave of exactness is under a hundredth of it.
ON = 2e-3
#: Lines whose directions differ by less (radians) are on one line.
TURN = 1e-5
Span = tuple[float, float]


def tidied(strokes: Iterable[Stroke]) -> list[Stroke]:
    """The strokes without those, or what of them, lies under others."""
    lines: dict[tuple[int, int, int], list[tuple[int, float, float, Line]]] = {}
    circles: dict[tuple[int, int, int], list[tuple[int, Arc]]] = {}
    rest: list[Curve] = []
    for s in strokes:
        if isinstance(s, Line):
            _sort_in(lines, s)
        elif isinstance(s, Arc):
            where = (round(s.centre[0] / ON / 2), round(s.centre[1] / ON / 2), round(s.radius / ON / 2))
            circles.setdefault(where, []).append((_RANK.get(s.pen, 3), s))
        else:
            rest.append(s)
    found: list[Stroke] = []
    for group in lines.values():
        found += _lines(group)
    for ring in circles.values():
        found += _arcs(ring)
    return found + list(_curves(rest))


def _sort_in(lines: dict[tuple[int, int, int], list[tuple[int, float, float, Line]]], s: Line) -> None:
    """Puts a line to those that lie on the same straight line, with where on it it begins and ends."""
    dx, dy = s.q[0] - s.p[0], s.q[1] - s.p[1]
    long = math.hypot(dx, dy)
    if long < SEEN:
        return
    dx, dy = dx / long, dy / long
    if dx < -EPS or (abs(dx) <= EPS and dy < 0):
        dx, dy = -dx, -dy
    off = s.p[0] * -dy + s.p[1] * dx
    turn, steps = round(math.atan2(dy, dx) / TURN), round(off / ON)
    # the neighbours' drawers too, so that rounding parts nothing that lies together
    near = [(turn + i, steps + j, 0) for i in (0, -1, 1) for j in (0, -1, 1)]
    where = next((n for n in near if n in lines), (turn, steps, 0))
    a, b = sorted((s.p[0] * dx + s.p[1] * dy, s.q[0] * dx + s.q[1] * dy))
    lines.setdefault(where, []).append((_RANK.get(s.pen, 3), a, b, s))


def _lines(group: list[tuple[int, float, float, Line]]) -> list[Line]:
    if len(group) == 1:
        return [group[0][3]]
    first = group[0][3]
    dx, dy = first.q[0] - first.p[0], first.q[1] - first.p[1]
    long = math.hypot(dx, dy)
    dx, dy = dx / long, dy / long
    if dx < -EPS or (abs(dx) <= EPS and dy < 0):
        dx, dy = -dx, -dy
    along = first.p[0] * dx + first.p[1] * dy

    def at(t: float) -> Point:
        return first.p[0] + (t - along) * dx, first.p[1] + (t - along) * dy

    taken: list[Span] = []
    found: list[tuple[int, str, float, float, Pen]] = []
    for rank, a, b, line in sorted(group, key=lambda g: (g[0], g[1], -g[2])):
        for low, high in _left(a, b, taken):
            last = found[-1] if found else None
            if last and last[0] == rank and last[1] == line.of and abs(last[3] - low) < ON:
                found[-1] = (rank, line.of, last[2], high, line.pen)
            else:
                found.append((rank, line.of, low, high, line.pen))
        taken = _with(taken, (a, b))
    return [Line(pen, at(a), at(b), of) for _, of, a, b, pen in found if b - a > SEEN]


def _arcs(ring: list[tuple[int, Arc]]) -> list[Arc]:
    if len(ring) == 1:
        return [ring[0][1]]
    taken: list[Span] = []
    found: list[tuple[int, str, float, float, Pen]] = []
    centre, radius = ring[0][1].centre, ring[0][1].radius
    near = ON / max(radius, ON)
    for rank, arc in sorted(ring, key=lambda g: g[0]):
        low = (arc.start if arc.sweep > 0 else arc.start + arc.sweep) % (2 * math.pi)
        high = low + min(abs(arc.sweep), 2 * math.pi)
        for a, b in [(low, min(high, 2 * math.pi)), *([(0.0, high - 2 * math.pi)] if high > 2 * math.pi + near else [])]:
            for start, end in _left(a, b, taken, near):
                last = found[-1] if found else None
                if last and last[0] == rank and last[1] == arc.of and abs(last[3] - start) < near:
                    found[-1] = (rank, arc.of, last[2], end, arc.pen)
                else:
                    found.append((rank, arc.of, start, end, arc.pen))
            taken = _with(taken, (a, b), near)
    # what ends where the circle was cut open at 0 and begins there again is one
    first = next((f for f in found if f[2] < near), None)
    last = next((f for f in found if f[3] > 2 * math.pi - near and f is not first), None)
    if first and last and first[:2] == last[:2]:
        found.remove(first)
        found[found.index(last)] = (last[0], last[1], last[2], last[3] + first[3], last[4])
    return [Arc(pen, centre, radius, a, b - a, of) for _, of, a, b, pen in found if b - a > near]


def _curves(curves: list[Curve]) -> Iterable[Curve]:
    """Without those that run over another from end to end."""
    kept: dict[tuple[tuple[int, int], ...], Curve] = {}
    for c in sorted(curves, key=lambda c: _RANK.get(c.pen, 3)):
        ends = sorted((c.points[0], c.points[-1]))
        places = [*ends, c.points[len(c.points) // 2]]
        kept.setdefault(tuple((round(x / 0.02), round(y / 0.02)) for x, y in places), c)
    return kept.values()


def _left(a: float, b: float, taken: list[Span], near: float = ON) -> list[Span]:
    """What of a stretch no other has taken."""
    found, at = [], a
    for low, high in taken:
        if high <= at + near:
            continue
        if low >= b - near:
            break
        if low > at + near:
            found.append((at, low))
        at = max(at, high)
    if b > at + near:
        found.append((at, b))
    return found


def _with(taken: list[Span], span: Span, near: float = ON) -> list[Span]:
    merged: list[Span] = []
    for low, high in sorted([*taken, span]):
        if merged and low <= merged[-1][1] + near:
            merged[-1] = (merged[-1][0], max(merged[-1][1], high))
        else:
            merged.append((low, high))
    return merged
