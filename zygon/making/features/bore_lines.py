"""Where a bore's axis runs in the room, and how it meets the flat faces of parts."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from shapely.geometry import LineString, Point, Polygon
from shapely.ops import linemerge

from zygon.design.features import Bore
from zygon.design.parts.kinds import is_hardware, is_rod, is_turned
from zygon.design.pointer import pointer
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour, rectangle
from zygon.geometry.frame import AXES
from zygon.geometry.motion import IDENTITY, Motion, Vector, moving, three
from zygon.limits import MAX_BORES_IN_ROWS
from zygon.making.blanks.blank import Blank, blank_contours
from zygon.making.blanks.instances import Instance
from zygon.making.datums.members import Lying
from zygon.making.datums.placing import frame_of_group, motion_between
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.result.box import Box
from zygon.making.result.fold import face_motions
from zygon.measure.display import format_angle, format_length
from zygon.measure.quantity import Kind
from zygon.owner import bore_id
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS, SAGITTA

__all__ = [
    "BoreLine",
    "FLATTEST",
    "Meeting",
    "OwnHole",
    "line_of",
    "lines_of_holes",
    "lines_round",
    "meetings",
    "meetings_of_rod",
    "meetings_once",
    "rows_of",
]

#: A bore meets a sheet at less than this off square (radians): beyond, a drill runs off, and the mouth is four times as long as it is wide.
FLATTEST = math.radians(75)
#: A member that takes less of a face than this (mm²) stands beside it.
TAKES = 0.05


@dataclass(frozen=True)
class OwnHole:
    """The hole of a piece of hardware that a bore takes over: of which instance, how wide it is and how thick what it goes through, mm."""

    instance: str
    name: str
    across: float
    thick: float
    screw: tuple[str, str] = ("", "")


@dataclass(frozen=True)
class BoreLine:
    """A bore's axis in the room: a place on it (mm), its direction of length 1, and how far along it, from that place, it begins and ends.

    One of a ``hole`` of hardware begins where that lies on something. ``u`` is where the width of a member lies that it lets through, and ``section`` what that looks like across: it also meets what only its side reaches.
    """

    point: Vector
    way: Vector
    low: float = -math.inf
    high: float = math.inf
    u: Vector | None = None
    section: Section | None = None
    hole: OwnHole | None = None


@dataclass(frozen=True)
class Meeting:
    """Where a bore's axis goes through a flat face of a part.

    (u, v) is its place on the flat in mm, ``along`` how far along the bore the sheet's middle lies, and ``how`` it goes through: "square",
    at an "angle" or by the "edge". It enters at ``start`` and leaves at ``end``, (u, v, w) of that flat face.
    """

    u: float
    v: float
    along: float
    how: str
    start: Vector
    end: Vector

    @property
    def slope(self) -> float:
        """The cosine of its angle off square."""
        return abs(self.end[2] - self.start[2]) / math.dist(self.start, self.end)


def line_of(values: Values, key: str, bore: Bore) -> BoreLine | None:
    """The axis of a bore as its entries have it; None where it leans too far, with its fault, or where the part along which it runs is left out."""
    if bore.of and bore.of not in values.boards:  # what is left out has no axes, and its bore waits for it
        return None
    owner, group = bore_id(key), _group_of(values, bore)
    frame = _frame_of(values, bore, group)

    def read(entry_at: str, axis: str, kind: Kind = "length") -> float:
        scope = EntryScope(values, axis, frame=frame) if bore.of else EntryScope(values, axis, group=group)
        entry = bore.at[axis] if entry_at == "at" else getattr(bore, entry_at)  # type: ignore[index]
        where = pointer("bores", key, "at", axis) if entry_at == "at" else pointer("bores", key, entry_at)
        return values.read(entry, where, kind, scope, owner=owner)

    at = {axis: read("at", axis) for axis in bore.at}
    lean = 0.0 if bore.lean is None else read("lean", "", "angle")
    toward = 0.0 if bore.toward is None else read("toward", "", "angle")
    if abs(lean) > FLATTEST:
        shown = format_angle(lean)
        values.fault_entry(
            pointer("bores", key, "lean"),
            "bad_value",
            f"{bore.name}: it would lean {shown} off its axis",
            f"a bore leans at most {format_angle(FLATTEST)}: take another axis",
            shown,
            owner=owner,
        )
        if not values.stand(pointer("bores", key, "lean")):
            return None
        lean = values.values[pointer("bores", key, "lean")].value
    ends = {n: read(n, bore.axis) for n in ("low", "high") if getattr(bore, n) is not None}
    if len(ends) == 2 and ends["low"] >= ends["high"]:
        where = pointer("bores", key, "high")
        if not values.values[where].stale:
            values.fault_entry(
                where,
                "bad_value",
                f"{bore.name}: it would end at {format_length(ends['high'])}, before it begins at {format_length(ends['low'])}",
                "a bore ends beyond its beginning",
                format_length(ends["high"]),
                owner=owner,
            )
        ends = {}
    return _placed(bore.axis, at, lean, toward, ends, frame)


def rows_of(values: Values, key: str, bore: Bore, line: BoreLine) -> tuple[BoreLine, ...]:
    """The axes of a bore in its rows, its own first; its own alone where a number or a spacing cannot be, which is a fault."""
    if not bore.rows:
        return (line,)
    owner, group = bore_id(key), _group_of(values, bore)
    frame = _frame_of(values, bore, group)
    steps: list[list[Vector]] = []
    total = 1
    for axis, row in sorted(bore.rows.items()):
        scope = EntryScope(values, axis, frame=frame) if bore.of else EntryScope(values, axis, group=group)
        where = pointer("bores", key, "rows", axis)
        number = round(values.read(row.number, f"{where}/number", "count", scope, fallback=1.0, owner=owner))
        spacing = values.read(row.spacing, f"{where}/spacing", "length", scope, owner=owner)
        total *= max(number, 1)
        if number < 1 or total > MAX_BORES_IN_ROWS:
            values.fault_entry(
                f"{where}/number",
                "bad_value",
                f"{bore.name}: {number} of it in a row",
                f"from 1 to {MAX_BORES_IN_ROWS} in all rows",
                str(number),
                owner=owner,
            )
            return (line,)
        if number > 1 and abs(spacing) <= CONTACT:
            if not values.values[f"{where}/spacing"].stale:
                shown = format_length(spacing)
                values.fault_entry(
                    f"{where}/spacing",
                    "bad_value",
                    f"{bore.name}: a spacing of {shown} in its row",
                    "a row goes on from one to the next",
                    shown,
                    owner=owner,
                )
            return (line,)
        way = frame.vector([float(a == axis) for a in AXES])
        steps.append([(way[0] * spacing * n, way[1] * spacing * n, way[2] * spacing * n) for n in range(number)])
    shifts: list[Vector] = [(0.0, 0.0, 0.0)]
    for row_steps in steps:
        shifts = [(a[0] + b[0], a[1] + b[1], a[2] + b[2]) for b in row_steps for a in shifts]
    p = line.point
    return tuple(replace(line, point=(p[0] + s[0], p[1] + s[1], p[2] + s[2])) for s in shifts)


def lines_round(values: Values, member: str, instances: Mapping[str, Instance]) -> tuple[BoreLine, ...]:
    """The axis of a rod or a member from end to end in the room, and those of its copies behind it; none where it has no place or is bent."""
    box = values.box(member) if member in values.boards else None
    if box is None:
        return ()
    record = values.boards[member]
    if is_rod(record) or is_turned(record):
        wide = record.width_along or next(a for a in AXES if a != record.axis)
        lying = _rod_lying(record.axis, wide, box)
    else:
        lying = values.lying(member)
    if lying.points:
        return ()
    found = []
    for i in sorted((i for i in instances.values() if i.part == member), key=lambda i: bool(i.made_by)):
        place = i.motion @ lying.motion
        found.append(
            BoreLine(
                place.shift, place.vector((0.0, 0.0, 1.0)), 0.0, lying.length, place.vector((1.0, 0.0, 0.0)), values.section_of(member)
            )
        )
    return tuple(found)


def lines_of_holes(values: Values, bore: Bore, instances: Mapping[str, Instance]) -> tuple[tuple[BoreLine, ...], int]:
    """The axes of the holes of hardware that a bore takes over, from where that lies on something into it, and how many of them are the original's own;
    those of its copies come behind."""
    record = values.boards.get(bore.member)
    if record is None or not is_hardware(record):
        return (), 0
    try:
        body, stance, own = values.hardware(bore.member)
        shift = [values.datum(bore.member, a, "low") - own.span(a)[0] for a in AXES]
    except KeyError:
        return (), 0
    rest = moving(shift) @ stance
    holes = [h for h in body.holes if not bore.holes or h.name in bore.holes]
    found = []
    for i in sorted((i for i in instances.values() if i.part == bore.member), key=lambda i: bool(i.made_by)):
        place = i.motion @ rest
        for h in holes:
            start, end = place.point(h.start), place.point(h.end)
            thick = math.dist(start, end)
            way = three((a - b) / thick for a, b in zip(start, end, strict=True))
            found.append(BoreLine(start, way, -thick, hole=OwnHole(i.key, h.name, h.across, thick, h.screw)))
    return tuple(found), len(holes)


def _rod_lying(axis: str, wide: str, box: Box) -> Lying:
    """How a rod lies: w along its axis from its low end, u along the width of its section."""
    low, high = box.span(axis)
    place = [(box.low[i] + box.high[i]) / 2 for i in range(3)]
    place[AXES.index(axis)] = low
    ways = [[float(a == b) for b in AXES] for a in (wide, axis)]
    v = np.cross(ways[1], ways[0])
    rows = tuple((ways[0][i], float(v[i]), ways[1][i], place[i]) for i in range(3))
    return Lying(Motion(rows), high - low)


def _placed(axis: str, at: Mapping[Any, float], lean: float, toward: float, ends: dict[str, float], frame: Motion) -> BoreLine:
    one, other = (a for a in AXES if a != axis)
    across = math.sin(lean)
    way = {axis: math.cos(lean), one: across * math.cos(toward), other: across * math.sin(toward)}
    point = [at.get(a, 0.0) for a in AXES]
    start = at.get(axis, 0.0)
    # its ends are places along its axis, and it is longer than that by its lean
    low, high = ((ends[n] - start) / way[axis] if n in ends else none for n, none in (("low", -math.inf), ("high", math.inf)))
    return BoreLine(frame.point(point), frame.vector([way[a] for a in AXES]), low, high)


def _group_of(values: Values, bore: Bore) -> str:
    """The innermost group in which all of a bore's parts lie; its places are read and lie there."""
    document = values.document
    chains = [document.within(document.parts[p].group) for p in bore.parts if p in document.parts]
    return next((g for g in chains[0] if all(g in c for c in chains)), "") if chains else ""


