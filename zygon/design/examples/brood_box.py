"""The brood box for the laser: finger joints, a tabbed floor, frame rests, hand holds."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["brood_box"]


def brood_box(name: str = "Brood box") -> Document:
    """A hive's brood box: finger-jointed sides, tabbed floor, frame rests, hand holds, a carrying rod, a cover with an oval."""
    d = Draft(name, "ply12", "ply6")
    d.data["note"] = "Ten frames. The rod turns in the left side and is glued into the right one."
    d.size("width", "420 mm", "300 mm", "560 mm", note="over all, left to right")
    d.size("depth", "500 mm", "380 mm", "600 mm", note="over all, front to back")
    d.size("height", "240 mm", "180 mm", "330 mm", note="over all, bottom to top")
    d.size("bee_gap", "8 mm", "6 mm", "10 mm", note="what bees neither fill nor build in")
    d.size("rest", "22 mm", "16 mm", "40 mm", note="width of a frame rest")
    d.size("rod", "10 mm", "6 mm", "16 mm", note="diameter of the carrying rod")
    d.size("hold", "width / 4", "80 mm", "140 mm", note="length of a hand hold")
    d.board("front", "ply12", "facing_front", "0", ("0", "width"), ("0", "height"))
    d.board("back", "ply12", "facing_front", "depth", ("0", "width"), ("0", "height"), face="back")
    d.board("left", "ply12", "facing_side", "0", ("front.back", "back.front"), ("0", "height"))
    d.board("right", "ply12", "facing_side", "width", ("front.back", "back.front"), ("0", "height"), face="right")
    inside = ("left.right", "right.left")
    d.board("floor", "ply6", "lying", "16 mm", inside, ("front.back", "back.front"), grain="u")
    d.board("rest_front", "ply12", "lying", "front.top - 2 * bee_gap", inside, ("front.back", "front.back + rest"), face="top")
    d.board("rest_back", "ply12", "lying", "rest_front.top", inside, ("back.front - rest", "back.front"), face="top")
    d.board(
        "follower",
        "ply6",
        "facing_front",
        "mid(front.back, back.front)",
        ("left.right + bee_gap", "right.left - bee_gap"),
        ("floor.top", "rest_front.top"),
        face="centre",
        grain="u",
    )
    d.board("cover", "ply6", "lying", "front.top", ("left.left", "right.right"), ("front.front", "back.back"), grain="u")
    for side in ("left", "right"):
        for end in ("front", "back"):
            d.joint("finger", end, side)
    for side in ("front", "back", "left", "right"):
        d.joint("tab_slot", "floor", side, number=3)
    for rest in ("rest_front", "rest_back"):
        for side in ("left", "right"):
            d.joint("tab_slot", rest, side, number=1)
    for end in ("front", "back"):
        d.feature(end, "hold", "hand_hold", ("opening", "0"), ("top", "80 mm"), length="hold", width="30 mm", name="hand hold")
    d.feature(
        "front",
        "entrance",
        "rectangle",
        ("centre", "0"),
        ("room", "floor.top + 20 mm"),
        width="120 mm",
        height="10 mm",
        radius="3 mm",
        name="entrance",
    )
    d.feature("front", "maker", "mark_text", ("centre", "0"), ("centre", "0"), text="THISTLEDOWN", height="16 mm", name="maker's mark")
    d.feature("front", "rule", "mark_line", ("centre", "0"), ("centre", "-16 mm"), length="150 mm", name="rule")
    d.feature("cover", "feeder", "slot", ("centre", "0"), ("centre", "0"), length="96 mm", width="34 mm", name="feeder opening")
    d.feature("cover", "ring", "mark_circle", ("centre", "0"), ("centre", "0"), diameter="130 mm", name="jar ring")
    d.bore(
        "carrying_rod",
        "x",
        {"y": "mid(front.back, back.front) + 60 mm", "z": "left.top - 45 mm"},
        "rod",
        left=("cut", "0.4 mm"),
        right=("cut", "snug"),
    )
    d.item("beech_rod", 1, 2.4, "10 mm, cut to 440 mm")
    return d.document()
