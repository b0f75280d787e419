"""What a feature is dragged by on its face: its offsets, how far it lies from what is about it, and where it catches."""

from __future__ import annotations

import math
from dataclasses import dataclass

from zygon.design.features import Spot
from zygon.design.parts.kinds import is_plate
from zygon.design.pointer import pointer
from zygon.errors import DocumentError, ExpressionError
from zygon.geometry.frame import FACES
from zygon.making.asked.questions import Meeting
from zygon.making.datums.graph import datums_of, read_by
from zygon.making.features.opening import neighbours_of, opening
from zygon.making.features.spots import placed_ways, spot_place, spot_sign
from zygon.making.result.built import Built, FlatPart
from zygon.making.rooms.pulls import Pull, PullCatch, pulled_entry
from zygon.measure.moved import Trailing, trailing
from zygon.tolerance import CONTACT

__all__ = ["EXTENTS", "Extent", "FeaturePull", "FeaturePulls", "Mark", "feature_pulls", "gaps_on"]


@dataclass(frozen=True)
class Mark:
    """Something on the face along one way, ``value`` mm from the board's low end: an edge, a middle, another feature.

    Caught there, the feature is placed from ``origin`` by the entry ``text``; ``edge`` says that it is an edge, on which nothing catches.
    """

    value: float
    words: str
    origin: str = ""
    text: str = ""
    edge: bool = False


@dataclass(frozen=True)
class FeaturePull:
    """A feature's place along ``way`` ('u' or 'v'): ``value`` mm from the low end, its origin, its offset taken apart, which grows to the high end
    where ``sign`` is 1. ``whole``: a catch takes the place of the entry outright, as of a figure."""

    way: str
    axis: str
    value: float
    sign: int
    pointer: str
    origin: str
    text: Trailing
    whole: bool
    marks: tuple[Mark, ...]


@dataclass(frozen=True)
class Extent:
    """A measure of a feature across its middle: ``pull`` takes its entry apart, ``way`` is where it points to, (u, v) of length 1."""

    pull: Pull
    way: tuple[float, float]


@dataclass(frozen=True)
class FeaturePulls:
    """``at``: where it is, as (u, v, w) on its part; the ways that it can be dragged, and how far it reaches to both sides of its middle."""

    at: tuple[float, float, float]
    pulls: tuple[FeaturePull, ...]
    extents: tuple[Extent, ...] = ()


#: Which fields of a feature are measured across its middle: along its own length, and square to that.
EXTENTS = {
    "hole": ("diameter", ""),
    "mark_circle": ("diameter", ""),
    "fan": ("opening", ""),
    "slot": ("length", "width"),
    "hand_hold": ("length", "width"),
    "rectangle": ("width", "height"),
    "pocket": ("width", "height"),
    "perforation": ("width", "height"),
    "mark_line": ("length", ""),
}


def feature_pulls(built: Built, key: str, name: str) -> FeaturePulls:
    """How a feature of a board can be dragged. Raises DocumentError where there is no such feature, or it has no place of its own."""
    part, record = built.flats.get(key), built.document.parts.get(key)
    feature = record.features.get(name) if is_plate(record) else None
    if part is None or not is_plate(record) or feature is None:
        raise DocumentError(f"{key} has no feature {name}", entry="feature", value=name, rule="a feature of a board")
    ways = placed_ways(feature, part.frame)
    if not ways:
        rule = "a feature with a place of its own"
        raise DocumentError(f"The {feature.kind.replace('_', ' ')} has no place to be dragged from", entry="feature", value=name, rule=rule)
    face = feature.face or (part.frame.face_a if record.up == "a" else part.frame.face_b)
    gaps = gaps_on(built, part, face)
    found = [_pull(built, part, name, feature, way, face, gaps) for way in ways]
    pulls = tuple(p for p in found if p is not None)
    places = {p.way: p.value for p in pulls}
    size = {w: _size(part, w) for w in ("u", "v")}
    at = tuple(places.get(w, size[w] / 2) for w in ("u", "v"))
    return FeaturePulls(
        (at[0], at[1], part.flat.thickness if face == part.frame.face_a else 0.0), pulls, _extents(built, part, name, feature)
    )


