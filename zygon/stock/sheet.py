"""Sheet stock: nominal and measured thickness, sheet sizes, grain, density, price."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.stock.base import StockBase
from zygon.stock.bending import Bending
from zygon.stock.gauge import GAUGE_WORDS, GaugeSystem

__all__ = ["OffcutPiece", "SheetSize", "SheetStock"]


_SHEET: dict[str, tuple[str, ...]] = {"roll": ("false",)}
_EITHER: dict[str, tuple[str, ...]] = {"roll": ("false", "true")}


class SheetSize(Record):
    """One size a stock is sold in; a roll has no end along its length and its price is for one metre."""

    title: ClassVar[str] = "Sheet"

    #: Said when it is added, and shown nowhere.
    roll: bool = asked("Roll", False, section="made")
    length: Entry = asked("Sheet length", only=_SHEET)
    width: Entry = asked("Sheet width", only=_EITHER, labels={"true": "Roll width"})
    price: float = asked("Price", 0.0, only=_EITHER, labels={"true": "Price a metre"}, suffix=" CURRENCY", step=0.5, ge=0)
    grain: Literal["along", "across"] = asked(
        "Its grain",
        "along",
        note="of this size, where the stock has a grain",
        words={"along": "along its length", "across": "across its length"},
        only=_SHEET,
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

    title: ClassVar[str] = "Sheet"

    kind: Literal["sheet"] = "sheet"
    gauge: GaugeSystem | None = asked("Gauges", None, words=GAUGE_WORDS, blank="none")
    sheets: dict[str, SheetSize] = Field(default_factory=dict, max_length=20)
    offcuts: dict[str, OffcutPiece] = Field(default_factory=dict, max_length=100, description="used before new sheets")
    hatch: Literal["ply", "metal", "plastic", "board"] = asked(
        "Kind",
        "ply",
        words={"ply": "plywood, wood", "metal": "sheet metal", "plastic": "plastic", "board": "felt, card, board"},
        brings={kind: {"bends": kind == "metal"} for kind in ("ply", "metal", "plastic", "board")},
    )
    grain: Literal["none", "along"] = asked(
        "Grain",
        "none",
        note="along: it runs with the sheet's length",
        words={"none": "none", "along": "along the sheet's length"},
    )
    faces: Literal["differ", "alike"] = asked(
        "Faces",
        "differ",
        note="alike: a part cut straight through and its mirror image are the same, turned over",
        words={"differ": "one is the better", "alike": "alike: parts may be turned over"},
    )
    turn: str = Field(
        default="90",
        pattern=r"^(none|free|180|120|90|72|60|45|40|36|30|24|20|18|15|12|10|9|8|6|5)$",
        description="turns that nesting may use: none, by a step in degrees, or free; grain leaves 180",
    )
    bends: bool = Field(default=False, description="a sheet metal, of which folded parts are made")
    bending: Bending | None = Field(default=None, description="how its bends are reckoned, of a sheet metal")
