"""A sheet that was laid out elsewhere, as outlines in their places: taken as a nest of its own, so that paths and programs are made of it as of any."""

from __future__ import annotations

from collections.abc import Sequence

from zygon.errors import NestError
from zygon.geometry.boolean import Region
from zygon.making.result.flat import Flat
from zygon.memo import digest
from zygon.nest.design import StockNest, StockPlan
from zygon.nest.task import Layout, NestSheet, Placement, Shape, SheetLayout, Task
from zygon.tolerance import WITHIN

__all__ = ["sheet_of_outlines"]


def sheet_of_outlines(stock: str, regions: Sequence[Region], thickness: float, size: tuple[float, float] | None = None) -> StockNest:
    """One sheet of ``size`` (mm; as far as the outlines reach where None) with the outlines where they are drawn, its lower left corner at 0, 0.

    Raises NestError where there are none, or one reaches over the sheet.
    """
    if not regions:
        raise NestError("There is nothing to cut in the drawing", entry="outlines", value=0, rule="closed outlines", code="no_sheet")
    boxes = [r.outer.bounds for r in regions]
    low = min(min(b[0], b[1]) for b in boxes)
    long, wide = max(b[2] for b in boxes), max(b[3] for b in boxes)
    length, width = size or (long, wide)
    if low < -WITHIN or long > length + WITHIN or wide > width + WITHIN:
        x0, y0 = min(b[0] for b in boxes), min(b[1] for b in boxes)
        said = f"The outlines reach from {x0:g}, {y0:g} to {long:g}, {wide:g} mm, over a sheet of {length:g} × {width:g} mm from 0, 0"
        raise NestError(said, entry="outlines", value=[x0, y0, long, wide], rule="within the sheet", code="off_sheet")
    names = tuple(f"outline_{n}" for n in range(1, len(regions) + 1))
    flats = tuple(Flat((r,), (), thickness, digest("outline", r, thickness)) for r in regions)
    shapes = tuple(Shape(name, r) for name, r in zip(names, regions, strict=True))
    sheet = NestSheet(length, width, "drawn")
    task = Task(shapes, sheet, 0.0, 0.0)
    key = digest("outlines", stock, [f.digest for f in flats], length, width)
    placements = tuple(Placement(k, 0, 0.0, 0.0, 0.0, False) for k in range(len(shapes)))
    layout = Layout((SheetLayout(sheet, placements, long),))
    return StockNest(StockPlan(stock, names, flats, task, key, key), layout, ())
