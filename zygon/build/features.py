"""Features of one board, placed and sized: through cuts and marks in the board's (u, v)."""

from __future__ import annotations

import math

from zygon.build.blanks import Blank
from zygon.build.built import Box, Cut, Mark, Operation
from zygon.build.opening import opening
from zygon.build.values import EntryScope, Values
from zygon.design.features import Feature, Spot
from zygon.design.patch import pointer
from zygon.geometry.contour import circle, obround, polyline, rounded_rectangle
from zygon.geometry.frame import FACES
from zygon.geometry.stroke_font import letter_fault, strokes
from zygon.geometry.tolerance import CONTACT
from zygon.measure.display import format_length

__all__ = ["feature_operations"]


class _Reader:
    """Reads one feature's entries; remembers whether all were good."""

    def __init__(self, values: Values, blank: Blank, key: str, feature: Feature) -> None:
        self.values, self.blank, self.key, self.feature = values, blank, key, feature
        self.owner = f"feature:{blank.key}:{key}"
        self.title = f"{blank.record.name}, {feature.name or feature.kind.replace('_', ' ')}"

    def where(self, *path: str) -> str:
        return pointer("parts", self.blank.key, "features", self.key, *path)

    def read(self, field: str, kind: str = "length") -> float:
        scope = EntryScope(self.values, stock=self.blank.record.stock)
        return self.values.read(getattr(self.feature, field), self.where(field), kind, scope, part=self.blank.key, owner=self.owner)  # type: ignore[arg-type]

    def positive(self, field: str) -> float:
        value = self.read(field)
        if value <= CONTACT and not self.values.values[self.where(field)].stale:
            shown = format_length(value, self.values.document.display)
            self.fault(field, f"a {field} of {shown}", f"a {field} is greater than 0", shown)
        return value

    def fault(self, field: str, message: str, rule: str, value: str) -> None:
        self.values.fault_entry(self.where(field), "bad_value", f"{self.title}: {message}", rule, value, self.blank.key, self.owner)


def feature_operations(values: Values, blank: Blank, neighbours: list[tuple[Box, str]]) -> list[Operation]:
    """The operations of all features of a board; a feature whose entries make no sense is a fault and left out."""
    found: list[Operation] = []
    for key, feature in sorted(blank.record.features.items(), key=lambda kf: (kf[1].order, kf[0])):
        reader = _Reader(values, blank, key, feature)
        face = feature.face or (blank.frame.face_a if blank.record.up == "a" else blank.frame.face_b)
        if face not in (blank.frame.face_a, blank.frame.face_b):
            allowed = f"{blank.frame.face_a} or {blank.frame.face_b}"
            reader.fault("face", f"there is nothing flat to cut on its {face}", f"the face is {allowed}", face)
            continue
        place = [_spot(reader, name, spot, face, neighbours) for name, spot in (("u", feature.u), ("v", feature.v))]
        if None not in place:
            found += _shape(reader, place[0], place[1], "a" if face == blank.frame.face_a else "b")  # type: ignore[arg-type]
    return found


def _spot(reader: _Reader, name: str, spot: Spot, face: str, neighbours: list[tuple[Box, str]]) -> float | None:
    """The place along u or v from the span's low corner, in mm."""
    blank = reader.blank
    axis = getattr(blank.frame, name)
    low, high = blank.span.span(axis)
    in_room = spot.origin == "room"
    scope = EntryScope(reader.values, axis if in_room else "", blank.record.stock)
    offset = reader.values.read(spot.offset, reader.where(name, "offset"), "length", scope, part=blank.key, owner=reader.owner)
    if in_room:
        return offset - low
    if spot.origin == "centre":
        return (high - low) / 2 + offset
    if spot.origin == "opening":
        gap = opening(blank.span, blank.frame, face, neighbours)[axis]
        return sum(gap) / 2 - low + offset
    if spot.origin == FACES[axis][0]:
        return offset
    if spot.origin == FACES[axis][1]:
        return high - low - offset
    allowed = f"{FACES[axis][0]}, {FACES[axis][1]}, centre, opening or room"
    reader.fault(name, f"its {spot.origin} does not lie along {axis}", f"a place along {axis} is taken from {allowed}", spot.origin)
    return None


def _shape(r: _Reader, u: float, v: float, face: str) -> list[Operation]:
    """The operations of one feature about (u, v)."""
    f, owner = r.feature, r.owner
    match f.kind:
        case "hole" | "mark_circle":
            d = r.positive("diameter")
            if d <= CONTACT:
                return []
            ring = circle(u, v, d / 2, owner)
            return [Cut(ring, owner)] if f.kind == "hole" else [Mark(ring, owner, face)]  # type: ignore[arg-type]
        case "slot" | "hand_hold":
            length, width = r.positive("length"), r.positive("width")
            angle = r.read("angle", "angle") if f.kind == "slot" else 0.0
            if min(length, width) <= CONTACT:
                return []
            if length < width - CONTACT:
                r.fault("length", "it is shorter than wide", "a slot's length, over all, is at least its width", format_length(length))
                return []
            return [Cut(obround(u, v, length, width, angle, owner), owner)]
        case "rectangle":
            w, h, radius = r.positive("width"), r.positive("height"), r.read("radius")
            if min(w, h) <= CONTACT:
                return []
            if not -CONTACT <= radius <= min(w, h) / 2 + CONTACT:
                r.fault(
                    "radius",
                    f"a corner radius of {format_length(radius)}",
                    f"from 0 to half the shorter side, {format_length(min(w, h) / 2)}",
                    format_length(radius),
                )
                radius = min(max(radius, 0.0), min(w, h) / 2)
            return [Cut(rounded_rectangle(u, v, w, h, radius, r.read("angle", "angle"), owner), owner)]
        case "mark_line":
            length, angle = r.positive("length"), r.read("angle", "angle")
            if length <= CONTACT:
                return []
            du, dv = math.cos(angle) * length / 2, math.sin(angle) * length / 2
            return [Mark(polyline([(u - du, v - dv), (u + du, v + dv)], owner), owner, face)]  # type: ignore[arg-type]
        case _:
            return _text(r, u, v, face)


def _text(r: _Reader, u: float, v: float, face: str) -> list[Operation]:
    text, height = r.feature.text, r.positive("height")  # type: ignore[union-attr]
    odd = letter_fault(text)
    if odd:
        r.fault("text", f"the letter {odd} cannot be engraved", "capitals, digits and common signs can", odd)
    if height <= CONTACT:
        return []
    runs = strokes(text, 0.0, 0.0, height, r.owner)
    mirrored = face == "b"  # it has to read right from the side that it is on
    return [Mark(run.moved(u, v, mirrored=mirrored), r.owner, face) for run in runs]  # type: ignore[arg-type]
