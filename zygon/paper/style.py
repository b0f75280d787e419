"""How a sheet's dimensions are set, and which of them are shown with which words."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.design.papers import DimensionSaid, Papers, Places, SheetSaid
from zygon.paper.figures import PaperFigures, worded

__all__ = ["CLEAR", "FIRST", "LANE", "OUT", "PAST", "Style", "said_for", "shown", "text_of"]

#: From a view to its first lane, and between lanes, mm.
FIRST, LANE = 9.0, 7.0
#: From what is measured to where its extension line begins, and how far that runs past its lane, mm.
CLEAR, PAST = 1.0, 1.5
#: From a view to its callouts, mm.
OUT = 12.0


@dataclass(frozen=True)
class Style:
    """How a sheet's dimensions are set: height of figures in mm, how places are measured, from which corner, and what is said of them."""

    height: float
    places: Places
    figures: PaperFigures
    said: SheetSaid
    papers: Papers

    @property
    def step(self) -> float:
        """From one label in a row to the next, mm."""
        return self.height * 1.5


def said_for(style: Style, name: str) -> DimensionSaid | None:
    """What a maker said of a dimension."""
    return style.said.dimensions.get(name)


def shown(style: Style, name: str) -> bool:
    """Whether it is put in: by itself unless it is left out, on a bare sheet only where something is said of it."""
    said = said_for(style, name)
    return not (said.out if said else style.said.bare)


def text_of(style: Style, name: str, value: float) -> str:
    """The figure of a length with what is said round it."""
    said = said_for(style, name)
    limits = style.figures.limits(said.tolerance, value) if said else ""
    return worded(style.figures.length(value), said, style.figures.other(value), limits)
