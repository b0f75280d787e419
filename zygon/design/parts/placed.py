"""What all parts have that lie in the room between places: a plane, a position across it, two spans within it, and what is worked into them."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zygon.design.features import Feature, From
from zygon.design.layout import Turn
from zygon.design.limits import MAX_FEATURES
from zygon.design.outlines import Outline
from zygon.design.parts.listed import Key, ListedPart
from zygon.geometry.frame import Plane
from zygon.measure.entry import Entry, Record

__all__ = ["Axis", "PlacedPart", "Position", "Span"]

Axis = Literal["x", "y", "z"]


class Span(Record):
    """From where to where a part runs along one axis."""

    low: Entry
    high: Entry


class Position(Record):
    """Where a part sits across its plane: this face of it, or its centre, at this place."""

    face: From
    at: Entry


class PlacedPart(ListedPart):
    """A part between places in the room."""

    stock: str
    plane: Plane
    position: Position
    spans: dict[Axis, Span]
    up: Literal["a", "b"] = Field(default="a", description="the face that lies up on the cutter")
    grain: Literal["free", "u", "v"] = Field(default="free", description="the part's direction that follows the sheet's grain")
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=MAX_FEATURES)
    aside: bool = Field(default=False, description="a test piece or jig that lies beside the design and takes no part in it")
    turns: dict[Key, Turn] = Field(default_factory=dict, max_length=4, description="out of its place at rest, one after the other")
    outline: Outline | None = Field(default=None, description="a rectangle where not said")
    loose: Literal["kept", "removed"] = Field(default="kept", description="removed: only the largest of several pieces is the part")
