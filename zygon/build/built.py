"""What a build gives: typed operations, flats, parts in their places, joints, and faults found on the way."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Literal

from zygon.build.metal.fold import Fold, reach_of
from zygon.design.document import Board, Document, Item, Solid
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour
from zygon.geometry.frame import Frame
from zygon.geometry.motion import IDENTITY, Motion

__all__ = [
    "Asked", "Bevel", "Box", "Built", "BuiltJoint", "BuiltPart", "Cut", "EdgeBore", "Fault", "Finger", "Flat", "Mark", "Mend", "Operation", "Pocket", "Side", "Sink",
    "Value",
]  # fmt: skip

Side = Literal["a", "b"]


@dataclass(frozen=True)
class Value:
    """What one entry gives: mm, radians, or a plain value; ``stale`` where it is the last good one.

    ``reading`` says how a mixed number was read: '1 + 1/2'.
    """

    value: float
    kind: str
    stale: bool = False
    reading: str = ""


@dataclass(frozen=True)
class Mend:
    """The obvious way out, as one edit with a label."""

    label: str
    patch: list[dict[str, Any]]


@dataclass(frozen=True)
class Fault:
    """A problem as it is found: what is broken, where, the measured value and the rule. Becomes a problem with an id in check."""

    code: str
    message: str
    rule: str
    value: str = ""
    source: str = ""
    severity: Literal["error", "warning"] = "error"
    part: str = ""
    other: str = ""
    owner: str = ""
    entry: str = ""
    at: tuple[float, float] | None = None
    mends: tuple[Mend, ...] = ()
    #: the name that an entry wants and that stands for nothing
    lost: str = ""
    #: what was measured, in mm, where less is worse: of like faults the worst is told
    measure: float | None = None


@dataclass(frozen=True)
class Box:
    """A board's extents along x, y and z in mm: ``low`` and ``high`` are (3,) tuples."""

    low: tuple[float, float, float]
    high: tuple[float, float, float]

    def span(self, axis: str) -> tuple[float, float]:
        """Low and high along an axis."""
        i = "xyz".index(axis)
        return self.low[i], self.high[i]

    def with_span(self, axis: str, low: float, high: float) -> Box:
        """The same box with another span along an axis."""
        i = "xyz".index(axis)
        lows, highs = list(self.low), list(self.high)
        lows[i], highs[i] = low, high
        return Box((lows[0], lows[1], lows[2]), (highs[0], highs[1], highs[2]))


@dataclass(frozen=True)
class Cut:
    """A through cut, in the board's (u, v) from its span's low corner; ``owner`` is the feature or joint it belongs to."""

    contour: Contour
    owner: str


@dataclass(frozen=True)
class Mark:
    """An engraved run on face 'a' or 'b'; ``reads`` where it is a stroke of a text."""

    contour: Contour
    owner: str
    face: Side = "a"
    reads: bool = False


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


Operation = Cut | Mark | Pocket | Bevel | Sink | EdgeBore


@dataclass(frozen=True)
class Asked:
    """What a flat was made from: the blank's contours, whose union it is, and the operations on it."""

    outline: tuple[Contour, ...]
    operations: tuple[Operation, ...]


@dataclass(frozen=True)
class Finger:
    """A stretch of a corner along the joint's run (mm in the room) and the part that owns it."""

    low: float
    high: float
    owner: str


@dataclass(frozen=True)
class Flat:
    """A part laid flat as seen from face ``seen``: pieces with their holes, and what is worked into its faces and edges; (u, v) in mm.

    More than one piece is a problem; the first is the largest. Pockets are merged by face and depth. ``bores`` keep the board's own
    coordinates whichever way it lies.
    """

    pieces: tuple[Region, ...]
    engraved: tuple[Mark, ...]
    thickness: float
    digest: str
    pockets: tuple[Pocket, ...] = ()
    bevels: tuple[Bevel, ...] = ()
    sinks: tuple[Sink, ...] = ()
    bores: tuple[EdgeBore, ...] = ()
    seen: Side = "a"
    fold: Fold | None = None
    #: of an original, for checks of what was asked
    asked: Asked | None = field(default=None, repr=False, compare=False)
    #: of a bought block that was read from a file: its own shape
    solid: Solid | None = None

    @property
    def marks(self) -> tuple[Contour, ...]:
        """The engraved runs of the face that is seen."""
        return tuple(m.contour for m in self.engraved if m.face == self.seen)

    def worked(self, face: str) -> bool:
        """Whether something short of a through cut is done from a face."""
        faces = [*(m.face for m in self.engraved), *(p.face for p in self.pockets), *(s.face for s in self.sinks)]
        return face in faces

    @property
    def plain(self) -> bool:
        """Whether every cut goes straight through."""
        return not (self.pockets or self.bevels or self.sinks or self.bores)

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """x0, y0, x1, y1 over all pieces."""
        boxes = [p.outer.bounds for p in self.pieces]
        return min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes)

    @property
    def size(self) -> tuple[float, float]:
        """Finished length and width in mm."""
        x0, y0, x1, y1 = self.bounds
        return x1 - x0, y1 - y0

    @property
    def area(self) -> float:
        """Area in mm²."""
        return sum(p.area for p in self.pieces)

    @property
    def inside(self) -> list[Contour]:
        """All inner contours."""
        return [c for p in self.pieces for c in p.inner]


