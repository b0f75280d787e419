"""The bits of a router in a stock: figures of its entries, and feeds that follow from the chip load of its first bit."""

from __future__ import annotations

import math

from zygon.cut.kerf import kerf_of
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.measure.entry import Entry
from zygon.measure.evaluate import plain_length
from zygon.stock.cutter import Cutter, CutterWork
from zygon.toolpath.routed import BitWork

__all__ = ["CHIPS", "bits_of", "chip_faults"]

#: What a flute may take in a turn, as shares of the bit's diameter, by what is cut (common practice; under it a bit rubs and burns, over it breaks).
CHIPS = {"ply": (0.008, 0.05), "board": (0.008, 0.06), "plastic": (0.006, 0.04), "metal": (0.002, 0.015)}


def bits_of(document: Document, stock: str, cutter: Cutter, work: CutterWork) -> list[BitWork]:
    """The bit of outlines, then the further ones, the largest end mill first. Raises ExpressionError for a broken entry, NestError for a bit of no width.

    The feed of outlines is the stock's; other bits turn as fast and take a chip in proportion to their diameter, as deep passes as that (common practice).
    """
    own, r = kerf_of(document, stock), cutter.routing
    deep = plain_length(cutter.pass_depth) if cutter.pass_depth else 0.0
    first = BitWork(
        "", f"{own:g} mm end mill", "end_mill", 1, own, r.flutes, work.spindle, work.cut_speed, work.plunge, deep, reach=_reach(r.reach)
    )
    further = []
    for key, bit in cutter.bits.items():
        d = plain_length(bit.diameter)
        if d <= 0 or own <= 0:
            said = f"{bit.name}: its diameter is {d:g} mm"
            raise NestError(said, entry="bits", value=d, rule="over 0 mm", code="bad_bit")
        share = min(1.0, d / own)
        feed = first.feed * share * bit.flutes / r.flutes
        if bit.kind == "v":  # its tip cuts with no width to speak of
            feed = work.mark_speed
        elif bit.kind == "drill":
            feed = work.plunge
        angle = math.radians(bit.angle) if bit.kind == "v" else 0.0
        further.append(
            BitWork(
                key, bit.name, bit.kind, bit.number, d, bit.flutes, work.spindle, feed, work.plunge, deep * share, angle, _reach(bit.reach)
            )
        )
    return [first, *sorted(further, key=lambda b: (b.kind != "end_mill", -b.diameter, b.number))]


def _reach(entry: Entry | None) -> float:
    return plain_length(entry) if entry else math.inf


def chip_faults(bits: list[BitWork], kind: str) -> list[str]:
    """Sentences on end mills that take too little or too much in a turn; ``kind`` is the stock's."""
    found = []
    low, high = CHIPS[kind]
    for b in bits:
        share = b.chip / b.diameter if b.diameter else low
        if b.kind == "end_mill" and not low <= share <= high:
            what = "under" if share < low else "over"
            limit = (low if share < low else high) * b.diameter
            does = "rubs and burns" if share < low else "may break"
            found.append(
                f"{b.name}: {b.chip:.3f} mm a flute is {what} {limit:.3f} mm, so that it {does}: change its feed or the spindle's speed"
            )
    return found
