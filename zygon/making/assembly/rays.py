"""Sliding of parts that stand at an angle: rays along the way through both, and on each where the one begins and the other ends."""

from __future__ import annotations

import numpy as np

from zygon.making.kinds.registry import meshes_of
from zygon.making.result.built import MadePart
from zygon.memo import Memo, digest
from zygon.tolerance import EPS

__all__ = ["ray_runs_into"]

_TRIANGLES = Memo(2000)
_ALONG = Memo(2000)
#: Rays along the shorter and the longer side of what both parts cover, seen along the way.
ACROSS = 20


def _triangles(part: MadePart) -> np.ndarray:
    """(n, 3, 3): the part's triangles in the room."""
    key = digest("triangles", part.body.digest, part.matrix)

    def make() -> np.ndarray:
        m = np.array(part.matrix)
        found = [mesh.positions[mesh.triangles] @ m[:3, :3].T + m[:3, 3] for mesh in meshes_of(part)]
        return np.concatenate(found)

    return _TRIANGLES.get(key, make)[0]


def _crossings(triangles: np.ndarray, points: np.ndarray, axis: int) -> tuple[np.ndarray, np.ndarray]:
    """Least and greatest place along an axis at which rays through ``points`` (n, 2) meet triangles; inf and -inf where they do not."""
    u, v = [i for i in range(3) if i != axis]
    low, high = points.min(axis=0), points.max(axis=0)
    near = (triangles[:, :, [u, v]].max(axis=1) >= low).all(axis=1) & (triangles[:, :, [u, v]].min(axis=1) <= high).all(axis=1)
    triangles = triangles[near]
    a, b, c = (triangles[:, k] for k in range(3))
    det = (b[:, u] - a[:, u]) * (c[:, v] - a[:, v]) - (c[:, u] - a[:, u]) * (b[:, v] - a[:, v])
    keep = np.abs(det) > EPS
    a, b, c, det = a[keep], b[keep], c[keep], det[keep]
    x, y = points[:, 0:1] - a[:, u], points[:, 1:2] - a[:, v]
    s = (x * (c[:, v] - a[:, v]) - y * (c[:, u] - a[:, u])) / det
    t = (y * (b[:, u] - a[:, u]) - x * (b[:, v] - a[:, v])) / det
    inside = (s >= 0) & (t >= 0) & (s + t <= 1)
    at = a[:, axis] + s * (b[:, axis] - a[:, axis]) + t * (c[:, axis] - a[:, axis])
    return np.where(inside, at, np.inf).min(axis=1, initial=np.inf), np.where(inside, at, -np.inf).max(axis=1, initial=-np.inf)


def _along(a: MadePart, b: MadePart, axis: int, tolerance: float) -> tuple[np.ndarray, ...]:
    """On every ray through both: a's first and last wood, b's first and last; remembered, since how far a part drops is found by halving."""
    key = digest("along", a.body.digest, a.matrix, b.body.digest, b.matrix, axis, tolerance)

    def make() -> tuple[np.ndarray, ...]:
        others = [i for i in range(3) if i != axis]
        (al, ah), (bl, bh) = a.reaches, b.reaches
        sides = [np.linspace(max(al[i], bl[i]) + tolerance / 2, min(ah[i], bh[i]) - tolerance / 2, ACROSS) for i in others]
        points = np.stack(np.meshgrid(*sides, indexing="ij"), axis=-1).reshape(-1, 2)
        return (*_crossings(_triangles(a), points, axis), *_crossings(_triangles(b), points, axis))

    return _ALONG.get(key, make)[0]


def ray_runs_into(a: MadePart, b: MadePart, axis: int, sign: int, reach: float, tolerance: float) -> bool:
    """Whether part a, moved along an axis over ``reach`` mm, would run into part b; places finer than the rays' net can be missed."""
    a_low, a_high, b_low, b_high = _along(a, b, axis, tolerance)
    both = np.isfinite(a_low) & np.isfinite(b_low)
    if sign > 0:  # a's first wood still has b's last wood before it, and reaches it
        hits = (b_high - a_low > tolerance) & (b_low - a_high < reach - tolerance)
    else:
        hits = (a_high - b_low > tolerance) & (a_low - b_high < reach - tolerance)
    return bool((both & hits).any())
