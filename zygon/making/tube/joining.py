"""The members of a design with their ends cut where they are joined to one another."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field, replace

import numpy as np

from zygon.design.joints import BOARD_JOINTS, MEMBER_HOLES, MEMBER_JOINTS, Joint
from zygon.design.parts.kinds import is_member
from zygon.design.pointer import pointer
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion, moving
from zygon.making.blanks.instances import Instance
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.features.bores import Axes, Holes
from zygon.making.result.built import BuiltJoint
from zygon.making.result.fault import Fault, Mend
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import ENDS, AtEnd, EndCut, PlaneCut, SideCut
from zygon.making.tube.drilled import Made, bored_through, drilled_in
from zygon.making.tube.end_work import tips_of
from zygon.making.tube.ends import KINDS_OF_ENDS, EndCuts, Refused, normals_of
from zygon.making.tube.meeting import LEAST_ANGLE, MemberMeeting, Straight
from zygon.making.tube.on_board import BoardPlace, board_at, end_on_board
from zygon.making.tube.pieces import Pieces, bent_again, ends_of, meeting_of, part_of, pieces_of, straights_at
from zygon.measure.display import Display, format_length
from zygon.owner import joint_id, read_owner
from zygon.tolerance import EPS, WITHIN

__all__ = ["Bodies", "JoinedMembers", "join_members", "on_board"]

#: What the triangles of an end are called that no joint cuts.
OWN: dict[AtEnd, str] = {"a": "face_b", "b": "face_a"}

Bodies = dict[str, tuple[MemberBody | BentBody, Motion]]


@dataclass(frozen=True)
class _Wanted:
    """A cut of an end, by which other member it is made and at which end of that one; ``handed`` is -1 where that is a mirror image."""

    cut: EndCut
    main: str
    at: AtEnd | None
    handed: int


@dataclass
class _Cuts:
    """What is cut of one member, by end."""

    ends: dict[AtEnd, list[_Wanted]] = field(default_factory=lambda: {"a": [], "b": []})
    runs_on: dict[AtEnd, list[PlaneCut]] = field(default_factory=lambda: {"a": [], "b": []})
    holes: list[SideCut] = field(default_factory=list)
    marks: list[SideCut] = field(default_factory=list)


@dataclass(frozen=True)
class JoinedMembers:
    """The members by part key, each with its body and the motion that takes it to its rest, and the joints between them."""

    bodies: Bodies
    joints: dict[str, BuiltJoint]


def _own_end(values: Values, key: str, body: MemberBody, motion: Motion, end: AtEnd) -> tuple[EndCut, ...]:
    """The plane in which an end is cut that no joint cuts, square to an axis at rest; none where it is square to the member."""
    member = values.boards[key]
    assert is_member(member)
    axis = member.end_a if end == "a" else member.end_b
    if axis == "square":
        return ()
    normal = motion.inverse.vector([1.0 if a == axis else 0.0 for a in AXES])
    if abs(normal[2]) < math.sin(LEAST_ANGLE):
        said = f"{member.name} runs along the plane in which its end {end.upper()} is to be cut"
        rule = f"at least {math.degrees(LEAST_ANGLE):g}° between the cut and the member"
        values.fault_entry(pointer("parts", key, f"end_{end}"), "bad_end", said, rule, axis, key)
        return ()
    if abs(normal[2]) > 1 - EPS:
        return ()
    out = 1.0 if (normal[2] > 0) == (end == "b") else -1.0
    return (PlaneCut((0.0, 0.0, body.length if end == "b" else 0.0), (normal[0] * out, normal[1] * out, normal[2] * out), OWN[end]),)


def join_members(values: Values, instances: dict[str, Instance], axes: Axes, holes: Holes) -> JoinedMembers:
    """All members with their joints, and what is drilled in them; ``axes`` are those of the bores, ``holes`` what their sets ask for. What is refused is a fault, and its members stay as they are."""
    pieces = pieces_of(values)
    members = pieces.bodies
    cuts = {key: _Cuts() for key in members}
    for piece, how, hole in (*_drilled(values, pieces), *bored_through(values, pieces, instances, axes, holes)):
        (cuts[piece].holes if how == "cut" else cuts[piece].marks).append(hole)
    joints: dict[str, BuiltJoint] = {}
    _on_boards(values, instances, pieces, cuts, joints)
    pairs: set[frozenset[str]] = set()
    records = sorted(((k, j) for k, j in values.document.joints.items() if j.kind in MEMBER_JOINTS), key=lambda kj: (kj[1].order, kj[0]))
    for key, record in records:
        if record.out:
            continue
        ones, others = (straights_at(end, pieces, instances) for end in (record.a, record.b))
        if not ones or not others:
            _lost(values, key, record, instances)
            continue
        one, other, meeting = meeting_of(ones, others, pieces, values.document.display)
        pair = frozenset((record.a, record.b))
        try:
            if pair in pairs:
                raise Refused("these two are joined already")
            done = _made(values, key, record, meeting)
        except Refused as error:
            joints[key] = BuiltJoint(key, record.kind, record.a, record.b, meeting.kind, refused=str(error))
            said, rule = f"{meeting.one.name}–{meeting.other.name}: {error}", "the members meet as the joint needs it"
            where = pointer("joints", key)
            values.fault_entry(where, "joint_refused", said, rule, meeting.kind, instances[record.a].part, joint_id(key))
            continue
        pairs.add(pair)
        _keep(cuts, one, other, meeting, done)
        joints[key] = _built(key, record, meeting, done, instances)
    made: dict[str, MemberBody] = {}
    for key in members:
        _make(values, key, pieces, cuts, made, [])
        if made[key].empty and (part_of(key) == key or made[key].at_a or made[key].at_b):
            part = part_of(key)
            said = f"{values.boards[part].name} is too short for the cuts at its ends, which meet"
            values.faults.append(Fault("too_short", said, "a member is longer than its ends take away", part=part))
    bodies: Bodies = {k: (made[k], motion) for k, (_, motion) in members.items() if part_of(k) == k}
    for key, (body, motion) in pieces.bent.items():
        bodies[key] = _bent(values, key, body, [made[p] for p in pieces.of[key]]), motion
    return JoinedMembers({k: bodies[k] for k in pieces.of}, joints)


def _drilled(values: Values, pieces: Pieces) -> Iterator[tuple[str, Made, SideCut]]:
    """The piece and what is drilled in it by itself; on a bent member holes are placed along the bar before it is bent."""
    for key, own in pieces.of.items():
        if key not in pieces.bent:
            for how, hole in drilled_in(values, key, pieces.bodies[key][0]):
                yield key, how, hole
            continue
        body = pieces.bent[key][0]
        for how, hole in drilled_in(values, key, MemberBody(body.section, body.length)):
            w, half = hole.motion.shift[2], hole.section.extents[0] / 2
            k = next((k for k, (low, high, _) in enumerate(body.straights) if low + half <= w + WITHIN and w <= high - half + WITHIN), None)
            if k is None:
                shown = format_length(round(w, 3))
                runs = ", ".join(f"{format_length(round(low, 2))} to {format_length(round(high, 2))}" for low, high, _ in body.straights)
                where = pointer("parts", key, "holes", read_owner(hole.owner).key, "off")
                said = f"{values.boards[key].name}: a hole at {shown} lies in a bend"
                values.fault_entry(where, "bad_hole", said, f"holes lie in straight runs: {runs}", shown, key)
                continue
            yield own[k], how, replace(hole, motion=moving((0.0, 0.0, -body.straights[k][0])) @ hole.motion)


def _bent(values: Values, key: str, body: BentBody, runs: list[MemberBody]) -> BentBody:
    """A bent member of its runs as they were cut, or as it was where they come apart."""
    if any(run.empty for run in runs if run.at_a or run.at_b):
        return body
    again = bent_again(body, runs)
    straight = (0.0 if again.at_a else runs[0].length, 0.0 if again.at_b else runs[-1].length)
    return replace(again, tips=tips_of(values, key, body.section, straight))


def _on_boards(
    values: Values, instances: dict[str, Instance], pieces: Pieces, cuts: dict[str, _Cuts], joints: dict[str, BuiltJoint]
) -> None:
    """Ends that are cut in the faces of boards."""
    pairs: set[frozenset[str]] = set()
    for key, record in sorted(values.document.joints.items(), key=lambda kj: (kj[1].order, kj[0])):
        if record.kind not in BOARD_JOINTS or record.out:
            continue
        ones, board = straights_at(record.a, pieces, instances), board_at(values, record.b, instances)
        if not ones or board is None:
            _lost(values, key, record, instances)
            continue
        pair = frozenset((record.a, record.b))
        try:
            if pair in pairs:
                raise Refused("these two are joined already")
            gap = _gap(values, key, record, f"{ones[0][1].name}–{board.name}")
            piece, one, end, cut = on_board(ones, board, pieces, gap, joint_id(key), values.document.display)
        except Refused as error:
            joints[key] = BuiltJoint(key, record.kind, record.a, record.b, "none", refused=str(error))
            values.fault_entry(
                pointer("joints", key),
                "joint_refused",
                f"{ones[0][1].name}–{board.name}: {error}",
                "the member comes to the board",
                "none",
                instances[record.a].part,
                joint_id(key),
            )
            continue
        pairs.add(pair)
        # nothing of a board is cut at another end, so that it needs no order there
        cuts[piece].ends[end].append(_Wanted(cut, "", None, 1))
        looks = one.place.vector([-x for x in cut.normal])
        joints[key] = BuiltJoint(
            key,
            record.kind,
            record.a,
            record.b,
            "tee",
            fastened=_kept_by(record),
            copies=_copies(record, instances),
            normals=((round(looks[0], 4) + 0.0, round(looks[1], 4) + 0.0, round(looks[2], 4) + 0.0),),
        )


def on_board(
    ones: list[tuple[str, Straight]], board: BoardPlace, pieces: Pieces, gap: float, owner: str, display: Display
) -> tuple[str, Straight, AtEnd, PlaneCut]:
    """The piece of a member that ends on a board, and its cut there. Raises Refused, with why its nearest piece does not, where none does."""
    why = ""
    for piece, one in ones:
        try:
            end, cut = end_on_board(one, board, gap, owner, display)
        except Refused as error:
            why = why or str(error)
            continue
        if end in ends_of(pieces, piece):
            return piece, one, end, cut
        why = f"{one.name} comes to {board.name} where it is bent"
    raise Refused(why)


def _make(values: Values, key: str, pieces: Pieces, cuts: dict[str, _Cuts], made: dict[str, MemberBody], waiting: list[str]) -> None:
    """A member's body, after those of the mains that end where they cut it; where these go round in a ring, the last is taken without its end."""
    (body, motion), part = pieces.bodies[key], part_of(key)
    ends: dict[AtEnd, tuple[EndCut, ...]] = {}
    for end in ENDS:
        ends[end] = ()
        if end not in ends_of(pieces, key):
            continue
        found: list[EndCut] = []
        for wanted in cuts[key].ends[end]:
            cut, main, at = wanted.cut, wanted.main, wanted.at
            # a bent member is cut to mains without end, as they are from where they lie
            straight = part == key and part_of(main) == main
            if (
                straight
                and isinstance(cut, SideCut)
                and at
                and main not in (*waiting, key)
                and any(w.main != key for w in cuts[main].ends[at])
            ):
                if main not in made:
                    _make(values, main, pieces, cuts, made, [*waiting, key])
                cut = replace(cut, within=made[main].mirrored if wanted.handed < 0 else made[main])
            found.append(cut)
        ends[end] = tuple(found) or _runs_on(body, end, cuts[key]) or _own_end(values, part, body, motion, end)
    square = tuple(body.length if not ends[e] else 0.0 for e in ENDS)
    tips = tips_of(values, key, body.section, (square[0], square[1])) if part == key else (None, None)
    made[key] = replace(body, tips=tips, at_a=ends["a"], at_b=ends["b"], holes=tuple(cuts[key].holes), marks=tuple(cuts[key].marks))


