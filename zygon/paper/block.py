"""The title block (fields of ISO 7200, 180 mm wide) with the projection symbol and what holds for the whole sheet."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from zygon.design.papers import BlockField, InPlace
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


#: In whose place the sign of the projection stands.
PROJECTION = "projection"


@dataclass(frozen=True)
class _Cell:
    """A field: how wide it is (mm), its label and what stands in it; ``name`` of one that may be left out."""

    wide: float
    label: str
    text: str
    name: BlockField | None = None
    bold: bool = False


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
    #: fields that are left out, with what stands in their place
    instead: Mapping[BlockField, InPlace] = field(default_factory=dict)


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
    ink: list[Ink] = []
    faults: list[str] = []
    y = y0
    for height, row in zip(ROWS, _rows(data), strict=True):
        x = x0
        ink.append(Line("thin", (x0, y + height), (corner[0], y + height)))
        for cell in row:
            box = (x, y, x + cell.wide, y + height)
            ink.append(Line("thin", (x, y), (x, y + height)))
            if cell.label == PROJECTION:
                ink += _symbol((x + cell.wide / 2, y + height / 2), data.angle)
            else:
                if data.logo and cell.label == "Workshop":
                    box = (x + LOGO, y, x + cell.wide, y + height)
                found, fits = _field(box, cell.label, cell.text, bold=cell.bold)
                ink += found
                if not fits:
                    faults.append(f"{cell.label or 'Title'} “{cell.text}” is longer than its field in the title block")
            x += cell.wide
        y += height
    ink += [Line("frame", (x0, y0), (x0, y)), Line("frame", (x0, y), (corner[0], y))]
    return ink, faults


def _rows(data: BlockData) -> list[list[_Cell]]:
    """The rows from below, each as wide as the block: what is left out leaves its room to the others of its row."""
    rows = [
        [
            _Cell(34, "Drawn by", data.drawn),
            _Cell(34, "Checked by", data.checked, "checked"),
            _Cell(28, "Date", data.date),
            _Cell(28, "Status", data.status, "status"),
            _Cell(28, "Revision", data.revision),
            _Cell(28, "Sheet", data.sheet),
        ],
        [_Cell(48, "Workshop", data.owner), _Cell(88, data.kind, data.title, bold=True), _Cell(44, "Number", data.number)],
        [
            _Cell(80, "General tolerances", data.tolerance, "tolerance"),
            _Cell(24, "Scale", data.scale),
            _Cell(24, "Lengths in", data.unit),
            _Cell(24, "Paper", data.size),
            _Cell(28, PROJECTION, ""),
        ],
        [
            _Cell(52, "Stock", data.stock, "stock"),
            _Cell(56, "Finished size", data.finished, "finished"),
            _Cell(24, "Mass", data.mass, "mass"),
            _Cell(20, "Pieces", data.pieces, "pieces"),
            _Cell(28, "Grain", data.grain, "grain"),
        ],
    ]
    return [_filled([_put(c, data.instead) for c in row]) for row in rows]


def _put(cell: _Cell, instead: Mapping[BlockField, InPlace]) -> _Cell | None:
    if cell.name is None or cell.name not in instead:
        return cell
    own = instead[cell.name]
    return replace(cell, label=own.label, text=own.text) if own.label or own.text else None


def _filled(row: Sequence[_Cell | None]) -> list[_Cell]:
    """A row whose cells grow alike where some are left out; one that lost them all is bare."""
    kept = [c for c in row if c]
    grows = BLOCK / sum(c.wide for c in kept) if kept else 1.0
    return [replace(c, wide=c.wide * grows) for c in kept] or [_Cell(BLOCK, "", "")]


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
