"""Items on one sheet in the kernels' arrays: laid at poses, moved apart until none overlaps."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from zygon.nest.base import Base
from zygon.nest.kernels import OFF, PAIRS, POLES, lay, losses, separate
from zygon.tolerance import EPS

__all__ = ["Field"]

#: Positions tried all over the sheet, about where an item lies, and with an edge along another's, a move.
WIDE, NEAR, MATES = 6, 4, 100


class Field:
    """Items of a base at poses (n, 4); ``fixed`` ones do not move. Changed in place."""

    def __init__(self, base: Base, items: Sequence[int], poses: np.ndarray, seed: int, fixed: Sequence[bool] | None = None) -> None:
        n = len(items)
        self.base = base
        self.items = np.array(items, dtype=np.int64)
        self.fixed = np.array(fixed if fixed is not None else [False] * n, dtype=np.int64)
        counts = base.first[self.items + 1] - base.first[self.items]
        self.first = np.concatenate(([0], np.cumsum(counts))).astype(np.int64)
        self.points = np.zeros((int(self.first[-1]), 2))
        own = [base.after[base.first[s] : base.first[s + 1]] - base.first[s] + self.first[i] for i, s in enumerate(self.items)]
        self.after = np.concatenate(own).astype(np.int64) if n else np.empty(0, np.int64)
        self.box, self.poles = np.zeros((n, 4)), np.zeros((n, 3, POLES))
        self.tiles = np.zeros((n, 3, PAIRS), np.float32)
        self.size = base.size[self.items]
        self.weight = np.ones((n, n))
        self.order = np.arange(n)
        self.tries = 0.0
        self.state = np.array([seed * 2654435761 % (1 << 63) + 88172645463325252], dtype=np.uint64)
        self.pose = np.array(poses, dtype=float).reshape(n, 4)
        self.lay()

    def lay(self) -> None:
        """Lays every item at its pose again."""
        for i in range(len(self.items)):
            self._lay(i)

    def _lay(self, i: int) -> None:
        b = self.base
        lay(i, self.pose[i], b.points, b.first, b.poles, self.items[i], self.points, self.first, self.box, self.poles, self.tiles, False)

    def put(self, poses: np.ndarray) -> None:
        """All items at other poses."""
        self.pose[:] = poses
        self.lay()

    def random(self) -> float:
        """A number from 0 to 1 of the field's own generator."""
        x = int(self.state[0])
        x ^= x >> 12
        x ^= (x << 25) & (2**64 - 1)
        x ^= x >> 27
        self.state[0] = x
        return ((x * 0x2545F4914F6CDD1D) % 2**64 >> 11) / 2**53

    def losses(self) -> np.ndarray:
        """How much every two items overlap (n, n)."""
        n = len(self.items)
        found = np.zeros((n, n))
        for i in range(n):
            losses(i, self.points, self.after, self.first, self.box, self.poles, self.tiles, self.size, found, n)
        return found

    def within(self, bounds: np.ndarray) -> None:
        """Moves items that stand out of bounds (low x, low y, high x, high y) back in, in another turn where theirs does not go between them."""
        for i in np.nonzero(self.fixed == 0)[0].tolist():
            low, high = self.box[i, :2], self.box[i, 2:]
            if ((high - low) > bounds[2:] - bounds[:2] + EPS).any():
                self._turn_to_fit(i, bounds)
            off = np.array([self.random(), self.random()]) * OFF
            off[bounds[2:] - bounds[:2] - (high - low) <= 2 * OFF] = 0.0
            shift = np.maximum(bounds[:2] + off - low, 0.0) + np.minimum(bounds[2:] - off - high, 0.0)
            if shift.any():
                self.pose[i, :2] += shift
                self._lay(i)

    def _turn_to_fit(self, i: int, bounds: np.ndarray) -> None:
        b, room = self.base, bounds[2:] - bounds[:2]
        for t in range(b.turn_first[self.items[i]], b.turn_first[self.items[i] + 1]):
            if ((b.extents[t, 2:] - b.extents[t, :2]) <= room + EPS).all():
                self.pose[i, 2:] = b.turns[t]
                self._lay(i)
                return

    def separate(self, bounds: np.ndarray, passes: int, tally: np.ndarray, best: np.ndarray) -> bool:
        """So many passes of moving items apart; whether none overlaps. ``tally`` and ``best`` go on from call to call; ``tries`` counts places tried."""
        b, before = self.base, tally[3]
        done = separate(
            b.points,
            b.first,
            b.after,
            b.poles,
            b.lain,
            b.lain_first,
            b.lain_after,
            b.lain_poles,
            b.lain_rows,
            b.turn_first,
            b.turns,
            b.extents,
            b.free,
            self.items,
            self.fixed,
            self.points,
            self.first,
            self.box,
            self.poles,
            self.tiles,
            self.after,
            self.pose,
            self.size,
            self.weight,
            self.order,
            bounds,
            self.state,
            passes,
            best,
            tally,
            WIDE,
            NEAR,
            MATES,
        )
        self.tries += tally[3] - before
        return bool(done)

    @property
    def reach(self) -> float:
        """How far the items that move reach along x."""
        return float(self.box[self.fixed == 0, 2].max())

    def fits(self, bounds: np.ndarray) -> bool:
        """Whether each item that moves has a turn that goes between the bounds."""
        return bool(np.isfinite(self._narrowest(bounds)))

    def _narrowest(self, bounds: np.ndarray) -> float:
        """The most that any item takes along x at its best turn that is low enough; infinite where one has none."""
        b, width, height = self.base, bounds[2] - bounds[0], bounds[3] - bounds[1]
        most = 0.0
        for s in set(self.items[self.fixed == 0].tolist()):
            e = b.extents[b.turn_first[s] : b.turn_first[s + 1]]
            along, across = e[:, 2] - e[:, 0], e[:, 3] - e[:, 1]
            most = max(most, float(along[(across <= height + EPS) & (along <= width + EPS)].min(initial=np.inf)))
        return most

    def least_reach(self, bounds: np.ndarray) -> float:
        """A length that no layout goes below: the items' area over the width, and the least that each takes along x."""
        area = sum(self.base.polygons[s].area for s in self.items[self.fixed == 0].tolist())
        return float(bounds[0] + max(self._narrowest(bounds), area / (bounds[3] - bounds[1])))
