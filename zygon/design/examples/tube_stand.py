"""The tube stand: two mitred frames of round tube, rails coped between them, and levelling feet; a hive stands on it clear of wet ground."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["tube_stand"]


def tube_stand(name: str = "Tube stand") -> Document:
    """One side frame and its mirror image, four rails between them; everything follows three sizes."""
    d = Draft(name, "tube42", "tube33")
    d.size("wide", "520 mm", "400 mm", "700 mm", note="between the middles of both side frames")
    d.size("deep", "460 mm", "360 mm", "600 mm", note="of a side frame, between the middles of its posts")
    d.size("high", "380 mm", "250 mm", "600 mm", note="of the top tube's middle over the foot tube's")
    d.group("stand")
    low = "foot.thickness / 2 + 15 mm"  # what the levelling feet raise it by
    d.frame(
        "side",
        {"a": ("0", "0", low), "b": ("0", "deep", low), "c": ("0", "deep", f"{low} + high"), "d": ("0", "0", f"{low} + high")},
        {"foot": ("a", "b"), "back": ("b", "c"), "top": ("c", "d"), "front": ("d", "a")},
    )
    for line in ("foot", "back", "top", "front"):
        d.member({"foot": "foot", "top": "top", "back": "post_back", "front": "post_front"}[line], "tube42", "side", line, against="x")
    for a, b in (("foot", "post_back"), ("post_back", "top"), ("top", "post_front"), ("post_front", "foot")):
        d.joint("member_mitre", a, b)
    d.mirror(
        "sides",
        "x",
        "wide / 2",
        "part:foot",
        "part:post_back",
        "part:top",
        "part:post_front",
        name="sides",
        names={"foot": "foot_right", "post_back": "post_back_right", "top": "top_right", "post_front": "post_front_right"},
    )
    d.frame(
        "across",
        {
            "e": ("0", "0", f"{low} + high / 4"),
            "f": ("wide", "0", f"{low} + high / 4"),
            "g": ("0", "deep", f"{low} + high / 4"),
            "h": ("wide", "deep", f"{low} + high / 4"),
            "i": ("0", "deep / 4", f"{low} + high"),
            "j": ("wide", "deep / 4", f"{low} + high"),
            "k": ("0", "deep * 3 / 4", f"{low} + high"),
            "l": ("wide", "deep * 3 / 4", f"{low} + high"),
        },
        {"low_front": ("e", "f"), "low_back": ("g", "h"), "top_front": ("i", "j"), "top_back": ("k", "l")},
    )
    for rail, on in (("low_front", "post_front"), ("low_back", "post_back"), ("top_front", "top"), ("top_back", "top")):
        d.member(f"rail_{rail}", "tube33", "across", rail)
        d.joint("member_cope", f"rail_{rail}", on)
        d.joint("member_cope", f"rail_{rail}", f"{on}@sides.1")
    d.item("levelling_foot", 4, 1.9, "M10, in a plug; 15 mm high as drawn")
    return d.document()
