"""Records of joints: one object between two parts, never two drawings that have to agree.

Fields that are None follow the boards' thickness. LOW, HIGH, A and B in words are replaced on screen by the run's ends and the boards' names.
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record

__all__ = [
    "BOARD_JOINTS",
    "JOINT_RECORDS",
    "BevelJoint",
    "ButtJoint",
    "CrossLap",
    "Dovetail",
    "DovetailLap",
    "DowelJoint",
    "EdgeKey",
    "FaceGlue",
    "FingerJoint",
    "Groove",
    "HalfLap",
    "Joint",
    "MEMBER_HOLES",
    "MEMBER_JOINTS",
    "MemberButt",
    "MemberCope",
    "MemberMitre",
    "MemberNotch",
    "MemberOnBoard",
    "MemberPassage",
    "Mitre",
    "MortiseTenon",
    "NotchJoint",
    "Rebate",
    "ScrewJoint",
    "Tab",
    "TabSlotJoint",
]

_RELIEFS = {"dog_bone": "Dog-bone", "t_bone": "T-bone", "none": "None"}
_SIDES = {"low": "LOW", "high": "HIGH"}
_ENDS = {"through": "Through", "stopped": "Stopped", "open_low": "Open at LOW", "open_high": "Open at HIGH"}
_SLOPES = {"1:6": "1 : 6", "1:8": "1 : 8", "angle": "Angle"}
_HELD = {"usual": "As is usual for it", "dry": "Dry", "glued": "Glued", "screwed": "Screwed", "riveted": "Riveted", "welded": "Welded"}

Reliefs = Literal["dog_bone", "t_bone", "none"]
Slope = Literal["1:6", "1:8", "angle"]
Held = Literal["usual", "dry", "glued", "screwed", "riveted", "welded"]


class _Joint(Record):
    title: ClassVar[str] = ""

    a: str = Field(description="part key, or that of one of its copies")
    b: str = Field(description="part key, or that of one of its copies")
    order: int = 0
    out: bool = Field(default=False, description="left out without being deleted")
    fit: Entry = Entry(text="snug")
    held: Held = asked("Held", "usual", note="what keeps it together once it is made", words=_HELD, place=1)


class _Relieved(_Joint):
    relief: Reliefs = asked(
        "Relief",
        "dog_bone",
        note="what a round bit cuts into inside corners, so that the mate seats",
        words=_RELIEFS,
        cutter="router",
        place=1,
    )


class FingerJoint(_Relieved):
    """Fingers of two boards that meet in a corner. With neither count nor pitch the width follows the thickness."""

    title: ClassVar[str] = "Finger joint"
    kind: Literal["finger"] = "finger"
    count: Entry | None = asked(
        "Fingers, both", None, note="fingers of both boards together along the corner", kind="count", blank="by thickness"
    )
    pitch: Entry | None = asked("Pitch", None, note="from one finger to the next of the same board; both ends equal", blank="by thickness")
    starts: Literal["a", "b"] = asked("Starts at LOW", "a", words={"a": "A", "b": "B"})


class Tab(Record):
    """One tab: its middle, measured from the low end of the joint's run, and its length."""

    at: Entry
    length: Entry


class TabSlotJoint(_Relieved):
    """The edge of ``a`` goes through the face of ``b`` in tabs and slots."""

    title: ClassVar[str] = "Tab and slot"
    kind: Literal["tab_slot"] = "tab_slot"
    number: Entry | None = asked("Tabs", None, kind="count", blank="by thickness")
    spacing: Entry | None = asked("Spacing", None, note="middle to middle; spread evenly where not said", blank="spread evenly")
    length: Entry | None = asked("Tab length", None, note="of each tab; three thicknesses where not said", blank="by thickness")
    inset: Entry | None = asked("Inset", None, note="from the run's ends to the outer tabs' outer ends", blank="by thickness")
    tabs: dict[str, Tab] = Field(default_factory=dict, description="a list of tabs in place of number and spacing")
    stand_over: Entry = asked("Stands over", Entry(text="0"), note="how far the tabs stand over the far face")


class CrossLap(_Relieved):
    """Two boards that cross square to each other, each notched for the other."""

    title: ClassVar[str] = "Cross lap"
    kind: Literal["cross_lap"] = "cross_lap"
    share: Entry = asked(
        "Share of a", Entry(text="1/2"), note="how much of the crossing is notched out of the first board, from 0 to 1", kind="number"
    )
    side: Literal["low", "high"] = asked("First is notched from", "high", note="the edge at which its notch is open", words=_SIDES)


