"""What any part is once it is made, in its own coordinates."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol, runtime_checkable

from zygon.geometry.boolean import Region
from zygon.tolerance import SAGITTA

__all__ = ["Body", "Corners", "Matrix", "Prism", "Straight"]

Matrix = tuple[tuple[float, ...], ...]
#: Low and high corner in the room.
Corners = tuple[tuple[float, ...], tuple[float, ...]]


class Body(Protocol):
    """A part's shape in its own (u, v, w), in mm. ``digest`` tells two apart; an ``empty`` one has lost all that it was."""

    @property
    def digest(self) -> str:
        """The hash of what it was made from."""

    @property
    def empty(self) -> bool:
        """Whether nothing of it is left."""

    @property
    def layered(self) -> bool:
        """Whether it is a stack of outlines, each drawn straight along w."""

    def reach(self, matrix: Matrix) -> Corners:
        """The room that it takes where ``matrix`` puts it."""


@runtime_checkable
class Straight(Body, Protocol):
    """That of a part which goes through no blank and no flat."""

    @property
    def alike(self) -> str:
        """The same for bodies that are the same piece, however they lie."""

    @property
    def other_hand(self) -> str:
        """What ``alike`` is of the mirror image."""


@dataclass(frozen=True)
class Prism:
    """A section in (u, v) drawn straight along w, from 0 to ``length`` mm."""

    section: Region
    length: float
    digest: str
    empty: bool = False
    layered: bool = True
    #: of those that are one piece, however they are turned
    same: str = ""

    @property
    def alike(self) -> str:
        """It is cut off square at both ends."""
        return self.same or self.digest

    @property
    def other_hand(self) -> str:
        """Turned end for end it is its own mirror image."""
        return self.alike

    def reach(self, matrix: Matrix) -> Corners:
        """Exact for round sections, to within a sagitta for others."""
        low, high = [], []
        for a, b, c, d in (tuple(row) for row in matrix[:3]):
            across = self._across(a, b)
            ends = (0.0, c * self.length)
            low.append(across[0] + min(ends) + d)
            high.append(across[1] + max(ends) + d)
        return tuple(low), tuple(high)

    def _across(self, a: float, b: float) -> tuple[float, float]:
        """The least and the greatest of a u + b v over the section."""
        disc = self.section.outer.as_circle
        if disc:
            u, v, radius = disc
            middle, most = a * u + b * v, radius * (a * a + b * b) ** 0.5
            return middle - most, middle + most
        seen = self.section.outer.flatten(SAGITTA) @ (a, b)
        return float(seen.min()), float(seen.max())
