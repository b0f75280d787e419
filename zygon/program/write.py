"""RS-274 programs of a beam's paths. Words: G0 G1 G2 G3 G4, G17, G20 or G21, G40, G54, G90, G94, F, S, M3, M5, M30; arcs by I and J."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from zygon.program.blocks import Blocks, Written
from zygon.stock.cutter import Controller
from zygon.toolpath.corners import paced
from zygon.toolpath.cuts import Cut, SheetPaths

__all__ = ["write_program"]


def write_program(paths: SheetPaths, controller: Controller, head: Sequence[str]) -> Written:
    """The program of a sheet; ``head`` are lines that it begins with as comments. Zero is the sheet's lower left corner.

    Feeds are in units of the program a minute, S is the share of full power.
    """
    blocks = Blocks(controller)
    return blocks.whole(
        [*blocks.comments(head), *controller.header.splitlines(), *blocks.begun()],
        (list(_cut(blocks, cut, paths)) for cut in paths.cuts),
        ["M5", *(f"G0 {blocks.place(p)}" for p in (*paths.home, (0.0, 0.0))), *controller.footer.splitlines(), "M30"],
    )


def _cut(blocks: Blocks, cut: Cut, paths: SheetPaths) -> Iterator[str]:
    marks = cut.operation == "mark"
    speed, power = (paths.mark_speed, paths.mark_power) if marks else (paths.cut_speed, paths.power)
    speed = speed if cut.speed is None else cut.speed
    power = power if cut.power is None else cut.power
    yield f"({cut.operation} {cut.key} {cut.copy + 1})".replace("_", " ")
    yield from (f"G0 {blocks.place(p)}" for p in cut.by)
    for run in cut.runs:
        yield f"G0 {blocks.place(run.points[0])}"
        yield f"M3 S{round(power * blocks.controller.full_power)}"
        if paths.pierce > 0 and not marks:
            yield blocks.wait(paths.pierce)
        for stretch, slow in paced(run, 0.0 if marks else paths.corner_way):
            feed = f" {blocks.feed(speed * paths.corner_speed if slow else speed)}"
            for line in blocks.run(stretch):
                yield line + feed
                feed = ""
        yield "M5"
