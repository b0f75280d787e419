"""The order of assembly, found by taking apart: what can slide out on a straight way is taken off, and the order turned round.

Where no single part comes off, groups that move together do (the strongly connected parts of the blocking graph of one direction: Wilson
and Latombe, "Geometric reasoning about mechanical assembly", Artificial Intelligence 71, 1994). What is left when nothing moves is locked.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import networkx
import numpy as np

from zygon.geometry.frame import FACES
from zygon.geometry.motion import IDENTITY
from zygon.making.assembly.sweep import WAYS, Blocks, Way, blockers, opposite, solid_parts
from zygon.making.result.built import Built, MadePart

__all__ = ["Assembly", "Loose", "Step", "assembly", "way_word"]

#: How far past the rest a part is shown before it is slid home (mm).
CLEAR = 30.0


@dataclass(frozen=True)
class Step:
    """Parts slid home together along a way, from ``distance`` mm off, onto what stands already."""

    parts: tuple[str, ...]
    way: Way
    distance: float


@dataclass(frozen=True)
class Loose:
    """A part of the dry assembly that can still be slid out, the ways it can go, and what will keep it ('glued', 'screwed' or '')."""

    part: str
    ways: tuple[Way, ...]
    kept_by: str


@dataclass(frozen=True)
class Assembly:
    """``first`` is what the assembly starts from, ``steps`` follow in order; ``locked`` are groups that cannot be put together.

    ``sets`` are those that are put in behind ``first`` and behind each step, as the bore's key and the number of the place: as soon as all that one holds is there.
    """

    first: tuple[str, ...]
    steps: tuple[Step, ...]
    locked: tuple[tuple[str, ...], ...]
    loose: tuple[Loose, ...]
    sets: tuple[tuple[tuple[str, int], ...], ...] = ()


def way_word(way: Way) -> str:
    """The way a part moves in words: 'to the left', 'down'."""
    word = FACES[way[0]][way[1] > 0]
    return {"top": "up", "bottom": "down", "front": "to the front", "back": "to the back"}.get(word, f"to the {word}")


def assembly(built: Built) -> Assembly:
    """How a design is put together."""
    parts = solid_parts(built)
    if not parts:
        return Assembly((), (), (), ())
    blocks = blockers(built, parts)
    by_key = {p.key: p for p in parts}
    every = frozenset(by_key)
    locked: list[tuple[str, ...]] = []
    first, steps = _apart(by_key, every, blocks, locked)
    locked = [own for group in locked for own in _as_it_lies(built, [by_key[k] for k in group])]
    kept = {k: j.fastened for j in built.joints.values() if j.fastened for p in j.pairs for k in p}
    kept |= {s.member: s.fastened for s in built.seats if s.fastened}
    kept |= {k: "screwed" for s in built.sets.values() for place in s.places if len(place.parts) > 1 for k in place.parts}
    loose = []
    if len(parts) > 1:
        for part in parts:
            ways = tuple(w for w in WAYS if w != ("z", -1) and not blocks.of(part.key, w, every))
            if ways:
                loose.append(Loose(part.key, ways, kept.get(part.key, "")))
    return Assembly(first, tuple(steps), tuple(locked), tuple(loose), _sets(built, first, steps))


def _sets(built: Built, first: tuple[str, ...], steps: list[Step]) -> tuple[tuple[tuple[str, int], ...], ...]:
    """Behind the first parts and behind each step the sets that go in then."""
    arrives = dict.fromkeys(first, 0) | {k: n for n, step in enumerate(steps, 1) for k in step.parts}
    found: list[list[tuple[str, int]]] = [[] for _ in range(len(steps) + 1)]
    for key, one in built.sets.items():
        for n, place in enumerate(one.places):
            found[max((arrives.get(k, 0) for k in place.parts), default=0)].append((key, n))
    return tuple(map(tuple, found))


def _as_it_lies(built: Built, group: list[MadePart]) -> list[tuple[str, ...]]:
    """What is still locked of a group once those that are turned alike are tried along their own axes.

    A group that was turned as a whole goes together as it did before; where joints tie parts that are turned differently, it is left as found.
    """
    alike: dict[tuple[float, ...], list[MadePart]] = {}
    for part in group:
        alike.setdefault(tuple(round(x, 6) + 0.0 for row in part.place.rows for x in row[:3]), []).append(part)
    turn = {p.key: t for t, parts in alike.items() for p in parts}
    tied = any(a in turn and b in turn and turn[a] != turn[b] for j in built.joints.values() for a, b in j.pairs)
    if tied or all(p.place.square for p in group):
        return [tuple(p.key for p in group)]
    locked: list[tuple[str, ...]] = []
    for parts in alike.values():
        back = np.array((*parts[0].place.inverse.rows, (0, 0, 0, 1)))
        laid = {p.key: replace(p, matrix=tuple(map(tuple, (back @ np.array(p.matrix)).round(9).tolist())), place=IDENTITY) for p in parts}
        _apart(laid, frozenset(laid), blockers(built, list(laid.values())), locked)
    return locked


def _apart(
    parts: dict[str, MadePart], group: frozenset[str], blocks: Blocks, locked: list[tuple[str, ...]]
) -> tuple[tuple[str, ...], list[Step]]:
    """What a group starts from and its steps in order of assembly."""
    rest, taken = group, []  # taken off last comes first
    while len(rest) > 1:
        found = _single(parts, rest, blocks) or _together(parts, rest, blocks)
        if found is None:
            locked.append(_ordered(parts, rest))
            break
        moved, way = found
        rest -= moved
        taken.append((moved, way, rest))
    first = _ordered(parts, rest)
    steps: list[Step] = []
    for moved, way, left in reversed(taken):
        distance = _distance(parts, moved, left, way)
        if len(moved) > 1:  # a group is put together by itself before it goes in
            _, own = _apart(parts, moved, blocks, locked)
            steps += own
        steps.append(Step(_ordered(parts, moved), opposite(way), distance))
    return first, steps


def _ordered(parts: dict[str, MadePart], keys: frozenset[str]) -> tuple[str, ...]:
    return tuple(sorted(keys, key=lambda k: (parts[k].record.order, k)))


def _single(parts: dict[str, MadePart], rest: frozenset[str], blocks: Blocks) -> tuple[frozenset[str], Way] | None:
    """One part that comes off; of several the last in the cut list, on its shortest way, down only where there is no other.

    Where only the part that all stand on comes off downward, it is the others that are lifted off together.
    """
    for key in reversed(_ordered(parts, rest)):
        one = frozenset((key,))
        free = [w for w in WAYS[:-1] if not blocks.of(key, w, rest)]
        if free:
            return one, min(free, key=lambda w: _distance(parts, one, rest - one, w))
    for key in reversed(_ordered(parts, rest)):
        one = frozenset((key,))
        if not blocks.of(key, WAYS[-1], rest):
            lowest = parts[key].reaches[0][2] <= min(parts[k].reaches[0][2] for k in rest - one)
            return (rest - one, opposite(WAYS[-1])) if lowest else (one, WAYS[-1])
    return None


def _together(parts: dict[str, MadePart], rest: frozenset[str], blocks: Blocks) -> tuple[frozenset[str], Way] | None:
    """The smallest group that comes off as one."""
    best: tuple[frozenset[str], Way] | None = None
    for way in WAYS:
        graph = networkx.DiGraph()
        graph.add_nodes_from(_ordered(parts, rest))
        graph.add_edges_from((k, other) for k in rest for other in blocks.of(k, way, rest))
        condensed = networkx.condensation(graph)
        if len(condensed) < 2:
            continue
        for node in condensed:
            members = frozenset(condensed.nodes[node]["members"])
            if condensed.out_degree(node) == 0 and (best is None or len(members) < len(best[0])):
                best = members, way
    return best


def _distance(parts: dict[str, MadePart], moved: frozenset[str], rest: frozenset[str], way: Way) -> float:
    """How far a group is moved until its box is clear of the rest's, and a little more."""
    i = "xyz".index(way[0])
    if way[1] > 0:
        gap = max(parts[k].reaches[1][i] for k in rest) - min(parts[k].reaches[0][i] for k in moved)
    else:
        gap = max(parts[k].reaches[1][i] for k in moved) - min(parts[k].reaches[0][i] for k in rest)
    return round(max(gap, 0.0) + CLEAR, 3)
