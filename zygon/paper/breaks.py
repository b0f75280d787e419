"""Long parts broken on paper (ISO 128-3): where nothing begins, ends or stands, a stretch is left out, in all views that show it alike; figures stay those of the part."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import shapely

from zygon.paper.clipped import face_in
from zygon.paper.ink import Arc, Curve, Ink, Line, Point
from zygon.paper.strokes import Stroke
from zygon.paper.view import CutFace, Gap, Spot, View, Way
from zygon.tolerance import SEEN

__all__ = ["broken", "gap_ink"]

#: A stretch is left out where it is at least so long, as a share of the whole and of what is across it, and this share of it stays on both sides.
LONG, ACROSS, STAYS = 0.22, 1.5, 0.12
#: How wide the gap stands, as a share of what remains.
WIDE = 0.035
#: The line of a break reaches so far over the view; its zigzag is so high and so wide, mm of paper.
OVER, HIGH, STEP = 3.0, 4.0, 1.2
#: Beyond any view, mm.
FAR = 1e6
Span = tuple[float, float]
To = Callable[[Point], Point]


@dataclass(frozen=True)
class _Axis:
    """Which axis of the room runs along a way of a view, and whether against it."""

    axis: int
    sign: float


def broken(views: Sequence[View]) -> tuple[View, ...]:
    """The views with their long stretches left out; those seen askew stay whole."""
    found = list(views)
    for axis in range(3):
        runs = [(n, way) for n, v in enumerate(found) for way in ("x", "y") if (a := _axis_of(v, way)) and a.axis == axis]
        cuts = _free([(found[n], way) for n, way in runs])
        for n, way in runs:
            found[n] = _without(found[n], way, _signed(cuts, _axis_of(found[n], way)))
    for n, v in enumerate(found):  # a flat has no room about it: each of its ways is its own
        if v.look is None and v.name == "flat":
            for way in ("x", "y"):
                found[n] = _without(found[n], way, _free([(found[n], way)]))
    return tuple(found)


def _axis_of(view: View, way: str) -> _Axis | None:
    if view.look is None:
        return None
    direction = view.look.right if way == "x" else view.look.up
    axis = max(range(3), key=lambda k: abs(direction[k]))
    return _Axis(axis, direction[axis]) if abs(abs(direction[axis]) - 1) < SEEN else None


def _signed(cuts: Sequence[Span], axis: _Axis | None) -> list[Span]:
    if axis is None or axis.sign > 0:
        return list(cuts)
    return sorted((-b, -a) for a, b in cuts)


def _free(runs: Sequence[tuple[View, str]]) -> list[Span]:
    """Where along an axis nothing is to be seen in any of these views but what runs along it, without what stays on both sides."""
    taken: list[Span] = []
    low, high, across = FAR, -FAR, 0.0
    for view, way in runs:
        k = "xy".index(way)
        sign = (_axis_of(view, way) or _Axis(0, 1.0)).sign
        for a, b in _blocked(view, k):
            taken.append((a, b) if sign > 0 else (-b, -a))
        a, b = sorted((sign * view.bounds[k], sign * view.bounds[k + 2]))
        low, high = min(low, a), max(high, b)
        across = max(across, view.bounds[3 - k] - view.bounds[1 - k])
    found = []
    at = low
    for a, b in [*sorted(taken), (high, high)]:
        if a - at > max(LONG * (high - low), ACROSS * across):
            found.append((at, a))
        at = max(at, b)
    return [(a + STAYS * (b - a), b - STAYS * (b - a)) for a, b in found]


def _blocked(view: View, k: int) -> list[Span]:
    """Where along its x (k 0) or y something begins, ends or stands."""
    spans: list[Span] = []
    for s in view.strokes:
        if isinstance(s, Line):
            ends = s.p[k], s.q[k]
            if abs(s.p[1 - k] - s.q[1 - k]) < SEEN and s.pen != "bend":
                spans += [(e, e) for e in ends]
                continue
            spans.append((min(ends), max(ends)))
        elif isinstance(s, Arc):
            spans.append((s.centre[k] - s.radius, s.centre[k] + s.radius))
        else:
            spans.append((min(p[k] for p in s.points), max(p[k] for p in s.points)))
    spots = {*view.across, *view.up}
    spans += [(s.at[k], s.at[k]) for n, s in view.spots.items() if n in spots or s.along == "both"]
    spans += [(p[k], p[k]) for c in view.callouts for p in c.places]
    spans += [(c.at, c.at) for c in view.cuts if c.way == "xy"[k]]
    spans += [(c.centre[k] - c.radius, c.centre[k] + c.radius) for c in view.loupes]
    return spans


def _without(view: View, way: str, cuts: Sequence[Span]) -> View:
    """A view without stretches along a way; in what is left out only what runs along it is cut."""
    for a, b in reversed(cuts):
        k = "xy".index(way)
        left = view.bounds[k + 2] - view.bounds[k] - (b - a)
        view = _cut(view, "x" if way == "x" else "y", a, b, WIDE * left)
    return view


def _cut(view: View, way: Way, a: float, b: float, wide: float) -> View:
    k = "xy".index(way)
    back = b - a - wide

    def to(p: Point) -> Point:
        if p[k] < b - SEEN:
            return p
        return (p[0] - back, p[1]) if k == 0 else (p[0], p[1] - back)

    def spot(s: Spot) -> Spot:
        return replace(s, at=to(s.at))

    strokes: list[Stroke] = []
    for s in view.strokes:
        strokes += _stroke(s, k, a, b, to)
    x1, y1 = to((view.bounds[2], view.bounds[3]))
    return replace(
        view,
        strokes=tuple(strokes),
        bounds=(view.bounds[0], view.bounds[1], x1, y1),
        spots={n: spot(s) for n, s in view.spots.items()},
        callouts=tuple(replace(c, places=tuple((*to((x, y)), r) for x, y, r in c.places)) for c in view.callouts),
        rings=tuple(replace(r, places=tuple(map(to, r.places))) for r in view.rings),
        faces=tuple(_moved(f, to) for face in view.faces for f in _faces(face, k, a, b)),
        cuts=tuple(
            replace(c, at=to((c.at, c.at))[k]) if c.way == way else replace(c, turns=tuple((to((t, t))[k], p) for t, p in c.turns))
            for c in view.cuts
        ),
        loupes=tuple(replace(c, centre=to(c.centre)) for c in view.loupes),
        gaps=(*(replace(g, at=g.at - back) if g.way == way and g.at > a else g for g in view.gaps), Gap(way, a, wide, back)),
    )


def _stroke(s: Stroke, k: int, a: float, b: float, to: To) -> list[Stroke]:
    if isinstance(s, Line):
        low, high = sorted((s.p, s.q), key=lambda p: p[k])
        if low[k] < a + SEEN and high[k] > b - SEEN:
            first, last = list(low), list(high)
            first[k], last[k] = a, b
            return [Line(s.pen, low, (first[0], first[1]), s.of), Line(s.pen, to((last[0], last[1])), to(high), s.of)]
        return [Line(s.pen, to(s.p), to(s.q), s.of)]
    if isinstance(s, Arc):
        return [replace(s, centre=to(s.centre))]
    return [Curve(s.pen, tuple(map(to, s.points)), s.of)]


def _faces(face: CutFace, k: int, a: float, b: float) -> list[CutFace]:
    sides = ((-FAR, a), (b, FAR))
    boxes = [shapely.box(lo, -FAR, hi, FAR) if k == 0 else shapely.box(-FAR, lo, FAR, hi) for lo, hi in sides]
    return [f for region in boxes for f in face_in(face, region)]


def _moved(face: CutFace, to: To) -> CutFace:
    return replace(face, rings=tuple(tuple(map(to, r)) for r in face.rings))


def gap_ink(view: View, to: To) -> list[Ink]:
    """The two lines of each break: thin, with a zigzag in the middle (ISO 128-2, 01.1.18)."""
    ink: list[Ink] = []
    x0, y0, x1, y1 = view.bounds
    for g in view.gaps:
        for at in (g.at, g.at + g.wide):
            if g.way == "x":
                low, high = to((at, y0)), to((at, y1))
                points = _zigzag(low[1] - OVER, high[1] + OVER)
                path = [(low[0] + off, y) for y, off in points]
            else:
                low, high = to((x0, at)), to((x1, at))
                points = _zigzag(low[0] - OVER, high[0] + OVER)
                path = [(x, low[1] + off) for x, off in points]
            ink += [Line("thin", p, q) for p, q in zip(path, path[1:], strict=False)]
    return ink


def _zigzag(low: float, high: float) -> list[tuple[float, float]]:
    """Along the line and off it, mm of paper."""
    middle = (low + high) / 2
    return [
        (low, 0.0),
        (middle - HIGH / 2, 0.0),
        (middle - HIGH / 6, STEP),
        (middle + HIGH / 6, -STEP),
        (middle + HIGH / 2, 0.0),
        (high, 0.0),
    ]
