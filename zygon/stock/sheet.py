"""Sheet stock: nominal and measured thickness, sheet sizes, grain, density, price."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record
from zygon.stock.base import StockBase
from zygon.stock.bending import Bending
from zygon.stock.gauge import GaugeSystem

__all__ = ["OffcutPiece", "SheetSize", "SheetStock"]


class SheetSize(Record):
    """One size a stock is sold in; a roll has no end along its length and its price is for one metre."""

    length: Entry
    width: Entry
    price: float = Field(default=0.0, ge=0, description="price of one sheet; of one metre for a roll")
    roll: bool = False
    count: int = Field(default=0, ge=0, le=200, description="how many there are; 0 for as many as are needed")
    grain: Literal["along", "across"] = Field(
        default="along", description="of this size, where the stock has a grain: along its length or across it"
    )
    order: int = 0


class OffcutPiece(Record):
    """An offcut that a design takes from the shelf: its outline, and holes in it, as corners (x, y) in mm with its low corner at 0, 0."""

    name: str = Field(min_length=1, max_length=80)
    outline: list[tuple[float, float]] = Field(min_length=3, max_length=2000)
    holes: list[list[tuple[float, float]]] = Field(default_factory=list, max_length=200)
    order: int = 0


class SheetStock(StockBase):
    """A sheet material."""

    kind: Literal["sheet"] = "sheet"
    gauge: GaugeSystem | None = None
    sheets: dict[str, SheetSize] = Field(default_factory=dict, max_length=20)
    offcuts: dict[str, OffcutPiece] = Field(default_factory=dict, max_length=100, description="used before new sheets")
    grain: Literal["none", "along"] = Field(default="none", description="along: it runs with the sheet's length")
    faces: Literal["differ", "alike"] = Field(
        default="differ", description="alike: a part cut straight through and its mirror image are the same, turned over"
    )
    turn: str = Field(
        default="90", pattern=r"^(none|free|180|120|90|72|60|45|40|36|30|24|20|18|15|12|10|9|8|6|5)$",
        description="turns that nesting may use: none, by a step in degrees, or free; grain leaves 180",
    )  # fmt: skip
    hatch: Literal["ply", "metal", "plastic", "board"] = "ply"
    bends: bool = Field(default=False, description="a sheet metal, of which folded parts are made")
    bending: Bending | None = Field(default=None, description="how its bends are reckoned, of a sheet metal")
