"""From a built design to nesting tasks, one a stock and sheet size, and from layouts to sheets with time and cost."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from zygon.build.built import Built, BuiltPart, Flat
from zygon.build.distinct import Distinct, distinct
from zygon.build.flat import turned_over
from zygon.build.memo import digest
from zygon.cut.kerf import CutContours, by_hand_of, compensated, kerf_of
from zygon.cut.reckon import Reckoning, cutting_order, reckon
from zygon.design.document import Board, Document
from zygon.errors import NestError
from zygon.geometry.contour import Contour
from zygon.measure.evaluate import NoScope, evaluate
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.legal import layout_faults
from zygon.nest.task import Layout, NestSheet, Placement, Shape, SheetLayout, Task
from zygon.stock.sheet import SheetStock

__all__ = ["StockNest", "StockPlan", "lay_out", "lying", "placed_contours", "plans", "reckon_sheet"]


@dataclass(frozen=True)
class StockPlan:
    """What has to be laid out of one stock: a task for each sheet size. ``parts`` are part keys in the order of the shapes."""

    stock: str
    parts: tuple[str, ...]
    flats: tuple[Flat, ...]
    tasks: tuple[tuple[str, float, Task], ...]  # sheet key, price, task
    digest: str


@dataclass(frozen=True)
class StockNest:
    """One stock laid out: the sheet size that came out cheapest, its layout, and what each sheet takes to cut."""

    plan: StockPlan
    sheet: str
    price: float
    layout: Layout
    reckonings: tuple[Reckoning, ...]

    @property
    def sheet_cost(self) -> float:
        """What the sheets cost; a roll by the metre."""
        if self.layout.sheets and self.layout.sheets[0].sheet.roll:
            return self.price * sum(s.used_length for s in self.layout.sheets) / 1000
        return self.price * len(self.layout.sheets)


def lying(part: BuiltPart) -> Flat:
    """The flat as it lies on the cutter: turned over where face b lies up."""
    return part.flat if part.record.up == "a" else turned_over(part.flat)  # type: ignore[union-attr, arg-type, return-value]


def _length(entry) -> float:
    return evaluate(entry.text, entry.unit, "length", NoScope()).value


def _turns(stock: SheetStock, part: Board) -> tuple[float, ...]:
    """The angles that turn rule and grain leave; the grain runs along the sheet's length."""
    if stock.grain == "none" or part.grain == "free":
        if stock.grain == "along" and stock.turn in ("90", "free"):
            return (0.0, math.pi)
        return allowed_turns(stock.turn)
    first = 0.0 if part.grain == "u" else math.pi / 2
    return (first,) if stock.turn == "none" else (first, first + math.pi)


def plans(built: Built) -> list[StockPlan]:
    """The nesting work of a design by stock; parts that are bought, broken or in pieces are left out (and are problems)."""
    document = built.document
    by_stock: dict[str, list[Distinct]] = {}
    for one in distinct(built):
        part = one.part
        if isinstance(part.record, Board) and part.record.made == "cut" and part.flat and len(part.flat.pieces) == 1:
            by_stock.setdefault(part.record.stock, []).append(one)
    ordered = sorted(by_stock, key=lambda k: (document.stocks[k].order, k))
    return [_plan(document, key, by_stock[key]) for key in ordered]


def _plan(document: Document, key: str, parts: list[Distinct]) -> StockPlan:
    stock = document.stocks[key]
    flats = tuple(lying(d.part) for d in parts)
    shapes = tuple(
        Shape(d.part.path, f.pieces[0], d.quantity, _turns(stock, d.part.record))  # type: ignore[arg-type]
        for d, f in zip(parts, flats, strict=True)
    )
    gap, margin = _length(document.nest.gap), _length(document.nest.margin)
    tasks = []
    for name, size in sorted(stock.sheets.items(), key=lambda s: (s[1].order, s[0])):
        sheet = NestSheet(math.inf if size.roll else _length(size.length), _length(size.width), name)
        tasks.append((name, size.price, Task(shapes, sheet, gap, margin, document.nest.seed, document.nest.seconds)))
    shape_key = [(s.name, f.digest, s.quantity, s.turns) for s, f in zip(shapes, flats, strict=True)]
    # what a layout follows from, and what its reckoning follows from
    cutter = document.cutters.get(document.cutter)
    key_ = digest("plan", key, shape_key, [(n, p, t.sheet, t.gap, t.margin, t.seed, t.seconds) for n, p, t in tasks], cutter)
    return StockPlan(key, tuple(d.part.key for d in parts), flats, tuple(tasks), key_)


