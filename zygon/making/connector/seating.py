"""How a connector turns onto the members that meet in its point: which of its sockets takes which of them."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from zygon.geometry.motion import Motion, Vector, of_rows
from zygon.memo import Memo, digest
from zygon.stock.section import Section
from zygon.tolerance import EPS

__all__ = ["ASKEW", "BESIDE", "Run", "Seat", "Seating", "SWUNG", "SocketPlace", "clear_of", "motion_of", "seated"]

#: A member lies in a socket up to this angle between them (radians): what play a tube has in one; common practice.
ASKEW = math.radians(0.5)
Rows = tuple[Vector, ...]
STILL: Rows = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
#: What was found of like sockets and like members: most points of a frame are like others.
_KNOWN = Memo(2000)
#: What swings has room to come so much nearer to the others than it looks before it is swung (radians); common practice.
SWUNG = math.radians(30)
#: An axis passes through a socket's up to this far beside it (mm).
BESIDE = 0.05


@dataclass(frozen=True, eq=False)
class SocketPlace:
    """A socket before its connector is turned: the way it looks, its axis' place beside the middle, and the axis about which it ``swings``, as vectors (3,)."""

    key: str
    way: np.ndarray
    beside: np.ndarray
    swings: np.ndarray | None
    through: bool


@dataclass(frozen=True, eq=False)
class Run:
    """A member as it is seen from a point: its part's key, whether it ends there or passes, its way from there into its material, its nearest
    place beside the point, and where its section's u looks; vectors (3,)."""

    part: str
    at: Literal["a", "b", "through"]
    way: np.ndarray
    beside: np.ndarray
    u: np.ndarray
    section: Section


@dataclass(frozen=True, eq=False)
class Seat:
    """A member in a socket, and the way (3,) in which the socket looks for it, in the connector's own coordinates."""

    socket: str
    run: Run
    way: np.ndarray


@dataclass(frozen=True, eq=False)
class Seating:
    """How a connector stands: ``turned`` (3, 3) takes its own directions to the room's at rest. ``left`` are the members that no socket takes,
    ``ways`` in how many ways as many would be taken."""

    turned: np.ndarray
    seats: tuple[Seat, ...]
    left: tuple[Run, ...]
    ways: int

    def of(self, part: str, end: str) -> Seat | None:
        """The seat of a member's end, or of it where it passes through."""
        return next((s for s in self.seats if s.run.part == part and s.run.at == end), None)


def seated(sockets: list[SocketPlace], runs: list[Run], another: int = 0, turn: float = 0.0) -> Seating:
    """A connector turned so that as many sockets as can be take a member, the first of the ways that turn it least; ``another`` picks a later one.

    ``turn`` is about the first member that is taken (radians, right-hand, away from the point).
    """
    plain = _plain(sockets, runs)
    turned, pairs, ways = _KNOWN.get(digest("seated", plain, another, turn), lambda: _found(plain, another, turn))[0]
    seats = tuple(
        Seat(sockets[i].key, runs[k], np.array(_back(turned, plain[1][k].way)) if sockets[i].swings is not None else sockets[i].way)
        for i, k in pairs
    )
    taken = {k for _, k in pairs}
    return Seating(np.array(turned), seats, tuple(r for k, r in enumerate(runs) if k not in taken), ways)


@dataclass(frozen=True)
class _Socket:
    way: Vector
    beside: Vector
    swings: Vector | None
    through: bool


@dataclass(frozen=True)
class _Run:
    way: Vector
    beside: Vector
    passes: bool


_Plain = tuple[tuple[_Socket, ...], tuple[_Run, ...]]


def _plain(sockets: list[SocketPlace], runs: list[Run]) -> _Plain:
    """All that matters of sockets and members for how they go together, in figures that are equal where they are meant to be."""
    return (
        tuple(_Socket(_figures(s.way), _figures(s.beside), None if s.swings is None else _figures(s.swings), s.through) for s in sockets),
        tuple(_Run(_figures(r.way), _figures(r.beside), r.at == "through") for r in runs),
    )