def _frame_of(values: Values, bore: Bore, group: str) -> Motion:
    if not bore.of:
        return frame_of_group(values, group)
    try:
        return motion_between(values, bore.of, "")
    except KeyError:  # its place is broken, which is said
        return IDENTITY


def meetings(blank: Blank, line: BoreLine) -> list[Meeting]:
    """Every flat face of a part that a bore's axis goes through between its ends, in order along it."""
    if blank.fold is None:
        faces: list[tuple[Contour | None, Motion]] = [(None, IDENTITY)]  # all of its rectangle
    else:
        faces = [(c, m) for f, m in zip(blank.fold.faces, face_motions(blank.fold), strict=True) for c in f.outline]
    found = []
    for outline, motion in faces:
        seen = (blank.in_room @ motion).inverse
        way, start = seen.vector(line.way), seen.point(line.point)
        if abs(way[2]) < EPS:
            if blank.fold is None and 0 < start[2] < blank.thickness:
                found += _by_edges(blank_contours(blank), start, way)
            continue
        met = _across(outline, blank.bounds(), blank.thickness, start, way, line, seen)
        found += [met] if met else []
    return sorted((m for m in found if line.low - CONTACT < m.along < line.high + CONTACT), key=lambda m: m.along)


def meetings_once(blank: Blank, line: BoreLine) -> list[Meeting]:
    """The same of a blank that is whole, which is kept."""
    if line not in blank.met:
        blank.met[line] = meetings(blank, line)
    found: list[Meeting] = blank.met[line]
    return found


