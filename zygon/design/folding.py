"""Records of folded parts: flanges on the straight edges of a plate or of one another, their reliefs and corners, hems, offset bends, profiles, lines."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal, get_args

from pydantic import Field

from zygon.design.features import Feature
from zygon.drawn.drawing import Drawing
from zygon.limits import MAX_FLANGES
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.measure.key import Key

__all__ = [
    "CUT_EDGES",
    "FLANGE_RECORDS",
    "Corner",
    "CornerShape",
    "CornerStyle",
    "DrawnProfile",
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

_SIDE = "(left|right|front|back|bottom|top)"
#: Edges of the plate by their face words ('left', of several 'left_2', of one that slants 'left-front'), of a half also those at which it was cut; of a
#: flange its far edge and its two sides.
EdgeName = Annotated[str, Field(pattern=rf"^({_SIDE}(-{_SIDE})?(_[1-9][0-9]?)?|end|low|high|cut_low|cut_high)$")]
#: The edges at which a half was cut: on its low and on its high side along the axis of the split.
CUT_EDGES = ("cut_low", "cut_high")
CornerShape = Literal["round", "chamfer"]
CornerStyle = Literal["open", "closed", "a_covers", "b_covers"]
Measured = Literal["outer", "inner", "tangent"]
Where = Literal["outside", "inside", "edge"]

_AS_THE_PART = "as the part has it"
_SHAPES = {"round": "round", "chamfer": "chamfer"}
_MEASURED = {"outer": "to the outer sharp", "inner": "to the inner sharp", "tangent": "to the end of the bend"}
_WHERE = {"outside": "flush outside", "inside": "flush inside", "edge": "bend starts at the edge"}
_EXTENTS = {
    "whole": "the whole edge",
    "inset": "inset from both ends",
    "centred": "centred, of a width",
    "between": "between two places on the edge",
    "room": "between two places in the room",
}
_PARTLY: dict[str, tuple[str, ...]] = {"extent": ("inset", "centred", "between", "room")}


def _angle(**only: tuple[str, ...]) -> Any:
    return asked("Bent by", Entry(text="90 deg"), note="over 0 and under 180 degrees", kind="angle", only=only)


def _radius(**only: tuple[str, ...]) -> Any:
    return asked("Inside radius", None, note="the part's where not said", blank=_AS_THE_PART, only=only, place=1)


def _back() -> Any:
    note = "farther inside the edge, as a tab whose bend line lies back between slits"
    return asked("Farther in by", Entry(text="0"), note=note, place=6)


def _stands() -> Any:
    note = "flush with the edge by its outer or its inner face, or the bend starts at the edge"
    return asked("Stands", None, note=note, words=_WHERE, blank=_AS_THE_PART, place=3)


class Relief(Record):
    """What is cut beside a flange that ends inside an edge; ``depth`` is past the start of the bend."""

    title: ClassVar[str] = "Relief"

    style: Literal["rectangular", "round", "tear", "none"] = asked(
        "Reliefs", "rectangular", words={"rectangular": "rectangular", "round": "round-ended", "tear": "slit", "none": "none"}
    )
    width: Entry | None = asked("Relief width", None, blank="the thickness", only={"style": ("rectangular", "round")})
    depth: Entry | None = asked(
        "Past the bend by", None, note="past the start of the bend", blank="half the thickness", only={"style": ("rectangular", "round")}
    )


class _OnEdge(Record):
    #: What it is called where it is chosen; fields that a kind has and does not ask for.
    title: ClassVar[str] = ""
    unasked: ClassVar[tuple[str, ...]] = ()

    name: str = Field(default="", max_length=40)
    order: int = 0
    out: bool = Field(default=False, description="left out without being deleted, with all that stands on it")
    on: str = Field(default="", description="key of the flange that it stands on; the plate where not said")
    edge: EdgeName
    toward: Literal["a", "b"] = asked("Towards", "a", note="the face of the plate that it bends to", words={"a": "A", "b": "B"}, place=2)
    radius: Entry | None = _radius()
    extent: Literal["whole", "inset", "centred", "between", "room"] = asked(
        "Takes",
        "whole",
        note="inset: from both ends; centred: width and how far off the middle; between: two places from the low end; room: two places in the room",
        words=_EXTENTS,
        section="edge",
        # a flange of no width would be none
        brings={"centred": {"first": "30 mm"}, "between": {"second": "30 mm"}, "room": {"second": "30 mm"}},
    )
    first: Entry = asked(
        "From the LOW end",
        Entry(text="0"),
        section="edge",
        only=_PARTLY,
        labels={"centred": "Width", "between": "Begins, from the LOW end", "room": "From"},
    )
    second: Entry = asked(
        "From the HIGH end",
        Entry(text="0"),
        section="edge",
        only=_PARTLY,
        labels={"centred": "Off the middle, to the HIGH", "between": "Ends, from the LOW end", "room": "To"},
    )
    relief: Relief = Relief()
    mirrored: Literal["none", "u", "v"] = asked(
        "Halves", "none", note="stands once more on the other half, across the plate's u or v", among="halves", place=9
    )


class Gussets(Record):
    """Stiffeners pressed into a bend, spread evenly over its length."""

    title: ClassVar[str] = "Gussets"

    number: int = asked("Number", 2, ge=1, le=100)
    width: Entry = asked("Width", Entry(text="8 mm"))
    depth: Entry = asked("Reach", Entry(text="10 mm"), note="how far they reach from the inner sharp along both legs")


class Flange(_OnEdge):
    """A leg bent up from a straight edge."""

    title: ClassVar[str] = "flange"

    kind: Literal["flange"] = "flange"
    length: Entry = asked("Length", begin="25 mm")
    measured: Measured | None = asked(
        "Measured", None, note="over 90 degrees the sharps become tangents", words=_MEASURED, blank=_AS_THE_PART
    )
    angle: Entry = _angle()
    where: Where | None = _stands()
    back: Entry = _back()
    rounding: Entry | None = asked(
        "Its corners by", None, note="radius of its own free corners, or how far a chamfer reaches along them", blank=_AS_THE_PART, place=4
    )
    corner_shape: CornerShape | None = asked(
        "Taken off", None, note="how its own free corners are taken off", words=_SHAPES, blank=_AS_THE_PART, place=5
    )
    gussets: Gussets | None = None
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=100)


class Hem(_OnEdge):
    """An edge folded back on itself; its length is measured over all."""

    title: ClassVar[str] = "hem: folded back on itself"

    kind: Literal["hem"] = "hem"
    length: Entry = asked("Length", begin="10 mm")
    style: Literal["closed", "open", "teardrop"] = asked(
        "Style", "closed", words={"closed": "closed", "open": "open", "teardrop": "teardrop"}
    )
    gap: Entry = asked("Gap", Entry(text="0.1 mm"), note="left between the two sheets; of a teardrop at its tip")
    radius: Entry | None = _radius(style=("teardrop",))


class OffsetBend(_OnEdge):
    """Two opposite bends that step the sheet aside by a height, and the leg that goes on from there."""

    title: ClassVar[str] = "offset bend: steps aside"

    kind: Literal["offset"] = "offset"
    length: Entry = asked("Length after it", note="of the leg after the step", begin="25 mm")
    measured: Measured = asked(
        "Measured",
        "tangent",
        note="from the sharp of its second bend on the outer or the inner face, or from where that bend ends",
        words=_MEASURED,
    )
    made: Literal["bends", "tool"] = asked(
        "Made",
        "bends",
        note="bend by bend, or by the brake's offset tool, whose radius and angle it takes",
        words={"bends": "bend by bend", "tool": "by the offset tool"},
    )
    height: Entry = asked("Height", note="from a face of the sheet to the same face after the step", begin="8 mm")
    inset: Entry = asked("Begins inside by", Entry(text="0"), note="how far inside the edge its first bend begins")
    angle: Entry = _angle(made=("bends",))
    radius: Entry | None = _radius(made=("bends",))
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=100)


class ProfileLeg(Record):
    """One length of a profile's line and the bend before it; under 0 it bends the other way."""

    length: Entry
    angle: Entry = Entry(text="90 deg")
    radius: Entry | None = Field(default=None, description="inside radius of the bend before it; the profile's where not said")


