"""Where sizes govern: the distances of a design that are a size, each as a line in the room that is pulled longer and shorter."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Protocol

import numpy as np

from zygon.design.layout import GridCopy, MirrorCopy, RowCopy
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.geometry.frame import AXES
from zygon.geometry.motion import three
from zygon.making.datums.graph import datums_of, entry_references, followers, read_by
from zygon.making.datums.ids import end_of
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.datums.values import Values
from zygon.making.features.spots import placed_ways, spot_place, spot_sign
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.result.fold import leg_rectangle
from zygon.making.rooms.feature_pulls import EXTENTS, gaps_on
from zygon.making.rooms.pulls import Pull
from zygon.measure.entry import Entry
from zygon.measure.evaluate import evaluate
from zygon.measure.moved import trailing
from zygon.measure.quantity import Quantity, length
from zygon.owner import size_id
from zygon.tolerance import CONTACT, EPS, SLACK

__all__ = ["SizeLine", "SizeLines", "size_lines"]

Point = tuple[float, float, float]


class Add(Protocol):
    """Takes an entry, what its names mean, its part, and the line that it says of a size that it adds or takes away (mm, signed)."""

    def __call__(
        self, entry: Entry, scope: EntryScope, part: str, line: Callable[[float], tuple[Point, Point] | None], of: float = 1.0
    ) -> None: ...


@dataclass(frozen=True)
class SizeLine:
    """A distance that is the size: from ``start`` to ``end`` (mm in the room), at whose end the size is pulled; the ``parts`` that have it."""

    start: Point
    end: Point
    parts: tuple[str, ...]


@dataclass(frozen=True)
class SizeLines:
    """Of one size: how it is pulled (None where it is measured, or is no length), and where it governs, the nearest to the front and the bottom first."""

    pull: Pull | None
    lines: list[SizeLine] = field(default_factory=list)


def size_lines(built: Built) -> dict[str, SizeLines]:
    """Every size by its key. A distance counts where an entry adds or takes away just the size: of ``width / 2`` nothing is the width."""
    document = built.document
    values = solve(document, built.good, leg_face)
    needs = read_by(datums_of(document), document)
    keys = {s.name: k for k, s in document.sizes.items() if s.kind == "length" and size_id(k) in values.solved}
    found: dict[str, dict[tuple[Point, Point], list[str]]] = {k: {} for k in keys.values()}
    faces = _faces(built)

    def add(entry: Entry, scope: EntryScope, part: str, line: Callable[[float], tuple[Point, Point] | None], of: float = 1.0) -> None:
        """Keeps the line of each size of which the entry adds (1) or takes away (-1) the share ``of``."""
        for name in {n for n, face in entry_references(entry.text) if not face and n in keys}:
            share = _share(entry, scope, name, of)
            ends = line(share * values.solved[size_id(keys[name])]) if share else None
            if ends is not None and ends[0] != ends[1]:
                found[keys[name]].setdefault(ends, []).append(part)

    for key, part in built.made.items():
        if part.made_by:
            continue
        _of_ends(values, key, part, faces, add)
        if isinstance(part, FlatPart):
            _of_features(built, values, part, add)
            _of_flanges(values, part, add)
    _of_bores(built, values, faces, add)
    _of_rows(built, values, add)
    _of_mirrors(built, values, faces, add)
    return {
        key: SizeLines(
            _pull(built, values, needs, key),
            [SizeLine(*ends, tuple(dict.fromkeys(parts))) for ends, parts in _outermost(found.get(key, {}))],
        )
        for key in document.sizes
    }


class _Longer(EntryScope):
    """The scope of an entry with one size a millimetre longer."""

    def __init__(self, scope: EntryScope, name: str) -> None:
        super().__init__(scope.values, scope.axis, scope.stock, scope.group, scope.own, scope.frame)
        self.name = name

    def size(self, name: str) -> Quantity:
        """As it is, but for the one that is tried."""
        found = super().size(name)
        return length(found.value + 1.0) if name == self.name else found


def _share(entry: Entry, scope: EntryScope, name: str, of: float) -> int:
    """1 where the entry grows by ``of`` as much as the size does, -1 where it shrinks so, else 0."""
    try:
        before, after = (evaluate(entry.text, entry.unit, "length", s).value for s in (scope, _Longer(scope, name)))
    except (ExpressionError, KeyError):
        return 0
    grown = (after - before) / of
    return round(grown) if abs(abs(grown) - 1.0) < CONTACT else 0


def _faces(built: Built) -> set[tuple[str, float]]:
    """Where something lies along each axis, at rest: (axis, mm); the entries' zero too."""
    spans = [(a, p.span_box.span(a)) for p in built.made.values() if not p.made_by for a in AXES]
    return {(a, 0.0) for a in AXES} | {(a, round(x, 3)) for a, ends in spans for x in (*ends, sum(ends) / 2)}


