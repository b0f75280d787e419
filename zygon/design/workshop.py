"""A small invented workshop's stocks, cutter and fits: what starters and the demo cut from."""

from __future__ import annotations

from typing import Any

from zygon.design.plain import copied

__all__ = ["BARS", "BRAKES", "CUTTER", "CUTTERS", "FITS", "INCH_STOCKS", "METAL_LASER", "ROUTER", "SAW", "STOCKS", "workshop"]


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
    "ply18": {
        "name": "Birch plywood 18 mm", "material": "plywood", "nominal": _entry("18 mm"), "measured": _entry("17.7 mm"),
        "sheets": {"half": _sheet("1220 mm", "610 mm", 34.0), "full": _sheet("1220 mm", "1220 mm", 64.0, 1)},
        "grain": "along", "turn": "180", "density": 0.68, "tint": "#DFC592", "hatch": "ply", "order": 5,
    },
    "ply34": {
        "name": "Birch plywood 3/4 in", "material": "plywood", "nominal": {"text": "3/4", "unit": "in"},
        "sheets": {"full": _sheet("48 in", "48 in", 71.0)},
        "grain": "along", "turn": "180", "density": 0.68, "tint": "#DDC08A", "hatch": "ply", "order": 2,
    },
    "galv20": {
        "name": "Galvanised steel 20 ga", "material": "galvanised steel", "nominal": _entry("20 ga"), "gauge": "galvanised",
        "sheets": {"half": _sheet("1000 mm", "500 mm", 19.0)},
        "grain": "none", "turn": "90", "density": 7.85, "tint": "#C9D1D6", "hatch": "metal", "bends": True, "order": 3,
        "bending": {"rule": "din6935", "strength": 380.0},
    },
    "felt3": {
        "name": "Wool felt 3 mm", "material": "felt", "nominal": _entry("3 mm"),
        "sheets": {"roll": _sheet("20 m", "600 mm", 11.0, roll=True)},
        "grain": "none", "turn": "90", "density": 0.30, "tint": "#D7D2C8", "hatch": "board", "order": 4,
    },
}  # a row a line  # fmt: skip


def _inch(text: str) -> dict[str, str]:
    return {"text": text, "unit": "in"}


def _inch_sheet(length: str, width: str, price: float, order: int = 0, roll: bool = False) -> dict[str, Any]:
    return {"length": _inch(length), "width": _inch(width), "price": price, "roll": roll, "order": order}


#: The same stocks as they are sold by the inch, under the keys of those that they take the place of.
INCH_STOCKS: dict[str, dict[str, Any]] = {
    "ply12": STOCKS["ply12"] | {
        "name": "Birch plywood 1/2 in", "nominal": _inch("1/2"), "measured": _inch("0.472"),
        "sheets": {"half": _inch_sheet("48", "24", 24.5), "full": _inch_sheet("48", "48", 46.0, 1)},
    },
    "ply6": STOCKS["ply6"] | {
        "name": "Birch plywood 1/4 in", "nominal": _inch("1/4"), "measured": _inch("0.236"), "sheets": {"half": _inch_sheet("48", "24", 15.8), "full": _inch_sheet("48", "48", 29.5, 1)},
    },
    "ply18": STOCKS["ply18"] | {
        "name": "Birch plywood 11/16 in", "nominal": _inch("11/16"), "measured": _inch("0.697"),
        "sheets": {"half": _inch_sheet("48", "24", 34.0), "full": _inch_sheet("48", "48", 64.0, 1)},
    },
    "galv20": STOCKS["galv20"] | {
        "sheets": {"half": _inch_sheet("40", "20", 19.0)}, "bending": {"rule": "handbook-half-hard", "strength": 380.0, "radius": _inch("1/16")},
    },
    "felt3": STOCKS["felt3"] | {"name": "Wool felt 1/8 in", "nominal": _inch("1/8"), "sheets": {"roll": _inch_sheet("65 ft", "24", 11.0, roll=True)}},
}  # a row a line  # fmt: skip

