"""Tables on papers: columns as wide as what stands in them and as there is room, rows on as many pages as they take."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property

from zygon.paper.ink import Ink, Line, Point, Words
from zygon.paper.letters import width_of, wrapped

__all__ = ["Column", "SetTable", "Table", "table_of"]

#: Room beside the words of a cell, mm; columns are narrowed in steps of so much where all together have no room, and no further than so wide.
PAD, STEP, NARROWEST = 1.6, 2.0, 9.0
#: Headings shorter than this are not wrapped, mm.
SHORT = 16.0
#: How much higher a title's letters are than those of the table.
TITLE = 1.2
#: What rounding may take of a line's room, mm.
ROUNDING = 1e-6


@dataclass(frozen=True)
class Column:
    """A heading; ``right`` where its figures stand to the right; no wider than ``widest`` mm before its words are wrapped. One that is ``extra`` is there where it is chosen."""

    head: str
    right: bool = False
    widest: float = 60.0
    extra: bool = False

    @property
    def key(self) -> str:
        """How it is called where columns are chosen: its heading without the unit."""
        return self.head.partition(",")[0].lower()


@dataclass(frozen=True)
class Table:
    """Rows of texts; ``of`` is what each row is of."""

    name: str
    title: str
    columns: tuple[Column, ...]
    rows: tuple[tuple[str, ...], ...]
    of: tuple[str, ...] = field(default=())

    def chosen(self, keys: Sequence[str]) -> Table:
        """With the columns that are chosen, in that order; where none of them is there, with its own."""
        places = {c.key: i for i, c in reversed(list(enumerate(self.columns)))}
        kept = [places[k] for k in keys if k in places] or [i for i, c in enumerate(self.columns) if not c.extra]
        return replace(self, columns=tuple(self.columns[i] for i in kept), rows=tuple(tuple(r[i] for i in kept) for r in self.rows))


@dataclass(frozen=True)
class SetTable:
    """A table set in letters of a ``height`` (mm of capitals), no wider than ``room`` mm where its words can be broken so."""

    table: Table
    height: float
    room: float

    @cached_property
    def widths(self) -> list[float]:
        """Of each column, with the room beside its words."""
        h = self.height
        own = []
        for i, c in enumerate(self.table.columns):
            whole = width_of(c.head, h, bold=True)
            words = whole if whole < SHORT else max((width_of(w, h, bold=True) for w in c.head.split(" ")), default=0.0)
            own.append(min(c.widest, max([words, *(width_of(r[i], h) for r in self.table.rows)])))
        while sum(own) + 2 * PAD * len(own) > self.room and max(own) > NARROWEST:
            widest = max(range(len(own)), key=lambda i: own[i])
            own[widest] = max(NARROWEST, own[widest] - STEP)
        return [w + 2 * PAD for w in own]

    def _wrapped(self, cells: Sequence[str], *, bold: bool = False) -> list[list[str]]:
        return [wrapped(t, self.height, w - 2 * PAD + ROUNDING, bold=bold) for t, w in zip(cells, self.widths, strict=True)]

    @cached_property
    def _head(self) -> list[list[str]]:
        return self._wrapped([c.head for c in self.table.columns], bold=True)

    @cached_property
    def _rows(self) -> list[list[list[str]]]:
        return [self._wrapped(r) for r in self.table.rows]

    def _tall(self, cells: list[list[str]]) -> float:
        return max(len(c) for c in cells) * self.height * 1.5 + self.height * 0.9

    @property
    def _title(self) -> float:
        return self.height * 2.6 if self.table.title else 0.0

    def size(self, first: int = 0, last: int | None = None) -> tuple[float, float]:
        """Wide and high, mm, with its heading and its title, of the rows from first to before last."""
        title = width_of(self.table.title, self.height * TITLE, bold=True)
        return max(sum(self.widths), title), sum(map(self._tall, self._rows[first:last])) + self._tall(self._head) + self._title

    def pages(self, first_room: float, room: float) -> list[tuple[int, int]]:
        """Which rows stand on each page, where a page has so much room (mm of height); at least one each."""
        head = self._tall(self._head) + self._title
        pages: list[tuple[int, int]] = []
        start, left = 0, first_room - head
        for i, row in enumerate(self._rows):
            if self._tall(row) > left and i > start:
                pages.append((start, i))
                start, left = i, room - head
            left -= self._tall(row)
        return [*pages, (start, len(self._rows))]

    def ink(self, corner: Point, first: int = 0, last: int | None = None) -> list[Ink]:
        """The table with its upper left corner at ``corner``."""
        x0, y = corner
        right = x0 + sum(self.widths)
        ink: list[Ink] = []
        if self.table.title:
            ink.append(Words(self.table.title, (x0, y - self.height * 1.5), self.height * TITLE, bold=True))
            y -= self._title
        start = y
        ink.append(Line("visible", (x0, y), (right, y)))
        ink += self._cells(self._head, x0, y, "", bold=True)
        y -= self._tall(self._head)
        ink.append(Line("visible", (x0, y), (right, y)))
        for i, cells in enumerate(self._rows[first:last]):
            ink += self._cells(cells, x0, y, self.table.of[first + i] if self.table.of else "", bold=False)
            y -= self._tall(cells)
            ink.append(Line("thin", (x0, y), (right, y)))
        x = x0
        for w in [*self.widths, 0.0]:
            ink.append(Line("thin", (x, start), (x, y)))
            x += w
        return ink

    def _cells(self, cells: list[list[str]], x: float, y: float, of: str, *, bold: bool) -> list[Ink]:
        found: list[Ink] = []
        for c, w, lines in zip(self.table.columns, self.widths, cells, strict=True):
            for n, t in enumerate(lines):
                low = y - self.height * 1.45 - n * self.height * 1.5
                at = (x + w - PAD, low) if c.right else (x + PAD, low)
                if t:
                    found.append(Words(t, at, self.height, "end" if c.right else "start", bold=bold, of=of))
            x += w
        return found


def table_of(
    name: str, title: str, heads: Sequence[str], rows: Sequence[tuple[str, ...]], of: Sequence[str], extra: Sequence[str] = ()
) -> Table:
    """Without the columns in which nothing stands; figures to the right. Columns headed as one of ``extra`` are there where they are chosen."""
    kept = [i for i in range(len(heads)) if any(r[i] for r in rows)]

    def figure(i: int) -> bool:
        return all(_is_figure(r[i]) for r in rows if r[i])

    columns = tuple(Column(heads[i], figure(i), 44.0, heads[i] in extra) for i in kept)
    return Table(name, title, columns, tuple(tuple(r[i].replace("_", " ") for i in kept) for r in rows), tuple(of))


def _is_figure(text: str) -> bool:
    return text.lstrip("−-≈").replace(".", "").replace("/", "").replace("°", "").replace(" ", "").isdigit()