def _of_ends(values: Values, key: str, part: MadePart, faces: set[tuple[str, float]], add: Add) -> None:
    """What says where a part ends and lies: the line runs along its lower edge at the near side, from where something lies to the face that moves."""
    record, box = part.record, part.span_box
    for end in record.ends():
        at = values.solved.get(end_of(key, end.axis, end.side))
        if at is None:
            continue
        i = AXES.index(end.axis)
        beside = [box.low[0], box.low[1], box.low[2]]
        if end.axis == "y":  # seen from the corner in front, its right side is the near one
            beside[0] = box.high[0]

        def line(by: float, i: int = i, at: float = at, beside: list[float] = beside) -> tuple[Point, Point] | None:
            return _ends(part.place.point, beside, i, at, by) if (AXES[i], round(at - by, 3) + 0.0) in faces else None

        add(end.entry, EntryScope(values, end.axis, record.stock, record.group, f"part:{key}"), key, line)


def _ends(to_room: Callable[[list[float]], Point], beside: list[float], i: int, at: float, by: float) -> tuple[Point, Point]:
    """A line along the i-th way to ``at``, of which ``by`` says how long it is and whence it comes."""
    start, end = list(beside), list(beside)
    start[i], end[i] = at - by, at
    return _rounded(to_room(start)), _rounded(to_room(end))


def _of_features(built: Built, values: Values, part: FlatPart, add: Add) -> None:
    """How far features lie from what they are placed from, on their face."""
    frame, record = part.frame, part.record
    for name, feature in record.features.items():
        ways = placed_ways(feature, frame)
        face = feature.face or (frame.face_a if record.up == "a" else frame.face_b)
        places = {}
        for way in ("u", "v"):
            axis, spot = getattr(frame, way), getattr(feature, way)
            value = built.values.get(pointer("parts", part.key, "features", name, way, "offset"))
            low, high = part.span_box.span(axis)
            gap = gaps_on(built, part, face)[axis] if spot.origin == "opening" else (low, high)
            place = spot_place(spot.origin, value.value, axis, (low, high), gap) if value and not value.stale and way in ways else None
            places[way] = (high - low) / 2 if place is None else place
        beside = [places["u"], places["v"], part.flat.thickness if face == frame.face_a else 0.0]
        for i, way in enumerate(("u", "v")):
            if way not in ways or feature.out:
                continue
            axis, spot = getattr(frame, way), getattr(feature, way)
            sign = spot_sign(spot.origin)

            low, high = part.span_box.span(axis)
            starts = (0.0, (high - low) / 2, high - low)

            def line(
                by: float,
                i: int = i,
                at: float = places[way],
                sign: int = sign,
                beside: list[float] = beside,
                starts: tuple[float, ...] = starts,
            ) -> tuple[Point, Point] | None:
                start = at - sign * by
                return _ends(_to_room(part), beside, i, at, sign * by) if min(abs(start - s) for s in starts) < SLACK else None

            add(spot.offset, EntryScope(values, axis, record.stock, record.group), part.key, line)
        if not feature.out:
            _across(built, values, part, name, beside, add)


