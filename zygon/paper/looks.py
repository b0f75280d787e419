"""From where a view looks: its directions in the room, and where it lies about the front view (ISO 5456-2)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from zygon.design.papers import SeenFrom
from zygon.geometry.motion import Vector

__all__ = ["LOOKS", "Look", "LookName", "is_corner", "place_about"]

LookName = SeenFrom


@dataclass(frozen=True)
class Look:
    """``right`` and ``up`` of the paper as directions in the room, each of length 1 and square to one another; ``toward`` is the way to who looks."""

    right: Vector
    up: Vector

    @property
    def toward(self) -> Vector:
        """Right across up."""
        (a, b, c), (d, e, f) = self.right, self.up
        return b * f - c * e, c * d - a * f, a * e - b * d

    def seen(self, point: Vector) -> tuple[float, float]:
        """Where a place of the room lies in the view, mm."""
        return sum(r * p for r, p in zip(self.right, point, strict=True)), sum(u * p for u, p in zip(self.up, point, strict=True))


#: The height of the eye in an isometric view: the angle whose sine is 1/√3 (ISO 5456-3).
_E = math.asin(1 / math.sqrt(3))


def _corner(around: float, up: float) -> Look:
    """Seen from a corner: the eye stands ``around`` degrees from the front, counter-clockwise seen from above, and ``up`` radians high."""
    c, s = math.cos(math.radians(around)), math.sin(math.radians(around))
    return Look((c, s, 0.0), (s * -math.sin(up), c * math.sin(up), math.cos(up)))


LOOKS: dict[LookName, Look] = {
    "front": Look((1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    "back": Look((-1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    "left": Look((0.0, -1.0, 0.0), (0.0, 0.0, 1.0)),
    "right": Look((0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
    "top": Look((1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    "bottom": Look((1.0, 0.0, 0.0), (0.0, -1.0, 0.0)),
    "corner": _corner(45, _E),
    "corner front left": _corner(-45, _E),
    "corner back right": _corner(135, _E),
    "corner back left": _corner(-135, _E),
    "under front right": _corner(45, -_E),
    "under front left": _corner(-45, -_E),
    "under back right": _corner(135, -_E),
    "under back left": _corner(-135, -_E),
}

#: Columns and rows from the front view, in first angle: what is seen from the left lies to the right, what is seen from above lies under it.
_FIRST: dict[LookName, tuple[int, int]] = {
    "front": (0, 0),
    "left": (1, 0),
    "right": (-1, 0),
    "top": (0, -1),
    "bottom": (0, 1),
    "back": (2, 0),
}


def is_corner(look: str) -> bool:
    """Whether it is seen askew, so that nothing can be measured in it."""
    return look.startswith(("corner", "under"))


def place_about(look: LookName, angle: Literal["first", "third"]) -> tuple[int, int]:
    """In which column and row about the front view one lies; rows count upward. The back view is the last on the right in both."""
    column, row = _FIRST.get(look, (2, -1))
    return (column, row) if angle == "first" or look == "back" else (-column, -row)
