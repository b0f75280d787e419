"""Figures as people read them: millimetres, decimal inches, fractions of an inch; rounding is always said."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal

from zygon.measure.units import INCH

__all__ = ["Display", "exact_length", "format_length"]

Display = Literal["mm", "in", "fraction"]
#: Finest fraction shown, as on a steel rule.
FINEST = 64


def format_length(mm: float, display: Display = "mm") -> str:
    """A length as text with its unit; '≈' stands in front where the figure shown is not the value."""
    if display == "mm":
        return _decimal(mm, 2, "mm")
    if display == "in":
        return _decimal(mm / INCH, 3, "in")
    inches = mm / INCH
    nearest = Fraction(round(inches * FINEST), FINEST)
    sign = "-" if nearest < 0 else ""
    whole, rest = divmod(abs(nearest), 1)
    parts = [str(whole)] if whole or not rest else []
    if rest:
        parts.append(f"{rest.numerator}/{rest.denominator}")
    mark = "" if abs(float(nearest) - inches) < 1e-7 else "≈"
    return f"{mark}{sign}{'-'.join(parts)} in"


def _decimal(value: float, places: int, unit: str) -> str:
    shown = round(value, places)
    text = f"{shown:.{places}f}".rstrip("0").rstrip(".")
    text = "0" if text in ("-0", "") else text
    mark = "" if abs(shown - value) < 1e-6 else "≈"
    return f"{mark}{text} {unit}"


def exact_length(mm: float, unit: str) -> str:
    """A length as an entry that reads back to the same value: '408 mm', '1.5 in'."""
    value = mm / INCH if unit == "in" else mm
    return f"{value:.10g} {unit}" if value >= 0 else f"({value:.10g} {unit})"
