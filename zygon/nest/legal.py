"""An independent check of layouts: from the true contours and the placements alone; shares no code with the engine's search."""

from __future__ import annotations

from collections import Counter

import shapely
from shapely.geometry import Polygon, box

from zygon.geometry.tolerance import CHECK
from zygon.nest.task import Layout, Task

__all__ = ["layout_faults"]

#: Arcs are divided this finely (mm) here, a tenth of what is checked to.
FINE = CHECK / 10


def layout_faults(task: Task, layout: Layout) -> list[str]:
    """What is wrong with a layout, as sentences; empty where it is legal to 0.001 mm."""
    faults = _sheets(task, layout)
    counted: Counter[int] = Counter()
    for n, sheet in enumerate(layout.sheets):
        placed = []
        for p in sheet.placements:
            counted[p.shape] += 1
            region = task.shapes[p.shape].region
            if p.mirrored or not any(abs(p.angle - t) < 1e-9 for t in task.shapes[p.shape].turns):
                faults.append(f"sheet {n + 1}: {task.shapes[p.shape].name} is turned in a way that it must not be")
            outer, *holes = (c.moved(p.x, p.y, p.angle, p.mirrored).flatten(FINE) for c in (region.outer, *region.inner))
            placed.append(Polygon(outer, holes))
        faults += _outside(task, n, sheet, placed)
        tree = shapely.STRtree(placed)
        left, right = tree.query(placed, predicate="dwithin", distance=max(task.gap, CHECK))
        for i, j in zip(left.tolist(), right.tolist(), strict=True):
            if i < j:
                faults += _too_near(task, n, sheet, placed, i, j)
    for i, shape in enumerate(task.shapes):
        if counted[i] + layout.unplaced.get(i, 0) != shape.quantity:
            faults.append(f"{shape.name}: {counted[i]} placed and {layout.unplaced.get(i, 0)} left over, of {shape.quantity}")
    return faults


def _sheets(task: Task, layout: Layout) -> list[str]:
    """Sheets that are not there, or not so often."""
    there = Counter(task.stock)
    there[task.sheet] += task.max_sheets
    used = Counter(s.sheet for s in layout.sheets)
    return [f"{s.name or 'a sheet'} is used {n} times, and is there {there[s]} times" for s, n in used.items() if n > there[s]]


def _outside(task: Task, n: int, sheet, placed: list[Polygon]) -> list[str]:
    m = task.margin - CHECK
    length = sheet.used_length if sheet.sheet.roll else sheet.sheet.length
    usable = box(m, m, length - m, sheet.sheet.width - m)
    if sheet.sheet.outline is not None:
        outline = sheet.sheet.outline
        usable = Polygon(outline.outer.flatten(FINE), [c.flatten(FINE) for c in outline.inner]).buffer(-m, quad_segs=64)
    return [
        f"sheet {n + 1}: {task.shapes[p.shape].name} leaves the sheet or its margin"
        for p, polygon in zip(sheet.placements, placed, strict=True)
        if not usable.covers(polygon)
    ]


def _too_near(task: Task, n: int, sheet, placed: list[Polygon], i: int, j: int) -> list[str]:
    names = " and ".join(task.shapes[sheet.placements[k].shape].name for k in (i, j))
    if task.gap > 0:
        gap = placed[i].distance(placed[j])
        return [f"sheet {n + 1}: {names} keep {gap:.4f} mm, not {task.gap:g}"] if gap < task.gap - CHECK else []
    bite = shapely.intersection(placed[i].buffer(-CHECK / 2), placed[j].buffer(-CHECK / 2))  # parts may lie in holes of parts
    return [f"sheet {n + 1}: {names} overlap"] if bite.area > 0 else []
