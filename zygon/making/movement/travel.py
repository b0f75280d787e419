"""How far what moves can go: what it strikes first on its way, where, and how near it comes to anything.

Between pieces with room between them a step may be as long as that room at their greatest speed (conservative advancement); where they lie against one
another it is as long as both are thick, and what they have in common is measured. What is struck is then halved for.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Literal

import manifold3d
import numpy as np
from scipy.interpolate import CubicSpline

from zygon.geometry.motion import IDENTITY, Motion, Vector, three
from zygon.making.assembly.sweep import TOUCH
from zygon.making.movement.pieces import Piece, bite
from zygon.making.movement.pose import Coupling, about, stepped
from zygon.making.movement.record import Movement, Moving
from zygon.memo import Memo, digest
from zygon.patience import still_wanted
from zygon.tolerance import WITHIN

__all__ = ["Nearest", "Stop", "Travel", "hangs_together", "nearest", "travel"]

#: Whether there is any room between two pieces is asked for no more of it than this (mm).
NEAR = 0.02
#: Where pieces lie against one another they go on by this share of how thick both are, but by no less and no more than so much (mm).
THICK, SHORT, LONG = 0.4, 0.5, 5.0
#: Stops are halved for to this (mm), a tenth of what is shown.
FINE = 1e-5
#: From how near to touching (mm) on room is measured exactly.
CLOSE = 6.0
#: A path that is solved is laid stretch by stretch, a slide of so many mm or a turn of 15 degrees each, in so many steps.
STRETCH, KNOTS = 40.0, 6
#: How much faster a place may go between two steps than from the one to the other.
FASTER = 1.1
_THICK = Memo(4000)


@dataclass(frozen=True)
class Stop:
    """Where a movement ends: so far from where it starts (radians or mm, with its sign); ``why`` it does, what meets, and at which place in the room.

    'strikes' where pieces meet, 'limit' of hardware or as is said, 'out' where it comes out of all that it lay in, 'round' after a whole turn,
    'loop' where what it is coupled to does not let it on.
    """

    by: float
    why: Literal["strikes", "limit", "out", "round", "loop"]
    a: str = ""
    b: str = ""
    at: Vector | None = None


@dataclass(frozen=True)
class Travel:
    """From the stop on the one side to that on the other."""

    low: Stop
    high: Stop


@dataclass(frozen=True)
class Nearest:
    """The least room (mm) that is left on the way of a movement, between which pieces, and how far it has gone there."""

    room: float
    by: float
    a: str
    b: str


@dataclass(frozen=True)
class Path:
    """How all that moves with a movement moves, over a stretch of its way: ``motion`` of a piece where that has gone on by some, up to ``ends`` both ways;
    ``speed`` bounds how fast it goes, mm to 1 of it. ``hangs`` are the movements that take part, all others are at rest; ``begun`` is how far it has
    gone where the stretch begins.
    """

    movement: Movement
    moved: tuple[str, ...]
    motion: Callable[[str, float], Motion]
    speed: Mapping[str, float]
    ends: tuple[float, float]
    hangs: frozenset[str]
    begun: float = 0.0

    @property
    def plain(self) -> bool:
        """Whether it is one turn or slide of all that moves."""
        return len(self.hangs) == 1


def _plain(moving: Moving, movement: Movement, ends: tuple[float, float]) -> Path:
    """The path of a movement that nothing else hangs on."""
    own = set(moving.carried_by(movement))
    speed = {p: _speed(moving, movement, moving.pieces[p]) for p in own}
    moved = tuple(p for p in moving.pieces if p in own)
    return Path(
        movement, moved, lambda piece, by: about(movement, by) if piece in own else IDENTITY, speed, ends, frozenset((movement.key,))
    )


def hangs_together(moving: Moving, couplings: tuple[Coupling, ...], key: str) -> set[str]:
    """The movements that go where one goes, that one among them."""
    groups: list[set[str]] = [{c.first, c.second} for c in couplings]
    for link in moving.closing:
        groups.append({m.key for p in (link.a, link.b) for m in moving.chain(moving.thing_of(p))})
    found = {key}
    while True:
        more = set().union(*(g for g in groups if g & found)) if groups else set()
        if more <= found:
            return found
        found |= more


def _solved(
    moving: Moving, couplings: tuple[Coupling, ...], movement: Movement, lies: Mapping[str, float], by: float, hangs: set[str]
) -> tuple[Path, dict[str, float]] | None:
    """A path of ``by`` along which other movements go as well, solved in steps and smooth between them, and where everything is at its end; None where none can go on."""
    begun = lies.get(movement.key, 0.0)
    knots: list[tuple[float, Mapping[str, float]]] = [(0.0, lies)]
    for n, (at, off) in enumerate(stepped(moving, couplings, lies, movement.key, begun + by, KNOTS), 1):
        if off > FINE * 10 or not _in_limits(moving, at, hangs - {movement.key}):
            break
        knots.append((by * n / KNOTS, at))
    if len(knots) < 3:
        return None
    end = knots[-1]
    knots.sort(key=lambda k: k[0])
    places = np.array([k[0] for k in knots])
    table = {key: CubicSpline(places, [k[1][key] for k in knots]) for key in hangs}
    things = {p: t for t in moving.things for p in t.pieces}
    chains = {t.key: moving.chain(t) for t in moving.things}
    moved = tuple(p for p in moving.pieces if any(m.key in hangs for m in chains[things[p].key]))

    def motion(piece: str, by: float) -> Motion:
        found = IDENTITY
        for m in chains[things[piece].key]:
            found = found @ about(m, float(table[m.key](by))) if m.key in table else found
        return found

    speed = {}
    for p in moved:
        corners = _box(moving.pieces[p])
        seen = np.stack([motion(p, float(x)).points(corners) for x in places])
        going = np.linalg.norm(np.diff(seen, axis=0), axis=2).max(axis=1)
        speed[p] = FASTER * max(1.0, float((going / np.diff(places)).max()))
    ends = min(0.0, end[0]), max(0.0, end[0])
    return Path(movement, moved, motion, speed, ends, frozenset(hangs), begun), dict(end[1])


def _stretches(
    moving: Moving, couplings: tuple[Coupling, ...], movement: Movement, sign: int, limit: float, hangs: set[str]
) -> Iterator[tuple[Path, float]]:
    """The way of a movement that others go with, one way from rest: stretch by stretch, so that none is solved beyond what is asked for, each with how long it
    is. It ends before ``limit`` where what it hangs on goes no farther."""
    gone, lies = 0.0, dict.fromkeys((m.key for m in moving.movements), 0.0)
    while gone < limit - WITHIN:
        stretch = min(limit - gone, math.pi / 12 if movement.kind == "turns" else STRETCH)
        solved = _solved(moving, couplings, movement, lies, sign * stretch, hangs)
        if solved is None:
            return
        path, lies = solved
        long = abs(path.ends[sign > 0])
        yield path, long
        gone += long
        if long < stretch - WITHIN:
            return


def _in_limits(moving: Moving, at: Mapping[str, float], keys: set[str]) -> bool:
    return all(m.least - WITHIN <= at[m.key] <= m.most + WITHIN for m in moving.movements if m.key in keys)


def _reach(moving: Moving) -> float:
    """As far (mm) as anything can go before it is clear of all."""
    lows, highs = (np.array([p.reaches[k] for p in moving.pieces.values()]) for k in (0, 1))
    return round(float(np.linalg.norm(highs.max(axis=0) - lows.min(axis=0))) + 10.0, 3)


def _speed(moving: Moving, movement: Movement, piece: Piece) -> float:
    """How fast (mm to 1 of the movement) its fastest place goes."""
    if movement.kind == "slides":
        return 1.0
    off = piece.corners - np.array(movement.at)
    radius = float(np.linalg.norm(np.cross(off, np.array(movement.way)), axis=1).max())
    return math.hypot(radius, movement.pitch) or 1.0


def _box(piece: Piece) -> np.ndarray:
    low, high = piece.reaches
    return np.array([[(low, high)[i][0], (low, high)[j][1], (low, high)[k][2]] for i in (0, 1) for j in (0, 1) for k in (0, 1)])


def travel(moving: Moving, couplings: tuple[Coupling, ...], movement: Movement, told: Callable[[float], None] = lambda _: None) -> Travel:
    """How far a movement goes both ways from where everything is drawn; ``told`` hears which share of the search is done."""
    reach = 2 * math.pi if movement.kind == "turns" else _reach(moving)
    limits = (max(0.0, min(-movement.least, reach)), max(0.0, min(movement.most, reach)))
    hangs = hangs_together(moving, couplings, movement.key)
    ends = []
    for n, sign in enumerate((-1, 1)):

        def share(done: float, n: int = n) -> None:
            told((n + done) / 2)

        if limits[n] <= FINE:
            ends.append(Stop(0.0, "limit"))
        elif len(hangs) == 1:
            path = _plain(moving, movement, (-limits[0], limits[1]))
            ends.append(_first(moving, path, sign, limits[n], {}, share) or _end_of(movement, sign, limits[n]))
        else:
            ends.append(_along(moving, couplings, movement, sign, limits[n], hangs, share))
    return Travel(ends[0], ends[1])


def nearest(
    moving: Moving,
    couplings: tuple[Coupling, ...],
    movement: Movement,
    ends: tuple[float, float],
    within: float,
    beside: Callable[[str, str], bool],
) -> Nearest | None:
    """Where a movement comes nearest to anything from the one end to the other, as far as that is nearer than ``within`` mm; None where it is nowhere.

    Pieces ``beside`` one another by intent are not asked: what it runs in.
    """
    hangs = hangs_together(moving, couplings, movement.key)
    if len(hangs) == 1:
        paths = [_plain(moving, movement, ends)]
    else:
        paths = [
            p for sign, end in zip((-1, 1), ends, strict=True) for p, _ in _stretches(moving, couplings, movement, sign, abs(end), hangs)
        ]
    best: Nearest | None = None
    for path in paths:
        for a, b in _pairs(moving, path):
            if beside(a, b):
                continue
            still_wanted()
            for sign in (-1, 1):
                found = _least(_Pair(moving, path, a, b, sign), abs(path.ends[sign > 0]), best.room if best else within)
                if found is not None:
                    best = Nearest(found[0], path.begun + sign * found[1], a, b)
    return best


def _least(pair: _Pair, limit: float, within: float) -> tuple[float, float] | None:
    """The least room under ``within`` (mm) that a path leaves between two pieces, and where; None where it is nowhere less."""
    found: tuple[float, float] | None = None
    by = 0.0
    while True:
        room = pair.boxes_apart(by)
        if room < within:
            room = pair.room(by, max(4 * within, CLOSE))
        if room < within - FINE:
            found, within = (room, by), room
        if by >= limit or within <= 0:
            return found
        by = min(limit, by + max(room - within, SHORT / 2) / pair.speed)


def _along(
    moving: Moving,
    couplings: tuple[Coupling, ...],
    movement: Movement,
    sign: int,
    limit: float,
    hangs: set[str],
    told: Callable[[float], None],
) -> Stop:
    """The first stop of a movement that others go with."""
    gone, resting = 0.0, dict[tuple[str, str], float]()
    for path, long in _stretches(moving, couplings, movement, sign, limit, hangs):
        told(gone / limit)
        found = _first(moving, path, sign, long, resting, lambda _: None)
        if found is not None:
            return replace(found, by=sign * gone + found.by)
        gone += long
    return _end_of(movement, sign, limit) if gone >= limit - WITHIN else Stop(sign * gone, "loop")


def _end_of(m: Movement, sign: int, limit: float) -> Stop:
    """Where it ends if nothing is struck."""
    if m.kind == "turns" and limit >= 2 * math.pi - WITHIN:
        return Stop(sign * 2 * math.pi, "round")
    hardware = math.isfinite(m.most if sign > 0 else m.least)
    return Stop(sign * limit, "limit" if hardware or m.kind == "turns" else "out")


def _first(
    moving: Moving, path: Path, sign: int, limit: float, resting: dict[tuple[str, str], float], told: Callable[[float], None]
) -> Stop | None:
    """What is struck first on the way of one sign; None where nothing is. ``resting`` is how far pairs bite where the movement starts, and is added to."""
    best, met = limit, ("", "")
    pairs = sorted(_pairs(moving, path), key=lambda ab: _room_at_start(moving, path, ab))
    for n, (a, b) in enumerate(pairs):
        still_wanted()
        told(n / len(pairs))
        found = _strikes(_Pair(moving, path, a, b, sign), best, resting)
        if found is not None and found < best - FINE:
            best, met = found, (a, b)
    return Stop(sign * best, "strikes", *met, _place(_Pair(moving, path, *met, sign), best)) if met[0] else None


def _pairs(moving: Moving, path: Path) -> Iterator[tuple[str, str]]:
    """What may meet: each piece that moves with each that moves otherwise, or not at all; leaves of one piece of hardware are made to pass."""
    moved = set(path.moved)
    things = {p: t.key for t in moving.things for p in t.pieces}
    order = {p: n for n, p in enumerate(moving.pieces)}
    ways = _kept(moving, path)
    for a in path.moved:
        for b, piece in moving.pieces.items():
            if b in moved and (order[b] <= order[a] or things[a] == things[b] or _as_one(moving, path, a, b)):
                continue
            if (
                frozenset((a, b)) not in moving.passing
                and _meet(moving.pieces[a], piece)
                and not any(_beside(way, moving.pieces[a], piece) for way in ways)
            ):
                yield a, b


def _meet(a: Piece, b: Piece) -> bool:
    """Whether two pieces may meet at all: leaves of one piece of hardware are made to pass one another, and sets lie in what runs on them."""
    return a.part is not b.part or a.is_set or b.is_set


def _kept(moving: Moving, path: Path) -> list[np.ndarray]:
    """The ways along which nothing goes on a path: the axis of its turns, across its slides."""
    used = [m for m in moving.movements if m.key in path.hangs]
    first = next((np.array(m.way) for m in used if m.kind == "turns"), None)
    ways = [first] if first is not None else list(np.eye(3))
    return [w for w in ways if all(_stays(m, w) for m in used)]


def _stays(m: Movement, way: np.ndarray) -> bool:
    along = abs(float(np.array(m.way) @ way))
    return along < WITHIN if m.kind == "slides" else along > 1 - WITHIN and not m.pitch


def _beside(way: np.ndarray, a: Piece, b: Piece) -> bool:
    """Whether two pieces lie beside one another along a way."""
    spans = []
    for piece in (a, b):
        ends = np.array(piece.reaches) @ way if float(np.abs(way).max()) > 1 - WITHIN else piece.corners @ way
        spans.append((float(ends.min()), float(ends.max())))
    (low, high), (other_low, other_high) = spans
    return low > other_high - FINE or high < other_low + FINE


def _as_one(moving: Moving, path: Path, a: str, b: str) -> bool:
    """Whether two pieces that move, move together."""
    return all(path.motion(a, by).same(path.motion(b, by)) for by in (path.ends[0], path.ends[1], path.ends[1] / 3))


def _room_at_start(moving: Moving, path: Path, pair: tuple[str, str]) -> float:
    a, b = (moving.pieces[p] for p in pair)
    seen, other = path.motion(pair[0], 0.0).points(_box(a)), path.motion(pair[1], 0.0).points(_box(b))
    return _apart((seen.min(axis=0), seen.max(axis=0)), (other.min(axis=0), other.max(axis=0)))


def _apart(a: tuple[np.ndarray, np.ndarray], b: tuple[np.ndarray, np.ndarray]) -> float:
    """The room between two boxes."""
    return float(np.linalg.norm(np.maximum(0.0, np.maximum(a[0] - b[1], b[0] - a[1]))))


class _Pair:
    """Two pieces on a path. Both are looked at in the first one's own coordinates: the boxes of long triangles that lie askew hold nearly all others."""

    def __init__(self, moving: Moving, path: Path, a: str, b: str, sign: int) -> None:
        self.a, self.b, self.path, self.sign = moving.pieces[a], moving.pieces[b], path, sign
        self.both = b in path.moved
        self.speed = path.speed[a] + (path.speed[b] if self.both else 0.0)
        if path.plain and path.movement.kind == "turns":  # what meets does so no farther out than the other reaches
            self.speed = min(self.speed, _speed(moving, path.movement, self.b))
        frame = np.array(self.a.part.matrix)
        self.back = np.linalg.inv(frame)
        self.own = self.a.solid.transform(self.back[:3])
        self.still = None if self.both else self._reach(self.b, path.motion(b, 0.0))

    @staticmethod
    def _reach(piece: Piece, motion: Motion) -> tuple[np.ndarray, np.ndarray]:
        if motion.plain:
            return piece.reaches
        seen = motion.points(piece.corners)
        return seen.min(axis=0), seen.max(axis=0)

    def solids(self, by: float) -> tuple[manifold3d.Manifold, manifold3d.Manifold]:
        """Both in the coordinates of the first."""
        at = self.sign * by
        between = self.path.motion(self.a.id, at).inverse @ self.path.motion(self.b.id, at)
        return self.own, self.b.solid.transform((self.back @ np.array(between.matrix))[:3])

    def to_room(self, by: float) -> np.ndarray:
        """The matrix (4, 4) that takes the first one's coordinates to the room."""
        return np.array(self.path.motion(self.a.id, self.sign * by).matrix) @ np.linalg.inv(self.back)

    def boxes_apart(self, by: float) -> float:
        at = self.sign * by
        other = self.still or self._reach(self.b, self.path.motion(self.b.id, at))
        return _apart(self._reach(self.a, self.path.motion(self.a.id, at)), other)

    def room(self, by: float, most: float) -> float:
        one, other = self.solids(by)
        return float(one.min_gap(other, most))

    def depth(self, by: float) -> float:
        """About how thick (mm) what both have in common is."""
        if self.boxes_apart(by) > 0:
            return 0.0
        return bite(*self.solids(by))


