"""Where things stand: the motions of boards and groups from their turns and moves, once those are worked out."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zygon.design.layout import Group
from zygon.design.parts.kinds import PlacedKind
from zygon.geometry.frame import AXES
from zygon.geometry.motion import IDENTITY, Motion, mirroring, moving, turning
from zygon.making.datums.ids import copy_plane
from zygon.owner import group_id, part_id

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = ["frame_of_group", "handed_motion", "motion_between", "motion_between_groups", "own_motion"]


def own_motion(values: Values, owner: str, record: PlacedKind | Group) -> Motion:
    """The motion of a board's or a group's own turns and moves. KeyError where one is not worked out."""
    motion = IDENTITY
    for key, turn in sorted(record.turns.items(), key=lambda kt: (kt[1].order, kt[0])):
        at = [values.solved[f"turn:{owner}:{key}:{a}"] if a != turn.axis else 0.0 for a in AXES]
        motion = turning(turn.axis, at, values.solved[f"turn:{owner}:{key}:angle"]) @ motion
    if isinstance(record, Group) and record.move:
        motion = moving([values.solved[f"{owner}:move:{a}"] if a in record.move else 0.0 for a in AXES]) @ motion
    return motion


def motion_between(values: Values, part: str, group: str, inside: str = "") -> Motion:
    """From a part at rest to how it stands as seen from a group ('' the room); from within group ``inside`` where the part lies in it."""
    document = values.document
    home = document.parts[part].group
    own = own_motion(values, part_id(part), document.parts[part])  # type: ignore[arg-type]
    return motion_between_groups(values, home, inside if inside and inside in document.within(home) else group) @ own


def motion_between_groups(values: Values, inner: str, outer: str) -> Motion:
    """From inside one group to how it is seen from within another ('' the room)."""
    document = values.document
    own, seen = document.within(inner), document.within(outer)
    common = next((g for g in seen if g in own), "")

    def out_of(groups: list[str]) -> Motion:
        motion = IDENTITY
        for key in groups:
            if key == common:
                break
            motion = own_motion(values, group_id(key), document.groups[key]) @ motion
        return motion

    return out_of(seen).inverse @ out_of(own)


def handed_motion(values: Values, copy: str) -> Motion:
    """The mirror of a copy, within the group that it lies in. KeyError where its plane is not worked out."""
    record = values.document.copies[copy]
    return mirroring(record.axis, values.solved[copy_plane(copy)])


def frame_of_group(values: Values, group: str) -> Motion:
    """From inside a group to the room; as if at rest where its place is broken (which is said)."""
    try:
        return motion_between_groups(values, group, "")
    except KeyError:
        return IDENTITY
