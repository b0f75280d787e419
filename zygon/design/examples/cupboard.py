"""A wall cupboard for tools: sides with four grooves of one depth that close a ring, for top, bottom, back panel and sliding front."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["cupboard"]


def cupboard(name: str = "Tool cupboard") -> Document:
    """One side is drawn, the other is its mirror image; everything else stands in grooves."""
    d = Draft(name, "ply12", "ply6", cutter="router")
    d.data["nest"] = {"gap": d.entry("8 mm")}
    d.size("width", "420 mm", "300 mm", "700 mm", note="outside, left to right")
    d.size("depth", "220 mm", "160 mm", "320 mm", note="outside, front to back")
    d.size("height", "480 mm", "360 mm", "800 mm", note="of the sides")
    d.size("groove", "4 mm", "3 mm", "6 mm", note="depth of all grooves")
    d.board("side", "ply12", "facing_side", "0", ("0", "depth"), ("0", "height"), grain="v")
    inside = ("side.right", "side_right.left")
    d.mirror("sides", "x", "width / 2", "part:side", name="Other side", names={"side": "side_right"})
    d.board("bottom", "ply12", "lying", "30 mm", inside, ("0", "depth"), grain="u")
    d.board("top", "ply12", "lying", "height - 30 mm", inside, ("0", "depth"), face="top", grain="u", up="b")
    d.board("back", "ply6", "facing_front", "depth - 16 mm", inside, ("bottom.top", "top.bottom"), grain="v")
    d.board("front", "ply6", "facing_front", "12 mm", inside, ("bottom.top", "top.bottom"), grain="v")
    for board in ("bottom", "top"):
        d.joint("groove", board, "side", depth="groove", held="glued")
    for panel in ("back", "front"):
        for into in ("side", "bottom", "top"):
            d.joint("groove", panel, into, depth="groove", end_play="0.5 mm")
    return d.document()
