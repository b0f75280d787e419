"""Instances: every board in every place that it has, as groups and copies say; a copy shares all that its original is.

A copy's instance key is its original's with every copy that made it: ``side@mirror.1``, ``bar@row.3@ring.2``.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from zygon.build.built import Fault
from zygon.build.copies import copy_motions
from zygon.build.placing import own_motion
from zygon.build.values import Values
from zygon.design.document import Document, scope_of
from zygon.design.layout import MirrorCopy, origin_of
from zygon.design.layout_operations import other_hand
from zygon.design.limits import MAX_INSTANCES
from zygon.design.patch import pointer
from zygon.geometry.frame import AXES
from zygon.geometry.motion import IDENTITY, Motion
from zygon.geometry.tolerance import CONTACT
from zygon.measure.display import format_length

__all__ = ["Instance", "instances_of", "originals"]


@dataclass(frozen=True)
class Instance:
    """One board in one place: ``motion`` from its rest; ``made_by`` the copies that made it, each with its number, from the inside out."""

    key: str
    part: str
    name: str
    motion: Motion
    made_by: tuple[tuple[str, int], ...] = ()
    #: what it is in the group at hand: ('part'|'group'|'copy', key)
    origin: tuple[str, str] = field(default=("", ""), compare=False)


def originals(document: Document, of: list[str]) -> list[str]:
    """The keys of the boards that references name, in groups and copies too, in order and once each."""
    found: dict[str, None] = {}
    waiting = list(of)
    seen: set[str] = set()
    while waiting:
        reference = waiting.pop(0)
        if reference in seen:
            continue
        seen.add(reference)
        kind, key = origin_of(reference)
        if kind == "part":
            found[key] = None
        elif kind == "copy" and key in document.copies:
            waiting += document.copies[key].of
        elif kind == "group":
            found |= dict.fromkeys(k for k, b in document.boards().items() if key in document.within(b.group))
    return [k for k in found if k in document.boards()]


def instances_of(values: Values) -> dict[str, Instance]:
    """Every instance by key, originals under their part's key and first."""
    found = _contents(values, "", [0])
    found.sort(key=lambda i: bool(i.made_by))
    return {i.key: i for i in found}


def _contents(values: Values, group: str, counted: list[int]) -> list[Instance]:
    """The instances in a group, as seen from within it."""
    document = values.document
    found: list[Instance] = []
    for key, board in values.boards.items():
        if board.group == group:
            try:
                motion = own_motion(values, f"part:{key}", board)
            except KeyError:
                motion = IDENTITY  # a broken turn, which is said, leaves the board at rest
            found.append(Instance(key, key, board.name, motion, (), ("part", key)))
    for key, record in document.groups.items():
        if record.parent == group and not record.out:
            try:
                place = own_motion(values, f"group:{key}", record)
            except KeyError:
                place = IDENTITY
            found += [replace(i, motion=place @ i.motion, origin=("group", key)) for i in _contents(values, key, counted)]
    for key, copy in sorted(document.copies.items(), key=lambda kc: (kc[1].order, kc[0])):
        if not copy.out and scope_of(document, copy.of[0]) == group:
            found += _copied(values, key, found, counted)
    return found


def _through(values: Values, key: str, copy: MirrorCopy, i: Instance) -> bool:
    """Whether a mirror's plane goes through a board that stands along it, so that its copy would stand in itself; that is said."""
    box = values.box(i.part)
    at = values.solved.get(f"copy:{key}:at")
    if box is None or at is None or not i.motion.square:
        return False
    k = AXES.index(copy.axis)
    low, high = sorted((i.motion.point(box.low)[k], i.motion.point(box.high)[k]))
    if not low + CONTACT < at < high - CONTACT:
        return False
    shown = format_length(at, values.document.display)
    values.fault_entry(pointer("copies", key, "at"), "bad_copy", f"{copy.name}: its plane at {shown} goes through {i.name}, which would stand in itself",
                       "the plane lies beside what it mirrors", shown, i.part, f"copy:{key}")  # fmt: skip
    return True


def _copied(values: Values, key: str, among: list[Instance], counted: list[int]) -> list[Instance]:
    copy = values.document.copies[key]
    wanted = {origin_of(reference) for reference in copy.of}
    members = [i for i in among if i.origin in wanted]
    motions = copy_motions(values, key)
    counted[0] += len(members) * len(motions)
    if counted[0] > MAX_INSTANCES:
        values.faults.append(
            Fault("bad_copy", f"{copy.name}: with it the design would have more than {MAX_INSTANCES} parts in their places", f"at most {MAX_INSTANCES}",
                  str(counted[0]), owner=f"copy:{key}", entry=f"/copies/{key}")
        )  # fmt: skip
        counted[0] -= len(members) * len(motions)
        return []
    if not members:
        values.faults.append(
            Fault("bad_copy", f"{copy.name}: all that it copies is left out or gone", "something to copy", severity="warning", owner=f"copy:{key}",
                  entry=f"/copies/{key}/of")
        )  # fmt: skip
    if isinstance(copy, MirrorCopy):
        members = [i for i in members if not _through(values, key, copy, i)]
    made = []
    count: dict[str, int] = {}
    for n, motion in enumerate(motions, 1):
        for i in members:
            board = values.boards[i.part].name
            if isinstance(copy, MirrorCopy) and not i.made_by:
                name = copy.names.get(i.part) or other_hand(board)
            else:
                count[i.part] = count.get(i.part, sum(x.part == i.part for x in among)) + 1
                name = f"{board}.{count[i.part]}"
            made.append(Instance(f"{i.key}@{key}.{n}", i.part, name, motion @ i.motion, (*i.made_by, (key, n)), ("copy", key)))
    return made
