"""Folding boards of a design: gives every folded part's blank its fold; reliefs, rounded corners and what is cut into flanges as operations."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial
from typing import Any, NamedTuple

from zygon.design.features import Spot
from zygon.design.folding import CUT_EDGES, DrawnProfile, Flange, Folding, OffsetBend, Profile
from zygon.design.pointer import pointer
from zygon.geometry.boolean import subtract
from zygon.geometry.contour import Contour, polyline
from zygon.making.blanks.blank import Blank, blank_contours
from zygon.making.blanks.halves import Half, edge_at, halved
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.features.reader import Reader
from zygon.making.features.shapes import mirrored_operations, outline_cuts
from zygon.making.metal.edges import plate_edges
from zygon.making.metal.faces import Edge, FaceFrame, fold_of
from zygon.making.metal.legs import IMAGE, Leg, legs_of, record_of, roots_of
from zygon.making.metal.rounding import roundings
from zygon.making.result.fault import Fault
from zygon.making.result.fold import Fold, gusset_points
from zygon.making.result.operations import Cut, Mark, Operation, Pocket
from zygon.measure.display import format_length
from zygon.measure.entry import Entry
from zygon.owner import feature_id, flange_id, part_id
from zygon.tolerance import CONTACT

__all__ = ["Folded", "edges_of", "fold_blanks", "folded", "shaped_outline"]

SWAPPED = {"a_covers": "b_covers", "b_covers": "a_covers"}


def fold_blanks(values: Values, blanks: dict[str, Blank]) -> dict[str, list[Operation]]:
    """Gives every blank with flanges its fold; the operations that come with it, by part key."""
    found: dict[str, list[Operation]] = {}
    for key, blank in blanks.items():
        folding = blank.record.folding
        if folding is None:
            continue
        whole = folded(values, blank, folding)
        if not whole.legs and whole.half is None:
            continue
        blank.fold = whole.fold
        _say_what_joints_lose(values, blank)
        found[key] = [*whole.cuts, *_roundings(values, blank, folding), *_features(values, blank, folding, whole.frames)]
        if whole.half is not None:
            say = partial(_say_of_split, values, blank, folding)
            blank.fold, blank.half = halved(whole.fold, whole.half, roots_of(whole.legs), blank.thickness, say)
        found[key] += _gusset_marks(blank.fold, blank)
    return found


class Folded(NamedTuple):
    """A part folded whole: its reliefs as cuts, the frames of its legs by their keys, and where a half of it is cut."""

    fold: Fold
    cuts: list[Cut]
    frames: dict[str, FaceFrame]
    legs: list[Leg]
    half: Half | None


def folded(values: Values, blank: Blank, folding: Folding) -> Folded:
    """A blank with its outline, folded as ``folding`` says; what is wrong with it is said."""
    half = _half_of(values, blank, folding)
    corner = _Corners(values, blank, folding)
    outline = _outline_of(values, blank)
    edges = _with_cuts(blank, outline, half)
    legs = legs_of(values, blank, edges)
    crossing = (folding.crossing, _crossing_size(values, blank, folding))
    fold, cuts, frames, faults = fold_of(
        blank.key, blank.record.name, blank.thickness, outline, edges, legs, corner, crossing, values.document.display
    )
    values.faults.extend(faults)
    return Folded(fold, cuts, frames, legs, half)


def _outline_of(values: Values, blank: Blank) -> list[Contour]:
    return shaped_outline(values, blank, [r.outer for r in subtract(blank_contours(blank), [])])


def _with_cuts(blank: Blank, outline: list[Contour], half: Half | None) -> dict[str, Edge]:
    edges = plate_edges(blank.frame, outline)
    return edges | _cut_edges(outline, half) if half is not None else edges


def edges_of(values: Values, blank: Blank, folding: Folding) -> dict[str, Edge]:
    """The straight edges of a plate that has its outline, by their names; ((u, v), the outside on the right)."""
    return _with_cuts(blank, _outline_of(values, blank), _half_of(values, blank, folding))


def shaped_outline(values: Values, blank: Blank, outline: list[Contour], *, all_of_them: bool = False) -> list[Contour]:
    """The outline without the corners and tapers on whose edges flanges stand (or with ``all_of_them`` without any): those shape the plate before it is bent."""
    flanges = blank.record.folding.flanges.values() if blank.record.folding else ()
    standing = {f.edge for f in flanges if not f.on and not f.out}
    plain = plate_edges(blank.frame, outline)
    beside = standing - plain.keys() - set(CUT_EDGES)
    tapered = any(f.kind == "taper" and f.edge in standing and not f.out for f in blank.record.features.values())
    if not (beside or tapered or all_of_them):
        return outline
    cuts = outline_cuts(values, blank, ("corner", "taper"))
    whole = [r.outer for r in subtract(outline, [c.contour for own in cuts.values() for c in own])]
    if not whole:
        return outline
    blank.shaped = frozenset(cuts)
    return whole


def _half_of(values: Values, blank: Blank, folding: Folding) -> Half | None:
    """Where a half's plate was cut, in its own (u, v)."""
    split = folding.split
    if split is None:
        return None
    k = 0 if split.axis == blank.frame.u else 1
    # read as its spans are: at rest, from within its group
    low, high = (values.datum(blank.key, split.axis, side) for side in ("low", "high"))
    scope = EntryScope(values, split.axis, blank.record.stock, blank.record.group, part_id(blank.key))
    ends = []
    for name, none in (("low", -math.inf), ("high", math.inf)):
        entry = getattr(split, name)
        where = pointer("parts", blank.key, "folding", "split", name)
        ends.append(none if entry is None else values.read(entry, where, "length", scope, part=blank.key, owner="folding") - low)
    for name, at in zip(("low", "high"), ends, strict=True):
        if math.isfinite(at) and not CONTACT < at < high - low - CONTACT:
            shown, places = (
                format_length(at + low, values.document.display),
                [format_length(x, values.document.display) for x in (low, high)],
            )
            rule = f"between {places[0]} and {places[1]}"
            values.fault_entry(
                pointer("parts", blank.key, "folding", "split", name),
                "bad_split",
                f"{blank.record.name}: it is split at {shown}, beside its plate",
                rule,
                shown,
                blank.key,
                "folding",
            )
            return None
    if ends[0] >= ends[1] - CONTACT:
        shown = format_length(ends[1] - ends[0], values.document.display)
        values.fault_entry(
            pointer("parts", blank.key, "folding", "split"),
            "bad_split",
            f"{blank.record.name}: nothing is left between its two cuts",
            "it begins before it ends",
            shown,
            blank.key,
            "folding",
        )
        return None
    return Half(k, ends[0], ends[1])


