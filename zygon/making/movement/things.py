"""Rigid things: which pieces are one, from what is fastened, pressed, threaded, set and said; and which of them stands still."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from itertools import combinations

from zygon.design.document import Document
from zygon.making.assembly.hold import PLAY, halves, threaded
from zygon.making.hardware.body import HardwareBody
from zygon.making.movement.links import holes_round
from zygon.making.movement.pieces import Piece, leaf_of, moves_in_itself, part_of, runs_on
from zygon.making.result.built import Built, BuiltJoint, MadePart
from zygon.making.solids.solids import gap_between, solid_volume
from zygon.measure.evaluate import plain_length
from zygon.stock.fit import FitTable
from zygon.tolerance import CONTACT, SEEN

__all__ = ["ROUNDED", "RUNS", "Thing", "Ties", "slip_of", "stands", "still_of", "things_of", "ties_of"]

#: Joints in which a part is meant to slide where they are loose; all others are made to stay.
RUNS = ("groove",)
#: A fit is that of the table to this (mm): rounding.
ROUNDED = 1e-3


@dataclass(frozen=True)
class Thing:
    """Pieces that are one rigid thing, by id in the order of the parts."""

    pieces: tuple[str, ...]

    @property
    def key(self) -> str:
        """The id of its first piece."""
        return self.pieces[0]


class Ties:
    """Which pieces are one: sets that are joined as ties are found."""

    def __init__(self, ids: Iterable[str]) -> None:
        self._up = {i: i for i in ids}
        self._rank = {i: n for n, i in enumerate(self._up)}

    def of(self, piece: str) -> str:
        """The first piece of the set that one lies in."""
        while self._up[piece] != piece:
            self._up[piece] = self._up[self._up[piece]]
            piece = self._up[piece]
        return piece

    def join(self, a: str, b: str) -> bool:
        """Makes two one; whether they were not yet."""
        a, b = self.of(a), self.of(b)
        if a == b:
            return False
        first, second = sorted((a, b), key=self._rank.__getitem__)
        self._up[second] = first
        return True

    def things(self) -> list[Thing]:
        """The things, in the order of their first pieces."""
        found: dict[str, list[str]] = {}
        for piece in self._up:
            found.setdefault(self.of(piece), []).append(piece)
        return [Thing(tuple(p)) for p in found.values()]


def things_of(built: Built, pieces: Mapping[str, Piece]) -> Ties:
    """The things that fastenings, fits and what is said make of pieces; what only lies in or on another is found later."""
    freed = {frozenset((part_of(t.a), part_of(t.b))) for t in built.document.ties.values() if not t.out and t.how == "free"}
    ties = Ties(pieces)
    for a, b in ties_of(built, pieces):
        if frozenset((part_of(a), part_of(b))) not in freed:
            ties.join(a, b)
    for said in built.document.ties.values():
        if not said.out and said.how == "held" and said.a in pieces and said.b in pieces:
            ties.join(said.a, said.b)
    return ties


def ties_of(built: Built, pieces: Mapping[str, Piece]) -> Iterator[tuple[str, str]]:
    """Pairs of pieces that are one."""
    both: list[Iterable[str]] = []
    both += [pair for j in built.joints.values() if _stays(built, j) for pair in j.pairs]
    both += [pair for pair, seat in built.seated.items() if seat.fastened or seat.gap <= 0]
    both += [pair for pair, fit in built.bored.items() if _pressed(built, pair, fit)]
    both += [frozenset((plate, shaft)) for plate, shaft, wider in holes_round(built, pieces) if wider <= CONTACT]
    both += threaded(built)
    both += halves(built)
    for pair in both:
        a, b = sorted(pair)
        if a in pieces and b in pieces:
            yield a, b
    yield from ((p.id, part_of(p.id)) for p in pieces.values() if p.is_set)
    yield from _by_sets(built, pieces)
    yield from _hardware(built, pieces)
    yield from _bought(built, pieces)


def _stays(built: Built, joint: BuiltJoint) -> bool:
    """Whether a joint holds its parts once it is made: fastened, or tighter than what slips by hand and not put together dry."""
    if joint.refused:
        return False
    if joint.fastened:
        return True
    said = built.document.joints[joint.key]
    if getattr(said, "held", "usual") == "dry":
        return False
    return joint.fit < slip_of(built, joint)[0] - ROUNDED


def slip_of(built: Built, joint: BuiltJoint) -> tuple[float, float]:
    """The slip and the loose fit (mm) of what a joint's first part is of, on the chosen cutter."""
    document: Document = built.document
    stock = built.made[joint.a].record.stock if joint.a in built.made else ""
    table = next((f for f in document.fits.values() if f.stock == stock and f.cutter == document.cutter), FitTable(stock="", cutter=""))
    return plain_length(table.slip), plain_length(table.loose)


