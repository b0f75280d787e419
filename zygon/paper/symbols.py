"""Symbols that stand with a note: surface texture (ISO 21920-1), welds (ISO 2553), the way of the grain (common practice). Sizes follow the height of letters."""

from __future__ import annotations

import math

from zygon.design.papers import PaperSymbol
from zygon.paper.ink import Arc, Ink, Line, Point
from zygon.paper.marks import arrow

__all__ = ["symbol_ink", "symbol_width"]

#: The legs of the surface symbol stand at 60 degrees.
LEG = math.radians(60)


def symbol_width(symbol: PaperSymbol, height: float) -> float:
    """How much room a symbol takes before its note, mm."""
    if not symbol:
        return 0.0
    return height * {"grain": 6.0, "surface": 4.0, "machined": 4.0, "not machined": 4.0}.get(symbol, 5.0) + 1.0


def symbol_ink(symbol: PaperSymbol, at: Point, height: float, of: str) -> list[Ink]:
    """A symbol whose lower left corner is at ``at`` on the paper."""
    x, y = at
    if symbol in ("surface", "machined", "not machined"):
        return _surface(symbol, x, y, height, of)
    if symbol == "grain":
        long = 5.5 * height
        middle = y + height / 2
        return [
            Line("thin", (x, middle), (x + long, middle), of),
            arrow((x, middle), (-1.0, 0.0), of),
            arrow((x + long, middle), (1.0, 0.0), of),
        ]
    return _weld(symbol, x, y, height, of)


def _surface(symbol: str, x: float, y: float, h: float, of: str) -> list[Ink]:
    """The tick with a short leg to the left and a long one to the right; a bar closes it where material is taken off, a circle stands in it where none is."""
    short, long = 1.4 * h, 3.0 * h
    foot = (x + short / math.tan(LEG), y)
    left = (foot[0] - short / math.tan(LEG), y + short)
    right = (foot[0] + long / math.tan(LEG), y + long)
    ink: list[Ink] = [Line("thin", left, foot, of), Line("thin", foot, right, of)]
    if symbol == "machined":
        ink.append(Line("thin", left, (foot[0] + short / math.tan(LEG), y + short), of))
    if symbol == "not machined":
        ink.append(Arc("thin", (foot[0], y + short * 0.66), short * 0.33, 0.0, 2 * math.pi, of))
    return ink


def _weld(symbol: str, x: float, y: float, h: float, of: str) -> list[Ink]:
    """On its reference line, with the broken line of the other side under it (system A)."""
    long, step = 4.5 * h, 0.5 * h
    line = y + step
    ink: list[Ink] = [Line("thin", (x, line), (x + long, line), of), Line("hidden", (x, y), (x + long, y), of)]
    middle = x + long / 2
    if symbol == "fillet weld":
        corner, top, end = (middle - 0.7 * h, line), (middle - 0.7 * h, line + 1.4 * h), (middle + 0.7 * h, line)
        ink += [Line("thin", corner, top, of), Line("thin", top, end, of)]
    elif symbol == "butt weld":
        ink += [Line("thin", (middle + d * h, line), (middle + d * h, line + 1.4 * h), of) for d in (-0.35, 0.35)]
    else:
        ink.append(Arc("thin", (middle, line), 0.7 * h, 0.0, 2 * math.pi, of))
    return ink
