"""Profiles that are drawn freely, square to an edge of a plate: the plane that they lie in, and the bends that their lines and arcs come to."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from zygon.design.folding import DrawnProfile
from zygon.design.pointer import pointer
from zygon.drawing.loops import Loops
from zygon.geometry.contour import Contour, Segment
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion, of_rows
from zygon.making.blanks.blank import Blank
from zygon.making.datums.drawings import drawn_on
from zygon.making.datums.on_plane import OnPlane
from zygon.making.datums.values import Values
from zygon.making.metal.edges import Edge
from zygon.owner import flange_id
from zygon.tolerance import CONTACT, EPS, SEEN

__all__ = ["NotBent", "ProfileBend", "ProfilePlane", "bends_along", "drawn_bends", "only_run", "profile_plane"]

#: Lines that turn by less than this from one to the next go straight on; an arc is tangent to a line up to this (radians).
STRAIGHT, TANGENT = math.radians(0.1), math.radians(0.05)
#: No corner of a profile turns by more (radians): its sharp would be too far off.
MOST = math.radians(175)
Pair = tuple[float, float]


class NotBent(ValueError):
    """What keeps a drawn line from being bent: a sentence, the rule, and the curve that it is about."""

    def __init__(self, message: str, rule: str, curve: str = "") -> None:
        super().__init__(message)
        self.message, self.rule, self.curve = message, rule, curve


@dataclass(frozen=True)
class ProfilePlane:
    """The plane square to an edge at its middle, its 0 on the edge and on the face that the line lies on.

    ``motion`` takes its (x, y, 0) to where the part's box lies before it is turned. ``out`` leads away from the plate and ``up`` towards face A, both as x and y of it.
    """

    on: OnPlane
    motion: Motion
    out: Pair
    up: Pair

    @cached_property
    def handed(self) -> float:
        """1 where ``out``, ``up`` are right-handed in it, else -1."""
        return math.copysign(1.0, self.out[0] * self.up[1] - self.out[1] * self.up[0])

    def seen(self, p: Pair) -> Pair:
        """A place as how far it is out from the edge, and how far towards face A."""
        return p[0] * self.out[0] + p[1] * self.out[1], p[0] * self.up[0] + p[1] * self.up[1]

    def placed(self, p: Pair) -> Pair:
        """The other way round."""
        return p[0] * self.out[0] + p[1] * self.up[0], p[0] * self.out[1] + p[1] * self.up[1]


@dataclass(frozen=True)
class ProfileBend:
    """A bend of the line: over 0 towards face A (radians), the radius of the line itself where an arc says it (mm), and whether the line lies in its inside.

    ``sharp`` is where the lines before and behind it meet, ``curve`` the key of the line behind it, as far as ``end``: the next sharp, or the line's end.
    """

    turn: float
    radius: float | None
    inner: bool
    sharp: Pair
    end: Pair
    curve: str
    way: Pair

    @property
    def goes_back(self) -> bool:
        """Whether its end lies behind its sharp, as arcs that take more than a line has between them have it."""
        return (self.end[0] - self.sharp[0]) * self.way[0] + (self.end[1] - self.sharp[1]) * self.way[1] < 0


def profile_plane(values: Values, blank: Blank, edge: Edge, flange: DrawnProfile) -> ProfilePlane:
    """Where a profile on an edge ((u, v), the outside on its right) is drawn. Where the edge runs along an axis, x and y run along the two others."""
    (u0, v0), (u1, v1) = edge
    long, fm = math.dist(*edge), blank.frame_motion
    height = blank.thickness if flange.lies == "a" else 0.0
    origin = np.array(fm.point(((u0 + u1) / 2, (v0 + v1) / 2, height)))
    out = np.array(fm.vector(((v1 - v0) / long, (u0 - u1) / long, 0.0)))
    up = np.array(fm.vector((0.0, 0.0, 1.0)))
    along = np.cross(out, up)
    axis = next((k for k in range(3) if abs(along[k]) > 1 - EPS), None)
    if axis is not None:
        x, y = (np.eye(3)[k] for k in range(3) if k != axis)
        ways = tuple(a for k, a in enumerate(AXES) if k != axis)
    else:
        x, y = out, np.abs(up)
        ways = ("", blank.frame.normal)
    z = np.cross(x, y)
    rows = [[float(x[i]), float(y[i]), float(z[i]), float(origin[i])] for i in range(3)]
    lows = tuple(round(float(origin[AXES.index(w)]), 7) if w else 0.0 for w in ways)
    record = blank.record
    frame = None if values.still else blank.place
    zeros = ("its edge", "its face") if abs(float(out @ x)) > 0.5 else ("its face", "its edge")
    on = OnPlane(record.name, blank.key, record.stock, record.group, (ways[0], ways[1]), (lows[0], lows[1]), frame, zeros=zeros)
    return ProfilePlane(on, of_rows(rows), (float(out @ x), float(out @ y)), (float(up @ x), float(up @ y)))


def drawn_bends(values: Values, blank: Blank, edge: Edge, key: str, flange: DrawnProfile) -> list[ProfileBend]:
    """The bends of a drawn profile on an edge, solved where it lies; what is wrong with its figures is said. Raises NotBent."""
    plane = profile_plane(values, blank, edge, flange)
    where = pointer("parts", blank.key, "folding", "flanges", key, "drawing")
    found = drawn_on(values, plane.on, flange.drawing, where, flange_id(blank.record_key, key), holes=lambda _: None)
    return bends_along(only_run(found.loops), plane, flange.lies)


def only_run(loops: Loops) -> Contour:
    """The one open line that a drawing is. Raises NotBent."""
    for fault in loops.faults:
        if fault.code != "open":
            raise NotBent(fault.message, fault.rule, fault.curves[0] if fault.curves else "")
    if loops.closed:
        raise NotBent("it is closed", "an open line from the plate to its far end", loops.closed[0].owners[0])
    if not loops.open:
        raise NotBent("nothing is drawn", "an open line from the plate to its far end")
    if len(loops.open) > 1:
        raise NotBent("it is in several pieces", "one open line, each piece joined to the next", loops.open[1].owners[0])
    return loops.open[0]


def bends_along(run: Contour, plane: ProfilePlane, lies: str) -> list[ProfileBend]:
    """The bends of an open line of straights and arcs that begins at the plate, whichever way it is drawn; places as ``ProfilePlane.seen``.

    Raises NotBent.
    """
    pieces = [_Piece(plane.seen(s.p), plane.seen(s.q), s.bulge * plane.handed, s.owner) for s in _of_run(run)]
    pieces = _from_plate(pieces)
    at, way = (0.0, 0.0), (1.0, 0.0)
    if _goes_on(way, pieces[0]) and abs(pieces[0].q[1]) <= SEEN and not pieces[0].bulge:
        pieces = pieces[1:]  # a line that lies along the plate is the plate itself
    found: list[ProfileBend] = []
    arc: _Piece | None = None
    for piece in pieces:
        if piece.bulge:
            if arc is not None:
                raise NotBent("two arcs follow one another", "a straight line between two arcs, since each is a bend", piece.curve)
            if abs(_turn(way, piece.leaves)) > TANGENT:
                raise NotBent("an arc is not tangent to the line before it", "an arc that goes on smoothly from line to line", piece.curve)
            arc = piece
            continue
        if arc is not None and abs(_turn(arc.arrives, piece.way)) > TANGENT:
            raise NotBent("an arc is not tangent to the line behind it", "an arc that goes on smoothly from line to line", arc.curve)
        turn = arc.sweep if arc else _turn(way, piece.way)
        if abs(turn) < STRAIGHT and arc is None:
            if not found:
                raise NotBent("it does not bend at the plate", "a first line that stands off the plate", piece.curve)
            found[-1] = replace(found[-1], end=piece.q)
            continue
        if abs(turn) < STRAIGHT:
            raise NotBent("an arc hardly bends", "bends of at least 0.1°", piece.curve)
        if abs(turn) > MOST:
            shown = f"{math.degrees(abs(turn)):.4g}°"
            raise NotBent(f"a bend of {shown}", "bends of less than 175°; a hem is folded flat", (arc or piece).curve)
        sharp = _crossing(at, way, piece.p, piece.way)
        if found:
            found[-1] = replace(found[-1], end=sharp)
        inner = (turn > 0) == (lies == "a")
        found.append(ProfileBend(turn, arc.radius if arc else None, inner, sharp, piece.q, piece.curve, piece.way))
        at, way, arc = piece.p, piece.way, None
    if arc is not None:
        raise NotBent("it ends in an arc", "a straight line at its end", arc.curve)
    if not found:
        raise NotBent("nothing of it stands off the plate", "a line that stands off the plate")
    return found


@dataclass(frozen=True)
class _Piece:
    p: Pair
    q: Pair
    bulge: float
    curve: str

    @property
    def way(self) -> Pair:
        long = math.dist(self.p, self.q)
        return (self.q[0] - self.p[0]) / long, (self.q[1] - self.p[1]) / long

    @property
    def sweep(self) -> float:
        return 4 * math.atan(self.bulge)

    @property
    def radius(self) -> float:
        return math.dist(self.p, self.q) / 2 / abs(math.sin(self.sweep / 2))

    @property
    def leaves(self) -> Pair:
        return _spun(self.way, -self.sweep / 2)

    @property
    def arrives(self) -> Pair:
        return _spun(self.way, self.sweep / 2)

    def turned(self) -> _Piece:
        return _Piece(self.q, self.p, -self.bulge, self.curve)


def _of_run(run: Contour) -> list[Segment]:
    return [s for s in run.segments() if math.dist(s.p, s.q) > CONTACT]


def _from_plate(pieces: list[_Piece]) -> list[_Piece]:
    """The pieces in order from the end that lies on the plate's face, the one nearer to its edge."""
    ends = [(abs(p[0]), turned) for p, turned in ((pieces[0].p, False), (pieces[-1].q, True)) if abs(p[1]) <= SEEN]
    if not ends:
        raise NotBent(
            "it does not begin at the plate", "a line whose one end lies on the plate's face, at its edge or within it", pieces[0].curve
        )
    return [p.turned() for p in reversed(pieces)] if min(ends)[1] else pieces


def _goes_on(way: Pair, piece: _Piece) -> bool:
    return abs(_turn(way, piece.leaves)) < STRAIGHT


def _turn(a: Pair, b: Pair) -> float:
    return math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1])


def _spun(v: Pair, angle: float) -> Pair:
    c, s = math.cos(angle), math.sin(angle)
    return c * v[0] - s * v[1], s * v[0] + c * v[1]


def _crossing(p: Pair, way: Pair, q: Pair, other: Pair) -> Pair:
    """Where two lines meet that are not parallel."""
    cross = way[0] * other[1] - way[1] * other[0]
    t = ((q[0] - p[0]) * other[1] - (q[1] - p[1]) * other[0]) / cross
    return p[0] + t * way[0], p[1] + t * way[1]
