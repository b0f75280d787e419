"""Bores: a straight hole along an axis through several parts; each is cut, drilled, marked or left alone, with a fit of its own."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import shapely

from zygon.design.features import Bore
from zygon.design.parts.kinds import is_hardware, is_rod, is_turned
from zygon.design.pointer import pointer
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour, circle, polygon
from zygon.geometry.ellipse import skewed_hole
from zygon.geometry.frame import FACES
from zygon.making.blanks.blank import Blank, blank_contours
from zygon.making.blanks.instances import Instance
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.features.bore_lines import (
    FLATTEST,
    BoreLine,
    Meeting,
    line_of,
    lines_of_holes,
    lines_round,
    meetings,
    meetings_of_rod,
    meetings_once,
    rows_of,
)
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.hardware import BoreHole
from zygon.making.result.operations import Cut, EdgeBore, Mark, Operation, Pocket, Side, Sink, SkewBore
from zygon.making.tube.body import divided
from zygon.making.turned.body import TurnedBody
from zygon.measure.display import format_angle, format_length
from zygon.owner import bore_id
from zygon.stock.cutter import widened_on_line
from zygon.stock.hardware.threads import diameter_of
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS, SAGITTA


@dataclass(frozen=True)
class BoreAxes:
    """The axes of a bore, of which the first ``own`` are its own and the others those of copies of what goes through it; and its diameter (mm)."""

    lines: tuple[BoreLine, ...]
    diameter: float
    own: int = 1


#: Those of every bore that has them, by key.
Axes = Mapping[str, BoreAxes]

#: A blind hole is so much deeper (mm) than the rod that ends in it, where nothing is said; common practice.
DEEPER = 1.0
#: What sets ask of the passages of their bores, by bore, part and number of the passage along the axis.
Holes = dict[tuple[str, str, int], BoreHole]

__all__ = ["Axes", "BoreAxes", "Holes", "bore_axes", "bore_operations", "bores_in_copies", "parts_on_line"]


def bore_axes(values: Values, instances: Mapping[str, Instance]) -> Axes:
    """The axis and diameter (mm) of every bore that has both, by key, in their order; what cannot be is a fault.

    A bore in rows has an axis for each, its own first. One round a member has an axis for each of its copies too, behind the first, and is as wide as its section.
    """
    found: dict[str, BoreAxes] = {}
    for key, bore in sorted(values.document.bores.items(), key=lambda kb: (kb[1].order, kb[0])):
        if bore.out:
            continue
        if bore.member and is_hardware(values.boards.get(bore.member)):
            taken = _taken_over(values, key, bore, instances)
            if taken:
                found[key] = taken
            continue
        if bore.member:
            lines = lines_round(values, bore.member, instances)
            section = values.section_of(bore.member) if lines else None
            if not lines and bore.member in values.boards and values.box(bore.member) is not None:
                said, rule = f"{bore.name}: {values.boards[bore.member].name} is bent", "a board is cut round a straight member"
                values.fault_entry(pointer("bores", key, "member"), "bad_hole", said, rule, bore.member, bore.member, bore_id(key))
            if lines and is_turned(values.boards[bore.member]):
                found[key] = BoreAxes(lines, values.thickness_of(bore.member))
            elif section:
                found[key] = BoreAxes(lines, section.height)
            continue
        line = line_of(values, key, bore)
        if bore.owned_by_set:  # which has a diameter of its own
            if line is not None:
                found[key] = _in_rows(rows_of(values, key, bore, line), diameter_of(bore.owned_by_set.size))
            continue
        where = pointer("bores", key, "diameter")
        diameter = values.read(bore.diameter, where, "length", EntryScope(values), owner=bore_id(key))
        if line is None or (diameter <= CONTACT and values.values[where].stale):
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
        found[key] = _in_rows(rows_of(values, key, bore, line), diameter)
    return found


def _in_rows(lines: tuple[BoreLine, ...], diameter: float) -> BoreAxes:
    return BoreAxes(lines, diameter, len(lines))


def _taken_over(values: Values, key: str, bore: Bore, instances: Mapping[str, Instance]) -> BoreAxes | None:
    """The axes of the holes of hardware; a hole that it has not is a fault."""
    lines, own = lines_of_holes(values, bore, instances)
    if not lines:
        if bore.member in values.boards and values.box(bore.member) is not None:
            said, rule = f"{bore.name}: {values.boards[bore.member].name} has no such hole", "a hole of the hardware by its name"
            values.fault_entry(pointer("bores", key, "member"), "bad_hole", said, rule, ", ".join(bore.holes), bore.member, bore_id(key))
        return None
    said_set, hole = bore.owned_by_set, lines[0].hole
    assert hole
    return BoreAxes(lines, diameter_of(said_set.size) if said_set else hole.across, own)


def bore_operations(values: Values, blanks: dict[str, Blank], axes: Axes, holes: Holes) -> dict[str, list[Operation]]:
    """The operations of every bore by part key; ``holes`` are what sets ask for."""
    found: dict[str, list[Operation]] = {}
    for key, at in axes.items():
        bore, diameter = values.document.bores[key], at.diameter
        for part in bore.parts:
            # copies of a member pass where they pass
            for line in [x for n, x in enumerate(at.lines) if part in blanks and (n < at.own or meetings(blanks[part], x))]:
                made = _through(values, key, bore, blanks[part], line, diameter, holes)
                if made:
                    found.setdefault(part, []).extend(made)
    return found


def bores_in_copies(values: Values, blanks: dict[str, Blank], axes: Axes, holes: Holes) -> dict[str, dict[str, list[Operation]]]:
    """What bores do to copies otherwise than to their originals, by instance and owner, as the original's flat has it."""
    found: dict[str, dict[str, list[Operation]]] = {}
    for key, at in axes.items():
        bore, diameter = values.document.bores[key], at.diameter
        for part, through in bore.parts.items():
            for copy in through.copies if part in blanks else ():
                own = bore.model_copy(update={"parts": {**bore.parts, part: through.in_copy(copy)}})
                where = pointer("bores", key, "parts", part, "copies", copy)
                made = [o for line in at.lines[: at.own] for o in _through(values, key, own, blanks[part], line, diameter, holes, where)]
                found.setdefault(copy, {})[bore_id(key)] = made
    return found


