"""Members and frames as plain data for screens."""

from __future__ import annotations

import math

from zygon.design.parts.kinds import is_member
from zygon.exchange.tubes import cut_words, needs_template, over_bend, turn_between
from zygon.making.connector.body import ConnectorBody
from zygon.making.result.built import Built, MadePart
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import ENDS, AtEnd
from zygon.owner import is_of, read_owner
from zygon.screen.shown.design import ShownConnector, ShownEnd, ShownFrame, ShownMember, ShownRodBend, ShownSocket

__all__ = ["bent_data", "connector_data", "frame_data", "member_data"]


def member_data(built: Built, part: MadePart, body: MemberBody) -> ShownMember:
    """What is told of a member beside."""
    return {"short": body.short, "ends": _ends(built, part, body), "turn": turn_between(body), "laid_flat": "whole" in needs_template(part)}


def _ends(built: Built, part: MadePart, body: MemberBody | BentBody) -> list[ShownEnd]:
    templates, found = needs_template(part), list[ShownEnd]()
    for end in ENDS:
        saw = body.saw(end)
        found.append(
            {
                "off": saw.angle,
                "toward": saw.toward,
                "words": cut_words(built, part, end),
                "template": end in templates,
                "gives_way": _gives_way(built, part, body, end),
            }
        )
    return found


def _gives_way(built: Built, part: MadePart, body: MemberBody | BentBody, end: AtEnd) -> bool:
    """Whether an end is cut by another member that ends there too; one that runs on past others is cut by none."""
    joints = [built.joints.get(read_owner(cut.owner).key) for cut in body.cuts(end) if is_of(cut.owner, "joint")]
    return any(j and j.contact == "corner" and (j.kind == "member_mitre" or j.a.partition("@")[0] == part.of) for j in joints)


def bent_data(built: Built, part: MadePart, body: BentBody) -> ShownMember:
    """What is told of a bent member beside."""
    over = over_bend(built, part)
    bends: list[ShownRodBend] = [
        {"feed": b.feed, "turn": math.radians(b.turn), "bend": math.radians(b.bend), "over": math.radians(b.bend * over), "at": at}
        for b, at in zip(body.path.bends, body.path.marks, strict=True)
    ]
    return {"short": body.length, "ends": _ends(built, part, body), "turn": None, "laid_flat": False, "bends": bends, "then": body.path.end}


def connector_data(built: Built, part: MadePart, body: ConnectorBody) -> ShownConnector:
    """What is told of a connector beside."""
    seats = {s.socket: s for s in built.seats if s.connector == part.key}
    sockets: list[ShownSocket] = []
    for n, sleeve in enumerate(body.sleeves, 1):
        seat = seats.get(sleeve.key)
        sockets.append(
            {
                "key": sleeve.key,
                "number": n,
                "member": seat.member if seat else "",
                "at": seat.at if seat else "",
                "deep": sleeve.deep,
                "stand_off": sleeve.out,
                "gap": seat.gap if seat else None,
            }
        )
    return {"sockets": sockets, "ways": built.seatings[part.of].ways if part.of in built.seatings else 1}


def frame_data(built: Built, key: str) -> ShownFrame:
    """A frame with its points in the room and what lies on its lines."""
    frame = built.document.frames[key]
    on: dict[str, list[str]] = {}
    for part, record in built.document.parts.items():
        if is_member(record) and record.frame == key:
            for line in record.lines:
                on.setdefault(line, []).append(part)
    numbered = sorted(frame.points, key=lambda k: (frame.points[k].order, k))
    places = built.points.get(key, {})
    return {
        "key": key,
        "name": frame.name,
        "points": [{"key": k, "number": n, "at": places[k]} for n, k in enumerate(numbered, 1) if k in places],
        "lines": [{"key": k, "a": ln.a, "b": ln.b, "members": on.get(k, [])} for k, ln in frame.lines.items()],
    }
