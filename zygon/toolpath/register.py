"""Register holes of a sheet that is worked on both faces: two that fall on one another's places when it is turned over."""

from __future__ import annotations

import numpy as np
import shapely

from zygon.geometry.contour import Point

__all__ = ["PIN", "register_holes"]

#: How deep a pin stands in the bed (mm).
PIN = 6.0
#: How far apart places are tried (mm).
STEP = 5.0


def register_holes(size: tuple[float, float], bodies: shapely.Geometry, diameter: float) -> tuple[Point, Point] | None:
    """Two places as far from the left edge as from the right, at one height, a bit away from all pieces; None where there are none."""
    long, wide = size
    keep = shapely.buffer(bodies, 1.5 * diameter)
    shapely.prepare(keep)
    heights = sorted(np.arange(diameter * 1.5, wide - diameter * 1.5 + STEP / 2, STEP).tolist(), key=lambda y: (abs(y - wide / 2), y))
    for x in np.arange(diameter * 1.5, long / 2 - diameter, STEP).tolist():
        for y in heights:
            if not shapely.intersects(keep, shapely.MultiPoint([(x, y), (long - x, y)])):
                return (float(x), float(y)), (float(long - x), float(y))
    return None
