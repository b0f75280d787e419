"""Joints worked out whole: contacts, runs, patterns, corners, cuts; and what each joint's copies do to the boards that are not copied with it.

A joint is built once. Where a copy of one of its boards stands against a board that stays, the joint's cuts are carried there by the copy's
motion; boards that were copied share their original's cuts as they are. So it does not matter which was made first, copy or joint.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from zygon.design.pointer import pointer
from zygon.geometry.frame import AXES, FACES
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import Instance
from zygon.making.datums.values import Values
from zygon.making.joints.angle import moved_box
from zygon.making.joints.askew import run_axis, run_way
from zygon.making.joints.base import JointContext
from zygon.making.joints.ends import contact_of, end_blank
from zygon.making.joints.joint_copies import Copied, JointCopies
from zygon.making.joints.registry import REGISTRY
from zygon.making.joints.three_boards import settle_corners
from zygon.making.result.built import BuiltJoint, Finger
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.operations import Operation
from zygon.owner import joint_id
from zygon.tolerance import EPS

__all__ = ["Joined", "join"]


@dataclass
class Joined:
    """The joints of a design, the operations by part key, and the joints that stand."""

    joints: dict[str, BuiltJoint]
    operations: dict[str, list[Operation]]
    live: dict[str, JointContext]


def join(values: Values, blanks: dict[str, Blank], instances: dict[str, Instance], nominal: bool) -> Joined:
    """Every joint of a design. What is refused or missing is a fault, and its boards stay as they are."""
    contexts = _contexts(values, blanks, instances)
    joined = Joined({}, {}, {})
    _refused(values, contexts, joined)
    work = JointCopies(values, blanks, instances, joined.live)
    work.reach()
    live = work.live
    patterns = {k: work.watched(k, lambda c=c: REGISTRY[c.record.kind].layout(c)) for k, c in live.items()}
    settled = {**patterns, **_settled(work, patterns)}
    for key, context in live.items():
        fit = 0.0 if nominal else (context.read(context.record.fit, "fit") or 0.0)
        made: tuple[list[Operation], list[Operation]] = work.watched(
            key,
            lambda context=context, key=key, fit=fit: REGISTRY[context.record.kind].cuts(context, settled[key], fit),
        )
        work.keep(key, made, joined.operations)
        joined.joints[key] = _built_joint(context, settled[key], fit, work.copies[key])
    joined.live = live
    joined.joints = {k: joined.joints[k] for k in contexts}
    return joined


def _contexts(values: Values, blanks: dict[str, Blank], instances: dict[str, Instance]) -> dict[str, JointContext]:
    """Every joint whose boards are there, with its contact by the spans."""
    contexts = {}
    for key, record in sorted(values.document.joints.items(), key=lambda kj: (kj[1].order, kj[0])):
        if record.out:
            continue
        a, b = end_blank(record.a, blanks, instances), end_blank(record.b, blanks, instances)
        if a is not None and b is not None:
            contexts[key] = JointContext(key, record, contact_of(values, a, b), a, b, values)
        else:
            _lost_end(values, key, record, blanks, instances)
    return contexts


def _lost_end(values: Values, key: str, record, blanks: dict[str, Blank], instances: dict[str, Instance]) -> None:
    """A joint to a copy that is gone is said; one to a part that is left out waits for it, and to a broken part that is said already."""
    for field, reference in (("a", record.a), ("b", record.b)):
        part = reference.partition("@")[0]
        if "@" in reference and reference not in instances and part in blanks:
            name = values.boards[part].name
            drop = Mend("Remove the joint", [{"op": "remove", "path": pointer("joints", key)}])
            values.faults.append(
                Fault(
                    "lost_copy",
                    f"A joint wants a copy of {name} that is not there any more ({reference.partition('@')[2]})",
                    "both boards of a joint are there",
                    reference,
                    part=part,
                    owner=joint_id(key),
                    entry=pointer("joints", key, field),
                    mends=(drop,),
                )
            )


def _edge_used(context: JointContext) -> Blank | None:
    """A board with an outline of its own whose straight edge the joint would need."""
    c = context.contact
    for blank, reach in ((context.a, c.reach_a), (context.b, c.reach_b)):
        ends = reach.ends if c.kind in ("corner", "tee", "angle") else c.kind in ("edge", "lap")
        if blank.record.outline is not None and ends:
            return blank
    return None


def _refused(values: Values, contexts: dict[str, JointContext], joined: Joined) -> None:
    pairs: set[frozenset[str]] = set()
    for key, context in contexts.items():
        record = context.record
        refused = REGISTRY[record.kind].refusal(context.contact)
        pair = frozenset((record.a, record.b))
        if not refused and pair in pairs:
            refused = "these two boards are joined already"
        shaped = _edge_used(context)
        if not refused and shaped is not None:
            refused = f"{shaped.record.name} has an outline of its own there, and the joint needs a straight edge"
        if refused:
            joined.joints[key] = BuiltJoint(key, record.kind, record.a, record.b, context.contact.kind, refused=refused)
            values.fault_entry(
                pointer("joints", key),
                "joint_refused",
                f"{context.title}: {refused}",
                "the boards meet as the joint needs it",
                context.contact.kind,
                context.a.record_key,
                context.owner,
            )
        else:
            pairs.add(pair)
            joined.live[key] = context


def _settled(work: JointCopies, patterns: dict[str, tuple[Finger, ...]]) -> dict[str, tuple[Finger, ...]]:
    """The finger joints with the cubes where three boards meet given away, at copies as at their originals."""
    fingered = {k: c for k, c in work.live.items() if c.record.kind == "finger"}
    contexts, layouts = dict(fingered), {k: patterns[k] for k in fingered}
    same: dict[str, str] = {}
    for key, context in fingered.items():
        for n, copy in enumerate(work.copies[key], 1):
            image = _image(context, copy, patterns[key])
            if image is not None:
                contexts[f"{key}@{n}"], layouts[f"{key}@{n}"] = image
                same |= {copy.a: context.a.key, copy.b: context.b.key}
    settled = settle_corners(contexts, layouts, same)
    return {k: settled[k] for k in fingered}


def _image(context: JointContext, copy: Copied, fingers: tuple[Finger, ...]) -> tuple[JointContext, tuple[Finger, ...]] | None:
    """A joint and its pattern at a copy's place; None where the copy does not lie along the axes."""
    inner = context.a.place.inverse @ copy.motion @ context.a.place
    direction = inner.vector([1.0 if x == context.contact.axis else 0.0 for x in AXES])
    k = next((i for i in range(3) if abs(direction[i]) > 1 - EPS), None)
    if k is None or not inner.square or any(abs(inner.rows[i][i]) < 0.5 for i in range(3)):
        return None
    owners = {context.a.key: copy.a, context.b.key: copy.b}

    def at(place: float) -> float:
        return round(direction[k] * place + inner.rows[k][3], 7)

    moved = []
    for f in fingers:
        ends = sorted((at(f.low), at(f.high)))
        moved.append(Finger(ends[0], ends[1], owners[f.owner]))
    low, high = sorted((at(context.contact.run[0]), at(context.contact.run[1])))
    blanks = []
    for side, key, blank in (("a", copy.a, context.a), ("b", copy.b, context.b)):
        blanks.append(blank if side in copy.stays else replace(blank, key=key, span=moved_box(blank.span, inner)))
    record = context.record.model_copy(update={"a": copy.a, "b": copy.b})
    contact = replace(context.contact, run=(low, high))
    return replace(context, record=record, contact=contact, a=blanks[0], b=blanks[1]), tuple(sorted(moved, key=lambda f: f.low))


