"""How connectors stand on the points of frames: which members lie in their sockets, and what they are there."""

from __future__ import annotations

import math
from contextlib import suppress
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from zygon.design.parts.connector import TOWARD
from zygon.design.parts.kinds import is_connector, is_member
from zygon.errors import MemberError
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion, of_rows, three
from zygon.making.connector.body import ConnectorBody, Given, Plate, Sleeve
from zygon.making.connector.seating import BESIDE, SWUNG, Run, Seat, Seating, SocketPlace, clear_of, motion_of, seated
from zygon.making.datums.ids import connector_entry
from zygon.making.datums.members import NoPlace, point_of
from zygon.making.result.box import Box
from zygon.measure.display import format_length
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = ["Fitting", "Reach", "fitting_of", "reaches_of", "runs_at", "seating_of"]

#: A socket for which no size is said and in which nothing lies is this wide (mm).
EMPTY = 20.0
#: And a spigot without a tube is for one whose wall is such a part of it.
EMPTY_WALLS = 10


@dataclass(frozen=True)
class Fitting:
    """A connector as it stands at rest: its body, the ``motion`` that takes it there, and the room that it takes (mm)."""

    body: ConnectorBody
    motion: Motion
    box: Box


@dataclass(frozen=True)
class Reach:
    """From where to where along its axis a socket's outside reaches, how deep its hole is, and how far from the middle a member ends in it; mm."""

    start: float
    out: float
    deep: float
    back: float


def seating_of(values: Values, key: str) -> Seating:
    """Which members lie in a connector's sockets. KeyError where its point or an entry of it is not worked out."""
    record = values.boards[key]
    assert is_connector(record)
    sockets = _places(values, key)
    reach = max((float(np.linalg.norm(s.beside)) for s in sockets), default=0.0)
    return seated(sockets, runs_at(values, record.frame, record.point, reach), record.another, values.solved[connector_entry(key, "turn")])


def runs_at(values: Values, frame: str, point: str, reach: float = 0.0) -> list[Run]:
    """The members of a frame as they are seen from one of its points: those that end there or pass it, or pass no farther than ``reach`` mm and their
    own size beside it. KeyError where the point is not worked out."""
    at, runs = point_of(values, frame, point), []
    for member, part in values.boards.items():
        if is_member(part) and part.frame == frame and not part.aside:
            with suppress(KeyError, NoPlace):  # what has no place is told by itself
                run = _run(values, member, at, reach)
                runs += [run] if run else []
    return runs


def _places(values: Values, key: str) -> list[SocketPlace]:
    """A connector's sockets before it is turned, in their order."""
    record = values.boards[key]
    assert is_connector(record)
    return [_socket(values, key, s) for s in sorted(record.sockets, key=lambda k: (record.sockets[k].order, k))]


def _socket(values: Values, key: str, socket: str) -> SocketPlace:
    record = values.socket(key, socket)
    lean, beside = (values.solved[connector_entry(key, f, socket)] for f in ("lean", "beside"))
    way, to = np.array(TOWARD[record.toward]), np.array(TOWARD[record.lean_to])
    if abs(float(way @ to)) < EPS:
        way = way * math.cos(lean) + to * math.sin(lean)
    if record.line:
        with suppress(KeyError):  # of a line that is gone, or has no place, it looks as it did
            way = _along(values, key, record.line)
    swings = np.eye(3)["xyz".index(record.swings)] if record.swings else None
    return SocketPlace(socket, way, np.array(TOWARD[record.beside_to]) * beside, swings, record.through)


def _along(values: Values, key: str, line: str) -> np.ndarray:
    """The direction (3,) of a line, away from the point that a connector stands on where it ends there. KeyError where it has none."""
    part = values.boards[key]
    assert is_connector(part)
    ends = values.document.frames[part.frame].lines[line]
    a, b = (ends.b, ends.a) if ends.b == part.point else (ends.a, ends.b)
    way = point_of(values, part.frame, b) - point_of(values, part.frame, a)
    long = float(np.linalg.norm(way))
    if long <= CONTACT:
        raise KeyError(line)
    return np.asarray(way / long)


def _run(values: Values, member: str, at: np.ndarray, reach: float) -> Run | None:
    """A member as it is seen from a point; None for one that passes farther off than ``reach`` mm and its own size."""
    section = values.section_of(member)
    assert section
    far = reach + max(section.extents)
    corners, u, _ = values.axis(member)
    x, y, z = at.tolist()
    places = corners.tolist()
    last = len(places) - 2
    for k, ((ax, ay, az), (bx, by, bz)) in enumerate(zip(places, places[1:], strict=False)):
        wx, wy, wz = bx - ax, by - ay, bz - az
        long = math.sqrt(wx * wx + wy * wy + wz * wz)
        wx, wy, wz = wx / long, wy / long, wz / long
        t = (x - ax) * wx + (y - ay) * wy + (z - az) * wz
        if not -BESIDE <= t <= long + BESIDE:
            continue
        aside = (ax + wx * t - x, ay + wy * t - y, az + wz * t - z)
        if aside[0] ** 2 + aside[1] ** 2 + aside[2] ** 2 > far * far:
            continue
        way, beside = np.array((wx, wy, wz)), np.array(aside)
        if t <= BESIDE and k == 0:
            return Run(member, "a", way, beside, u, section)
        if t >= long - BESIDE and k == last:
            return Run(member, "b", -way, beside, _carried(corners, u), section)
        if BESIDE < t < long - BESIDE:
            return Run(member, "through", way, beside, u, section)
    return None


