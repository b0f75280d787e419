"""The mitre: two edges that meet at an angle are both bevelled to the plane half way between the boards, whatever the angle."""

from __future__ import annotations

import math

from zygon.making.joints.angle import Edge, Meeting, cut_off, grow_to, reach_along
from zygon.making.joints.base import JointContext, how_they_meet
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Bevel, Cut
from zygon.tolerance import WITHIN

__all__ = ["FASTENED", "cuts", "grow", "layout", "offers", "refusal"]

#: The boards stay where they are once it is made.
FASTENED = "glued"
#: A mitre at a flatter angle would reach out farther than this many thicknesses.
MOST = 12.0


def refusal(contact: Contact) -> str:
    """Why the edges cannot be mitred; '' where they can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind == "corner":
        return ""
    if contact.kind != "angle":
        return f"a mitre needs two edges that meet at an angle, and these boards {how_they_meet(contact)}"
    if "passes" in (contact.reach_a.how, contact.reach_b.how):
        return "a mitre needs both boards to end where they meet, and here one runs on"
    return ""


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """The one way this joint is made."""
    return [{"kind": "mitre", "order": "ab", "title": f"Mitre {name_a}–{name_b}", "refused": refusal(contact)}]


def mitred(meeting: Meeting) -> Edge | None:
    """Where the plane through the outer and the inner arris cuts board a, outward from its middle; None where the boards lie in one line."""
    t, b = meeting.a.thickness, meeting.b
    inner_a = t if meeting.middle_of_b()[2] > t / 2 else 0.0
    inner_b = b.thickness if meeting.turned_round().middle_of_b()[2] > b.thickness / 2 else 0.0
    n = meeting.q.inverse.rows[2]
    m = math.hypot(n[0], n[1])
    if m < WITHIN:
        return None
    way = (n[0] / m, n[1] / m)
    lines = {}
    for wa, wb in ((inner_a, inner_b), (t - inner_a, b.thickness - inner_b)):
        lines[wa] = (wb - n[3] - n[2] * wa) / m
    edge = Edge(way, lines[0.0], lines[t])
    u0, v0, u1, v1 = meeting.a.bounds()
    middle = way[0] * (u0 + u1) / 2 + way[1] * (v0 + v1) / 2
    return edge if middle < (edge.low + edge.high) / 2 else edge.turned()


def grow(context: JointContext) -> None:
    """Both boards reach out to the mitre's plane."""
    for meeting in (context.meeting, context.meeting.turned_round()):
        edge = mitred(meeting)
        most = MOST * max(context.a.thickness, context.b.thickness)
        growth = grow_to(meeting.a, edge, most) if edge else most + 1
        if growth > most:
            context.fault(
                "kind",
                f"the boards meet too flat for a mitre: it would reach out {context.shown(growth)}",
                f"at most {context.shown(most)}",
                context.shown(growth),
                "too_flat",
                part=meeting.a.key,
            )
            context.figures["too_flat"] = 1.0


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The mitred length, along board a's arris."""
    edge = mitred(context.meeting)
    if edge is None or "too_flat" in context.figures:
        return ()
    context.figures["angle"] = abs(math.atan2(edge.high - edge.low, context.a.thickness))
    return (Finger(*reach_along(context.a, edge.along), context.a.key),)


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Cut | Bevel], list[Cut | Bevel]]:
    """A bevel on each board."""
    if not fingers:
        return [], []
    found = []
    for meeting in (context.meeting, context.meeting.turned_round()):
        edge = mitred(meeting)
        found.append(cut_off(meeting.a, edge, context.owner) if edge else [])
    return found[0], found[1]
