"""What the figure of a dimension may be."""

from __future__ import annotations

import math

from zygon.tolerance import CONTACT, EPS

__all__ = ["figure_fault"]


def figure_fault(kind: str, value: float) -> str:
    """The rule that a dimension's figure (mm or radians) breaks; '' where it breaks none."""
    if kind == "angle":
        return "" if -EPS <= value <= math.pi + EPS else "an angle between two lines is from 0 to 180°"
    if kind in ("radius", "diameter"):
        return "" if value > CONTACT else f"a {kind} is greater than 0"
    return "" if value >= 0 else "a distance is not negative; to which side it goes is as it is drawn"
