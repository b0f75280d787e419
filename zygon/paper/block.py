"""The title block (fields of ISO 7200, 180 mm wide) with the projection symbol and what holds for the whole sheet."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from zygon.paper.formats import BLOCK
from zygon.paper.ink import Arc, Box, Ink, Line, Point, Words
from zygon.paper.letters import width_of, wrapped

__all__ = ["BlockData", "block_height", "block_ink", "logo_cell"]

#: Heights of the rows from below, mm.
ROWS = (8.0, 13.0, 8.0, 8.0)
#: Width of a logo with room about it, mm.
LOGO = 18.0
#: Height of a field's label and of what stands in it, mm; no letter is smaller than 1.8 (ISO 3098).
LABEL, TEXT, LEAST = 1.8, 2.5, 1.8


@dataclass(frozen=True)
class BlockData:
    """What stands in it; '' where nothing is known."""

    owner: str
    title: str
    number: str
    kind: str
    drawn: str
    checked: str
    date: str
    revision: str
    status: str
    sheet: str
    scale: str
    unit: str
    size: str
    stock: str
    finished: str
    mass: str
    pieces: str
    grain: str
    tolerance: str
    angle: Literal["first", "third"]
    #: whether a logo stands in the field of the workshop, before its name
    logo: bool = False


def logo_cell(corner: Point) -> Box:
    """Where the logo stands in the block whose lower right corner is at ``corner``."""
    x, y = corner[0] - BLOCK, corner[1] + ROWS[0]
    return x + 1.0, y + 1.0, x + LOGO - 1.0, y + ROWS[1] - 1.0


def block_height() -> float:
    """How high it is, mm."""
    return sum(ROWS)


def block_ink(data: BlockData, corner: Point) -> tuple[list[Ink], list[str]]:
    """The block with its lower right corner at ``corner``, and sentences on what does not fit in its fields."""
    x0, y0 = corner[0] - BLOCK, corner[1]
    rows: list[list[tuple[float, str, str, bool]]] = [
        [
            (34, "Drawn by", data.drawn, False),
            (34, "Checked by", data.checked, False),
            (28, "Date", data.date, False),
            (28, "Status", data.status, False),
            (28, "Revision", data.revision, False),
            (28, "Sheet", data.sheet, False),
        ],
        [(48, "Workshop", data.owner, False), (88, f"{data.kind}", data.title, True), (44, "Number", data.number, False)],
        [
            (80, "General tolerances", data.tolerance, False),
            (24, "Scale", data.scale, False),
            (24, "Lengths in", data.unit, False),
            (24, "Paper", data.size, False),
            (28, "", "", False),
        ],
        [
            (52, "Stock", data.stock, False),
            (56, "Finished size", data.finished, False),
            (24, "Mass", data.mass, False),
            (20, "Pieces", data.pieces, False),
            (28, "Grain", data.grain, False),
        ],
    ]
    ink: list[Ink] = []
    faults: list[str] = []
    y = y0
    for height, row in zip(ROWS, rows, strict=True):
        x = x0
        for wide, label, text, bold in row:
            box = (x, y, x + wide, y + height)
            if data.logo and label == "Workshop":
                box = (x + LOGO, y, x + wide, y + height)
            ink += [Line("thin", (x, y), (x, y + height)), Line("thin", (x, y + height), (x + wide, y + height))]
            found, fits = _field(box, label, text, bold=bold)
            ink += found
            if not fits:
                faults.append(f"{label or 'Title'} “{text}” is longer than its field in the title block")
            x += wide
        y += height
    ink += [Line("frame", (x0, y0), (x0, y)), Line("frame", (x0, y), (corner[0], y))]
    middle = (x0 + 152 + 14, y0 + ROWS[0] + ROWS[1] + ROWS[2] / 2)
    ink += _symbol(middle, data.angle)
    return ink, faults


def _field(box: Box, label: str, text: str, *, bold: bool) -> tuple[list[Ink], bool]:
    x0, y0, x1, y1 = box
    ink: list[Ink] = [Words(label, (x0 + 1.2, y1 - LABEL - 0.9), LABEL)] if label else []
    room = x1 - x0 - 2.4
    height = 4.0 if bold else TEXT
    lines = [text]
    free = y1 - y0 - LABEL - 1.6
    while height > LEAST:
        lines = wrapped(text, height, room, bold=bold)
        if len(lines) * height * 1.35 <= free and all(width_of(t, height, bold=bold) <= room for t in lines):
            break
        height = max(LEAST, height - 0.2)
    else:
        lines = wrapped(text, LEAST, room, bold=bold)
    fits = len(lines) * height * 1.35 <= free + 0.3
    kept = lines if fits else lines[: max(1, int(free / height / 1.35))]
    low = y0 + 1.4 + (len(kept) - 1) * height * 1.35
    ink += [Words(t, (x0 + 1.2, low - i * height * 1.35), height, bold=bold) for i, t in enumerate(kept) if t]
    return ink, fits


def _symbol(at: Point, angle: Literal["first", "third"]) -> Sequence[Ink]:
    """A cut-off cone from the side and from its small end: seen from the left it lies to the right in first angle (ISO 5456-2)."""
    x, y = at
    small, large = 1.3, 2.6
    cone, rings = (x - 6.0, x + 5.0) if angle == "first" else (x + 6.0, x - 5.0)
    left, right = cone - 2.6, cone + 2.6
    # the small end looks to the left in both; in first angle its view lies on the far side
    ends = [(left, y - small), (right, y - large), (right, y + large), (left, y + small)]
    found: list[Ink] = [Line("visible", p, q) for p, q in zip(ends, [*ends[1:], ends[0]], strict=True)]
    found += [Arc("visible", (rings, y), r, 0.0, 2 * math.pi) for r in (small, large)]
    found += [Line("centre", (left - 1.0, y), (right + 1.0, y))]
    found += [Line("centre", (rings - 3.4, y), (rings + 3.4, y)), Line("centre", (rings, y - 3.4), (rings, y + 3.4))]
    return found
