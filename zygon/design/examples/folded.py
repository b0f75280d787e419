"""Folded steel of the hive: the roof, a tray with closed corners and hemmed edges, and the rests that the frames hang on."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["frame_rests", "roof"]


def roof(name: str = "Roof") -> Document:
    """The plate lies on the hive's lid; four flanges come down over its sides, their lower edges hemmed inward so that they do not cut."""
    d = Draft(name, "galv20")
    d.size("width", "430 mm", "300 mm", "440 mm", note="over all, left to right")
    d.size("depth", "340 mm", "240 mm", "360 mm", note="over all, front to back")
    d.size("rim", "45 mm", "30 mm", "60 mm", note="how far the sides come down")
    d.size("hem", "9 mm", "7 mm", "14 mm")
    d.board("roof", "galv20", "lying", "0", ("0", "width"), ("0", "depth"), face="top", up="b")
    d.fold("roof", corner="closed", gap="0.4 mm")
    for side in ("left", "front", "right", "back"):
        d.flange("roof", side, side, "rim", toward="b", name=f"{side} side")
    for side in ("left", "front", "right", "back"):
        d.flange("roof", f"{side}_hem", "end", "hem", kind="hem", on=side, toward="b", name=f"{side} hem")
    return d.document()


def frame_rests(name: str = "Frame rests") -> Document:
    """A pair of handed rests: screwed to the box by the flange, stepped in by an offset bend to where the frames' ears hang."""
    d = Draft(name, "galv20")
    d.size("length", "370 mm", "240 mm", "480 mm")
    d.size("step", "6 mm", "5 mm", "12 mm", note="how far the rest stands in from the box")
    d.board("rest", "galv20", "facing_side", "0", ("0", "length"), ("0", "22 mm"), up="a")
    d.fold("rest")
    d.flange("rest", "step", "top", "12 mm", kind="offset", height="step", name="step")
    d.flange("rest", "lip", "end", "8 mm", on="step", name="lip")
    for n, place in enumerate(("30 mm", "length / 2", "length - 30 mm")):
        d.feature("rest", f"screw{n}", "hole", ("front", place), ("bottom", "9 mm"), diameter="4.5 mm", name="screw hole")
    d.mirror("other", "x", "60 mm", "part:rest", name="other side", names={"rest": "rest_right"})
    return d.document()
