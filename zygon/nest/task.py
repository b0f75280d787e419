"""What nesting is asked and what it answers: shapes, sheets, rules; placements. The door between the engine and everybody else.

A placement mirrors (x to -x) where so said, turns by ``angle`` counter-clockwise about the shape's origin, then moves by x, y (mm).
The sheet's corner is at 0, 0; x runs along its length, y across. A stronger engine takes a Task and gives a Layout.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property

from zygon.errors import NestError
from zygon.geometry.boolean import Region
from zygon.limits import MAX_NEST_PARTS

__all__ = ["Layout", "NestSheet", "Offcut", "Placement", "Shape", "SheetLayout", "Task"]

#: The shortest search.
LEAST_SECONDS = 1e-3


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
class Shape:
    """A flat to lay out, ``quantity`` times; ``turns`` are the angles (radians) that it may take, ``mirror`` whether it may lie turned over too.

    ``free`` ones take any angle; their ``turns`` are where the search begins.
    """

    name: str
    region: Region
    quantity: int = 1
    turns: tuple[float, ...] = (0.0,)
    mirror: bool = False
    free: bool = False


@dataclass(frozen=True)
class NestSheet:
    """A sheet's length (along x) and width in mm; a roll has an infinite length. An offcut has an outline, with its low corner at 0, 0.

    ``price`` is for one sheet, of a roll for a metre. There are ``count`` of it, or as many as are needed where that is None.
    """

    length: float
    width: float
    name: str = ""
    price: float = 1.0
    outline: Region | None = None
    count: int | None = None

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
    """Shapes for one stock. ``gap`` is the least distance between parts, ``margin`` to the sheet's edges, or ``margins`` to each of them.

    ``sheet`` and the ``others`` are kinds that can be had, as often as they are needed or as there are, up to ``max_sheets`` in all; ``stock`` are single
    sheets and offcuts that are used before them, the first ones first. ``held`` placements stay where they are: each with the index of its sheet in
    ``stock``; nothing is added to the sheets in ``closed``. The search takes ``seconds``, or just so many ``rounds`` where that is not 0, on ``workers``
    processes. ``margins`` are at low x, low y, high x, high y.

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
    others: tuple[NestSheet, ...] = ()
    margins: tuple[float, float, float, float] | None = None
    held: tuple[tuple[int, Placement], ...] = ()
    closed: frozenset[int] = frozenset()

    def __post_init__(self) -> None:
        edges = [("margin", m) for m in self.edges]
        for name, value, low in (("gap", self.gap, 0.0), *((n, m, 0.0) for n, m in edges), ("time", self.seconds, LEAST_SECONDS)):
            if not math.isfinite(value) or value < low:
                raise NestError(
                    f"{name}: {value:g} is not allowed; it is at least {low:g}", entry=name, value=value, rule=f"at least {low:g}"
                )
        low_x, low_y, high_x, high_y = self.edges
        for sheet in (*self.kinds, *self.stock):
            for name, value, both in (("sheet length", sheet.length, low_x + high_x), ("sheet width", sheet.width, low_y + high_y)):
                if math.isnan(value) or value <= both or (name == "sheet width" and math.isinf(value)):
                    rule = "greater than both margins"
                    raise NestError(f"{name}: {value:g} mm is not allowed; it is {rule}", entry=name, value=value, rule=rule)
            if self.gap >= min(sheet.length, sheet.width):
                raise NestError(
                    f"gap: {self.gap:g} mm is as large as a sheet of {sheet.length:g} x {sheet.width:g} mm",
                    entry="gap",
                    value=self.gap,
                    rule="smaller than the sheet",
                )
        self._check_shapes()

    def _check_shapes(self) -> None:
        for s in self.shapes:
            if s.quantity < 1:
                raise NestError(f"{s.name}: the quantity {s.quantity} is not at least 1", entry=s.name, value=s.quantity, rule="at least 1")
            if not s.region.area > 0:
                turned = s.region.outer.area < 0
                said = "is drawn clockwise" if turned else "has no area"
                rule = "an outline that runs counter-clockwise" if turned else "an area"
                raise NestError(f"{s.name} {said}", entry=s.name, value=s.region.area, rule=rule)
        count = sum(s.quantity for s in self.shapes)
        if count > MAX_NEST_PARTS:
            rule = f"at most {MAX_NEST_PARTS} are nested at once"
            raise NestError(f"{count} parts; {rule}", entry="quantity", value=count, rule=rule)

    @property
    def kinds(self) -> tuple[NestSheet, ...]:
        """All kinds that can be had."""
        return (self.sheet, *self.others)

    @property
    def edges(self) -> tuple[float, float, float, float]:
        """Margins at low x, low y, high x, high y."""
        return self.margins or (self.margin,) * 4

    @cached_property
    def still(self) -> frozenset[tuple[int, int]]:
        """Shape and copy of what is held."""
        return frozenset((p.shape, p.copy) for _, p in self.held)

    @cached_property
    def shut(self) -> frozenset[tuple[int, int]]:
        """Shape and copy of what lies on sheets that take nothing more."""
        return frozenset((p.shape, p.copy) for n, p in self.held if n in self.closed)


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

    @property
    def cost(self) -> float:
        """What it costs; a roll by the metre."""
        return self.sheet.price * (self.used_length / 1000 if self.sheet.roll else 1.0)


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

    @property
    def tightness(self) -> float:
        """The share with the last sheet counted only as far as it is used: what a search makes better while the number of sheets stays."""
        if not self.sheets:
            return 0.0
        whole = sum(s.used_length * s.sheet.width if s.sheet.roll else s.sheet.area for s in self.sheets)
        last = self.sheets[-1]
        rest = 0.0 if last.sheet.roll or last.sheet.outline else (last.sheet.length - last.used_length) * last.sheet.width
        return self.share * whole / (whole - rest)
