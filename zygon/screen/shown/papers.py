"""Papers as screens are told of them: what is on a page as paths and texts, in mm from its upper left corner, y downward."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from typing_extensions import TypedDict

__all__ = [
    "ShownPaperAnchor",
    "ShownPaperArea",
    "ShownPaperColumn",
    "ShownPaperEntry",
    "ShownPaperPicture",
    "ShownPaperTable",
    "ShownPaperDimension",
    "ShownPaperInk",
    "ShownPaper",
    "ShownPaperSet",
    "ShownPaperPen",
    "ShownPaperSheet",
    "ShownPaperStroke",
    "ShownPaperWords",
]


class ShownPaperSheet(TypedDict):
    """A sheet of the set; ``said`` where a maker changed something on it, ``out`` where it is left out."""

    id: str
    kind: Literal["cover", "whole", "own", "steps", "part", "flat", "template", "list", "sheet"]
    title: str
    key: str
    out: bool
    said: bool


class ShownPaperPen(TypedDict):
    """A kind of line: mm wide, ink and gap in turn in mm."""

    name: str
    width: float
    dashes: Sequence[float]


class ShownPaperSet(TypedDict):
    """The set, and the kinds of lines that it is drawn with."""

    sheets: list[ShownPaperSheet]
    pens: list[ShownPaperPen]


class ShownPaperStroke(TypedDict):
    """Lines of one pen that are of one thing, as one path."""

    d: str
    pen: str
    of: str


class ShownPaperArea(TypedDict):
    """What is filled, with ink or with paper."""

    d: str
    fill: Literal["ink", "paper"]
    of: str


class ShownPaperWords(TypedDict):
    """A line of text; ``size`` is the font's in mm, ``turned`` in degrees as SVG turns, ``long`` the room that it takes in mm."""

    text: str
    x: float
    y: float
    size: float
    anchor: Literal["start", "middle", "end"]
    turned: float
    bold: bool
    long: float
    of: str


class ShownPaperPicture(TypedDict):
    """A picture that is kept with the design, by its digest, and where it stands."""

    picture: str
    x: float
    y: float
    wide: float
    high: float


class ShownPaperInk(TypedDict):
    """Ink that goes together under a name."""

    name: str
    strokes: list[ShownPaperStroke]
    areas: list[ShownPaperArea]
    words: list[ShownPaperWords]
    pictures: list[ShownPaperPicture]


class ShownPaperColumn(TypedDict):
    """A column that a table can have; those that are shown come first, in their order."""

    key: str
    head: str
    shown: bool


class ShownPaperTable(TypedDict):
    """A table on a page."""

    name: str
    columns: list[ShownPaperColumn]


class ShownPaperEntry(TypedDict):
    """The entry that a figure stands in, by its pointer, and a word for it; '' where no single entry has it."""

    entry: str
    entry_word: str


class ShownPaperDimension(ShownPaperInk, ShownPaperEntry):
    """A dimension. ``value`` in mm or radians; ``of`` is what a press on it selects; ``said`` where it was put in by hand. ``box`` is round its words: x, y, wide, high."""

    kind: Literal["linear", "ordinate", "diameter", "radius", "angle", "note"]
    value: float
    text: str
    of: str
    said: bool
    view: str
    box: Sequence[float]


class ShownPaperAnchor(TypedDict):
    """A place to which a dimension may be bound."""

    name: str
    x: float
    y: float
    along: Literal["x", "y", "both"]
    words: str
    of: str


class ShownPaper(TypedDict):
    """A page. ``fixed`` is what lies fast on it, ``views`` the lines of its views, ``movable`` what else can be moved by hand. Lines are ``wide`` times as wide as their pens."""

    subject: str
    title: str
    page: int
    scale: str
    width: float
    height: float
    fixed: ShownPaperInk
    views: list[ShownPaperInk]
    tables: list[ShownPaperTable]
    sloped: bool
    face: str
    wide: float
    movable: list[ShownPaperInk]
    dimensions: list[ShownPaperDimension]
    anchors: dict[str, list[ShownPaperAnchor]]
    faults: list[str]
