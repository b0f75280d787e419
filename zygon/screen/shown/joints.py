"""Joints as a screen draws and offers them, and how a design is put together; lengths in mm."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from typing_extensions import TypedDict


class FigureShape(TypedDict):
    part: Literal["a", "b"]
    d: str


class FigureView(TypedDict):
    """A section in mm, y down, within width and height."""

    title: str
    width: float
    height: float
    shapes: list[FigureShape]


class FigureFact(TypedDict):
    label: str
    value: float
    kind: str


class Figure(TypedDict):
    """A joint drawn to its real values."""

    title: str
    views: list[FigureView]
    facts: list[FigureFact]


class ShownOffer(TypedDict):
    """A joint that two boards could have; ``refused`` says why not, ``note`` what the chosen cutter cannot do about it."""

    kind: str
    order: str
    title: str
    refused: str
    note: str
    contact: str


class ShownSlide(TypedDict):
    """Parts slid home together: from ``start`` (x, y, z in mm from their place) to their place."""

    parts: list[str]
    way: str
    start: Sequence[float]
    distance: float


class ShownLoose(TypedDict):
    part: str
    ways: list[str]
    kept_by: str


class ShownDrop(TypedDict):
    part: str
    height: float
    onto: str


class ShownSetStep(TypedDict):
    """A set that is put in, by its bore and the number of its place."""

    bore: str
    place: int


class ShownAssembly(TypedDict):
    """How a design is put together; ``sets`` go in behind the first parts and behind each step."""

    first: list[str]
    steps: list[ShownSlide]
    locked: list[list[str]]
    loose: list[ShownLoose]
    drops: list[ShownDrop]
    sets: list[list[ShownSetStep]]


class ShownOnAxis(TypedDict):
    """A part that an axis passes through, and how: square to it, at an angle, or by its edge."""

    part: str
    how: Literal["square", "angle", "edge"]
