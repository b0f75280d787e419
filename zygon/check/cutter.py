"""Rules of the cutter: what it can cut at all, and that it knows the stock."""

from __future__ import annotations

import math

import shapely

from zygon.check.called import called
from zygon.check.router import router_faults
from zygon.cut.kerf import NarrowPlace, by_hand_of, too_narrow
from zygon.design.document import Document
from zygon.design.parts.kinds import is_plate
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour
from zygon.limits import MAX_BIT
from zygon.making.flats.flat import turned_over
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.fault import Fault, Mend
from zygon.measure.display import format_length
from zygon.measure.evaluate import plain_length
from zygon.owner import read_owner
from zygon.stock.cutter import cut_width, mill_widths
from zygon.tolerance import WITHIN

__all__ = ["cutter_faults", "flat_cutter_faults", "narrowest"]


def cutter_faults(built: Built) -> list[Fault]:
    """The chosen cutter is there, its entries can be read, and it has speeds for every stock in use."""
    document = built.document
    cutter = document.cutters.get(document.cutter)
    used = {p.record.stock for p in built.parts.values() if is_plate(p.record) and p.record.cut_here}
    if cutter is None:
        return (
            [
                Fault(
                    "no_cutter",
                    "No cutter is chosen: kerf, time and cost are not known",
                    "a design has a cutter",
                    severity="warning",
                    entry="/cutter",
                )
            ]
            if used
            else []
        )
    faults = router_faults(document)
    beam = ("lead_length", *(["joint_width"] if cutter.joints else []), *(["corner_way"] if cutter.corner_speed < 100 else []))
    for field in (
        "kerf",
        "smallest",
        "bed_length",
        "bed_width",
        *(f for f in ("bit", "pass_depth") if getattr(cutter, f)),
        *(beam if cutter.can.beam else ()),
    ):
        where = pointer("cutters", document.cutter, field)
        try:
            value = plain_length(getattr(cutter, field))
        except ExpressionError as error:
            faults.append(Fault("broken_expression", error.message, error.reason, error.text, entry=where))
            continue
        if field in ("kerf", "bit") and value > MAX_BIT:
            shown, limit = format_length(value), format_length(MAX_BIT)
            faults.append(Fault("bad_value", f"{cutter.name}: its {field} is {shown}", f"at most {limit}", shown, entry=where))
        elif value < 0 or (value == 0 and field not in ("kerf", "smallest", "lead_length")):
            faults.append(
                Fault(
                    "bad_value",
                    f"{cutter.name}: its {field.replace('_', ' ')} is {format_length(value)}",
                    "it is greater than 0",
                    format_length(value),
                    entry=where,
                )
            )
    for key in sorted(used):
        if key not in cutter.work:
            name = document.stocks[key].name
            faults.append(
                Fault(
                    "no_speeds",
                    f"{cutter.name} has no speeds for {name}: its time and cost are not reckoned",
                    "speeds for every stock in use",
                    severity="warning",
                    entry=pointer("cutters", document.cutter, "work"),
                )
            )
    return faults


def flat_cutter_faults(document: Document, part: FlatPart) -> list[Fault]:
    """Nothing is smaller than the cutter can cut, and no place is narrower than the kerf."""
    cutter = document.cutters.get(document.cutter)
    if cutter is None:
        return []
    try:
        smallest, widths = plain_length(cutter.smallest), mill_widths(cutter, part.record.stock, part.flat.thickness)
    except ExpressionError:
        return []  # said by cutter_faults
    faults = []
    # what is no more than the bit of outlines says nothing of finer ones
    kerf, limit = widths[0], max(0.0 if len(widths) > 1 and smallest <= widths[0] + WITHIN else smallest, widths[-1])
    left = by_hand_of(cutter, part.record.stock)
    for contour in part.flat.inside:
        width = narrowest(contour)
        if contour.as_circle and width <= left.through:
            continue  # it is left to a drill
        if width < limit - WITHIN:
            shown, rule = (format_length(x, document.display) for x in (width, limit))
            x0, y0, x1, y1 = contour.bounds
            faults.append(
                Fault(
                    "too_small",
                    f"{part.path}: a cut-out is {shown} wide, under what {cutter.name} can cut",
                    f"at least {rule}",
                    shown,
                    cutter.name,
                    part=part.key,
                    owner=contour.owners[0],
                    at=((x0 + x1) / 2, (y0 + y1) / 2),
                    measure=width,
                )
            )
    said = {f.owner for f in faults}
    tool = cutter.can.width
    sides = [part.flat, turned_over(part.flat)] if part.flat.pockets else [part.flat]
    for place in (n for side in sides for n in too_narrow(side, widths, left)):
        if place.owner not in said:
            said.add(place.owner)
            shown, wide = (format_length(round(x, 3), document.display) for x in (kerf, place.width))
            what = called(document, place.owner)
            where = f"{what}, {wide} wide, is narrower" if place.width < kerf else f"{what} has a place narrower"
            faults.append(
                Fault(
                    "under_kerf",
                    f"{part.path}: {where} than the {tool} of {shown}",
                    f"as wide as the {tool}, {shown}, or wider",
                    wide if place.width < kerf else f"under {shown}",
                    cutter.name,
                    part=part.key,
                    owner=place.owner,
                    at=place.at,
                    mends=_mends(document, part, place, kerf),
                )
            )
    return faults


def _mends(document: Document, part: FlatPart, place: NarrowPlace, kerf: float) -> tuple[Mend, ...]:
    """Another cutter that is narrow enough, and the place itself made as wide as the tool where one entry says its width."""
    found = []
    for key, other in document.cutters.items():
        try:
            narrower = key != document.cutter and cut_width(other, part.record.stock) <= place.width + WITHIN
        except ExpressionError:
            continue
        if narrower and other.can.inside:
            found.append(Mend(f"Cut it on {other.name}", [{"op": "replace", "path": "/cutter", "value": key}]))
    owner = read_owner(place.owner)
    feature = part.record.features.get(owner.key) if owner.kind == "feature" and not owner.flange else None
    field = {"slot": "width", "groove": "width", "hand_hold": "width", "hole": "diameter"}.get(feature.kind, "") if feature else ""
    if field:
        entry = {"text": f"{kerf:g} mm", "unit": "mm"}
        where = pointer("parts", part.of, "features", owner.key, field)
        found.append(Mend(f"Make it {format_length(kerf, document.display)} wide", [{"op": "add", "path": where, "value": entry}]))
    return tuple(found)


def narrowest(contour: Contour) -> float:
    """The shorter side in mm of the least rectangle round a cut-out, at any angle: a circle's diameter, a slot's width."""
    if contour.as_circle:
        return 2 * contour.as_circle[2]
    corners = shapely.get_coordinates(shapely.minimum_rotated_rectangle(to_polygon(contour, 0.01)))
    return min(math.dist(corners[0], corners[1]), math.dist(corners[1], corners[2]))
