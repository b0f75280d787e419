"""A first layout: shapes one by one to the leftmost, then lowest free place, in a few orders; the best layout wins."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property, partial

import numpy as np
import shapely
from shapely.geometry import Polygon, box

from zygon.memo import Memo, digest
from zygon.nest.ground import Ground, ground_of
from zygon.nest.nofit import convex_pieces, no_fit
from zygon.nest.shapes import TOUCH, envelope, flipped, narrowest, turned
from zygon.nest.task import Layout, NestSheet, Placement, SheetLayout, Task
from zygon.tolerance import WITHIN

__all__ = ["finished_layout", "first_layout"]

#: Copies placed in all orders together, at most; one order is always tried.
MOST_TRIES = 300
#: Pieces of outlines, and how two of them keep apart, by what they are: most are the same in the next run of a design.
_PIECES, _APART = Memo(500), Memo(3000)
#: With more corners than this it is not kept from run to run: 15 MiB in all at most.
FEW_CORNERS = 300


@dataclass
class _Turned:
    """One shape at one angle, ready to be placed."""

    shape: int
    angle: float
    mirrored: bool
    polygon: Polygon
    pieces: list[np.ndarray]
    bounds: tuple[float, float, float, float]

    @property
    def key(self) -> tuple[int, float, bool]:
        """Shape, angle and side."""
        return self.shape, self.angle, self.mirrored

    @cached_property
    def form(self) -> str:
        """The hash of its outline, whatever shape it is of."""
        return digest(self.polygon.wkb)


def _ready(shape: int, angle: float, mirrored: bool, polygon: Polygon) -> _Turned:
    """A shape's outline at an angle, cut into convex pieces."""
    pieces, _ = _PIECES.get(digest(polygon.wkb), lambda: convex_pieces(polygon))
    return _Turned(shape, angle, mirrored, polygon, pieces, polygon.bounds)


@dataclass
class _OpenSheet:
    """A sheet with what lies on it; obstacles come first in ``placed``, with a copy of -1."""

    sheet: NestSheet
    ground: Ground
    placed: list[tuple[_Turned, float, float, int]]
    # the union of no-fit polygons for each kind of mover, and how many of ``placed`` it holds
    blocked: dict[tuple[int, float, bool], tuple[shapely.Geometry, int]]


class _Stopped(Exception):
    """Whoever asked has had enough."""


class _Search:
    def __init__(self, task: Task, going: Callable[[], bool] | None) -> None:
        self.task, self.going = task, going
        self.narrow = narrowest(s.region.outer for s in task.shapes)
        self.turned = [self._prepare(i) for i in range(len(task.shapes))]
        self.sums: dict[tuple, Polygon] = {}
        self.obstacles: dict[Polygon, _Turned] = {}
        self.lying: dict[tuple[int, float, bool], _Turned] = {}

    def open(self, sheet: NestSheet) -> _OpenSheet:
        """A sheet with nothing on it but what lies beyond its outline."""
        ground = ground_of(self.task, sheet)
        for polygon in ground.obstacles:
            if polygon not in self.obstacles:
                own = -1 - len(self.obstacles)
                self.obstacles[polygon] = _ready(own, 0.0, False, polygon)
        return _OpenSheet(sheet, ground, [(self.obstacles[p], 0.0, 0.0, -1) for p in ground.obstacles], {})

    def hold(self, sheet: _OpenSheet, p: Placement) -> None:
        """Lays a part where it is held."""
        key = (p.shape, p.angle, p.mirrored)
        if key not in self.lying:
            polygon = turned(flipped(envelope(self.task.shapes[p.shape].region.outer, self.task.gap), p.mirrored), p.angle)
            self.lying[key] = _ready(*key, polygon)
        sheet.placed.append((self.lying[key], p.x, p.y, p.copy))

    def _prepare(self, i: int) -> list[_Turned]:
        shape = self.task.shapes[i]
        base = envelope(shape.region.outer, self.task.gap, self.narrow)
        found: list[_Turned] = []
        for mirrored in (False, True) if shape.mirror else (False,):
            for angle in shape.turns:
                polygon = turned(flipped(base, mirrored), angle)
                # a turn that changes nothing is not tried twice
                if any(_same(polygon, t.polygon) for t in found):
                    continue
                found.append(_ready(i, angle, mirrored, polygon))
        return found

    def _no_fit(self, still: _Turned, moving: _Turned) -> Polygon:
        key = (*still.key, *moving.key)
        if key not in self.sums:
            forms = still.form + moving.form
            found = _APART.known(forms) or no_fit(still.pieces, moving.pieces)
            if shapely.get_num_coordinates(found) <= FEW_CORNERS:
                _APART.put(forms, found)
            self.sums[key] = found
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
        key = t.key
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

    def run(self, order: list[tuple[int, int]], kinds: Sequence[NestSheet]) -> tuple[list[_OpenSheet], dict[int, int]]:
        """Places copies in this order, each at the allowed turn that ends farthest left; new sheets are of the first of the ``kinds`` that will do."""
        stock = [self.open(sheet) for sheet in self.task.stock]
        for n, placement in self.task.held:
            self.hold(stock[n], placement)
        lot = [s for n, s in enumerate(stock) if n not in self.task.closed]
        more: list[_OpenSheet] = []
        unplaced: dict[int, int] = {}
        for i, copy in order:
            if self.going and not self.going():
                raise _Stopped
            if not any(self._put_on(sheet, self.turned[i], copy) for sheet in (*lot, *more)) and not self._on_fresh(more, i, copy, kinds):
                unplaced[i] = unplaced.get(i, 0) + 1
        return [s for s in (*stock, *more) if any(c >= 0 for *_, c in s.placed)], unplaced

    def _on_fresh(self, more: list[_OpenSheet], i: int, copy: int, kinds: Sequence[NestSheet]) -> bool:
        if len(more) >= self.task.max_sheets:
            return False
        for kind in kinds:
            if kind.count is not None and sum(s.sheet == kind for s in more) >= kind.count:
                continue
            fresh = self.open(kind)
            if self._put_on(fresh, self.turned[i], copy):
                more.append(fresh)
                return True
        return False

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