def _cut_edges(outline: list[Contour], half: Half) -> dict[str, Edge]:
    found = {
        name: edge_at(outline, half.k, at, high=i == 1)
        for i, (name, at) in enumerate(zip(CUT_EDGES, (half.low, half.high), strict=True))
        if math.isfinite(at)
    }
    return {name: edge for name, edge in found.items() if edge}


def _say_of_split(values: Values, blank: Blank, folding: Folding, leg: str, message: str, rule: str) -> None:
    record = record_of(leg)
    name = (folding.flanges[record].name if record in folding.flanges else "") or record or "the plate"
    fault = Fault(
        "split_crosses",
        f"{blank.record.name}, {name}: it {message}",
        rule,
        part=blank.key,
        owner=flange_id(blank.record_key, record) if record else "folding",
        entry=pointer("parts", blank.key, "folding", "split"),
    )
    if fault not in values.faults:
        values.faults.append(fault)


def _crossing_size(values: Values, blank: Blank, folding: Folding) -> float:
    """Diameter or side in mm of what is cut out where two bends meet in a corner."""
    if folding.crossing_size is None:
        return 2 * blank.thickness
    where = pointer("parts", blank.key, "folding", "crossing_size")
    size = values.read(
        folding.crossing_size, where, "length", EntryScope(values, stock=blank.record.stock), part=blank.key, owner="folding"
    )
    if size > CONTACT:
        return size
    shown = format_length(size, values.document.display)
    values.fault_entry(where, "bad_value", f"{blank.record.name}: a corner relief of {shown}", "a size over 0", shown, blank.key, "folding")
    return values.values[where].value if values.stand(where) else 2 * blank.thickness


def _say_what_joints_lose(values: Values, blank: Blank) -> None:
    """A joint that lengthens the plate finds its edge bent away: it is said, since the flat does without it."""
    for owner in dict.fromkeys(c.owner for c in blank.log if c.what in ("lengthen", "grow")):
        rule = "a joint that leaves the plate as long as it is, such as tab and slot into its face"
        said = f"{blank.record.name}: a joint would lengthen the plate of a folded part, and its flat does without that"
        values.faults.append(Fault("joint_on_folded", said, rule, part=blank.key, owner=owner))


class _Corners:
    """Style and gap of the corner between two flanges: their own, or the part's."""

    def __init__(self, values: Values, blank: Blank, folding: Folding) -> None:
        scope = EntryScope(values, stock=blank.record.stock)

        def gap(entry: Any, where: str) -> float:
            value = values.read(entry, where, "length", scope, part=blank.key, owner="folding")
            if value >= 0:
                return value
            values.fault_entry(
                where,
                "negative_gap",
                f"{blank.record.name}: its flanges would run {-value:.4g} mm into each other",
                "a gap of at least 0",
                f"{value:.4g} mm",
                blank.key,
                "folding",
            )
            return values.values[where].value if values.stand(where) else 0.0

        where = pointer("parts", blank.key, "folding")
        self.default = (folding.corner, gap(folding.gap, f"{where}/gap"))
        self.own = {(c.a, c.b): (c.style, gap(c.gap, f"{where}{pointer('corners', k, 'gap')}")) for k, c in folding.corners.items()}

    def __call__(self, first: str, second: str) -> tuple[str, float]:
        if (first, second) in self.own:
            return self.own[(first, second)]
        if (second, first) in self.own:
            style, gap = self.own[(second, first)]
            return SWAPPED.get(style, style), gap
        return self.default


