"""A value walked toward the end of its range until something breaks, and the break halved between."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from zygon.range_test.tries import Broken
from zygon.tolerance import EPS

__all__ = ["STEPS", "Reach", "walked"]

#: Into so many steps the way from a value to the end of its range is divided.
STEPS = 5


@dataclass(frozen=True)
class Reach:
    """How far a value goes one way: good as far as ``good``; ``at`` is the first place found that is not, and ``broken`` what breaks there."""

    good: float
    at: float | None = None
    broken: Broken | None = None


def walked(tried: Callable[[float], Broken | None], value: float, end: float, step: float) -> Reach:
    """Walks from ``value``, which is good, to ``end``, and halves between the last good place and the first broken one until they are no more than ``step`` apart.

    Places between both are whole steps, so that a count stays one and what is said is short. What lies beyond the first break is not looked at. Raises what ``tried`` raises.
    """
    good = value
    for place in _places(value, end, step):
        broken = tried(place)
        if broken is None:
            good = place
            continue
        at = place
        while (middle := _between(good, at, step)) is not None:
            found = tried(middle)
            if found is None:
                good = middle
            else:
                at, broken = middle, found
        return Reach(good, at, broken)
    return Reach(good)


def _places(value: float, end: float, step: float) -> list[float]:
    """Whole steps on the way, as evenly as they are to be had, and the end itself."""
    low, high = min(value, end), max(value, end)
    wanted = (round((value + (end - value) * k / STEPS) / step) * step for k in range(1, STEPS))
    inside = {w for w in wanted if low + EPS < w < high - EPS}
    return [*sorted(inside, reverse=end < value), *([end] if abs(end - value) > EPS else [])]


def _between(good: float, bad: float, step: float) -> float | None:
    """The whole step that is nearest to the middle of two places; None where none lies between them, or they are near enough."""
    low, high = min(good, bad), max(good, bad)
    first, last = math.floor(low / step + EPS) + 1, math.ceil(high / step - EPS) - 1
    if high - low <= step * (1 + EPS) or first > last:
        return None
    return min(max(round((low + high) / 2 / step), first), last) * step
