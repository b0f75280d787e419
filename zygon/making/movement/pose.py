"""Where everything lies once it is moved: a pose laid over the design at rest. Loops, gears and what is said to follow are solved by stepping."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from zygon.geometry.motion import IDENTITY, Motion, of_rows
from zygon.making.movement.links import Link
from zygon.making.movement.record import Movement, Moving
from zygon.making.movement.twists import null_space

__all__ = ["Coupling", "Posed", "about", "loop_freedoms", "posed", "stepped"]

#: Loops are closed to this (mm, and radians times the design's size).
CLOSED = 1e-6
#: Rounds in which a step closes, or does not.
ROUNDS = 30
#: Whatever is moved is led there in no more steps than this.
MOST = 400
#: By so much (radians or mm) a movement is tried to see what hangs on it.
TRIED = 1e-5
#: What a singular value is less than, of the largest, counts for nothing.
RANK = 1e-7


@dataclass(frozen=True)
class Coupling:
    """The second movement goes ``ratio`` times as far as the first."""

    first: str
    second: str
    ratio: float


@dataclass(frozen=True)
class Posed:
    """How far each movement has gone from rest, by key (radians or mm), and the motion of each piece from rest; ``open_by`` is how far (mm) loops are from closed."""

    at: dict[str, float]
    motions: dict[str, Motion]
    open_by: float = 0.0


def about(movement: Movement, by: float) -> Motion:
    """The motion of what a movement carries, against what carries that, from rest."""
    w, p = np.array(movement.way), np.array(movement.at)
    if movement.kind == "slides":
        return _motion(np.eye(3), w * by)
    c, s = np.cos(by), np.sin(by)
    cross = np.array(((0.0, -w[2], w[1]), (w[2], 0.0, -w[0]), (-w[1], w[0], 0.0)))
    turn = np.eye(3) * c + cross * s + np.outer(w, w) * (1 - c)
    return _motion(turn, p - turn @ p + w * movement.pitch * by)


def _motion(turn: np.ndarray, shift: np.ndarray) -> Motion:
    return of_rows(np.column_stack((turn, shift)).tolist())


class _Loops:
    """What closes loops and couples movements, as equations of how far each has gone."""

    def __init__(self, moving: Moving, couplings: tuple[Coupling, ...]) -> None:
        self.moving, self.couplings = moving, couplings
        self.keys = [m.key for m in moving.movements]
        self.chains = {t.key: moving.chain(t) for t in moving.things}
        self.thing = {p: t for t in moving.things for p in t.pieces}
        lows, highs = (np.array([p.reaches[k] for p in moving.pieces.values()]) for k in (0, 1))
        self.size = max(1.0, float((highs.max(axis=0) - lows.min(axis=0)).max()))
        self.scale = np.array([self.size if m.kind == "turns" else 1.0 for m in moving.movements])

    def motion(self, thing: str, at: np.ndarray) -> Motion:
        found = IDENTITY
        for m in self.chains[thing]:
            found = found @ about(m, float(at[self.keys.index(m.key)]))
        return found

    def residual(self, at: np.ndarray) -> np.ndarray:
        rows = [self._open(k, at) for k in self.moving.closing]
        for c in self.couplings:
            i, j = self.keys.index(c.first), self.keys.index(c.second)
            rows.append(np.array([(at[j] - c.ratio * at[i]) * self.scale[j]]))
        return np.concatenate(rows) if rows else np.zeros(0)

    def _open(self, link: Link, at: np.ndarray) -> np.ndarray:
        """By how much a link is off: lines that should be one, seen in the piece that its slot is in."""
        a, b = (np.array(self.motion(self.thing[p].key, at).rows) for p in (link.a, link.b))
        way, place = np.array(link.way), np.array(link.at)
        off = (b[:, :3] @ place + b[:, 3]) - (a[:, :3] @ place + a[:, 3])
        for w in link.along:
            seen = a[:, :3] @ np.array(w)
            off = off - seen * float(off @ seen)
        turned = a[:, :3].T @ b[:, :3]
        if link.turns:
            askew = np.cross(turned @ way, way)
        else:
            askew = np.array((turned[2, 1] - turned[1, 2], turned[0, 2] - turned[2, 0], turned[1, 0] - turned[0, 1])) / 2
        return np.concatenate((off, askew * self.size))

    def jacobian(self, at: np.ndarray) -> np.ndarray:
        """By mm of what moves, one column a movement."""
        columns = []
        for n in range(len(at)):
            step = np.zeros(len(at))
            step[n] = TRIED / self.scale[n] * self.size
            columns.append((self.residual(at + step) - self.residual(at - step)) / (2 * TRIED * self.size))
        return np.column_stack(columns) if columns else np.zeros((0, 0))

    def closed(self, at: np.ndarray, driven: list[int]) -> tuple[np.ndarray, float]:
        """The nearest place at which all is closed, with those that are driven where they are; and how far it is from closed."""
        found = at.copy()
        rest = [n for n in range(len(at)) if n not in driven]
        for _ in range(ROUNDS):
            r = self.residual(found)
            off = float(np.abs(r).max(initial=0.0))
            if off < CLOSED:
                return found, off
            j = self.jacobian(found)[:, rest]
            found[rest] -= (np.linalg.pinv(j, rcond=RANK) @ r) / self.scale[rest]
        return found, float(np.abs(self.residual(found)).max(initial=0.0))


def loop_freedoms(moving: Moving, couplings: tuple[Coupling, ...] = ()) -> np.ndarray:
    """How the movements may go together at rest (movements, freedoms), with turns in sizes of the design: one column a freedom of the whole."""
    loops = _Loops(moving, couplings)
    rest = np.zeros(len(loops.keys))
    j = loops.jacobian(rest)
    return null_space(j) if len(j) else np.eye(len(loops.keys))


def stepped(
    moving: Moving, couplings: tuple[Coupling, ...], start: Mapping[str, float], driven: str, to: float, steps: int
) -> list[tuple[dict[str, float], float]]:
    """How far each movement has gone as one is driven from where it is to ``to`` in even steps, and how far loops are from closed there; ends where they no longer close."""
    loops = _Loops(moving, couplings)
    at = np.array([start.get(k, 0.0) for k in loops.keys])
    n = loops.keys.index(driven)
    first = float(at[n])
    found = []
    before = at.copy()
    for k in range(1, steps + 1):
        guess = at + (at - before if k > 1 else 0.0)
        before = at.copy()
        guess[n] = first + (to - first) * k / steps
        at, off = loops.closed(guess, [n])
        found.append((dict(zip(loops.keys, at.tolist(), strict=True)), off))
        if off > CLOSED * 1000:
            break
    return found


def posed(moving: Moving, couplings: tuple[Coupling, ...], at: Mapping[str, float]) -> Posed:
    """Where everything lies with movements as far as they are said to be, and those that hang on them as they must."""
    loops = _Loops(moving, couplings)
    wanted = np.array([at.get(k, 0.0) for k in loops.keys])
    off = 0.0
    if moving.closing or couplings:
        driven = [n for n, k in enumerate(loops.keys) if k in at]
        found = np.zeros(len(loops.keys))
        steps = min(MOST, max(1, int(np.ceil(np.abs(wanted * loops.scale).max(initial=0.0) / (loops.size / 20)))))
        for k in range(1, steps + 1):
            found[driven] = wanted[driven] * k / steps
            found, off = loops.closed(found, driven)
        wanted = found
    motions = {p: loops.motion(t.key, wanted) for p, t in loops.thing.items()}
    return Posed(dict(zip(loops.keys, wanted.tolist(), strict=True)), motions, off)