class Profile(_OnEdge):
    """An open line of lengths and angles swept along an edge; on a plate alone it is a channel, hat, zed or sill."""

    title: ClassVar[str] = "profile: a line of bends"

    kind: Literal["profile"] = "profile"
    legs: list[ProfileLeg] = Field(min_length=1, max_length=40)
    measured: Literal["outer", "inner", "tangent", "face_a", "face_b"] | None = asked(
        "Lengths run",
        None,
        note="what its lengths run to; along a face the line lies on that face and the thickness on its other side",
        words={
            "outer": "to the outer sharps",
            "inner": "to the inner sharps",
            "tangent": "to the ends of the bends",
            "face_a": "along face A, thickness behind it",
            "face_b": "along face B, thickness behind it",
        },
        blank=_AS_THE_PART,
    )
    where: Where | None = _stands()
    back: Entry = _back()
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=100, description="on its last length")


class DrawnProfile(_OnEdge):
    """An open line drawn freely, square to the edge, that lies on one face of the sheet: its corners and its arcs are the bends.

    Where no arc is drawn in a corner, it is bent by ``radius``. What it is drawn towards says to which face it bends.
    """

    title: ClassVar[str] = "drawn profile: a line drawn freely"
    unasked: ClassVar[tuple[str, ...]] = ("toward",)

    kind: Literal["drawn"] = "drawn"
    lies: Literal["a", "b"] = asked(
        "The line is",
        "a",
        note="the face of the sheet that is drawn; its thickness lies on the other side",
        words={"a": "face A", "b": "face B"},
        place=2,
    )
    drawing: Drawing = Drawing()
    features: dict[Key, Feature] = Field(default_factory=dict, max_length=100, description="on its last length")


