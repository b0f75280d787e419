"""A frame for the comb: top bar, two side bars with tenons through it, and a bottom bar lapped across their ends."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["frame"]


def frame(name: str = "Frame") -> Document:
    """Ten frames: tenons of the side bars go through the top bar, the bottom bar is held by tenons too."""
    d = Draft(name, "ply12", "ply6", cutter="laser")
    d.size("length", "390 mm", "300 mm", "480 mm", note="of the top bar, ears included")
    d.size("height", "210 mm", "140 mm", "300 mm", note="over all")
    d.size("bar", "25 mm", "20 mm", "36 mm", note="width of the side bars")
    d.size("ear", "17 mm", "12 mm", "25 mm", note="what stands over on either side")
    d.board("top_bar", "ply12", "lying", "height", ("0", "length"), ("0", "bar"), face="top", grain="u", quantity=10)
    d.board("left", "ply6", "facing_side", "ear", ("0", "bar"), ("bottom_bar.top", "top_bar.bottom"), grain="v", quantity=10)
    d.board(
        "right",
        "ply6",
        "facing_side",
        "length - ear",
        ("0", "bar"),
        ("bottom_bar.top", "top_bar.bottom"),
        face="right",
        grain="v",
        quantity=10,
    )
    d.board("bottom_bar", "ply6", "lying", "0", ("left.left", "right.right"), ("bar / 2 - 9 mm", "bar / 2 + 9 mm"), grain="u", quantity=10)
    for side in ("left", "right"):
        d.joint("mortise_tenon", side, "top_bar", fit="snug", number=1, width="bar / 2")
        d.joint("mortise_tenon", side, "bottom_bar", fit="snug", number=1, width="bar / 3")
    for side in ("left", "right"):
        for i, share in enumerate(("0.3", "0.5", "0.7")):
            d.feature(
                side,
                f"wire{i}",
                "hole",
                ("centre", "0"),
                ("bottom", f"{share} * ({side}.top - {side}.bottom)"),
                diameter="2.5 mm",
                name="wire hole",
            )
    return d.document()
