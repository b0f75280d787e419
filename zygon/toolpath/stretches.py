"""A stretch of a run, from so far along it to so far."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour, Point, Segment
from zygon.tolerance import EPS

__all__ = ["along", "merged", "stretch"]


def stretch(segments: Sequence[Segment], low: float, high: float) -> Contour:
    """The open run from so far (mm) along segments to so far."""
    points: list[Point] = []
    bulges: list[float] = []
    owners: list[str] = []
    done = 0.0
    for s in segments:
        a, b = max(low - done, 0.0) / s.length, min(high - done, s.length) / s.length
        done += s.length
        if b - a < EPS:
            continue
        if not points:
            points.append(along(s, a))
        points.append(along(s, b))
        bulges.append(math.tan(math.atan(s.bulge) * (b - a)))
        owners.append(s.owner)
    return Contour(tuple(points), tuple(bulges), tuple(owners), closed=False)


def along(s: Segment, share: float) -> Point:
    """The place so far along a segment, 0 to 1."""
    if share <= 0:
        return s.p
    if share >= 1:
        return s.q
    if not s.bulge:
        return s.p[0] + (s.q[0] - s.p[0]) * share, s.p[1] + (s.q[1] - s.p[1]) * share
    cx, cy, r, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
    return cx + r * math.cos(start + sweep * share), cy + r * math.sin(start + sweep * share)


def merged(spans: Iterable[tuple[float, float]], within: float) -> list[tuple[float, float]]:
    """Spans along a run in order, those that lie no farther apart than ``within`` as one."""
    found: list[tuple[float, float]] = []
    for low, high in sorted(spans):
        if found and low <= found[-1][1] + within:
            found[-1] = found[-1][0], max(found[-1][1], high)
        else:
            found.append((low, high))
    return found
