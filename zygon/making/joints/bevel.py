"""The bevelled end: board a runs on to the near face of board b and is cut to lie flat on it, turned about one axis or about two."""

from __future__ import annotations

import math

from zygon.making.joints.angle import cut_off, grow_to, reach_along
from zygon.making.joints.base import JointContext, both_ways, how_they_meet
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Bevel, Cut

__all__ = ["FASTENED", "cuts", "grow", "layout", "offers", "refusal"]

#: The boards stay where they are once it is made.
FASTENED = "glued"
#: At a flatter angle the end would reach out farther than this many thicknesses.
MOST = 20.0


def refusal(contact: Contact) -> str:
    """Why the end of a cannot be cut to the face of b; '' where it can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind != "angle":
        return f"a bevelled end needs boards that meet at an angle, and these {how_they_meet(contact)}: take a butt joint"
    if contact.reach_a.how == "passes":
        return "a bevelled end needs the first board to end at the other's face, and here it runs on past it"
    return ""


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Either board's end on the other's face."""
    return both_ways("bevel", contact, lambda a, b: f"The end of {a} bevelled to lie on {b}", refusal, name_a, name_b)


def grow(context: JointContext) -> None:
    """Board a reaches out to the face."""
    most = MOST * max(context.a.thickness, context.b.thickness)
    growth = grow_to(context.a, context.meeting.face(near=True), most)
    if growth > most:
        context.fault(
            "kind",
            f"{context.a.record.name} would have to reach out {context.shown(growth)} to lie on {context.b.record.name}",
            f"at most {context.shown(most)}",
            context.shown(growth),
            "too_flat",
        )
        context.figures["too_flat"] = 1.0


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The end's length."""
    if "too_flat" in context.figures:
        return ()
    edge = context.meeting.face(near=True)
    context.figures["angle"] = abs(math.atan2(edge.high - edge.low, context.a.thickness))
    return (Finger(*reach_along(context.a, edge.along), context.a.key),)


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Cut | Bevel], list[Cut]]:
    """The end of a, cut to b's face; b is left whole."""
    return (cut_off(context.a, context.meeting.face(near=True), context.owner) if fingers else []), []
