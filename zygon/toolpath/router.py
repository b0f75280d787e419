"""The paths of a router over a sheet as nested: drilled, marked and sunk first, then pockets, then openings and outlines part by part, each held until it is cut."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

import shapely

from zygon.cut.kerf import CutContours, by_hand_of, compensated, kerf_of, too_narrow
from zygon.design.document import Document
from zygon.errors import NestError
from zygon.geometry.contour import Contour, Point
from zygon.making.result.operations import Pocket
from zygon.memo import digest
from zygon.nest.design import StockNest
from zygon.stock.cutter import cut_width, mill_widths
from zygon.stock.sheet import SheetStock
from zygon.toolpath.begun import begun_by_hand
from zygon.toolpath.bits import chip_faults
from zygon.toolpath.chosen import chosen_for, words
from zygon.toolpath.clamped import clamp_faults
from zygon.toolpath.descents import drilled
from zygon.toolpath.holes import drill_of, hole, marked, sunk, v_bit
from zygon.toolpath.milling import Milling, clamps_of, milling_of, with_bit
from zygon.toolpath.openings import by_bit
from zygon.toolpath.order import tour
from zygon.toolpath.outlines import Outlined, has_slug, opened, outlined
from zygon.toolpath.pieces import Piece, narrow_places, needs_of, pieces_of, reached, sheet_of
from zygon.toolpath.pockets import area_of, milled_area, rest_of
from zygon.toolpath.register import PIN, register_holes
from zygon.toolpath.routed import BitWork, Milled, RoutedPaths
from zygon.toolpath.tabs import Held, planned

__all__ = ["router_paths", "worked_under"]

#: Neighbours are as far from one another as the bit is wide within this (mm).
ASTRAY = 0.02

#: Stages of a sheet, one after another; within each one bit after another.
STAGES = ("register", "drill", "mark", "sink", "pocket", "rest", "through", "last")


@dataclass
class _Work:
    """What is found while a sheet is gone through."""

    m: Milling
    cuts: dict[str, list[Milled]] = field(default_factory=lambda: {s: [] for s in STAGES})
    unreached: list[tuple[str, int, shapely.Geometry]] = field(default_factory=list)
    #: sentences, and of what parts they are said, or how often
    said: dict[str, list[str]] = field(default_factory=dict)
    wrong: list[str] = field(default_factory=list)

    def say(self, sentence: str, of: str = "") -> None:
        names = self.said.setdefault(sentence, [])
        if of and of not in names:
            names.append(of)


def worked_under(document: Document, nest: StockNest, number: int) -> bool:
    """Whether the chosen router mills something into the face that lies down on a sheet (from 1)."""
    cutter = document.cutters.get(document.cutter)
    if cutter is None or not cutter.can.bit:
        return False
    pointed = any(b.kind == "v" for b in cutter.bits.values())
    shapes = {p.shape for p in nest.layout.sheets[number - 1].placements}
    for flat in (nest.plan.flats[s] for s in shapes):
        far = "b" if flat.seen == "a" else "a"
        if any(p.face == far for p in flat.pockets) or (
            pointed and far in {*(e.face for e in flat.engraved), *(s.face for s in flat.sinks)}
        ):
            return True
    return False


def router_paths(document: Document, nest: StockNest, number: int, under: bool = False) -> RoutedPaths:
    """The paths of sheet ``number`` (from 1) on the chosen router; ``under`` those of the face that lies down, cut first, with the sheet turned over left to right.

    Raises NestError as ``chosen_for``, where there is no such sheet and for entries that cannot be milled with; ExpressionError for a broken entry.
    """
    stock = nest.plan.stock
    cutter, work = chosen_for(document, stock)
    if not cutter.can.bit:
        raise NestError(f"{cutter.name} is no router", entry="cutter", value=cutter.name, rule="a router", code="no_machine")
    pieces = pieces_of(document, nest, number)
    thickness = nest.plan.flats[0].thickness if nest.plan.flats else 0.0
    m = milling_of(document, stock, cutter, work, thickness)
    size, sheet = sheet_of(nest, number)
    if under:
        pieces = [_turned(document, stock, p, size[0]) for p in pieces]
    found = _Work(m)
    _worked(pieces, found, size[0] if under else None)
    if under:
        _registered(found, size, pieces)
    else:
        _through(document, pieces, [list(by_bit(document, nest.plan, p, m)) for p in pieces], sheet, found)
        if worked_under(document, nest, number):
            found.say("The under side is cut first: then the sheet is turned over left to right on its register pins")
    cuts = _in_order(found, pieces)
    clamps = clamps_of(cutter)
    kind = document.stocks[stock]
    told = chip_faults(list(m.bits), kind.hatch) if isinstance(kind, SheetStock) else []
    return RoutedPaths(
        tuple(cuts),
        size,
        m.bit.diameter,
        thickness,
        {b.key: b for b in m.bits},
        cutter.routing,
        m.safe,
        clamps,
        under,
        tuple(found.unreached),
        (*told, *(f"{s}: {', '.join(names)}" if names else s for s, names in found.said.items())),
        (*_narrow(document, stock, pieces), *_too_deep(cuts, m), *found.wrong, *clamp_faults(cuts, m, clamps)),
    )


def _turned(document: Document, stock: str, piece: Piece, long: float) -> Piece:
    """A piece as it lies when its sheet is turned over, with what is worked into the face that then lies up."""
    flat = piece.flat
    far = replace(flat, seen="b" if flat.seen == "a" else "a", digest=digest("far", flat.digest))
    p = piece.placement

    def place(c: Contour) -> Contour:
        return c.moved(p.x, p.y, p.angle, p.mirrored).moved(long, 0.0, mirrored=True)

    c = compensated(far, kerf_of(document, stock), by_hand_of(document.cutters[document.cutter], stock))
    contours = CutContours(
        tuple(place(x) for x in c.marks),
        (),
        (),
        c.kerf,
        c.narrow,
        drills=tuple(replace(d, contour=place(d.contour)) for d in c.drills if d.depth),  # straight through they are drilled from above
    )
    body = shapely.transform(piece.body, lambda xy: xy * (-1, 1) + (long, 0))
    return replace(piece, flat=far, contours=contours, body=body)


def _pockets(piece: Piece, long: float | None) -> list[Pocket]:
    """The pockets of the face that lies up, but for those that are drilled, where they lie on the sheet, the shallow ones first."""
    p = piece.placement

    def place(c: Contour) -> Contour:
        moved = c.moved(p.x, p.y, p.angle, p.mirrored)
        return moved if long is None else moved.moved(long, 0.0, mirrored=True)

    rounds = {(d.contour.owners[0], round(d.depth, 6)) for d in piece.contours.drills}
    own = [
        q
        for q in piece.flat.pockets
        if q.face == piece.flat.seen and not (q.as_circle and (q.contour.owners[0], round(q.depth, 6)) in rounds)
    ]
    return [q.mapped(place) for q in sorted(own, key=lambda q: q.depth)]


def _worked(pieces: Sequence[Piece], found: _Work, long: float | None = None) -> None:
    """What is done from the face that lies up and goes not all round: holes, marks, countersinks, pockets."""
    tree = shapely.STRtree([p.body for p in pieces])
    for k, piece in enumerate(pieces):
        _holes(piece, found)
        _marks(piece, found)
        near = [i for i in tree.query(piece.body, predicate="dwithin", distance=2 * found.m.bit.diameter).tolist() if i != k]
        others = shapely.union_all([pieces[i].body for i in near])
        for pocket in _pockets(piece, long):
            _pocket(piece, pocket, others, found)


def _holes(piece: Piece, found: _Work) -> None:
    m = found.m
    for d in piece.contours.drills:
        x, y, r = d.contour.as_circle or (0.0, 0.0, 0.0)
        owner = d.contour.owners[0]
        if d.angle:
            bit = v_bit(m, d.angle)
            if bit is None:
                found.say("Countersinks are left to the hand, as no V bit has their angle", words(piece.key))
            else:
                found.cuts["sink"].append(Milled("sink", piece.key, piece.copy, owner, bit.key, sunk(d, bit)))
            continue
        bit = drill_of(d, m)
        if bit is None:
            found.say(f"Holes of {2 * r:g} mm are left to a drill by hand, as no bit is as narrow", words(piece.key))
            continue
        found.cuts["drill"].append(Milled("drill", piece.key, piece.copy, owner, bit.key, hole(d, bit, m, (x, y))))


def _marks(piece: Piece, found: _Work) -> None:
    bit = v_bit(found.m)
    if bit is None:
        if piece.contours.marks:
            found.say("Marks are left out, as the cutter has no V bit", words(piece.key))
        return
    for mark in piece.contours.marks:
        found.cuts["mark"].append(Milled("mark", piece.key, piece.copy, mark.owners[0], bit.key, marked(mark, found.m)))


def _pocket(piece: Piece, pocket: Pocket, others: shapely.Geometry, found: _Work) -> None:
    m = found.m
    at: Point = pocket.contour.points[0]
    first, *finer = m.mills()
    area = area_of(pocket, piece.body, others, first.diameter / 2)
    dips, left = milled_area(area, first, m, pocket.depth, at)
    if dips:
        found.cuts["pocket"].append(Milled("pocket", piece.key, piece.copy, pocket.owner, "", dips))
    for bit in finer:
        if shapely.is_empty(left):
            break
        rest = area_of(pocket, piece.body, others, bit.diameter / 2)
        dips, left = rest_of(rest, left, bit, m, pocket.depth)
        if dips:
            found.cuts["rest"].append(Milled("pocket", piece.key, piece.copy, pocket.owner, bit.key, dips))
    if not shapely.is_empty(left):
        found.unreached.append((piece.key, piece.copy, left))
        found.say("The bits do not reach all of the pockets", f"{shapely.area(left):.1f} mm² in {words(piece.key)}")


def _registered(found: _Work, size: tuple[float, float], pieces: Sequence[Piece]) -> None:
    m = found.m
    places = register_holes(size, shapely.union_all([p.body for p in pieces]), m.bit.diameter)
    if places is None:
        found.wrong.append("There is no room on the sheet for two register holes: leave a wider margin in Nest")
        return
    for at in places:
        found.cuts["register"].append(Milled("register", "", 0, "", "", drilled(at, m.thickness + PIN, m.peck)))


@dataclass(frozen=True)
class _Whole:
    """A cut all round of a piece by number, and what it is milled with."""

    piece: int
    contour: Contour
    outer: bool
    m: Milling


def _through(
    document: Document,
    pieces: Sequence[Piece],
    openings: Sequence[Sequence[tuple[Contour, BitWork]]],
    sheet: shapely.Geometry,
    found: _Work,
) -> None:
    """Cuts straight through: ``openings`` of each piece, and outlines."""
    m = found.m
    whole: list[_Whole] = []
    for k, (piece, own) in enumerate(zip(pieces, openings, strict=True)):
        for contour, bit in own:
            by = with_bit(m, bit)
            if has_slug(contour, by):
                whole.append(_Whole(k, contour, False, by))
            else:
                _cut_out(piece, contour, opened(contour, by, contour.points[0]), "inside", found, bit)
        whole += [_Whole(k, c, True, m) for c in piece.contours.outside]
        flat = piece.flat
        if flat.bevels or flat.bores or flat.skew_bores or flat.edges:
            found.say("Worked edges, slopes and bores into edges are left to the hand", words(piece.key))
    if m.tabs and m.tab_height >= m.thickness:
        found.wrong.append(f"Tabs {m.tab_height:g} mm high in a sheet of {m.thickness:g} mm leave it uncut: lower ones are wanted")
    found.wrong += _into_neighbours(pieces, whole, m)
    held = [Held(w.contour.wound(ccw=w.outer), w.piece) for w in whole]
    plan = planned(held, [p.body for p in pieces], sheet, m.bit.diameter / 2, m.tabs, m.tab_length, m.tab_height - m.thickness, m.finish)
    begun = begun_by_hand(document, pieces, [w.piece for w in whole], [w.contour for w in whole])
    for n, (w, tabs) in enumerate(zip(whole, plan.counts, strict=True)):
        k, outer = w.piece, w.outer
        made = outlined(w.contour, outer, w.m, plan, tabs, begun.get(n, w.contour.points[0]))
        _cut_out(pieces[k], w.contour, made, "outside" if outer else "inside", found, w.m.bit)
        if not made.finished:
            found.say("There is no room to leave something for a finishing run", words(pieces[k].key))
        if outer and m.tabs and not m.skin:
            what = words(pieces[k].key)
            if not tabs:
                found.wrong.append(
                    f"No tab fits on {what}: shorter ones, none at all, a wider gap or margin in Nest, or a skin left to the last would do"
                )
            elif k in plan.loose:
                found.wrong.append(
                    f"The tabs of {what} hold on nothing firm: a wider margin or gap in Nest, or a skin left to the last would do"
                )
            elif tabs < m.tabs:
                found.say(f"{tabs} of {m.tabs} tabs of {what} have room")


def _into_neighbours(pieces: Sequence[Piece], whole: Sequence[_Whole], m: Milling) -> list[str]:
    """Sentences on parts that lie nearer to one another than the bit is wide, and what is left for a finishing run."""
    wide = f"{m.bit.diameter:g} mm of the bit" + (f" and {m.finish:g} mm for a finishing run" if m.finish else "")
    said = reached(pieces, [(w.piece, w.contour) for w in whole], m.bit.diameter / 2 + m.finish - ASTRAY)
    return [f"{a} and {b} lie nearer than {wide}: a wider gap in Nest is wanted" for a, b in said]


def _cut_out(piece: Piece, contour: Contour, made: Outlined, operation: Literal["inside", "outside"], found: _Work, bit: BitWork) -> None:
    loose = operation == "outside" and not made.tabs
    # what a finer bit opens is opened before any outline
    for stage, dips in (("through" if bit is found.m.bit else "rest", made.dips), ("last", made.last)):
        if dips:
            ends = stage == "last" or not made.last
            found.cuts[stage].append(Milled(operation, piece.key, piece.copy, contour.owners[0], bit.key, dips, loose=loose and ends))


def _in_order(found: _Work, pieces: Sequence[Piece]) -> list[Milled]:
    done: list[Milled] = []
    at: Point = (0.0, 0.0)
    for stage in STAGES:
        group = found.cuts[stage]
        for bit in sorted({c.bit for c in group}, key=lambda k: next(b.number for b in found.m.bits if b.key == k)):
            own = [c for c in group if c.bit == bit]
            done += _piece_by_piece(own, pieces, at) if stage in ("through", "last") else _toured(own, at)
            at = done[-1].end
    return done


def _toured(cuts: Sequence[Milled], at: Point) -> list[Milled]:
    return [cuts[k] for k in tour([c.start for c in cuts], [c.end for c in cuts], at)]


def _piece_by_piece(cuts: Sequence[Milled], pieces: Sequence[Piece], at: Point) -> list[Milled]:
    """Openings of a piece before its outline, and what lies in an opening before it."""
    there = [p for p in pieces if any((c.key, c.copy) == (p.key, p.copy) for c in cuts)]
    own = [[c for c in cuts if (c.key, c.copy) == (p.key, p.copy)] for p in there]
    lasts = [o[-1] for o in own]
    found: list[Milled] = []
    for k in tour([c.start for c in lasts], [c.end for c in lasts], at, needs_of(there)):
        for operation in ("inside", "outside"):
            found += _toured([c for c in own[k] if c.operation == operation], at)
            at = found[-1].end if found else at
    return found


def _narrow(document: Document, stock: str, pieces: Iterable[Piece]) -> list[str]:
    cutter = document.cutters[document.cutter]
    left = by_hand_of(cutter, stock)
    found = [(p.key, n) for p in pieces for n in too_narrow(p.flat, mill_widths(cutter, stock, p.flat.thickness), left)]
    return narrow_places(found, "bit", cut_width(cutter, stock))


def _too_deep(cuts: Iterable[Milled], m: Milling) -> list[str]:
    """Sentences on bits that are shorter than they have to go down."""
    reach: Callable[[str], float] = {b.key: b.reach for b in m.bits}.__getitem__
    found: dict[str, float] = {}
    for c in cuts:
        deep = -min(leg.z1 for dip in c.dips for leg in dip)
        if deep > reach(c.bit):
            found[c.bit] = max(found.get(c.bit, 0.0), deep)
    names = {b.key: b.name for b in m.bits}
    return [f"{names[k]} cuts {reach(k):g} mm deep, and {deep:g} mm are wanted" for k, deep in found.items()]
