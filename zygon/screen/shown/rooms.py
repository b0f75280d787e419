"""Where another board would find room, and what a board touches, as a screen is told of it; lengths in mm."""

from __future__ import annotations

from typing_extensions import TypedDict

from zygon.screen.shown.joints import ShownOffer


class ShownBound(TypedDict):
    """Where a room ends: its place, as an entry writes it, the part there ('' where nothing bounds it), and whether that slopes."""

    value: float
    entry: str
    part: str
    slopes: bool


class ShownCatch(TypedDict):
    """A place at which a board catches: where its low face lies, the face by which its place is said, the entry, what it is in words, how likely (0 most)."""

    low: float
    face: str
    entry: str
    words: str
    rank: int


class ShownRoom(TypedDict):
    """A free box by axis, low and high; ``open`` are the axes along which nothing bounds its far end."""

    x: list[ShownBound]
    y: list[ShownBound]
    z: list[ShownBound]
    open: list[str]
    catches: list[ShownCatch]


class ShownRooms(TypedDict):
    """The rooms before a face that lies ``at`` along ``axis`` and looks ``outward`` (1 or -1), for a board ``thickness`` thick; ``why`` there is none elsewhere."""

    rooms: list[ShownRoom]
    axis: str
    at: float
    outward: int
    thickness: float
    why: str


class ShownPullCatch(TypedDict):
    """A place along the axis at which what is pulled catches, and the entry that names it."""

    value: float
    entry: str


class ShownBarred(TypedDict):
    """A place (mm) that what is pulled cannot name, and why."""

    value: float
    why: str


class ShownPull(TypedDict):
    """What can be pulled of a part: the ``face`` that moves along ``axis`` from ``value``, and the entry at ``pointer`` that changes.

    That entry is ``base`` and a constant behind it (mm), which is written in ``word`` ('' where it stands bare; ``factor`` mm are one, rounded to
    so many ``places``). ``whole``: a catch replaces all of it. Of a size ``size`` is the name, and ``follow`` how many other entries follow it.
    """

    face: str
    axis: str
    value: float
    pointer: str
    base: str
    constant: float
    word: str
    factor: float
    places: int
    whole: bool
    catches: list[ShownPullCatch]
    barred: list[ShownBarred]
    size: str
    follow: int
    unit: str


class ShownMark(TypedDict):
    """Something along one way of a face, ``value`` mm from the board's low end: an ``edge``, or what a feature catches on, placed from ``origin`` by ``text``."""

    value: float
    words: str
    origin: str
    text: str
    edge: bool


class ShownFeaturePull(TypedDict):
    """A feature's place along ``way`` ('u' or 'v'): ``value`` mm from the low end, which its offset says from ``origin``, to the high end where ``sign`` is 1.

    The offset at ``pointer``/offset is taken apart as a pull's entry is.
    """

    way: str
    axis: str
    value: float
    sign: int
    pointer: str
    origin: str
    base: str
    constant: float
    word: str
    factor: float
    places: int
    whole: bool
    marks: list[ShownMark]


class ShownExtent(TypedDict):
    """A measure of a feature across its middle, which grows to both sides of it along ``way`` (u, v)."""

    pull: ShownPull
    way: list[float]


class ShownFeaturePulls(TypedDict):
    """Where a feature is, as (u, v, w) on its part, the ways that it can be dragged, and the measures that can be pulled."""

    at: list[float]
    pulls: list[ShownFeaturePull]
    extents: list[ShownExtent]


class ShownTouch(TypedDict):
    """Another part that a board meets, how, and the joints that are possible there, best first."""

    part: str
    path: str
    contact: str
    offers: list[ShownOffer]


class ShownSizeLine(TypedDict):
    """A distance that is a size: from ``start`` to ``end`` (mm in the room), where it is pulled, and the parts that have it."""

    start: list[float]
    end: list[float]
    parts: list[str]


class ShownSizeLines(TypedDict):
    """Where a size governs; ``pull`` is None where its value cannot be pulled."""

    size: str
    pull: ShownPull | None
    lines: list[ShownSizeLine]


class ShownEdge(TypedDict):
    """A straight edge of a board by its name, with its two ends in the board's (u, v)."""

    name: str
    start: list[float]
    end: list[float]
