"""The first nesting engine: shapes one by one to the leftmost, then lowest free place, in many orders; the best layout wins.

The same seed gives the same layout: how many orders are tried follows from the time asked for and the size of the task, not from the
clock. The clock only stops a search that takes several times as long as was asked, and the layout says so.
"""

from __future__ import annotations

import math
import random
import time
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon, box

from zygon.nest.nofit import convex_pieces, no_fit
from zygon.nest.shapes import TOUCH, envelope, turned
from zygon.nest.task import Layout, Offcut, Placement, SheetLayout, Task

__all__ = ["allowed_turns", "finished_layout", "nest"]

#: How many tries of one place a second is worth (measured on two cores, on the safe side).
TRIES_A_SECOND = 1500
#: The clock stops a search that takes this many times what was asked.
PATIENCE = 3.0


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

    def run(self, order: list[tuple[int, int]], turns: list[int], late: Callable[[], bool]) -> tuple[list[_OpenSheet], dict[int, int]]:
        """Places copies in this order; each at the allowed turn (``turns`` may name one) that ends farthest left."""
        sheets: list[_OpenSheet] = []
        unplaced: dict[int, int] = {}
        for (i, copy), wish in zip(order, turns, strict=True):
            options = self.turned[i] if wish < 0 else [self.turned[i][wish % len(self.turned[i])]]
            if not self._put(sheets, options, copy) and (wish < 0 or not self._put(sheets, self.turned[i], copy)):
                unplaced[i] = unplaced.get(i, 0) + 1
            if late():
                break
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


def nest(task: Task, progress: Callable[[int, int, Layout], bool] | None = None, start: list[int] | None = None) -> Layout:
    """Lays a task out. ``progress(pass, of, best)`` is told after each pass and may stop the search by returning False.

    ``start`` is an order of shape indices to try first, as from an earlier layout.
    """
    search = _Search(task)
    copies = [(i, c) for i, s in enumerate(task.shapes) for c in range(s.quantity)]
    if not copies:
        return Layout(())
    began = time.monotonic()
    passes = _passes(task, search, len(copies))
    rng = random.Random(task.seed)
    best: tuple[tuple, list, dict[int, int]] | None = None
    current: tuple[tuple, list, list[int]] | None = None
    done, stopped = 0, False

    def late() -> bool:
        return best is not None and time.monotonic() - began > PATIENCE * task.seconds

    for n in range(passes):
        order, turns = _next_order(task, search, copies, n, rng, current, start)
        sheets, unplaced = search.run(order, turns, late)
        if late():
            stopped = True
            break
        done += 1
        score = _score(sheets, unplaced)
        if current is None or (n < 4 and score < current[0]) or (n >= 4 and score <= current[0]):
            current = (score, order, turns)
        if best is None or score < best[0]:
            best = (score, sheets, unplaced)
        if progress and not progress(done, passes, _layout(task, best[1], best[2], done, False)):
            stopped = True
            break
    assert best is not None  # the first pass is never cut short
    return _layout(task, best[1], best[2], done, stopped)


def _passes(task: Task, search: _Search, copies: int) -> int:
    """How many orders the asked-for time stands for; from the task alone, so that the seed decides the result."""
    corners = sum(len(t[0].polygon.exterior.coords) * s.quantity for t, s in zip(search.turned, task.shapes, strict=True) if t) / copies
    options = sum(len(t) * s.quantity for t, s in zip(search.turned, task.shapes, strict=True)) / copies
    tries = copies * max(options, 1) * (0.5 + corners / 12) * (0.6 + copies / 40)
    return int(min(max(task.seconds * TRIES_A_SECOND / tries, 1), 4000))


def _next_order(task: Task, search: _Search, copies, n: int, rng: random.Random, current, start):
    """The n-th order to try: by area, by length, by height, by width, then changes of the best so far."""
    area = {i: search.turned[i][0].polygon.area for i in range(len(task.shapes)) if search.turned[i]}
    spans = {i: (t[0].bounds[2] - t[0].bounds[0], t[0].bounds[3] - t[0].bounds[1]) for i, t in enumerate(search.turned) if t}
    if n == 0 and start:
        rank = {i: k for k, i in reversed(list(enumerate(start)))}
        return sorted(copies, key=lambda c: (rank.get(c[0], len(rank)), -area[c[0]], c)), [-1] * len(copies)
    keys = (lambda i: -area[i], lambda i: -max(spans[i]), lambda i: -min(spans[i]), lambda i: -sum(spans[i]))
    if n < 4:
        return sorted(copies, key=lambda c: (keys[n](c[0]), c)), [-1] * len(copies)
    _, order, turns = current
    order, turns = list(order), list(turns)
    for _ in range(rng.choice((1, 1, 2, 3))):
        a, b = rng.randrange(len(order)), rng.randrange(len(order))
        if rng.random() < 0.5:
            order[a], order[b] = order[b], order[a]
            turns[a], turns[b] = turns[b], turns[a]
        else:
            order.insert(b, order.pop(a))
            turns.insert(b, turns.pop(a))
        if rng.random() < 0.4:
            turns[b] = rng.randrange(-1, 4)
    return order, turns


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


def allowed_turns(turn: str) -> tuple[float, ...]:
    """The angles in radians that 'none', '180' or '90' allow."""
    return {"none": (0.0,), "180": (0.0, math.pi), "90": (0.0, math.pi / 2, math.pi, 3 * math.pi / 2)}[turn]
