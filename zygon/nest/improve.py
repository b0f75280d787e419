"""One round of improving a layout: its last sheet squeezed or dissolved into the others, by guided local search over overlapping layouts.

A round is a function of the task, the layout, and its number, so that a seed fixes the sequence of layouts, on however many cores rounds are tried.
"""

from __future__ import annotations

import math
import time
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from shapely.geometry import Polygon

from zygon.nest.base import Base, base_of
from zygon.nest.bottom_left import finished_layout, first_layout
from zygon.nest.field import Field
from zygon.nest.ground import ground_of
from zygon.nest.legal import layout_faults
from zygon.nest.mend import holding
from zygon.nest.shapes import filled, grown, narrowest
from zygon.nest.strip import Memory, compressed, explored, separated
from zygon.nest.swap import exchanged
from zygon.nest.task import Layout, NestSheet, Placement, Task
from zygon.tolerance import EPS

__all__ = ["Memories", "improved", "score"]

#: What a lot has learnt of the sheets that it worked on, by the shapes and copies on them.
Memories = dict[tuple[tuple[int, int], ...], Memory]
#: Sheets that are remembered.
REMEMBERED = 3

#: Places tried in the first round an item, by how much a round is longer than the one before, and at most an item.
FIRST, LONGER, MOST = 1_000.0, 1.5, 10_000.0
#: Each so many rounds the last sheet is pressed together by small steps.
FINE = 5
#: Corners of an outline beyond which its narrow notches are filled.
FILLED = 160
#: Items of one field at most: beyond, a round takes longer than it is worth.
MANY = 260


@lru_cache(maxsize=8)
def _base(task: Task) -> Base:
    # a hole that takes no part is filled, so that it costs nothing to look at
    least = min((_narrow(s.region.outer.bounds) for s in task.shapes), default=0.0) * 0.5
    outlines = [grown(s.region, task.gap, least) for s in task.shapes]
    # what has very many corners is looked at with its narrow notches filled: it is dozens of times as quick, and they take nothing worth having
    narrow = narrowest(s.region.outer for s in task.shapes)
    outlines = [filled(o, narrow) if len(o.exterior.coords) > FILLED else o for o in outlines]
    turns = [[(t, m) for m in ((False, True) if s.mirror else (False,)) for t in s.turns] for s in task.shapes]
    obstacles = _obstacles(task)
    free = [*(s.free for s in task.shapes), *(False for _ in obstacles)]
    return base_of([*outlines, *obstacles], [*turns, *([(0.0, False)] for _ in obstacles)], free)


@lru_cache(maxsize=8)
def _obstacles(task: Task) -> dict[Polygon, int]:
    """What lies beyond the outlines of offcuts, with its index in the base: after the shapes."""
    found = dict.fromkeys(p for s in task.stock for p in ground_of(task, s).obstacles)
    return {p: len(task.shapes) + k for k, p in enumerate(found)}


def _narrow(bounds: tuple[float, float, float, float]) -> float:
    return min(bounds[2] - bounds[0], bounds[3] - bounds[1])


def score(layout: Layout) -> tuple:
    """Smaller is better: copies without a place, what the sheets cost, how many they are, and how far the last one is used."""
    last = layout.sheets[-1].used_length if layout.sheets else 0.0
    cost = sum(s.cost for s in layout.sheets)
    return sum(layout.unplaced.values()), round(cost, 6), len(layout.sheets), round(last, 2)


