"""Sliding of parts that stand at an angle: rays along the way through both, and on each where the one begins and the other ends."""

from __future__ import annotations

import numpy as np

from zygon.making.kinds.registry import meshes_of
from zygon.making.result.built import MadePart
from zygon.memo import Memo, digest
from zygon.tolerance import EPS, WITHIN

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


def _crossings(triangles: np.ndarray, xs: np.ndarray, ys: np.ndarray, axis: int) -> tuple[np.ndarray, np.ndarray]:
    """Least and greatest place along an axis at which rays through each of ``xs`` (n,) and ``ys`` (m,), evenly spaced, meet triangles: each (n m,).

    inf and -inf where they meet none. Of each triangle only the rays are looked at that pass its box.
    """
    u, v = [i for i in range(3) if i != axis]
    corners = triangles[:, :, [u, v]]
    first, last = (
        np.stack([_index(bound[:, k], at, up=up) for k, at in enumerate((xs, ys))], axis=1)
        for bound, up in ((corners.min(axis=1), True), (corners.max(axis=1), False))
    )
    across = last - first + 1
    det = (corners[:, 1, 0] - corners[:, 0, 0]) * (corners[:, 2, 1] - corners[:, 0, 1])
    det -= (corners[:, 2, 0] - corners[:, 0, 0]) * (corners[:, 1, 1] - corners[:, 0, 1])
    keep = (across > 0).all(axis=1) & (np.abs(det) > EPS)
    triangles, first, across, det = triangles[keep], first[keep], across[keep], det[keep]
    rays = across.prod(axis=1)
    of = np.repeat(np.arange(len(rays)), rays)
    nth = np.arange(len(of)) - np.repeat(np.cumsum(rays) - rays, rays)
    i, j = first[of, 0] + nth // across[of, 1], first[of, 1] + nth % across[of, 1]
    a, b, c = (triangles[of, k] for k in range(3))
    x, y, det = xs[i] - a[:, u], ys[j] - a[:, v], det[of]
    s = (x * (c[:, v] - a[:, v]) - y * (c[:, u] - a[:, u])) / det
    t = (y * (b[:, u] - a[:, u]) - x * (b[:, v] - a[:, v])) / det
    inside = (s >= 0) & (t >= 0) & (s + t <= 1)
    at = (a[:, axis] + s * (b[:, axis] - a[:, axis]) + t * (c[:, axis] - a[:, axis]))[inside]
    ray = (i * len(ys) + j)[inside]
    low, high = np.full(len(xs) * len(ys), np.inf), np.full(len(xs) * len(ys), -np.inf)
    np.minimum.at(low, ray, at)
    np.maximum.at(high, ray, at)
    return low, high


def _index(bound: np.ndarray, at: np.ndarray, *, up: bool) -> np.ndarray:
    """Which of evenly spaced places is the first from a bound on, or the last up to it."""
    step = (at[-1] - at[0]) / (len(at) - 1)
    share = (bound - at[0]) / max(step, EPS)
    found = np.ceil(share - WITHIN) if up else np.floor(share + WITHIN)
    return np.clip(found, 0 if up else -1, len(at) if up else len(at) - 1).astype(int)


def _along(a: MadePart, b: MadePart, axis: int, tolerance: float) -> tuple[np.ndarray, ...]:
    """On every ray through both: a's first and last wood, b's first and last; remembered, since how far a part drops is found by halving."""
    key = digest("along", a.body.digest, a.matrix, b.body.digest, b.matrix, axis, tolerance)

    def make() -> tuple[np.ndarray, ...]:
        others = [i for i in range(3) if i != axis]
        (al, ah), (bl, bh) = a.reaches, b.reaches
        sides = [np.linspace(max(al[i], bl[i]) + tolerance / 2, min(ah[i], bh[i]) - tolerance / 2, ACROSS) for i in others]
        xs, ys = sides
        return (*_crossings(_triangles(a), xs, ys, axis), *_crossings(_triangles(b), xs, ys, axis))

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
