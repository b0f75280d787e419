"""Joints worked out whole: contacts, runs, patterns, corners, cuts; and what each joint's copies do to the boards that are not copied with it.

A joint is built once. Where a copy of one of its boards stands against a board that stays, the joint's cuts are carried there by the copy's
motion; boards that were copied share their original's cuts as they are. So it does not matter which was made first, copy or joint.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Any

from zygon.design.patch import pointer
from zygon.geometry.frame import AXES, FACES
from zygon.geometry.motion import Motion
from zygon.making.blanks.blank import Blank, blank_of
from zygon.making.blanks.carry import carrier, carry, replay
from zygon.making.blanks.instances import Instance
from zygon.making.datums.values import Values
from zygon.making.joints.angle import find_angle, moved_box, same_frame
from zygon.making.joints.askew import run_axis, run_way
from zygon.making.joints.base import JointContext
from zygon.making.joints.contact import Contact, Reach, find_contact
from zygon.making.joints.registry import REGISTRY
from zygon.making.joints.three_boards import settle_corners
from zygon.making.result.built import BuiltJoint, Finger
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.operations import Operation
from zygon.owner import joint_id

__all__ = ["Joined", "contact_of", "end_blank", "join"]

#: How far (mm) a joint's copy may reach past a board before it counts as missing it.
MISSES = 1.0


@dataclass(frozen=True)
class Copied:
    """One copy of a joint: its motion in the room, the instances at its ends, and which of the ends stay where they are."""

    motion: Motion
    a: str
    b: str
    stays: tuple[str, ...]


@dataclass
class Joined:
    """The joints of a design, the operations by part key, and the joints that stand."""

    joints: dict[str, BuiltJoint]
    operations: dict[str, list[Operation]]
    live: dict[str, JointContext]


def contact_of(values: Values, a: Blank, b: Blank) -> Contact:
    """How two blanks meet, by their spans; boards that are turned to each other by their planes."""
    if not same_frame(a, b):
        return find_angle(a, b, values.document.display)
    return find_contact(a.span, a.frame.normal, a.record.name, b.span, b.frame.normal, b.record.name, values.document.display)


def end_blank(reference: str, blanks: dict[str, Blank], instances: dict[str, Instance]) -> Blank | None:
    """The blank at a joint's end: a part's own, or that of one of its copies in the copy's place; None where it is not there."""
    if reference in blanks:
        return blanks[reference]
    instance = instances.get(reference)
    if instance is None or instance.part not in blanks:
        return None
    own = blanks[instance.part]
    motion = instance.motion @ instances[instance.part].motion.inverse  # in the room, from the original to the copy
    inner = own.place.inverse @ motion @ own.place
    if _diagonal(inner):  # it lies along the same axes
        return blank_of(reference, own.record, moved_box(own.span, inner), own.place)
    return blank_of(reference, own.record, own.span, motion @ own.place)


def join(values: Values, blanks: dict[str, Blank], instances: dict[str, Instance], nominal: bool) -> Joined:
    """Every joint of a design. What is refused or missing is a fault, and its boards stay as they are."""
    contexts = _contexts(values, blanks, instances)
    joined = Joined({}, {}, {})
    _refused(values, contexts, joined)
    work = _Work(values, blanks, instances, joined.live)
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
            values.faults.append(Fault("lost_copy", f"A joint wants a copy of {name} that is not there any more ({reference.partition('@')[2]})",
                                       "both boards of a joint are there", reference, part=part, owner=joint_id(key), entry=pointer("joints", key, field),
                                       mends=(drop,)))  # fmt: skip


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
            values.fault_entry(pointer("joints", key), "joint_refused", f"{context.title}: {refused}", "the boards meet as the joint needs it",
                               context.contact.kind, context.a.record_key, context.owner)  # fmt: skip
        else:
            pairs.add(pair)
            joined.live[key] = context


