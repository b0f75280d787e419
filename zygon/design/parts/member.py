"""A member of a frame: a length of tube or bar that lies on a line."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar, Literal

from pydantic import Field

from zygon.design.parts.listed import Key, Made
from zygon.design.parts.placed import Axis, End, PlacedPart, Work
from zygon.limits import MAX_MEMBER_HOLES
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record

__all__ = ["LIES", "EndPlane", "EndWork", "Lies", "Member", "MemberHole"]

#: In which plane an end is cut that no joint cuts: square to the member, or square to an axis of the room.
EndPlane = Literal["square", "x", "y", "z"]
_PLANES = {"square": "square to it", "z": "level", "x": "upright, left to right", "y": "upright, front to back"}

Lies = Literal["middle", "0", "90", "180", "270", "45", "135", "225", "315"]
#: By which place of a section a member lies on its line: how far across and up from the section's middle, in half sizes.
LIES: dict[Lies, tuple[int, int]] = {
    "middle": (0, 0),
    "0": (0, 1),
    "90": (-1, 0),
    "180": (0, -1),
    "270": (1, 0),
    "45": (-1, 1),
    "135": (-1, -1),
    "225": (1, -1),
    "315": (1, 1),
}
_LIES = {
    "middle": "its middle",
    "0": "its side at 0°",
    "90": "its side at 90°",
    "180": "its side at 180°",
    "270": "its side at 270°",
    "45": "its corner at 45°",
    "135": "its corner at 135°",
    "225": "its corner at 225°",
    "315": "its corner at 315°",
}
_AXES = {"x": "right", "y": "back", "z": "up"}


class MemberHole(Record):
    """A hole or slot in the wall of a member, or rows and rings of them, by how far from an end and at how many degrees round it."""

    title: ClassVar[str] = "Holes"

    order: int = 0
    end: Literal["a", "b"] = asked("From end", "a", words={"a": "A", "b": "B"}, place=1)
    off: Entry = asked("at", begin="40 mm", note="from that end, along the middle", place=1)
    around: Entry = asked("Round it", Entry(text="0"), note="from its side at 0°, right-hand, looking from A to B", kind="angle", place=2)
    wide: Entry = asked("Wide", begin="8 mm", note="a hole's diameter, a slot's width", place=3)
    long: Entry | None = asked("Long", None, note="of a slot, along the member", blank="a round hole", place=3)
    walls: Literal["one", "both"] = asked("Goes through", "both", words={"one": "one wall", "both": "both walls"}, place=4)
    count: int = asked("In a row", 1, note="along the member", suffix="", ge=1, le=200, place=5)
    pitch: Entry = asked("each", Entry(text="50 mm"), note="from the last, away from the end", place=5)
    ring: int = asked("In a ring", 1, note="evenly round it", suffix="", ge=1, le=60, place=6)
    made: Literal["cut", "mark"] = asked("They are", "cut", words={"cut": "drilled or cut", "mark": "marked only"}, place=7)


Thread = Literal["", "M3", "M4", "M5", "M6", "M8", "M10", "M12", "M14", "M16", "M20", "M24", "M30"]


class EndWork(Record):
    """What is done at the end of a round bar or tube once it is sawn: an ISO metric thread with its coarse pitch, a chamfer; or it is pressed flat, with a hole
    through the flat.
    """

    title: ClassVar[str] = "End"

    thread: Thread = asked("Thread", "", note="ISO metric, coarse", words={"": "none"}, place=1)
    long: Entry = asked("Thread is long", Entry(text="30 mm"), place=2)
    chamfer: Entry | None = asked("Chamfer", None, note="45°, so far in", blank="none", place=3)
    ring: Entry | None = asked("Retaining ring", None, note="DIN 471, in a groove so far in from the end", blank="none", place=3)
    flat: Entry | None = asked("Pressed flat", None, note="so far in from the end", blank="it stays round", place=4)
    blend: Entry | None = asked("Runs out over", None, note="from flat to round", blank="its diameter", place=4)
    thick: Entry | None = asked(
        "Flat is thick", None, note="at least a tube's two walls; half of a bar where not said", blank="its walls, or half", place=5
    )
    looks: Entry = asked("Flat looks", Entry(text="0"), note="from its side at 0°, right-hand, looking from A to B", kind="angle", place=5)
    bore: Entry | None = asked("Hole in it", None, note="diameter", blank="none", place=6)
    bore_off: Entry | None = asked("from the end", None, blank="half way", place=6)


class Member(PlacedPart):
    """It runs from A to B on one line of a frame, or on several in a row; its section is its stock's.

    Its side at 0 degrees looks as far as it can along ``against``, an axis that is chosen once, so that nothing flips where a line becomes
    upright; degrees run round it by the right-hand rule, from A to B.
    """

    title: ClassVar[str] = "Lies on its line"

    kind: Literal["member"] = "member"
    cut_from: ClassVar[str] = "bar"
    declines: ClassVar[Mapping[Work, str]] = {
        "trace": "what is traced lies in a plane",
    }
    made: ClassVar[Made] = "cut"
    price: ClassVar[float] = 0.0
    deep: ClassVar[None] = None
    mass: ClassVar[None] = None
    frame: str
    lines: list[str] = Field(min_length=1, max_length=50)
    lies: Lies = asked("On the line", "middle", note="what of its section lies on the line", words=_LIES, place=1)
    against: Axis = asked("0° looks", "z", note="the side at 0 degrees looks that way as far as it can", words=_AXES, place=2)
    turn: Entry = asked("Turned about it", Entry(text="0"), note="right-hand, looking from A to B", kind="angle", place=3)
    past_a: Entry = asked("Past A", Entry(text="0"), note="runs on beyond the line's start; negative stops short of it", place=4)
    past_b: Entry = asked("Past B", Entry(text="0"), note="runs on beyond the line's end; negative stops short of it", place=4)
    radius: Entry | None = asked(
        "Bent by a radius", None, note="of its centre line, where its lines are not straight in a row", blank="it is straight", place=6
    )
    end_a: EndPlane = asked("End A is cut", "square", note="where no joint cuts it", words=_PLANES, place=5)
    end_b: EndPlane = asked("End B is cut", "square", note="where no joint cuts it", words=_PLANES, place=5)

    worked: dict[Literal["a", "b"], EndWork] = Field(
        default_factory=dict, description="what is done at its ends, where they are cut off square"
    )
    holes: dict[Key, MemberHole] = Field(default_factory=dict, max_length=MAX_MEMBER_HOLES)

    def ends(self) -> list[End]:
        """None of its own: its frame's points say where it lies."""
        return []

    def own_fault(self) -> tuple[str, Any, str] | None:
        """It has no turns beside its lines, and no line twice."""
        if self.turns:
            return "turns", len(self.turns), "a member lies on its line; turn the group that its frame lies in, or move the frame's points"
        if len(set(self.lines)) != len(self.lines):
            return "lines", self.lines, "a member lies on each of its lines once"
        return None
