"""The closed outlines of a solved drawing, as lines and true arcs that know which curve they are from; and what does not close, crosses or lies beside."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from scipy.interpolate import CubicSpline

from zygon.drawing.solver import Solved
from zygon.drawn.drawing import DrawnArc, DrawnCircle, DrawnLine, DrawnSpline, DrawnText
from zygon.geometry.boolean import to_polygons
from zygon.geometry.contour import Contour, Point, circle
from zygon.geometry.fitted import as_arcs
from zygon.geometry.lettering import lettering
from zygon.tolerance import CONTACT

__all__ = ["Loops", "NotClosed", "loops_of", "spline_arcs", "spline_ways", "text_outlines"]

#: A smooth curve is cut as arcs that lie this near to it (mm).
SPLINE = 0.02
#: Outlines are tried for crossings with chords this near to their arcs (mm).
CHORDS = 0.002


@dataclass(frozen=True)
class NotClosed:
    """What keeps a drawing from being an outline: a code, a sentence, the rule, where (mm), and the curves that it is about."""

    code: str
    message: str
    rule: str
    at: Point
    curves: tuple[str, ...] = ()


@dataclass(frozen=True)
class Loops:
    """The closed outlines of a drawing, the largest first and counter-clockwise; the runs that stay open; and what is wrong with them."""

    closed: tuple[Contour, ...]
    open: tuple[Contour, ...]
    faults: tuple[NotClosed, ...]


@dataclass(frozen=True)
class _Run:
    """A curve that is no loop by itself: its points in order, and a bulge for each of its pieces."""

    key: str
    points: tuple[Point, ...]
    bulges: tuple[float, ...]

    def turned(self) -> _Run:
        return _Run(self.key, self.points[::-1], tuple(-b for b in reversed(self.bulges)))


def loops_of(solved: Solved) -> Loops:
    """The outlines of all curves but helping ones; the owner of each piece is its curve's key."""
    closed, runs, faults = list[Contour](), list[_Run](), list[NotClosed]()
    curves = solved.unknowns.drawing.curves
    for key in sorted(curves, key=lambda k: (curves[k].order, k)):
        if curves[key].helping:
            continue
        curve = curves[key]
        if isinstance(curve, DrawnText):
            closed += text_outlines(solved, key, curve)
            continue
        made = _made(solved, key)
        if isinstance(made, Contour):
            closed.append(made)
        elif made is None:
            at = solved.point(curves[key].points()[0])
            faults.append(NotClosed("no_length", "it has no length", "a curve with a length", at, (key,)))
        else:
            runs.append(made)
    found, open_, more = _chained(runs)
    for contour in [c for c in found if len(c.points) < 3 and not any(c.bulges)]:
        said = "two lines lie on one another"
        more.append(NotClosed("doubled", said, "each line once", contour.points[0], tuple(dict.fromkeys(contour.owners))))
    closed = [c.wound(ccw=True) for c in (*closed, *found) if len(c.points) > 2 or any(c.bulges)]
    closed.sort(key=lambda c: -c.area)
    faults += more
    if closed:
        faults += _crossings(closed)
    return Loops(tuple(closed), tuple(open_), tuple(faults))


def _made(solved: Solved, key: str) -> Contour | _Run | None:
    curve = solved.unknowns.drawing.curves[key]
    if isinstance(curve, DrawnCircle):
        radius = abs(solved.radius(key))
        return circle(*solved.point(curve.centre), radius, key) if radius > CONTACT else None
    if isinstance(curve, DrawnLine):
        a, b = solved.point(curve.a), solved.point(curve.b)
        return _Run(key, (a, b), (0.0,)) if math.dist(a, b) > CONTACT else None
    if isinstance(curve, DrawnArc):
        return _arc(key, solved.point(curve.a), solved.point(curve.b), solved.point(curve.centre))
    assert isinstance(curve, DrawnSpline)
    return _spline(solved, key, curve)


def text_outlines(solved: Solved, key: str, curve: DrawnText) -> list[Contour]:
    """The outlines of a line of text, and of what is open in its letters."""
    return lettering(curve.text, solved.point(curve.at), curve.height, math.radians(curve.turned), curve.font, key)


