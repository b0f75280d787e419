"""Blocks of RS-274: figures, places and runs as a controller wants them."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from zygon.geometry.arc import arc_from_bulge, arc_points
from zygon.geometry.contour import Contour, Point
from zygon.measure.units import INCH
from zygon.stock.cutter import Controller
from zygon.tolerance import EPS

__all__ = ["BRACKETS", "Blocks", "Written"]

#: A comment ends at its bracket.
BRACKETS = str.maketrans("()\n\r", "[]  ")


@dataclass(frozen=True)
class Written:
    """A program, and the line (from 1) at which each cut begins, and at last what comes after them."""

    text: str
    firsts: tuple[int, ...]


class Blocks:
    """Writes for a controller. Coordinates are rounded once: an arc's centre is written from its rounded start, so that it closes as nearly as the figures allow."""

    def __init__(self, controller: Controller) -> None:
        self.controller = controller
        self.scale = 1.0 if controller.unit == "mm" else 1 / INCH
        # an inch is more: a figure after the point more keeps what a millimetre has
        self.figures = controller.decimals + (1 if controller.unit == "in" else 0)

    def number(self, value: float) -> str:
        """A figure without noughts that say nothing."""
        text = f"{value:.{self.figures}f}".rstrip("0").rstrip(".")
        return "0" if text in ("-0", "") else text

    def rounded(self, p: Point) -> Point:
        """A place in units of the program."""
        return round(p[0] * self.scale, self.figures), round(p[1] * self.scale, self.figures)

    def place(self, p: Point) -> str:
        """Its words."""
        x, y = self.rounded(p)
        return f"X{self.number(x)} Y{self.number(y)}"

    def height(self, z: float) -> str:
        """The word of a height, mm."""
        return f"Z{self.number(z * self.scale)}"

    def feed(self, speed: float) -> str:
        """The word of a feed, mm/s."""
        return f"F{self.number(speed * 60 * self.scale)}"

    def wait(self, seconds: float) -> str:
        """A block that waits."""
        return f"G4 P{seconds * (1000 if self.controller.dwell == 'ms' else 1):.3f}".rstrip("0").rstrip(".")

    def begun(self) -> list[str]:
        """The blocks that say what all others are in."""
        return ["G21" if self.controller.unit == "mm" else "G20", "G90 G94", "G17 G40 G54"]

    def comments(self, lines: Sequence[str]) -> list[str]:
        """Lines as comments."""
        return [f"({line.translate(BRACKETS)})" for line in lines]

    def whole(self, head: Sequence[str], cuts: Iterable[Sequence[str]], foot: Sequence[str]) -> Written:
        """The program of its lines, numbered where that is wanted."""
        lines, firsts = list(head), []
        for cut in cuts:
            firsts.append(len(lines) + 1)
            lines += cut
        firsts.append(len(lines) + 1)
        lines += foot
        if self.controller.numbered:
            lines = [line if line.startswith("(") else f"N{10 * n} {line}" for n, line in enumerate(lines, 1)]
        return Written("\n".join(lines) + "\n", tuple(firsts))

    def run(self, run: Contour, z0: float = 0.0, z1: float = 0.0) -> Iterator[str]:
        """The blocks along an open run, its height going evenly from ``z0`` to ``z1`` (mm)."""
        around, done = run.length, 0.0
        rises = abs(z1 - z0) > EPS
        for s in run.segments():
            begun, done = done, done + s.length

            def high(share: float, begun: float = begun, long: float = s.length) -> str:
                return f" {self.height(z0 + (z1 - z0) * (begun + long * share) / around)}" if rises else ""

            if not s.bulge:
                if rises or self.rounded(s.p) != self.rounded(s.q):
                    yield f"G1 {self.place(s.q)}{high(1.0)}"
            elif not self.controller.arcs:
                chords = [*arc_points(s.p, s.q, s.bulge, self.controller.chords)[1:].tolist(), s.q]
                yield from (f"G1 {self.place((x, y))}{high((k + 1) / len(chords))}" for k, (x, y) in enumerate(chords))
            elif abs(s.bulge) > 1.0:  # more than half a circle in two blocks: near a whole one the ends say little of the centre
                x, y, r, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
                middle = x + r * math.cos(start + sweep / 2), y + r * math.sin(start + sweep / 2)
                half = math.tan(math.atan(s.bulge) / 2)
                yield from self._arc(s.p, middle, half, high(0.5))
                yield from self._arc(middle, s.q, half, high(1.0))
            else:
                yield from self._arc(s.p, s.q, s.bulge, high(1.0))

    def _arc(self, p: Point, q: Point, bulge: float, high: str) -> Iterator[str]:
        a, b = self.rounded(p), self.rounded(q)
        if a == b:
            if high:
                yield f"G1{high}"
            return
        x, y, *_ = arc_from_bulge(a, b, bulge)
        yield f"G{3 if bulge > 0 else 2} {self.place(q)}{high} I{self.number(x - a[0])} J{self.number(y - a[1])}"
