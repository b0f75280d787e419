"""The holes that hardware goes through: clearance, counterbores. Millimetres."""

from __future__ import annotations

from typing import Literal

__all__ = ["CLEARANCE", "COUNTERBORE", "ClearanceFit", "clearance"]

ClearanceFit = Literal["fine", "medium", "coarse"]
#: Clearance holes by nominal diameter: fine, medium, coarse. ISO 273 (values from memory).
CLEARANCE: dict[str, tuple[float, float, float]] = {
    "2": (2.2, 2.4, 2.6),
    "2.5": (2.7, 2.9, 3.1),
    "3": (3.2, 3.4, 3.6),
    "3.5": (3.7, 3.9, 4.2),
    "4": (4.3, 4.5, 4.8),
    "4.5": (4.8, 5.0, 5.3),
    "5": (5.3, 5.5, 5.8),
    "6": (6.4, 6.6, 7.0),
    "8": (8.4, 9.0, 10.0),
    "10": (10.5, 11.0, 12.0),
    "12": (13.0, 13.5, 14.5),
}
#: Counterbores for socket heads by nominal diameter. DIN 974-1, row 1 (values from memory).
COUNTERBORE: dict[str, float] = {
    "2": 4.4,
    "2.5": 5.5,
    "3": 6.5,
    "4": 8.0,
    "5": 10.0,
    "6": 11.0,
    "8": 15.0,
    "10": 18.0,
    "12": 20.0,
}


def clearance(size: str, fit: str = "medium") -> float:
    """The clearance hole of a nominal diameter, 'fine', 'medium' or 'coarse' (ISO 273). KeyError for a size that is not in the table."""
    return CLEARANCE[size][("fine", "medium", "coarse").index(fit)]
