"""The straight pieces of which members are: a straight member is one, a bent one has one for each of its straight runs. Joints, holes and bores are between
pieces; what was cut of them makes the members again.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from zygon.design.parts.kinds import is_member
from zygon.geometry.motion import Motion, moving
from zygon.making.blanks.instances import Instance
from zygon.making.datums.values import Values
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import AtEnd, EndCut, PlaneCut
from zygon.making.tube.meeting import MemberMeeting, Straight, meeting_between
from zygon.measure.display import Display

__all__ = ["Members", "Pieces", "bent_again", "ends_of", "meeting_of", "part_of", "pieces_of", "straights_at"]

Members = dict[str, tuple[MemberBody, Motion]]


@dataclass(frozen=True)
class Pieces:
    """Pieces cut off square, by key, each with the motion that takes it to its rest; the keys of each part's pieces from A to B; and the bent members."""

    bodies: Members
    of: dict[str, tuple[str, ...]]
    bent: dict[str, tuple[BentBody, Motion]]


def part_of(piece: str) -> str:
    """The key of the part that a piece is of."""
    return piece.partition("#")[0]


def pieces_of(values: Values) -> Pieces:
    """The pieces of every member that has a place."""
    bodies: Members = {}
    of: dict[str, tuple[str, ...]] = {}
    bent: dict[str, tuple[BentBody, Motion]] = {}
    for key, part in values.boards.items():
        section = values.section_of(key)
        if not (is_member(part) and section and values.box(key) is not None):
            continue
        lying = values.lying(key)
        if not lying.points:
            bodies[key], of[key] = (MemberBody(section, lying.length), lying.motion), (key,)
            continue
        body = BentBody(section, lying.points, lying.radius)
        bent[key] = body, lying.motion
        of[key] = tuple(f"{key}#{k}" for k in range(len(body.runs)))
        for piece, run, (_, _, place) in zip(of[key], body.runs, body.straights, strict=True):
            bodies[piece] = run, lying.motion @ place
    return Pieces(bodies, of, bent)


def ends_of(pieces: Pieces, piece: str) -> tuple[AtEnd, ...]:
    """Which ends of a piece are ends of its member; the others go on into a bend."""
    own = pieces.of[part_of(piece)]
    return (*(("a",) if piece == own[0] else ()), *(("b",) if piece == own[-1] else ()))


def straights_at(key: str, pieces: Pieces, instances: Mapping[str, Instance]) -> list[tuple[str, Straight]]:
    """The pieces of a member or of one of its copies in the room, cut off square; none where it has no place."""
    instance = instances.get(key)
    if instance is None or instance.part not in pieces.of:
        return []
    found = []
    for piece in pieces.of[instance.part]:
        body, rest = pieces.bodies[piece]
        found.append((piece, Straight(instance.name, body.section, body.length, instance.motion @ rest)))
    return found


def meeting_of(
    one: Sequence[tuple[str, Straight]], other: Sequence[tuple[str, Straight]], pieces: Pieces, display: Display
) -> tuple[str, str, MemberMeeting]:
    """Which pieces of two members meet, and how; the first two, with the reason, where none do."""
    nearest: tuple[str, str, MemberMeeting] | None = None
    for a, first in one:
        for b, second in other:
            meeting = meeting_between(first, second, display)
            real = all(at == "inside" or at in ends_of(pieces, p) for p, at in ((a, meeting.at_one), (b, meeting.at_other)))
            if meeting.kind != "none" and real:
                return a, b, meeting
            if meeting.kind != "none":
                meeting = replace(meeting, kind="none", reason=f"{first.name} and {second.name} meet where one of them is bent", short=None)
            if nearest is None or (meeting.short and not nearest[2].short):
                nearest = a, b, meeting
    assert nearest is not None
    return nearest


def bent_again(body: BentBody, runs: Sequence[MemberBody]) -> BentBody:
    """A bent member of pieces that were cut and drilled; its line runs to the long points of its ends."""
    first, last = runs[0], runs[-1]
    points, shift = [np.array(p) for p in body.points], 0.0
    if first.at_a:
        shift = first.span[0]
        points[0] = points[0] + np.array(body.straights[0][2].vector((0.0, 0.0, 1.0))) * shift
    if last.at_b:
        points[-1] = points[-1] + np.array(body.straights[-1][2].vector((0.0, 0.0, 1.0))) * (last.span[1] - last.length)
    back = moving((0.0, 0.0, -shift))

    def along(cuts: Sequence[EndCut], k: int) -> tuple:
        """Cuts of a piece that begins elsewhere now."""
        if k or not shift:
            return tuple(cuts)
        return tuple(
            replace(c, point=(c.point[0], c.point[1], c.point[2] - shift))
            if isinstance(c, PlaneCut)
            else replace(c, motion=back @ c.motion)
            for c in cuts
        )

    drilled, marked = (tuple(along(some, k) for k, some in enumerate(of)) for of in ([r.holes for r in runs], [r.marks for r in runs]))
    return replace(
        body,
        points=tuple((round(float(x), 7), round(float(y), 7), round(float(z), 7)) for x, y, z in points),
        at_a=along(first.at_a, 0),
        at_b=along(last.at_b, len(runs) - 1),
        drilled=drilled if any(drilled) else (),
        marked=marked if any(marked) else (),
    )
