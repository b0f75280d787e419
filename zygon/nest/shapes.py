"""Shapes made ready for nesting: straight-sided, grown by half the gap, never smaller than the true shape, and of few corners."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour
from zygon.tolerance import CHECK, EPS, MERGED

__all__ = ["TOUCH", "envelope", "filled", "flipped", "grown", "narrowest", "outline", "turned"]

#: Shapes are taken in by this (mm) so that places that fit exactly remain places; legal layouts keep their gap to 0.001 mm.
TOUCH = 2e-4
#: Arcs are drawn round from outside, not farther away than this.
ROUND = 0.05
#: Corners are spared as long as the shape grows by no more than this share of its area.
FILL_SHARE = 0.02
#: Corners from which on sparing them pays.
MANY = 24
#: A notch of this share of the narrowest part's width takes nothing worth having.
NOTCH = 0.25


def outline(contour: Contour) -> Polygon:
    """A straight-sided polygon that contains an outer contour (counter-clockwise), at most ROUND larger."""
    points: list[tuple[float, float]] = []
    for s in contour.segments():
        points.append(s.p)
        if s.bulge:
            points += _outside(s.p, s.q, s.bulge)
    polygon = Polygon(points)
    return polygon if polygon.is_valid else polygon.buffer(0)


def _outside(p, q, bulge: float) -> list[tuple[float, float]]:
    """Points between p and q that keep an arc's chords on the outside: tangent corners for a bulging arc, arc points for a hollow one."""
    cx, cy, r, start, sweep = arc_from_bulge(p, q, bulge)
    step = 2 * math.acos(1 / (1 + ROUND / r)) if r > ROUND else math.pi / 4
    n = max(1, math.ceil(abs(sweep) / min(step, math.pi / 4)))
    if sweep > 0:
        far = r / math.cos(sweep / n / 2)
        angles = start + sweep * (np.arange(n) + 0.5) / n
    else:
        far = r
        angles = start + sweep * np.arange(1, n) / n
    return list(zip((cx + far * np.cos(angles)).tolist(), (cy + far * np.sin(angles)).tolist(), strict=True))


def grown(region: Region, gap: float, least_hole: float = 0.0) -> Polygon:
    """What nesting keeps apart: the outline with its holes, grown by half the gap less a touch; holes narrower than ``least_hole`` are filled."""
    outer = outline(region.outer)
    holes = [outline(c.wound(ccw=False)).exterior.coords for c in region.inner]
    whole = shapely.make_valid(Polygon(outer.exterior.coords, holes)).buffer(gap / 2 - TOUCH, join_style="mitre", mitre_limit=3.0)
    if whole.is_empty:
        whole = outer
    if whole.geom_type != "Polygon":
        whole = max(shapely.get_parts(whole), key=lambda p: p.area)
    if gap / 2 < TOUCH:
        whole = _with_tips(whole, outer)
    return Polygon(whole.exterior, [h for h in whole.interiors if _width(Polygon(h)) > least_hole]).simplify(MERGED)


def _with_tips(taken_in: Polygon, true: Polygon) -> Polygon:
    """A shape that was taken in by TOUCH with its sharp tips where they truly are: taken in, one of a degree would end 0.02 mm short, and stand over the sheet."""
    ring = np.asarray(orient(true).exterior.coords)[:-1]
    before, after = ring - np.roll(ring, 1, axis=0), np.roll(ring, -1, axis=0) - ring
    before, after = (d / np.maximum(np.linalg.norm(d, axis=1), EPS)[:, None] for d in (before, after))
    turn = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    half = (math.pi - np.arctan2(turn, (before * after).sum(axis=1))) / 2  # half of the corner's inside angle
    retreat = TOUCH / np.maximum(np.sin(half), EPS)
    sharp = np.flatnonzero((turn > 0) & (retreat - TOUCH > CHECK / 4))
    if not len(sharp):
        return taken_in
    rings = [np.asarray(r.coords)[:-1].copy() for r in (taken_in.exterior, *taken_in.interiors)]
    for k in sharp.tolist():
        way = after[k] - before[k]
        tip = ring[k] + way / np.linalg.norm(way) * TOUCH
        away = np.hypot(*(rings[0] - tip).T)
        near = int(away.argmin())
        if away[near] < 1.5 * retreat[k]:
            rings[0][near] = tip
    whole = Polygon(rings[0], rings[1:])
    return whole if whole.is_valid else taken_in


