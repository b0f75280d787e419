"""A part that takes up room and is cut from no stock of the shop, a block or a solid read from a file: bought, turned or printed."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from zygon.design.parts.plate import PlatePart
from zygon.measure.entry import Entry, Record

__all__ = ["BoughtPart", "FoundFace", "FoundHole", "Solid"]


class FoundHole(Record):
    """A round hole that was found in a shape: its axis from where it opens to where it ends, its diameter; mm, in the shape's own coordinates."""

    name: str = Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")
    opens: tuple[float, float, float]
    ends: tuple[float, float, float]
    across: float = Field(gt=0)
    through: bool = True
    outer: bool = Field(default=False, description="a pin, not a hole")


class FoundFace(Record):
    """A flat face that was found in a shape: a point on it, and the way that it looks."""

    name: str = Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")
    at: tuple[float, float, float]
    looks: tuple[float, float, float]


class Solid(Record):
    """A shape as it was read from a file: a mesh in (u, v, w) from its box's low corner, in mm, where it came from, and what was found in it.

    ``solids`` are how many faces each of its solids has, where it has several.
    """

    source: str = Field(max_length=120)
    size: tuple[float, float, float]
    positions: list[float] = Field(max_length=60_000)
    triangles: list[int] = Field(max_length=120_000)
    volume: float = Field(ge=0)
    solids: list[int] = Field(default_factory=list, max_length=500)
    holes: list[FoundHole] = Field(default_factory=list, max_length=200)
    faces: list[FoundFace] = Field(default_factory=list, max_length=200)


class BoughtPart(PlatePart):
    """Nothing is cut for it; holes in it are told, and joints and bores meet it as they meet a board."""

    kind: Literal["bought"] = "bought"
    made: Literal["bought", "turned", "printed"] = Field(
        default="bought", description="turned, printed: as a knob or a cap from another machine of the shop is"
    )
    stock: str = Field(default="", description="what it is made of, where it is of one of the stocks")
    price: float = Field(default=0.0, ge=0, description="of one")
    deep: Entry | None = Field(default=None, description="how thick it is itself, whatever its stock; said where it has none")
    mass: float | None = Field(default=None, ge=0, description="in g; from its stock's density where not said")
    solid: Solid | None = Field(default=None, description="its shape as it was read from a file")
    folding: ClassVar[None] = None