def _figures(v: np.ndarray) -> Vector:
    x, y, z = v.tolist()
    return round(x, 10) + 0.0, round(y, 10) + 0.0, round(z, 10) + 0.0


def _found(plain: _Plain, another: int, turn: float) -> tuple[Rows, tuple[tuple[int, int], ...], int]:
    """The turn, which socket takes which member, and in how many ways as many are taken."""
    found: dict[tuple[int, ...], tuple[int, float, Rows]] = {}
    for turned in _turns(plain):
        key = tuple(round(x * 1e6) for row in turned for x in row)
        if key not in found:
            found[key] = len(_seats(turned, plain)), round(turned[0][0] + turned[1][1] + turned[2][2], 6), turned
    most = max(n for n, _, _ in found.values())
    best = sorted((f for f in found.values() if f[0] == most), key=lambda f: -f[1])
    turned = best[another % len(best)][2]
    pairs = _seats(turned, plain)
    if abs(turn) > EPS and pairs:
        turned = _times(_spun(plain[1][pairs[0][1]].way, turn), turned)
        pairs = _seats(turned, plain)
    return turned, tuple(pairs), len(best)


def _turns(plain: _Plain) -> Iterator[Rows]:
    """Every turn that lays a socket, or two of them, onto members."""
    sockets, runs = plain
    for one in sockets:
        for run in runs:
            for way in _ways(one, run):
                yield from _laid(one, way, run, plain)
    yield STILL


def _laid(one: _Socket, way: Vector, run: _Run, plain: _Plain) -> Iterator[Rows]:
    """The turns that lay a socket's way onto a member: with a second socket on a second member, and by quarters of a turn about it."""
    for other in plain[0]:
        for second in plain[1]:
            if other is one or second is run:
                continue
            for to in _ways(other, second):
                if other.swings is not None:
                    hinge = _cross(run.way, second.way)
                    for sign in (1.0, -1.0):
                        yield from _based(way, other.swings, run.way, _scaled(hinge, sign))
                elif abs(_dot(way, to) - _dot(run.way, second.way)) > math.sin(ASKEW):
                    continue  # they stand at another angle to one another
                yield from _based(way, to, run.way, second.way)
    least = _least(way, run.way)
    for quarter in range(4):
        yield _times(_spun(run.way, quarter * math.pi / 2), least)


def _ways(socket: _Socket, run: _Run) -> list[Vector]:
    """The ways along which a socket could lie on a member; none where the one ends and the other passes."""
    if run.passes and not socket.through:
        return []
    return [socket.way, _scaled(socket.way, -1.0)] if socket.through else [socket.way]


def _based(a: Vector, b: Vector, to_a: Vector, to_b: Vector) -> Iterator[Rows]:
    """The turn that takes a direction to another, and a second one as near as can be to a second; none where two of them are one line."""
    bases = []
    for first, second in ((a, b), (to_a, to_b)):
        across = _cross(first, second)
        long = math.sqrt(_dot(across, across))
        if long <= math.sin(ASKEW):
            return
        normal = _scaled(across, 1 / long)
        bases.append((first, _cross(normal, first), normal))
    own, to = bases
    yield _tidy(tuple(_row(sum(to[k][i] * own[k][j] for k in range(3)) for j in range(3)) for i in range(3)))


def _least(a: Vector, to: Vector) -> Rows:
    """The least turn that takes a direction to another; by half a turn about an axis that is square to it."""
    axis, c = _cross(a, to), _dot(a, to)
    if c < EPS - 1:
        k = min(range(3), key=lambda i: abs(a[i]))
        flat = _row((1.0 if i == k else 0.0) - a[i] * a[k] for i in range(3))
        return _spun(_scaled(flat, 1 / math.sqrt(_dot(flat, flat))), math.pi)
    return _tidy(_about(axis, 1.0, 1 / (1 + c)))


