"""Metric threads, coarse: pitch, core hole, and how much of a screw is threaded. Millimetres."""

from __future__ import annotations

__all__ = ["METRIC", "core_hole", "diameter_of", "pitch", "threaded"]

#: Coarse pitches by size. ISO 261 (values from memory).
METRIC: dict[str, float] = {
    "M2": 0.4,
    "M2.5": 0.45,
    "M3": 0.5,
    "M4": 0.7,
    "M5": 0.8,
    "M6": 1.0,
    "M8": 1.25,
    "M10": 1.5,
    "M12": 1.75,
}
#: Pitches of sheet metal screws. ISO 1478 (values from memory).
SHEET_METAL: dict[str, float] = {"ST2.9": 1.1, "ST3.5": 1.3, "ST4.2": 1.4, "ST4.8": 1.6, "ST5.5": 1.8, "ST6.3": 1.8}
#: Behind a shank the thread begins over this many pitches. ISO 888, ISO 4014 (from memory).
RUNOUT = 5


def diameter_of(size: str) -> float:
    """The nominal diameter of 'M5', 'ST4.2', or of a bare figure."""
    return float(size.lstrip("MST"))


def pitch(size: str) -> float:
    """The pitch of a metric or of a sheet metal thread. KeyError for an unknown size."""
    return METRIC[size] if size in METRIC else SHEET_METAL[size]


def core_hole(size: str) -> float:
    """The hole in which a metric thread is cut: the diameter less the pitch (common practice)."""
    return round(diameter_of(size) - METRIC[size], 3)


def threaded(size: str, length: float) -> float:
    """How long the thread of a screw with a shank is: 2 d + 12, 6 more over 125 mm; all of it where no shank is left. ISO 888 (from memory)."""
    own = 2 * diameter_of(size) + (12 if length <= 125 else 18)
    return length if length - own <= RUNOUT * METRIC[size] else own
