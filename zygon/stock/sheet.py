"""Sheet stock: nominal and measured thickness, sheet sizes, grain, density, price."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record
from zygon.stock.bending import Bending
from zygon.stock.gauge import GaugeSystem

__all__ = ["SheetSize", "SheetStock"]


class SheetSize(Record):
    """One size a stock is sold in; a roll has no end along its length and its price is for one metre."""

    length: Entry
    width: Entry
    price: float = Field(default=0.0, ge=0, description="price of one sheet; of one metre for a roll")
    roll: bool = False
    order: int = 0


class SheetStock(Record):
    """A sheet material. ``measured`` is used wherever the thickness matters, where it is entered."""

    name: str = Field(min_length=1, max_length=80)
    material: str = Field(default="plywood", max_length=40)
    nominal: Entry
    measured: Entry | None = None
    gauge: GaugeSystem | None = None
    sheets: dict[str, SheetSize] = Field(default_factory=dict)
    grain: Literal["none", "along"] = Field(default="none", description="along: it runs with the sheet's length")
    faces: Literal["differ", "alike"] = Field(
        default="differ", description="alike: a part cut straight through and its mirror image are the same, turned over"
    )
    turn: Literal["none", "180", "90", "free"] = Field(
        default="90", description="turns that nesting may use, free ones by steps of 15 degrees; grain leaves 180"
    )
    density: float = Field(default=0.68, gt=0, le=25, description="g/cm³")
    tint: str = Field(default="#E6CFA3", pattern="^#[0-9A-Fa-f]{6}$")
    hatch: Literal["ply", "metal", "plastic", "board"] = "ply"
    bending: Bending | None = Field(default=None, description="how its bends are reckoned, of a sheet metal")
    order: int = 0
