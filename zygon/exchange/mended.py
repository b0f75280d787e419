"""A drawing from outside, mended: lines that lie on one another drawn once, gaps closed, chords made arcs; all of it told."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.exchange.chain import JOIN, Run
from zygon.geometry.contour import Point
from zygon.tolerance import EPS

__all__ = ["Mended", "once"]


@dataclass(frozen=True)
class Mended:
    """What was mended, how often, where the first of them is (mm in the drawing), and how large it was at most (mm; 0 where that says nothing)."""

    what: str
    count: int
    at: Point
    most: float = 0.0


def once(runs: list[Run]) -> tuple[list[Run], list[Point]]:
    """Runs without lines and arcs that lie on others, end on end; where each that was left out began."""
    known: set[tuple[tuple[int, int], tuple[int, int], int]] = set()
    kept: list[Run] = []
    out: list[Point] = []

    def cell(p: Point) -> tuple[int, int]:
        return round(p[0] / JOIN), round(p[1] / JOIN)

    for points, bulges in runs:
        start = 0
        for k, bulge in enumerate(bulges):
            a, b, turn = cell(points[k]), cell(points[k + 1]), round(bulge / EPS / 1e3)
            key = (a, b, turn) if a <= b else (b, a, -turn)
            # a full circle of two halves has two arcs between two places, one to either side
            if a == b or key not in known:
                known.add(key)
                continue
            out.append(points[k])
            if k > start:
                kept.append((points[start : k + 1], bulges[start:k]))
            start = k + 1
        if start < len(bulges):
            kept.append((points[start:], bulges[start:]))
    return kept, out
