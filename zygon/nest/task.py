"""What nesting is asked and what it answers: shapes, sheets, rules; placements. The door between the engine and everybody else.

A placement mirrors (x to -x) where so said, turns by ``angle`` counter-clockwise about the shape's origin, then moves by x, y (mm).
The sheet's corner is at 0, 0; x runs along its length, y across. A stronger engine takes a Task and gives a Layout.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from zygon.errors import NestError
from zygon.geometry.boolean import Region

__all__ = ["Layout", "NestSheet", "Offcut", "Placement", "Shape", "SheetLayout", "Task"]


@dataclass(frozen=True)
class Shape:
    """A flat to lay out, ``quantity`` times; ``turns`` are the angles (radians) that it may take."""

    name: str
    region: Region
    quantity: int = 1
    turns: tuple[float, ...] = (0.0,)


@dataclass(frozen=True)
class NestSheet:
    """A sheet's length (along x) and width in mm; a roll has an infinite length. An offcut has an outline, with its low corner at 0, 0."""

    length: float
    width: float
    name: str = ""
    price: float = 1.0
    outline: Region | None = None

    @property
    def area(self) -> float:
        """Area in mm²; of a roll infinite."""
        return self.outline.area if self.outline else self.length * self.width

    @property
    def roll(self) -> bool:
        """Whether it has no end."""
        return math.isinf(self.length)


@dataclass(frozen=True)
class Task:
    """Shapes for one stock on one kind of sheet. ``gap`` is the least distance between parts, ``margin`` to the sheet's edges.

    ``sheet`` is there as often as it is needed, up to ``max_sheets``; ``stock`` are single sheets and offcuts that are used before it, the first ones
    first. The search takes ``seconds``, or just so many ``rounds`` where that is not 0, on ``workers`` processes.

    Raises NestError where it makes no sense.
    """

    shapes: tuple[Shape, ...]
    sheet: NestSheet
    gap: float = 0.0
    margin: float = 0.0
    seed: int = 1
    seconds: float = 2.0
    max_sheets: int = 200
    rounds: int = 0
    workers: int = 1
    stock: tuple[NestSheet, ...] = ()

    def __post_init__(self) -> None:
        for name, value, low in (("gap", self.gap, 0.0), ("margin", self.margin, 0.0), ("time", self.seconds, 1e-3)):
            if not math.isfinite(value) or value < low:
                raise NestError(
                    f"{name}: {value:g} is not allowed; it is at least {low:g}", entry=name, value=value, rule=f"at least {low:g}"
                )
        sides = [(n, v) for s in (self.sheet, *self.stock) for n, v in (("sheet length", s.length), ("sheet width", s.width))]
        for name, value in sides:
            if math.isnan(value) or value <= 2 * self.margin or (name == "sheet width" and math.isinf(value)):
                rule = "greater than both margins"
                raise NestError(f"{name}: {value:g} mm is not allowed; it is {rule}", entry=name, value=value, rule=rule)


@dataclass(frozen=True)
class Placement:
    """Copy ``copy`` (from 0) of shape ``shape`` (index in the task) on a sheet."""

    shape: int
    copy: int
    x: float
    y: float
    angle: float
    mirrored: bool = False


@dataclass(frozen=True)
class Offcut:
    """A rectangle that stays whole, in the sheet's coordinates."""

    x: float
    y: float
    length: float
    width: float


@dataclass(frozen=True)
class SheetLayout:
    """One sheet; ``used_length`` is how far along x it is used, margin included."""

    sheet: NestSheet
    placements: tuple[Placement, ...]
    used_length: float
    offcut: Offcut | None = None


@dataclass(frozen=True)
class Layout:
    """The answer: sheets, how many copies of which shape found no place, and how the search went.

    ``share`` is the parts' area over the area of the sheets used (of rolls: of the used length). ``passes`` rounds were searched;
    ``stopped`` where the search was told to end.
    """

    sheets: tuple[SheetLayout, ...]
    unplaced: dict[int, int] = field(default_factory=dict)
    share: float = 0.0
    passes: int = 0
    stopped: bool = False
