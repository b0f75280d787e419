"""Marks that help: part numbers, mating marks, inner side and grain, engraved where the assembly hides them.

A mark goes first where another board will cover it, then on the face that looks inward, then on the other one; always clear of cuts,
or it is left out.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from zygon.design.document import HelpMarks
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import polyline
from zygon.geometry.stroke_font import strokes
from zygon.making.blanks.blank import Blank
from zygon.making.joints.base import JointContext
from zygon.making.result.operations import Bevel, Cut, Mark, Operation, Pocket, Side
from zygon.owner import joint_id
from zygon.tolerance import CONTACT

__all__ = ["help_marks"]

#: Letters shorter than this (mm) are not readable once engraved.
LEAST = 2.5
#: Clear wood round a mark (mm).
CLEAR = 1.0
#: Where in a zone a mark is tried, as shares of its width and height: the middle first.
COLUMNS = (0.5, 0.3, 0.7, 0.1, 0.9, 0.2, 0.8, 0.4, 0.6)
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


@dataclass
class _Board:
    """A board's free wood on both faces, as it fills with marks."""

    blank: Blank
    inner: Side
    free: dict[Side, shapely.Geometry]
    marks: list[Mark]

    @property
    def sides(self) -> tuple[Side, Side]:
        """The face that looks inward, and the other one for where it has no room."""
        return self.inner, "b" if self.inner == "a" else "a"

    def whole(self, side: Side) -> list[shapely.Geometry]:
        """The rectangle round the free wood of a face; none where it has none."""
        return [] if self.free[side].is_empty else [shapely.box(*self.free[side].bounds)]

    def put(self, text: str, height: float, side: Side, zones: list[shapely.Geometry], owner: str) -> bool:
        """Engraves a text in the first zone that has room; letters shrink to LEAST before a zone is given up."""
        for zone in zones:
            for size in (height, max(LEAST, height / 2)):
                place = _room(self.free[side], zone, text, size)
                if place:
                    runs = strokes(text, 0.0, 0.0, size, owner)
                    mirrored = side == "b"  # it reads right from its own side
                    self.marks += [Mark(r.moved(*place, mirrored=mirrored), owner, side, reads=True) for r in runs]
                    x0, y0, x1, y1 = _extent(text, size)
                    self.free[side] = shapely.difference(
                        self.free[side], shapely.box(place[0] + x0, place[1] + y0, place[0] + x1, place[1] + y1)
                    )
                    return True
        return False


def _extent(text: str, height: float) -> tuple[float, float, float, float]:
    """The box that a centred text takes, with some clear wood round it."""
    boxes = [r.bounds for r in strokes(text, 0.0, 0.0, height, "")]
    x = max(max(abs(b[0]), abs(b[2])) for b in boxes) + CLEAR
    y = max(max(abs(b[1]), abs(b[3])) for b in boxes) + CLEAR
    return -x, -y, x, y


def _room(free: shapely.Geometry, zone: shapely.Geometry, text: str, height: float) -> tuple[float, float] | None:
    """The middle of a place for a text in a zone: its centre, else places on a grid."""
    x0, y0, x1, y1 = _extent(text, height)
    # where the text's centre may lie: the zone's free wood taken in by the text's half size
    area = shapely.intersection(free, zone)
    if area.is_empty:
        return None
    zx0, zy0, zx1, zy1 = area.bounds
    shares = np.array([(i, j) for i in COLUMNS for j in COLUMNS])
    at = np.array((zx0 + x1, zy0 + y1)) + shares * np.array((zx1 - zx0 - 2 * x1, zy1 - zy0 - 2 * y1))
    shapely.prepare(area)
    fine = np.flatnonzero(shapely.contains(area, shapely.box(at[:, 0] + x0, at[:, 1] + y0, at[:, 0] + x1, at[:, 1] + y1)))
    return (round(float(at[fine[0], 0]), 4), round(float(at[fine[0], 1]), 4)) if len(fine) else None


def help_marks(
    marks: HelpMarks,
    numbers: dict[str, int],
    blanks: dict[str, Blank],
    contexts: dict[str, JointContext],
    operations: dict[str, list[Operation]],
    height: float,
) -> dict[str, list[Mark]]:
    """The marks of every board by key. ``numbers`` are the cut list's, ``height`` the letters' in mm."""
    if not (marks.numbers or marks.mates or marks.inside or marks.grain) or not blanks:
        return {}
    middle = {
        axis: (min(b.span.span(axis)[0] for b in blanks.values()) + max(b.span.span(axis)[1] for b in blanks.values())) / 2
        for axis in "xyz"
    }
    boards = {
        k: _Board(b, _inner(b, middle), _free(b, operations.get(k, [])), [])
        for k, b in blanks.items()
        if b.record.cut_here and not b.record.aside
    }
    # copies and boards at an angle have no mark of their own for where they meet
    contexts = {k: c for k, c in contexts.items() if not c.contact.kind.startswith("angle") and "@" not in c.a.key + c.b.key}
    if marks.mates:
        _mates(boards, contexts, height)
    for key, board in boards.items():
        words = [str(numbers[key])] if key in numbers else []
        if marks.inside:
            words.append("INSIDE")
        for side in board.sides:
            hidden = [
                _zone(c, board.blank, covered=True)
                for c in contexts.values()
                if key in (c.a.key, c.b.key) and _covered(c, board.blank) == side
            ]
            if not words or board.put(" ".join(words), height, side, [*hidden, *board.whole(side)], f"mark:{key}"):
                break
        if marks.grain and board.blank.record.grain != "free":
            any(_arrow(board, height, side) for side in board.sides)
    return {k: b.marks for k, b in boards.items()}


