"""Bar stock: round bars, the lengths they are sold in, and what a cut through one takes."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record
from zygon.stock.base import StockBase

__all__ = ["BarLength", "BarStock"]


class BarLength(Record):
    """One length that a bar is sold in."""

    length: Entry
    price: float = Field(default=0.0, ge=0, description="of one bar")
    count: int = Field(default=0, ge=0, le=1000, description="how many there are; 0 for as many as are needed")
    order: int = 0


class BarStock(StockBase):
    """A round bar; its thickness is its diameter."""

    kind: Literal["bar"] = "bar"
    shape: Literal["round"] = "round"
    lengths: dict[str, BarLength] = Field(default_factory=dict, max_length=20)
    kerf: Entry = Field(default=Entry(text="2 mm"), description="what the saw takes")
    gauge: ClassVar[None] = None
    bends: ClassVar[bool] = False
    bending: ClassVar[None] = None
    grain: ClassVar[Literal["none", "along"]] = "none"
