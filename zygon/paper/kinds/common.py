"""What all kinds of sheets have: their paper, how they are set, what stands in their title block."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.papers import PaperFormat
from zygon.exchange.cutlist import CutRow
from zygon.exchange.figures import plain
from zygon.making.result.built import Built
from zygon.paper.block import BlockData
from zygon.paper.figures import PaperFigures
from zygon.paper.style import Style
from zygon.paper.subjects import Subject, said_of
from zygon.stock.kinds import is_sheet

__all__ = ["FINISHED", "block_of", "paper_of", "said_of", "shows_hidden", "style_of"]


#: Words that every part's sheet has.
FINISHED = "Sizes are finished sizes: nominal with fit, without kerf."


def paper_of(built: Built, subject: Subject) -> PaperFormat:
    """The format of its paper."""
    return said_of(built, subject).size or built.document.papers.size


def shows_hidden(built: Built, subject: Subject) -> bool:
    """Whether hidden edges are drawn on it."""
    own = said_of(built, subject).hidden
    return built.document.papers.hidden if own is None else own


def style_of(built: Built, subject: Subject) -> Style:
    """How its dimensions are set."""
    said, papers, size = said_of(built, subject), built.document.papers, paper_of(built, subject)
    own = 2.5 if size in ("A4", "A3", "ANSI A", "ANSI B") else 3.5
    height = float(papers.letters) if papers.letters else own
    return Style(height, said.places or papers.places, PaperFigures(built.document), said, papers)


def block_of(built: Built, subject: Subject, kind: str, sheet: str, row: CutRow | None = None) -> BlockData:
    """Its title block; ``row`` of one that is of a part."""
    document, papers, said = built.document, built.document.papers, said_of(built, subject)
    figures = PaperFigures(document)
    numbers = [papers.number or document.name, row.code if row else ""]
    stock = row.stock if row else ""
    sizes = [x for x in (row.length, row.width, row.measured or row.nominal) if x is not None] if row else []
    metal = row is not None and _metal(document, built.parts[row.key].record)
    tolerance = f"ISO 2768-{papers.tolerance}" if papers.tolerance and row and (metal or papers.on_wood) else "none said"
    mass = "" if row is None or row.mass is None else f"{plain(row.mass, 0)} g" if row.mass < 1000 else f"{plain(row.mass / 1000, 2)} kg"
    return BlockData(
        owner=papers.owner,
        title=said.called or subject.title,
        number=" / ".join(n for n in numbers if n),
        kind=kind,
        drawn=papers.drawn,
        checked=papers.checked,
        date=papers.date,
        revision=papers.revision,
        status="issued" if papers.issued else "not issued",
        sheet=sheet,
        scale="",
        unit="millimetres" if figures.unit == "mm" else "inches",
        size="",
        stock=stock,
        finished=" × ".join(figures.length(x) for x in sizes),
        mass=mass,
        pieces=str(row.quantity) if row else "",
        grain=row.grain if row else "",
        tolerance=tolerance,
        angle=papers.angle,
        logo=bool(papers.logo),
        instead=papers.block,
    )


def _metal(document: Document, record) -> bool:
    stock = document.stocks.get(getattr(record, "stock", ""))
    return stock is not None and (stock.hatch == "metal" if is_sheet(stock) else stock.density > 2.0)
