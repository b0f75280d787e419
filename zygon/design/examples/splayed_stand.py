"""The splayed stand: four legs that lean outward both ways, tabbed into a top with rounded corners; one leg is drawn, three are its mirror images."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["splayed_stand"]


def splayed_stand(name: str = "Splayed stand") -> Document:
    """A stand for one hive; change the splay and everything follows."""
    d = Draft(name, "ply18", cutter="router")
    d.size("width", "460 mm", "380 mm", "600 mm", note="of the top, left to right")
    d.size("depth", "500 mm", "420 mm", "660 mm", note="of the top, front to back")
    d.size("height", "360 mm", "250 mm", "500 mm", note="over all")
    d.size("splay", "8 deg", "0 deg", "15 deg", kind="angle", note="of the legs, outward both ways")
    d.board("top", "ply18", "lying", "height", ("0", "width"), ("0", "depth"), face="top", grain="v")
    d.board("leg", "ply18", "facing_front", "70 mm", ("60 mm", "150 mm"), ("-30 mm", "top.bottom"), grain="v")
    d.turn("leg", "x", "-splay", y="leg.front", z="leg.top")
    d.turn("leg", "y", "splay", x="leg.left", z="leg.top")
    d.board(
        "shelf", "ply18", "lying", "height / 3", ("width / 4", "width - width / 4"), ("depth / 4", "depth - depth / 4"), grain="v", out=True
    )
    d.mirror("sides", "x", "width / 2", "part:leg", name="Legs on the right", names={"leg": "leg_right"})
    d.mirror("ends", "y", "depth / 2", "part:leg", "copy:sides", name="Legs at the back", names={"leg": "leg_back"})
    d.joint("tab_slot", "leg", "top", number=1, length="50 mm")
    d.feature("leg", "foot", "trim", ("centre", "0"), ("centre", "0"), axis="z", at="0", side="low", name="foot")
    d.feature(
        "top", "corners", "corner", ("centre", "0"), ("centre", "0"), corner="all", style="round", size="40 mm", name="rounded corners"
    )
    d.feature("leg", "taper", "taper", ("centre", "0"), ("centre", "0"), edge="right", low="28 mm", name="tapered leg")
    return d.document()
