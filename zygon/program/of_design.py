"""A design's sheet as tool paths, and its program with a head that tells what it is for."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from zygon.check.problem import Problem
from zygon.design.document import Document
from zygon.design.pointer import pointer
from zygon.errors import NestError
from zygon.geometry.arc import arc_from_bulge, chord_count
from zygon.geometry.contour import Segment
from zygon.measure.evaluate import plain_length
from zygon.nest.design import StockNest
from zygon.program.blocks import BRACKETS, Written
from zygon.program.looked_through import OFF_BED, Looked, box_of, look_through
from zygon.program.read import Program, ProgramError, read_program
from zygon.program.timed import Machine
from zygon.program.write import write_program
from zygon.program.write_routed import write_routed
from zygon.stock.cutter import Controller, Cutter
from zygon.toolpath.chosen import chosen_for
from zygon.toolpath.cuts import SheetPaths
from zygon.toolpath.laser import laser_paths
from zygon.toolpath.routed import RoutedPaths
from zygon.toolpath.router import router_paths, worked_under

__all__ = ["SheetProgram", "machine_of", "program_of"]

#: Stands in a program where its time will.
TIME = "time is reckoned"
#: What is read is as long as what was drawn to this share, as figures are rounded.
ALIKE = 1e-3


@dataclass(frozen=True)
class SheetProgram:
    """A program, the paths that it was written from, what a reader makes of it, and what that takes. It does not leave while it has ``faults`` (sentences)."""

    text: str
    paths: SheetPaths | RoutedPaths
    program: Program
    looked: Looked
    faults: tuple[str, ...]
    #: the line (from 1) at which each of the paths' cuts begins, and at last what comes after them
    firsts: tuple[int, ...] = ()

    def leave(self) -> str:
        """The text. Raises NestError while something is wrong with it."""
        if self.faults:
            raise NestError(self.faults[0], entry="program", value=len(self.faults), rule="nothing wrong with it", code="program_faults")
        return self.text


def machine_of(cutter: Cutter, thickness: float = 0.0) -> Machine:
    """The machine that a cutter is, for times and limits, with a sheet of ``thickness`` mm on it."""
    face = (thickness if cutter.routing.zero == "bed" else 0.0) if cutter.can.bit else None
    return Machine(cutter.travel, cutter.acceleration, (plain_length(cutter.bed_length), plain_length(cutter.bed_width)), face)


def program_of(
    document: Document,
    nest: StockNest,
    number: int,
    problems: Iterable[Problem] = (),
    revision: str = "",
    under: bool = False,
    of: str = "",
) -> SheetProgram:
    """The program of a sheet (from 1); of ``problems`` those of its parts keep it here, unless they are warnings or kept with a reason.

    ``under`` is for the face that lies down, on a router; ``of`` says in its head what it is of, where that is not the one design in its ``revision``. Raises as ``laser_paths`` and ``router_paths``, and NestError where the controller's own lines cannot be read.
    """
    cutter, _ = chosen_for(document, nest.plan.stock)
    if under and not (cutter.can.bit and worked_under(document, nest, number)):
        raise NestError(
            "Nothing is cut into the under side of this sheet", entry="under", value=number, rule="work on that face", code="no_sheet"
        )
    paths = router_paths(document, nest, number, under) if cutter.can.bit else laser_paths(document, nest, number)
    stock = document.stocks[nest.plan.stock]
    machine = machine_of(cutter, paths.thickness)
    told = [
        of or f"{document.name}{f', revision {revision}' if revision else ''}",
        f"sheet {number} of {len(nest.layout.sheets)}{', under side' if under else ''}, {paths.size[0]:g} x {paths.size[1]:g} mm",
        f"{stock.name}, {paths.thickness:g} mm thick, {cutter.can.width} {paths.kerf:g} mm",
        *_zero(paths),
    ]

    def written(head: list[str]) -> Written:
        if isinstance(paths, RoutedPaths):
            return write_routed(paths, cutter.controller, head)
        return write_program(paths, cutter.controller, head)

    # read back once: its time goes into the line that was kept for it, and a comment changes no move
    made = written([*told, TIME])
    text = made.text
    try:
        program = read_program(text, wait_in=cutter.controller.dwell)
    except ProgramError as error:  # what we write can be read: it is one of the lines before or after
        said = f"{cutter.name}, controller, lines before or after: {error.message.partition(': ')[2]}"
        raise NestError(said, entry="controller", value=error.value, rule=error.rule, code="controller_lines") from error
    looked = look_through(program, machine)
    text = text.replace(TIME, f"time {looked.seconds:.0f} s on {cutter.name.translate(BRACKETS)}", 1)
    keys = {nest.plan.parts[p.shape] for p in nest.layout.sheets[number - 1].placements}
    entries = (pointer("cutters", document.cutter), pointer("stocks", nest.plan.stock), "/nest")
    faults = (
        *_open(problems, keys, entries),
        *paths.wrong,
        *_with_way_out(looked, program, paths.size, machine),
        *_otherwise(cutter, paths, looked),
    )
    return SheetProgram(text, paths, program, looked, faults, made.firsts)


def _zero(paths: SheetPaths | RoutedPaths) -> list[str]:
    """Where zero is."""
    if not isinstance(paths, RoutedPaths):
        return ["zero is the lower left corner of the sheet, on its face"]
    turned = " as it lies turned over, left to right" if paths.under else ""
    high = "the bed" if paths.routing.zero == "bed" else "the face that lies up"
    return [f"zero is the lower left corner of the sheet{turned}, its height {high}"]


def _open(problems: Iterable[Problem], keys: set[str], entries: Iterable[str]) -> list[str]:
    """What is wrong with the parts on a sheet, or with ``entries`` of its cutter, its stock and how it is laid out, and not kept with a reason."""
    beneath = tuple(f"{e}/" for e in entries)
    errors = [p.fault for p in problems if p.fault.severity == "error" and not p.kept]
    found = [f.message for f in errors if {f.part, f.other} & keys or f.entry.startswith(beneath)]
    return list(dict.fromkeys(found))


def _with_way_out(looked: Looked, program: Program, size: tuple[float, float], machine: Machine) -> list[str]:
    """What was found in the program; of a head that leaves the bed also what would help."""
    boxes = [box_of(m) for m in program.moves if m.on]
    if any(s > b > 0 for s, b in zip(size, machine.bed, strict=True)):
        way = "smaller sheets in Sizes, Stock, or another cutter would do"
    elif any(min(x0, y0) < 0 or x1 > size[0] or y1 > size[1] for x0, y0, x1, y1 in boxes):
        way = "the cut goes past the sheet, a wider margin in Nest would do"
    else:
        return list(looked.faults)
    return [f"{f}: {way}" if OFF_BED in f else f for f in looked.faults]


def _otherwise(cutter: Cutter, paths: SheetPaths | RoutedPaths, looked: Looked) -> list[str]:
    """Says where what is read is not what was drawn: the controller's own lines end the program before its time, or cut something."""
    wanted = _written_length(paths, cutter.controller)
    if abs(looked.cut - wanted) <= ALIKE * wanted:
        return []
    return [f"{cutter.name}, controller, lines before or after: with them {looked.cut:.0f} mm are cut, where {wanted:.0f} mm were drawn"]


def _written_length(paths: SheetPaths | RoutedPaths, controller: Controller) -> float:
    """How far is cut (mm); where the controller has no arcs chords are, which are shorter on a small circle by more than figures are rounded."""
    wanted = sum(c.length for c in paths.cuts)
    if controller.arcs:
        return wanted
    if isinstance(paths, SheetPaths):
        runs = [run for c in paths.cuts for run in c.runs]
    else:
        runs = [leg.run for c in paths.cuts for dip in c.dips for leg in dip]
    return wanted - sum(_cut_short(s, controller.chords) for run in runs for s in run.segments() if s.bulge)


def _cut_short(s: Segment, sagitta: float) -> float:
    """By how much the chords of an arc are shorter than it is, mm."""
    _, _, radius, _, sweep = arc_from_bulge(s.p, s.q, s.bulge)
    n = chord_count(radius, sweep, sagitta)
    return radius * abs(sweep) - 2 * n * radius * math.sin(abs(sweep) / 2 / n)
