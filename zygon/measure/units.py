"""The units that a maker may type, with their factors to millimetres and radians."""

from __future__ import annotations

import math
import re

__all__ = ["ANGLE_UNITS", "BARE_LENGTH_UNITS", "FUNCTIONS", "INCH", "LENGTH_UNITS", "RESERVED", "UNITS", "name_fault"]

#: Millimetres in an inch, exact by definition (international yard and pound agreement, 1959).
INCH = 25.4

#: Factor to millimetres.
LENGTH_UNITS = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": INCH, '"': INCH, "ft": 12 * INCH, "'": 12 * INCH}
#: Factor to radians.
ANGLE_UNITS = {"deg": math.pi / 180, "°": math.pi / 180, "rad": 1.0}
#: What a bare number may mean in a length entry.
BARE_LENGTH_UNITS = ("mm", "in")
FUNCTIONS = ("min", "max", "round", "floor", "ceil", "abs", "sqrt", "sin", "cos", "tan", "mid")
#: Names that neither a size nor a part may take.
UNITS = frozenset({"mm", "cm", "m", "in", "ft", "deg", "rad", "ga"})
#: Names that no size may take besides. A part may: it is only ever read before a dot (``floor.top``), a function before a bracket.
RESERVED = frozenset({"pi", "press", "snug", "slip", "loose", "drawn", *FUNCTIONS})

_NAME = re.compile(r"[^\W\d]\w*\Z")


def name_fault(name: str, *, part: bool = False) -> str | None:
    """Why ``name`` cannot name a size (or a part), as the end of a sentence; None where it can."""
    if not name:
        return "a name is needed"
    if len(name) > 40:
        return "a name has at most 40 characters"
    if not _NAME.match(name):
        return "a name starts with a letter and holds letters, digits and _ only"
    if name in UNITS:
        return f"{name} is a unit and cannot be a name"
    if not part and name in RESERVED:
        return f"{name} is a function or a fit and cannot be a size's name"
    return None