class NotchJoint(_Relieved):
    """The second board runs whole through a notch in the first one's edge."""

    title: ClassVar[str] = "Housed in a notch"
    kind: Literal["notch"] = "notch"
    side: Literal["near", "low", "high"] = asked(
        "Notch is open at", "near", note="the edge of the first board", words={"near": "the nearer edge", **_SIDES}
    )
    floor: Literal["level", "dovetailed"] = asked(
        "Its floor",
        "level",
        note="dovetailed, the end of the second board cannot be drawn out",
        words={"level": "level", "dovetailed": "dovetailed"},
    )
    slope: Slope = asked(
        "Slope", "1:6", note="of the floor: 1:6 for softwood, 1:8 for hardwood, or an angle", words=_SLOPES, only={"floor": ("dovetailed",)}
    )
    angle: Entry = asked(
        "Angle",
        Entry(text="9 deg"),
        note="of the floor, where the slope is an angle",
        kind="angle",
        only={"floor": ("dovetailed",), "slope": ("angle",)},
    )


class HalfLap(_Relieved):
    """Two boards in one plane that lap over each other, each let in by its share: a frame's corner, tee, cross, or end to end."""

    title: ClassVar[str] = "Half-lap"
    kind: Literal["half_lap"] = "half_lap"
    share: Entry = asked(
        "Share of a", Entry(text="1/2"), note="how much of the common thickness is cut out of the first board, from 0 to 1", kind="number"
    )
    keeps: Literal["low", "high"] = asked("First keeps", "low", note="the side of its thickness that stays at the lap", words=_SIDES)


class DovetailLap(_Relieved):
    """A half-lap at a frame's tee whose end widens, so that it cannot be drawn out."""

    title: ClassVar[str] = "Dovetailed half-lap"
    kind: Literal["dovetail_lap"] = "dovetail_lap"
    share: Entry = asked(
        "Share of a", Entry(text="1/2"), note="how much of the common thickness is cut out of the first board, from 0 to 1", kind="number"
    )
    keeps: Literal["low", "high"] = asked("First keeps", "low", note="the side of its thickness that stays at the lap", words=_SIDES)
    slope: Slope = asked("Slope", "1:6", note="of the flanks: 1:6 for softwood, 1:8 for hardwood, or an angle", words=_SLOPES)
    angle: Entry = asked(
        "Angle", Entry(text="9 deg"), note="of the flanks, where the slope is an angle", kind="angle", only={"slope": ("angle",)}
    )
    shoulder: Entry | None = asked("Shoulder", None, note="how far the tail's root stands in from the board's edges", blank="by thickness")


class Groove(_Relieved):
    """The edge of ``a`` sits in a groove in the face of ``b`` and grows into it by the depth less the end play."""

    title: ClassVar[str] = "Groove"
    kind: Literal["groove"] = "groove"
    depth: Entry | None = asked("Depth", None, note="of the groove; a third of the board where not said", blank="by thickness")
    end_play: Entry = asked("End play", Entry(text="0"), note="room between the panel's edge and the groove's floor")
    ends: Literal["through", "stopped", "open_low", "open_high"] = asked(
        "Ends",
        "through",
        note="through; stopped at both ends; or stopped with the way out open at one end, for a panel that slides",
        words=_ENDS,
    )
    stop: Entry | None = asked(
        "Stops short by", None, note="from the panel's end to where a stopped groove ends; the panel is notched there", blank="by thickness"
    )


class Rebate(_Relieved):
    """The edge of ``a`` sits in a step cut along the end of ``b``."""

    title: ClassVar[str] = "Rebate"
    kind: Literal["rebate"] = "rebate"
    depth: Entry | None = asked(
        "Depth", None, note="of the step into the board's face; half of the board where not said", blank="by thickness"
    )
    ends: Literal["through", "open_low", "open_high", "stopped"] = asked("Ends", "through", words=_ENDS)
    stop: Entry | None = asked("Stops short by", None, note="from the board's end to where a stopped rebate ends", blank="by thickness")


class Dovetail(_Joint):
    """Through dovetails at a corner: tails on ``a``, pins on ``b``; the pins' flanks slope through the thickness."""

    title: ClassVar[str] = "Through dovetails"
    kind: Literal["dovetail"] = "dovetail"
    number: Entry | None = asked("Tails", None, kind="count", blank="by thickness")
    slope: Slope = asked("Slope", "1:6", note="of the flanks: 1:6 for softwood, 1:8 for hardwood, or an angle", words=_SLOPES)
    angle: Entry = asked(
        "Angle", Entry(text="9 deg"), note="of the flanks, where the slope is an angle", kind="angle", only={"slope": ("angle",)}
    )
    pin: Entry | None = asked("Pin, narrow side", None, note="half of the thickness where not said", blank="by thickness")


