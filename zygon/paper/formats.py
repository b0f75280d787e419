"""Sheets of paper: their sizes (ISO 216; ANSI Y14.1 from memory), the frame and what it leaves to draw on (ISO 5457)."""

from __future__ import annotations

from typing import get_args

from zygon.design.papers import PaperFormat
from zygon.measure.units import INCH
from zygon.paper.ink import Box, Ink, Line, Words

__all__ = ["BINDING", "BLOCK", "EDGE", "FORMATS", "area_of", "frame_ink", "size_of"]

FORMATS: tuple[PaperFormat, ...] = get_args(PaperFormat)
#: From the edge of the paper to the frame: where it is bound, and on the other sides (ISO 5457), mm.
BINDING, EDGE = 20.0, 10.0
#: How wide a title block is, mm (ISO 7200).
BLOCK = 180.0
#: Marks at the middle of each side reach so far over the frame (ISO 5457), mm.
CENTRING = 5.0
#: The bar by which a print proves that it is true to size, mm.
PROOF = 100.0

#: Width and height in mm; the smallest of each stands upright, the others lie.
_SIZES: dict[PaperFormat, tuple[float, float]] = {
    "A4": (210.0, 297.0),
    "A3": (420.0, 297.0),
    "A2": (594.0, 420.0),
    "A1": (841.0, 594.0),
    "A0": (1189.0, 841.0),
    "ANSI A": (8.5 * INCH, 11 * INCH),
    "ANSI B": (17 * INCH, 11 * INCH),
    "ANSI C": (22 * INCH, 17 * INCH),
    "ANSI D": (34 * INCH, 22 * INCH),
}


def size_of(name: PaperFormat) -> tuple[float, float]:
    """Width and height of a sheet in mm."""
    return _SIZES[name]


def area_of(name: PaperFormat) -> Box:
    """What lies within the frame."""
    width, height = _SIZES[name]
    return BINDING, EDGE, width - EDGE, height - EDGE


def frame_ink(name: PaperFormat) -> list[Ink]:
    """The frame, its centring marks, and the bar in the lower margin by which a print is measured."""
    width, height = _SIZES[name]
    x0, y0, x1, y1 = area_of(name)
    corners = [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
    found: list[Ink] = [Line("frame", p, q) for p, q in zip(corners, [*corners[1:], corners[0]], strict=True)]
    x, y = width / 2, height / 2
    found += [
        Line("frame", (x, y0 - CENTRING), (x, y0)),
        Line("frame", (x, y1), (x, y1 + CENTRING)),
        Line("frame", (x0 - CENTRING, y), (x0, y)),
        Line("frame", (x1, y), (x1 + CENTRING, y)),
    ]
    low = 4.0
    found += [Line("thin", (x0, low), (x0 + PROOF, low))]
    found += [Line("thin", (x0 + d, low), (x0 + d, low + (2.0 if d % 50 == 0 else 1.2))) for d in range(0, int(PROOF) + 1, 10)]
    said = f"{PROOF:g} mm at 1 : 1" if name.startswith("A") and " " not in name else f"{PROOF:g} mm (3.937 in) at 1 : 1"
    # beside the centring mark, which a narrow sheet has over the bar's end
    found.append(Words(said, (x0 + PROOF + 3, low - 0.4), 1.8))
    return found