def _made(values: Values, key: str, record: Joint, meeting: MemberMeeting) -> EndCuts:
    if meeting.kind == "none":
        raise Refused(meeting.reason)
    value = _gap(values, key, record, f"{meeting.one.name}–{meeting.other.name}")
    return KINDS_OF_ENDS[record.kind](meeting, value, joint_id(key))


def _gap(values: Values, key: str, record: Joint, between: str) -> float:
    """The gap or fit of a joint in mm, which is 0 or more."""
    name = "fit" if record.kind in MEMBER_HOLES else "gap"
    where = pointer("joints", key, name)
    stock = values.boards[record.a.partition("@")[0]].stock
    value = values.read(getattr(record, name), where, "length", EntryScope(values, stock=stock), owner=joint_id(key))
    if value < 0:
        said, rule = f"{between}: a {name} of {format_length(value)}", f"a {name} is 0 or more"
        values.fault_entry(where, "joint_value", said, rule, format_length(value), owner=joint_id(key))
        value = 0.0
    return value


def _kept_by(record: Joint) -> str:
    """What keeps a joint of a member once it is made."""
    return "welded" if record.held == "usual" else "" if record.held == "dry" else record.held


def _keep(cuts: dict[str, _Cuts], one: str, other: str, meeting: MemberMeeting, done: EndCuts) -> None:
    at_one, at_other = (next((e for e in ENDS if e == at), None) for at in (meeting.at_one, meeting.at_other))
    if done.cut_one and at_one:
        cuts[one].ends[at_one].append(_Wanted(done.cut_one, other, at_other, meeting.motion.handed))
    if done.cut_other and at_other:
        cuts[other].ends[at_other].append(_Wanted(done.cut_other, one, at_one, meeting.motion.handed))
    if done.runs_on and at_other:
        cuts[other].runs_on[at_other].append(done.runs_on)
    if done.hole:
        cuts[other].holes.append(done.hole)
    if done.notch_one:
        cuts[one].holes.append(done.notch_one)


