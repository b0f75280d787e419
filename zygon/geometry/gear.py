"""The outline of a spur gear: involute flanks as true arcs, tips and roots round the centre."""

from __future__ import annotations

import math

from zygon.geometry.contour import Contour
from zygon.geometry.fitted import as_arcs

__all__ = ["ADDENDUM", "DEDENDUM", "gear_contour", "least_teeth"]

Point = tuple[float, float]
#: How far a tooth stands over the pitch circle and reaches under it, in modules. ISO 53 (from memory).
ADDENDUM, DEDENDUM = 1.0, 1.25
#: Flanks are within this of the involute (mm).
WITHIN = 0.002


def least_teeth(pressure: float) -> int:
    """Fewer teeth than this would be undercut by their mates: 2 / sin², whole ones (17 at 20 degrees, as the trade has it)."""
    return math.floor(2 / math.sin(pressure) ** 2)


def gear_contour(module: float, teeth: int, pressure: float, backlash: float, owner: str) -> Contour:
    """Counter-clockwise about the origin, a tooth's middle at 0 degrees; mm and radians. Each tooth is half the backlash thinner on the pitch circle.

    An involute of the base circle r cos(pressure) is at an angle of tan a - a from its start where cos a is the base's radius by its own; under the base
    circle a flank runs straight to the middle.
    """
    pitch = module * teeth / 2
    base, tip, root = pitch * math.cos(pressure), pitch + ADDENDUM * module, pitch - DEDENDUM * module
    half = math.pi / (2 * teeth) - backlash / (4 * pitch)  # of a tooth on the pitch circle, as an angle

    def inv(radius: float) -> float:
        a = math.acos(min(1.0, base / radius))
        return math.tan(a) - a

    def flank(radius: float) -> Point:
        turn = -(half + inv(pitch) - inv(radius))
        return radius * math.cos(turn), radius * math.sin(turn)

    start = max(base, root)
    # evenly in the angle of unrolling, not in radius: the involute begins square to its base
    first, last = (math.sqrt(max((r / base) ** 2 - 1, 0.0)) for r in (start, tip))
    rise, rises = as_arcs(lambda t: flank(base * math.hypot(1, t)), [first, last], WITHIN)
    if root < base:
        turn = math.atan2(rise[0][1], rise[0][0])
        rise, rises = [(root * math.cos(turn), root * math.sin(turn)), *rise], [0.0, *rises]
    fall = [(x, -y) for x, y in reversed(rise)]
    tip_turn, root_turn = -2 * math.atan2(rise[-1][1], rise[-1][0]), 2 * math.pi / teeth + 2 * math.atan2(rise[0][1], rise[0][0])
    one = [*rise, *fall]
    bulges = [*rises, math.tan(tip_turn / 4), *reversed(rises), math.tan(root_turn / 4)]
    points: list[Point] = []
    for k in range(teeth):
        c, s = math.cos(2 * math.pi * k / teeth), math.sin(2 * math.pi * k / teeth)
        points += [(x * c - y * s, x * s + y * c) for x, y in one]
    return Contour(tuple(points), tuple(bulges) * teeth, (owner,) * len(points))
