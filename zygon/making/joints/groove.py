"""The groove (housing): the edge of one board sits in the face of another and grows into it by the depth less the end play."""

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

#: How far a stopped groove ends before a flush end where nothing is said, in thicknesses of the grooved board.
STOP = 1.0


def refusal(contact: Contact) -> str:
    """Why the edge of a cannot sit in a groove in b; '' where it can."""
    refused = edge_into_face(contact, "a groove")
    if not refused and contact.kind == "corner":
        return "at a board's end a groove has one wall only: take a rebate"
    return refused


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Either board's edge in the other's face."""
    return both_ways("groove", contact, lambda a, b: f"Groove in {b} for {a}", refusal, name_a, name_b)


def grow(context: JointContext) -> None:
    """The panel's edge reaches into the groove; whole where no stopped end notches it."""
    depth = context.depth_in("depth", context.b, half_mm(context.b.thickness / 3), "a groove")
    play = context.figure("end_play")
    if depth and not 0 <= play < depth:
        context.fault(
            "end_play",
            f"an end play of {context.shown(play)} in a groove {context.shown(depth)} deep",
            "from 0 to less than the depth",
            context.shown(play),
            would_do=0.0,
        )
        depth = 0.0
    context.figures["in_effect"] = depth
    if depth and not _notched(context):
        context.a.grow(context.b.frame.normal, context.contact.reach_a.side, context.into_b(depth - play))


def _stops(context: JointContext) -> tuple[bool, bool]:
    """Whether the groove stops at its low and at its high end."""
    ends = context.record.ends
    return ends in ("stopped", "open_high"), ends in ("stopped", "open_low")


def _stop(context: JointContext) -> float:
    """How far before the panel's end a stopped groove ends: by default only where the board ends there too."""
    axis = context.contact.axis
    (a0, a1), (b0, b1) = context.a.span.span(axis), context.b.span.span(axis)
    stops = _stops(context)
    flush = (stops[0] and b0 > a0 - CONTACT) or (stops[1] and b1 < a1 + CONTACT)
    return context.figure("stop", half_mm(STOP * context.b.thickness) if flush else 0.0)


def _notched(context: JointContext) -> bool:
    return any(_stops(context)) and _stop(context) > CONTACT


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The stretch over which the panel is in the groove."""
    low, high = context.contact.run
    if not context.figures["in_effect"]:
        return ()
    stops, stop = _stops(context), _stop(context)
    if context.record.stop is not None:  # as said, from the panel's own ends
        own = context.a.span.span(context.contact.axis)
        start, end = (max(low, own[0] + stop) if stops[0] else low), (min(high, own[1] - stop) if stops[1] else high)
    else:
        start, end = (low + stop if stops[0] else low), (high - stop if stops[1] else high)
    if stop < 0 or end - start <= CONTACT:
        context.fault(
            "stop",
            f"a groove that stops short by {context.shown(stop)} leaves nothing of {context.shown(high - low)}",
            "at least 0, and less than the length",
            context.shown(stop),
            would_do=0.0,
        )
        return ()
    return (Finger(start, end, context.a.key),)


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Cut], list[Pocket]]:
    """The groove in b; the tongue of a notched panel is added to a."""
    if not fingers:
        return [], []
    a, b, axis, depth = context.a, context.b, context.contact.axis, context.figures["in_effect"]
    stops = _stops(context)
    run, own = fingers[0], b.extents.span(axis)
    normal = b.frame.normal
    if _notched(context):
        ends = sorted((context.into_b(-OVERSHOOT), context.into_b(depth - context.figures["end_play"])))
        a.add({normal: (ends[0], ends[1]), axis: (run.low, run.high)}, context.owner)
    along = (
        run.low - fit / 2 if stops[0] and run.low > own[0] + CONTACT else own[0] - OVERSHOOT,
        run.high + fit / 2 if stops[1] and run.high < own[1] - CONTACT else own[1] + OVERSHOOT,
    )
    low, high = a.span.span(a.frame.normal)
    contour = rectangle(*b.local({a.frame.normal: (low - fit / 2, high + fit / 2), axis: along}), context.owner)
    context.figures["width"] = high - low + fit
    return [], [Pocket(contour, context.owner, context.face_b, depth, "groove")]
