"""Boards notched or bored round a member that passes through them, as one edit."""

from __future__ import annotations

from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.kinds import is_member
from zygon.design.patch import Patch, pointer
from zygon.errors import DocumentError
from zygon.making.blanks.instances import instances_of
from zygon.making.datums.solving import solve
from zygon.making.features.bore_lines import lines_round
from zygon.making.features.bores import parts_on_line
from zygon.making.metal.folding import fold_blanks
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import blanks_of
from zygon.making.result.built import Built

__all__ = ["let_through"]

#: How much wider the hole is than what passes; common practice.
FIT = {"mm": "0.5 mm", "in": "0.02 in"}


def let_through(built: Built, member: str) -> tuple[str, Patch]:
    """Label and patch of a bore round a member through every board that its axis passes, its copies' too; boards that let it through already are left.

    Raises DocumentError where it passes no other.
    """
    document = built.document
    record = document.parts.get(member)
    if not is_member(record):
        raise DocumentError("Boards are cut round a member of a frame", entry="member", value=member, rule="a member of the design")
    values = solve(document, built.good, leg_face)
    instances = instances_of(values)
    blanks = blanks_of(values, instances)
    fold_blanks(values, blanks)
    own = next((k for k, b in document.bores.items() if b.member == member), None)
    there = document.bores[own].parts if own else {}
    met = dict.fromkeys(
        part for line in lines_round(values, member, instances) for _, part, how in parts_on_line(blanks, line) if how != "edge"
    )
    new = {part: {"action": "cut", "fit": entry_of(document, FIT[document.unit])} for part in met if part not in there}
    if not new:
        said = f"{record.name} passes through no board" + (" that does not let it through already" if there else "")
        raise DocumentError(said, entry="member", value=member, rule="a board that its middle passes")
    label = f"Let {record.name} through {len(new)} {'board' if len(new) == 1 else 'boards'}"
    if own:
        return label, [{"op": "add", "path": pointer("bores", own, "parts", k), "value": v} for k, v in new.items()]
    name = fresh_name(document, f"round_{record.name}"[:36], {b.name for b in document.bores.values()})
    value = {
        "name": name, "axis": "z", "member": member, "at": {}, "diameter": entry_of(document, "1 mm"), "order": next_order(document.bores), "parts": new,
    }  # fmt: skip
    return label, [{"op": "add", "path": pointer("bores", fresh_key(document.bores, name)), "value": value}]
