"""What a build gives: typed operations, flats, parts in their places, joints, and faults found on the way."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from zygon.design.document import Board, Document, Item
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour
from zygon.geometry.frame import Frame

__all__ = ["Box", "Built", "BuiltJoint", "BuiltPart", "Cut", "Fault", "Finger", "Flat", "Mark", "Mend", "Operation", "Value"]


@dataclass(frozen=True)
class Value:
    """What one entry gives: mm, radians, or a plain value; ``stale`` where it is the last good one."""

    value: float
    kind: str
    stale: bool = False


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
    """An engraved run on face 'a' or 'b'."""

    contour: Contour
    owner: str
    face: Literal["a", "b"] = "a"


Operation = Cut | Mark


@dataclass(frozen=True)
class Finger:
    """A stretch of a corner along the joint's run (mm in the room) and the part that owns it."""

    low: float
    high: float
    owner: str


@dataclass(frozen=True)
class Flat:
    """A part laid flat as seen from the face that lies up: pieces with their holes, and marks; (u, v) in mm.

    More than one piece is a problem; the first is the largest.
    """

    pieces: tuple[Region, ...]
    marks: tuple[Contour, ...]
    thickness: float
    digest: str

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
    """One instance in its place. ``matrix`` takes the flat's (u, v, w) to the room; ``path`` is its instance path."""

    key: str
    path: str
    record: Board | Item
    frame: Frame | None = None
    span_box: Box | None = None
    box: Box | None = None
    flat: Flat | None = None
    operations: tuple[Operation, ...] = ()
    matrix: tuple[tuple[float, ...], ...] = ()
    handed: int = 1
    stale: bool = False


@dataclass(frozen=True)
class BuiltJoint:
    """A joint as built: its contact's kind, the run along ``axis``, and its fingers or tabs; empty where it cut nothing."""

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