def _inner(blank: Blank, middle: dict[str, float]) -> Side:
    """The face that looks to the design's middle; the one that lies up where it goes through the middle."""
    low, high = blank.span.span(blank.frame.normal)
    at = middle[blank.frame.normal]
    if abs((low + high) / 2 - at) <= CONTACT:
        return blank.record.up
    return blank.face_toward("high" if at > (low + high) / 2 else "low")


def _free(blank: Blank, operations: list[Operation]) -> dict[Side, shapely.Geometry]:
    """The whole wood of both faces, CLEAR of every cut."""
    (u0, u1), (v0, v1) = blank.extents.span(blank.frame.u), blank.extents.span(blank.frame.v)
    ou, ov = blank.origin
    board = shapely.box(u0 - ou + CLEAR, v0 - ov + CLEAR, u1 - ou - CLEAR, v1 - ov - CLEAR)
    if blank.fold:  # the plate alone, as far as it is flat and on this half
        board = shapely.buffer(shapely.union_all([to_polygon(c, 0.1) for c in blank.fold.faces[0].outline]), -CLEAR)
    through = [to_polygon(o.contour, 0.1) for o in operations if isinstance(o, Cut)]
    through += [to_polygon(c, 0.1) for o in operations if isinstance(o, Bevel) for c in (o.on_a, o.on_b)]
    found: dict[Side, shapely.Geometry] = {}
    for side in ("a", "b"):
        gone = through + [to_polygon(o.contour, 0.1) for o in operations if isinstance(o, Pocket) and o.face == side]
        gone += [
            shapely.LineString(o.contour.points) for o in operations if isinstance(o, Mark) and o.face == side and len(o.contour.points) > 1
        ]
        found[side] = shapely.difference(board, shapely.buffer(shapely.union_all(gone), CLEAR)) if gone else board
    return found


def _covered(context: JointContext, blank: Blank) -> Side | None:
    """The face of a board that the other one covers at a joint; None where it covers none."""
    c = context.contact
    if c.kind == "faces":
        return blank.face_toward((c.reach_a if blank is context.a else c.reach_b).side)
    if c.kind == "tee" and blank is (context.b if c.reach_a.ends else context.a):
        return context.face_b if blank is context.b else context.a.face_toward("low" if c.reach_b.side == "high" else "high")
    if c.kind == "corner":  # in the corner's block the inner faces lie against the other's wood
        reach = c.reach_b if blank is context.b else c.reach_a
        other = c.reach_a if blank is context.b else c.reach_b
        return blank.face_toward("low" if other.side == "high" else "high") if reach.ends else None
    return None


def _zone(context: JointContext, blank: Blank, *, covered: bool) -> shapely.Geometry:
    """The part of a board's plane that a joint covers, or a strip of the board beside it."""
    c, other = context.contact, context.b if blank is context.a else context.a
    if c.region:
        spans = {x: (low, high) for x, low, high in c.region}
    else:
        spans = {c.axis: c.run, other.frame.normal: other.span.span(other.frame.normal)}
    u0, v0, u1, v1 = blank.local(spans)
    beside = 0.0 if covered else 25.0
    return shapely.box(u0 - beside, v0 - beside, u1 + beside, v1 + beside)


def _mates(boards: dict[str, _Board], contexts: dict[str, JointContext], height: float) -> None:
    """Each joint's mark on both its boards: a letter for the first board, and a number (A1 to A1)."""
    letters = {key: LETTERS[i % 26] * (1 + i // 26) for i, key in enumerate(boards)}
    counts: dict[str, int] = {}
    for key, context in contexts.items():
        first = min((context.a.key, context.b.key), key=lambda k: list(letters).index(k) if k in letters else len(letters))
        if first not in letters:
            continue
        counts[first] = counts.get(first, 0) + 1
        label = f"{letters[first]}{counts[first]}"
        for blank in (context.a, context.b):
            if blank.key not in boards:
                continue
            board = boards[blank.key]
            zones = [_zone(context, blank, covered=True), _zone(context, blank, covered=False)]
            sides = dict.fromkeys((_covered(context, blank) or board.inner, *board.sides))
            any(board.put(label, height, side, zones, joint_id(key)) for side in sides)


def _arrow(board: _Board, height: float, side: Side) -> bool:
    """A double-headed arrow along the grain on a face, and whether there was room for it."""
    along_u = board.blank.record.grain == "u"
    owner = f"mark:{board.blank.key}"
    size, head = 4 * height, height / 2
    for zone, share in ((z, x) for z in board.whole(side) for x in (0.75, 0.25, 0.5, 0.9, 0.1)):
        x0, y0, x1, y1 = zone.bounds
        x, y = x0 + (x1 - x0) * share, y0 + (y1 - y0) * (1 - share)
        half = (size / 2, head) if along_u else (head, size / 2)
        if shapely.contains(
            board.free[side], shapely.box(x - half[0] - CLEAR, y - half[1] - CLEAR, x + half[0] + CLEAR, y + half[1] + CLEAR)
        ):
            runs = [[(-size / 2, 0.0), (size / 2, 0.0)]]
            runs += [[(e * (size / 2 - head), head), (e * size / 2, 0.0), (e * (size / 2 - head), -head)] for e in (-1, 1)]
            for run in runs:
                points = [(x + (p if along_u else q), y + (q if along_u else p)) for p, q in run]
                board.marks.append(Mark(polyline(points, owner), owner, side))
            return True
    return False