def improved(
    task: Task,
    layout: Layout,
    number: int,
    memory: Memories,
    lot: int = 0,
    deadline: float = math.inf,
    going: Callable[[], bool] | None = None,
) -> tuple[Layout, Memories]:
    """The layout after round ``number`` (from 0), drawn by ``lot``, the same one where it found none that is better; and what was learnt on the way.

    ``memory`` is what the rounds of this lot have learnt before, by what lies on the sheet that they worked on. Ends early at ``deadline`` (of the monotonic clock), or when ``going`` says so. Whatever it returns has passed the independent check.
    """
    clock = _Clock(deadline, going)
    items = max(len(layout.sheets[-1].placements) if layout.sheets else 0, 16)
    effort = items * min(FIRST * LONGER**number, MOST)
    seed = task.seed * 1_000_003 + number * 1009 + lot * 7 + 1
    found = layout
    if layout.unplaced:
        found = _filled_up(task, layout, seed, effort / 2, clock)
    if found is layout and task.others and number % 4 in (0, 3):
        found = exchanged(task, layout, seed)
    if found is layout and number % 2 and len(layout.sheets) > 1 and len(layout.sheets) > _least_sheets(task):
        found = _dissolved(task, layout, seed, effort, clock)
    if found is layout:
        found = _squeezed(task, layout, seed, effort, clock, memory, fine=number % FINE == FINE - 1)
    if found is layout or score(found) >= score(layout) or layout_faults(task, found):
        return layout, memory
    return found, memory


def _bounds(task: Task, sheet: NestSheet) -> np.ndarray:
    g = ground_of(task, sheet)
    return np.array([g.low_x, g.low_y, g.high_x, g.high_y])


def _least_sheets(task: Task) -> int:
    """Fewer sheets than this cannot hold the parts' area; 1 where there are others than the endless kind."""
    if task.stock or task.others:
        return 1
    base, (x0, y0, x1, y1) = _base(task), _bounds(task, task.sheet)
    area = sum(base.polygons[i].area * s.quantity for i, s in enumerate(task.shapes))
    return math.ceil(area / ((x1 - x0) * (y1 - y0)) - EPS)


def _field(task: Task, sheet: NestSheet, placements: Sequence[Placement], seed: int) -> Field:
    """Parts on a sheet, with what lies beyond its outline as items that do not move."""
    known = _obstacles(task)
    still = [known[p] for p in ground_of(task, sheet).obstacles]
    poses = [(p.x, p.y, p.angle, float(p.mirrored)) for p in placements] + [(0.0, 0.0, 0.0, 0.0)] * len(still)
    fixed = [(p.shape, p.copy) in task.still for p in placements] + [True] * len(still)
    return Field(_base(task), [*(p.shape for p in placements), *still], np.array(poses), seed, fixed)


def _placed(field: Field, placements: Sequence[Placement]) -> list[Placement]:
    poses = field.pose[: len(placements)].tolist()
    return [Placement(p.shape, p.copy, x, y, angle, mirrored > 0.5) for p, (x, y, angle, mirrored) in zip(placements, poses, strict=True)]


def _finished(task: Task, layout: Layout, sheets: list[list[Placement]]) -> Layout:
    kinds = [s.sheet for s in layout.sheets]
    kept = [(kind, placed) for kind, placed in zip(kinds, sheets, strict=True) if placed]
    return finished_layout(task, kept, dict(layout.unplaced), layout.passes + 1, False)


def _squeezed(task: Task, layout: Layout, seed: int, effort: float, clock: _Clock, memory: Memories, *, fine: bool) -> Layout:
    if not layout.sheets or len(layout.sheets[-1].placements) > MANY or not _loose(task, layout.sheets[-1].placements):
        return layout
    last, sheet = layout.sheets[-1].placements, layout.sheets[-1].sheet
    field, bounds = _field(task, sheet, last, seed), _bounds(task, sheet)

    on = _until(field, effort, clock)
    if fine:
        compressed(field, bounds, on, lambda: field.tries / effort)
    else:
        lying = tuple((p.shape, p.copy) for p in last)
        explored(field, bounds, on, memory.setdefault(lying, Memory()))
        for other in list(memory)[:-REMEMBERED]:
            del memory[other]
    return _finished(task, layout, [*(list(s.placements) for s in layout.sheets[:-1]), _placed(field, last)])


