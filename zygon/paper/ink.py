"""What stands on a paper: lines, arcs, curves, filled areas and words, in mm from its lower left corner, y upward.

Each knows what it is of: a part's instance key or an owner's id, '' for what belongs to the paper itself.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

from zygon.design.papers import LetterFace
from zygon.paper.letters import width_of
from zygon.paper.pens import Pen
from zygon.tolerance import EPS

__all__ = [
    "Anchor",
    "Arc",
    "Area",
    "Box",
    "Curve",
    "Dimension",
    "Ink",
    "Line",
    "Paper",
    "Picture",
    "Point",
    "Words",
    "box_of",
    "moved",
    "scaled",
]

Point = tuple[float, float]
Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Line:
    """From p to q."""

    pen: Pen
    p: Point
    q: Point
    of: str = ""


@dataclass(frozen=True, slots=True)
class Arc:
    """About ``centre``, from ``start`` by ``sweep`` radians, counter-clockwise where over 0; a circle sweeps 2π."""

    pen: Pen
    centre: Point
    radius: float
    start: float
    sweep: float
    of: str = ""

    def at(self, share: float) -> Point:
        """The place so far along it, 0 to 1."""
        turn = self.start + self.sweep * share
        return self.centre[0] + self.radius * math.cos(turn), self.centre[1] + self.radius * math.sin(turn)

    @property
    def full(self) -> bool:
        """Whether it is a whole circle."""
        return abs(self.sweep) > 2 * math.pi - EPS


@dataclass(frozen=True, slots=True)
class Curve:
    """Through points, as chords that lie near enough to be seen as the curve."""

    pen: Pen
    points: tuple[Point, ...]
    of: str = ""


@dataclass(frozen=True, slots=True)
class Area:
    """Filled with ink, or with the paper's own colour to clear what lies under it."""

    points: tuple[Point, ...]
    fill: Literal["ink", "paper"] = "ink"
    of: str = ""


