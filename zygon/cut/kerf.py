"""Kerf compensation by half the kerf (outside grows, inside shrinks, arcs stay arcs), and the reverse: cut on the line."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import shapely

from zygon.design.document import Document
from zygon.geometry.boolean import region_polygon, subtract, to_polygon
from zygon.geometry.contour import Contour, circle, polygon, polyline
from zygon.geometry.offset import EQUAL, OffsetError, offset
from zygon.making.result.flat import Flat
from zygon.making.result.fold import SLIT
from zygon.making.result.operations import Bevel, EdgeWork, Pocket
from zygon.memo import Memo, digest
from zygon.stock.cutter import Cutter, cut_width
from zygon.tolerance import WITHIN

__all__ = [
    "ByHand",
    "CutContours",
    "Drill",
    "NarrowPlace",
    "bend_lines",
    "by_hand_of",
    "compensated",
    "cut_on_the_line",
    "depth_operation",
    "kerf_of",
    "too_narrow",
]


_COMPENSATED = Memo(4000)
#: Slits are closed a little wider and longer than they are (mm).
SLIT_OVER = 1e-3


@dataclass(frozen=True)
class NarrowPlace:
    """A place too narrow for the kerf; its contour is given nominal and must not be cut so. ``outer`` where it is a place of an outline."""

    owner: str
    at: tuple[float, float]
    width: float = 0.0
    outer: bool = False


@dataclass(frozen=True)
class Drill:
    """A round hole that is left to a drill; ``depth`` in mm, 0 straight through. ``angle`` is that of a countersink (included, radians), 0 of a hole."""

    contour: Contour
    depth: float = 0.0
    angle: float = 0.0


@dataclass(frozen=True)
class CutContours:
    """What is cut and marked from the face that is seen, in cutting order; ``kerf`` in mm is 0 for nominal contours.

    ``depths`` are (operation, contour), an operation for each face and depth ('depth-a-6'), islands running counter-clockwise; ``drills`` are left to a drill, ``notes`` are
    lines to work to by hand, ``bends`` the lines that the punch meets, 'bend-up' or 'bend-down' as seen.
    """

    marks: tuple[Contour, ...]
    inside: tuple[Contour, ...]
    outside: tuple[Contour, ...]
    kerf: float = 0.0
    narrow: tuple[NarrowPlace, ...] = ()
    depths: tuple[tuple[str, Contour], ...] = ()
    drills: tuple[Drill, ...] = ()
    notes: tuple[Contour, ...] = ()
    bends: tuple[tuple[str, Contour], ...] = ()


@dataclass(frozen=True)
class ByHand:
    """What a cutter leaves: round through holes of at most, and blind ones of at most, so many mm; and all pockets where it has no depth."""

    through: float = 0.0
    blind: float = 0.0
    pockets: bool = False


def by_hand_of(cutter: Cutter | None, stock: str) -> ByHand:
    """A laser leaves every pocket and blind hole, a router what is narrower than its bit, a saw all holes. Raises ExpressionError."""
    if cutter is None:
        return ByHand()
    if cutter.can.bit:
        width = cut_width(cutter, stock) - WITHIN
        return ByHand(width, width)
    return ByHand(0.0 if cutter.can.inside else math.inf, math.inf, pockets=not cutter.can.depth)


def depth_operation(pocket: Pocket) -> str:
    """The operation that stands for a pocket's face and depth: 'depth-a-6'."""
    return f"depth-{pocket.face}-{round(pocket.depth, 3):g}"


def compensated(flat: Flat, kerf: float, left: ByHand = ByHand()) -> CutContours:
    """The paths of a tool ``kerf`` mm wide that leave the nominal part; marks stay. Places too narrow are told, not guessed."""
    return _COMPENSATED.get(digest("kerf", flat.digest, kerf, left), lambda: _compensated(flat, kerf, left))[0]


