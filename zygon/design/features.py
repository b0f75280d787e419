"""Records of features on a board's face, and of bores through several parts."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record

__all__ = ["Bore", "BoreThrough", "Feature", "From", "Spot"]

From = Literal["left", "right", "front", "back", "bottom", "top", "centre", "opening", "room"]
FaceName = Literal["left", "right", "front", "back", "bottom", "top"]


class Spot(Record):
    """A place along one axis: ``offset`` inward from an edge, or onward from the board's centre, from the centre of the
    opening that the neighbours leave, or in the room (there it may name other parts' faces)."""

    origin: From = "centre"
    offset: Entry = Entry(text="0")


class _Feature(Record):
    name: str = Field(default="", max_length=40)
    order: int = 0
    face: FaceName | None = Field(default=None, description="face it is on; the one that lies up where not said")
    u: Spot = Spot()
    v: Spot = Spot()


class Hole(_Feature):
    """A round hole, straight through or blind."""

    kind: Literal["hole"] = "hole"
    diameter: Entry
    depth: Entry | None = Field(default=None, description="of a blind hole; straight through where not said")


class EdgeHole(_Feature):
    """A blind hole square into an edge; ``u`` or ``v``, whichever runs along the edge, is its place there."""

    kind: Literal["edge_hole"] = "edge_hole"
    edge: FaceName
    diameter: Entry
    depth: Entry
    height: Entry | None = Field(default=None, description="from the face that lies down; the middle of the thickness where not said")


class PocketFeature(_Feature):
    """A rectangular pocket with corner radius."""

    kind: Literal["pocket"] = "pocket"
    width: Entry
    height: Entry
    depth: Entry
    radius: Entry = Entry(text="0")
    angle: Entry = Entry(text="0")


class GrooveFeature(_Feature):
    """A straight groove along u or v, from edge to edge where no length is said."""

    kind: Literal["groove"] = "groove"
    along: Literal["u", "v"] = "u"
    width: Entry
    depth: Entry
    length: Entry | None = None


class RebateFeature(_Feature):
    """A step along an edge, open at both ends or stopping short of them."""

    kind: Literal["rebate"] = "rebate"
    edge: FaceName
    width: Entry = Field(description="from the edge inward")
    depth: Entry = Field(description="from the face down")
    stop_low: Entry = Field(default=Entry(text="0"), description="how far before the low end it stops")
    stop_high: Entry = Field(default=Entry(text="0"), description="how far before the high end it stops")


class Slot(_Feature):
    """A slot with full-round ends; ``length`` over all."""

    kind: Literal["slot"] = "slot"
    length: Entry
    width: Entry
    angle: Entry = Entry(text="0")


class Rectangle(_Feature):
    """A rectangular cut-out with corner radius."""

    kind: Literal["rectangle"] = "rectangle"
    width: Entry
    height: Entry
    radius: Entry = Entry(text="0")
    angle: Entry = Entry(text="0")


class HandHold(_Feature):
    """A hand hold: a slot with full-round ends, sized for a hand."""

    kind: Literal["hand_hold"] = "hand_hold"
    length: Entry = Entry(text="100 mm")
    width: Entry = Entry(text="32 mm")


class MarkLine(_Feature):
    """An engraved line, centred on its place."""

    kind: Literal["mark_line"] = "mark_line"
    length: Entry
    angle: Entry = Entry(text="0")


class MarkCircle(_Feature):
    """An engraved circle."""

    kind: Literal["mark_circle"] = "mark_circle"
    diameter: Entry


class MarkText(_Feature):
    """Engraved single-line text, centred on its place."""

    kind: Literal["mark_text"] = "mark_text"
    text: str = Field(min_length=1, max_length=80)
    height: Entry = Entry(text="10 mm")


Feature = Annotated[
    Hole | EdgeHole | Slot | Rectangle | HandHold | PocketFeature | GrooveFeature | RebateFeature | MarkLine | MarkCircle | MarkText,
    Field(discriminator="kind"),
]


class BoreThrough(Record):
    """What a bore does to one part: cut, mark, or leave alone; ``fit`` is the hole minus the shaft."""

    action: Literal["cut", "mark", "leave"] = "cut"
    fit: Entry = Entry(text="0")


class Bore(Record):
    """A straight hole along an axis through several parts; ``at`` gives its place along the two other axes."""

    name: str = Field(min_length=1, max_length=40)
    order: int = 0
    axis: Literal["x", "y", "z"]
    at: dict[Literal["x", "y", "z"], Entry]
    diameter: Entry = Field(description="of the shaft or dowel")
    parts: dict[str, BoreThrough] = Field(default_factory=dict, description="by part key; parts not named are left alone")
