"""Sheet metal of the hive's small things: the entrance guard, the vent plate, and the box that holds the scale's electronics."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["electronics_box", "entrance_guard", "vent_plate"]


def entrance_guard(name: str = "Entrance guard") -> Document:
    """Stands before the entrance in autumn: slots that a bee passes and a mouse does not, and a sill bent from one line of lengths."""
    d = Draft(name, "galv20")
    d.size("length", "300 mm", "200 mm", "420 mm")
    d.size("slot", "9 mm", "7.5 mm", "10 mm", note="a bee passes, a mouse does not")
    d.board("guard", "galv20", "facing_front", "0", ("0", "length"), ("0", "36 mm"), face="front", up="a")
    d.fold("guard", rounding="2 mm")
    d.profile("guard", "sill", "bottom", ("22 mm", "80 deg"), ("9 mm", "-60 deg"), toward="a", name="sill")
    d.flange("guard", "hood", "top", "14 mm", angle="60 deg", toward="a", name="hood")
    for n, place in enumerate(("20 mm", "44 mm", "68 mm", "92 mm")):
        d.feature(
            "guard",
            f"slot{n}",
            "slot",
            ("left", place),
            ("bottom", "17 mm"),
            length="16 mm",
            width="slot",
            angle="90 deg",
            mirrored="u",
            name="way through",
        )
    d.feature("guard", "nail", "hole", ("left", "6 mm"), ("bottom", "24 mm"), diameter="3.2 mm", mirrored="u", name="nail hole")
    return d.document()


def vent_plate(name: str = "Vent plate") -> Document:
    """Covers a window in the inner cover: a staggered field of holes, and a rim that keeps it flat."""
    d = Draft(name, "galv20")
    d.size("width", "180 mm", "90 mm", "300 mm")
    d.size("depth", "110 mm", "70 mm", "200 mm")
    d.size("hole", "3 mm", "2 mm", "3.5 mm", note="no bee passes")
    d.size("border", "20 mm", "14 mm", "30 mm")
    d.board("vent", "galv20", "lying", "0", ("0", "width"), ("0", "depth"), face="bottom", up="a")
    d.fold("vent", corner="closed", gap="0.3 mm")
    for side in ("left", "front", "right", "back"):
        d.flange("vent", side, side, "10 mm", toward="a", name=f"{side} rim")
    d.feature(
        "vent",
        "field",
        "perforation",
        ("centre", "0"),
        ("centre", "0"),
        width="width - 2 * border",
        height="depth - 2 * border",
        diameter="hole",
        pitch="hole * 5 / 3",
        edge_distance="1 mm",
        pattern="staggered",
        name="field",
    )
    d.feature("vent", "screw", "hole", ("left", "12 mm"), ("front", "12 mm"), diameter="4.5 mm", mirrored="both", name="screw hole")
    return d.document()


def electronics_box(name: str = "Scale electronics") -> Document:
    """A tray with lips, a lid that slips over it, a small fan that the opening is sized from, and a vent field opposite."""
    d = Draft(name, "galv20")
    d.size("width", "160 mm", "120 mm", "260 mm", note="outside, left to right")
    d.size("depth", "110 mm", "80 mm", "200 mm", note="outside, front to back")
    d.size("wall", "66 mm", "64 mm", "90 mm", note="outside, bottom to top")
    d.size("fan", "40 mm", "30 mm", "44 mm", note="side of the fan's frame")
    d.size("fan_floor", "6 mm", "5 mm", "8 mm", note="from the bottom to the fan")
    d.size("fan_place", "36 mm", "32 mm", "44 mm", note="from the front to the fan's middle")
    d.size("lip", "13 mm", "12 mm", "16 mm")
    d.size("play", "0.4 mm", "0.2 mm", "1 mm", note="between lid and box, each side")
    d.board("base", "galv20", "lying", "0", ("0", "width"), ("0", "depth"), face="bottom", up="a")
    d.fold("base", corner="closed", gap="0.3 mm")
    d.flange(
        "base",
        "left",
        "left",
        "wall - 2 mm",
        toward="a",
        name="left wall",
        gussets={"number": 2, "width": d.entry("5 mm"), "depth": d.entry("7 mm")},
    )
    d.flange("base", "right", "right", "wall - 2 mm", toward="a", name="right wall")
    # one half is drawn, the other is its mirror image
    d.flange("base", "front", "front", "wall", toward="a", name="front wall", mirrored="v")
    d.flange("base", "front_lip", "end", "lip", on="front", toward="a", name="front lip", extent="inset", first="6 mm", second="6 mm")
    d.locking_tab(
        "base", "left_tab", "end", "26 mm", "18 mm", on="left", toward="a", name="left locking tab", slot=("14 mm", "2.4 mm"), hole="3.2 mm"
    )
    d.locking_tab(
        "base",
        "right_tab",
        "end",
        "26 mm",
        "18 mm",
        on="right",
        toward="a",
        name="right locking tab",
        slot=("14 mm", "2.4 mm"),
        hole="3.2 mm",
        second="23 mm",
    )
    d.flange_feature(
        "base",
        "right",
        "fan",
        "hole",
        ("centre", "fan_place - depth / 2"),
        ("end", "wall - 2 mm - fan_floor - fan / 2"),
        diameter="fan - 3 mm",
        name="fan opening",
    )
    d.flange_feature(
        "base",
        "left",
        "vent",
        "perforation",
        ("centre", "0"),
        ("centre", "0"),
        width="60 mm",
        height="24 mm",
        diameter="3.5 mm",
        pitch="6 mm",
        name="vent field",
    )
    d.feature("base", "cable", "slot", ("centre", "0"), ("back", "25 mm"), length="30 mm", width="12 mm", name="cable way")
    d.block(
        "fan_40",
        ("base.right - base.thickness - 10 mm", "base.right - base.thickness"),
        ("fan_place - fan / 2", "fan_place + fan / 2"),
        ("fan_floor", "fan_floor + fan"),
        6.4,
        mass=18.0,
    )
    d.board(
        "lid",
        "galv20",
        "lying",
        "wall",
        ("-play - lid.thickness", "width + play + lid.thickness"),
        ("-play", "depth + play"),
        face="bottom",
        up="b",
    )
    d.fold("lid")
    for side in ("left", "right"):
        d.flange("lid", side, side, "18 mm", toward="b", name=f"{side} skirt")
    d.bore(
        "lid_screw", "z", {"x": "30 mm", "y": "8 mm"}, "3 mm", stretch=("wall - 5 mm", "wall + 5 mm"), base=("cut", "0"), lid=("cut", "0")
    )
    d.bore_rows("lid_screw", x=("2", "width - 60 mm"), y=("2", "depth - 16 mm"))
    d.hardware("lid_screw", head="sheet", size="ST2.9", side="high")
    side = "fan * 0.8"
    d.bore(
        "fan_screw",
        "x",
        {"y": f"fan_place - {side} / 2", "z": f"fan_floor + fan / 2 - {side} / 2"},
        "3 mm",
        stretch=("width / 2", "width + 5 mm"),
        base=("cut", "0"),
        fan_40=("drill", "0"),
    )
    d.bore_rows("fan_screw", y=("2", side), z=("2", side))
    d.hardware("fan_screw", head="pan", size="M3", side="high", nut="locking_nut")
    return d.document()
