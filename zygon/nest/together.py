"""Several designs cut together: their parts by stock and thickness, each as often as its design is made."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

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


def plans_together(
    items: Sequence[Item], gone: Mapping[tuple[str, str], int] = MappingProxyType({}), taken: Collection[str] = ()
) -> list[Together]:
    """The work of all items, grouped by the stock's name and its thickness. Raises NestError where an item is made less than once, or there are too many parts.

    The gap and the margins are the largest that any of the designs asks for. What is laid by hand in a design is laid anew here. ``gone`` says how many pieces have
    been cut, or wait to be, of a part with a flat (key as in the plans, digest); ``taken`` are offcuts by key that are used up, or will be.
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
    merged = [(group[0][0].built, _merged(group, gone, taken)) for group in groups.values()]
    return [Together(built, plan) for built, plan in merged if plan]


def _merged(group: list[tuple[Item, StockPlan]], gone: Mapping[tuple[str, str], int], taken: Collection[str]) -> StockPlan | None:
    tasks = [p.task for _, p in group if p.task]
    wanted = [
        (f"{item.key}/{part}", flat, shape)
        for item, p in group
        if p.task
        for part, flat, one in zip(p.parts, p.flats, p.task.shapes, strict=True)
        if (shape := _shape(item, one, gone.get((f"{item.key}/{part}", flat.digest), 0))).quantity > 0
    ]
    if not wanted:
        return None
    parts, flats, shapes = (tuple(row) for row in zip(*wanted, strict=True))
    kinds: dict[tuple[float, float], NestSheet] = {}
    for n, task in enumerate(tasks):
        for kind in task.kinds:
            known = any(k.name == kind.name for k in kinds.values())
            kinds.setdefault((kind.length, kind.width), replace(kind, name=f"{kind.name}-{n}") if known else kind)
    offcuts = {s.name: s for task in tasks for s in task.stock if s.name not in taken}
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
    return StockPlan(group[0][1].stock, parts, flats, task, key, key)


def _shape(item: Item, shape: Shape, gone: int) -> Shape:
    return replace(shape, name=f"{item.built.document.name}: {shape.name}", quantity=shape.quantity * item.quantity - gone)
