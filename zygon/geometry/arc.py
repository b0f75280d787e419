"""Circular arcs by their bulge: tangent of a quarter of the included angle, positive counter-clockwise (as DXF defines it)."""

from __future__ import annotations

import math

import numpy as np

from zygon.tolerance import EPS

__all__ = ["arc_from_bulge", "arc_points", "bulge_from_angle", "chord_count"]


def arc_from_bulge(p: tuple[float, float], q: tuple[float, float], bulge: float) -> tuple[float, float, float, float, float]:
    """Centre x, y, radius, start angle and signed sweep (radians, positive counter-clockwise) of the arc from p to q."""
    dx, dy = q[0] - p[0], q[1] - p[1]
    chord = math.hypot(dx, dy)
    sweep = 4 * math.atan(bulge)
    radius = chord * (1 + bulge * bulge) / (4 * abs(bulge))
    # distance from the chord's middle to the centre, to the left of p->q for bulge > 0 under a half turn
    h = chord * (1 - bulge * bulge) / (4 * bulge)
    cx = (p[0] + q[0]) / 2 - dy / chord * h
    cy = (p[1] + q[1]) / 2 + dx / chord * h
    return cx, cy, radius, math.atan2(p[1] - cy, p[0] - cx), sweep


def chord_count(radius: float, sweep: float, sagitta: float) -> int:
    """How many chords an arc needs so that none is farther than ``sagitta`` (mm) from it; at least 1."""
    if radius <= sagitta:
        return max(2, math.ceil(abs(sweep) / (math.pi / 3)))
    step = 2 * math.acos(1 - sagitta / radius)
    return max(1, math.ceil(abs(sweep) / step - EPS))


def arc_points(p: tuple[float, float], q: tuple[float, float], bulge: float, sagitta: float) -> np.ndarray:
    """Points on the arc from p to q without q, (n, 2) float; the first is p itself."""
    cx, cy, radius, start, sweep = arc_from_bulge(p, q, bulge)
    n = chord_count(radius, sweep, sagitta)
    angles = start + sweep * np.arange(n) / n
    points = np.column_stack((cx + radius * np.cos(angles), cy + radius * np.sin(angles)))
    points[0] = p
    return points


def bulge_from_angle(sweep: float) -> float:
    """Bulge of an arc with the signed included angle ``sweep`` (radians)."""
    return math.tan(sweep / 4)