def _fastened(held: str, module: Any) -> str:
    """What keeps a joint once it is made: as its record says, or as is usual for its kind; '' where nothing does."""
    return getattr(module, "FASTENED", "") if held == "usual" else "" if held == "dry" else held


def _end_words(context: JointContext) -> tuple[str, str]:
    """What the ends of a joint's run are called, in the first board's own words."""
    way = run_way(context)
    axis = run_axis(context.a, way) if way is not None else context.contact.axis
    return FACES[axis] if axis else ("", "")


def _built_joint(context: JointContext, fingers: tuple[Finger, ...], fit: float, copies: list[Copied]) -> BuiltJoint:
    record, contact = context.record, context.contact
    module = REGISTRY[record.kind]
    details = {**context.figures, "thickness_a": context.a.thickness, "thickness_b": context.b.thickness}
    return BuiltJoint(
        context.key,
        record.kind,
        record.a,
        record.b,
        contact.kind,
        contact.axis,
        contact.run,
        fingers,
        fit,
        details,
        holds=module.holds(context) if hasattr(module, "holds") and fingers else "",
        fastened=_fastened(record.held, module),
        across=contact.across,
        form=contact.form,
        ends=_end_words(context),
        sides=FACES[context.a.frame.normal],
        copies=tuple((c.a, c.b) for c in copies),
    )