def _through(
    values: Values, key: str, bore: Bore, blank: Blank, line: BoreLine, diameter: float, holes: Holes, where: str = ""
) -> list[Operation]:
    """What a bore does to all that it meets of a part, as its record at ``where`` has it; what cannot be made is a fault."""
    where = where or pointer("bores", key, "parts", blank.key)
    if bore.parts[blank.key].action == "leave":
        return []
    rod = is_rod(values.boards.get(bore.member)) or is_turned(values.boards.get(bore.member))
    met = meetings_of_rod(blank, line) if rod else meetings_once(blank, line)
    if not met:
        values.faults.append(
            Fault(
                "bore_misses",
                f"{bore.name} misses {blank.record.name}",
                "a bore's axis passes through every part it cuts or marks",
                part=blank.key,
                owner=bore_id(key),
                entry=where,
            )
        )
        return []
    if not _possible(values, key, bore, blank, met, where):
        return []
    return _made(values, key, bore, blank, met, diameter, line, holes, where)


def _possible(values: Values, key: str, bore: Bore, blank: Blank, met: list[Meeting], where: str) -> bool:
    """Whether a bore can be made so in a part; a fault where not."""
    action, name = bore.parts[blank.key].action, blank.record.name
    if action != "drill" and any(m.how == "edge" for m in met):
        how = (
            "enter {} through its edge, which a flat cutter cannot bore"
            if action == "cut"
            else "enter {} through its edge, where no face is marked"
        )
        drill, leave = (
            Mend(word, [{"op": "replace", "path": where + "/action", "value": to}])
            for word, to in ((f"Drill {name} there", "drill"), (f"Leave {name} alone", "leave"))
        )
        values.fault_entry(
            where,
            "bore_in_edge",
            f"{bore.name} would {how.format(name)}",
            "the bore goes through a face, or is drilled",
            bore.axis,
            blank.key,
            bore_id(key),
            (drill, leave),
        )
        return False
    flat = min((m.slope for m in met if m.how == "angle"), default=1.0)
    if flat < math.cos(FLATTEST):
        shown = format_angle(math.acos(flat))
        values.fault_entry(
            where,
            "bore_too_flat",
            f"{bore.name} meets {name} {shown} off square",
            f"at most {format_angle(FLATTEST)} off square",
            shown,
            blank.key,
            bore_id(key),
        )
        return False
    return True


def _round_section(blank: Blank, line: BoreLine, section: Section, met: Meeting, fit: float, owner: str) -> Contour:
    """What a section that is not round needs to pass straight through a board: itself where it stands square to it, else the hull of what passes both faces."""
    wide = section.outline(fit / 2)
    seen = blank.in_room.inverse
    way, u = np.array(seen.vector(line.way)), np.array(seen.vector(line.u or (1.0, 0.0, 0.0)))
    if met.how == "square":
        outer = wide.moved(met.u, met.v, math.atan2(u[1], u[0]))
        return replace(outer, owners=(owner,) * len(outer.owners))
    v = np.cross(way, u)
    ring = divided(wide)
    points = []
    for at, w in ((np.array(met.start), met.start[2]), (np.array(met.end), met.end[2])):
        places = at + ring[:, :1] * u + ring[:, 1:] * v
        points.append((places - way * ((places[:, 2] - w) / way[2])[:, None])[:, :2])
    hull = shapely.convex_hull(shapely.MultiPoint(np.vstack(points)))
    return polygon([(float(x), float(y)) for x, y in shapely.get_coordinates(hull)[:-1]], owner)


