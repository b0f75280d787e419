"""Blank minus cuts with true arcs and owners: booleans on snapped chords, then every edge is given back to its source.

Chords are what GEOS works on; the result's edges are looked up among the input's (by identity of the snapped ends, or by the
chord they lie on), runs of one source become one line or one arc again, and junctions are computed again as exact
intersections of the sources.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon

from zygon.geometry.arc import arc_from_bulge, chord_count
from zygon.geometry.contour import Contour, Segment, circle
from zygon.geometry.intersect import junction
from zygon.tolerance import EPS, SAGITTA, SNAP, TINY

__all__ = ["Region", "intersect", "intersect_each", "region_polygon", "subtract", "to_polygon", "to_polygons"]

#: From so many pairs of edges on, they are looked up in a tree.
MANY_PAIRS = 300_000
#: Pieces smaller than this (mm²) are rounding, not wood: the snap times a metre.
SPECK = 1e-3


@dataclass(frozen=True)
class Region:
    """One piece: an outer contour (counter-clockwise) and inner ones (clockwise)."""

    outer: Contour
    inner: tuple[Contour, ...] = ()

    @property
    def area(self) -> float:
        """Area in mm², exact for arcs."""
        return self.outer.area + sum(c.area for c in self.inner)


def to_polygon(contour: Contour, sagitta: float = SAGITTA) -> Polygon:
    """A contour as a shapely polygon of snapped chords."""
    return Polygon(np.round(contour.flatten(sagitta) / SNAP) * SNAP)


def to_polygons(contours: Sequence[Contour], sagitta: float = SAGITTA) -> np.ndarray:
    """(n,) of shapely polygons: as ``to_polygon`` gives each, in a tenth of the time where there are thousands."""
    runs = [c.flatten(sagitta) for c in contours]
    if not runs:
        return np.array([], object)
    chords = np.round(np.concatenate(runs) / SNAP) * SNAP
    return shapely.polygons(shapely.linearrings(chords, indices=np.repeat(np.arange(len(runs)), [len(r) for r in runs])))


def region_polygon(region: Region, sagitta: float = SAGITTA) -> Polygon:
    """A region with its holes as a shapely polygon of snapped chords."""
    snap = [np.round(c.flatten(sagitta) / SNAP) * SNAP for c in (region.outer, *region.inner)]
    return Polygon(snap[0], snap[1:])


def subtract(blank: Sequence[Contour], cuts: Sequence[Contour]) -> list[Region]:
    """The union of ``blank`` without the union of ``cuts``, largest piece first; empty where nothing is left.

    Cuts that lie free inside (they touch neither an edge nor one another) skip the boolean and are taken over as they are.
    """
    blanks, polygons = [to_polygon(c) for c in blank], [to_polygon(c) for c in cuts]
    try:
        free, result = _without(blanks, polygons)
    except shapely.errors.GEOSException:
        # an outline that crosses itself, as of a plate that its own bends use up: what it encloses is taken
        polygons = [shapely.make_valid(p) for p in polygons]
        free, result = _without([shapely.make_valid(p) for p in blanks], polygons)
    mixed = [i for i, f in enumerate(free) if not f]
    sources = _Sources([*blank, *(cuts[i] for i in mixed)])
    single = len(blank) == 1 and not mixed
    pieces = []
    for piece in shapely.get_parts(result):
        if piece.geom_type != "Polygon" or piece.area < SPECK:
            continue
        if single:
            outer, inner = blank[0].wound(ccw=True), []
        else:
            outer = sources.contour(piece.exterior).wound(ccw=True)
            inner = [sources.contour(ring).wound(ccw=False) for ring in piece.interiors]
        inner += [cuts[i].wound(ccw=False) for i in range(len(cuts)) if free[i] and piece.contains(polygons[i])]
        pieces.append(Region(outer, tuple(inner)))
    return sorted(pieces, key=lambda r: -r.area)


def _without(blanks: list[Polygon], polygons: list[Polygon]) -> tuple[list[bool], shapely.Geometry]:
    """Which cuts are free, and the blanks without all others."""
    body = shapely.union_all(blanks) if len(blanks) > 1 else blanks[0]
    free = _free(body, polygons)
    mixed = [p for p, f in zip(polygons, free, strict=True) if not f]
    return free, shapely.difference(body, shapely.union_all(mixed)) if mixed else body


def intersect(region: Region, zone: Contour) -> list[Region]:
    """What of a region lies in a zone, arcs and owners kept, largest piece first."""
    return intersect_each(region, [zone])[0]


def intersect_each(region: Region, zones: Sequence[Contour]) -> list[list[Region]]:
    """What of a region lies in each zone, arcs and owners kept, largest piece first.

    Holes that a zone's edge does not meet skip the boolean and are taken over as they are.
    """
    holes = [to_polygon(c) for c in region.inner]
    outer = to_polygon(region.outer)
    tree = shapely.STRtree(holes)
    return [_in_zone(region, outer, holes, tree, zone) for zone in zones]


def _in_zone(region: Region, outer: Polygon, holes: list[Polygon], tree: shapely.STRtree, zone: Contour) -> list[Region]:
    there = to_polygon(zone)
    crossed = sorted(tree.query(there.exterior, predicate="intersects").tolist())
    whole = sorted(tree.query(there, predicate="contains_properly").tolist())
    result = shapely.intersection(Polygon(outer.exterior, [holes[i].exterior for i in crossed]), there)
    sources = _Sources([region.outer, *(region.inner[i] for i in crossed), zone])
    pieces = []
    for piece in shapely.get_parts(result):
        if piece.geom_type == "Polygon" and piece.area >= SPECK:
            shapely.prepare(piece)
            inner = [sources.contour(ring).wound(ccw=False) for ring in piece.interiors]
            inner += [region.inner[i].wound(ccw=False) for i in whole if piece.contains(holes[i])]
            pieces.append(Region(sources.contour(piece.exterior).wound(ccw=True), tuple(inner)))
    return sorted(pieces, key=lambda r: -r.area)


def _free(body: shapely.Geometry, polygons: list[Polygon]) -> list[bool]:
    """Which cuts lie inside the body and touch nothing."""
    if not polygons:
        return []
    shapely.prepare(body)
    inside = shapely.contains_properly(body, np.array(polygons))
    tree = shapely.STRtree(polygons)
    left, right = tree.query(polygons, predicate="intersects")
    touching = set(left[left != right].tolist())
    return [bool(inside[i]) and i not in touching for i in range(len(polygons))]


def _chords(segment: Segment) -> int:
    """Into how many chords ``Contour.flatten`` divides a segment."""
    if not segment.bulge:
        return 1
    _, _, radius, _, sweep = arc_from_bulge(segment.p, segment.q, segment.bulge)
    return chord_count(radius, sweep, SAGITTA)


class _Sources:
    """The input's segments, found again by their chords."""

    def __init__(self, contours: Sequence[Contour]) -> None:
        self.segments: list[Segment] = []
        starts, ends, ids = [], [], []
        for contour in contours:
            segments = contour.segments()
            first = len(self.segments)
            self.segments += segments
            points = np.round(contour.flatten(SAGITTA) / SNAP) * SNAP
            starts.append(points)
            ends.append(np.concatenate((points[1:], points[:1])))
            ids.append(np.repeat(np.arange(first, first + len(segments)), [_chords(s) for s in segments]))
        self.a, self.b, self.ids = np.vstack(starts), np.vstack(ends), np.concatenate(ids)
        self.known: dict[tuple[float, float, float, float], int] = {}
        for (ax, ay), (bx, by), k in zip(self.a.tolist(), self.b.tolist(), self.ids.tolist(), strict=True):
            self.known[(ax, ay, bx, by)] = k
            self.known[(bx, by, ax, ay)] = k

    def contour(self, ring: shapely.LinearRing) -> Contour:
        """The ring with its edges given back to their sources."""
        points = shapely.get_coordinates(ring)
        keys = np.hstack((points[:-1], points[1:])).tolist()
        owners = [self.known.get(tuple(k), -1) for k in keys]
        unknown = [i for i, k in enumerate(owners) if k < 0]
        if unknown:
            for i, k in zip(unknown, self._nearest(points[unknown], points[np.array(unknown) + 1]), strict=True):
                owners[i] = k
        return self._joined(points[:-1], owners)

    def _nearest(self, p: np.ndarray, q: np.ndarray) -> list[int]:
        """The source on whose chord both ends of each edge lie."""
        if len(p) * len(self.a) > MANY_PAIRS:
            tree = shapely.STRtree(shapely.linestrings(np.stack((self.a, self.b), axis=1)))
            return [int(k) for k in self.ids[tree.nearest(shapely.points((p + q) / 2))]]
        d = self.b - self.a
        norm = np.maximum((d * d).sum(axis=1), TINY * TINY)
        worst = np.zeros((len(p), len(d)))
        for ends in (p, q):
            rel = ends[:, None, :] - self.a[None]
            t = np.clip((rel * d).sum(axis=2) / norm, 0, 1)
            gap = rel - t[:, :, None] * d
            worst = np.maximum(worst, (gap * gap).sum(axis=2))
        return [int(k) for k in self.ids[worst.argmin(axis=1)]]

    def _joined(self, points: np.ndarray, owners: list[int]) -> Contour:
        """Runs of one source as one segment, with exact junctions between runs."""
        n = len(owners)
        first = next((i for i in range(n) if not self._same_run(owners[i - 1], owners[i])), None)
        if first is None:  # one source all round: a whole circle
            segment = self.segments[owners[0]]
            cx, cy, radius, _, _ = arc_from_bulge(segment.p, segment.q, segment.bulge)
            return circle(cx, cy, radius, segment.owner)
        order = [(first + i) % n for i in range(n)]
        runs: list[tuple[int, int]] = []  # source, index of the first point
        for i in order:
            if not runs or not self._same_run(runs[-1][0], owners[i]):
                runs.append((owners[i], i))
        corners = self._corners(runs, points)
        thin = [j for j in range(len(runs)) if math.dist(corners[j], corners[(j + 1) % len(runs)]) < 2 * SNAP]
        if thin and len(runs) - len(thin) >= 2:  # a source that is only grazed leaves no segment
            runs = [run for j, run in enumerate(runs) if j not in thin]
            runs = [run for j, run in enumerate(runs) if not self._same_run(runs[j - 1][0], run[0])]
            corners = self._corners(runs, points)
        bulges, names = [], []
        for j, (source, _) in enumerate(runs):
            segment = self.segments[source]
            names.append(segment.owner)
            p, q = corners[j], corners[(j + 1) % len(runs)]
            bulges.append(self._bulge(segment, p, q, points[runs[j][1]], points[(runs[j][1] + 1) % n]) if segment.bulge else 0.0)
        return Contour(tuple(corners), tuple(bulges), tuple(names))

    def _corners(self, runs: list[tuple[int, int]], points: np.ndarray) -> list[tuple[float, float]]:
        """The exact start of every run."""
        return [junction(self.segments[runs[j - 1][0]], self.segments[k], tuple(points[i].tolist())) for j, (k, i) in enumerate(runs)]

    def _same_run(self, a: int, b: int) -> bool:
        """Whether two sources continue one another: the same one, or collinear lines or one circle's arcs of one owner."""
        if a == b:
            return True
        s, t = self.segments[a], self.segments[b]
        if s.owner != t.owner or bool(s.bulge) != bool(t.bulge):
            return False
        if s.bulge:
            c, d = arc_from_bulge(s.p, s.q, s.bulge), arc_from_bulge(t.p, t.q, t.bulge)
            return math.dist(c[:3], d[:3]) < SNAP
        (ux, uy), (vx, vy) = s.tangents()[0], t.tangents()[0]
        if abs(ux * vy - uy * vx) > EPS:
            return False
        return abs((t.p[0] - s.p[0]) * uy - (t.p[1] - s.p[1]) * ux) < SNAP

    @staticmethod
    def _bulge(segment: Segment, p: tuple[float, float], q: tuple[float, float], a: np.ndarray, b: np.ndarray) -> float:
        cx, cy, _, _, _ = arc_from_bulge(segment.p, segment.q, segment.bulge)
        turn = (a[0] - cx) * (b[1] - cy) - (a[1] - cy) * (b[0] - cx)
        sweep = math.atan2(q[1] - cy, q[0] - cx) - math.atan2(p[1] - cy, p[0] - cx)
        sweep = sweep % (2 * math.pi) if turn > 0 else -((-sweep) % (2 * math.pi))
        return math.tan(sweep / 4)
