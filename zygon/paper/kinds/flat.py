"""The sheet of a folded part laid flat, with its bend table."""

from __future__ import annotations

import math
from collections.abc import Mapping

from zygon.brake.bend_plan import numbers_of, plan_of
from zygon.exchange.bends import tool_word
from zygon.exchange.figures import plain
from zygon.making.metal.bend_table import bend_rows
from zygon.making.result.built import Built, FlatPart
from zygon.paper.figures import PaperFigures, degrees
from zygon.paper.hidden import Seen
from zygon.paper.kinds.common import FINISHED, block_of, style_of
from zygon.paper.looks import LookName
from zygon.paper.of_flat import flat_view, lying_up
from zygon.paper.sheet import Plan
from zygon.paper.subjects import Subject
from zygon.paper.table import Table, table_of

__all__ = ["bend_table", "flat_sheet"]


def flat_sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    """What stands on it."""
    part, row = built.flats[subject.key], subject.row
    assert row is not None
    flat = lying_up(part)
    numbers = numbers_of(flat, plan_of(built.document, part, flat))
    view = flat_view(built, part, flat, bends=numbers, name="flat", label="Flat, ▲ bends toward you, ▼ away")
    block = block_of(built, subject, "Flat pattern", sheet, row)
    return Plan(subject.id, subject.title, block, (view,), style_of(built, subject), (bend_table(built, part),), (FINISHED,), most=2.0)


def bend_table(built: Built, part: FlatPart) -> Table:
    """The bend table: its numbers are those at the lines."""
    figures = PaperFigures(built.document)
    flat = lying_up(part)
    steps = plan_of(built.document, part, flat)
    assert flat.fold is not None
    rows, of = [], []
    for r in sorted(bend_rows(flat.fold, numbers_of(flat, steps)), key=lambda r: r["number"]):
        step = steps[r["number"] - 1] if steps and r["number"] <= len(steps) else None
        rows.append(
            (
                str(r["number"]),
                "▲" if r["direction"] == "up" else "▼",
                degrees(math.radians(r["angle"])),
                figures.length(r["radius"]),
                figures.length(r["length"]),
                figures.length(r["allowance"]),
                figures.length(r["deduction"]),
                plain(r["k"]),
                tool_word(step) if step else "",
            )
        )
        of.append(r["owner"])
    unit = figures.unit
    heads = ["Bend", "Way", "Angle", f"Inside R, {unit}", f"Long, {unit}", f"Allowance, {unit}", f"Deduction, {unit}", "K", "Tool"]
    return table_of("bends", "Bend table", heads, rows, of)
