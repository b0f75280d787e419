"""A first layout: shapes one by one to the leftmost, then lowest free place, in a few orders; the best layout wins."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

import numpy as np
import shapely
from shapely.geometry import Polygon, box

from zygon.nest.nofit import convex_pieces, no_fit
from zygon.nest.shapes import TOUCH, envelope, turned
from zygon.nest.task import Layout, Offcut, Placement, SheetLayout, Task

__all__ = ["finished_layout", "first_layout"]

#: Copies placed in all orders together, at most; one order is always tried.
MOST_TRIES = 300


@dataclass
class _Turned:
    """One shape at one angle, ready to be placed."""

    shape: int
    angle: float
    polygon: Polygon
    pieces: list[np.ndarray]
    bounds: tuple[float, float, float, float]


@dataclass
class _OpenSheet:
    placed: list[tuple[_Turned, float, float, int]]
    # the union of no-fit polygons for each kind of mover, and how many of ``placed`` it holds
    blocked: dict[tuple[int, float], tuple[shapely.Geometry, int]]


class _Search:
    def __init__(self, task: Task) -> None:
        self.task = task
        self.turned = [self._prepare(i) for i in range(len(task.shapes))]
        self.sums: dict[tuple[int, float, int, float], Polygon] = {}
        grow = task.margin - task.gap / 2 + TOUCH
        self.low = grow
        self.high_x = (task.sheet.length if not task.sheet.roll else 1e7) - grow
        self.high_y = task.sheet.width - grow

    def _prepare(self, i: int) -> list[_Turned]:
        shape = self.task.shapes[i]
        base = envelope(shape.region.outer, self.task.gap)
        found: list[_Turned] = []
        for angle in shape.turns:
            polygon = turned(base, angle)
            # a turn that changes nothing is not tried twice
            if any(_same(polygon, t.polygon) for t in found):
                continue
            found.append(_Turned(i, angle, polygon, convex_pieces(polygon), polygon.bounds))
        return found

    def fits_alone(self, t: _Turned) -> bool:
        x0, y0, x1, y1 = t.bounds
        return x1 - x0 <= self.high_x - self.low + TOUCH and y1 - y0 <= self.high_y - self.low + TOUCH

    def _no_fit(self, still: _Turned, moving: _Turned) -> Polygon:
        key = (still.shape, still.angle, moving.shape, moving.angle)
        if key not in self.sums:
            self.sums[key] = no_fit(still.pieces, moving.pieces)
        return self.sums[key]

    def _place(self, sheet: _OpenSheet, t: _Turned) -> tuple[float, float] | None:
        """The leftmost, then lowest place for the shape's origin on a sheet, or None."""
        x0, y0, x1, y1 = t.bounds
        lo_x, lo_y, hi_x, hi_y = self.low - x0, self.low - y0, self.high_x - x1, self.high_y - y1
        if hi_x < lo_x - TOUCH or hi_y < lo_y - TOUCH:
            return None
        # at least a film wide, so that a shape that fits exactly has a place
        inner = box(lo_x - TOUCH, lo_y - TOUCH, max(hi_x, lo_x) + TOUCH, max(hi_y, lo_y) + TOUCH)
        key = (t.shape, t.angle)
        blocked, known = sheet.blocked.get(key, (None, 0))
        fresh = sheet.placed[known:]
        if fresh:
            moved = [shapely.transform(self._no_fit(s, t), lambda xy, d=(x, y): xy + d) for s, x, y, _ in fresh]
            blocked = shapely.union_all(moved if blocked is None else [blocked, *moved])
            sheet.blocked[key] = (blocked, len(sheet.placed))
        free = inner if blocked is None else shapely.difference(inner, blocked)
        if free.is_empty:
            return None
        points = shapely.get_coordinates(free)
        if not len(points):
            return None
        k = np.lexsort((points[:, 1], np.round(points[:, 0], 3)))[0]
        return float(min(max(points[k, 0], lo_x), max(hi_x, lo_x))), float(min(max(points[k, 1], lo_y), max(hi_y, lo_y)))

    def run(self, order: list[tuple[int, int]]) -> tuple[list[_OpenSheet], dict[int, int]]:
        """Places copies in this order; each at the allowed turn that ends farthest left."""
        sheets: list[_OpenSheet] = []
        unplaced: dict[int, int] = {}
        for i, copy in order:
            if not self._put(sheets, self.turned[i], copy):
                unplaced[i] = unplaced.get(i, 0) + 1
        return sheets, unplaced

    def _put(self, sheets: list[_OpenSheet], options: list[_Turned], copy: int) -> bool:
        options = [t for t in options if self.fits_alone(t)]
        if not options:
            return False
        for sheet in sheets:
            if self._put_on(sheet, options, copy):
                return True
        if len(sheets) >= self.task.max_sheets:
            return False
        sheets.append(_OpenSheet([], {}))
        return self._put_on(sheets[-1], options, copy)

    def _put_on(self, sheet: _OpenSheet, options: list[_Turned], copy: int) -> bool:
        best = None
        for t in options:
            at = self._place(sheet, t)
            if at is not None:
                key = (round(at[0] + t.bounds[2], 3), round(at[1] + t.bounds[3], 3))
                if best is None or key < best[0]:
                    best = (key, t, at)
        if best is None:
            return False
        sheet.placed.append((best[1], best[2][0], best[2][1], copy))
        return True


