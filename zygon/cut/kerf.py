"""Kerf compensation by half the kerf (outside grows, inside shrinks, arcs stay arcs), and the reverse: cut on the line."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.build.built import Flat
from zygon.build.memo import Memo, digest
from zygon.design.document import Document
from zygon.geometry.contour import Contour
from zygon.geometry.offset import OffsetError, offset
from zygon.stock.cutter import cut_width

__all__ = ["CutContours", "NarrowPlace", "compensated", "cut_on_the_line", "kerf_of", "nominal"]


_COMPENSATED = Memo(4000)


@dataclass(frozen=True)
class NarrowPlace:
    """A place too narrow for the kerf; its contour is given nominal and must not be cut so."""

    owner: str
    at: tuple[float, float]


@dataclass(frozen=True)
class CutContours:
    """What is cut and marked, in cutting order; ``kerf`` in mm is 0 for nominal contours."""

    marks: tuple[Contour, ...]
    inside: tuple[Contour, ...]
    outside: tuple[Contour, ...]
    kerf: float = 0.0
    narrow: tuple[NarrowPlace, ...] = ()


def nominal(flat: Flat) -> CutContours:
    """The flat's contours as they are."""
    return CutContours(flat.marks, tuple(flat.inside), tuple(p.outer for p in flat.pieces))


def compensated(flat: Flat, kerf: float) -> CutContours:
    """The paths of a beam ``kerf`` mm wide that leave the nominal part; marks stay. Places too narrow are told, not guessed."""
    return _COMPENSATED.get(digest("kerf", flat.digest, kerf), lambda: _compensated(flat, kerf))[0]


def _compensated(flat: Flat, kerf: float) -> CutContours:
    narrow: list[NarrowPlace] = []

    def path(contour: Contour) -> Contour:
        try:
            return offset(contour, kerf / 2)
        except OffsetError as error:
            narrow.append(NarrowPlace(contour.owners[0], error.at))
            return contour

    plain = nominal(flat)
    inside = tuple(path(c) for c in plain.inside)
    outside = tuple(path(c) for c in plain.outside)
    return CutContours(plain.marks, inside, outside, kerf, tuple(narrow))


def cut_on_the_line(contour: Contour, kerf: float, outer: bool) -> tuple[float, float]:
    """Width and height in mm that come out when a nominal contour is cut on the line: outsides lose a kerf, insides gain one."""
    x0, y0, x1, y1 = contour.bounds
    change = -kerf if outer else kerf
    return x1 - x0 + change, y1 - y0 + change


def kerf_of(document: Document, stock: str) -> float:
    """The width in mm that the chosen cutter takes out of a stock; 0 where no cutter is chosen. Raises ExpressionError for a broken entry."""
    cutter = document.cutters.get(document.cutter)
    return cut_width(cutter, stock) if cutter else 0.0
