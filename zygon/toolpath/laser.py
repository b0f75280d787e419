"""The paths of a beam over a sheet as nested: marks first, then part by part, what lies in a hole before the hole, small holes before large ones, insides before outsides."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import shapely

from zygon.cut.kerf import kerf_of
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.geometry.contour import Contour, Point
from zygon.measure.evaluate import plain_length
from zygon.nest.design import StockNest
from zygon.stock.cutter import Cutter, CutterWork
from zygon.toolpath.around import ways_round
from zygon.toolpath.begun import begun_by_hand
from zygon.toolpath.chosen import chosen_for, words
from zygon.toolpath.common_lines import Interval, owned, shared
from zygon.toolpath.cuts import Cut, SheetPaths
from zygon.toolpath.leads import Led, led
from zygon.toolpath.micro_joints import jointed
from zygon.toolpath.order import tour
from zygon.toolpath.pieces import CHORD, Piece, narrow_places, needs_of, once_round, pieces_of, reached, sheet_of

__all__ = ["laser_paths"]

#: Holes up to so many thicknesses across are cut before the others of their part: they come out best while all is firm.
SMALL = 2.0


@dataclass
class _Beamed(Piece):
    insides: list[Cut] = field(default_factory=list)
    outsides: list[Cut] = field(default_factory=list)
    #: numbers of pieces whose cuts it shares
    after: set[int] = field(default_factory=set)


def laser_paths(document: Document, nest: StockNest, number: int) -> SheetPaths:
    """The paths of sheet ``number`` (from 1) on the chosen cutter. Raises NestError as ``chosen_for`` and where there is no such sheet; ExpressionError for a broken entry."""
    cutter, work = _chosen(document, nest.plan.stock)
    kerf = kerf_of(document, nest.plan.stock)
    pieces = [_Beamed(**vars(p)) for p in pieces_of(document, nest, number)]
    size, sheet = sheet_of(nest, number)
    faults = _leads(document, pieces, sheet, kerf, cutter)
    thickness = nest.plan.flats[0].thickness if nest.plan.flats else 0.0
    cuts, home, crossed = ways_round(_ordered(pieces, thickness))
    if crossed:
        faults.append(
            f"The head goes {crossed} time{'s' if crossed > 1 else ''} over what is cut loose, where there is no way round: micro-joints hold it"
        )
    return SheetPaths(
        tuple(cuts),
        size,
        kerf,
        thickness,
        work.cut_speed,
        work.mark_speed,
        work.pierce,
        work.power / 100,
        work.mark_power / 100,
        tuple(faults),
        (*narrow_places([(p.key, n) for p in pieces for n in p.contours.narrow], "kerf", kerf), *_into_neighbours(pieces, kerf)),
        home,
        cutter.corner_speed / 100,
        plain_length(cutter.corner_way) if cutter.corner_speed < 100 else 0.0,
    )


def _chosen(document: Document, stock: str) -> tuple[Cutter, CutterWork]:
    cutter, work = chosen_for(document, stock)
    if not cutter.can.beam:
        raise NestError(f"{cutter.name} is no laser", entry="cutter", value=cutter.name, rule="a laser", code="no_machine")
    return cutter, work


def _leads(document: Document, pieces: Sequence[_Beamed], sheet: shapely.Geometry, kerf: float, cutter: Cutter) -> list[str]:
    """Makes the cuts of every piece; sentences on those that have no room for a lead."""
    contours: list[Contour] = []
    places: list[tuple[_Beamed, bool]] = []
    for p in pieces:
        for group, outer in ((p.contours.inside, False), (p.contours.outside, True)):
            for c in group:
                if not c.closed:  # a slit, or a slot that is just as wide as the kerf: one run
                    p.insides.append(Cut("inside", p.key, p.copy, c.owners[0], (c,), "none"))
                    continue
                # the beam has material to its left, the waste to its right
                contours.append(c.wound(ccw=outer))
                places.append((p, outer))
    gone, hangs = _common(pieces, places, contours) if cutter.common else ([[] for _ in contours], {})
    for k, needs in hangs.items():
        pieces[k].after |= needs
    length, width = plain_length(cutter.lead_length), plain_length(cutter.joint_width)
    number = {id(p): k for k, p in enumerate(pieces)}
    by_hand = begun_by_hand(document, pieces, [number[id(p)] for p, _ in places], contours)
    found = led(contours, [p.body for p in pieces], sheet, kerf, cutter.lead, length, cutter.lead_at, by_hand)
    bare: dict[str, int] = {}
    loose: dict[str, int] = {}
    bound: set[str] = set()
    for (piece, outer), contour, way, cut_before in zip(places, contours, found, gone, strict=True):
        cut = _cut(piece, contour, way, outer)
        if cut_before:  # begun in a cut that is there: no way in is wanted, and what holds it would be cut through beside it
            if runs := owned(contour, cut_before):
                piece.outsides.append(replace(cut, runs=runs, lead="none"))
            if cutter.joints:
                bound.add(piece.key)
            continue
        if outer and cutter.joints and width > 0:
            runs = jointed(way.run, contour.length, cutter.joints, width + kerf)
            cut = replace(cut, runs=runs, held=len(runs) > 1)
        if outer and len(cut.runs) <= cutter.joints:
            loose[piece.key] = max(loose.get(piece.key, 0), cutter.joints + 1 - len(cut.runs))
        (piece.outsides if outer else piece.insides).append(cut)
        if way.kind == "none" and cutter.lead != "none" and length > 0:
            bare[piece.key] = bare.get(piece.key, 0) + 1
    said = [f"{n} cut{'s' if n > 1 else ''} of {words(key)} {'have' if n > 1 else 'has'} no room for a lead" for key, n in bare.items()]
    if cutter.common and not any(gone) and len(pieces) > 1:
        said.append(f"No straight sides of neighbours lie a kerf apart, {kerf:g} mm: every part is cut on its own")
    said += [f"{words(key)} shares a cut and has no micro-joints" for key in sorted(bound)]
    if cutter.joints and width <= 0:
        said.append(f"Micro-joints {width:g} mm wide hold nothing: a width over 0 is wanted, so that parts come loose as they are cut")
    elif loose:
        said += [f"{n} of {cutter.joints} micro-joints of {words(key)} have no room" for key, n in loose.items()]
    return said


def _into_neighbours(pieces: Sequence[_Beamed], kerf: float) -> list[str]:
    """Sentences on parts that lie nearer to one another than the cut is wide."""
    paths = [(k, c) for k, p in enumerate(pieces) for c in (*p.contours.inside, *p.contours.outside)]
    return [
        f"{a} and {b} lie nearer than the cut is wide, {kerf:g} mm: a wider gap in Nest is wanted"
        for a, b in reached(pieces, paths, kerf / 2 - CHORD)
    ]


def _common(
    pieces: Sequence[_Beamed], places: Sequence[tuple[_Beamed, bool]], contours: Sequence[Contour]
) -> tuple[list[list[Interval]], dict[int, set[int]]]:
    """Of each contour the stretches that an earlier piece's outside cuts, and of each piece by number the earlier ones."""
    number = {id(p): k for k, p in enumerate(pieces)}
    outer = [k for k, (_, so) in enumerate(places) if so]
    of = [number[id(places[k][0])] for k in outer]
    found, hangs = shared([contours[k] for k in outer], of)
    gone: list[list[Interval]] = [[] for _ in contours]
    needs: dict[int, set[int]] = {}
    for n, k in enumerate(outer):
        gone[k] = found[n]
        if found[n]:
            needs.setdefault(of[n], set()).update(of[m] for m in hangs[n])
    return gone, needs


def _cut(piece: _Beamed, contour: Contour, way: Led, outer: bool) -> Cut:
    return Cut("outside" if outer else "inside", piece.key, piece.copy, contour.owners[0], (way.run,), way.kind, outline=contour)


def _ordered(pieces: Sequence[_Beamed], thickness: float) -> list[Cut]:
    at: Point = (0.0, 0.0)
    marks = [Cut("mark", p.key, p.copy, m.owners[0], (once_round(m),)) for p in pieces for m in p.contours.marks]
    found = _toured(marks, at)
    at = found[-1].end if found else at
    ends = [(p.outsides or p.insides)[-1] for p in pieces if p.outsides or p.insides]
    there = [p for p in pieces if p.outsides or p.insides]
    inside = needs_of(there)
    index = {id(p): k for k, p in enumerate(there)}
    needs = [frozenset(n | {index[id(pieces[a])] for a in p.after if id(pieces[a]) in index}) for p, n in zip(there, inside, strict=True)]
    for k in tour([c.start for c in ends], [c.end for c in ends], at, needs):
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


def _across(cut: Cut) -> float:
    """How wide a hole is, as one that is round and as long about would be, mm."""
    return cut.length / math.pi
