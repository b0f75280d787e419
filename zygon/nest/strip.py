"""Squeezing the items of one sheet into less and less of its length: explored by larger steps, then compressed by small ones."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from zygon.nest.field import Field
from zygon.tolerance import EPS

__all__ = ["Memory", "compressed", "explored", "separated"]

#: Passes between looks at the effort.
CHUNK = 4
#: Passes without less loss that end an attempt, and attempts that end a length.
PATIENCE, STRIKES = 60, 3
#: Shares of the length that are taken off at a step: exploring, at first, at least and at most; and compressing from the first to the second.
STEP, STEP_LEAST, STEP_MOST, FINE_FIRST, FINE_LAST = 0.01, 0.001, 0.02, 0.0008, 0.00001
#: A step that went well is followed by a longer one, one that failed by a shorter one.
LONGER, SHORTER = 1.5, 0.7
#: Layouts that nearly fitted which are kept to go on from.
KEPT = 4
#: Exchanges of two items before an attempt, at most.
SWAPS = 2
#: Share of attempts that begin with everything strewn about.
ANEW = 0.2


def separated(field: Field, bounds: np.ndarray, on: Callable[[], bool], patience: int = PATIENCE, strikes: int = STRIKES) -> bool:
    """Whether the items could be moved apart within bounds; else the field is left at its layout of least loss."""
    best = field.pose.copy()
    field.weight[:] = 1.0
    tally = np.array([np.inf, 0.0, 0.0, 0.0])
    least = np.inf
    for strike in range(strikes):
        tally[1] = 0.0
        while tally[1] < patience:
            if field.separate(bounds, CHUNK, tally, best):
                return True
            if not on():
                field.put(best)
                return False
        field.put(best)
        if strike and tally[0] > 0.98 * least:
            return False
        least = tally[0]
    return False


@dataclass
class Memory:
    """What attempts learnt, from round to round: layouts that nearly fitted, with their losses, the one that a round's end broke off, and how long a step is."""

    failed: list[tuple[float, np.ndarray]] = field(default_factory=list)
    step: float = STEP
    broken_off: np.ndarray | None = None


def explored(field: Field, bounds: np.ndarray, on: Callable[[], bool], memory: Memory) -> np.ndarray:
    """The poses of the shortest layout found by steps that grow and shrink as they go well or fail, from a field without overlaps towards low x; its own where none is shorter."""
    limits, best, reach = bounds.copy(), field.pose.copy(), field.reach
    while on() and reach > field.least_reach(bounds) * (1 + EPS):
        limits[2] = max(bounds[0] + (reach - bounds[0]) * (1 - memory.step), field.least_reach(bounds))
        if memory.broken_off is not None:
            field.put(memory.broken_off)
            memory.broken_off = None
        elif len(memory.failed) >= KEPT and field.random() < ANEW:
            _strewn(field, limits)
        elif memory.failed:  # from one of the layouts that nearly fitted, rather a better one, with two large items exchanged
            pick = min(int(abs(field.random() + field.random() - 1.0) * len(memory.failed)), len(memory.failed) - 1)
            field.put(memory.failed[pick][1])
            for _ in range(1 + int(field.random() * SWAPS)):
                _exchange(field)
        else:
            _shift(field, limits)
        field.within(limits)
        if separated(field, limits, on) and field.reach < reach:
            memory.failed, best, reach = [], field.pose.copy(), field.reach
            memory.step = min(memory.step * LONGER, STEP_MOST)
        elif on():
            memory.step = max(memory.step * SHORTER, STEP_LEAST)
            memory.failed = sorted([*memory.failed, (float(field.losses().sum()), field.pose.copy())], key=lambda f: f[0])[:KEPT]
        else:
            memory.broken_off = field.pose.copy()
    field.put(best)
    return best


def compressed(field: Field, bounds: np.ndarray, on: Callable[[], bool], spent: Callable[[], float]) -> np.ndarray:
    """The same by steps that become smaller as the effort is ``spent`` (0 to 1)."""
    limits, best, reach = bounds.copy(), field.pose.copy(), field.reach
    while on() and reach > field.least_reach(bounds) * (1 + EPS):
        share = FINE_FIRST + (FINE_LAST - FINE_FIRST) * min(spent(), 1.0)
        field.put(best)
        limits[2] = max(bounds[0] + (reach - bounds[0]) * (1 - share), field.least_reach(bounds))
        _shift(field, limits)
        field.within(limits)
        if separated(field, limits, on, patience=PATIENCE // 2, strikes=2) and field.reach < reach:
            best, reach = field.pose.copy(), field.reach
    field.put(best)
    return best


def _shift(field: Field, limits: np.ndarray) -> None:
    """Moves all items beyond a place drawn by lot towards low x, as far as the length became shorter."""
    over = field.reach - limits[2]
    at = limits[0] + field.random() * (limits[2] - limits[0])
    for i in np.nonzero(field.fixed == 0)[0].tolist():
        if (field.box[i, 0] + field.box[i, 2]) / 2 > at:
            field.pose[i, 0] -= over
    field.lay()


def _strewn(field: Field, limits: np.ndarray) -> None:
    """All items anywhere."""
    for i in np.nonzero(field.fixed == 0)[0].tolist():
        room = limits[2:] - limits[:2] - (field.box[i, 2:] - field.box[i, :2])
        field.pose[i, :2] += limits[:2] - field.box[i, :2] + np.array([field.random(), field.random()]) * np.maximum(room, 0.0)
    field.lay()


def _exchange(field: Field) -> None:
    """Exchanges the places of two large items of different outline, by lot."""
    free = np.nonzero(field.fixed == 0)[0].tolist()
    large = sorted(free, key=lambda i: (-field.size[i, 0], i))[: max(2, (len(free) + 1) // 2)]
    if len(large) < 2:
        return
    for _ in range(8):
        a, b = (large[int(field.random() * len(large))] for _ in range(2))
        if field.items[a] != field.items[b]:
            break
    else:
        return
    middles = [(field.box[i, :2] + field.box[i, 2:]) / 2 for i in (a, b)]
    field.pose[a, :2] += middles[1] - middles[0]
    field.pose[b, :2] += middles[0] - middles[1]
    field.lay()
