"""Hinges, drawer slides, feet, magnets: what is screwed to parts, and lets some of them move. Millimetres; common sizes of the trade, from memory.

A hinge's pin runs along u through the origin. Its leaf a reaches to -v and lies at the low end of w; b, as it is drawn, lies flat beside it to +v, the leaves 180° open.
A slide's rails run along u from its front at 0 back to -length; its rail a lies on w 0, b on the far side. A foot and a magnet stand on w 0.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from zygon.stock.hardware.family import Family
from zygon.stock.hardware.piece import Hardware, Slice, round_
from zygon.stock.hardware.shape import Block, Drum, Freedom, Leaf, ScrewHole

__all__ = ["FITTINGS", "Fittings"]

#: A leaf keeps so much clear of the knuckle's other pieces, and of the ends (mm).
GAP = 0.5
#: A slide's rails are of sheet so thick (mm).
SHEET = 1.2
#: g/cm³ (common handbook values).
RUBBER, NEODYMIUM, BRASS = 1.2, 7.5, 8.5


@dataclass(frozen=True)
class Fittings(Family):
    """Its rows make leaves, and what moves. Its lengths, where it has any, are those of its rails."""

    def piece(self, size: str, length: float | None = None) -> Hardware:
        """One piece. KeyError for a size that is not in the table."""
        row = self.rows[size]
        own = None if self.lengths is None else length
        leaves, freedom = _hinge(row) if self.role == "hinge" else _slide(row, own or 0.0)
        whole = super().piece(size, length)
        return replace(whole, leaves=leaves, freedom=freedom)


def _none(_: str, __: tuple[float, ...], ___: float) -> tuple[Slice, ...]:
    return ()


def _hinge(row: tuple[float, ...]) -> tuple[tuple[Leaf, ...], Freedom]:
    """Two leaves of a sheet rolled round a pin, their knuckles in five: the leaves' backs are tangent to the knuckle, which so lies all on one side of them."""
    long, open_wide, thick, pin, holes, hole, sink, screw = row
    r = pin / 2 + thick
    half, reach, fifth = long / 2, open_wide / 2, long / 5
    ends = [-half + fifth * k for k in range(6)]
    knuckles = {"a": (0, 2, 4), "b": (1, 3)}
    near = r + GAP
    # screw holes in a row, every other one farther out, as a leaf does not split what it is on
    places = [-half + long * (k + 0.5) / holes for k in range(int(holes))]
    out = (near + reach) / 2
    leaves = []
    for key, sign in (("a", -1.0), ("b", 1.0)):
        sheet: list[Block | Drum] = [_block((-half, sign * near, -r), (half, sign * reach, -r + thick))]
        for k in knuckles[key]:
            sheet.append(_block((ends[k], sign * 0.0, -r), (ends[k + 1], sign * near, -r + thick)))
            sheet.append(Drum(0, (0.0, 0.0, 0.0), ends[k], ends[k + 1], 2 * r))
        own = tuple(
            ScrewHole(
                f"{key}{n}", u, sign * (out + (reach - near) / 8 * (1 if n % 2 else -1)), -r, -r + thick, hole, sink, ("wood", f"{screw:g}")
            )
            for n, u in enumerate(places, 1)
        )
        # the knuckle and the strip that it is rolled from have half a segment of the round in common
        segment = r * r * math.acos((r - thick) / r) - (r - thick) * math.sqrt(2 * r * thick - thick * thick)
        shared = segment / 2 * fifth * len(knuckles[key])
        leaves.append(Leaf(key, tuple(sheet), own, -r, True, _foot_of(-half, sign * r, half, sign * reach), shared=shared))
    freedom = Freedom("turns", 0, (0.0, 0.0, 0.0), 0.0, math.radians(270), math.pi)
    return tuple(leaves), freedom


def _foot_of(u0: float, v0: float, u1: float, v1: float) -> tuple[float, float, float, float]:
    """A rectangle by two corners."""
    return min(u0, u1), min(v0, v1), max(u0, u1), max(v0, v1)


def _block(a: tuple[float, float, float], b: tuple[float, float, float]) -> Block:
    low, high = zip(*((min(x, y), max(x, y)) for x, y in zip(a, b, strict=True)), strict=True)
    return Block((low[0], low[1], low[2]), (high[0], high[1], high[2]))


