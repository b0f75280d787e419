"""A small invented workshop's stocks, cutter and fits: what starters and the demo cut from."""

from __future__ import annotations

import copy
from typing import Any

__all__ = ["CUTTER", "FITS", "STOCKS", "workshop"]


def _entry(text: str) -> dict[str, str]:
    return {"text": text, "unit": "mm"}


def _sheet(length: str, width: str, price: float, order: int = 0, roll: bool = False) -> dict[str, Any]:
    return {"length": _entry(length), "width": _entry(width), "price": price, "roll": roll, "order": order}


#: By stock key. Prices are invented.
STOCKS: dict[str, dict[str, Any]] = {
    "ply12": {
        "name": "Birch plywood 12 mm", "material": "plywood", "nominal": _entry("12 mm"), "measured": _entry("11.8 mm"),
        "sheets": {"half": _sheet("1220 mm", "610 mm", 24.5), "full": _sheet("1220 mm", "1220 mm", 46.0, 1)},
        "grain": "none", "turn": "90", "density": 0.68, "tint": "#E6CFA3", "hatch": "ply", "order": 0,
    },
    "ply6": {
        "name": "Birch plywood 6 mm", "material": "plywood", "nominal": _entry("6 mm"), "measured": _entry("5.9 mm"),
        "sheets": {"half": _sheet("1220 mm", "610 mm", 15.8)},
        "grain": "along", "turn": "180", "density": 0.68, "tint": "#F0DDB8", "hatch": "ply", "order": 1,
    },
    "ply34": {
        "name": "Birch plywood 3/4 in", "material": "plywood", "nominal": {"text": "3/4", "unit": "in"},
        "sheets": {"full": _sheet("48 in", "48 in", 71.0)},
        "grain": "along", "turn": "180", "density": 0.68, "tint": "#DDC08A", "hatch": "ply", "order": 2,
    },
    "galv20": {
        "name": "Galvanised steel 20 ga", "material": "galvanised steel", "nominal": _entry("20 ga"), "gauge": "galvanised",
        "sheets": {"half": _sheet("1000 mm", "500 mm", 19.0)},
        "grain": "none", "turn": "90", "density": 7.85, "tint": "#C9D1D6", "hatch": "metal", "order": 3,
    },
    "felt3": {
        "name": "Wool felt 3 mm", "material": "felt", "nominal": _entry("3 mm"),
        "sheets": {"roll": _sheet("20 m", "600 mm", 11.0, roll=True)},
        "grain": "none", "turn": "90", "density": 0.30, "tint": "#D7D2C8", "hatch": "board", "order": 4,
    },
}  # fmt: skip

CUTTER: dict[str, Any] = {
    "name": "Bench laser 130 W", "kind": "laser", "kerf": _entry("0.18 mm"), "smallest": _entry("1 mm"),
    "bed_length": _entry("1300 mm"), "bed_width": _entry("1250 mm"), "travel": 350.0, "hourly": 42.0,
    "work": {
        "ply12": {"cut_speed": 7.0, "mark_speed": 120.0, "pierce": 0.6, "kerf": _entry("0.24 mm")},
        "ply6": {"cut_speed": 18.0, "mark_speed": 140.0, "pierce": 0.3},
        "ply34": {"cut_speed": 3.5, "mark_speed": 120.0, "pierce": 1.0, "kerf": _entry("0.30 mm")},
        "galv20": {"cut_speed": 25.0, "mark_speed": 90.0, "pierce": 0.4},
        "felt3": {"cut_speed": 90.0, "mark_speed": 200.0, "pierce": 0.0},
    },
    "order": 0,
}  # fmt: skip

FITS: dict[str, dict[str, Any]] = {
    key: {"stock": key, "cutter": "laser", "press": _entry(p), "snug": _entry(s), "slip": _entry(q), "loose": _entry(lo)}
    for key, p, s, q, lo in (
        ("ply12", "-0.10 mm", "0.08 mm", "0.25 mm", "0.6 mm"),
        ("ply6", "-0.06 mm", "0.06 mm", "0.2 mm", "0.5 mm"),
        ("ply34", "-0.10 mm", "0.10 mm", "0.3 mm", "0.8 mm"),
    )
}  # fmt: skip


def workshop(*stocks: str) -> dict[str, Any]:
    """The part of a document that says what is cut from and with: the named stocks (all where none is named), cutter, fits."""
    keys = stocks or tuple(STOCKS)
    cutter = {**CUTTER, "work": {k: w for k, w in CUTTER["work"].items() if k in keys}}
    # copies: whoever drafts a document may change it
    return copy.deepcopy(
        {
            "stocks": {k: STOCKS[k] for k in keys},
            "cutters": {"laser": cutter},
            "cutter": "laser",
            "fits": {k: f for k, f in FITS.items() if k in keys},
        }
    )
