"""The half-lap in one plane: at a frame's corner, tee or cross, or end to end, each board is let in by its share of the thickness."""

from __future__ import annotations

from zygon.geometry.contour import rectangle
from zygon.making.blanks.blank import Blank
from zygon.making.joints.askew import lap_pockets
from zygon.making.joints.base import OVERSHOOT, JointContext
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Pocket
from zygon.tolerance import CONTACT

__all__ = ["DEPTH", "cuts", "lap_spans", "layout", "offers", "refusal", "share_of", "split_of"]

#: Its cuts stop inside the board.
DEPTH = True


def refusal(contact: Contact) -> str:
    """Why the boards cannot lap; '' where they can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind in ("lap", "angle_lap"):
        return ""
    if contact.kind == "angle":
        return "a half-lap lies in one plane, and these boards meet at an angle"
    if contact.kind == "edge":
        return "a half-lap needs the boards to cover one another, and here they end edge to edge: run one on to the other's far edge"
    if contact.kind == "faces":
        return "a half-lap lies in one plane, and these boards lie face on face"
    return "a half-lap lies in one plane, and these boards stand square to each other"


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """The one way this joint is made; which board keeps which side is an entry."""
    form = {"corner": "at a corner", "tee": "at a tee", "cross": "at a crossing", "line": "end to end"}.get(contact.form, "")
    return [{"kind": "half_lap", "order": "ab", "title": f"Half-lap {name_a}–{name_b} {form}".strip(), "refused": refusal(contact)}]


def share_of(context: JointContext) -> float | None:
    """How much of the common thickness comes out of a; None with a fault where it leaves one nothing."""
    share = context.figure("share", 0.5, "number")
    if not 0.1 <= share <= 0.9:
        context.fault("share", f"a share of {share:.4g}", "from 0.1 to 0.9; 1/2 lets both in equally", f"{share:.4g}")
        return None
    return share


def split_of(context: JointContext) -> float | None:
    """Where along the normal the two boards part, in mm; None with a fault where the share leaves one nothing."""
    share = share_of(context)
    if share is None:
        return None
    normal = context.a.frame.normal
    (a0, a1), (b0, b1) = context.a.span.span(normal), context.b.span.span(normal)
    low, high = max(a0, b0), min(a1, b1)
    split = high - share * (high - low) if context.record.keeps == "low" else low + share * (high - low)
    context.figures["depth_a"] = a1 - split if context.record.keeps == "low" else split - a0
    context.figures["depth_b"] = split - b0 if context.record.keeps == "low" else b1 - split
    return split


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The lap's length along the first board."""
    if context.contact.kind == "angle_lap":
        return (Finger(0.0, context.a.bounds()[2], context.a.key),)
    low, high = context.contact.run
    return (Finger(low, high, context.a.key),)


def lap_spans(own: Blank, contact: Contact, fit: float) -> dict[str, tuple[float, float]]:
    """The common rectangle as it is cut in one board: half the fit wider where the board runs on, past its edge where it ends."""
    spans = {}
    for axis, low, high in contact.region:
        own_low, own_high = own.extents.span(axis)
        spans[axis] = (
            low - fit / 2 if own_low < low - CONTACT else own_low - OVERSHOOT,
            high + fit / 2 if own_high > high + CONTACT else own_high + OVERSHOOT,
        )
    return spans


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Pocket], list[Pocket]]:
    """A lap in each board, from the face that the other one covers."""
    if context.contact.kind == "angle_lap":
        share = share_of(context)
        return lap_pockets(context, share, fit) if share else ([], [])  # type: ignore[return-value]
    split = split_of(context)
    if split is None:
        return [], []
    sides = ("high", "low") if context.record.keeps == "low" else ("low", "high")
    found = []
    for own, side, depth in ((context.a, sides[0], context.figures["depth_a"]), (context.b, sides[1], context.figures["depth_b"])):
        contour = rectangle(*own.local(lap_spans(own, context.contact, fit)), context.owner)
        found.append([Pocket(contour, context.owner, own.face_toward(side), depth, "lap")])
    return found[0], found[1]
