"""A design's sheet as tool paths, and its program with a head that tells what it is for."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.errors import NestError
from zygon.measure.evaluate import plain_length
from zygon.nest.design import StockNest
from zygon.program.looked_through import Looked, look_through
from zygon.program.read import Program, read_program
from zygon.program.timed import Machine
from zygon.program.write import BRACKETS, write_program
from zygon.stock.cutter import Cutter
from zygon.toolpath.cuts import SheetPaths
from zygon.toolpath.laser import laser_paths

__all__ = ["machine_of", "program_of"]

#: Stands in a program where its time will.
TIME = "time is reckoned"


def machine_of(cutter: Cutter) -> Machine:
    """The machine that a cutter is, for times and limits."""
    return Machine(cutter.travel, cutter.acceleration, (plain_length(cutter.bed_length), plain_length(cutter.bed_width)))


def program_of(document: Document, nest: StockNest, number: int, revision: str = "") -> tuple[str, SheetPaths, Program, Looked]:
    """The program of a sheet (from 1), the paths that it was written from, what a reader makes of it, and what that takes.

    Raises NestError where the chosen cutter is no laser, has no speeds for the stock, or there is no such sheet; ExpressionError for a broken entry of the cutter.
    """
    paths = laser_paths(document, nest, number)
    cutter = document.cutters[document.cutter]
    stock = document.stocks[nest.plan.stock]
    if paths.cut_speed <= 0 or paths.mark_speed <= 0:
        said = f"{cutter.name} has no speeds for {stock.name}"
        raise NestError(said, entry="work", value=stock.name, rule="speeds of cutting and marking, in Sizes, Cutters", code="no_speeds")
    machine = machine_of(cutter)
    told = [
        f"{document.name}{f', revision {revision}' if revision else ''}",
        f"sheet {number} of {len(nest.layout.sheets)}, {paths.size[0]:g} x {paths.size[1]:g} mm",
        f"{stock.name}, {paths.thickness:g} mm thick, kerf {paths.kerf:g} mm",
        "zero is the lower left corner of the sheet, on its face",
    ]
    # read back once: its time goes into the line that was kept for it, and a comment changes no move
    text = write_program(paths, cutter.controller, [*told, TIME])
    program = read_program(text, wait_in=cutter.controller.dwell)
    looked = look_through(program, machine)
    text = text.replace(TIME, f"time {looked.seconds:.0f} s on {cutter.name.translate(BRACKETS)}", 1)
    return text, paths, program, looked
