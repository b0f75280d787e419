"""A turned part's steps as they are drawn: their diameters and lengths as dimensions from the axis."""

from __future__ import annotations

import math

from zygon.design.parts.kinds import is_turned
from zygon.design.parts.turned import TurnedPart, TurnedStep
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawing.seen import find_relations
from zygon.drawn.drawing import Curve, Drawing, DrawnArc, DrawnLine, DrawnPoint, Reference, Relation
from zygon.errors import DocumentError
from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour
from zygon.making.asked.drawings.on_turned import OnTurned
from zygon.making.result.built import Built
from zygon.making.turned.profile import profile_of_steps
from zygon.measure.entry import Entry
from zygon.tolerance import CONTACT, SEEN, SLACK

__all__ = ["begin_half_profile"]

Pair = tuple[float, float]


def begin_half_profile(built: Built, part: str) -> tuple[str, Patch]:
    """Label and patch that make a turned part's steps a drawing, as they are now. Raises DocumentError where they cannot be."""
    record = built.document.parts.get(part)
    if not is_turned(record):
        raise DocumentError(f"{part} is no turned part", entry="part", value=part, rule="a turned part")
    if record.drawing is not None:
        raise DocumentError(f"{record.name} is drawn freely already", entry="part", value=part, rule="a half-profile of steps")
    if any(s.teeth for s in record.steps.values()):
        raise DocumentError(
            f"{record.name} has serrations, which are said of steps", entry="part", value=part, rule="steps without serrations"
        )
    place = OnTurned(built, part)
    profile = profile_of_steps(place.values, part, place.long)
    if profile is None:
        raise DocumentError(f"{record.name} cannot be turned as it is", entry="part", value=part, rule="steps that can be turned")
    drawing = _drawing(place, profile, record)
    dumped = drawing.model_dump(mode="json", exclude_none=True)
    patch: Patch = [
        {"op": "remove", "path": pointer("parts", part, "steps")},
        {"op": "add", "path": pointer("parts", part, "drawing"), "value": dumped},
    ]
    return f"Draw the half-profile of {record.name}", patch


def _drawing(place: OnTurned, profile: Contour, record: TurnedPart) -> Drawing:
    points: dict[str, DrawnPoint] = {}
    curves: dict[str, Curve] = {}

    def seen(p: Pair) -> Pair:
        r, w = p
        return (w, r) if place.along == 0 else (r, w)

    def point(p: Pair) -> str:
        key = f"p{len(points) + 1}"
        x, y = seen(p)
        points[key] = DrawnPoint(x=round(x, 6) + 0.0, y=round(y, 6) + 0.0)
        return key

    corners = [point(p) for p in profile.points]
    lengths: dict[str, tuple[Pair, Pair]] = {}
    for a, b, s in zip(corners, [*corners[1:], corners[0]], profile.segments(), strict=True):
        if abs(s.p[0]) <= SEEN and abs(s.q[0]) <= SEEN:
            continue  # the axis itself is no edge
        if not s.bulge:
            curves[f"line{len(curves) + 1}"] = DrawnLine(a=a, b=b, order=len(curves))
            lengths[list(curves)[-1]] = (s.p, s.q)
            continue
        cx, cy, _, _, sweep = arc_from_bulge(s.p, s.q, s.bulge)
        left = (sweep > 0) == (place.along == 1)
        curves[f"arc{len(curves) + 1}"] = DrawnArc(a=a if left else b, b=b if left else a, centre=point((cx, cy)), order=len(curves))
    way, other = ("y", "x") if place.along == 0 else ("x", "y")
    references = {"axis": _zero(place, way), **{c.words: c.reference for c in place.sides(other) if not c.id.startswith("zero")}}
    if len(references) == 1:
        references["end_a"] = _zero(place, other)
    bare = Drawing(points=points, curves=curves, references=references)
    relations = [r for r in find_relations(bare, SLACK, turned=CONTACT) if r.kind != "equal"]
    said = [*relations, *_figures(record, lengths)]
    drawing = bare.model_copy(update={"relations": {f"r{n}": r.model_copy(update={"order": n}) for n, r in enumerate(said, 1)}})
    used = {k for r in said for k in r.of}
    return drawing.model_copy(update={"references": {k: r for k, r in references.items() if k in used}})


def _zero(place: OnTurned, way: str) -> Reference:
    return next(c.reference for c in place.sides(way) if c.id == f"zero:{way}")


def _figures(record: TurnedPart, lines: dict[str, tuple[Pair, Pair]]) -> list[Relation]:
    """What is said of the steps, as dimensions of the lines that are drawn for them."""
    found: list[Relation] = []
    said = sorted(record.steps.items(), key=lambda ks: (ks[1].order, ks[0]))
    straight = [(k, ends) for k, ends in lines.items() if abs(ends[0][0] - ends[1][0]) <= SEEN]
    if len(straight) != len(said) or any(s.to is not None for _, s in said):
        return found  # tapers: what is level and square is seen, the rest stays as it is drawn
    last = [s.length for _, s in said].index(None) if any(s.length is None for _, s in said) else len(said) - 1
    for n, ((line, ends), (_, step)) in enumerate(zip(straight, said, strict=True)):
        across = step.across.model_copy(update={"text": f"({step.across.text})/2"})
        found.append(Relation(kind="distance", of=[line, "axis"], entry=across))
        if n != last and step.length is not None and not _eased(step) and math.dist(*ends) > CONTACT:
            found.append(Relation(kind="distance", of=[line], entry=Entry(text=step.length.text, unit=step.length.unit)))
    return found


def _eased(step: TurnedStep) -> bool:
    return step.chamfer is not None or step.round is not None
