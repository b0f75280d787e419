"""Templates of tube ends at 1 : 1, on as many pages as they take: tiles that butt on lines drawn on both, each saying what it joins."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import shapely

from zygon.geometry.contour import Contour
from zygon.paper.block import block_height
from zygon.paper.ink import Box, Curve, Ink, Line, Point, Words
from zygon.paper.pens import Pen

__all__ = ["Tile", "Tiled", "tiled"]

#: What two tiles have in common, mm: the line on which they butt lies in its middle.
OVERLAP = 10.0
#: From the frame, and chords of arcs stray so far, mm.
INSET, STRAY = 6.0, 0.01


@dataclass(frozen=True)
class Tile:
    """One page of a template."""

    ink: tuple[Ink, ...]
    column: int
    row: int


@dataclass(frozen=True)
class Tiled:
    """All pages of a template, from the lower left one on, row by row."""

    tiles: tuple[Tile, ...]
    columns: int
    rows: int


def tiled(contours: Sequence[tuple[Pen, Contour]], area: Box, notes_height: float, height: float, of: str) -> Tiled:
    """Contours in mm at their own size within what frame, title block and notes leave of a page; ``height`` is that of letters."""
    boxes = [c.bounds for _, c in contours]
    x0, y0 = min(b[0] for b in boxes), min(b[1] for b in boxes)
    wide, high = max(b[2] for b in boxes) - x0, max(b[3] for b in boxes) - y0
    left, low = area[0] + INSET, area[1] + block_height() + notes_height + INSET
    room = (area[2] - INSET - left, area[3] - INSET - low - 2 * height)
    columns, rows = (max(1, math.ceil((size - OVERLAP) / (r - OVERLAP))) for size, r in zip((wide, high), room, strict=True))
    lines = [(pen, _line(c)) for pen, c in contours]
    found = []
    for row in range(rows):
        for column in range(columns):
            start = (x0 + column * (room[0] - OVERLAP), y0 + row * (room[1] - OVERLAP))
            window = shapely.box(*start, start[0] + room[0], start[1] + room[1])
            shift = (left - start[0], low - start[1])
            ink: list[Ink] = []
            for pen, line in lines:
                for part in shapely.get_parts(shapely.intersection(line, window)):
                    points = [(x + shift[0], y + shift[1]) for x, y in part.coords]
                    if len(points) > 1:
                        ink.append(Line(pen, points[0], points[1], of) if len(points) == 2 else Curve(pen, tuple(points), of))
            ink += _seams(column, row, columns, rows, (left, low), room, height)
            found.append(Tile(tuple(ink), column, row))
    return Tiled(tuple(found), columns, rows)


def _line(contour: Contour) -> shapely.LineString:
    points = contour.flatten(STRAY)
    ring = [*map(tuple, points), tuple(points[0])] if contour.closed else list(map(tuple, points))
    return shapely.LineString(ring)


def _seams(column: int, row: int, columns: int, rows: int, corner: Point, room: tuple[float, float], height: float) -> list[Ink]:
    """The lines on which a tile is cut to butt on its neighbours, with the pages that lie there."""
    x0, y0 = corner
    x1, y1 = x0 + room[0], y0 + room[1]
    half = OVERLAP / 2

    def page(c: int, r: int) -> str:
        return f"joins page {r * columns + c + 1}"

    ink: list[Ink] = []
    if column:
        ink += [
            Line("phantom", (x0 + half, y0), (x0 + half, y1)),
            Words(page(column - 1, row), (x0 + half - 1, y0 + 8), height, turned=math.pi / 2),
        ]
    if column < columns - 1:
        ink += [
            Line("phantom", (x1 - half, y0), (x1 - half, y1)),
            Words(page(column + 1, row), (x1 - half + 1 + height, y0 + 8), height, turned=math.pi / 2),
        ]
    if row:
        ink += [Line("phantom", (x0, y0 + half), (x1, y0 + half)), Words(page(column, row - 1), (x0 + 14, y0 + half - 1 - height), height)]
    if row < rows - 1:
        ink += [Line("phantom", (x0, y1 - half), (x1, y1 - half)), Words(page(column, row + 1), (x0 + 14, y1 - half + 1), height)]
    return ink
