"""Blanks: the boards before joints, and how joints lengthen them. The face that is named stays the span's."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from zygon.design.parts.kinds import PlateKind
from zygon.geometry.contour import Contour, rectangle
from zygon.geometry.frame import AXES, FACES, Frame, frame_of
from zygon.geometry.motion import IDENTITY, Motion, of_rows, three
from zygon.making.blanks.halves import Half
from zygon.making.result.box import Box
from zygon.making.result.fold import Fold
from zygon.making.result.operations import Side
from zygon.owner import edge_id
from zygon.tolerance import WITHIN

__all__ = ["Blank", "Change", "blank_contours", "blank_of"]


@dataclass(frozen=True)
class Change:
    """What a joint (``owner``) did to a blank: 'lengthen' or 'grow' a side to a place, 'add' a rectangle, 'shape' a contour."""

    what: str
    owner: str
    axis: str = ""
    side: str = ""
    to: float = 0.0
    rect: tuple[float, float, float, float, str] = (0.0, 0.0, 0.0, 0.0, "")
    contour: Contour | None = None


@dataclass
class Blank:
    """A board on its way: span box, extents with corners lengthened, and the pieces added to its outline.

    Boxes lie along the axes; ``place`` turns them about the origin into the room. ``outline`` is a contour in (u, v) in place of the span's
    rectangle, counter-clockwise. ``log`` keeps what joints change, each under the joint at work (``by``): for copies of them, and for
    blanks that do without one.

    ``shapes`` are closed contours in (u, v) added to the outline, such as tails. ``grown`` is the span with the strips that reach whole into grooves; the outline starts from it.

    ``additions`` are (low u, low v, high u, high v, owner) in the room's coordinates along u and v.
    """

    key: str
    record: PlateKind
    frame: Frame
    span: Box
    extents: Box
    additions: list[tuple[float, float, float, float, str]] = field(default_factory=list)
    shapes: list[Contour] = field(default_factory=list)
    place: Motion = IDENTITY
    outline: Contour | None = None
    log: list[Change] = field(default_factory=list)
    by: str = ""
    fold: Fold | None = None
    half: Half | None = None
    #: owners of features that shape the plate before it is bent, and so are not cut into its flat again
    shaped: frozenset[str] = frozenset()
    #: what bores meet of it once it is whole, by their lines: sets ask before the bores do
    met: dict[Any, Any] = field(default_factory=dict, compare=False, repr=False)
    grown: Box = field(init=False)

    def __post_init__(self) -> None:
        self.grown = self.span

    @property
    def record_key(self) -> str:
        """The key of its board; a copy's blank has the copy's own."""
        return self.key.partition("@")[0]

    @property
    def thickness(self) -> float:
        """Thickness in mm."""
        low, high = self.span.span(self.frame.normal)
        return high - low

    def lengthen(self, axis: str, side: str, to: float) -> None:
        """Extents reach out to ``to`` on the low or high side of an axis."""
        self.log.append(Change("lengthen", self.by, axis, side, to))
        low, high = self.extents.span(axis)
        self.extents = self.extents.with_span(axis, min(low, to) if side == "low" else low, max(high, to) if side == "high" else high)

    def grow(self, axis: str, side: str, to: float) -> None:
        """The whole side reaches out to ``to``, corners included; the extents follow."""
        low, high = self.grown.span(axis)
        self.grown = self.grown.with_span(axis, to if side == "low" else low, to if side == "high" else high)
        self.lengthen(axis, side, to)
        self.log[-1] = Change("grow", self.by, axis, side, to)

    def shape(self, contour: Contour) -> None:
        """Adds a contour in (u, v), such as a tail."""
        self.log.append(Change("shape", self.by, contour=contour))
        self.shapes.append(contour)

    def face_toward(self, side: str) -> Side:
        """Face 'a' or 'b' that looks to the 'low' or 'high' side of the board's normal."""
        return "a" if (side == "high") == (self.frame.up > 0) else "b"

    def height(self, at: float) -> float:
        """w (from face B, mm) of a place along the board's normal in the room."""
        low, high = self.span.span(self.frame.normal)
        return at - low if self.frame.up > 0 else high - at

    def add(self, spans: dict[str, tuple[float, float]], owner: str) -> None:
        """Adds a rectangle given by its spans along the board's two axes."""
        (u0, u1), (v0, v1) = spans[self.frame.u], spans[self.frame.v]
        self.add_rectangle((u0, v0, u1, v1, owner))

    def add_rectangle(self, rect: tuple[float, float, float, float, str]) -> None:
        """Adds a rectangle as ``additions`` has them."""
        self.log.append(Change("add", self.by, rect=rect))
        self.additions.append(rect)

    def without(self, owners: frozenset[str]) -> Blank:
        """The same blank as it would be had some joints done nothing to it."""
        bare = Blank(
            self.key, self.record, self.frame, self.span, self.span, place=self.place, outline=self.outline, fold=self.fold, half=self.half
        )
        for change in self.log:
            if change.owner in owners:
                continue
            bare.by = change.owner
            match change.what:
                case "shape":
                    bare.shape(change.contour)  # type: ignore[arg-type]
                case "add":
                    bare.add_rectangle(change.rect)
                case _:
                    (bare.lengthen if change.what == "lengthen" else bare.grow)(change.axis, change.side, change.to)
        return bare

    @property
    def frame_motion(self) -> Motion:
        """From (u, v, w) to where the blank's box lies, before ``place``."""
        low, high = self.span.span(self.frame.normal)
        rows = [list(r) for r in self.frame.matrix(low, high)[:3]]
        for i, axis in enumerate(AXES):
            if axis != self.frame.normal:
                rows[i][3] += self.span.span(axis)[0]
        return of_rows(rows)

    @property
    def in_room(self) -> Motion:
        """From (u, v, w) to the room."""
        return self.place @ self.frame_motion

    def bounds(self) -> tuple[float, float, float, float]:
        """The extents in (u, v): u0, v0, u1, v1."""
        (u0, u1), (v0, v1) = self.extents.span(self.frame.u), self.extents.span(self.frame.v)
        ou, ov = self.origin
        return u0 - ou, v0 - ov, u1 - ou, v1 - ov

    def local(self, spans: dict[str, tuple[float, float]]) -> tuple[float, float, float, float]:
        """(u0, v0, u1, v1) from the span's low corner, of a rectangle given by its spans in the room."""
        ou, ov = self.origin
        (u0, u1), (v0, v1) = spans[self.frame.u], spans[self.frame.v]
        return u0 - ou, v0 - ov, u1 - ou, v1 - ov

    def point(self, place: dict[str, float]) -> tuple[float, float]:
        """(u, v) from the span's low corner, of a place in the room given along the board's two axes."""
        ou, ov = self.origin
        return place[self.frame.u] - ou, place[self.frame.v] - ov

    @property
    def origin(self) -> tuple[float, float]:
        """The span's low corner, where the flat's (u, v) start."""
        return self.span.span(self.frame.u)[0], self.span.span(self.frame.v)[0]


