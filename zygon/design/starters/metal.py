"""Boxes folded from sheet metal."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.design.starters.asked import Given, Starter, length, sheet

__all__ = ["FOLDED"]


def _tray_and_lid(given: Given, stock: str, *, around: tuple[str, ...]) -> Draft:
    """A tray with four walls, and a lid that slips over it with skirts ``around`` it."""
    draft, metric = given.draft(), given.unit == "mm"
    draft.data["cutter"] = "metal"
    for name, note in (("width", "left to right"), ("depth", "front to back"), ("height", "bottom to top")):
        draft.size(name, given.text(name), note=f"over all, {note}")
    draft.size(
        "skirt",
        "16 mm" if metric else "5/8 in",
        *(("12 mm", "60 mm") if metric else ("1/2 in", "2 3/8 in")),
        note="how far the lid comes down",
    )
    draft.size(
        "play",
        "0.4 mm" if metric else "0.016 in",
        *(("0.1 mm", "2 mm") if metric else ("0.004 in", "0.08 in")),
        note="between lid and box, each side",
    )
    draft.size(
        "below",
        "2 mm" if metric else "0.08 in",
        *(("1 mm", "6 mm") if metric else ("0.04 in", "0.24 in")),
        note="how far walls stay under the lid, for its bends",
    )
    over = ("-play - lid.thickness", "{} + play + lid.thickness")
    spans = [
        (over[0], over[1].format(size)) if sides & set(around) else ("0", size)
        for size, sides in (("width", {"left", "right"}), ("depth", {"front", "back"}))
    ]
    draft.board("base", stock, "lying", "0", ("0", "width"), ("0", "depth"), up="a")
    draft.fold("base", gap="0.3 mm")
    draft.board("lid", stock, "lying", "height", spans[0], spans[1], up="b")
    draft.fold("lid", **({"gap": "0.3 mm"} if len(around) > 2 else {}))
    for side in ("left", "right", "front", "back"):
        draft.flange("base", side, side, "height - below" if side in around else "height", name=f"{side} wall")
        if side in around:
            draft.flange("lid", side, side, "skirt", toward="b", name=f"{side} skirt")
    return draft


def folded_box(given: Given) -> Document:
    """A tray bent from one sheet, and a lid with two skirts that slips over it."""
    return _tray_and_lid(given, given.text("stock"), around=("left", "right")).document()


def enclosure(given: Given) -> Document:
    """A box for electronics: holes for standoffs, slots for air, and a lid that slips over it."""
    draft, metric = _tray_and_lid(given, given.text("stock"), around=("left", "right")), given.unit == "mm"
    hole, inset = ("3.2 mm", "18 mm") if metric else ("1/8 in", "3/4 in")
    draft.feature("base", "standoff", "hole", ("left", inset), ("front", inset), diameter=hole, mirrored="both", name="standoff")
    long, wide, apart = ("20 mm", "3 mm", "9 mm") if metric else ("3/4 in", "1/8 in", "3/8 in")
    for side in ("front", "back"):
        draft.flange_feature(
            "base",
            side,
            "air",
            "slot",
            ("centre", "0"),
            ("root", "height / 3"),
            length=long,
            width=wide,
            angle="90 deg",
            name="air",
            number="4",
            spacing=apart,
        )
    return draft.document()


_SHEET = sheet("Sheet metal", "galv20", bends=True)

FOLDED = (
    Starter(
        "folded-box",
        "Folded box",
        "A tray bent from one sheet, and a lid with two skirts.",
        folded_box,
        (
            length("width", "Width", 180, "7", 60, 900),
            length("depth", "Depth", 120, "4 3/4", 60, 900),
            length("height", "Height", 50, "2", 20, 300),
            _SHEET,
        ),
    ),
    Starter(
        "enclosure",
        "Enclosure with lid",
        "For electronics: holes for standoffs, slots for air, a lid.",
        enclosure,
        (
            length("width", "Width", 200, "8", 100, 900),
            length("depth", "Depth", 140, "5 1/2", 90, 900),
            length("height", "Height", 60, "2 1/2", 45, 300),
            _SHEET,
        ),
    ),
)
