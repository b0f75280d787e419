"""Equal parts, however they came about: two flats are alike where a turn and a move within the plane lay one on the other.

Outlines are compared as rings of straight runs and arcs (neighbours on one line or circle count as one run): a shift of the ring gives the
turn and the move, and everything else on the flats has to agree under it. Marks that help in the shop, a joint's among them, are not looked at.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TypeGuard

from zygon.design.document import Document
from zygon.design.parts.kinds import PlacedKind, PlateKind
from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour
from zygon.making.flats.handed import handed_flat
from zygon.making.result.body import Straight
from zygon.making.result.built import BuiltPart, FlatPart, MadePart
from zygon.making.result.flat import Flat
from zygon.memo import Memo, digest
from zygon.owner import is_of
from zygon.stock.kinds import is_sheet
from zygon.tolerance import EPS, MERGED, SLACK

__all__ = ["Row", "alike", "row_numbers", "rows_of"]

_ALIKE = Memo(8000)
_RINGS = Memo(4000)
#: Lengths (mm) and angles (radians) that differ by less are the same: a tenth of what any cutter repeats to.
SAME = 2e-3
#: Directions that differ by less (radians) are one: 0.01 mm on a metre.
TURN = 1e-5
Turn = tuple[float, float, float, float]


@dataclass(frozen=True)
class Run:
    """One straight run or arc of an outline: where it starts, its chord, its length and bulge, and the way it sets out."""

    start: tuple[float, float]
    end: tuple[float, float]
    bulge: float

    @property
    def chord(self) -> float:
        return math.dist(self.start, self.end)


def _ring(flat: Flat) -> tuple[Run, ...]:
    return _RINGS.get(flat.digest, lambda: _runs(flat.pieces[0].outer))[0]


def _runs(contour: Contour) -> tuple[Run, ...]:
    """The outline with neighbours on one line or one circle joined."""
    runs = [Run(s.p, s.q, s.bulge) for s in contour.segments()]
    joined: list[Run] = []
    for run in runs:
        merged = _merged(joined[-1], run) if joined else None
        if merged:
            joined[-1] = merged
        else:
            joined.append(run)
    if len(joined) > 1:
        merged = _merged(joined[-1], joined[0])
        if merged:
            joined = [merged, *joined[1:-1]]
    return tuple(joined)


def _merged(a: Run, b: Run) -> Run | None:
    if not a.bulge and not b.bulge:
        ax, ay = a.end[0] - a.start[0], a.end[1] - a.start[1]
        bx, by = b.end[0] - b.start[0], b.end[1] - b.start[1]
        if abs(ax * by - ay * bx) <= MERGED * a.chord * b.chord and ax * bx + ay * by > 0:
            return Run(a.start, b.end, 0.0)
    elif a.bulge and b.bulge:
        one, other = arc_from_bulge(a.start, a.end, a.bulge), arc_from_bulge(b.start, b.end, b.bulge)
        sweep = one[4] + other[4]
        if math.dist(one[:2], other[:2]) < SAME / 2 and abs(one[2] - other[2]) < SAME / 2 and one[4] * other[4] > 0 and abs(sweep) < 6.2:
            return Run(a.start, b.end, math.tan(sweep / 4))
    return None


def alike(a: Flat, b: Flat) -> Turn | None:
    """(cos, sin, du, dv) of the turn and move that lay flat a on flat b, the least turn first; None where none does."""
    if a.digest == b.digest:
        return (1.0, 0.0, 0.0, 0.0)
    return _ALIKE.get(digest("alike", a.digest, b.digest), lambda: _alike(a, b))[0]


def _alike(a: Flat, b: Flat) -> Turn | None:
    if len(a.pieces) != 1 or len(b.pieces) != 1 or abs(a.thickness - b.thickness) > SAME or a.seen != b.seen:
        return None
    if (a.fold is None) != (b.fold is None) or (a.fold and b.fold and len(a.fold.bends) != len(b.fold.bends)):
        return None
    if abs(a.area - b.area) > SAME * max(a.pieces[0].outer.length, 1.0) or len(a.inside) != len(b.inside):
        return None
    ring_a, ring_b = _ring(a), _ring(b)
    if len(ring_a) != len(ring_b):
        return None
    found = []
    for turn in _turns(ring_a, ring_b):
        if _agree(a, b, turn):
            found.append(turn)
    return min(found, key=lambda t: abs(math.atan2(t[1], t[0]))) if found else None


def _turns(ring_a: tuple[Run, ...], ring_b: tuple[Run, ...]) -> list[Turn]:
    """The turns and moves under which one ring lies on the other."""
    n = len(ring_a)
    if _is_disc(ring_a) or _is_disc(ring_b):  # it has no corner to start from: its middle, and four turns
        return _discs(ring_a, ring_b) if _is_disc(ring_a) and _is_disc(ring_b) else []
    found = []
    for k in range(n):
        if any(
            abs(ring_a[i].chord - ring_b[(i + k) % n].chord) > SAME or abs(ring_a[i].bulge - ring_b[(i + k) % n].bulge) > SLACK
            for i in range(n)
        ):
            continue
        one, other = max(((r, ring_b[(i + k) % n]) for i, r in enumerate(ring_a)), key=lambda rs: rs[0].chord)
        angle = _heading(other) - _heading(one)
        c, s = _snapped(math.cos(angle)), _snapped(math.sin(angle))
        du, dv = other.start[0] - (c * one.start[0] - s * one.start[1]), other.start[1] - (s * one.start[0] + c * one.start[1])
        turn = (c, s, du, dv)
        if all(math.dist(_moved(r.start, turn), ring_b[(i + k) % n].start) < SAME for i, r in enumerate(ring_a)):
            found.append(turn)
    return found


def _is_disc(ring: tuple[Run, ...]) -> bool:
    """Whether a ring is one circle; a lens has two arcs as well."""
    if not all(r.bulge for r in ring) or len(ring) > 2:
        return False
    one, other = (arc_from_bulge(r.start, r.end, r.bulge) for r in (ring[0], ring[-1]))
    return math.dist(one[:2], other[:2]) < SAME  # they share their ends, so their radii too


def _discs(ring_a: tuple[Run, ...], ring_b: tuple[Run, ...]) -> list[Turn]:
    one, other = (arc_from_bulge(r[0].start, r[0].end, r[0].bulge) for r in (ring_a, ring_b))
    if abs(one[2] - other[2]) > SAME:
        return []
    quarter = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))
    return [(c, s, other[0] - (c * one[0] - s * one[1]), other[1] - (s * one[0] + c * one[1])) for c, s in quarter]


def _snapped(x: float) -> float:
    return float(round(x)) if abs(x - round(x)) < EPS else x


def _heading(run: Run) -> float:
    return math.atan2(run.end[1] - run.start[1], run.end[0] - run.start[0])


def _moved(p: tuple[float, float], t: Turn) -> tuple[float, float]:
    return t[0] * p[0] - t[1] * p[1] + t[2], t[1] * p[0] + t[0] * p[1] + t[3]


def _pockets(flat: Flat) -> list[tuple[Contour, str]]:
    return [(c, f"{p.face}{p.depth:.3f}{'island' * bool(i)}") for p in flat.pockets for i, c in enumerate(p.contours)]


def _agree(a: Flat, b: Flat, turn: Turn) -> bool:
    """Whether everything but the outline lies on its like too."""
    groups: tuple[tuple[list[tuple[Contour, str]], list[tuple[Contour, str]]], ...] = (
        ([(c, "") for c in a.inside], [(c, "") for c in b.inside]),
        (_pockets(a), _pockets(b)),
        ([(m.contour, m.face) for m in a.engraved if _counts(m.owner)], [(m.contour, m.face) for m in b.engraved if _counts(m.owner)]),
        ([(x.on_a, "a") for x in a.bevels], [(x.on_a, "a") for x in b.bevels]),
        ([(x.on_b, "b") for x in a.bevels], [(x.on_b, "b") for x in b.bevels]),
        (_bends(a), _bends(b)),
        (_along_edges(a), _along_edges(b)),
    )
    if any(not _match(one, other, turn) for one, other in groups):
        return False
    sinks = [(_moved((s.u, s.v), turn), f"{s.face}{s.diameter:.3f}{s.angle:.4f}") for s in a.sinks]
    if not _match_points(sinks, [((s.u, s.v), f"{s.face}{s.diameter:.3f}{s.angle:.4f}") for s in b.sinks]):
        return False
    if not _match_points([(_moved(_mouth(x), turn), _kind(x)) for x in a.bores], [(_mouth(x), _kind(x)) for x in b.bores]):
        return False
    return _same_skew_bores(a, b, turn)


def _same_skew_bores(a: Flat, b: Flat, turn: Turn) -> bool:
    """Whether all that is drilled askew lies on its like, end on end; which way a hole is drilled does not tell two apart."""
    rest = list(b.skew_bores)
    for d in a.skew_bores:
        start, end = ((*_moved(p[:2], turn), p[2]) for p in (d.start, d.end))
        ways = ((start, end), (end, start))
        found = next((o for o in rest if any(math.dist(p, o.start) < SAME and math.dist(q, o.end) < SAME for p, q in ways)), None)
        if found is None or abs(found.diameter - d.diameter) >= SAME:
            return False
        rest.remove(found)
    return not rest


def _along_edges(flat: Flat) -> list[tuple[Contour, str]]:
    """What runs along a flat's edges, each with what it is."""
    found = [(c, f"{e.face}{e.shape}{e.width:.3f} {e.height:.3f}") for e in flat.edges for c in e.runs]
    return found + [(c, f"band {b.thickness:.3f} {b.of}") for b in flat.bands for c in b.runs]


