"""The paths of a sheet's program as a drawing: where the beam, or a bit's middle, goes, by operation on the cutter's layers."""

from __future__ import annotations

from typing import Literal

from zygon.design.document import Document
from zygon.exchange.dxf import write_dxf
from zygon.exchange.svg import write_svg
from zygon.geometry.contour import Contour, circle
from zygon.program.of_design import SheetProgram
from zygon.tolerance import EPS
from zygon.toolpath.cuts import SheetPaths
from zygon.toolpath.routed import Milled, RoutedPaths

__all__ = ["path_lines", "paths_file"]


def paths_file(document: Document, made: SheetProgram, to: Literal["dxf", "svg"]) -> str:
    """A DXF or SVG of the paths, in mm from the sheet's lower left corner. Raises NestError while something is wrong with the program."""
    made.leave()
    layers = document.cutters[document.cutter].layers
    notes = [text for _, text in made.program.comments if not text.startswith("zero")][:4]
    lines = path_lines(made.paths)
    return write_dxf(lines, layers, notes) if to == "dxf" else write_svg(lines, layers, notes)


def path_lines(paths: SheetPaths | RoutedPaths) -> list[tuple[str, Contour]]:
    """(operation, run) in order. Of a bit the runs at the depth that it comes to, broken where tabs are; what is drilled or sunk as a circle as wide as the bit."""
    if isinstance(paths, RoutedPaths):
        return [line for cut in paths.cuts for line in _milled(cut, paths)]
    return [(cut.operation, run) for cut in paths.cuts for run in cut.runs]


def _milled(cut: Milled, paths: RoutedPaths) -> list[tuple[str, Contour]]:
    legs = [leg for dip in cut.dips for leg in dip]
    deep = -min(leg.z1 for leg in legs)
    flat = [leg for leg in legs if leg.run.bulges and abs(leg.z0 - leg.z1) < EPS]
    if cut.operation in ("drill", "sink", "register") and not flat:
        return [("drill", circle(*cut.start, paths.bits[cut.bit].diameter / 2, cut.owner))]
    name = {"mark": "mark", "inside": "inside", "outside": "outside"}.get(
        cut.operation, f"depth-{'b' if paths.under else 'a'}-{round(deep, 3):g}"
    )
    return [(name, leg.run) for leg in flat if leg.z1 <= -deep + EPS]
