"""The hive's floor: a board in grooves of three rails, and an entrance slide that leaves to the front."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["hive_floor"]


def hive_floor(name: str = "Hive floor") -> Document:
    """Two long rails and a back rail, the floor in their grooves, and below it a slide that is drawn out to the front."""
    d = Draft(name, "ply18", "ply6", cutter="router")
    d.data["note"] = "The floor board is put in from the front before the sill; the slide comes out under the sill."
    d.size("width", "420 mm", "300 mm", "560 mm", note="over all, left to right")
    d.size("depth", "520 mm", "400 mm", "640 mm", note="over all, front to back")
    d.size("height", "75 mm", "65 mm", "110 mm", note="of the rails")
    d.size("entrance", "22 mm", "15 mm", "30 mm", note="from the floor to the top of the rails")
    d.size("groove", "6 mm", "4 mm", "9 mm", note="depth of all grooves; one entry keeps them in line")
    d.size("play", "0.5 mm", "0.2 mm", "2 mm", note="end play of a panel in its groove")
    d.board("left", "ply18", "facing_side", "0", ("0", "depth"), ("0", "height"), grain="u")
    d.board("right", "ply18", "facing_side", "width", ("0", "depth"), ("0", "height"), face="right", grain="u", up="b")
    d.board("back", "ply18", "facing_front", "depth", ("left.right", "right.left"), ("0", "height"), face="back", grain="u")
    d.board("sill", "ply18", "facing_front", "0", ("left.right", "right.left"), ("slide.top + 4 mm", "floor.bottom"), grain="u", up="b")
    inside = ("left.right", "right.left")
    d.board("floor", "ply6", "lying", "height - entrance", inside, ("0", "back.front"), face="top", grain="u", up="b")
    d.board("slide", "ply6", "lying", "12 mm", inside, ("-30 mm", "back.front - 60 mm"), grain="u")
    d.joint("dowels", "back", "left", inset="14 mm")
    d.joint("dowels", "back", "right", inset="14 mm")
    d.joint("dowels", "sill", "left")
    d.joint("dowels", "sill", "right")
    for side in ("left", "right"):
        d.joint("groove", "floor", side, fit="slip", held="glued", depth="groove", end_play="play", ends="open_low")
        d.joint("groove", "slide", side, fit="loose", depth="groove", end_play="2 * play", ends="open_low", stop="0")
    d.joint("groove", "floor", "back", fit="slip", depth="groove", end_play="play", ends="stopped")
    d.feature("slide", "pull", "slot", ("centre", "0"), ("front", "15 mm"), length="70 mm", width="12 mm", name="pull")
    d.feature(
        "left", "maker", "mark_text", ("centre", "0"), ("centre", "0"), text="THISTLEDOWN", height="12 mm", face="left", name="maker's mark"
    )
    d.moves("slide", "slide", "slides", "slide_out", most="depth - 60 mm")
    d.position("in", slide="0 mm")
    d.position("half out", slide="depth / 2")
    d.data["marks"] = {"numbers": True, "mates": True, "height": d.entry("7 mm")}
    return d.document()
