"""Screws by the standards of their heads: sizes, lengths, what they bear with, and the room that turning them takes. Millimetres; values from memory."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from zygon.stock.hardware.family import Family
from zygon.stock.hardware.piece import Disc, Slice, hexagon, round_, square
from zygon.stock.hardware.threads import diameter_of, threaded
from zygon.stock.hardware.wood import LENGTHS as WOOD_LENGTHS

__all__ = ["SCREWS", "Screws", "Thread"]

#: Lengths of metric screws. ISO 888 (from memory).
SERIES = (
    3,
    4,
    5,
    6,
    8,
    10,
    12,
    16,
    20,
    25,
    30,
    35,
    40,
    45,
    50,
    55,
    60,
    65,
    70,
    80,
    90,
    100,
    110,
    120,
    130,
    140,
    150,
    160,
    180,
    200,
    220,
    240,
)
#: Lengths of sheet metal screws. ISO 1478's products (from memory).
SHEET_SERIES = (6.5, 9.5, 13, 16, 19, 22, 25, 32, 38, 45, 50)
#: How short and how long screws of a size are sold, in diameters (common practice).
SHORTEST, LONGEST = 1.5, 20.0
#: A pointed tip is about as long as the screw is thick (common practice).
TIP = 1.0

Thread = Literal["metric", "wood", "sheet"]
#: How a head is turned: by a key in it, by a spanner round it, by a driver on it, or not at all.
Turned = Literal["key", "spanner", "driver", "held"]
#: The short arm of a hexagon key by its size. ISO 2936 (from memory).
KEY_ARMS = {1.3: 13.0, 1.5: 14.0, 2: 16.0, 2.5: 18.0, 3: 20.0, 4: 25.0, 5: 28.0, 6: 32.0, 8: 36.0, 10: 40.0}
#: A stubby driver with the hand on it (common practice).
DRIVER = 60.0


@dataclass(frozen=True)
class Screws(Family):
    """A family of screws. Its rows begin with the head's greatest width (across flats of a hexagon) and its height, then the key that turns it where one does.

    ``flush``: a countersunk head, whose height belongs to the length; ``angle`` is its included angle in radians. ``shank``: not threaded all along.
    """

    thread: Thread = "metric"
    flush: bool = False
    angle: float = math.pi / 2
    shank: bool = False
    turned: Turned = "driver"

    def head(self, size: str) -> tuple[float, float]:
        """Greatest width over corners and height of the head."""
        row = self.rows[size]
        return (row[0] * 2 / math.sqrt(3) if self.turned == "spanner" else row[0]), row[1]

    def thread_of(self, size: str, length: float) -> float:
        """How long its thread is, from the tip."""
        return threaded(size, length) if self.shank else length

    def tool(self, size: str) -> tuple[float, float]:
        """Diameter and length of the room over the head that turning it takes; nought where it is only held."""
        row = self.rows[size]
        if self.turned == "key":
            return 2 * row[2], KEY_ARMS.get(row[2], 25.0)
        if self.turned == "spanner":
            return 1.6 * row[0], row[1]
        return (0.0, 0.0) if self.turned == "held" else (row[0], DRIVER)


def _series(size: str) -> tuple[float, ...]:
    d = diameter_of(size)
    return tuple(float(x) for x in SERIES if SHORTEST * d <= x <= LONGEST * d)


def _shanked_series(size: str) -> tuple[float, ...]:
    return tuple(x for x in _series(size) if threaded(size, x) < x)


def _wood_series(size: str) -> tuple[float, ...]:
    d = diameter_of(size)
    return tuple(float(x) for x in WOOD_LENGTHS if 3 * d <= x <= 30 * d)


def _sheet_series(size: str) -> tuple[float, ...]:
    d = diameter_of(size)
    return tuple(float(x) for x in SHEET_SERIES if 2 * d <= x <= 12 * d)


def _shank(size: str, low: float, length: float) -> tuple[Slice, ...]:
    return (round_(low, length, diameter_of(size)),)


def _pointed(size: str, low: float, length: float) -> tuple[Slice, ...]:
    d = diameter_of(size)
    tip = length - min(TIP * d, length - low)
    return (*((round_(low, tip, d),) if tip > low else ()), round_(tip, length, d, to=0.1 * d))


def _hexagon(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    return (hexagon(-row[1], 0.0, row[0]), *_shank(size, 0.0, length))


def _hexagon_pointed(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    return (hexagon(-row[1], 0.0, row[0]), *_pointed(size, 0.0, length))


def _socket(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    wide, high, key = row
    return (Slice(-high, -high / 2, Disc("round", wide), Disc("hexagon", key)), round_(-high / 2, 0.0, wide), *_shank(size, 0.0, length))


def _domed(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    wide, high = row[:2]
    return (Slice(-high, 0.0, Disc("round", 0.6 * wide), None, wide), *_shank(size, 0.0, length))


def _domed_pointed(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    return (_domed(size, row, length)[0], *_pointed(size, 0.0, length))


def _carriage(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    wide, high, neck = row
    return (Slice(-high, 0.0, Disc("round", 0.5 * wide), None, wide), square(0.0, neck, diameter_of(size)), *_shank(size, neck, length))


def _countersunk(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    d = diameter_of(size)
    high = (row[0] - d) / 2  # at 90 degrees
    return (Slice(0.0, high, Disc("round", row[0]), None, d), *_shank(size, high, length))


def _countersunk_pointed(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    head = _countersunk(size, row, length)[0]
    return (head, *_pointed(size, head.high, length))


_WIDE_HIGH = ("across", "height")
_KEYED = ("across", "height", "key")
_FLATS: Mapping[str, tuple[float, ...]] = {
    "M3": (5.5, 2.0), "M4": (7.0, 2.8), "M5": (8.0, 3.5), "M6": (10.0, 4.0), "M8": (13.0, 5.3), "M10": (16.0, 6.4), "M12": (18.0, 7.5),
}  # a row a line  # fmt: skip

#: Every family of screws by its key, the most usual first.
SCREWS: dict[str, Screws] = {
    s.key: s
    for s in (
        Screws("socket", "socket head screw", "ISO 4762", "screw", _KEYED, {
            "M2": (3.8, 2.0, 1.5), "M2.5": (4.5, 2.5, 2.0), "M3": (5.5, 3.0, 2.5), "M4": (7.0, 4.0, 3.0), "M5": (8.5, 5.0, 4.0), "M6": (10.0, 6.0, 5.0),
            "M8": (13.0, 8.0, 6.0), "M10": (16.0, 10.0, 8.0), "M12": (18.0, 12.0, 10.0),
        }, _socket, _series, "cap bolt allen hex key cylinder", shank=True, turned="key"),
        Screws("hexagon", "hexagon screw", "ISO 4017", "screw", _WIDE_HIGH, _FLATS, _hexagon, _series, "bolt hex set full thread", turned="spanner"),
        Screws("hexagon_shank", "hexagon bolt with shank", "ISO 4014", "screw", _WIDE_HIGH, _FLATS, _hexagon, _shanked_series, "screw hex part thread", shank=True,
               turned="spanner"),
        Screws("countersunk", "countersunk screw", "ISO 10642", "screw", _KEYED, {
            "M3": (6.72, 1.86, 2.0), "M4": (8.96, 2.48, 2.5), "M5": (11.2, 3.1, 3.0), "M6": (13.44, 3.72, 4.0), "M8": (17.92, 4.96, 5.0),
            "M10": (22.4, 6.2, 6.0), "M12": (26.88, 7.44, 8.0),
        }, _countersunk, _series, "flat head csk bolt socket", shank=True, flush=True, turned="key"),
        Screws("countersunk_recess", "countersunk screw, cross recess", "ISO 7046", "screw", _WIDE_HIGH, {
            "M2": (4.4, 1.2), "M2.5": (5.5, 1.5), "M3": (6.3, 1.65), "M4": (9.4, 2.7), "M5": (10.4, 2.7), "M6": (12.6, 3.3), "M8": (17.3, 4.65),
        }, _countersunk, _series, "flat head csk machine bolt", flush=True),
        Screws("pan", "pan head screw, cross recess", "ISO 7045", "screw", _WIDE_HIGH, {
            "M2": (4.0, 1.6), "M2.5": (5.0, 2.1), "M3": (5.6, 2.4), "M4": (8.0, 3.1), "M5": (9.5, 3.7), "M6": (12.0, 4.6), "M8": (16.0, 6.0),
        }, _domed, _series, "machine bolt"),
        Screws("button", "button head screw", "ISO 7380-1", "screw", _KEYED, {
            "M3": (5.7, 1.65, 2.0), "M4": (7.6, 2.2, 2.5), "M5": (9.5, 2.75, 3.0), "M6": (10.5, 3.3, 4.0), "M8": (14.0, 4.4, 5.0), "M10": (17.5, 5.5, 6.0),
            "M12": (21.0, 6.6, 8.0),
        }, _domed, _series, "bolt socket round", turned="key"),
        Screws("carriage", "carriage bolt", "DIN 603", "screw", ("across", "height", "neck"), {
            "M5": (13.55, 3.3, 4.1), "M6": (16.55, 3.88, 4.6), "M8": (20.65, 4.88, 5.6), "M10": (24.65, 5.38, 6.6), "M12": (30.65, 6.95, 8.75),
        }, _carriage, _series, "coach mushroom square neck screw", shank=True, turned="held"),
        Screws("wood", "wood screw, countersunk", "DIN 7997", "screw", _WIDE_HIGH, {
            "2.5": (5.0, 1.25), "3": (6.0, 1.5), "3.5": (7.0, 1.75), "4": (8.0, 2.0), "4.5": (9.0, 2.25), "5": (10.0, 2.5), "6": (12.0, 3.0),
        }, _countersunk_pointed, _wood_series, "chipboard csk flat head", thread="wood", flush=True),
        Screws("wood_round", "wood screw, round head", "DIN 96", "screw", _WIDE_HIGH, {
            "2.5": (5.0, 1.75), "3": (6.0, 2.1), "3.5": (7.0, 2.45), "4": (8.0, 2.8), "4.5": (9.0, 3.15), "5": (10.0, 3.5), "6": (12.0, 4.2),
        }, _domed_pointed, _wood_series, "pan chipboard", thread="wood"),
        Screws("wood_hexagon", "hexagon wood screw", "DIN 571", "screw", _WIDE_HIGH, {
            "5": (8.0, 3.5), "6": (10.0, 4.0), "8": (13.0, 5.5), "10": (17.0, 7.0), "12": (19.0, 8.0),
        }, _hexagon_pointed, _wood_series, "coach lag hex", thread="wood", turned="spanner"),
        Screws("sheet", "sheet metal screw, pan head", "ISO 7049", "screw", _WIDE_HIGH, {
            "ST2.9": (5.6, 2.4), "ST3.5": (7.0, 2.6), "ST4.2": (8.0, 3.1), "ST4.8": (9.5, 3.7), "ST5.5": (11.0, 4.0), "ST6.3": (12.0, 4.6),
        }, _domed_pointed, _sheet_series, "self tapping", thread="sheet"),
    )
}  # a row a line  # fmt: skip
#: The hole that a sheet metal screw taps in thin steel (common practice).
SHEET_HOLE = {"ST2.9": 2.4, "ST3.5": 2.9, "ST4.2": 3.4, "ST4.8": 3.9, "ST5.5": 4.5, "ST6.3": 5.2}
