"""A search of its own for a few rectangles: whether all fit into a length, by filling the leftmost, lowest gap of their skyline, depth first."""

from __future__ import annotations

import itertools
import math

import numpy as np

from zygon.nest.bottom_left import finished_layout
from zygon.nest.task import Layout, Placement, Task
from zygon.tolerance import EPS

__all__ = ["packed", "sizes_of"]

#: More rectangles than this are not searched. A second asked for is worth so many steps, up to so many, when no waste is allowed; a tenth with some.
MANY, A_SECOND, MOST = 30, 500_000, 2_000_000
#: Lengths closer than this (mm) are one.
SAME = 1e-6
#: Waste that is allowed for, one after the other, as shares of the material.
WASTE = (0.0, 0.005, 0.01, 0.02, 0.035, 0.05, 0.08)

Size = tuple[float, float]


def sizes_of(task: Task) -> list[list[tuple[Size, float]]] | None:
    """Of each shape its sizes (along, across) with the turn that gives them; None where one is no upright rectangle, or turns at a slant."""
    found = []
    for shape in task.shapes:
        outer = shape.region.outer
        x0, y0, x1, y1 = outer.bounds
        if any(outer.bulges) or len(outer.points) != 4 or abs(outer.area - (x1 - x0) * (y1 - y0)) > SAME:
            return None
        own: dict[Size, float] = {}
        for turn in shape.turns:
            quarters = turn / (math.pi / 2)
            if abs(quarters - round(quarters)) > EPS:
                return None
            size = (x1 - x0, y1 - y0) if round(quarters) % 2 == 0 else (y1 - y0, x1 - x0)
            own.setdefault(size, turn)
        found.append(list(own.items()))
    return found


def packed(task: Task, layout: Layout) -> Layout:
    """The layout with all rectangles on one sheet and no longer than they have to be, as far as the search finds that; else as it is."""
    sizes = sizes_of(task)
    if (
        sizes is None
        or task.stock
        or task.others
        or task.max_sheets < 1
        or task.sheet.count == 0
        or layout.unplaced
        or not 1 < sum(s.quantity for s in task.shapes) <= MANY
    ):
        return layout
    gap = task.gap
    low_x, low_y, high_x, high_y = (m - gap / 2 for m in task.edges)
    width = task.sheet.width - low_y - high_y
    room = math.inf if task.sheet.roll else task.sheet.length - low_x - high_x
    best = room if len(layout.sheets) > 1 else layout.sheets[0].used_length - high_x - low_x
    area = sum((w + gap) * (h + gap) * s.quantity for own, s in zip(sizes, task.shapes, strict=True) for (w, h), _ in own[:1])
    wide = [[((w + gap, h + gap), t) for (w, h), t in own] for own in sizes]
    steps = MOST if task.rounds else int(min(A_SECOND * task.seconds, MOST))
    for waste in WASTE:
        length = min(area * (1 + waste) / width, room)
        if length > best - SAME and len(layout.sheets) == 1:
            break
        found = _filled(wide, [s.quantity for s in task.shapes], length, width, steps=steps // 10 if waste else steps)
        if found:
            copies = [itertools.count() for _ in task.shapes]
            placed = [_placement(task, shape, next(copies[shape]), x + low_x, y + low_y, turn) for shape, x, y, turn in found]
            return finished_layout(task, [(task.sheet, placed)], {}, layout.passes, False)
    return layout


def _placement(task: Task, shape: int, copy: int, x: float, y: float, turn: float) -> Placement:
    """A rectangle whose low corner, with half the gap round it, comes to lie at x, y."""
    x0, y0, *_ = task.shapes[shape].region.outer.moved(0.0, 0.0, turn).bounds
    return Placement(shape, copy, x + task.gap / 2 - x0, y + task.gap / 2 - y0, turn)


def _filled(
    sizes: list[list[tuple[Size, float]]], left: list[int], length: float, width: float, steps: int
) -> list[tuple[int, float, float, float]]:
    """Shape, place and turn of every rectangle in a strip of a length; empty where no way was found."""
    from zygon.nest.kernels import fill  # compiled kernels load only where they are used

    options = sorted(
        ((i, along, across, turn) for i, own in enumerate(sizes) for (along, across), turn in own),
        key=lambda o: (-o[1] * o[2], -o[2], o[0]),
    )
    seen: dict[Size, int] = {}
    twins = [seen.setdefault((along, across), k) for k, (_, along, across, _) in enumerate(options)]
    twin = np.array([t if t != k else -1 for k, t in enumerate(twins)])
    area = sum(own[0][0][0] * own[0][0][1] * n for own, n in zip(sizes, left, strict=True))
    spots, chosen = np.zeros((sum(left), 2)), np.zeros(sum(left), np.int64)
    along, across = (np.array([o[k] for o in options], float) for k in (1, 2))
    shape = np.array([o[0] for o in options])
    n = fill(along, across, shape, twin, np.array(left), length, width, length * width - area + SAME, steps, spots, chosen)
    return [(options[o][0], x, y, options[o][3]) for (x, y), o in zip(spots[:n].tolist(), chosen[:n].tolist(), strict=True)]
