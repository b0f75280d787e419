"""Bend allowance, setback and deduction by every rule that a shop reckons with. Angles are those of the bend, in radians, 0 flat.

K is where the neutral line lies, from the inside, as a share of the thickness. Setback and deduction refer to the outer sharp (where the
two outer faces would meet) up to 90 degrees of bend; over 90 to the tangent, as DIN 6935 has it, since the sharp runs away to infinity.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from zygon.stock.bending import Bending, BendRow
from zygon.tolerance import TINY

__all__ = ["Bend", "allowance", "bend_by", "inner_setback", "k_of", "outer_setback"]

#: Share of the thickness per 90° bend by class: soft copper and brass; half-hard copper, soft steel, aluminium; bronze, hard copper,
#: cold-rolled and spring steel. Machinery's Handbook, bending of sheet metal (from memory), as is its 1.57 in place of π/2.
HANDBOOK = {"handbook-soft": 0.55, "handbook-half-hard": 0.64, "handbook-hard": 0.71}


@dataclass(frozen=True)
class Bend:
    """A bend reckoned out: lengths in mm, ``angle`` in radians."""

    thickness: float
    radius: float
    angle: float
    k: float

    @property
    def allowance(self) -> float:
        """Length of the neutral line through the bend."""
        return allowance(self.thickness, self.radius, self.angle, self.k)

    @property
    def refers_to(self) -> Literal["outer sharp", "tangent"]:
        """What setback and deduction are measured to."""
        return "tangent" if self.angle > math.pi / 2 + TINY else "outer sharp"

    @property
    def setback(self) -> float:
        """From the start of the bend to what the legs are measured to."""
        return outer_setback(self.thickness, self.radius, self.angle)

    @property
    def deduction(self) -> float:
        """What the flat is shorter by than both legs together."""
        return 2 * self.setback - self.allowance


def allowance(thickness: float, radius: float, angle: float, k: float) -> float:
    """Bend allowance A (R + K T) in mm (Machinery's Handbook; geometry)."""
    return angle * (radius + k * thickness)


def outer_setback(thickness: float, radius: float, angle: float) -> float:
    """From the start of the bend to the outer sharp, over 90° to the tangent at the outermost place; mm."""
    return (radius + thickness) * math.tan(min(angle, math.pi / 2) / 2)


def inner_setback(radius: float, angle: float) -> float:
    """From the start of the bend to the inner sharp, over 90° to the tangent of the inside; mm."""
    return radius * math.tan(min(angle, math.pi / 2) / 2)


def bend_by(rule: Bending, thickness: float, radius: float, angle: float) -> Bend:
    """A bend as a stock's rule reckons it."""
    return Bend(thickness, radius, angle, k_of(rule, thickness, radius, angle))


def k_of(rule: Bending, thickness: float, radius: float, angle: float) -> float:
    """K of a bend by a stock's rule."""
    if rule.rule == "din6935":
        return din_correction(radius / thickness) / 2
    if rule.rule in HANDBOOK:
        per_right_angle = HANDBOOK[rule.rule] * thickness + 1.57 * radius
        return (per_right_angle / (math.pi / 2) - radius) / thickness
    if rule.rule == "table" and rule.table:
        return _interpolated(rule.table, thickness, radius, math.degrees(angle))
    return rule.k


def din_correction(ratio: float) -> float:
    """The correction factor k = 2 K for r/s: 0.65 + 0.5 lg(r/s), 1 over 5, never under 0. DIN 6935 (from memory)."""
    if ratio > 5:
        return 1.0
    return max(0.0, 0.65 + 0.5 * math.log10(ratio)) if ratio > 0 else 0.0


def row_k(row: BendRow) -> float:
    """K of a table's row, whichever figure it gives."""
    if row.k is not None:
        return row.k
    angle = math.radians(row.angle)
    if row.allowance is not None:
        length = row.allowance
    else:
        length = 2 * outer_setback(row.thickness, row.radius, angle) - (row.deduction or 0.0)
    return (length / angle - row.radius) / row.thickness


def _interpolated(rows: Sequence[BendRow], thickness: float, radius: float, angle: float) -> float:
    """K between the rows: straight between the nearest thicknesses, within them between radii, within them between angles.

    Beyond the table's ends its outermost row stands. Tables need not be full grids.
    """
    wanted = (thickness, radius, angle)

    def at(found: Sequence[BendRow], level: int) -> float:
        if level == 3:
            return sum(row_k(r) for r in found) / len(found)
        name = ("thickness", "radius", "angle")[level]
        steps: dict[float, list[BendRow]] = {}
        for row in found:
            steps.setdefault(getattr(row, name), []).append(row)
        x = wanted[level]
        low = max((s for s in steps if s <= x), default=min(steps))
        high = min((s for s in steps if s >= x), default=max(steps))
        if low == high:
            return at(steps[low], level + 1)
        share = (x - low) / (high - low)
        share = min(max(share, 0.0), 1.0)
        return at(steps[low], level + 1) * (1 - share) + at(steps[high], level + 1) * share

    return at(rows, 0)
