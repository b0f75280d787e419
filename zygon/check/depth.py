"""Rules of depth: what remains under a pocket, and bores in edges that meet something."""

from __future__ import annotations

import math
from itertools import combinations

import shapely

from zygon.check.called import called
from zygon.design.document import Document
from zygon.geometry.boolean import region_polygon, to_polygon
from zygon.geometry.motion import Vector
from zygon.making.flats.face_words import bore_word
from zygon.making.flats.flat import edge_bore_axis
from zygon.making.result.built import FlatPart
from zygon.making.result.fault import Fault
from zygon.making.result.operations import EdgeBore, Pocket, SkewBore
from zygon.measure.display import format_length, in_thicknesses
from zygon.owner import is_of, read_owner
from zygon.tolerance import SLACK

__all__ = ["depth_faults"]

SOURCE = "common practice"
#: Pockets on opposite faces count as one above the other from this common area (mm²) on.
AREA = 0.01
WORDS = {
    "hole": "a blind hole",
    "lap": "a lap",
    "mortise": "a mortise",
    "shoulder": "a shoulder",
    "groove": "a groove",
    "rebate": "a rebate",
    "pocket": "a pocket",
}


def depth_faults(document: Document, part: FlatPart) -> list[Fault]:
    """Every pocket leaves enough of the board, alone and above one from the other side; no bore within the sheet meets another cut."""
    flat = part.flat
    if flat is None or flat.plain:
        return []
    return _floors(document, part) + _bores(document, part)


def _middle(pocket: Pocket) -> tuple[float, float]:
    x0, y0, x1, y1 = pocket.contour.bounds
    return (x0 + x1) / 2, (y0 + y1) / 2


def _pilot(document: Document, owner: str) -> bool:
    """Whether a hole is a wood screw's: how far that stays from the far side is a rule of its set."""
    bore = document.bores.get(read_owner(owner).key) if is_of(owner, "bore") else None
    return bore is not None and bore.hardware is not None and bore.hardware.holds_by == "wood"


def _floors(document: Document, part: FlatPart) -> list[Fault]:
    flat, faults = part.flat, []
    t = flat.thickness
    limit = document.rules.floor * t
    rule = f"at least {format_length(limit, document.display)} ({in_thicknesses(document.rules.floor)})"
    for pocket in flat.pockets:
        rest = t - pocket.depth
        if rest < limit - SLACK and not _pilot(document, pocket.owner):
            shown = format_length(rest, document.display)
            faults.append(
                Fault(
                    "thin_floor",
                    f"{part.path}: {shown} of material is left under {WORDS[pocket.what]} {format_length(pocket.depth, document.display)} deep",
                    rule,
                    shown,
                    SOURCE,
                    part=part.key,
                    owner=pocket.owner,
                    at=_middle(pocket),
                )
            )
    outlines = [(p, region_polygon(p.region, 0.01)) for p in flat.pockets]
    for (p, one), (q, other) in combinations(outlines, 2):
        rest = t - p.depth - q.depth
        if p.face == q.face or rest >= limit - SLACK or shapely.area(shapely.intersection(one, other)) < AREA:
            continue
        shown = format_length(max(rest, 0.0), document.display)
        if rest <= SLACK:
            faults.append(
                Fault(
                    "floors_meet",
                    f"{part.path}: {WORDS[p.what]} and {WORDS[q.what]} from the other face come through to each other",
                    rule,
                    shown,
                    "geometry",
                    part=part.key,
                    owner=p.owner,
                    other=part.key,
                    at=_middle(p),
                )
            )
        else:
            faults.append(
                Fault(
                    "thin_floor",
                    f"{part.path}: {shown} of material is left between {WORDS[p.what]} and {WORDS[q.what]} from the other face",
                    rule,
                    shown,
                    SOURCE,
                    part=part.key,
                    owner=p.owner,
                    at=_middle(p),
                )
            )
    return faults


def _bores(document: Document, part: FlatPart) -> list[Fault]:
    """A bore in an edge, or from edge to edge, runs in full wood: it meets no cut-out, no pocket at its height, no other bore, and no face."""
    flat, faults = part.flat, []
    t = flat.thickness
    runs = [Run(b, *edge_bore_axis(b)) for b in flat.bores] + [Run(d, d.start, d.end) for d in flat.skew_bores if d.along]
    others = [(to_polygon(c, 0.01), (0.0, t), c.owners[0], "a cut-out") for c in flat.inside]
    others += [
        (region_polygon(p.region, 0.01), (t - p.depth, t) if p.face == "a" else (0.0, p.depth), p.owner, WORDS[p.what])
        for p in flat.pockets
    ]
    others += [(to_polygon(d.footprint, 0.01), (0.0, t), d.owner, "another bore") for d in flat.skew_bores if not d.along]
    others += [(r.plan, r.height, r.what.owner, "another bore") for r in runs]
    for run in runs:
        low, high = run.height
        for outline, (other_low, other_high), owner, what in others:
            if outline is run.plan or owner == run.what.owner or min(high, other_high) - max(low, other_low) <= SLACK:
                continue
            if shapely.area(shapely.intersection(run.plan, outline)) > AREA:
                shown = format_length(math.dist(run.start, run.end), document.display)
                faults.append(
                    Fault(
                        "bore_meets",
                        f"{part.path}: {_words(document, part, run.what)} runs into {what}",
                        "a bore runs in full wood",
                        shown,
                        "geometry",
                        "warning" if isinstance(run.what, SkewBore) else "error",
                        part.key,
                        owner=run.what.owner,
                        at=run.end[:2],
                    )
                )
                break
        if isinstance(run.what, SkewBore) and (low < SLACK or high > t - SLACK):
            shown = format_length(max(-low, high - t, 0.0), document.display)
            faults.append(
                Fault(
                    "bore_meets",
                    f"{part.path}: {_words(document, part, run.what)} comes out through a face",
                    "a bore runs in full wood",
                    shown,
                    "geometry",
                    part=part.key,
                    owner=run.what.owner,
                    at=run.end[:2],
                )
            )
    return faults


class Run:
    """A bore within the sheet: what it is, its ``plan`` from above, and from where to where it reaches in ``height``."""

    def __init__(self, what: EdgeBore | SkewBore, start: Vector, end: Vector) -> None:
        self.what, self.start, self.end = what, start, end
        self.plan = shapely.buffer(shapely.LineString((start[:2], end[:2])), what.diameter / 2, cap_style="flat")
        self.height = start[2] - what.diameter / 2, start[2] + what.diameter / 2


def _words(document: Document, part: FlatPart, what: EdgeBore | SkewBore) -> str:
    if isinstance(what, SkewBore):
        return f"{called(document, what.owner)}, drilled from edge to edge,"
    return f"a bore {format_length(what.depth, document.display)} deep in its {bore_word(part, what)} edge"
