"""Records of folded parts: flanges on the straight edges of a plate or of one another, their reliefs and corners, hems, offset bends, profiles, lines."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zygon.design.features import Feature
from zygon.design.limits import MAX_FLANGES
from zygon.measure.entry import Entry, Record

__all__ = [
    "CUT_EDGES",
    "Corner",
    "CornerShape",
    "CornerStyle",
    "Flange",
    "FlangeKind",
    "Folding",
    "Gussets",
    "Hem",
    "LineBend",
    "OffsetBend",
    "Profile",
    "ProfileLeg",
    "Relief",
    "Split",
]

Key = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]
#: Edges of the plate by their face words, of a half also those at which it was cut; of a flange its far edge and its two sides.
EdgeName = Literal["left", "right", "front", "back", "bottom", "top", "end", "low", "high", "cut_low", "cut_high"]
#: The edges at which a half was cut: on its low and on its high side along the axis of the split.
CUT_EDGES = ("cut_low", "cut_high")
CornerShape = Literal["round", "chamfer"]
CornerStyle = Literal["open", "closed", "a_covers", "b_covers"]


class Relief(Record):
    """What is cut beside a flange that ends inside an edge; ``depth`` is past the start of the bend."""

    style: Literal["rectangular", "round", "tear", "none"] = "rectangular"
    width: Entry | None = Field(default=None, description="the thickness where not said")
    depth: Entry | None = Field(default=None, description="past the start of the bend; half the thickness where not said")


class _OnEdge(Record):
    name: str = Field(default="", max_length=40)
    order: int = 0
    out: bool = Field(default=False, description="left out without being deleted, with all that stands on it")
    on: str = Field(default="", description="key of the flange that it stands on; the plate where not said")
    edge: EdgeName
    toward: Literal["a", "b"] = Field(default="a", description="the face of the plate that it bends to")
    radius: Entry | None = Field(default=None, description="inside; the part's where not said")
    extent: Literal["whole", "inset", "centred", "between", "room"] = Field(
        default="whole",
        description="inset: from both ends; centred: width and how far off the middle; between: two places from the low end; room: two places in the room",
    )
    first: Entry = Entry(text="0")
    second: Entry = Entry(text="0")
    relief: Relief = Relief()
    mirrored: Literal["none", "u", "v"] = Field(default="none", description="stands once more on the other half, across the plate's u or v")


class Gussets(Record):
    """Stiffeners pressed into a bend, spread evenly over its length."""

    number: int = Field(default=2, ge=1, le=100)
    width: Entry = Entry(text="8 mm")
    depth: Entry = Field(default=Entry(text="10 mm"), description="how far they reach from the inner sharp along both legs")


class Flange(_OnEdge):
    """A leg bent up from a straight edge."""

    kind: Literal["flange"] = "flange"
    length: Entry
    measured: Literal["outer", "inner", "tangent"] = Field(default="outer", description="over 90 degrees the sharps become tangents")
    angle: Entry = Field(default=Entry(text="90 deg"), description="of the bend: over 0 and under 180 degrees")
    where: Literal["outside", "inside", "edge"] = Field(
        default="outside", description="flush with the edge by its outer or its inner face, or the bend starts at the edge"
    )
    rounding: Entry | None = Field(
        default=None, description="radius of its own free corners, or how far a chamfer reaches along them; the part's where not said"
    )
    corner_shape: CornerShape | None = Field(default=None, description="how its own free corners are taken off; the part's where not said")
    gussets: Gussets | None = None
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=100)


class Hem(_OnEdge):
    """An edge folded back on itself; its length is measured over all."""

    kind: Literal["hem"] = "hem"
    style: Literal["closed", "open", "teardrop"] = "closed"
    length: Entry
    gap: Entry = Field(default=Entry(text="0.1 mm"), description="left between the two sheets; of a teardrop at its tip")


class OffsetBend(_OnEdge):
    """Two opposite bends that step the sheet aside by a height, and the leg that goes on from there."""

    kind: Literal["offset"] = "offset"
    made: Literal["bends", "tool"] = Field(
        default="bends", description="bend by bend, or by the brake's offset tool, whose radius and angle it takes"
    )
    height: Entry = Field(description="from a face of the sheet to the same face after the step")
    inset: Entry = Field(default=Entry(text="0"), description="how far inside the edge its first bend begins")
    angle: Entry = Entry(text="90 deg")
    length: Entry = Field(description="of the leg after the step")
    measured: Literal["outer", "inner", "tangent"] = Field(
        default="tangent", description="from the sharp of its second bend on the outer or the inner face, or from where that bend ends"
    )
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=100)


class ProfileLeg(Record):
    """One length of a profile's line and the bend before it; under 0 it bends the other way."""

    length: Entry
    angle: Entry = Entry(text="90 deg")


class Profile(_OnEdge):
    """An open line of lengths and angles swept along an edge; on a plate alone it is a channel, hat, zed or sill."""

    kind: Literal["profile"] = "profile"
    legs: list[ProfileLeg] = Field(min_length=1, max_length=40)
    measured: Literal["outer", "inner", "tangent", "face_a", "face_b"] = Field(
        default="outer", description="what its lengths run to; along a face the line lies on that face and the thickness on its other side"
    )
    where: Literal["outside", "inside", "edge"] = "outside"
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=100, description="on its last length")


class LineBend(_OnEdge):
    """A flat piece bent later: a line across it, parallel to an edge, turns it into a bend; the flat stays as it is."""

    kind: Literal["line"] = "line"
    at: Entry = Field(description="from the edge to the bend line")
    angle: Entry = Entry(text="90 deg")


FlangeKind = Annotated[Flange | Hem | OffsetBend | Profile | LineBend, Field(discriminator="kind")]


class Corner(Record):
    """How two flanges on neighbouring edges meet; what stands on their far edges follows with mitres."""

    a: str = Field(description="flange key")
    b: str = Field(description="flange key")
    style: CornerStyle = "closed"
    gap: Entry = Entry(text="0.2 mm")


class Split(Record):
    """Which part of a whole a half is: what lies between two places along an axis of its plate."""

    axis: Literal["x", "y", "z"]
    low: Entry | None = Field(default=None, description="where it begins; with the whole where not said")
    high: Entry | None = Field(default=None, description="where it ends; with the whole where not said")


class Folding(Record):
    """What makes a board a folded part: a plate with flanges, bent from one sheet. The board's spans are the plate's outer sizes."""

    radius: Entry | None = Field(default=None, description="inside radius of its bends; the stock's where not said")
    flanges: dict[Key, FlangeKind] = Field(default_factory=dict, max_length=MAX_FLANGES)
    corners: dict[Key, Corner] = Field(default_factory=dict, max_length=MAX_FLANGES)
    corner: CornerStyle = Field(default="closed", description="how neighbouring flanges meet where nothing else is said")
    gap: Entry = Field(default=Entry(text="0.2 mm"), description="left in closed corners")
    crossing: Literal["none", "round", "square"] = Field(
        default="none", description="what is cut out where two bends meet in a corner of the plate"
    )
    crossing_size: Entry | None = Field(default=None, description="its diameter or side; twice the thickness where not said")
    rounding: Entry | None = Field(
        default=None, description="radius of every exposed sharp corner, or how far a chamfer reaches along its sides"
    )
    corner_shape: CornerShape = Field(default="round", description="how exposed corners are taken off")
    split: Split | None = Field(default=None, description="the whole is folded, and of it this half is kept")
    sequence: list[str] = Field(
        default_factory=list,
        max_length=2 * MAX_FLANGES,
        description="bends in the order in which they are done, by hand; as found where empty",
    )
