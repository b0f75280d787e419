"""What the copies of a joint do: where a copy of one of its boards stands against a board that stays, its cuts are carried there."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

from zygon.design.pointer import pointer
from zygon.geometry.motion import Motion
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.carry import carrier, carry, replay
from zygon.making.blanks.instances import Instance
from zygon.making.datums.values import Values
from zygon.making.joints.angle import moved_box, same_frame
from zygon.making.joints.base import JointContext
from zygon.making.joints.contact import Reach
from zygon.making.joints.ends import contact_of, diagonal, end_blank
from zygon.making.joints.registry import REGISTRY
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.operations import Operation

__all__ = ["Copied", "JointCopies"]

#: How far (mm) a joint's copy may reach past a board before it counts as missing it.
MISSES = 1.0


@dataclass(frozen=True)
class Copied:
    """One copy of a joint: its motion in the room, the instances at its ends, and which of the ends stay where they are."""

    motion: Motion
    a: str
    b: str
    stays: tuple[str, ...]


def _corners(copies: list[Copied]) -> dict[Motion, Copied]:
    """The joints of copies with copies where each board stays for the other's: the fourth corner of a box. All of it has been cut by then."""
    found = {}
    for one in copies:
        for other in copies:
            if one.stays == ("a",) and other.stays == ("b",):
                motion = (one.motion @ other.motion).rounded()
                if motion == (other.motion @ one.motion).rounded():
                    found[motion] = Copied(one.motion @ other.motion, other.a, one.b, ())
    return found


class JointCopies:
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
        found |= _corners(list(found.values()))
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
        if same_frame(own, other) and diagonal(inner):  # they meet as the joint's own boards do, to the hair
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
        fault = Fault(
            "copy_misses",
            f"{name} does not meet {own.record.name} where the copy of their joint would be",
            "the board that stays is there too",
            severity="warning",
            part=own.record_key,
            other=other.record_key,
            owner=context.owner,
            entry=pointer("joints", context.key),
            mends=(*self._joined_instead(context, motion, copy, stays), *self._doing_without(context, copy, name)),
        )
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
        fault = Fault(
            "copy_misses",
            f"{context.title}: a copy of this joint does not lie along {to.record.name} and is not whole",
            "a joint's copy lies along the board that stays, in its plane",
            severity="warning",
            part=to.key,
            owner=context.owner,
            entry=pointer("joints", context.key),
            mends=mends,
        )
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
