"""A chest for tools: a lid on two hinges, and below it a drawer that runs on slides."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["tool_chest"]

#: What a slide is wide (mm): the room on each side of the drawer.
SLIDE = "12.7 mm"


def tool_chest(name: str = "Tool chest with a drawer") -> Document:
    """The walls in fingers, a shelf between the two rooms; the drawer's slides and the lid's hinges bring their own screws."""
    d = Draft(name, "ply18", "ply12", "ply6", cutter="router")
    d.data["note"] = "Hang the lid last. The slides are 350 mm long; their rails on the drawer are flush with its front."
    d.size("width", "520 mm", "400 mm", "700 mm", note="outside, left to right")
    d.size("depth", "400 mm", "390 mm", "560 mm", note="outside, front to back")
    d.size("height", "330 mm", "280 mm", "480 mm", note="without the lid")
    d.size("drawer", "120 mm", "90 mm", "180 mm", note="height of the drawer's room")
    d.board("left", "ply18", "facing_side", "0", ("0", "depth"), ("0", "height"), grain="v")
    d.board("right", "ply18", "facing_side", "width", ("0", "depth"), ("0", "height"), face="right", grain="v", up="b")
    inside = ("left.right", "right.left")
    d.board("back", "ply18", "facing_front", "depth", ("0", "width"), ("0", "height"), face="back", grain="u", up="b")
    d.board("bottom", "ply18", "lying", "0", inside, ("0", "back.front"), grain="u")
    d.board("shelf", "ply18", "lying", "bottom.top + drawer", inside, ("0", "back.front"), grain="u")
    d.board("front", "ply18", "facing_front", "0", inside, ("shelf.top", "height"), grain="u")
    for side in ("left", "right"):
        d.joint("finger", side, "back")
        for board in ("bottom", "shelf", "front"):
            d.joint("dowels", board, side)
    # the drawer, and its slides: the right one is the left one's mirror image
    low, high = f"left.right + {SLIDE}", f"right.left - {SLIDE}"
    d.board("drawer_left", "ply18", "facing_side", low, ("0", "back.front - 8 mm"), ("bottom.top + 6 mm", "shelf.bottom - 6 mm"), grain="u")
    d.board(
        "drawer_right",
        "ply18",
        "facing_side",
        high,
        ("0", "back.front - 8 mm"),
        ("bottom.top + 6 mm", "shelf.bottom - 6 mm"),
        face="right",
        grain="u",
        up="b",
    )
    across = ("drawer_left.right", "drawer_right.left")
    tall = ("drawer_left.bottom", "drawer_left.top")
    d.board("drawer_front", "ply18", "facing_front", "0", across, tall, grain="u", up="b")
    d.board("drawer_back", "ply18", "facing_front", "drawer_left.back", across, tall, face="back", grain="u")
    d.board("drawer_bottom", "ply6", "lying", "drawer_left.bottom + 8 mm", across, ("drawer_front.back", "drawer_back.front"))
    for side in ("drawer_left", "drawer_right"):
        d.joint("dowels", "drawer_front", side)
        d.joint("dowels", "drawer_back", side)
        d.joint("groove", "drawer_bottom", side, depth="6 mm")
    for end in ("drawer_front", "drawer_back"):
        d.joint("groove", "drawer_bottom", end, depth="6 mm")
    d.feature("drawer_front", "pull", "slot", ("centre", "0"), ("centre", "15 mm"), length="90 mm", width="24 mm", name="pull")
    middle = "mid(drawer_left.bottom, drawer_left.top)"
    for side, wall, looks, face in (("left", "left", "+x", "left.right"), ("right", "right", "-x", "right.left")):
        slide = f"slide_{side}"
        d.put(
            slide,
            "ball-bearing drawer slide - 45 x 350",
            {"x": face, "y": "bottom.front", "z": middle},
            looks=looks,
            along="-y",
            moved="0 mm",
            on={"a": wall, "b": f"drawer_{side}"},
            price=7.4,
        )
        for leaf, part in (("a", wall), ("b", f"drawer_{side}")):
            d.holes_of(f"{slide}_screws_{leaf}", slide, *(f"{leaf}{n}" for n in (1, 2, 3)), **{part: ("cut", "0")})
            d.hardware(f"{slide}_screws_{leaf}", head="wood_round", size="3.5", side="low")
    # the lid, on two hinges at the back
    d.board("lid", "ply18", "lying", "height", ("0", "width"), ("-6 mm", "depth"), grain="u")
    d.put(
        "hinge",
        "butt hinge - 50",
        {"x": "lid.left + 75 mm", "y": "back.back", "z": "mid(back.top, lid.bottom)"},
        by={"y": "lies_a"},
        looks="+y",
        along="-x",
        moved="180 deg",
        on={"a": "back", "b": "lid"},
        price=1.2,
    )
    d.repeat("hinges", "row", "part:hinge", axis="x", number="2", spacing="lid.right - lid.left - 150 mm")
    for leaf, part, action in (("a", "back", "cut"), ("b", "lid", "drill")):
        d.holes_of(f"hinge_screws_{leaf}", "hinge", *(f"{leaf}{n}" for n in (1, 2, 3)), **{part: (action, "0")})
        d.hardware(f"hinge_screws_{leaf}", head="wood", size="3.5", side="low")
    d.moves("lid", "lid", "turns", "lid_opens", most="105 deg")
    d.moves("drawer", "drawer_left", "slides", "drawer_out")
    d.position("closed", lid="0 deg", drawer="0 mm")
    d.position("open", lid="105 deg", drawer="300 mm")
    return d.document()
