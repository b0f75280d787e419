"""A stock laid out, as a screen draws it; lengths in mm."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, NotRequired

from typing_extensions import TypedDict

from zygon.nest.record import Laid


class ShownPlaced(TypedDict):
    """A part on a sheet as paths with y turned down about 0."""

    part: str
    number: int
    x: float
    y: float
    angle: float
    mirrored: bool
    locked: bool
    middle: Sequence[float]
    size: Sequence[float]
    outside: str
    inside: list[str]
    marks: list[str]
    depths: list[str]


class ShownSheet(TypedDict):
    """One sheet in mm; seconds and cost of cutting it. ``size`` is the key of its size or offcut, ``outline`` the path of an offcut.

    ``timed`` says where the figures of cutting come from: reckoned from lengths at first (empty), then from its ``program``, or for good by ``lengths`` where
    there is none.
    """

    size: str
    is_offcut: bool
    cut: bool
    outline: str
    price: float
    length: float
    width: float
    roll: bool
    used_length: float
    share: float
    parts: list[ShownPlaced]
    offcut: Sequence[float] | None
    cut_length: float
    pierces: int
    seconds: float
    cost: float
    known: bool
    timed: NotRequired[Literal["", "program", "lengths"]]


class ShownLayout(TypedDict):
    """One stock laid out; ``flats`` are the digests of its parts' flats, ``begun`` is that of the places by hand with which its sheets were timed."""

    stock: str
    stock_name: str
    tint: str
    currency: str
    digest: str
    hand: bool
    flats: dict[str, str]
    sheets: list[ShownSheet]
    share: float
    sheet_cost: float
    gap: float
    margin: float
    passes: int
    stopped: bool
    begun: NotRequired[str]
    unplaced: dict[str, int]
    reasons: dict[str, str]
    kerf: float


class KeptLayout(ShownLayout, Laid):
    """A layout as it is kept: what is shown of it, and what it takes to go on from it."""
