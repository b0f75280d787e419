"""The carrying bail: a rod bent over a hive's box, its threaded ends in a bracket at each side, by which two people lift it."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["carrying_bail"]


def carrying_bail(name: str = "Carrying bail") -> Document:
    """A bail of round rod up both sides of the box and over it; change the box, and what the bender does follows."""
    d = Draft(name, "steel8")
    d.size("width", "420 mm", "300 mm", "600 mm", note="of the box, left to right")
    d.size("height", "240 mm", "120 mm", "320 mm", note="of the box")
    d.size("gap", "14 mm", "10 mm", "20 mm", note="between box and rod")
    d.size("grip", "110 mm", "80 mm", "160 mm", note="room for a hand over the box")
    d.size("bend", "30 mm", "12 mm", "60 mm", note="radius of the rod's middle at its corners")
    d.block("box", ("0", "width"), ("0", "500 mm"), ("0", "height"), mass=0.0)
    middle = "mid(box.front, box.back)"
    low, high = "box.top - height / 2", "box.top + grip + bail.thickness / 2"
    left, right = "box.left - gap - bail.thickness / 2", "box.right + gap + bail.thickness / 2"
    d.frame(
        "line",
        {"a": (left, middle, low), "b": (left, middle, high), "c": (right, middle, high), "d": (right, middle, low)},
        {"left": ("a", "b"), "over": ("b", "c"), "right": ("c", "d")},
    )
    d.size("thread", "36 mm", "32 mm", "60 mm", note="how long the threads are that go through the brackets")
    d.member("bail", "steel8", "line", "left", "over", "right", against="y", radius="bend", past_a="thread - 9 mm", past_b="thread - 9 mm")
    for end in "ab":
        d.data["parts"]["bail"].setdefault("worked", {})[end] = {"thread": "M8", "long": d.entry("thread"), "chamfer": d.entry("0.6 mm")}
    # the ends stand in brackets that are screwed to the box
    for side, x in (("left", ("box.left - 36 mm", "box.left")), ("right", ("box.right", "box.right + 36 mm"))):
        d.block(f"bracket_{side}", x, (f"{middle} - 18 mm", f"{middle} + 18 mm"), (f"{low} - 12 mm", low), price=2.4)
        d.bore(
            f"hole_{side}",
            "z",
            {"x": left if side == "left" else right, "y": middle},
            "bail.thickness",
            **{f"bracket_{side}": ("cut", "0.5 mm")},
        )
        d.hardware(
            f"hole_{side}", head="none", size="M8", side="low", washer="plain_washer", nut_washer="plain_washer", near_nut="locking_nut"
        )
    d.item("screw_4x20", 4, 0.05, "two for each bracket")
    return d.document()
