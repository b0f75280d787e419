"""A drawing on a part, as a screen is told of it; all places in mm in the part's own plane, from its low corner."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from typing_extensions import TypedDict

__all__ = [
    "LedDrawing",
    "ShownBackdrop",
    "ShownCandidate",
    "ShownClash",
    "ShownCurve",
    "ShownDrawing",
    "ShownDrawnFault",
    "ShownKind",
    "ShownPoint",
    "ShownReference",
    "ShownRelation",
    "ShownSaid",
    "ShownSaidAt",
    "ShownText",
]


class ShownPoint(TypedDict):
    """A point, and how it can still move: not at all, along one ``way`` (a unit vector), or every way."""

    key: str
    words: str
    at: Sequence[float]
    state: Literal["settled", "way", "free"]
    way: Sequence[float] | None


class ShownText(TypedDict):
    """What a text says, how high its capitals are and how it is turned, as they are shown."""

    text: str
    height: str
    turned: str
    font: Literal["sans", "mono"]


class ShownCurve(TypedDict):
    """A line, an arc, a circle, a smooth curve or a text. ``points`` are its points by key, ``loose`` whether its radius can change.

    A text's ``path`` has many runs: where it has an empty place, the pen is lifted.
    """

    key: str
    kind: Literal["line", "arc", "circle", "spline", "text"]
    words: str
    name: str
    helping: bool
    points: list[str]
    path: Sequence[Sequence[float]]
    loose: bool
    text: ShownText | None


class ShownSaidAt(TypedDict):
    """An entry that says where a reference lies: along which way of the plane, its pointer, and the axis of the room that is ('' for none)."""

    way: Literal["x", "y"]
    at: str
    axis: str


class ShownReference(TypedDict):
    """What the drawing refers to, by its key; ``entries`` say where it lies, none where it stays or follows something."""

    key: str
    kind: Literal["line", "circle", "point"]
    words: str
    path: Sequence[Sequence[float]]
    entries: list[ShownSaidAt]
    follows: bool


class ShownCandidate(TypedDict):
    """What the drawing may refer to, by an id that gestures name it by."""

    id: str
    kind: Literal["line", "circle", "point"]
    words: str
    path: Sequence[Sequence[float]]


class ShownRelation(TypedDict):
    """A relation; ``figure`` is what a dimension measures, as it is shown, ``line`` what it measures along, ``at`` where it is written."""

    key: str
    kind: str
    words: str
    of: list[str]
    figure: str
    entry: str
    state: Literal["holds", "measured", "out", "contradicts"]
    at: Sequence[float]
    line: Sequence[Sequence[float]]


class ShownSaid(TypedDict):
    """A relation in words."""

    key: str
    words: str
    figure: bool


class ShownClash(TypedDict):
    """The fewest relations that contradict, and which of them does not hold."""

    relations: list[ShownSaid]
    left_out: str


class ShownDrawnFault(TypedDict):
    """What keeps it from being an outline, and where."""

    words: str
    at: Sequence[float]


class ShownKind(TypedDict):
    """A kind of relation: what it is called, whether it carries a figure, and what it ties: 'p' points, 'l' lines, 'c' circles and arcs; '*' for more of the last."""

    kind: str
    words: str
    figure: bool
    takes: list[str]


class ShownBackdrop(TypedDict):
    """A picture behind the drawing: ``across`` and ``down`` are how far a pixel goes in the plane (mm), from its upper left corner ``at``; ``crop`` as in its record."""

    picture: str
    name: str
    wide: int
    high: int
    at: Sequence[float]
    across: Sequence[float]
    down: Sequence[float]
    crop: Sequence[float]
    strength: float
    locked: bool
    hidden: bool


class ShownDrawing(TypedDict):
    """A drawing with all that is told of it. ``frame`` is the motion from (u, v, w) to the room, 3 rows of 4, ``high`` the w of the face that is drawn on,
    ``side`` 1 where it is looked at against w, else -1. ``low`` and ``size`` say what of the plane is seen at first. ``name`` calls what is drawn on, ``title`` what of it.

    ``solving`` is what leading it by hand needs: the drawing, its figures, and where what it refers to lies; ``shift`` is by how much it is shown beside that.
    """

    part: str
    feature: str
    name: str
    title: str
    owner: str
    side: float
    frame: Sequence[Sequence[float]]
    high: float
    low: Sequence[float]
    size: Sequence[float]
    shift: Sequence[float]
    ways: list[str]
    where: str
    points: list[ShownPoint]
    curves: list[ShownCurve]
    references: list[ShownReference]
    candidates: list[ShownCandidate]
    relations: list[ShownRelation]
    freedoms: int
    clashes: list[ShownClash]
    twice: list[ShownSaid]
    faults: list[ShownDrawnFault]
    kinds: list[ShownKind]
    backdrop: ShownBackdrop | None
    solving: dict[str, Any]


class LedDrawing(TypedDict):
    """A drawing while it is led by hand: where its points and curves are now, and whether all that is asked holds."""

    points: dict[str, Sequence[float]]
    radii: dict[str, float]
    paths: dict[str, Sequence[Sequence[float]]]
    holds: bool
