"""What all stocks have, whatever shape they are sold in."""

from __future__ import annotations

from pydantic import Field

from zygon.measure.entry import Entry, Record

__all__ = ["StockBase"]


class StockBase(Record):
    """A material as it is sold. ``nominal`` is its thickness or diameter; ``measured`` is used wherever that matters, where it is entered."""

    name: str = Field(min_length=1, max_length=80)
    material: str = Field(default="plywood", max_length=40)
    nominal: Entry
    measured: Entry | None = None
    density: float = Field(default=0.68, gt=0, le=25, description="g/cm³")
    tint: str = Field(default="#E6CFA3", pattern="^#[0-9A-Fa-f]{6}$")
    order: int = 0