def _roundings(values: Values, blank: Blank, folding: Folding) -> list[Operation]:
    """Every exposed sharp corner rounded, as far as its sides allow; a flange's by its own radius where it has one."""
    if blank.fold is None:
        return []
    scope = EntryScope(values, stock=blank.record.stock)
    where = pointer("parts", blank.key, "folding")

    def read(entry: Entry | None, path: str, owner: str) -> float:
        return values.read(entry, path, "length", scope, part=blank.key, owner=owner) if entry is not None else 0.0

    whole = read(folding.rounding, f"{where}/rounding", "folding")
    own = {}
    for key, f in folding.flanges.items():
        if isinstance(f, Flange) and (f.rounding is not None or f.corner_shape is not None):
            radius = whole
            if f.rounding is not None:
                radius = read(f.rounding, f"{where}{pointer('flanges', key, 'rounding')}", flange_id(blank.record_key, key))
            own[key] = (radius, f.corner_shape or folding.corner_shape)
    return list(roundings(blank.fold, whole, folding.corner_shape, own))


def _gusset_marks(fold: Fold, blank: Blank) -> list[Operation]:
    """A line across the bend where each stiffener is pressed."""
    found: list[Operation] = []
    for b in fold.bends:
        d, n = b.along, b.outward
        for first, second, *_ in gusset_points(b):
            ends = [(b.start[0] + d[0] * x + n[0] * y, b.start[1] + d[1] * x + n[1] * y) for x, y in (first, second)]
            found.append(Mark(polyline(ends, b.owner), b.owner, blank.record.up))
    return found


class _FlangeReader(Reader):
    """Reads a feature that is cut into a flange."""

    def __init__(self, values: Values, blank: Blank, flange: str, key: str, feature: Any) -> None:
        super().__init__(values, blank, key, feature)
        self.flange = flange
        self.owner = feature_id(blank.record_key, key, flange)

    def where(self, *path: str) -> str:
        return pointer("parts", self.blank.key, "folding", "flanges", self.flange, "features", self.key, *path)


def _features(values: Values, blank: Blank, folding: Folding, frames: dict[str, FaceFrame]) -> list[Operation]:
    found: list[Operation] = []
    for key, flange in folding.flanges.items():
        if not isinstance(flange, Flange | OffsetBend | Profile | DrawnProfile) or key not in frames:
            continue
        frame, image = frames[key], frames.get(key + IMAGE)
        for name, feature in sorted(flange.features.items(), key=lambda kf: (kf[1].order, kf[0])):
            if feature.out:
                continue
            reader = _FlangeReader(values, blank, key, name, feature)
            if not feature.in_metal:
                reader.fault(
                    "kind", f"a {feature.kind.replace('_', ' ')} is not made in sheet metal", "a hole, slot, cut-out or mark", feature.kind
                )
                continue
            u = _place(reader, "u", feature.u, frame.length, ("low", "high"))
            v = _place(reader, "v", feature.v, frame.height, ("root", "end"))
            if u is not None and v is not None:
                made = mirrored_operations(reader, u, v, (frame.length, frame.height), blank.record.up)
                found += [_placed(o, frame) for o in made]
                if image:  # its mirror image has them from the other end
                    shaped = [o for o in made if isinstance(o, Cut | Mark | Pocket)]
                    found += [_placed(replace(o, contour=o.contour.moved(image.length, 0.0, mirrored=True)), image) for o in shaped]
    return found


def _place(reader: Reader, name: str, spot: Spot, size: float, ends: tuple[str, str]) -> float | None:
    scope = EntryScope(reader.values, stock=reader.blank.record.stock)
    offset = reader.values.read(spot.offset, reader.where(name, "offset"), "length", scope, part=reader.blank.key, owner=reader.owner)
    if spot.origin == ends[0]:
        return offset
    if spot.origin == ends[1]:
        return size - offset
    if spot.origin == "centre":
        return size / 2 + offset
    rule = f"on a flange it is taken from {ends[0]}, {ends[1]} or centre"
    reader.fault(name, f"its place is taken from {spot.origin}", rule, spot.origin)
    return None


def _placed(operation: Operation, frame: FaceFrame) -> Operation:
    if isinstance(operation, Cut):
        return Cut(frame.placed(operation.contour), operation.owner)
    if isinstance(operation, Mark):
        return Mark(frame.placed(operation.contour), operation.owner, operation.face, operation.reads)
    if isinstance(operation, Pocket):
        return Pocket(frame.placed(operation.contour), operation.owner, operation.face, operation.depth, operation.what)
    return operation
