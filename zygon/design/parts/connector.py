"""A connector: a fitting with sockets that stands on a point of a frame and takes the ends of the members there."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar, Literal

from pydantic import Field

from zygon.design.parts.bought import Solid
from zygon.design.parts.listed import Key, Made
from zygon.design.parts.placed import Axis, End, PlacedPart, Work
from zygon.limits import MAX_SOCKETS
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record

__all__ = ["TOWARD", "Connector", "Socket", "Toward"]

Toward = Literal["right", "left", "back", "front", "up", "down"]
#: The direction of each word in a connector's own x, y and z.
TOWARD: dict[Toward, tuple[float, float, float]] = {
    "right": (1.0, 0.0, 0.0),
    "left": (-1.0, 0.0, 0.0),
    "back": (0.0, 1.0, 0.0),
    "front": (0.0, -1.0, 0.0),
    "up": (0.0, 0.0, 1.0),
    "down": (0.0, 0.0, -1.0),
}
_WORDS: dict[str, str] = {word: word for word in TOWARD}
_HELD = {"screwed": "screwed fast", "glued": "glued in", "pressed": "pressed in", "dry": "put in dry"}
_SWINGS = {"": "stands fast", "x": "about its left-right axis", "y": "about its front-back axis", "z": "about its upright axis"}


class Socket(Record):
    """A sleeve that takes the end of a member, or through which one runs uncut; or a spigot that goes into a tube's bore.

    ``out`` is its stand-off: how far its mouth is from the middle. A member's end comes to lie ``out`` less ``depth`` from the middle; where no
    stand-off is said it ends as near to the middle as the other sockets leave a wall.
    """

    title: ClassVar[str] = "Socket"

    order: int = 0
    toward: Toward = asked("Looks", "up", note="as the connector lies before it is turned onto its lines", words=_WORDS, place=1)
    lean: Entry = asked("Leaning", Entry(text="0"), note="off that direction", kind="angle", place=2)
    lean_to: Toward = asked("toward", "right", words=_WORDS, place=2)
    through: bool = asked("Goes through", False, note="the member runs on uncut", place=3)
    inside: bool = asked("Goes into the tube", False, note="a spigot in its bore, in place of a sleeve round it", place=3)
    depth: Entry = asked("Deep", Entry(text="30 mm"), note="so far a member goes in, or a spigot into it", place=4)
    out: Entry | None = asked("Stand-off", None, note="of its mouth from the middle", blank="as near as the others let it", place=4)
    line: str = Field(
        default="", description="key of the line along which it is made to look, whatever that line does; '' for one that looks as is said"
    )
    across: Entry | None = asked(
        "For a tube of", None, note="its diameter or side; its bore's for a spigot", blank="what lies in it", place=5
    )
    fit: Entry = asked("Wider by", Entry(text="0.2 mm"), note="than that tube; a spigot is narrower than its bore", place=5)
    swings: Literal["", "x", "y", "z"] = asked("Swings", "", words=_SWINGS, place=6)
    beside: Entry = asked("Beside the middle", Entry(text="0"), note="as the second half of a clamp is", place=7)
    beside_to: Toward = asked("Beside toward", "up", words=_WORDS, place=7)

    @property
    def aside(self) -> bool:
        """Whether it may lie beside the middle: more is said of that than nought."""
        return self.beside.text.strip() != "0"

    def fault(self) -> tuple[str, Any, str] | None:
        """What is wrong with it by itself: its field, the value and the rule; None for nothing."""
        across = [i for i in range(3) if abs(TOWARD[self.toward][i]) > 0.5]
        if self.swings and "xyz".index(self.swings) in across:
            return "swings", self.swings, "a socket swings about an axis that it is square to"
        if self.inside and self.through:
            return "inside", True, "a member runs through a sleeve; a spigot goes into the end of one"
        return None


class Connector(PlacedPart):
    """It turns so that as many of its sockets as can be lie on the lines that meet in its point."""

    title: ClassVar[str] = "Stands on its point"

    kind: Literal["connector"] = "connector"
    cut_from: ClassVar[str] = "sheet"
    declines: ClassVar[Mapping[Work, str]] = {
        "joint": "its sockets hold what lies in them",
        "bore": "a bore goes through parts that lie in a plane",
        "trace": "what is traced lies in a plane",
    }
    made: Made = Field(default="bought", description="printed, turned: as the shop makes one itself")
    stock: str = Field(default="", description="what it is made of, where it is of one of the stocks")
    price: float = Field(default=0.0, ge=0, description="of one")
    mass: float | None = Field(default=None, ge=0, description="in g; from its stock's density where not said")
    deep: ClassVar[None] = None
    frame: str
    point: str
    sockets: dict[Key, Socket] = Field(min_length=1, max_length=MAX_SOCKETS)
    wall: Entry = asked("Wall", Entry(text="3 mm"), note="of its sockets", place=1)
    base: Entry | None = asked("Plate", None, note="diameter of the plate that a foot stands on", blank="none", place=2)
    base_thick: Entry = asked("Plate's thickness", Entry(text="4 mm"), place=2)
    another: int = asked(
        "Way it stands", 0, note="the next of the ways in which its sockets lie on the lines", suffix=" on", ge=0, le=95, place=3
    )
    turn: Entry = asked("Turned about its first line", Entry(text="0"), note="right-hand, away from the point", kind="angle", place=4)
    held: Literal["screwed", "glued", "pressed", "dry"] = asked("Its tubes are", "screwed", words=_HELD, place=5)
    solid: Solid | None = Field(default=None, description="its shape as it was read from a file")
    middle: dict[Axis, Entry] = Field(
        default_factory=dict, description="where of that shape, from its low corner, the point of its lines is"
    )

    def ends(self) -> list[End]:
        """None of its own: its point says where it lies."""
        return []

    def own_fault(self) -> tuple[str, Any, str] | None:
        """It has no turns beside its lines; each socket is right by itself; a shape says where its point is."""
        if self.turns:
            return (
                "turns",
                len(self.turns),
                "a connector turns onto its lines; turn it about its first line, or the group that its frame lies in",
            )
        for key, socket in self.sockets.items():
            fault = socket.fault()
            if fault:
                return f"sockets/{key}/{fault[0]}", *fault[1:]
        if set(self.middle) not in (set(), {"x", "y", "z"}):
            return "middle", sorted(self.middle), "the point of a shape has a place along x, y and z"
        return None
