"""Ellipses as true arcs: what a round bore leaves where it goes through a sheet at an angle."""

from __future__ import annotations

import math

from zygon.geometry.contour import Contour, circle
from zygon.tolerance import EPS, SAGITTA

__all__ = ["ellipse", "skewed_hole"]

Point = tuple[float, float]


def ellipse(at: Point, long: float, short: float, way: Point, owner: str = "") -> Contour:
    """An ellipse about ``at``, counter-clockwise, with half axes ``long`` along the unit direction ``way`` and ``short`` across it (mm)."""
    return _round(at, at, long, short, way, owner)


def skewed_hole(low: Point, high: Point, diameter: float, slope: float, owner: str = "") -> Contour:
    """The smallest hole, cut straight through a sheet, through which a round of ``diameter`` passes at an angle.

    Its axis meets the sheet's two faces at ``low`` and ``high`` (mm), and ``slope`` is the cosine of its angle off square: the hull of
    the ellipses that it leaves on both faces.
    """
    travel = math.dist(low, high)
    if travel < EPS:
        return circle(*low, diameter / 2, owner)
    way = ((high[0] - low[0]) / travel, (high[1] - low[1]) / travel)
    return _round(low, high, diameter / 2 / slope, diameter / 2, way, owner)


def _round(low: Point, high: Point, long: float, short: float, way: Point, owner: str) -> Contour:
    """Half an ellipse about each of two places that lie along ``way``, and the lines between them where they are apart."""
    if long - short < EPS and math.dist(low, high) < EPS:
        return circle(*low, short, owner)
    points, bulges = _half(long, short)
    apart = math.dist(low, high) > EPS
    found: list[tuple[Point, float]] = []
    for centre, sign in ((high, 1.0), (low, -1.0)):
        placed = [(centre[0] + sign * (x * way[0] - y * way[1]), centre[1] + sign * (x * way[1] + y * way[0])) for x, y in points]
        found += list(zip(placed, bulges, strict=False))
        if apart:
            found.append((placed[-1], 0.0))
    return Contour(tuple(p for p, _ in found), tuple(b for _, b in found), (owner,) * len(found))


def _half(long: float, short: float) -> tuple[list[Point], list[float]]:
    """The half from -90 to 90 degrees with points and bulges, its arcs within a sagitta of the ellipse."""
    count = 4
    while True:
        angles = [-math.pi / 2 + math.pi * k / count for k in range(count + 1)]
        points = [(long * math.cos(a) if 0 < k < count else 0.0, short * math.sin(a)) for k, a in enumerate(angles)]
        middles = [_at(long, short, (a + b) / 2) for a, b in zip(angles, angles[1:], strict=False)]
        bulges = [_bulge(p, m, q) for p, m, q in zip(points, middles, points[1:], strict=False)]
        off = 0.0
        for a, b, p, m, q in zip(angles, angles[1:], points, middles, points[1:], strict=False):
            cx, cy, r = _circle(p, m, q)
            off = max(off, *(abs(math.dist((cx, cy), _at(long, short, a + (b - a) * s)) - r) for s in (0.25, 0.75)))
        if off < SAGITTA or count >= 256:
            return points, bulges
        count *= 2


def _at(long: float, short: float, angle: float) -> Point:
    return long * math.cos(angle), short * math.sin(angle)


def _bulge(p: Point, m: Point, q: Point) -> float:
    """Of the arc from p through m to q, which turns to the left."""
    a, b = (p[0] - m[0], p[1] - m[1]), (q[0] - m[0], q[1] - m[1])
    between = math.atan2(abs(a[0] * b[1] - a[1] * b[0]), a[0] * b[0] + a[1] * b[1])
    return math.tan((math.pi - between) / 2)


def _circle(p: Point, m: Point, q: Point) -> tuple[float, float, float]:
    """Centre and radius of the circle through three points."""
    ax, ay, bx, by = m[0] - p[0], m[1] - p[1], q[0] - p[0], q[1] - p[1]
    twice = 2 * (ax * by - ay * bx)
    x = (by * (ax * ax + ay * ay) - ay * (bx * bx + by * by)) / twice
    y = (ax * (bx * bx + by * by) - bx * (ax * ax + ay * ay)) / twice
    return p[0] + x, p[1] + y, math.hypot(x, y)
