"""Ways of the head round what has been cut loose: a piece that tipped stands up in its way."""

from __future__ import annotations

import heapq
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour, Point
from zygon.toolpath.cuts import Cut

__all__ = ["ways_round"]

#: A place is outside a piece from so far (mm) within its edge on: contours end on it.
LESS = 0.05
#: A way keeps so far (mm) from the corners that it goes round, and corners are cut by at most so much.
OFF, COARSE = 0.5, 0.3
#: What drops out and is no wider than this (mm) falls through the bed, and does not stand up (common practice).
FALLS = 10.0
#: A way is given up where so many corners would have to be looked at.
MOST_CORNERS = 600


@dataclass(frozen=True)
class _Loose:
    """An area that is loose once the cut of number ``after`` is done."""

    after: int
    area: shapely.Geometry


def ways_round(cuts: Sequence[Cut], home: Point = (0.0, 0.0)) -> tuple[list[Cut], tuple[Point, ...], int]:
    """The cuts with the places (mm) by which each is come to, those on the way home, and how many ways cross something loose because there is none round."""
    loose = [
        _Loose(k, shapely.buffer(to_polygon(cut.outline, COARSE / 3), -LESS, quad_segs=2))
        for k, cut in enumerate(cuts)
        if cut.outline and not cut.held and (cut.operation == "outside" or min(_sides(cut.outline)) > FALLS)
    ]
    if not loose:
        return list(cuts), (), 0
    ends = [home, *(c.end for c in cuts)]
    starts = [*(c.start for c in cuts), home]
    areas = np.array([one.area for one in loose])
    after = np.array([one.after for one in loose])
    tree = shapely.STRtree(areas)
    lines = shapely.linestrings(np.stack([np.array(ends), np.array(starts)], axis=1))
    moves, hit = tree.query(lines, predicate="intersects")
    blocked: dict[int, set[int]] = {}
    for m, h in zip(moves.tolist(), hit.tolist(), strict=True):
        if after[h] < m:
            blocked.setdefault(m, set()).add(h)
    found: dict[int, tuple[Point, ...]] = {}
    crossed = 0
    for m, hits in blocked.items():
        p, q = ends[m], starts[m]
        # over what it stands on, or is to go to, the head is anyway
        own = set(tree.query(shapely.Point(p), predicate="intersects").tolist()) | set(
            tree.query(shapely.Point(q), predicate="intersects").tolist()
        )
        if hits <= own:
            continue
        way = _way(p, q, hits - own, own, areas, after < m, tree)
        crossed += way is None
        found[m] = way or ()
    return [replace(c, by=found[k]) if found.get(k) else c for k, c in enumerate(cuts)], found.get(len(cuts), ()), crossed


def _sides(contour: Contour) -> tuple[float, float]:
    x0, y0, x1, y1 = contour.bounds
    return x1 - x0, y1 - y0


def _way(
    p: Point, q: Point, hits: set[int], own: set[int], areas: np.ndarray, there: np.ndarray, tree: shapely.STRtree
) -> tuple[Point, ...] | None:
    """The places between p and q on the shortest way round; None where there is none.

    Only areas that a way was found to hit are gone round: more of them until it hits none.
    """
    known = set(hits)
    while True:
        corners = np.concatenate([_corners(areas[h]) for h in sorted(known)])
        near, within = tree.query(shapely.points(corners), predicate="intersects")
        free = np.ones(len(corners), bool)
        free[near[there[within]]] = False
        places = np.concatenate([np.array([p, q]), corners[free]])
        if len(places) > MOST_CORNERS:
            return None
        way = _shortest(places, shapely.STRtree(areas[sorted(known)]))
        if way is None:
            return None
        legs = shapely.linestrings(np.stack([places[way[:-1]], places[way[1:]]], axis=1))
        new = {h for h in tree.query(legs, predicate="intersects")[1].tolist() if there[h]} - known - own
        if not new:
            return tuple((float(x), float(y)) for x, y in places[way[1:-1]])
        known |= new


def _corners(area: shapely.Geometry) -> np.ndarray:
    """The corners that stand out of an area, a little off it, (n, 2)."""
    ring = shapely.get_exterior_ring(shapely.simplify(shapely.buffer(area, OFF + COARSE + LESS, join_style="mitre"), COARSE))
    at = shapely.get_coordinates(ring)[:-1]
    u, v = at - np.roll(at, 1, axis=0), np.roll(at, -1, axis=0) - at
    turn = u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0]
    return at[turn > 0] if shapely.is_ccw(ring) else at[turn < 0]


def _shortest(places: np.ndarray, tree: shapely.STRtree) -> list[int] | None:
    """The shortest way from the first place to the second by straight legs that cross nothing of the tree."""
    n = len(places)
    a, b = np.triu_indices(n, 1)
    legs = shapely.linestrings(np.stack([places[a], places[b]], axis=1))
    clear = np.ones(len(legs), bool)
    clear[tree.query(legs, predicate="intersects")[0]] = False
    far = np.full((n, n), math.inf)
    far[a[clear], b[clear]] = far[b[clear], a[clear]] = np.hypot(*(places[a[clear]] - places[b[clear]]).T)
    best, before = np.full(n, math.inf), [-1] * n
    best[0] = 0.0
    queue = [(0.0, 0)]
    while queue:
        way, k = heapq.heappop(queue)
        if k == 1:
            break
        if way > best[k]:
            continue
        for j in np.flatnonzero(way + far[k] < best).tolist():
            best[j], before[j] = way + far[k, j], k
            heapq.heappush(queue, (float(best[j]), j))
    if math.isinf(best[1]):
        return None
    found = [1]
    while found[-1]:
        found.append(before[found[-1]])
    return found[::-1]
