"""The one way through: a document in, a built design out. A pure function; what it remembers never changes a result."""

from __future__ import annotations

from dataclasses import replace

from zygon.build.blanks import Blank, blank_of
from zygon.build.bores import bore_operations
from zygon.build.built import Built, BuiltJoint, BuiltPart, Finger, Operation
from zygon.build.contact import Contact, find_contact
from zygon.build.corners import settle_corners
from zygon.build.features import feature_operations
from zygon.build.flat import flat_of
from zygon.build.joints import REGISTRY
from zygon.build.joints.base import JointContext
from zygon.build.marks import help_marks
from zygon.build.relief import Relief
from zygon.build.values import EntryScope, Values, solve
from zygon.design.document import Board, Document, Item
from zygon.design.limits import MAX_BIT
from zygon.design.patch import pointer
from zygon.errors import ExpressionError
from zygon.stock.cutter import cut_width

__all__ = ["blanks_of", "build", "contact_of"]


def build(document: Document, good: dict[str, float] | None = None, *, nominal: bool = False) -> Built:
    """Builds a design. ``good`` are last good values by entry pointer: what is broken stands on them, and is said to.

    ``nominal`` builds with every fit at nought and without reliefs (for checks of what fills what).
    """
    values = solve(document, good)
    blanks = blanks_of(values)
    contexts = _contexts(values, blanks)
    joints, operations, live = _joints(values, contexts, nominal)
    neighbours = {k: [(b.span, b.frame.normal) for n, b in blanks.items() if n != k] for k in blanks}
    for key, blank in blanks.items():
        operations.setdefault(key, []).extend(feature_operations(values, blank, neighbours[key]))
    for key, found in bore_operations(values, blanks).items():
        operations[key].extend(found)
    height = values.read(document.marks.height, "/marks/height", "length", EntryScope(values), fallback=6.0)
    for key, marks in help_marks(document.marks, document.numbers(), blanks, live, operations, height).items():
        operations[key].extend(marks)
    parts, rebuilt = _parts(values, blanks, operations, nominal)
    good_now = {**values.good, **{k: v.value for k, v in values.values.items() if not v.stale}}
    known = {k: v for k, v in good_now.items() if k in values.values}
    return Built(document, values.values, parts, joints, tuple(values.faults), known, rebuilt)


def blanks_of(values: Values) -> dict[str, Blank]:
    """The blanks of all boards whose datums are known and make sense."""
    blanks = {}
    for key, board in values.boards.items():
        box = values.box(key)
        if box:
            blanks[key] = blank_of(key, board, box)
    return blanks


def contact_of(values: Values, a: Blank, b: Blank) -> Contact:
    """How two blanks meet, by their spans."""
    return find_contact(a.span, a.frame.normal, a.record.name, b.span, b.frame.normal, b.record.name, values.document.display)


def _contexts(values: Values, blanks: dict[str, Blank]) -> dict[str, JointContext]:
    """Every joint whose boards are there, with its contact by the spans."""
    contexts = {}
    for key, record in sorted(values.document.joints.items(), key=lambda kj: (kj[1].order, kj[0])):
        if record.a in blanks and record.b in blanks:
            a, b = blanks[record.a], blanks[record.b]
            contexts[key] = JointContext(key, record, contact_of(values, a, b), a, b, values)
    return contexts


def _joints(
    values: Values, contexts: dict[str, JointContext], nominal: bool
) -> tuple[dict[str, BuiltJoint], dict[str, list[Operation]], dict[str, JointContext]]:
    """Joints settled in the order: refuse, lengthen and grow blanks, lay out, corners, cuts; with the operations and the joints that stand."""
    joints: dict[str, BuiltJoint] = {}
    live: dict[str, JointContext] = {}
    pairs: dict[frozenset[str], str] = {}
    for key, context in contexts.items():
        refused = REGISTRY[context.record.kind].refusal(context.contact)
        pair = frozenset((context.record.a, context.record.b))
        if not refused and pair in pairs:
            refused = "these two boards are joined already"
        if refused:
            joints[key] = BuiltJoint(key, context.record.kind, context.record.a, context.record.b, context.contact.kind, refused=refused)
            values.fault_entry(pointer("joints", key), "joint_refused", f"{context.title}: {refused}", "the boards meet as the joint needs it",
                               context.contact.kind, context.record.a, context.owner)  # fmt: skip
        else:
            pairs[pair] = key
            live[key] = context
    live = _reached(live)
    patterns = {k: REGISTRY[c.record.kind].layout(c) for k, c in live.items()}
    fingered = {k: c for k, c in live.items() if c.record.kind == "finger"}
    settled = {**patterns, **settle_corners(fingered, {k: patterns[k] for k in fingered})}
    operations: dict[str, list[Operation]] = {}
    for key, context in live.items():
        fit = 0.0 if nominal else (context.read(context.record.fit, "fit") or 0.0)
        cuts_a, cuts_b = REGISTRY[context.record.kind].cuts(context, settled[key], fit)
        operations.setdefault(context.record.a, []).extend(cuts_a)
        operations.setdefault(context.record.b, []).extend(cuts_b)
        joints[key] = _built_joint(context, settled[key], fit)
    return {k: joints[k] for k in contexts}, operations, live