def lay_out(document: Document, plan: StockPlan, *, seconds: float | None = None, progress: Callable[[float, StockNest], bool] | None = None,
            start: dict[str, list[str]] | None = None, known: StockNest | None = None) -> StockNest | None:  # fmt: skip
    """Lays one stock out on the sheet size that comes out cheapest; None where it has no sheets.

    ``progress(share, best)`` may stop the search by returning False. ``start`` gives, by sheet key, part keys in the order of an
    earlier layout; ``known`` is a layout of this very plan to go on from. Raises NestError should the independent check find fault with a layout.
    """
    best: StockNest | None = None
    n = len(plan.tasks)
    for k, (name, price, task) in enumerate(plan.tasks):
        task = replace(task, seconds=(seconds or task.seconds) / n)
        going = True

        def told(
            done: int, of: int, layout: Layout, k: int = k, name: str = name, price: float = price, best: StockNest | None = best
        ) -> bool:
            nonlocal going
            if progress:
                candidate = StockNest(plan, name, price, layout, ())
                shown = best if best and _rank(best) <= _rank(candidate) else candidate
                going = progress((k + done / of) / n, shown)
            return going

        first = [plan.parts.index(p) for p in (start or {}).get(name, []) if p in plan.parts]
        layout = nest(task, told, first, known.layout if known and known.sheet == name else None)
        faults = layout_faults(task, layout)
        if faults:
            raise NestError(f"The layout breaks its own rules: {faults[0]}", entry=plan.stock, value=faults, rule="legal to 0.001 mm")
        candidate = StockNest(plan, name, price, layout, ())
        if best is None or _rank(candidate) < _rank(best):
            best = candidate
        if not going:
            break
    return best and replace(best, reckonings=tuple(reckon_sheet(document, plan, s) for s in best.layout.sheets))


def _rank(found: StockNest) -> tuple:
    return sum(found.layout.unplaced.values()), found.sheet_cost, -found.layout.share


def placed_contours(document: Document, plan: StockPlan, placement: Placement, kerf: float | None = None) -> CutContours:
    """One part's contours at its place on the sheet, compensated by the cutter's kerf (or by ``kerf`` mm, 0 for nominal)."""
    kerf = kerf_of(document, plan.stock) if kerf is None else kerf
    contours = compensated(plan.flats[placement.shape], kerf, by_hand_of(document.cutters.get(document.cutter), plan.stock))

    def place(c: Contour) -> Contour:
        return c.moved(placement.x, placement.y, placement.angle, placement.mirrored)

    def put(group: tuple[Contour, ...]) -> tuple[Contour, ...]:
        return tuple(place(c) for c in group)

    depths = tuple((name, place(c)) for name, c in contours.depths)
    return CutContours(
        put(contours.marks),
        put(contours.inside),
        put(contours.outside),
        kerf,
        contours.narrow,
        depths,
        tuple(replace(d, contour=place(d.contour)) for d in contours.drills),
        put(contours.notes),
        tuple((name, place(c)) for name, c in contours.bends),
    )


def reckon_sheet(document: Document, plan: StockPlan, sheet: SheetLayout) -> Reckoning:
    """What one sheet takes to cut on the chosen cutter."""
    ordered = cutting_order(placed_contours(document, plan, p) for p in sheet.placements)
    thickness = plan.flats[0].thickness if plan.flats else 0.0
    return reckon(ordered, document.cutters.get(document.cutter), plan.stock, thickness)
