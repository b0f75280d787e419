"""The housed board: one board runs whole through a notch in another's edge, and sits on its floor."""

from __future__ import annotations

from zygon.geometry.contour import rectangle
from zygon.making.joints.base import OVERSHOOT, JointContext, both_ways, how_they_meet
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut
from zygon.tolerance import CONTACT

__all__ = ["cuts", "layout", "offers", "refusal"]


def refusal(contact: Contact) -> str:
    """Why a cannot take b whole in a notch of its edge; '' where it can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind not in ("cross", "tee", "corner"):
        return f"a housed board stands square to the other, and these {how_they_meet(contact)}"
    if contact.reach_a.how != "passes":
        return "the notched board runs on to both sides of the notch, and here it ends there"
    if contact.reach_b.how == "near":
        return "the housed board runs through the notch, and here it ends at the near face: run it on to the far one"
    if "a" in contact.covered:
        return "the housed board is as wide there as the other, so that its notch would cut that in two: take a cross lap"
    return ""


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Once each way round: either may be the one that stays whole."""
    return both_ways("notch", contact, lambda one, other: f"{other} whole in a notch of {one}", refusal, name_a, name_b)


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The stretch of the crossing that b takes up, whole."""
    axis = context.contact.axis
    (a0, a1), (b0, b1) = context.a.extents.span(axis), context.b.extents.span(axis)
    side = _open(context)
    floor = b0 if side == "high" else b1
    if (side == "high" and b0 <= a0 + CONTACT) or (side == "low" and b1 >= a1 - CONTACT):
        context.fault("side", f"nothing is left of {context.a.record.name} under the notch", "a notch open at the other edge", side)
        return ()
    context.figures["depth"] = a1 - floor if side == "high" else floor - a0
    low, high = (floor, min(b1, a1)) if side == "high" else (max(b0, a0), floor)
    return (Finger(low, high, context.b.key),)


def _open(context: JointContext) -> str:
    """The edge at which the notch is open: the one that is said, or that b lies nearer to."""
    if context.record.side != "near":
        return str(context.record.side)
    axis = context.contact.axis
    (a0, a1), (b0, b1) = context.a.extents.span(axis), context.b.extents.span(axis)
    return "low" if b0 - a0 < a1 - b1 - CONTACT else "high"


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Cut], list[Cut]]:
    """The notch in a, as wide as b is thick and the fit, from its floor out past the edge; b stays whole."""
    if not fingers:
        return [], []
    axis, other = context.contact.axis, context.b
    low, high = other.span.span(other.frame.normal)
    a0, a1 = context.a.extents.span(axis)
    along = (fingers[0].low, a1 + OVERSHOOT) if _open(context) == "high" else (a0 - OVERSHOOT, fingers[0].high)
    spans = {other.frame.normal: (low - fit / 2, high + fit / 2), axis: along}
    return [Cut(rectangle(*context.a.local(spans), context.owner), context.owner)], []
