"""What turns the honey: a shaft in two ball bearings, kept by its rings, with a crank and its handle."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["entrance_disc", "hand_crank"]


def hand_crank(name: str = "Hand crank") -> Document:
    """Two walls on a floor; the bearings are let in flush, the crank is tight on the shaft, and the handle in the crank."""
    d = Draft(name, "ply18", "steel8", "beech12", cutter="router")
    d.size("width", "200 mm", "140 mm", "320 mm", note="outside, from wall to wall")
    d.size("depth", "160 mm", "120 mm", "260 mm")
    d.size("axle", "120 mm", "80 mm", "200 mm", note="the shaft over the floor's underside")
    d.size("throw", "90 mm", "60 mm", "140 mm", note="from the shaft to the handle")
    d.board("floor", "ply18", "lying", "0", ("left.right", "right.left"), ("0", "depth"), grain="u")
    d.board("left", "ply18", "facing_side", "0", ("0", "depth"), ("0", "axle + 40 mm"), grain="v")
    d.board("right", "ply18", "facing_side", "width", ("0", "depth"), ("0", "axle + 40 mm"), face="right", grain="v", up="b")
    for side in ("left", "right"):
        d.joint("dowels", "floor", side)
    line = {"y": "depth / 2", "z": "axle"}
    for side, looks in (("left", "-x"), ("right", "+x")):
        bearing = f"bearing_{side}"
        d.put(
            bearing,
            "ISO 15 - 608",
            {"x": f"{side}.{side}", **line},
            by={"x": side},
            looks=looks,
            along="+y",
            on={"a": side},
            let_in="7 mm",
            price=1.9,
        )
    d.rod("shaft", "steel8", "x", ("left.left - 6 mm", "crank.right"), **line)
    d.data["parts"]["shaft"]["worked"] = {
        "a": {"ring": d.entry("4 mm"), "chamfer": d.entry("0.5 mm")},
        "b": {"ring": d.entry("crank.right - right.right - 2 mm"), "chamfer": d.entry("0.5 mm")},
    }
    d.board(
        "crank",
        "ply18",
        "facing_side",
        "right.right + 12 mm",
        ("depth / 2 - 25 mm", "depth / 2 + 25 mm"),
        ("axle - 25 mm", "axle + throw + 25 mm"),
        grain="v",
        outline={"kind": "link"},
    )
    d.rod("handle", "beech12", "x", ("crank.left", "crank.right + 70 mm"), y="depth / 2", z="axle + throw")
    d.bore("shaft_holes", "x", {}, "8 mm", left=("cut", "4 mm"), right=("cut", "4 mm"), crank=("cut", "0"))
    d.bore("handle_hole", "x", {}, "12 mm", crank=("cut", "0"))
    d.data["bores"]["shaft_holes"]["member"] = "shaft"
    d.data["bores"]["handle_hole"]["member"] = "handle"
    # so that wood that swells does not bind it
    d.moves("crank", "shaft", "turns", "crank_turns", play_least="1 mm", play_most="3 mm")
    return d.document()


def entrance_disc(name: str = "Entrance disc") -> Document:
    """A disc with a hole for bees, a row of slots and a blind side turns on its pin before the round entrance of the brood box."""
    d = Draft(name, "ply12", "ply6", cutter="laser")
    d.size("across", "104 mm", "96 mm", "130 mm", note="of the disc")
    d.size("hole", "24 mm", "20 mm", "28 mm", note="of the entrance")
    d.board("front", "ply12", "facing_front", "0", ("0", "200 mm"), ("0", "160 mm"), grain="u")
    d.board(
        "disc",
        "ply6",
        "facing_front",
        "front.front",
        ("100 mm - across / 2", "100 mm + across / 2"),
        ("80 mm - across / 2", "80 mm + across / 2"),
        face="back",
        outline={"kind": "disc"},
    )
    d.feature("front", "entrance", "hole", ("left", "100 mm"), ("bottom", "80 mm + 0.3 * across"), diameter="hole", name="entrance")
    d.feature("disc", "open", "hole", ("centre", "0"), ("centre", "0.3 * across"), diameter="hole", name="open")
    d.feature("disc", "guard", "slot", ("centre", "0.3 * across"), ("centre", "0"), length="hole", width="8 mm", name="guard")
    d.feature("disc", "vent", "hole", ("centre", "0 - 0.3 * across"), ("centre", "0"), diameter="6 mm", name="vent")
    d.bore("pin", "y", {"x": "100 mm", "z": "80 mm"}, "5 mm", front=("cut", "0"), disc=("cut", "0.3 mm"))
    d.hardware("pin", head="button", size="M5", side="low", washer="plain_washer", nut="locking_nut", nut_washer="plain_washer")
    d.moves("disc", "disc", "turns", "disc_turns", least="-90 deg", most="90 deg")
    d.position("open", disc="0 deg")
    d.position("guard", disc="90 deg")
    d.position("vent", disc="-90 deg")
    return d.document()