def _bends(flat: Flat) -> list[tuple[Contour, str]]:
    """The strips of a flat's bends, each with what is bent there."""
    return [(b.outline, f"{b.angle:.5f} {b.radius:.3f}") for b in flat.fold.bends] if flat.fold else []


def _counts(owner: str) -> bool:
    return is_of(owner, "feature", "bore")


def _mouth(bore) -> tuple[float, float]:
    return (bore.at, bore.along) if bore.across == "u" else (bore.along, bore.at)


def _kind(bore) -> str:
    return f"{bore.diameter:.3f} {bore.depth:.3f} {bore.w:.3f}"


def _signature(c: Contour) -> tuple[float, float, tuple[float, float, float, float]]:
    return abs(c.area) if c.closed else 0.0, c.length, c.bounds


def _match(one: list[tuple[Contour, str]], other: list[tuple[Contour, str]], turn: Turn) -> bool:
    if len(one) != len(other):
        return False
    angle = math.atan2(turn[1], turn[0])
    rest = [(word, c, *_signature(c)) for c, word in other]
    for contour, word in one:
        moved = contour.moved(turn[2], turn[3], angle)
        area, length, bounds = _signature(moved)
        for i, (w, c, ar, le, bo) in enumerate(rest):
            alike = (
                w == word and abs(ar - area) < SAME * max(length, 1) and abs(le - length) < SAME * 2 and max(map(_gap, bo, bounds)) < SAME
            )
            # as large, as long and in the same box, a cross with one arm aside is still another shape than its mirror image
            if alike and _same_corners(moved, c):
                rest.pop(i)
                break
        else:
            return False
    return True


