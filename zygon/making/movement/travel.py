"""How far what moves can go: what it strikes first on its way, where, and how near it comes to anything.

Between pieces with room between them a step may be as long as that room at their greatest speed (conservative advancement); where they lie against one
another it is as long as both are thick, and what they have in common is measured. What is struck is then halved for.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass

import manifold3d
import numpy as np

from zygon.geometry.motion import Motion, Vector, three
from zygon.making.assembly.sweep import TOUCH
from zygon.making.movement.found import Movement, Moving
from zygon.making.movement.pieces import Piece
from zygon.making.movement.pose import Coupling, about, posed, stepped
from zygon.memo import Memo, digest
from zygon.patience import still_wanted
from zygon.tolerance import WITHIN

__all__ = ["Path", "Stop", "Travel", "path_of", "travel"]

#: Whether there is any room between two pieces is asked for no more of it than this (mm).
NEAR = 0.02
#: Where pieces lie against one another they go on by this share of how thick both are, but by no less and no more than so much (mm).
THICK, SHORT, LONG = 0.4, 0.5, 5.0
#: Stops are halved for to this (mm).
FINE = 1e-4
#: From how near to touching (mm) on room is measured exactly.
CLOSE = 6.0
#: A path that is solved step by step is laid in steps of so many of its size.
STEPS = 240
_SOUGHT = Memo(4000)
_THICK = Memo(4000)


@dataclass(frozen=True)
class Stop:
    """Where a movement ends: so far from where it starts (radians or mm, with its sign); ``why`` it does, what meets, and at which place in the room.

    'strikes' where pieces meet, 'limit' of hardware or as is said, 'out' where it comes out of all that it lay in, 'round' after a whole turn,
    'loop' where what it is coupled to does not let it on.
    """

    by: float
    why: str
    a: str = ""
    b: str = ""
    at: Vector | None = None


@dataclass(frozen=True)
class Travel:
    """From the stop on the one side to that on the other."""

    low: Stop
    high: Stop


@dataclass(frozen=True)
class Path:
    """How all that moves with a movement moves: ``motion`` of a piece where that has gone by some from the start; ``speed`` bounds it, mm to 1 of it."""

    movement: Movement
    moved: tuple[str, ...]
    motion: Callable[[str, float], Motion]
    speed: Mapping[str, float]
    ends: tuple[float, float]
    #: where it is one turn or slide of all that moves: that, as it starts
    plain: bool = False


def path_of(moving: Moving, couplings: tuple[Coupling, ...], movement: Movement, start: Mapping[str, float]) -> Path:
    """The path of a movement from where everything is."""
    own = set(moving.carried_by(movement))
    reach = 2 * math.pi if movement.kind == "turns" else _reach(moving)
    begun = start.get(movement.key, 0.0)
    ends = (max(movement.least - begun, -reach), min(movement.most - begun, reach))
    hangs = _hangs_together(moving, couplings, movement.key)
    if len(hangs) == 1:
        at = posed(moving, (), start) if any(start.values()) else None
        speed = {p: _speed(moving, movement, moving.pieces[p]) for p in own}

        def simple(piece: str, by: float) -> Motion:
            here = at.motions[piece] if at else None
            if piece not in own:
                return here or about(movement, 0.0)
            if here is None:
                return about(movement, by)
            carrier = at.motions[movement.on.key] if at else about(movement, 0.0)
            before = carrier @ about(movement, begun)
            return carrier @ about(movement, begun + by) @ before.inverse @ here

        return Path(movement, tuple(own), simple, speed, ends, plain=at is None)
    return _solved(moving, couplings, movement, start, ends, hangs)


def _hangs_together(moving: Moving, couplings: tuple[Coupling, ...], key: str) -> set[str]:
    """The movements that go where one goes."""
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
    moving: Moving,
    couplings: tuple[Coupling, ...],
    movement: Movement,
    start: Mapping[str, float],
    ends: tuple[float, float],
    hangs: set[str],
) -> Path:
    """A path along which other movements go as well, solved in steps and drawn straight between them."""
    lies = posed(moving, couplings, start).at
    knots: list[tuple[float, dict[str, float]]] = [(0.0, dict(lies))]
    reached = [0.0, 0.0]
    for k, end in enumerate(ends):
        steps = max(8, round(STEPS * abs(end) / (2 * math.pi))) if movement.kind == "turns" else STEPS
        begun = lies.get(movement.key, 0.0)
        for n, (at, off) in enumerate(stepped(moving, couplings, lies, movement.key, begun + end, steps), 1):
            if off > FINE * 10 or not _in_limits(moving, at, hangs - {movement.key}):
                break
            reached[k] = end * n / steps
            knots.append((reached[k], at))
    knots.sort(key=lambda k: k[0])
    places = np.array([k[0] for k in knots])
    table = {key: np.array([k[1][key] for k in knots]) for key in lies}
    things = {p: t for t in moving.things for p in t.pieces}
    moved = tuple(p for p, t in things.items() if any(m.key in hangs for m in moving.chain(t)))

    def motion(piece: str, by: float) -> Motion:
        found = about(movement, 0.0)
        for m in moving.chain(things[piece]):
            found = found @ about(m, float(np.interp(by, places, table[m.key])))
        return found

    speed = {}
    for p in moved:
        corners = _box(moving.pieces[p])
        seen = np.stack([motion(p, float(x)).points(corners) for x in places])
        steps_by = np.diff(places)
        going = np.linalg.norm(np.diff(seen, axis=0), axis=2).max(axis=1)
        speed[p] = 1.1 * float((going[steps_by > 0] / steps_by[steps_by > 0]).max(initial=1.0))
    return Path(movement, moved, motion, speed, (reached[0], reached[1]))


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


def travel(moving: Moving, path: Path, told: Callable[[float], None] = lambda _: None) -> Travel:
    """How far a movement goes both ways from where it starts; ``told`` hears which share of it is done."""
    ends = []
    for n, sign in enumerate((-1, 1)):
        limit = abs(path.ends[n])
        if limit <= FINE:
            ends.append(Stop(0.0, "limit"))
            continue
        ends.append(_first(moving, path, sign, limit, lambda share, n=n: told((n + share) / 2)))  # type: ignore[misc]
    low, high = ends
    if path.movement.kind == "turns" and low.why == high.why == "round":
        return Travel(Stop(-2 * math.pi, "round"), Stop(2 * math.pi, "round"))
    return Travel(low, high)


def _end_of(path: Path, sign: int, limit: float) -> Stop:
    """Where it ends if nothing is struck."""
    m = path.movement
    if m.kind == "turns" and limit >= 2 * math.pi - WITHIN:
        return Stop(sign * 2 * math.pi, "round")
    hardware = math.isfinite(m.most if sign > 0 else m.least)
    return Stop(sign * limit, "limit" if hardware else "out" if m.kind == "slides" else "loop")


def _first(moving: Moving, path: Path, sign: int, limit: float, told: Callable[[float], None]) -> Stop:
    """What is struck first on the way of one sign."""
    best, met = limit, ("", "")
    pairs = sorted(_pairs(moving, path), key=lambda ab: _room_at_rest(moving, path, ab))
    for n, (a, b) in enumerate(pairs):
        still_wanted()
        told(n / len(pairs))
        found = _strikes(moving, path, a, b, sign, best)
        if found is not None and found < best - FINE:
            best, met = found, (a, b)
    if not met[0]:
        return _end_of(path, sign, limit)
    place = _place(moving, path, *met, sign * best, sign)
    return Stop(sign * best, "strikes", *met, place)


def _pairs(moving: Moving, path: Path) -> Iterator[tuple[str, str]]:
    """What may meet: each piece that moves with each that moves otherwise, or not at all; leaves of one piece of hardware are made to pass."""
    moved = set(path.moved)
    things = {p: t.key for t in moving.things for p in t.pieces}
    order = {p: n for n, p in enumerate(moving.pieces)}
    for a in path.moved:
        for b, piece in moving.pieces.items():
            if b in moved and (order[b] <= order[a] or things[a] == things[b] or _as_one(moving, path, a, b)):
                continue
            if _meet(moving.pieces[a], piece) and not (path.plain and _beside(path.movement, moving.pieces[a], piece)):
                yield a, b


def _meet(a: Piece, b: Piece) -> bool:
    """Whether two pieces may meet at all: leaves of one piece of hardware are made to pass one another, and sets lie in what runs on them."""
    return a.part is not b.part or a.only_sets or b.only_sets


def _beside(movement: Movement, a: Piece, b: Piece) -> bool:
    """Whether two pieces can never meet: along the axis of a turn, or across the way of a slide, they lie beside one another."""
    if movement.kind == "turns":
        ways = [np.array(movement.way)]
    else:
        ways = [e for e in np.eye(3) if abs(float(e @ np.array(movement.way))) < WITHIN]
    for way in ways:
        one, other = a.corners @ way, b.corners @ way
        if float(one.min()) > float(other.max()) - FINE or float(one.max()) < float(other.min()) + FINE:
            return True
    return False


def _as_one(moving: Moving, path: Path, a: str, b: str) -> bool:
    """Whether two pieces that move, move together."""
    return all(path.motion(a, by).same(path.motion(b, by)) for by in (path.ends[0], path.ends[1], path.ends[1] / 3))


def _room_at_rest(moving: Moving, path: Path, pair: tuple[str, str]) -> float:
    a, b = (moving.pieces[p] for p in pair)
    low, high = (path.motion(pair[0], 0.0).points(_box(a)) for _ in (0, 1))
    low, high = low.min(axis=0), high.max(axis=0)
    return _apart((low, high), b.reaches)


def _apart(a: tuple[np.ndarray, np.ndarray], b: tuple[np.ndarray, np.ndarray]) -> float:
    """The room between two boxes."""
    return float(np.linalg.norm(np.maximum(0.0, np.maximum(a[0] - b[1], b[0] - a[1]))))


class _Pair:
    """Two pieces on a path."""

    def __init__(self, moving: Moving, path: Path, a: str, b: str, sign: int) -> None:
        self.a, self.b, self.path, self.sign = moving.pieces[a], moving.pieces[b], path, sign
        self.both = b in path.moved
        self.speed = path.speed[a] + (path.speed[b] if self.both else 0.0)
        if path.plain and path.movement.kind == "turns":  # what meets does so no farther out than the other reaches
            self.speed = min(self.speed, _speed(moving, path.movement, self.b))
        self.still = self._laid(self.b, path.motion(b, 0.0))
        self.still_box = self._reach(self.b, path.motion(b, 0.0))

    @staticmethod
    def _laid(piece: Piece, motion: Motion) -> manifold3d.Manifold:
        return piece.solid if motion.plain else piece.solid.transform(np.array(motion.rows))

    @staticmethod
    def _reach(piece: Piece, motion: Motion) -> tuple[np.ndarray, np.ndarray]:
        if motion.plain:
            return piece.reaches
        seen = motion.points(piece.corners)
        return seen.min(axis=0), seen.max(axis=0)

    def solids(self, by: float) -> tuple[manifold3d.Manifold, manifold3d.Manifold]:
        at = self.sign * by
        other = self._laid(self.b, self.path.motion(self.b.id, at)) if self.both else self.still
        return self._laid(self.a, self.path.motion(self.a.id, at)), other

    def boxes_apart(self, by: float) -> float:
        at = self.sign * by
        other = self._reach(self.b, self.path.motion(self.b.id, at)) if self.both else self.still_box
        return _apart(self._reach(self.a, self.path.motion(self.a.id, at)), other)

    def room(self, by: float, most: float) -> float:
        one, other = self.solids(by)
        return float(one.min_gap(other, most))

    def depth(self, by: float) -> float:
        """About how thick (mm) what both have in common is."""
        if self.boxes_apart(by) > 0:
            return 0.0
        one, other = self.solids(by)
        both = one ^ other
        volume = both.volume()
        if both.is_empty() or volume < WITHIN:
            return 0.0
        area = both.surface_area()
        return float(2 * volume / area) if area else 0.0


def _strikes(moving: Moving, path: Path, a: str, b: str, sign: int, limit: float) -> float | None:
    """How far a path goes before its pieces a and b strike one another; None where they do not before ``limit``."""
    pair = _Pair(moving, path, a, b, sign)
    step = min(max(THICK * (_thickness(pair.a) + _thickness(pair.b)), SHORT), LONG) / pair.speed
    by, free = 0.0, 0.0
    resting: float | None = None  # how far they bite at the start, once that is asked
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
            resting = pair.depth(0.0)
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


def _place(moving: Moving, path: Path, a: str, b: str, by: float, sign: int) -> Vector:
    """Where two pieces meet."""
    pair = _Pair(moving, path, a, b, 1)
    for deeper in (0.2, 1.0):
        one, other = pair.solids(by + sign * deeper / pair.speed)
        both = one ^ other
        if not both.is_empty():
            low, high = np.array(both.bounding_box()).reshape(2, 3)
            return three(((low + high) / 2).tolist())
    low, high = pair._reach(pair.a, path.motion(a, by))
    return three(((low + high) / 2).tolist())
