"""What a router's program leaves of a sheet, slab by slab, and where that is not the part: material that stays though it was to go (rest), and what of a part is cut away (gouge)."""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely

from zygon.design.document import Document
from zygon.geometry.boolean import Region, region_polygon, to_polygon
from zygon.nest.design import StockNest
from zygon.program.of_design import SheetProgram
from zygon.program.places import place_at
from zygon.program.read import Move
from zygon.toolpath.pieces import CHORD, Piece, pieces_of, placed, sheet_of
from zygon.toolpath.routed import BitWork, RoutedPaths

__all__ = ["Difference", "Material", "Slab", "material_of", "ways_of"]

#: Heights nearer to each other (mm) are one; a slab is no thinner.
LEVEL = 0.02
#: A gouge is one from this depth on (mm), as programs and arcs are as near as that to what was drawn; a rest from this area on (mm²).
NEAR, LEAST = 0.015, 0.05
#: Steps that a cone is told in.
CONE = 4
#: Slabs at most; more heights are left out, the shallow ones among many.
MOST = 24


@dataclass(frozen=True)
class Slab:
    """What stays between two depths under the face (mm)."""

    top: float
    bottom: float
    left: shapely.Geometry


@dataclass(frozen=True)
class Difference:
    """A place where what is left is not the part: ``mm`` high where it stays, or deep into the part where that is cut; ``at`` on the sheet, ``area`` in mm²."""

    kind: Literal["rest", "gouge"]
    key: str
    copy: int
    where: Literal["pocket", "hole", "opening", "part"]
    mm: float
    area: float
    at: tuple[float, float]
    shape: shapely.Geometry


@dataclass(frozen=True)
class Material:
    """The sheet after a program: slabs from the face down to the bed, and what differs, the worst first."""

    thickness: float
    slabs: tuple[Slab, ...]
    differences: tuple[Difference, ...]

    @property
    def volume(self) -> float:
        """Of what is left, mm³."""
        return sum(s.left.area * (s.bottom - s.top) for s in self.slabs)


@dataclass(frozen=True)
class _Swath:
    places: tuple[tuple[float, float], ...]
    shallow: float
    deep: float
    bit: BitWork


def material_of(document: Document, nest: StockNest, number: int, made: SheetProgram) -> Material:
    """What the program of a sheet leaves. Of slopes counts what lies under them for certain. Raises TypeError for a beam's program, which leaves no depths."""
    paths = made.paths
    if not isinstance(paths, RoutedPaths):
        raise TypeError("a beam's program")
    swaths = _swaths(made, paths)
    pieces = pieces_of(document, nest, number)
    (long, _), sheet = sheet_of(nest, number)
    turned = long if paths.under else None
    sheet = _turned(sheet, turned)
    pockets = [_pockets(p, paths.under, turned) for p in pieces]
    bodies = [_turned(_whole(p), turned) for p in pieces]
    levels = _levels(swaths, [d for some in pockets for d, _, _ in some], paths.thickness)
    gone = _gone(swaths, levels)
    slabs = [Slab(top, bottom, shapely.difference(sheet, g)) for top, bottom, g in zip(levels, levels[1:], gone, strict=False)]
    found = [d for p, b, q in zip(pieces, bodies, pockets, strict=True) for d in _differences(p, b, q, slabs, gone, paths)]
    return Material(paths.thickness, tuple(_merged(slabs)), tuple(sorted(found, key=lambda d: (d.kind != "gouge", -d.mm, -d.area))))


def _swaths(made: SheetProgram, paths: RoutedPaths) -> list[_Swath]:
    face = paths.thickness if paths.routing.zero == "bed" else 0.0
    bits = {b.number: b for b in paths.bits.values()}
    return [
        _Swath(ways_of(m), face - max(m.p[2], m.q[2]), face - min(m.p[2], m.q[2]), bits[m.tool])
        for m in made.program.moves
        if m.kind in ("line", "arc") and m.tool in bits and min(m.p[2], m.q[2]) < face - LEVEL
    ]