def meetings_of_rod(blank: Blank, line: BoreLine) -> list[Meeting]:
    """The same of a rod, which may end in a part: what it reaches into at all."""
    found = meetings(blank, replace(line, low=-math.inf, high=math.inf))
    half = {id(m): math.dist(m.start, m.end) / 2 for m in found}
    return [m for m in found if m.along + half[id(m)] > line.low + CONTACT and m.along - half[id(m)] < line.high - CONTACT]


def _across(
    outline: Contour | None,
    bounds: tuple[float, float, float, float],
    thickness: float,
    start: Vector,
    way: Vector,
    line: BoreLine,
    seen: Motion,
) -> Meeting | None:
    """A line that goes from face to face, where its middle lies in the outline, in the whole rectangle where there is none, or something of the member that it is of.

    ``seen`` takes the room to the outline's own coordinates.
    """

    def at(w: float) -> tuple[float, Vector]:
        along = (w - start[2]) / way[2]
        return along, (start[0] + way[0] * along, start[1] + way[1] * along, w)

    along, (u, v, _) = at(thickness / 2)
    x0, y0, x1, y1 = bounds
    inside = x0 < u < x1 and y0 < v < y1 if outline is None else to_polygon(outline).contains(Point(u, v))
    if not inside:
        if line.section is None:
            return None
        face = to_polygon(rectangle(*bounds) if outline is None else outline)
        if not (_reaches(face, line.section, (u, v), way, seen.vector(line.u or line.way))):
            return None
    low, high = sorted((at(0.0), at(thickness)))
    return Meeting(u, v, along, "square" if abs(way[2]) > 1 - EPS else "angle", low[1], high[1])


