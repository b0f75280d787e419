"""Where a part may go by hand: on each sheet the places of its origin that break no rule, from no-fit polygons."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import Polygon, box

from zygon.geometry.boolean import Region
from zygon.nest.ground import ground_of
from zygon.nest.nofit import convex_pieces, no_fit
from zygon.nest.shapes import TOUCH, envelope, grown, turned
from zygon.nest.task import NestSheet, Placement, Task

__all__ = ["room_on"]

#: Outlines of more corners than this are taken with their small corners spared.
MANY = 64
#: A roll offers room as far as it is used, and so much (mm) beyond for what is carried there.
BEYOND = 1.0

Rings = list[list[tuple[float, float]]]


@lru_cache(maxsize=4000)
def _lying(region: Region, gap: float, angle: float, mirrored: bool) -> tuple[Polygon, tuple[np.ndarray, ...]]:
    """A grown outline as it lies at 0, 0, and its convex pieces."""
    polygon = grown(region, gap)
    if len(shapely.get_coordinates(polygon)) > MANY:
        polygon = envelope(region.outer, gap)
    if mirrored:
        polygon = shapely.transform(polygon, lambda xy: xy * (-1.0, 1.0))
    polygon = turned(polygon, angle)
    return polygon, tuple(convex_pieces(polygon))


@lru_cache(maxsize=4000)
def _no_fit(still: tuple, moving: tuple) -> shapely.Geometry:
    return no_fit(list(_lying(*still)[1]), list(_lying(*moving)[1]))


def room_on(task: Task, sheet: NestSheet, still: Sequence[Placement], moving: Placement) -> list[Rings]:
    """The free places of ``moving``'s origin beside what lies still on a sheet: pieces, each its ring and the rings of its holes, in mm.

    Anywhere in them, edges included, the layout is legal to 0.001 mm. Empty where the part has no place there as it is turned.
    """
    own = (task.shapes[moving.shape].region, task.gap, moving.angle, moving.mirrored)
    polygon, pieces = _lying(*own)
    x0, y0, x1, y1 = polygon.bounds
    g = ground_of(task, sheet)
    high_x = g.high_x
    if sheet.roll:
        reach = max((_lying(task.shapes[p.shape].region, task.gap, p.angle, p.mirrored)[0].bounds[2] + p.x for p in still), default=g.low_x)
        high_x = reach + BEYOND + x1 - x0
    low = g.low_x - x0, g.low_y - y0
    high = high_x - x1, g.high_y - y1
    if high[0] < low[0] - TOUCH or high[1] < low[1] - TOUCH:
        return []
    inner = box(low[0] - TOUCH / 2, low[1] - TOUCH / 2, max(high[0], low[0]) + TOUCH / 2, max(high[1], low[1]) + TOUCH / 2)
    blocked = []
    for p in still:
        other = _no_fit((task.shapes[p.shape].region, task.gap, p.angle, p.mirrored), own)
        blocked.append(shapely.transform(other, lambda xy, d=(p.x, p.y): xy + d))
    for obstacle in g.obstacles:
        blocked.append(no_fit(convex_pieces(obstacle), list(pieces)))
    free = shapely.difference(inner, shapely.union_all(blocked)) if blocked else inner
    return [_rings(p) for p in shapely.get_parts(free) if p.geom_type == "Polygon" and not p.is_empty]


def _rings(polygon: Polygon) -> Rings:
    return [[(round(x, 5), round(y, 5)) for x, y in ring.coords[:-1]] for ring in (polygon.exterior, *polygon.interiors)]
