"""A folded part against itself: faces and bends that run into one another when all is bent, and how far a flange may reach."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

import numpy as np

from zygon.brake.pose import Workpiece
from zygon.brake.slabs import Piece, runs_into
from zygon.design.document import Document
from zygon.design.flange_words import flange_words
from zygon.design.folding import Flange, FlangeKind
from zygon.design.patch import patched
from zygon.design.pointer import pointer
from zygon.geometry.motion import Motion
from zygon.making.metal.legs import leg_words, record_of
from zygon.making.pipeline import build
from zygon.making.result.built import FlatPart
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.fold import Fold, face_motions
from zygon.measure.display import Display, format_length
from zygon.stock.allowance import inner_setback, outer_setback

__all__ = ["clash_faults"]

#: Bends are taken in straight pieces of at most this (radians).
STEP = math.radians(9)
#: How often the room for a flange is halved to find how long it may be.
ROUNDS = 14
#: What is cut back at an end goes so much further (mm), as closed corners reach past their edge.
CLEAR = 0.5


def clash_faults(document: Document, part: FlatPart, *, tried: bool = True) -> list[Fault]:
    """The first clash of every flange of a folded part, with what may be done about it as mends.

    ``tried``: each mend is built before it is offered, as corners close in another way once a flange is changed; while a value is dragged that waits.
    """
    flat = part.flat
    if flat is None or flat.fold is None:
        return []
    work = Workpiece(flat.fold, flat.thickness)
    slices = max((math.ceil(abs(b.angle) / STEP) for b in flat.fold.bends), default=1)
    pieces = work.pieces([1.0] * len(flat.fold.bends), slices)
    found: list[Fault] = []
    said: set[int] = set()
    for a, b in _clashes(flat.fold, pieces):
        face = _moved(flat.fold, a.zone, b.zone)
        if face in said:
            continue
        said.add(face)
        found.append(_fault(document, part, work, pieces, face, b.zone if face == _face_of(flat.fold, a.zone) else a.zone, tried=tried))
    return found


def _clashes(fold: Fold, pieces: list[Piece]) -> list[tuple[Piece, Piece]]:
    lows = np.array([p.box[0] for p in pieces])
    highs = np.array([p.box[1] for p in pieces])
    meets = (lows[:, None, :] < highs[None, :, :]).all(axis=2)
    first, second = np.nonzero(np.triu(meets & meets.T, 1))
    found = []
    for i, j in zip(first.tolist(), second.tolist(), strict=True):
        a, b = pieces[i], pieces[j]
        if a.zone != b.zone and not _joined(fold, a.zone, b.zone) and runs_into(a, b):
            found.append((a, b))
    return found


def _joined(fold: Fold, a: int, b: int) -> bool:
    """Whether two zones are one sheet's neighbours: a face and its bend, both faces of a bend, or bends that meet in a corner of one face."""
    if a >= 0 and b >= 0:
        return any({fold.bends[k - 1].parent, k} == {a, b} for k in (a, b) if k)
    if a < 0 and b < 0:
        one, other = fold.bends[-1 - a], fold.bends[-1 - b]
        return one.parent in (other.parent, -b) or other.parent == -a
    face, bend = (a, -1 - b) if a >= 0 else (b, -1 - a)
    return face in (fold.bends[bend].parent, bend + 1)


def _face_of(fold: Fold, zone: int) -> int:
    """A zone's face; a bend's is the one that it carries."""
    return zone if zone >= 0 else -zone


def _moved(fold: Fold, a: int, b: int) -> int:
    """The face of two that hangs on more bends: the one that would be changed."""
    return max((_face_of(fold, z) for z in (a, b)), key=lambda f: (_level(fold, f), f))


def _level(fold: Fold, face: int) -> int:
    n = 0
    while face:
        face, n = fold.bends[face - 1].parent, n + 1
    return n


