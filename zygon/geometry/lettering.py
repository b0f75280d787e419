"""Letters as outlines of true arcs, from the fonts that ship with the application (SIL Open Font License, beside them)."""

from __future__ import annotations

import math
from functools import lru_cache
from importlib.resources import files
from typing import Any, Literal

from fontTools.pens.basePen import BasePen
from fontTools.ttLib import TTFont

from zygon.geometry.contour import Contour, Point
from zygon.geometry.fitted import as_arcs
from zygon.tolerance import CONTACT

__all__ = ["FONTS", "Font", "lettering", "missing_letter"]

Font = Literal["sans", "mono"]
FONTS: tuple[Font, ...] = ("sans", "mono")
#: Arcs lie this near to a letter's own curves (mm).
WITHIN = 0.02


@lru_cache(maxsize=4)
def _font(name: Font) -> Any:
    with files("zygon.geometry").joinpath("fonts", f"{name}.ttf").open("rb") as stream:
        return TTFont(stream, lazy=False)


def missing_letter(text: str, font: Font) -> str | None:
    """The first letter that a font does not have; None where it has all."""
    known = _font(font).getBestCmap()
    return next((c for c in text if ord(c) not in known), None)


class _Outlines(BasePen):
    """A glyph's contours as lines and arcs, each curve fitted where it is drawn."""

    def __init__(self, glyphs: Any, scale: float) -> None:
        super().__init__(glyphs)
        self.scale = scale
        self.contours: list[tuple[list[Point], list[float]]] = []

    def _at(self, p: tuple[float, float]) -> Point:
        return p[0] * self.scale, p[1] * self.scale

    def _moveTo(self, pt: tuple[float, float]) -> None:
        self.contours.append(([self._at(pt)], []))

    def _lineTo(self, pt: tuple[float, float]) -> None:
        points, bulges = self.contours[-1]
        if math.dist(points[-1], self._at(pt)) > CONTACT:
            points.append(self._at(pt))
            bulges.append(0.0)

    def _qCurveToOne(self, pt1: tuple[float, float], pt2: tuple[float, float]) -> None:
        a, b, c = (*self.contours[-1][0][-1:], self._at(pt1), self._at(pt2))

        def curve(t: float) -> Point:
            s = 1 - t
            return (
                s * s * a[0] + 2 * s * t * b[0] + t * t * c[0],
                s * s * a[1] + 2 * s * t * b[1] + t * t * c[1],
            )

        points, bulges = as_arcs(curve, [0.0, 1.0], WITHIN / 2)
        self.contours[-1][0].extend(points[1:])
        self.contours[-1][1].extend(bulges)

    def _closePath(self) -> None:
        points, bulges = self.contours[-1]
        if math.dist(points[-1], points[0]) > CONTACT:
            bulges.append(0.0)
        else:
            points.pop()


@lru_cache(maxsize=2000)
def _letter(font: Font, char: str, scale: float) -> tuple[Contour, ...]:
    """A letter's contours from its origin; in the fonts they overlap nowhere, and outlines run clockwise, what is open in them the other way."""
    found = _font(font)
    glyphs = found.getGlyphSet()
    pen = _Outlines(glyphs, scale)
    glyphs[found.getBestCmap()[ord(char)]].draw(pen)
    return tuple(Contour(tuple(p), tuple(b), ("",) * len(b)).reversed() for p, b in pen.contours if len(b) > 1)


def lettering(text: str, at: Point, height: float, turned: float, font: Font, owner: str = "") -> list[Contour]:
    """A line of text from its left end on its baseline on, capitals ``height`` mm high, turned counter-clockwise (radians).

    Outlines run counter-clockwise, what is open in them clockwise. Letters that the font does not have are left out.
    """
    found = _font(font)
    unit, capital = found["head"].unitsPerEm, found["OS/2"].sCapHeight
    scale = round(height / capital, 12)
    wide = found["hmtx"]
    known = found.getBestCmap()
    x, made = 0.0, list[Contour]()
    for char in text:
        name = known.get(ord(char))
        if name is None:
            x += unit * scale / 2
            continue
        for c in _letter(font, char, scale):
            placed = c.moved(x, 0.0).moved(at[0], at[1], turned)
            made.append(Contour(placed.points, placed.bulges, (owner,) * len(placed.bulges)))
        x += wide[name][0] * scale
    return made
