"""A plate on the end of a member, with holes beside it: a foot to screw down, a cap, a plate to weld on."""

from __future__ import annotations

from typing import Any

import numpy as np

from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.kinds import is_member
from zygon.design.patch import Patch, patched
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import AtEnd
from zygon.stock.kinds import is_bar
from zygon.tolerance import WITHIN

__all__ = ["add_end_plate"]

_PLANES = {"x": "facing_side", "y": "facing_front", "z": "lying"}


def add_end_plate(built: Built, member: str, end: AtEnd, stock: str, beside: str, hole: str) -> tuple[str, Patch]:
    """Label and patch of a plate of a sheet stock on an end of a member that runs along an axis: it reaches ``beside`` (an entry) past the member all round,
    with four holes of a diameter (an entry; '' for none) in the middle of that; the member gives way by its thickness, so that the whole is as long as it was.

    All of it is written in the member's faces and follows them. Raises DocumentError for what cannot bear a plate.
    """
    document = built.document
    if not beside.strip():
        raise DocumentError("A plate reaches past its member", entry="beside", value=beside, rule="how far, such as 30 mm")
    record, part = document.parts.get(member), built.made.get(member)
    if not is_member(record):
        raise DocumentError(f"There is no member {member}", entry="member", value=member, rule="a member of the design")
    sheet = document.stocks.get(stock)
    if sheet is None or is_bar(sheet):
        raise DocumentError("A plate is cut from sheet", entry="stock", value=stock, rule="a sheet stock of the design")
    body = part.body if part else None
    way = np.array(part.matrix)[:3, 2] if part else np.zeros(3)
    along = int(np.abs(way).argmax())
    if not isinstance(body, MemberBody) or abs(abs(way[along]) - 1) > WITHIN:
        said = f"{record.name} does not run straight along an axis, and a plate lies square to one"
        raise DocumentError(said, entry="member", value=member, rule="a straight member along x, y or z")
    if body.cuts(end) or body.tips["ab".index(end)]:
        said = f"End {end.upper()} of {record.name} is cut to something already"
        raise DocumentError(said, entry="end", value=end, rule="an end that is cut off square, with nothing done to it")
    axis, outward = AXES[along], bool((way[along] > 0) == (end == "b"))
    face, inner = FACES[axis][outward], FACES[axis][not outward]
    own, name = record.name, fresh_name(document, f"{record.name}_plate"[:36])
    key = fresh_key(document.parts, name)
    others = [a for a in AXES if a != axis]
    spans = {
        a: {
            "low": entry_of(document, f"{own}.{FACES[a][0]} - {_closed(beside)}"),
            "high": entry_of(document, f"{own}.{FACES[a][1]} + {_closed(beside)}"),
        }
        for a in others
    }
    value: dict[str, Any] = {
        "kind": "board",
        "name": name,
        "stock": stock,
        "plane": _PLANES[axis],
        "spans": spans,
        "order": next_order(document.parts),
        "group": record.group,
        "position": {"face": inner, "at": entry_of(document, f"{own}.{face}")},
    }
    if hole.strip():
        apart = {
            field: entry_of(document, f"{own}.{FACES[a][1]} - {own}.{FACES[a][0]} + {_closed(beside)}")
            for field, a in (("spacing", others[0]), ("apart", others[1]))
        }
        two = entry_of(document, "2")
        value["features"] = {"holes": {"kind": "hole", "diameter": entry_of(document, hole), "number": two, "rows": two, **apart}}
    joint = {"kind": "member_on_board", "a": member, "b": key, "order": next_order(document.joints)}
    field = f"past_{end}"
    past = getattr(record, field).text.strip()
    shorter = f"0 - {name}.thickness" if past == "0" else f"{_closed(past)} - {name}.thickness"
    patch: Patch = [
        {"op": "add", "path": pointer("parts", key), "value": value},
        {
            "op": "add",
            "path": pointer("parts", member, field),
            "value": {**entry_of(document, shorter), "unit": getattr(record, field).unit},
        },
        {"op": "add", "path": pointer("joints", fresh_key(document.joints, f"{member}-{key}")), "value": joint},
    ]
    # what was typed may say nothing, or no plate: that is told before anything is changed
    before = {(f.code, f.entry) for f in built.faults}
    wrong = next((f for f in build(patched(document.dump(), patch)).faults if (f.code, f.entry) not in before), None)
    if wrong:
        typed = "hole" if "/features/" in wrong.entry else "beside"
        raise DocumentError(wrong.message, entry=typed, value=hole if typed == "hole" else beside, rule=wrong.rule)
    return f"A plate on end {end.upper()} of {own}", patch


def _closed(text: str) -> str:
    """An entry as part of another."""
    return text if all(c.isalnum() or c in "._ " for c in text) else f"({text})"
