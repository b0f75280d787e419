"""Programs for the cutter as screens are told of them."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from zygon.check.problem import Problem
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.exchange.cutlist import cut_list
from zygon.exchange.svg import path_data
from zygon.making.result.built import Built
from zygon.nest.design import StockNest
from zygon.program.of_design import program_of
from zygon.program.read import Move
from zygon.screen.shown.programs import ShownProgram, ShownProgramCut, ShownProgramSheet
from zygon.toolpath.laser import beam_for, words

__all__ = ["program_data", "program_sheets"]

#: What of a move a screen is told.
RAPID, CUT, MARK, WAIT = 0, 1, 2, 3


def program_sheets(document: Document, nests: Sequence[StockNest]) -> list[ShownProgramSheet]:
    """Every sheet as nested, with why there is no program of it where there is none."""
    return [
        {
            "stock": nest.plan.stock,
            "name": document.stocks[nest.plan.stock].name,
            "number": n,
            "of": len(nest.layout.sheets),
            "pieces": len(sheet.placements),
            "why": _why(document, nest.plan.stock),
        }
        for nest in nests
        for n, sheet in enumerate(nest.layout.sheets, 1)
    ]


def _why(document: Document, stock: str) -> str:
    try:
        beam_for(document, stock)
    except NestError as error:
        return error.message
    return ""


def program_data(built: Built, nest: StockNest, number: int, problems: Iterable[Problem] = ()) -> ShownProgram:
    """A sheet's program with what plays it. Raises as ``program_of``."""
    document = built.document
    made = program_of(document, nest, number, problems)
    paths, program, looked = made.paths, made.program, made.looked
    cutter = document.cutters[document.cutter]
    own = nest.layout.sheets[number - 1].sheet.outline
    codes = {k: row.code for row in cut_list(built) for k in row.keys}
    ends = [*looked.starts[1:], looked.seconds]
    cuts: list[ShownProgramCut] = []
    kinds, at = [], 0
    for cut in paths.cuts:
        first = at
        for _ in cut.runs:  # a run is a rapid, a wait where there is one, and what goes on with the beam on
            at += 1
            while at < len(program.moves) and program.moves[at].kind != "rapid":
                at += 1
        part = built.parts[cut.key].path if cut.key in built.parts else cut.key
        cuts.append(
            {
                "operation": cut.operation,
                "key": cut.key,
                "copy": cut.copy,
                "part": words(part),
                "code": codes.get(cut.key, ""),
                "first": first,
                "last": at,
                "loose": cut.operation == "outside" and len(cut.runs) == 1,
            }
        )
        kinds += [_kind(m, cut.operation == "mark") for m in program.moves[first:at]]
    kinds += [_kind(m, False) for m in program.moves[at:]]
    return {
        "stock": nest.plan.stock,
        "name": document.stocks[nest.plan.stock].name,
        "number": number,
        "length": paths.size[0],
        "width": paths.size[1],
        "outline": "".join(path_data(c) for c in (own.outer, *own.inner)) if own else "",
        "kerf": paths.kerf,
        "thickness": paths.thickness,
        "cutter": cutter.name,
        "seconds": looked.seconds,
        "cut": looked.cut,
        "rapid": looked.rapid,
        "pierces": looked.pierces,
        "x": [round(m.q[0], 3) for m in program.moves],
        "y": [round(m.q[1], 3) for m in program.moves],
        "bulge": [round(math.tan(m.sweep / 4), 6) if m.kind == "arc" else 0.0 for m in program.moves],
        "t": [round(t, 4) for t in ends],
        "kind": kinds,
        "line": [m.line for m in program.moves],
        "cuts": cuts,
        "faults": list(made.faults),
        "said": list(paths.faults),
    }


def _kind(m: Move, marks: bool) -> int:
    return {"rapid": RAPID, "wait": WAIT}.get(m.kind, MARK if marks else CUT)
