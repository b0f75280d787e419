"""A feeder's tray of galvanised sheet, too long for the brake: folded as a whole, split in two, with the overlap and the rivets that hold it."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["feeder_tray"]

#: Rivets across the overlap, as shares of the depth.
RIVETS = ("0.15", "0.38", "0.62", "0.85")


def feeder_tray(name: str = "Feeder tray") -> Document:
    """Both halves fold the whole tray and keep their side of the line; holes in the walls and in the floor stay where they were."""
    d = Draft(name, "galv20")
    d.data["note"] = "Where it is split is a size: both halves and the rivets follow it."
    d.size("length", "520 mm", "360 mm", "700 mm", note="outside, left to right")
    d.size("depth", "180 mm", "120 mm", "260 mm", note="outside, front to back")
    d.size("wall", "40 mm", "30 mm", "60 mm", note="height of the walls")
    d.size("line", "length / 2", note="where it is split")
    _half(d, "tray", "high")
    _half(d, "tray_end", "low")
    d.feature("tray", "drain", "hole", ("left", "60 mm"), ("centre", "0"), diameter="12 mm", name="drain")
    d.feature(
        "tray_end",
        "vents",
        "perforation",
        ("right", "140 mm"),
        ("centre", "0"),
        width="120 mm",
        height="60 mm",
        diameter="4 mm",
        pitch="9 mm",
        name="vents",
    )
    for half, end in (("tray", "left"), ("tray_end", "right")):
        # the front wall is walked from left to right, the back wall the other way
        low = end == "left"
        d.flange_feature(
            half, "front", "hook", "slot", ("low" if low else "high", "130 mm"), ("centre", "0"), length="40 mm", width="8 mm", name="hook"
        )
        d.flange_feature(half, "back", "peg", "hole", ("high" if low else "low", "130 mm"), ("centre", "0"), diameter="8 mm", name="peg")
    d.flange(
        "tray",
        "overlap",
        "cut_high",
        "16.3 mm",
        kind="offset",
        name="overlap",
        toward="b",
        height="tray.thickness",
        inset="3.1155 mm",
        angle="30 deg",
        radius="1.5 mm",
        extent="inset",
        first="5.6 mm",
        second="5.6 mm",
    )
    for n, share in enumerate(RIVETS, 1):
        d.bore(
            f"rivet_{n}",
            "z",
            {"x": "line + 8 mm", "y": f"tray.front + {share}*(tray.back - tray.front)"},
            "3.2 mm",
            stretch=("tray.bottom - 1.5*tray.thickness", "tray.top + 1.5*tray.thickness"),
            tray=("cut", "0"),
            tray_end=("cut", "0"),
        )
    return d.document()


def _half(d: Draft, name: str, end: str) -> None:
    """The whole tray, of which one side of the line is kept."""
    d.board(name, "galv20", "lying", "0", ("0", "length"), ("0", "depth"), up="a")
    d.fold(name, corner="closed", gap="0.3 mm")
    for side in ("right" if end == "low" else "left", "front", "back"):
        d.flange(name, side, side, "wall", toward="a", name=f"{side} wall")
    folding: dict[str, Any] = d.data["parts"][name]["folding"]
    folding["split"] = {"axis": "x", end: d.entry("line")}