def _arc(key: str, a: Point, b: Point, c: Point) -> _Run | None:
    radius = math.dist(a, c)
    if radius <= CONTACT or math.dist(a, b) <= CONTACT:
        return None
    start = math.atan2(a[1] - c[1], a[0] - c[0])
    sweep = (math.atan2(b[1] - c[1], b[0] - c[0]) - start) % (2 * math.pi)
    if sweep <= math.pi:
        return _Run(key, (a, b), (math.tan(sweep / 4),))
    half = start + sweep / 2
    middle = (c[0] + radius * math.cos(half), c[1] + radius * math.sin(half))
    return _Run(key, (a, middle, b), (math.tan(sweep / 8),) * 2)


def spline_arcs(
    through: list[Point], closed: bool, ways: tuple[Point | None, Point | None] = (None, None)
) -> tuple[list[Point], list[float]]:
    """The smooth curve through points as arcs: their ends, and a bulge for each. It is a cubic spline over the way between the points, natural at its ends
    or along the ``ways`` (unit vectors) in which it begins and ends there.
    """
    places = np.array([*through, through[0]] if closed else through)
    knots = np.concatenate(([0.0], np.cumsum(np.hypot(*np.diff(places, axis=0).T))))
    ends = tuple((2, np.zeros(2)) if way is None else (1, np.array(way)) for way in ways)
    curve = CubicSpline(knots, places, bc_type="periodic" if closed else ends)

    def at(t: float) -> Point:
        x, y = curve(t)
        return float(x), float(y)

    points, bulges = as_arcs(at, knots.tolist(), SPLINE)
    # the points themselves, to the bit
    return [tuple(places[0].tolist()), *points[1:-1], tuple(places[-1].tolist())], bulges


def spline_ways(solved: Solved, key: str) -> tuple[Point | None, Point | None]:
    """The ways in which a smooth curve begins and ends where it is tangent to what ends there too; None where it is free."""
    drawing = solved.unknowns.drawing
    curve = drawing.curves[key]
    assert isinstance(curve, DrawnSpline)
    found: list[Point | None] = [None, None]
    for relation in drawing.relations.values():
        if relation.kind != "tangent" or relation.out or key not in relation.of or curve.closed:
            continue
        other = next(k for k in relation.of if k != key)
        end = drawing.smooth_at(*relation.of)
        way = _goes_on(solved, other, end, curve) if end else None
        if way is not None and end == curve.through[0]:
            found[0] = way
        elif way is not None:
            found[1] = (-way[0], -way[1])
    return found[0], found[1]


def _goes_on(solved: Solved, key: str, end: str, spline: DrawnSpline) -> Point | None:
    """The unit vector along which a curve would go on beyond one of its ends, into a smooth one; None where it has no length."""
    curve, (x, y) = solved.unknowns.drawing.curves[key], solved.point(end)
    if isinstance(curve, DrawnArc):
        cx, cy = solved.point(curve.centre)
        sign = 1.0 if end == curve.b else -1.0
        way = (-(y - cy) * sign, (x - cx) * sign)
    elif isinstance(curve, DrawnSpline):
        # both go from the point before their common end to the one behind it
        before, behind = (solved.point(s.through[1 if end == s.through[0] else -2]) for s in (curve, spline))
        way = (behind[0] - before[0], behind[1] - before[1])
    else:
        far = solved.point(next(p for p in curve.points() if p != end))
        way = (x - far[0], y - far[1])
    long = math.hypot(*way)
    return (way[0] / long, way[1] / long) if long > CONTACT else None


def _spline(solved: Solved, key: str, curve: DrawnSpline) -> Contour | _Run | None:
    through = [solved.point(p) for p in curve.through]
    if any(math.dist(p, q) <= CONTACT for p, q in zip(through, [*through[1:], through[0]] if curve.closed else through[1:], strict=False)):
        return None
    if curve.closed and len(through) < 3:
        return None
    points, bulges = spline_arcs(through, curve.closed, spline_ways(solved, key))
    if curve.closed:
        return Contour(tuple(points[:-1]), tuple(bulges), (key,) * len(bulges))
    return _Run(key, tuple(points), tuple(bulges))


class _Nodes:
    """Ends of runs that lie on one place."""

    def __init__(self) -> None:
        self.places: list[Point] = []
        self._squares: dict[tuple[int, int], list[int]] = {}

    def at(self, p: Point) -> int:
        x, y = math.floor(p[0] / CONTACT), math.floor(p[1] / CONTACT)
        for square in ((x + i, y + j) for i in (-1, 0, 1) for j in (-1, 0, 1)):
            for n in self._squares.get(square, ()):
                if math.dist(self.places[n], p) <= CONTACT:
                    return n
        self._squares.setdefault((x, y), []).append(len(self.places))
        self.places.append(p)
        return len(self.places) - 1


