"""An outline as it is made a drawing: its lines and arcs, tied to the sides that it reaches, with the relations that are seen in it."""

from __future__ import annotations

import math

from zygon.design.outlines import Traced
from zygon.design.parts.kinds import is_plate
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawing.seen import find_relations
from zygon.drawn.drawing import Curve, Drawing, DrawnArc, DrawnCircle, DrawnLine, DrawnPoint, Reference, Relation
from zygon.errors import DocumentError
from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour
from zygon.limits import MAX_DRAWN_CURVES
from zygon.making.asked.drawings.on_plate import OnPlate
from zygon.making.result.built import Built
from zygon.tolerance import CONTACT, SLACK

__all__ = ["begin_outline", "drawing_from"]

#: In an outline that was read from a file.
READ = 0.01


def begin_outline(built: Built, part: str) -> tuple[str, Patch]:
    """Label and patch that make a part's outline a drawing, as it is now before any joint. Raises DocumentError where it cannot be."""
    record = built.document.parts.get(part)
    if not is_plate(record):
        raise DocumentError(f"{part} is no board", entry="part", value=part, rule="a part in a plane")
    if record.outline is not None and record.outline.kind == "free":
        raise DocumentError(f"{record.name} is drawn freely already", entry="part", value=part, rule="another outline")
    place = OnPlate(built, part)
    contours = _contours(place)
    drawing = drawing_from(
        contours,
        sides={face: c.reference for face, c in place.four_sides().items()},
        within=READ if record.outline is not None and record.outline.kind == "drawn" else SLACK,
    )
    value = {"kind": "free", "drawing": drawing.model_dump(mode="json", exclude_none=True)}
    patch: Patch = [{"op": "add", "path": pointer("parts", part, "outline"), "value": value}]
    return f"Draw the outline of {record.name}", patch


def _contours(place: OnPlate) -> list[Contour]:
    """The outline and its openings, before any joint, from the spans' low corner."""
    from zygon.geometry.contour import rectangle
    from zygon.making.features.outlines import shape_outlines
    from zygon.making.result.operations import Cut

    w, h = place.size
    if place.record.outline is None:
        return [rectangle(0.0, 0.0, w, h)]
    only = {place.part: place.blank} if not isinstance(place.record.outline, Traced) else place.meeting.blanks
    known = len(place.values.faults)
    cuts = shape_outlines(place.values, dict(only), place.meeting.instances).get(place.part, [])
    del place.values.faults[known:]
    if place.blank.outline is None:
        rule = "an outline that can be made"
        raise DocumentError(f"{place.record.name} has no outline now", entry="part", value=place.part, rule=rule)
    return [place.blank.outline, *(c.contour for c in cuts if isinstance(c, Cut))]


def drawing_from(contours: list[Contour], *, sides: dict[str, Reference], within: float) -> Drawing:
    """A drawing of closed contours, with relations that are seen in it to ``within`` mm; ``sides`` are lines that it may lie on, by key."""
    points: dict[str, DrawnPoint] = {}
    curves: dict[str, Curve] = {}

    def point(x: float, y: float) -> str:
        key = f"p{len(points) + 1}"
        points[key] = DrawnPoint(x=round(x, 6) + 0.0, y=round(y, 6) + 0.0)
        return key

    if sum(len(c.bulges) for c in contours) > MAX_DRAWN_CURVES // 2:
        n = sum(len(c.bulges) for c in contours)
        rule = f"an outline of at most {MAX_DRAWN_CURVES // 2} lines and arcs"
        raise DocumentError(f"Its outline has {n} lines and arcs", entry="outline", value=n, rule=rule)
    for contour in contours:
        if (ring := contour.as_circle) is not None:
            curves[f"circle{len(curves) + 1}"] = DrawnCircle(centre=point(*ring[:2]), radius=round(ring[2], 6), order=len(curves))
            continue
        corners = [point(*p) for p in contour.points]
        for a, b, segment in zip(corners, [*corners[1:], corners[0]], contour.segments(), strict=True):
            if not segment.bulge:
                curves[f"line{len(curves) + 1}"] = DrawnLine(a=a, b=b, order=len(curves))
                continue
            cx, cy, _, _, sweep = arc_from_bulge(segment.p, segment.q, segment.bulge)
            ends = (a, b) if sweep > 0 else (b, a)
            curves[f"arc{len(curves) + 1}"] = DrawnArc(a=ends[0], b=ends[1], centre=point(cx, cy), order=len(curves))
    drawing = Drawing(points=points, curves=curves, references=sides)
    relations: dict[str, Relation] = {}
    for relation in find_relations(drawing, within, turned=max(CONTACT, math.radians(0.05) if within >= READ else 0.0)):
        relations[f"r{len(relations) + 1}"] = relation
    used = {k for r in relations.values() for k in r.of}
    return drawing.model_copy(update={"relations": relations, "references": {k: r for k, r in sides.items() if k in used}})
