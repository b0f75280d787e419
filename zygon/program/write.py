"""RS-274 programs of tool paths, as a machine's controller wants them. Words: G0 G1 G2 G3 G4, G17, G20 or G21, G40, G54, G90, G94, F, S, M3, M5, M30; arcs by I and J."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from zygon.geometry.arc import arc_from_bulge, arc_points
from zygon.geometry.contour import Contour, Point
from zygon.measure.units import INCH
from zygon.stock.cutter import Controller
from zygon.toolpath.cuts import Cut, SheetPaths

__all__ = ["BRACKETS", "write_program"]

#: A comment ends at its bracket.
BRACKETS = str.maketrans("()\n\r", "[]  ")


def write_program(paths: SheetPaths, controller: Controller, head: Sequence[str]) -> str:
    """The program of a sheet; ``head`` are lines that it begins with as comments. Zero is the sheet's lower left corner.

    Feeds are in units of the program a minute, S is the share of full power. Coordinates are rounded once: an arc's centre is written from its rounded start, so that
    it closes as nearly as the figures allow.
    """
    writer = _Writer(controller)
    lines = [f"({line.translate(BRACKETS)})" for line in head]
    lines += controller.header.splitlines()
    lines += ["G21" if controller.unit == "mm" else "G20", "G90 G94", "G17 G40 G54"]
    for cut in paths.cuts:
        lines += writer.cut(cut, paths)
    lines += ["M5", f"G0 {writer.place((0.0, 0.0))}", *controller.footer.splitlines(), "M30"]
    if controller.numbered:
        lines = [line if line.startswith("(") else f"N{10 * n} {line}" for n, line in enumerate(lines, 1)]
    return "\n".join(lines) + "\n"


class _Writer:
    def __init__(self, controller: Controller) -> None:
        self.controller = controller
        self.scale = 1.0 if controller.unit == "mm" else 1 / INCH
        # an inch is more: a figure after the point more keeps what a millimetre has
        self.figures = controller.decimals + (1 if controller.unit == "in" else 0)

    def number(self, value: float) -> str:
        text = f"{value:.{self.figures}f}".rstrip("0").rstrip(".")
        return "0" if text in ("-0", "") else text

    def rounded(self, p: Point) -> Point:
        return round(p[0] * self.scale, self.figures), round(p[1] * self.scale, self.figures)

    def place(self, p: Point) -> str:
        x, y = self.rounded(p)
        return f"X{self.number(x)} Y{self.number(y)}"

    def cut(self, cut: Cut, paths: SheetPaths) -> Iterator[str]:
        marks = cut.operation == "mark"
        speed, power = (paths.mark_speed, paths.mark_power) if marks else (paths.cut_speed, paths.power)
        yield f"({cut.operation} {cut.key} {cut.copy + 1})".replace("_", " ")
        for run in cut.runs:
            yield f"G0 {self.place(run.points[0])}"
            yield f"M3 S{round(power * self.controller.full_power)}"
            if paths.pierce > 0 and not marks:
                wait = paths.pierce * (1000 if self.controller.dwell == "ms" else 1)
                yield f"G4 P{wait:.3f}".rstrip("0").rstrip(".")
            feed = f" F{self.number(speed * 60 * self.scale)}"
            for line in self._run(run):
                yield line + feed
                feed = ""
            yield "M5"

    def _run(self, run: Contour) -> Iterator[str]:
        for s in run.segments():
            if not s.bulge:
                if self.rounded(s.p) != self.rounded(s.q):
                    yield f"G1 {self.place(s.q)}"
            elif not self.controller.arcs:
                chords = [*arc_points(s.p, s.q, s.bulge, self.controller.chords)[1:].tolist(), s.q]
                yield from (f"G1 {self.place((x, y))}" for x, y in chords)
            else:
                yield from self._arc(s.p, s.q, s.bulge)

    def _arc(self, p: Point, q: Point, bulge: float) -> Iterator[str]:
        """One block, or two of what is more than half a circle: near a whole one the ends say little of the centre."""
        if abs(bulge) > 1.0:
            x, y, r, start, sweep = arc_from_bulge(p, q, bulge)
            middle = x + r * math.cos(start + sweep / 2), y + r * math.sin(start + sweep / 2)
            half = math.tan(math.atan(bulge) / 2)
            yield from self._arc(p, middle, half)
            yield from self._arc(middle, q, half)
            return
        a, b = self.rounded(p), self.rounded(q)
        if a == b:
            return
        x, y, *_ = arc_from_bulge(a, b, bulge)
        yield f"G{3 if bulge > 0 else 2} {self.place(q)} I{self.number(x - a[0])} J{self.number(y - a[1])}"
