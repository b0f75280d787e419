"""Rules of connectors: sockets with nothing in them, members with no socket, what does not go in or hangs loose, members too short for their sockets."""

from __future__ import annotations

import math

import numpy as np

from zygon.design.layout_operations import fresh_key
from zygon.design.parts.kinds import is_connector, is_member
from zygon.design.pointer import pointer
from zygon.making.connector.body import ConnectorBody, Sleeve
from zygon.making.connector.seating import ASKEW, BESIDE, Run, clear_of
from zygon.making.result.built import Built, MadePart
from zygon.making.result.fault import Fault, Mend
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.measure.display import format_angle, format_length
from zygon.tolerance import WITHIN

__all__ = ["connector_faults"]

#: More room than this (mm) about a tube and its socket does not hold it straight; a press fit bites no more than the second; common practice.
LOOSE, PRESSED = 1.0, 0.1


def connector_faults(built: Built) -> list[Fault]:
    """Problems of connectors and of what lies in them, each at its original."""
    found = []
    for part in built.made.values():
        body = part.body
        if isinstance(body, ConnectorBody) and not part.made_by:
            found += [*_sockets(built, part, body), *_left(built, part), *_walls(built, part, body)]
    return [*found, *_twice(built), *_short(built)]


def _shown(built: Built, mm: float) -> str:
    return format_length(round(mm, 3), built.document.display)


def _number(built: Built, part: MadePart, socket: str) -> int:
    """A socket's number as it is shown."""
    record = part.record
    assert is_connector(record)
    return sorted(record.sockets, key=lambda k: (record.sockets[k].order, k)).index(socket) + 1


def _sockets(built: Built, part: MadePart, body: ConnectorBody) -> list[Fault]:
    """Sockets with nothing in them, and sizes that do not go together."""
    record, faults = part.record, list[Fault]()
    assert is_connector(record)
    seats = {s.socket: s for s in built.seats if s.connector == part.key}
    for sleeve in body.sleeves:
        where, n = pointer("parts", part.key, "sockets", sleeve.key), _number(built, part, sleeve.key)
        seat = seats.get(sleeve.key)
        if seat is None:
            mends = (Mend("Take the socket away", [{"op": "remove", "path": where}]),) if len(body.sleeves) > 1 else ()
            said = f"Nothing lies in socket {n} of {part.path}"
            faults.append(
                Fault(
                    "socket_empty",
                    said,
                    "each socket takes a member",
                    severity="warning",
                    part=part.key,
                    entry=f"{where}/toward",
                    mends=mends,
                )
            )
            continue
        member = built.made[seat.member]
        tight = -PRESSED if record.held == "pressed" else 0.0
        if tight - WITHIN <= seat.gap <= LOOSE + WITHIN:
            continue
        wide = sleeve.inner.height
        if sleeve.inside:
            how = "does not go in" if seat.gap < tight else "is loose in it"
            said = f"{member.path} is {_shown(built, wide + seat.gap)} wide inside and spigot {n} of {part.path} {_shown(built, wide)}: it {how}"
            rule = f"a spigot is from {_shown(built, tight)} to {_shown(built, LOOSE)} narrower than its tube's bore"
        else:
            how = "does not go in" if seat.gap < tight else "hangs loose in it"
            said = f"{member.path} is {_shown(built, wide - seat.gap)} across and socket {n} of {part.path} {_shown(built, wide)}: it {how}"
            rule = f"a socket is from {_shown(built, tight)} to {_shown(built, LOOSE)} wider than its tube"
        across = record.sockets[sleeve.key].across is not None
        own_size = (Mend("Make the socket for what lies in it", [{"op": "remove", "path": f"{where}/across"}]),) if across else ()
        faults.append(
            Fault(
                "socket_size",
                said,
                rule,
                _shown(built, seat.gap),
                "common practice",
                "error" if seat.gap < tight else "warning",
                part.key,
                member.key,
                entry=f"{where}/{'across' if across else 'fit'}",
                mends=own_size,
            )
        )
    return faults


def _left(built: Built, part: MadePart) -> list[Fault]:
    """Members that meet in a connector's point, and for which it has no socket."""
    record, faults = part.record, list[Fault]()
    assert is_connector(record)
    seating = built.seatings[part.key]
    for run in seating.left:
        member, where = built.parts[run.part], pointer("parts", part.key, "sockets")
        aside = float(np.linalg.norm(run.beside))
        if aside > BESIDE:
            if run.at == "through":
                continue
            said = f"{member.path} ends {_shown(built, aside)} beside the middle of {part.path}, and lies in none of its sockets"
            mend = Mend(
                "Lay it on its line by its middle", [{"op": "replace", "path": pointer("parts", run.part, "lies"), "value": "middle"}]
            )
            faults.append(
                Fault(
                    "no_socket",
                    said,
                    "a member lies in a socket by its middle",
                    _shown(built, aside),
                    severity="warning",
                    part=part.key,
                    other=member.key,
                    entry=where,
                    mends=(mend,),
                )
            )
            continue
        same = next((s for s in seating.seats if float(s.run.way @ run.way) > math.cos(ASKEW)), None)
        if same is not None:
            said = f"{built.parts[same.run.part].path} and {member.path} both come to socket {_number(built, part, same.socket)} of {part.path}"
            faults.append(Fault("two_in_socket", said, "one member lies in a socket", part=part.key, other=member.key, entry=where))
            continue
        said = _unmet(built, part, run, member.path)
        faults.append(
            Fault(
                "no_socket",
                said,
                "each member that meets in a connector lies in a socket of it",
                part=part.key,
                other=member.key,
                entry=where,
                mends=_sockets_for(built, part, run),
            )
        )
    return faults


