"""Programs for the cutter as screens are told of them."""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Iterable, Mapping, Sequence

import shapely
from typing_extensions import TypedDict

from zygon.check.problem import Problem
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.exchange.cutlist import cut_list
from zygon.exchange.svg import path_data
from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon
from zygon.making.result.built import Built
from zygon.nest.design import StockNest
from zygon.program.of_design import SheetProgram, machine_of, program_of
from zygon.program.read import Move
from zygon.screen.shown.programs import ShownBit, ShownClamp, ShownProgram, ShownProgramCut, ShownProgramSheet
from zygon.stock.cutter import cost_of
from zygon.toolpath.chosen import chosen_for, words
from zygon.toolpath.cuts import Cut, SheetPaths
from zygon.toolpath.routed import Milled, RoutedPaths
from zygon.toolpath.router import worked_under

__all__ = ["called_in", "played", "program_data", "program_sheets"]

#: What of a move a screen is told.
RAPID, CUT, MARK, WAIT = 0, 1, 2, 3


def program_sheets(document: Document, nests: Sequence[StockNest]) -> list[ShownProgramSheet]:
    """Every side of every sheet that is cut, as nested, with why there is no program of it where there is none; an under side before the upper one."""
    return [
        {
            "stock": nest.plan.stock,
            "name": document.stocks[nest.plan.stock].name,
            "number": n,
            "of": len(nest.layout.sheets),
            "pieces": len(sheet.placements),
            "under": under,
            "why": _why(document, nest.plan.stock),
        }
        for nest in nests
        for n, sheet in enumerate(nest.layout.sheets, 1)
        for under in ([True, False] if worked_under(document, nest, n) else [False])
    ]


def _why(document: Document, stock: str) -> str:
    try:
        chosen_for(document, stock)
    except NestError as error:
        return error.message
    return ""


def called_in(built: Built, before: str = "", of: str = "") -> dict[str, tuple[str, str]]:
    """What a design's parts are called on sheets, by key: words and the code of the cut list. Of designs cut together ``before`` stands before keys, ``of`` before words."""
    codes = {k: row.code for row in cut_list(built) for k in row.keys}
    return {f"{before}{key}": (f"{of}{words(part.path)}", codes.get(key, "")) for key, part in built.parts.items()}


def program_data(built: Built, nest: StockNest, number: int, problems: Iterable[Problem] = (), under: bool = False) -> ShownProgram:
    """A sheet's program with what plays it. Raises as ``program_of``."""
    return played(built.document, nest, number, program_of(built.document, nest, number, problems, under=under), called_in(built))


def played(document: Document, nest: StockNest, number: int, made: SheetProgram, called: Mapping[str, tuple[str, str]]) -> ShownProgram:
    """What plays a program of a sheet; ``called`` as ``called_in`` gives it."""
    paths, program, looked = made.paths, made.program, made.looked
    cutter = document.cutters[document.cutter]
    own = nest.layout.sheets[number - 1].sheet.outline
    ends = [*looked.starts[1:], looked.seconds]
    lines = [m.line for m in program.moves]
    cuts: list[ShownProgramCut] = []
    kinds = [_kind(m, False) for m in program.moves]
    worked: Sequence[Cut | Milled] = paths.cuts
    for cut, low, high in zip(worked, made.firsts, made.firsts[1:], strict=False):
        first, last = bisect_left(lines, low), bisect_left(lines, high)
        part, code = called.get(cut.key, (words(cut.key), ""))
        cuts.append(
            {
                "operation": cut.operation,
                "key": cut.key,
                "copy": cut.copy,
                "part": part,
                "code": code,
                "first": first,
                "last": last,
                **_of_bit(cut, paths),
            }
        )
        kinds[first:last] = [_kind(m, cut.operation == "mark") for m in program.moves[first:last]]
    return {
        "stock": nest.plan.stock,
        "name": document.stocks[nest.plan.stock].name,
        "number": number,
        "length": paths.size[0],
        "width": paths.size[1],
        "outline": _outline(own, paths),
        "kerf": paths.kerf,
        "thickness": paths.thickness,
        "cutter": cutter.name,
        "seconds": looked.seconds,
        "cost": cost_of(cutter, looked.seconds),
        "cut": looked.cut,
        "rapid": looked.rapid,
        "pierces": looked.pierces,
        "x": [round(m.q[0], 3) for m in program.moves],
        "y": [round(m.q[1], 3) for m in program.moves],
        "bulge": [round(math.tan(m.sweep / 4), 6) if m.kind == "arc" else 0.0 for m in program.moves],
        "t": [round(t, 4) for t in ends],
        "kind": kinds,
        "line": lines,
        "cuts": cuts,
        **_routed(paths, machine_of(cutter, paths.thickness).face or 0.0, program.moves),
        "faults": list(made.faults),
        "said": list(paths.faults),
    }