def _across(built: Built, values: Values, part: FlatPart, name: str, middle: list[float], add: Add) -> None:
    """Diameters, lengths and widths of a feature that are just a size, from side to side of its ``middle`` (u, v, w)."""
    feature = part.record.features[name]
    base = pointer("parts", part.key, "features", name)
    turned = built.values.get(f"{base}/angle")
    angle = turned.value if turned and not turned.stale else 0.0
    for n, measure in enumerate(EXTENTS.get(feature.kind, ("", ""))):
        told = built.values.get(f"{base}/{measure}") if measure else None
        if told is None or told.stale:
            continue
        way = (math.cos(angle + n * math.pi / 2), math.sin(angle + n * math.pi / 2))

        def line(by: float, whole: float = told.value, way: tuple[float, float] = way) -> tuple[Point, Point] | None:
            if abs(by - whole) > SLACK:
                return None
            ends = ([middle[0] + s * way[0] * by / 2, middle[1] + s * way[1] * by / 2, middle[2]] for s in (-1, 1))
            start, end = (_rounded(_to_room(part)(p)) for p in ends)
            return start, end

        add(getattr(feature, measure), EntryScope(values, "", part.record.stock, part.record.group), part.key, line)


def _of_flanges(values: Values, part: FlatPart, add: Add) -> None:
    """The lengths of flanges, along their outer face to the free edge."""
    if part.record.folding is None or part.body.fold is None:
        return
    to_room = _to_room(part)
    for i, face in enumerate(part.fold.faces):
        flange = part.record.folding.flanges.get(face.key)
        if flange is None or flange.kind != "flange":
            continue
        near, _, far = leg_rectangle(part.fold, part.flat.thickness, i, "outer")
        way = (far - near) / max(np.linalg.norm(far - near), EPS)

        def line(by: float, far: np.ndarray = far, way: np.ndarray = way) -> tuple[Point, Point]:
            return _rounded(to_room(list(far - way * by))), _rounded(to_room(list(far)))

        add(flange.length, EntryScope(values, "", part.record.stock, part.record.group), part.key, line)


def _to_room(part: FlatPart) -> Callable[[list[float]], Point]:
    """From a part's own (u, v, w) to the room."""
    rows = part.matrix
    return lambda p: three(sum(r[k] * p[k] for k in range(3)) + r[3] for r in rows[:3])


def _of_bores(built: Built, values: Values, faces: set[tuple[str, float]], add: Add) -> None:
    """Where bores lie across their axis, at the end of the first part that they pass."""
    for key, bore in built.document.bores.items():
        passed = [built.made[p] for p in bore.parts if p in built.made]
        told = {a: built.values.get(pointer("bores", key, "at", a)) for a in bore.at}
        at = {str(a): v.value for a, v in told.items() if v is not None and not v.stale}
        if bore.out or bore.of or bore.member or not passed or len(at) < len(told):
            continue
        beside = [at[a] if a in at else min(p.reaches[0][i] for p in passed) for i, a in enumerate(AXES)]
        for axis, entry in bore.at.items():
            i = AXES.index(axis)

            def line(by: float, i: int = i, beside: list[float] = beside) -> tuple[Point, Point] | None:
                return _ends(_as_is, beside, i, beside[i], by) if (AXES[i], round(beside[i] - by, 3) + 0.0) in faces else None

            add(entry, EntryScope(values, axis), passed[0].key, line)
        wide = built.values.get(pointer("bores", key, "diameter"))
        i = next(i for i, a in enumerate(AXES) if a != bore.axis)

        def across(
            by: float, i: int = i, beside: list[float] = beside, wide: float = wide.value if wide else 0.0
        ) -> tuple[Point, Point] | None:
            return _ends(_as_is, beside, i, beside[i] + by / 2, by) if abs(by - wide) < SLACK else None

        add(bore.diameter, EntryScope(values), passed[0].key, across)


