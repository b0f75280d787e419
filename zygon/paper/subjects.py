"""What papers there are of a design: the whole, a sheet a part, flats of what is bent, lists, templates, sheets as nested; found anew from the design each time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from zygon.design.papers import SheetSaid
from zygon.exchange.cutlist import CutRow, cut_list
from zygon.exchange.formats import LISTS
from zygon.exchange.tubes import needs_template
from zygon.making.assembly.plan import Assembly, assembly
from zygon.making.result.built import Built, FlatPart
from zygon.nest.design import StockNest

__all__ = ["LISTED", "Subject", "said_of", "subjects"]

#: The lists that go on paper, with their titles; the parts list stands beside the whole.
LISTED = {
    "drilling-list": "Drilling list",
    "saw-list": "Saw list",
    "bender-table": "Bender's table",
    "to-buy": "To buy",
}


#: A sheet is called by no more names than this.
MOST_NAMES = 3
#: Papers on which fewer steps of the assembly stand.
SMALL = ("A4", "ANSI A")
#: What is not cut here, but made by somebody from its drawing.
DRAWN = ("turned", "printed")


@dataclass(frozen=True)
class Subject:
    """``id`` is how a sheet is called in the records; ``key`` the instance that it is of, ``row`` its row of the cut list."""

    id: str
    kind: Literal["cover", "whole", "own", "steps", "part", "flat", "template", "list", "sheet"]
    title: str
    key: str = ""
    row: CutRow | None = None
    nest: StockNest | None = None
    number: int = 0
    #: of sheets of the assembly's steps: from which to which, and what they are steps of
    steps: tuple[int, int] = (0, 0)
    plan: Assembly | None = None


def subjects(built: Built, nests: Sequence[StockNest] = (), *, out: bool = False) -> list[Subject]:
    """In the order in which they lie in the set; those that are left out only where ``out`` asks for them."""
    if not any(not p.body.empty for p in built.made.values()):
        return []
    document = built.document
    papers = document.papers
    found = [Subject("cover", "cover", document.name)] if papers.cover else []
    found.append(Subject("whole", "whole", document.name))
    for key, own in sorted(papers.own.items(), key=lambda ko: (ko[1].order, ko[0])):
        found.append(Subject(f"own:{key}", "own", own.called or "Views", key))
    found += _steps(built) if papers.steps else []
    for row in cut_list(built):
        part = built.made.get(row.key)
        if part is None or part.body.empty or not (part.record.cut_here or part.record.made in DRAWN):
            continue
        title = _title(row.part)
        found.append(Subject(_keyed("part", built, row), "part", title, row.key, row))
        if isinstance(part, FlatPart) and part.flat.fold and part.flat.fold.bends:
            found.append(Subject(_keyed("flat", built, row), "flat", f"{title}, flat", row.key, row))
        for what in needs_template(part):
            end = "laid flat" if what == "whole" else f"end {what.upper()}"
            found.append(Subject(f"{_keyed('template', built, row, f':{what}')}", "template", f"{title}, {end}", row.key, row))
    for name, title in LISTED.items():
        if LISTS[name].write(built):
            found.append(Subject(f"list:{name}", "list", title))
    for nest in nests:
        for n in range(1, len(nest.layout.sheets) + 1):
            stock = document.stocks[nest.plan.stock].name
            found.append(Subject(f"sheet:{nest.plan.stock}:{n}", "sheet", f"{stock}, sheet {n}", nest=nest, number=n))
    return found if out else [s for s in found if not said_of(built, s).out]


def _steps(built: Built) -> list[Subject]:
    """Sheets of the steps of the assembly, as many on each as are read well on the set's paper."""
    plan = assembly(built)
    last = len(plan.steps) + 1
    if not plan.first or last < 2:
        return []
    most = 2 if built.document.papers.size in SMALL else 6
    spans = [(n, min(last, n + most - 1)) for n in range(1, last + 1, most)]
    return [
        Subject(f"steps:{k}", "steps", f"Steps {a} to {b}" if b > a else f"Step {a}", steps=(a, b), plan=plan)
        for k, (a, b) in enumerate(spans, 1)
    ]


def _title(names: str) -> str:
    """The names that a row goes by; of many the first two."""
    every = names.replace("_", " ").split(", ")
    return ", ".join(every) if len(every) <= MOST_NAMES else f"{', '.join(every[:2])} and {len(every) - 2} more"


def _keyed(kind: str, built: Built, row: CutRow, end: str = "") -> str:
    """A part's sheet keeps its name while rows of the cut list merge and split: what is said of any instance of the row holds for it."""
    known = built.document.papers.sheets
    return next((f"{kind}:{k}{end}" for k in row.keys if f"{kind}:{k}{end}" in known), f"{kind}:{row.key}{end}")


def said_of(built: Built, subject: Subject) -> SheetSaid:
    """What a maker said of a sheet."""
    return built.document.papers.sheets.get(subject.id, SheetSaid())
