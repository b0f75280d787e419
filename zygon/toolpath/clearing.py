"""An area cleared by runs one inside the other: where the bit's middle may be, the rings, the order in which they are run, and what no bit reaches."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from zygon.geometry.chords import with_arcs
from zygon.geometry.contour import Contour, Point
from zygon.toolpath.starts import Start, begun_at

__all__ = ["Ring", "begun_near", "cleared", "eroded", "linked", "rings_of", "swept"]

#: A bit just as wide as a place gets into it: by so much (mm) it cuts into either side of it.
TIGHT = 1e-3
#: Quarters of circles are so many chords: of a radius of 10 mm they stray by 0.003 mm.
QUARTER = 32
#: Chords are made arcs where they lie so near to them (mm).
NEAR_ARC = 4e-3
#: Rings of less than this all round (mm) are one place.
POINT = 0.02
#: Runs are laid nearer to one another until less than this (mm²) is left between them.
LEFT = 0.01
#: How often that is tried.
TRIES = 4


@dataclass(frozen=True)
class Ring:
    """A closed run of the bit's middle, ``level`` rings away from the wall; ``hole`` where it goes round what stays standing."""

    run: Contour
    level: int
    hole: bool


def eroded(area: shapely.Geometry, radius: float) -> shapely.Geometry:
    """Where the middle of a bit of ``radius`` mm may be within an area."""
    return shapely.buffer(area, -(radius - TIGHT), quad_segs=QUARTER)


def swept(middles: shapely.Geometry, radius: float) -> shapely.Geometry:
    """What a bit cuts whose middle goes everywhere there."""
    return shapely.buffer(middles, radius, quad_segs=QUARTER)


def rings_of(middles: shapely.Geometry, step: float, radius: float, first: float = 0.0) -> list[Ring]:
    """Runs ``step`` mm apart or less, the outermost ``first`` mm inside the border of where the bit's middle may be; between them nothing is left."""
    for _ in range(TRIES):
        found = _rings(middles, step, first)
        outer = shapely.buffer(middles, -first, quad_segs=QUARTER) if first else middles
        lines = [_line(r.run) for r in found]
        left = (
            shapely.area(shapely.difference(outer, shapely.union_all(shapely.buffer(np.array(lines, object), radius, quad_segs=8))))
            if lines
            else 0
        )
        if left <= LEFT:
            break
        step /= 2
    return found


def _line(run: Contour) -> shapely.Geometry:
    chords = run.flatten(0.01)
    return shapely.LineString([*chords, chords[0]]) if run.closed and len(chords) > 1 else shapely.Point(chords[0])


def _rings(middles: shapely.Geometry, step: float, first: float) -> list[Ring]:
    found, level = list[Ring](), 0
    while True:
        area = shapely.buffer(middles, -(first + level * step), quad_segs=QUARTER) if first or level else middles
        polygons = [p for p in shapely.get_parts(area) if p.geom_type == "Polygon" and not p.is_empty]
        if not polygons:
            return found
        for p in polygons:
            found.append(Ring(_run(p.exterior, ccw=True), level, hole=False))
            found += [Ring(_run(i, ccw=False), level, hole=True) for i in p.interiors]
        level += 1


def _run(ring: shapely.Geometry, ccw: bool) -> Contour:
    """A ring of chords as a contour with arcs; one of hardly any length as its middle."""
    if shapely.length(ring) < POINT:
        c = shapely.centroid(ring)
        return Contour(((c.x, c.y),), (), ("",), closed=False)
    points = shapely.get_coordinates(shapely.simplify(ring, TIGHT / 4))[:-1]
    chords = Contour(tuple((float(x), float(y)) for x, y in points), (0.0,) * len(points), ("",) * len(points))
    if len(points) < 3:  # a slot just as wide as the bit: there and back
        return chords
    return with_arcs(chords.wound(ccw), NEAR_ARC, 2 * NEAR_ARC)[0]


def begun_near(run: Contour, at: Point, among: Sequence[int] = ()) -> Contour:
    """A closed run begun at its corner nearest to a place (one of ``among``, where that is said), as an open one once round; a single place as it is."""
    if not run.closed:
        return run
    k = min(among or range(len(run.points)), key=lambda i: round(math.dist(run.points[i], at), 6))
    return begun_at(run, Start(k, 0.0, run.points[k], (0.0, 0.0), (0.0, 0.0)))


def linked(runs: Sequence[Contour], middles: shapely.Geometry) -> list[list[Contour]]:
    """Open runs in groups that need no lifting: from the end of one to the start of the next the bit stays where it may be."""
    roomy = shapely.buffer(middles, TIGHT)
    shapely.prepare(roomy)
    groups: list[list[Contour]] = []
    for run in runs:
        if groups:
            p, q = groups[-1][-1].points[-1], run.points[0]
            if math.dist(p, q) < TIGHT or shapely.covers(roomy, shapely.LineString((p, q))):
                groups[-1].append(run)
                continue
        groups.append([run])
    return groups


def cleared(rings: Iterable[Ring], climb: bool, at: Point) -> list[Contour]:
    """Rings as open runs from the inside out: a ring comes when all that lie next to it further in are done, the nearest of those first.

    ``climb``: material to the right of the way, as of a bit that turns clockwise.
    """
    left = list(rings)
    lines = [_line(r.run) for r in left]
    inner = [_further_in(k, left, lines) for k in range(len(left))]
    done: set[int] = set()
    found: list[Contour] = []
    while len(done) < len(left):
        free = [k for k in range(len(left)) if k not in done and inner[k] <= done]
        here = shapely.Point(at)
        k = min(free, key=lambda i: (round(float(shapely.distance(here, lines[i])), 3), -left[i].level))
        done.add(k)
        run = left[k].run
        if run.closed and len(run.points) > 2:
            # within a ring that goes round all: counter-clockwise the wall is to the right; round an island clockwise
            run = run.wound(ccw=climb != left[k].hole)
        run = begun_near(run, at)
        found.append(run)
        at = run.points[-1]
    return found


def _further_in(k: int, rings: Sequence[Ring], lines: Sequence[shapely.Geometry]) -> set[int]:
    """The rings of the next level that lie next to one: those nearer to it than any other of its level is to them."""
    own = rings[k]
    found = set()
    for i, r in enumerate(rings):
        if r.level != own.level + 1:
            continue
        others = [j for j, o in enumerate(rings) if o.level == own.level]
        away = float(shapely.distance(lines[i], lines[k]))
        if away <= min(float(shapely.distance(lines[i], lines[j])) for j in others) + TIGHT:
            found.add(i)
    return found
