"""What a dimension of a solved drawing measures, whether it is asked for or only read."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from zygon.drawing.equations import angle_between, beside
from zygon.drawing.solver import Solved
from zygon.drawing.unknowns import Unknowns
from zygon.drawn.drawing import Relation

__all__ = ["measured", "measures"]


def measured(solved: Solved, relation: Relation) -> float:
    """The value of a dimension in mm or radians, never negative."""
    return _measured(solved.unknowns, solved.row, relation.kind, relation.of)


def measures(unknowns: Unknowns, kind: str, of: Sequence[str]) -> float:
    """What a dimension of this kind would measure in a drawing as it is kept, in mm or radians."""
    return _measured(unknowns, unknowns.now, kind, of)


def _measured(u: Unknowns, row: np.ndarray, kind: str, of: Sequence[str]) -> float:
    def place(at: tuple[int, int]) -> tuple[float, float]:
        return float(row[at[0]]), float(row[at[1]])

    if kind in ("radius", "diameter"):
        return abs(float(row[u.round(of[0])[2]])) * (2 if kind == "diameter" else 1)
    if kind == "angle":
        return angle_between(u, of[0], of[1], row)
    lines = [k for k in of if u.is_line(k)]
    if rounds := [k for k in of if u.drawing.thing(k) == "c"]:
        return _gap(u, row, rounds, [k for k in of if k not in rounds])
    if len(of) == 1 or not lines:
        ends = [u.line(of[0])[:2], u.line(of[0])[2:]] if len(of) == 1 else [u.point(k) for k in of]
        p, q = (place(e) for e in ends)
        return {"across": abs(p[0] - q[0]), "up": abs(p[1] - q[1])}.get(kind, math.dist(p, q))
    line, other = lines[0], next(k for k in of if k != lines[0])
    if u.is_line(other):
        far = u.line(other)
        c, d = place(far[:2]), place(far[2:])
        return _off(u, row, line, ((c[0] + d[0]) / 2, (c[1] + d[1]) / 2))
    return _off(u, row, line, place(u.point(other)))


def _off(u: Unknowns, row: np.ndarray, line: str, p: tuple[float, float]) -> float:
    """How far a place is from a straight line."""
    ax, ay, bx, by = (float(row[i]) for i in u.line(line))
    long = math.hypot(bx - ax, by - ay)
    return abs((bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax)) / long if long else math.dist((ax, ay), p)


def _gap(u: Unknowns, row: np.ndarray, rounds: list[str], rest: list[str]) -> float:
    """Between a circle and something else, where they come nearest."""
    x, y, radius = (float(row[i]) for i in u.round(rounds[0]))
    if rest and u.is_line(rest[0]):
        return abs(_off(u, row, rest[0], (x, y)) - radius)
    if rest:
        at = u.point(rest[0])
        return abs(math.dist((x, y), (float(row[at[0]]), float(row[at[1]]))) - radius)
    ox, oy, other = (float(row[i]) for i in u.round(rounds[1]))
    apart, large, small = math.hypot(ox - x, oy - y), max(radius, other), min(radius, other)
    return abs(apart - large - small) if beside(apart, large, small) else abs(large - small - apart)
