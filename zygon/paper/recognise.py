"""Chords of meshes made lines, arcs and curves again."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from zygon.paper.ink import Arc, Curve, Line, Point
from zygon.paper.pens import Pen
from zygon.paper.strokes import Stroke
from zygon.tolerance import EPS

__all__ = ["recognised"]

#: Ends that lie this near (mm) are one.
JOIN = 1e-4
#: Chords that turn by more than this (radians) belong to different edges.
CORNER = 0.35
#: Points of a run lie this near to a circle for it to be one (mm), and it takes so many of them.
ROUND, LEAST = 0.01, 5
#: Of one arc no chord lies further off than this (mm) and is so many times longer than most.
BOW, EVEN = 0.12, 4.0


def recognised(chords: Sequence[Line], pen: Pen, of: str) -> list[Stroke]:
    """Chords of one part and pen as the runs that they are of: what is straight alone stays a line, what lies on a circle is an arc, the rest a curve."""
    found: list[Stroke] = []
    for run in _runs(chords):
        if len(run) == 2:
            found.append(Line(pen, run[0], run[1], of))
            continue
        arc = _arc(run, pen, of)
        found.append(arc or Curve(pen, tuple(run), of))
    return found


def _key(p: Point) -> tuple[int, int]:
    return round(p[0] / JOIN), round(p[1] / JOIN)


def _runs(chords: Sequence[Line]) -> list[list[Point]]:
    """Chords one after another, as long as exactly two meet and they go on smoothly."""
    ends: dict[tuple[int, int], list[int]] = {}
    kept: dict[tuple[tuple[int, int], ...], Line] = {}
    for c in chords:  # each once, whichever way it runs
        a, b = _key(c.p), _key(c.q)
        if a != b:
            kept.setdefault((min(a, b), max(a, b)), c)
    own = list(kept.values())
    for i, c in enumerate(own):
        for p in (c.p, c.q):
            ends.setdefault(_key(p), []).append(i)
    used = [False] * len(own)
    runs = []
    for i in range(len(own)):
        if used[i]:
            continue
        used[i] = True
        run = [own[i].p, own[i].q]
        for _ in (0, 1):
            while (n := _next(run, own, ends, used)) is not None:
                used[n] = True
                c = own[n]
                run.append(c.q if _key(c.p) == _key(run[-1]) else c.p)
            run.reverse()
        runs.append(run)
    return runs


def _next(run: list[Point], own: Sequence[Line], ends: dict[tuple[int, int], list[int]], used: list[bool]) -> int | None:
    at = ends[_key(run[-1])]
    if len(at) != 2:
        return None
    n = next((i for i in at if not used[i]), None)
    if n is None:
        return None
    c = own[n]
    far = c.q if _key(c.p) == _key(run[-1]) else c.p
    return n if abs(_turn(run[-2], run[-1], far)) < CORNER else None


def _turn(a: Point, b: Point, c: Point) -> float:
    first, second = math.atan2(b[1] - a[1], b[0] - a[0]), math.atan2(c[1] - b[1], c[0] - b[0])
    return math.remainder(second - first, 2 * math.pi)


def _arc(run: Sequence[Point], pen: Pen, of: str) -> Arc | None:
    """The arc that a run's points lie on, if they do."""
    if len(run) < LEAST:
        return None
    points = np.array(run)
    middle = points.mean(axis=0)
    rows = points - middle
    matrix = np.column_stack((2 * rows, np.ones(len(rows))))
    solved, _, rank, _ = np.linalg.lstsq(matrix, (rows**2).sum(axis=1), rcond=None)
    if rank < 3:
        return None
    square = solved[2] + solved[0] ** 2 + solved[1] ** 2
    if square <= EPS:
        return None
    centre, radius = middle + solved[:2], math.sqrt(square)
    if radius > 1e4 or float(np.abs(np.hypot(*(points - centre).T) - radius).max()) > ROUND:  # flatter than any bar's
        return None
    chords = np.hypot(*np.diff(points, axis=0).T)
    bow = radius - math.sqrt(max(radius**2 - float(chords.max()) ** 2 / 4, 0.0))
    if bow > BOW and chords.max() > EVEN * np.median(chords):  # a straight run between two bends that fit a circle by chance
        return None
    turns = [math.atan2(y - centre[1], x - centre[0]) for x, y in run]
    sweep = sum(math.remainder(b - a, 2 * math.pi) for a, b in zip(turns, turns[1:], strict=False))
    closed = _key(run[0]) == _key(run[-1])
    if closed:
        sweep = math.copysign(2 * math.pi, sweep)
    return Arc(pen, (float(centre[0]), float(centre[1])), radius, turns[0], sweep, of)
