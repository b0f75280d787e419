"""A brood box for the router: rebated corners, frame rests sunk into front and back, and hand holds as pockets."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["rebated_box"]


def rebated_box(name: str = "Brood box, rebated") -> Document:
    """Four boards of 18 mm, rebated at the corners, with rests for ten frames and blind hand holds."""
    d = Draft(name, "ply18", "ply12", cutter="router")
    d.data["note"] = "Hand holds are pockets, so that no bee finds a way in."
    d.size("width", "430 mm", "300 mm", "560 mm", note="over all, left to right")
    d.size("depth", "510 mm", "380 mm", "600 mm", note="over all, front to back")
    d.size("height", "240 mm", "180 mm", "330 mm", note="over all, bottom to top")
    d.size("rest", "10 mm", "8 mm", "12 mm", note="width of the ledge that the frames' ears lie on")
    d.size("ear", "18 mm", "12 mm", "24 mm", note="from the top down to the ledge")
    d.board("front", "ply18", "facing_front", "0", ("0", "width"), ("0", "height"), grain="u", up="b")
    d.board("back", "ply18", "facing_front", "depth", ("0", "width"), ("0", "height"), face="back", grain="u")
    d.board("left", "ply18", "facing_side", "0", ("front.back", "back.front"), ("0", "height"), grain="u", up="b")
    d.board("right", "ply18", "facing_side", "width", ("front.back", "back.front"), ("0", "height"), face="right", grain="u")
    for end in ("front", "back"):
        for side in ("left", "right"):
            d.joint("rebate", side, end, fit="snug", depth="9 mm")
    for end, inner in (("front", "back"), ("back", "front")):
        d.feature(
            end,
            "rest",
            "rebate",
            ("centre", "0"),
            ("centre", "0"),
            edge="top",
            width="ear",
            depth="rest",
            face=inner,
            stop_low=f"{end}.thickness",
            stop_high=f"{end}.thickness",
            name="frame rest",
        )
    for side in ("left", "right"):
        d.feature(
            side,
            "hold",
            "pocket",
            ("centre", "0"),
            ("top", "75 mm"),
            width="110 mm",
            height="32 mm",
            depth="9 mm",
            radius="16 mm",
            face=side,
            name="hand hold",
        )
    d.data["marks"] = {"numbers": True, "mates": True, "inside": True, "height": d.entry("7 mm")}
    return d.document()
