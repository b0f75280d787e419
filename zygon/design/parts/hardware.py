"""A piece of hardware that lies in the design by itself: a hinge, a slide, a foot, a magnet, a bearing, or a body read from a file."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar, Literal

from pydantic import Field

from zygon.design.parts.bought import Solid
from zygon.design.parts.listed import Key
from zygon.design.parts.placed import Axis, End, PlacedPart, Work
from zygon.measure.entry import Entry

__all__ = ["HardwarePart", "Way"]

#: A direction along an axis of the room, before the part is turned.
Way = Literal["+x", "-x", "+y", "-y", "+z", "-z"]
AXES: tuple[Axis, ...] = ("x", "y", "z")


class HardwarePart(PlacedPart):
    """Its w ``looks`` and its u lies ``along`` axes of the room; ``at`` says where its origin, or what ``by`` names of it, lies along each."""

    kind: Literal["hardware"] = "hardware"
    cut_from: ClassVar[str] = "none"
    declines: ClassVar[Mapping[Work, str]] = {
        "joint": "a joint is between parts that lie in a plane",
        "bore": "hardware has its own holes; a bore takes them over",
        "trace": "what is traced lies in a plane",
    }
    deep: ClassVar[None] = None
    stock: str = Field(default="", max_length=0)
    made: Literal["bought", "turned", "printed"] = "bought"
    price: float = Field(default=0.0, ge=0, description="of one")
    mass: float | None = Field(default=None, ge=0, description="in g; from its body where not said")
    designation: str = Field(default="", max_length=60, description="of a piece of the catalogue; '' for a shape read from a file")
    shape: Solid | None = Field(default=None, description="as it was read from a file")
    looks: Way = "+z"
    along: Way = "+x"
    at: dict[Axis, Entry]
    by: dict[Axis, str] = Field(
        default_factory=dict,
        description="what of it lies there: a face's word, centre, a hole or face found in it; its origin where not said",
    )
    moved: Entry | None = Field(
        default=None, description="how far it is open (an angle) or drawn out (a length); as it is drawn where not said"
    )
    on: dict[Key, Key] = Field(default_factory=dict, max_length=4, description="what each of its leaves lies on, by part key")
    let_in: Entry | None = Field(default=None, description="how deep it is let in there")
    fit: Entry | None = Field(default=None, description="how much wider than it the room is that it is let into")

    def ends(self) -> list[End]:
        """One place along each axis."""
        return [End(axis, "at", entry, ("at", axis), self.by.get(axis, "origin")) for axis, entry in self.at.items()]

    def own_fault(self) -> tuple[str, Any, str] | None:
        """It has a place along each axis, is one thing, and stands square."""
        if set(self.at) != set(AXES):
            return "at", sorted(self.at), "hardware has a place along each axis"
        if self.looks[1] == self.along[1]:
            return "along", self.along, f"what looks {self.looks} lies along one of the two other axes"
        if bool(self.designation) == (self.shape is not None):
            return "designation", self.designation, "it is a piece of the catalogue, or a shape read from a file"
        return None
