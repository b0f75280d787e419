"""Screws and dowels: the sizes of the trade with their sources. Millimetres."""

from __future__ import annotations

__all__ = ["CLEARANCE", "DOWELS", "Screw", "clearance", "dowel_for", "screw", "screw_length"]

from dataclasses import dataclass

#: Clearance holes by nominal diameter: fine, medium, coarse. ISO 273 (values from memory).
CLEARANCE: dict[str, tuple[float, float, float]] = {
    "3": (3.2, 3.4, 3.6), "3.5": (3.7, 3.9, 4.2), "4": (4.3, 4.5, 4.8), "4.5": (4.8, 5.0, 5.3), "5": (5.3, 5.5, 5.8), "6": (6.4, 6.6, 7.0),
    "8": (8.4, 9.0, 10.0), "10": (10.5, 11.0, 12.0),
}  # fmt: skip
#: Heads of countersunk wood screws, greatest diameter: twice the nominal one, 90 degrees. DIN 7997 (values from memory).
_HEAD = {"3": 6.0, "3.5": 7.0, "4": 8.0, "4.5": 9.0, "5": 10.0, "6": 12.0}
#: Pilot holes in ply and softwood, about seven tenths of the screw (common practice).
_PILOT = {"3": 2.0, "3.5": 2.5, "4": 2.8, "4.5": 3.0, "5": 3.5, "6": 4.2}
#: Lengths that wood screws are sold in (common practice).
_LENGTHS = (12, 16, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 120)
#: Diameters that dowels are sold in (common practice).
DOWELS = (4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 16.0)


@dataclass(frozen=True)
class Screw:
    """What a countersunk wood screw of a nominal size asks for, in mm; the countersink's included angle is 90 degrees."""

    size: str
    clearance: float
    pilot: float
    head: float


def clearance(size: str, fit: str = "medium") -> float:
    """The clearance hole of a nominal diameter, 'fine', 'medium' or 'coarse' (ISO 273). KeyError for a size that is not in the table."""
    return CLEARANCE[size][("fine", "medium", "coarse").index(fit)]


def screw(size: str) -> Screw:
    """The holes of a wood screw. KeyError for an unknown size."""
    return Screw(size, clearance(size), _PILOT[size], _HEAD[size])


def screw_length(wanted: float, most: float) -> float:
    """The standard length next to ``wanted`` that is not over ``most``; the shortest one where none is."""
    fitting = [x for x in _LENGTHS if x <= most] or [_LENGTHS[0]]
    return float(min(fitting, key=lambda x: abs(x - wanted)))


def dowel_for(thickness: float) -> float:
    """The largest dowel that is at most about half as thick as a board."""
    return max((d for d in DOWELS if d <= 0.55 * thickness), default=DOWELS[0])
