"""Turned parts in a lathe hand's words: the diameters and lengths from end A on, and what is bored, milled and cut."""

from __future__ import annotations

import math

from zygon.design.document import Document
from zygon.exchange.figures import Figures, plain
from zygon.making.result.body import Body
from zygon.making.turned.body import TurnedBody
from zygon.tolerance import WITHIN

__all__ = ["turned_words"]


def turned_words(document: Document, body: Body) -> str:
    """As the cut list has it: '⌀20 × 5, ⌀12 × 10; bore ⌀8'; '' for what is not turned. In the design's unit, which the list names."""
    if not isinstance(body, TurnedBody):
        return ""
    shown = Figures(document).length
    steps = [
        f"⌀{shown(2 * r)} × {shown(high - low)}" if to is None else f"⌀{shown(2 * r)} to {shown(2 * to)} × {shown(high - low)}"
        for r, to, low, high in body.steps
    ]
    whole = f"half-profile as drawn, ⌀{shown(2 * body.radius)} × {shown(body.length)}"
    found = [whole if body.drawn else ", ".join(steps)]
    for b in body.bores:
        mark = {"round": "⌀", "square": "square ", "hexagon": "hexagon "}[b.shape]
        through = b.high - b.low >= body.length - WITHIN
        found.append(
            f"bore {mark}{shown(b.across)}" + ("" if through else f" × {shown(b.high - b.low)} from {'A' if b.low <= WITHIN else 'B'}")
        )
    found += [
        f"{f.number} {'flat' if f.number == 1 else 'flats'} {shown(f.off)} from the axis, {shown(f.low)} to {shown(f.high)}"
        for f in body.flats
    ]
    found += [f"cross hole ⌀{shown(c.across)} at {shown(c.at)}, {plain(math.degrees(c.around) % 360, 2)}°" for c in body.cross]
    found += [f"{t.number} serrations {shown(t.deep)} deep, {shown(t.low)} to {shown(t.high)}" for t in body.teeth]
    found += [f"{shown(over)} of end {end.upper()} is riveted over" for end, over in body.riveted]
    return "; ".join(found)