class EdgeKey(_Relieved):
    """Two boards edge to edge in one plane, held by tails or round keys of ``a`` in sockets of ``b``."""

    title: ClassVar[str] = "Keys in one plane"
    kind: Literal["edge_key"] = "edge_key"
    shape: Literal["dovetail", "round"] = asked("Shape", "dovetail", words={"dovetail": "Dovetail", "round": "Round"})
    number: Entry | None = asked("Keys", None, kind="count", blank="by thickness")
    width: Entry | None = asked("Width", None, note="over the widest place", blank="by thickness")
    depth: Entry | None = asked("Length", None, note="how far a key reaches into the other board", blank="by thickness")
    spacing: Entry | None = asked("Spacing", None, note="middle to middle; spread evenly where not said", blank="spread evenly")
    slope: Slope = asked("Slope", "1:6", words=_SLOPES, only={"shape": ("dovetail",)})
    angle: Entry = asked(
        "Angle", Entry(text="9 deg"), note="of the flanks, where the slope is an angle", kind="angle", only={"slope": ("angle",)}
    )


class MortiseTenon(_Relieved):
    """Tenons on the edge of ``a`` in mortises in the face of ``b``."""

    title: ClassVar[str] = "Mortise and tenon"
    kind: Literal["mortise_tenon"] = "mortise_tenon"
    ends: Literal["through", "stopped"] = asked("Mortise", "through", note="through the board, or stopped inside it", words=_ENDS)
    number: Entry | None = asked("Tenons", None, kind="count", blank="by thickness")
    width: Entry | None = asked("Width", None, note="of each tenon along the joint", blank="by thickness")
    thickness: Entry | None = asked(
        "Thickness", None, note="of the tenon; the whole board where not said, else it has cheeks with shoulders", blank="by thickness"
    )
    inset: Entry | None = asked("End shoulder", None, note="from the run's ends to the outer tenons", blank="by thickness")
    spacing: Entry | None = asked("Spacing", None, note="middle to middle; spread evenly where not said", blank="spread evenly")
    depth: Entry | None = asked(
        "Mortise depth",
        None,
        note="of a stopped mortise; two thirds of the board where not said",
        only={"ends": ("stopped",)},
        blank="by thickness",
    )
    end_play: Entry = asked("End play", Entry(text="0.5 mm"), note="room at the bottom of a stopped mortise", only={"ends": ("stopped",)})


class DowelJoint(_Joint):
    """Round dowels across the joint, bored in line in both boards."""

    title: ClassVar[str] = "Dowels"
    kind: Literal["dowels"] = "dowels"
    fit: Entry = asked("Fit", Entry(text="0"), note="hole minus dowel")
    number: Entry | None = asked("Dowels", None, kind="count", blank="by thickness")
    diameter: Entry | None = asked(
        "Diameter", None, note="about half of the thinner board where not said: 4, 5, 6, 8, 10, 12 or 16 mm", blank="by thickness"
    )
    spacing: Entry | None = asked("Spacing", None, note="middle to middle; spread evenly where not said", blank="spread evenly")
    inset: Entry | None = asked("Inset", None, note="from the run's ends to the first and last dowel's middle", blank="by thickness")
    depth_face: Entry | None = asked(
        "Depth in the face", None, note="in the board whose face is bored; two thirds of it where not said", blank="by thickness"
    )
    depth_edge: Entry | None = asked(
        "Depth in the edge", None, note="in the board whose edge is bored; four diameters where not said", blank="by thickness"
    )


class ScrewJoint(_Joint):
    """Screws through ``b`` into ``a``: clearance hole, pilot hole and countersink by the screw's size."""

    title: ClassVar[str] = "Screws"
    kind: Literal["screws"] = "screws"
    fit: Entry = asked("Fit", Entry(text="0"), note="added to the clearance hole")
    size: Literal["3", "3.5", "4", "4.5", "5", "6"] = asked("Screw, mm", "4", note="nominal diameter of a countersunk wood screw")
    length: Entry | None = asked(
        "Screw length",
        None,
        note="a standard length of about two and a half times the board it goes through where not said",
        blank="by thickness",
    )
    number: Entry | None = asked("Screws", None, kind="count", blank="by thickness")
    spacing: Entry | None = asked("Spacing", None, note="middle to middle; spread evenly where not said", blank="spread evenly")
    inset: Entry | None = asked("Inset", None, note="from the run's ends to the first and last screw", blank="by thickness")
    countersink: bool = asked("Countersunk", True)
    pilot: bool = asked("Pilot holes", True)


class Mitre(_Joint):
    """Two edges that meet at an angle, both bevelled to the plane half way between the boards, and glued."""

    title: ClassVar[str] = "Mitre"
    kind: Literal["mitre"] = "mitre"
    fit: Entry = Entry(text="0")