def _unmet(built: Built, part: MadePart, run: Run, name: str) -> str:
    """Why a member lies in no socket."""
    body, turned = part.body, built.seatings[part.key].turned
    assert isinstance(body, ConnectorBody)
    if run.at == "through":
        return f"{name} runs through {part.path}, and no socket of it goes through that way"
    off = min(math.acos(min(1.0, max(-1.0, float(turned @ np.array(s.place.vector((0.0, 0.0, 1.0))) @ run.way)))) for s in body.sleeves)
    return f"{name} ends at {part.path}, and no socket of it looks that way: the nearest is {format_angle(off)} off"


def _sockets_for(built: Built, part: MadePart, run: Run) -> tuple[Mend, ...]:
    """A socket more, which looks along the member's line."""
    record, member = part.record, built.document.parts[run.part]
    assert is_connector(record) and is_member(member)
    frame = built.document.frames[record.frame]
    on = [k for k in member.lines if record.point in (frame.lines[k].a, frame.lines[k].b) or k == frame.points[record.point].on]
    key = fresh_key(record.sockets, "s1")
    like = next(iter(record.sockets.values())).model_dump(mode="json", exclude_none=True)
    value = {"line": (on or member.lines)[0], "through": run.at == "through", "depth": like["depth"], "order": len(record.sockets)}
    return (Mend("Give it a socket along that line", [{"op": "add", "path": pointer("parts", part.key, "sockets", key), "value": value}]),)


def _walls(built: Built, part: MadePart, body: ConnectorBody) -> list[Fault]:
    """Sockets whose holes run into one another, as stand-offs were said too short."""
    record, faults = part.record, list[Fault]()
    assert is_connector(record)
    for sleeve in body.sleeves:
        said = record.sockets[sleeve.key].out
        if said is None or sleeve.through:
            continue
        back = sleeve.out - sleeve.deep
        for other in body.sleeves:
            least = _clear(sleeve, other) if other is not sleeve else 0.0
            if back >= least - WITHIN:
                continue
            n, m = _number(built, part, sleeve.key), _number(built, part, other.key)
            shown, most = _shown(built, sleeve.out), _shown(built, math.ceil((least + sleeve.deep) * 10) / 10)
            text = f"Sockets {n} and {m} of {part.path} run into one another: the mouth of socket {n} is {shown} from the middle"
            where = pointer("parts", part.key, "sockets", sleeve.key, "out")
            mend = Mend("Let it stand off as far as it needs", [{"op": "remove", "path": where}])
            faults.append(
                Fault(
                    "sockets_meet",
                    text,
                    f"at least {most} from the middle",
                    shown,
                    "geometry",
                    "warning",
                    part.key,
                    entry=where,
                    measure=sleeve.out,
                    mends=(mend,),
                )
            )
            break
    return faults


def _clear(one: Sleeve, other: Sleeve) -> float:
    """How far from the middle the hole of one ends where it just does not run into the other's."""
    if one.place.shift != other.place.shift:
        return 0.0
    ways = [np.array(s.place.vector((0.0, 0.0, 1.0))) for s in (one, other)]
    halves = [max((s.outer if s.inside else s.inner).extents) / 2 for s in (one, other)]
    return clear_of(ways[0], halves[0], ways[1], halves[1], 0.0, through=other.through)


def _twice(built: Built) -> list[Fault]:
    """Points on which more than one connector stands."""
    first, faults = dict[tuple[str, str], str](), list[Fault]()
    for key, record in built.document.placed().items():
        if not is_connector(record):
            continue
        at = (record.frame, record.point)
        if at in first:
            said = f"{built.document.parts[first[at]].name} and {record.name} stand on one point"
            faults.append(
                Fault("two_connectors", said, "one connector on a point", part=key, other=first[at], entry=pointer("parts", key, "point"))
            )
        first.setdefault(at, key)
    return faults


def _short(built: Built) -> list[Fault]:
    """Members of which nothing is left between the mouths of their sockets."""
    of: dict[str, list[float]] = {}
    for s in built.seats:
        body = built.made[s.connector].body
        if s.at != "through" and isinstance(body, ConnectorBody) and "@" not in s.member:
            of.setdefault(s.member, []).append(body.of(s.socket).deep)
    faults = []
    for key, deeps in of.items():
        body = built.made[key].body
        length = body.length if isinstance(body, MemberBody | BentBody) else 0.0
        room = length - sum(deeps)
        if len(deeps) > 1 and room < -WITHIN:
            said = f"{built.parts[key].path} is {_shown(built, length)} long and its sockets are {_shown(built, sum(deeps))} deep together"
            faults.append(
                Fault(
                    "short_for_sockets", said, "a member is longer than its sockets are deep", _shown(built, room), part=key, measure=room
                )
            )
    return faults
