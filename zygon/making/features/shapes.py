"""Features of one board, placed and sized: through cuts and marks in the board's (u, v)."""

from __future__ import annotations

import math
from collections.abc import Collection
from dataclasses import replace

from zygon.design.features import Spot
from zygon.geometry.contour import Contour, circle, obround, polyline
from zygon.geometry.frame import FACES
from zygon.geometry.stroke_font import letter_fault, strokes
from zygon.making.blanks.blank import Blank
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.features.drawn import drawn_shape
from zygon.making.features.edge_work import edge_band, edge_profile
from zygon.making.features.edges import edge_feature
from zygon.making.features.opening import opening
from zygon.making.features.perforation import fan_opening, perforation
from zygon.making.features.reader import Reader
from zygon.making.features.rows import in_rows
from zygon.making.features.spots import spot_place
from zygon.making.features.sunk import edge_hole, groove_outline, rebate_outline, rounded, sunk
from zygon.making.result.box import Box
from zygon.making.result.fault import Fault
from zygon.making.result.operations import Cut, EdgeBore, Mark, Operation, Pocket, Side
from zygon.measure.display import format_length
from zygon.tolerance import CONTACT

__all__ = ["feature_alone", "feature_operations", "mirrored_operations", "outline_cuts", "shape_operations"]


def feature_operations(values: Values, blank: Blank, neighbours: list[tuple[Box, str]]) -> list[Operation]:
    """The operations of all features of a board; a feature whose entries make no sense is a fault and left out."""
    found: list[Operation] = []
    for key, feature in sorted(blank.record.features.items(), key=lambda kf: (kf[1].order, kf[0])):
        reader = Reader(values, blank, key, feature)
        if feature.out or reader.owner in blank.shaped:
            continue
        face = feature.face or (blank.frame.face_a if blank.record.up == "a" else blank.frame.face_b)
        if face not in (blank.frame.face_a, blank.frame.face_b):
            allowed = f"{blank.frame.face_a} or {blank.frame.face_b}"
            reader.fault("face", f"there is nothing flat to cut on its {face}", f"the face is {allowed}", face)
            continue
        place = [_spot(reader, name, spot, face, neighbours) for name, spot in (("u", feature.u), ("v", feature.v))]
        if None not in place:
            size = [high - low for low, high in (blank.span.span(a) for a in (blank.frame.u, blank.frame.v))]
            made = mirrored_operations(
                reader, place[0] or 0.0, place[1] or 0.0, (size[0], size[1]), "a" if face == blank.frame.face_a else "b"
            )
            if made and all(isinstance(o, EdgeBore) and _beside(blank, o) for o in made):
                fault = Fault(
                    "misses",
                    f"{reader.title} lies beside the edge and cuts nothing",
                    "it lies on its board",
                    part=blank.key,
                    owner=reader.owner,
                )
                values.faults.append(fault)
            found += made
    return found


def feature_alone(reader: Reader) -> list[Operation]:
    """The operations of one feature wherever its place needs no neighbours; none where it lies in the opening that they leave."""
    blank, f = reader.blank, reader.feature
    if "opening" in (f.u.origin, f.v.origin):
        return []
    face = f.face or (blank.frame.face_a if blank.record.up == "a" else blank.frame.face_b)
    place = [_spot(reader, name, spot, face, []) for name, spot in (("u", f.u), ("v", f.v))]
    if place[0] is None or place[1] is None:
        return []
    size = [high - low for low, high in (blank.span.span(a) for a in (blank.frame.u, blank.frame.v))]
    return mirrored_operations(reader, place[0], place[1], (size[0], size[1]), "a" if face == blank.frame.face_a else "b")


def outline_cuts(values: Values, blank: Blank, kinds: Collection[str]) -> dict[str, list[Cut]]:
    """What features of the outline of some kinds cut off, by their owner."""
    size = [high - low for low, high in (blank.span.span(a) for a in (blank.frame.u, blank.frame.v))]
    found = {}
    for key, feature in sorted(blank.record.features.items(), key=lambda kf: (kf[1].order, kf[0])):
        if feature.kind in kinds and not feature.out:
            reader = Reader(values, blank, key, feature)
            made = mirrored_operations(reader, 0.0, 0.0, (size[0], size[1]), "a")
            found[reader.owner] = [o for o in made if isinstance(o, Cut)]
    return found


def _beside(blank: Blank, bore: EdgeBore) -> bool:
    """Whether a hole in an edge lies wholly past the end of the edge; what lies beside a face is said of the flat."""
    axis = blank.frame.v if bore.across == "u" else blank.frame.u
    low, high = blank.extents.span(axis)
    return not low < bore.along + blank.span.span(axis)[0] < high


