"""Rules of a part's own outline: no neck of it is thinner than wood between two cuts may be, and no arc inside it is tighter than the bit that cuts it."""

from __future__ import annotations

import math

import numpy as np
import shapely

from zygon.check.called import called
from zygon.check.cutter import narrowest
from zygon.design.document import Document
from zygon.errors import ExpressionError
from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour, Segment
from zygon.making.result.built import FlatPart
from zygon.making.result.fault import Fault
from zygon.measure.display import format_length, in_thicknesses
from zygon.owner import is_of
from zygon.stock.cutter import mill_widths
from zygon.tolerance import SLACK, WITHIN

__all__ = ["arc_faults", "neck_faults"]

SOURCE = "common practice"
#: Chords this near to arcs (mm) are looked at.
SAGITTA = 0.02
#: So many of either kind are told of a part.
MOST = 8
#: How near a neck's width is found (mm), and how finely a quarter of a circle is drawn meanwhile.
NEAR, ROUND = 0.01, 8
#: What lies as near to the middle of a neck as this share of its width is a side of it: reliefs put the middle a little aside.
REACH = 0.8


def neck_faults(document: Document, part: FlatPart) -> list[Fault]:
    """Where a part's outline comes so near to itself that little holds its two sides together; what joints cut there has rules of its own."""
    limit = document.rules.web * part.flat.thickness
    if limit <= SLACK or part.flat.fold is not None:
        return []
    found = []
    for piece in part.flat.pieces:
        whole = to_polygon(piece.outer, SAGITTA)
        for at, width in _necks(whole, limit):
            owners = _nearest_owners(piece.outer, at, width)
            if any(is_of(o, "joint", "bore") for o in owners):
                continue
            shown, rule = format_length(round(width, 2), document.display), format_length(limit, document.display)
            found.append(
                Fault(
                    "thin_web",
                    f"{part.path}: its outline has a neck of {shown}",
                    f"at least {rule} ({in_thicknesses(document.rules.web)})",
                    shown,
                    SOURCE,
                    "warning",
                    part=part.key,
                    owner=next((o for o in owners if is_of(o, "feature")), "outline"),
                    at=at,
                    measure=width,
                )
            )
    return found[:MOST]


def _necks(whole: shapely.Polygon, limit: float) -> list[tuple[tuple[float, float], float]]:
    """Where a polygon is narrower than ``limit`` between two parts of it that are not, and how narrow; its holes are not looked at.

    Made thinner all round it comes apart at its necks, each as soon as that is half its width.
    """
    if not whole.is_valid:
        return []
    half = limit / 2 - SLACK
    cores = _parts(whole, half)
    if len(cores) < 2:
        return []
    found: list[tuple[tuple[float, float], float]] = []
    waiting = [(whole, 0.0, cores)]
    while waiting and len(found) < MOST:
        one, low, own = waiting.pop()
        high = half
        # how thin it may be made before it comes apart
        while high - low > NEAR / 4:
            middle = (low + high) / 2
            low, high = (middle, high) if len(_with(_parts(whole, middle, one), own)) == 1 else (low, middle)
        pieces = _with(_parts(whole, high, one), own)
        if len(pieces) < 2:
            continue
        first, rest = pieces[0], shapely.union_all(pieces[1:])
        (x0, y0), (x1, y1) = shapely.shortest_line(first, rest).coords
        found.append((((x0 + x1) / 2, (y0 + y1) / 2), low + high))
        for piece in pieces:
            within = [c for c in own if shapely.intersects(piece, c)]
            if len(within) > 1:
                waiting.append((piece.buffer(high), high, within))
    return found


def _parts(whole: shapely.Polygon, by: float, of: shapely.Geometry | None = None) -> list[shapely.Geometry]:
    """What is left of a polygon, or of a part of it, that is made thinner all round."""
    thin = whole.buffer(-by, quad_segs=ROUND)
    thin = shapely.intersection(thin, of) if of is not None and of is not whole else thin
    return [g for g in shapely.get_parts(thin) if g.area > 0]


def _with(parts: list[shapely.Geometry], cores: list[shapely.Geometry]) -> list[shapely.Geometry]:
    """Those parts in which some core lies: tips and teeth are not among them."""
    return [p for p in parts if any(shapely.intersects(p, c) for c in cores)]


def _nearest_owners(outer: Contour, at: tuple[float, float], width: float) -> list[str]:
    """The owners of the outline's lines on both sides of a neck."""
    segments = outer.segments()
    lines = np.array([shapely.LineString(_chords(s)) for s in segments])
    near = shapely.distance(lines, shapely.Point(at)) <= REACH * width
    return list(dict.fromkeys(s.owner for s, n in zip(segments, near.tolist(), strict=True) if n))


def _chords(s: Segment) -> np.ndarray:
    return Contour((s.p, s.q), (s.bulge,), (s.owner,), closed=False).flatten(SAGITTA)


def arc_faults(document: Document, part: FlatPart) -> list[Fault]:
    """Arcs that turn into a part more tightly than the bit that cuts them: it leaves wood there."""
    cutter = document.cutters.get(document.cutter)
    if cutter is None or not cutter.can.bit:
        return []
    try:
        widths = mill_widths(cutter, part.record.stock, part.flat.thickness)
    except ExpressionError:
        return []  # said of the cutter
    found: dict[tuple[str, float], Fault] = {}
    # each by the bit that cuts it; what none gets into is told to be too small
    outlines = [(p.outer, widths[0] / 2) for p in part.flat.pieces]
    openings = [(c, w / 2) for c in part.flat.inside if (w := next((w for w in widths if narrowest(c) >= w - WITHIN), 0.0))]
    for contour, bit in (*outlines, *openings):
        if contour.as_circle:
            continue
        for s in contour.segments():
            # with the board to its left, an arc that turns right has it outside
            if s.bulge >= -WITHIN or is_of(s.owner, "joint"):
                continue
            cx, cy, radius, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
            if radius >= bit - WITHIN:
                continue
            shown, rule = (format_length(round(x, 3), document.display) for x in (radius, bit))
            at = (cx + radius * math.cos(start + sweep / 2), cy + radius * math.sin(start + sweep / 2))
            what = "its outline" if is_of(s.owner, "edge") or s.owner == "outline" else called(document, s.owner)
            found.setdefault(
                (s.owner, round(radius, 3)),
                Fault(
                    "tight_arc",
                    f"{part.path}: {what} turns in with R {shown}, and the bit leaves wood there",
                    f"at least the bit's radius, {rule}",
                    shown,
                    cutter.name,
                    "warning",
                    part=part.key,
                    owner=s.owner if is_of(s.owner, "feature") else "outline",
                    at=at,
                    measure=radius,
                ),
            )
    return list(found.values())[:MOST]
