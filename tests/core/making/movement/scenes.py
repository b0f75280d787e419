"""Small designs in which something moves, and what is found in them."""

from __future__ import annotations

import math
from typing import Any

from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.making.movement.found import movements_of
from zygon.making.movement.record import Movement, Moving
from zygon.making.movement.report import travel_of
from zygon.making.movement.said import said_of
from zygon.making.movement.travel import Travel
from zygon.making.pipeline import build

__all__ = ["arm", "four_bar", "found", "held", "moving_of", "said_travel", "shaft", "things_of"]

#: What the thinnest of the drafts' boards measures.
T = 11.8


def moving_of(document: Document) -> Moving:
    """What moves in a design."""
    return movements_of(build(document))


def things_of(moving: Moving) -> list[set[str]]:
    """The parts of its things, without the sets that they hold."""
    return [{p for p in t.pieces if "~set" not in p} for t in moving.things]


def found(moving: Moving, kind: str, part: str) -> Movement:
    """The movement of a kind of the thing that a part is of."""
    return next(m for m in moving.movements if m.kind == kind and part in m.thing.pieces)


def said_travel(document: Document, key: str) -> Travel:
    """How far a movement of a design goes."""
    return travel_of(said_of(build(document)), key)


def held(d: Draft, a: str, b: str, how: str = "held") -> None:
    """Says that two parts are one thing, or free."""
    d.data["ties"][f"tie{len(d.data['ties'])}"] = {"a": a, "b": b, "how": how, "order": len(d.data["ties"])}


def arm(angle: float = 0.0, height: float = 80.0, *, fit: str = "0.3 mm") -> Document:
    """An arm on a bolt before a wall, and a stop above it at a height over the bolt: it turns about (100, 100) along y.

    The arm reaches from 20 mm behind the bolt to 120 before it, 30 wide, and is turned by ``angle`` degrees at rest.
    """
    d = Draft("arm", "ply12", cutter="router")
    d.board("wall", "ply12", "facing_front", 0, (0, 300), (0, 300))
    d.board("arm", "ply12", "facing_front", "wall.front", (80, 220), (85, 115), face="back")
    d.board("stop", "ply12", "facing_front", "wall.front", (100, 300), (100 + height, 130 + height), face="back")
    if angle:
        d.turn("arm", "y", f"{angle} deg", x=100, z=100)
    held(d, "wall", "stop")
    d.bore("pin", "y", {"x": "100", "z": "100"}, "6 mm", wall=("cut", "0"), arm=("cut", fit))
    d.hardware("pin", head="button", size="M6", side="low", washer="plain_washer", nut="locking_nut")
    return d.document()


def shaft(*, inside: float = 100.0, ring: float = 4.0, fit: str = "0.2 mm", collar: str = "") -> Document:
    """A shaft of 8 mm that runs in two walls, ``inside`` apart, with a ring on each end so far in."""
    d = Draft("shaft", "ply12", "steel8", cutter="router")
    d.board("floor", "ply12", "lying", 0, (0, inside + 2 * T), (0, 60))
    d.board("left", "ply12", "facing_side", 0, (0, 60), ("floor.top", 80))
    d.board("right", "ply12", "facing_side", inside + 2 * T, (0, 60), ("floor.top", 80), face="right")
    for side in ("left", "right"):
        d.joint("tab_slot", side, "floor")
    d.rod("shaft", "steel8", "x", ("left.left - 6 mm", "right.right + 6 mm"), y="30 mm", z="50 mm")
    d.data["parts"]["shaft"]["worked"] = {e: {"ring": d.entry(f"{ring} mm")} for e in "ab"}
    d.bore("holes", "x", {}, "8 mm", left=("cut", fit), right=("cut", fit))
    d.data["bores"]["holes"]["member"] = "shaft"
    if collar:
        held(d, "shaft", collar)
    return d.document()


def four_bar(points: dict[str, tuple[float, float]]) -> Document:
    """A frame, a crank from A to B, a coupler from B to C and a rocker from D to C, each a board 24 wide with round room about its pins; (x, z) by name."""
    d = Draft("four bar", "ply12", cutter="router")
    d.board("base", "ply12", "facing_front", 0, (-200, 500), (-200, 300))
    layers = {"crank": ("base.front", "A", "B"), "rocker": ("base.front", "D", "C"), "coupler": ("crank.front", "B", "C")}
    for name, (behind, a, b) in layers.items():
        (x0, z0), (x1, z1) = points[a], points[b]
        long, lean = math.dist((x0, z0), (x1, z1)), math.degrees(math.atan2(z1 - z0, x1 - x0))
        d.board(name, "ply12", "facing_front", behind, (x0 - 12, x0 + long + 12), (z0 - 12, z0 + 12), face="back", outline={"kind": "link"})
        d.turn(name, "y", f"{-lean} deg", x=x0, z=z0)
    pins: dict[str, dict[str, Any]] = {
        "A": {"base": ("cut", "0"), "crank": ("cut", "0.2 mm")},
        "B": {"crank": ("cut", "0"), "coupler": ("cut", "0.2 mm")},
        "C": {"rocker": ("cut", "0"), "coupler": ("cut", "0.2 mm")},
        "D": {"base": ("cut", "0"), "rocker": ("cut", "0.2 mm")},
    }
    for name, parts in pins.items():
        x, z = points[name]
        d.bore(f"pin_{name}", "y", {"x": f"{x}", "z": f"{z}"}, "5 mm", **parts)
        # flush on both sides, so that no head is in the way of a link
        d.hardware(f"pin_{name}", head="none", size="M5", side="low")
    return d.document()
