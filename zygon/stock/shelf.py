"""What a workshop has on its shelf, as plain data of the records: a design takes copies of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import Field

from zygon.measure.entry import Record

__all__ = ["OnHand", "Shelf"]

Records = dict[str, dict[str, Any]]
#: How many there are of what a stock is sold in, by the stock's key and the key of the sheet's size or the bar's length. What is not named is not counted.
OnHand = Mapping[str, Mapping[str, int]]


class Shelf(Record):
    """Records by key, each as in a design's stocks, cutters, fits and brakes; and how many there are of what the stocks are sold in."""

    stocks: Records
    cutters: Records
    fits: Records
    brakes: Records
    on_hand: dict[str, dict[str, int]] = Field(default_factory=dict)
