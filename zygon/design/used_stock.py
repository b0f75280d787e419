"""What a design has taken off the workshop's shelf: its sheets and bars that have been cut."""

from __future__ import annotations

from collections import Counter
from typing import Any

from zygon.design.document import Document
from zygon.design.plain import copied
from zygon.stock.kinds import is_bar

__all__ = ["uncut", "used_stock"]


def used_stock(document: Document) -> dict[str, Counter[str]]:
    """By stock how many of each size were cut, as they are marked; without offcuts and rolls, which are not counted."""
    used: dict[str, Counter[str]] = {}
    for key, stock in document.stocks.items():
        if is_bar(stock):
            used[key] = Counter(stock.taken if stock.sawn else {})
        elif key in document.nest.arranged:
            sizes = {k for k, size in stock.sheets.items() if not size.roll}
            sheets = document.nest.arranged[key].sheets.values()
            used[key] = Counter(s.size for s in sheets if s.cut and s.size in sizes)
    return {key: counts for key, counts in used.items() if counts}


def uncut(data: dict[str, Any]) -> dict[str, Any]:
    """A document as plain data with nothing of it cut yet; the argument is left as it is."""
    data = copied(data)
    for arrangement in data.get("nest", {}).get("arranged", {}).values():
        for sheet in arrangement.get("sheets", {}).values():
            sheet.pop("cut", None)
    for stock in data.get("stocks", {}).values():
        for mark in ("sawn", "taken"):
            stock.pop(mark, None)
    return data
