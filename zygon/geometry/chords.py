"""Chords made the arcs that they stand for."""

from __future__ import annotations

import math

import numpy as np

from zygon.geometry.contour import Contour, Point
from zygon.geometry.fitted import bulge_through
from zygon.tolerance import EPS

__all__ = ["with_arcs"]

#: Corners of chords lie this near to their arc (mm), which stands out of no chord by more than ``SAG``.
ON_ARC, SAG = 0.01, 0.3
#: So many chords make an arc, each turned against the last by at most this (radians): a polygon of twelve sides stays one.
LEAST_CHORDS, MOST_TURN = 5, math.radians(25)


def with_arcs(contour: Contour, near: float = ON_ARC, sag: float = SAG) -> tuple[Contour, int]:
    """A closed contour with runs of short chords as the arcs that they stand for, and how many chords went into those. Corners lie within ``near`` mm of their arc, chords within ``sag``."""
    n = len(contour.points)
    points = np.array(contour.points)
    straight = np.array([not b for b in contour.bulges])
    if n < LEAST_CHORDS or straight.sum() < LEAST_CHORDS:
        return contour, 0
    step = np.roll(points, -1, axis=0) - points
    long = np.hypot(*step.T)
    way = np.arctan2(step[:, 1], step[:, 0])
    turn = np.array([math.remainder(t, 2 * math.pi) for t in way - np.roll(way, 1)])  # at the chord's own start
    # begun at a corner where no arc goes through
    first = next((k for k in range(n) if not straight[k] or not straight[k - 1] or not EPS < abs(turn[k]) <= MOST_TURN), 0)
    order = [(first + k) % n for k in range(n)]
    made: list[tuple[Point, float]] = []
    chords = k = 0
    while k < n:
        end = _reach(points, straight, turn, long, order, k, near, sag)
        if end - k >= LEAST_CHORDS:
            chords += end - k
            for a, b in _parts(k, end, sum(abs(turn[order[i]]) for i in range(k + 1, end))):
                p, m, q = (contour.points[order[i % n]] for i in (a, (a + b) // 2, b))
                made.append((p, bulge_through(p, m, q)))
            k = end
            continue
        made.append((contour.points[order[k]], contour.bulges[order[k]]))
        k += 1
    if not chords:
        return contour, 0
    return Contour(tuple(p for p, _ in made), tuple(b for _, b in made), ("",) * len(made)), chords


def _parts(start: int, end: int, sweep: float) -> list[tuple[int, int]]:
    """An arc of more than half a turn as two or more."""
    parts = max(1, math.ceil(sweep / math.radians(170)))
    bounds = [start + round((end - start) * i / parts) for i in range(parts + 1)]
    return list(zip(bounds, bounds[1:], strict=False))


def _reach(
    points: np.ndarray, straight: np.ndarray, turn: np.ndarray, long: np.ndarray, order: list[int], k: int, near: float, sag: float
) -> int:
    """Up to which chord, from the k-th on, they lie on one arc."""
    n = len(order)
    most = k
    sense = 0.0
    while most < n and straight[order[most]]:
        t = turn[order[most]]
        if most > k and (not EPS < abs(t) <= MOST_TURN or (sense and t * sense < 0)):
            break
        sense = sense or (t if most > k else 0.0)
        most += 1

    def fits(end: int) -> bool:
        on = points[[order[i % n] for i in range(k, end + 1)]]
        p, m, q = on[0], on[len(on) // 2], on[-1] if end - k < n else on[2 * len(on) // 3]
        (ax, ay), (bx, by) = (m - p).tolist(), (q - p).tolist()
        twice = 2 * (ax * by - ay * bx)
        if abs(twice) < EPS:
            return False
        x, y = (by * (ax * ax + ay * ay) - ay * (bx * bx + by * by)) / twice, (ax * (bx * bx + by * by) - bx * (ax * ax + ay * ay)) / twice
        radius = math.hypot(x, y)
        off = np.abs(np.hypot(on[:, 0] - p[0] - x, on[:, 1] - p[1] - y) - radius)
        chord = max(long[order[i]] for i in range(k, end))
        return bool(off.max() <= near and chord < 2 * radius and radius - math.sqrt(radius**2 - chord**2 / 4) <= sag)

    end = k + LEAST_CHORDS
    if end > most or not fits(end):
        return k
    # doubled as long as it fits, then halved in on
    while end < most and fits(min(2 * end - k, most)):
        end = min(2 * end - k, most)
    low, high = end, min(2 * end - k, most)
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return high if high > low and fits(high) else low
