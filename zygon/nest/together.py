"""Several designs cut together: their parts by stock and thickness, each as often as its design is made."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from zygon.errors import NestError
from zygon.making.result.built import Built
from zygon.memo import digest
from zygon.nest.design import StockPlan, plans
from zygon.nest.task import NestSheet, Shape, Task

__all__ = ["Item", "Together", "plans_together"]


@dataclass(frozen=True)
class Item:
    """A design that is made ``quantity`` times; ``key`` stands before the keys of its parts."""

    key: str
    built: Built
    quantity: int


@dataclass(frozen=True)
class Together:
    """The nesting work of one stock over several designs. ``built`` is the first of them that has it: its cutter and its sheets are what is cut with."""

    built: Built
    plan: StockPlan


def plans_together(items: Sequence[Item]) -> list[Together]:
    """The work of all items, grouped by the stock's name and its thickness. Raises NestError where an item is made less than once, or there are too many parts.

    The gap and the margins are the largest that any of the designs asks for. What is laid by hand in a design is laid anew here.
    """
    groups: dict[tuple[str, float], list[tuple[Item, StockPlan]]] = {}
    for item in items:
        name = item.built.document.name
        if item.quantity < 1:
            raise NestError(f"{name}: made {item.quantity} times; at least once", entry=name, value=item.quantity, rule="at least 1")
        for plan in plans(item.built):
            if plan.task:
                stock = item.built.document.stocks[plan.stock]
                groups.setdefault((stock.name, round(plan.flats[0].thickness, 2)), []).append((item, plan))
    return [Together(group[0][0].built, _merged(group)) for group in groups.values()]


def _merged(group: list[tuple[Item, StockPlan]]) -> StockPlan:
    tasks = [p.task for _, p in group if p.task]
    shapes = tuple(_shape(item, s) for item, p in group if p.task for s in p.task.shapes)
    kinds: dict[tuple[float, float], NestSheet] = {}
    for n, task in enumerate(tasks):
        for kind in task.kinds:
            known = any(k.name == kind.name for k in kinds.values())
            kinds.setdefault((kind.length, kind.width), replace(kind, name=f"{kind.name}-{n}") if known else kind)
    offcuts = {s.name: s for task in tasks for s in task.stock}
    low_x, low_y, high_x, high_y = (max(t.edges[k] for t in tasks) for k in range(4))
    first, *others = kinds.values()
    task = Task(
        shapes,
        first,
        max(t.gap for t in tasks),
        max(t.margin for t in tasks),
        tasks[0].seed,
        max(t.seconds for t in tasks),
        stock=tuple(offcuts.values()),
        others=tuple(others),
        margins=(low_x, low_y, high_x, high_y),
    )
    flats = tuple(f for _, p in group for f in p.flats)
    document = group[0][0].built.document
    cutter = document.cutters.get(document.cutter)
    rules = replace(task, shapes=(), seconds=1.0)
    key = digest(
        "together",
        group[0][1].stock,
        [(s.name, f.digest, s.quantity, s.turns, s.mirror) for s, f in zip(shapes, flats, strict=True)],
        rules,
        cutter,
    )
    parts = tuple(f"{item.key}/{part}" for item, p in group for part in p.parts)
    return StockPlan(group[0][1].stock, parts, flats, task, key, key)


def _shape(item: Item, shape: Shape) -> Shape:
    return replace(shape, name=f"{item.built.document.name}: {shape.name}", quantity=shape.quantity * item.quantity)
