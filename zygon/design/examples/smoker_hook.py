"""A hook for the smoker that hangs on a tube: a bracket drawn round the tube, a rail of the shop's own section, a rod bent as it is drawn, and a turned button."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["smoker_hook"]


def smoker_hook(name: str = "Smoker hook") -> Document:
    """Everything here is drawn freely: change the tube or the gap, and the bracket follows; change how deep the hook hangs, and the bender's table does."""
    d = Draft(name, "galv20", "ply12", "tube33", "steel8")
    d.data["note"] = "It hangs over the upper tube of the stand, beside the hive."
    d.size("gap", "2 mm", "0.5 mm", "6 mm", note="between the tube and the bracket, before and behind it")
    d.size("hangs", "90 mm", "60 mm", "160 mm", note="how far the hook reaches down")
    d.size("reach", "40 mm", "32 mm", "80 mm", note="of the hook, from its shank")
    d.board("bracket", "galv20", "lying", "0", ("0", "90 mm"), ("0", "60 mm"))
    d.rod("tube", "tube33", "y", ("-40 mm", "100 mm"), x="bracket.right + gap + tube.thickness / 2", z="bracket.top + 26 mm")
    _bracket(d)
    d.block(
        "post",
        ("bracket.left", "bracket.left + 45 mm"),
        ("bracket.front", "bracket.back"),
        ("bracket.bottom - 160 mm", "bracket.bottom"),
        price=9.0,
    )
    for leg, y in (("front", "-40 mm"), ("back", "82 mm")):
        spans = ("bracket.right - 30 mm", "bracket.right + 66 mm"), ("post.bottom", "bracket.top + 80 mm")
        d.board(f"leg_{leg}", "ply12", "facing_front", y, *spans)
    d.bore(
        "tube_hole",
        "y",
        {"x": "tube.centre", "z": "tube.centre"},
        "tube.thickness",
        leg_front=("cut", "0.4 mm"),
        leg_back=("cut", "0.4 mm"),
    )
    _rail(d)
    _hook(d)
    _button(d)
    d.bore(
        "hook_hole",
        "z",
        {"x": "bracket.left + 60 mm", "y": "mid(bracket.front, bracket.back)"},
        "hook.thickness",
        bracket=("cut", "0.5 mm"),
    )
    d.hardware("hook_hole", head="none", size="M8", side="low", washer="plain_washer", nut_washer="plain_washer", near_nut="locking_nut")
    return d.document()


def _bracket(d: Draft) -> None:
    """Up beside the tube, over it and down behind it, on the face that looks to it."""
    fast: dict[str, dict[str, Any]] = {
        "edge": {"kind": "line", "seen": [0, -50, 0, 50]},
        "face": {"kind": "line", "seen": [-50, 0, 50, 0], "order": 1},
        "tube": {"kind": "circle", "body": "tube", "seen": [18.85, 27.006, 16.85], "order": 2},
    }
    points = {"a": (0.0, 0.0), "b": (0.0, 43.856), "c": (37.7, 43.856), "d": (37.7, 27.856)}
    curves = {"up": "a b", "over": "b c", "down": "c d"}
    relations: list[tuple[str, ...]] = [
        ("on", "a face"), ("on", "a edge"), ("upright", "up"), ("level", "over"), ("upright", "down"),
        ("tangent", "over tube"), ("distance", "down tube", "gap"), ("distance", "down", "16 mm"),
    ]  # fmt: skip
    d.fold("bracket", radius="1.5 mm")
    flanges = d.data["parts"]["bracket"]["folding"]["flanges"]
    flanges["saddle"] = {
        "kind": "drawn",
        "name": "saddle",
        "edge": "right",
        "lies": "b",
        "drawing": d.drawn(points, curves, relations, fast),
    }


def _rail(d: Draft) -> None:
    """A rail with a lip, on the bracket's plate."""
    loop = {
        "a": (0.0, 0.0),
        "b": (24.0, 0.0),
        "c": (24.0, 3.0),
        "d": (3.0, 3.0),
        "e": (3.0, 12.0),
        "f": (8.0, 12.0),
        "g": (8.0, 15.0),
        "h": (0.0, 15.0),
    }
    keys = list(loop)
    curves = {f"{a}{b}": f"{a} {b}" for a, b in zip(keys, [*keys[1:], keys[0]], strict=True)}
    relations: list[tuple[str, ...]] = [
        ("level", "ab"), ("level", "cd"), ("level", "ef"), ("level", "gh"), ("upright", "bc"), ("upright", "de"), ("upright", "fg"), ("upright", "ha"),
        ("equal", "bc fg"), ("distance", "ab", "24 mm"), ("distance", "ha", "15 mm"), ("distance", "bc", "3 mm"), ("distance", "ha de", "3 mm"), ("distance", "gh", "8 mm"),
    ]  # fmt: skip
    d.data["stocks"]["rail"] = {
        "kind": "bar", "name": "Rail with a lip", "shape": "drawn", "drawing": d.drawn(loop, curves, relations, {}), "nominal": d.entry("15 mm"),
        "material": "aluminium", "density": 2.7, "tint": "#C4CCD2", "lengths": {"bar": {"length": d.entry("3 m"), "price": 14.0}}, "kerf": d.entry("2 mm"), "order": 13,
    }  # fmt: skip
    d.rod("rail", "rail", "y", ("0", "60 mm"), x="bracket.left + 14 mm", z="bracket.top + rail.thickness / 2")
    d.data["parts"]["rail"]["wide"] = "x"


