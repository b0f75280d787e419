"""The paths of a beam over a sheet as nested: marks first, then part by part, what lies in a hole before the hole, small holes before large ones, insides before outsides."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import shapely

from zygon.cut.kerf import CutContours, kerf_of
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.geometry.boolean import Region, region_polygon, to_polygon
from zygon.geometry.contour import Contour, Point, rectangle
from zygon.measure.evaluate import plain_length
from zygon.nest.design import StockNest, placed_contours
from zygon.stock.cutter import Cutter, CutterWork
from zygon.toolpath.cuts import Cut, SheetPaths
from zygon.toolpath.leads import Led, led
from zygon.toolpath.micro_joints import jointed
from zygon.toolpath.order import tour

__all__ = ["beam_for", "laser_paths", "words"]

#: Holes up to so many thicknesses across are cut before the others of their part: they come out best while all is firm.
SMALL = 2.0
#: Arcs of bodies are chords that stray so far (mm) where room for leads is looked for.
CHORD = 0.01


@dataclass
class _Piece:
    key: str
    copy: int
    contours: CutContours
    body: shapely.Geometry
    insides: list[Cut] = field(default_factory=list)
    outsides: list[Cut] = field(default_factory=list)


def laser_paths(document: Document, nest: StockNest, number: int) -> SheetPaths:
    """The paths of sheet ``number`` (from 1) on the chosen cutter. Raises NestError as ``beam_for`` and where there is no such sheet; ExpressionError for a broken entry."""
    cutter, work = beam_for(document, nest.plan.stock)
    if not 1 <= number <= len(nest.layout.sheets):
        rule = f"1 to {len(nest.layout.sheets)}"
        raise NestError(f"There is no sheet {number}", entry="sheet", value=number, rule=rule, code="no_sheet")
    layout = nest.layout.sheets[number - 1]
    kerf = kerf_of(document, nest.plan.stock)
    pieces = [
        _Piece(nest.plan.parts[p.shape], p.copy, placed_contours(document, nest.plan, p), _body(document, nest, number, k))
        for k, p in enumerate(layout.placements)
    ]
    own = layout.sheet.outline
    long = layout.used_length if layout.sheet.roll else layout.sheet.length
    width = own.outer.bounds[3] if own else layout.sheet.width
    sheet = region_polygon(own, CHORD) if own else to_polygon(rectangle(0, 0, long, width), CHORD)
    faults = _leads(pieces, sheet, kerf, cutter)
    thickness = nest.plan.flats[0].thickness if nest.plan.flats else 0.0
    return SheetPaths(
        tuple(_ordered(pieces, thickness)),
        (long, width),
        kerf,
        thickness,
        work.cut_speed,
        work.mark_speed,
        work.pierce,
        work.power / 100,
        work.mark_power / 100,
        tuple(faults),
        tuple(
            f"{words(p.key)} has a place {n.width:.2f} mm wide, narrower than the kerf: it cannot be cut as drawn"
            for p in pieces
            for n in p.contours.narrow
        ),
    )


def beam_for(document: Document, stock: str) -> tuple[Cutter, CutterWork]:
    """The chosen cutter and what it does in a stock. Raises NestError where it cuts with no beam, or has no speeds for the stock."""
    cutter = document.cutters.get(document.cutter)
    if cutter is None or not cutter.can.beam:
        said = cutter.name if cutter else "No cutter"
        raise NestError(
            f"{said} is no laser: programs are written for lasers so far", entry="cutter", value=said, rule="a laser", code="no_laser"
        )
    work = cutter.work.get(stock)
    if work is None:
        name = document.stocks[stock].name
        said = f"{cutter.name} has no speeds for {name}: give them in Sizes, Cutter and fits"
        raise NestError(said, entry="work", value=name, rule="speeds of cutting and marking", code="no_speeds")
    return cutter, work


def words(key: str) -> str:
    """A part's key as a maker reads it."""
    return key.replace("_", " ")