def ways_of(m: Move) -> tuple[tuple[float, float], ...]:
    """The places along a move in the plane, mm; arcs as chords, one of a move straight down."""
    if m.kind != "arc" or m.centre is None:
        return (m.p[:2],) if m.p[:2] == m.q[:2] else (m.p[:2], m.q[:2])
    r = max(math.dist(m.p[:2], m.centre), LEVEL)
    n = max(4, math.ceil(abs(m.sweep) / math.acos(max(0.0, 1 - CHORD / 2 / r)) / 2))
    return tuple(place_at(m, k / n)[:2] for k in range(n + 1))


def _levels(swaths: Sequence[_Swath], pockets: Sequence[float], thickness: float) -> list[float]:
    """Depths between which all is alike: those of level ways and of pockets, and steps down a cone."""
    found = {0.0, thickness, *(d for d in pockets if d < thickness - LEVEL)}
    for s in swaths:
        if s.deep - s.shallow < LEVEL and s.deep < thickness - LEVEL:
            found.add(s.deep)
        if s.bit.angle:
            found |= {s.deep * k / CONE for k in range(1, CONE) if s.deep * k / CONE < thickness}
    ordered = sorted(found)
    apart = [ordered[0]]
    for d in ordered[1:]:
        if d - apart[-1] > LEVEL:
            apart.append(d)
    apart[-1] = max(apart[-1], thickness)
    while len(apart) > MOST + 1:  # the thinnest slab goes into the one under it
        thinnest = min(range(1, len(apart) - 1), key=lambda k: apart[k] - apart[k - 1])
        del apart[thinnest]
    return apart


def _gone(swaths: Sequence[_Swath], levels: Sequence[float]) -> list[shapely.Geometry]:
    """What is gone of each slab, all the way to its bottom; of a cone as it is in the slab's middle. What goes deeper goes through all above it."""
    count = len(levels) - 1
    runs: list[list[tuple[list[tuple[float, float]], float]]] = [[] for _ in range(count)]
    before: tuple[float, int] | None = None
    for s in swaths:
        # into so many slabs it goes wholly; what follows on and goes as deep is one run
        reach = 0 if s.bit.angle else min(bisect_right(levels, s.shallow + LEVEL) - 1, count)
        if reach < 1:
            before = None
            continue
        own = runs[reach - 1]
        if before == (s.bit.diameter, reach) and own[-1][0][-1] == s.places[0]:
            own[-1][0].extend(s.places[1:])
        else:
            own.append((list(s.places), s.bit.diameter / 2))
        before = (s.bit.diameter, reach)
    found: list[shapely.Geometry] = []
    away: shapely.Geometry = shapely.Polygon()
    for k in reversed(range(count)):
        away = shapely.union_all([away, *_swept(runs[k])])
        middle = (levels[k] + levels[k + 1]) / 2
        cones = [(list(s.places), (s.shallow - middle) * math.tan(s.bit.angle / 2)) for s in swaths if s.bit.angle and s.shallow > middle]
        found.append(shapely.union_all([away, *_swept(cones)]) if cones else away)
    return found[::-1]


def _swept(runs: Sequence[tuple[list[tuple[float, float]], float]]) -> list[shapely.Geometry]:
    lines = np.array([shapely.LineString(p) if len(p) > 1 else shapely.Point(p[0]) for p, _ in runs], object)
    return list(shapely.buffer(lines, np.array([r for _, r in runs]), quad_segs=24)) if runs else []


def _turned(shape: shapely.Geometry, long: float | None) -> shapely.Geometry:
    return shape if long is None else shapely.transform(shape, lambda xy: np.column_stack((long - xy[:, 0], xy[:, 1])))


def _whole(p: Piece) -> shapely.Geometry:
    """A part where it lies, with all of its holes, also those that are drilled."""
    outer = shapely.union_all([region_polygon(Region(r.outer, ()), CHORD) for r in p.flat.pieces])
    holes = shapely.union_all([to_polygon(c, CHORD) for c in p.flat.inside])
    return placed(shapely.difference(outer, holes), p.placement)


