"""What a new stock of each kind has, a new size of it, a new cutter, a new brake and its tools: plain data of their records."""

from __future__ import annotations

from typing import Any

__all__ = [
    "BENDING_START",
    "BIT_START",
    "BRAKE_START",
    "CLAMP_START",
    "CUTTER_START",
    "DIE_START",
    "PUNCH_START",
    "SIZE_STARTS",
    "STOCK_STARTS",
    "WORK_START",
]

_SHEET = {"length": {"text": "1220 mm"}, "width": {"text": "610 mm"}, "price": 0}
_BAR = {"length": {"text": "1 m"}, "price": 0}

#: By kind of stock; each is sold in one size to begin with.
STOCK_STARTS: dict[str, dict[str, Any]] = {
    "sheet": {"kind": "sheet", "name": "New sheet", "nominal": {"text": "10 mm"}, "sheets": {"one": _SHEET}},
    "bar": {
        "kind": "bar",
        "name": "Round bar 10 mm",
        "material": "beech",
        "nominal": {"text": "10 mm"},
        "density": 0.72,
        "tint": "#D9B98C",
        "lengths": {"one": _BAR},
    },
}
#: By what a stock may be sold in more sizes of: the words of the button, and what the size has.
SIZE_STARTS: dict[str, list[tuple[str, dict[str, Any]]]] = {
    "sheet": [
        ("Another sheet size", _SHEET),
        ("A roll", {"length": {"text": "20 m"}, "width": {"text": "600 mm"}, "price": 0, "roll": True}),
    ],
    "bar": [("Another length", {"length": {"text": "2 m"}, "price": 0})],
}
#: A sheet metal of which nothing is known is reckoned by its K-factor.
BENDING_START: dict[str, Any] = {"rule": "k"}
#: The first cutter of a design; the next ones have what the one before has.
CUTTER_START: dict[str, Any] = {
    "name": "Another cutter",
    "kind": "laser",
    "kerf": {"text": "0.2 mm"},
    "smallest": {"text": "1 mm"},
    "bed_length": {"text": "900 mm"},
    "bed_width": {"text": "600 mm"},
}
#: In a stock that it has not cut yet.
WORK_START: dict[str, Any] = {"cut_speed": 10, "mark_speed": 100, "pierce": 0.5}
BIT_START: dict[str, Any] = {"name": "3 mm end mill", "kind": "end_mill", "number": 2, "diameter": {"text": "3 mm"}, "flutes": 2}
CLAMP_START: dict[str, Any] = {
    "name": "New clamp",
    "x": {"text": "0 mm"},
    "y": {"text": "0 mm"},
    "length": {"text": "40 mm"},
    "width": {"text": "20 mm"},
    "height": {"text": "8 mm"},
}
PUNCH_START: dict[str, Any] = {"name": "New punch", "angle": 88, "radius": 1, "height": 100, "width": 12}
DIE_START: dict[str, Any] = {"name": "New die", "v": 10, "angle": 88, "radius": 1, "height": 60, "width": 24}
BRAKE_START: dict[str, Any] = {"name": "Another press brake", "punches": {"p": PUNCH_START}, "dies": {"d": DIE_START}}