def _same_corners(a: Contour, b: Contour) -> bool:
    """Whether two contours turn at the same places, and bulge to the same side between them."""
    one, other = a.as_circle, b.as_circle
    if one and other:
        return max(map(_gap, one, other)) < SAME
    p, q = _corners(a), _corners(b)
    return len(p) == len(q) and all(min(math.dist(x, y) for y in q) < 2 * SAME for x in p)


def _corners(contour: Contour) -> list[tuple[float, float]]:
    """Where a contour turns, and the middles of its arcs."""
    if not contour.closed:
        return list(contour.points)
    found = []
    for run in _runs(contour):
        found.append(run.start)
        if run.bulge:
            (x0, y0), (x1, y1) = run.start, run.end
            found.append(((x0 + x1) / 2 + run.bulge * (y1 - y0) / 2, (y0 + y1) / 2 - run.bulge * (x1 - x0) / 2))
    return found


def _gap(x: float, y: float) -> float:
    return abs(x - y)


def _match_points(one: list[tuple[tuple[float, float], str]], other: list[tuple[tuple[float, float], str]]) -> bool:
    rest = list(other)
    for p, word in one:
        i = next((i for i, (q, w) in enumerate(rest) if w == word and math.dist(p, q) < SAME), None)
        if i is None:
            return False
        rest.pop(i)
    return not rest


@dataclass(frozen=True)
class Row:
    """Equal parts: their instance keys, and the number of the row whose mirror image they are (0 for none)."""

    number: int
    keys: tuple[str, ...]
    handed_of: int = 0


def rows_of(document: Document, parts: dict[str, BuiltPart]) -> list[Row]:
    """The parts as the cut list has them: equal ones together, in the order in which the first of them comes, numbered from 1.

    Where the numbering names groups, equal parts of different groups stay apart.
    """
    shapes: dict[str, int] = {}
    rows: list[list[str]] = []
    near: dict[tuple, list[int]] = {}
    for key, part in parts.items():
        plain = _plain_key(document, part)
        row = shapes.get(plain)
        if row is None:
            row = next((i for i in _candidates(near, part) if _equal(document, parts[rows[i][0]], part)), None)
        if row is None:
            rows.append([key])
            row = len(rows) - 1
            near.setdefault(_bucket(part), []).append(row)
        else:
            rows[row].append(key)
        shapes.setdefault(plain, row)
    found = []
    for n, keys in enumerate(rows, 1):
        first = parts[keys[0]]
        others = sorted(i for i in _candidates(near, first) if i < n - 1)
        mirrored = next((m + 1 for m in others if _handed(document, parts[rows[m][0]], first)), 0)
        found.append(Row(n, tuple(keys), mirrored))
    return found


