"""Figures as they stand on papers: lengths without their unit, which the title block says, and how figures are written with words and tolerances."""

from __future__ import annotations

import math

from zygon.design.document import Document
from zygon.design.papers import DimensionSaid
from zygon.exchange.figures import plain
from zygon.measure.display import Display, format_length
from zygon.measure.iso_fits import limits_of
from zygon.measure.units import INCH

__all__ = ["PaperFigures", "degrees", "times", "worded"]


class PaperFigures:
    """Lengths (mm inside) as the papers of a design have them."""

    def __init__(self, document: Document) -> None:
        self.display: Display = document.display
        self.unit = "mm" if self.display == "mm" else "in"

    def length(self, mm: float) -> str:
        """To a hundredth of a millimetre, a thousandth of an inch, or as a fraction of an inch; without its unit."""
        text = format_length(round(mm, 6) + 0.0, self.display).removesuffix(f" {self.unit}").removeprefix("≈")
        return f"−{text[1:]}" if text.startswith("-") else text

    def other(self, mm: float) -> str:
        """The same in the other unit."""
        return f"{plain(mm / INCH, 3)} in" if self.unit == "mm" else f"{plain(mm, 2)} mm"

    def limits(self, tolerance: str, mm: float) -> str:
        """The limits of a class of ISO 286-2 at a size, in brackets: '(+0.021 / 0)'; '' of what is no such class."""
        found = limits_of(tolerance, mm)
        if found is None:
            return ""
        if self.unit == "in":
            found = found[0] / INCH, found[1] / INCH
        return f"({' / '.join(_signed(x) for x in found)})"


def _signed(deviation: float) -> str:
    text = plain(abs(deviation), 4)
    return text if text == "0" else f"{'+' if deviation > 0 else '−'}{text}"


def times(count: int) -> str:
    """How often something is there, in front of what it is: '4 × '; nothing where it is there once."""
    return f"{count} × " if count > 1 else ""


def degrees(radians: float) -> str:
    """An angle: '22.5°'."""
    return f"{plain(math.degrees(radians), 2)}°"


def worded(text: str, said: DimensionSaid | None, other: str = "", limits: str = "") -> str:
    """A figure with what a maker put round it; ``other`` is it in the other unit, ``limits`` those of its tolerance class."""
    if said is None:
        return text
    middle = f"{text} [{other}]" if said.both and other else text
    tolerance = f"{'' if said.tolerance[:1].isalpha() else ' '}{said.tolerance}" if said.tolerance else ""
    return " ".join(t for t in (said.before, f"{middle}{tolerance}", limits, said.after) if t)
