"""The hive whole: floor, brood box with ten frames, super and roof, each a group; what comes twice is mirrored, what comes ten times repeated."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["hive"]

FRONT_TO_BACK = ("front.back", "back.front")


def hive(name: str = "Hive") -> Document:
    """A garden beehive in four groups that stand on each other and follow the same few sizes."""
    d = Draft(name, "ply12", "ply6", cutter="laser")
    d.data["note"] = "Change width, depth or the number of frames; floor, boxes and roof follow."
    d.data["numbering"] = "TH-{group}-{part}"
    d.size("frames", "10", "6", "10", kind="count", note="in the brood box")
    d.size("pitch", "36 mm", "34 mm", "39 mm", note="from one frame to the next")
    d.size("bee_gap", "8 mm", "6 mm", "10 mm", note="what bees neither fill nor build in")
    d.size("width", "frames * pitch + 2 * bee_gap + 2 * ply", "240 mm", "560 mm", note="over all, left to right")
    d.size("depth", "460 mm", "380 mm", "600 mm", note="over all, front to back")
    d.size("ply", "11.8 mm", note="thickness of the walls, as measured")
    d.size("brood", "240 mm", "200 mm", "330 mm", note="height of the brood box")
    d.size("honey", "150 mm", "130 mm", "200 mm", note="height of the super")
    d.size("rest", "14 mm", "10 mm", "20 mm", note="width of a frame rest")
    d.size("slope", "8 deg", "4 deg", "14 deg", kind="angle", note="of the roof")
    _floor(d)
    _brood_box(d)
    _frame(d)
    _super(d)
    _roof(d)
    d.clearance("frames to the wall", {"part": "top_bar"}, {"part": "front"}, least="0.5 mm")
    d.clearance(
        "end play of the frames",
        {"part": "top_bar", "what": "face", "name": "back"},
        {"part": "front@ends.1", "what": "face", "name": "front"},
        "y",
        least="0.5 mm",
        most="6 mm",
    )
    return d.document()


def _floor(d: Draft) -> None:
    d.group("floor")
    d.board("floor_side", "ply12", "facing_side", "0", ("0", "depth"), ("0", "40 mm"))
    d.board("floor_back", "ply12", "facing_front", "depth - ply", ("floor_side.right", "width - ply"), ("0", "40 mm"))
    d.board("floor_board", "ply12", "lying", "14 mm", ("floor_side.right", "width - ply"), ("0", "floor_back.front"), grain="free")
    d.mirror("floor_sides", "x", "width / 2", "part:floor_side", name="Other side of the floor", names={"floor_side": "floor_side_right"})
    d.joint("tab_slot", "floor_board", "floor_side", number=3)
    d.joint("tab_slot", "floor_board", "floor_back", number=2)
    d.joint("finger", "floor_back", "floor_side")


def _brood_box(d: Draft) -> None:
    d.group("brood_box", z="40 mm")
    d.board("front", "ply12", "facing_front", "0", ("0", "width"), ("0", "brood"))
    d.board("side", "ply12", "facing_side", "0", ("front.back", "depth - ply"), ("0", "brood"))
    d.board("frame_rest", "ply12", "lying", "brood - 20 mm", ("side.right", "width - ply"), ("front.back", "front.back + rest"), face="top")
    d.mirror(
        "ends",
        "y",
        "depth / 2",
        "part:front",
        "part:frame_rest",
        name="Other end of the brood box",
        names={"front": "back", "frame_rest": "frame_rest_back"},
    )
    d.mirror("sides", "x", "width / 2", "part:side", name="Other side of the brood box", names={"side": "side_right"})
    d.joint("finger", "front", "side")
    d.joint("tab_slot", "frame_rest", "side", number=1)
    d.feature("front", "hold", "hand_hold", ("centre", "0"), ("top", "70 mm"), length="width / 4", width="30 mm", name="hand hold")
    d.feature("side", "hold", "hand_hold", ("centre", "0"), ("top", "70 mm"), length="110 mm", width="30 mm", name="hand hold")


def _frame(d: Draft) -> None:
    d.group("frame", "brood_box", x="ply + bee_gap + (pitch - 24 mm) / 2")
    d.board(
        "top_bar",
        "ply6",
        "lying",
        "frame_rest.top + 6 mm",
        ("0", "24 mm"),
        ("front.back + 2 mm", "depth - ply - 2 mm"),
        face="top",
        grain="v",
    )
    d.board("end_bar", "ply6", "facing_front", "frame_rest.back + bee_gap", ("0", "24 mm"), ("20 mm", "top_bar.bottom"), grain="v")
    d.board("bottom_bar", "ply6", "lying", "20 mm", ("5 mm", "19 mm"), ("end_bar.back", "end_bar_back.front"), grain="v")
    d.mirror("end_bars", "y", "depth / 2", "part:end_bar", name="Other end of the frame", names={"end_bar": "end_bar_back"})
    d.joint("mortise_tenon", "end_bar", "top_bar", "press", number=1, width="12 mm")
    d.joint("mortise_tenon", "bottom_bar", "end_bar", "press", number=1, width="8 mm")
    d.feature("end_bar", "wire", "hole", ("centre", "0"), ("centre", "40 mm"), diameter="3 mm", name="wire hole")
    d.feature("end_bar", "wire_2", "hole", ("centre", "0"), ("centre", "-40 mm"), diameter="3 mm", name="wire hole")
    d.repeat("frames_row", "row", "group:frame", name="Frames", axis="x", number="frames", spacing="pitch")


def _super(d: Draft) -> None:
    d.group("super", z="40 mm + brood")
    d.board("super_front", "ply12", "facing_front", "0", ("0", "width"), ("0", "honey"))
    d.board("super_side", "ply12", "facing_side", "0", ("super_front.back", "depth - ply"), ("0", "honey"))
    d.mirror("super_ends", "y", "depth / 2", "part:super_front", name="Other end of the super", names={"super_front": "super_back"})
    d.mirror("super_sides", "x", "width / 2", "part:super_side", name="Other side of the super", names={"super_side": "super_side_right"})
    d.joint("finger", "super_front", "super_side")
    d.feature("super_front", "hold", "hand_hold", ("centre", "0"), ("top", "60 mm"), length="width / 4", width="30 mm", name="hand hold")


def _roof(d: Draft) -> None:
    d.group("roof", z="40 mm + brood + honey")
    d.board("eaves", "ply12", "facing_front", "0", ("0", "width"), ("0", "70 mm"))
    d.board("gable", "ply12", "facing_side", "0", ("eaves.back", "ridge.front"), ("0", "70 mm + depth * tan(slope)"), up="b")
    d.board("ridge", "ply12", "facing_front", "depth - ply", ("0", "width"), ("0", "70 mm + (depth - ply) * tan(slope)"))
    d.board("lid", "ply12", "lying", "70 mm", ("-20 mm", "width + 20 mm"), ("-40 mm", "depth / cos(slope) + 20 mm"))
    d.turn("lid", "x", "slope", y="0", z="lid.bottom")
    d.feature("gable", "slant", "taper", ("centre", "0"), ("centre", "0"), edge="top", low="depth * tan(slope)", name="slanted top")
    d.feature("gable", "vent", "hole", ("back", "90 mm"), ("bottom", "45 mm"), diameter="25 mm", name="vent")
    d.feature("gable", "note", "mark_text", ("back", "170 mm"), ("bottom", "45 mm"), text="VENT", height="8 mm", name="note", face="left")
    d.mirror("gables", "x", "width / 2", "part:gable", name="Other gable", names={"gable": "gable_right"})
    d.joint("finger", "eaves", "gable")
    d.joint("finger", "ridge", "gable")