def _made(
    values: Values, key: str, bore: Bore, blank: Blank, met: list[Meeting], diameter: float, line: BoreLine, holes: Holes, where: str
) -> list[Operation]:
    """The holes or marks of a bore where it meets a part."""
    through, owner = bore.parts[blank.key], bore_id(key)
    scope = EntryScope(values, stock=blank.record.stock, shaft=_shaft_of(values, bore))
    fit = values.read(through.fit, where + "/fit", "length", scope, part=blank.key, owner=owner)
    if through.on_line and through.action == "cut":
        fit += widened_on_line(values.document.cutters.get(values.document.cutter), blank.record.stock)
    if through.action == "mark":
        return [Mark(_mouth(m, blank, diameter, owner), owner, blank.record.up) for m in met]
    if diameter + fit <= CONTACT:
        values.fault_entry(
            where + "/fit",
            "bad_value",
            f"{bore.name}: its fit in {blank.record.name} leaves no hole",
            "diameter plus fit is greater than 0",
            format_length(fit),
            blank.key,
            owner,
        )
        return []
    if bore.owned_by_set:
        return [o for n, m in enumerate(met) for o in _of_set(holes.get((key, blank.key, n)), m, blank, line, fit, owner)]
    wide = diameter + fit
    # sheet that is folded is too thin to be drilled otherwise than cut
    drilled = through.action == "drill" and blank.fold is None
    if bore.member and line.u is not None:
        section = values.section_of(bore.member)
        turned = values.turned_body(bore.member) if is_turned(values.boards[bore.member]) else None
        if (section and is_rod(values.boards[bore.member])) or turned is not None:
            deeper = DEEPER
            if through.deeper is not None:
                deeper = values.read(through.deeper, where + "/deeper", "length", scope, fallback=DEEPER, part=blank.key, owner=owner)
            seen = [(m, _round_of(turned, m) if turned is not None else section) for m in met]
            return [_for_rod(blank, line, own, m, fit, deeper, owner, turns=through.round) for m, own in seen if own]
        if section:
            return [Cut(_passage(blank, line, section, m, fit, owner), owner) for m in met]
    return [
        Cut(circle(m.u, m.v, wide / 2, owner), owner)
        if m.how == "square"
        else SkewBore(m.start, m.end, wide, owner)
        if drilled
        else Cut(skewed_hole(m.start[:2], m.end[:2], wide, m.slope, owner), owner)
        for m in met
    ]


def _shaft_of(values: Values, bore: Bore) -> str:
    """The bar that what lies in a bore is of; '' for none."""
    return values.boards[bore.member].stock if bore.member in values.boards else ""


def _of_set(hole: BoreHole | None, m: Meeting, blank: Blank, line: BoreLine, fit: float, owner: str) -> list[Operation]:
    """The hole that a set asks of one passage; ``fit`` is added to its width."""
    if hole is None:
        return []
    wide = hole.wide + fit
    if m.how == "edge":
        return [_in_edge(m, blank, wide, hole, owner)]
    if m.how != "square":
        return [
            SkewBore(m.start, m.end, wide, owner)
            if blank.fold is None
            else Cut(skewed_hole(m.start[:2], m.end[:2], wide, m.slope, owner), owner)
        ]
    enters = m.end if hole.high else m.start
    face: Side = "a" if enters[2] > blank.thickness / 2 else "b"
    if hole.deep is None or hole.below + hole.deep > blank.thickness - CONTACT:
        made: list[Operation] = [Cut(circle(m.u, m.v, wide / 2, owner), owner)]
    else:
        made = [Pocket(circle(m.u, m.v, wide / 2, owner), owner, face, hole.below + hole.deep, "hole")]
    if hole.sink and hole.sink[0] > wide:
        made.append(Sink(m.u, m.v, hole.sink[0], wide, hole.sink[1], face, owner))
    if hole.counterbore and hole.counterbore[0] > wide:
        made.append(Pocket(circle(m.u, m.v, hole.counterbore[0] / 2, owner), owner, face, hole.below + hole.counterbore[1], "hole"))
    return made