def _carried(corners: np.ndarray, u: np.ndarray) -> np.ndarray:
    """How a section's u looks at the end of a way with corners, carried over each bend without a turn about the way."""
    ways = np.diff(corners, axis=0)
    for a, b in zip(ways, ways[1:], strict=False):
        axis = np.cross(a, b)
        long = float(np.linalg.norm(axis))
        if long <= EPS:
            continue
        axis = axis / long
        angle = math.atan2(long, float(a @ b))
        u = u * math.cos(angle) + np.cross(axis, u) * math.sin(angle) + axis * float(axis @ u) * (1 - math.cos(angle))
    return u


def reaches_of(values: Values, key: str) -> dict[str, Reach]:
    """From where to where each socket of a connector reaches. KeyError where something of it is not worked out."""
    record = values.boards[key]
    assert is_connector(record)
    places, of_seat = _places(values, key), {s.socket: s for s in values.seating(key).seats}
    wall = values.solved[connector_entry(key, "wall")]
    usual = next((s.run.section for s in of_seat.values()), Section("round", EMPTY))
    sections = {p.key: of_seat[p.key].run.section if p.key in of_seat else usual for p in places}
    halves = {p.key: _half(values, key, p.key, sections[p.key]) for p in places}
    found = {}
    for place in places:
        deep = values.solved[connector_entry(key, "depth", place.key)]
        half, meets = halves[place.key], [p for p in places if p is not place and np.allclose(p.beside, place.beside)]
        spare = {p.key: SWUNG if p.swings is not None or place.swings is not None else 0.0 for p in meets}
        clear = [clear_of(place.way, half, p.way, halves[p.key], wall, through=p.through, spare=spare[p.key]) for p in meets]
        back = max(clear, default=0.0)
        if record.base is not None:
            back = max(back, values.solved[connector_entry(key, "base_thick")])
        said = values.solved.get(connector_entry(key, "out", place.key)) if values.socket(key, place.key).out is not None else None
        if place.through:
            across = [
                clear_of(place.way, half, p.way, halves[p.key], wall, through=True) for p in meets
            ]  # as far as the walls of what it meets
            out = said if said is not None else max([half + wall, *across])
            found[place.key] = Reach(-out, out, 2 * out, 0.0)
        else:
            out = said if said is not None else back + deep
            start = -wall if not meets and record.base is None else 0.0
            if meets and values.socket(key, place.key).inside and sections[place.key].shape != "round" and _beside_all(place, meets):
                start = -half  # the shoulders of square tubes make a block together, as their sides go on
            found[place.key] = Reach(start, out, deep, out - deep)
    return found


def _beside_all(place: SocketPlace, others: list[SocketPlace]) -> bool:
    """Whether no other socket looks back along it."""
    return all(float(place.way @ p.way) > -math.sin(SWUNG) for p in others)


def _half(values: Values, key: str, socket: str, section: Section) -> float:
    """Half of how wide a socket's hole is, or what a spigot's shoulder is, in mm."""
    wider = 0.0 if values.socket(key, socket).inside else _wider(values, key, socket, section)
    return (max(section.extents) + wider) / 2


def _wider(values: Values, key: str, socket: str, section: Section) -> float:
    """How much wider a socket is than the member of a section that lies in it, in mm."""
    fit = values.solved[connector_entry(key, "fit", socket)]
    if values.socket(key, socket).across is None:
        return fit
    return values.solved[connector_entry(key, "across", socket)] - section.height + fit


def fitting_of(values: Values, key: str) -> Fitting:
    """A connector as it stands. KeyError where something of it is not worked out, NoPlace where it cannot be."""
    record = values.boards[key]
    assert is_connector(record)
    seating = values.seating(key)
    motion = motion_of(seating.turned, point_of(values, record.frame, record.point))
    body = _body(values, key, seating)
    low, high = body.reach(motion.matrix)
    return Fitting(body, motion, Box(three(low), three(high)))


