"""One round of improving a layout: its last sheet squeezed or dissolved into the others, by guided local search over overlapping layouts.

A round is a function of the task, the layout, and its number, so that a seed fixes the sequence of layouts, on however many cores rounds are tried.
"""

from __future__ import annotations

import math
import time
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache, partial

import numpy as np
import shapely
from shapely.geometry import Polygon

from zygon.nest.base import Base, base_of
from zygon.nest.bottom_left import finished_layout, first_layout
from zygon.nest.field import Field
from zygon.nest.ground import ground_of
from zygon.nest.legal import layout_faults
from zygon.nest.mend import holding
from zygon.nest.shapes import filled, flipped, grown, narrowest, turned
from zygon.nest.strip import Memory, compressed, explored, separated
from zygon.nest.swap import exchanged
from zygon.nest.task import Layout, NestSheet, Placement, Task
from zygon.nest.windows import Filling, Place

__all__ = ["Memories", "improved", "joined", "score"]

#: What a lot has learnt of the sheets that it worked on, by the shapes and copies on them.
Memories = dict[tuple[tuple[int, int], ...], Memory]
#: Sheets that are remembered.
REMEMBERED = 3

#: Places tried in the first round an item, by how much a round is longer than the one before, and at most an item.
FIRST, LONGER, MOST = 1_000.0, 1.5, 10_000.0
#: Each so many rounds the last sheet is pressed together by small steps.
FINE = 5
#: Of so many rounds one squeezes the last sheet, and the others fill those before it from it, where there are any.
SQUEEZE = 3
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


def score(task: Task, layout: Layout) -> tuple:
    """Smaller is better: copies without a place, what the sheets cost, how many they are, how far the last one is used, and what lies on it."""
    last = layout.sheets[-1].used_length if layout.sheets else 0.0
    cost = sum(s.cost for s in layout.sheets)
    area = sum(task.shapes[p.shape].region.area for s in layout.sheets[-1:] for p in s.placements)
    return sum(layout.unplaced.values()), round(cost, 6), len(layout.sheets), round(last, 2), round(area, 2)


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
    if found is layout and number % SQUEEZE and len(layout.sheets) > 1:
        found = _filled(task, layout, seed, effort * (len(layout.sheets) - 1), clock, _share_of(task, layout, lot))
    if found is layout:
        found = _squeezed(task, layout, seed, effort, clock, memory, fine=number % FINE == FINE - 1)
    if found is layout or score(task, found) >= score(task, layout) or layout_faults(task, found, layout):
        return layout, memory
    return found, memory


def _bounds(task: Task, sheet: NestSheet) -> np.ndarray:
    g = ground_of(task, sheet)
    return np.array([g.low_x, g.low_y, g.high_x, g.high_y])


def _field(task: Task, sheet: NestSheet, placements: Sequence[Placement], seed: int, held: Sequence[bool] | None = None) -> Field:
    """Parts on a sheet, with what lies beyond its outline as items that do not move; nor do those that are ``held``, or locked where that is not said."""
    known = _obstacles(task)
    still = [known[p] for p in ground_of(task, sheet).obstacles]
    poses = [(p.x, p.y, p.angle, float(p.mirrored)) for p in placements] + [(0.0, 0.0, 0.0, 0.0)] * len(still)
    fixed = list(held if held is not None else [(p.shape, p.copy) in task.still for p in placements]) + [True] * len(still)
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


@dataclass(frozen=True)
class _Share:
    """What one of several lots works on: full sheets by their number, and what of the last sheet it may take away."""

    full: tuple[int, ...]
    offered: tuple[tuple[int, int], ...]


def _share_of(task: Task, layout: Layout, lot: int) -> _Share:
    """Each lot has sheets and parts of its own where there are enough sheets, so that what they find can be put together; else all have all."""
    closed = [n for n, s in enumerate(layout.sheets[:-1]) if any((p.shape, p.copy) in task.shut for p in s.placements)]
    full = [n for n in range(len(layout.sheets) - 1) if n not in closed]
    loose = [(p.shape, p.copy) for p in _loose(task, layout.sheets[-1].placements)]
    if len(full) < task.workers:
        return _Share(tuple(full), tuple(loose))
    return _Share(tuple(full[lot :: task.workers]), tuple(sorted(loose)[lot :: task.workers]))


def _filled(task: Task, layout: Layout, seed: int, effort: float, clock: _Clock, share: _Share) -> Layout:
    """Parts of the last sheet moved to the others, or exchanged for smaller ones there: rather the emptiest first."""
    base = _base(task)
    sheets = [(s.sheet, list(s.placements)) for s in layout.sheets]
    places = [Place(_bounds(task, kind), own, partial(_field_held, task, kind), partial(_outline, task)) for kind, own in sheets]

    def area(p: Placement) -> float:  # with its holes, which mostly take nothing
        return whole[p.shape]

    whole, any_ = [Polygon(p.exterior).area for p in base.polygons], False
    room = {n: float(np.prod(places[n].bounds[2:] - places[n].bounds[:2])) - sum(map(area, sheets[n][1])) for n in share.full}
    offered = list(share.offered)
    lot = np.random.default_rng(seed)
    for n in sorted(room, key=lambda n: -room[n] * lot.random()):
        filling = Filling(places[n], places[-1], offered, area, task.still, seed + n)
        any_ = filling.work(partial(_may_go_on, clock, effort / len(room))) or any_
        offered = sorted(filling.offered)
    return _finished(task, layout, [p.own for p in places]) if any_ else layout


def _outline(task: Task, p: Placement) -> Polygon:
    """What nesting keeps apart of a part as it lies."""
    lying = turned(flipped(_base(task).polygons[p.shape], p.mirrored), p.angle)
    return shapely.transform(lying, lambda xy: xy + (p.x, p.y))


def _may_go_on(clock: _Clock, effort: float, tries: float) -> bool:
    return tries < effort and clock.runs()


def _field_held(task: Task, sheet: NestSheet, placements: Sequence[Placement], held: Sequence[bool], seed: int) -> Field:
    return _field(task, sheet, placements, seed, held)


def joined(task: Task, before: Layout, found: Sequence[Layout]) -> Layout:
    """The best of what lots found from one layout, or all of it together where they worked on different sheets."""
    best = min(found, key=partial(score, task))
    better = [f for f in found if score(task, f) < score(task, before)]
    same = all(len(f.sheets) == len(before.sheets) and f.unplaced == before.unplaced for f in better)
    if len(better) < 2 or len(before.sheets) < task.workers + 1 or not same:
        return best
    changed = [
        {n for n, (new, old) in enumerate(zip(f.sheets[:-1], before.sheets, strict=False)) if new.placements != old.placements}
        for f in better
    ]
    if sum(map(len, changed)) != len(set().union(*changed)):
        return best
    sheets = [list(s.placements) for s in before.sheets]
    was = set(before.sheets[-1].placements)
    for f, own in zip(better, changed, strict=True):
        now = set(f.sheets[-1].placements)
        sheets[-1] = [p for p in sheets[-1] if p in now or p not in was] + [p for p in f.sheets[-1].placements if p not in was]
        for n in own:
            sheets[n] = list(f.sheets[n].placements)
    whole = _finished(task, before, sheets)
    return whole if score(task, whole) < score(task, best) and not layout_faults(task, whole, best) else best


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
