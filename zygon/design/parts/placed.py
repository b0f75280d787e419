"""What all parts have that lie in the room between places."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Literal

from pydantic import Field

from zygon.design.layout import Turn
from zygon.design.parts.listed import Key, ListedPart
from zygon.geometry.frame import FACES
from zygon.measure.entry import Entry, Record

__all__ = ["Axis", "End", "PlacedPart", "Span", "Work", "ends_along"]

Axis = Literal["x", "y", "z"]
#: What is done to a part from elsewhere in the document: it is joined, a bore goes through it, another part's outline follows its own.
Work = Literal["joint", "bore", "trace"]


class Span(Record):
    """From where to where a part runs along one axis."""

    low: Entry
    high: Entry


@dataclass(frozen=True)
class End:
    """An entry that says where a part lies along an axis: its low or high end there, or where the one place lies by which it is put across its run.

    ``where`` are the steps to the entry from the part; ``face`` is the word for the place.
    """

    axis: str
    side: Literal["low", "high", "at"]
    entry: Entry
    where: tuple[str, ...]
    face: str


def ends_along(axis: Axis, span: Span, at: Mapping[Axis, Entry]) -> list[End]:
    """The two ends of what runs along an axis, and its centre line along the two other axes."""
    low, high = FACES[axis]
    run = [End(axis, "low", span.low, ("span", "low"), low), End(axis, "high", span.high, ("span", "high"), high)]
    return run + [End(other, "at", entry, ("at", other), "centre") for other, entry in at.items()]


class PlacedPart(ListedPart):
    """A part between places in the room. Where it does not run between two, it is as deep there as its stock or itself."""

    #: the kind of stock that it is cut from
    cut_from: ClassVar[str]
    #: what is not done to a part of this kind, each with the rule that says why
    declines: ClassVar[Mapping[Work, str]] = {}

    stock: str
    aside: bool = Field(default=False, description="a test piece or jig that lies beside the design and takes no part in it")
    turns: dict[Key, Turn] = Field(default_factory=dict, max_length=4, description="out of its place at rest, one after the other")

    @abstractmethod
    def ends(self) -> list[End]:
        """Every entry that says where it lies, axis by axis."""

    def own_fault(self) -> tuple[str, Any, str] | None:
        """What is wrong with the record by itself: the field, its value and the rule; None for nothing."""
        return None

    @property
    def width_along(self) -> str:
        """The axis along which the width of its section lies, where it has one."""
        return ""

    @property
    def across(self) -> tuple[str, ...]:
        """The axes along which one place says where it lies."""
        return tuple(e.axis for e in self.ends() if e.side == "at")
