"""A first layout: shapes one by one to the leftmost, then lowest free place, in a few orders; the best layout wins."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np
import shapely
from shapely.geometry import Polygon, box

from zygon.nest.ground import Ground, ground_of
from zygon.nest.nofit import convex_pieces, no_fit
from zygon.nest.shapes import TOUCH, envelope, turned
from zygon.nest.task import Layout, NestSheet, Offcut, Placement, SheetLayout, Task

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
    """A sheet with what lies on it; obstacles come first in ``placed``, with a copy of -1."""

    sheet: NestSheet
    ground: Ground
    placed: list[tuple[_Turned, float, float, int]]
    # the union of no-fit polygons for each kind of mover, and how many of ``placed`` it holds
    blocked: dict[tuple[int, float], tuple[shapely.Geometry, int]]


class _Search:
    def __init__(self, task: Task) -> None:
        self.task = task
        self.turned = [self._prepare(i) for i in range(len(task.shapes))]
        self.sums: dict[tuple[int, float, int, float], Polygon] = {}
        self.obstacles: dict[Polygon, _Turned] = {}

    def open(self, sheet: NestSheet) -> _OpenSheet:
        """A sheet with nothing on it but what lies beyond its outline."""
        ground = ground_of(self.task, sheet)
        for polygon in ground.obstacles:
            if polygon not in self.obstacles:
                own = -1 - len(self.obstacles)
                self.obstacles[polygon] = _Turned(own, 0.0, polygon, convex_pieces(polygon), polygon.bounds)
        return _OpenSheet(sheet, ground, [(self.obstacles[p], 0.0, 0.0, -1) for p in ground.obstacles], {})

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

    def _no_fit(self, still: _Turned, moving: _Turned) -> Polygon:
        key = (still.shape, still.angle, moving.shape, moving.angle)
        if key not in self.sums:
            self.sums[key] = no_fit(still.pieces, moving.pieces)
        return self.sums[key]

    def _place(self, sheet: _OpenSheet, t: _Turned) -> tuple[float, float] | None:
        """The leftmost, then lowest place for the shape's origin on a sheet, or None."""
        x0, y0, x1, y1 = t.bounds
        g = sheet.ground
        lo_x, lo_y, hi_x, hi_y = g.low_x - x0, g.low_y - y0, g.high_x - x1, g.high_y - y1
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
        stock = [self.open(sheet) for sheet in self.task.stock]
        more: list[_OpenSheet] = []
        unplaced: dict[int, int] = {}
        for i, copy in order:
            if not self._put(stock, more, self.turned[i], copy):
                unplaced[i] = unplaced.get(i, 0) + 1
        return [s for s in (*stock, *more) if any(c >= 0 for *_, c in s.placed)], unplaced

    def _put(self, stock: list[_OpenSheet], more: list[_OpenSheet], options: list[_Turned], copy: int) -> bool:
        """On the first sheet that has room: single ones and offcuts, sheets that are begun, a new one."""
        if any(self._put_on(sheet, options, copy) for sheet in (*stock, *more)):
            return True
        if len(more) >= self.task.max_sheets:
            return False
        fresh = self.open(self.task.sheet)
        if not self._put_on(fresh, options, copy):
            return False
        more.append(fresh)
        return True

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
    last = max((x + t.bounds[2] for t, x, _, copy in sheets[-1].placed if copy >= 0), default=0.0) if sheets else 0.0
    moment = sum((x + t.bounds[2]) * t.polygon.area for s in sheets for t, x, _, copy in s.placed if copy >= 0)
    return sum(unplaced.values()), len(sheets), round(last, 3), round(moment, 1)


def _layout(task: Task, sheets: list[_OpenSheet], unplaced: dict[int, int], passes: int, stopped: bool) -> Layout:
    placed = [(s.sheet, [Placement(t.shape, copy, x, y, t.angle) for t, x, y, copy in s.placed if copy >= 0]) for s in sheets]
    return finished_layout(task, placed, unplaced, passes, stopped)


def finished_layout(
    task: Task, placed: Sequence[tuple[NestSheet, Sequence[Placement]]], unplaced: dict[int, int], passes: int, stopped: bool
) -> Layout:
    """A layout from sheets with their placements: how far each is used, its offcut, and the share of the area that is parts."""
    made = []
    area = used_area = 0.0
    for sheet, placements in placed:
        reach = max(_right(task, p) for p in placements)
        length = min(reach + task.margin, sheet.length)
        made.append(SheetLayout(sheet, tuple(placements), length, _offcut(sheet, length)))
        area += sum(task.shapes[p.shape].region.area for p in placements)
        used_area += length * sheet.width if sheet.roll else sheet.area
    return Layout(tuple(made), unplaced, area / used_area if used_area else 0.0, passes, stopped)


def _right(task: Task, p: Placement) -> float:
    return task.shapes[p.shape].region.outer.moved(p.x, p.y, p.angle, p.mirrored).bounds[2]


def _offcut(sheet: NestSheet, used: float) -> Offcut | None:
    rest = sheet.length - used
    return Offcut(used, 0.0, rest, sheet.width) if not sheet.roll and sheet.outline is None and rest > 20 else None


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
