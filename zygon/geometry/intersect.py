"""Exact intersections of lines and circles, and the junction of two neighbouring segments."""

from __future__ import annotations

import math

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Point, Segment
from zygon.tolerance import EPS, SAGITTA, TINY

__all__ = ["circle_circle", "junction", "line_circle", "line_line"]


def line_line(p: Point, u: Point, q: Point, v: Point) -> list[Point]:
    """Where the line through p along u meets the line through q along v; empty where parallel."""
    cross = u[0] * v[1] - u[1] * v[0]
    if abs(cross) < TINY:
        return []
    t = ((q[0] - p[0]) * v[1] - (q[1] - p[1]) * v[0]) / cross
    return [(p[0] + t * u[0], p[1] + t * u[1])]


def line_circle(p: Point, u: Point, centre: Point, radius: float) -> list[Point]:
    """Where the line through p along the unit vector u meets a circle: none, one (touching) or two points."""
    fx, fy = p[0] - centre[0], p[1] - centre[1]
    b = fx * u[0] + fy * u[1]
    disc = b * b - (fx * fx + fy * fy - radius * radius)
    if disc < -EPS * max(radius, 1.0):
        return []
    root = math.sqrt(max(disc, 0.0))
    return [(p[0] + t * u[0], p[1] + t * u[1]) for t in ((-b - root), (-b + root))]


def circle_circle(c: Point, r: float, d: Point, s: float) -> list[Point]:
    """Where two circles meet: none, one (touching) or two points."""
    gap = math.dist(c, d)
    if gap < TINY:
        return []
    a = (gap * gap + r * r - s * s) / (2 * gap)
    h2 = r * r - a * a
    if h2 < -EPS * max(r, s, 1.0):
        return []
    h = math.sqrt(max(h2, 0.0))
    ux, uy = (d[0] - c[0]) / gap, (d[1] - c[1]) / gap
    mx, my = c[0] + a * ux, c[1] + a * uy
    return [(mx - h * uy, my + h * ux), (mx + h * uy, my - h * ux)]


def junction(a: Segment, b: Segment, near: Point) -> Point:
    """The exact point where segment a's carrier meets b's, nearest to ``near``.

    ``near`` itself where the carriers are parallel, or where no exact point lies within a few sagittas of it.
    """
    shared = next((p for p in (a.p, a.q) if p in (b.p, b.q) and math.dist(p, near) < 2 * SAGITTA), None)
    if shared:
        return shared
    found = min(_meet(a, b), key=lambda p: math.dist(p, near), default=near)
    # a shallow crossing moves a junction by more than a sagitta; ten of them bound what is still the same corner
    return found if math.dist(found, near) < 50 * SAGITTA else near


def _meet(a: Segment, b: Segment) -> list[Point]:
    if not a.bulge and not b.bulge:
        return line_line(a.p, a.tangents()[0], b.p, b.tangents()[0])
    if a.bulge and b.bulge:
        ax, ay, ar, _, _ = arc_from_bulge(a.p, a.q, a.bulge)
        bx, by, br, _, _ = arc_from_bulge(b.p, b.q, b.bulge)
        return circle_circle((ax, ay), ar, (bx, by), br)
    line, arc = (a, b) if not a.bulge else (b, a)
    cx, cy, r, _, _ = arc_from_bulge(arc.p, arc.q, arc.bulge)
    return line_circle(line.p, line.tangents()[0], (cx, cy), r)
