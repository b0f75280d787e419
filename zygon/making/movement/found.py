"""What moves in a design: its rigid things, what stands still, and the movements that are left, each carried by another or by what stands still."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations

import numpy as np

from zygon.design.outlines import gear_of
from zygon.geometry.motion import Vector, three
from zygon.making.assembly.sweep import TOUCH
from zygon.making.movement.contacts import contacts, play_of
from zygon.making.movement.gears import meshed
from zygon.making.movement.links import Link, links_of
from zygon.making.movement.pieces import Piece, bite, pieces_of
from zygon.making.movement.pose import loop_freedoms
from zygon.making.movement.record import Lies, Movement, Moving
from zygon.making.movement.things import Thing, Ties, stands, still_of, things_of
from zygon.making.movement.twists import Screw, allows, axis_rows, cone, contact_row, null_space, read_off, sliding_twist, turning_twist
from zygon.making.result.built import Built
from zygon.memo import Memo, digest

__all__ = ["moving_key", "movements_of"]

#: What bears a thing looks up by at least so much (a cosine).
BEARS = 0.7
#: Two directions or lines are one to this (a sine; and mm by size).
SAME = 1e-4
#: A thing with more freedoms than this lies loose: it is not carried along any way.
MOST = 2
#: What is said of a design that does not bear on what is free in it.
NOTHING = {
    "name",
    "note",
    "numbering",
    "display",
    "currency",
    "nest",
    "kept",
    "tests",
    "marks",
    "rules",
    "clearances",
    "moves",
    "positions",
}
_FOUND = Memo(60)


def movements_of(built: Built) -> Moving:
    """What moves in a design as it was built."""
    key = moving_key(built)
    return _FOUND.get(key, lambda: replace(_found(built, pieces_of(built)), digest=key))[0]


def moving_key(built: Built) -> str:
    """What it hangs on, so that what is found is kept: all that is said but what moves nothing, and every body where it lies."""
    said = built.document.model_dump_json(exclude=NOTHING)
    bodies = [(k, p.body.digest, p.matrix) for k, p in built.made.items()]
    fits = [(k, j.fit, j.fastened, j.refused, j.pairs) for k, j in built.joints.items()]
    return digest("moving", said, bodies, fits, sorted((tuple(sorted(pair)), fit) for pair, fit in built.bored.items()))


def _found(built: Built, pieces: dict[str, Piece]) -> Moving:
    ties = things_of(built, pieces)
    links = links_of(built, pieces)
    search = _Search(built, pieces, ties, links)
    while True:
        found = search.once()
        if found is not None:
            return found


class _Search:
    """Looks for what moves; whatever turns out to be held is made one with what holds it, and the search begins again."""

    def __init__(self, built: Built, pieces: dict[str, Piece], ties: Ties, links: list[Link]) -> None:
        self.built, self.pieces, self.ties, self.links = built, pieces, ties, links
        lows, highs = (np.array([p.reaches[k] for p in pieces.values()]) for k in (0, 1)) if pieces else (np.zeros((1, 3)),) * 2
        self.size = max(1.0, float((highs.max(axis=0) - lows.min(axis=0)).max()))

    def once(self) -> Moving | None:
        """What is found; None where two things turned out to be one, and are now."""
        things = self.ties.things()
        still = still_of(self.built, self.pieces, things)
        if still is None:
            return Moving(self.pieces, (), None, (), ())
        rows = {pair: r for pair in combinations(range(len(things)), 2) if (r := self._rows(things[pair[0]], things[pair[1]])) is not None}
        merged = False
        for (i, j), r in rows.items():
            if not r.span.shape[1]:
                merged |= self.ties.join(things[i].key, things[j].key)
        if merged:
            return None
        return self._placed(things, still, rows)

    def _placed(self, things: list[Thing], still: Thing, rows: dict[tuple[int, int], _Rows]) -> Moving | None:
        """The things one after the other, each on what holds it best of those that are placed."""
        base = things.index(still)
        placed, waiting = [base], [n for n in range(len(things)) if n != base]
        movements: list[Movement] = []
        loose: list[Lies] = []
        carriers: dict[str, tuple[str, ...]] = {}
        closing: list[Link] = []
        free: set[int] = set()
        while waiting:
            options = [(self._freedoms(rows, p, n), placed.index(p), p, n) for n in waiting for p in placed if self._between(rows, p, n)]
            if not options:
                # what has nothing to do with what stands still stands by itself, and things move on it
                n = max(waiting, key=lambda k: stands(self.pieces, things[k]))
                waiting.remove(n)
                placed.append(n)
                free.add(n)
                loose.append(Lies(things[n], ()))
                continue
            _, _, parent, n = min(options, key=lambda o: (o[0], o[1], o[3]))
            waiting.remove(n)
            placed.append(n)
            own = self._between(rows, parent, n)
            assert own is not None
            # what it touches of the others that are placed holds it as well, unless that is a link by which they move one another
            others = [p for p in placed if p not in (parent, n)]
            beside = [r for p in others if (r := self._between(rows, p, n)) is not None]
            linked = [p for p in others if (r := self._between(rows, p, n)) is not None and r.linked and p not in free]
            held = own if own.links else _joined([own, *(r.only_away() for r in beside)])
            span = held.span
            if not span.shape[1] and not linked:
                self.ties.join(things[parent].key, things[n].key)
                return None
            # a drawer in its room is kept down by its weight, and a door that only goes up is not
            if not own.links and span.shape[1] > MOST:
                held = held.weighed()
                span = held.span
            if not span.shape[1] or span.shape[1] > MOST:
                bearing = tuple(things[p] for p in placed if p != n and self._between(rows, p, n) is not None)
                loose.append(Lies(things[n], bearing))
                free.add(n)
                continue
            carried = next((m.key for m in reversed(movements) if m.thing == things[parent]), "")
            found = list(self._read(things[n], things[parent], carried, span, held, own.links))
            if not found:
                loose.append(Lies(things[n], (things[parent],)))
                free.add(n)
                continue
            movements += found
            carriers[things[n].key] = tuple(p for p in self.pieces if p in own.by and p in things[parent].pieces)
            closing += [k for p in linked if (r := self._between(rows, p, n)) is not None for k in r.links]
        moving = Moving(self.pieces, tuple(things), still, tuple(movements), tuple(loose), tuple(closing), carriers=carriers)
        passing = frozenset(frozenset((p, k.through)) for k in self.links if k.through and not k.along for p in (k.a, k.b))
        moving = replace(moving, passing=passing)
        if closing and self._locked(moving):
            return None
        return replace(moving, meshed=tuple(meshed(moving, self.built)))

    def _locked(self, moving: Moving) -> bool:
        """Whether closed loops leave no freedom to some movement: its thing is then one with what carries it."""
        ways = loop_freedoms(moving)
        joined = False
        for n, m in enumerate(moving.movements):
            if not np.abs(ways[n]).max(initial=0.0) > SAME:
                joined |= self.ties.join(m.on.key, m.thing.key)
        return joined

    def _between(self, rows: dict[tuple[int, int], _Rows], a: int, b: int) -> _Rows | None:
        """The rows of b against a."""
        found = rows.get((min(a, b), max(a, b)))
        return found if found is None or a < b else found.turned()

    def _freedoms(self, rows: dict[tuple[int, int], _Rows], a: int, b: int) -> int:
        found = self._between(rows, a, b)
        assert found is not None
        return int(found.span.shape[1])

    def _rows(self, a: Thing, b: Thing) -> _Rows | None:
        """What keeps b against a."""
        own, other = set(a.pieces), set(b.pieces)
        links = [k for k in self.links if (k.a in own and k.b in other) or (k.a in other and k.b in own)]
        never = [axis_rows(k.allowed(self.size)) for k in links]
        carried = {frozenset((k.a, k.b)) for k in links}
        away, normals, gaps = [], [], []
        by = {p for k in links for p in (k.a, k.b)}
        for p in a.pieces:
            for q in b.pieces:
                if all(gear_of(self.pieces[k].part.record) for k in (p, q)):
                    continue  # their teeth drive one another, or do not meet
                met = contacts(self.pieces[p], self.pieces[q])
                if met and not links:
                    by |= {p, q}
                for c in met:
                    if frozenset((p, q)) in carried and not any(abs(float(c.normal @ np.array(k.way))) > 1 - SAME for k in links):
                        continue  # within the hole that it runs in
                    away += [contact_row(c.normal, at / self.size) for at in c.at]
                    normals += [c.normal] * len(c.at)
                    gaps += [c.gap] * len(c.at)
        if not links and not away:
            return None
        return _Rows(
            np.concatenate(never) if never else np.zeros((0, 6)),
            np.array(away).reshape(-1, 6),
            np.array(normals).reshape(-1, 3),
            np.array(gaps),
            tuple(links),
            frozenset(by),
        )

    def _read(self, thing: Thing, on: Thing, carried: str, span: np.ndarray, rows: _Rows, links: tuple[Link, ...]) -> Iterator[Movement]:
        """The movements of a thing whose freedoms are known: those of what carries it, along the axes, or the one that there is."""
        twists = [read_off(span[:, 0])] if span.shape[1] == 1 else self._plain(span, links)
        if len(twists) < span.shape[1]:
            return
        named: dict[str, int] = {}
        for screw in twists:
            way, at = np.array(screw.way), np.array(screw.at) * self.size
            link = next((k for k in links if self._is(screw, k)), None)
            if link is not None:
                at = np.array(link.at)
                if abs(float(way @ np.array(link.way))) > 1 - SAME:
                    sign = 1.0 if link.b in thing.pieces else -1.0
                    way = np.array(link.way) * sign
            elif way[int(np.abs(way).argmax())] < 0:
                way = -way
            twist = turning_twist(way, at / self.size) if screw.kind == "turns" else sliding_twist(way)
            signs = allows(twist, span, rows.away) or allows(twist, span, rows.away[rows.gaps < TOUCH])
            if screw.kind == "slides" and link is None:
                signs = signs if len(signs) < 2 else self._not_stopped(thing, on, way) or signs
                at = np.mean([self.pieces[p].reaches[k] for p in thing.pieces for k in (0, 1)], axis=0)
            sign = 1.0 if link is None else float(way @ np.array(link.way)) * (1.0 if link.b in thing.pieces else -1.0)
            ranges = [(k.least, k.most) if sign > 0 else (-k.most, -k.least) for k in links if self._is(screw, k) and k.by]
            least, most = max((r[0] for r in ranges), default=-math.inf), min((r[1] for r in ranges), default=math.inf)
            if signs == (-1,) or (len(signs) == 2 and most <= 0 > least):  # told the way in which it is free
                way, signs, least, most = -way, tuple(-s for s in signs), -most, -least
            key = f"{screw.kind}:{thing.key}"
            named[key] = named.get(key, 0) + 1
            if named[key] > 1:
                key = f"{key}:{named[key]}"
            yield Movement(key, screw.kind, thing, on, carried, _round(way), _round(at), signs, least, most, screw.pitch * self.size)

    def _not_stopped(self, thing: Thing, on: Thing, way: np.ndarray) -> tuple[int, ...]:
        """The one sign with which a slide goes on where with the other something stops it within play; () where both do, or neither: the round end of a groove has no flat face that tells."""
        free = [s for s in (1, -1) if not any(self._stops(p, q, s * way) for p in on.pieces for q in thing.pieces)]
        return tuple(free) if len(free) == 1 else ()

    def _stops(self, p: str, q: str, way: np.ndarray) -> bool:
        """Whether q, moved along a way by the play that there may be, is stopped by p."""
        a, b = self.pieces[p], self.pieces[q]
        far = way * play_of(a, b)
        (low, high), (other_low, other_high) = a.reaches, b.reaches
        if bool((low > other_high + far).any()) or bool((high < other_low + far).any()):
            return False
        return bite(a.solid, b.solid.translate(far.tolist())) > bite(a.solid, b.solid) + TOUCH

    def _is(self, screw: Screw, link: Link) -> bool:
        """Whether a link is what lets a thing move so."""
        way = np.array(screw.way)
        if screw.kind == "slides":
            return any(abs(float(way @ np.array(w))) > 1 - SAME for w in link.along)
        off = np.array(screw.at) * self.size - np.array(link.at)
        beside = float(np.linalg.norm(np.cross(off, way)))
        return link.turns and abs(float(way @ np.array(link.way))) > 1 - SAME and beside < SAME * self.size * 10

    def _plain(self, span: np.ndarray, links: tuple[Link, ...]) -> list[Screw]:
        """Turns and slides that together are the whole span: those of the links first, then slides along the axes of the room."""
        tried: list[tuple[Screw, np.ndarray]] = []
        for k in links:
            if k.turns:
                way, at = np.array(k.way), np.array(k.at) / self.size
                tried.append((Screw("turns", k.way, three(at)), turning_twist(way, at)))
            tried += [(Screw("slides", w, (0.0, 0.0, 0.0)), sliding_twist(np.array(w))) for w in k.along]
        for axis in np.eye(3):
            tried.append((Screw("slides", three(axis), (0.0, 0.0, 0.0)), sliding_twist(axis)))
        slides = span @ _nulls(span[:3])
        tried += [(read_off(t), t) for t in slides.T]
        found: list[Screw] = []
        kept = np.zeros((6, 0))
        none = np.zeros((0, 6))
        for screw, twist in tried:
            more = np.column_stack((kept, twist / np.linalg.norm(twist)))
            if allows(twist, span, none) and np.linalg.matrix_rank(more, tol=SAME) == more.shape[1]:
                found.append(screw)
                kept = more
        return found[: span.shape[1]]


@dataclass(frozen=True)
class _Rows:
    """What keeps one thing against another: rows that stay nought, rows that do not fall under it with their normals, and the links."""

    never: np.ndarray
    away: np.ndarray
    normals: np.ndarray
    #: how much play (mm) there is at each row of ``away``
    gaps: np.ndarray
    links: tuple[Link, ...]
    #: the pieces of both that carry, or touch
    by: frozenset[str]

    @cached_property
    def span(self) -> np.ndarray:
        """The motions that are left. Of what a link carries it is that alone which says so: what it touches as well only tells which way it may begin."""
        return null_space(self.never) if self.links else cone(self.never, self.away)

    @property
    def linked(self) -> bool:
        return bool(self.links)

    def turned(self) -> _Rows:
        """Of the first against the second: what comes away from the one by a motion comes away from the other by its opposite."""
        return _Rows(self.never, -self.away, -self.normals, self.gaps, self.links, self.by)

    def only_away(self) -> _Rows:
        """Without what links carry."""
        return replace(self, never=np.zeros((0, 6)), links=())

    def weighed(self) -> _Rows:
        """With what bears the thing under it, kept so by its weight."""
        under = self.normals[:, 2] > BEARS
        return _Rows(
            np.vstack((self.never, self.away[under])), self.away[~under], self.normals[~under], self.gaps[~under], self.links, self.by
        )


def _joined(rows: list[_Rows]) -> _Rows:
    return _Rows(
        np.vstack([r.never for r in rows]),
        np.vstack([r.away for r in rows]),
        np.vstack([r.normals for r in rows]),
        np.concatenate([r.gaps for r in rows]),
        tuple(k for r in rows for k in r.links),
        rows[0].by,
    )


def _nulls(rows: np.ndarray) -> np.ndarray:
    """The combinations of columns that turn nothing."""
    _, values, ways = np.linalg.svd(rows, full_matrices=True)
    rank = int((values > SAME).sum())
    return np.asarray(ways[rank:].T)


def _round(a: np.ndarray) -> Vector:
    return three(round(float(c), 7) + 0.0 for c in a)
