"""What hardware is let into: the room that a leaf, a magnet or a bearing takes of the part it lies on."""

from __future__ import annotations

import math
from collections.abc import Mapping

from zygon.design.parts.kinds import is_hardware
from zygon.design.pointer import pointer
from zygon.geometry.contour import Contour, circle, polygon
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion, moving
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import Instance
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.hardware.body import HardwareBody
from zygon.making.result.fault import Mend
from zygon.making.result.operations import Cut, Operation, Pocket, Side
from zygon.measure.display import exact_length, format_length
from zygon.owner import part_id
from zygon.tolerance import CONTACT, EPS

__all__ = ["bodies_of_hardware", "let_in_operations"]

#: What is let in is said to so much (mm): under what anybody chisels.
AS_SAID = 0.01


def bodies_of_hardware(values: Values) -> dict[str, tuple[HardwareBody, Motion]]:
    """Every piece of hardware that has a place, with the motion that takes it to its rest; what is moved too far is a fault."""
    found = {}
    for key, record in values.boards.items():
        if not is_hardware(record) or values.box(key) is None:
            continue
        body = values.hardware(key)[0]
        _said_moved(values, key, body)
        found[key] = body, _rest(values, key)
    return found


def _rest(values: Values, key: str) -> Motion:
    _, stance, own = values.hardware(key)
    return moving([values.datum(key, a, "low") - own.span(a)[0] for a in AXES]) @ stance


def _said_moved(values: Values, key: str, body: HardwareBody) -> None:
    free, where = body.freedom, pointer("parts", key, "moved")
    said, record = values.values.get(where), values.boards[key]
    if said is None or said.stale:
        return
    if free is None or not body.leaves:
        values.fault_entry(where, "bad_value", f"{record.name} does not move", "what is said to be open or drawn out can move", part=key)
    elif not free.least - EPS <= said.value <= free.most + EPS:
        shown = f"{math.degrees(said.value):.6g}°" if free.kind == "turns" else format_length(said.value)
        values.fault_entry(where, "bad_value", f"{record.name} would be moved {shown}", f"it {free.words}", shown, part=key)


def let_in_operations(values: Values, blanks: dict[str, Blank], instances: Mapping[str, Instance]) -> dict[str, list[Operation]]:
    """By part key what hardware is let into it takes of it; copies of the hardware too, where they lie on the same part."""
    found: dict[str, list[Operation]] = {}
    for key, record in values.boards.items():
        if not is_hardware(record) or record.let_in is None or values.box(key) is None:
            continue
        where = pointer("parts", key, "let_in")
        deep = values.read(record.let_in, where, "length", EntryScope(values), part=key)
        fit = 0.0 if record.fit is None else values.read(record.fit, pointer("parts", key, "fit"), "length", EntryScope(values), part=key)
        if deep <= CONTACT:
            if not values.values[where].stale:
                shown = format_length(deep)
                values.fault_entry(
                    where, "bad_value", f"{record.name} is let in {shown}", "what is let in is let in by more than 0", shown, key
                )
            continue
        body, rest = values.hardware(key)[0], _rest(values, key)
        for leaf, part in record.on.items():
            if part not in blanks:
                continue
            places = [i for i in instances.values() if i.part == key]
            for n, i in enumerate(sorted(places, key=lambda i: bool(i.made_by))):
                made = _room(body, leaf, fit, i.motion @ rest, blanks[part], deep, part_id(key))
                if made is not None:
                    operation, depth = made
                    found.setdefault(part, []).append(operation)
                    if n == 0:
                        _said_depth(values, key, depth, deep)
                elif n == 0:
                    said, rule = f"{record.name} does not lie on {values.boards[part].name}", "what is let in lies on a face or an edge"
                    values.fault_entry(where, "lies_beside", said, rule, part=key, owner=part_id(key))
    return found


def _said_depth(values: Values, key: str, depth: float, said: float) -> None:
    """Says where a piece lies otherwise than as deep as is said; its room goes by where it lies."""
    where = pointer("parts", key, "let_in")
    if abs(depth - said) <= AS_SAID or values.values[where].stale or any(f.entry == where for f in values.faults):
        return
    unit, name = values.document.unit, values.boards[key].name
    lies, shown = format_length(round(depth, 4)), format_length(round(said, 4))
    text = exact_length(round(depth, 4), unit)
    mend = Mend(f"Say {lies}", [{"op": "replace", "path": where, "value": {"text": text, "unit": unit}}])
    rule = "its place says how deep it lies, and what is let in says the same"
    values.fault_entry(
        where, "let_in_otherwise", f"{name} lies {lies} deep, and is said to be let in {shown}", rule, shown, key, mends=(mend,)
    )


def _room(
    body: HardwareBody, leaf: str, fit: float, place: Motion, blank: Blank, deep: float, owner: str
) -> tuple[Operation, float] | None:
    """The room of one leaf (of a round piece all of it) in a board, a pocket in its face or a cut in its edge, and how deep it lies there; None where it does not lie there."""
    own = next(((one, way) for one, way in body.leaves if one.key == leaf), None)
    to_blank = blank.in_room.inverse @ place
    if own is None:
        if body.piece is None or body.leaves:
            return None
        ring, lies = [(0.0, 0.0)], 0.0
    else:
        one, way = own
        to_blank = to_blank @ way
        u0, v0, u1, v1 = one.foot
        ring, lies = [(u0, v0), (u1, v0), (u1, v1), (u0, v1)], one.lies
    corners = [to_blank.point((u, v, lies)) for u, v in ring]
    into = to_blank.vector((0.0, 0.0, -1.0 if own is None or own[0].above else 1.0))
    x0, y0, x1, y1 = blank.bounds()
    if abs(abs(into[2]) - 1) < EPS:  # into a face
        face: Side = "a" if into[2] < 0 else "b"
        bottom = corners[0][2]
        depth = blank.thickness - bottom if face == "a" else bottom
        shape = _contour(body, fit, corners, owner, round_=own is None)
        inside = any(x0 - CONTACT < c[0] < x1 + CONTACT and y0 - CONTACT < c[1] < y1 + CONTACT for c in corners)
        if depth <= CONTACT or depth > deep + blank.thickness or not inside:
            return None
        return (Cut(shape, owner) if depth > blank.thickness - CONTACT else Pocket(shape, owner, face, depth, "hole")), depth
    if own is None or abs(into[2]) > EPS:
        return None
    # into an edge: the strip from where it lies out past the edge, through the whole sheet
    past = deep + 1.0
    flat = [(c[0], c[1]) for c in corners]
    out = [(x - into[0] * past, y - into[1] * past) for x, y in flat]
    xs, ys = [p[0] for p in (*flat, *out)], [p[1] for p in (*flat, *out)]
    low, high = (min(xs), min(ys)), (max(xs), max(ys))
    if high[0] < x0 + CONTACT or low[0] > x1 - CONTACT or high[1] < y0 + CONTACT or low[1] > y1 - CONTACT:
        return None
    k = 0 if abs(into[0]) > abs(into[1]) else 1
    edge = (x0, y0)[k] if into[k] > 0 else (x1, y1)[k]
    return Cut(polygon([low, (high[0], low[1]), high, (low[0], high[1])], owner), owner), abs(corners[0][k] - edge)


def _contour(body: HardwareBody, fit: float, corners: list[tuple[float, float, float]], owner: str, *, round_: bool) -> Contour:
    if round_:
        return circle(corners[0][0], corners[0][1], body.play(fit) / 2, owner)
    return polygon([(c[0], c[1]) for c in corners], owner)
