"""Mortise and tenon: tenons on the edge of one board in mortises in the face of another, through or stopped, with or without cheeks."""

from __future__ import annotations

from zygon.geometry.contour import rectangle
from zygon.making.joints.base import OVERSHOOT, JointContext, both_ways, edge_into_face, half_mm
from zygon.making.joints.contact import Contact
from zygon.making.joints.spread import centres, number_of, spaced
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut, Operation, Pocket
from zygon.tolerance import CONTACT

__all__ = ["cuts", "layout", "offers", "refusal"]

#: One tenon stands for about every so many mm of run where nothing is said.
DEFAULT_EVERY = 200.0


def refusal(contact: Contact) -> str:
    """Why a cannot have tenons in b; '' where it can."""
    refused = edge_into_face(contact, "a tenon")
    if not refused and contact.kind == "corner" and contact.reach_b.how == "near":
        return "a mortise needs wood round it, and here the board ends before the tenon"
    return refused


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Tenons on either board."""
    return both_ways("mortise_tenon", contact, lambda a, b: f"Tenons on {a}, mortises in {b}", refusal, name_a, name_b)


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The tenons along the run."""
    low, high = context.contact.run
    run, t = high - low, context.a.thickness
    thickness = context.figure("thickness", t)
    if thickness > t + CONTACT or thickness <= CONTACT:
        context.fault(
            "thickness",
            f"a tenon {context.shown(thickness)} thick on {context.a.record.name}, which is {context.shown(t)} thick",
            f"more than 0, at most {context.shown(t)}",
            context.shown(thickness),
            "thick_tenon",
            would_do=t,
        )
        return ()
    if context.record.ends == "stopped":
        depth = context.depth_in("depth", context.b, half_mm(context.b.thickness * 2 / 3), "a mortise")
        play = context.figure("end_play")
        if depth and not 0 <= play < depth:
            context.fault(
                "end_play",
                f"an end play of {context.shown(play)} in a mortise {context.shown(depth)} deep",
                "from 0 to less than the depth",
                context.shown(play),
                would_do=0.5,
            )
            depth = 0.0
        if not depth:
            return ()
    n = number_of(context, max(1, round(run / DEFAULT_EVERY)), "tenons")
    inset = context.figure("inset", min(t / 2, run / 6))
    width = context.figure("width", (run - 2 * inset) / (2 * n - 1))
    spacing = context.read(context.record.spacing, "spacing")
    middles = centres((low, high), n, inset + width / 2, spacing)
    return spaced(context, [(c - width / 2, c + width / 2) for c in middles], "a tenon", context.a.key)


def cuts(context: JointContext, tenons: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """Adds the tenons to a, with cheeks where they are thinner than the board; their mortises in b."""
    if not tenons:
        return [], []
    a, b, axis, owner = context.a, context.b, context.contact.axis, context.owner
    across = b.frame.normal
    stopped = context.record.ends == "stopped"
    reach = context.figures["depth"] - context.figures["end_play"] if stopped else b.thickness
    thick = context.figures["thickness"]
    cheek = (a.thickness - thick) / 2
    ends = context.into_b(-OVERSHOOT), context.into_b(reach)
    a0, a1 = a.span.span(a.frame.normal)
    middle = (a0 + a1) / 2
    ops_a: list[Operation] = []
    ops_b: list[Operation] = []
    for tenon in tenons:
        a.add({across: (min(ends), max(ends)), axis: (tenon.low, tenon.high)}, owner)
        if cheek > CONTACT:
            out = (context.into_b(0.0), context.into_b(reach + OVERSHOOT))
            spans = {across: (min(out), max(out)), axis: (tenon.low - OVERSHOOT, tenon.high + OVERSHOOT)}
            contour = rectangle(*a.local(spans), owner)
            ops_a += [Pocket(contour, owner, "a", cheek, "shoulder"), Pocket(contour, owner, "b", cheek, "shoulder")]
        slot = {a.frame.normal: _across(context, middle, thick, fit), axis: (tenon.low - fit / 2, tenon.high + fit / 2)}
        contour = rectangle(*b.local(slot), owner)
        ops_b.append(Pocket(contour, owner, context.face_b, context.figures["depth"], "mortise") if stopped else Cut(contour, owner))
    return ops_a, ops_b


def _across(context: JointContext, middle: float, thick: float, fit: float) -> tuple[float, float]:
    """The mortise across the tenon's thickness; open where the board ends there."""
    b0, b1 = context.b.extents.span(context.a.frame.normal)
    low, high = middle - thick / 2, middle + thick / 2
    return (
        b0 - OVERSHOOT if low - b0 <= CONTACT else low - fit / 2,
        b1 + OVERSHOOT if b1 - high <= CONTACT else high + fit / 2,
    )
