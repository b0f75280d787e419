"""Any smooth curve in the plane as true arcs, within a tolerance."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from zygon.tolerance import EPS

__all__ = ["as_arcs", "bulge_through"]

Point = tuple[float, float]
#: Halvings of a piece between two knots, at most; shares of a piece where its arc is compared with the curve.
HALVED, COMPARED = 12, (0.125, 0.25, 0.375, 0.625, 0.75, 0.875)


def as_arcs(curve: Callable[[float], Point], knots: Sequence[float], within: float) -> tuple[list[Point], list[float]]:
    """Points on a curve, and the bulge of the arc from each to the next, so that no arc is farther than ``within`` mm from the curve.

    ``knots`` are parameters from the first to the last; the curve may have a corner at them and nowhere else. Each arc goes through the curve at both
    its ends and in the middle, and pieces are halved until it lies near enough.
    """
    points, bulges = [curve(knots[0])], list[float]()

    def add(a: float, b: float, left: int) -> None:
        p, m, q = curve(a), curve((a + b) / 2), curve(b)
        if left and any(_off(p, m, q, curve(a + (b - a) * s)) > within for s in COMPARED):
            add(a, (a + b) / 2, left - 1)
            add((a + b) / 2, b, left - 1)
            return
        points.append(q)
        bulges.append(bulge_through(p, m, q))

    for a, b in zip(knots, knots[1:], strict=False):
        add(a, b, HALVED)
    return points, bulges


def _twice(p: Point, m: Point, q: Point) -> float:
    """Twice the area of a triangle, positive where it turns to the left."""
    return (m[0] - p[0]) * (q[1] - p[1]) - (m[1] - p[1]) * (q[0] - p[0])


def bulge_through(p: Point, m: Point, q: Point) -> float:
    """Of the arc from p through m to q; 0 where they lie in line."""
    a, b = (p[0] - m[0], p[1] - m[1]), (q[0] - m[0], q[1] - m[1])
    cross, dot = a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]
    if abs(cross) < EPS * math.hypot(*a) * math.hypot(*b):
        return 0.0
    return math.copysign(math.tan((math.pi - math.atan2(abs(cross), dot)) / 2), _twice(p, m, q))


def _off(p: Point, m: Point, q: Point, at: Point) -> float:
    """How far a point is from the arc from p through m to q, or from the line where they lie in one."""
    twice = 2 * _twice(p, m, q)
    if abs(twice) < EPS * math.dist(p, q) ** 2:
        return abs(_twice(p, q, at)) / math.dist(p, q)
    ax, ay, bx, by = m[0] - p[0], m[1] - p[1], q[0] - p[0], q[1] - p[1]
    x, y = (by * (ax * ax + ay * ay) - ay * (bx * bx + by * by)) / twice, (ax * (bx * bx + by * by) - bx * (ax * ax + ay * ay)) / twice
    return abs(math.hypot(p[0] + x - at[0], p[1] + y - at[1]) - math.hypot(x, y))
