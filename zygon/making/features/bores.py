"""Bores: a straight hole along an axis through several parts; each is cut, marked or left alone, with a fit of its own."""

from __future__ import annotations

import math
from dataclasses import dataclass

from shapely.geometry import LineString, Point

from zygon.design.features import Bore
from zygon.design.patch import pointer
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour, circle, rectangle
from zygon.geometry.frame import AXES
from zygon.geometry.motion import IDENTITY, Motion, Vector
from zygon.making.blanks.blank import Blank
from zygon.making.datums.placing import frame_of_group
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.result.fault import Fault
from zygon.making.result.fold import face_motions
from zygon.making.result.operations import Cut, Mark, Operation
from zygon.measure.display import format_length
from zygon.owner import bore_id
from zygon.tolerance import CONTACT, EPS

__all__ = ["Meeting", "bore_operations", "meetings", "parts_on_axis"]


def bore_operations(values: Values, blanks: dict[str, Blank]) -> dict[str, list[Operation]]:
    """The operations of every bore by part key."""
    found: dict[str, list[Operation]] = {}
    for key, bore in sorted(values.document.bores.items(), key=lambda kb: (kb[1].order, kb[0])):
        if bore.out:
            continue
        group = _frame_of(values, bore)
        at: dict[str, float] = {}
        for axis, entry in bore.at.items():
            scope = EntryScope(values, axis, group=group)
            at[axis] = values.read(entry, pointer("bores", key, "at", axis), "length", scope, owner=bore_id(key))
        where = pointer("bores", key, "diameter")
        diameter = values.read(bore.diameter, where, "length", EntryScope(values), owner=bore_id(key))
        if diameter <= CONTACT and values.values[where].stale:
            continue
        if diameter <= CONTACT:
            values.fault_entry(
                where,
                "bad_value",
                f"{bore.name}: a diameter of {format_length(diameter)}",
                "a diameter is greater than 0",
                owner=bore_id(key),
            )
            continue
        stretch = _stretch_of(values, key, bore, group)
        for part in bore.parts:
            if part in blanks:
                made = _through(values, key, bore, blanks[part], at, diameter, frame_of_group(values, group), stretch)
                if made:
                    found.setdefault(part, []).extend(made)
    return found


def _frame_of(values: Values, bore: Bore) -> str:
    """The innermost group in which all of a bore's parts lie; its places are read and lie there."""
    document = values.document
    chains = [document.within(document.parts[p].group) for p in bore.parts if p in document.parts]
    return next((g for g in chains[0] if all(g in c for c in chains)), "") if chains else ""


@dataclass(frozen=True)
class Meeting:
    """Where a bore's axis goes through a flat face of a part.

    (u, v) is its place on the flat in mm, ``along`` where the sheet's middle lies along the axis, and ``how`` it goes through: "square", at an
    "angle" or by the "edge".
    """

    u: float
    v: float
    along: float
    how: str


def meetings(blank: Blank, axis: str, at: dict[str, float], frame: Motion) -> list[Meeting]:
    """Every flat face of a part that a line along ``axis`` of ``frame`` meets; ``at`` is its place along the two other axes (mm)."""
    line = [at.get(a, 0.0) for a in AXES]
    direction = [1.0 if a == axis else 0.0 for a in AXES]
    if blank.fold is None:
        faces = [(rectangle(*blank.bounds()), IDENTITY)]
    else:
        faces = [(c, m) for f, m in zip(blank.fold.faces, face_motions(blank.fold), strict=True) for c in f.outline]
    found = []
    for outline, motion in faces:
        seen = (blank.in_room @ motion).inverse @ frame  # from where the bore is placed to the flat
        way, start = seen.vector(direction), seen.point(line)
        if abs(way[2]) < EPS:
            if blank.fold is None and 0 < start[2] < blank.thickness:
                found += _through_edges(outline, start, way)
            continue
        along = (blank.thickness / 2 - start[2]) / way[2]
        u, v = (start[i] + way[i] * along for i in (0, 1))
        if to_polygon(outline).contains(Point(u, v)):
            found.append(Meeting(u, v, along + line[AXES.index(axis)], "square" if abs(way[2]) > 1 - EPS else "angle"))
    return found


