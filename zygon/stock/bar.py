"""Bar stock: round bars, the lengths they are sold in, and what a cut through one takes."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.stock.base import StockBase

__all__ = ["BarLength", "BarStock"]


class BarLength(Record):
    """One length that a bar is sold in."""

    title: ClassVar[str] = "Bar"

    length: Entry = asked("Bar length")
    price: float = asked("Price", 0.0, suffix=" CURRENCY", step=0.5, ge=0)
    count: int = asked("In stock", 0, suffix=" bars", zero=" = any number", ge=0, le=1000)
    order: int = 0


class BarStock(StockBase):
    """A round bar; its thickness is its diameter."""

    title: ClassVar[str] = "Round bar"

    kind: Literal["bar"] = "bar"
    shape: Literal["round"] = "round"
    nominal: Entry = asked("Diameter")
    lengths: dict[str, BarLength] = Field(default_factory=dict, max_length=20)
    kerf: Entry = asked("Saw takes", Entry(text="2 mm"), place=6)
    gauge: ClassVar[None] = None
    bends: ClassVar[bool] = False
    bending: ClassVar[None] = None
    grain: ClassVar[Literal["none", "along"]] = "none"
