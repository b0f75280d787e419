"""Blind rivets by their standard: the hole, the head, and what each length grips. Millimetres; values from memory."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.stock.hardware.family import Family
from zygon.stock.hardware.piece import Slice, round_

__all__ = ["RIVETS", "Rivets"]

_SERIES = (6.0, 8.0, 10.0, 12.0, 14.0, 16.0, 18.0, 20.0, 25.0, 30.0)
#: g/cm³, common handbook value.
ALUMINIUM = 2.70


@dataclass(frozen=True)
class Rivets(Family):
    """Its rows are the hole, and width and height of the head."""

    def grips(self, size: str, length: float) -> float:
        """The thickest stack that a length closes on: what is over nine tenths of its diameter (common practice)."""
        return length - 0.9 * float(size)


def _rivet(size: str, row: tuple[float, ...], length: float) -> tuple[Slice, ...]:
    _, wide, high = row
    return (round_(-high, 0.0, 0.6 * wide, to=wide), round_(0.0, length, float(size)))


def _lengths(size: str) -> tuple[float, ...]:
    d = float(size)
    return tuple(x for x in _SERIES if 1.5 * d <= x <= 6.5 * d)


RIVETS = {
    r.key: r
    for r in (
        Rivets(
            "blind_rivet",
            "blind rivet",
            "ISO 15977",
            "rivet",
            ("hole", "across", "height"),
            {
                "3": (3.1, 6.3, 1.3),
                "3.2": (3.3, 6.7, 1.3),
                "4": (4.1, 8.4, 1.7),
                "4.8": (4.9, 10.1, 2.0),
                "5": (5.1, 10.5, 2.1),
                "6": (6.1, 12.6, 2.5),
            },
            _rivet,
            _lengths,
            "pop",
            density=ALUMINIUM,
        ),
    )
}
