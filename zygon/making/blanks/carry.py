"""Operations and blank changes carried by a motion from one board's plane to another's: what a copy's joint or bore does to a board that stays."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from zygon.geometry.contour import Contour, rectangle
from zygon.geometry.frame import AXES, FACES
from zygon.geometry.motion import Motion, Vector
from zygon.making.blanks.blank import Blank, Change
from zygon.making.result.operations import Bevel, Cut, EdgeBore, Mark, Operation, Pocket, Side, Sink, SkewBore
from zygon.tolerance import CONTACT, EPS, WITHIN

__all__ = ["Carrier", "carrier", "carry", "replay"]


@dataclass(frozen=True)
class Carrier:
    """A motion within a board's plane: (u, v) turned by ``angle`` radians after mirroring u where ``mirrored``, then moved; ``flips`` turns it over."""

    du: float
    dv: float
    angle: float
    mirrored: bool
    flips: bool
    thickness: float

    def contour(self, c: Contour) -> Contour:
        """Where a contour comes to lie; it runs the way it ran."""
        return c.moved(self.du, self.dv, self.angle, self.mirrored)

    def point(self, p: tuple[float, float]) -> tuple[float, float]:
        """Where a point comes to lie."""
        c, s = math.cos(self.angle), math.sin(self.angle)
        x, y = (-p[0] if self.mirrored else p[0]), p[1]
        return x * c - y * s + self.du, x * s + y * c + self.dv

    def place(self, p: Vector) -> Vector:
        """Where a place within the board comes to lie."""
        return *self.point((p[0], p[1])), self.thickness - p[2] if self.flips else p[2]

    def face(self, side: Side) -> Side:
        """The face that a face becomes."""
        return side if not self.flips else "b" if side == "a" else "a"


def carrier(start: Blank, end: Blank, motion: Motion) -> Carrier | None:
    """How ``motion`` (in the room) takes one board's (u, v, w) to another's; None where it leaves the plane or the boards differ in thickness."""
    m = (end.in_room.inverse @ motion @ start.in_room).rows
    t = start.thickness
    if abs(t - end.thickness) > CONTACT or abs(abs(m[2][2]) - 1) > EPS:
        return None
    flips = m[2][2] < 0
    if abs(m[2][3] - (t if flips else 0.0)) > CONTACT:
        return None
    mirrored = m[0][0] * m[1][1] - m[0][1] * m[1][0] < 0
    sign = -1.0 if mirrored else 1.0
    angle = math.atan2(sign * m[1][0], sign * m[0][0])
    return Carrier(m[0][3], m[1][3], angle, mirrored, flips, t)


def carry(operation: Operation, by: Carrier, start: Blank, end: Blank) -> Operation | None:
    """The operation at its new place; None for a hole into an edge that comes to lie askew."""
    match operation:
        case Cut():
            return replace(operation, contour=by.contour(operation.contour))
        case Mark() | Pocket():
            return replace(operation, contour=by.contour(operation.contour), face=by.face(operation.face))
        case Bevel():
            a, b = by.contour(operation.on_a), by.contour(operation.on_b)
            return replace(operation, on_a=b, on_b=a) if by.flips else replace(operation, on_a=a, on_b=b)
        case Sink():
            u, v = by.point((operation.u, operation.v))
            return replace(operation, u=u, v=v, face=by.face(operation.face))
        case EdgeBore():
            return _edge_bore(operation, by, end)
        case SkewBore():
            return replace(operation, start=by.place(operation.start), end=by.place(operation.end))
    return None


def _edge_bore(bore: EdgeBore, by: Carrier, end: Blank) -> EdgeBore | None:
    into = 1.0 if bore.side == "low" else -1.0
    at = (bore.at, bore.along) if bore.across == "u" else (bore.along, bore.at)
    tip = (bore.at + into, bore.along) if bore.across == "u" else (bore.along, bore.at + into)
    (u, v), (tu, tv) = by.point(at), by.point(tip)
    way = (tu - u, tv - v)
    if min(abs(way[0]), abs(way[1])) > WITHIN:
        return None
    k = 0 if abs(way[0]) > 0.5 else 1
    axis = (end.frame.u, end.frame.v)[k]
    side: Literal["low", "high"] = "low" if way[k] > 0 else "high"
    return replace(
        bore,
        across=("u", "v")[k],
        side=side,
        at=(u, v)[k],
        along=(u, v)[1 - k],
        w=by.thickness - bore.w if by.flips else bore.w,
        edge=FACES[axis][0 if side == "low" else 1],
    )


def replay(change: Change, start: Blank, end: Blank, motion: Motion, by: Carrier) -> bool:
    """Does to ``end`` what a joint did to ``start``, as a motion (in the room) carries it; False where a side would come to lie askew."""
    inner = end.place.inverse @ motion @ start.place
    end.by = change.owner
    if change.what == "shape":
        end.shape(by.contour(change.contour))  # type: ignore[arg-type]
        return True
    if change.what == "add":
        u0, v0, u1, v1, owner = change.rect
        if not inner.square:  # a rectangle that comes to lie askew is a contour like any other
            ou, ov = start.origin
            end.shape(by.contour(rectangle(u0 - ou, v0 - ov, u1 - ou, v1 - ov, owner)))
            return True
        corners = [_at(start, u, v, inner, end) for u, v in ((u0, v0), (u1, v1))]
        us, vs = sorted(c[0] for c in corners), sorted(c[1] for c in corners)
        end.add_rectangle((us[0], vs[0], us[1], vs[1], owner))
        return True
    i = AXES.index(change.axis)
    direction = inner.vector([1.0 if k == i else 0.0 for k in range(3)])
    j = next((k for k in range(3) if abs(direction[k]) > 1 - EPS), None)
    if j is None:
        return False
    to = direction[j] * change.to + inner.rows[j][3]
    side = change.side if direction[j] > 0 else "low" if change.side == "high" else "high"
    (end.lengthen if change.what == "lengthen" else end.grow)(AXES[j], side, round(to, 7))
    return True


def _at(start: Blank, u: float, v: float, inner: Motion, end: Blank) -> tuple[float, float]:
    place = {start.frame.u: u, start.frame.v: v, start.frame.normal: start.span.span(start.frame.normal)[0]}
    moved = inner.point([place[a] for a in AXES])
    return round(moved[AXES.index(end.frame.u)], 7), round(moved[AXES.index(end.frame.v)], 7)
