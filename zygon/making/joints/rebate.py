"""The rebate at a corner: the edge of one board sits in a step along the end of the other."""

from __future__ import annotations

from zygon.geometry.contour import rectangle
from zygon.making.joints.base import OVERSHOOT, JointContext, both_ways, edge_into_face, half_mm
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut, Pocket
from zygon.tolerance import CONTACT

__all__ = ["DEPTH", "cuts", "grow", "layout", "offers", "refusal"]

#: Its cuts stop inside the board.
DEPTH = True


def refusal(contact: Contact) -> str:
    """Why a cannot sit in a rebate in b; '' where it can."""
    refused = edge_into_face(contact, "a rebate")
    if not refused and contact.kind == "tee":
        return "a rebate runs along a board's end, and here the board runs on: take a groove"
    return refused


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Either board's edge in a step of the other."""
    return both_ways("rebate", contact, lambda a, b: f"Rebate in {b} for {a}", refusal, name_a, name_b)


def grow(context: JointContext) -> None:
    """b reaches to a's far face, and a into the step by its depth."""
    a, b, contact = context.a, context.b, context.contact
    depth = context.depth_in("depth", b, half_mm(b.thickness / 2), "a rebate")
    context.figures["in_effect"] = depth
    if not depth:
        return
    if contact.reach_b.how == "near":
        slab = a.span.span(a.frame.normal)
        b.grow(a.frame.normal, contact.reach_b.side, slab[1] if contact.reach_b.side == "high" else slab[0])
    a.grow(b.frame.normal, contact.reach_a.side, context.into_b(depth))


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The length over which a sits in the step."""
    low, high = context.contact.run
    return (Finger(low, high, context.a.key),) if context.figures["in_effect"] else ()


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Cut], list[Pocket]]:
    """The step in b, open at its end; its shoulder stands back by half the fit."""
    if not fingers:
        return [], []
    a, b, axis, contact = context.a, context.b, context.contact.axis, context.contact
    own = b.extents.span(axis)
    ends = context.record.ends
    stops = (ends in ("stopped", "open_high"), ends in ("stopped", "open_low"))
    # as said from the board's own end; where nothing is said, where the other board ends
    by_itself = max(0.0, fingers[0].low - own[0]) if stops[0] else max(0.0, own[1] - fingers[0].high) if stops[1] else 0.0
    stop = context.figure("stop", by_itself)
    low_end, high_end = (own[0] + stop, own[1] - stop) if context.record.stop is not None else (fingers[0].low, fingers[0].high)
    along = (
        low_end - fit / 2 if stops[0] and _inside(low_end, own) else own[0] - OVERSHOOT,
        high_end + fit / 2 if stops[1] and _inside(high_end, own) else own[1] + OVERSHOOT,
    )
    if stop < 0 or along[1] - along[0] <= CONTACT:
        context.fault(
            "stop",
            f"a rebate that stops short by {context.shown(stop)}",
            "at least 0, and less than the length",
            context.shown(stop),
            would_do=0.0,
        )
        return [], []
    ops_a = _corner_notches(context, along, fit) if stop > CONTACT else []
    low, high = a.span.span(a.frame.normal)
    end = b.extents.span(a.frame.normal)
    across = (low - fit / 2, end[1] + OVERSHOOT) if contact.reach_b.side == "high" else (end[0] - OVERSHOOT, high + fit / 2)
    context.figures["width"] = high - low
    contour = rectangle(*b.local({a.frame.normal: across, axis: along}), context.owner)
    return ops_a, [Pocket(contour, context.owner, context.face_b, context.figures["in_effect"], "rebate")]


def _inside(at: float, own: tuple[float, float]) -> bool:
    return own[0] + CONTACT < at < own[1] - CONTACT


def _corner_notches(context: JointContext, along: tuple[float, float], fit: float) -> list[Cut]:
    """Where the step stops before a's end, a's corner is notched to pass it."""
    a, axis = context.a, context.contact.axis
    own = a.extents.span(axis)
    inner, outer = context.into_b(0.0), context.into_b(context.figures["in_effect"])
    past = OVERSHOOT if outer > inner else -OVERSHOOT
    reach = (min(inner, outer + past), max(inner, outer + past))
    found = []
    for low, high in ((own[0] - OVERSHOOT, along[0] + fit / 2), (along[1] - fit / 2, own[1] + OVERSHOOT)):
        if high - low > 2 * OVERSHOOT + CONTACT:
            found.append(Cut(rectangle(*a.local({context.b.frame.normal: reach, axis: (low, high)}), context.owner), context.owner))
    return found
