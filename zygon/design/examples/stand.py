"""The stand: a doubled top on two frames of legs, doweled, with a rail between them."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["stand"]


def stand(name: str = "Stand") -> Document:
    """Two side panels doweled under a top of two layers, with a stretcher screwed between them."""
    d = Draft(name, "ply18", cutter="router")
    d.size("width", "440 mm", "320 mm", "600 mm", note="over all, left to right")
    d.size("depth", "520 mm", "400 mm", "660 mm", note="over all, front to back")
    d.size("height", "420 mm", "250 mm", "600 mm", note="over all, bottom to top")
    d.board("top", "ply18", "lying", "height", ("0", "width"), ("0", "depth"), face="top", grain="v", up="b")
    d.board("under_top", "ply18", "lying", "top.bottom", ("0", "width"), ("0", "depth"), face="top", grain="v")
    d.board("left", "ply18", "facing_side", "30 mm", ("20 mm", "depth - 20 mm"), ("0", "under_top.bottom"), grain="v")
    d.board(
        "right", "ply18", "facing_side", "width - 30 mm", ("20 mm", "depth - 20 mm"), ("0", "under_top.bottom"), face="right", grain="v"
    )
    d.board(
        "stretcher",
        "ply18",
        "facing_front",
        "depth / 2",
        ("left.right", "right.left"),
        ("60 mm", "60 mm + height / 3"),
        face="centre",
        grain="u",
        up="b",
    )
    d.joint("face_glue", "top", "under_top", outline=False)
    for side in ("left", "right"):
        d.joint("dowels", side, "under_top", number=4, diameter="8 mm")
        d.joint("screws", "stretcher", side, size="4", number=2)
        d.feature(
            side, "hold", "rectangle", ("centre", "0"), ("top", "90 mm"), width="120 mm", height="36 mm", radius="18 mm", name="hand hold"
        )
        d.feature(
            side, "foot", "rectangle", ("centre", "0"), ("bottom", "0"), width="depth / 2", height="80 mm", radius="30 mm", name="foot"
        )
    d.data["marks"] = {"numbers": True, "mates": True, "grain": True, "height": d.entry("8 mm")}
    return d.document()
