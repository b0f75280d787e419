"""The hive's landing board, whose front edge is a rounded arc, and a plate that clamps it to a tube; both drawn freely."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["clamp_plate", "landing_board"]


def landing_board(name: str = "Landing board") -> Document:
    """A board before the entrance: straight at the back, an arc in front whose rise is a size, rounded over on both faces, and two holes for the screws that hang it."""
    d = Draft(name, "ply12", cutter="router")
    d.data["note"] = "It hangs on the hive's floor by two screws, a little below the entrance."
    d.size("wide", "380 mm", "200 mm", "460 mm", note="as wide as the floor")
    d.size("deep", "120 mm", "90 mm", "180 mm", note="from the hive to the foremost place")
    d.size("rise", "40 mm", "20 mm", "70 mm", note="of the arc in front")
    d.board("landing", "ply12", "lying", "0", ("0", "wide"), ("0", "deep"), grain="u")
    points = {"a": (0.0, 40.0), "b": (380.0, 40.0), "c": (380.0, 120.0), "d": (0.0, 120.0), "middle": (190.0, 471.25)}
    curves = {"arc": "a b middle", "end_right": "b c", "straight": "c d", "end_left": "d a"}
    relations: list[tuple[str, ...]] = [
        ("on", "a left"), ("on", "d left"), ("on", "b right"), ("on", "c right"), ("on", "c back"), ("on", "d back"),
        ("equal", "end_left end_right"), ("tangent", "front arc"), ("distance", "a front", "rise"),
    ]  # fmt: skip
    d.drawing("landing", points, curves, relations, "left", "right", "front", "back")
    d.feature("landing", "screw", "hole", ("left", "60 mm"), ("back", "20 mm"), diameter="5 mm", mirrored="u")
    d.feature(
        "landing",
        "edge",
        "edge_profile",
        ("centre", "0"),
        ("centre", "0"),
        edge="arc",
        profile="round",
        size="4 mm",
        both=True,
        name="front edge",
    )
    return d.document()


def clamp_plate(name: str = "Clamp plate") -> Document:
    """A plate of galvanised sheet with a bore for a tube and a slot on either side of it, as wide and as high as its tube wants it."""
    d = Draft(name, "galv20")
    d.data["note"] = "Two of them hold a tube; the slots take screws of 8 mm."
    d.size("tube", "34 mm", "20 mm", "45 mm", note="diameter of the tube")
    d.size("apart", "80 mm", "60 mm", "120 mm", note="from slot to slot, their middles")
    d.board("plate", "galv20", "lying", "0", ("0", "drawn"), ("0", "drawn"))
    points: dict[str, tuple[float, float]] = {
        "p1": (0, 0), "p2": (120, 70), "p3": (120, 0), "p4": (0, 70), "p5": (60, 0), "p6": (60, 70), "p7": (20, 28), "p8": (20, 42),
        "p9": (24.5, 28), "p10": (24.5, 42), "p11": (15.5, 42), "p12": (15.5, 28), "p13": (95.5, 28), "p14": (95.5, 42), "p15": (104.5, 42),
        "p16": (104.5, 28), "p17": (100, 42), "p18": (100, 28), "p19": (60, 35), "p20": (10, 0), "p21": (0, 10), "p22": (10, 10),
        "p23": (120, 60), "p24": (110, 70), "p25": (110, 60), "p26": (110, 0), "p27": (120, 10), "p28": (110, 10), "p29": (10, 70),
        "p30": (0, 60), "p31": (10, 60), "p32": (20, 35),
    }  # fmt: skip
    outline = {"front": "p20 p26", "right": "p27 p23", "back": "p24 p29", "left": "p30 p21"}
    corners = {"corner1": "p21 p20 p22", "corner2": "p23 p24 p25", "corner3": "p26 p27 p28", "corner4": "p29 p30 p31"}
    slot = {"side1": "p9 p10", "side2": "p11 p12", "end1": "p10 p11 p8", "end2": "p12 p9 p7"}
    other = {"side3": "p13 p14", "side4": "p15 p16", "end3": "p15 p14 p17", "end4": "p13 p16 p18"}
    helping = {"axis": "p5 p6", "width": "p1 p3", "height": "p3 p2", "back_whole": "p2 p4", "run": "p7 p8"}
    relations: list[tuple[str, ...]] = [
        ("level", "front"), ("upright", "right"), ("level", "back"), ("upright", "left"),
        ("distance", "width", "apart + tube + 6 mm"), ("distance", "height", "2*tube + 2 mm"),
        ("middle", "p5 width"), ("middle", "p6 back_whole"),
        ("tangent", "side1 end1"), ("tangent", "side2 end1"), ("tangent", "side2 end2"), ("tangent", "side1 end2"), ("equal", "end1 end2"),
        ("upright", "p7 p8"), ("distance", "side1 side2", "9 mm"), ("distance", "p7 p8", "14 mm"),
        ("mirrored", "p9 p13 axis"), ("mirrored", "p10 p14 axis"), ("mirrored", "p11 p15 axis"), ("mirrored", "p12 p16 axis"),
        ("mirrored", "p8 p17 axis"), ("mirrored", "p7 p18 axis"),
        ("middle", "p19 axis"), ("diameter", "bore", "tube + 0.5 mm"),
        ("tangent", "front corner1"), ("tangent", "left corner1"), ("on", "p1 front"), ("on", "p1 left"), ("radius", "corner1", "10 mm"),
        ("tangent", "right corner2"), ("tangent", "back corner2"), ("on", "p2 right"), ("on", "p2 back"), ("equal", "corner1 corner2"),
        ("tangent", "front corner3"), ("tangent", "right corner3"), ("on", "p3 front"), ("on", "p3 right"), ("equal", "corner1 corner3"),
        ("tangent", "back corner4"), ("tangent", "left corner4"), ("on", "p4 back"), ("on", "p4 left"), ("equal", "corner1 corner4"),
        ("across", "p7 p18", "apart"), ("middle", "p32 run"), ("level", "p32 p19"),
    ]  # fmt: skip
    curves = {**outline, **corners, **slot, **other, "bore": "p19 17.25", **helping}
    d.drawing("plate", points, curves, relations, helping=tuple(helping))
    return d.document()
