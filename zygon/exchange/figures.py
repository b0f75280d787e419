"""Figures in files: in the unit that a design is typed in, which every heading names."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.measure.units import INCH

__all__ = ["Figures"]


class Figures:
    """Lengths (mm inside) as they are written in tables and notes of a design."""

    def __init__(self, document: Document) -> None:
        self.word = document.unit
        self.factor, self.places = (INCH, 4) if document.unit == "in" else (1.0, 3)

    def length(self, mm: float | None) -> str:
        """A length without its unit, to a thousandth of a millimetre or a ten-thousandth of an inch; '' for None."""
        return "" if mm is None else plain(mm / self.factor, self.places)

    def area(self, mm2: float | None) -> str:
        """An area in cm² or square inches, to a tenth and a hundredth."""
        if mm2 is None:
            return ""
        return plain(mm2 / 100, 1) if self.word == "mm" else plain(mm2 / INCH**2, 2)

    def head(self, titles: list[str]) -> list[str]:
        """Headings, whose 'mm' and 'cm2' are those of the design."""
        if self.word == "mm":
            return titles
        return [t.replace(" mm", " in").replace(" cm2", " in2") for t in titles]


def plain(value: float, places: int = 3) -> str:
    """A figure without idle noughts."""
    return f"{value:.{places}f}".rstrip("0").rstrip(".")
