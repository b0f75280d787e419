"""A part laid flat, as it is cut."""

from __future__ import annotations

from dataclasses import dataclass, field

from zygon.design.parts.bought import Solid
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour
from zygon.making.result.body import Corners, Matrix
from zygon.making.result.fold import Fold, reach_of
from zygon.making.result.operations import Band, Bevel, EdgeBore, EdgeWork, Mark, Operation, Pocket, Side, Sink, SkewBore

__all__ = ["Asked", "Flat"]


@dataclass(frozen=True)
class Asked:
    """What a flat was made from: the blank's contours, whose union it is, and the operations on it."""

    outline: tuple[Contour, ...]
    operations: tuple[Operation, ...]


@dataclass(frozen=True)
class Flat:
    """A part laid flat as seen from face ``seen``: pieces with their holes, and what is worked into its faces and edges; (u, v) in mm.

    More than one piece is a problem; the first is the largest. Pockets are merged by face and depth. ``bores`` keep the
    board's own coordinates whichever way it lies.
    """

    pieces: tuple[Region, ...]
    engraved: tuple[Mark, ...]
    thickness: float
    digest: str
    pockets: tuple[Pocket, ...] = ()
    bevels: tuple[Bevel, ...] = ()
    sinks: tuple[Sink, ...] = ()
    bores: tuple[EdgeBore, ...] = ()
    skew_bores: tuple[SkewBore, ...] = ()
    edges: tuple[EdgeWork, ...] = ()
    bands: tuple[Band, ...] = ()
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
        """Whether something short of a through cut is done from a face; edges are worked with the board in the hand."""
        faces = [*(m.face for m in self.engraved), *(p.face for p in self.pockets), *(s.face for s in self.sinks)]
        return face in faces

    @property
    def plain(self) -> bool:
        """Whether every cut goes straight through."""
        return not (self.pockets or self.bevels or self.sinks or self.bores or self.skew_bores or self.edges)

    @property
    def empty(self) -> bool:
        """Whether nothing of it is left."""
        return not self.pieces

    @property
    def layered(self) -> bool:
        """Whether it is a stack of outlines: it lies flat, is no shape from a file, and nothing is drilled through it askew."""
        return not (self.fold or self.solid or self.skew_bores)

    def reach(self, matrix: Matrix) -> Corners:
        """The room that it takes where ``matrix`` puts it, tabs included; of one that is not empty."""
        if self.fold:
            return reach_of(self.fold, self.thickness, matrix)
        x0, y0, x1, y1 = self.bounds
        ends = [(x, y, w) for x in (x0, x1) for y in (y0, y1) for w in (0.0, self.thickness)]
        corners = [[sum(r[i] * c[i] for i in range(3)) + r[3] for r in matrix[:3]] for c in ends]
        return tuple(map(min, zip(*corners, strict=True))), tuple(map(max, zip(*corners, strict=True)))

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
