"""``zygon papers``: a design's papers from the command line, the whole set as one PDF or a DXF or SVG a page."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import TYPE_CHECKING, Any

from zygon.design.papers import FORMAT_WORDS

if TYPE_CHECKING:
    from zygon.making.result.built import Built
    from zygon.nest.design import StockNest

__all__ = ["add_papers"]


def add_papers(commands: Any) -> None:
    """Adds the command."""
    add = commands.add_parser("papers", help="dimensioned papers of a design: the whole, parts, flats, lists")
    add.add_argument("design", type=Path)
    add.add_argument("--out", type=Path, required=True, help="folder")
    add.add_argument("--size", choices=tuple(FORMAT_WORDS), help="paper, where the design says otherwise")
    add.add_argument("--to", choices=("pdf", "dxf", "svg", "png"), default="pdf")
    add.add_argument("--sheet", default="", help="one sheet by its subject, such as whole or part:front")
    add.add_argument(
        "--nest", type=float, default=2.0, metavar="SECONDS", help="for each stock that is not laid out by hand; 0 for no sheets as nested"
    )
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_papers)


def _nests(built: Built, seconds: float) -> list[StockNest]:
    """Every stock laid out."""
    from zygon.nest.design import laid_out, plans

    found = (laid_out(built.document, p, seconds) for p in plans(built))
    return [n for n in found if n and n.layout.sheets]


def _papers(a: argparse.Namespace) -> None:
    from zygon.check.run import check
    from zygon.errors import ZygonError
    from zygon.exchange.design_in import read_design_file
    from zygon.making.pipeline import build
    from zygon.paper.compose import make
    from zygon.paper.hidden import look_at
    from zygon.paper.out.files import paper_files
    from zygon.paper.subjects import subjects

    document, pictures = read_design_file(a.design, str(a.design))
    if a.size:
        document = document.model_copy(update={"papers": document.papers.model_copy(update={"size": a.size})})
    built = build(document)
    wanted = not a.sheet or a.sheet.startswith("sheet:")
    found = subjects(built, _nests(built, a.nest) if wanted and a.nest > 0 else ())
    chosen = [s for s in found if not a.sheet or s.id == a.sheet]
    if not chosen:
        rule = f"one of {', '.join(s.id for s in found)}" if found else "a design with at least one part"
        raise ZygonError(
            f"There is no sheet {a.sheet}" if a.sheet else "There is nothing to draw",
            code="no_sheet",
            entry="--sheet",
            value=a.sheet,
            rule=rule,
        )
    problems = check(built) if document.kept else []
    papers = [p for n, s in enumerate(found, 1) if s in chosen for p in make(built, s, look_at, f"{n} of {len(found)}", problems, pictures)]
    files = paper_files(papers, document.name, a.to)
    a.out.mkdir(parents=True, exist_ok=True)
    for name, content in files.items():
        (a.out / name).write_bytes(content)
    if a.json:
        told = [
            {
                "sheet": p.subject,
                "title": p.title,
                "page": p.page,
                "scale": p.scale,
                "dimensions": len(p.dimensions),
                "faults": list(p.faults),
            }
            for p in papers
        ]
        print(json.dumps({"files": list(files), "papers": told}, ensure_ascii=False))
        return
    for name in files:
        print(a.out / name)
    for p in papers:
        for fault in p.faults:
            print(f"  ! {p.title}: {fault}")
