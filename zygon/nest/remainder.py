"""What a finished sheet gives back: its rest with the true outline, and the largest rectangle in a shape."""

from __future__ import annotations

import math

import numpy as np
import shapely
from shapely.geometry import Polygon, box
from shapely.geometry.polygon import orient

from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour, polygon
from zygon.nest.ground import sheet_polygon
from zygon.nest.task import NestSheet, Offcut, SheetLayout, Task
from zygon.tolerance import WITHIN

__all__ = ["LEAST", "largest_rectangle", "offcut_sheet", "rest_region", "rests_of", "squared"]

#: A rest narrower than this (mm) is waste.
LEAST = 50.0
#: Outlines of rests are kept to this (mm), on the safe side.
FINE = 0.2
#: Lines a direction that the largest rectangle is looked for between.
LINES = 72


def rests_of(task: Task, sheet: SheetLayout, least: float = LEAST) -> list[Polygon]:
    """The pieces that stay of a sheet, largest first, nowhere narrower than ``least`` mm: the sheet less its parts and the cuts round them.

    Of a roll what stays beside the parts, as far as it is used. Coordinates are the sheet's.
    """
    kind = sheet.sheet
    whole = (
        sheet_polygon(kind.outline, FINE / 2) if kind.outline else box(0, 0, sheet.used_length if kind.roll else kind.length, kind.width)
    )
    cut = [
        Polygon(task.shapes[p.shape].region.outer.moved(p.x, p.y, p.angle, p.mirrored).flatten(FINE / 4)).buffer(
            max(task.gap, FINE), join_style="mitre", mitre_limit=2.0
        )
        for p in sheet.placements
    ]
    left = shapely.difference(whole, shapely.union_all(cut))
    open_ = left.buffer(-least / 2, join_style="mitre").buffer(least / 2, join_style="mitre")
    pieces = []
    for piece in shapely.get_parts(shapely.intersection(open_, left)):
        if piece.geom_type != "Polygon":
            continue
        slim = piece.buffer(-FINE, join_style="mitre").simplify(FINE * 0.9) if len(piece.exterior.coords) > 12 else piece
        pieces += [orient(p) for p in shapely.get_parts(slim) if p.geom_type == "Polygon" and p.area >= least * least]
    return sorted(pieces, key=lambda p: -p.area)


def rest_region(piece: Polygon) -> Region:
    """A rest as an outline of its own, its low corner at 0, 0."""
    x0, y0, _, _ = piece.bounds

    def ring(coords, ccw: bool) -> Contour:
        return polygon([(round(x - x0, 3), round(y - y0, 3)) for x, y in coords[:-1]]).wound(ccw=ccw)

    return Region(ring(list(piece.exterior.coords), True), tuple(ring(list(h.coords), False) for h in piece.interiors))


def squared(region: Region) -> Region | None:
    """An offcut cut to the largest rectangle in it, its low corner at 0, 0; None where there is none."""
    found = largest_rectangle(sheet_polygon(region, FINE / 2))
    if found is None:
        return None
    return Region(polygon([(0.0, 0.0), (found.length, 0.0), (found.length, found.width), (0.0, found.width)]))


def largest_rectangle(shape: Polygon) -> Offcut | None:
    """The largest upright rectangle found in a shape, between lines through its corners; exact where its sides are upright, else a little less."""
    xs, ys = (_lines(shapely.get_coordinates(shape)[:, k]) for k in (0, 1))
    if len(xs) < 2 or len(ys) < 2:
        return None
    grown = shape.buffer(WITHIN)
    shapely.prepare(grown)
    cells = shapely.box(xs[:-1, None], ys[None, :-1], xs[1:, None], ys[None, 1:])
    inside = shapely.contains(grown, cells)
    best, found = 0.0, None
    reach = np.zeros(len(ys) - 1)  # how far each row is free to the left
    for i in range(len(xs) - 1):
        reach = np.where(inside[i], reach + xs[i + 1] - xs[i], 0.0)
        for j in range(len(reach)):
            length = math.inf
            for k in range(j, len(reach)):
                length = min(length, reach[k])
                if length <= 0:
                    break
                width = ys[k + 1] - ys[j]
                if length * width > best:
                    best, found = length * width, Offcut(float(xs[i + 1] - length), float(ys[j]), float(length), float(width))
    return found


def _lines(values: np.ndarray) -> np.ndarray:
    lines = np.unique(np.round(values, 6))
    if len(lines) <= LINES:
        return lines
    picked = lines[np.linspace(0, len(lines) - 1, LINES).round().astype(int)]
    return np.unique(picked)


def offcut_sheet(name: str, region: Region) -> NestSheet:
    """An offcut as a sheet that costs nothing."""
    x0, y0, x1, y1 = region.outer.bounds
    moved = [c.moved(-x0, -y0, 0.0) for c in (region.outer, *region.inner)]
    return NestSheet(x1 - x0, y1 - y0, name, 0.0, Region(moved[0], tuple(moved[1:])))
