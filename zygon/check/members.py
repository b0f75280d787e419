"""Rules of members: ends that meet another and are not cut to it, lines without a member, holes too near an end, edges that a cut leaves too thin."""

from __future__ import annotations

import math
from itertools import combinations
from typing import Any

import numpy as np

from zygon.design.joints import MEMBER_JOINTS
from zygon.design.layout_operations import fresh_key, next_order
from zygon.design.parts.kinds import is_member
from zygon.design.pointer import pointer
from zygon.geometry.motion import Motion
from zygon.making.result.built import Built, MadePart
from zygon.making.result.fault import Fault, Mend
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody, fine_ring
from zygon.making.tube.cuts import ENDS, AtEnd, SideCut
from zygon.making.tube.ends import offers_of
from zygon.making.tube.meeting import MemberMeeting, Straight, meeting_between
from zygon.measure.display import Display, exact_length, format_angle, format_length
from zygon.owner import is_of, read_owner
from zygon.stock.section import Section
from zygon.tolerance import WITHIN

__all__ = ["member_faults"]

#: An edge that a cut leaves thinner than this angle (radians) is gone at the first touch of a torch; common practice.
KNIFE = math.radians(8)
#: Least radius of a bend's centre line, in thicknesses of a solid rod and of a tube; common practice.
ROD, TUBE = 1.0, 2.0
#: Into so many places a bent member is parted, at most, where it is looked whether it runs into itself.
MOST_PLACES = 1500


def member_faults(built: Built) -> list[Fault]:
    """Problems of members, each at its original."""
    members = [p for p in built.made.values() if isinstance(p.body, MemberBody | BentBody) and is_member(p.record)]
    if not built.document.frames:
        return []
    faults = [*_open_ends(built, members), *_bare_lines(built)]
    for part in built.made.values():
        if isinstance(part.body, BentBody) and not part.made_by:
            faults += [*_bends(built, part, part.body), *_runs_into_itself(built, part, part.body)]
    for part in members:
        if not part.made_by and not part.body.empty:
            faults += _holes(built, part)
            if isinstance(part.body, MemberBody):
                faults += _edges(built, part)
    return faults


def _open_ends(built: Built, members: list[MadePart]) -> list[Fault]:
    """Members of which an end meets another, that no joint names."""
    joined = {
        frozenset((built.parts[a].of, built.parts[b].of))
        for j in built.joints.values()
        if j.kind in MEMBER_JOINTS
        for a, b in j.pairs
        if a in built.parts and b in built.parts
    }
    faults, said = list[Fault](), set[frozenset[str]]()
    for one, other in _near(members):
        pair = frozenset((one.of, other.of))
        if (
            one.of == other.of
            or pair in joined
            or pair in said
            or frozenset((one.key, other.key)) in built.in_one_connector
            or (one.made_by and other.made_by)
            or one.record.aside
            or other.record.aside
        ):
            continue
        meeting = _meeting(one, other, built.document.display)
        if meeting is None:
            continue
        short = _short(built, one, other, meeting)
        if short:
            said.add(pair)
            faults.append(short)
            continue
        if meeting.kind not in ("corner", "tee") or _settled(built, one, other, meeting):
            continue
        said.add(pair)
        end, main = (one, other) if meeting.at_one != "inside" else (other, one)
        at = meeting.at_one if meeting.at_one != "inside" else meeting.at_other
        text = f"End {at.upper()} of {end.path} meets {main.path}, and no joint says how it is cut: it stays square"
        faults.append(
            Fault(
                "open_end",
                text,
                "an end that meets another member is cut to it",
                meeting.kind,
                severity="warning",
                part=end.key,
                other=main.key,
                mends=_mends(built, one, other, meeting),
            )
        )
    return faults


def _short(built: Built, one: MadePart, other: MadePart, meeting: MemberMeeting) -> Fault | None:
    """What ends just short of another that its line comes to, as a slip of a figure leaves it; None where it does not."""
    if meeting.kind != "none" or not meeting.reason or not meeting.short:
        return None
    end = one if meeting.short[0] == one.path else other
    main = other if end is one else one
    wide = max(section_of(p).height for p in (one, other))
    if meeting.short[1] > wide:
        return None
    shown = format_length(round(meeting.short[1], 3), built.document.display)
    text = f"{end.path} ends {shown} short of {main.path}, toward which it runs"
    return Fault(
        "ends_short",
        text,
        "an end reaches what it runs to, or stops well clear of it",
        shown,
        "common practice",
        "warning",
        end.key,
        main.key,
        entry=pointer("parts", end.of),
        measure=-meeting.short[1],
    )


def _settled(built: Built, one: MadePart, other: MadePart, meeting: MemberMeeting) -> bool:
    """Whether both ends are cut there already, to others that meet there too."""
    ends = [(p, at) for p, at in ((one, meeting.at_one), (other, meeting.at_other)) if at != "inside"]
    return all(
        isinstance(p.body, MemberBody | BentBody) and any(is_of(c.owner, "joint") for c in p.body.cuts("a" if at == "a" else "b"))
        for p, at in ends
    ) and (meeting.kind == "corner")


