"""The pieces of a sheet as nested, where they lie, and which come before which."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from zygon.cut.kerf import CutContours, NarrowPlace, by_hand_of, compensated
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.geometry.boolean import Region, region_polygon, to_polygon
from zygon.geometry.contour import Contour, rectangle
from zygon.making.result.flat import Flat
from zygon.nest.design import StockNest, placed_contours
from zygon.nest.task import Placement
from zygon.toolpath.chosen import words

__all__ = ["CHORD", "Piece", "narrow_places", "needs_of", "once_round", "pieces_of", "placed", "reached", "sheet_of"]

#: Arcs of bodies are chords that stray so far (mm) where room is looked for.
CHORD = 0.01


@dataclass
class Piece:
    """A copy of a part on a sheet: what is cut of it, and ``body``, what stays of it (nominal, without what is cut straight through)."""

    key: str
    copy: int
    flat: Flat
    placement: Placement
    contours: CutContours
    body: shapely.Geometry


def pieces_of(document: Document, nest: StockNest, number: int) -> list[Piece]:
    """The pieces of sheet ``number`` (from 1). Raises NestError where there is no such sheet; ExpressionError for a broken entry."""
    if not 1 <= number <= len(nest.layout.sheets):
        rule = f"1 to {len(nest.layout.sheets)}"
        raise NestError(f"There is no sheet {number}", entry="sheet", value=number, rule=rule, code="no_sheet")
    plan = nest.plan
    placements = nest.layout.sheets[number - 1].placements
    left = by_hand_of(document.cutters.get(document.cutter), plan.stock)
    bodies = {s: _body(compensated(plan.flats[s], 0.0, left)) for s in {p.shape for p in placements}}
    return [
        Piece(plan.parts[p.shape], p.copy, plan.flats[p.shape], p, placed_contours(document, plan, p), placed(bodies[p.shape], p))
        for p in placements
    ]


def placed(body: shapely.Geometry, p: Placement) -> shapely.Geometry:
    """A shape on a part's flat where a piece of it lies on the sheet."""
    c, s, side = math.cos(p.angle), math.sin(p.angle), -1.0 if p.mirrored else 1.0
    turn = np.array([[c * side, s * side], [-s, c]])
    return shapely.transform(body, lambda xy: xy @ turn + (p.x, p.y))


def _body(nominal: CutContours) -> shapely.Geometry:
    """What stays of a part, nominal."""
    found = [region_polygon(Region(o, ()), CHORD) for o in nominal.outside]
    return shapely.difference(shapely.union_all(found), shapely.union_all([to_polygon(h, CHORD) for h in nominal.inside if h.closed]))


def sheet_of(nest: StockNest, number: int) -> tuple[tuple[float, float], shapely.Geometry]:
    """A sheet's length and width (mm), and what is there of it."""
    layout = nest.layout.sheets[number - 1]
    own = layout.sheet.outline
    long = layout.used_length if layout.sheet.roll else layout.sheet.length
    width = own.outer.bounds[3] if own else layout.sheet.width
    return (long, width), region_polygon(own, CHORD) if own else to_polygon(rectangle(0, 0, long, width), CHORD)


def once_round(contour: Contour) -> Contour:
    """A closed contour as one run once round; an open one as it is."""
    if not contour.closed:
        return contour
    return Contour((*contour.points, contour.points[0]), contour.bulges, contour.owners, closed=False)


def needs_of(pieces: Sequence[Piece]) -> list[frozenset[int]]:
    """Of each piece the ones that lie in a hole of it: they are cut whole before, as they drop out with the hole."""
    holes = [(k, to_polygon(c, CHORD)) for k, p in enumerate(pieces) for c in p.contours.inside if c.closed]
    if not holes or len(pieces) < 2:
        return [frozenset()] * len(pieces)
    tree = shapely.STRtree([h for _, h in holes])
    corners = [shapely.Point((p.contours.outside or p.contours.inside)[0].points[0]) for p in pieces]
    within, hole = tree.query(corners, predicate="within")
    needs: list[set[int]] = [set() for _ in pieces]
    for i, h in zip(np.asarray(within).tolist(), np.asarray(hole).tolist(), strict=True):
        if holes[h][0] != i:
            needs[holes[h][0]].add(i)
    return [frozenset(n) for n in needs]


def narrow_places(places: Iterable[tuple[str, NarrowPlace]], tool: str, wide: float) -> list[str]:
    """Sentences on places, each with the key of its part, that are narrower than the cut, ``wide`` mm; how wide a place of an outline is, is not known."""
    said = ((words(key), f"{n.width:.2f} mm wide, " if n.width < wide else "") for key, n in places)
    return [f"{name} has a place {known}narrower than the {tool}: it cannot be cut as drawn" for name, known in said]


def reached(pieces: Sequence[Piece], paths: Sequence[tuple[int, Contour]], reach: float) -> list[tuple[str, str]]:
    """Which parts lie within ``reach`` mm of a path of another piece, as pairs of their names; ``paths`` with the number of the piece that each is of."""
    # a hole that is just as wide as the cut is a point
    lines = [shapely.LineString(once_round(c).flatten(CHORD)) if len(c.points) > 1 else shapely.Point(c.points[0]) for _, c in paths]
    which, near = shapely.STRtree([p.body for p in pieces]).query(lines, predicate="dwithin", distance=max(reach, 0.0))
    met = {(paths[i][0], j) for i, j in zip(which.tolist(), near.tolist(), strict=True) if paths[i][0] != j}
    pairs = {(words(pieces[i].key), words(pieces[j].key)) for i, j in met}
    return sorted({(min(p), max(p)) for p in pairs})