def _kind(m: Move, marks: bool) -> int:
    return {"rapid": RAPID, "wait": WAIT}.get(m.kind, MARK if marks else CUT)


class _OfBit(TypedDict):
    loose: bool
    wide: float
    deep: float
    bit: int


def _of_bit(cut: Cut | Milled, paths: SheetPaths | RoutedPaths) -> _OfBit:
    if isinstance(cut, Milled) and isinstance(paths, RoutedPaths):
        bit = paths.bits[cut.bit]
        deep = -min(leg.z1 for dip in cut.dips for leg in dip)
        wide = 2 * deep * math.tan(bit.angle / 2) if bit.angle else bit.diameter
        return {"loose": cut.loose, "wide": wide, "deep": deep, "bit": bit.number}
    return {"loose": cut.operation == "outside" and isinstance(cut, Cut) and not cut.held, "wide": paths.kerf, "deep": 0.0, "bit": 0}


class _Routed(TypedDict):
    z: list[float]
    bits: list[ShownBit]
    clamps: list[ShownClamp]
    unreached: list[str]
    left: float
    under: bool


def _routed(paths: SheetPaths | RoutedPaths, face: float, moves: Sequence[Move]) -> _Routed:
    if not isinstance(paths, RoutedPaths):
        return {"z": [], "bits": [], "clamps": [], "unreached": [], "left": 0.0, "under": False}
    used = [paths.bits[k] for k in dict.fromkeys(c.bit for c in paths.cuts)]
    return {
        "z": [round(m.q[2] - face, 3) for m in moves],
        "bits": [
            {
                "number": b.number,
                "name": b.name,
                "diameter": b.diameter,
                "spindle": b.spindle,
                "feed": b.feed,
                "plunge": b.plunge,
                "chip": b.chip if b.kind == "end_mill" else 0.0,
            }
            for b in used
        ],
        "clamps": [
            {"name": c.name, "x": c.box[0], "y": c.box[1], "length": c.box[2] - c.box[0], "width": c.box[3] - c.box[1]}
            for c in paths.clamps
        ],
        "unreached": [_area_data(area) for _, _, area in paths.unreached],
        "left": sum(area.area for _, _, area in paths.unreached),
        "under": paths.under,
    }


def _outline(own: Region | None, paths: SheetPaths | RoutedPaths) -> str:
    """An offcut as it lies."""
    if own is None:
        return ""
    turned = isinstance(paths, RoutedPaths) and paths.under
    return "".join(path_data(c.moved(paths.size[0], 0.0, mirrored=True) if turned else c) for c in (own.outer, *own.inner))


def _area_data(area: shapely.Geometry) -> str:
    """An area as path data."""
    rings = [r for p in shapely.get_parts(area) for r in (p.exterior, *p.interiors)]
    return "".join(path_data(polygon([(float(x), float(y)) for x, y in shapely.get_coordinates(r)[:-1]], "")) for r in rings)
