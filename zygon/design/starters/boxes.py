"""Boxes, trays and cases of boards, finger-jointed and tabbed."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.design.drawers import place_drawer
from zygon.design.patch import patched
from zygon.design.starters.asked import Given, Starter, count, length, sheet

__all__ = ["CASES"]


def _sized(given: Given) -> Draft:
    """Width, depth and height over all, as sizes."""
    draft = given.draft()
    for name, note in (("width", "left to right"), ("depth", "front to back"), ("height", "bottom to top")):
        draft.size(name, given.text(name), note=f"over all, {note}")
    return draft


def _asks(
    width: tuple[float, str],
    depth: tuple[float, str],
    height: tuple[float, str],
    *,
    least: float = 60,
    high: float = 40,
    most: float = 2400,
):
    return (
        length("width", "Width", *width, least, most),
        length("depth", "Depth", *depth, least, most),
        length("height", "Height", *height, high, most),
    )


def _sides(draft: Draft, stock: str) -> Draft:
    """Four sides, finger-jointed at the corners."""
    draft.board("front", stock, "facing_front", "0", ("0", "width"), ("0", "height"))
    draft.board("back", stock, "facing_front", "depth", ("0", "width"), ("0", "height"), face="back")
    draft.board("left", stock, "facing_side", "0", ("front.back", "back.front"), ("0", "height"))
    draft.board("right", stock, "facing_side", "width", ("front.back", "back.front"), ("0", "height"), face="right")
    for side in ("left", "right"):
        for end in ("front", "back"):
            draft.joint("finger", end, side)
    return draft


def _fingered(draft: Draft, name: str, stock: str, at: str, face: str) -> None:
    draft.board(name, stock, "lying", at, ("left.right", "right.left"), ("front.back", "back.front"), face=face)
    for side in ("front", "back", "left", "right"):
        draft.joint("finger", side, name)


def open_box(given: Given) -> Document:
    """Four sides and a floor, finger-jointed all round."""
    draft, stock = _sized(given), given.text("stock")
    _sides(draft, stock)
    _fingered(draft, "floor", stock, "0", "bottom")
    return draft.document()


def closed_box(given: Given) -> Document:
    """Six boards, finger-jointed along every edge."""
    draft, stock = _sized(given), given.text("stock")
    _sides(draft, stock)
    _fingered(draft, "floor", stock, "0", "bottom")
    _fingered(draft, "lid", stock, "height", "top")
    return draft.document()


def tray(given: Given) -> Document:
    """A low box with a tabbed floor and hand holds."""
    draft, metric = _sized(given), given.unit == "mm"
    _sides(draft, given.text("stock"))
    raised, down, long, wide = ("14 mm", "30 mm", "90 mm", "28 mm") if metric else ("9/16 in", "1 1/4 in", "3 1/2 in", "1 1/8 in")
    draft.board("floor", given.text("floor"), "lying", raised, ("left.right", "right.left"), ("front.back", "back.front"))
    for side in ("front", "back", "left", "right"):
        draft.joint("tab_slot", "floor", side)
    for side in ("left", "right"):
        draft.feature(side, "hold", "hand_hold", ("centre", "0"), ("top", down), length=long, width=wide, name="hand hold")
    return draft.document()


def shelf_case(given: Given) -> Document:
    """Two sides, top and bottom, and shelves tabbed through the sides."""
    draft, stock, shelves = _sized(given), given.text("stock"), given.number("shelves")
    draft.size("bay", f"(height - bottom.thickness) / {shelves + 1}", note="from shelf to shelf")
    _case(draft, stock)
    for i in range(1, shelves + 1):
        shelf = f"shelf_{i}"
        draft.board(shelf, stock, "lying", f"{i} * bay", ("left.right", "right.left"), ("0", "depth"))
        for side in ("left", "right"):
            draft.joint("tab_slot", shelf, side)
    return draft.document()


def _case(draft: Draft, stock: str, bottom: str = "0", joint: str = "finger") -> None:
    """Sides over the whole height, top and bottom between them."""
    draft.board("left", stock, "facing_side", "0", ("0", "depth"), ("0", "height"))
    draft.board("right", stock, "facing_side", "width", ("0", "depth"), ("0", "height"), face="right")
    draft.board("bottom", stock, "lying", bottom, ("left.right", "right.left"), ("0", "depth"))
    draft.board("top", stock, "lying", "height", ("left.right", "right.left"), ("0", "depth"), face="top")
    for end in ("bottom", "top"):
        for side in ("left", "right"):
            if end == "bottom" and joint != "finger":  # its tabs go through the sides
                draft.joint(joint, end, side)
            else:
                draft.joint("finger", side, end)


def cabinet(given: Given) -> Document:
    """A case on a plinth with a back let in between, and shelves."""
    draft, stock, shelves = _sized(given), given.text("stock"), given.number("shelves")
    draft.size("plinth", "60 mm" if given.unit == "mm" else "2 1/2 in", note="from the ground to the bottom")
    _case(draft, stock, "plinth", "tab_slot")
    draft.board("kick", stock, "facing_front", "plinth / 2", ("left.right", "right.left"), ("0", "bottom.bottom"))
    draft.board(
        "back", given.text("back"), "facing_front", "depth", ("left.right", "right.left"), ("bottom.top", "top.bottom"), face="back"
    )
    for side in ("left", "right"):
        draft.joint("tab_slot", "kick", side)
        draft.joint("tab_slot", "back", side)
    if shelves:
        draft.size("bay", f"(top.bottom - bottom.top - {shelves} * shelf.thickness) / {shelves + 1}", note="clear, from shelf to shelf")
        draft.board("shelf", stock, "lying", "bottom.top + bay", ("left.right", "right.left"), ("0", "back.front"))
        for side in ("left", "right"):
            draft.joint("tab_slot", "shelf", side)
        if shelves > 1:
            draft.repeat("shelves", "row", "part:shelf", name="shelves", axis="z", number=str(shelves), spacing="bay + shelf.thickness")
    return draft.document()


def drawer_unit(given: Given) -> Document:
    """A case with drawers one above the other."""
    draft, stock = _sized(given), given.text("stock")
    _case(draft, stock)
    draft.board("back", stock, "facing_front", "depth", ("left.right", "right.left"), ("bottom.top", "top.bottom"), face="back")
    for a, b in (("back", "left"), ("back", "right"), ("bottom", "back"), ("top", "back")):
        draft.joint("finger", a, b)
    document = draft.document()
    room = {"x": ("left.right", "right.left"), "y": ("left.front", "back.front"), "z": ("bottom.top", "top.bottom")}
    _, patch = place_drawer(document, given.text("drawer"), given.text("floor"), room, "front", number=given.number("drawers"))
    return patched(document.dump(), patch)


def stool(given: Given) -> Document:
    """A seat on two sides that stand in from its ends, held by a rail; hand hold in the seat."""
    draft, stock = _sized(given), given.text("stock")
    metric = given.unit == "mm"
    draft.size("inset", "40 mm" if metric else "1 1/2 in", note="of the sides from the seat's ends")
    draft.size("rail_height", "120 mm" if metric else "4 3/4 in", note="of the rail under the seat")
    draft.board("seat", stock, "lying", "height", ("0", "width"), ("0", "depth"), face="top")
    draft.board("left", stock, "facing_side", "inset", ("0", "depth"), ("0", "seat.bottom"))
    draft.board("right", stock, "facing_side", "width - inset", ("0", "depth"), ("0", "seat.bottom"), face="right")
    draft.board(
        "rail",
        stock,
        "facing_front",
        "depth / 2",
        ("left.right", "right.left"),
        ("seat.bottom - rail_height", "seat.bottom"),
        face="centre",
    )
    for side in ("left", "right"):
        draft.joint("tab_slot", side, "seat")
        draft.joint("tab_slot", "rail", side)
    long, wide = ("100 mm", "32 mm") if metric else ("4 in", "1 1/4 in")
    draft.feature("seat", "hold", "hand_hold", ("centre", "0"), ("front", "depth / 4"), length=long, width=wide, name="hand hold")
    for side in ("left", "right"):  # it stands on four feet
        foot, arch = ("50 mm", "40 mm") if metric else ("2 in", "1 1/2 in")
        draft.feature(
            side,
            "arch",
            "edge_notch",
            ("centre", "0"),
            ("centre", "0"),
            edge="bottom",
            shape="square",
            width=f"depth - 2 * {foot}",
            depth=arch,
            radius="0",
        )
    return draft.document()


_SHEET = sheet("Plywood", "ply12")

CASES = (
    Starter(
        "open-box", "Open box", "Four sides and a floor, finger-jointed.", open_box, (*_asks((300, "12"), (200, "8"), (150, "6")), _SHEET)
    ),
    Starter(
        "closed-box",
        "Closed box",
        "Six boards, finger-jointed along every edge.",
        closed_box,
        (*_asks((300, "12"), (240, "9 1/2"), (200, "8")), _SHEET),
    ),
    Starter(
        "tray",
        "Tray",
        "Low, with a tabbed floor and hand holds.",
        tray,
        (*_asks((400, "16"), (280, "11"), (90, "3 1/2"), least=180), _SHEET, sheet("Floor", "ply6", "floor")),
    ),
    Starter(
        "shelf-case",
        "Shelf case",
        "Two sides, top, bottom and shelves.",
        shelf_case,
        (*_asks((600, "24"), (260, "10"), (800, "32"), least=150, high=150), count("shelves", "Shelves", 3, 0, 12), _SHEET),
    ),
    Starter(
        "cabinet",
        "Cabinet",
        "A case on a plinth, with a back and shelves.",
        cabinet,
        (
            *_asks((600, "24"), (320, "12"), (720, "28"), least=200, high=300),
            count("shelves", "Shelves", 2, 0, 10),
            _SHEET,
            sheet("Back", "ply6", "back"),
        ),
    ),
    Starter(
        "drawer-unit",
        "Drawer unit",
        "A case with drawers one above the other.",
        drawer_unit,
        (
            *_asks((400, "16"), (320, "12"), (450, "18"), least=200, high=150),
            count("drawers", "Drawers", 3, 1, 10),
            _SHEET,
            sheet("Drawers", "ply12", "drawer"),
            sheet("Their floors", "ply6", "floor"),
        ),
    ),
    Starter(
        "stool",
        "Stool",
        "A seat on two sides, held by a rail.",
        stool,
        (*_asks((400, "16"), (280, "11"), (420, "17"), least=220, high=200), _SHEET),
    ),
)
