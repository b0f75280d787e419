"""Rules of what is welded: gaps that a weld does not bridge, and holes where the seam will be."""

from __future__ import annotations

import math

import numpy as np

from zygon.design.joints import BOARD_JOINTS, MEMBER_HOLES, MEMBER_JOINTS
from zygon.design.layout_operations import entry_of
from zygon.design.pointer import pointer
from zygon.making.result.built import Built, BuiltJoint, MadePart
from zygon.making.result.fault import Fault, Mend
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import SideCut
from zygon.measure.display import exact_length, format_length
from zygon.owner import is_of, joint_id
from zygon.tolerance import WITHIN

__all__ = ["weld_faults"]

#: A weld bridges a gap as wide as the thinner wall is thick, and no more than this (mm); common practice.
WIDEST = 3.0
#: A hole looks the way of a seam within so much (the cosine of 60 degrees).
SAME_SIDE = 0.5


def weld_faults(built: Built) -> list[Fault]:
    """Problems of the welded joints of members, each at its original."""
    faults = []
    for joint in built.joints.values():
        if joint.kind not in MEMBER_JOINTS - MEMBER_HOLES | BOARD_JOINTS or joint.refused or joint.fastened != "welded":
            continue
        one, other = built.made.get(joint.a), built.made.get(joint.b)
        if one is None or other is None:
            continue
        faults += [*_gap(built, joint, one, other), *_holes(built, joint, one, other)]
    return faults


def _thick(part: MadePart) -> float:
    """Of the wall of a member, mm; of a solid bar or a board all of it."""
    body = part.body
    if isinstance(body, MemberBody | BentBody):
        return body.section.wall or min(body.section.extents)
    return min(high - low for low, high in zip(*part.reaches, strict=True))


def _gap(built: Built, joint: BuiltJoint, one: MadePart, other: MadePart) -> list[Fault]:
    where = pointer("joints", joint.key, "gap")
    value = built.values.get(where)
    most = min(_thick(one), _thick(other), WIDEST)
    if value is None or value.stale or value.value <= most + WITHIN:
        return []
    display = built.document.display
    shown, limit = format_length(round(value.value, 3), display), format_length(round(most, 3), display)
    narrower = Mend(
        f"Leave {limit}", [{"op": "replace", "path": where, "value": entry_of(built.document, exact_length(most, built.document.unit))}]
    )
    said = f"{one.path}–{other.path}: a gap of {shown} is too wide to weld"
    return [
        Fault(
            "weld_gap",
            said,
            f"at most as wide as the thinner wall, {limit}",
            shown,
            "common practice",
            "warning",
            one.key,
            other.key,
            owner=joint_id(joint.key),
            entry=where,
            mends=(narrower,),
            measure=-value.value,
        )
    ]


def _holes(built: Built, joint: BuiltJoint, one: MadePart, other: MadePart) -> list[Fault]:
    """Holes in the side that an end is welded on, nearer to the seam than half their width."""
    main, end = other.body, one.body
    if not isinstance(main, MemberBody) or not isinstance(end, MemberBody) or joint.contact != "tee":
        return []
    m, own = np.array(other.matrix), np.array(one.matrix)
    axis = (m[:3, :3].T @ own[:3, 2], m[:3, :3].T @ (own[:3, 3] - m[:3, 3]))
    way, start = axis
    across = way - np.array((0.0, 0.0, way[2]))
    slope = float(np.linalg.norm(across))
    # the end of its axis that lies nearer to the main's, and how far the seam reaches along the main
    tip = min((start, start + way * end.length), key=lambda p: float(np.linalg.norm(p[:2])))
    half = max(end.section.extents) / 2 / max(slope, WITHIN)
    looks = np.array((start + way * end.length / 2)[:2])
    looks = looks / max(float(np.linalg.norm(looks)), WITHIN)
    display, faults = built.document.display, []
    for hole in main.holes:
        if is_of(hole.owner, "joint") or not _faces(hole, looks):
            continue
        to, at = np.array(hole.motion.vector((0.0, 0.0, 1.0))), np.array(hole.motion.shift)
        flat = float(to[0] ** 2 + to[1] ** 2)
        w = float(at[2] - to[2] * (at[:2] @ to[:2]) / flat) if flat else math.inf
        wide = min(hole.section.extents) + 2 * hole.gap
        room = abs(w - float(tip[2])) - half - max(hole.section.extents) / 2 - hole.gap
        if room < wide / 2:
            shown, least = (format_length(round(x, 2), display) for x in (max(room, 0.0), wide / 2))
            said = f"{other.path}: a hole lies {shown} from where {one.path} is welded on"
            faults.append(
                Fault(
                    "hole_near_weld",
                    said,
                    f"at least half of the hole's width, {least}, is left",
                    shown,
                    "common practice",
                    "warning",
                    other.key,
                    one.key,
                    owner=hole.owner,
                    measure=room,
                )
            )
    return faults


def _faces(hole: SideCut, looks: np.ndarray) -> bool:
    """Whether a hole opens on the side of a member that looks a way (2,)."""
    to = np.array(hole.motion.vector((0.0, 0.0, 1.0)))[:2]
    share = float(to @ looks) / max(float(np.linalg.norm(to)), WITHIN)
    return share > SAME_SIDE if hole.begins is not None else abs(share) > SAME_SIDE