class _Work:
    """The joints being built, with their copies; changes of blanks are passed on to where copies of the joint stand."""

    def __init__(self, values: Values, blanks: dict[str, Blank], instances: dict[str, Instance], live: dict[str, JointContext]) -> None:
        self.values, self.blanks, self.instances, self.live = values, blanks, instances, live
        self.by_part: dict[str, list[Instance]] = {}
        self.by_place: dict[tuple[str, tuple[int, ...]], Instance] = {}
        for i in instances.values():
            self.by_part.setdefault(i.part, []).append(i)
            for place in _places(i.motion):
                self.by_place[i.part, place] = i
        self.copies = {k: self._copies_of(c) for k, c in live.items()}

    def _copies_of(self, context: JointContext) -> list[Copied]:
        """The joint's copies, by the instances of both its boards."""
        ends = [self.instances[r] for r in (context.record.a, context.record.b)]
        if all(len(self.by_part[e.part]) == 1 for e in ends):
            return []
        motions: list[Motion] = []
        for end in ends:
            back = end.motion.inverse
            motions += [i.motion @ back for i in self.by_part[end.part] if i.key != end.key]
        if len(motions) <= 12:  # copies of copies, such as the fourth corner of a box that is mirrored both ways
            motions += [x @ y for x in motions for y in motions]
        found: dict[Motion, Copied] = {}
        missing: list[tuple[Motion, str]] = []
        for motion in motions:
            rounded = motion.rounded()
            if rounded in found or motion.plain:
                continue
            at = [self._instance_at(e.part, motion @ e.motion) for e in ends]
            if at == [None, None] or (None in at and any(e.made_by for e in ends)):
                continue  # a joint from one to the next ends with the last
            keys = [i.key if i else e.key for i, e in zip(at, ends, strict=True)]
            stays = tuple(side for side, i in zip(("a", "b"), at, strict=True) if i is None)
            if stays and not self._stands_there(context, motion, stays[0]):
                missing.append((motion, stays[0]))
                continue
            found[rounded] = Copied(motion, keys[0], keys[1], stays)
        for copy in list(found.values()):
            for side in copy.stays:  # a copy of the board that stays has a joint there too
                found |= self._shared(ends, copy, side)
        for motion, side in missing:
            if motion.rounded() not in found:
                self._say_missing(context, motion, side)
        pairs: dict[frozenset[str], Copied] = {}
        for copy in found.values():
            if {copy.a, copy.b} != {context.record.a, context.record.b}:
                pairs.setdefault(frozenset((copy.a, copy.b)), copy)
        return list(pairs.values())

    def _shared(self, ends: list[Instance], copy: Copied, side: str) -> dict[Motion, Copied]:
        """The joints that copies of the board that stays have in the same place as it; nothing has to be cut for them any more."""
        own, other = (ends[0], ends[1]) if side == "a" else (ends[1], ends[0])
        found = {}
        for i in self.by_part[own.part]:
            motion = i.motion @ own.motion.inverse @ copy.motion
            partner = self._instance_at(other.part, motion @ other.motion)
            if i.key != own.key and partner is not None:
                keys = (i.key, partner.key) if side == "a" else (partner.key, i.key)
                found[motion.rounded()] = Copied(motion, keys[0], keys[1], ())
        return found

    def _instance_at(self, part: str, motion: Motion) -> Instance | None:
        if len(self.by_part[part]) < 4:
            return next((i for i in self.by_part[part] if i.motion.same(motion)), None)
        found = (self.by_place.get((part, place)) for place in _places(motion))
        return next((i for i in found if i is not None and i.motion.same(motion)), None)

    def _stands_there(self, context: JointContext, motion: Motion, stays: str) -> bool:
        """Whether the board that stays is where the joint's copy needs it, and the copy does not do without the joint."""
        own, other = (context.a, context.b) if stays == "a" else (context.b, context.a)
        by = carrier(own, self.blanks[own.record_key], motion)
        if by is None or self._spared(context, motion, other):
            return False
        inner = own.place.inverse @ motion @ own.place
        if same_frame(own, other) and _diagonal(inner):  # they meet as the joint's own boards do, to the hair
            moved = replace(other, span=moved_box(other.span, inner))
            ends = (own, moved) if stays == "a" else (moved, own)
            there = contact_of(self.values, *ends)
            c = context.contact
            return (there.kind, there.reach_a.how, there.reach_b.how) == (c.kind, c.reach_a.how, c.reach_b.how)
        x, y = by.point(_meeting_place(own, other))
        u0, v0, u1, v1 = own.bounds()
        return u0 - MISSES <= x <= u1 + MISSES and v0 - MISSES <= y <= v1 + MISSES

    def _say_missing(self, context: JointContext, motion: Motion, stays: str) -> None:
        own, other = (context.a, context.b) if stays == "a" else (context.b, context.a)
        if self._spared(context, motion, other):
            return
        copy = self._copy_of(other, motion)
        name = (copy.name if copy else other.record.name).replace("_", " ")
        fault = Fault("copy_misses", f"{name} does not meet {own.record.name} where the copy of their joint would be",
                      "the board that stays is there too", severity="warning", part=own.record_key, other=other.record_key, owner=context.owner,
                      entry=pointer("joints", context.key), mends=(*self._joined_instead(context, motion, copy, stays), *self._doing_without(context, copy, name)))  # fmt: skip
        if fault not in self.values.faults:  # two ways to one place miss once
            self.values.faults.append(fault)

    def _joined_instead(self, context: JointContext, motion: Motion, copy: Instance | None, stays: str) -> tuple[Mend, ...]:
        """The mend by which a copy is joined to what stands where the board that stays would have to, and meets it in the same way."""
        own, other = (context.a, context.b) if stays == "a" else (context.b, context.a)
        blank = end_blank(copy.key, self.blanks, self.instances) if copy is not None and copy.made_by else None
        if copy is None or blank is None:
            return ()
        joined = {frozenset((j.a, j.b)) for j in self.values.document.joints.values()}
        c = context.contact
        u, v = _meeting_place(own, other)
        place = (motion @ own.in_room).point((u, v, own.thickness / 2))
        for key in self.instances:
            to = end_blank(key, self.blanks, self.instances)
            if to is None or to.record_key in (own.record_key, other.record_key) or frozenset((key, copy.key)) in joined:
                continue
            at, (u0, v0, u1, v1) = to.in_room.inverse.point(place), to.bounds()
            if not all(a - MISSES <= x <= b + MISSES for x, a, b in zip(at, (u0, v0, 0.0), (u1, v1, to.thickness), strict=True)):
                continue
            there = contact_of(self.values, *((to, blank) if stays == "a" else (blank, to)))
            if (there.kind, there.reach_a.how, there.reach_b.how) != (c.kind, c.reach_a.how, c.reach_b.how):
                continue
            ends = {"a": key, "b": copy.key} if stays == "a" else {"a": copy.key, "b": key}
            joints = self.values.document.joints
            order = max(j.order for j in joints.values()) + 1
            record = {**context.record.model_dump(mode="json", exclude_none=True), **ends, "order": order}
            fresh = next(k for n in range(1, 9999) if (k := f"{context.key[:30]}_{n}") not in joints)
            (spare,) = self._doing_without(context, copy, "")
            names = [i.name.replace("_", " ") for i in (copy, self.instances[key])]
            patch = [*spare.patch, {"op": "add", "path": pointer("joints", fresh), "value": record}]
            return (Mend(f"Join {names[0]} to {names[1]} instead", patch),)
        return ()

    def _doing_without(self, context: JointContext, copy: Instance | None, name: str) -> tuple[Mend, ...]:
        """The mend by which a copy does without a joint, where it has no place for it."""
        if copy is None or not copy.made_by:
            return ()
        made = copy.made_by[-1][0]
        spared = self.values.document.copies[made].spared.get(context.owner, [])
        where = pointer("copies", made, "spared", context.owner)
        return (Mend(f"Leave {name} without this joint", [{"op": "add", "path": where, "value": [*spared, copy.key]}]),)

    def _spared(self, context: JointContext, motion: Motion, other: Blank) -> bool:
        copy = self._copy_of(other, motion)
        return copy is not None and context.owner in copy.without(self.values.document)

    def _copy_of(self, other: Blank, motion: Motion) -> Instance | None:
        """The instance that a motion makes of the board at a joint's end."""
        return self._instance_at(other.record_key, motion @ self.instances[other.key].motion)

    def watched(self, key: str, work: Callable):
        """Does a joint's work on its blanks, and passes its changes on."""
        context = self.live[key]
        marks = [(b, len(b.log)) for b in (context.a, context.b)]
        context.a.by = context.b.by = context.owner
        result = work()
        for side, (blank, n) in zip(("a", "b"), marks, strict=True):
            changes = blank.log[n:]
            if changes:
                for motion, own in self._to(context, side, blank):
                    by = carrier(blank, own, motion)
                    done = [replay(change, blank, own, motion, by) for change in changes] if by else [False]
                    if False in done:
                        self._say_askew(context, own, side, motion)
        return result

    def _say_askew(self, context: JointContext, to: Blank, side: str, motion: Motion) -> None:
        copy = self._copy_of(context.b if side == "a" else context.a, motion)
        mends = self._doing_without(context, copy, copy.name.replace("_", " ")) if copy else ()
        fault = Fault("copy_misses", f"{context.title}: a copy of this joint does not lie along {to.record.name} and is not whole",
                      "a joint's copy lies along the board that stays, in its plane", severity="warning", part=to.key, owner=context.owner,
                      entry=pointer("joints", context.key), mends=mends)  # fmt: skip
        if fault not in self.values.faults:
            self.values.faults.append(fault)

    def _to(self, context: JointContext, side: str, blank: Blank) -> Iterable[tuple[Motion, Blank]]:
        """By which motions, and to which blank, what is done at one end of a joint is carried."""
        own = self.blanks[blank.record_key]
        if own is not blank:  # the joint is to a copy, which is as its original is
            yield self.instances[own.key].motion @ self.instances[blank.key].motion.inverse, own
            return
        for copy in self.copies[context.key]:
            if side in copy.stays:
                yield copy.motion, own

    def keep(self, key: str, made: tuple[list[Operation], list[Operation]], operations: dict[str, list[Operation]]) -> None:
        """Adds a joint's operations to its boards, and those that its copies need."""
        context = self.live[key]
        for side, blank, found in (("a", context.a, made[0]), ("b", context.b, made[1])):
            own = self.blanks[blank.record_key]
            target = operations.setdefault(own.key, [])
            if own is blank:
                target.extend(found)
            for motion, to in self._to(context, side, blank):
                by = carrier(blank, to, motion)
                carried = [carry(o, by, blank, to) for o in found] if by else [None]
                target.extend(o for o in carried if o is not None)
                if None in carried:
                    self._say_askew(context, to, side, motion)

    def reach(self) -> None:
        """Blanks that reach as far as the joints need them to; the joints with their runs taken from those."""
        for key, context in self.live.items():
            module = REGISTRY[context.record.kind]
            if hasattr(module, "lengthen"):
                self.watched(key, lambda m=module, c=context: m.lengthen(c.contact, c.a, c.b))
        for key, context in self.live.items():
            module = REGISTRY[context.record.kind]
            if hasattr(module, "grow"):
                self.watched(key, lambda m=module, c=context: m.grow(c))
        self.live = {k: _lengthened(c) for k, c in self.live.items()}
        for key, context in self.live.items():
            if hasattr(REGISTRY[context.record.kind], "lengthen"):
                self.watched(key, lambda c=context: _add_corners(c))