def _strikes(pair: _Pair, limit: float, rest: dict[tuple[str, str], float]) -> float | None:
    """How far a path goes before two pieces strike one another; None where they do not before ``limit``."""
    step = min(max(THICK * (_thickness(pair.a) + _thickness(pair.b)), SHORT), LONG) / pair.speed
    which = pair.a.id, pair.b.id
    by, free = 0.0, 0.0
    resting = rest.get(which)
    tried = 0
    while by < limit:
        apart = pair.boxes_apart(by)
        # where they run along one another the room between them stays small: it is asked now and then whether it has grown
        room = apart if apart > step * pair.speed else pair.room(by, CLOSE) if tried % 4 == 0 else 0.0
        if room > step * pair.speed:
            free, tried = by, 0
            by += room / pair.speed
            continue
        if resting is None:
            resting = rest.setdefault(which, pair.depth(0.0))
        tried += 1
        if by > 0 and pair.depth(by) > resting + TOUCH:
            return _halved(pair, free, by, resting)
        free = by
        by += step
    if resting is not None and pair.depth(limit) > resting + TOUCH:
        return _halved(pair, free, limit, resting)
    return None


def _halved(pair: _Pair, free: float, struck: float, resting: float) -> float:
    """Where two pieces meet, between a place at which they do not and one at which they do."""
    low, high, allowed = free, struck, resting + TOUCH
    apart = pair.room(free, NEAR) > 0 if free > 0 or resting == 0 else False
    while (high - low) * pair.speed > FINE:
        middle = (low + high) / 2
        meets = pair.room(middle, NEAR) <= 0 if apart else pair.depth(middle) > allowed
        low, high = (low, middle) if meets else (middle, high)
    if apart:
        return low
    # what lies against one another is measured as it bites: back to where it began to
    deeper = high + SHORT / 5 / pair.speed
    slope = (pair.depth(deeper) - allowed) / (deeper - high)
    return max(free, high - (allowed - resting) / slope) if slope > 0 else high


def _thickness(piece: Piece) -> float:
    """About how thick a piece is, mm."""
    key = digest("thick", piece.digest)

    def make() -> float:
        area = piece.solid.surface_area()
        return float(2 * piece.solid.volume() / area) if area else 0.0

    return _THICK.get(key, make)[0]


def _place(pair: _Pair, by: float) -> Vector:
    """Where two pieces meet."""
    for deeper in (SHORT / 2, 2 * SHORT):
        one, other = pair.solids(by + deeper / pair.speed)
        both = one ^ other
        if not both.is_empty():
            low, high = np.array(both.transform(pair.to_room(by)[:3]).bounding_box()).reshape(2, 3)
            return three(((low + high) / 2).tolist())
    low, high = pair.a.reaches
    return pair.path.motion(pair.a.id, pair.sign * by).point(((low + high) / 2).tolist())