def blank_of(key: str, board: PlateKind, box: Box, motion: Motion = IDENTITY) -> Blank:
    """A board's blank before any joint; ``motion`` is from its rest to the room.

    The motion's turn becomes the blank's place and its move shifts the box, so that all that is turned alike shares one frame.
    """
    turn = Motion(tuple((*r[:3], 0.0) for r in motion.rows)).rounded()
    shift = turn.inverse.vector(motion.shift)
    if any(shift):
        low, high = (three(round(c + s, 7) for c, s in zip(corner, shift, strict=True)) for corner in (box.low, box.high))
        box = Box(low, high)
    return Blank(key, board, frame_of(board.plane), box, box, place=turn)


def blank_contours(blank: Blank) -> list[Contour]:
    """The blank's outline as contours whose union it is, in (u, v) from the span's low corner; sides are owned by their face."""
    f = blank.frame
    sides = (FACES[f.v][0], FACES[f.u][1], FACES[f.v][1], FACES[f.u][0])
    owners = tuple(edge_id(s) for s in sides)
    ou, ov = blank.origin

    def rect(u0: float, v0: float, u1: float, v1: float, owner: str | tuple[str, ...]) -> Contour:
        return rectangle(round(u0 - ou, 7), round(v0 - ov, 7), round(u1 - ou, 7), round(v1 - ov, 7), owner)

    (eu0, eu1), (ev0, ev1) = blank.extents.span(f.u), blank.extents.span(f.v)
    whole = (eu1 - eu0) * (ev1 - ev0)
    (su0, su1), (sv0, sv1) = blank.grown.span(f.u), blank.grown.span(f.v)
    corners = [a for a in blank.additions if a[4].startswith("edge")]
    tabs = [a for a in blank.additions if not a[4].startswith("edge")]
    rects = [(su0, sv0, su1, sv1), *(a[:4] for a in corners)]
    if len(rects) > 1 and abs(_union_area(rects) - whole) < WITHIN * whole:
        rects = [(eu0, ev0, eu1, ev1)]
    whole_rects = [rect(*r, owners) for r in rects]
    if blank.fold:  # the plate cut back to its bends, the strips of the bends, and the faces behind them
        whole_rects = [c for f in blank.fold.faces for c in f.outline] + [b.outline for b in blank.fold.bends]
    elif blank.outline:  # what joints add to its sides comes to the outline as it is
        whole_rects = [blank.outline]
    return whole_rects + [rect(*a) for a in tabs] + blank.shapes


def _union_area(rects: list[tuple[float, float, float, float]]) -> float:
    xs = sorted({x for r in rects for x in (r[0], r[2])})
    ys = sorted({y for r in rects for y in (r[1], r[3])})
    area = 0.0
    for x0, x1 in zip(xs, xs[1:], strict=False):
        for y0, y1 in zip(ys, ys[1:], strict=False):
            x, y = (x0 + x1) / 2, (y0 + y1) / 2
            if any(r[0] < x < r[2] and r[1] < y < r[3] for r in rects):
                area += (x1 - x0) * (y1 - y0)
    return area