def _slide(row: tuple[float, ...], length: float) -> tuple[tuple[Leaf, ...], Freedom]:
    """Two rails beside one another, as long as they are drawn out: a on the carcass, b on the drawer."""
    high, wide, travel, first, hole, screw = row
    half = high / 2
    places = [first + 32.0 * k for k in range(int((length - 2 * first) // 32) + 1)]
    spots = [places[0], *([places[len(places) // 2]] if len(places) > 2 else []), *([places[-1]] if len(places) > 1 else [])]
    leaves = []
    # rails as channels: a web on the part, and lips that reach into the other rail
    for key, web, lips, beside in (
        ("a", (0.0, SHEET), (SHEET, wide - 2 * SHEET), 0.0),
        ("b", (wide - SHEET, wide), (2 * SHEET, wide - SHEET), 3 * SHEET),
    ):
        out = half - beside
        rail = (
            Block((-length, -out, web[0]), (0.0, out, web[1])),
            Block((-length, out - SHEET, lips[0]), (0.0, out, lips[1])),
            Block((-length, -out, lips[0]), (0.0, SHEET - out, lips[1])),
        )
        own = tuple(ScrewHole(f"{key}{n}", -x, 0.0, *web, hole, 0.0, ("wood_round", f"{screw:g}")) for n, x in enumerate(spots, 1))
        leaves.append(Leaf(key, rail, own, 0.0 if key == "a" else wide, key == "a", (-length, -out, 0.0, out)))
    return tuple(leaves), Freedom("slides", 0, (0.0, 0.0, 0.0), 0.0, round(length * travel), 0.0)


def _foot(_: str, row: tuple[float, ...], __: float) -> tuple[Slice, ...]:
    wide, narrow, high, hole = row
    return (round_(0.0, high, wide, hole, narrow),)


def _magnet(_: str, row: tuple[float, ...], high: float) -> tuple[Slice, ...]:
    return (round_(0.0, high, row[0]),)


_MAGNETS = {"6": (2.0, 3.0), "8": (3.0,), "10": (2.0, 3.0, 5.0), "12": (3.0,), "15": (3.0,), "20": (5.0,)}


_HINGE = ("long", "open_wide", "thick", "pin", "holes", "hole", "sink", "screw")
_SLIDE = ("high", "wide", "travel", "first", "hole", "screw")

FITTINGS: dict[str, Family] = {
    f.key: f
    for f in (
        Fittings("butt_hinge", "butt hinge", "", "hinge", _HINGE, {
            "30": (30.0, 22.0, 1.0, 2.5, 2.0, 2.7, 5.0, 2.5), "40": (40.0, 26.0, 1.0, 2.5, 2.0, 3.3, 6.0, 3.0), "50": (50.0, 32.0, 1.2, 3.0, 3.0, 3.8, 7.0, 3.5),
            "60": (60.0, 40.0, 1.5, 3.5, 3.0, 4.3, 8.0, 4.0), "80": (80.0, 50.0, 2.0, 4.0, 4.0, 4.8, 9.0, 4.5),
        }, _none, words="door lid leaf", source="common sizes, from memory"),
        Fittings("brass_hinge", "brass box hinge", "", "hinge", _HINGE, {
            "20": (20.0, 16.0, 0.8, 1.5, 2.0, 2.7, 5.0, 2.5), "25": (25.0, 18.0, 1.0, 2.0, 2.0, 2.7, 5.0, 2.5), "38": (38.0, 22.0, 1.2, 2.5, 2.0, 2.7, 5.0, 2.5),
        }, _none, words="lid small leaf", source="common sizes, from memory", density=BRASS),
        Fittings("drawer_slide", "ball-bearing drawer slide", "", "slide", _SLIDE, {
            "45": (45.0, 12.7, 1.0, 37.0, 4.5, 4.0), "35": (35.0, 12.7, 0.75, 37.0, 4.5, 3.5), "27": (27.0, 9.5, 0.75, 20.0, 3.6, 3.0),
        }, _none, lambda size: tuple(float(x) for x in (range(250, 701, 50) if size != "27" else range(150, 401, 50))), "runner drawer telescopic rail",
           source="common sizes, from memory"),
        Family("foot", "screw-on foot", "", "foot", ("wide", "narrow", "high", "hole"), {
            "15": (15.0, 12.0, 8.0, 4.5), "20": (20.0, 16.0, 10.0, 4.5), "25": (25.0, 20.0, 13.0, 5.5), "38": (38.0, 32.0, 19.0, 6.6),
        }, _foot, words="rubber feet bumper", source="common sizes, from memory", density=RUBBER),
        Family("magnet", "disc magnet", "", "magnet", ("across",), {d: (float(d),) for d in _MAGNETS}, _magnet, lambda size: _MAGNETS[size],
               "neodymium round", source="common sizes, from memory", density=NEODYMIUM),
    )
}  # a row a line  # fmt: skip
