"""Why a part found no place."""

from __future__ import annotations

from zygon.nest.ground import ground_of
from zygon.nest.task import Task
from zygon.tolerance import CHECK

__all__ = ["reason_of"]


def reason_of(task: Task, shape: int) -> str:
    """Why copies of a shape were left over: "too large even when turned" for every sheet, or "no sheet left"."""
    one = task.shapes[shape]
    sheets = [*task.stock, *(task.kinds if task.max_sheets else ())]
    for sheet in sheets:
        ground = ground_of(task, sheet)
        # grown outlines reach half the gap over the true ones, and so does the ground
        width, height = ground.high_x - ground.low_x - task.gap, ground.high_y - ground.low_y - task.gap
        for turn in one.turns:
            x0, y0, x1, y1 = one.region.outer.moved(0.0, 0.0, turn).bounds
            if x1 - x0 <= width + CHECK and y1 - y0 <= height + CHECK:
                return "no sheet left"
    return "too large even when turned" if len(one.turns) > 1 else "too large, and it must not be turned"