def _round_of(turned: TurnedBody, m: Meeting) -> Section | None:
    """What a turned part looks like where it lies in a board: as thick as it is at most there; None where it does not reach in."""
    half = math.dist(m.start, m.end) / 2
    widest = turned.widest(m.along - half + CONTACT, m.along + half - CONTACT)
    return Section("round", 2 * widest) if widest > CONTACT else None


def _for_rod(
    blank: Blank, line: BoreLine, section: Section, m: Meeting, fit: float, deeper: float, owner: str, *, turns: bool
) -> Operation:
    """The hole for a rod: straight through, or blind where the rod ends in the part; as the rod is, or round about all of it where it ``turns``."""
    if turns and section.shape != "round":
        section = Section("round", 2 * float(np.linalg.norm(section.outline(0.0).flatten(SAGITTA), axis=1).max()))
    half = math.dist(m.start, m.end) / 2
    wide, hole = section.height + fit, BoreHole(section.height)
    if line.high < m.along + half - CONTACT:
        hole = BoreHole(wide, min(line.high - (m.along - half) + deeper, 2 * half))
    elif line.low > m.along - half + CONTACT:
        hole = BoreHole(wide, min(m.along + half - line.low + deeper, 2 * half), high=True)
    if m.how == "edge":
        return _in_edge(m, blank, wide, hole, owner)
    contour = _passage(blank, line, section, m, fit, owner)
    if hole.deep is None or hole.deep > 2 * half - CONTACT or m.how != "square" or blank.fold is not None:
        return Cut(contour, owner)
    face: Side = "a" if (m.end if hole.high else m.start)[2] > blank.thickness / 2 else "b"
    return Pocket(contour, owner, face, hole.deep, "hole")


def _in_edge(m: Meeting, blank: Blank, wide: float, hole: BoreHole, owner: str) -> Operation:
    """A hole along the sheet: blind into a straight edge that its axis meets square, else from edge to edge."""
    enters, leaves = (m.end, m.start) if hole.high else (m.start, m.end)
    way = [(b - a) / math.dist(m.start, m.end) for a, b in zip(enters, leaves, strict=True)]
    i = 0 if abs(way[0]) > 1 - EPS else 1 if abs(way[1]) > 1 - EPS else -1
    if hole.deep is None or i < 0 or blank.fold is not None:
        return SkewBore(m.start, m.end, wide, owner)
    side: Literal["low", "high"] = "low" if way[i] > 0 else "high"
    axis = blank.frame.u if i == 0 else blank.frame.v
    across: Literal["u", "v"] = "u" if i == 0 else "v"
    return EdgeBore(FACES[axis][side == "high"], across, side, enters[i], enters[1 - i], enters[2], wide, hole.below + hole.deep, owner)


def _passage(blank: Blank, line: BoreLine, section: Section, met: Meeting, fit: float, owner: str) -> Contour:
    """The room that a member needs in a board; in its corner without the rounds, which would leave a piece of the board by itself."""
    if section.shape != "round":
        hole = _round_section(blank, line, section, met, fit, owner)
    elif met.how == "square":
        hole = circle(met.u, met.v, (section.height + fit) / 2, owner)
    else:
        hole = skewed_hole(met.start[:2], met.end[:2], section.height + fit, met.slope, owner)
    if blank.fold is None and not section.open:
        board = shapely.union_all([to_polygon(c) for c in blank_contours(blank)])
        around = to_polygon(hole, SAGITTA)
        if not board.contains(around) and len(_pieces(board.difference(around))) > len(_pieces(board)):
            return _round_section(blank, line, Section("rectangle", section.extents[1], section.extents[0]), met, fit, owner)
    return hole


def _pieces(area: shapely.Geometry) -> list[shapely.Geometry]:
    return [p for p in shapely.get_parts(area).tolist() if p.area > CONTACT]


def _mouth(met: Meeting, blank: Blank, diameter: float, owner: str):
    """What is seen of a bore on the face of a part that lies up."""
    if met.how == "square":
        return circle(met.u, met.v, diameter / 2, owner)
    up = blank.thickness if blank.record.up == "a" else 0.0
    return SkewBore(met.start, met.end, diameter, owner).mouth(min((met.start, met.end), key=lambda p: abs(p[2] - up)))


def parts_on_line(blanks: dict[str, Blank], line: BoreLine) -> list[tuple[float, str, str]]:
    """(how far along it, key, how) of the parts in a plane that a bore's axis passes through, in order along it.

    How is "square" where a bore can go square through all that it meets of a part, else "angle" or "edge".
    """
    hit = []
    for key, blank in blanks.items():
        met = meetings(blank, line)
        if met:
            how = next((m.how for m in met if m.how != "square"), "square")
            hit.append((met[0].along, key, how))
    return sorted(hit)
