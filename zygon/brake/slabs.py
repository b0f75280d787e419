"""Convex slabs of sheet: what a folded part is taken as where it is tried against itself and against tools."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zygon.geometry.motion import Motion
from zygon.tolerance import EPS

__all__ = ["TOUCH", "Piece", "Slabs", "runs_into"]

#: Pieces that reach less than this into one another only touch (mm).
TOUCH = 0.08


@dataclass(frozen=True)
class Piece:
    """A convex slab: cap corners (n, 3) on face B and on face A. ``zone`` is its face (i) or bend (-1 - i)."""

    zone: int
    low: np.ndarray
    high: np.ndarray

    @cached_property
    def points(self) -> np.ndarray:
        """All corners (2 n, 3)."""
        return np.vstack((self.low, self.high))

    @cached_property
    def box(self) -> tuple[np.ndarray, np.ndarray]:
        """Low and high corner."""
        return self.points.min(axis=0), self.points.max(axis=0)

    @cached_property
    def sides(self) -> np.ndarray:
        """Edge directions around the cap and down the thickness (n + 1, 3)."""
        around = np.concatenate((self.low[1:], self.low[:1])) - self.low
        return np.vstack((around, self.high[:1] - self.low[:1]))

    @cached_property
    def normals(self) -> np.ndarray:
        """Normals of the cap and of the walls (n + 1, 3)."""
        up = self.sides[-1]
        return np.vstack((np.cross(self.sides[:-1], up), up))


class Slabs:
    """Many slabs at once: ``zones`` (n,) as of a piece, and ``points`` (p, 3), of each slab its low cap and then its high one from ``starts`` (n,) on."""

    def __init__(self, zones: np.ndarray, starts: np.ndarray, points: np.ndarray) -> None:
        self.zones, self.starts, self.points = zones, starts, points

    def __len__(self) -> int:
        return len(self.zones)

    def moved(self, motion: Motion) -> Slabs:
        """All of them where a motion puts them."""
        return Slabs(self.zones, self.starts, motion.points(self.points))

    @cached_property
    def boxes(self) -> tuple[np.ndarray, np.ndarray]:
        """Low and high corners, (n, 3) each."""
        return np.minimum.reduceat(self.points, self.starts, axis=0), np.maximum.reduceat(self.points, self.starts, axis=0)

    def piece(self, i: int) -> Piece:
        """One of them."""
        own = self.points[self.starts[i] : self.starts[i + 1] if i + 1 < len(self.starts) else None]
        half = len(own) // 2
        return Piece(int(self.zones[i]), own[:half], own[half:])

    def near(self, ones: np.ndarray, others: np.ndarray) -> list[tuple[int, int]]:
        """Pairs whose boxes share more than a touch, of two choices (n,) of true and false."""
        first, second = np.flatnonzero(ones), np.flatnonzero(others)
        low, high = self.boxes
        shared = np.minimum(high[first, None], high[None, second]) - np.maximum(low[first, None], low[None, second])
        a, b = np.nonzero((shared >= TOUCH).all(axis=2))
        return list(zip(first[a].tolist(), second[b].tolist(), strict=True))

    @staticmethod
    def of(zones: Sequence[int], corners: Sequence[np.ndarray]) -> Slabs:
        """From the corners (m, 3) of each, low cap first."""
        counts = np.array([len(c) for c in corners])
        return Slabs(np.array(zones), np.cumsum(counts) - counts, np.vstack(corners))


def runs_into(a: Piece, b: Piece) -> bool:
    """Whether two convex slabs share more than a touch: no direction parts them (separating axes)."""
    (al, ah), (bl, bh) = a.box, b.box
    if ((ah - bl) < TOUCH).any() or ((bh - al) < TOUCH).any():
        return False
    crossed = np.cross(a.sides[:, None, :], b.sides[None, :, :]).reshape(-1, 3)
    axes = np.vstack((a.normals, b.normals, crossed))
    length = np.linalg.norm(axes, axis=1)
    axes = axes[length > EPS] / length[length > EPS, None]
    pa, pb = a.points @ axes.T, b.points @ axes.T
    return bool((np.minimum(pa.max(axis=0) - pb.min(axis=0), pb.max(axis=0) - pa.min(axis=0)) > TOUCH).all())
