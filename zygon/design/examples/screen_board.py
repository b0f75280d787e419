"""The screen board: a frame half-lapped at its corners, a rail let in with dovetails, and a panel in the seat round it."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["screen_board"]


def screen_board(name: str = "Screen board") -> Document:
    """Four rails half-lapped at their corners; the panel lies in a rebate that runs round inside, on a middle rail with dovetailed ends."""
    d = Draft(name, "ply18", "ply6", cutter="router")
    d.size("width", "420 mm", "300 mm", "560 mm", note="over all, left to right")
    d.size("depth", "500 mm", "380 mm", "600 mm", note="over all, front to back")
    d.size("rail", "45 mm", "35 mm", "70 mm", note="width of the rails")
    d.size("ledge", "10 mm", "8 mm", "15 mm", note="how far the panel lies on the rails")
    d.board("left", "ply18", "lying", "0", ("0", "rail"), ("0", "depth"), grain="v")
    d.board("right", "ply18", "lying", "0", ("width - rail", "width"), ("0", "depth"), grain="v")
    d.board("front", "ply18", "lying", "0", ("0", "width"), ("0", "rail"), grain="u")
    d.board("back", "ply18", "lying", "0", ("0", "width"), ("depth - rail", "depth"), grain="u")
    d.board("middle", "ply18", "lying", "0", ("0", "width"), ("(depth - rail) / 2", "(depth + rail) / 2"), grain="u")
    d.board(
        "panel",
        "ply6",
        "lying",
        "front.top",
        ("rail - ledge + 0.5 mm", "width - rail + ledge - 0.5 mm"),
        ("rail - ledge + 0.5 mm", "depth - rail + ledge - 0.5 mm"),
        face="top",
        grain="v",
    )
    for end in ("front", "back"):
        for side in ("left", "right"):
            d.joint("half_lap", end, side, fit="snug", keeps="low" if end == "front" else "high", share="2/3" if end == "front" else "1/3")
    for side in ("left", "right"):
        d.joint("dovetail_lap", "middle", side, fit="snug", keeps="low", slope="1:8", shoulder="rail / 8 + 1 mm", share="2/3")
    # the panel's seat: a rebate along the inner edge of every rail, as deep as the panel is thick
    for rail, edge in (("left", "right"), ("right", "left"), ("front", "back"), ("back", "front")):
        d.feature(
            rail,
            "seat",
            "rebate",
            ("centre", "0"),
            ("centre", "0"),
            edge=edge,
            width="ledge",
            depth="panel.thickness",
            face="top",
            stop_low="rail - ledge",
            stop_high="rail - ledge",
            name="panel seat",
        )
    d.feature(
        "middle",
        "seat",
        "pocket",
        ("centre", "0"),
        ("centre", "0"),
        width="width - 2 * (rail - ledge)",
        height="rail + 1 mm",
        depth="panel.thickness",
        face="top",
        name="panel seat",
    )
    d.feature("panel", "vent", "slot", ("centre", "0"), ("back", "110 mm"), length="200 mm", width="60 mm", name="vent")
    return d.document()