def narrowest(contours: Iterable[Contour]) -> float:
    """A notch narrower than this (mm) takes nothing worth having: a share of what the narrowest part measures across."""
    return NOTCH * min((_width(outline(c)) for c in contours), default=0.0)


def filled(shape: Polygon, narrow: float) -> Polygon:
    """The shape with the notches in its outline filled that are narrower than ``narrow`` mm, where that spares corners: combs become boards."""
    if narrow <= 0 or len(shape.exterior.coords) <= MANY:
        return shape
    closed = Polygon(shape.exterior).buffer(narrow / 2, join_style="mitre").buffer(-narrow / 2, join_style="mitre")
    if closed.geom_type != "Polygon":
        return shape
    whole = Polygon(shapely.union(closed, Polygon(shape.exterior)).exterior, shape.interiors).simplify(MERGED)
    return whole if whole.is_valid and len(whole.exterior.coords) < len(shape.exterior.coords) else shape


def _width(polygon: Polygon) -> float:
    """The shorter side of the narrowest rectangle round a polygon."""
    corners = np.asarray(shapely.minimum_rotated_rectangle(polygon).exterior.coords)
    return float(min(math.dist(corners[0], corners[1]), math.dist(corners[1], corners[2])))


def envelope(contour: Contour, gap: float, narrow: float = 0.0) -> Polygon:
    """What nesting keeps apart: the outline grown by half the gap (less a touch), with corners spared where that costs little.

    Notches narrower than ``narrow`` mm are filled whatever they cost.
    """
    grown = outline(contour).buffer(gap / 2 - TOUCH, join_style="mitre", mitre_limit=3.0)
    if grown.is_empty:
        grown = outline(contour)
    if gap / 2 < TOUCH and grown.geom_type == "Polygon":
        grown = _with_tips(grown, outline(contour))
    if grown.geom_type != "Polygon":
        grown = grown.convex_hull
    shape = filled(Polygon(grown.exterior), narrow)
    return orient(_spared(shape) if len(shape.exterior.coords) > MANY else shape)


def _spared(shape: Polygon) -> Polygon:
    """The shape with narrow notches filled and slight corners cut outside; contains the shape."""
    best = shape
    x0, y0, x1, y1 = shape.bounds
    for width in (2.0, 5.0, 10.0, 20.0, 40.0, 80.0):
        if width > max(x1 - x0, y1 - y0):
            break
        filled = shape.buffer(width / 2, join_style="mitre").buffer(-width / 2, join_style="mitre")
        if filled.geom_type != "Polygon":
            continue
        filled = Polygon(filled.union(shape).exterior)
        if filled.area > shape.area * (1 + FILL_SHARE):
            break
        if len(filled.exterior.coords) < len(best.exterior.coords):
            best = filled
    if len(best.exterior.coords) > 3 * MANY:
        tolerance = 0.002 * math.sqrt(shape.area)
        slim = Polygon(best.simplify(tolerance).buffer(tolerance, join_style="mitre").exterior)
        if slim.contains(shape) and len(slim.exterior.coords) < len(best.exterior.coords):
            best = slim
    hull = shape.convex_hull
    if hull.area <= best.area * (1 + FILL_SHARE / 2) and len(hull.exterior.coords) < len(best.exterior.coords):
        best = hull
    return best.simplify(MERGED)


def turned(polygon: Polygon, angle: float) -> Polygon:
    """The polygon turned about its origin; exact at quarter turns."""
    quarter = angle / (math.pi / 2)
    if abs(quarter - round(quarter)) < EPS:
        c, s = ((1, 0), (0, 1), (-1, 0), (0, -1))[round(quarter) % 4]
        return shapely.transform(polygon, lambda xy: xy @ np.array([[c, s], [-s, c]], float))
    return affinity.rotate(polygon, angle, origin=(0, 0), use_radians=True)


def flipped(polygon: Polygon, mirrored: bool) -> Polygon:
    """The polygon with x to -x, where so said."""
    return shapely.transform(polygon, lambda xy: xy * (-1.0, 1.0)) if mirrored else polygon
