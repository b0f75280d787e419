"""A sheet as nested: where each piece lies, with its number, and the list of what is on it."""

from __future__ import annotations

from collections.abc import Sequence

from shapely import Point, Polygon, union_all

from zygon.cut.kerf import CutContours
from zygon.exchange.cutlist import CutRow
from zygon.geometry.contour import rectangle
from zygon.making.result.built import Built
from zygon.nest.design import StockNest, placed_contours
from zygon.owner import part_id
from zygon.paper.contour_ink import contour_ink
from zygon.paper.figures import PaperFigures
from zygon.paper.ink import Arc, Line
from zygon.paper.table import Column, Table
from zygon.paper.view import Ring, View, boxed

__all__ = ["nested_view"]

#: Chords of a piece stray so far at most where a place for its number is looked for (mm).
CHORD = 0.1


def nested_view(built: Built, nest: StockNest, number: int, rows: Sequence[CutRow]) -> tuple[View, Table]:
    """The sheet with its pieces and their numbers, sizes over all, and how many of each lie on it."""
    document, sheet = built.document, nest.layout.sheets[number - 1]
    figures = PaperFigures(document)
    long = sheet.used_length if sheet.sheet.roll else sheet.sheet.length
    own = sheet.sheet.outline
    strokes: list[Line | Arc] = []
    for c in (own.outer, *own.inner) if own else (rectangle(0, 0, long, sheet.sheet.width),):
        strokes += contour_ink(c, "visible", "")
    codes = {k: r for r in rows for k in r.keys}
    counted: dict[str, int] = {}
    rings = []
    for placement in sheet.placements:
        key = nest.plan.parts[placement.shape]
        cut = placed_contours(document, nest.plan, placement, 0.0)
        for c in _drawn(cut):
            strokes += contour_ink(c, "visible", key)
        x0, y0, x1, y1 = cut.outside[0].bounds
        row = codes.get(key)
        code = row.code if row else ""
        counted[code] = counted.get(code, 0) + 1
        of = part_id(built.parts[key].of) if key in built.parts else ""
        rings.append(Ring(f"piece/{key}/{placement.copy}", code, (_inside(cut, (x0 + x1) / 2, (y0 + y1) / 2),), of, lead=False))
    width = own.outer.bounds[3] if own else sheet.sheet.width
    bounds = (0.0, 0.0, long, width)
    words = ("left edge of the sheet", "right edge of the sheet", "lower edge of the sheet", "upper edge of the sheet")
    spots, overall = boxed("sheet", bounds, words)
    low_x, high_x, low_y, high_y = spots
    view = View(
        "sheet",
        "",
        tuple(strokes),
        bounds,
        spots,
        (low_x, high_x, low_y, high_y),
        overall=overall,
        rings=tuple(rings),
    )
    listed = [(r.code, r.part.replace("_", " "), str(counted[r.code]), _size(r, figures)) for r in rows if r.code in counted]
    columns = (Column("No.", True), Column("Part", widest=50), Column("On this sheet", True), Column(f"Size, {figures.unit}", True))
    return view, Table("pieces", f"Pieces on sheet {number} of {len(nest.layout.sheets)}", columns, tuple(listed))


def _size(row: CutRow, figures: PaperFigures) -> str:
    return " × ".join(figures.length(x) for x in (row.length, row.width) if x is not None)


def _drawn(cut: CutContours):
    return (*cut.outside, *cut.inside, *(c for _, c in cut.depths))


def _inside(cut: CutContours, x: float, y: float) -> tuple[float, float]:
    """A place on the piece for its number: the middle of its box where that lies on it."""
    body = Polygon(cut.outside[0].flatten(CHORD)).difference(union_all([Polygon(c.flatten(CHORD)) for c in cut.inside]))
    if body.contains(Point(x, y)):
        return x, y
    at = body.representative_point()
    return at.x, at.y
