"""Records of what moves: corrections of what is found, where things are moved to, and what is asked of a movement. Geometry stays at rest; a movement is laid over it."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from zygon.design.layout import Axis
from zygon.design.parts.listed import Key
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record

__all__ = ["Follows", "Move", "MoveKind", "Position", "Tie"]

MoveKind = Literal["turns", "slides"]


class Tie(Record):
    """Two parts, by instance key, that are one thing, or that are free of one another, otherwise than is found."""

    order: int = 0
    a: str
    b: str
    how: Literal["held", "free"]
    out: bool = False


class Follows(Record):
    """A movement that follows another: it goes ``ratio`` times as far (radians for mm, and the other way)."""

    move: Key
    ratio: Entry = Entry(text="1")


class Move(Record):
    """What is said of the movement of a part's thing: how far it is moved, between which limits it may, what is asked of it.

    ``axis`` tells movements of one kind apart where a thing has several; '' the first.
    """

    title: ClassVar[str] = "Movement"

    name: str = Field(min_length=1, max_length=40)
    order: int = 0
    out: bool = False
    part: str = Field(description="instance key of a part of what moves; of a leaf of hardware with what its id ends in")
    kind: MoveKind
    axis: Axis | Literal[""] = ""
    to: Entry | None = asked("Moved to", None, note="from where it is drawn", blank="where it is drawn")
    least: Entry | None = asked("Not under", None, note="a limit of its own", blank="its stop")
    most: Entry | None = asked("Not over", None, note="a limit of its own", blank="its stop")
    play_least: Entry | None = asked("End play at least", None, note="along a shaft, between its stops", blank="not asked")
    play_most: Entry | None = asked("End play at most", None, note="along a shaft, between its stops", blank="not asked")
    clear: Entry | None = asked("Never nearer than", None, note="to anything else between its limits", blank="not asked")
    follows: Follows | None = None


class Position(Record):
    """A named position: how far each of some movements is moved; others are where they are drawn."""

    name: str = Field(min_length=1, max_length=40)
    order: int = 0
    at: dict[Key, Entry] = Field(default_factory=dict, max_length=100)