def _runs_on(body: MemberBody, end: AtEnd, cuts: _Cuts) -> tuple[EndCut, ...]:
    """The plane to which an end runs on beyond its line, where no joint cuts it."""
    middle = np.zeros((1, 2))

    def far(cut: PlaneCut) -> float:
        w = float(cut.heights(middle, end)[0])
        return w - body.length if end == "b" else -w

    reaching = [c for c in cuts.runs_on[end] if far(c) > 0]
    return (max(reaching, key=far),) if reaching else ()


def _built(key: str, record: Joint, meeting: MemberMeeting, done: EndCuts, instances: dict[str, Instance]) -> BuiltJoint:
    details = {"angle": meeting.angle, "offset": meeting.apart}
    return BuiltJoint(
        key,
        record.kind,
        record.a,
        record.b,
        meeting.kind,
        details=details,
        fastened=_kept_by(record),
        copies=_copies(record, instances),
        normals=normals_of(meeting, done),
    )


def _copies(record: Joint, instances: dict[str, Instance]) -> tuple[tuple[str, str], ...]:
    """The pairs of copies that stand to each other as the two do that are joined."""
    a, b = instances[record.a], instances[record.b]
    stands = a.motion.inverse @ b.motion
    found = []
    others = [i for i in instances.values() if i.part == b.part]
    for one in instances.values():
        if one.part != a.part or one.key == a.key:
            continue
        other = next((i for i in others if (one.motion.inverse @ i.motion).same(stands)), None)
        if other is not None:
            found.append((one.key, other.key))
    return tuple(found)


def _lost(values: Values, key: str, record: Joint, instances: dict[str, Instance]) -> None:
    """A joint to a copy that is gone is said; one to a part that is left out waits for it, and a broken part is said already."""
    for end, reference in (("a", record.a), ("b", record.b)):
        part = reference.partition("@")[0]
        if "@" in reference and reference not in instances and part in values.boards:
            drop = Mend("Remove the joint", [{"op": "remove", "path": pointer("joints", key)}])
            name = values.boards[part].name
            values.faults.append(
                Fault(
                    "lost_copy",
                    f"A joint wants a copy of {name} that is not there any more ({reference.partition('@')[2]})",
                    "both members of a joint are there",
                    reference,
                    part=part,
                    owner=joint_id(key),
                    entry=pointer("joints", key, end),
                    mends=(drop,),
                )
            )
