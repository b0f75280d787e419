"""Sheets exchanged for others: what lies on one or a few sheets is laid on a cheaper choice of kinds."""

from __future__ import annotations

import itertools
import random
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

from zygon.nest.bottom_left import finished_layout, first_layout
from zygon.nest.task import Layout, NestSheet, Placement, SheetLayout, Task
from zygon.tolerance import EPS

__all__ = ["exchanged"]

#: Sheets taken together at most, and sheets that they are laid on at most.
TAKEN, GIVEN = 3, 4
#: Choices tried a round.
CHOICES = 6
#: Parts taken together at most.
MANY = 120
#: More of the area than this is never filled.
FULL = 0.98


def exchanged(task: Task, layout: Layout, seed: int) -> Layout:
    """The layout with a few of its sheets, drawn by lot, replaced by cheaper ones that hold their parts; the same where none was found."""
    open_ = [n for n, s in enumerate(layout.sheets) if not s.sheet.roll and s.sheet in task.kinds and not _stays(task, s)]
    if not open_ or all(k.roll for k in task.kinds):
        return layout
    lot = random.Random(seed)
    # the last sheet is the one that is least full, mostly
    chosen = {open_[-1]} | set(lot.sample(open_, min(lot.randrange(TAKEN), len(open_))))
    parts = [p for n in chosen for p in layout.sheets[n].placements]
    if len(parts) > MANY:
        return layout
    cost = sum(layout.sheets[n].cost for n in chosen)
    area = sum(task.shapes[p.shape].region.area for p in parts)
    used = Counter(s.sheet for n, s in enumerate(layout.sheets) if n not in chosen)
    for choice in itertools.islice(_choices(task, area, cost, used), CHOICES):
        laid = _laid(task, parts, choice)
        if laid is not None:
            kept = [s for n, s in enumerate(layout.sheets) if n not in chosen]
            # the emptiest last, where the search goes on
            fresh = sorted(laid, key=lambda s: -s[0].area)
            sheets = [(s.sheet, list(s.placements)) for s in kept] + fresh
            return finished_layout(task, sheets, dict(layout.unplaced), layout.passes + 1, False)
    return layout


def _stays(task: Task, sheet: SheetLayout) -> bool:
    return any((p.shape, p.copy) in task.still for p in sheet.placements)


def _choices(task: Task, area: float, cost: float, used: Counter[NestSheet]) -> Iterator[tuple[NestSheet, ...]]:
    """Sheets that cost less than ``cost`` in all and have the area, cheap ones first."""
    kinds = [k for k in task.kinds if not k.roll]
    found = []
    for n in range(1, GIVEN + 1):
        for choice in itertools.combinations_with_replacement(kinds, n):
            there = Counter(choice)
            enough = all(k.count is None or used[k] + c <= k.count for k, c in there.items())
            if enough and sum(k.price for k in choice) < cost - EPS and sum(k.area for k in choice) * FULL >= area:
                found.append(choice)
    return iter(sorted(found, key=lambda c: (sum(k.price for k in c), len(c))))


def _laid(task: Task, parts: list[Placement], choice: tuple[NestSheet, ...]) -> list[tuple[NestSheet, list[Placement]]] | None:
    """The parts on just these sheets; None where they do not all go there."""
    copies: dict[int, list[int]] = {}
    for p in parts:
        copies.setdefault(p.shape, []).append(p.copy)
    index = list(copies)
    shapes = tuple(replace(task.shapes[i], quantity=len(copies[i])) for i in index)
    part = replace(
        task, shapes=shapes, sheet=replace(choice[0], count=None), others=(), stock=choice, max_sheets=0, held=(), closed=frozenset()
    )
    layout = first_layout(part)
    if layout.unplaced:
        return None
    return [(s.sheet, [replace(p, shape=index[p.shape], copy=copies[index[p.shape]][p.copy]) for p in s.placements]) for s in layout.sheets]