def _loose(task: Task, placements: Sequence[Placement]) -> list[Placement]:
    """What of a sheet may move."""
    return [p for p in placements if (p.shape, p.copy) not in task.still]


@dataclass(frozen=True)
class _Clock:
    deadline: float
    going: Callable[[], bool] | None

    def runs(self) -> bool:
        """Whether there is time, and nobody has stopped it."""
        return time.monotonic() < self.deadline and (self.going is None or self.going())


def _until(field: Field, effort: float, clock: _Clock) -> Callable[[], bool]:
    """Whether a field may go on: so many tries, and a clock."""
    return lambda: field.tries < effort and clock.runs()


def _filled_up(task: Task, layout: Layout, seed: int, effort: float, clock: _Clock) -> Layout:
    """What found no place yet put on the sheets that are there, or on others that can still be had, as far as it finds one now."""
    sheets = [(s.sheet, list(s.placements)) for s in layout.sheets]
    shut = [n for n, (_, own) in enumerate(sheets) if any((p.shape, p.copy) in task.shut for p in own)]
    more = first_layout(holding(task, sheets, [own for _, own in sheets], shut))
    whole = {k.name: k for k in task.kinds}
    if sum(more.unplaced.values()) < sum(layout.unplaced.values()):
        kept = [(whole.get(s.sheet.name, s.sheet), s.placements) for s in more.sheets]
        return finished_layout(task, kept, more.unplaced, layout.passes + 1, False)
    placed = {(p.shape, p.copy) for _, own in sheets for p in own}
    left = [Placement(i, c, 0.0, 0.0, s.turns[0]) for i, s in enumerate(task.shapes) for c in range(s.quantity) if (i, c) not in placed]
    put = _moved_in(task, sheets, left, seed, effort, clock)
    if not put:
        return layout
    unplaced = Counter(p.shape for p in left if (p.shape, p.copy) not in put)
    return finished_layout(task, sheets, dict(unplaced), layout.passes + 1, False)


def _dissolved(task: Task, layout: Layout, seed: int, effort: float, clock: _Clock) -> Layout:
    """The last sheet's parts moved to the others, as many as find a place there."""
    last = list(layout.sheets[-1].placements)
    if len(_loose(task, last)) < len(last):
        return layout  # something on it stays, and so does the sheet
    sheets = [(s.sheet, list(s.placements)) for s in layout.sheets[:-1]]
    put = _moved_in(task, sheets, last, seed, effort, clock)
    rest = [p for p in last if (p.shape, p.copy) not in put]
    return _finished(task, layout, [*(own for _, own in sheets), rest]) if put else layout


def _moved_in(
    task: Task, sheets: list[tuple[NestSheet, list[Placement]]], parts: list[Placement], seed: int, effort: float, clock: _Clock
) -> set[tuple[int, int]]:
    """Puts parts on sheets where the others can be moved apart for them, large ones first; which (shape, copy) were. Changes ``sheets``."""
    base, put, tries = _base(task), set[tuple[int, int]](), 0.0
    free = [kind.area - sum(base.polygons[p.shape].area for p in own) for kind, own in sheets]
    for part in sorted(parts, key=lambda p: (-base.polygons[p.shape].area, p.shape, p.copy)):
        for n in sorted(range(len(free)), key=lambda k: -free[k]):
            if tries >= effort or not clock.runs():
                return put
            kind, own = sheets[n]
            if base.polygons[part.shape].area > free[n] or len(own) >= MANY or any((p.shape, p.copy) in task.shut for p in own):
                continue
            items = [*own, part]
            field, bounds = _field(task, kind, items, seed + len(items)), _bounds(task, kind)
            if not field.fits(bounds):
                continue
            field.within(bounds)
            done = separated(field, bounds, _until(field, min(effort - tries, effort / 4), clock), patience=30, strikes=2)
            tries += field.tries
            if done:
                own[:] = _placed(field, items)
                put.add((part.shape, part.copy))
                free[n] -= base.polygons[part.shape].area
                break
    return put
