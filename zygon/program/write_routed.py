"""RS-274 programs of a router's paths. Words: G0 G1 G2 G3, G17, G20 or G21, G40, G54, G90, G94, F, S, T, M0, M3, M5, M6, M30; arcs and helices by I and J."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from zygon.program.blocks import Blocks, Written
from zygon.stock.cutter import Controller
from zygon.tolerance import EPS
from zygon.toolpath.routed import NEAR, BitWork, Milled, RoutedPaths

__all__ = ["face_of", "write_routed"]


def face_of(paths: RoutedPaths) -> float:
    """The height of the sheet's face in the program (mm): nothing, or its thickness where height is reckoned from the bed."""
    return paths.thickness if paths.routing.zero == "bed" else 0.0


def write_routed(paths: RoutedPaths, controller: Controller, head: Sequence[str]) -> Written:
    """The program of a sheet; ``head`` are lines that it begins with as comments. Zero is the lower left corner of the sheet as it lies; heights as ``face_of``."""
    blocks = Blocks(controller)
    face = face_of(paths)
    bits = [None, *(c.bit for c in paths.cuts)]
    return blocks.whole(
        [*blocks.comments(head), *controller.header.splitlines(), *blocks.begun(), f"G0 {blocks.height(face + paths.safe)}"],
        (
            [
                *(_change(blocks, paths.bits[cut.bit], paths, first=before is None) if cut.bit != before else ()),
                *_cut(blocks, cut, paths.bits[cut.bit], face, paths.safe),
            ]
            for before, cut in zip(bits, paths.cuts, strict=False)
        ),
        ["M5", f"G0 {blocks.place((0.0, 0.0))}", *controller.footer.splitlines(), "M30"],
    )


def _change(blocks: Blocks, bit: BitWork, paths: RoutedPaths, first: bool) -> Iterator[str]:
    yield from blocks.comments([f"bit {bit.number}: {bit.name}, {bit.diameter:g} mm"])
    if not first:
        yield "M5"
    yield f"T{bit.number}"
    yield "M6" if paths.routing.change == "machine" else "M0"
    yield f"M3 S{bit.spindle}"


def _cut(blocks: Blocks, cut: Milled, bit: BitWork, face: float, safe: float) -> Iterator[str]:
    yield f"({cut.operation} {cut.key} {cut.copy + 1})".replace("_", " ")
    for dip in cut.dips:
        yield f"G0 {blocks.place(dip[0].run.points[0])}"
        yield f"G0 {blocks.height(face + NEAR)}"
        yield f"G1 {blocks.height(face + dip[0].z0)} {blocks.feed(bit.plunge)}"
        said = bit.plunge
        for leg in dip:
            speed = bit.plunge if leg.plunge else bit.feed
            feed = "" if speed == said else f" {blocks.feed(speed)}"
            if not leg.run.bulges:
                lines = [f"G1 {blocks.height(face + leg.z1)}"] if abs(leg.z1 - leg.z0) > EPS else []
            else:
                lines = list(blocks.run(leg.run, face + leg.z0, face + leg.z1))
            for line in lines:
                yield line + feed
                feed, said = "", speed
        yield f"G0 {blocks.height(face + safe)}"
