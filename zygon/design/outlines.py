"""Records of outlines that are not rectangles; each fills the board's spans. A free outline with relations will be one more kind here."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zygon.measure.entry import Entry, Record

__all__ = ["Disc", "Drawn", "Link", "Outline", "Ring", "Traced"]

#: x, y and the bulge of the line or arc that starts there, in mm.
Vertex = Annotated[list[float], Field(min_length=3, max_length=3)]
Loop = Annotated[list[Vertex], Field(min_length=2, max_length=4000)]


class Disc(Record):
    """A round board as wide as its spans."""

    kind: Literal["disc"] = "disc"


class Ring(Record):
    """A disc with a round opening about its centre."""

    kind: Literal["ring"] = "ring"
    inner: Entry = Field(description="diameter of the opening")


class Link(Record):
    """Two circles joined by their tangents, one at either end of the longer span, with a bore in each."""

    kind: Literal["link"] = "link"
    low: Entry | None = Field(default=None, description="diameter of the low end; the shorter span where not said")
    high: Entry | None = Field(default=None, description="diameter of the high end; the shorter span where not said")
    bore_low: Entry | None = None
    bore_high: Entry | None = None


class Drawn(Record):
    """An outline taken over from a drawing; its low corner lies at the spans' low ends."""

    kind: Literal["drawn"] = "drawn"
    source: str = Field(default="", max_length=120, description="name of the file that it came from")
    outer: Loop
    inner: list[Loop] = Field(default_factory=list, max_length=500)


class Traced(Record):
    """The outer edges of a parallel board, ``offset`` outward; its own spans are not asked for."""

    kind: Literal["traced"] = "traced"
    part: str = Field(description="part key")
    offset: Entry = Entry(text="0")


Outline = Annotated[Disc | Ring | Link | Drawn | Traced, Field(discriminator="kind")]
