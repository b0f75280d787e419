"""What is done to a board: cuts, marks, pockets, bevels, sinks, bores and what is drilled askew, typed."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from zygon.geometry.along_edge import EdgeShape
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour
from zygon.geometry.ellipse import ellipse, skewed_hole
from zygon.geometry.motion import Vector, three
from zygon.memo import keeps_words
from zygon.tolerance import CONTACT, EPS

__all__ = ["Band", "Bevel", "Cut", "EdgeWork", "SkewBore", "EdgeBore", "Mark", "Operation", "Pocket", "Side", "Sink"]


Side = Literal["a", "b"]
#: How far a drill goes on past the face where it comes out (mm).
CLEAR = 1.0


@keeps_words
@dataclass(frozen=True)
class Cut:
    """A through cut, in the board's (u, v) from its span's low corner; ``owner`` is the feature or joint it belongs to."""

    contour: Contour
    owner: str


@keeps_words
@dataclass(frozen=True)
class Mark:
    """An engraved run on face 'a' or 'b'; ``reads`` where it is a stroke of a text."""

    contour: Contour
    owner: str
    face: Side = "a"
    reads: bool = False


@keeps_words
@dataclass(frozen=True)
class Pocket:
    """A depth operation: what lies in ``contour`` is taken away from a face down to ``depth`` mm. ``what`` is the trade's word for it.

    ``islands`` (clockwise) are what stands at full height inside, where pockets of one depth close a ring.
    """

    contour: Contour
    owner: str
    face: Side
    depth: float
    what: Literal["pocket", "groove", "rebate", "hole", "lap", "mortise", "shoulder"] = "pocket"
    islands: tuple[Contour, ...] = ()

    @cached_property
    def region(self) -> Region:
        """What is taken away, seen from face A."""
        return Region(self.contour.wound(ccw=True), tuple(c.wound(ccw=False) for c in self.islands))

    @property
    def contours(self) -> tuple[Contour, ...]:
        """The outer contour and those of the islands."""
        return (self.contour, *self.islands)

    @property
    def as_circle(self) -> tuple[float, float, float] | None:
        """Centre and radius of a blind hole, else None."""
        return None if self.islands else self.contour.as_circle

    def mapped(self, move: Callable[[Contour], Contour]) -> Pocket:
        """The same pocket with its contours moved or mirrored."""
        return replace(self, contour=move(self.contour), islands=tuple(move(c) for c in self.islands))


@keeps_words
@dataclass(frozen=True)
class Bevel:
    """A through cut with straight sloping flanks: ``on_a`` and ``on_b`` are its four-cornered contours on both faces, corner for corner.

    ``edge`` where it cuts a whole edge off along a plane; the line from the first corner to the last is then where the plane meets the face.
    """

    on_a: Contour
    on_b: Contour
    owner: str
    edge: bool = False

    def at(self, share: float) -> Contour:
        """The contour in the board, ``share`` of the way from face B to face A."""
        points = tuple(
            (q[0] + (p[0] - q[0]) * share, q[1] + (p[1] - q[1]) * share) for p, q in zip(self.on_a.points, self.on_b.points, strict=True)
        )
        return Contour(points, self.on_a.bulges, self.on_a.owners)

    def line_on(self, face: Side) -> Contour:
        """Where the plane of a cut-off edge meets a face, longer than the board."""
        c = self.on_a if face == "a" else self.on_b
        return Contour((c.points[3], c.points[0]), (0.0,), (self.owner,), closed=False)


@dataclass(frozen=True)
class Sink:
    """A countersink about a through hole: ``diameter`` at the face and included ``angle`` in radians; (u, v) in mm."""

    u: float
    v: float
    diameter: float
    hole: float
    angle: float
    face: Side
    owner: str

    @property
    def depth(self) -> float:
        """How deep the cone reaches until it is as narrow as the hole, in mm."""
        return (self.diameter - self.hole) / 2 / math.tan(self.angle / 2)


@dataclass(frozen=True)
class EdgeBore:
    """A blind hole square into an edge: the 'low' or 'high' ``side`` of the board across 'u' or 'v', which lies ``at`` there (mm).

    ``along`` is its place along the edge, ``w`` its height above face B, ``edge`` the edge's face word ('left').
    """

    edge: str
    across: Literal["u", "v"]
    side: Literal["low", "high"]
    at: float
    along: float
    w: float
    diameter: float
    depth: float
    owner: str


@dataclass(frozen=True)
class SkewBore:
    """A hole by the drill along any line but one square to the board: its axis enters at ``start`` and leaves at ``end``, (u, v, w) in mm.

    Both lie on the board's faces, or on its edges where it runs ``along`` the sheet.
    """

    start: Vector
    end: Vector
    diameter: float
    owner: str

    @property
    def along(self) -> bool:
        """Whether it runs within the sheet, from edge to edge."""
        return abs(self.end[2] - self.start[2]) < CONTACT

    @property
    def way(self) -> Vector:
        """Its direction from start to end, of length 1."""
        length = math.dist(self.start, self.end)
        return three((e - s) / length for s, e in zip(self.start, self.end, strict=True))

    @property
    def axis(self) -> tuple[Vector, Vector]:
        """Its axis as far as the drill has to go so that the whole hole comes out on both sides, in (u, v, w)."""
        way = self.way
        across = math.hypot(way[0], way[1]) / max(abs(way[2]), EPS) if not self.along else 1.0
        past = self.diameter / 2 * across + CLEAR
        start, end = (tuple(p[i] + sign * way[i] * past for i in range(3)) for p, sign in ((self.start, -1.0), (self.end, 1.0)))
        return start, end  # type: ignore[return-value]

    def mirrored(self, middle: float) -> SkewBore:
        """The same hole with u mirrored about half of ``middle`` (mm)."""
        start, end = ((middle - p[0], p[1], p[2]) for p in (self.start, self.end))
        return replace(self, start=start, end=end)

    @cached_property
    def footprint(self) -> Contour:
        """What it takes of the board as seen from above, of one that goes from face to face: the hull of its mouths."""
        low, high = sorted((self.start, self.end), key=lambda p: p[2])
        return skewed_hole(low[:2], high[:2], self.diameter, abs(self.way[2]), self.owner)

    def mouth(self, end: Vector) -> Contour:
        """The ellipse that it leaves on the face where it enters or leaves, of one that goes from face to face."""
        way = self.way
        flat = math.hypot(way[0], way[1])
        return ellipse(end[:2], self.diameter / 2 / abs(way[2]), self.diameter / 2, (way[0] / flat, way[1] / flat), self.owner)


@keeps_words
@dataclass(frozen=True)
class EdgeWork:
    """An edge of a face worked to a profile, ``width`` onto the face and ``height`` down the edge (mm).

    ``edges`` are the owners of the outline's lines that it runs along, as far as they are left; all that no joint cut where there are none, but for those
    of ``without``. ``runs`` are those lines as they lie on the flat, the board to their left.
    """

    edges: tuple[str, ...]
    face: Side
    shape: EdgeShape
    width: float
    height: float
    owner: str
    without: tuple[str, ...] = ()
    runs: tuple[Contour, ...] = ()

    def mapped(self, move: Callable[[Contour], Contour]) -> EdgeWork:
        """The same with its runs mirrored, the board to their left again."""
        return replace(self, runs=tuple(move(c).reversed() for c in self.runs))


@keeps_words
@dataclass(frozen=True)
class Band:
    """A band ``thickness`` mm thick, glued along an edge; ``edges``, ``without`` and ``runs`` as those of edge work. The part is finished with it."""

    edges: tuple[str, ...]
    thickness: float
    of: str
    owner: str
    without: tuple[str, ...] = ()
    runs: tuple[Contour, ...] = ()

    def mapped(self, move: Callable[[Contour], Contour]) -> Band:
        """The same with its runs mirrored, the board to their left again."""
        return replace(self, runs=tuple(move(c).reversed() for c in self.runs))


Operation = Cut | Mark | Pocket | Bevel | Sink | EdgeBore | SkewBore | EdgeWork | Band
