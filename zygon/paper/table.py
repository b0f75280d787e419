"""Tables on papers: columns as wide as what stands in them, rows on as many pages as they take."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from zygon.paper.ink import Ink, Line, Point, Words
from zygon.paper.letters import width_of, wrapped

__all__ = ["Column", "Table", "paged", "table_ink", "table_size"]

#: Room beside the words of a cell, and how wide a column is before its words are wrapped, mm.
PAD, WIDEST = 1.6, 60.0


@dataclass(frozen=True)
class Column:
    """A heading; ``right`` where its figures stand to the right."""

    head: str
    right: bool = False
    widest: float = WIDEST


@dataclass(frozen=True)
class Table:
    """Rows of texts; ``of`` is what each row is of."""

    name: str
    title: str
    columns: tuple[Column, ...]
    rows: tuple[tuple[str, ...], ...]
    of: tuple[str, ...] = field(default=())


def _widths(table: Table, height: float) -> list[float]:
    return [
        min(c.widest, max([width_of(c.head, height, bold=True), *(width_of(r[i], height) for r in table.rows)])) + 2 * PAD
        for i, c in enumerate(table.columns)
    ]


def _lines(table: Table, height: float, widths: Sequence[float]) -> list[list[list[str]]]:
    return [[wrapped(t, height, w - 2 * PAD + 1e-6) for t, w in zip(row, widths, strict=True)] for row in table.rows]  # rounding alone


def _tall(cells: list[list[str]], height: float) -> float:
    return max(len(c) for c in cells) * height * 1.5 + height * 0.9


def table_size(table: Table, height: float, first: int = 0, last: int | None = None) -> tuple[float, float]:
    """Wide and high, mm, with its heading and its title, of the rows from first to before last."""
    widths = _widths(table, height)
    rows = _lines(table, height, widths)[first:last]
    title = height * 2.6 if table.title else 0.0
    return sum(widths), sum(_tall(r, height) for r in rows) + height * 2.4 + title


def paged(table: Table, height: float, first_room: float, room: float) -> list[tuple[int, int]]:
    """Which rows stand on each page, where a page has so much room (mm of height); at least one each."""
    widths = _widths(table, height)
    rows = _lines(table, height, widths)
    head = height * (5.0 if table.title else 2.4)
    pages: list[tuple[int, int]] = []
    start, left = 0, first_room - head
    for i, row in enumerate(rows):
        tall = _tall(row, height)
        if tall > left and i > start:
            pages.append((start, i))
            start, left = i, room - head
        left -= tall
    return [*pages, (start, len(rows))]


def table_ink(table: Table, height: float, corner: Point, first: int = 0, last: int | None = None) -> list[Ink]:
    """The table with its upper left corner at ``corner``."""
    widths = _widths(table, height)
    rows = _lines(table, height, widths)[first:last]
    x0, top = corner
    right = x0 + sum(widths)
    ink: list[Ink] = []
    y = top
    if table.title:
        ink.append(Words(table.title, (x0, y - height * 1.5), height * 1.2, bold=True))
        y -= height * 2.6
    start = y
    ink.append(Line("visible", (x0, y), (right, y)))
    x = x0
    for c, w in zip(table.columns, widths, strict=True):
        at = (x + w - PAD, y - height * 1.7) if c.right else (x + PAD, y - height * 1.7)
        ink.append(Words(c.head, at, height, "end" if c.right else "start", bold=True))
        x += w
    y -= height * 2.4
    ink.append(Line("visible", (x0, y), (right, y)))
    for i, cells in enumerate(rows):
        of = table.of[first + i] if table.of else ""
        x = x0
        for c, w, lines in zip(table.columns, widths, cells, strict=True):
            for n, t in enumerate(lines):
                low = y - height * 1.45 - n * height * 1.5
                at = (x + w - PAD, low) if c.right else (x + PAD, low)
                if t:
                    ink.append(Words(t, at, height, "end" if c.right else "start", of=of))
            x += w
        y -= _tall(cells, height)
        ink.append(Line("thin", (x0, y), (right, y)))
    x = x0
    for w in [*widths, 0.0]:
        ink.append(Line("thin", (x, start), (x, y)))
        x += w
    return ink