def _mends(built: Built, one: MadePart, other: MadePart, meeting: MemberMeeting) -> tuple[Mend, ...]:
    document = built.document
    back = meeting_between(meeting.other, meeting.one, document.display)
    found = []
    for offer in offers_of(meeting, back):
        if offer["refused"]:
            continue
        a, b = (one, other) if offer["order"] == "ab" else (other, one)
        value: dict[str, Any] = {"kind": offer["kind"], "a": a.key, "b": b.key, "order": next_order(document.joints)}
        key = fresh_key(document.joints, f"{a.of}-{b.of}")
        found.append(Mend(offer["title"], [{"op": "add", "path": pointer("joints", key), "value": value}]))
    return tuple(found[:3])


def section_of(part: MadePart) -> Section:
    assert isinstance(part.body, MemberBody | BentBody)
    return part.body.section


def _pieces(part: MadePart) -> list[tuple[MemberBody, Motion, tuple[AtEnd, ...]]]:
    """The straight pieces of a member in the room, with which of their ends are its own."""
    body, place = part.body, Motion(tuple((r[0], r[1], r[2], r[3]) for r in part.matrix[:3]))
    if isinstance(body, MemberBody):
        return [(body, place, ENDS)]
    assert isinstance(body, BentBody)
    last = len(body.runs) - 1
    own: list[tuple[AtEnd, ...]] = [tuple(e for e, at in zip(ENDS, (0, last), strict=True) if k == at) for k in range(last + 1)]
    return [(run, place @ at, ends) for run, (_, _, at), ends in zip(body.runs, body.straights, own, strict=True)]


def _meeting(one: MadePart, other: MadePart, display: Display) -> MemberMeeting | None:
    """How two members meet. Where they do not, what two straight ones lack to it; None where one of them is bent."""
    pieces, others = _pieces(one), _pieces(other)
    lacking = None
    for a, at_a, ends_a in pieces:
        for b, at_b, ends_b in others:
            meeting = meeting_between(
                Straight(one.path, a.section, a.length, at_a), Straight(other.path, b.section, b.length, at_b), display
            )
            if meeting.kind == "none":
                lacking = meeting if len(pieces) == len(others) == 1 else None
            elif meeting.at_one in ("inside", *ends_a) and meeting.at_other in ("inside", *ends_b):
                return meeting
    return lacking


def _near(parts: list[MadePart]) -> list[tuple[MadePart, MadePart]]:
    """The pairs whose boxes meet, or miss one another by less than a member is thick; in order."""
    found = [p for p in parts if not p.body.empty]
    if len(found) < 2:
        return []
    if len(found) < 8:
        return list(combinations(found, 2))
    lows, highs = (np.array([p.reaches[k] for p in found]) for k in (0, 1))
    near = max(max(section_of(p).extents) for p in found)
    meets = (lows[:, None, :] - near <= highs[None, :, :]).all(axis=2)
    first, second = np.nonzero(np.triu(meets & meets.T, 1))
    return [(found[i], found[j]) for i, j in zip(first.tolist(), second.tolist(), strict=True)]


def _bare_lines(built: Built) -> list[Fault]:
    """Lines that nothing lies on."""
    document = built.document
    used = {(p.frame, line) for p in document.parts.values() if is_member(p) for line in p.lines}
    faults = []
    for key, frame in document.frames.items():
        bare = [line for line in frame.lines if (key, line) not in used]
        if bare:
            n = len(bare)
            said = f"{frame.name} has {'a line' if n == 1 else f'{n} lines'} that no member lies on"
            where = pointer("frames", key, "lines", bare[0])
            faults.append(Fault("bare_line", said, "a member lies on every line of a frame", str(n), severity="warning", entry=where))
    return faults


def _holes(built: Built, part: MadePart) -> list[Fault]:
    """Holes that lie nearer to an end than they are wide."""
    display, faults = built.document.display, []
    for body, _, own in _pieces(part):
        starts, stops = body.stops(fine_ring(body.section))
        low, high = float(starts.max()) if "a" in own else -math.inf, float(stops.min()) if "b" in own else math.inf
        for hole in body.holes:
            if hole.section.open:  # what an end gives way to
                continue
            wide = min(hole.section.extents) + 2 * hole.gap
            way = np.array(hole.motion.vector((0.0, 0.0, 1.0)))
            start = np.array(hole.motion.shift)
            flat = float(way[0] ** 2 + way[1] ** 2)
            at = float(start[2] - way[2] * (start[:2] @ way[:2]) / flat) if flat else 0.0
            room = min(at - low, high - at) - max(hole.section.extents) / 2 - hole.gap
            if room < wide / 2:
                shown, least = (format_length(round(x, 2), display) for x in (room, wide / 2))
                said = f"{part.path}: a hole lies {shown} from the end"
                faults.append(
                    Fault(
                        "hole_near_end",
                        said,
                        f"at least half of the hole's width, {least}, is left",
                        shown,
                        "common practice",
                        "warning",
                        part.key,
                        owner=hole.owner,
                        measure=room,
                    )
                )
    return faults


