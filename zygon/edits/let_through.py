"""Boards notched or bored round a member or a rod that passes through them, or ends in them, as one edit."""

from __future__ import annotations

import math
from typing import Any

from zygon.design.document import Document
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.kinds import is_member, is_rod, is_turned
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import instances_of
from zygon.making.datums.solving import solve
from zygon.making.features.bore_lines import BoreLine, lines_round, meetings_of_rod
from zygon.making.features.bores import parts_on_line
from zygon.making.metal.folding import fold_blanks
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import blanks_of
from zygon.making.result.built import Built
from zygon.tolerance import CONTACT

__all__ = ["let_through"]

#: How much wider the hole is than what passes; common practice.
FIT = {"mm": "0.5 mm", "in": "0.02 in"}
#: The same of a rod that goes on, which turns there; one that ends in a board is tight in it.
RUNS = {"mm": "0.2 mm", "in": "0.008 in"}


def let_through(built: Built, member: str) -> tuple[str, Patch]:
    """Label and patch of a bore round a member or a rod through every board that its axis passes, its copies' too; boards that let it through already are left.

    A rod is let in where it ends too, by the edge as well.

    Raises DocumentError where it passes no other.
    """
    document = built.document
    record = document.parts.get(member)
    if not (is_member(record) or is_rod(record) or is_turned(record)):
        raise DocumentError(
            "Boards are cut round a rod, a turned part or a member of a frame",
            entry="member",
            value=member,
            rule="a rod, a turned part or a member of the design",
        )
    values = solve(document, built.good, leg_face)
    instances = instances_of(values)
    blanks = blanks_of(values, instances)
    fold_blanks(values, blanks)
    own = next((k for k, b in document.bores.items() if b.member == member), None)
    there = document.bores[own].parts if own else {}
    lines = lines_round(values, member, instances)
    if is_rod(record) or is_turned(record):
        holes = {
            part: hole
            for line in lines[:1]
            for part, blank in blanks.items()
            if (hole := _for_rod(document, blank, line, tight=is_turned(record)))
        }
    else:
        cut = {"action": "cut", "fit": entry_of(document, FIT[document.unit])}
        holes = {part: cut for line in lines for _, part, how in parts_on_line(blanks, line) if how != "edge"}
    new = {part: hole for part, hole in holes.items() if part not in there}
    if not new:
        said = f"{record.name} passes through no board" + (" that does not let it through already" if there else "")
        raise DocumentError(said, entry="member", value=member, rule="a board that its middle passes")
    label = f"Let {record.name} through {len(new)} {'board' if len(new) == 1 else 'boards'}"
    if own:
        return label, [{"op": "add", "path": pointer("bores", own, "parts", k), "value": v} for k, v in new.items()]
    name = fresh_name(document, f"round_{record.name}"[:36], {b.name for b in document.bores.values()})
    value = {
        "name": name,
        "axis": "z",
        "member": member,
        "at": {},
        "diameter": entry_of(document, "1 mm"),
        "order": next_order(document.bores),
        "parts": new,
    }
    return label, [{"op": "add", "path": pointer("bores", fresh_key(document.bores, name)), "value": value}]


def _for_rod(document: Document, blank: Blank, line: BoreLine, *, tight: bool) -> dict[str, Any] | None:
    """What a bore does to a board that a rod reaches into; None where it does not. What ends there is tight, and a turned part that is ``tight`` anyway."""
    met = meetings_of_rod(blank, line)
    if not met:
        return None
    ends = any(
        line.low > m.along - half + CONTACT or line.high < m.along + half - CONTACT
        for m in met
        for half in (math.dist(m.start, m.end) / 2,)
    )
    action = "drill" if any(m.how != "square" for m in met) and blank.fold is None else "cut"
    return {"action": action, "fit": entry_of(document, "0" if ends or tight else RUNS[document.unit])}
