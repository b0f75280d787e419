"""The lines of a drawing by what they mean (ISO 128-2): widths of the group 0.5, and how they are broken."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

__all__ = ["PENS", "Pen", "PenStyle"]

Pen = Literal["visible", "hidden", "smooth", "centre", "bend", "thin", "hatch", "frame", "phantom"]


@dataclass(frozen=True)
class PenStyle:
    """``width`` in mm; ``dashes`` are ink and gap in turn in mm, none for an unbroken line; ``words`` what it stands for; ``linetype`` its name in a DXF file."""

    width: float
    dashes: tuple[float, ...] = ()
    words: str = ""
    linetype: str = "CONTINUOUS"


#: Wide lines are 0.5 mm, narrow ones half of it (ISO 128-2, line group 0.5); hidden, centre and phantom lines as types 02.1, 04.1 and 05.1.
PENS: dict[Pen, PenStyle] = {
    "visible": PenStyle(0.5, (), "visible edges and outlines"),
    "hidden": PenStyle(0.25, (3.0, 1.0), "hidden edges", "HIDDEN"),
    "smooth": PenStyle(0.18, (), "where faces pass into one another without an edge"),
    "centre": PenStyle(0.25, (6.0, 1.0, 0.5, 1.0), "centre lines, and where a section is taken", "CENTER"),
    "bend": PenStyle(0.25, (), "bend lines"),
    "thin": PenStyle(0.25, (), "dimension, extension and leader lines"),
    "hatch": PenStyle(0.18, (), "hatching of what is cut"),
    "frame": PenStyle(0.7, (), "frame of the sheet"),
    "phantom": PenStyle(0.25, (6.0, 1.0, 0.5, 1.0, 0.5, 1.0), "neighbours, and what is only shown", "PHANTOM"),
}
