"""Pockets: cleared layer by layer by the bit of outlines, then finer bits where it does not get."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import shapely

from zygon.geometry.boolean import region_polygon
from zygon.geometry.contour import Contour, Point
from zygon.making.result.operations import Pocket
from zygon.tolerance import SAGITTA
from zygon.toolpath.clearing import QUARTER, TIGHT, cleared, eroded, linked, rings_of, swept
from zygon.toolpath.descents import across, down, levels_of, link
from zygon.toolpath.milling import Milling
from zygon.toolpath.routed import BitWork, Dips, Leg

__all__ = ["Area", "area_of", "layers", "milled_area", "rest_of"]

#: Where a pocket is open at an edge the bit's middle goes so far past it (mm).
PAST = 0.05
#: Less than this (mm²), or narrower than this (mm), is nothing that is left.
SPECK, THIN = 0.01, 0.004


@dataclass(frozen=True)
class Area:
    """What is to be cleared, and ``room``, what may be cut while that is done: waste beside it too."""

    wanted: shapely.Geometry
    room: shapely.Geometry


def area_of(pocket: Pocket, body: shapely.Geometry, others: shapely.Geometry, radius: float) -> Area:
    """The area of a pocket where it lies on the sheet; ``body`` is what stays of its piece, ``others`` of its neighbours. Open at the edges of its piece."""
    sunk = region_polygon(pocket.region, SAGITTA)
    beside = shapely.difference(shapely.buffer(sunk, radius + PAST, quad_segs=QUARTER), shapely.union(body, others))
    return Area(shapely.intersection(sunk, body), shapely.union(sunk, beside))


def milled_area(area: Area, bit: BitWork, m: Milling, depth: float, at: Point) -> tuple[Dips, shapely.Geometry]:
    """The dips that clear an area to a depth (mm) with a bit, and what it does not reach. No dips where it gets in nowhere."""
    middles = eroded(area.room, bit.diameter / 2)
    middles = shapely.union_all([p for p in shapely.get_parts(middles) if shapely.intersects(swept(p, bit.diameter / 2), area.wanted)])
    if shapely.is_empty(middles):
        return (), area.wanted
    return tuple(layers(middles, bit, m, levels_of(depth, bit.pass_depth), at)), _left(area.wanted, swept(middles, bit.diameter / 2))


def _left(wanted: shapely.Geometry, done: shapely.Geometry) -> shapely.Geometry:
    left = shapely.difference(wanted, done)
    firm = shapely.buffer(shapely.buffer(left, -THIN / 2), THIN / 2)
    return shapely.union_all([p for p in shapely.get_parts(firm) if shapely.area(p) > SPECK])


def layers(middles: shapely.Geometry, bit: BitWork, m: Milling, levels: Sequence[float], at: Point) -> Iterator[tuple[Leg, ...]]:
    """Dips that clear all places where the bit's middle may be, level by level, and run along the wall once more where something was left for that."""
    rings = rings_of(middles, m.step * bit.diameter, bit.diameter / 2, m.finish)
    wall = [r for r in rings_of(middles, m.step * bit.diameter, bit.diameter / 2) if r.level == 0] if m.finish else []
    if not rings:  # no room for more than the finishing run
        rings, wall = wall, []
    groups = linked(cleared(rings, m.climb, at), middles)
    if len(groups) == 1 and len(groups[0]) == 1:
        yield down(groups[0][0], 0.0, levels, m.slope)
    else:
        above = 0.0
        for z in levels:
            for group in groups:
                yield _at_level(group, above, z, m.slope)
            above = z
    for run in cleared(wall, m.climb, at):
        yield down(run, 0.0, levels[-1:], 0.0)


def _at_level(group: Sequence[Contour], above: float, z: float, slope: float) -> tuple[Leg, ...]:
    legs = list(down(group[0], above, [z], slope, home=True))
    for before, run in zip(group, group[1:], strict=False):
        p, q = before.points[-1], run.points[0]
        if p != q:
            legs.append(link(p, q, z))
        if run.bulges:
            legs.append(Leg(run, z, z))
    return tuple(legs)


def rest_of(area: Area, left: shapely.Geometry, bit: BitWork, m: Milling, depth: float) -> tuple[Dips, shapely.Geometry]:
    """The dips of a finer bit in what another left of an area, and what it leaves in turn."""
    r = bit.diameter / 2
    middles = eroded(area.room, r)
    near = shapely.intersection(middles, shapely.buffer(left, r, quad_segs=QUARTER))
    reached = shapely.intersection(swept(near, r), left)
    if shapely.area(reached) <= SPECK:
        return (), left
    zone = shapely.buffer(left, r + TIGHT, quad_segs=QUARTER)
    levels = levels_of(depth, bit.pass_depth)
    dips = []
    for ring in rings_of(middles, m.step * bit.diameter, r):
        chords = ring.run.flatten(TIGHT * 4)
        line = shapely.LineString([*chords, chords[0]]) if ring.run.closed else shapely.Point(chords[0])
        for piece in shapely.get_parts(shapely.line_merge(shapely.intersection(line, zone))):
            if piece.geom_type == "LineString" and piece.length > TIGHT:
                points = [(float(x), float(y)) for x, y in shapely.get_coordinates(piece)]
                run = Contour(tuple(points), (0.0,) * (len(points) - 1), ("",) * (len(points) - 1), closed=False)
                dips.append(across(run, levels))
    return tuple(dips), _left(left, swept(near, r))
