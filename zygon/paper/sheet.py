"""A sheet set out: views in their places about one another at a scale that fits, tables, notes, frame and title block."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from zygon.design.papers import PaperFormat, SheetSaid, Shift
from zygon.paper.block import BlockData, block_height, block_ink
from zygon.paper.formats import BLOCK, area_of, frame_ink, size_of
from zygon.paper.hole_table import hole_table
from zygon.paper.ink import Anchor, Box, Dimension, Ink, Line, Paper, Point, Words, box_of, moved
from zygon.paper.lay import Margins, lay, margins_of
from zygon.paper.letters import missing, wrapped
from zygon.paper.marks import arrow
from zygon.paper.scales import SCALES, said_scale, scale_words
from zygon.paper.style import Style
from zygon.paper.symbols import symbol_ink, symbol_width
from zygon.paper.table import SetTable, Table
from zygon.paper.view import View

__all__ = ["Plan", "set_out", "with_blocks"]

#: Between what stands on a sheet and its frame, and between views, mm.
INSET, APART = 6.0, 6.0
#: Under this scale tables give way to views.
SMALL = 0.5
#: A table that is higher than this share of the sheet stands on a page of its own.
OVER = 0.85


@dataclass(frozen=True)
class Plan:
    """What a sheet is to have: views that stand about one another by column and row, at a scale of at most ``most``, tables and notes."""

    subject: str
    title: str
    block: BlockData
    views: tuple[View, ...]
    style: Style
    tables: tuple[Table, ...] = ()
    notes: tuple[str, ...] = ()
    most: float = 10.0
    #: its tables are read beside its views, however small those are
    together: bool = False
    faults: tuple[str, ...] = ()


@dataclass
class _Grid:
    """Columns and rows of views with the room that each takes at a scale."""

    widths: dict[int, tuple[float, float, float]] = field(default_factory=dict)  # margin, view, margin
    heights: dict[int, tuple[float, float, float]] = field(default_factory=dict)

    @property
    def size(self) -> tuple[float, float]:
        wide, high = (sum(map(sum, side.values())) + APART * max(0, len(side) - 1) for side in (self.widths, self.heights))
        return wide, high


def _grid(views: Sequence[View], style: Style, scale: float) -> tuple[_Grid, list[Margins]]:
    grid = _Grid()
    margins = [margins_of(v, style, v.at(scale)) for v in views]
    for v, m in zip(views, margins, strict=True):
        w, h = v.size[0] * v.at(scale), v.size[1] * v.at(scale)
        a, b, c = grid.widths.get(v.column, (0.0, 0.0, 0.0))
        grid.widths[v.column] = max(a, m.left), max(b, w), max(c, m.right)
        a, b, c = grid.heights.get(v.row, (0.0, 0.0, 0.0))
        grid.heights[v.row] = max(a, m.low), max(b, h), max(c, m.high)
    return grid, margins


@dataclass(frozen=True)
class _Ground:
    """Where on the sheet views may stand, and where tables and notes stand beside them: upper left corners."""

    room: Box
    tables: tuple[Point, ...]
    #: views stand to the right of the tables, where they have no room else
    aside: bool = False


def _grounds(area: Box, notes: float, tables: Sequence[tuple[float, float]]) -> list[_Ground]:
    """The ways to share a sheet: tables on the title block, with views over all of that or to its left; or tables to the left of the block, with views over both."""
    x0, y0, x1, y1 = area[0] + INSET, area[1] + INSET, area[2] - INSET, area[3] - INSET
    block = area[1] + block_height() + notes
    stacked: list[Point] = []
    y = block
    for wide, high in tables:
        y += high + INSET
        stacked.append((area[2] - wide, y))
    wide = max([BLOCK, *(w for w, _ in tables)])
    found = [_Ground((x0, y + INSET, x1, y1), tuple(stacked)), _Ground((x0, y0, area[2] - wide - INSET, y1), tuple(stacked))]
    left = x0
    beside: list[Point] = []
    for w, h in tables:
        beside.append((left, area[1] + INSET + h))
        left += w + INSET
    if tables and left <= area[2] - BLOCK:
        top = max([block, *(p[1] for p in beside)])
        found.append(_Ground((x0, top + INSET, x1, y1), tuple(beside)))
    # tables one over another at the left, views between them and the right edge, over the block
    side = max((w for w, _ in tables), default=0.0)
    if tables and sum(h for _, h in tables) + INSET * len(tables) <= y1 - y0:
        tops: list[Point] = []
        y = area[1]
        for _, h in reversed(tables):
            y += INSET + h
            tops.insert(0, (x0, y))
        if x0 + side + INSET <= area[2] - BLOCK:
            found.append(_Ground((x0 + side + INSET, block + INSET, x1, y1), tuple(tops), aside=True))
    return [g for g in found if g.room[2] - g.room[0] > 30 and g.room[3] - g.room[1] > 30]


def set_out(plan: Plan, size: PaperFormat) -> list[Paper]:
    """The pages of a sheet: one, and more where its tables take them. What does not fit at the scale that is said stands there larger than its room, and is said."""
    area = area_of(size)
    style, said = plan.style, plan.style.said
    faults = [*plan.faults]
    ink: list[Ink] = frame_ink(size)
    height = style.height
    holes = hole_table(plan.views, style) if style.places == "table" else None
    every = (*plan.tables, *((holes,) if holes else ()))
    tables = [SetTable(t.chosen(said.columns.get(t.name, ())), height, area[2] - area[0] - 2 * INSET) for t in every]
    columns = {t.name: _columns(t, s.table) for t, s in zip(every, tables, strict=True)}
    on_first = [t for t in tables if plan.views and _fits_over(t, area)]
    sizes = [t.size() for t in on_first]
    notes = _notes(plan, height)
    note_height = len(notes) * height * 1.6 + 2.0 if notes else 0.0
    grounds = _grounds(area, note_height, sizes)
    if plan.views and not grounds:  # a table that leaves no room for the views goes to a page of its own
        on_first, sizes = [], []
        grounds = _grounds(area, note_height, [])
    scale, ground, more = _scaled(plan, grounds) if plan.views else (1.0, _Ground(area, ()), [])
    if on_first and scale < SMALL and not plan.together:  # a page more rather than a view that is too small to read
        alone = _grounds(area, note_height, [])
        larger = _scaled(plan, alone)
        if larger[0] > scale and not larger[2]:
            on_first, sizes, (scale, ground, more) = [], [], larger
    faults += more
    dimensions: list[Dimension] = []
    anchors: dict[str, tuple[Anchor, ...]] = {}
    movable: dict[str, tuple[Ink, ...]] = {}
    views: dict[str, tuple[Ink, ...]] = {}
    if plan.views:
        found = _views(plan, scale, ground.room)
        views = found.ink
        dimensions, anchors, movable = found.dimensions, found.anchors, found.movable
        faults += found.faults
    y = area[1] + block_height()
    for n, line in enumerate(reversed(notes)):
        ink.append(Words(line, (area[2] - BLOCK + 1.2, y + 1.6 + n * height * 1.6), height))
    for t, corner in zip(on_first, ground.tables, strict=True):
        name = f"table/{t.table.name}"
        movable[name] = tuple(_moved(t.ink(corner), said.moved.get(name)))
    block = replace(plan.block, scale=scale_words(scale) if plan.views else "", size=size)
    pages = _table_pages([t for t in tables if t not in on_first], area)
    papers: list[Paper] = []
    notes_ink, note_faults = _said_notes(said, anchors, height)
    for name, own in notes_ink.items():
        movable[name] = own
    faults += note_faults
    if plan.views or not pages:  # a sheet on which nothing stands yet is one all the same
        papers.append(
            Paper(
                plan.subject,
                plan.title,
                size_of(size),
                tuple(ink),
                tuple(dimensions),
                anchors,
                movable,
                tuple(faults),
                block.scale,
                1,
                area,
                views,
                columns,
            )
        )
    for n, page in enumerate(pages, len(papers) + 1):
        own_faults = tuple(faults) if n == 1 else ()
        papers.append(
            Paper(
                plan.subject,
                plan.title,
                size_of(size),
                (*frame_ink(size), *page),
                faults=own_faults,
                page=n,
                drawing_area=area,
                tables=columns,
            )
        )
    return with_blocks(papers, block, area)


def with_blocks(papers: Sequence[Paper], block: BlockData, area: Box) -> list[Paper]:
    """The pages of one sheet with their title blocks, and what does not fit in those or stands over the frame."""
    finished = []
    for n, paper in enumerate(papers, 1):
        page = f"page {n} of {len(papers)}" if len(papers) > 1 else ""
        ink, wrong = block_ink(replace(block, sheet=", ".join(t for t in (block.sheet, page) if t)), (area[2], area[1]))
        more = [*wrong, *(f for f in [_outside(paper)] if f)] if n == 1 else []
        more += _unwritten([*paper.all_ink, *ink])
        finished.append(replace(paper, ink=(*paper.ink, *ink), faults=(*paper.faults, *more)))
    return finished


def _unwritten(ink: Sequence[Ink]) -> list[str]:
    """Says which letters no font here has, each once with a text that has it."""
    found: dict[str, str] = {}
    for i in ink:
        letter = missing(i.text) if isinstance(i, Words) else None
        if letter and isinstance(i, Words):
            found.setdefault(letter, i.text)
    return [f"“{text}” has the letter {letter}, which no font here has" for letter, text in found.items()]


def _outside(paper: Paper) -> str:
    """Says where something stands over the frame."""
    x0, y0, x1, y1 = paper.drawing_area
    for name, own in [*((d.text, d.ink) for d in paper.dimensions), *paper.movable.items()]:
        a, b, c, d = box_of(own)
        if a < x0 - 0.1 or b < y0 - 0.1 or c > x1 + 0.1 or d > y1 + 0.1:
            return f"“{name}” stands over the frame: a larger paper, a smaller scale, or moved by hand"
    return ""


def _fits_over(table: SetTable, area: Box) -> bool:
    wide, high = table.size()
    return wide <= min(area[2] - area[0], 260.0) and high <= (area[3] - area[1]) * OVER


def _scaled(plan: Plan, grounds: Sequence[_Ground]) -> tuple[float, _Ground, list[str]]:
    """The scale that is said, or the largest that fits; on which ground; and what is wrong with it."""
    faults: list[str] = []
    said, wrong = said_scale(plan.style.said.scale)
    faults += [wrong] if wrong else []
    if said is not None:
        ground = _standing(plan, grounds, said)
        if ground:
            return said, ground, faults
    best = next(((s, g) for s in SCALES if s <= plan.most and (g := _standing(plan, grounds, s))), None)
    if best is None:
        return said or SCALES[-1], grounds[0], [*faults, "It does not fit on this paper at any scale: take a larger one"]
    if said is not None:
        return said, best[1], [*faults, f"At {scale_words(said)} it does not fit on this paper; {scale_words(best[0])} does"]
    return *best, faults


def _standing(plan: Plan, grounds: Sequence[_Ground], scale: float) -> _Ground | None:
    """The ground on which the views have room at a scale; of several the one with the most room to spare."""
    wide, high = _grid(plan.views, plan.style, scale)[0].size

    def spare(g: _Ground) -> float:
        return min(g.room[2] - g.room[0] - wide, g.room[3] - g.room[1] - high)

    for some in ([g for g in grounds if not g.aside], [g for g in grounds if g.aside]):
        best = max(some, key=spare, default=None)
        if best is not None and spare(best) >= 0:
            return best
    return None


@dataclass
class _Laid:
    ink: dict[str, tuple[Ink, ...]] = field(default_factory=dict)
    dimensions: list[Dimension] = field(default_factory=list)
    anchors: dict[str, tuple[Anchor, ...]] = field(default_factory=dict)
    movable: dict[str, tuple[Ink, ...]] = field(default_factory=dict)
    faults: list[str] = field(default_factory=list)


def _views(plan: Plan, scale: float, room: Box) -> _Laid:
    grid, _ = _grid(plan.views, plan.style, scale)
    wide, high = grid.size
    x0 = room[0] + max(0.0, (room[2] - room[0] - wide) / 2)
    y0 = room[1] + max(0.0, (room[3] - room[1] - high) / 2)
    xs, ys = {}, {}
    for c in sorted(grid.widths):
        xs[c] = x0 + grid.widths[c][0]
        x0 += sum(grid.widths[c]) + APART
    for r in sorted(grid.heights):
        ys[r] = y0 + grid.heights[r][0]
        y0 += sum(grid.heights[r]) + APART
    found = _Laid()
    for v in plan.views:
        shift = plan.style.said.moved.get(f"view/{v.name}", Shift())
        corner = xs[v.column] + shift.x, ys[v.row] + shift.y
        if len([o for o in plan.views if o.column == v.column]) == 1:  # one alone stands in the middle of its column
            corner = corner[0] + (grid.widths[v.column][1] - v.size[0] * v.at(scale)) / 2, corner[1]
        laid = lay(v, plan.style, v.at(scale), corner, plan.views)
        found.ink[v.name] = laid.ink
        found.dimensions += laid.dimensions
        found.anchors[v.name] = laid.anchors
        found.movable |= {name: tuple(own) for name, own in laid.rings.items()}
        found.faults += laid.faults
    names = {v.name for v in plan.views}
    for said in plan.style.said.added.values():
        if said.view not in names:
            found.faults.append(f"A dimension waits: the view {said.view} is not on this sheet")
    return found


def _columns(table: Table, chosen: Table) -> tuple[tuple[str, str, bool], ...]:
    """Every column of a table by key and heading, those that are shown first, in their order."""
    shown = [c.key for c in chosen.columns]
    rest = [c for c in table.columns if c.key not in shown]
    return (*((c.key, c.head, True) for c in chosen.columns), *((c.key, c.head, False) for c in rest))


def _moved(ink: list[Ink], shift: Shift | None) -> list[Ink]:
    return [moved(i, shift.x, shift.y) for i in ink] if shift else ink


def _notes(plan: Plan, height: float) -> list[str]:
    texts = [t for t in (*plan.notes, plan.style.papers.note) if t]
    return [line for t in texts for line in wrapped(t, height, BLOCK - 4)]


def _said_notes(said: SheetSaid, anchors: dict[str, tuple[Anchor, ...]], height: float) -> tuple[dict[str, tuple[Ink, ...]], list[str]]:
    """Notes put in by hand, with their leaders."""
    found: dict[str, tuple[Ink, ...]] = {}
    faults = []
    for key, note in sorted(said.notes.items(), key=lambda kn: (kn[1].order, kn[0])):
        lines = wrapped(note.note, height, note.wide)
        x, y = note.at.x, note.at.y
        of = f"note:{key}"
        ink: list[Ink] = symbol_ink(note.symbol, (x, y), height, of) if note.symbol else []
        after = x + symbol_width(note.symbol, height)
        ink += [Words(t, (after, y - i * height * 1.6), height, of=of) for i, t in enumerate(lines) if t]
        if note.anchor:
            at = next((a.at for a in anchors.get(note.view, ()) if a.name == note.anchor), None)
            if at is None:
                faults.append(f"A note points to nothing: {note.anchor} is not there any more")
            elif not ink:
                faults.append("A note has nothing in it")
            else:
                start = (x - 1.5, y + height / 2)
                away = ((at[0] - start[0]) ** 2 + (at[1] - start[1]) ** 2) ** 0.5 or 1.0
                ink += [Line("thin", start, at), arrow(at, ((at[0] - start[0]) / away, (at[1] - start[1]) / away))]
        found[f"note/{key}"] = tuple(ink)
    return found, faults


def _table_pages(tables: Sequence[SetTable], area: Box) -> list[list[Ink]]:
    """Tables that fill pages of their own, from the top down."""
    if not tables:
        return []
    low, top = area[1] + block_height() + INSET, area[3] - INSET
    pages: list[list[Ink]] = [[]]
    y = top
    for t in tables:
        spans = t.pages(y - low, top - low)
        for n, (first, last) in enumerate(spans):
            if n:
                pages.append([])
                y = top
            pages[-1] += t.ink((area[0] + INSET, y), first, last)
            y -= t.size(first, last)[1] + INSET
    return pages
