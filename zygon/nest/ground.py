"""A sheet's ground as the search sees it: the box that grown outlines stay in, and what they must not touch there where the sheet is no rectangle."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import shapely
from shapely.geometry import Polygon, box

from zygon.geometry.boolean import Region
from zygon.nest.shapes import TOUCH
from zygon.nest.task import NestSheet, Task

__all__ = ["Ground", "ground_of", "sheet_polygon"]

#: A roll is taken as so long (mm).
ENDLESS = 1e7
#: Arcs of an offcut's outline are divided to this (mm), and it is taken in by as much.
FINE = 0.02


@dataclass(frozen=True)
class Ground:
    """Low and high x and y for grown outlines, and obstacles: pieces of the box beyond the sheet's own outline."""

    low_x: float
    low_y: float
    high_x: float
    high_y: float
    obstacles: tuple[Polygon, ...]


def sheet_polygon(outline: Region, sagitta: float) -> Polygon:
    """An offcut's outline with straight sides."""
    return Polygon(outline.outer.flatten(sagitta), [c.flatten(sagitta) for c in outline.inner])


@lru_cache(maxsize=64)
def _ground(sheet: NestSheet, edges: tuple[float, float, float, float]) -> Ground:
    length = ENDLESS if sheet.roll else sheet.length
    bounds = (edges[0], edges[1], length - edges[2], sheet.width - edges[3])
    if sheet.outline is None:
        return Ground(*bounds, ())
    usable = sheet_polygon(sheet.outline, FINE).buffer(-max(*edges, 0.0) - FINE, join_style="mitre")
    beyond = shapely.difference(box(-1.0, -1.0, length + 1.0, sheet.width + 1.0), usable)
    pieces = [p for p in shapely.get_parts(beyond) if p.geom_type == "Polygon"]
    # a ring all round would hold everything in its hole: it is cut into pieces without holes
    cut = [q for p in pieces for q in (shapely.get_parts(shapely.constrained_delaunay_triangles(p)) if p.interiors else [p])]
    return Ground(*bounds, tuple(cut))


def ground_of(task: Task, sheet: NestSheet) -> Ground:
    """The ground of one of a task's sheets."""
    low_x, low_y, high_x, high_y = (m - task.gap / 2 + TOUCH for m in task.edges)
    return _ground(sheet, (low_x, low_y, high_x, high_y))