def _reaches(face: Polygon, section: Section, at: tuple[float, float], way: Vector, u: Vector) -> bool:
    """Whether a section about an axis that goes through a face's plane at a place takes something of the face."""
    w, width = np.array(way), np.array(u)
    height = np.cross(w, width)
    if face.distance(Point(at)) * abs(way[2]) >= max(section.extents):  # farther off than it can be wide
        return False
    ring = section.outline(0.0).flatten(SAGITTA)
    places = ring[:, :1] * width + ring[:, 1:] * height
    flat = (places - w * (places[:, 2] / w[2])[:, None])[:, :2] + at
    return face.intersection(Polygon(flat)).area > TAKES


def _by_edges(outlines: list[Contour], start: Vector, way: Vector) -> list[Meeting]:
    """The stretches in which a line that runs within the sheet lies in the board."""
    far = 1e6
    line = LineString([(start[0] - way[0] * far, start[1] - way[1] * far), (start[0] + way[0] * far, start[1] + way[1] * far)])
    stretches = []
    for outline in outlines:
        met = to_polygon(outline).intersection(line)
        stretches += [g for g in getattr(met, "geoms", [met]) if g.length > CONTACT]
    joined = linemerge(stretches) if len(stretches) > 1 else stretches[0] if stretches else LineString()
    found = []
    for stretch in getattr(joined, "geoms", [joined] if not joined.is_empty else []):
        along = sorted(float((np.array(p) - start[:2]) @ way[:2]) for p in (stretch.coords[0], stretch.coords[-1]))
        low, high = ((start[0] + way[0] * x, start[1] + way[1] * x, start[2]) for x in along)
        middle = sum(along) / 2
        found.append(Meeting(start[0] + way[0] * middle, start[1] + way[1] * middle, middle, "edge", low, high))
    return found