def first_layout(task: Task, start: list[int] | None = None) -> Layout:
    """The best of a few orders: by area, by length, by width, by both, as far as the task is small enough to try them.

    ``start`` is an order of shape indices to try first, as from an earlier layout.
    """
    search = _Search(task)
    copies = [(i, c) for i, s in enumerate(task.shapes) for c in range(s.quantity)]
    if not copies:
        return Layout(())
    best: tuple[tuple, list[_OpenSheet], dict[int, int]] | None = None
    orders = _orders(search, copies, start)
    for order in orders[: max(1, MOST_TRIES // len(copies))]:
        sheets, unplaced = search.run(order)
        found = _score(sheets, unplaced)
        if best is None or found < best[0]:
            best = (found, sheets, unplaced)
    assert best is not None  # there is always one order
    return _layout(task, best[1], best[2], 0, False)


def _orders(search: _Search, copies: list[tuple[int, int]], start: list[int] | None) -> list[list[tuple[int, int]]]:
    """Orders worth trying, the one of an earlier layout first."""
    turned = search.turned
    area = {i: t[0].polygon.area for i, t in enumerate(turned) if t}
    spans = {i: (t[0].bounds[2] - t[0].bounds[0], t[0].bounds[3] - t[0].bounds[1]) for i, t in enumerate(turned) if t}
    keys = (lambda i: -area[i], lambda i: -max(spans[i]), lambda i: -min(spans[i]), lambda i: -sum(spans[i]))
    found = [sorted(copies, key=partial(_ranked, key)) for key in keys]
    if start:
        rank = {i: k for k, i in reversed(list(enumerate(start)))}
        found.insert(0, sorted(copies, key=lambda c: (rank.get(c[0], len(rank)), -area[c[0]], c)))
    return found


def _ranked(key: Callable[[int], float], copy: tuple[int, int]) -> tuple[float, tuple[int, int]]:
    return key(copy[0]), copy


def _score(sheets: list[_OpenSheet], unplaced: dict[int, int]) -> tuple:
    """Smaller is better: unplaced, sheets, then how far the last sheet is used, then how far all parts lie to the right."""
    last = max((x + t.bounds[2] for t, x, _, _ in sheets[-1].placed), default=0.0) if sheets else 0.0
    moment = sum((x + t.bounds[2]) * t.polygon.area for s in sheets for t, x, _, _ in s.placed)
    return sum(unplaced.values()), len(sheets), round(last, 3), round(moment, 1)


def _layout(task: Task, sheets: list[_OpenSheet], unplaced: dict[int, int], passes: int, stopped: bool) -> Layout:
    placed = [[Placement(t.shape, copy, x, y, t.angle) for t, x, y, copy in sheet.placed] for sheet in sheets]
    return finished_layout(task, placed, unplaced, passes, stopped)


def finished_layout(task: Task, placed: list[list[Placement]], unplaced: dict[int, int], passes: int, stopped: bool) -> Layout:
    """A layout from placements a sheet: how far each is used, its offcut, and the share of the area that is parts."""
    made = []
    area = used_area = 0.0
    for placements in placed:
        reach = max(_right(task, p) for p in placements)
        length = min(reach + task.margin, task.sheet.length)
        made.append(SheetLayout(task.sheet, tuple(placements), length, _offcut(task, length)))
        area += sum(task.shapes[p.shape].region.area for p in placements)
        used_area += (length if task.sheet.roll else task.sheet.length) * task.sheet.width
    return Layout(tuple(made), unplaced, area / used_area if used_area else 0.0, passes, stopped)


def _right(task: Task, p: Placement) -> float:
    return task.shapes[p.shape].region.outer.moved(p.x, p.y, p.angle, p.mirrored).bounds[2]


def _offcut(task: Task, used: float) -> Offcut | None:
    rest = task.sheet.length - used
    return Offcut(used, 0.0, rest, task.sheet.width) if not task.sheet.roll and rest > 20 else None


def _same(a: Polygon, b: Polygon) -> bool:
    """Whether two polygons differ by a shift at most."""
    if (
        abs(a.area - b.area) > 1e-6
        or max(
            abs((a.bounds[2] - a.bounds[0]) - (b.bounds[2] - b.bounds[0])), abs((a.bounds[3] - a.bounds[1]) - (b.bounds[3] - b.bounds[1]))
        )
        > 1e-6
    ):
        return False
    d = (b.bounds[0] - a.bounds[0], b.bounds[1] - a.bounds[1])
    return shapely.transform(a, lambda xy: xy + d).symmetric_difference(b).area < 1e-6 * max(a.area, 1.0)