def _spot(reader: Reader, name: str, spot: Spot, face: str, neighbours: list[tuple[Box, str]]) -> float | None:
    """The place along u or v from the span's low corner, in mm."""
    blank = reader.blank
    axis = getattr(blank.frame, name)
    low, high = blank.span.span(axis)
    in_room = spot.origin == "room"
    frame = None if reader.values.still else blank.place
    scope = EntryScope(reader.values, axis if in_room else "", blank.record.stock, frame=frame if in_room else None)
    offset = reader.values.read(spot.offset, reader.where(name, "offset"), "length", scope, part=blank.key, owner=reader.owner)
    gap = opening(blank.span, blank.frame, face, neighbours)[axis] if spot.origin == "opening" else (low, high)
    place = spot_place(spot.origin, offset, axis, (low, high), gap)
    if place is not None:
        return place
    allowed = f"{FACES[axis][0]}, {FACES[axis][1]}, centre, opening or room"
    reader.fault(name, f"its {spot.origin} does not lie along {axis}", f"a place along {axis} is taken from {allowed}", spot.origin)
    return None


def mirrored_operations(r: Reader, u: float, v: float, size: tuple[float, float], face: Side) -> list[Operation]:
    """The operations of one feature about (u, v), and of its images on the other halves of a face of ``size`` mm."""
    found = in_rows(r, shape_operations(r, u, v, face))
    ways = {"none": (), "u": ("u",), "v": ("v",), "both": ("u", "v", "uv")}[r.feature.mirrored]
    if ways and not all(isinstance(o, Cut | Mark | Pocket) for o in found):
        what = r.feature.kind.replace("_", " ")
        r.fault("mirrored", f"the {what} cannot be mirrored within its part", "a cut, pocket or mark on a face", r.feature.mirrored)
        return found
    images: list[Operation] = []
    for way in ways:
        if r.feature.kind == "mark_text":  # it still has to read right
            signs = (-1 if "u" in way else 1, -1 if "v" in way else 1)
            own = shape_operations(r, size[0] - u if "u" in way else u, size[1] - v if "v" in way else v, face)
            images += in_rows(r, own, signs)
            continue
        images += [replace(o, contour=_image(o.contour, way, size)) for o in found if isinstance(o, Cut | Mark | Pocket)]
    return [*found, *images]


def _image(contour: Contour, way: str, size: tuple[float, float]) -> Contour:
    if "u" in way:
        contour = contour.moved(size[0], 0.0, mirrored=True)
    if "v" in way:  # left to right, then half round
        contour = contour.moved(0.0, size[1], math.pi, mirrored=True)
    return contour


def shape_operations(r: Reader, u: float, v: float, face: Side) -> list[Operation]:
    """The operations of one feature about (u, v)."""
    f, owner = r.feature, r.owner
    match f.kind:
        case "hole" | "mark_circle":
            d = r.positive("diameter")
            if d <= CONTACT:
                return []
            ring = circle(u, v, d / 2, owner)
            if f.kind == "mark_circle":
                return [Mark(ring, owner, face)]
            if f.depth is None:
                return [Cut(ring, owner)]
            depth = r.depth()
            return [Pocket(ring, owner, face, depth, "hole")] if depth else []
        case "edge_profile":
            return edge_profile(r, face)
        case "edge_band":
            return edge_band(r)
        case "edge_hole":
            return edge_hole(r, u, v)
        case "corner" | "taper" | "edge_curve" | "edge_notch" | "trim":
            return edge_feature(r, u, v)
        case "pocket":
            return sunk(r, rounded(r, u, v), face)
        case "groove":
            return sunk(r, groove_outline(r, u, v), face)
        case "rebate":
            return sunk(r, rebate_outline(r), face, "rebate")
        case "shape":
            return drawn_shape(r, face)
        case "slot" | "hand_hold":
            length, width = r.positive("length"), r.positive("width")
            angle = r.read("angle", "angle") if f.kind == "slot" else 0.0
            if min(length, width) <= CONTACT:
                return []
            if length < width - CONTACT:
                r.fault("length", "it is shorter than wide", "a slot's length, over all, is at least its width", format_length(length))
                return []
            return [Cut(obround(u, v, length, width, angle, owner), owner)]
        case "perforation":
            return perforation(r, u, v)
        case "fan":
            return fan_opening(r, u, v)
        case "rectangle":
            outline = rounded(r, u, v)
            return [Cut(outline, owner)] if outline else []
        case "mark_line":
            length, angle = r.positive("length"), r.read("angle", "angle")
            if length <= CONTACT:
                return []
            du, dv = math.cos(angle) * length / 2, math.sin(angle) * length / 2
            return [Mark(polyline([(u - du, v - dv), (u + du, v + dv)], owner), owner, face)]
        case _:
            return _text(r, u, v, face)


def _text(r: Reader, u: float, v: float, face: Side) -> list[Operation]:
    text, height = r.feature.text, r.positive("height")
    odd = letter_fault(text)
    if odd:
        r.fault("text", f"the letter {odd} cannot be engraved", "capitals, digits and common signs can", odd)
    if height <= CONTACT:
        return []
    runs = strokes(text, 0.0, 0.0, height, r.owner)
    mirrored = face == "b"  # it has to read right from the side that it is on
    return [Mark(run.moved(u, v, mirrored=mirrored), r.owner, face, reads=True) for run in runs]
