"""The frame rack: two cheeks with rods through them, on which frames hang while a hive is looked through."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["frame_rack"]


def frame_rack(name: str = "Frame rack") -> Document:
    """Two cheeks on the ground, two rods that bear the frames' lugs, and one below that keeps the cheeks apart."""
    d = Draft(name, "ply18", "beech12", "steel6", cutter="router")
    d.size("width", "420 mm", "300 mm", "700 mm", note="over all, left to right")
    d.size("lugs", "432 mm", "300 mm", "440 mm", note="between both bearing rods, middle to middle")
    d.size("deep", "500 mm", "460 mm", "520 mm", note="of a cheek, front to back")
    d.board("left", "ply18", "facing_side", "0", ("0", "deep"), ("0", "300 mm"), grain="v")
    d.board("right", "ply18", "facing_side", "width", ("0", "deep"), ("0", "300 mm"), face="right", grain="v")
    d.rod("rod_front", "beech12", "x", ("left.left", "right.right"), y="deep / 2 - lugs / 2", z="left.top - 30 mm")
    d.rod("rod_back", "beech12", "x", ("left.left", "right.right"), y="deep / 2 + lugs / 2", z="left.top - 30 mm")
    d.rod("spacer", "steel6", "x", ("left.left - 8 mm", "right.right + 8 mm"), y="deep / 2", z="60 mm")
    for rod in ("rod_front", "rod_back", "spacer"):
        # as far as the rod is thick, and 0.2 mm more, so that it goes in by hand
        ends = {"left": ("cut", "0.2 mm"), "right": ("cut", "0.2 mm")}
        d.bore(f"{rod}_bore", "x", {"y": f"{rod}.centre", "z": f"{rod}.centre"}, f"{rod}.thickness", **ends)
    for side in ("left", "right"):
        d.feature(
            side, "foot", "rectangle", ("centre", "0"), ("bottom", "0"), width="deep / 2", height="40 mm", radius="15 mm", name="foot"
        )
    # cap nuts keep the cheeks on the spacer; the rods are glued in
    for n, (rod, side) in enumerate((r, s) for r in ("rod_front", "rod_back", "spacer") for s in ("left", "right")):
        d.data["ties"][f"{rod}_{side}"] = {"a": rod, "b": side, "how": "held", "order": n}
    d.item("nut_m6", 4, 0.12, "cap nut for the spacer, 6 mm")
    return d.document()