def _places(motion: Motion) -> list[tuple[int, ...]]:
    """Two coarse addresses of a motion, on nets that lie apart, so that noise never moves it out of both."""
    values = [x for r in motion.rows for x in r]
    return [tuple(math.floor(x * 1e3 + off) for x in values) for off in (0.25, 0.75)]


def _diagonal(motion: Motion) -> bool:
    """Whether every axis stays along itself."""
    return all(abs(motion.rows[i][j]) < 1e-9 for i in range(3) for j in range(3) if i != j)


def _meeting_place(own: Blank, other: Blank) -> tuple[float, float]:
    """About where two boards meet, in the (u, v) of the first: the middle of what their boxes have in common there."""
    q = own.in_room.inverse @ other.in_room
    u0, v0, u1, v1 = other.bounds()
    corners = [q.point((u, v, w)) for u in (u0, u1) for v in (v0, v1) for w in (0.0, other.thickness)]
    bounds = own.bounds()
    place = []
    for i in (0, 1):
        low, high = max(min(c[i] for c in corners), bounds[i]), min(max(c[i] for c in corners), bounds[i + 2])
        place.append((low + high) / 2)
    return place[0], place[1]


def _settled(work: _Work, patterns: dict[str, tuple[Finger, ...]]) -> dict[str, tuple[Finger, ...]]:
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
    k = next((i for i in range(3) if abs(direction[i]) > 1 - 1e-9), None)
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


