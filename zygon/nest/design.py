"""From a built design to nesting plans, one a stock, and from layouts to sheets with time and cost."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from zygon.cut.kerf import CutContours, by_hand_of, compensated, kerf_of
from zygon.cut.reckon import Reckoning, cutting_order, reckon
from zygon.design.arrangement import Arrangement
from zygon.design.document import Document
from zygon.design.margins import EDGES, margins_of
from zygon.design.parts.kinds import PlateKind
from zygon.design.used_stock import used_stock
from zygon.errors import NestError
from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour, polygon
from zygon.making.flats.distinct import Distinct, distinct
from zygon.making.flats.flat import lying
from zygon.making.result.built import Built
from zygon.making.result.flat import Flat
from zygon.measure.evaluate import plain_length
from zygon.memo import digest
from zygon.nest.bottom_left import finished_layout
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.legal import layout_faults
from zygon.nest.mend import Sheets, fitting, holding, mended
from zygon.nest.remainder import offcut_sheet
from zygon.nest.task import Layout, NestSheet, Placement, Shape, SheetLayout, Task
from zygon.stock.sheet import OffcutPiece, SheetSize, SheetStock
from zygon.tolerance import EPS

__all__ = [
    "Before",
    "StockNest",
    "StockPlan",
    "arranged",
    "held_task",
    "laid_out",
    "lay_out",
    "lying",
    "placed_contours",
    "plans",
    "reckoned",
    "ranked",
    "reckon_sheet",
]


#: Parts without a place that are just put where there is room; more of them are searched a place for.
FEW = 3


@dataclass(frozen=True)
class StockPlan:
    """What has to be laid out of one stock. ``parts`` are part keys in the order of the task's shapes.

    ``task`` is None where the stock has no sheet size. ``hand`` is how it is laid by hand. ``digest`` is the hash of all of that, ``loose`` of what a
    search around the locked parts follows from: without a hand both are one.
    """

    stock: str
    parts: tuple[str, ...]
    flats: tuple[Flat, ...]
    task: Task | None
    digest: str
    loose: str
    hand: Arrangement | None = None

    @property
    def copies(self) -> int:
        """How many pieces there are to lay out."""
        return sum(s.quantity for s in self.task.shapes) if self.task else 0


@dataclass(frozen=True)
class StockNest:
    """One stock laid out, and what each sheet takes to cut; ``found`` by a search, or by hand."""

    plan: StockPlan
    layout: Layout
    reckonings: tuple[Reckoning, ...]
    found: bool = True

    @property
    def sheet_cost(self) -> float:
        """What the sheets cost."""
        return sum(s.cost for s in self.layout.sheets)

    @property
    def digest(self) -> str:
        """The hash that it is kept under."""
        return self.plan.loose if self.found else self.plan.digest


def _turns(stock: SheetStock, part: PlateKind) -> tuple[float, ...]:
    """The angles that turn rule and grain leave; the grain runs along the sheet's length."""
    if stock.grain == "none" or part.grain == "free":
        if stock.grain == "along" and stock.turn != "none":
            return (0.0, math.pi)
        return allowed_turns(stock.turn)
    first = 0.0 if part.grain == "u" else math.pi / 2
    return (first,) if stock.turn == "none" else (first, first + math.pi)


def plans(built: Built) -> list[StockPlan]:
    """The nesting work of a design by stock; parts that are bought, broken or in pieces are left out (and are problems)."""
    document = built.document
    by_stock: dict[str, list[Distinct]] = {}
    for one in distinct(built):
        part = built.flats.get(one.part.key)
        if part and part.record.cut_here and len(part.flat.pieces) == 1:
            by_stock.setdefault(part.record.stock, []).append(one)
    ordered = sorted(by_stock, key=lambda k: (document.stocks[k].order, k))
    return [_plan(built, key, by_stock[key]) for key in ordered]


def _plan(built: Built, key: str, parts: list[Distinct]) -> StockPlan:
    document = built.document
    stock = document.sheets[key]
    flats = tuple(lying(built.flats[d.part.key]) for d in parts)
    shapes = tuple(_shape(stock, d, f) for d, f in zip(parts, flats, strict=True))
    task = _task(document, key, shapes, _there(built, key, sum(s.quantity for s in shapes)))
    hand = document.nest.arranged.get(key)
    shape_key = [(s.name, f.digest, s.quantity, s.turns, s.mirror, s.free) for s, f in zip(shapes, flats, strict=True)]
    # what a layout follows from, and what its reckoning follows from; time only decides how far a search gets
    rules = replace(task, shapes=(), seconds=1.0) if task else None
    base = digest("plan", key, shape_key, rules, document.cutters.get(document.cutter))
    names = tuple(d.part.key for d in parts)
    if hand is None:
        return StockPlan(key, names, flats, task, base, base)
    locks = [(k, p.model_dump()) for k, s in hand.sheets.items() for p in s.placed.values() if p.locked or s.cut]
    return StockPlan(key, names, flats, task, digest(base, hand.model_dump()), digest(base, locks) if locks else base, hand)


