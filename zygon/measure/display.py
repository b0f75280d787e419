"""Figures as people read them: millimetres, decimal inches, fractions of an inch; rounding is always said."""

from __future__ import annotations

import math
from collections.abc import Sequence
from fractions import Fraction
from typing import Literal

from zygon.measure.units import INCH
from zygon.tolerance import WITHIN

__all__ = ["Display", "exact_length", "format_angle", "format_area", "format_length", "format_volume", "in_thicknesses", "listed"]

Display = Literal["mm", "in", "fraction"]
#: Finest fraction shown, as on a steel rule.
FINEST = 64
#: A fraction of an inch is exact to this (in).
EXACT = 1e-7
#: Less than this (mm or in) is nothing.
LEAST = 1e-6
#: From here on (mm or in) a figure is written with a power of ten.
HUGE = 1e9
#: So many names of a list are told.
TOLD = 5


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
    mark = "" if abs(float(nearest) - inches) < EXACT else "≈"
    return f"{mark}{sign}{'-'.join(parts)} in"


def in_thicknesses(factor: float) -> str:
    """So many thicknesses in words: '1 thickness', '0.5 thicknesses'."""
    return f"{factor:g} {'thickness' if factor == 1 else 'thicknesses'}"


def format_angle(radians: float) -> str:
    """An angle in degrees, as it is shown: 12.5°."""
    return f"{math.degrees(radians):.4g}°"


def format_area(mm2: float, display: Display = "mm") -> str:
    """An area as text with its unit, to three figures: mm², from 1000 of them on cm², or square inches."""
    if display != "mm":
        return f"{_figures(mm2 / INCH**2)} in²"
    return f"{_figures(mm2)} mm²" if mm2 < 1000 else f"{_figures(mm2 / 100)} cm²"


def format_volume(mm3: float, display: Display = "mm") -> str:
    """A volume as text with its unit, to three figures: mm³, from 100 of them on cm³, or cubic inches."""
    if display != "mm":
        return f"{_figures(mm3 / INCH**3)} in³"
    return f"{_figures(mm3)} mm³" if mm3 < 100 else f"{_figures(mm3 / 1000)} cm³"


def listed(names: Sequence[str]) -> str:
    """Names as a sentence has them: 'a, b and c'; of many the first ones and how many more there are."""
    if len(names) > TOLD + 1:
        names = [*names[:TOLD], f"{len(names) - TOLD} more"]
    return f"{', '.join(names[:-1])} and {names[-1]}" if len(names) > 1 else "".join(names)


def _figures(value: float) -> str:
    """Three figures, without a power of ten in the sizes that a shop has."""
    if value >= 1000:
        return f"{value:.0f}" if value < HUGE else f"{value:.3g}"
    return f"{value:.3g}" if value >= 0.001 or not value else f"{value:.1g}"


def _decimal(value: float, places: int, unit: str) -> str:
    if abs(value) >= HUGE:
        return f"{value:.3g} {unit}"
    shown = round(value, places)
    if not shown and abs(value) > LEAST:  # what is there is never told as nothing
        places = 1 - math.floor(math.log10(abs(value)))
        shown = round(value, places)
    text = f"{shown:.{places}f}".rstrip("0").rstrip(".")
    text = "0" if text in ("-0", "") else text
    mark = "" if abs(shown - value) < WITHIN else "≈"
    return f"{mark}{text} {unit}"


def exact_length(mm: float, unit: str) -> str:
    """A length as an entry that reads back to the same value: '408 mm', '1.5 in'."""
    value = mm / INCH if unit == "in" else mm
    return f"{value:.10g} {unit}" if value >= 0 else f"({value:.10g} {unit})"
