"""The one way through: a document in, a built design out. A pure function; what it remembers never changes a result."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.pointer import pointer
from zygon.making.blanks.blank import Blank, blank_of
from zygon.making.blanks.instances import Instance, instances_of
from zygon.making.connector.seats import connectors_of, seats_of
from zygon.making.datums.members import points_of
from zygon.making.datums.moves import read_moves
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.datums.values import Values
from zygon.making.features.bores import bore_axes, bore_operations, bores_in_copies
from zygon.making.features.copied_bores import add_copied_bores
from zygon.making.features.marks import help_marks
from zygon.making.features.opening import neighbours_of
from zygon.making.features.outlines import shape_outlines
from zygon.making.features.shapes import feature_operations
from zygon.making.hardware.let_in import bodies_of_hardware, let_in_operations
from zygon.making.joints.joining import join
from zygon.making.kinds.parts import numbers_of, parts_of
from zygon.making.kinds.rod import worked_rods
from zygon.making.metal.folding import fold_blanks
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built, BuiltPart, MadePart
from zygon.making.result.operations import Operation
from zygon.making.sets.holding import held_by_sets
from zygon.making.sets.places import sets_of
from zygon.making.tube.joining import join_members
from zygon.making.turned.profile import turned_bodies
from zygon.owner import clearance_id
from zygon.stock.shelf import OnHand

__all__ = ["blanks_of", "build"]


def build(document: Document, good: dict[str, float] | None = None, *, nominal: bool = False, on_hand: OnHand | None = None) -> Built:
    """Builds a design. ``good`` are last good values by entry pointer: what is broken stands on them, and is said to.

    ``nominal`` builds with every fit at nought and without reliefs (for checks of what fills what); ``on_hand`` is what the workshop has to cut it from.
    """
    values = solve(document, good, leg_face)
    instances = instances_of(values)
    blanks = blanks_of(values, instances)
    operations: dict[str, list[Operation]] = {k: [] for k in blanks}
    for key, cuts in shape_outlines(values, blanks, instances).items():
        operations[key].extend(cuts)
    joined = join(values, blanks, instances, nominal)
    for key, found in joined.operations.items():
        operations[key].extend(found)
    for key, cuts in fold_blanks(values, blanks).items():
        operations[key].extend(cuts)
    for key, blank in blanks.items():
        asks = any("opening" in (f.u.origin, f.v.origin) for f in blank.record.features.values())
        operations[key].extend(feature_operations(values, blank, neighbours_of(blank, blanks, instances) if asks else []))
        if blank.half is not None:
            operations[key] = blank.half.operations(operations[key])
    for key, rooms in let_in_operations(values, blanks, instances).items():
        operations[key].extend(rooms)
    turned = turned_bodies(values)
    values.turned = {k: body for k, (body, _) in turned.items()}
    axes = bore_axes(values, instances)
    sets, holes = sets_of(values, blanks, operations, instances, axes)
    bored = bore_operations(values, blanks, axes, holes)
    instead = bores_in_copies(values, blanks, axes, holes)
    for key, through in bored.items():
        operations[key].extend(through)
    add_copied_bores(values, blanks, instances, bored, operations)
    members, connectors = join_members(values, instances, axes, holes), connectors_of(values)
    bodies = {**members.bodies, **connectors, **worked_rods(values), **turned, **bodies_of_hardware(values)}
    for key, rule in document.clearances.items():
        for field, limit in (("least", rule.least), ("most", rule.most)):
            if limit is not None:
                values.read(limit, pointer("clearances", key, field), "length", EntryScope(values), owner=clearance_id(key))
    read_moves(values)
    height = values.read(document.marks.height, "/marks/height", "length", EntryScope(values), fallback=6.0)
    if document.marks.numbers or document.marks.mates or document.marks.inside or document.marks.grain:
        numbers = numbers_of(values, blanks, instances, operations, bodies, nominal, instead) if document.marks.numbers else {}
        for key, marks in help_marks(document.marks, numbers, blanks, joined.live, operations, height).items():
            operations[key].extend(marks)
    parts, rebuilt = parts_of(values, blanks, instances, operations, bodies, nominal, instead)
    good_now = {**values.good, **{k: v.value for k, v in values.values.items() if not v.stale}}
    known = {k: v for k, v in good_now.items() if k in values.values}
    every = {**joined.joints, **members.joints}
    joints = {k: every[k] for k, _ in sorted(document.joints.items(), key=lambda kj: (kj[1].order, kj[0])) if k in every}
    joints = held_by_sets(document, joints, sets)
    return Built(
        document,
        values.values,
        parts,
        joints,
        tuple(values.faults),
        known,
        rebuilt,
        points_of(values),
        tuple(s for s in seats_of(values, connectors, instances) if _made(parts, s.connector) and _made(parts, s.member)),
        {k: values.seating(k) for k in connectors},
        on_hand or {},
        sets,
    )


def _made(parts: dict[str, BuiltPart], key: str) -> bool:
    """Whether a part has a place and a shape."""
    return isinstance(parts.get(key), MadePart)


def blanks_of(values: Values, instances: dict[str, Instance] | None = None) -> dict[str, Blank]:
    """The blanks of all parts in a plane whose datums are known and make sense, where their originals stand."""
    instances = instances_of(values) if instances is None else instances
    blanks = {}
    for key, plate in values.document.plates().items():
        box = values.box(key)
        if box:
            blanks[key] = blank_of(key, plate, box, instances[key].motion)
    return blanks
