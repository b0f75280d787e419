"""What all parts have that lie in a plane: a position across it, two spans within it, and what is worked into them."""

from __future__ import annotations

from typing import Any, ClassVar, Literal

from pydantic import Field

from zygon.design.features import Feature, From
from zygon.design.outlines import Outline
from zygon.design.parts.listed import Key
from zygon.design.parts.placed import Axis, End, PlacedPart, Span
from zygon.geometry.frame import FACES, Plane, frame_of
from zygon.limits import MAX_FEATURES
from zygon.measure.entry import Entry, Record

__all__ = ["PlatePart", "Position"]


class Position(Record):
    """Where a part sits across its plane: this face of it, or its centre, at this place."""

    face: From
    at: Entry


class PlatePart(PlacedPart):
    """A part in a plane."""

    cut_from: ClassVar[str] = "sheet"

    plane: Plane
    position: Position
    spans: dict[Axis, Span]
    up: Literal["a", "b"] = Field(default="a", description="the face that lies up on the cutter")
    grain: Literal["free", "u", "v"] = Field(default="free", description="the part's direction that follows the sheet's grain")
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=MAX_FEATURES)
    outline: Outline | None = Field(default=None, description="a rectangle where not said")
    loose: Literal["kept", "removed"] = Field(default="kept", description="removed: only the largest of several pieces is the part")

    def ends(self) -> list[End]:
        """Both ends of each span, and the place of its position."""
        found = []
        for axis, span in self.spans.items():
            low, high = FACES[axis]
            found += [End(axis, "low", span.low, ("spans", axis, "low"), low), End(axis, "high", span.high, ("spans", axis, "high"), high)]
        return [*found, End(frame_of(self.plane).normal, "at", self.position.at, ("position", "at"), self.position.face)]

    def own_fault(self) -> tuple[str, Any, str] | None:
        """Its spans run along the two axes of its plane."""
        frame = frame_of(self.plane)
        if set(self.spans) == {frame.u, frame.v}:
            return None
        return "spans", sorted(self.spans), f"a board that is {self.plane.replace('_', ' ')} has spans along {frame.u} and {frame.v}"
