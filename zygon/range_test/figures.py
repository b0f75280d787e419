"""Values of sizes as they are stepped, written and said."""

from __future__ import annotations

import math

from zygon.measure.display import Display, exact_length, format_angle, format_length
from zygon.measure.quantity import Kind
from zygon.measure.units import INCH

__all__ = ["plain_entry", "said", "step_of"]

#: How near to a break a length is halved (mm): a tenth, in inch designs the binary fraction next to it.
LENGTH = {"mm": 0.1, "in": INCH / 256}
#: The same of an angle, in degrees.
ANGLE = 0.1
#: The share of its range that a plain number is halved to.
SHARE = 1e-3


def step_of(kind: Kind, unit: str, low: float, high: float) -> float:
    """Between a good value and a broken one there is no more than this (mm, radians, 1 of a count) when halving ends."""
    if kind == "length":
        return LENGTH[unit]
    if kind == "angle":
        return math.radians(ANGLE)
    return 1.0 if kind == "count" else (high - low) * SHARE


def plain_entry(value: float, kind: Kind, unit: str) -> str:
    """A value as an entry that reads back to it."""
    if kind == "length":
        return exact_length(value, unit)
    return f"{math.degrees(value):.10g} deg" if kind == "angle" else f"{value:.10g}"


def said(value: float, kind: Kind, display: Display) -> str:
    """A value as it is shown."""
    if kind == "length":
        return format_length(value, display)
    return format_angle(value) if kind == "angle" else f"{value:.6g}"