def _extents(built: Built, part: FlatPart, name: str, feature: object) -> tuple[Extent, ...]:
    """The measures that are pulled at a feature's sides; where an entry is just a size's name, the size."""
    document = built.document
    needs = read_by(datums_of(document), document)
    base = pointer("parts", part.key, "features", name)
    turned = built.values.get(f"{base}/angle")
    angle = turned.value if turned and not turned.stale else 0.0
    found = []
    for n, field in enumerate(EXTENTS.get(feature.kind, ("", ""))):  # type: ignore[attr-defined]
        where = f"{base}/{field}"
        value = built.values.get(where)
        if not field or value is None or value.stale:
            continue
        entry, size, follow = pulled_entry(document, getattr(feature, field), where, needs)
        if entry is None:
            continue
        try:
            text = trailing(entry[1].text, entry[1].unit)
        except ExpressionError:
            continue
        catches = (
            []
            if size
            else [
                PullCatch(built.values[at].value, s.name)
                for k, s in document.sizes.items()
                if s.kind == "length" and (at := pointer("sizes", k, "entry")) in built.values
            ]
        )
        pull = Pull(field, "", value.value, entry[0], text, tuple(catches), not text.base, size, follow)
        found.append(Extent(pull, (math.cos(angle + n * math.pi / 2), math.sin(angle + n * math.pi / 2))))
    return tuple(found)


def gaps_on(built: Built, part: FlatPart, face: str) -> dict[str, tuple[float, float]]:
    """The opening that its neighbours leave on a face of a board, by axis, in the room (mm)."""
    meeting = Meeting(built.document)
    near = neighbours_of(meeting.blanks[part.key], meeting.blanks, meeting.instances)
    return opening(part.span_box, part.frame, face, near)


def _size(part: FlatPart, way: str) -> float:
    low, high = part.span_box.span(getattr(part.frame, way))
    return high - low


def _place(built: Built, part: FlatPart, name: str, spot: Spot, way: str, gaps: dict[str, tuple[float, float]]) -> float | None:
    axis = getattr(part.frame, way)
    value = built.values.get(pointer("parts", part.key, "features", name, way, "offset"))
    if value is None or value.stale:
        return None
    return spot_place(spot.origin, value.value, axis, part.span_box.span(axis), gaps[axis])


def _pull(
    built: Built, part: FlatPart, name: str, feature: object, way: str, face: str, gaps: dict[str, tuple[float, float]]
) -> FeaturePull | None:
    axis, spot = getattr(part.frame, way), getattr(feature, way)
    place = _place(built, part, name, spot, way, gaps)
    if place is None:
        return None
    try:
        text = trailing(spot.offset.text, spot.offset.unit)
    except ExpressionError:
        return None
    low, high = FACES[axis]
    size = _size(part, way)
    marks = [Mark(0.0, f"{low} edge", edge=True), Mark(size, f"{high} edge", edge=True), Mark(size / 2, "in the middle", "centre", "0")]
    opened = sum(gaps[axis]) / 2 - part.span_box.span(axis)[0]
    if abs(opened - size / 2) > CONTACT:
        marks.append(Mark(opened, "in the middle of the opening", "opening", "0"))
    marks += _others(built, part, name, way, face, gaps)
    whole = not text.base
    at = pointer("parts", part.key, "features", name, way)
    return FeaturePull(way, axis, place, spot_sign(spot.origin), at, spot.origin, text, whole, tuple(marks))


def _others(built: Built, part: FlatPart, name: str, way: str, face: str, gaps: dict[str, tuple[float, float]]) -> list[Mark]:
    """The other features of the same face, where they lie along a way; of several in line the first."""
    found: dict[float, Mark] = {}
    frame = part.frame
    for key, other in part.record.features.items():
        own = other.face or (frame.face_a if part.record.up == "a" else frame.face_b)
        if key == name or other.out or own != face or way not in placed_ways(other, frame):
            continue
        spot = getattr(other, way)
        place = _place(built, part, key, spot, way, gaps)
        if place is not None:
            words = f"in line with {other.name or key.replace('_', ' ')}"
            found.setdefault(round(place, 4), Mark(place, words, spot.origin, spot.offset.text))
    return list(found.values())