@dataclass(frozen=True, slots=True)
class Words:
    """A line of text; ``at`` is on its base line, ``height`` that of its capitals in mm, ``turned`` counter-clockwise in radians."""

    text: str
    at: Point
    height: float
    anchor: Literal["start", "middle", "end"] = "start"
    turned: float = 0.0
    bold: bool = False
    of: str = ""

    @property
    def long(self) -> float:
        """How much room it takes along its line, mm."""
        return width_of(self.text, self.height, bold=self.bold)

    @property
    def box(self) -> Box:
        """The upright box round it."""
        low = -{"start": 0.0, "middle": 0.5, "end": 1.0}[self.anchor] * self.long
        c, s = math.cos(self.turned), math.sin(self.turned)
        corners = [(low + dx, dy) for dx in (0.0, self.long) for dy in (-0.25 * self.height, 1.05 * self.height)]
        xs = [self.at[0] + x * c - y * s for x, y in corners]
        ys = [self.at[1] + x * s + y * c for x, y in corners]
        return min(xs), min(ys), max(xs), max(ys)


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture by its digest, filling a box."""

    digest: str
    box: Box
    of: str = ""


Ink = Line | Arc | Curve | Area | Words | Picture


@dataclass(frozen=True)
class Anchor:
    """A place of the design that a dimension may be bound to, by its name; ``at`` on the paper, ``words`` as a maker would say it.

    ``along`` is the way in which it has a place: 'x' of an upright edge, 'y' of a level one, 'both' of a point.
    """

    name: str
    at: Point
    along: Literal["x", "y", "both"]
    words: str
    of: str = ""


@dataclass(frozen=True)
class Dimension:
    """A dimension with its ink. ``name`` is made of what it is bound to, and stays when values change; ``value`` is in mm or radians, of the part and not of the paper.

    ``p``, ``q`` and ``base`` are where it is measured from and to and a place on its line, on the paper, ``turned`` the direction in which it measures (radians).
    ``of`` is what a press on it selects; ``said`` where a maker put it in.
    """

    name: str
    kind: Literal["linear", "ordinate", "diameter", "radius", "angle", "note"]
    value: float
    text: str
    ink: tuple[Ink, ...]
    p: Point = (0.0, 0.0)
    q: Point = (0.0, 0.0)
    base: Point = (0.0, 0.0)
    turned: float = 0.0
    scale: float = 1.0
    of: str = ""
    said: bool = False
    view: str = ""
    #: of an angle where its legs meet; of a radius the middle of its circle; on the paper
    middle: Point | None = None

    @property
    def words(self) -> list[Words]:
        """Its texts."""
        return [i for i in self.ink if isinstance(i, Words)]


@dataclass(frozen=True)
class Paper:
    """One page: ``subject`` is what it is of, ``page`` its number among those of the same subject. ``faults`` are sentences on what does not fit or is not bound any more."""

    subject: str
    title: str
    size: Point
    ink: tuple[Ink, ...]
    dimensions: tuple[Dimension, ...] = ()
    anchors: dict[str, tuple[Anchor, ...]] = field(default_factory=dict)
    #: what can be moved by hand (balloons, tables, views, notes): by name the ink that goes along
    movable: dict[str, tuple[Ink, ...]] = field(default_factory=dict)
    faults: tuple[str, ...] = ()
    scale: str = ""
    page: int = 1
    drawing_area: Box = (0.0, 0.0, 0.0, 0.0)
    #: of views that can be moved: their own lines, by name
    views: dict[str, tuple[Ink, ...]] = field(default_factory=dict)
    #: of tables on it: every column that it can have by key and heading, and whether it is shown
    tables: dict[str, tuple[tuple[str, str, bool], ...]] = field(default_factory=dict)
    #: the files of pictures that stand on it, PNG or JPEG, by digest
    pictures: Mapping[str, bytes] = field(default_factory=dict)
    #: how much wider its lines are than those of line group 0.5; whether its letters slope
    wide: float = 1.0
    sloped: bool = False
    #: cut narrow or not; room is made for letters as they are, than which narrow ones never take more
    face: LetterFace = ""

    @property
    def drawn(self) -> list[Ink]:
        """Its ink and its views, without what else can be moved by hand and without dimensions."""
        return [*self.ink, *(i for group in self.views.values() for i in group)]

    @property
    def all_ink(self) -> list[Ink]:
        """Everything on it, in the order in which it is drawn."""
        return [*self.drawn, *(i for group in self.movable.values() for i in group), *(i for d in self.dimensions for i in d.ink)]


def moved(ink: Ink, dx: float, dy: float) -> Ink:
    """The same somewhere else."""

    def by(p: Point) -> Point:
        return p[0] + dx, p[1] + dy

    match ink:
        case Line():
            return replace(ink, p=by(ink.p), q=by(ink.q))
        case Arc():
            return replace(ink, centre=by(ink.centre))
        case Curve() | Area():
            return replace(ink, points=tuple(map(by, ink.points)))
        case Words():
            return replace(ink, at=by(ink.at))
        case Picture():
            x0, y0, x1, y1 = ink.box
            return replace(ink, box=(x0 + dx, y0 + dy, x1 + dx, y1 + dy))


def scaled(ink: Iterable[Line | Arc | Curve], scale: float, to: Callable[[Point], Point]) -> list[Ink]:
    """Strokes of a view in mm of the part, on the paper; ``to`` takes their places there."""
    found: list[Ink] = []
    for i in ink:
        if isinstance(i, Line):
            found.append(replace(i, p=to(i.p), q=to(i.q)))
        elif isinstance(i, Arc):
            found.append(replace(i, centre=to(i.centre), radius=i.radius * scale))
        else:
            found.append(replace(i, points=tuple(map(to, i.points))))
    return found


def box_of(ink: Iterable[Ink]) -> Box:
    """The upright box round ink; of none a point at 0."""
    xs: list[float] = []
    ys: list[float] = []
    for i in ink:
        x0, y0, x1, y1 = _box(i)
        xs += [x0, x1]
        ys += [y0, y1]
    return (min(xs), min(ys), max(xs), max(ys)) if xs else (0.0, 0.0, 0.0, 0.0)


def _box(ink: Ink) -> Box:
    if isinstance(ink, Words | Picture):
        return ink.box
    if isinstance(ink, Arc):
        points = [ink.at(0.0), ink.at(1.0)]
        for quarter in range(-8, 9):
            turn = quarter * math.pi / 2 - ink.start
            if min(0.0, ink.sweep) <= turn <= max(0.0, ink.sweep):
                points.append(ink.at(turn / ink.sweep if ink.sweep else 0.0))
    else:
        points = [ink.p, ink.q] if isinstance(ink, Line) else list(ink.points)
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), min(ys), max(xs), max(ys)
