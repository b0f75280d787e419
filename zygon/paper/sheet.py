"""A sheet set out: views in their places about one another at a scale that fits, tables, notes, frame and title block."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from zygon.design.papers import PaperFormat, SheetSaid, Shift
from zygon.errors import ZygonError
from zygon.paper.block import BlockData, block_height, block_ink
from zygon.paper.formats import BLOCK, area_of, frame_ink, size_of
from zygon.paper.ink import Anchor, Box, Dimension, Ink, Line, Paper, Words, box_of, moved
from zygon.paper.lay import Margins, Style, lay, margins_of
from zygon.paper.letters import missing, wrapped
from zygon.paper.marks import arrow
from zygon.paper.scales import SCALES, read_scale, scale_words
from zygon.paper.table import Table, paged, table_ink, table_size
from zygon.paper.view import View

__all__ = ["Plan", "set_out"]

#: Between what stands on a sheet and its frame, and between views, mm.
INSET, APART = 6.0, 6.0


@dataclass(frozen=True)
class Plan:
    """What a sheet is to have. ``views`` stand about one another by column and row; ``beside`` stand by themselves, at a scale of their own where ``own``."""

    subject: str
    title: str
    block: BlockData
    views: tuple[View, ...]
    style: Style
    tables: tuple[Table, ...] = ()
    notes: tuple[str, ...] = ()
    most: float = 10.0
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
    margins = [margins_of(v, style, scale) for v in views]
    for v, m in zip(views, margins, strict=True):
        w, h = v.size[0] * scale, v.size[1] * scale
        a, b, c = grid.widths.get(v.column, (0.0, 0.0, 0.0))
        grid.widths[v.column] = max(a, m.left), max(b, w), max(c, m.right)
        a, b, c = grid.heights.get(v.row, (0.0, 0.0, 0.0))
        grid.heights[v.row] = max(a, m.low), max(b, h), max(c, m.high)
    return grid, margins


def _rooms(area: Box, block: float, tables: Sequence[tuple[float, float]]) -> list[Box]:
    """Where views may stand: over the title block and the tables on it, or to the left of them."""
    x0, y0, x1, y1 = area[0] + INSET, area[1] + INSET, area[2] - INSET, area[3] - INSET
    high = block + sum(h + INSET for _, h in tables)
    wide = max([BLOCK, *(w for w, _ in tables)])
    rooms = [(x0, area[1] + high + INSET, x1, y1), (x0, y0, area[2] - wide - INSET, y1)]
    return [r for r in rooms if r[2] - r[0] > 30 and r[3] - r[1] > 30]


def set_out(plan: Plan, size: PaperFormat) -> list[Paper]:
    """The pages of a sheet: one, and more where its tables take them. What does not fit at the scale that is said stands there larger than its room, and is said."""
    area = area_of(size)
    style, said = plan.style, plan.style.said
    faults = [*plan.faults]
    ink: list[Ink] = frame_ink(size)
    height = style.height
    on_first = [t for t in plan.tables if plan.views and _fits_over(t, height, area)]
    sizes = [table_size(t, height) for t in on_first]
    notes = _notes(plan, height)
    note_size = (BLOCK, len(notes) * height * 1.6 + 2.0) if notes else (0.0, 0.0)
    stacked = [*sizes, note_size] if notes else sizes
    rooms = _rooms(area, block_height(), stacked)
    if plan.views and not rooms:  # a table that leaves no room for the views goes to a page of its own
        on_first, sizes = [], []
        rooms = _rooms(area, block_height(), [note_size] if notes else [])
    scale, room, more = _scaled(plan, rooms) if plan.views else (1.0, area, [])
    faults += more
    dimensions: list[Dimension] = []
    anchors: dict[str, tuple[Anchor, ...]] = {}
    movable: dict[str, tuple[Ink, ...]] = {}
    if plan.views:
        found = _views(plan, scale, room)
        ink += found.ink
        dimensions, anchors, movable = found.dimensions, found.anchors, found.movable
        faults += found.faults
    y = area[1] + block_height()
    for n, line in enumerate(reversed(notes)):
        ink.append(Words(line, (area[2] - BLOCK + 1.2, y + 1.6 + n * height * 1.6), height))
    y += note_size[1]
    for t, (wide, high) in zip(on_first, sizes, strict=True):
        y += high + INSET
        movable[f"table/{t.name}"] = tuple(_moved(table_ink(t, height, (area[2] - wide, y)), said.moved.get(f"table/{t.name}")))
    block = replace(plan.block, scale=scale_words(scale) if plan.views else "", size=size)
    later = [t for t in plan.tables if t not in on_first]
    pages = _table_pages(later, height, area, beside=bool(plan.views))
    count = len(pages) + bool(plan.views)
    papers: list[Paper] = []
    notes_ink, note_faults = _said_notes(said, anchors, height)
    for name, own in notes_ink.items():
        movable[name] = own
    faults += note_faults
    faults += [f"“{d.text}” has the letter {missing(d.text)}, which no font here has" for d in dimensions if missing(d.text)]
    if plan.views:
        papers.append(
            Paper(plan.subject, plan.title, size_of(size), tuple(ink), tuple(dimensions), anchors, movable, tuple(faults), block.scale, 1, area)
        )
    for n, page in enumerate(pages, len(papers) + 1):
        own_faults = tuple(faults) if n == 1 else ()
        papers.append(Paper(plan.subject, plan.title, size_of(size), (*frame_ink(size), *page), (), {}, {}, own_faults, "", n, area))
    finished = []
    for n, paper in enumerate(papers, 1):
        sheet = block.sheet if count == 1 else f"{block.sheet}, page {n} of {count}" if block.sheet else f"page {n} of {count}"
        block_, wrong = block_ink(replace(block, sheet=sheet), (area[2], area[1]))
        outside = [f for f in [_outside(paper)] if f and n == 1]
        finished.append(replace(paper, ink=(*paper.ink, *block_), faults=(*paper.faults, *(wrong if n == 1 else ()), *outside)))
    return finished


def _outside(paper: Paper) -> str:
    """Says where something stands over the frame."""
    x0, y0, x1, y1 = paper.drawing_area
    for name, own in [*((d.text, d.ink) for d in paper.dimensions), *paper.movable.items()]:
        a, b, c, d = box_of(own)
        if a < x0 - 0.1 or b < y0 - 0.1 or c > x1 + 0.1 or d > y1 + 0.1:
            return f"“{name}” stands over the frame: a larger paper, a smaller scale, or moved by hand"
    return ""


def _fits_over(table: Table, height: float, area: Box) -> bool:
    wide, high = table_size(table, height)
    return wide <= min(area[2] - area[0], 260.0) and high <= (area[3] - area[1]) * 0.4


def _scaled(plan: Plan, rooms: list[Box]) -> tuple[float, Box, list[str]]:
    """The scale that is said or the largest that fits, in which room, and what is wrong with it."""
    style = plan.style
    if style.said.scale.strip():
        try:
            scale = read_scale(style.said.scale)
        except ZygonError as error:
            found = _scaled(replace(plan, style=replace(style, said=style.said.model_copy(update={"scale": ""}))), rooms)
            return found[0], found[1], [error.message + ": " + error.rule]
        for room in rooms:
            wide, high = _grid(plan.views, style, scale)[0].size
            if wide <= room[2] - room[0] and high <= room[3] - room[1]:
                return scale, room, []
        best, room, _ = _scaled(replace(plan, style=replace(style, said=style.said.model_copy(update={"scale": ""}))), rooms)
        return scale, room, [f"At {scale_words(scale)} it does not fit on this paper: {scale_words(best)} does"]
    for scale in SCALES:
        if scale > plan.most:
            continue
        grid = _grid(plan.views, style, scale)[0]
        for room in rooms:
            if grid.size[0] <= room[2] - room[0] and grid.size[1] <= room[3] - room[1]:
                return scale, room, []
    return SCALES[-1], rooms[0], ["It does not fit on this paper at any scale: take a larger one"]


@dataclass
class _Laid:
    ink: list[Ink] = field(default_factory=list)
    dimensions: list[Dimension] = field(default_factory=list)
    anchors: dict[str, tuple[Anchor, ...]] = field(default_factory=dict)
    movable: dict[str, tuple[Ink, ...]] = field(default_factory=dict)
    faults: list[str] = field(default_factory=list)


def _views(plan: Plan, scale: float, room: Box) -> _Laid:
    grid, margins = _grid(plan.views, plan.style, scale)
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
            corner = corner[0] + (grid.widths[v.column][1] - v.size[0] * scale) / 2, corner[1]
        laid = lay(v, plan.style, scale, corner)
        found.ink += laid.ink
        found.dimensions += laid.dimensions
        found.anchors[v.name] = laid.anchors
        found.movable |= {name: tuple(own) for name, own in laid.rings.items()}
        found.faults += laid.faults
    names = {v.name for v in plan.views}
    for said in plan.style.said.added.values():
        if said.view not in names:
            found.faults.append(f"A dimension waits: the view {said.view} is not on this sheet")
    return found


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
        lines = wrapped(note.text, height, note.wide)
        x, y = note.at.x, note.at.y
        ink: list[Ink] = [Words(t, (x, y - i * height * 1.6), height, of=f"note:{key}") for i, t in enumerate(lines)]
        letter = missing(note.text)
        if letter:
            faults.append(f"A note has the letter {letter}, which no font here has")
        if note.anchor:
            at = next((a.at for a in anchors.get(note.view, ()) if a.name == note.anchor), None)
            if at is None:
                faults.append(f"A note points to nothing: {note.anchor} is not there any more")
            else:
                start = (x - 1.5, y + height / 2)
                away = ((at[0] - start[0]) ** 2 + (at[1] - start[1]) ** 2) ** 0.5 or 1.0
                ink += [Line("thin", start, at), arrow(at, ((at[0] - start[0]) / away, (at[1] - start[1]) / away))]
        found[f"note/{key}"] = tuple(ink)
    return found, faults


def _table_pages(tables: Sequence[Table], height: float, area: Box, *, beside: bool) -> list[list[Ink]]:
    """Tables that fill pages of their own, from the top down."""
    if not tables:
        return []
    low, top = area[1] + block_height() + INSET, area[3] - INSET
    pages: list[list[Ink]] = [[]]
    y = top
    for t in tables:
        spans = paged(t, height, y - low, top - low)
        for n, (first, last) in enumerate(spans):
            if n:
                pages.append([])
                y = top
            pages[-1] += table_ink(t, height, (area[0] + INSET, y), first, last)
            y -= table_size(t, height, first, last)[1] + INSET
    return pages