def _body(values: Values, key: str, seating: Seating) -> ConnectorBody:
    record = values.boards[key]
    assert is_connector(record)
    wall = values.solved[connector_entry(key, "wall")]
    if wall <= CONTACT:
        raise NoPlace("wall", f"{record.name}: a wall of {_shown(values, wall)}", "a wall is greater than 0")
    of_seat = {s.socket: s for s in seating.seats}
    usual = next((s.run.section for s in seating.seats), Section("round", EMPTY))
    sleeves = tuple(_sleeve(values, key, place, of_seat.get(place.key), usual, wall) for place in _places(values, key))
    plate = _plate(values, key, sleeves[0]) if record.base is not None else None
    apart = any(max(map(abs, s.place.shift)) > CONTACT for s in sleeves)
    ball = 0.0 if plate or apart or len(sleeves) == 1 else max(max(s.outer.extents) for s in sleeves) / 2
    ball = min([ball, *(s.back for s in sleeves if s.inside)])  # not into the tubes that come up to its shoulders
    given = None
    if record.solid is not None:
        x, y, z = (values.solved.get(connector_entry(key, f"middle_{a}"), 0.0) for a in AXES)
        given = Given(tuple(record.solid.positions), tuple(record.solid.triangles), record.solid.volume, (x, y, z))
    return ConnectorBody(sleeves, round(ball, 7), plate, given)


def _shown(values: Values, mm: float) -> str:
    return format_length(round(mm, 3), values.document.display)


def _sleeve(values: Values, key: str, place: SocketPlace, seat: Seat | None, usual: Section, wall: float) -> Sleeve:
    """A socket as it is made, for the member that lies in it."""
    socket, part = place.key, values.boards[key]
    reach, section = values.reaches(key)[socket], seat.run.section if seat else usual
    if reach.out <= CONTACT:
        said = f"{part.name}: a socket whose mouth is {_shown(values, reach.out)} from the middle"
        raise NoPlace(f"sockets/{socket}/out", said, "a mouth is farther out than the middle")
    if not place.through and not (reach.deep > CONTACT and reach.back >= -CONTACT):
        said = f"{part.name}: a socket that is {_shown(values, reach.deep)} deep and ends {_shown(values, reach.out)} from the middle"
        raise NoPlace(f"sockets/{socket}/depth", said, "a socket is deeper than 0, and not deeper than its mouth is out")
    wider = _wider(values, key, socket, section)
    inside = values.socket(key, socket).inside
    if inside and seat and not section.hollow:
        said = f"{part.name}: a spigot for {values.boards[seat.run.part].name}, which is no tube"
        raise NoPlace(f"sockets/{socket}/inside", said, "a spigot goes into a tube")
    try:
        inner, outer = (_spigot(values, key, socket, section), section.grown(0.0)) if inside else _round(section, wider, wall)
    except MemberError:
        field = "fit" if values.socket(key, socket).across is None else "across"
        said = f"{part.name}: a socket {_shown(values, section.height + wider)} wide"
        raise NoPlace(f"sockets/{socket}/{field}", said, "a socket is wider than 0") from None
    way = seat.way if seat else place.way
    u = values.seating(key).turned.T @ seat.run.u if seat else np.eye(3)[int(np.abs(way).argmin())]
    u = u - way * float(u @ way)
    u = u / np.linalg.norm(u)
    v = np.cross(way, u)
    rows = of_rows((*(round(float(x), 9) + 0.0 for x in (u[i], v[i], way[i])), round(float(place.beside[i]), 7)) for i in range(3))
    x, y, z = (round(float(a), 9) + 0.0 for a in place.way)
    start, out, deep = (round(r, 7) for r in (reach.start, reach.out, reach.deep))
    return Sleeve(socket, rows, inner, outer, start, out, deep, place.through, (x, y, z), place.swings is not None, inside)


def _round(section: Section, wider: float, wall: float) -> tuple[Section, Section]:
    """The hole of a sleeve for a member of a section, and its outside."""
    inner = section.grown(wider / 2)
    return inner, inner.grown(wall)


def _spigot(values: Values, key: str, socket: str, section: Section) -> Section:
    """What goes into the bore of a tube of a section; of one that nothing lies on a tenth of it is its wall."""
    fit, wall = values.solved[connector_entry(key, "fit", socket)], section.wall or section.height / EMPTY_WALLS
    if values.socket(key, socket).across is not None:
        wall = (section.height - values.solved[connector_entry(key, "across", socket)]) / 2
    return section.grown(-wall - fit / 2)


def _plate(values: Values, key: str, first: Sleeve) -> Plate:
    record = values.boards[key]
    wide, thick = (values.solved[connector_entry(key, f)] for f in ("base", "base_thick"))
    if wide <= CONTACT or thick <= CONTACT:
        said = f"{record.name}: a plate {_shown(values, wide)} wide and {_shown(values, thick)} thick"
        raise NoPlace("base" if wide <= CONTACT else "base_thick", said, "a plate has a size")
    return Plate(first.place, wide, thick)
