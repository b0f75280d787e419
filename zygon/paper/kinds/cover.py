"""The cover sheet for a customer: a picture of the design and its figures."""

from __future__ import annotations

from zygon.exchange.cutlist import cut_list
from zygon.exchange.figures import plain
from zygon.making.result.built import Built
from zygon.paper.block import block_height
from zygon.paper.figures import PaperFigures
from zygon.paper.formats import BLOCK, area_of, frame_ink, size_of
from zygon.paper.ink import Box, Ink, Line, Paper, Picture, Words, box_of
from zygon.paper.kept_pictures import Pictures, fitted
from zygon.paper.kinds.common import block_of, paper_of, said_of, style_of
from zygon.paper.letters import wrapped
from zygon.paper.sheet import with_blocks
from zygon.paper.subjects import Subject
from zygon.paper.table import Column, SetTable, Table

__all__ = ["cover_page", "cover_rows"]

#: Between what stands on it and its frame, mm.
INSET = 10.0


def cover_page(built: Built, subject: Subject, sheet: str, pictures: Pictures) -> list[Paper]:
    """The page; it says so where it has no picture yet."""
    papers, style, size = built.document.papers, style_of(built, subject), paper_of(built, subject)
    area, height = area_of(size), style.height
    x0, _y0, x1, y1 = area[0] + INSET, area[1] + INSET, area[2] - INSET, area[3] - INSET
    tall = 3.2 * height
    ink: list[Ink] = [*frame_ink(size)]
    title = wrapped(said_of(built, subject).called or subject.title, tall, x1 - x0, bold=True)
    ink += [Words(t, (x0, y1 - tall - n * tall * 1.4), tall, bold=True) for n, t in enumerate(title)]
    top = y1 - tall * 1.4 * len(title) - 4.0
    table = SetTable(
        Table("figures", "", (Column("Figure", widest=70.0), Column("", widest=90.0)), tuple(cover_rows(built))), height * 1.2, x1 - x0
    )
    lines = wrapped(papers.words, height * 1.2, x1 - x0) if papers.words else []
    said = len(lines) * height * 2.0
    # beside the title block where there is room for both, else over it
    beside = area[2] - BLOCK - INSET - x0 >= table.size()[0]
    low = area[1] + INSET if beside else area[1] + block_height() + INSET
    head = low + table.size()[1]
    ink += table.ink((x0, head))
    base = max(head, area[1] + block_height()) + 4.0
    ink += [Words(t, (x0, base + said - (n + 1) * height * 2.0), height * 1.2) for n, t in enumerate(lines)]
    room: Box = (x0, base + said + 4.0, x1, top)
    faults = []
    if papers.picture in pictures:
        ink.append(Picture(papers.picture, fitted(room, pictures, papers.picture)))
    else:
        corners = [(room[0], room[1]), (room[2], room[1]), (room[2], room[3]), (room[0], room[3])]
        ink += [Line("thin", p, q) for p, q in zip(corners, [*corners[1:], corners[0]], strict=True)]
        faults.append("The cover has no picture yet: take one under Picture, and put it on the cover")
    if room[3] - room[1] < 40 or box_of(ink)[0] < 0:
        faults.append("There is little room for the picture: fewer words on the cover, or a larger paper")
    page = Paper(subject.id, subject.title, size_of(size), tuple(ink), faults=tuple(faults), drawing_area=area)
    return with_blocks([page], block_of(built, subject, "Cover", sheet), area)


def cover_rows(built: Built) -> list[tuple[str, str]]:
    """The figures: outer size, mass, pieces, what it is made of, price where one is said."""
    figures = PaperFigures(built.document)
    solid = [p.reaches for p in built.made.values() if not p.body.empty and not p.record.aside]
    size = [max(high[i] for _, high in solid) - min(low[i] for low, _ in solid) for i in range(3)] if solid else [0.0] * 3
    rows = cut_list(built)
    mass = sum(r.mass * r.quantity for r in rows if r.mass is not None) / 1000
    stocks = list(dict.fromkeys(r.stock for r in rows if r.stock))
    found = [
        (f"Wide × deep × high, {figures.unit}", " × ".join(figures.length(s) for s in size)),
        ("Mass", f"{plain(mass, 1)} kg" if mass >= 1 else f"{plain(mass * 1000, 0)} g"),
        ("Pieces", str(sum(r.quantity for r in rows))),
        ("Made of", ", ".join(stocks)),
        ("Price", built.document.papers.price),
    ]
    return [f for f in found if f[1]]
