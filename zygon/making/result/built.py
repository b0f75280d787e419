"""What making a design gives: parts in their places, joints, values and faults."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

from zygon.design.document import Document
from zygon.design.parts.kinds import Part, PlacedKind
from zygon.geometry.frame import Frame
from zygon.geometry.motion import IDENTITY, Motion
from zygon.making.result.box import Box
from zygon.making.result.fault import Fault
from zygon.making.result.flat import Flat
from zygon.making.result.fold import reach_of
from zygon.making.result.value import Value

__all__ = ["Built", "BuiltJoint", "BuiltPart", "Finger", "MadePart"]


@dataclass(frozen=True)
class Finger:
    """A stretch of a corner along the joint's run (mm in the room) and the part that owns it."""

    low: float
    high: float
    owner: str


@dataclass(frozen=True)
class BuiltPart:
    """One instance in its place. ``matrix`` takes the flat's (u, v, w) to the room; ``path`` is its instance path.

    ``key`` is its record's for an original; ``of`` is the record's key always. ``box`` and ``span_box`` lie along the axes before ``place``
    turns them. ``handed`` is -1 for a mirror image, whose flat is mirrored; ``made_by`` are the copies that made it.
    ``mirrored`` are the axes across which its face names are exchanged.
    """

    key: str
    path: str
    record: Part
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


class MadePart(BuiltPart):
    """A board that is made: where it lies and what it is are known, whole."""

    record: PlacedKind
    frame: Frame
    span_box: Box
    box: Box
    flat: Flat


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

    @cached_property
    def made(self) -> dict[str, MadePart]:
        """The parts that are made, by key: not the items, nor boards whose place or shape cannot be worked out."""
        return {k: p for k, p in self.parts.items() if isinstance(p, MadePart)}