def _through_edges(outline: Contour, start: Vector, way: Vector) -> list[Meeting]:
    """A line that runs within the sheet, where it lies in the outline."""
    far = 1e6
    line = LineString([(start[0] - way[0] * far, start[1] - way[1] * far), (start[0] + way[0] * far, start[1] + way[1] * far)])
    met = to_polygon(outline).intersection(line)
    if met.length <= CONTACT:
        return []
    middle = met.centroid
    return [Meeting(middle.x, middle.y, (middle.x - start[0]) * way[0] + (middle.y - start[1]) * way[1], "edge")]


def _through(
    values: Values,
    key: str,
    bore: Bore,
    blank: Blank,
    at: dict[str, float],
    diameter: float,
    frame: Motion,
    stretch: tuple[float, float],
) -> list[Operation]:
    """What a bore does to every flat face of a part that it meets squarely; one that it meets at an angle or by the edge is a fault."""
    through, owner = bore.parts[blank.key], bore_id(key)
    where = pointer("bores", key, "parts", blank.key)
    if through.action == "leave":
        return []
    met = [m for m in meetings(blank, bore.axis, at, frame) if stretch[0] - CONTACT < m.along < stretch[1] + CONTACT]
    askew = next((m for m in met if m.how != "square"), None)
    if askew:
        how = {"edge": "enter {} through its edge", "angle": "go through {} at an angle"}[askew.how].format(blank.record.name)
        values.fault_entry(where, "bore_in_edge", f"{bore.name} would {how}, which a flat cutter cannot bore",
                           "the bore runs square to the sheet", bore.axis, blank.key, owner)  # fmt: skip
        return []
    if not met:
        _misses(values, key, bore, blank)
        return []
    return _cut_or_mark(values, key, bore, blank, [(m.u, m.v) for m in met], diameter)


def _stretch_of(values: Values, key: str, bore: Bore, group: str) -> tuple[float, float]:
    """From where to where along its axis a bore runs; without end where nothing is said."""
    ends = []
    for name, none in (("low", -math.inf), ("high", math.inf)):
        entry = getattr(bore, name)
        scope = EntryScope(values, bore.axis, group=group)
        ends.append(none if entry is None else values.read(entry, pointer("bores", key, name), "length", scope, owner=bore_id(key)))
    low, high = ends
    if low < high:
        return low, high
    where = pointer("bores", key, "high")
    if not values.values[where].stale:
        values.fault_entry(where, "bad_value", f"{bore.name}: it would end at {format_length(high)}, before it begins at {format_length(low)}",
                           "a bore ends beyond its beginning", format_length(high), owner=bore_id(key))  # fmt: skip
    return -math.inf, math.inf


def _misses(values: Values, key: str, bore: Bore, blank: Blank) -> None:
    where = pointer("bores", key, "parts", blank.key)
    values.faults.append(Fault("bore_misses", f"{bore.name} misses {blank.record.name}", "a bore's axis passes through every part it cuts or marks",
                               part=blank.key, owner=bore_id(key), entry=where))  # fmt: skip


def _cut_or_mark(values: Values, key: str, bore: Bore, blank: Blank, places: list[tuple[float, float]], diameter: float) -> list[Operation]:
    """The holes or marks of a bore at places on a part's flat."""
    through, owner = bore.parts[blank.key], bore_id(key)
    where = pointer("bores", key, "parts", blank.key)
    scope = EntryScope(values, stock=blank.record.stock)
    fit = values.read(through.fit, where + "/fit", "length", scope, part=blank.key, owner=owner)
    if through.action == "mark":
        return [Mark(circle(u, v, diameter / 2, owner), owner, blank.record.up) for u, v in places]
    if diameter + fit <= CONTACT:
        values.fault_entry(where + "/fit", "bad_value", f"{bore.name}: its fit in {blank.record.name} leaves no hole", "diameter plus fit is greater than 0",
                           format_length(fit), blank.key, owner)  # fmt: skip
        return []
    return [Cut(circle(u, v, (diameter + fit) / 2, owner), owner) for u, v in places]


def parts_on_axis(blanks: dict[str, Blank], axis: str, at: dict[str, float]) -> list[tuple[str, str]]:
    """(key, how) of the parts that a line along ``axis`` at ``at`` (mm along the two other axes) passes through, in order along it.

    How is "square" where a bore can go through all that it meets of a part, else "angle" or "edge".
    """
    hit = []
    for key, blank in blanks.items():
        met = meetings(blank, axis, at, IDENTITY)
        if met:
            how = next((m.how for m in met if m.how != "square"), "square")
            hit.append((min(m.along for m in met), key, how))
    return [(key, how) for _, key, how in sorted(hit)]
