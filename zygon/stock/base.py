"""What all stocks have, whatever shape they are sold in."""

from __future__ import annotations

from typing import ClassVar

from zygon.measure.asked import COLOUR, asked
from zygon.measure.entry import Entry, Record

__all__ = ["StockBase"]


class StockBase(Record):
    """A material as it is sold. ``nominal`` is its thickness or diameter; ``measured`` is used wherever that matters, where it is entered."""

    title: ClassVar[str] = ""

    name: str = asked("Name", min_length=1, max_length=80)
    material: str = asked("Material", "plywood", max_length=40)
    nominal: Entry = asked("Nominal")
    measured: Entry | None = asked("Measured", None, blank="caliper reading")
    density: float = asked("Density", 0.68, suffix=" g/cm³", step=0.01, place=5, gt=0, le=25)
    engages: float | None = asked(
        "Thread reaches in",
        None,
        suffix=" diameters",
        step=0.5,
        note="of a screw that goes into it",
        blank="by its kind",
        place=8,
        gt=0,
        le=20,
    )
    engages_along: float | None = asked(
        "By the edge",
        None,
        suffix=" diameters",
        step=0.5,
        note="of a screw that goes in along the sheet",
        blank="by its kind",
        place=8,
        gt=0,
        le=20,
    )
    tint: str = asked("Colour in pictures", "#E6CFA3", place=6, pattern=COLOUR)
    order: int = 0
