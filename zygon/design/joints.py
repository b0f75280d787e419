"""Records of joints: one object between two parts, never two drawings that have to agree.

Each field's ``title`` is its label on screen, its ``description`` what it means; fields that are None follow the boards' thickness.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record

__all__ = [
    "JOINT_RECORDS", "BevelJoint", "ButtJoint", "CrossLap", "Dovetail", "DovetailLap", "DowelJoint", "EdgeKey", "FaceGlue", "FingerJoint", "Groove", "HalfLap", "Joint",
    "Mitre", "MortiseTenon", "Rebate", "ScrewJoint", "Tab", "TabSlotJoint",
]  # fmt: skip

Reliefs = Literal["dog_bone", "t_bone", "none"]
Slope = Literal["1:6", "1:8", "angle"]
Held = Literal["usual", "dry", "glued", "screwed", "riveted", "welded"]


class _Joint(Record):
    a: str = Field(description="part key, or that of one of its copies")
    b: str = Field(description="part key, or that of one of its copies")
    order: int = 0
    out: bool = Field(default=False, description="left out without being deleted")
    fit: Entry = Entry(text="snug")
    held: Held = Field(default="usual", title="Held", description="what keeps it together once it is made")


class _Relieved(_Joint):
    relief: Reliefs = Field(
        default="dog_bone", title="Relief", description="what a round bit cuts into inside corners, so that the mate seats"
    )


class FingerJoint(_Relieved):
    """Fingers of two boards that meet in a corner. With neither count nor pitch the width follows the thickness."""

    kind: Literal["finger"] = "finger"
    count: Entry | None = Field(default=None, title="Fingers, both", description="fingers of both boards together along the corner")
    pitch: Entry | None = Field(default=None, title="Pitch", description="from one finger to the next of the same board; both ends equal")
    starts: Literal["a", "b"] = Field(default="a", title="Starts at LOW")


class Tab(Record):
    """One tab: its middle, measured from the low end of the joint's run, and its length."""

    at: Entry
    length: Entry


class TabSlotJoint(_Relieved):
    """The edge of ``a`` goes through the face of ``b`` in tabs and slots."""

    kind: Literal["tab_slot"] = "tab_slot"
    number: Entry | None = Field(default=None, title="Tabs")
    spacing: Entry | None = Field(default=None, title="Spacing", description="middle to middle; spread evenly where not said")
    length: Entry | None = Field(default=None, title="Tab length", description="of each tab; three thicknesses where not said")
    inset: Entry | None = Field(default=None, title="Inset", description="from the run's ends to the outer tabs' outer ends")
    tabs: dict[str, Tab] = Field(default_factory=dict, description="a list of tabs in place of number and spacing")
    stand_over: Entry = Field(default=Entry(text="0"), title="Stands over", description="how far the tabs stand over the far face")


class CrossLap(_Relieved):
    """Two boards that cross square to each other, each notched for the other."""

    kind: Literal["cross_lap"] = "cross_lap"
    share: Entry = Field(
        default=Entry(text="1/2"), title="Share of a", description="how much of the crossing is notched out of the first board, from 0 to 1"
    )
    side: Literal["low", "high"] = Field(default="high", title="First is notched from", description="the edge at which its notch is open")


class HalfLap(_Relieved):
    """Two boards in one plane that lap over each other, each let in by its share: a frame's corner, tee, cross, or end to end."""

    kind: Literal["half_lap"] = "half_lap"
    share: Entry = Field(
        default=Entry(text="1/2"),
        title="Share of a",
        description="how much of the common thickness is cut out of the first board, from 0 to 1",
    )
    keeps: Literal["low", "high"] = Field(default="low", title="First keeps", description="the side of its thickness that stays at the lap")


