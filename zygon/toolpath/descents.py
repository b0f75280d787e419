"""Ways down: a run once round is gone down along it on a slope, level by level, and lifted over tabs; a hole is drilled with pecks."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from zygon.geometry.contour import Contour, Point, polyline
from zygon.tolerance import EPS, SEEN
from zygon.toolpath.routed import Leg, straight_down
from zygon.toolpath.stretches import stretch

__all__ = ["Tabs", "across", "down", "drilled", "levels_of", "link"]

#: Rings shorter than this (mm) are gone down into straight.
SHORT = 1.0
#: A way down goes round so often at most; a flatter slope is made steeper.
ROUNDS = 40


@dataclass(frozen=True)
class Tabs:
    """Where along a run once round (mm from its start) the bit is lifted, and to which height."""

    zones: tuple[tuple[float, float], ...] = ()
    top: float = 0.0


def levels_of(depth: float, pass_depth: float) -> list[float]:
    """Heights (mm, below 0) of passes that are alike and no deeper than said; 0: all at once."""
    n = max(1, math.ceil(depth / pass_depth - EPS)) if pass_depth > 0 else 1
    return [-depth * (k + 1) / n for k in range(n)]


def down(run: Contour, z0: float, levels: Sequence[float], slope: float, tabs: Tabs = Tabs(), home: bool = False) -> tuple[Leg, ...]:
    """A run once round from height ``z0`` on through all levels, with a whole round at each; ``slope`` in radians, 0 straight down.

    ``home``: it ends where the run does, and is begun as far before that as it comes down along it. A run of one point is gone down straight.
    """
    around = run.length
    if around < SEEN:
        return (straight_down(run.points[0], z0, levels[-1]),)
    segments = run.segments()
    legs: list[Leg] = []
    steep = math.tan(slope) if slope > 0 and around >= SHORT else math.inf
    steep = max(steep, max(a - b for a, b in zip((z0, *levels), levels, strict=False)) / (ROUNDS * around))
    at, z = (-(z0 - levels[-1]) / steep % around if home else 0.0), z0
    for level in levels:
        ramp = (z - level) / steep
        ways = [(at, at + ramp, z, level)] if ramp else []
        ways.append((at + ramp, at + ramp + around, level, level))
        for low, high, first, last in ways:
            for a, b, za, zb in _lifted(low, high, first, last, around, tabs):
                part = stretch(segments, a, b)
                if not part.bulges:
                    continue
                before = legs[-1].z1 if legs else z0
                if abs(before - za) > EPS:
                    legs.append(straight_down(part.points[0], before, za))
                legs.append(Leg(part, za, zb))
        at = (at + ramp) % around
        z = level
    return tuple(legs)


def _lifted(low: float, high: float, first: float, last: float, around: float, tabs: Tabs) -> Iterator[tuple[float, float, float, float]]:
    """Stretches (from, to, height, height) of a way that may go round more than once, broken where it comes round and at tabs, lifted to their top there."""
    cuts = {low, high}
    rounds = range(math.floor(low / around), math.floor(high / around) + 1)
    bounds = [0.0, *(x for zone in tabs.zones for x in zone)]
    cuts.update(k * around + b for k in rounds for b in bounds if low < k * around + b < high)
    slope = (last - first) / (high - low)
    if tabs.zones and first > tabs.top > last:
        cuts.add(low + (tabs.top - first) / slope)
    places = sorted(cuts)
    for a, b in zip(places, places[1:], strict=False):
        if b - a < EPS:
            continue
        base = math.floor((a + b) / 2 / around) * around
        za, zb = first + slope * (a - low), first + slope * (b - low)
        if any(lo <= (a + b) / 2 - base <= hi for lo, hi in tabs.zones):
            za, zb = max(za, tabs.top), max(zb, tabs.top)
        yield a - base, b - base, za, zb


def across(run: Contour, levels: Sequence[float]) -> tuple[Leg, ...]:
    """An open run there and back, a level each time."""
    legs: list[Leg] = []
    z = 0.0
    for level in levels:
        legs += [straight_down(run.points[0], z, level), Leg(run, level, level)]
        run, z = run.reversed(), level
    return tuple(legs)


def drilled(at: Point, depth: float, peck: float) -> tuple[tuple[Leg, ...], ...]:
    """A hole in pecks, each from the safe height; ``peck`` in mm, 0 in one go."""
    heights = [0.0, *levels_of(depth, peck)]
    return tuple((straight_down(at, a, b),) for a, b in zip(heights, heights[1:], strict=False))


def link(p: Point, q: Point, z: float) -> Leg:
    """A straight way at a height."""
    return Leg(polyline([p, q], ""), z, z)