def _pockets(p: Piece, under: bool, turned: float | None) -> list[tuple[float, shapely.Geometry, str]]:
    """Depth and place of what is cleared of a piece from this side, and the trade's word for it."""
    own = [q for q in p.flat.pockets if (q.face == p.flat.seen) != under]
    return [(q.depth, _turned(placed(region_polygon(q.region, CHORD), p.placement), turned), q.what) for q in own]


def _differences(
    p: Piece,
    body: shapely.Geometry,
    asked: Sequence[tuple[float, shapely.Geometry, str]],
    slabs: Sequence[Slab],
    gone: Sequence[shapely.Geometry],
    paths: RoutedPaths,
) -> list[Difference]:
    found: list[Difference] = []

    def add(
        kind: Literal["rest", "gouge"], where: Literal["pocket", "hole", "opening", "part"], shape: shapely.Geometry, mm: float
    ) -> None:
        at = shapely.point_on_surface(shape)
        found.append(Difference(kind, p.key, p.copy, where, mm, shape.area, (float(at.x), float(at.y)), shape))

    cut_marks = (
        shapely.union_all([_turned(to_polygon(c, CHORD), paths.size[0] if paths.under else None) for c in p.contours.marks if c.closed])
        if p.contours.marks
        else None
    )
    # what is left to a drill in the hand is told as such
    drilled = shapely.union_all([q for d, q, what in asked if what == "hole"])
    pockets = [(d, q) for d, q, _ in asked]
    for slab, away in zip(slabs, gone, strict=True):
        stays = shapely.difference(body, shapely.union_all([q for d, q in pockets if d > slab.top + LEVEL / 2]))
        cut = shapely.intersection(away, shapely.buffer(stays, -NEAR))
        shallow = slab.bottom <= _sunk(p, paths)
        for part in shapely.get_parts(cut):
            if part.area > LEAST and not shallow and (cut_marks is None or not cut_marks.intersects(part)):
                add("gouge", "part", part, _into(part, stays))
    for deep in sorted({d for d, _ in pockets}):
        wanted = shapely.union_all([q for d, q in pockets if abs(d - deep) < LEVEL])
        over = [(s, a) for s, a in zip(slabs, gone, strict=True) if s.bottom <= deep + LEVEL]
        if over:
            left = shapely.difference(wanted, over[-1][1])
            for part in shapely.get_parts(shapely.buffer(shapely.buffer(left, -NEAR / 4), NEAR / 4)):
                if part.area > LEAST:
                    high = sum(s.bottom - s.top for s, a in over if shapely.intersection(part, a).area < part.area / 2)
                    add("rest", "hole" if shapely.intersection(part, drilled).area > part.area / 2 else "pocket", part, high)
    if not paths.under:
        holes = shapely.union_all([shapely.Polygon(r) for one in shapely.get_parts(body) for r in one.interiors])
        left = shapely.difference(holes, gone[0])
        for part in shapely.get_parts(shapely.buffer(shapely.buffer(left, -NEAR / 4), NEAR / 4)):
            # what lies free drops out; what hangs on the part is a corner that the bit does not get into
            if part.area > LEAST and part.distance(body) < NEAR and part.area < paths.kerf**2:
                add("rest", "opening", part, paths.thickness)
    return found


def _sunk(p: Piece, paths: RoutedPaths) -> float:
    """How deep V bits mark or sink into a piece, which is no gouge."""
    own = [c for c in paths.cuts if c.key == p.key and c.copy == p.copy and paths.bits[c.bit].angle]
    return max((-leg.z1 for c in own for dip in c.dips for leg in dip), default=0.0) + LEVEL if own else 0.0


def _into(part: shapely.Geometry, stays: shapely.Geometry) -> float:
    """How far a cut reaches into what stays, mm."""
    edge = stays.boundary
    return NEAR + max((edge.distance(shapely.Point(c)) for c in shapely.get_coordinates(part).tolist()), default=0.0)


def _merged(slabs: Sequence[Slab]) -> list[Slab]:
    """Slabs that are alike as one."""
    found: list[Slab] = []
    for s in slabs:
        if found and shapely.symmetric_difference(found[-1].left, s.left).area < 1.0:
            found[-1] = Slab(found[-1].top, s.bottom, found[-1].left)
        else:
            found.append(s)
    return found