class DovetailLap(_Relieved):
    """A half-lap at a frame's tee whose end widens, so that it cannot be drawn out."""

    kind: Literal["dovetail_lap"] = "dovetail_lap"
    share: Entry = Field(
        default=Entry(text="1/2"),
        title="Share of a",
        description="how much of the common thickness is cut out of the first board, from 0 to 1",
    )
    keeps: Literal["low", "high"] = Field(default="low", title="First keeps", description="the side of its thickness that stays at the lap")
    slope: Slope = Field(default="1:6", title="Slope", description="of the flanks: 1:6 for softwood, 1:8 for hardwood, or an angle")
    angle: Entry = Field(default=Entry(text="9 deg"), title="Angle", description="of the flanks, where the slope is an angle")
    shoulder: Entry | None = Field(default=None, title="Shoulder", description="how far the tail's root stands in from the board's edges")


class Groove(_Relieved):
    """The edge of ``a`` sits in a groove in the face of ``b`` and grows into it by the depth less the end play."""

    kind: Literal["groove"] = "groove"
    depth: Entry | None = Field(default=None, title="Depth", description="of the groove; a third of the board where not said")
    end_play: Entry = Field(default=Entry(text="0"), title="End play", description="room between the panel's edge and the groove's floor")
    ends: Literal["through", "stopped", "open_low", "open_high"] = Field(
        default="through",
        title="Ends",
        description="through; stopped at both ends; or stopped with the way out open at one end, for a panel that slides",
    )
    stop: Entry | None = Field(
        default=None, title="Stops short by", description="from the panel's end to where a stopped groove ends; the panel is notched there"
    )


class Rebate(_Relieved):
    """The edge of ``a`` sits in a step cut along the end of ``b``."""

    kind: Literal["rebate"] = "rebate"
    depth: Entry | None = Field(
        default=None, title="Depth", description="of the step into the board's face; half of the board where not said"
    )
    ends: Literal["through", "open_low", "open_high", "stopped"] = Field(default="through", title="Ends")
    stop: Entry | None = Field(default=None, title="Stops short by", description="from the board's end to where a stopped rebate ends")


class Dovetail(_Joint):
    """Through dovetails at a corner: tails on ``a``, pins on ``b``; the pins' flanks slope through the thickness."""

    kind: Literal["dovetail"] = "dovetail"
    number: Entry | None = Field(default=None, title="Tails")
    slope: Slope = Field(default="1:6", title="Slope", description="of the flanks: 1:6 for softwood, 1:8 for hardwood, or an angle")
    angle: Entry = Field(default=Entry(text="9 deg"), title="Angle", description="of the flanks, where the slope is an angle")
    pin: Entry | None = Field(default=None, title="Pin, narrow side", description="half of the thickness where not said")


class EdgeKey(_Relieved):
    """Two boards edge to edge in one plane, held by tails or round keys of ``a`` in sockets of ``b``."""

    kind: Literal["edge_key"] = "edge_key"
    shape: Literal["dovetail", "round"] = Field(default="dovetail", title="Shape")
    number: Entry | None = Field(default=None, title="Keys")
    width: Entry | None = Field(default=None, title="Width", description="over the widest place")
    depth: Entry | None = Field(default=None, title="Length", description="how far a key reaches into the other board")
    spacing: Entry | None = Field(default=None, title="Spacing", description="middle to middle; spread evenly where not said")
    slope: Slope = Field(default="1:6", title="Slope")
    angle: Entry = Field(default=Entry(text="9 deg"), title="Angle", description="of the flanks, where the slope is an angle")


class MortiseTenon(_Relieved):
    """Tenons on the edge of ``a`` in mortises in the face of ``b``."""

    kind: Literal["mortise_tenon"] = "mortise_tenon"
    ends: Literal["through", "stopped"] = Field(default="through", title="Mortise", description="through the board, or stopped inside it")
    number: Entry | None = Field(default=None, title="Tenons")
    width: Entry | None = Field(default=None, title="Width", description="of each tenon along the joint")
    thickness: Entry | None = Field(
        default=None, title="Thickness", description="of the tenon; the whole board where not said, else it has cheeks with shoulders"
    )
    inset: Entry | None = Field(default=None, title="End shoulder", description="from the run's ends to the outer tenons")
    spacing: Entry | None = Field(default=None, title="Spacing", description="middle to middle; spread evenly where not said")
    depth: Entry | None = Field(
        default=None, title="Mortise depth", description="of a stopped mortise; two thirds of the board where not said"
    )
    end_play: Entry = Field(default=Entry(text="0.5 mm"), title="End play", description="room at the bottom of a stopped mortise")


