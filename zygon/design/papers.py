"""Records of papers: how the design's sheets are set out, and what a maker changed on one. Sheets follow from the design; only what is otherwise is kept.

A sheet is called by its subject: ``whole``, ``part:KEY`` (the instance that stands for its like), ``flat:KEY``, ``list:NAME``, ``sheet:STOCK:N``,
``template:KEY:END`` (a, b, whole). What stands on it is called by names made of what it is bound to, never by where it lies.
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from zygon.design.parts.listed import Key
from zygon.limits import MAX_PAPER_EDITS, MAX_PAPER_NOTE, MAX_PAPERS
from zygon.measure.asked import asked
from zygon.measure.entry import Record

__all__ = ["AddedDimension", "Datum", "DimensionSaid", "PaperFormat", "PaperNote", "Papers", "Places", "SectionSaid", "Shift", "SheetSaid"]

PaperFormat = Literal["A4", "A3", "A2", "A1", "A0", "ANSI A", "ANSI B", "ANSI C", "ANSI D"]
#: From which corner places are measured, as the view is seen.
Datum = Literal["low left", "low right", "high left", "high right"]
Places = Literal["coordinates", "base line", "chain"]
Millimetres = Annotated[float, Field(ge=-2000, le=2000)]
#: What a name of something on a sheet may be as long as.
Name = Annotated[str, Field(min_length=1, max_length=300)]

FORMAT_WORDS = {
    "A4": "A4, upright",
    "A3": "A3",
    "A2": "A2",
    "A1": "A1",
    "A0": "A0",
    "ANSI A": "A, 8.5 × 11 in, upright",
    "ANSI B": "B, 17 × 11 in",
    "ANSI C": "C, 22 × 17 in",
    "ANSI D": "D, 34 × 22 in",
}
PLACES_WORDS = {"coordinates": "Coordinates along a line", "base line": "Each from the datum", "chain": "In chains"}


class Shift(Record):
    """How far something is moved from where it would stand, mm on the paper."""

    x: Millimetres = 0.0
    y: Millimetres = 0.0


class DimensionSaid(Record):
    """What is said of a dimension: left out, moved, or with words round its figure."""

    title: ClassVar[str] = "Dimension"

    out: bool = False
    shift: Shift = Shift()
    before: str = asked("Before", "", note="words in front of the figure", max_length=40)
    after: str = asked("After", "", note="words behind the figure", max_length=80)
    tolerance: str = asked("Tolerance", "", note="±0.1, +0.2/0, or a class of ISO 286 such as H7", max_length=20)
    both: bool = asked("In both units", False)


class AddedDimension(Record):
    """A dimension put in by hand, between two anchors of a view; it waits while one of them is not there."""

    view: Name
    a: Name
    b: Name
    way: Literal["x", "y", "straight"] = "straight"
    line: Millimetres = Field(default=0.0, description="how far its line stands off, mm on the paper; 0 where there is room")
    order: int = 0


class PaperNote(Record):
    """Words on a sheet, with a leader to an anchor where one is named; ``at`` from the lower left corner of the paper, mm."""

    title: ClassVar[str] = "Note"

    note: str = asked("Note", "", max_length=MAX_PAPER_NOTE)
    at: Shift = Shift()
    wide: float = asked("Wide, mm", 80.0, ge=20, le=400)
    view: str = Field(default="", max_length=300)
    anchor: str = Field(default="", max_length=300)
    order: int = 0


class SectionSaid(Record):
    """A section: cut along an upright or a level line of a view, through a named place of it, or its middle; seen from the left or from above, flipped from the other side."""

    title: ClassVar[str] = "Section"

    view: Literal["front", "left", "top"] = "front"
    way: Literal["x", "y"] = asked("Cut", "x", words={"x": "Upright", "y": "Level"})
    through: str = Field(default="", max_length=300, description="an anchor of the view; '' for its middle")
    flipped: bool = asked("Seen from the other side", False)
    order: int = 0


class SheetSaid(Record):
    """What is said of a sheet: each field only where it is otherwise than by itself."""

    title: ClassVar[str] = "Sheet"

    out: bool = asked("Leave it out", False)
    size: PaperFormat | None = asked("Paper", None, blank="as the set", words=FORMAT_WORDS)
    scale: str = asked("Scale", "", blank="what fits", max_length=12)
    called: str = asked("Title", "", blank="its own", max_length=80)
    hidden: bool | None = Field(default=None, description="hidden edges; None as the set")
    places: Places | None = asked("Places of holes", None, blank="as the set", words=PLACES_WORDS)
    datum: Datum = asked("Measured from", "low left")
    bare: bool = Field(default=False, description="without the dimensions that are put in by themselves")
    dimensions: dict[Name, DimensionSaid] = Field(default_factory=dict, max_length=MAX_PAPER_EDITS)
    added: dict[Key, AddedDimension] = Field(default_factory=dict, max_length=MAX_PAPER_EDITS)
    moved: dict[Name, Shift] = Field(default_factory=dict, max_length=MAX_PAPER_EDITS)
    notes: dict[Key, PaperNote] = Field(default_factory=dict, max_length=100)
    sections: dict[Key, SectionSaid] = Field(default_factory=dict, max_length=8)


class Papers(Record):
    """How the design's sheets are set out."""

    title: ClassVar[str] = "Papers"

    size: PaperFormat = asked("Paper", "A3", words=FORMAT_WORDS)
    angle: Literal["first", "third"] = asked("Views lie in", "first", words={"first": "First angle", "third": "Third angle"})
    hidden: bool = asked("Hidden edges", True)
    places: Places = asked("Places of holes", "coordinates", words=PLACES_WORDS)
    tolerance: Literal["", "f", "m", "c", "v"] = asked(
        "General tolerances on metal",
        "m",
        note="ISO 2768-1",
        words={"": "None said", "f": "Fine", "m": "Medium", "c": "Coarse", "v": "Very coarse"},
    )
    on_wood: bool = asked("The same on wood", False)
    number: str = asked("Drawing number", "", note="begins the number of every sheet", max_length=30)
    revision: str = asked("Revision", "", max_length=10)
    date: str = asked("Date", "", blank="as issued", max_length=20)
    owner: str = asked("Workshop", "", max_length=60)
    drawn: str = asked("Drawn by", "", max_length=40)
    checked: str = asked("Checked by", "", max_length=40)
    issued: bool = Field(default=False, description="set in what is issued alone")
    note: str = asked("Note on every sheet", "", max_length=400)
    sheets: dict[Name, SheetSaid] = Field(default_factory=dict, max_length=MAX_PAPERS)