#: Bars by stock key, for designs that name them. Prices are invented.
BARS: dict[str, dict[str, Any]] = {
    "beech12": {
        "kind": "bar", "name": "Beech rod 12 mm", "material": "beech", "nominal": _entry("12 mm"), "measured": _entry("11.9 mm"),
        "lengths": {"metre": {"length": _entry("1 m"), "price": 2.4}}, "kerf": _entry("1.6 mm"),
        "density": 0.72, "tint": "#D9B98C", "order": 6,
    },
    "steel6": {
        "kind": "bar", "name": "Steel rod 6 mm", "material": "steel", "nominal": _entry("6 mm"),
        "lengths": {"bar": {"length": _entry("3 m"), "price": 5.2}}, "kerf": _entry("1 mm"),
        "density": 7.85, "tint": "#B8C0C6", "order": 7,
    },
    "steel8": {
        "kind": "bar", "name": "Steel rod 8 mm", "material": "steel", "nominal": _entry("8 mm"), "least_radius": _entry("12 mm"), "springs": 4,
        "lengths": {"bar": {"length": _entry("3 m"), "price": 8.1}}, "kerf": _entry("1 mm"), "density": 7.85, "tint": "#B8C0C6", "order": 12,
    },
    # sizes of tubes from memory (EN 10219, EN 10255); prices are invented
    "square40": {
        "kind": "bar", "name": "Square tube 40 × 3", "material": "steel", "shape": "square", "nominal": _entry("40 mm"), "wall": _entry("3 mm"),
        "corner": _entry("6 mm"), "lengths": {"bar": {"length": _entry("6 m"), "price": 31.8}}, "kerf": _entry("2 mm"),
        "density": 7.85, "tint": "#9FA8B0", "order": 8,
    },
    "tube33": {
        "kind": "bar", "name": "Round tube 33.7 × 2.6", "material": "steel", "nominal": _entry("33.7 mm"), "wall": _entry("2.6 mm"),
        "lengths": {"bar": {"length": _entry("6 m"), "price": 22.5}}, "kerf": _entry("2 mm"), "density": 7.85, "tint": "#A9B2B9", "order": 9,
    },
    "tube42": {
        "kind": "bar", "name": "Round tube 42.4 × 2.6", "material": "steel", "nominal": _entry("42.4 mm"), "wall": _entry("2.6 mm"),
        "lengths": {"bar": {"length": _entry("6 m"), "price": 28.9}}, "kerf": _entry("2 mm"), "density": 7.85, "tint": "#A9B2B9", "order": 10,
    },
    "flat30": {
        "kind": "bar", "name": "Flat bar 30 × 5", "material": "steel", "shape": "rectangle", "nominal": _entry("5 mm"), "width": _entry("30 mm"),
        "lengths": {"bar": {"length": _entry("6 m"), "price": 11.4}}, "kerf": _entry("2 mm"), "density": 7.85, "tint": "#B8C0C6", "order": 11,
    },
}  # a row a line  # fmt: skip

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
}  # a row a line  # fmt: skip

#: What metal is cut on; a bench laser only marks it.
METAL_LASER: dict[str, Any] = {
    **CUTTER, "name": "Sheet metal laser 500 W", "work": {"galv20": CUTTER["work"]["galv20"]}, "order": 3,
}  # a row a line  # fmt: skip

ROUTER: dict[str, Any] = {
    "name": "Bench router, 6 mm bit", "kind": "router", "kerf": _entry("6 mm"), "bit": _entry("6 mm"), "pass_depth": _entry("6 mm"),
    "smallest": _entry("6 mm"), "bed_length": _entry("1300 mm"), "bed_width": _entry("1250 mm"), "travel": 120.0, "hourly": 38.0,
    "work": {
        "ply12": {"cut_speed": 30.0, "mark_speed": 40.0, "pierce": 1.5, "spindle": 12000},
        "ply6": {"cut_speed": 40.0, "mark_speed": 40.0, "pierce": 1.0, "spindle": 12000},
        "ply34": {"cut_speed": 25.0, "mark_speed": 40.0, "pierce": 2.0, "spindle": 12000},
        "ply18": {"cut_speed": 25.0, "mark_speed": 40.0, "pierce": 2.0, "spindle": 12000},
    },
    "acceleration": 500.0,
    "bits": {
        "fine": {"name": "3 mm end mill", "kind": "end_mill", "number": 2, "diameter": _entry("3 mm"), "reach": _entry("20 mm"), "order": 0},
        "v90": {"name": "90° V bit", "kind": "v", "number": 3, "diameter": _entry("12 mm"), "angle": 90.0, "order": 1},
        "drill25": {"name": "2.5 mm drill", "kind": "drill", "number": 4, "diameter": _entry("2.5 mm"), "order": 2},
        "drill45": {"name": "4.5 mm drill", "kind": "drill", "number": 5, "diameter": _entry("4.5 mm"), "order": 3},
        "drill5": {"name": "5 mm drill", "kind": "drill", "number": 6, "diameter": _entry("5 mm"), "order": 4},
    },
    "order": 1,
}  # a row a line  # fmt: skip