class DowelJoint(_Joint):
    """Round dowels across the joint, bored in line in both boards."""

    kind: Literal["dowels"] = "dowels"
    fit: Entry = Field(default=Entry(text="0"), title="Fit", description="hole minus dowel")
    number: Entry | None = Field(default=None, title="Dowels")
    diameter: Entry | None = Field(
        default=None, title="Diameter", description="about half of the thinner board where not said: 4, 5, 6, 8, 10, 12 or 16 mm"
    )
    spacing: Entry | None = Field(default=None, title="Spacing", description="middle to middle; spread evenly where not said")
    inset: Entry | None = Field(default=None, title="Inset", description="from the run's ends to the first and last dowel's middle")
    depth_face: Entry | None = Field(
        default=None, title="Depth in the face", description="in the board whose face is bored; two thirds of it where not said"
    )
    depth_edge: Entry | None = Field(
        default=None, title="Depth in the edge", description="in the board whose edge is bored; four diameters where not said"
    )


class ScrewJoint(_Joint):
    """Screws through ``b`` into ``a``: clearance hole, pilot hole and countersink by the screw's size."""

    kind: Literal["screws"] = "screws"
    fit: Entry = Field(default=Entry(text="0"), title="Fit", description="added to the clearance hole")
    size: Literal["3", "3.5", "4", "4.5", "5", "6"] = Field(
        default="4", title="Screw, mm", description="nominal diameter of a countersunk wood screw"
    )
    length: Entry | None = Field(
        default=None,
        title="Screw length",
        description="a standard length of about two and a half times the board it goes through where not said",
    )
    number: Entry | None = Field(default=None, title="Screws")
    spacing: Entry | None = Field(default=None, title="Spacing", description="middle to middle; spread evenly where not said")
    inset: Entry | None = Field(default=None, title="Inset", description="from the run's ends to the first and last screw")
    countersink: bool = Field(default=True, title="Countersunk")
    pilot: bool = Field(default=True, title="Pilot holes")


class Mitre(_Joint):
    """Two edges that meet at an angle, both bevelled to the plane half way between the boards, and glued."""

    kind: Literal["mitre"] = "mitre"
    fit: Entry = Entry(text="0")


class BevelJoint(_Joint):
    """The end of ``a`` runs on to the face of ``b`` and is cut to lie flat on it, at whatever angle the two meet; glued."""

    kind: Literal["bevel"] = "bevel"
    fit: Entry = Entry(text="0")


class ButtJoint(_Joint):
    """An edge glued to a face or an edge: the contact is recorded, and its outline can be marked."""

    kind: Literal["butt"] = "butt"
    fit: Entry = Entry(text="0")
    outline: bool = Field(default=False, title="Mark its outline", description="engraves where the edge stands on the face")


class FaceGlue(_Joint):
    """Two boards glued face to face, to make up a thickness."""

    kind: Literal["face_glue"] = "face_glue"
    fit: Entry = Entry(text="0")
    outline: bool = Field(default=False, title="Mark its outline", description="engraves where the smaller board lies on the larger one")


Joint = Annotated[
    FingerJoint | TabSlotJoint | CrossLap | HalfLap | DovetailLap | Groove | Rebate | Dovetail | EdgeKey | MortiseTenon | DowelJoint | ScrewJoint
    | Mitre | BevelJoint | ButtJoint | FaceGlue,
    Field(discriminator="kind"),
]  # fmt: skip

#: The record of each kind.
JOINT_RECORDS: dict[str, type[_Joint]] = {
    r.model_fields["kind"].default: r
    for r in (FingerJoint, TabSlotJoint, CrossLap, HalfLap, DovetailLap, Groove, Rebate, Dovetail, EdgeKey, MortiseTenon, DowelJoint, ScrewJoint,
              Mitre, BevelJoint, ButtJoint, FaceGlue)
}  # fmt: skip