def _pressed(built: Built, pair: frozenset[str], fit: float) -> bool:
    """Whether what lies in a bore sits tight there; hardware lies on what it is screwed to and is asked for that."""
    return fit <= 0 and not any(isinstance(built.made[k].body, HardwareBody) for k in pair if k in built.made)


def _by_sets(built: Built, pieces: Mapping[str, Piece]) -> Iterator[tuple[str, str]]:
    """What a set clamps together: all that its bore does not run in."""
    for key, one in built.sets.items():
        for place in one.places:
            held = [k for k in place.parts if k in pieces and not moves_in_itself(built.made[k]) and not runs_on(built, key, built.made[k])]
            yield from ((a, b) for a, b in combinations(held, 2))


def _hardware(built: Built, pieces: Mapping[str, Piece]) -> Iterator[tuple[str, str]]:
    """Each leaf of hardware, or the whole, with what it lies on."""
    for part in {p.part.key: p.part for p in pieces.values()}.values():
        for leaf, of in getattr(part.record, "on", {}).items():
            own = next((k for k in _beside(built, part, of) if k in pieces), None)
            if own is not None:
                yield leaf_of(part, leaf), own


def _beside(built: Built, part: MadePart, of: str) -> list[str]:
    """The places of a part, first of them that which a piece of hardware lies at: of a copy that which was copied along with it."""
    places = [p for p in built.made.values() if p.of == of and not p.body.empty]
    return [p.key for p in sorted(places, key=lambda p: (gap_between(part, p, PLAY) > SEEN, p.made_by != part.made_by))]


def _bought(built: Built, pieces: Mapping[str, Piece]) -> Iterator[tuple[str, str]]:
    """Bought blocks with what they lie against first: their own screws keep them there, where no set does and nothing is said of them."""
    said = {part_of(k) for t in built.document.ties.values() if not t.out for k in (t.a, t.b)}
    said |= {k for s in built.sets.values() for place in s.places for k in place.parts if len(place.parts) > 1}
    for piece in pieces.values():
        if piece.part.record.kind != "bought" or piece.is_set or piece.part.key in said:
            continue
        for other in pieces.values():
            if other.part is not piece.part and not other.is_set and _touch(piece, other):
                yield piece.id, other.id
                break


def _touch(a: Piece, b: Piece) -> bool:
    (low, high), (other_low, other_high) = a.reaches, b.reaches
    if bool((low > other_high + PLAY).any()) or bool((high < other_low - PLAY).any()):
        return False
    return float(a.solid.min_gap(b.solid, PLAY)) < PLAY


def still_of(built: Built, pieces: Mapping[str, Piece], things: list[Thing]) -> Thing | None:
    """What stands still: what is chosen, else the largest of what stands on the ground."""
    if not things:
        return None
    chosen = next((t for t in things if built.document.still in t.pieces), None)
    if chosen is not None:
        return chosen
    return max(things, key=lambda t: stands(pieces, t))


def stands(pieces: Mapping[str, Piece], thing: Thing) -> tuple[bool, float]:
    """Whether a thing stands on the ground, and how large it is (mm³): what of several bears the rest."""
    ground = min(float(p.reaches[0][2]) for p in pieces.values())
    on_it = min(float(pieces[k].reaches[0][2]) for k in thing.pieces) <= ground + PLAY
    return on_it, sum(solid_volume(pieces[k].part) for k in thing.pieces if pieces[k].leaf != 1 and not pieces[k].is_set)
