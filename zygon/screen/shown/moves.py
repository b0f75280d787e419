"""What moves, as screens are told of it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from typing_extensions import TypedDict

__all__ = ["ShownKnot", "ShownLies", "ShownMove", "ShownMoves", "ShownMoveEntry", "ShownPosition", "ShownStop", "ShownThing", "ShownTravel"]


class ShownThing(TypedDict):
    """A rigid thing: its pieces by id (a part's key; with '~b' behind it its second leaf, with '~sets' the sets that it holds), and its parts."""

    key: str
    pieces: list[str]
    parts: list[str]


class ShownMoveEntry(TypedDict):
    """Something that is said of a movement: its entry's text, and its value (radians or mm)."""

    text: str
    value: float | None


class ShownMove(TypedDict):
    """A movement: about the line through ``at`` along ``way`` (x, y, z in mm at rest), or along it. ``on`` is the movement that carries it, '' for none.

    ``group`` are the movements that go where it goes, by key, itself among them. ``said`` is the key of what is said of it, '' for nothing.
    """

    key: str
    kind: Literal["turns", "slides"]
    thing: str
    on: str
    way: Sequence[float]
    at: Sequence[float]
    pitch: float
    name: str
    words: str
    parts: list[str]
    carrier: str
    group: list[str]
    said: str
    entries: dict[str, ShownMoveEntry]
    follows: str
    ratio: str
    now: float


class ShownLies(TypedDict):
    """A thing that lies on others, or is held by nothing."""

    parts: list[str]
    words: str


class ShownPosition(TypedDict):
    """A position with a name: how far movements are moved, by their keys."""

    key: str
    name: str
    at: dict[str, float]


class ShownMoves(TypedDict):
    """All that moves. ``still`` are the parts of what stands still."""

    things: list[ShownThing]
    still: list[str]
    chosen: bool
    moves: list[ShownMove]
    loose: list[ShownLies]
    positions: list[ShownPosition]


class ShownStop(TypedDict):
    """Where a movement ends: so far from rest, why, what meets, and where (x, y, z in mm)."""

    by: float
    why: Literal["strikes", "limit", "out", "round", "loop"]
    parts: list[str]
    at: Sequence[float] | None
    words: str


class ShownKnot(TypedDict):
    """How far the movements of a group have gone where the one has gone by so much."""

    by: float
    at: dict[str, float]


class ShownTravel(TypedDict):
    """How far a movement goes from rest; ``track`` is how those that go with it go, straight between its knots. ``play`` is a shaft's end play in words."""

    low: ShownStop
    high: ShownStop
    words: str
    play: str
    track: list[ShownKnot]
