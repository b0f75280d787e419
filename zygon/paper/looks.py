"""From where a view looks: its directions in the room, and where it lies about the front view (ISO 5456-2)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from zygon.geometry.motion import Vector

__all__ = ["LOOKS", "Look", "LookName", "place_about"]

LookName = Literal["front", "back", "left", "right", "top", "bottom", "corner"]


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


_C, _S = math.cos(math.radians(45)), math.sin(math.radians(45))
#: The height of the eye in an isometric view: the angle whose sine is 1/√3.
_E = math.asin(1 / math.sqrt(3))

LOOKS: dict[LookName, Look] = {
    "front": Look((1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    "back": Look((-1.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    "left": Look((0.0, -1.0, 0.0), (0.0, 0.0, 1.0)),
    "right": Look((0.0, 1.0, 0.0), (0.0, 0.0, 1.0)),
    "top": Look((1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    "bottom": Look((1.0, 0.0, 0.0), (0.0, -1.0, 0.0)),
    # from the front right and above, isometric (ISO 5456-3)
    "corner": Look((_C, _S, 0.0), (-_S * math.sin(_E), _C * math.sin(_E), math.cos(_E))),
}

#: Columns and rows from the front view, in first angle: what is seen from the left lies to the right, what is seen from above lies under it.
_FIRST: dict[LookName, tuple[int, int]] = {
    "front": (0, 0),
    "left": (1, 0),
    "right": (-1, 0),
    "top": (0, -1),
    "bottom": (0, 1),
    "back": (2, 0),
    "corner": (2, -1),
}


def place_about(look: LookName, angle: Literal["first", "third"]) -> tuple[int, int]:
    """In which column and row about the front view one lies; rows count upward. The back view is the last on the right in both."""
    column, row = _FIRST[look]
    return (column, row) if angle == "first" or look == "back" else (-column, -row)