def _shape(stock: SheetStock, one: Distinct, flat: Flat) -> Shape:
    record: PlateKind = one.part.record  # type: ignore[assignment]
    turns = _turns(stock, record)
    # what is cut straight through is its own mirror image, turned over
    mirror = stock.faces == "alike" and flat.plain and not flat.engraved and flat.fold is None
    return Shape(one.part.path, flat.pieces[0], one.quantity, turns, mirror, stock.turn == "free" and stock.grain == "none")


def _there(built: Built, key: str, copies: int) -> dict[str, int]:
    """How many sheets of each size can be had, those that were cut by this design among them; one a copy is enough of any, and not told."""
    used: Mapping[str, int] = used_stock(built.document).get(key, {})
    counted = {size: n + used.get(size, 0) for size, n in built.on_hand.get(key, {}).items()}
    return {size: n for size, n in counted.items() if n < copies}


def gap_of(document: Document, stock: str) -> float:
    """How far apart parts lie on the sheets of a stock, mm: a kerf, where the chosen cutter cuts common lines. Raises ExpressionError for a broken entry."""
    cutter = document.cutters.get(document.cutter)
    return kerf_of(document, stock) if cutter and cutter.shares else plain_length(document.nest.gap)


def _task(document: Document, key: str, shapes: tuple[Shape, ...], there: dict[str, int]) -> Task | None:
    stock = document.sheets[key]
    sizes = sorted(stock.sheets.items(), key=lambda s: (s[1].order, s[0]))
    kinds = [_kind(stock, name, size, there.get(name)) for name, size in sizes]
    if not kinds or not shapes:
        return None
    nest_ = document.nest
    gap, margin = gap_of(document, key), plain_length(nest_.margin)
    offcuts = tuple(_offcut(k, o) for k, o in sorted(stock.offcuts.items(), key=lambda o: (o[1].order, o[0])))
    return Task(
        shapes,
        kinds[0],
        gap,
        margin,
        nest_.seed,
        nest_.seconds,
        stock=offcuts,
        others=tuple(kinds[1:]),
        margins=margins_of(nest_) if any(getattr(nest_.edges, e) for e in EDGES) else None,
    )


def _kind(stock: SheetStock, name: str, size: SheetSize, count: int | None) -> NestSheet:
    """A size as it lies: its grain along x; of a roll there is always enough."""
    length, width = math.inf if size.roll else plain_length(size.length), plain_length(size.width)
    if stock.grain == "along" and size.grain == "across" and not size.roll:
        length, width = width, length
    return NestSheet(length, width, name, size.price, count=None if size.roll else count)


def _offcut(key: str, piece: OffcutPiece) -> NestSheet:
    holes = tuple(polygon(h).wound(ccw=False) for h in piece.holes)
    return offcut_sheet(key, Region(polygon(piece.outline).wound(ccw=True), holes))


def arranged(plan: StockPlan, hand: Arrangement, *, locked: bool = False) -> tuple[list[tuple[NestSheet, list[Placement]]], list[int]]:
    """The sheets of an arrangement by hand as they are in a plan's task, and which of them are cut; with ``locked`` only what stays in a search.

    Parts and sheets that the design has no more are left out.
    """
    task = plan.task
    sheets: list[tuple[NestSheet, list[Placement]]] = []
    closed: list[int] = []
    known = {s.name: s for s in (*task.kinds, *task.stock)} if task else {}
    index = {part: i for i, part in enumerate(plan.parts)}
    for _, sheet in sorted(hand.sheets.items(), key=lambda s: (s[1].order, s[0])):
        if sheet.size not in known:
            continue
        own = [
            Placement(index[p.part], p.number, p.x, p.y, math.radians(p.angle), p.mirrored)
            for p in sheet.placed.values()
            if p.part in index and (p.locked or sheet.cut or not locked)
        ]
        if own:
            if sheet.cut:
                closed.append(len(sheets))
            sheets.append((known[sheet.size], own))
    return sheets, closed


def _by_hand(plan: StockPlan, hand: Arrangement, seconds: float) -> Layout:
    """The arrangement as it is, or mended where the design has changed: locked parts stay rather than others, and those that changed move.

    Where many parts have no place yet, as after sheets were cut, they are searched a place for beside the others.
    """
    assert plan.task
    sheets, closed = arranged(plan, hand)
    locked = {(p.part, p.number) for s in hand.sheets.values() for p in s.placed.values() if p.locked or s.cut}
    rank = ranked(plan, sheets, hand.flats, locked)
    kept = fitting(plan.task, sheets, rank)
    if plan.copies - sum(len(own) for own in kept) <= FEW:
        return mended(plan.task, sheets, rank, closed)
    layout = nest(replace(holding(plan.task, sheets, kept, closed), seconds=seconds))
    kinds = {k.name: k for k in plan.task.kinds}
    whole = [(kinds.get(s.sheet.name, s.sheet), s.placements) for s in layout.sheets]
    return finished_layout(plan.task, whole, layout.unplaced, layout.passes, layout.stopped)


