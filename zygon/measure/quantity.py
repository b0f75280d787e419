"""Values with a kind: lengths, angles, counts and plain numbers, and positions along an axis.

A *bare* quantity comes from digits alone; it takes the entry's unit where a length or an angle is wanted.
A *position* is a length with an axis and weight 1: ``left.right`` is a position, ``right.left - left.right`` a plain length.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from zygon.tolerance import EPS

__all__ = ["Kind", "Quantity", "QuantityError", "angle", "count", "length", "number"]

Kind = Literal["length", "angle", "count", "number"]


class QuantityError(ValueError):
    """An operation that the kinds forbid; the message is the end of a sentence."""


@dataclass(frozen=True, slots=True)
class Quantity:
    """A value in millimetres or radians with its dimension exponents.

    ``length`` and ``angle`` are exponents (a length has length 1); ``whole`` marks a count; ``axis`` and ``weight``
    mark a position along x, y or z.
    """

    value: float
    length: int = 0
    angle: int = 0
    whole: bool = False
    bare: bool = False
    axis: str | None = None
    weight: int = 0

    @property
    def kind(self) -> str:
        """The kind in trade words: length, angle, count, number, or 'area' and the like."""
        match (self.length, self.angle):
            case (1, 0):
                return "length"
            case (0, 1):
                return "angle"
            case (0, 0):
                return "count" if self.whole else "number"
            case (2, 0):
                return "area"
            case _:
                return "compound value"

    def plus(self, other: Quantity, sign: int, bare_factor: float, angle_factor: float) -> Quantity:
        """Sum (sign 1) or difference (sign -1); a bare number takes the other's unit. Raises QuantityError."""
        left, right = _alike(self, other, bare_factor, angle_factor, "added" if sign > 0 else "subtracted")
        axis = left.axis or right.axis
        if left.axis and right.axis and left.axis != right.axis:
            raise QuantityError(f"a place along {left.axis} and a place along {right.axis} cannot be combined")
        weight = left.weight + sign * right.weight
        if weight < 0:
            raise QuantityError("a place cannot be taken from a length; take the length from the place, or one place from the other")
        if weight > 1:
            raise QuantityError("two places cannot be added; take mid(a, b), or subtract them for a length")
        return Quantity(
            left.value + sign * right.value,
            left.length,
            left.angle,
            whole=left.whole and right.whole,
            bare=left.bare and right.bare,
            axis=axis if weight else None,
            weight=weight,
        )

    def times(self, other: Quantity) -> Quantity:
        """Product; raises QuantityError for a place."""
        if self.weight or other.weight:
            raise QuantityError("a place cannot be multiplied; subtract two places for a length first")
        return Quantity(
            self.value * other.value,
            self.length + other.length,
            self.angle + other.angle,
            whole=self.whole and other.whole,
            bare=self.bare and other.bare,
        )

    def over(self, other: Quantity) -> Quantity:
        """Quotient; raises QuantityError for nought and for a place."""
        if other.value == 0:
            raise QuantityError("a division by 0")
        if self.weight or other.weight:
            raise QuantityError("a place cannot be divided; subtract two places for a length first")
        value = self.value / other.value
        return Quantity(
            value,
            self.length - other.length,
            self.angle - other.angle,
            whole=self.whole and other.whole and value == int(value),
            bare=self.bare and other.bare,
        )

    def negative(self) -> Quantity:
        """The same with the other sign; raises QuantityError for a place."""
        if self.weight:
            raise QuantityError("a place cannot be made negative")
        return replace(self, value=-self.value)

    def as_kind(self, kind: Kind, bare_factor: float, angle_factor: float) -> Quantity:
        """This value where ``kind`` is wanted; raises QuantityError where it is something else."""
        if not math.isfinite(self.value):
            raise QuantityError("the result is no finite number")
        if kind == "length":
            if self.bare and not self.length and not self.angle:
                return length(self.value * bare_factor)
            if (self.length, self.angle) == (1, 0):
                return self
        elif kind == "angle":
            if self.bare and not self.length and not self.angle:
                return angle(self.value * angle_factor)
            if (self.length, self.angle) == (0, 1):
                return self
        elif (self.length, self.angle) == (0, 0):
            if kind == "number":
                return self
            nearest = round(self.value)
            if abs(self.value - nearest) > EPS:
                raise QuantityError(f"a count is a whole number, and this gives {self.value:.6g}")
            return count(nearest)
        article = "an" if self.kind[0] in "aeiou" else "a"
        wanted = "an angle" if kind == "angle" else f"a {kind}"
        raise QuantityError(f"this gives {article} {self.kind} where {wanted} is wanted")


def _alike(a: Quantity, b: Quantity, bare_factor: float, angle_factor: float, verb: str) -> tuple[Quantity, Quantity]:
    if (a.length, a.angle) == (b.length, b.angle):
        return a, b
    factors = {(1, 0): bare_factor, (0, 1): angle_factor}
    for one, other, swapped in ((a, b, False), (b, a, True)):
        dims = (other.length, other.angle)
        if one.bare and (one.length, one.angle) == (0, 0) and dims in factors:
            lifted = Quantity(one.value * factors[dims], *dims)
            return (other, lifted) if swapped else (lifted, other)
    raise QuantityError(f"{_a(a.kind)} and {_a(b.kind)} cannot be {verb}")


def _a(kind: str) -> str:
    return f"{'an' if kind[0] in 'aeiou' else 'a'} {kind}"


def length(mm: float) -> Quantity:
    """A length of ``mm`` millimetres."""
    return Quantity(float(mm), length=1)


def angle(radians: float) -> Quantity:
    """An angle in radians."""
    return Quantity(float(radians), angle=1)


def count(n: int) -> Quantity:
    """A whole number of things."""
    return Quantity(float(n), whole=True)


def number(value: float) -> Quantity:
    """A plain number."""
    return Quantity(float(value))