def _lengthened(context: JointContext) -> JointContext:
    """The joint with its run taken from the lengthened blanks; how the boards meet stays as the spans say."""
    c = context.contact
    if c.kind in ("edge", "lap", "faces", "angle", "angle_lap"):
        return context
    a, b = context.a.extents.span(c.axis), context.b.extents.span(c.axis)
    return replace(context, contact=replace(c, run=(max(a[0], b[0]), min(a[1], b[1]))))


def _add_corners(context: JointContext) -> None:
    """Each blank that ends at the near face grows through the other's slab, along the joint's run only."""
    c = context.contact
    ends: tuple[tuple[Blank, Reach, Blank], ...] = ((context.a, c.reach_a, context.b), (context.b, c.reach_b, context.a))
    for blank, reach, other in ends:
        if reach.how == "near":
            blank.add({other.frame.normal: other.span.span(other.frame.normal), c.axis: c.run}, "edge")


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
    return BuiltJoint(context.key, record.kind, record.a, record.b, contact.kind, contact.axis, contact.run, fingers, fit, details,
                      holds=module.holds(context) if hasattr(module, "holds") and fingers else "", fastened=_fastened(record.held, module),
                      across=contact.across, form=contact.form, ends=_end_words(context), sides=FACES[context.a.frame.normal], copies=tuple((c.a, c.b) for c in copies))  # fmt: skip
