"""Figures as people read them: millimetres, decimal inches, fractions of an inch; rounding is always said."""

from __future__ import annotations

import math
from fractions import Fraction
from typing import Literal

from zygon.measure.units import INCH

__all__ = ["Display", "exact_length", "format_length", "in_thicknesses"]

Display = Literal["mm", "in", "fraction"]
#: Finest fraction shown, as on a steel rule.
FINEST = 64
#: Less than this (mm or in) is nothing.
LEAST = 1e-6


def format_length(mm: float, display: Display = "mm") -> str:
    """A length as text with its unit; '≈' stands in front where the figure shown is not the value."""
    if display == "mm":
        return _decimal(mm, 2, "mm")
    inches = mm / INCH
    nearest = Fraction(round(inches * FINEST), FINEST)
    if display == "in" or (not nearest and abs(inches) > LEAST):
        return _decimal(inches, 3, "in")
    sign = "-" if nearest < 0 else ""
    whole, rest = divmod(abs(nearest), 1)
    parts = [str(whole)] if whole or not rest else []
    if rest:
        parts.append(f"{rest.numerator}/{rest.denominator}")
    mark = "" if abs(float(nearest) - inches) < 1e-7 else "≈"
    return f"{mark}{sign}{'-'.join(parts)} in"


def in_thicknesses(factor: float) -> str:
    """So many thicknesses in words: '1 thickness', '0.5 thicknesses'."""
    return f"{factor:g} {'thickness' if factor == 1 else 'thicknesses'}"


def _decimal(value: float, places: int, unit: str) -> str:
    shown = round(value, places)
    if not shown and abs(value) > LEAST:  # what is there is never told as nothing
        places = 1 - math.floor(math.log10(abs(value)))
        shown = round(value, places)
    text = f"{shown:.{places}f}".rstrip("0").rstrip(".")
    text = "0" if text in ("-0", "") else text
    mark = "" if abs(shown - value) < 1e-6 else "≈"
    return f"{mark}{text} {unit}"


def exact_length(mm: float, unit: str) -> str:
    """A length as an entry that reads back to the same value: '408 mm', '1.5 in'."""
    value = mm / INCH if unit == "in" else mm
    return f"{value:.10g} {unit}" if value >= 0 else f"({value:.10g} {unit})"
