"""What gives a thread to a part that has none: inserts for wood, rivet nuts for sheet. Millimetres; values from memory."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.stock.hardware.family import Family
from zygon.stock.hardware.piece import Slice, round_
from zygon.stock.hardware.threads import diameter_of

__all__ = ["INSERTS", "Inserts"]


@dataclass(frozen=True)
class Inserts(Family):
    """Its rows are the hole, the length in the part, and the width and height of the collar that lies on it (0 for none). It lies in its hole from 0 up.

    ``least`` and ``most`` bound how thick the part is that it grips (mm), where it does by being drawn together.
    """

    least: float = 0.0
    most: float = 0.0

    def hole(self, size: str) -> float:
        """The hole that it goes in."""
        return self.rows[size][0]

    def long(self, size: str) -> float:
        """How deep it reaches into the part."""
        return self.rows[size][1]


def _insert(size: str, row: tuple[float, ...], _: float) -> tuple[Slice, ...]:
    hole, long, wide, high = row
    own = diameter_of(size)
    collar = (round_(-high, 0.0, wide, own),) if high else ()
    return (*collar, round_(0.0, long, hole, own))


_COLUMNS = ("hole", "long", "collar", "collar_height")

INSERTS: dict[str, Inserts] = {
    i.key: i
    for i in (
        Inserts("insert", "threaded insert for wood", "DIN 7965", "insert", _COLUMNS, {
            "M4": (7.0, 10.0, 0.0, 0.0), "M5": (8.5, 12.0, 0.0, 0.0), "M6": (10.5, 14.0, 0.0, 0.0), "M8": (14.0, 20.0, 0.0, 0.0),
            "M10": (16.5, 25.0, 0.0, 0.0),
        }, _insert, words="screw in bush threaded"),
        Inserts("rivet_nut", "rivet nut", "", "insert", _COLUMNS, {
            "M3": (5.0, 9.0, 7.0, 0.8), "M4": (6.0, 10.5, 9.0, 0.8), "M5": (7.0, 12.0, 10.0, 1.0), "M6": (9.0, 14.5, 13.0, 1.5), "M8": (11.0, 16.0, 16.0, 1.5),
            "M10": (13.0, 19.0, 19.0, 2.0),
        }, _insert, words="blind nut riv sheet metal", source="common practice", least=0.5, most=3.0),
    )
}  # a row a line  # fmt: skip
