"""Records of features on a board's face, and of bores through several parts."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal, get_args

from pydantic import Field

from zygon.design.hardware import HardwareSet
from zygon.design.layout import AXIS_WORDS
from zygon.drawn.drawing import Drawing, DrawnCircle, DrawnPoint
from zygon.limits import MAX_COPIES
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record

__all__ = ["FEATURE_RECORDS", "Bore", "BoreRow", "BoreThrough", "Feature", "From", "Placed", "Spot"]

From = Literal["left", "right", "front", "back", "bottom", "top", "centre", "opening", "room", "low", "high", "root", "end"]
FaceName = Literal["left", "right", "front", "back", "bottom", "top"]


#: Where it has a place of its own: along both ways of the board, along its edge, across the way that it runs (both ways once it has a
#: length), or nowhere.
Placed = Literal["free", "along_edge", "across_way", "none"]


def _turned() -> Any:
    return asked("Turned by", Entry(text="0"), kind="angle", begin="0 deg")


class Spot(Record):
    """A place along one axis: ``offset`` inward from an edge, or onward from the board's centre, from the centre of the
    opening that the neighbours leave, or in the room (there it may name other parts' faces)."""

    origin: From = "centre"
    offset: Entry = Entry(text="0")


class _Feature(Record):
    #: What it is called on a card, and in the middle of a sentence.
    title: ClassVar[str] = ""
    word: ClassVar[str] = ""
    placed: ClassVar[Placed] = "free"
    #: May be there once more on the other half; lies on one of the two faces; may be cut into a flange.
    mirrors: ClassVar[bool] = True
    faced: ClassVar[bool] = True
    in_metal: ClassVar[bool] = False

    name: str = Field(default="", max_length=40)
    order: int = 0
    out: bool = Field(default=False, description="left out without being deleted")
    face: FaceName | None = Field(default=None, description="face it is on; the one that lies up where not said")
    u: Spot = Spot()
    v: Spot = Spot()
    mirrored: Literal["none", "u", "v", "both"] = Field(
        default="none", description="there once more on the other half, across the board's u or v"
    )


def _repeated(title: str, note: str, *, blank: str, kind: Any = "length") -> Any:
    return asked(title, None, note=note, kind=kind, blank=blank, section="rows", place=9)


class _InRows(_Feature):
    """May be there many times: in a row, and in rows beside each other. It begins at its place and goes on inward; from a centre it is spread about it."""

    number: Entry | None = _repeated("How many, UWAY", "in a row, which begins at its place", kind="count", blank="one")
    spacing: Entry | None = _repeated("Spacing there", "from one to the next", blank="none")
    rows: Entry | None = _repeated("Rows, VWAY", "of such rows, beside each other", kind="count", blank="one")
    apart: Entry | None = _repeated("Rows apart by", "from one row to the next", blank="none")


class _InARow(_Feature):
    """May be there many times along its edge."""

    number: Entry | None = _repeated(
        "How many, LOW to HIGH", "in a row along the edge, which begins at its place", kind="count", blank="one"
    )
    spacing: Entry | None = _repeated("Spacing", "from one to the next", blank="none")


class _OnOutline(_Feature):
    """What changes the outline itself."""

    placed: ClassVar[Placed] = "none"
    mirrors: ClassVar[bool] = False
    faced: ClassVar[bool] = False


class Hole(_InRows):
    """A round hole, straight through or blind."""

    title: ClassVar[str] = "Hole"
    word: ClassVar[str] = "hole"
    in_metal: ClassVar[bool] = True

    kind: Literal["hole"] = "hole"
    diameter: Entry = asked("Diameter", begin="20 mm", small="5 mm")
    depth: Entry | None = asked("Depth", None, note="of a blind hole; straight through where not said", blank="straight through")


class EdgeHole(_OnOutline, _InARow):
    """A blind hole square into an edge; ``u`` or ``v``, whichever runs along the edge, is its place there."""

    title: ClassVar[str] = "Hole in an edge"
    word: ClassVar[str] = "hole in its edge"
    placed: ClassVar[Placed] = "along_edge"

    kind: Literal["edge_hole"] = "edge_hole"
    edge: FaceName = asked("In its", among="edge")
    diameter: Entry = asked("Diameter", begin="6 mm")
    depth: Entry = asked("Depth", begin="20 mm")
    height: Entry | None = asked(
        "Height in the edge", None, note="from the face that lies down; the middle of the thickness where not said", blank="middle"
    )


class Slot(_InRows):
    """A slot with full-round ends; ``length`` over all."""

    title: ClassVar[str] = "Slot"
    word: ClassVar[str] = "slot"
    in_metal: ClassVar[bool] = True

    kind: Literal["slot"] = "slot"
    length: Entry = asked("Length, over all", begin="80 mm")
    width: Entry = asked("Width", begin="20 mm")
    angle: Entry = _turned()


class Rectangle(_InRows):
    """A rectangular cut-out with corner radius."""

    title: ClassVar[str] = "Rectangle"
    word: ClassVar[str] = "cut-out"
    in_metal: ClassVar[bool] = True

    kind: Literal["rectangle"] = "rectangle"
    width: Entry = asked("Width", begin="20 mm")
    height: Entry = asked("Height", begin="20 mm")
    radius: Entry = asked("Corner radius", Entry(text="0"), begin="3 mm")
    angle: Entry = _turned()


class HandHold(_InRows):
    """A hand hold: a slot with full-round ends, sized for a hand."""

    title: ClassVar[str] = "Hand hold"
    word: ClassVar[str] = "hand hold"
    in_metal: ClassVar[bool] = True

    kind: Literal["hand_hold"] = "hand_hold"
    length: Entry = asked("Length, over all", Entry(text="100 mm"))
    width: Entry = asked("Width", Entry(text="32 mm"))


class Perforation(_Feature):
    """A field of holes that fills a rectangle or a circle, square or staggered, in from its outline by an edge distance."""

    title: ClassVar[str] = "Perforation"
    word: ClassVar[str] = "perforation"
    in_metal: ClassVar[bool] = True

    kind: Literal["perforation"] = "perforation"
    pattern: Literal["staggered", "square"] = asked("Rows", "staggered", words={"staggered": "staggered by 60°", "square": "square"})
    field: Literal["rectangle", "round"] = asked(
        "Fills",
        "rectangle",
        note="a round one has its width as diameter",
        words={"rectangle": "a rectangle", "round": "a circle of its width"},
    )
    hole: Literal["round", "square"] = asked("Holes", "round", words={"round": "round", "square": "square"})
    width: Entry = asked("Field's width", begin="80 mm")
    height: Entry = asked("Field's height", Entry(text="40 mm"))
    diameter: Entry = asked("Hole", note="of a hole, or its side", begin="5 mm")
    pitch: Entry = asked("Pitch", note="from hole to hole; staggered rows stand at 60 degrees", begin="8 mm")
    edge_distance: Entry = asked("Edge to a hole", Entry(text="0"), note="least from the field's outline to a hole")


class FanOpening(_InRows):
    """A fan's opening with its four screw holes on a square."""

    title: ClassVar[str] = "Fan opening"
    word: ClassVar[str] = "fan opening"
    in_metal: ClassVar[bool] = True

    kind: Literal["fan"] = "fan"
    opening: Entry = asked("Opening", note="diameter", begin="76 mm")
    pitch: Entry = asked("Between screws", note="between screw holes, along the side", begin="71.5 mm")
    diameter: Entry = asked("Screw hole", note="of a screw hole", begin="4.5 mm")


class PocketFeature(_InRows):
    """A rectangular pocket with corner radius."""

    title: ClassVar[str] = "Pocket"
    word: ClassVar[str] = "pocket"

    kind: Literal["pocket"] = "pocket"
    width: Entry = asked("Width", begin="60 mm")
    height: Entry = asked("Height", begin="30 mm")
    depth: Entry = asked("Depth", begin="5 mm")
    radius: Entry = asked("Corner radius", Entry(text="0"), begin="3 mm")
    angle: Entry = _turned()


#: What a shape begins with: a circle of 20 mm near the board's low corner.
ROUND = Drawing(points={"p1": DrawnPoint(x=40.0, y=40.0)}, curves={"circle1": DrawnCircle(centre="p1", radius=10.0)})


class ShapeFeature(_Feature):
    """A cut-out, a pocket or a mark drawn by lines, arcs and relations, from the board's low corner."""

    title: ClassVar[str] = "Shape drawn freely"
    word: ClassVar[str] = "shape"
    placed: ClassVar[Placed] = "none"

    kind: Literal["shape"] = "shape"
    does: Literal["cut", "pocket", "mark"] = asked(
        "What it does", "cut", words={"cut": "cut out", "pocket": "a pocket", "mark": "engraved"}
    )
    depth: Entry = asked("Depth", Entry(text="3 mm"), only={"does": ("pocket",)})
    drawing: Drawing = Field(default=ROUND, description="a circle to begin with")


class GrooveFeature(_InRows):
    """A straight groove along u or v, from edge to edge where no length is said."""

    title: ClassVar[str] = "Groove"
    word: ClassVar[str] = "groove"
    placed: ClassVar[Placed] = "across_way"

    kind: Literal["groove"] = "groove"
    along: Literal["u", "v"] = asked("Runs", "u", among="way")
    width: Entry = asked("Width", begin="6 mm")
    depth: Entry = asked("Depth", begin="5 mm")
    length: Entry | None = asked("Length", None, blank="edge to edge")


class RebateFeature(_Feature):
    """A step along an edge, open at both ends or stopping short of them."""

    title: ClassVar[str] = "Rebate along an edge"
    word: ClassVar[str] = "rebate"
    placed: ClassVar[Placed] = "none"
    mirrors: ClassVar[bool] = False

    kind: Literal["rebate"] = "rebate"
    edge: FaceName = asked("In its", among="edge")
    width: Entry = asked("Width from the edge", note="from the edge inward", begin="10 mm")
    depth: Entry = asked("Depth", note="from the face down", begin="5 mm")
    stop_low: Entry = asked("Stops before LOW by", Entry(text="0"), note="how far before the low end it stops")
    stop_high: Entry = asked("Stops before HIGH by", Entry(text="0"), note="how far before the high end it stops")


class CornerFeature(_OnOutline):
    """A corner of the outline, or all of them, cut off straight, rounded, hollowed, or stepped back."""

    title: ClassVar[str] = "Corner, rounded or cut"
    word: ClassVar[str] = "corner"

    kind: Literal["corner"] = "corner"
    corner: str = asked(
        "Which", "all", note="the two edges that meet there ('left-top'), or all", among="corner", pattern=r"^(all|[a-z]+-[a-z]+)$"
    )
    style: Literal["round", "cut", "hollow", "step"] = asked(
        "How", "round", words={"round": "rounded", "cut": "cut off straight", "hollow": "hollowed", "step": "stepped back"}
    )
    size: Entry = asked("Radius or length", note="radius, or length along the first edge", begin="20 mm")
    size_2: Entry | None = asked(
        "Other length", None, note="along the second edge, of a cut or stepped corner; the same where not said", blank="the same"
    )


class TaperFeature(_OnOutline):
    """A slanting edge: what is taken off at its low and at its high end."""

    title: ClassVar[str] = "Slanting edge"
    word: ClassVar[str] = "slanting edge"

    kind: Literal["taper"] = "taper"
    edge: FaceName = asked("Which", among="edge")
    low: Entry = asked("Off at its LOW end", Entry(text="0"))
    high: Entry = asked("Off at its HIGH end", Entry(text="0"), begin="20 mm")


class EdgeCurve(_OnOutline):
    """An edge that is an arc from end to end, hollow or crowned by its rise."""

    title: ClassVar[str] = "Curved edge"
    word: ClassVar[str] = "curved edge"

    kind: Literal["edge_curve"] = "edge_curve"
    edge: FaceName = asked("Which", among="edge")
    bulge: Literal["in", "out"] = asked("How", "in", words={"in": "hollow", "out": "crowned"})
    rise: Entry = asked("Rise of the arc", begin="15 mm")


class EdgeNotch(_OnOutline, _InARow):
    """A notch in an edge; ``u`` or ``v``, whichever runs along the edge, is its place there."""

    title: ClassVar[str] = "Notch in an edge"
    word: ClassVar[str] = "notch"
    placed: ClassVar[Placed] = "along_edge"

    kind: Literal["edge_notch"] = "edge_notch"
    edge: FaceName = asked("In its", among="edge")
    shape: Literal["square", "round", "vee"] = asked("Shape", "square", words={"square": "square", "round": "round", "vee": "vee"})
    width: Entry = asked("Width", begin="30 mm")
    depth: Entry = asked("Depth", begin="15 mm")
    radius: Entry = asked("Corner radius", Entry(text="0"), note="of a square notch's inner corners")


class TrimFeature(_OnOutline):
    """Everything on one side of a plane in the room is cut off, at whatever angle the board stands to it."""

    title: ClassVar[str] = "Trim by a plane"
    word: ClassVar[str] = "trimmed edge"

    kind: Literal["trim"] = "trim"
    axis: Literal["x", "y", "z"] = asked("Plane across", "z", note="the plane lies square to it", words=AXIS_WORDS)
    side: Literal["low", "high"] = asked(
        "Cuts off", "low", note="the side that is cut off", words={"low": "the low side", "high": "the high side"}
    )
    at: Entry = asked("Plane at", begin="0", along="axis")


class _AlongEdge(_OnOutline):
    """What is worked along the edge as it is cut, or put on it."""

    edge: str = asked(
        "Which edge", "all", among="outline", max_length=60, note="all of the outline, one of its edges, or a line of its drawing"
    )


class EdgeProfile(_AlongEdge):
    """An edge of a face rounded over, chamfered or hollowed by a bit that runs along it; what joints cut is left as it is."""

    title: ClassVar[str] = "Edge, rounded or chamfered"
    word: ClassVar[str] = "edge profile"
    faced: ClassVar[bool] = True

    kind: Literal["edge_profile"] = "edge_profile"
    profile: Literal["round", "chamfer", "cove"] = asked(
        "How", "round", words={"round": "rounded over", "chamfer": "chamfered", "cove": "hollowed, a cove"}
    )
    size: Entry = asked("Radius or width", note="radius, or how far a chamfer reaches onto the face", begin="3 mm")
    height: Entry | None = asked(
        "Height down the edge", None, note="of a chamfer that is not as high as it is wide", blank="as wide", only={"profile": ("chamfer",)}
    )
    both: bool = asked("On both faces", False)


class EdgeBand(_AlongEdge):
    """A band glued to an edge: the part is finished with it, and is cut that much smaller."""

    title: ClassVar[str] = "Edge band"
    word: ClassVar[str] = "edge band"

    kind: Literal["edge_band"] = "edge_band"
    thickness: Entry = asked("Thickness", begin="1 mm")
    band: str = asked("Of", "birch", max_length=40)


class MarkLine(_InRows):
    """An engraved line, centred on its place."""

    title: ClassVar[str] = "Engraved line"
    word: ClassVar[str] = "engraved line"
    in_metal: ClassVar[bool] = True

    kind: Literal["mark_line"] = "mark_line"
    length: Entry = asked("Length", begin="80 mm")
    angle: Entry = _turned()


class MarkCircle(_InRows):
    """An engraved circle."""

    title: ClassVar[str] = "Engraved circle"
    word: ClassVar[str] = "engraved circle"
    in_metal: ClassVar[bool] = True

    kind: Literal["mark_circle"] = "mark_circle"
    diameter: Entry = asked("Diameter", begin="20 mm")


class MarkText(_InRows):
    """Engraved single-line text, centred on its place."""

    title: ClassVar[str] = "Engraved text"
    word: ClassVar[str] = "engraved text"
    in_metal: ClassVar[bool] = True

    kind: Literal["mark_text"] = "mark_text"
    text: str = asked("Text", begin="MADE HERE", min_length=1, max_length=80)
    height: Entry = asked("Letter height", Entry(text="10 mm"))


Feature = Annotated[
    Hole
    | EdgeHole
    | Slot
    | Rectangle
    | HandHold
    | Perforation
    | FanOpening
    | PocketFeature
    | ShapeFeature
    | GrooveFeature
    | RebateFeature
    | CornerFeature
    | TaperFeature
    | EdgeCurve
    | EdgeNotch
    | TrimFeature
    | EdgeProfile
    | EdgeBand
    | MarkLine
    | MarkCircle
    | MarkText,
    Field(discriminator="kind"),
]


#: The record of each kind, in the order in which they are offered.
FEATURE_RECORDS: dict[str, type[_Feature]] = {r.model_fields["kind"].default: r for r in get_args(get_args(Feature)[0])}


class BoreInCopy(Record):
    """What a bore does to one copy of a part, otherwise than to its original; its fit is the original's where not said."""

    action: Literal["cut", "drill", "mark", "leave"] = "cut"
    fit: Entry | None = None
    deeper: Entry | None = None


class BoreThrough(Record):
    """What a bore does to one part; ``fit`` is the hole minus the shaft.

    What is met at an angle is *cut* straight through, as wide as what goes through it needs, or *drilled* along the bore. By its edge a part
    can be drilled alone.
    """

    action: Literal["cut", "drill", "mark", "leave"] = "cut"
    fit: Entry = Entry(text="0")
    on_line: bool = Field(
        default=False, description="cut on its line, so that it comes out wider by the kerf (common practice for what turns)"
    )
    round: bool = Field(default=False, description="a round hole for what is not round, in which it turns")
    deeper: Entry | None = Field(default=None, description="how much deeper than what ends in it a hole is, where it is blind")
    copies: dict[str, BoreInCopy] = Field(
        default_factory=dict, max_length=MAX_COPIES, description="by the instance key of a copy of the part"
    )

    def in_copy(self, instance: str) -> BoreThrough:
        """What is done to one copy."""
        own = self.copies[instance]
        return self.model_copy(update={"action": own.action, "fit": own.fit or self.fit, "deeper": own.deeper or self.deeper, "copies": {}})


class BoreRow(Record):
    """A bore that is there many times: in a row from its place on, the other way where the spacing is negative."""

    number: Entry = Field(description="how many, itself counted")
    spacing: Entry = Field(description="from one to the next")


class Bore(Record):
    """A straight hole along an axis through several parts; ``at`` gives its place along the two other axes.

    The axes are those of the room or of the group that its parts lie in; of a part where one is said: they stand as that part stands. It
    may lean off its axis; ``at`` then says along that axis too, where it is measured.
    """

    name: str = Field(min_length=1, max_length=40)
    order: int = 0
    out: bool = Field(default=False, description="left out without being deleted")
    axis: Literal["x", "y", "z"]
    of: str = Field(default="", description="key of the part along whose own axes it runs, turned with it; '' for none")
    member: str = Field(
        default="",
        description="key of a rod, of a turned part, or of a member of a frame, that it lets through: along it and as wide as it, its copies too; or of hardware whose holes it takes over. It says no place of its own then",
    )
    holes: list[str] = Field(
        default_factory=list,
        max_length=60,
        description="of hardware that ``member`` names: the names of the holes that it takes over; all where none is",
    )
    lean: Entry | None = Field(default=None, description="angle off its axis")
    toward: Entry | None = Field(
        default=None, description="which way it leans: the angle about its axis from the first of the two others to the second"
    )
    at: dict[Literal["x", "y", "z"], Entry]
    rows: dict[Literal["x", "y", "z"], BoreRow] = Field(
        default_factory=dict, max_length=2, description="there many times, along one or both of the two other axes"
    )
    diameter: Entry = Field(description="of the shaft or dowel; a set along it has one of its own")
    hardware: HardwareSet | None = Field(default=None, description="the set along it")
    low: Entry | None = Field(default=None, description="where it begins along its axis; it runs all the way where not said")
    high: Entry | None = Field(default=None, description="where it ends along its axis")
    parts: dict[str, BoreThrough] = Field(default_factory=dict, description="by part key; parts not named are left alone")

    @property
    def owned_by_set(self) -> HardwareSet | None:
        """The set that says how wide its holes are; none where there is none, or where it is on the thread of what goes through."""
        return self.hardware if self.hardware is not None and self.hardware.head != "none" else None
