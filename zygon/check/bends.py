"""Rules of bent sheet: the smallest radius, holes too near a bend, a flat that overlaps itself."""

from __future__ import annotations

import math
from contextlib import suppress

import shapely

from zygon.design.document import Document
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.geometry.boolean import to_polygon
from zygon.making.metal.legs import record_of
from zygon.making.metal.zones import grown_together, zones_of
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.fold import Fold, FoldBend
from zygon.making.result.operations import Bevel, EdgeBore, Pocket, Sink
from zygon.measure.display import format_area, format_length
from zygon.measure.evaluate import NoScope, evaluate
from zygon.tolerance import CHECK, EPS, SAGITTA, SLACK, WITHIN

__all__ = ["bend_faults", "gap_faults", "gap_of"]

SOURCE = "common practice"
#: Flats overlap where they share more than this (mm²).
SHARED = 1e-2


def bend_faults(document: Document, part: FlatPart) -> list[Fault]:
    """What is wrong with a folded part's bends and its flat."""
    flat = part.flat
    if flat.fold is None:
        return []
    return [
        *_flat_work(part),
        *_radius_faults(document, part, flat.fold),
        *_near_bend(document, part, flat.fold),
        *(_overlaps(document, part, flat.fold) or _grown_together(document, part, flat.fold)),
    ]


def _flat_work(part: FlatPart) -> list[Fault]:
    """Folded sheet is cut straight through and marked; depth, bevels and bores in edges are for flat boards."""
    flat = part.flat
    work: list[Pocket | Bevel | Sink | EdgeBore] = [*flat.pockets, *flat.bevels, *flat.sinks, *flat.bores]
    owners = dict.fromkeys(w.owner for w in work)
    rule = "cuts straight through and marks"
    return [
        Fault(
            "depth_in_folded",
            f"{part.path}: depth cannot be worked into a folded part, and is not shown in its solid",
            rule,
            "",
            SOURCE,
            part=part.key,
            owner=owner,
        )
        for owner in owners
    ]


def _radius_faults(document: Document, part: FlatPart, fold: Fold) -> list[Fault]:
    """No bend is tighter than the stock allows; hems are pressed flat and are no such bend."""
    stock = document.stock_of(part.record)
    thickness = part.flat.thickness
    least, source = thickness, SOURCE
    own = stock.bending.least_radius if stock.bending else None
    if own is not None:
        with suppress(ExpressionError):  # a broken entry is said where the stock's bends are read
            least, source = evaluate(own.text, own.unit, "length", NoScope()).value, "the stock's least radius"
    found = []
    for b in fold.bends:
        if b.pressed or b.radius >= least - WITHIN or abs(b.angle) >= math.pi - EPS:  # an offset tool presses its own radius
            continue
        shown, rule = format_length(b.radius, document.display), format_length(least, document.display)
        record = record_of(b.key)
        folding = part.record.folding
        flange = folding.flanges.get(record) if folding else None
        entry = ("flanges", record, "radius") if flange and flange.radius else ("radius",)
        where = pointer("parts", part.of, "folding", *entry)
        mend = Mend(f"Bend it to a radius of {rule}", [{"op": "add", "path": where, "value": {"text": f"{least:.6g} mm", "unit": "mm"}}])
        found.append(
            Fault(
                "tight_bend",
                f"{part.path}: a bend of {shown} inside radius",
                f"at least {rule}",
                shown,
                source,
                part=part.key,
                owner=b.owner,
                entry=where,
                at=_middle(b),
                mends=(mend,),
                measure=b.radius,
            )
        )
    return found


def _near_bend(document: Document, part: FlatPart, fold: Fold) -> list[Fault]:
    """A hole's edge stays two thicknesses and the inside radius away from the start of a bend, or it is drawn out of shape.

    A cut that goes across the bend is meant to, and relieves it.
    """
    flat = part.flat
    found = []
    stock = document.stock_of(part.record)
    own = None
    if stock.bending and stock.bending.hole_distance:
        with suppress(ExpressionError):
            own = evaluate(stock.bending.hole_distance.text, stock.bending.hole_distance.unit, "length", NoScope()).value
    strips = [(b, to_polygon(b.outline, SAGITTA * 10)) for b in fold.bends]
    for contour in flat.inside:
        hole = to_polygon(contour, SAGITTA * 10)
        for b, strip in strips:
            limit = 2 * b.thickness + b.radius if own is None else own
            gap = strip.distance(hole)
            if 0 < gap < limit + 2 * SAGITTA * 10:  # near the rule, on finer chords
                gap = strip.distance(to_polygon(contour, SLACK))
            if not 0 < gap < limit - CHECK:
                continue
            shown, rule = (format_length(round(x, 3), document.display) for x in (gap, limit))
            x0, y0, x1, y1 = contour.bounds
            found.append(
                Fault(
                    "near_bend",
                    f"{part.path}: a hole {shown} from a bend is drawn out of shape",
                    f"at least {rule}" + (" (2 T + R)" if own is None else ""),
                    shown,
                    SOURCE if own is None else "the stock's distance to bends",
                    "warning",
                    part.key,
                    owner=contour.owners[0],
                    at=((x0 + x1) / 2, (y0 + y1) / 2),
                    measure=gap,
                )
            )
    return found


