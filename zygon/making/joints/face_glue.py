"""Face-to-face gluing: layers that make up a thickness. It cuts nothing; it records the contact and can mark its outline."""

from __future__ import annotations

from zygon.geometry.contour import rectangle
from zygon.making.joints.base import JointContext, how_they_meet
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Mark, Operation

__all__ = ["FASTENED", "cuts", "layout", "offers", "refusal"]

#: The boards stay where they are once it is made.
FASTENED = "glued"


def refusal(contact: Contact) -> str:
    """Why the boards cannot be glued face to face; '' where they can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind == "faces":
        return ""
    if contact.kind in ("edge", "lap"):
        return "face gluing needs one board on top of the other, and these lie in one plane"
    return f"face gluing needs boards that lie parallel, and these {how_they_meet(contact)}"


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """The one way this is done."""
    return [{"kind": "face_glue", "order": "ab", "title": f"Glue {name_a} and {name_b} face to face", "refused": refusal(contact)}]


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The glued length."""
    spans = [high - low for _, low, high in context.contact.region]
    context.figures.update({"area": spans[0] * spans[1], "together": context.a.thickness + context.b.thickness})
    low, high = context.contact.run
    return (Finger(low, high, context.a.key),)


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """Nothing is cut; the smaller board's outline is marked on the larger one where that is wanted."""
    if not context.record.outline:
        return [], []
    spans = {x: (low, high) for x, low, high in context.contact.region}
    sizes = [
        b.extents.span(b.frame.u)[1] - b.extents.span(b.frame.u)[0] + b.extents.span(b.frame.v)[1] - b.extents.span(b.frame.v)[0]
        for b in (context.a, context.b)
    ]
    own, side = (context.a, context.contact.reach_a.side) if sizes[0] > sizes[1] else (context.b, context.contact.reach_b.side)
    mark = [Mark(rectangle(*own.local(spans), context.owner), context.owner, own.face_toward(side))]
    return (mark, []) if own is context.a else ([], mark)  # type: ignore[return-value]
