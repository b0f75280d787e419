"""The inner cover: a frame of rails halved where they cross, a panel in the grooves of two of them, and an oval opening for a feeder."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["inner_cover"]


def inner_cover(name: str = "Inner cover") -> Document:
    """Two side rails with the panel in their grooves; front and back rails are halved over them and close the frame."""
    d = Draft(name, "ply12", "ply6", cutter="router")
    d.size("width", "420 mm", "300 mm", "560 mm", note="over all, left to right")
    d.size("depth", "500 mm", "380 mm", "600 mm", note="over all, front to back")
    d.size("rail", "40 mm", "30 mm", "60 mm", note="height of the rails")
    d.size("ear", "22 mm", "15 mm", "40 mm", note="how far the rails run on past each other")
    d.size("groove", "4 mm", "3 mm", "6 mm", note="depth of both grooves; one entry keeps them in line")
    d.board("left", "ply12", "facing_side", "ear", ("0", "depth"), ("0", "rail"), grain="u", up="a")
    d.board("right", "ply12", "facing_side", "width - ear", ("0", "depth"), ("0", "rail"), face="right", grain="u", up="b")
    d.board("front", "ply12", "facing_front", "ear", ("0", "width"), ("0", "rail"), grain="u")
    d.board("back", "ply12", "facing_front", "depth - ear", ("0", "width"), ("0", "rail"), face="back", grain="u")
    d.board("panel", "ply6", "lying", "rail / 2", ("left.right", "right.left"), ("front.back", "back.front"), face="centre", grain="v")
    for end in ("front", "back"):
        for side in ("left", "right"):
            d.joint("cross_lap", end, side, fit="snug", side="low")
    for side in ("left", "right"):
        d.joint("groove", "panel", side, fit="slip", depth="groove", end_play="0.5 mm", ends="stopped")
    d.feature("panel", "feeder", "slot", ("centre", "0"), ("centre", "0"), length="96 mm", width="34 mm", name="feeder opening")
    d.feature("panel", "ring", "mark_circle", ("centre", "0"), ("centre", "0"), diameter="130 mm", name="jar ring")
    return d.document()
