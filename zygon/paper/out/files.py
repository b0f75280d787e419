"""Papers as files by their names: the whole set as one PDF, or one file a page."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from typing import Literal

from zygon.exchange.named import safe
from zygon.paper.ink import Paper
from zygon.paper.out.dxf import write_dxf
from zygon.paper.out.pdf import write_pdf
from zygon.paper.out.svg import write_svg

__all__ = ["PaperFile", "paper_files"]

PaperFile = Literal["pdf", "dxf", "svg", "png"]
#: Points to the inch in pictures of papers: a narrow line is two of them wide.
DPI = 200


def paper_files(papers: Sequence[Paper], title: str, to: PaperFile) -> dict[str, bytes]:
    """The contents of the files by name; the same papers give the same bytes in PDF and SVG."""
    if to == "pdf":
        return {f"{safe(title)}_papers.pdf": write_pdf(papers, title)}
    if to == "png":
        return {_named(title, n, p, to): content for n, (p, content) in enumerate(zip(papers, _pictures(papers, title), strict=True), 1)}
    found: dict[str, bytes] = {}
    for n, p in enumerate(papers, 1):
        text = write_dxf(p) if to == "dxf" else write_svg(p)
        found[_named(title, n, p, to)] = text.encode()
    return found


def _named(title: str, n: int, paper: Paper, to: str) -> str:
    return f"{safe(title)}_{n:03}_{safe(paper.title)}.{to}"


def _pictures(papers: Sequence[Paper], title: str) -> Iterator[bytes]:
    """Each page as PNG, as its PDF shows it."""
    import pypdfium2

    document = pypdfium2.PdfDocument(write_pdf(papers, title))
    for page, paper in zip(document, papers, strict=True):
        out = io.BytesIO()
        page.render(scale=DPI / 72, grayscale=not paper.pictures).to_pil().save(out, "PNG", dpi=(DPI, DPI), optimize=True)
        yield out.getvalue()
