"""Records of papers: how the design's sheets are set out, and what a maker changed on one. Sheets follow from the design; only what is otherwise is kept.

A sheet is called by its subject: ``whole``, ``part:KEY`` (the instance that stands for its like), ``flat:KEY``, ``list:NAME``, ``sheet:STOCK:N``,
``template:KEY:END`` (a, b, whole), ``steps:N``, ``cover``, ``own:KEY`` (put in by hand). What stands on it is called by names made of what it is bound to, never by where it lies.
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from zygon.design.parts.listed import Key
from zygon.limits import MAX_PAPER_EDITS, MAX_PAPER_NOTE, MAX_PAPERS
from zygon.measure.asked import asked
from zygon.measure.entry import Record

__all__ = [
    "AddedDimension",
    "BlockField",
    "Datum",
    "DetailSaid",
    "DimensionSaid",
    "InPlace",
    "LetterFace",
    "OwnSheet",
    "PaperFormat",
    "PaperLook",
    "PaperNote",
    "PaperTemplate",
    "Papers",
    "PaperSymbol",
    "Places",
    "SectionSaid",
    "SectionTurn",
    "SeenFrom",
    "Shift",
    "SheetSaid",
    "ViewSaid",
]

PaperFormat = Literal["A4", "A3", "A2", "A1", "A0", "ANSI A", "ANSI B", "ANSI C", "ANSI D"]
#: From which corner places are measured, as the view is seen.
Datum = Literal["low left", "low right", "high left", "high right"]
Places = Literal["coordinates", "base line", "chain", "table"]
#: From where a view looks; corners from above ('corner' is the front right one) and from below ('under').
SeenFrom = Literal[
    "front",
    "back",
    "left",
    "right",
    "top",
    "bottom",
    "corner",
    "corner front left",
    "corner back right",
    "corner back left",
    "under front right",
    "under front left",
    "under back right",
    "under back left",
]
PaperSymbol = Literal["", "surface", "machined", "not machined", "fillet weld", "butt weld", "spot weld", "grain"]
#: Letters as they are, or cut narrow.
LetterFace = Literal["", "narrow"]
#: Fields of the title block that may be left out; those that ISO 7200 asks for stay.
BlockField = Literal["checked", "status", "tolerance", "stock", "finished", "mass", "pieces", "grain"]
Millimetres = Annotated[float, Field(ge=-2000, le=2000)]
#: What a name of something on a sheet may be as long as.
Name = Annotated[str, Field(min_length=1, max_length=300)]
#: A SHA-256 in hexadecimal, or nothing.
PICTURE = r"^([0-9a-f]{64})?$"

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
PLACES_WORDS = {
    "coordinates": "Coordinates along a line",
    "base line": "Each from the datum",
    "chain": "In chains",
    "table": "In a table of holes",
}
LOOK_WORDS: dict[str, str] = {
    "front": "From the front",
    "back": "From the back",
    "left": "From the left",
    "right": "From the right",
    "top": "From above",
    "bottom": "From below",
    "corner": "Front right, from above",
    "corner front left": "Front left, from above",
    "corner back right": "Back right, from above",
    "corner back left": "Back left, from above",
    "under front right": "Front right, from below",
    "under front left": "Front left, from below",
    "under back right": "Back right, from below",
    "under back left": "Back left, from below",
}
SYMBOL_WORDS: dict[str, str] = {
    "": "none",
    "surface": "Surface, any way",
    "machined": "Surface, material taken off",
    "not machined": "Surface, as it comes",
    "fillet weld": "Fillet weld",
    "butt weld": "Square butt weld",
    "spot weld": "Spot weld",
    "grain": "Way of the grain",
}


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
    """A dimension put in by hand, between two anchors of a view; it waits while one of them is not there. An angle is at ``a``, from ``b`` to ``c``."""

    view: Name
    a: Name
    b: Name
    c: str = Field(default="", max_length=300)
    way: Literal["x", "y", "straight", "angle"] = "straight"
    line: Millimetres = Field(default=0.0, description="how far its line stands off, mm on the paper; 0 where there is room")
    order: int = 0


class PaperNote(Record):
    """Words on a sheet, with a leader to an anchor where one is named; ``at`` from the lower left corner of the paper, mm."""

    title: ClassVar[str] = "Note"

    note: str = asked("Note", "", max_length=MAX_PAPER_NOTE)
    symbol: PaperSymbol = asked("Symbol", "", words=SYMBOL_WORDS, note="ISO 21920-1, ISO 2553; the note stands with it")
    at: Shift = Shift()
    wide: float = asked("Wide, mm", 80.0, ge=20, le=400)
    view: str = Field(default="", max_length=300)
    anchor: str = Field(default="", max_length=300)
    order: int = 0


class SectionTurn(Record):
    """Where a stepped section goes on: beyond the place ``after`` along its line it runs through another; both are anchors of its view."""

    after: Name
    through: Name


class SectionSaid(Record):
    """A section: cut along an upright or a level line of a view, through a named place of it, or its middle; seen from the left or from above, flipped from the other side.

    A stepped one goes on through other places, from low to high along its line.
    """

    title: ClassVar[str] = "Section"

    view: Literal["front", "left", "top"] = "front"
    way: Literal["x", "y"] = asked("Cut", "x", words={"x": "Upright", "y": "Level"})
    through: str = Field(default="", max_length=300, description="an anchor of the view; '' for its middle")
    flipped: bool = asked("Seen from the other side", False)
    turns: list[SectionTurn] = Field(default_factory=list, max_length=4)
    order: int = 0


class ViewSaid(Record):
    """A view put on a sheet by hand: of what the sheet is of, of a part or a group, or of the whole at a step of its assembly, in its place or pulled apart."""

    title: ClassVar[str] = "View"

    look: SeenFrom = asked("Seen from", "corner", words=LOOK_WORDS)
    of: str = Field(default="", max_length=80, description="'' for what the sheet is of; 'part:KEY' of an instance, 'group:KEY'")
    step: int = Field(default=0, ge=0, le=10_000, description="up to which step of the assembly; 0 for all of it")
    apart: float = asked("Pulled apart", 0.0, ge=0, le=1, step=0.1, note="0 together, 1 far apart")
    scale: str = asked("Scale", "", blank="as the sheet", max_length=12)
    called: str = asked("Words", "", blank="by itself", max_length=80)
    hidden: bool = asked("Hidden edges", False)
    balloons: bool = asked("Balloons", False)
    order: int = 0


class DetailSaid(Record):
    """What lies in a circle round a named place of a view, drawn larger beside it."""

    title: ClassVar[str] = "Detail"

    view: Name
    at: Name
    across: float = asked("Circle, mm of the part", 20.0, ge=0.5, le=5000)
    scale: str = asked("Scale", "", blank="what shows it well", max_length=12)
    order: int = 0


class OwnSheet(Record):
    """A sheet put into the set by hand; its views are said as those of any sheet."""

    title: ClassVar[str] = "Sheet"

    called: str = asked("Title", "Views", max_length=80)
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
    broken: bool | None = Field(default=None, description="what is long is broken where nothing is; None as the set")
    without: list[Name] = Field(default_factory=list, max_length=20, description="its own views that are left out")
    columns: dict[Name, list[Name]] = Field(
        default_factory=dict, max_length=20, description="of a table, by its name: which columns it has, in order"
    )
    dimensions: dict[Name, DimensionSaid] = Field(default_factory=dict, max_length=MAX_PAPER_EDITS)
    added: dict[Key, AddedDimension] = Field(default_factory=dict, max_length=MAX_PAPER_EDITS)
    moved: dict[Name, Shift] = Field(default_factory=dict, max_length=MAX_PAPER_EDITS)
    notes: dict[Key, PaperNote] = Field(default_factory=dict, max_length=100)
    sections: dict[Key, SectionSaid] = Field(default_factory=dict, max_length=8)
    views: dict[Key, ViewSaid] = Field(default_factory=dict, max_length=12)
    details: dict[Key, DetailSaid] = Field(default_factory=dict, max_length=8)


class InPlace(Record):
    """What stands in place of a field of the title block; nothing where both are empty: then its neighbours have its room."""

    title: ClassVar[str] = "Field of the title block"

    label: str = asked("Label", "", max_length=24)
    text: str = asked("Words", "", max_length=60)


class PaperLook(Record):
    """What papers of a workshop look alike in: paper, projection, how places are measured, what stands in the title block of all, its logo, letters, lines."""

    title: ClassVar[str] = "Papers"

    size: PaperFormat = asked("Paper", "A3", words=FORMAT_WORDS)
    angle: Literal["first", "third"] = asked("Views lie in", "first", words={"first": "First angle", "third": "Third angle"})
    hidden: bool = asked("Hidden edges", True)
    places: Places = asked("Places of holes", "coordinates", words=PLACES_WORDS)
    broken: bool = asked("Break what is long", False, note="where nothing is to be seen")
    tolerance: Literal["", "f", "m", "c", "v"] = asked(
        "General tolerances on metal",
        "m",
        note="ISO 2768-1",
        words={"": "None said", "f": "Fine", "m": "Medium", "c": "Coarse", "v": "Very coarse"},
    )
    on_wood: bool = asked("The same on wood", False)
    owner: str = asked("Workshop", "", max_length=60)
    drawn: str = asked("Drawn by", "", max_length=40)
    checked: str = asked("Checked by", "", max_length=40)
    note: str = asked("Note on every sheet", "", max_length=400)
    letters: Literal["", "2.5", "3.5", "5"] = asked(
        "Letters",
        "",
        note="height of capitals, ISO 3098-1",
        words={"": "By the paper", "2.5": "2.5 mm", "3.5": "3.5 mm", "5": "5 mm"},
    )
    sloped: bool = asked("Sloping letters", False, note="15° from upright, ISO 3098-1")
    face: LetterFace = asked("Width of letters", "", words={"": "As they are", "narrow": "Narrow"})
    lines: Literal["0.35", "0.5", "0.7"] = asked(
        "Wide lines", "0.5", note="line group of ISO 128-2", words={"0.35": "0.35 mm", "0.5": "0.5 mm", "0.7": "0.7 mm"}
    )
    block: dict[BlockField, InPlace] = Field(
        default_factory=dict, description="fields of the title block that are left out, with what stands in their place"
    )
    logo: str = Field(default="", pattern=PICTURE, description="in the title block: the digest of a picture that is kept with the design")


class PaperTemplate(PaperLook):
    """The papers of a workshop under a name; ``always`` where every new design begins with it."""

    title: ClassVar[str] = "Template of papers"

    name: str = asked("Name", "Ours", max_length=60)
    always: bool = asked("New designs begin with it", False)


class Papers(PaperLook):
    """How the design's sheets are set out."""

    number: str = asked("Drawing number", "", note="begins the number of every sheet", max_length=30)
    revision: str = asked("Revision", "", max_length=10)
    date: str = asked("Date", "", blank="as issued", max_length=20)
    issued: bool = Field(default=False, description="set in what is issued alone")
    steps: bool = asked("Sheets of the assembly's steps", False)
    cover: bool = asked("Cover sheet", False, note="for a customer: picture and figures")
    words: str = asked("Words on the cover", "", max_length=600)
    price: str = asked("Price on the cover", "", blank="none", max_length=40)
    picture: str = Field(default="", pattern=PICTURE, description="of the cover: the digest of a picture that is kept with the design")
    own: dict[Key, OwnSheet] = Field(default_factory=dict, max_length=50)
    sheets: dict[Name, SheetSaid] = Field(default_factory=dict, max_length=MAX_PAPERS)