SAW: dict[str, Any] = {
    "name": "Table saw and hand tools", "kind": "saw", "kerf": _entry("2.8 mm"), "smallest": _entry("2.8 mm"), "bed_length": _entry("2600 mm"),
    "bed_width": _entry("1300 mm"), "travel": 100.0, "hourly": 30.0,
    "work": {k: {"cut_speed": 20.0, "mark_speed": 20.0, "pierce": 4.0} for k in ("ply12", "ply6", "ply34", "ply18")},
    "order": 2,
}  # a row a line  # fmt: skip

CUTTERS: dict[str, dict[str, Any]] = {"laser": CUTTER, "router": ROUTER, "saw": SAW}

BRAKE: dict[str, Any] = {
    "name": "Bench press brake, 1.25 m", "length": 1250.0, "force": 250.0, "gauge": 4.0, "joggle": 8.0, "joggle_radius": 0.6, "joggle_angle": 60.0,
    "punches": {
        "straight": {"name": "Straight 88°, R 1.5", "angle": 88.0, "radius": 1.5, "height": 105.0, "width": 12.0, "order": 0},
        "goose": {
            "name": "Gooseneck 86°, R 1.5", "angle": 86.0, "radius": 1.5, "height": 120.0, "width": 14.0, "order": 1,
            "profile": [[0, 0], [7, 7.5], [7, 14], [-18, 42], [-18, 88], [-8, 120], [14, 120], [14, 98], [-4, 62], [-4, 50], [-1.5, 20], [-7, 7.5]],
        },
        "acute": {"name": "Acute 30°, R 1", "angle": 30.0, "radius": 1.0, "height": 110.0, "width": 9.0, "order": 2},
        "wide": {"name": "Straight 85°, R 3", "angle": 85.0, "radius": 3.0, "height": 105.0, "width": 16.0, "order": 3},
    },
    "dies": {
        "v6": {"name": "V 6", "v": 6.0, "angle": 88.0, "radius": 0.6, "width": 14.0, "order": 0},
        "v8": {"name": "V 8", "v": 8.0, "angle": 86.0, "radius": 0.8, "width": 16.0, "order": 1},
        "v12": {"name": "V 12", "v": 12.0, "angle": 85.0, "radius": 1.2, "width": 22.0, "order": 2},
        "v16": {"name": "V 16", "v": 16.0, "angle": 85.0, "radius": 2.0, "width": 28.0, "order": 3},
        "acute6": {"name": "Acute V 6, 30°", "v": 6.0, "angle": 30.0, "radius": 0.8, "width": 20.0, "height": 80.0, "order": 5},
        "acute8": {"name": "Acute V 8, 30°", "v": 8.0, "angle": 30.0, "radius": 1.0, "width": 24.0, "height": 80.0, "order": 4},
    },
    "order": 0,
}  # a row a line  # fmt: skip

BRAKES: dict[str, dict[str, Any]] = {"bench": BRAKE}

#: (press, snug, slip, loose) in mm by cutter and stock.
_CLEARANCES = {
    "laser": {"ply12": (-0.10, 0.08, 0.25, 0.6), "ply6": (-0.06, 0.06, 0.2, 0.5), "ply34": (-0.10, 0.10, 0.3, 0.8)},
    "router": {"ply12": (-0.05, 0.15, 0.3, 0.8), "ply6": (-0.05, 0.15, 0.3, 0.8), "ply18": (-0.05, 0.15, 0.35, 0.8)},
}

FITS: dict[str, dict[str, Any]] = {
    stock if cutter == "laser" else f"{stock}-{cutter}": {
        "stock": stock, "cutter": cutter, **{n: _entry(f"{c:g} mm") for n, c in zip(("press", "snug", "slip", "loose"), clearances, strict=True)},
    }
    for cutter, table in _CLEARANCES.items()
    for stock, clearances in table.items()
}  # a row a line  # fmt: skip


def workshop(*stocks: str, cutter: str = "laser") -> dict[str, Any]:
    """The part of a document that says what is cut from and with: the named stocks (all where none is named), cutters, fits.

    The chosen ``cutter`` and the others stand by, so that a design can be looked at with each of them.
    """
    keys = stocks or tuple(STOCKS)
    metal = all((STOCKS | BARS)[k].get("hatch") == "metal" for k in keys)
    of = {**CUTTERS, "laser": {**METAL_LASER, "order": 0}} if metal else CUTTERS
    cutters = {name: {**c, "work": {k: w for k, w in c["work"].items() if k in keys}} for name, c in of.items()}
    # copies: whoever drafts a document may change it
    return copied(
        {
            "stocks": {k: (STOCKS | BARS)[k] for k in keys},
            "cutters": cutters,
            "cutter": cutter,
            "fits": {k: f for k, f in FITS.items() if f["stock"] in keys},
            **({"brakes": BRAKES, "brake": "bench"} if any("bending" in STOCKS.get(k, {}) for k in keys) else {}),
        }
    )