def _compensated(flat: Flat, kerf: float, left: ByHand) -> CutContours:
    narrow: list[NarrowPlace] = []

    def path(contour: Contour, outer: bool = False) -> Contour:
        try:
            return offset(contour, kerf / 2)
        except OffsetError as error:
            single = _single_run(contour, kerf)
            if single is not None:
                return single
            narrow.append(NarrowPlace(contour.owners[0], error.at, _width_of(contour), outer))
            return contour

    seen = [p for p in flat.pockets if p.face == flat.seen]
    drills = [Drill(c) for c in flat.inside if _is_drilled(c, left.through)]
    drills += [Drill(p.contour, p.depth) for p in seen if _is_drilled_pocket(p, left)]
    drills += [Drill(circle(s.u, s.v, s.diameter / 2, s.owner), s.depth, s.angle) for s in flat.sinks if s.face == flat.seen]
    slits = flat.fold.slits if flat.fold else ()
    inside = (*(path(c) for c in flat.inside if not _is_drilled(c, left.through)), *slits)
    outside = tuple(path(c, outer=True) for c in _without_slits(flat))
    notes = [n for b in flat.bevels for n in _bevel_notes(flat, b)]
    notes += [n for e in flat.edges if e.face == flat.seen for n in _profile_notes(flat, e)]
    up = flat.thickness if flat.seen == "a" else 0.0
    notes += [b.mouth(min((b.start, b.end), key=lambda p: abs(p[2] - up))) for b in flat.skew_bores if not b.along]
    sunk = [p for p in sorted(seen, key=lambda p: p.depth) if not _is_drilled_pocket(p, left)]
    if left.pockets:  # a cutter without depth would cut them through: they are lines to work to, no path
        notes += [c for p in sunk for c in p.contours]
        sunk = []
    bounds = flat.bounds if flat.pieces else (0.0, 0.0, 0.0, 0.0)
    # a pocket is cut from within; where it is open at the board's edge the tool runs out past it
    depths = tuple(
        (depth_operation(p), path(c))
        for p in sunk
        for c in (_run_out(p.contour, bounds, kerf / 2).wound(ccw=False), *(i.wound(ccw=True) for i in p.islands))
    )
    return CutContours(flat.marks, inside, outside, kerf, tuple(narrow), depths, tuple(drills), tuple(notes), bend_lines(flat))


def too_narrow(flat: Flat, widths: Sequence[float], left: ByHand = ByHand()) -> list[NarrowPlace]:
    """The places that no bit of these widths (mm, the one of outlines first) gets into: outlines are cut with the first alone, openings and pockets with any."""
    found = list(compensated(flat, widths[0], left).narrow)
    if len(widths) == 1 or not found:
        return found
    finest = {n.owner for n in compensated(flat, min(widths), left).narrow if not n.outer}
    return [n for n in found if n.outer or n.owner in finest]


def bend_lines(flat: Flat) -> tuple[tuple[str, Contour], ...]:
    """The middle lines of a flat's bends as far as there is sheet, 'bend-up' where it bends towards who looks at it."""
    if not flat.fold or not flat.pieces:
        return ()
    sheet = shapely.union_all([region_polygon(p, 0.01) for p in flat.pieces])
    found = []
    for b in flat.fold.bends:
        line = shapely.intersection(shapely.LineString(b.middle), sheet)
        for piece in shapely.get_parts(line):
            if piece.geom_type == "LineString" and piece.length > 0.01:
                ends = [tuple(p) for p in shapely.get_coordinates(piece).tolist()]
                found.append(("bend-up" if b.angle > 0 else "bend-down", polyline([ends[0], ends[-1]], b.owner)))
    return tuple(found)


def _without_slits(flat: Flat) -> list[Contour]:
    """The outer contours with slits closed: a slit is one run along a line, and no outline of its own."""
    outers = [p.outer for p in flat.pieces]
    slits = flat.fold.slits if flat.fold else ()
    if not slits:
        return outers
    return [r.outer for r in subtract([*outers, *(_filled(s) for s in slits)], [])]


def _filled(slit: Contour) -> Contour:
    """What a slit takes out of the flat, a little wider, so that nothing of it stays."""
    (x0, y0), (x1, y1) = slit.points
    length = math.dist((x0, y0), (x1, y1))
    half = SLIT / 2 + SLIT_OVER
    nx, ny = (y1 - y0) / length * half, -(x1 - x0) / length * half
    dx, dy = (x1 - x0) / length * SLIT_OVER, (y1 - y0) / length * SLIT_OVER
    corners = [(x0 + nx, y0 + ny), (x1 + nx + dx, y1 + ny + dy), (x1 - nx + dx, y1 - ny + dy), (x0 - nx, y0 - ny)]
    return polygon(corners, slit.owners[0]).wound(ccw=True)


def _single_run(contour: Contour, kerf: float) -> Contour | None:
    """The run of a tool that is just as wide as a place: a point for a hole, one line along the middle of a slot; None for what is narrower."""
    try:
        thin = offset(contour, kerf / 2 - EQUAL)
    except OffsetError:
        return None
    owner = contour.owners[0]
    round_ = thin.as_circle
    if round_ and round_[2] < 2 * EQUAL:
        return Contour((round_[:2],), (), (owner,), closed=False)
    corners = shapely.get_coordinates(shapely.minimum_rotated_rectangle(shapely.MultiPoint(thin.flatten(EQUAL))))
    sides = sorted((math.dist(p, q), tuple((p + q) / 2)) for p, q in zip(corners[:2], corners[1:3], strict=True))
    if sides[0][0] > 4 * EQUAL:
        return thin  # an arm of it is just as wide: there and back along its middle
    other = corners[2] + corners[3] if tuple((corners[0] + corners[1]) / 2) == sides[0][1] else corners[3] + corners[0]
    (x0, y0), (x1, y1) = sides[0][1], other / 2
    return polyline([(float(x0), float(y0)), (float(x1), float(y1))], owner)


