"""An arrangement made to fit what has changed: what may stay stays, only what broke a rule or is new is moved."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace

import shapely

from zygon.nest.bottom_left import finished_layout, first_layout
from zygon.nest.legal import layout_faults, lying, near_fault, turn_faults, usable_of
from zygon.nest.task import Layout, NestSheet, Placement, Task
from zygon.tolerance import CHECK

__all__ = ["fitting", "holding", "mended"]

Sheets = Sequence[tuple[NestSheet, Sequence[Placement]]]


def fitting(task: Task, sheets: Sheets, rank: Mapping[tuple[int, int], int]) -> list[list[Placement]]:
    """Of each sheet the placements that break no rule together. Of two that are too near, the one of lower ``rank`` (by shape and copy, 0 where none is
    given) stays, else the one that comes first."""
    found = []
    seen: set[tuple[int, int]] = set()
    for sheet, placements in sheets:
        known = [p for p in placements if p.shape < len(task.shapes) and p.copy < task.shapes[p.shape].quantity]
        usable = usable_of(task, sheet)
        shapes = [lying(task, p) for p in known]
        tree = shapely.STRtree(shapes)
        left, right = tree.query(shapes, predicate="dwithin", distance=max(task.gap, CHECK)) if shapes else ([], [])
        near: dict[int, list[int]] = {}
        for i, j in zip(left, right, strict=True):
            if i != j and near_fault(task, shapes[i], shapes[j]):
                near.setdefault(int(i), []).append(int(j))
        kept: set[int] = set()
        for i in sorted(range(len(known)), key=lambda i: (rank.get((known[i].shape, known[i].copy), 0), i)):
            p = known[i]
            fine = (p.shape, p.copy) not in seen and not turn_faults(task, p) and usable.covers(shapes[i])
            if fine and not kept & set(near.get(i, ())):
                kept.add(i)
                seen.add((p.shape, p.copy))
        found.append([known[i] for i in sorted(kept)])
    return found


def mended(task: Task, sheets: Sheets, rank: Mapping[tuple[int, int], int], closed: Collection[int] = ()) -> Layout:
    """The arrangement as it is where it is legal and whole; else with what has no place any more, or none yet, put where there is room.

    ``closed`` are indices of ``sheets`` to which nothing is added. Sheets beyond what the task has are left out.
    """
    kept = fitting(task, _there(task, sheets), rank)
    part = holding(task, sheets, kept, closed)
    found = first_layout(part)
    whole = {k.name: k for k in task.kinds}
    layout = finished_layout(task, [(whole.get(s.sheet.name, s.sheet), s.placements) for s in found.sheets], found.unplaced, 0, False)
    # a kept place is legal by the check's own rules, a new one by the search's: the check has the last word
    return layout if not layout_faults(task, layout) else _only(task, [(sheet, own) for (sheet, _), own in zip(sheets, kept, strict=True)])


def holding(task: Task, sheets: Sheets, kept: Sequence[Sequence[Placement]], closed: Collection[int] = ()) -> Task:
    """The task that begins with these sheets, and holds on each what is ``kept`` there."""
    left, counts, shut = list(task.stock), {k: k.count for k in task.kinds}, set(closed)
    # what lies on a sheet has it before one that was emptied; an emptied one that is not there any more stays empty
    for n in sorted(range(len(sheets)), key=lambda n: not kept[n]):
        sheet = sheets[n][0]
        if sheet in left:
            left.remove(sheet)
        elif counts.get(sheet):
            counts[sheet] = (counts[sheet] or 0) - 1
        elif sheet not in counts or sheet.count is not None:
            shut.add(n)
    kinds = [replace(k, count=counts[k]) for k in task.kinds if counts[k] != 0]
    held = tuple((n, p) for n, own in enumerate(kept) for p in own)
    return replace(
        task,
        stock=(*(s for s, _ in sheets), *left),
        held=held,
        closed=frozenset(shut),
        sheet=kinds[0] if kinds else task.sheet,
        others=tuple(kinds[1:]),
        max_sheets=task.max_sheets if kinds else 0,
    )


def _there(task: Task, sheets: Sheets) -> Sheets:
    """Sheets that the task does not have, or not so often, hold nothing any more."""
    left = list(task.stock)
    counts = {k: len(sheets) if k.count is None else k.count for k in task.kinds}
    found: list[tuple[NestSheet, Sequence[Placement]]] = []
    for sheet, own in sheets:
        if own and sheet in left:
            left.remove(sheet)
        elif own and counts.get(sheet, 0) > 0:
            counts[sheet] -= 1
        else:
            own = ()
        found.append((sheet, own))
    return found


def _only(task: Task, used: list[tuple[NestSheet, list[Placement]]]) -> Layout:
    """Just what stays; the rest is left over."""
    unplaced = {i: s.quantity - sum(p.shape == i for _, own in used for p in own) for i, s in enumerate(task.shapes)}
    return finished_layout(task, [(s, own) for s, own in used if own], {i: n for i, n in unplaced.items() if n}, 0, False)
