"""A folded part's flat cut up into its faces and bends, edge by edge, with true arcs: what exact solids are made of."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass

import shapely

from zygon.geometry.boolean import Region, intersect_each
from zygon.geometry.contour import Contour
from zygon.making.result.fold import Fold
from zygon.tolerance import SEEN

__all__ = ["Grown", "ZoneEdge", "ZoneRegion", "grown_together", "zones_of"]

Point = tuple[float, float]
#: Corners nearer than this (mm) are one.
SAME = 2e-5


@dataclass(frozen=True)
class ZoneEdge:
    """A line or arc (bulge as in DXF) with the zone on its left; ``shared`` where another zone goes on beyond it."""

    p: Point
    q: Point
    bulge: float
    shared: bool


@dataclass(frozen=True)
class ZoneRegion:
    """A piece of a face (``zone`` i) or of a bend (-1 - i): its outer ring and its holes."""

    zone: int
    rings: tuple[tuple[ZoneEdge, ...], ...]


def zones_of(pieces: tuple[Region, ...], fold: Fold) -> list[ZoneRegion]:
    """The regions of every face and bend, their edges divided so that neighbours meet edge to edge."""
    found: list[tuple[int, Region]] = []
    outlines = [(i, c) for i, f in enumerate(fold.faces) for c in f.outline] + [(-1 - i, b.outline) for i, b in enumerate(fold.bends)]
    of_pieces = [intersect_each(piece, [outline for _, outline in outlines]) for piece in pieces]
    for k, (zone, _) in enumerate(outlines):
        found += [(zone, r) for of_piece in of_pieces for r in of_piece[k]]
    if not found:
        return []
    corners = [p for _, r in found for c in (r.outer, *r.inner) for p in c.points]
    tree = shapely.STRtree(shapely.points(corners))
    rings = [(zone, [_divided(c, tree, corners) for c in (r.outer, *r.inner)]) for zone, r in found]
    count = Counter(k for _, own in rings for ring in own for p, q, bulge in ring for k in (_key(p, q, bulge),))
    return [
        ZoneRegion(zone, tuple(tuple(ZoneEdge(p, q, b, count[_key(q, p, -b)] > 0) for p, q, b in ring) for ring in own))
        for zone, own in rings
    ]


def _divided(contour: Contour, tree: shapely.STRtree, corners: list[Point]) -> list[tuple[Point, Point, float]]:
    """A contour's edges, straight ones divided at every corner that lies on them; corners are snapped to one another."""
    edges: list[tuple[Point, Point, float]] = []
    for s in contour.segments():
        if s.bulge:
            edges.append((_snapped(s.p), _snapped(s.q), s.bulge))
            continue
        line = shapely.LineString([s.p, s.q])
        near = tree.query(line, predicate="dwithin", distance=SAME).tolist()
        length = s.length
        d = ((s.q[0] - s.p[0]) / length, (s.q[1] - s.p[1]) / length)
        along = sorted(t for i in near if SAME < (t := (corners[i][0] - s.p[0]) * d[0] + (corners[i][1] - s.p[1]) * d[1]) < length - SAME)
        at, last = [s.p], 0.0
        for t in along:
            if t - last > SAME:
                at.append((s.p[0] + d[0] * t, s.p[1] + d[1] * t))
                last = t
        at.append(s.q)
        edges += [(_snapped(a), _snapped(b), 0.0) for a, b in zip(at, at[1:], strict=False)]
    return [e for e in edges if e[2] or math.dist(e[0], e[1]) > SAME]


def _snapped(p: Point) -> Point:
    return round(p[0], 5), round(p[1], 5)


def _key(p: Point, q: Point, bulge: float) -> tuple:
    # to a ten-thousandth of a millimetre, in cells that are found again from either side
    return round(p[0], 4), round(p[1], 4), round(q[0], 4), round(q[1], 4), round(bulge, 4)


@dataclass(frozen=True)
class Grown:
    """Where two zones go on into one another though no bend joins them there: ``a`` and ``b`` are zones, ``at`` the middle of it, ``length`` in mm."""

    a: int
    b: int
    at: Point
    length: float


def grown_together(regions: list[ZoneRegion], fold: Fold) -> list[Grown]:
    """The places where the sheet would have to bend two ways at once, or a bend end in flat sheet: it needs a relief there."""
    zone_of = {_key(e.p, e.q, e.bulge): r.zone for r in regions for ring in r.rings for e in ring if e.shared}
    found: dict[tuple[int, int], list[Grown]] = {}
    for region in regions:
        for e in (e for ring in region.rings for e in ring if e.shared):
            other = zone_of[_key(e.q, e.p, -e.bulge)]
            if region.zone < other and not _joins(region.zone, other, e, fold):
                at = ((e.p[0] + e.q[0]) / 2, (e.p[1] + e.q[1]) / 2)
                found.setdefault((region.zone, other), []).append(Grown(region.zone, other, at, math.dist(e.p, e.q)))
    return [Grown(a, b, max(g, key=lambda x: x.length).at, sum(x.length for x in g)) for (a, b), g in found.items()]


def _joins(a: int, b: int, e: ZoneEdge, fold: Fold) -> bool:
    """Whether an edge is the line on which a bend begins, next to what it stands on, or ends, next to what it carries; a < b."""
    if a >= 0 or b < 0:  # two faces, or two bends
        return False
    bend = fold.bends[-1 - a]
    across = [(p[0] - bend.start[0]) * bend.outward[0] + (p[1] - bend.start[1]) * bend.outward[1] for p in (e.p, e.q)]
    on_line = {bend.parent: 0.0, -a: bend.width}.get(b)
    return on_line is not None and all(abs(x - on_line) < SEEN for x in across)