def _body(document: Document, nest: StockNest, number: int, k: int) -> shapely.Geometry:
    """What stays of a piece, nominal, where it lies."""
    nominal = placed_contours(document, nest.plan, nest.layout.sheets[number - 1].placements[k], 0.0)
    holes = [c for c in nominal.inside if c.closed]
    found = [region_polygon(Region(o, ()), CHORD) for o in nominal.outside]
    return shapely.difference(shapely.union_all(found), shapely.union_all([to_polygon(h, CHORD) for h in holes]))


def _leads(pieces: Sequence[_Piece], sheet: shapely.Geometry, kerf: float, cutter: Cutter) -> list[str]:
    """Makes the cuts of every piece; sentences on those that have no room for a lead."""
    contours: list[Contour] = []
    places: list[tuple[_Piece, bool]] = []
    for p in pieces:
        for group, outer in ((p.contours.inside, False), (p.contours.outside, True)):
            for c in group:
                if not c.closed:  # a slit, or a slot that is just as wide as the kerf: one run
                    p.insides.append(Cut("inside", p.key, p.copy, c.owners[0], (c,), "none"))
                    continue
                # the beam has material to its left, the waste to its right
                contours.append(c.wound(ccw=outer))
                places.append((p, outer))
    length, width = plain_length(cutter.lead_length), plain_length(cutter.joint_width)
    found = led(contours, [p.body for p in pieces], sheet, kerf, cutter.lead, length, cutter.lead_at)
    bare: dict[str, int] = {}
    loose: dict[str, int] = {}
    for (piece, outer), contour, way in zip(places, contours, found, strict=True):
        cut = _cut(piece, contour, way, outer)
        if outer and cutter.joints and width > 0:
            cut = replace(cut, runs=jointed(way.run, contour.length, cutter.joints, width + kerf))
        if outer and len(cut.runs) <= cutter.joints:
            loose[piece.key] = max(loose.get(piece.key, 0), cutter.joints + 1 - len(cut.runs))
        (piece.outsides if outer else piece.insides).append(cut)
        if way.kind == "none" and cutter.lead != "none" and length > 0:
            bare[piece.key] = bare.get(piece.key, 0) + 1
    said = [f"{n} cut{'s' if n > 1 else ''} of {words(key)} {'have' if n > 1 else 'has'} no room for a lead" for key, n in bare.items()]
    if cutter.joints and width <= 0:
        said.append(f"Micro-joints {width:g} mm wide hold nothing: a width over 0 is wanted, so that parts come loose as they are cut")
    elif loose:
        said += [f"{n} of {cutter.joints} micro-joints of {words(key)} have no room" for key, n in loose.items()]
    return said


def _cut(piece: _Piece, contour: Contour, way: Led, outer: bool) -> Cut:
    return Cut("outside" if outer else "inside", piece.key, piece.copy, contour.owners[0], (way.run,), way.kind)


def _ordered(pieces: Sequence[_Piece], thickness: float) -> list[Cut]:
    at: Point = (0.0, 0.0)
    marks = [Cut("mark", p.key, p.copy, m.owners[0], (_open(m),)) for p in pieces for m in p.contours.marks]
    found = _toured(marks, at)
    at = found[-1].end if found else at
    ends = [(p.outsides or p.insides)[-1] for p in pieces if p.outsides or p.insides]
    there = [p for p in pieces if p.outsides or p.insides]
    for k in tour([c.start for c in ends], [c.end for c in ends], at, _needs(there)):
        p = there[k]
        small = [c for c in p.insides if _across(c) <= SMALL * thickness]
        rest = [c for c in p.insides if _across(c) > SMALL * thickness]
        for group in (small, rest, p.outsides):
            own = _toured(group, at)
            found += own
            at = own[-1].end if own else at
    return found


def _toured(cuts: Sequence[Cut], at: Point) -> list[Cut]:
    return [cuts[k] for k in tour([c.start for c in cuts], [c.end for c in cuts], at)]


def _open(mark: Contour) -> Contour:
    """A closed mark as one run once round."""
    return Contour((*mark.points, mark.points[0]), mark.bulges, mark.owners, closed=False) if mark.closed else mark


def _across(cut: Cut) -> float:
    """How wide a hole is, as one that is round and as long about would be, mm."""
    return cut.length / math.pi


def _needs(pieces: Sequence[_Piece]) -> list[frozenset[int]]:
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
