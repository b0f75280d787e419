"""Starters: ordinary documents to begin from. Nothing in them is special once they are written."""

from __future__ import annotations

from collections.abc import Callable

from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.design.plain import copied
from zygon.design.workshop import BARS
from zygon.errors import DocumentError

__all__ = ["STARTERS", "starter"]


def nothing(name: str) -> Document:
    """An empty design with the workshop's stocks, bars too."""
    draft = Draft(name)
    draft.data["stocks"] |= copied(BARS)
    return draft.document()


def _sides(draft: Draft) -> Draft:
    """Four sides, finger-jointed at the corners."""
    draft.board("front", "ply12", "facing_front", "0", ("0", "width"), ("0", "height"))
    draft.board("back", "ply12", "facing_front", "depth", ("0", "width"), ("0", "height"), face="back")
    draft.board("left", "ply12", "facing_side", "0", ("front.back", "back.front"), ("0", "height"))
    draft.board("right", "ply12", "facing_side", "width", ("front.back", "back.front"), ("0", "height"), face="right")
    for side in ("left", "right"):
        for end in ("front", "back"):
            draft.joint("finger", end, side)
    return draft


def _fingered(draft: Draft, name: str, at: str, face: str) -> None:
    draft.board(name, "ply12", "lying", at, ("left.right", "right.left"), ("front.back", "back.front"), face=face)
    for side in ("front", "back", "left", "right"):
        draft.joint("finger", side, name)


def _sized(name: str, width: str, depth: str, height: str) -> Draft:
    draft = Draft(name)
    draft.size("width", width, "120", "1200", note="over all, left to right")
    draft.size("depth", depth, "120", "1200", note="over all, front to back")
    draft.size("height", height, "50", "900", note="over all, bottom to top")
    return draft


def open_box(name: str) -> Document:
    """Four sides and a floor, finger-jointed all round."""
    draft = _sides(_sized(name, "300 mm", "200 mm", "150 mm"))
    _fingered(draft, "floor", "0", "bottom")
    return draft.document()


def closed_box(name: str) -> Document:
    """Six boards, finger-jointed along every edge."""
    draft = _sides(_sized(name, "300 mm", "240 mm", "200 mm"))
    _fingered(draft, "floor", "0", "bottom")
    _fingered(draft, "lid", "height", "top")
    return draft.document()


def tray(name: str) -> Document:
    """A low box with a tabbed floor and hand holds."""
    draft = _sides(_sized(name, "400 mm", "280 mm", "90 mm"))
    draft.board("floor", "ply6", "lying", "14 mm", ("left.right", "right.left"), ("front.back", "back.front"))
    for side in ("front", "back", "left", "right"):
        draft.joint("tab_slot", "floor", side)
    for side in ("left", "right"):
        draft.feature(side, "hold", "hand_hold", ("centre", "0"), ("top", "30 mm"), length="90 mm", width="28 mm", name="hand hold")
    return draft.document()


def shelf_case(name: str) -> Document:
    """Two sides, top and bottom, a back, and three shelves tabbed through the sides."""
    draft = _sized(name, "600 mm", "260 mm", "800 mm")
    draft.size("bay", "(height - bottom.thickness) / 4", note="from shelf to shelf")
    draft.board("left", "ply12", "facing_side", "0", ("0", "depth"), ("0", "height"))
    draft.board("right", "ply12", "facing_side", "width", ("0", "depth"), ("0", "height"), face="right")
    draft.board("bottom", "ply12", "lying", "0", ("left.right", "right.left"), ("0", "depth"))
    draft.board("top", "ply12", "lying", "height", ("left.right", "right.left"), ("0", "depth"), face="top")
    for end in ("bottom", "top"):
        for side in ("left", "right"):
            draft.joint("finger", side, end)
    for i in (1, 2, 3):
        shelf = f"shelf_{i}"
        draft.board(shelf, "ply12", "lying", f"{i} * bay", ("left.right", "right.left"), ("0", "depth"))
        for side in ("left", "right"):
            draft.joint("tab_slot", shelf, side)
    return draft.document()


def folded_box(name: str) -> Document:
    """A tray bent from one sheet, and a lid with two skirts that slips over it."""
    draft = _sized(name, "180 mm", "120 mm", "50 mm")
    draft.size("skirt", "16 mm", "12 mm", "60 mm", note="how far the lid comes down")
    draft.size("play", "0.4 mm", "0.1 mm", "2 mm", note="between lid and box, each side")
    draft.size("below", "2 mm", "1 mm", "6 mm", note="how far the side walls stay under the lid, for its bends")
    draft.board("base", "galv20", "lying", "0", ("0", "width"), ("0", "depth"), up="a")
    draft.fold("base", gap="0.3 mm")
    draft.board("lid", "galv20", "lying", "height", ("-play - lid.thickness", "width + play + lid.thickness"), ("0", "depth"), up="b")
    draft.fold("lid")
    for side in ("left", "right"):
        draft.flange("base", side, side, "height - below", name=f"{side} wall")
        draft.flange("lid", side, side, "skirt", toward="b", name=f"{side} skirt")
    for side in ("front", "back"):
        draft.flange("base", side, side, "height", name=f"{side} wall")
    return draft.document()


STARTERS: dict[str, Callable[[str], Document]] = {
    "nothing": nothing,
    "open-box": open_box,
    "closed-box": closed_box,
    "tray": tray,
    "shelf-case": shelf_case,
    "folded-box": folded_box,
}


def starter(kind: str, name: str) -> Document:
    """A new document from a starter. Raises DocumentError for an unknown kind."""
    if kind not in STARTERS:
        rule = f"one of {', '.join(STARTERS)}"
        raise DocumentError(f"starter: {kind!r} is not {rule}", entry="starter", value=kind, rule=rule, code="bad_starter")
    return STARTERS[kind](name)
