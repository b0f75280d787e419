"""Bores: a straight hole along an axis through several parts; each is cut, marked or left alone, with a fit of its own."""

from __future__ import annotations

from shapely.geometry import Point

from zygon.build.blanks import Blank
from zygon.build.built import Cut, Fault, Mark, Operation
from zygon.build.metal.fold import face_motions
from zygon.build.values import EntryScope, Values
from zygon.design.features import Bore
from zygon.design.patch import pointer
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import circle
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion
from zygon.geometry.tolerance import CONTACT
from zygon.measure.display import format_length

__all__ = ["bore_operations", "parts_on_axis"]


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
            at[axis] = values.read(entry, pointer("bores", key, "at", axis), "length", scope, owner=f"bore:{key}")
        where = pointer("bores", key, "diameter")
        diameter = values.read(bore.diameter, where, "length", EntryScope(values), owner=f"bore:{key}")
        if diameter <= CONTACT and values.values[where].stale:
            continue
        if diameter <= CONTACT:
            values.fault_entry(
                where,
                "bad_value",
                f"{bore.name}: a diameter of {format_length(diameter)}",
                "a diameter is greater than 0",
                owner=f"bore:{key}",
            )
            continue
        for part in bore.parts:
            if part in blanks:
                through = _through_folded if blanks[part].fold else _through
                made = through(values, key, bore, blanks[part], at, diameter, values.frame_of_group(group))
                if made:
                    found.setdefault(part, []).extend(made)
    return found


def _frame_of(values: Values, bore: Bore) -> str:
    """The innermost group in which all of a bore's parts lie; its places are read and lie there."""
    document = values.document
    chains = [document.within(document.parts[p].group) for p in bore.parts if p in document.parts]
    return next((g for g in chains[0] if all(g in c for c in chains)), "") if chains else ""


def _through(values: Values, key: str, bore: Bore, blank: Blank, at: dict[str, float], diameter: float, frame: Motion) -> list[Operation]:
    through, owner = bore.parts[blank.key], f"bore:{key}"
    where = pointer("bores", key, "parts", blank.key)
    if through.action == "leave":
        return []
    seen = blank.in_room.inverse @ frame  # from where the bore is placed to the board's (u, v, w)
    way = seen.vector([1.0 if a == bore.axis else 0.0 for a in AXES])
    if abs(way[2]) < 1 - 1e-9:
        edge = abs(way[2]) < 1e-9
        how = (
            "enter {} through its edge, which a flat cutter cannot bore"
            if edge
            else "go through {} at an angle, which a flat cutter cannot bore"
        )
        values.fault_entry(where, "bore_in_edge", f"{bore.name} would {how.format(blank.record.name)}", "the bore runs square to the board",
                           bore.axis, blank.key, owner)  # fmt: skip
        return []
    u, v, _ = seen.point([at.get(a, 0.0) for a in AXES])
    u0, v0, u1, v1 = blank.bounds()
    if not (u0 < u < u1 and v0 < v < v1):
        _misses(values, key, bore, blank)
        return []
    return _cut_or_mark(values, key, bore, blank, [(u, v)], diameter)


def _through_folded(
    values: Values, key: str, bore: Bore, blank: Blank, at: dict[str, float], diameter: float, frame: Motion
) -> list[Operation]:
    """What a bore does to every flat face of a folded part that it meets squarely; one that it meets at an angle is a fault."""
    fold = blank.fold
    if fold is None or bore.parts[blank.key].action == "leave":
        return []
    places = []
    for face, motion in zip(fold.faces, face_motions(fold), strict=True):
        seen = (blank.in_room @ motion).inverse @ frame  # from where the bore is placed to the flat
        way = seen.vector([1.0 if a == bore.axis else 0.0 for a in AXES])
        if abs(way[2]) < 1e-9:
            continue  # it runs along the face
        start = seen.point([at.get(a, 0.0) for a in AXES])
        u, v = (start[i] - way[i] * start[2] / way[2] for i in (0, 1))
        if not any(to_polygon(c).contains(Point(u, v)) for c in face.outline):
            continue
        if abs(way[2]) < 1 - 1e-9:
            where = pointer("bores", key, "parts", blank.key)
            said = f"{bore.name} would go through {blank.record.name} at an angle, which a flat cutter cannot bore"
            values.fault_entry(where, "bore_in_edge", said, "the bore runs square to the sheet", bore.axis, blank.key, f"bore:{key}")
            return []
        places.append((u, v))
    if not places:
        _misses(values, key, bore, blank)
    return _cut_or_mark(values, key, bore, blank, places, diameter)


def _misses(values: Values, key: str, bore: Bore, blank: Blank) -> None:
    where = pointer("bores", key, "parts", blank.key)
    values.faults.append(Fault("bore_misses", f"{bore.name} misses {blank.record.name}", "a bore's axis passes through every part it cuts or marks",
                               part=blank.key, owner=f"bore:{key}", entry=where))  # fmt: skip


def _cut_or_mark(values: Values, key: str, bore: Bore, blank: Blank, places: list[tuple[float, float]], diameter: float) -> list[Operation]:
    """The holes or marks of a bore at places on a part's flat."""
    through, owner = bore.parts[blank.key], f"bore:{key}"
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


def parts_on_axis(blanks: dict[str, Blank], axis: str, at: dict[str, float]) -> list[str]:
    """Keys of the parts that a line along ``axis`` at ``at`` (mm along the two other axes) passes through, in order along it."""
    hit = []
    for key, blank in blanks.items():
        if all(blank.extents.span(x)[0] < at[x] < blank.extents.span(x)[1] for x in at):
            hit.append((blank.extents.span(axis)[0], key))
    return [key for _, key in sorted(hit)]