class LineBend(_OnEdge):
    """A flat piece bent later: a line across it, parallel to an edge, turns it into a bend; the flat stays as it is."""

    title: ClassVar[str] = "bend line across what is flat"
    unasked: ClassVar[tuple[str, ...]] = ("extent", "first", "second")

    kind: Literal["line"] = "line"
    at: Entry = asked("From the edge", note="from the edge to the bend line", begin="40 mm")
    angle: Entry = _angle()


FlangeKind = Annotated[Flange | Hem | OffsetBend | Profile | DrawnProfile | LineBend, Field(discriminator="kind")]
#: The record of each kind, in the order in which they are offered.
FLANGE_RECORDS: dict[str, type[_OnEdge]] = {r.model_fields["kind"].default: r for r in get_args(get_args(FlangeKind)[0])}


#: How two flanges meet, said of the first and the next.
CORNER_WORDS = {
    "closed": "closed, with a gap",
    "open": "open",
    "a_covers": "the first covers the next",
    "b_covers": "the next covers the first",
}


class Corner(Record):
    """How two flanges on neighbouring edges meet; what stands on their far edges follows with mitres."""

    title: ClassVar[str] = "Corners"

    a: str = Field(description="flange key")
    b: str = Field(description="flange key")
    style: CornerStyle = asked("How", "closed", words={**CORNER_WORDS, "a_covers": "A", "b_covers": "B"})
    gap: Entry = asked("Gap there", Entry(text="0.2 mm"), only={"style": ("closed", "a_covers", "b_covers")})


class Split(Record):
    """Which part of a whole a half is: what lies between two places along an axis of its plate."""

    axis: Literal["x", "y", "z"]
    low: Entry | None = Field(default=None, description="where it begins; with the whole where not said")
    high: Entry | None = Field(default=None, description="where it ends; with the whole where not said")


class Folding(Record):
    """What makes a board a folded part: a plate with flanges, bent from one sheet. ``sizes`` says whether the board's spans are the outer or the inner ones."""

    title: ClassVar[str] = "Bends"

    radius: Entry | None = asked("Inside radius", None, note="of its bends", blank="as the stock says")
    sizes: Literal["outside", "inside"] = asked(
        "Sizes are",
        "outside",
        note="the plate's from flange to flange and the flanges' lengths, where a flange does not say otherwise",
        words={"outside": "outside sizes", "inside": "inside sizes"},
    )
    flanges: dict[Key, FlangeKind] = Field(default_factory=dict, max_length=MAX_FLANGES)
    corners: dict[Key, Corner] = Field(default_factory=dict, max_length=MAX_FLANGES)
    corner: CornerStyle = asked("Corners", "closed", note="how neighbouring flanges meet where nothing else is said", words=CORNER_WORDS)
    gap: Entry = asked("Gap in corners", Entry(text="0.2 mm"), only={"corner": ("closed", "a_covers", "b_covers")})
    rounding: Entry | None = asked(
        "Sharp corners by",
        None,
        note="radius of every exposed sharp corner, or how far a chamfer reaches along its sides",
        blank="left sharp",
    )
    corner_shape: CornerShape = asked("Taken off", "round", note="how exposed corners are taken off", words=_SHAPES)
    crossing: Literal["none", "round", "square"] = asked(
        "Where bends meet",
        "none",
        note="what is cut out where two bends meet in a corner of the plate",
        words={"none": "nothing is cut out", "round": "a round relief", "square": "a square relief"},
        section="crossing",
    )
    crossing_size: Entry | None = asked(
        "Its diameter",
        None,
        note="its diameter or side",
        blank="twice the thickness",
        section="crossing",
        only={"crossing": ("round", "square")},
        labels={"square": "Its side"},
    )
    split: Split | None = Field(default=None, description="the whole is folded, and of it this half is kept")
    sequence: list[str] = Field(
        default_factory=list,
        max_length=2 * MAX_FLANGES,
        description="bends in the order in which they are done, by hand; as found where empty",
    )

    def stands(self, flange: Flange | Profile) -> Where:
        """How a flange stands to the edge that it bends up from."""
        return flange.where or self.sizes

    def measured(self, flange: Flange | Profile) -> str:
        """What the lengths of a flange run to."""
        return flange.measured or {"outside": "outer", "inside": "inner"}[self.sizes]
