"""Relations said of a drawing and taken back, what is found in it, and points dragged."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

from zygon.design.layout_operations import fresh_key, fresh_name, next_order
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawing.anchored import anchored
from zygon.drawing.freedoms import freedoms_of
from zygon.drawing.measured import measured
from zygon.drawing.seen import find_relations
from zygon.drawing.solver import solve_drawing
from zygon.drawing.words import relation_words
from zygon.drawn.drawing import DIMENSIONS, TAKES, Drawing, DrawnPoint, Relation, RelationKind, fits
from zygon.edits.drawings.draft import PLACES, Draft, kept_as, refused
from zygon.making.datums.drawings import fast_words
from zygon.making.result.built import Built
from zygon.making.rooms.named import figure
from zygon.measure.entry import Entry

__all__ = ["drag", "erase", "find", "hold", "possible", "relate"]


def relate(built: Built, part: str, feature: str, kind: RelationKind, of: list[str], entry: Entry | None) -> tuple[str, Patch]:
    """Label and patch that say a relation. A dimension without an entry is what it measures; one that follows from the rest is only measured."""
    draft = Draft(built, part, feature)
    things = [draft.named(k) for k in of]
    key = draft.relate(kind, things, Entry(text="0") if kind in DIMENSIONS and entry is None else entry)
    made = draft.made()
    if kind in DIMENSIONS:
        relation = made.relations[key]
        bare = made.model_copy(update={"relations": {k: r for k, r in made.relations.items() if k != key}})
        now = draft.place.drawn(bare)
        value = measured(now.solved, relation)
        if entry is None:
            relation = relation.model_copy(update={"entry": Entry(text=_said(draft, kind, value), unit=draft.document.unit)})
        if _follows(now.drawing, now.figures, dict(now.fast), key, relation, value):
            relation = relation.model_copy(update={"measured": True, "entry": None})
        draft.relations[key] = relation
    words = relation_words(draft.made(), draft.relations[key], "", fast_words(draft.place.values, draft.place.plane, draft.made()))
    label = f"Measure: {words}" if draft.relations[key].measured else f"{words[0].upper()}{words[1:]}"
    return label[:200], draft.patch()


def _said(draft: Draft, kind: str, value: float) -> str:
    """A measured figure as it is typed."""
    if DIMENSIONS[kind] == "angle":
        return f"{round(math.degrees(value), 3) + 0.0:g} deg"
    return figure(value, draft.document.unit)


def _follows(
    drawing: Drawing, figures: dict[str, float], fast: dict[str, tuple[float, ...]], key: str, relation: Relation, value: float
) -> bool:
    """Whether what a dimension measures is settled by the rest."""
    tried = drawing.model_copy(update={"relations": {**drawing.relations, key: relation}})
    solved = solve_drawing(tried, {**figures, key: value}, fast)
    return any(f.relation == key for f in freedoms_of(solved).twice)


def hold(built: Built, part: str, feature: str, key: str, how: str) -> tuple[str, Patch]:
    """Label and patch that let a relation hold, only measure, or leave it out."""
    draft = Draft(built, part, feature)
    relation = draft.relations.get(key)
    if relation is None:
        raise refused(f"There is no relation {key}", "key", key, "a relation of the drawing")
    words = relation_words(draft.drawing, relation, "", fast_words(draft.place.values, draft.place.plane, draft.drawing))
    if how == "measure" and relation.kind not in DIMENSIONS:
        raise refused(f"{words}: there is nothing to measure", "how", how, "a dimension")
    entry = relation.entry
    if how == "hold" and relation.kind in DIMENSIONS and entry is None:
        value = measured(draft.drawn(solve=False).solved, relation)
        entry = Entry(text=_said(draft, relation.kind, value), unit=draft.document.unit)
    draft.relations[key] = relation.model_copy(update={"out": how == "leave out", "measured": how == "measure", "entry": entry})
    said = {"hold": "Hold", "measure": "Only measure", "leave out": "Leave out"}[how]
    return f"{said}: {words}"[:200], draft.patch()


def as_size(built: Built, part: str, feature: str, key: str) -> tuple[str, Patch]:
    """Label and patch that make a dimension that is only measured a size, which entries can name. Raises DocumentError where it is none."""
    document = built.document
    draft = Draft(built, part, feature)
    relation = draft.relations.get(key)
    if relation is None or relation.kind not in DIMENSIONS or not relation.measured:
        raise refused(f"There is nothing measured called {key}", "key", key, "a dimension that is only measured")
    name = fresh_name(document, "measured")
    words = relation_words(draft.drawing, relation, "", fast_words(draft.place.values, draft.place.plane, draft.drawing))
    value = {
        "name": name,
        "kind": DIMENSIONS[relation.kind],
        "entry": {"text": "0", "unit": document.unit},
        "measured": {"drawn": part, "feature": feature, "relation": key},
        "note": f"{draft.place.name}: {words}"[:200],
        "order": next_order(document.sizes),
    }
    return f"Measure {name}", [{"op": "add", "path": pointer("sizes", fresh_key(document.sizes, name)), "value": value}]


def erase(built: Built, part: str, feature: str, keys: list[str]) -> tuple[str, Patch]:
    """Label and patch that take things away, with what hangs on them."""
    draft = Draft(built, part, feature)
    known = {**draft.points, **draft.curves, **draft.references, **draft.relations}
    lost = next((k for k in keys if k not in known), None)
    if lost is not None or not keys:
        raise refused(f"There is nothing called {lost} in the drawing", "keys", lost, "things of the drawing")
    only = all(k in draft.relations for k in keys)
    draft.without(set(keys))
    draft.unreferred()
    n = len(keys)
    label = (
        f"Forget {'a relation' if n == 1 else f'{n} relations'}"
        if only
        else f"Erase {'a thing' if n == 1 else f'{n} things'} of the drawing"
    )
    return label, draft.patch(solve=not only or bool(draft.relations))


def drag(
    built: Built,
    part: str,
    feature: str,
    to: Mapping[str, tuple[float, float]],
    radii: Mapping[str, float],
    start: Mapping[str, tuple[float, float]],
) -> tuple[str, Patch]:
    """Label and patch that move points as near to places (mm) as what is asked lets them, and circles to radii; the rest moves least.

    ``start`` are places of points from which it goes there: where a hand has led them.
    """
    draft = Draft(built, part, feature)
    made = draft.made()
    lost = next((k for k in (*to, *start) if k not in made.points), None)
    if lost is not None:
        raise refused(f"There is no point {lost}", "to", lost, "a point of the drawing")
    du, dv = draft.shift_now()
    for key, radius in radii.items():
        curve = draft.curves.get(key)
        if curve is None or curve.kind != "circle" or radius <= 0:
            raise refused(
                f"There is no circle {key} that could have a radius of {radius:g}", "radii", key, "a circle, and a radius above 0"
            )
        draft.curves[key] = curve.model_copy(update={"radius": radius})
    draft.points |= {k: DrawnPoint(x=round(x - du, PLACES), y=round(y - dv, PLACES)) for k, (x, y) in start.items()}
    now = draft.drawn()
    held = anchored(now.drawing, draft.place.adrift, to)
    led = solve_drawing(held, now.figures, now.fast, pulled={k: (x - du, y - dv) for k, (x, y) in to.items()})
    kept = kept_as(replace(now, solved=led))
    draft.points, draft.curves = dict(kept.points), dict(kept.curves)
    return "Drag " + ("a circle" if radii and not to else "a point" if len(to) == 1 else "points"), draft.patch()


def find(built: Built, part: str, feature: str, within: float) -> tuple[str, Patch]:
    """Label and patch that keep the relations that a drawing nearly has, to ``within`` mm. Raises DocumentError where none are found."""
    draft = Draft(built, part, feature)
    now = draft.drawn()
    turned = math.radians(1.0) if within > 0.05 else math.radians(0.1)
    found = find_relations(kept_as(now), within, turned=turned, figures=now.figures, fast=now.fast)
    if not found:
        raise refused("No more relations are found", "within", within, "what is level, square, equal, smooth, to within that much")
    for relation in found:
        draft.relate(relation.kind, relation.of)
    return f"Find relations: {len(found)} found", draft.patch()


def possible(drawing: Drawing, of: list[str]) -> list[RelationKind]:
    """The kinds of relations that things may have, by their keys; in the order in which they are offered."""
    things = "".join(drawing.thing(k) or "?" for k in of)
    return [kind for kind, ways in TAKES.items() if any(fits(things, way) for way in ways)]