def _reached(live: dict[str, JointContext]) -> dict[str, JointContext]:
    """The joints with their runs taken from blanks that reach as far as the joints need them to."""
    cornered = [c for c in live.values() if hasattr(REGISTRY[c.record.kind], "lengthen")]
    for context in cornered:
        REGISTRY[context.record.kind].lengthen(context.contact, context.a, context.b)
    for context in live.values():
        if hasattr(REGISTRY[context.record.kind], "grow"):
            REGISTRY[context.record.kind].grow(context)
    live = {k: _lengthened(c) for k, c in live.items()}
    for key in live:
        if hasattr(REGISTRY[live[key].record.kind], "lengthen"):
            _add_corners(live[key])
    return live


def _built_joint(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> BuiltJoint:
    record, contact = context.record, context.contact
    module = REGISTRY[record.kind]
    details = {**context.figures, "thickness_a": context.a.thickness, "thickness_b": context.b.thickness}
    return BuiltJoint(context.key, record.kind, record.a, record.b, contact.kind, contact.axis, contact.run, fingers, fit, details,
                      holds=module.holds(context) if hasattr(module, "holds") and fingers else "", fastened=getattr(module, "FASTENED", ""),
                      across=contact.across, form=contact.form)  # fmt: skip


def _lengthened(context: JointContext) -> JointContext:
    """The joint with its run taken from the lengthened blanks; how the boards meet stays as the spans say."""
    c = context.contact
    if c.kind in ("edge", "lap", "faces"):
        return context
    a, b = context.a.extents.span(c.axis), context.b.extents.span(c.axis)
    return replace(context, contact=replace(c, run=(max(a[0], b[0]), min(a[1], b[1]))))


def _add_corners(context: JointContext) -> None:
    """Each blank that ends at the near face grows through the other's slab, along the joint's run only."""
    c = context.contact
    for blank, reach, other in ((context.a, c.reach_a, context.b), (context.b, c.reach_b, context.a)):
        if reach.how == "near":
            blank.add({other.frame.normal: other.span.span(other.frame.normal), c.axis: c.run}, "edge")


def _relief(values: Values, key: str) -> Relief | None:
    """What a round bit asks for on a board: its radius, and each joint's relief; None for other cutters."""
    document = values.document
    cutter = document.cutters.get(document.cutter)
    if cutter is None or cutter.kind != "router":
        return None
    try:
        radius = cut_width(cutter, values.boards[key].stock) / 2
    except ExpressionError:
        return None  # said by the checks of the cutter
    if radius > MAX_BIT / 2:
        return None  # said by the checks of the cutter too
    styles = tuple((f"joint:{k}", getattr(j, "relief", "none")) for k, j in document.joints.items() if key in (j.a, j.b))
    return Relief(radius, styles)


def _parts(
    values: Values, blanks: dict[str, Blank], operations: dict[str, list[Operation]], nominal: bool
) -> tuple[dict[str, BuiltPart], tuple[str, ...]]:
    parts: dict[str, BuiltPart] = {}
    rebuilt = []
    stale = {w for w, v in values.values.items() if v.stale}
    for key in values.document.numbers():
        record, blank = values.document.parts[key], blanks.get(key)
        if isinstance(record, Item) or blank is None:
            parts[key] = BuiltPart(key, record.name, record, stale=isinstance(record, Board))
            continue
        flat, made = flat_of(blank, operations.get(key, []), None if nominal else _relief(values, key))
        if made:
            rebuilt.append(key)
        low, high = blank.span.span(blank.frame.normal)
        ou, ov = blank.origin
        matrix = [list(row) for row in blank.frame.matrix(low, high)]
        for i, axis in enumerate("xyz"):
            matrix[i][3] += ou if axis == blank.frame.u else ov if axis == blank.frame.v else 0.0
        prefix = pointer("parts", key)
        parts[key] = BuiltPart(key, record.name, record, blank.frame, blank.span, blank.extents, flat, tuple(operations.get(key, [])),
                               tuple(tuple(r) for r in matrix), 1, any(w.startswith(prefix + "/") for w in stale))  # fmt: skip
    return parts, tuple(rebuilt)