def _bucket(part: BuiltPart, step: int = 0) -> tuple:
    """The same for parts that may be alike: what can be told at first sight; the area in steps of 10 mm²."""
    if not _comparable(part):
        return (part.record.stock, "straight") if _straight(part) else (part.key,)
    flat = part.flat
    return part.record.stock, len(flat.inside), len(flat.pockets), round(flat.area / 10) + step


def _candidates(near: dict[tuple, list[int]], part: BuiltPart) -> list[int]:
    if not _comparable(part):
        return near.get(_bucket(part), []) if _straight(part) else []
    return [i for step in (-1, 0, 1) for i in near.get(_bucket(part, step), [])]


def row_numbers(document: Document, parts: dict[str, BuiltPart]) -> dict[str, int]:
    """The row number of every part by instance key."""
    return {key: row.number for row in rows_of(document, parts) for key in row.keys}


def _comparable(part: BuiltPart) -> TypeGuard[FlatPart]:
    return isinstance(part, FlatPart) and len(part.flat.pieces) == 1 and not part.record.aside


def _straight(part: BuiltPart) -> TypeGuard[MadePart]:
    return isinstance(part, MadePart) and not isinstance(part, FlatPart) and not part.record.aside and not part.body.empty


def _plain_key(document: Document, part: BuiltPart) -> str:
    """The same for parts that are equal at first sight."""
    if isinstance(part, MadePart) and not isinstance(part, FlatPart) and not part.record.aside:
        assert isinstance(part.body, Straight)
        return digest(part.body.alike, part.record.stock, part.record.made, part.record.price, _group(document, part.record))
    if not _comparable(part):
        return part.key
    record = part.record
    return digest(part.flat.digest, record.stock, record.made, record.price, record.grain, record.up, _group(document, record))


def _group(document: Document, record: PlacedKind) -> str:
    return (document.within(record.group) or [""])[-1] if "{group}" in document.numbering else ""


def _kin(document: Document, a: FlatPart, b: FlatPart) -> bool:
    x, y = a.record, b.record
    return (x.stock, x.made, x.price, x.up, _group(document, x)) == (y.stock, y.made, y.price, y.up, _group(document, y))


def _grain_agrees(document: Document, a: PlateKind, b: PlateKind, turn: Turn) -> bool:
    """Whether the grain runs the same way in both, as far as it matters."""
    if document.stock_of(a).grain == "none":
        return True
    if "free" in (a.grain, b.grain):
        return a.grain == b.grain
    quarter = abs(turn[0]) < TURN
    return (abs(turn[1]) < TURN and a.grain == b.grain) or (quarter and a.grain != b.grain)


def _equal(document: Document, a: BuiltPart, b: BuiltPart) -> bool:
    if not (_comparable(a) and _comparable(b) and _kin(document, a, b)):
        return False
    turn = alike(a.flat, b.flat)
    if turn is not None and _grain_agrees(document, a.record, b.record, turn):
        return True
    return _turned_over(document, a, b)


def _turned_over(document: Document, a: FlatPart, b: FlatPart) -> bool:
    """Whether b is a lying on its other face, in a stock whose faces are alike."""
    stock = document.stock_of(a.record)
    if not is_sheet(stock) or stock.faces != "alike" or not all(p.flat.plain and not p.flat.engraved for p in (a, b)):
        return False
    turn = alike(a.flat, handed_flat(b.flat))
    return turn is not None and _grain_agrees(document, a.record, b.record, turn)


def _handed(document: Document, a: BuiltPart, b: BuiltPart) -> bool:
    if isinstance(a, MadePart) and isinstance(b, MadePart) and isinstance(a.body, Straight) and isinstance(b.body, Straight):
        return a.record.stock == b.record.stock and a.body.alike == b.body.other_hand and a.body.alike != b.body.alike
    if not (_comparable(a) and _comparable(b) and _kin(document, a, b)):
        return False
    turn = alike(a.flat, handed_flat(b.flat))
    return turn is not None and _grain_agrees(document, a.record, b.record, turn)
