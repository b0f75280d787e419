"""What a workshop has on its shelf, as plain data of the records: a design takes copies of it."""

from __future__ import annotations

from typing import Any

from zygon.measure.entry import Record

__all__ = ["Shelf"]

Records = dict[str, dict[str, Any]]


class Shelf(Record):
    """Records by key, each as in a design's stocks, cutters, fits and brakes."""

    stocks: Records
    cutters: Records
    fits: Records
    brakes: Records