def _of_rows(built: Built, values: Values, add: Add) -> None:
    """From the first to the next of what is repeated."""
    for key, copy in built.document.copies.items():
        if copy.out or not isinstance(copy, RowCopy | GridCopy):
            continue
        spacings = [(copy.axis, copy.spacing)]
        if isinstance(copy, GridCopy):
            spacings.append((copy.axis_2, copy.spacing_2))
        made = [p for p in built.made.values() if p.made_by and p.made_by[-1][0] == key]
        first = next((built.made[p.of] for p in made if p.of in built.made), None)
        if first is None:
            continue
        for axis, entry in spacings:
            i = AXES.index(axis)
            beside = list(first.reaches[0])

            def line(by: float, i: int = i, beside: list[float] = beside, made: list[MadePart] = made) -> tuple[Point, Point] | None:
                # a copy stands there: what lies in a group that is turned has its row elsewhere
                there = any(abs(p.reaches[0][i] - beside[i] - by) < SLACK for p in made)
                return _ends(_as_is, beside, i, beside[i] + by, by) if there else None

            if entry is not None:
                add(entry, EntryScope(values, axis), first.key, line)


def _of_mirrors(built: Built, values: Values, faces: set[tuple[str, float]], add: Add) -> None:
    """A plane at half of a size: from the outside of what is mirrored to the outside of its image."""
    for key, copy in built.document.copies.items():
        at = built.values.get(pointer("copies", key, "at"))
        made = [p for p in built.made.values() if p.made_by and p.made_by[-1][0] == key]
        if copy.out or not isinstance(copy, MirrorCopy) or at is None or at.stale or not made:
            continue
        i = AXES.index(copy.axis)
        group = made[0].record.group
        first = built.made.get(made[0].of, made[0])
        beside = [first.span_box.high[0], first.span_box.low[1], first.span_box.low[2]]

        def line(by: float, i: int = i, mid: float = at.value, beside: list[float] = beside) -> tuple[Point, Point] | None:
            side = abs(by) / 2
            return _ends(_as_is, beside, i, mid + side, 2 * side) if (AXES[i], round(mid - side, 3) + 0.0) in faces else None

        if not group:  # within a group the plane lies as the group does
            add(copy.at, EntryScope(values, copy.axis), first.key, line, of=0.5)


def _as_is(p: list[float]) -> Point:
    return (p[0], p[1], p[2])


def _rounded(p: Point) -> Point:
    return three(round(float(x), 4) + 0.0 for x in p)


def _outermost(found: dict[tuple[Point, Point], list[str]]) -> Iterator[tuple[tuple[Point, Point], list[str]]]:
    """The lines, of several that say the same side by side the one that lies farthest to the front and the bottom, with the parts of all."""
    kept: dict[tuple[float, ...], tuple[tuple[Point, Point], list[str]]] = {}
    for (start, end), parts in sorted(found.items(), key=lambda f: (f[0][0][1], f[0][0][2], -f[0][0][0])):
        moved = [k for k in range(3) if start[k] != end[k]]
        along = tuple((k, start[k], end[k]) for k in moved)
        same = kept.setdefault(sum(along, ()), ((start, end), []))
        same[1].extend(parts)
    return iter(kept.values())


def _pull(built: Built, values: Values, needs: dict[str, list[str]], key: str) -> Pull | None:
    """How a size's own entry is pulled; None where it follows what it measures, is no length, or cannot be read."""
    size = built.document.sizes[key]
    if size.measured or size.kind != "length" or size_id(key) not in values.solved:
        return None
    try:
        text = trailing(size.entry.text, size.entry.unit)
    except ExpressionError:
        return None
    follow = len(followers(needs, size_id(key))) - 1
    return Pull("", "", values.solved[size_id(key)], pointer("sizes", key, "entry"), text, (), not text.base, size.name, follow)