def _hook(d: Draft) -> None:
    """Down through the bracket's hole, round and up again; its rounds are drawn."""
    across = {"kind": "line", "y": d.entry("bracket.top + 14 mm"), "seen": [0, 15.0, 100, 15.0], "order": 1}
    shank = {"kind": "line", "x": d.entry("bracket.left + 60 mm"), "seen": [60, -100, 60, 100]}
    points = {
        "a": (60.0, 15.0), "b": (60.0, -73.994), "c": (75.0, -88.994), "m": (75.0, -73.994),
        "d": (85.0, -88.994), "e": (100.0, -73.994), "n": (85.0, -73.994), "f": (100.0, -60.0), "p": (60.0, -88.994), "q": (100.0, -88.994),
    }  # fmt: skip
    curves = {"shank": "a b", "under": "c d", "tip": "e f", "first": "b c m", "second": "d e n", "depth": "a p", "width": "p q"}
    relations: list[tuple[str, ...]] = [
        ("on", "a shank_at"), ("on", "a top"), ("on", "b shank_at"), ("level", "under"), ("upright", "tip"),
        ("tangent", "shank first"), ("tangent", "under first"), ("tangent", "under second"), ("tangent", "tip second"), ("equal", "first second"),
        ("radius", "first", "15 mm"), ("on", "p under"), ("on", "p shank"), ("on", "q under"), ("on", "q tip"),
        ("distance", "depth", "hangs + 14 mm"), ("distance", "width", "reach"), ("distance", "tip", "14 mm"),
    ]  # fmt: skip
    made = d.drawn(points, curves, relations, {"shank_at": shank, "top": across}, ("depth", "width"))
    d.data["frames"]["hook_path"] = {
        "name": "hook_path", "order": 0, "group": "", "plane": "facing_front", "across": d.entry("mid(bracket.front, bracket.back)"), "drawing": made,
        "points": {"a": {"drawn": "a"}, "s-u": {"drawn": "shank/under", "order": 1}, "u-t": {"drawn": "tip/under", "order": 2}, "f": {"drawn": "f", "order": 3}},
        "lines": {"shank": {"a": "a", "b": "s-u"}, "under": {"a": "s-u", "b": "u-t", "order": 1}, "tip": {"a": "u-t", "b": "f", "order": 2}},
    }  # fmt: skip
    d.member("hook", "steel8", "hook_path", "shank", "under", "tip", against="y")
    d.data["parts"]["hook"]["worked"] = {"a": {"thread": "M8", "long": d.entry("34 mm"), "chamfer": d.entry("0.6 mm")}}


def _button(d: Draft) -> None:
    """A button with a waist on the bracket, for the strap of the bellows."""
    points = {"a": (0.0, 0.0), "b": (11.0, 0.0), "c": (11.0, 3.0), "d": (11.0, 12.0), "m": (18.0, 7.5), "e": (0.0, 12.0)}
    curves = {"foot": "a b", "rim": "b c", "waist": "d c m", "head": "d e"}
    relations: list[tuple[str, ...]] = [
        ("level", "foot"), ("level", "head"), ("upright", "rim"), ("on", "a end"), ("on", "a axis"), ("on", "e axis"), ("upright", "c d"),
        ("distance", "rim axis", "11 mm"), ("distance", "rim", "3 mm"), ("distance", "foot head", "12 mm"), ("radius", "waist", "8.5 mm"),
    ]  # fmt: skip
    fast: dict[str, dict[str, Any]] = {
        "axis": {"kind": "line", "seen": [0, -50, 0, 50]},
        "end": {"kind": "line", "seen": [-50, 0, 50, 0], "order": 1},
    }
    d.turned("button", "z", ("bracket.top", "bracket.top + drawn"), "24 mm", at={"x": "bracket.left + 40 mm", "y": "bracket.front + 14 mm"})
    button = d.data["parts"]["button"]
    button.pop("steps", None)
    button["drawing"] = d.drawn(points, curves, relations, fast)
