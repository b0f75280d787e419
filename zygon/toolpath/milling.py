"""How the chosen router mills a stock: its entries as figures, and its bits."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from zygon.check.router import MILLING
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.measure.evaluate import plain_length
from zygon.stock.cutter import Cutter, CutterWork
from zygon.toolpath.bits import bits_of
from zygon.toolpath.routed import BitWork, Clamped

__all__ = ["Milling", "clamps_of", "milling_of", "with_bit"]

#: No cut is made in more passes, no hole in more pecks.
MOST_PASSES = 200


@dataclass(frozen=True)
class Milling:
    """Lengths in mm, ``slope`` in radians (0 straight down), ``step`` a share of the bit's diameter. ``bits``: the one of outlines first."""

    bits: tuple[BitWork, ...]
    thickness: float
    climb: bool
    step: float
    finish: float
    slope: float
    over: float
    peck: float
    mark_depth: float
    tabs: int
    tab_length: float
    tab_height: float
    skin: float
    safe: float

    @property
    def bit(self) -> BitWork:
        """The bit that outlines are cut with."""
        return self.bits[0]

    @property
    def through(self) -> float:
        """How deep a cut straight through goes."""
        return self.thickness + self.over

    def mills(self) -> list[BitWork]:
        """The end mills, the bit of outlines first, then from the largest on."""
        return [b for b in self.bits if b.kind == "end_mill"]


def with_bit(m: Milling, bit: BitWork) -> Milling:
    """The same with another end mill for a cut all round: no more is left for its finishing run than half of it, and no skin."""
    if bit is m.bit:
        return m
    others = tuple(b for b in m.bits if b is not bit)
    return replace(m, bits=(bit, *others), finish=min(m.finish, bit.diameter / 2), skin=0.0)


def milling_of(document: Document, stock: str, cutter: Cutter, work: CutterWork, thickness: float) -> Milling:
    """Raises ExpressionError for a broken entry, NestError for one that cannot be milled with."""
    r = cutter.routing
    figures = {f: plain_length(entry) if (entry := getattr(r, f)) else 0.0 for f in MILLING if f != "reach"}
    for f, value in figures.items():
        called, nothing = MILLING[f]
        if value < 0 or (not nothing and value == 0 and getattr(r, f)):
            rule = "0 mm or more" if nothing else "over 0 mm"
            said = f"{cutter.name}, {called}: {value:g} mm, where {rule} is wanted"
            raise NestError(said, entry="routing", value=value, rule=rule, code="bad_routing")
    bits = bits_of(document, stock, cutter, work)
    if figures["finish"] > bits[0].diameter / 2:
        rule = f"at most half of the bit, {bits[0].diameter / 2:g} mm"
        said = f"{cutter.name}, {MILLING['finish'][0]}: {figures['finish']:g} mm, where {rule} is wanted"
        raise NestError(said, entry="routing", value=figures["finish"], rule=rule, code="bad_routing")
    deep = thickness + figures["over"]
    for entry, said, value in [("pass_depth", "depth of a pass", min(b.pass_depth for b in bits)), ("routing", "pecks", figures["peck"])]:
        if value and deep > MOST_PASSES * value:
            rule = f"at most {MOST_PASSES} for {deep:g} mm"
            told = f"{cutter.name}: {said} of {value:g} mm would be {deep / value:.0f} of them, where {rule} are wanted"
            raise NestError(told, entry=entry, value=value, rule=rule, code="bad_routing")
    return Milling(
        tuple(bits),
        thickness,
        r.way == "climb",
        r.step_over / 100,
        figures["finish"],
        math.radians(r.slope),
        figures["over"],
        figures["peck"],
        figures["mark_depth"],
        r.tabs,
        figures["tab_length"],
        figures["tab_height"],
        figures["skin"],
        figures["safe"],
    )


def clamps_of(cutter: Cutter) -> tuple[Clamped, ...]:
    """The places that are kept clear. Raises ExpressionError."""
    found = []
    for c in cutter.clamps.values():
        x, y, length, width, height = (plain_length(e) for e in (c.x, c.y, c.length, c.width, c.height))
        found.append(Clamped(c.name, (x, y, x + length, y + width), height))
    return tuple(found)
