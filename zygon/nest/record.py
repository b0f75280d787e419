"""Layouts kept as plain placements, and taken up again with the plan they were made from."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.nest.bottom_left import finished_layout
from zygon.nest.design import StockNest, StockPlan, reckon_sheet
from zygon.nest.task import Placement

__all__ = ["restored"]


def restored(document: Document, plan: StockPlan, data: dict[str, Any]) -> StockNest | None:
    """The layout in ``data`` (as ``nest_data`` writes it) for a plan with the same hash; None where it is another plan's."""
    if data.get("digest") != plan.digest:
        return None
    name, price, task = next(t for t in plan.tasks if t[0] == data["sheet"])
    sheets = [[Placement(int(r[0]), int(r[1]), r[2], r[3], r[4], bool(r[5])) for r in rows] for rows in data["placements"]]
    unplaced = {plan.parts.index(k): n for k, n in data["unplaced"].items()}
    layout = finished_layout(task, [(task.sheet, s) for s in sheets], unplaced, data["passes"], data["stopped"])
    return StockNest(plan, name, price, layout, tuple(reckon_sheet(document, plan, s) for s in layout.sheets))
