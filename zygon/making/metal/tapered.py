"""Flanges that are shorter at their far edge than along their bend, as mitres and covered corners cut them back."""

from __future__ import annotations

import math

import numpy as np
import shapely

from zygon.geometry.boolean import to_polygon
from zygon.making.metal.legs import record_of
from zygon.making.result.fold import Fold

__all__ = ["cut_back"]

#: A far edge that is shorter by less than this (mm) is as long as the bend.
LEAST = 0.5
#: Widths are measured at these shares of the way out, clear of rounded corners, and drawn on to the far edge.
NEAR, FAR = 0.25, 0.75


def cut_back(fold: Fold) -> dict[str, tuple[float, float]]:
    """By a flange's record the length along its bend and at its far edge in mm, where the latter is shorter."""
    found = {}
    for face, bend in zip(fold.faces[1:], fold.bends, strict=True):
        shape = shapely.union_all([to_polygon(c) for c in face.outline])
        if shape.is_empty:
            continue
        along, out, start = np.array(bend.along), np.array(bend.outward), np.array(bend.start)
        reach = float(((shapely.get_coordinates(shape) - start) @ out).max())
        near, far = (_width(shape, start + out * (bend.width + (reach - bend.width) * s), along) for s in (NEAR, FAR))
        whole = math.dist(bend.start, bend.end)
        edge = far - (near - far) * (1 - FAR) / (FAR - NEAR)
        if near - far > LEAST / 2 and whole - edge > LEAST:
            found[record_of(face.key)] = (whole, max(edge, 0.0))
    return found


def _width(shape: shapely.Geometry, at: np.ndarray, along: np.ndarray) -> float:
    """How wide a shape is on the line through a place, from its first point to its last."""
    x0, y0, x1, y1 = shape.bounds
    far = (x1 - x0) + (y1 - y0) + 1.0
    cut = shapely.intersection(shape, shapely.LineString([at - along * far, at + along * far]))
    if cut.is_empty:
        return 0.0
    places = (shapely.get_coordinates(cut) - at) @ along
    return float(places.max() - places.min())
