"""Records of features on a board's face, and of bores through several parts."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record

__all__ = ["Bore", "BoreThrough", "Feature", "From", "Spot"]

From = Literal["left", "right", "front", "back", "bottom", "top", "centre", "opening", "room", "low", "high", "root", "end"]
FaceName = Literal["left", "right", "front", "back", "bottom", "top"]


class Spot(Record):
    """A place along one axis: ``offset`` inward from an edge, or onward from the board's centre, from the centre of the
    opening that the neighbours leave, or in the room (there it may name other parts' faces)."""

    origin: From = "centre"
    offset: Entry = Entry(text="0")


class _Feature(Record):
    name: str = Field(default="", max_length=40)
    order: int = 0
    out: bool = Field(default=False, description="left out without being deleted")
    face: FaceName | None = Field(default=None, description="face it is on; the one that lies up where not said")
    u: Spot = Spot()
    v: Spot = Spot()
    mirrored: Literal["none", "u", "v", "both"] = Field(
        default="none", description="there once more on the other half, across the board's u or v"
    )


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


class Perforation(_Feature):
    """A field of holes that fills a rectangle or a circle, square or staggered, in from its outline by an edge distance."""

    kind: Literal["perforation"] = "perforation"
    field: Literal["rectangle", "round"] = Field(default="rectangle", description="a round one has its width as diameter")
    width: Entry
    height: Entry = Entry(text="40 mm")
    hole: Literal["round", "square"] = "round"
    diameter: Entry = Field(description="of a hole, or its side")
    pitch: Entry = Field(description="from hole to hole; staggered rows stand at 60 degrees")
    pattern: Literal["square", "staggered"] = "staggered"
    edge_distance: Entry = Field(default=Entry(text="0"), description="least from the field's outline to a hole")


class FanOpening(_Feature):
    """A fan's opening with its four screw holes on a square."""

    kind: Literal["fan"] = "fan"
    opening: Entry = Field(description="diameter")
    pitch: Entry = Field(description="between screw holes, along the side")
    diameter: Entry = Field(description="of a screw hole")


class CornerFeature(_Feature):
    """A corner of the outline, or all of them, cut off straight, rounded, hollowed, or stepped back."""

    kind: Literal["corner"] = "corner"
    corner: str = Field(default="all", pattern=r"^(all|[a-z]+-[a-z]+)$", description="the two edges that meet there ('left-top'), or all")
    style: Literal["round", "cut", "hollow", "step"] = "round"
    size: Entry = Field(description="radius, or length along the first edge")
    size_2: Entry | None = Field(default=None, description="along the second edge, of a cut or stepped corner; the same where not said")


class TaperFeature(_Feature):
    """A slanting edge: what is taken off at its low and at its high end."""

    kind: Literal["taper"] = "taper"
    edge: FaceName
    low: Entry = Entry(text="0")
    high: Entry = Entry(text="0")


class EdgeCurve(_Feature):
    """An edge that is an arc from end to end, hollow or crowned by its rise."""

    kind: Literal["edge_curve"] = "edge_curve"
    edge: FaceName
    rise: Entry
    bulge: Literal["in", "out"] = "in"


class EdgeNotch(_Feature):
    """A notch in an edge; ``u`` or ``v``, whichever runs along the edge, is its place there."""

    kind: Literal["edge_notch"] = "edge_notch"
    edge: FaceName
    shape: Literal["square", "round", "vee"] = "square"
    width: Entry
    depth: Entry
    radius: Entry = Field(default=Entry(text="0"), description="of a square notch's inner corners")


class TrimFeature(_Feature):
    """Everything on one side of a plane in the room is cut off, at whatever angle the board stands to it."""

    kind: Literal["trim"] = "trim"
    axis: Literal["x", "y", "z"] = Field(default="z", description="the plane lies square to it")
    at: Entry
    side: Literal["low", "high"] = Field(default="low", description="the side that is cut off")


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
    Hole
    | EdgeHole
    | Slot
    | Rectangle
    | HandHold
    | Perforation
    | FanOpening
    | PocketFeature
    | GrooveFeature
    | RebateFeature
    | CornerFeature
    | TaperFeature
    | EdgeCurve
    | EdgeNotch
    | TrimFeature
    | MarkLine
    | MarkCircle
    | MarkText,
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
    out: bool = Field(default=False, description="left out without being deleted")
    axis: Literal["x", "y", "z"]
    at: dict[Literal["x", "y", "z"], Entry]
    diameter: Entry = Field(description="of the shaft or dowel")
    low: Entry | None = Field(default=None, description="where it begins along its axis; it runs all the way where not said")
    high: Entry | None = Field(default=None, description="where it ends along its axis")
    parts: dict[str, BoreThrough] = Field(default_factory=dict, description="by part key; parts not named are left alone")