def _fault(document: Document, part: FlatPart, work: Workpiece, pieces: list[Piece], face: int, other: int, *, tried: bool) -> Fault:
    fold = work.fold
    bend = fold.bends[face - 1]
    key = record_of(bend.key)
    folding = part.record.folding
    flange = folding.flanges.get(key) if folding else None
    name, into = _name(fold, folding, face), _name(fold, folding, other)
    if into == name:
        into = "itself"
    where = pointer("parts", part.of, "folding", "flanges", key)
    said, mends = [], []
    for words, mend in _ways_out(document, part, work, pieces, face, into, tried=tried):
        said.append(words)
        mends.append(mend)
    (ax, ay), (bx, by) = bend.middle
    return Fault(
        "folds_into_itself",
        f"{part.path}: {name} runs into {into}{': ' + ', or '.join(said) if said else ''}",
        "a folded part runs nowhere into itself",
        into,
        "geometry",
        "error",
        part.key,
        owner=bend.owner,
        entry=f"{where}/length" if isinstance(flange, Flange) else where,
        at=((ax + bx) / 2, (ay + by) / 2),
        mends=tuple(mends),
    )


def _ways_out(
    document: Document, part: FlatPart, work: Workpiece, pieces: list[Piece], face: int, into: str, *, tried: bool
) -> Iterator[tuple[str, Mend]]:
    """What clears a flange, in words and as a mend: cut back at an end, shorter, or turned."""
    key, display = record_of(work.fold.bends[face - 1].key), document.display
    folding = part.record.folding
    flange = folding.flanges.get(key) if folding else None
    if folding is None or flange is None:
        return
    name = flange_words(key, folding.flanges)
    where = pointer("parts", part.of, "folding", "flanges", key)

    def clears(patch: list[dict[str, Any]]) -> bool:
        return not tried or _clears(document, part, key, patch)

    for end, least in _pulled_in(flange, work, pieces, face):
        for inset in (least, 2 * least, 4 * least) if tried else (least,):
            value: dict[str, Any] = {"text": f"{inset:.6g} mm", "unit": "mm"}
            patch: list[dict[str, Any]] = [
                {"op": "add", "path": f"{where}/extent", "value": "inset"},
                {"op": "add", "path": f"{where}/{end}", "value": value},
            ]
            if clears(patch):
                shown = _show(inset, display)
                yield f"cut it back by {shown} there", Mend(f"Cut {name} back by {shown} beside {into}", patch)
                break
    most = _most(folding.measured(flange), work, pieces, face) if isinstance(flange, Flange) else None
    if most is not None:
        value = {"text": f"{most:.6g} mm", "unit": "mm"}
        patch = [{"op": "add", "path": f"{where}/length", "value": value}]
        if clears(patch):
            yield f"make it at most {_show(most, display)}", Mend(f"Make it {_show(most, display)} long", patch)
    patch = [{"op": "add", "path": f"{where}/toward", "value": "b" if flange.toward == "a" else "a"}]
    if _clear_turned(work, key) and clears(patch):
        yield "turn it the other way", Mend(f"Turn {name} the other way", patch)


def _clears(document: Document, part: FlatPart, record: str, patch: list[dict[str, Any]]) -> bool:
    """Whether a flange runs into nothing once an edit is made."""
    after = build(patched(document.dump(), patch)).flats.get(part.key)
    if after is None or after.flat.fold is None:
        return False
    flat, fold = after.flat, after.flat.fold
    slices = max((math.ceil(abs(b.angle) / STEP) for b in fold.bends), default=1)
    pieces = Workpiece(fold, flat.thickness).pieces([1.0] * len(fold.bends), slices)
    zones = {z for pair in _clashes(fold, pieces) for z in (_face_of(fold, pair[0].zone), _face_of(fold, pair[1].zone))}
    return all(record_of(fold.bends[z - 1].key) != record for z in zones if z)


def _clear_turned(work: Workpiece, record: str) -> bool:
    """Whether nothing that a flange carries runs into anything, were it bent the other way."""
    fold = work.fold
    own = {i for i, b in enumerate(fold.bends) if record_of(b.key) == record}
    bends = tuple(replace(b, angle=-b.angle) if i in own else b for i, b in enumerate(fold.bends))
    turned = Workpiece(replace(fold, bends=bends), work.thickness)
    slices = max(math.ceil(abs(b.angle) / STEP) for b in bends)
    moved = set().union(*(work.carried(i) for i in own))
    found = _clashes(turned.fold, turned.pieces([1.0] * len(bends), slices))
    return not any(_face_of(fold, z) in moved for pair in found for z in (pair[0].zone, pair[1].zone))