def _spun(axis: Vector, angle: float) -> Rows:
    """A turn about a direction through the middle."""
    quarter = angle / (math.pi / 2)
    exact = abs(quarter - round(quarter)) < EPS
    c, s = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarter) % 4] if exact else (math.cos(angle), math.sin(angle))
    return _tidy(_about(axis, s, 1 - c))


def _about(axis: Vector, first: float, second: float) -> Rows:
    """1 + first K + second K K, with K the cross product by an axis (Rodrigues)."""
    x, y, z = axis
    k = ((0.0, -z, y), (z, 0.0, -x), (-y, x, 0.0))
    kk = _times(k, k)
    return tuple(_row((1.0 if i == j else 0.0) + first * k[i][j] + second * kk[i][j] for j in range(3)) for i in range(3))


def _row(figures: Iterable[float]) -> Vector:
    x, y, z = figures
    return x, y, z


def _times(a: Rows, b: Rows) -> Rows:
    return tuple(_row(a[i][0] * b[0][j] + a[i][1] * b[1][j] + a[i][2] * b[2][j] for j in range(3)) for i in range(3))


def _on(turned: Rows, v: Vector) -> Vector:
    return _dot(turned[0], v), _dot(turned[1], v), _dot(turned[2], v)


def _back(turned: Rows, v: Vector) -> Vector:
    (a, b, c), (d, e, f), (g, h, i) = turned
    x, y, z = v
    return a * x + d * y + g * z, b * x + e * y + h * z, c * x + f * y + i * z


def _dot(a: Vector, b: Vector) -> float:
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def _cross(a: Vector, b: Vector) -> Vector:
    return a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]


def _scaled(v: Vector, by: float) -> Vector:
    return v[0] * by, v[1] * by, v[2] * by


def _tidy(turned: Rows) -> Rows:
    return tuple(_row(round(x, 12) + 0.0 for x in row) for row in turned)


def _seats(turned: Rows, plain: _Plain) -> list[tuple[int, int]]:
    """Which member lies in which socket once they are turned so, socket by socket."""
    found: list[tuple[int, int]] = []
    taken: set[int] = set()
    for i, socket in enumerate(plain[0]):
        for k, run in enumerate(plain[1]):
            if k not in taken and _lies(turned, socket, run):
                found.append((i, k))
                taken.add(k)
                break
    return found


def _lies(turned: Rows, socket: _Socket, run: _Run) -> bool:
    """Whether a member lies in a socket."""
    if run.passes and not socket.through:
        return False
    own = _back(turned, run.way)
    if socket.swings is not None:
        if abs(_dot(own, socket.swings)) > math.sin(ASKEW):
            return False
    else:
        cosine = _dot(own, socket.way)
        if (abs(cosine) if socket.through else cosine) < math.cos(ASKEW):
            return False
    bx, by, bz = _on(turned, socket.beside)
    aside = (run.beside[0] - bx, run.beside[1] - by, run.beside[2] - bz)
    along = _dot(aside, run.way)
    return _dot(aside, aside) - along * along <= BESIDE * BESIDE


def motion_of(turned: np.ndarray, at: np.ndarray) -> Motion:
    """A connector's own coordinates as they lie at rest about its point."""
    return of_rows((*map(float, row), float(x)) for row, x in zip(turned, at, strict=True)).rounded()


def clear_of(way: np.ndarray, half: float, other: np.ndarray, others: float, wall: float, *, through: bool, spare: float = 0.0) -> float:
    """How far from the middle a round hole of radius ``half`` along a way ends so that a wall stands between it and another socket's (mm).

    Beside what runs ``through`` it ends at the wall round that; else each keeps half a wall from the plane between both ways. ``spare`` is by how much
    nearer to one another they may be swung (radians).
    """
    cosine = min(1.0, max(-1.0, float(way @ other)))
    if through:
        angle = max(math.acos(abs(cosine)) - spare, ASKEW)
        return (others + wall + half * math.cos(angle)) / math.sin(angle)
    between = max(math.acos(cosine) - spare, ASKEW) / 2
    return (wall / 2 + max(half, others) * math.cos(between)) / math.sin(between)
