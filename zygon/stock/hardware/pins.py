"""Dowels, pins, retaining rings and ball bearings by their standards. Millimetres; values from memory."""

from __future__ import annotations

import math

from zygon.stock.hardware.family import Family
from zygon.stock.hardware.piece import Slice, round_
from zygon.stock.hardware.shape import Freedom
from zygon.tolerance import CONTACT

__all__ = ["PINS", "ring_for"]

#: g/cm³, about that of beech (common handbook value).
BEECH = 0.72


def _pin(size: str, _: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    return (round_(0.0, length, float(size)),)


def _ring(size: str, row: tuple[float, ...], _: float) -> tuple[Slice, ...]:
    high, outer, groove = row[:3]
    return (round_(0.0, high, outer, groove),)


def _inner_ring(size: str, row: tuple[float, ...], _: float) -> tuple[Slice, ...]:
    high, inner, groove = row[:3]
    return (round_(0.0, high, groove, inner),)


def _bearing(_: str, row: tuple[float, ...], __: float) -> tuple[Slice, ...]:
    inner, outer, wide = row
    return (round_(0.0, wide, outer, inner),)


_DOWELS = {"6": (25, 30, 35, 40), "8": (25, 30, 35, 40, 50, 60), "10": (30, 40, 50, 60), "12": (40, 50, 60, 80), "16": (60, 80, 100, 120)}
_PINS = (6.0, 8.0, 10.0, 12.0, 14.0, 16.0, 18.0, 20.0, 24.0, 28.0, 30.0, 32.0, 35.0, 40.0, 45.0, 50.0, 55.0, 60.0, 70.0, 80.0, 90.0, 100.0)


def _pin_lengths(size: str) -> tuple[float, ...]:
    d = float(size)
    return tuple(x for x in _PINS if 2 * d <= x <= 12 * d)


PINS: dict[str, Family] = {
    p.key: p
    for p in (
        Family("dowel", "wooden dowel", "DIN 68150", "dowel", ("across",), {d: (float(d),) for d in _DOWELS}, _pin,
               lambda size: tuple(map(float, _DOWELS[size])), "beech pin fluted", density=BEECH),
        Family("pin", "parallel pin", "ISO 2338", "pin", ("across",), {d: (float(d),) for d in ("2", "2.5", "3", "4", "5", "6", "8", "10")}, _pin,
               _pin_lengths, "dowel steel cylinder"),
        Family("shaft_ring", "retaining ring for shafts", "DIN 471", "ring", ("height", "outer", "groove", "groove_width"), {
            "4": (0.4, 8.8, 3.8, 0.5), "5": (0.6, 10.7, 4.8, 0.7), "6": (0.7, 12.2, 5.7, 0.8), "8": (0.8, 15.2, 7.6, 0.9), "10": (1.0, 17.6, 9.6, 1.1),
            "12": (1.0, 19.6, 11.5, 1.1), "15": (1.0, 23.2, 14.3, 1.1), "16": (1.0, 24.4, 15.2, 1.1), "20": (1.2, 29.0, 19.0, 1.3),
        }, _ring, words="circlip snap outer external"),
        Family("bore_ring", "retaining ring for bores", "DIN 472", "ring", ("height", "inner", "groove", "groove_width"), {
            "10": (1.0, 3.3, 10.4, 1.1), "12": (1.0, 4.9, 12.5, 1.1), "16": (1.0, 8.0, 16.8, 1.1), "19": (1.0, 10.4, 20.0, 1.1), "22": (1.0, 12.9, 23.0, 1.1),
            "26": (1.2, 16.1, 27.2, 1.3), "30": (1.2, 19.9, 31.4, 1.3), "32": (1.2, 20.6, 33.7, 1.3),
        }, _inner_ring, words="circlip snap inner internal"),
        Family("bearing", "ball bearing", "ISO 15", "bearing", ("inner", "outer", "width"), {
            "623": (3.0, 10.0, 4.0), "624": (4.0, 13.0, 5.0), "625": (5.0, 16.0, 5.0), "626": (6.0, 19.0, 6.0), "608": (8.0, 22.0, 7.0),
            "6000": (10.0, 26.0, 8.0), "6001": (12.0, 28.0, 8.0), "6002": (15.0, 32.0, 9.0), "6200": (10.0, 30.0, 9.0), "6201": (12.0, 32.0, 10.0),
        }, _bearing, words="deep groove roller", freedom=Freedom("turns", 2, (0.0, 0.0, 0.0), -math.inf, math.inf, 0.0)),
    )
}  # a row a line  # fmt: skip

#: A shaft measures so much less than its size at most (mm), as drawn bars do (h11 up to 18 mm: 0.11, ISO 286-2 from memory).
UNDER = 0.15


def ring_for(diameter: float) -> str | None:
    """The size of the retaining ring for a shaft as it was measured; None where there is none."""
    return next((size for size in PINS["shaft_ring"].rows if -CONTACT <= float(size) - diameter <= UNDER), None)
