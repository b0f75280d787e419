"""A design's sheet as tool paths, and its program with a head that tells what it is for."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from zygon.check.problem import Problem
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.measure.evaluate import plain_length
from zygon.nest.design import StockNest
from zygon.program.looked_through import Looked, look_through
from zygon.program.read import Program, ProgramError, read_program
from zygon.program.timed import Machine
from zygon.program.write import BRACKETS, write_program
from zygon.stock.cutter import Cutter
from zygon.toolpath.cuts import SheetPaths
from zygon.toolpath.laser import laser_paths

__all__ = ["SheetProgram", "machine_of", "program_of"]

#: Stands in a program where its time will.
TIME = "time is reckoned"
#: What is read is as long as what was drawn to this share: figures are rounded, arcs may be chords.
ALIKE = 1e-3


@dataclass(frozen=True)
class SheetProgram:
    """A program, the paths that it was written from, what a reader makes of it, and what that takes. It does not leave while it has ``faults`` (sentences)."""

    text: str
    paths: SheetPaths
    program: Program
    looked: Looked
    faults: tuple[str, ...]

    def leave(self) -> str:
        """The text. Raises NestError while something is wrong with it."""
        if self.faults:
            raise NestError(self.faults[0], entry="program", value=len(self.faults), rule="nothing wrong with it", code="program_faults")
        return self.text


def machine_of(cutter: Cutter) -> Machine:
    """The machine that a cutter is, for times and limits."""
    return Machine(cutter.travel, cutter.acceleration, (plain_length(cutter.bed_length), plain_length(cutter.bed_width)))


def program_of(document: Document, nest: StockNest, number: int, problems: Iterable[Problem] = (), revision: str = "") -> SheetProgram:
    """The program of a sheet (from 1); of ``problems`` those of its parts keep it here, unless they are warnings or kept with a reason.

    Raises as ``laser_paths``, and NestError where the controller's own lines cannot be read.
    """
    paths = laser_paths(document, nest, number)
    cutter = document.cutters[document.cutter]
    stock = document.stocks[nest.plan.stock]
    machine = machine_of(cutter)
    told = [
        f"{document.name}{f', revision {revision}' if revision else ''}",
        f"sheet {number} of {len(nest.layout.sheets)}, {paths.size[0]:g} x {paths.size[1]:g} mm",
        f"{stock.name}, {paths.thickness:g} mm thick, kerf {paths.kerf:g} mm",
        "zero is the lower left corner of the sheet, on its face",
    ]
    # read back once: its time goes into the line that was kept for it, and a comment changes no move
    text = write_program(paths, cutter.controller, [*told, TIME])
    try:
        program = read_program(text, wait_in=cutter.controller.dwell)
    except ProgramError as error:  # what we write can be read: it is one of the lines before or after
        said = f"{cutter.name}, controller, lines before or after: {error.message.partition(': ')[2]}"
        raise NestError(said, entry="controller", value=error.value, rule=error.rule, code="controller_lines") from error
    looked = look_through(program, machine)
    text = text.replace(TIME, f"time {looked.seconds:.0f} s on {cutter.name.translate(BRACKETS)}", 1)
    keys = {nest.plan.parts[p.shape] for p in nest.layout.sheets[number - 1].placements}
    faults = (*_open(problems, keys), *paths.wrong, *looked.faults, *_otherwise(cutter, paths, looked))
    return SheetProgram(text, paths, program, looked, faults)


def _open(problems: Iterable[Problem], keys: set[str]) -> list[str]:
    """What is wrong with the parts on a sheet and not kept with a reason."""
    found = [p.fault.message for p in problems if p.fault.severity == "error" and not p.kept and {p.fault.part, p.fault.other} & keys]
    return list(dict.fromkeys(found))


def _otherwise(cutter: Cutter, paths: SheetPaths, looked: Looked) -> list[str]:
    """Says where what is read is not what was drawn: the controller's own lines end the program before its time, or cut something."""
    wanted = sum(c.length for c in paths.cuts)
    if abs(looked.cut - wanted) <= ALIKE * wanted:
        return []
    return [f"{cutter.name}, controller, lines before or after: with them {looked.cut:.0f} mm are cut, where {wanted:.0f} mm were drawn"]
