"""The program of a test piece for speed and power."""

from __future__ import annotations

from typing_extensions import TypedDict

from zygon.design.document import Document
from zygon.errors import NestError
from zygon.program.looked_through import look_through
from zygon.program.of_design import machine_of
from zygon.program.read import read_program
from zygon.program.write import write_program
from zygon.toolpath.power_test import PowerTest, grid, power_test_paths

__all__ = ["ShownPowerTest", "power_test_program"]


class ShownPowerTest(TypedDict):
    """What is tried: speeds in mm/s by column, powers in % by row; the piece's size in mm, and seconds."""

    speeds: list[float]
    powers: list[float]
    size: float
    seconds: float


def power_test_program(document: Document, stock: str, test: PowerTest) -> tuple[str, ShownPowerTest]:
    """Its program, and what it tries. Raises NestError as ``power_test_paths``, and where it leaves the bed."""
    paths = power_test_paths(document, stock, test)
    cutter = document.cutters[document.cutter]
    name = document.stocks[stock].name
    head = [f"speed and power in {name}, on {cutter.name}", "columns: mm/s, rows: % of power", "zero is the lower left corner of the piece"]
    text = write_program(paths, cutter.controller, head).text
    looked = look_through(read_program(text, wait_in=cutter.controller.dwell), machine_of(cutter))
    if looked.faults:
        raise NestError(looked.faults[0], entry="program", value=len(looked.faults), rule="nothing wrong with it", code="program_faults")
    speeds, powers = grid(test)
    return text, {"speeds": speeds, "powers": powers, "size": paths.size[0], "seconds": looked.seconds}
