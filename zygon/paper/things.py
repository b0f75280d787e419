"""What is looked at of the whole: parts and their hardware in their places, some of them or pulled apart, or as far as they are put together at a step."""

from __future__ import annotations

from collections.abc import Container, Mapping
from dataclasses import replace
from types import MappingProxyType

from zygon.geometry.motion import Vector, three
from zygon.making.assembly.plan import Assembly
from zygon.making.result.body import Matrix
from zygon.making.result.built import Built, MadePart
from zygon.making.sets.rings import rings_of
from zygon.owner import bore_id
from zygon.paper.hidden import Thing

__all__ = ["SPREAD", "arriving", "in_group", "middle_of", "pulled_apart", "thing_of", "things_of"]

#: Pulled wholly apart the middle of a part lies so many times as far from the middle of all as it does together, and once more.
SPREAD = 1.4
STILL: Vector = (0.0, 0.0, 0.0)


def thing_of(part: MadePart, rows: Matrix | None = None) -> Thing:
    """A part as it is looked at, in its place where no rows say otherwise."""
    return Thing(part.key, part.record.kind, part.body, rows or part.matrix[:3])


def things_of(built: Built, keys: Container[str] | None = None, shifts: Mapping[str, Vector] = MappingProxyType({})) -> tuple[Thing, ...]:
    """Parts, all or those of ``keys``, with the hardware that holds only such ones; each is moved by what ``shifts`` says of its key (mm)."""

    def shift(key: str) -> Vector:
        return shifts.get(key, STILL)

    found = [_moved(thing_of(p), shift(p.key)) for p in built.made.values() if not p.body.empty and (keys is None or p.key in keys)]
    for key, one in built.sets.items():
        for place in one.places:
            if keys is None or all(k in keys for k in place.parts):
                off = shift(place.parts[0]) if place.parts else STILL
                found += [_moved(Thing(bore_id(key), "set", p.hardware, p.motion.rows), off) for p in place.pieces]
    for part, piece in rings_of(built):
        if keys is None or part.key in keys:
            found.append(_moved(Thing(part.key, "set", piece.hardware, piece.motion.rows), shift(part.key)))
    return tuple(found)


def _moved(thing: Thing, shift: Vector) -> Thing:
    if shift == STILL:
        return thing
    return replace(thing, rows=tuple((*row[:3], row[3] + off) for row, off in zip(thing.rows[:3], shift, strict=True)))


def in_group(built: Built, group: str) -> set[str]:
    """The keys of the instances whose records lie in a group, or in one that lies in it."""
    document = built.document
    return {p.key for p in built.made.values() if group in document.within(document.parts[p.of].group)}


def pulled_apart(built: Built, keys: Container[str] | None, share: float) -> dict[str, Vector]:
    """How far each part is moved from the middle of all, for ``share`` of the way apart."""
    middles = {p.key: middle_of(p) for p in built.made.values() if not p.body.empty and (keys is None or p.key in keys)}
    if not share or not middles:
        return {}
    corners = [c for key in middles for c in built.made[key].reaches]
    centre = [(min(c[i] for c in corners) + max(c[i] for c in corners)) / 2 for i in range(3)]
    return {key: three([(m - c) * share * SPREAD for m, c in zip(at, centre, strict=True)]) for key, at in middles.items()}


def middle_of(part: MadePart) -> Vector:
    """The middle of the box round a part."""
    low, high = part.reaches
    return three([(a + b) / 2 for a, b in zip(low, high, strict=True)])


def arriving(plan: Assembly, step: int) -> tuple[set[str], Mapping[str, Vector]]:
    """What is there at a step of the assembly (1 is what it begins with), and from where what comes then is slid home (mm)."""
    there = set(plan.first)
    for one in plan.steps[: max(0, step - 1)]:
        there |= set(one.parts)
    if not 2 <= step <= len(plan.steps) + 1:
        return there, {}
    last = plan.steps[step - 2]
    off = [0.0, 0.0, 0.0]
    off["xyz".index(last.way[0])] = -last.way[1] * last.distance
    return there, dict.fromkeys(last.parts, three(off))
