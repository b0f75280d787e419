"""Layouts kept as plain placements, and taken up again with the plan they were made from, or with a later one."""

from __future__ import annotations

from typing import Any

from typing_extensions import TypedDict

from zygon.design.document import Document
from zygon.nest.bottom_left import finished_layout
from zygon.nest.design import Before, StockNest, StockPlan, ranked, reckon_sheet
from zygon.nest.task import NestSheet, Placement

__all__ = ["Laid", "carried", "placements_data", "restored"]


class Laid(TypedDict):
    """What of a layout is needed to take it up again: parts by number, what there was to lay on, and by sheet the
    name of its size and its placements (part, copy, x and y in mm, angle in radians, mirrored).
    """

    parts: list[str]
    choices: list[str]
    sizes: list[str]
    placements: list[list[list[Any]]]


def placements_data(found: StockNest) -> Laid:
    """What of a layout is needed to take it up again."""
    plan = found.plan
    return {
        "parts": list(plan.parts),
        "choices": _choices(plan),
        "sizes": [s.sheet.name for s in found.layout.sheets],
        "placements": [[[p.shape, p.copy, p.x, p.y, p.angle, p.mirrored] for p in s.placements] for s in found.layout.sheets],
    }


def _choices(plan: StockPlan) -> list[str]:
    """What there was to lay on."""
    return [s.name for s in (*plan.task.kinds, *plan.task.stock)] if plan.task else []


def _sheets(plan: StockPlan, data: dict[str, Any]) -> list[tuple[NestSheet, list[Placement]]]:
    """The sheets in ``data`` as the plan knows them; parts and sheets that it does not know are left out."""
    assert plan.task
    known = {s.name: s for s in (*plan.task.kinds, *plan.task.stock)}
    index = {part: i for i, part in enumerate(plan.parts)}
    names = [index.get(part) for part in data["parts"]]
    found = []
    for size, rows in zip(data["sizes"], data["placements"], strict=True):
        own = [(names[int(r[0])], r) for r in rows]
        if size in known:
            found.append((known[size], [Placement(i, int(r[1]), r[2], r[3], r[4], bool(r[5])) for i, r in own if i is not None]))
    return found


def restored(document: Document, plan: StockPlan, data: dict[str, Any]) -> StockNest | None:
    """The layout in ``data`` (as ``nest_data`` writes it) for a plan with the same hash; None where it is another plan's."""
    if data.get("digest") not in (plan.digest, plan.loose) or "sizes" not in data or plan.task is None:
        return None
    unplaced = {plan.parts.index(k): n for k, n in data["unplaced"].items()}
    layout = finished_layout(plan.task, _sheets(plan, data), unplaced, data["passes"], data["stopped"])
    found = plan.hand is None or data["digest"] == plan.loose
    return StockNest(plan, layout, tuple(reckon_sheet(document, plan, s) for s in layout.sheets), found)


def carried(plan: StockPlan, data: dict[str, Any]) -> Before | None:
    """An earlier layout for a plan that differs; None where the plan has no sheets, or nothing in common with it."""
    if "sizes" not in data or plan.task is None:
        return None
    sheets = _sheets(plan, data)
    flats = data["flats"]
    same = sum(s.quantity for s, part, flat in zip(plan.task.shapes, plan.parts, plan.flats, strict=True) if flats.get(part) == flat.digest)
    if not same:
        return None
    # another offcut or another size is there to be used
    few = 2 * same >= plan.copies and data["choices"] == _choices(plan)
    return Before(sheets, ranked(plan, sheets, flats, set()), data["sheet_cost"], few)
