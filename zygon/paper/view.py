"""A view before it is laid on paper: its strokes, the places on it that have names, and what of it is to be said. All in mm of the part."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from zygon.paper.ink import Box, Point
from zygon.paper.looks import Look
from zygon.paper.strokes import Stroke

__all__ = ["Callout", "CutFace", "CutLine", "Gap", "Loupe", "Overall", "Ring", "Spot", "View", "WAYS", "Way", "boxed"]

Way = Literal["x", "y"]
WAYS: tuple[Way, Way] = ("x", "y")


@dataclass(frozen=True)
class Spot:
    """A named place: of a line along the view its ``along`` tells which coordinate it has. ``of`` is what a press on it selects."""

    name: str
    at: Point
    along: Literal["x", "y", "both"]
    words: str
    of: str = ""


@dataclass(frozen=True)
class Overall:
    """A size over all, from one spot to another along a way."""

    name: str
    way: Way
    a: str
    b: str
    of: str = ""


@dataclass(frozen=True)
class Callout:
    """Words with a leader to one of ``places`` (centre and radius, 0 for a point); ``value`` in mm or radians is what the words tell, where they tell one."""

    name: str
    text: str
    places: tuple[tuple[float, float, float], ...]
    kind: Literal["diameter", "radius", "note"] = "note"
    value: float = 0.0
    of: str = ""
    #: of rounds the middles of their circles, one a place
    centres: tuple[Point, ...] = ()


@dataclass(frozen=True)
class Ring:
    """A number in a ring: a balloon with its leader (``lead``), or the number of a bend that sits on its line."""

    name: str
    text: str
    places: tuple[Point, ...]
    of: str = ""
    lead: bool = True
    beside: str = ""


@dataclass(frozen=True)
class CutFace:
    """What a section cuts through: of which part, hatched as its stock is; ``turn`` tells neighbours apart. Rings in mm of the part, the outer one first."""

    of: str
    hatch: str
    turn: int
    rings: tuple[tuple[Point, ...], ...]


@dataclass(frozen=True)
class CutLine:
    """Where a section is taken in a view: its letter, the way along which its line has a place, and that place; ``up`` where it is looked at along that way, else back.

    Of a stepped one ``turns`` are where along its line it goes over to which other place, from low to high.
    """

    letter: str
    way: Way
    at: float
    up: bool
    turns: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class Gap:
    """Where a view is broken: at a place along a way of the view as it is drawn, ``wide`` mm of it free, for ``taken`` mm of the part more than is free."""

    way: Way
    at: float
    wide: float
    taken: float


@dataclass(frozen=True)
class Loupe:
    """A circle round what is drawn larger as a detail; mm of the part."""

    letter: str
    centre: Point
    radius: float


@dataclass(frozen=True)
class View:
    """``across`` and ``up`` name the spots whose places along x and y are wanted; ``corners`` are the spots of its box: low and high along x, low and high along y.

    ``column`` and ``row`` are where it stands about the others. ``look`` is from where it is seen, where its ways are those of the room; ``scale`` its own, where it has
    another than its sheet. A broken view has ``gaps``: its places are those of the drawing, :meth:`length` tells those of the part.
    """

    name: str
    label: str
    strokes: tuple[Stroke, ...]
    bounds: Box
    spots: dict[str, Spot] = field(default_factory=dict)
    corners: tuple[str, str, str, str] = ("", "", "", "")
    across: tuple[str, ...] = ()
    up: tuple[str, ...] = ()
    overall: tuple[Overall, ...] = ()
    callouts: tuple[Callout, ...] = ()
    rings: tuple[Ring, ...] = ()
    faces: tuple[CutFace, ...] = ()
    cuts: tuple[CutLine, ...] = ()
    loupes: tuple[Loupe, ...] = ()
    gaps: tuple[Gap, ...] = ()
    look: Look | None = None
    scale: float | None = None
    column: int = 0
    row: int = 0

    def at(self, sheet: float) -> float:
        """The scale at which it is drawn on a sheet of a scale."""
        return self.scale or sheet

    def length(self, way: Way, a: float, b: float) -> float:
        """How far two places of the drawing lie apart along a way on the part itself, mm."""
        return abs(self._real(way, b) - self._real(way, a))

    def _real(self, way: Way, at: float) -> float:
        return at + sum(g.taken for g in self.gaps if g.way == way and at > g.at)

    @property
    def size(self) -> tuple[float, float]:
        """Wide and high, mm."""
        x0, y0, x1, y1 = self.bounds
        return x1 - x0, y1 - y0


def boxed(name: str, box: Box, words: tuple[str, str, str, str], of: str = "") -> tuple[dict[str, Spot], tuple[Overall, Overall]]:
    """The four ends of a view's box as spots, in the order of its ``corners`` and called by ``words``, and its sizes over all along x and y."""
    x0, y0, x1, y1 = box
    ends: tuple[tuple[str, Point, Way], ...] = (
        ("low x", (x0, y0), "x"),
        ("high x", (x1, y0), "x"),
        ("low y", (x0, y0), "y"),
        ("high y", (x0, y1), "y"),
    )
    spots = {f"{name}/{end}": Spot(f"{name}/{end}", at, way, said, of) for (end, at, way), said in zip(ends, words, strict=True)}
    a, b, c, d = spots
    return spots, (Overall("across", "x", a, b, of), Overall("up", "y", c, d, of))