def _bends(built: Built, part: MadePart, body: BentBody) -> list[Fault]:
    """Bends tighter than stock and tool allow, and straights between them too short for the bender to hold."""
    display, where = built.document.display, pointer("parts", part.of, "radius")
    across = max(body.section.extents)
    own = built.values.get(pointer("stocks", part.record.stock, "least_radius"))
    least, source = (
        (own.value, "the stock's least bend")
        if own and not own.stale
        else (across * (TUBE if body.section.wall else ROD), "common practice")
    )
    faults = []
    if body.radius < least - WITHIN:
        shown, most = format_length(round(body.radius, 3), display), format_length(round(least, 3), display)
        said = f"{part.path} is bent to a radius of {shown}, tighter than it allows"
        mend = Mend(
            f"Bend it to {most}",
            [
                {
                    "op": "add",
                    "path": where,
                    "value": {"text": exact_length(least, built.document.unit).strip("()"), "unit": built.document.unit},
                }
            ],
        )
        faults.append(
            Fault(
                "bend_tight",
                said,
                f"a radius of at least {most}",
                shown,
                source,
                "warning",
                part.key,
                entry=where,
                measure=body.radius,
                mends=(mend,),
            )
        )
    straights = [*(b.feed for b in body.path.bends), body.path.end]
    short = min(straights)
    if short < across - WITHIN:
        k = straights.index(short)
        what = (
            "before its first bend"
            if k == 0
            else "behind its last bend"
            if k == len(straights) - 1
            else f"between its bends {k} and {k + 1}"
        )
        shown, most = format_length(round(short, 3), display), format_length(across, display)
        said = f"{part.path} has {shown} that are straight {what}: the bender has nothing to hold"
        faults.append(
            Fault(
                "short_straight",
                said,
                f"at least its own thickness, {most}",
                shown,
                "common practice",
                "warning",
                part.key,
                entry=where,
                measure=short,
            )
        )
    return faults


def _runs_into_itself(built: Built, part: MadePart, body: BentBody) -> list[Fault]:
    """A bent member whose centre line comes nearer to itself than it is thick, told where its runs do not follow one another."""
    display = built.document.display
    places = np.array([s.at for s in body.stations(math.radians(3))])
    steps = np.linalg.norm(np.diff(places, axis=0), axis=1)
    fineness = max(body.section.height / 2, float(steps.sum()) / MOST_PLACES)
    fine = [places[:1]] + [
        a + (b - a) * np.linspace(0, 1, max(2, math.ceil(n / fineness)) + 1)[1:, None]
        for a, b, n in zip(places, places[1:], steps, strict=False)
    ]
    points = np.vstack(fine)
    along = np.concatenate(([0.0], np.cumsum(np.linalg.norm(np.diff(points, axis=0), axis=1))))
    across = min(body.section.extents)
    apart = np.linalg.norm(points[:, None, :] - points[None, :, :], axis=2)
    # what is nearer along it than half round a bend is the bend itself
    far = np.abs(along[:, None] - along[None, :]) > math.pi * body.radius + across
    least = float(np.where(far, apart, np.inf).min())
    if least >= across - WITHIN:
        return []
    shown, most = format_length(round(least, 2), display), format_length(across, display)
    said = f"{part.path} runs into itself: its middle comes as near as {shown} to itself"
    return [
        Fault(
            "runs_into_itself",
            said,
            f"at least its own thickness apart, {most}",
            shown,
            "geometry",
            "error",
            part.key,
            entry=pointer("parts", part.of, "lines"),
            measure=least,
        )
    ]


def _edges(built: Built, part: MadePart) -> list[Fault]:
    """Copes that leave a tube's wall as thin as a knife."""
    body = part.body
    assert isinstance(body, MemberBody)
    wall = body.section.wall
    if not wall or body.section.shape != "round":
        return []
    angles = np.arange(72) * 2 * np.pi / 72
    ring = np.column_stack((np.cos(angles), np.sin(angles)))
    outer, inner = (body.stops(ring * r) for r in (body.section.height / 2, body.section.height / 2 - wall))
    faults = []
    for k, end in enumerate(ENDS):
        cuts = [c for c in body.cuts(end) if isinstance(c, SideCut)]
        if not cuts:
            continue
        thin = float(np.arctan2(wall, np.abs(outer[k] - inner[k])).min())
        if thin < KNIFE:
            shown = format_angle(thin)
            said = f"{part.path}: the cope at end {end.upper()} leaves an edge of {shown}, sharp as a knife"
            faults.append(
                Fault(
                    "knife_edge",
                    said,
                    f"an edge of at least {format_angle(KNIFE)}",
                    shown,
                    "common practice",
                    "warning",
                    part.key,
                    owner=cuts[0].owner,
                    entry=pointer("joints", read_owner(cuts[0].owner).key),
                    measure=thin,
                )
            )
    return faults