def _name(fold: Fold, folding, zone: int) -> str:
    face = _face_of(fold, zone)
    return leg_words(fold.bends[face - 1].key, folding.flanges if folding else {}) if face else "the plate"


def _most(measured: str, work: Workpiece, pieces: list[Piece], face: int) -> float | None:
    """How long the flange of a face may be, as its length is ``measured``; None where shortening it alone helps nothing."""
    bend = work.fold.bends[face - 1]
    n, s = np.array(bend.outward), np.array(bend.start)
    reach = max(float(((ring - s) @ n).max()) for ring in work.faces[face]) - bend.width
    low = _longest(work, pieces, face, lambda to: (n, float(s @ n) + bend.width + to), reach)
    if low is None:
        return None
    # what its own length has over the flat behind the bend stays as it is
    angle = abs(bend.angle)
    over = {"outer": outer_setback(bend.thickness, bend.radius, angle), "inner": inner_setback(bend.radius, angle), "tangent": 0.0}[
        measured
    ]
    found = math.floor((low + over) * 100) / 100
    return found if found > over + 0.01 else None


def _longest(
    work: Workpiece, pieces: list[Piece], face: int, within: Callable[[float], tuple[np.ndarray, float]], most: float
) -> float | None:
    """The largest of up to ``most`` mm for which a face, cut to ``within`` of it, runs into nothing; None where not even a film does.

    ``within`` gives a direction on the flat and how far along it the face may reach.
    """
    fold = work.fold
    others = [p for p in pieces if p.zone not in (face, -face) and not _joined(fold, p.zone, face) and face not in _under(fold, p.zone)]
    motion = face_motions(fold)[face]

    def clear(to: float) -> bool:
        return not any(runs_into(p, o) for p in _cut_to(work, face, motion, *within(to)) for o in others)

    low, high = 0.0, most
    if not clear(low + 0.05):
        return None
    for _ in range(ROUNDS):
        middle = (low + high) / 2
        low, high = (middle, high) if clear(middle) else (low, middle)
    return low


def _pulled_in(flange: FlangeKind | None, work: Workpiece, pieces: list[Piece], face: int) -> list[tuple[str, float]]:
    """By how much a flange may be cut back at its first or its second end to run into nothing, mm; the end where less goes, none where neither helps."""
    fold = work.fold
    bend = fold.bends[face - 1]
    if not isinstance(flange, Flange) or flange.extent != "whole" or bend.key != record_of(bend.key) or len(work.carried(face - 1)) > 1:
        return []
    d, s = np.array(bend.along), np.array(bend.start)
    length = math.dist(bend.start, bend.end)
    found = []
    for end, way, base in (("first", -d, -float(s @ d) - length), ("second", d, float(s @ d))):
        kept = _longest(work, pieces, face, lambda to, way=way, base=base: (way, base + to), length)  # type: ignore[misc]
        if kept is not None and kept > length / 3:
            found.append((math.ceil(length - kept + CLEAR), end))
    return [(end, float(inset)) for inset, end in sorted(found)[:1]]


def _under(fold: Fold, zone: int) -> set[int]:
    """The faces that a zone hangs on."""
    face = _face_of(fold, zone)
    found = set()
    while face:
        face = fold.bends[face - 1].parent
        found.add(face)
    return found


def _cut_to(work: Workpiece, face: int, motion: Motion, n: np.ndarray, to: float) -> list[Piece]:
    found = []
    for ring in work.faces[face]:
        off = to - ring @ n
        kept = []
        for p, q, fp, fq in zip(ring, np.roll(ring, -1, axis=0), off, np.roll(off, -1), strict=True):
            if fp >= 0:
                kept.append(p)
            if (fp > 0) != (fq > 0) and fp != fq:
                kept.append(p + (q - p) * (fp / (fp - fq)))
        if len(kept) >= 3:
            cut = np.array(kept)
            ends = [motion.points(np.column_stack((cut, np.full(len(cut), w)))) for w in (0.0, work.thickness)]
            found.append(Piece(face, ends[0], ends[1]))
    return found


def _show(value: float, display: Display) -> str:
    return format_length(value, display)
