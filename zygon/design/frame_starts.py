"""Frames to begin with: the points, lines and members of a box, a portal, a ladder and a sawhorse between places that are entries.

Their members lie inside of what the places enclose, with a side or a corner on their lines, so that the places are those of the outside.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Literal

import numpy as np

from zygon.design.parts.member import LIES

__all__ = ["FRAME_STARTS", "FrameStart", "Started", "lies_toward"]

Ends = tuple[str, str]
FrameStartKind = Literal["box", "portal", "ladder", "sawhorse"]


@dataclass
class Started:
    """The records by key of one frame and its members, and which of them are joined: (the one that is cut, the other, 'mitre' or 'on').

    A member's name in braces stands for its name in the design.
    """

    points: dict[str, dict[str, Any]] = field(default_factory=dict)
    lines: dict[str, dict[str, Any]] = field(default_factory=dict)
    members: dict[str, dict[str, Any]] = field(default_factory=dict)
    joined: list[tuple[str, str, str]] = field(default_factory=list)
    #: those that are coped too where the stock is round
    rounded: list[tuple[str, str]] = field(default_factory=list)

    def point(self, key: str, x: str, y: str, z: str) -> str:
        """A place along each axis."""
        self.points[key] = {"at": {"x": x, "y": y, "z": z}, "order": len(self.points)}
        return key

    def member(self, name: str, a: str, b: str, against: str, lies: str = "middle", **more: Any) -> str:
        """A line and what lies on it."""
        self.lines[name] = {"a": a, "b": b, "order": len(self.lines)}
        self.members[name] = {"lines": [name], "against": against, "lies": lies, **more}
        return name


@dataclass(frozen=True)
class FrameStart:
    """A frame to begin with: ``axes`` are those along which it needs a low and a high place, ``counts`` what else it asks, with what is usual."""

    key: str
    title: str
    words: str
    make: Callable[[dict[str, Ends], int], Started]
    count: str = ""
    usual: int = 0


def lies_toward(way: tuple[float, float, float], against: str, out: tuple[float, float, float]) -> str:
    """By which of its places a member along ``way`` lies, for its sides toward ``out`` to come to its line."""
    w = np.array(way)
    across = np.cross(np.eye(3)["xyz".index(against)], w)
    u = across / np.linalg.norm(across)
    v = np.cross(w, u)
    sides = tuple(int(np.sign(round(float(axis @ np.array(out)), 6))) for axis in (u, v))
    return next(name for name, place in LIES.items() if place == sides)


_WAY = {"x": (1.0, 0.0, 0.0), "y": (0.0, 1.0, 0.0), "z": (0.0, 0.0, 1.0)}
_AGAINST = {"x": "z", "y": "z", "z": "y"}


def _along(started: Started, name: str, axis: str, a: str, b: str, out: tuple[float, float, float]) -> str:
    return started.member(name, a, b, _AGAINST[axis], lies_toward(_WAY[axis], _AGAINST[axis], out))


def box(places: dict[str, Ends], count: int) -> Started:
    """Four posts that run through, and rails between them above and below."""
    s = Started()
    sides = {"left": -1.0, "right": 1.0, "front": -1.0, "back": 1.0, "low": -1.0, "high": 1.0}

    def at(x: str, y: str, z: str) -> str:
        i = (0 if x == "left" else 1, 0 if y == "front" else 1, 0 if z == "low" else 1)
        key = f"{x}_{y}_{z}"
        if key not in s.points:
            s.point(key, *(places[a][k] for a, k in zip("xyz", i, strict=True)))
        return key

    for y in ("front", "back"):
        for x in ("left", "right"):
            _along(s, f"post_{y}_{x}", "z", at(x, y, "low"), at(x, y, "high"), (sides[x], sides[y], 0.0))
    for z in ("low", "high"):
        for y in ("front", "back"):
            rail = _along(s, f"rail_{z}_{y}", "x", at("left", y, z), at("right", y, z), (0.0, sides[y], sides[z]))
            s.joined += [(rail, f"post_{y}_{x}", "on") for x in ("left", "right")]
        for x in ("left", "right"):
            # what of a round rail reaches round its post would run into the first rail's
            s.rounded += [(f"rail_{z}_{x}", f"rail_{z}_{y}") for y in ("front", "back")]
            rail = _along(s, f"rail_{z}_{x}", "y", at(x, "front", z), at(x, "back", z), (sides[x], 0.0, sides[z]))
            s.joined += [(rail, f"post_{y}_{x}", "on") for y in ("front", "back")]
    return s


def _sides(s: Started, places: dict[str, Ends]) -> None:
    """The low and the high point at the left and at the right, in the plane of the front."""
    for name, x in zip(("left", "right"), places["x"], strict=True):
        for level, z in zip(("low", "high"), places["z"], strict=True):
            s.point(f"{name}_{level}", x, places["y"][0], z)


def portal(places: dict[str, Ends], count: int) -> Started:
    """Two posts and a beam over them, mitred at the corners."""
    s = Started()
    _sides(s, places)
    _along(s, "post_left", "z", "left_low", "left_high", (-1.0, 0.0, 0.0))
    _along(s, "beam", "x", "left_high", "right_high", (0.0, 0.0, 1.0))
    _along(s, "post_right", "z", "right_low", "right_high", (1.0, 0.0, 0.0))
    s.joined = [("post_left", "beam", "mitre"), ("beam", "post_right", "mitre")]
    return s


def ladder(places: dict[str, Ends], count: int) -> Started:
    """Two rails upright, and rungs between them that are evenly spread."""
    s = Started()
    low, high = places["z"]
    _sides(s, places)
    for name in ("left", "right"):
        way = (-1.0 if name == "left" else 1.0, 0.0, 0.0)
        _along(s, f"rail_{name}", "z", f"{name}_low", f"{name}_high", way)
    for n in range(1, count + 1):
        for name in ("left", "right"):
            off = f"(({high}) - ({low})) * {n} / {count + 1}"
            s.points[f"{name}_{n}"] = {"on": f"rail_{name}", "end": "a", "off": off, "order": len(s.points)}
        s.member(f"rung_{n}", f"left_{n}", f"right_{n}", "z")
        s.joined += [(f"rung_{n}", f"rail_{name}", "on") for name in ("left", "right")]
    return s


def sawhorse(places: dict[str, Ends], count: int) -> Started:
    """A beam on four legs that splay to the corners of the ground, their feet cut level."""
    s = Started()
    (left, right), (front, back), (low, high) = places["x"], places["y"], places["z"]
    middle = f"mid({front}, {back})"
    # the legs' middles run to the beam's own
    for end, x in (("left", left), ("right", right)):
        s.point(f"beam_{end}", x, middle, f"{high} - {{beam}}.thickness / 2")
    s.member("beam", "beam_left", "beam_right", "z")
    inset = f"(({right}) - ({left})) / 8"
    for end, name in (("a", "left"), ("b", "right")):
        s.points[f"head_{name}"] = {"on": "beam", "end": end, "off": inset, "order": len(s.points)}
        for y, side in ((front, "front"), (back, "back")):
            foot = s.point(f"foot_{side}_{name}", left if name == "left" else right, y, low)
            leg = s.member(f"leg_{side}_{name}", foot, f"head_{name}", "x", end_a="z")
            s.joined.append((leg, "beam", "on"))
        s.joined.append((f"leg_front_{name}", f"leg_back_{name}", "mitre"))
    return s


FRAME_STARTS: dict[str, FrameStart] = {
    s.key: s
    for s in (
        FrameStart("box", "Box frame", "Four posts, with rails between them above and below.", box),
        FrameStart("portal", "Portal", "Two posts and a beam over them, mitred.", portal),
        FrameStart("ladder", "Ladder", "Two rails with rungs evenly between them.", ladder, "Rungs", 4),
        FrameStart("sawhorse", "Sawhorse", "A beam on four splayed legs, their feet level.", sawhorse),
    )
}
