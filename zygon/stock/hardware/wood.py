"""Wood screws and dowels of joints: the sizes of the trade with their sources. Millimetres."""

from __future__ import annotations

__all__ = ["DOWELS", "LENGTHS", "PILOT", "Screw", "dowel_for", "screw", "screw_length"]

from dataclasses import dataclass

from zygon.stock.hardware.holes import clearance

#: Heads of countersunk wood screws, greatest diameter: twice the nominal one, 90 degrees. DIN 7997 (values from memory).
_HEAD = {"2.5": 5.0, "3": 6.0, "3.5": 7.0, "4": 8.0, "4.5": 9.0, "5": 10.0, "6": 12.0}
#: Pilot holes in ply and softwood, about seven tenths of the screw (common practice).
PILOT = {"2.5": 1.8, "3": 2.0, "3.5": 2.5, "4": 2.8, "4.5": 3.0, "5": 3.5, "6": 4.2}
#: Lengths that wood screws are sold in (common practice).
LENGTHS = (12, 16, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 120)
#: Diameters that dowels are sold in (common practice).
DOWELS = (4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 16.0)


@dataclass(frozen=True)
class Screw:
    """What a countersunk wood screw of a nominal size asks for, in mm; the countersink's included angle is 90 degrees."""

    size: str
    clearance: float
    pilot: float
    head: float


def screw(size: str) -> Screw:
    """The holes of a wood screw. KeyError for an unknown size."""
    return Screw(size, clearance(size), PILOT[size], _HEAD[size])


def screw_length(wanted: float, most: float) -> float:
    """The standard length next to ``wanted`` that is not over ``most``; the shortest one where none is."""
    fitting = [x for x in LENGTHS if x <= most] or [LENGTHS[0]]
    return float(min(fitting, key=lambda x: abs(x - wanted)))


def dowel_for(thickness: float) -> float:
    """The largest dowel that is at most about half as thick as a board."""
    return max((d for d in DOWELS if d <= 0.55 * thickness), default=DOWELS[0])
