"""Instances: every board in every place that it has, as groups and copies say; a copy shares all that its original is.

A copy's instance key is its original's with every copy that made it: ``side@mirror.1``, ``bar@row.3@ring.2``.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from zygon.design.document import Document, scope_of
from zygon.design.layout import MirrorCopy, origin_of
from zygon.design.layout_operations import other_hand
from zygon.design.pointer import pointer
from zygon.geometry.frame import AXES
from zygon.geometry.motion import IDENTITY, Motion, mirroring
from zygon.limits import MAX_INSTANCES
from zygon.making.blanks.copies import copy_motions
from zygon.making.datums.ids import copy_plane
from zygon.making.datums.placing import own_motion
from zygon.making.datums.values import Values
from zygon.making.result.fault import Fault
from zygon.measure.display import format_length
from zygon.owner import copy_id, group_id, part_id
from zygon.tolerance import CONTACT

__all__ = ["Instance", "instances_of", "spared_by"]


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

    def without(self, document: Document) -> frozenset[str]:
        """The owners of what it does without: said of it, or of what it is a copy of."""
        return spared_by(document, self.key, self.made_by)


def spared_by(document: Document, key: str, made_by: tuple[tuple[str, int], ...]) -> frozenset[str]:
    """The owners ('feature:part:key', 'joint:key', 'bore:key') of what an instance does without."""
    if not made_by:
        return frozenset()
    steps = key.split("@")
    line = {"@".join(steps[:n]) for n in range(2, len(steps) + 1)}
    spared = (document.copies[copy].spared for copy, _ in made_by)
    return frozenset(owner for of_copy in spared for owner, keys in of_copy.items() if line & set(keys))


def instances_of(values: Values) -> dict[str, Instance]:
    """Every instance by key, originals under their part's key and first."""
    found = _contents(values, "", [len(values.boards)])
    found.sort(key=lambda i: bool(i.made_by))
    return {i.key: i for i in found}


def _contents(values: Values, group: str, counted: list[int]) -> list[Instance]:
    """The instances in a group, as seen from within it."""
    document = values.document
    found: list[Instance] = []
    for key, board in values.boards.items():
        if board.group == group:
            try:
                motion = own_motion(values, part_id(key), board)
            except KeyError:
                motion = IDENTITY  # a broken turn, which is said, leaves the board at rest
            found.append(Instance(key, key, board.name, motion, (), ("part", key)))
    for key, record in document.groups.items():
        if record.parent == group and not record.out:
            try:
                place = own_motion(values, group_id(key), record)
            except KeyError:
                place = IDENTITY
            found += [replace(i, motion=place @ i.motion, origin=("group", key)) for i in _contents(values, key, counted)]
    for key, copy in sorted(document.copies.items(), key=lambda kc: (kc[1].order, kc[0])):
        if not copy.out and scope_of(document, copy.of[0]) == group:
            found += _copied(values, key, found, counted)
    return found


def _goes_through(values: Values, copy: MirrorCopy, at: float, i: Instance) -> bool:
    """Whether a mirror's plane goes through a board that stands along it, so that its copy would stand in itself."""
    box = values.box(i.part)
    if box is None or not i.motion.square:
        return False
    k = AXES.index(copy.axis)
    low, high = sorted((i.motion.point(box.low)[k], i.motion.point(box.high)[k]))
    return low + CONTACT < at < high - CONTACT


def _beside_its_plane(values: Values, key: str, copy: MirrorCopy, members: list[Instance]) -> tuple[list[Instance], list[Motion]]:
    """What a mirror can copy, and its motion; a plane that goes through a board is said, and the last good one stands."""
    node = copy_plane(key)
    through = [i for i in members if _goes_through(values, copy, values.solved[node], i)]
    if through:
        shown = format_length(values.solved[node], values.document.display)
        where, name = pointer("copies", key, "at"), through[0].name
        values.fault_entry(
            where,
            "bad_copy",
            f"{copy.name}: its plane at {shown} goes through {name}, which would stand in itself",
            "the plane lies beside what it mirrors",
            shown,
            through[0].part,
            copy_id(key),
        )
        if values.stand(where):
            values.solved[node] = values.values[where].value
    at = values.solved[node]
    return [i for i in members if not _goes_through(values, copy, at, i)], [mirroring(copy.axis, at)]


def _copied(values: Values, key: str, among: list[Instance], counted: list[int]) -> list[Instance]:
    copy = values.document.copies[key]
    wanted = {origin_of(reference) for reference in copy.of}
    members = [i for i in among if i.origin in wanted]
    motions = copy_motions(values, key, len(members), MAX_INSTANCES - counted[0])
    counted[0] += len(members) * len(motions)
    if not members:
        values.faults.append(
            Fault(
                "bad_copy",
                f"{copy.name}: all that it copies is left out or gone",
                "something to copy",
                severity="warning",
                owner=copy_id(key),
                entry=f"/copies/{key}/of",
            )
        )
    if isinstance(copy, MirrorCopy) and motions:
        members, motions = _beside_its_plane(values, key, copy, members)
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
