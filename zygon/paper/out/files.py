"""Papers as files by their names: the whole set as one PDF, or one file a page."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from zygon.exchange.named import safe
from zygon.paper.ink import Paper
from zygon.paper.out.dxf import write_dxf
from zygon.paper.out.pdf import write_pdf
from zygon.paper.out.svg import write_svg

__all__ = ["PaperFile", "paper_files"]

PaperFile = Literal["pdf", "dxf", "svg"]


def paper_files(papers: Sequence[Paper], title: str, to: PaperFile) -> dict[str, bytes]:
    """The contents of the files by name; the same papers give the same bytes in PDF and SVG."""
    if to == "pdf":
        return {f"{safe(title)}_papers.pdf": write_pdf(papers, title)}
    found: dict[str, bytes] = {}
    for n, p in enumerate(papers, 1):
        text = write_dxf(p) if to == "dxf" else write_svg(p)
        found[f"{safe(title)}_{n:03}_{safe(p.title)}.{to}"] = text.encode()
    return found