def _width_of(contour: Contour) -> float:
    """The shorter side in mm of the least rectangle round a contour, at any angle."""
    if contour.as_circle:
        return 2 * contour.as_circle[2]
    corners = shapely.get_coordinates(shapely.minimum_rotated_rectangle(to_polygon(contour, 0.01)))
    return min(math.dist(corners[0], corners[1]), math.dist(corners[1], corners[2]))


def _bevel_notes(flat: Flat, bevel: Bevel) -> list[Contour]:
    """What a sloping cut is worked to by hand on the face that is seen: its outline, or the line of a bevelled edge as far as the board goes."""
    if not bevel.edge:
        return [bevel.on_a if flat.seen == "a" else bevel.on_b]
    line = shapely.LineString(bevel.line_on(flat.seen).points)
    board = shapely.union_all([region_polygon(p, 0.01) for p in flat.pieces])
    found = shapely.get_parts(shapely.intersection(line, shapely.buffer(board, -0.02)))
    return [polyline([tuple(p) for p in shapely.get_coordinates(g).tolist()], bevel.owner) for g in found if g.length > 0.1]


def _profile_notes(flat: Flat, e: EdgeWork) -> list[Contour]:
    """How far onto the face that is seen an edge's profile reaches."""
    board = shapely.buffer(shapely.union_all([region_polygon(p, 0.01) for p in flat.pieces]), -0.02)
    found = []
    for run in e.runs:
        chords = run.flatten(0.01)
        line = shapely.LineString([*chords.tolist(), chords[0].tolist()] if run.closed else chords)
        inside = shapely.offset_curve(line, e.width, join_style="mitre")
        for g in shapely.get_parts(shapely.line_merge(shapely.intersection(inside, board))):
            if g.geom_type == "LineString" and g.length > 0.1:
                found.append(polyline([(x, y) for x, y in shapely.get_coordinates(g).tolist()], e.owner))
    return found


def _is_drilled(contour: Contour, most: float) -> bool:
    return contour.as_circle is not None and 2 * contour.as_circle[2] <= most


def _is_drilled_pocket(pocket: Pocket, left: ByHand) -> bool:
    return not pocket.islands and _is_drilled(pocket.contour, left.blind)


def _run_out(contour: Contour, bounds: tuple[float, float, float, float], past: float) -> Contour:
    """The pocket with what lies over the part's bounds moved out to ``past`` mm beyond them."""
    if not past:
        return contour
    x0, y0, x1, y1 = bounds

    def out(value: float, low: float, high: float) -> float:
        return low - past if value < low - WITHIN else high + past if value > high + WITHIN else value

    moved = [(out(x, x0, x1), out(y, y0, y1)) for x, y in contour.points]
    kept = []
    for i, (point, bulge, owner) in enumerate(zip(moved, contour.bulges, contour.owners, strict=True)):
        after = (i + 1) % len(moved)
        if math.dist(point, moved[after]) > WITHIN:  # what lay past the edge altogether has shrunk to a point
            true = point == contour.points[i] and moved[after] == contour.points[after]
            kept.append((point, bulge if true else 0.0, owner))
    if len(kept) < 2 or (len(kept) == 2 and not all(k[1] for k in kept)):  # two corners hold an area between arcs alone
        return contour
    return Contour(tuple(k[0] for k in kept), tuple(k[1] for k in kept), tuple(k[2] for k in kept))


def cut_on_the_line(contour: Contour, kerf: float, outer: bool) -> tuple[float, float]:
    """Width and height in mm that come out when a nominal contour is cut on the line: outsides lose a kerf, insides gain one."""
    x0, y0, x1, y1 = contour.bounds
    change = -kerf if outer else kerf
    return x1 - x0 + change, y1 - y0 + change


def kerf_of(document: Document, stock: str) -> float:
    """The width in mm that the chosen cutter takes out of a stock; 0 where no cutter is chosen. Raises ExpressionError for a broken entry."""
    cutter = document.cutters.get(document.cutter)
    return cut_width(cutter, stock) if cutter else 0.0
