"""Where in a room a board catches along its thickness: at its ends, in the middle, in line with others, evenly spaced, a size away; each with its entry."""

from __future__ import annotations

import re
from dataclasses import dataclass

from zygon.design.document import Document
from zygon.geometry.frame import FACES, Plane, frame_of
from zygon.making.result.built import Built, FlatPart
from zygon.making.rooms.free import Bound, Room
from zygon.making.rooms.named import figure
from zygon.tolerance import WITHIN

__all__ = ["Catch", "catches", "evenly", "from_low"]

#: Shares of a room, after its middle.
SHARES = ((1, 3, "a third"), (2, 3, "two thirds"), (1, 4, "a quarter"), (3, 4, "three quarters"))
#: So many sizes are offered, the smallest first.
MOST_SIZES = 12
_PLAIN = re.compile(r"[\w.]+|[\d.]+ (mm|in)")


@dataclass(frozen=True)
class Catch:
    """``low`` is where the board's low face comes to lie (mm); its place is said by its ``face`` at ``entry``. The lower the ``rank``, the more likely."""

    low: float
    face: str
    entry: str
    words: str
    rank: int


def catches(built: Built, room: Room, plane: Plane, thickness: float) -> list[Catch]:
    """All of them that leave the board within the room, likelier ones first."""
    axis = frame_of(plane).normal
    low, high = room.bounds[axis]
    low_face, high_face = FACES[axis]
    t, far = thickness, axis in room.open
    found, unit = [], built.document.unit
    if low.part or not far:
        found.append(Catch(low.value, low_face, low.entry, _at(low), 0))
    if high.part or not far:
        found.append(Catch(high.value - t, high_face, high.entry, _at(high), 0))
    if not far:
        found.append(Catch((low.value + high.value - t) / 2, "centre", _middle(low, high, unit), "in the middle", 1))
        for over, under, words in SHARES:
            at = low.value + (high.value - low.value) * over / under
            found.append(Catch(at - t / 2, "centre", _share(low, high, over, under, unit), words, 4))
    found += _in_line(built, axis, plane)
    found += _as_far_on(built, axis, plane)
    found += _sizes(built, low, high, (low_face, high_face), t)
    fits = [c for c in found if low.value - WITHIN <= c.low and c.low + t <= high.value + WITHIN]
    first: dict[float, Catch] = {}
    for c in sorted(fits, key=lambda c: c.rank):
        first.setdefault(round(c.low, 4), c)
    return list(first.values())


def from_low(bound: Bound, mm: str) -> str:
    """A place so far from a bound, as an entry writes it: '12 mm' behind 0, 'floor.top + 12 mm' behind a face."""
    return mm if _nought(bound) else f"{bound.entry} + {mm}"


def evenly(low: Bound, high: Bound, number: int, name: str) -> tuple[str, str]:
    """The place of the low face of the first of so many boards called ``name`` that leave equal gaps between two places, and from one to the next, as entries."""
    gaps = f"({_less(high, low)} - {number} * {name}.thickness) / {number + 1}"
    first = gaps if _nought(low) else f"{low.entry} + {gaps}"
    return first, f"{gaps} + {name}.thickness"


def _at(bound: Bound) -> str:
    return f"at {bound.entry}" if bound.part or _named(bound) else "at the end"


def _nought(bound: Bound) -> bool:
    return bool(re.fullmatch(r"0( mm| in)?", bound.entry))


def _less(high: Bound, low: Bound) -> str:
    if _nought(low):
        return high.entry
    return f"{high.entry} - {low.entry if _PLAIN.fullmatch(low.entry) else f'({low.entry})'}"


def _named(bound: Bound) -> bool:
    """Whether its entry names a face: a place, which no length can be compared with."""
    return bool(re.match(r"[^\W\d]", bound.entry))


def _middle(low: Bound, high: Bound, unit: str) -> str:
    if _named(low) != _named(high):
        return figure((low.value + high.value) / 2, unit)
    return f"mid({low.entry}, {high.entry})"


def _share(low: Bound, high: Bound, over: int, under: int, unit: str) -> str:
    if _named(low) != _named(high):
        return figure(low.value + (high.value - low.value) * over / under, unit)
    part = f"({_less(high, low)}) / {under}"
    return f"{low.entry} + {part}" if over == 1 else f"{low.entry} + {over} * {part}"


def _likes(built: Built, axis: str, plane: Plane) -> list[FlatPart]:
    """Boards that stand the same way and are named, lowest first."""
    like = [p for p in built.flats.values() if not p.made_by and p.place.plain and p.record.plane == plane and not p.record.aside]
    return sorted(like, key=lambda p: p.span_box.span(axis)[0])


def _in_line(built: Built, axis: str, plane: Plane) -> list[Catch]:
    face = FACES[axis][0]
    return [
        Catch(p.span_box.span(axis)[0], face, f"{p.record.name}.{face}", f"in line with {p.record.name}", 2)
        for p in _likes(built, axis, plane)
    ]


def _as_far_on(built: Built, axis: str, plane: Plane) -> list[Catch]:
    """As far from the last as that is from the one before it."""
    face, found = FACES[axis][0], []
    like = _likes(built, axis, plane)
    for one, other in zip(like, like[1:], strict=False):
        a, b = one.span_box.span(axis)[0], other.span_box.span(axis)[0]
        if b - a > other.span_box.span(axis)[1] - b:
            x, y = (f"{p.record.name}.{face}" for p in (one, other))
            found.append(Catch(2 * b - a, face, f"{y} + ({y} - {x})", f"as far on as {one.record.name} and {other.record.name}", 3))
            found.append(Catch(2 * a - b, face, f"{x} - ({y} - {x})", f"as far on as {other.record.name} and {one.record.name}", 3))
    return found


def _sizes(built: Built, low: Bound, high: Bound, faces: tuple[str, str], thickness: float) -> list[Catch]:
    found = []
    for name, value in _lengths(built.document, built)[:MOST_SIZES]:
        found.append(Catch(low.value + value, faces[0], from_low(low, name), f"{name} from {low.entry}", 5))
        found.append(Catch(high.value - value - thickness, faces[1], f"{high.entry} - {name}", f"{name} from {high.entry}", 5))
    return found


def _lengths(document: Document, built: Built) -> list[tuple[str, float]]:
    """Sizes that are lengths over nothing, by what they are worth."""
    worth = {s.name: built.good.get(f"/sizes/{k}/entry", 0.0) for k, s in document.sizes.items() if s.kind == "length"}
    return sorted(((n, v) for n, v in worth.items() if v > 0), key=lambda nv: nv[1])
