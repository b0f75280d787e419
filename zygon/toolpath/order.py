"""The order in which places are visited: the shortest way found from one to the next, with what has to come before what. Few are ordered exactly (Held and Karp's
recursion), more from the nearest neighbour on by moving runs of up to three and turning stretches round."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from zygon.geometry.contour import Point
from zygon.tolerance import EPS

__all__ = ["tour", "way_length"]

#: So many are ordered exactly.
EXACT = 9
#: Beyond so many, changes are looked for only among neighbours in the order.
WIDE, WINDOW = 250, 40
#: Places are told apart to so many figures (mm).
DIGITS = 6
#: Rounds of changes at most.
ROUNDS = 30


def tour(starts: Sequence[Point], ends: Sequence[Point], at: Point, needs: Sequence[frozenset[int]] = ()) -> list[int]:
    """An order of places that begin and end somewhere, from ``at`` on; each comes after all that it ``needs``, which has to be possible. Never longer than nearest next."""
    # equal parts in a row are come to alike: only how places lie from the head tells, and of many only which is the nearest, from which the order goes on
    x, y = at
    if len(starts) > EXACT and not any(needs):
        x, y = min(starts, key=lambda p: (round(math.dist(p, at), DIGITS), p))
    told = (tuple((round(a - x, DIGITS), round(b - y, DIGITS)) for a, b in group) for group in (starts, ends))
    return list(_tour(*told, tuple(needs)))


@lru_cache(maxsize=4096)
def _tour(starts: tuple[Point, ...], ends: tuple[Point, ...], needs: tuple[frozenset[int], ...]) -> list[int]:
    n = len(starts)
    if n < 2:
        return list(range(n))
    before = list(needs) or [frozenset()] * n
    cost = np.hypot(*(np.array(ends, float)[:, None, :] - np.array(starts, float)[None, :, :]).transpose(2, 0, 1))
    first = np.hypot(*np.array(starts, float).T)
    if n <= EXACT:
        return _exact(cost, first, before)
    return _improved(_nearest(cost, first, before), cost, first, before)


def way_length(order: Sequence[int], starts: Sequence[Point], ends: Sequence[Point], at: Point) -> float:
    """How far it is from ``at`` and from each end to the next start, mm."""
    places = np.array([at, *(ends[i] for i in order[:-1])], float)
    return float(np.hypot(*(np.array([starts[i] for i in order], float) - places).T).sum()) if order else 0.0


def _exact(cost: np.ndarray, first: np.ndarray, before: Sequence[frozenset[int]]) -> list[int]:
    n = len(first)
    masks = [sum(1 << j for j in b) for b in before]
    best: dict[tuple[int, int], tuple[float, int]] = {(1 << i, i): (float(first[i]), -1) for i in range(n) if not masks[i]}
    for done in range(1, 1 << n):
        for last in range(n):
            known = best.get((done, last))
            if known is None:
                continue
            for k in range(n):
                if done >> k & 1 or masks[k] & ~done:
                    continue
                way = known[0] + float(cost[last, k])
                key = (done | 1 << k, k)
                if key not in best or way < best[key][0] - EPS:
                    best[key] = (way, last)
    full = (1 << n) - 1
    last = min((k for k in range(n) if (full, k) in best), key=lambda k: best[full, k][0])
    order, done = [], full
    while last >= 0:
        order.append(last)
        done, last = done & ~(1 << last), best[done, last][1]
    return order[::-1]


def _nearest(cost: np.ndarray, first: np.ndarray, before: Sequence[frozenset[int]]) -> list[int]:
    n = len(first)
    left = np.array([len(b) for b in before])
    after: list[list[int]] = [[] for _ in range(n)]
    for i, b in enumerate(before):
        for j in b:
            after[j].append(i)
    blocked = left > 0
    done = np.zeros(n, bool)
    order: list[int] = []
    way = first
    for _ in range(n):
        k = int(np.argmin(np.where(done | blocked, np.inf, way).round(6)))
        order.append(k)
        done[k] = True
        for i in after[k]:
            left[i] -= 1
            blocked[i] = left[i] > 0
        way = cost[k]
    return order


def _improved(order: list[int], cost: np.ndarray, first: np.ndarray, before: Sequence[frozenset[int]]) -> list[int]:
    n = len(order)
    window = n if n <= WIDE else WINDOW
    # a place before all: from it to each start, and from no end back to it
    far = np.zeros((n + 1, n + 1))
    far[:n, :n], far[n, :n] = cost, first
    order = [n, *order]
    for _ in range(ROUNDS):
        moved = _moved_one(order, far, before, window) | _turned_one(order, far, before, window)
        if not moved:
            break
    return order[1:]


def _allowed(order: Sequence[int], low: int, high: int, before: Sequence[frozenset[int]]) -> bool:
    """Whether what stands from low to before high keeps to what has to come first."""
    where = {k: i for i, k in enumerate(order[low:high])}
    return all(where.get(j, -1) < i for k, i in where.items() if k < len(before) for j in before[k])


def _moved_one(order: list[int], far: np.ndarray, before: Sequence[frozenset[int]], window: int) -> bool:
    """Moves runs of up to three to where that is shorter."""
    changed, n = False, len(order)
    for size in (1, 2, 3):
        i = 1
        while i + size <= n:
            a, p, q = order[i - 1], order[i], order[i + size - 1]
            b = order[i + size] if i + size < n else -1
            saved = far[a, p] + (far[q, b] - far[a, b] if b >= 0 else 0.0)
            if saved > EPS:
                low, high = max(0, i - window), min(n - 1, i + size + window)
                places = [j for j in range(low, high + 1) if j < i - 1 or j >= i + size]
                if places:
                    u = np.array([order[j] for j in places])
                    w = np.array([order[j + 1] if j + 1 < n else -1 for j in places])
                    added = far[u, p] + np.where(w >= 0, far[q, w] - far[u, w], 0.0)
                    for k in np.argsort(added)[:3]:
                        if added[k] >= saved - EPS:
                            break
                        j = places[int(k)]
                        run, rest = order[i : i + size], order[:i] + order[i + size :]
                        at = j + 1 if j < i else j + 1 - size
                        tried = rest[:at] + run + rest[at:]
                        if _allowed(tried, min(i, at), max(i, at) + size, before):
                            order[:] = tried
                            changed = True
                            break
            i += 1
    return changed


def _turned_one(order: list[int], far: np.ndarray, before: Sequence[frozenset[int]], window: int) -> bool:
    """Turns stretches round where that is shorter."""
    changed, n = False, len(order)
    for i in range(1, n - 1):
        forth = back = 0.0
        for j in range(i + 1, min(n, i + window)):
            forth += far[order[j - 1], order[j]]
            back += far[order[j], order[j - 1]]
            a, b = order[i - 1], order[j + 1] if j + 1 < n else -1
            old = far[a, order[i]] + forth + (far[order[j], b] if b >= 0 else 0.0)
            new = far[a, order[j]] + back + (far[order[i], b] if b >= 0 else 0.0)
            if new < old - EPS:
                tried = order[:i] + order[i : j + 1][::-1] + order[j + 1 :]
                if _allowed(tried, i, j + 1, before):
                    order[:] = tried
                    changed = True
                    break
    return changed
