"""No-fit polygons: where a shape's origin may not go because the shape would overlap one that lies still.

By the Minkowski sum of the still shape and the point-mirrored moving one; hollow shapes are first cut into convex pieces
(triangles, merged while they stay convex), whose sums are unions of convex hulls of vertex sums.
"""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import Polygon

from zygon.tolerance import EPS

__all__ = ["convex_pieces", "no_fit"]


def convex_pieces(polygon: Polygon) -> list[np.ndarray]:
    """The polygon as convex pieces, each (n, 2) float counter-clockwise."""
    hull = polygon.convex_hull
    if hull.area - polygon.area <= EPS * hull.area:
        return [_ccw(np.asarray(hull.exterior.coords)[:-1])]
    triangles = [_ccw(np.asarray(t.exterior.coords)[:-1]) for t in shapely.get_parts(shapely.constrained_delaunay_triangles(polygon))]
    return _merged(triangles)


def _ccw(points: np.ndarray) -> np.ndarray:
    x, y = points[:, 0], points[:, 1]
    area = (x * np.roll(y, -1) - np.roll(x, -1) * y).sum()
    return points if area > 0 else points[::-1]


def _merged(pieces: list[np.ndarray]) -> list[np.ndarray]:
    """Greedily joins pieces over shared edges while the union stays convex (after Hertel and Mehlhorn, 1983)."""
    pieces = list(pieces)
    i = 0
    while i < len(pieces):
        j = i + 1
        while j < len(pieces):
            joined = _join(pieces[i], pieces[j])
            if joined is None:
                j += 1
            else:
                pieces[i] = joined
                pieces.pop(j)
                j = i + 1
        i += 1
    return pieces


def _join(a: np.ndarray, b: np.ndarray) -> np.ndarray | None:
    index = {tuple(p): k for k, p in enumerate(b.tolist())}
    n, m = len(a), len(b)
    for k in range(n):
        p, q = tuple(a[k].tolist()), tuple(a[(k + 1) % n].tolist())
        if p in index and q in index and (index[q] + 1) % m == index[p]:
            rest = np.roll(b, -index[p], axis=0)[1:-1]
            ring = np.vstack((a[: k + 1], rest, a[k + 1 :]))
            d = np.roll(ring, -1, axis=0) - ring
            e = np.roll(d, -1, axis=0)
            turns = d[:, 0] * e[:, 1] - d[:, 1] * e[:, 0]
            return ring if (turns >= -EPS).all() else None
    return None


def no_fit(still: list[np.ndarray], moving: list[np.ndarray]) -> Polygon:
    """The no-fit polygon of ``moving`` about ``still`` (convex pieces), both at their origins; outer boundary with its holes."""
    sums = [(a[:, None, :] - b[None, :, :]).reshape(-1, 2) for a in still for b in moving]
    of = np.repeat(np.arange(len(sums)), [len(s) for s in sums])
    hulls = shapely.convex_hull(shapely.multipoints(shapely.points(np.concatenate(sums)), indices=of))
    return shapely.union_all(hulls) if len(hulls) > 1 else hulls[0]
