"""The drying rack: legs of tube with tiers that slope to the front, in connectors; wet frames hang on its rails and drip forward."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.draft import Draft

__all__ = ["drying_rack"]

CORNERS = {"lf": ("0", "0"), "rf": ("wide", "0"), "lb": ("0", "deep"), "rb": ("wide", "deep")}
NAMES = {"l": "left", "r": "right", "f": "front", "b": "back"}
TIERS = 3


def drying_rack(name: str = "Drying rack") -> Document:
    """Four legs that run through the tees of three tiers; every tier has two rails and two sides that slope by one size."""
    d = Draft(name, "tube33")
    d.size("wide", "800 mm", "500 mm", "1200 mm", note="between the middles of the legs, left to right")
    d.size("deep", "480 mm", "300 mm", "600 mm", note="between the middles of the legs, front to back")
    d.size("high", "1250 mm", "1160 mm", "1600 mm", note="from the floor to the ends of the legs")
    d.size("slope", "45 mm", "0 mm", "80 mm", note="how much lower the front of a tier lies than its back")
    d.size("first", "300 mm", "200 mm", "380 mm", note="the back of the lowest tier over the floor")
    d.size("apart", "400 mm", "300 mm", "440 mm", note="from tier to tier")
    points: dict[str, tuple[str, str, str]] = {}
    for corner, (x, y) in CORNERS.items():
        points |= {f"{corner}_low": (x, y, "0"), f"{corner}_high": (x, y, "high")}
    d.frame("rack", points, {f"leg_{c}": (f"{c}_low", f"{c}_high") for c in CORNERS})
    for corner in CORNERS:
        for tier in range(TIERS):
            over = f"first + {tier} * apart" if tier > 1 else "first + apart" if tier else "first"
            d.on_line("rack", f"{corner}_{tier}", f"leg_{corner}", f"{over} - slope" if corner[1] == "f" else over)
    for corner in CORNERS:
        d.member(f"leg_{NAMES[corner[1]]}_{NAMES[corner[0]]}", "tube33", "rack", f"leg_{corner}", against="y")
    for tier in range(TIERS):
        for y in "fb":
            d.line("rack", f"rail_{y}{tier}", f"l{y}_{tier}", f"r{y}_{tier}")
            d.member(f"rail_{NAMES[y]}_{tier + 1}", "tube33", "rack", f"rail_{y}{tier}")
        for x in "lr":
            d.line("rack", f"side_{x}{tier}", f"{x}f_{tier}", f"{x}b_{tier}")
            d.member(f"side_{NAMES[x]}_{tier + 1}", "tube33", "rack", f"side_{x}{tier}")
    for corner in CORNERS:
        where = f"{NAMES[corner[1]]}_{NAMES[corner[0]]}"
        d.connector(f"foot_{where}", "rack", f"{corner}_low", {"toward": "up"}, base="70 mm", price=2.6)
        d.connector(f"cap_{where}", "rack", f"{corner}_high", {"toward": "up"}, price=0.9)
        for tier in range(TIERS):
            d.connector(
                f"tee_{where}_{tier + 1}",
                "rack",
                f"{corner}_{tier}",
                {"toward": "up", "through": True},
                {"toward": "right"},
                {"toward": "back", "swings": "x"},
                price=5.4,
            )
    d.item("grub_screw_6", 40, 0.08, "in the sockets, M6")
    return d.document()