@dataclass(frozen=True)
class BuiltPart:
    """One instance in its place. ``matrix`` takes the flat's (u, v, w) to the room; ``path`` is its instance path.

    ``key`` is its record's for an original; ``of`` is the record's key always. ``box`` and ``span_box`` lie along the axes before ``place``
    turns them. ``handed`` is -1 for a mirror image, whose flat is mirrored; ``made_by`` are the copies that made it.
    ``mirrored`` are the axes across which its face names are exchanged.
    """

    key: str
    path: str
    record: Board | Item
    frame: Frame | None = None
    span_box: Box | None = None
    box: Box | None = None
    flat: Flat | None = None
    matrix: tuple[tuple[float, ...], ...] = ()
    handed: int = 1
    stale: bool = False
    of: str = ""
    place: Motion = IDENTITY
    made_by: tuple[tuple[str, int], ...] = ()
    mirrored: frozenset[str] = frozenset()

    @cached_property
    def reaches(self) -> tuple[tuple[float, ...], tuple[float, ...]]:
        """Low and high corner in the room, tabs included, of a part with a flat that is not empty."""
        flat = self.flat
        if flat is None:
            return (0.0, 0.0, 0.0), (0.0, 0.0, 0.0)
        if flat.fold:
            low, high = reach_of(flat.fold, flat.thickness, self.matrix)
            return low, high
        x0, y0, x1, y1 = flat.bounds
        ends = [(x, y, w) for x in (x0, x1) for y in (y0, y1) for w in (0.0, flat.thickness)]
        corners = [[sum(r[i] * c[i] for i in range(3)) + r[3] for r in self.matrix[:3]] for c in ends]
        return tuple(map(min, zip(*corners, strict=True))), tuple(map(max, zip(*corners, strict=True)))


@dataclass(frozen=True)
class BuiltJoint:
    """A joint as built: its contact's kind, the run along ``axis``, and its fingers or tabs; empty where it cut nothing.

    ``details`` are the values in effect by entry name. ``holds`` is the axis along which alone it comes apart where no wood says so;
    ``fastened`` says what keeps it once made ('glued', 'screwed', 'riveted', 'welded'); ``across`` and ``form`` are the contact's.
    ``ends`` are the words at the run's low and high end, ``sides`` those of the first board's low and high face, as it stands.
    """

    key: str
    kind: str
    a: str
    b: str
    contact: str
    axis: str = ""
    run: tuple[float, float] = (0.0, 0.0)
    fingers: tuple[Finger, ...] = ()
    fit: float = 0.0
    details: dict[str, float] = field(default_factory=dict)
    refused: str = ""
    holds: str = ""
    fastened: str = ""
    across: str = ""
    form: str = ""
    ends: tuple[str, str] = ("", "")
    sides: tuple[str, str] = ("", "")
    copies: tuple[tuple[str, str], ...] = ()

    @property
    def pairs(self) -> tuple[tuple[str, str], ...]:
        """The instance keys of both boards, of the joint itself and of its copies."""
        return ((self.a, self.b), *self.copies)


@dataclass(frozen=True)
class Built:
    """A built design. ``values`` by entry pointer; ``good`` is what to hand to the next build as last good values."""

    document: Document
    values: dict[str, Value]
    parts: dict[str, BuiltPart]
    joints: dict[str, BuiltJoint]
    faults: tuple[Fault, ...]
    good: dict[str, float]
    rebuilt: tuple[str, ...] = ()