class BevelJoint(_Joint):
    """The end of ``a`` runs on to the face of ``b`` and is cut to lie flat on it, at whatever angle the two meet; glued."""

    title: ClassVar[str] = "Bevelled end"
    kind: Literal["bevel"] = "bevel"
    fit: Entry = Entry(text="0")


class ButtJoint(_Joint):
    """An edge glued to a face or an edge: the contact is recorded, and its outline can be marked."""

    title: ClassVar[str] = "Butt joint"
    kind: Literal["butt"] = "butt"
    fit: Entry = Entry(text="0")
    outline: bool = asked("Mark its outline", False, note="engraves where the edge stands on the face")


class FaceGlue(_Joint):
    """Two boards glued face to face, to make up a thickness."""

    title: ClassVar[str] = "Face gluing"
    kind: Literal["face_glue"] = "face_glue"
    fit: Entry = Entry(text="0")
    outline: bool = asked("Mark its outline", False, note="engraves where the smaller board lies on the larger one")


class _MemberJoint(_Joint):
    fit: Entry = Entry(text="0")


class MemberMitre(_MemberJoint):
    """The ends of two members, both cut in the plane in which their outsides meet."""

    title: ClassVar[str] = "Mitre of tubes"
    kind: Literal["member_mitre"] = "member_mitre"
    gap: Entry = asked("Gap", Entry(text="0"), note="for the weld, between both ends")


class MemberButt(_MemberJoint):
    """The end of ``a`` cut to lie on a flat side of ``b``, which runs on to the far side of it where it ends there."""

    title: ClassVar[str] = "Butt of tubes"
    kind: Literal["member_butt"] = "member_butt"
    gap: Entry = asked("Gap", Entry(text="0"), note="for the weld, between the end and the side")


class MemberCope(_MemberJoint):
    """The end of ``a`` cut to lie all round on the outside of ``b``, at any angle and off its middle."""

    title: ClassVar[str] = "Cope"
    kind: Literal["member_cope"] = "member_cope"
    gap: Entry = asked("Gap", Entry(text="0"), note="for the weld, between the end and the outside")


class MemberOnBoard(_MemberJoint):
    """The end of the member ``a`` cut in the face of the board ``b`` that it comes to, at any angle."""

    title: ClassVar[str] = "Ends on a board"
    kind: Literal["member_on_board"] = "member_on_board"
    gap: Entry = asked("Gap", Entry(text="0"), note="for the weld, between the end and the board")


class MemberPassage(_MemberJoint):
    """``a`` passes whole through a hole in ``b``, in both its walls."""

    title: ClassVar[str] = "Passes through"
    kind: Literal["member_passage"] = "member_passage"
    fit: Entry = asked("Fit", Entry(text="0.4 mm"), note="hole minus what passes, across")


class MemberNotch(_MemberJoint):
    """``a`` lies across ``b`` in a notch that is cut into one side of it."""

    title: ClassVar[str] = "Lies in a notch"
    kind: Literal["member_notch"] = "member_notch"
    fit: Entry = asked("Fit", Entry(text="0.4 mm"), note="notch minus what lies in it, across")


Joint = Annotated[
    FingerJoint
    | TabSlotJoint
    | CrossLap
    | NotchJoint
    | HalfLap
    | DovetailLap
    | Groove
    | Rebate
    | Dovetail
    | EdgeKey
    | MortiseTenon
    | DowelJoint
    | ScrewJoint
    | Mitre
    | BevelJoint
    | ButtJoint
    | FaceGlue
    | MemberMitre
    | MemberButt
    | MemberCope
    | MemberPassage
    | MemberNotch
    | MemberOnBoard,
    Field(discriminator="kind"),
]

#: The record of each kind.
JOINT_RECORDS: dict[str, type[_Joint]] = {
    r.model_fields["kind"].default: r
    for r in (
        FingerJoint,
        TabSlotJoint,
        CrossLap,
        NotchJoint,
        HalfLap,
        DovetailLap,
        Groove,
        Rebate,
        Dovetail,
        EdgeKey,
        MortiseTenon,
        DowelJoint,
        ScrewJoint,
        Mitre,
        BevelJoint,
        ButtJoint,
        FaceGlue,
        MemberMitre,
        MemberButt,
        MemberCope,
        MemberPassage,
        MemberNotch,
        MemberOnBoard,
    )
}

#: Those between members of frames; all others are between parts that lie in a plane.
MEMBER_JOINTS = frozenset({"member_mitre", "member_butt", "member_cope", "member_passage", "member_notch"})
#: Between a member and a board.
BOARD_JOINTS = frozenset({"member_on_board"})
#: Of those between members the ones that cut what they lie in, and no end.
MEMBER_HOLES = frozenset({"member_passage", "member_notch"})
