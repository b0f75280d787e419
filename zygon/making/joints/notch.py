"""The housed board: one board runs whole through a notch in another's edge, and sits on its floor; its end may be dovetailed there."""

from __future__ import annotations

from zygon.geometry.contour import Contour, polygon, rectangle
from zygon.making.joints.base import OVERSHOOT, JointContext, both_ways, how_they_meet, slope_of
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Bevel, Cut, Operation
from zygon.tolerance import CONTACT

__all__ = ["cuts", "layout", "offers", "refusal"]


#: A dovetail's root keeps at least this share of what is housed (common practice).
ROOT = 0.4


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


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """The notch in a, as wide as b is thick and the fit, from its floor out past the edge; b stays whole, but for the slope of a dovetailed floor."""
    if not fingers:
        return [], []
    axis, other = context.contact.axis, context.b
    low, high = other.span.span(other.frame.normal)
    a0, a1 = context.a.extents.span(axis)
    across = (low - fit / 2, high + fit / 2)

    def notch(floor: float) -> Contour:
        along = (floor, a1 + OVERSHOOT) if _open(context) == "high" else (a0 - OVERSHOOT, floor)
        return rectangle(*context.a.local({other.frame.normal: across, axis: along}), context.owner)

    floor = fingers[0].low if _open(context) == "high" else fingers[0].high
    rise = _rise(context, fingers[0]) if context.record.floor == "dovetailed" else 0.0
    if not rise:
        return [Cut(notch(floor), context.owner)], []
    up = 1.0 if _open(context) == "high" else -1.0
    near, far = _faces(context)
    on = {
        context.a.face_toward("low" if near < far else "high"): notch(floor + up * rise),
        context.a.face_toward("high" if near < far else "low"): notch(floor),
    }
    # in b what lies under the slope, out past its edge and its end
    out = OVERSHOOT if far > near else -OVERSHOOT
    wedge = [
        (near, floor - up * OVERSHOOT),
        (near, floor + up * rise),
        (far, floor),
        (far + out, floor - up * rise * OVERSHOOT / abs(far - near)),
        (far + out, floor - up * 2 * OVERSHOOT),
    ]
    shape = polygon([other.point({context.a.frame.normal: x, axis: y}) for x, y in wedge], context.owner).wound(ccw=True)
    return [Bevel(on["a"], on["b"], context.owner)], [Cut(shape, context.owner)]


def _faces(context: JointContext) -> tuple[float, float]:
    """Where a's face lies at which b comes in, and the one at which it ends."""
    low, high = context.a.span.span(context.a.frame.normal)
    return (low, high) if context.contact.reach_b.side == "high" else (high, low)


def _rise(context: JointContext, finger: Finger) -> float:
    """How much higher a dovetailed floor lies where b comes in than where it ends; 0 with a fault where that cannot be."""
    if context.contact.reach_b.how != "far":
        context.fault(
            "floor",
            f"{context.b.record.name} runs on past the notch, and a dovetail holds the end of a board",
            "a board that ends at the far face, or a level floor",
        )
        return 0.0
    rise, deep = slope_of(context) * context.a.thickness, finger.high - finger.low
    if rise > (1 - ROOT) * deep:
        shown = context.shown(deep - rise)
        context.fault(
            "slope",
            f"{shown} of {context.b.record.name} are left at the dovetail's root",
            f"at least {ROOT:.0%} of what is housed",
            shown,
            "weak_tail",
        )
        return 0.0
    return rise