def gap_of(built: Built, part: FlatPart) -> float:
    """The gap that a part states for its closed corners, in mm; 0 where it has none."""
    value = built.values.get(pointer("parts", part.of, "folding", "gap"))
    return value.value if value else 0.0


def gap_faults(built: Built, part: FlatPart) -> list[Fault]:
    """A closed corner's gap is at most the thickness: a wider one is neither closed nor welded (common practice)."""
    flat, folding = part.flat, part.record.folding
    if flat is None or flat.fold is None or folding is None or folding.corner == "open":
        return []
    gap, limit = gap_of(built, part), flat.thickness
    ends = [(b.start, b.end) for b in flat.fold.bends if not b.parent]
    meet = any(
        i != j and math.dist(a[1], b[0]) < 4 * (limit + flat.fold.bends[i].radius) for i, a in enumerate(ends) for j, b in enumerate(ends)
    )
    if not meet or gap <= limit + CHECK:
        return []
    shown, rule = format_length(gap, built.document.display), format_length(limit, built.document.display)
    where = pointer("parts", part.of, "folding", "gap")
    mends = (Mend(f"Close them to {rule}", [{"op": "add", "path": where, "value": {"text": f"{limit:.6g} mm", "unit": "mm"}}]),)
    return [
        Fault(
            "wide_gap",
            f"{part.path}: its closed corners stand {shown} open",
            f"at most the thickness, {rule}",
            shown,
            SOURCE,
            "warning",
            part.key,
            owner="folding",
            entry=where,
            mends=mends,
        )
    ]


def _overlaps(document: Document, part: FlatPart, fold: Fold) -> list[Fault]:
    """The flat covers no place twice."""
    zones = [(f.owner, shapely.union_all([to_polygon(c, SAGITTA * 10) for c in f.outline])) for f in fold.faces]
    zones += [(b.owner, to_polygon(b.outline, SAGITTA * 10)) for b in fold.bends]
    tree = shapely.STRtree([z[1] for z in zones])
    found: list[Fault] = []
    for i, j in tree.query([z[1] for z in zones], predicate="intersects").T.tolist():
        shared = shapely.intersection(zones[i][1], zones[j][1]) if i < j else None
        if shared is None or shared.area <= SHARED:
            continue
        shown = format_area(shared.area, document.display)
        at = shared.point_on_surface()
        found.append(
            Fault(
                "flat_overlaps",
                f"{part.path}: its flat overlaps itself by {shown}",
                "the flat covers no place twice",
                shown,
                "geometry",
                part=part.key,
                owner=zones[j][0],
                at=(at.x, at.y),
            )
        )
        break
    return found


def _grown_together(document: Document, part: FlatPart, fold: Fold) -> list[Fault]:
    """Two bends that are one piece of sheet, or a bend that ends in flat sheet without a relief, cannot be bent."""
    found: list[Fault] = []
    folding = part.record.folding
    records = folding.flanges if folding else {}

    def record(zone: int) -> str:
        key = fold.bends[-1 - zone].key if zone < 0 else fold.faces[zone].key
        return record_of(key) if key else ""

    def named(zone: int) -> str:
        own = records.get(record(zone))
        name = (own.name if own else "") or record(zone).replace("_", " ") or "the plate"
        return f"the bend of {name}" if zone < 0 else name

    for place in grown_together(zones_of(part.flat.pieces, fold), fold):
        shown = format_length(place.length, document.display)
        first, other = sorted((place.a, place.b), key=lambda z: -z if z < 0 else 0, reverse=True)
        said = f"{part.path}: {named(first)} and {named(other)} are one piece of sheet over {shown}, and cannot be bent apart"
        mends = []
        for key in dict.fromkeys((record(first), record(other))):
            if key in records and getattr(records[key], "relief", None) and records[key].relief.style in ("none", "tear"):
                where = pointer("parts", part.of, "folding", "flanges", key, "relief", "style")
                mends.append(
                    Mend(f"Cut a relief beside {records[key].name or key}", [{"op": "add", "path": where, "value": "rectangular"}])
                )
        found.append(
            Fault(
                "no_relief",
                said,
                "a relief wherever two bends touch, or a bend ends in flat sheet",
                shown,
                "geometry",
                part=part.key,
                owner=fold.bends[-1 - first].owner,
                at=place.at,
                mends=tuple(mends),
            )
        )
    return found


def _middle(bend: FoldBend) -> tuple[float, float]:
    (ax, ay), (bx, by) = bend.middle
    return (ax + bx) / 2, (ay + by) / 2
