"""Frames: how a board's own plane (u, v and the way up w) lies in the room (x to the right, y to the back, z up)."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal

__all__ = ["AXES", "FACES", "Frame", "Plane", "across", "axis_of_face", "frame_of"]

Plane = Literal["facing_front", "facing_side", "lying"]
AXES = ("x", "y", "z")
#: Low and high face of every axis, and the word for the place half way.
FACES = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}


def axis_of_face(word: str) -> str:
    """The axis to which a face ('left', ...) is square. Raises KeyError for another word."""
    return {word: axis for axis, pair in FACES.items() for word in pair}[word]


def across(word: str, axes: Collection[str]) -> str:
    """The word of the face that a mirror image has in place of ``word``: the other one of its axis where that is among ``axes``."""
    for axis in axes:
        low, high = FACES[axis]
        if word in (low, high):
            return high if word == low else low
    return word


@dataclass(frozen=True, slots=True)
class Frame:
    """A board's axes: u and v span its plane, the thickness runs along ``normal``; face A looks to the reader of the flat.

    ``up`` is +1 where face A is the high face along ``normal``, -1 where it is the low one, so that u, v and the way to face A
    are right-handed.
    """

    u: str
    v: str
    normal: str
    up: int

    @property
    def face_a(self) -> str:
        """The face that lies up on the flat."""
        return FACES[self.normal][self.up > 0]

    @property
    def face_b(self) -> str:
        """The face that lies down on the flat."""
        return FACES[self.normal][self.up < 0]

    def matrix(self, low: float, high: float) -> tuple[tuple[float, ...], ...]:
        """(4, 4): from (u, v, w), w from face B (0) to face A (thickness), to x, y, z; ``low``/``high`` along the normal."""
        rows = []
        for axis in AXES:
            if axis == self.u:
                rows.append((1.0, 0.0, 0.0, 0.0))
            elif axis == self.v:
                rows.append((0.0, 1.0, 0.0, 0.0))
            else:
                rows.append((0.0, 0.0, float(self.up), low if self.up > 0 else high))
        return (*rows, (0.0, 0.0, 0.0, 1.0))


_FRAMES: dict[Plane, Frame] = {
    "facing_front": Frame("x", "z", "y", -1),
    "facing_side": Frame("y", "z", "x", 1),
    "lying": Frame("x", "y", "z", 1),
}


def frame_of(plane: Plane) -> Frame:
    """The frame of a board that faces the front, faces a side, or lies."""
    return _FRAMES[plane]
