"""The fold-down leg: a leg of flat bar on a bolt under a board that is hinged to the wall of the bee house, with a stay that holds it out."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["folding_leg"]


def folding_leg(name: str = "Fold-down leg") -> Document:
    """Leg and stay lie side by side on a cheek under the board; bolts go through both, and the stay's end slides in its slot."""
    d = Draft(name, "flat30", "steel8", "ply18", cutter="router")
    d.size("high", "720 mm", "500 mm", "850 mm", note="of the board's upper side over the floor")
    d.size("splay", "90 mm", "0 mm", "140 mm", note="how far the foot stands out to the front of its bolt")
    d.size("bolt", "8 mm", note="diameter of the bolts")
    d.size("slot", "90 mm", "84 mm", "140 mm", note="how far the stay's bolt slides as the leg folds")
    d.size("deep", "900 mm", "820 mm", "1100 mm", note="of the board, so that the leg lies under it")
    d.board("top", "ply18", "lying", "high", ("0", "400 mm"), ("0", "deep"), face="top")
    d.board("cheek", "ply18", "facing_side", "180 mm", ("60 mm", "440 mm"), ("top.bottom - 90 mm", "top.bottom"))
    d.joint("tab_slot", "cheek", "top", fit="snug", held="glued")
    d.board("wall", "ply18", "facing_front", "deep", ("0", "400 mm"), ("0", "high"))
    d.joint("tab_slot", "top", "wall", fit="snug", held="glued")
    up = "high - top.thickness - 45 mm"  # of the bolts in the cheek
    pivot = ("cheek.front + 60 mm", up)
    beside, over = "cheek.right + leg.thickness / 2", "cheek.right + leg.thickness * 3 / 2"
    end = ("cheek.back - 60 mm", up)
    d.frame("leg_line", {"a": (beside, *pivot), "b": (beside, f"{pivot[0]} - splay", "0")}, {"leg": ("a", "b")})
    d.member("leg", "flat30", "leg_line", "leg", against="x", past_a="20 mm", end_b="z")
    # so near to the leg's bolt that the stay slides by little more than that as the leg folds
    held = (f"{pivot[0]} - splay * 60 mm / ({up})", f"{up} - 60 mm")
    d.frame("stay_line", {"a": (over, *held), "b": (over, *end)}, {"stay": ("a", "b")})
    d.member("stay", "flat30", "stay_line", "stay", against="x", past_a="20 mm", past_b="20 mm")
    d.data["parts"]["stay"]["holes"] = {
        "slot": {"end": "b", "off": d.entry("20 mm + slot / 2 - bolt / 2"), "wide": d.entry("bolt + 0.5 mm"), "long": d.entry("slot")}
    }
    d.bore("pivot_hole", "x", {"y": pivot[0], "z": pivot[1]}, "bolt", cheek=("cut", "0"), leg=("cut", "0.2 mm"))
    d.bore("stay_hole", "x", {"y": held[0], "z": held[1]}, "bolt", leg=("cut", "0"), stay=("cut", "0.2 mm"))
    # in the stay's slot, along which it slides
    d.bore("end_hole", "x", {"y": end[0], "z": end[1]}, "bolt", cheek=("cut", "0"), stay=("cut", "0.1 mm"))
    for hole in ("pivot_hole", "end_hole"):
        d.hardware(hole, head="hexagon", size="M8", hole="fine", washer="plain_washer", nut="locking_nut", nut_washer="plain_washer")
    # its head is sunk, since it passes the cheek
    d.hardware("stay_hole", head="countersunk", size="M6", hole="fine", side="low", nut="locking_nut", nut_washer="plain_washer")
    d.moves("leg", "leg", "turns", "leg_folds", most="90 deg")
    d.position("standing", leg="0 deg")
    d.position("folded", leg="90 deg")
    d.item("hinge_80", 2, 3.1, "of the board, on the wall")
    return d.document()