def _chained(runs: list[_Run]) -> tuple[list[Contour], list[Contour], list[NotClosed]]:
    nodes = _Nodes()
    ends = [(nodes.at(r.points[0]), nodes.at(r.points[-1])) for r in runs]
    meeting: dict[int, list[int]] = {}
    for n, pair in enumerate(ends):
        for node in pair:
            meeting.setdefault(node, []).append(n)
    faults: list[NotClosed] = []
    for node, some in meeting.items():
        if len(some) > 2:
            keys = tuple(runs[n].key for n in some)
            faults.append(
                NotClosed("branches", f"{len(some)} lines meet in one point", "two lines meet at a corner", nodes.places[node], keys)
            )
    closed, open_ = list[Contour](), list[Contour]()
    left = set(range(len(runs)))
    starts = [n for n, (a, b) in enumerate(ends) if len(meeting[a]) != 2 or len(meeting[b]) != 2]
    for first in [*starts, *range(len(runs))]:
        if first not in left:
            continue
        a, b = ends[first]
        forward = first not in starts or len(meeting[a]) != 2
        chain = [(first, forward)]
        left.discard(first)
        begin, node = (a, b) if forward else (b, a)
        while node != begin and len(meeting[node]) == 2:
            nxt = next((n for n in meeting[node] if n in left), None)
            if nxt is None:
                break
            left.discard(nxt)
            chain.append((nxt, ends[nxt][0] == node))
            node = ends[nxt][1] if ends[nxt][0] == node else ends[nxt][0]
        contour = _contour(runs, chain, shut=node == begin)
        if contour.closed:
            closed.append(contour)
            continue
        open_.append(contour)
        loose = [(n, p) for n, p in ((begin, contour.points[0]), (node, contour.points[-1])) if len(meeting[n]) == 1]
        keys = tuple(dict.fromkeys(contour.owners))
        if loose:
            gap = math.dist(contour.points[0], contour.points[-1])
            said = f"it is open, its ends are {gap:.3g} mm apart" if len(loose) == 2 else "an end hangs free"
            faults.append(NotClosed("open", said, "every line goes on at both ends", loose[0][1], keys))
    return closed, open_, faults


def _contour(runs: list[_Run], chain: list[tuple[int, bool]], *, shut: bool) -> Contour:
    points, bulges, owners = list[Point](), list[float](), list[str]()
    for n, forward in chain:
        run = runs[n] if forward else runs[n].turned()
        points += run.points[:-1]
        bulges += run.bulges
        owners += [run.key] * len(run.bulges)
        last = run.points[-1]
    if not shut:
        points.append(last)
    return Contour(tuple(points), tuple(bulges), tuple(owners), closed=shut)


def _crossings(closed: list[Contour]) -> Iterator[NotClosed]:
    """Outlines that cross themselves or one another."""
    polygons = to_polygons(closed, CHORDS)
    for contour, polygon in zip(closed, polygons, strict=True):
        if not shapely.is_valid(polygon):
            ring = shapely.get_exterior_ring(polygon)
            at = _crossing(ring) or contour.points[0]
            keys = tuple(dict.fromkeys(contour.owners))
            yield NotClosed("crosses_itself", "it crosses itself", "an outline that nowhere crosses itself", at, keys)
    rings = shapely.get_exterior_ring(polygons)
    tree = shapely.STRtree(rings)
    for i, j in tree.query(rings, predicate="intersects").T.tolist():
        if i < j:
            where = shapely.intersection(rings[i], rings[j])
            if shapely.is_empty(where):
                continue
            point = shapely.point_on_surface(where)
            keys = tuple(dict.fromkeys((*closed[i].owners, *closed[j].owners)))
            yield NotClosed("outlines_cross", "two outlines meet", "outlines that lie apart, or one in the other", (point.x, point.y), keys)


def _crossing(ring: shapely.LinearRing) -> Point | None:
    """Where a ring crosses itself: a corner of its noded lines that it did not have, or that is passed more than once."""
    own = [tuple(p) for p in shapely.get_coordinates(ring)[:-1].tolist()]
    doubled = next((p for p in own if own.count(p) > 1), None) if len(own) < 2000 else None
    if doubled:
        return doubled[0], doubled[1]
    known = set(own)
    noded = shapely.get_coordinates(shapely.node(ring)).tolist()
    new = next((tuple(p) for p in noded if tuple(p) not in known), None)
    return (new[0], new[1]) if new else None