def first_layout(task: Task, going: Callable[[], bool] | None = None) -> Layout:
    """The best of a few orders: by area, by length, by width, by both, as far as the task is small enough to try them.

    Each kind of sheet is tried as the one that comes first. ``going`` is asked at every copy, and may end it by False: the best order so far is
    what is given then, and no sheets, marked as stopped, where none was laid whole.
    """
    search = _Search(task, going)
    copies = [(i, c) for i, s in enumerate(task.shapes) for c in range(s.quantity)]
    if not copies:
        return Layout(())
    loose = [c for c in copies if c not in task.still]
    best: tuple[tuple, list[_OpenSheet], dict[int, int]] | None = None
    orders = _orders(search, loose)
    for order in orders[: max(1, MOST_TRIES // len(copies) // len(task.kinds))]:
        for kinds in _kinds_first(task):
            try:
                sheets, unplaced = search.run(order, kinds)
            except _Stopped:
                return (
                    _layout(task, best[1], best[2], 0, True)
                    if best
                    else Layout((), {i: s.quantity for i, s in enumerate(task.shapes)}, stopped=True)
                )
            found = _score(task, sheets, unplaced)
            if best is None or found < best[0]:
                best = (found, sheets, unplaced)
    assert best is not None  # there is always one order
    return _layout(task, best[1], best[2], 0, False)


def _kinds_first(task: Task) -> list[list[NestSheet]]:
    """Each kind of sheet first once, the others after it, those that cost least for their area first."""
    kinds = sorted(task.kinds, key=lambda k: (math.inf if k.roll else k.price / k.area, -k.width))
    return [[k, *(o for o in kinds if o is not k)] for k in kinds]


def _orders(search: _Search, copies: list[tuple[int, int]]) -> list[list[tuple[int, int]]]:
    """Orders worth trying."""
    turned = search.turned
    area = {i: t[0].polygon.area for i, t in enumerate(turned) if t}
    spans = {i: (t[0].bounds[2] - t[0].bounds[0], t[0].bounds[3] - t[0].bounds[1]) for i, t in enumerate(turned) if t}
    keys = (lambda i: -area[i], lambda i: -max(spans[i]), lambda i: -min(spans[i]), lambda i: -sum(spans[i]))
    return [sorted(copies, key=partial(_ranked, key)) for key in keys]


def _ranked(key: Callable[[int], float], copy: tuple[int, int]) -> tuple[float, tuple[int, int]]:
    return key(copy[0]), copy


def _score(task: Task, sheets: list[_OpenSheet], unplaced: dict[int, int]) -> tuple:
    """Smaller is better: unplaced, cost where kinds differ, sheets, then how far the last sheet is used, then how far all parts lie to the right."""
    last = max((x + t.bounds[2] for t, x, _, copy in sheets[-1].placed if copy >= 0), default=0.0) if sheets else 0.0
    moment = sum((x + t.bounds[2]) * t.polygon.area for s in sheets for t, x, _, copy in s.placed if copy >= 0)
    cost = 0.0
    if task.others:
        used = [(s.sheet, max((x + t.bounds[2] for t, x, _, copy in s.placed if copy >= 0), default=0.0)) for s in sheets]
        cost = sum(s.price * (reach / 1000 if s.roll else 1.0) for s, reach in used)
    return sum(unplaced.values()), round(cost, 6), len(sheets), round(last, 3), round(moment, 1)


def _layout(task: Task, sheets: list[_OpenSheet], unplaced: dict[int, int], passes: int, stopped: bool) -> Layout:
    placed = [(s.sheet, [Placement(t.shape, copy, x, y, t.angle, t.mirrored) for t, x, y, copy in s.placed if copy >= 0]) for s in sheets]
    return finished_layout(task, placed, unplaced, passes, stopped)


def finished_layout(
    task: Task, placed: Sequence[tuple[NestSheet, Sequence[Placement]]], unplaced: dict[int, int], passes: int, stopped: bool
) -> Layout:
    """A layout from sheets with their placements: how far each is used, and the share of the area that is parts."""
    made = []
    area = used_area = 0.0
    for sheet, placements in placed:
        reach = max(_right(task, p) for p in placements)
        length = min(reach + task.edges[2], sheet.length)
        made.append(SheetLayout(sheet, tuple(placements), length))
        area += sum(task.shapes[p.shape].region.area for p in placements)
        used_area += length * sheet.width if sheet.roll else sheet.area
    return Layout(tuple(made), unplaced, area / used_area if used_area else 0.0, passes, stopped)


def _right(task: Task, p: Placement) -> float:
    return task.shapes[p.shape].region.outer.moved(p.x, p.y, p.angle, p.mirrored).bounds[2]


def _same(a: Polygon, b: Polygon) -> bool:
    """Whether two polygons differ by a shift at most."""
    if (
        abs(a.area - b.area) > WITHIN
        or max(
            abs((a.bounds[2] - a.bounds[0]) - (b.bounds[2] - b.bounds[0])), abs((a.bounds[3] - a.bounds[1]) - (b.bounds[3] - b.bounds[1]))
        )
        > WITHIN
    ):
        return False
    d = (b.bounds[0] - a.bounds[0], b.bounds[1] - a.bounds[1])
    return shapely.transform(a, lambda xy: xy + d).symmetric_difference(b).area < WITHIN * max(a.area, 1.0)
