"""Sheets of the assembly's steps: what is there, what comes, from where, and what is put in then."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import cast

from zygon.exchange.cutlist import cut_list
from zygon.making.assembly.plan import Assembly, way_word
from zygon.making.result.built import Built
from zygon.paper.hidden import Asked, Seen
from zygon.paper.ink import Line
from zygon.paper.kinds.common import block_of, style_of
from zygon.paper.looks import LOOKS, LookName
from zygon.paper.own_views import balloons_in
from zygon.paper.sheet import Plan
from zygon.paper.solid_views import box_view
from zygon.paper.strokes import Stroke
from zygon.paper.subjects import Subject
from zygon.paper.table import Table, table_of
from zygon.paper.things import arriving, middle_of, things_of

__all__ = ["steps_asked", "steps_sheet"]

#: Steps beside one another.
COLUMNS = 3


def _plan(subject: Subject) -> Assembly:
    assert subject.plan is not None
    return subject.plan


def steps_asked(built: Built, subject: Subject) -> dict[str, Asked]:
    """What is looked at for each step."""
    found = {}
    for n in range(subject.steps[0], subject.steps[1] + 1):
        there, coming = arriving(_plan(subject), n)
        found[f"step/{n}"] = Asked(things_of(built, there, coming), LOOKS["corner"], hidden=False)
    return found


def steps_sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    """What stands on it: a view a step with the numbers of what comes, and the steps in words."""
    plan, rows = _plan(subject), cut_list(built)
    first, last = subject.steps
    columns = min(COLUMNS, last - first + 1)
    views = []
    for i, n in enumerate(range(first, last + 1)):
        own = cast(Mapping[str, Seen], seen)[f"step/{n}"]
        _, coming = arriving(plan, n)
        new = set(coming) or set(plan.first)
        view = box_view("corner", own, "first", label=f"Step {n}", sizes="")
        ways = tuple(_way(built, key, off) for key, off in coming.items())
        coming_rows = [replace(r, keys=tuple(k for k in r.keys if k in new)) for r in rows if new & {*r.keys}]
        rings, strokes = balloons_in(built, own, coming_rows), (*view.strokes, *ways)
        views.append(replace(view, name=f"step/{n}", strokes=strokes, rings=rings, column=i % columns, row=-(i // columns)))
    block = block_of(built, subject, "Assembly", sheet)
    return Plan(subject.id, subject.title, block, tuple(views), style_of(built, subject), (_table(built, subject),), together=True)


def _way(built: Built, key: str, off: tuple[float, float, float]) -> Stroke:
    """The way that a part slides, from its middle to where that comes to lie."""
    home = middle_of(built.made[key])
    start = tuple(h + o for h, o in zip(home, off, strict=True))
    look = LOOKS["corner"]
    return Line("phantom", look.seen((start[0], start[1], start[2])), look.seen(home), key)


def _table(built: Built, subject: Subject) -> Table:
    plan = _plan(subject)
    rows = []
    for n in range(subject.steps[0], subject.steps[1] + 1):
        if n == 1:
            what = f"Begin with {_names(built, plan.first)}"
        else:
            step = plan.steps[n - 2]
            what = f"Slide {_names(built, step.parts)} {way_word(step.way)}"
        rows.append((str(n), what, _put_in(built, plan, n - 1)))
    return table_of("steps", "Steps", ["Step", "What", "Then put in"], rows, [])


def _names(built: Built, keys: tuple[str, ...]) -> str:
    return " and ".join(built.parts[k].path.replace("_", " ") for k in keys)


def _put_in(built: Built, plan: Assembly, behind: int) -> str:
    """The sets that go in behind a step."""
    counted: dict[str, int] = {}
    for key, _ in plan.sets[behind] if behind < len(plan.sets) else ():
        counted[key] = counted.get(key, 0) + 1
    return ", ".join(f"{n} × {built.sets[key].words}" for key, n in counted.items())
