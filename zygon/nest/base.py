"""Shapes as the kernels see them: outlines with holes, grown by half the gap, and the circles inscribed in them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from zygon.nest.kernels import PAIRS, POLES, lay
from zygon.tolerance import TINY

__all__ = ["Base", "base_of", "poles_of"]

#: A circle smaller than this share of the largest adds nothing.
LEAST_POLE = 0.2
#: Points at which distances to the edge are taken to find the circles.
GRID = 1600


def poles_of(polygon: Polygon) -> np.ndarray:
    """Inscribed circles (POLES, 3), largest first, each reaching into the ones before it as little as it can; unused rows have radius 0."""
    x0, y0, x1, y1 = polygon.bounds
    step = math.sqrt(max((x1 - x0) * (y1 - y0), TINY) / GRID)
    xs, ys = np.arange(x0 + step / 2, x1, step), np.arange(y0 + step / 2, y1, step)
    points = np.stack(np.meshgrid(xs, ys), axis=-1).reshape(-1, 2) if len(xs) and len(ys) else np.empty((0, 2))
    inner = shapely.maximum_inscribed_circle(polygon, tolerance=step / 4)
    points = np.vstack((shapely.get_coordinates(inner)[:1], points))
    shapely.prepare(polygon)
    inside = shapely.contains_xy(polygon, points[:, 0], points[:, 1])
    inside[0] = True
    points = points[inside]
    room = shapely.distance(shapely.points(points), polygon.boundary)
    found = np.zeros((POLES, 3))
    for k in range(POLES):
        best = 0 if k == 0 else int(np.argmax(room))
        if k and room[best] < LEAST_POLE * found[0, 2]:
            break
        found[k] = (*points[best], room[best])
        room = np.minimum(room, np.hypot(*(points - points[best]).T) - found[k, 2])
    return found


@dataclass(frozen=True)
class Base:
    """Outlines one after the other (arrays as ``kernels`` has them), and the turns that each may take with the box and the outline it then has."""

    polygons: tuple[Polygon, ...]
    points: np.ndarray
    first: np.ndarray
    after: np.ndarray
    poles: np.ndarray
    size: np.ndarray
    turn_first: np.ndarray
    turns: np.ndarray
    extents: np.ndarray
    free: np.ndarray
    lain: np.ndarray
    lain_first: np.ndarray
    lain_after: np.ndarray
    lain_poles: np.ndarray
    lain_rows: np.ndarray


def base_of(polygons: Sequence[Polygon], turns: Sequence[Sequence[tuple[float, bool]]], free: Sequence[bool] = ()) -> Base:
    """The base of grown outlines; ``turns`` are (angle in radians, mirrored) of each, ``free`` whether it takes any angle beside them.

    Outlines lie ready at every turn in ``lain``, in the order of the turns.
    """
    points: list[np.ndarray] = []
    after: list[np.ndarray] = []
    poles: list[np.ndarray] = []
    first, size = [0], list[tuple[float, float]]()
    turn_first, flat_turns, extents = [0], list[tuple[float, float]](), list[tuple[float, ...]]()
    for polygon, own in zip(polygons, turns, strict=True):
        polygon = orient(polygon)  # the material is to the left of every edge
        for ring in (polygon.exterior, *polygon.interiors):
            corners = np.asarray(ring.coords)[:-1]
            start = sum(len(p) for p in points)
            points.append(corners)
            after.append(start + (np.arange(len(corners)) + 1) % len(corners))
        first.append(sum(len(p) for p in points))
        poles.append(poles_of(polygon).T)
        hull = polygon.convex_hull
        size.append((math.sqrt(hull.area), _diameter(np.asarray(hull.exterior.coords))))
        corners = np.asarray(polygon.exterior.coords)
        for angle, mirrored in own:
            flipped = corners * (-1.0 if mirrored else 1.0, 1.0)
            c, s = math.cos(angle), math.sin(angle)
            turned = flipped @ np.array([[c, s], [-s, c]])
            flat_turns.append((angle, float(mirrored)))
            extents.append((*turned.min(axis=0), *turned.max(axis=0)))
        turn_first.append(len(flat_turns))
    all_points, all_first, all_after = np.vstack(points), np.array(first), np.concatenate(after)
    all_poles, all_turns = np.ascontiguousarray(poles), np.array(flat_turns, float)
    shapes = np.repeat(np.arange(len(polygons)), np.diff(turn_first))
    lain_first = np.concatenate(([0], np.cumsum(np.diff(all_first)[shapes]))).astype(np.int64)
    lain, lain_poles, boxes = np.zeros((int(lain_first[-1]), 2)), np.zeros((len(shapes), 3, POLES)), np.zeros((len(shapes), 4))
    lain_rows = np.zeros((len(shapes), 3, PAIRS), np.float32)
    lain_after = np.concatenate(
        [all_after[all_first[s] : all_first[s + 1]] - all_first[s] + lain_first[t] for t, s in enumerate(shapes.tolist())]
    )
    for n, s in enumerate(shapes.tolist()):
        lay(
            n,
            np.array([0.0, 0.0, *all_turns[n]]),
            all_points,
            all_first,
            all_poles,
            s,
            lain,
            lain_first,
            boxes,
            lain_poles,
            lain_rows,
            True,
        )
    taken = np.array(free if len(free) else [False] * len(polygons), dtype=np.int64)
    return Base(
        tuple(polygons),
        all_points,
        all_first,
        all_after,
        all_poles,
        np.array(size, float),
        np.array(turn_first),
        all_turns,
        np.array(extents, float),
        taken,
        lain,
        lain_first,
        lain_after,
        lain_poles,
        lain_rows,
    )


def _diameter(hull: np.ndarray) -> float:
    return float(max(np.hypot(*(hull - p).T).max() for p in hull))
