"""The cross lap: two boards that cross, square to each other or at another angle, each notched from an edge so that they slide into one another."""

from __future__ import annotations

from zygon.geometry.contour import rectangle
from zygon.making.blanks.blank import Blank
from zygon.making.joints.askew import crossing, notches, open_side
from zygon.making.joints.base import OVERSHOOT, JointContext
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut

__all__ = ["cuts", "layout", "offers", "refusal"]


def refusal(contact: Contact) -> str:
    """Why the boards cannot be notched for one another; '' where they can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind == "cross":
        return ""
    if contact.kind == "angle":
        ends = contact.reach_a.how != "passes" or contact.reach_b.how != "passes"
        return "a cross lap needs both boards to run on past each other, and here one ends" if ends else ""
    if contact.kind == "angle_lap":
        return "a cross lap needs boards that stand at an angle, and these lie in one plane: take a half-lap"
    if contact.kind in ("corner", "tee"):
        return "a cross lap needs both boards to run on past each other, and here one ends"
    return "a cross lap needs boards that stand square to each other, and these lie parallel"


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """The one way this joint is made; which board is notched from where is an entry."""
    return [{"kind": "cross_lap", "order": "ab", "title": f"Cross lap {name_a}–{name_b}", "refused": refusal(contact)}]


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The two stretches of the crossing: each goes to the board that keeps its wood there."""
    run = crossing(context) if context.contact.kind == "angle" else context.contact.run
    if run is None:
        context.fault("side", "the boards do not cross within each other", "both are there where they cross", "")
        return ()
    low, high = run
    share = context.figure("share", 0.5, "number")
    if not 0.05 <= share <= 0.95:
        context.fault("share", f"a share of {share:.4g}", "from 0.05 to 0.95; 1/2 halves both", f"{share:.4g}")
        return ()
    # a is notched over `share` of the run at its open side
    from_high = open_side(context) == "high"
    split = high - share * (high - low) if from_high else low + share * (high - low)
    owners = (context.a.key, context.b.key) if from_high else (context.b.key, context.a.key)
    return (Finger(low, split, owners[0]), Finger(split, high, owners[1]))


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Cut], list[Cut]]:
    """A notch in each board, open at the edge, as wide as the other is thick and the fit."""
    if len(fingers) != 2:
        return [], []
    split = fingers[0].high
    side = open_side(context)
    context.figures["notch_a"] = fingers[1].high - split if side == "high" else split - fingers[0].low
    if context.contact.kind == "angle":
        return notches(context, split, side, fit)
    sides = (context.record.side, "low" if context.record.side == "high" else "high")
    return (
        [_notch(context.a, context.b, context, split, sides[0], fit)],
        [_notch(context.b, context.a, context, split, sides[1], fit)],
    )


def _notch(own: Blank, other: Blank, context: JointContext, split: float, side: str, fit: float) -> Cut:
    axis = context.contact.axis
    low, high = other.span.span(other.frame.normal)
    extent = own.extents.span(axis)
    along = (split, extent[1] + OVERSHOOT) if side == "high" else (extent[0] - OVERSHOOT, split)
    return Cut(rectangle(*own.local({other.frame.normal: (low - fit / 2, high + fit / 2), axis: along}), context.owner), context.owner)
