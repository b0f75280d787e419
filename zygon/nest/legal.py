"""An independent check of layouts: from the true contours and the placements alone; shares no code with the engine's search."""

from __future__ import annotations

import math
from collections import Counter

import shapely
from shapely.geometry import Polygon, box

from zygon.nest.task import Layout, NestSheet, Placement, Task
from zygon.tolerance import CHECK, EPS

__all__ = ["layout_faults", "lying", "near_fault", "turn_faults", "usable_of"]

#: Arcs are divided this finely (mm) here, a tenth of what is checked to.
FINE = CHECK / 10
#: A roll is taken as so long (mm).
ENDLESS = 1e7


def layout_faults(task: Task, layout: Layout, legal: Layout | None = None) -> list[str]:
    """What is wrong with a layout, as sentences; empty where it is legal to 0.001 mm. Sheets that lie just so in a ``legal`` layout of this task are not looked at again."""
    faults = [*_sheets(task, layout), *_held(task, layout)]
    known = set(legal.sheets if legal else ())
    counted: Counter[int] = Counter()
    for n, sheet in enumerate(layout.sheets):
        counted.update(p.shape for p in sheet.placements)
        if sheet in known:
            continue
        placed = []
        for p in sheet.placements:
            faults += [f"sheet {n + 1}: {fault}" for fault in turn_faults(task, p)]
            placed.append(lying(task, p))
        usable = usable_of(task, sheet.sheet, sheet.used_length)
        faults += [
            f"sheet {n + 1}: {task.shapes[p.shape].name} leaves the sheet or its margin"
            for p, polygon in zip(sheet.placements, placed, strict=True)
            if not usable.covers(polygon)
        ]
        tree = shapely.STRtree(placed)
        # only what lies nearer than it may is looked at closely
        left, right = tree.query(placed, predicate="dwithin", distance=max(task.gap - CHECK, CHECK))
        for i, j in zip(left.tolist(), right.tolist(), strict=True):
            fault = near_fault(task, placed[i], placed[j]) if i < j else ""
            if fault:
                names = " and ".join(task.shapes[sheet.placements[k].shape].name for k in (i, j))
                faults.append(f"sheet {n + 1}: {names} {fault}")
    for i, shape in enumerate(task.shapes):
        if counted[i] + layout.unplaced.get(i, 0) != shape.quantity:
            faults.append(f"{shape.name}: {counted[i]} placed and {layout.unplaced.get(i, 0)} left over, of {shape.quantity}")
    return faults


def _sheets(task: Task, layout: Layout) -> list[str]:
    """Sheets that are not there, or not so often."""
    there = Counter(task.stock)
    for kind in task.kinds:
        there[kind] += task.max_sheets if kind.count is None else kind.count
    used = Counter(s.sheet for s in layout.sheets)
    return [f"{s.name or 'a sheet'} is used {n} times, and is there {there[s]} times" for s, n in used.items() if n > there[s]]


def _held(task: Task, layout: Layout) -> list[str]:
    """What is held and lies elsewhere."""
    there = {p for s in layout.sheets for p in s.placements}
    faults = [f"{task.shapes[p.shape].name} is locked, and lies elsewhere" for _, p in task.held if p not in there]
    mates = [{(p.shape, p.copy) for p in s.placements} for s in layout.sheets]
    for n in task.closed:
        own = {(p.shape, p.copy) for k, p in task.held if k == n}
        faults += ["something was added to a sheet that takes nothing more" for m in mates if m & own and m - own]
    return faults


def turn_faults(task: Task, p: Placement) -> list[str]:
    """Whether a part lies turned, or turned over, as it must not."""
    shape = task.shapes[p.shape]
    if p.mirrored and not shape.mirror:
        return [f"{shape.name} is turned over, and must not be"]
    off = [abs(math.remainder(p.angle - t, 2 * math.pi)) for t in shape.turns]
    return [] if shape.free or min(off) < EPS else [f"{shape.name} is turned in a way that it must not be"]


def lying(task: Task, p: Placement) -> Polygon:
    """A part's true shape at its place, arcs finely divided."""
    region = task.shapes[p.shape].region
    outer, *holes = (c.moved(p.x, p.y, p.angle, p.mirrored).flatten(FINE) for c in (region.outer, *region.inner))
    return Polygon(outer, holes)


def usable_of(task: Task, sheet: NestSheet, used_length: float = math.inf) -> Polygon:
    """What of a sheet parts may lie on, to the tolerance of checks; of a roll as far as it is used."""
    low_x, low_y, high_x, high_y = (m - CHECK for m in task.edges)
    if sheet.outline is not None:
        outline = Polygon(sheet.outline.outer.flatten(FINE), [c.flatten(FINE) for c in sheet.outline.inner])
        return outline.buffer(-max(task.edges) + CHECK, quad_segs=64)
    length = min(used_length, ENDLESS) if sheet.roll else sheet.length
    return box(low_x, low_y, length - high_x, sheet.width - high_y)


def near_fault(task: Task, a: Polygon, b: Polygon) -> str:
    """How two parts that lie break the rule of the gap; empty where they do not."""
    if task.gap > 0:
        gap = a.distance(b)
        return f"keep {gap:.4f} mm, not {task.gap:g}" if gap < task.gap - CHECK else ""
    bite = shapely.intersection(a.buffer(-CHECK / 2), b.buffer(-CHECK / 2))  # parts may lie in holes of parts
    return "overlap" if bite.area > 0 else ""
