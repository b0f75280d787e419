"""What a new stock of each kind has, and a new size of it: plain data of their records."""

from __future__ import annotations

from typing import Any

__all__ = ["SIZE_STARTS", "STOCK_STARTS"]

_SHEET = {"length": {"text": "1220 mm"}, "width": {"text": "610 mm"}, "price": 0}
_BAR = {"length": {"text": "1 m"}, "price": 0}

#: By kind of stock; each is sold in one size to begin with.
STOCK_STARTS: dict[str, dict[str, Any]] = {
    "sheet": {"kind": "sheet", "name": "New sheet", "nominal": {"text": "10 mm"}, "sheets": {"one": _SHEET}},
    "bar": {
        "kind": "bar", "name": "Round bar 10 mm", "material": "beech", "nominal": {"text": "10 mm"}, "density": 0.72, "tint": "#D9B98C",
        "lengths": {"one": _BAR},
    },
}  # fmt: skip
#: By what a stock may be sold in more sizes of: the words of the button, and what the size has.
SIZE_STARTS: dict[str, list[tuple[str, dict[str, Any]]]] = {
    "sheet": [
        ("Another sheet size", _SHEET),
        ("A roll", {"length": {"text": "20 m"}, "width": {"text": "600 mm"}, "price": 0, "roll": True}),
    ],
    "bar": [("Another length", {"length": {"text": "2 m"}, "price": 0})],
}