def ranked(plan: StockPlan, sheets: Sheets, flats: dict[str, str], locked: set[tuple[str, int]]) -> dict[tuple[int, int], int]:
    """Who gives way: what is as it was stays rather than what has changed, locked parts rather than others."""
    rank = {}
    for _, own in sheets:
        for p in own:
            part = plan.parts[p.shape]
            same = flats.get(part) == plan.flats[p.shape].digest
            rank[p.shape, p.copy] = (0 if (part, p.copy) in locked else 2) + (0 if same else 1)
    return rank


def held_task(plan: StockPlan) -> Task:
    """The task of a search: with what is locked by hand held where it is."""
    assert plan.task
    if plan.hand is None:
        return plan.task
    sheets, closed = arranged(plan, plan.hand, locked=True)
    return holding(plan.task, sheets, fitting(plan.task, sheets, {}), closed)


@dataclass(frozen=True)
class Before:
    """An arrangement of an earlier state of a design, as placements of the plan that is to be laid out now: who gives way, what it cost, and whether
    few of its parts have changed since."""

    sheets: Sheets
    rank: dict[tuple[int, int], int]
    cost: float
    few: bool


def lay_out(
    document: Document,
    plan: StockPlan,
    *,
    seconds: float | None = None,
    progress: Callable[[float, StockNest], bool] | None = None,
    known: StockNest | None = None,
    before: Before | None = None,
    search: bool = True,
    workers: int = 1,
) -> StockNest | None:
    """Lays one stock out; None where it has no sheets.

    What is laid by hand stays so, mended where it has to be, unless ``search`` asks for a search around what is locked. ``progress(share, best)`` may
    stop a search by returning False; while nothing is laid out yet, ``best`` has no sheets, and there is nothing to give. ``known`` is a layout of this
    very plan to go on from. What lay ``before`` stays, with only what changed moved, where few parts have changed and it costs no more, unless a search
    is asked for; the search runs on so many ``workers``. Raises NestError should the independent check find fault with a layout.
    """
    task = plan.task
    if task is None:
        return None
    if plan.hand is not None and not search:
        layout = _by_hand(plan, plan.hand, seconds or task.seconds)
        return reckoned(document, StockNest(plan, _checked(plan, task, layout), (), found=False))
    task = replace(held_task(plan), seconds=seconds or task.seconds, workers=workers)
    start = known.layout if known else None
    if before is not None and start is None and not task.held:
        start = mended(task, before.sheets, before.rank)
        if not search and before.few and not start.unplaced and sum(s.cost for s in start.sheets) <= before.cost + EPS:
            return reckoned(document, StockNest(plan, _checked(plan, task, start), ()))

    def told(done: int, of: int, layout: Layout) -> bool:
        return progress(done / of, StockNest(plan, layout, ())) if progress else True

    layout = nest(task, told, start if known else None)
    if layout.stopped and not layout.sheets:
        return None  # before anything was laid
    if start is not None and _rank(start) < _rank(layout):
        layout = start
    return reckoned(document, StockNest(plan, _checked(plan, task, layout), ()))


def _rank(layout: Layout) -> tuple[int, float]:
    return sum(layout.unplaced.values()), sum(s.cost for s in layout.sheets)


def _checked(plan: StockPlan, task: Task, layout: Layout) -> Layout:
    faults = layout_faults(task, layout)
    if faults:
        raise NestError(f"The layout breaks its own rules: {faults[0]}", entry=plan.stock, value=faults, rule="legal to 0.001 mm")
    return layout


def reckoned(document: Document, found: StockNest) -> StockNest:
    """A layout with time and cost of every sheet, as it is on the way and in the end."""
    if len(found.reckonings) == len(found.layout.sheets):
        return found
    return replace(found, reckonings=tuple(reckon_sheet(document, found.plan, s) for s in found.layout.sheets))


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


def laid_out(document: Document, plan: StockPlan, seconds: float) -> StockNest | None:
    """A stock as it lies by hand, else as it is found in so many seconds; None where it has no sheets."""
    return as_laid(document, plan) or lay_out(document, plan, seconds=seconds, search=False)


def as_laid(document: Document, plan: StockPlan) -> StockNest | None:
    """The arrangement by hand just as it is; None where there is none, or it is not legal and whole any more and has to be mended."""
    if plan.hand is None or plan.task is None:
        return None
    sheets, _ = arranged(plan, plan.hand)
    counted = Counter(p.shape for _, own in sheets for p in own)
    if any(counted[i] != s.quantity for i, s in enumerate(plan.task.shapes)):
        return None
    layout = finished_layout(plan.task, sheets, {}, 0, False)
    return None if layout_faults(plan.task, layout) else reckoned(document, StockNest(plan, layout, (), found=False))
