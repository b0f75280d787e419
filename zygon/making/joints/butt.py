"""The butt joint: an edge glued to a face or to an edge. It cuts nothing; it records the contact and can mark its outline."""

from __future__ import annotations

from zygon.geometry.contour import rectangle
from zygon.making.joints.base import JointContext, both_ways, edge_on_face
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Mark, Operation

__all__ = ["FASTENED", "cuts", "layout", "offers", "refusal"]

#: The boards stay where they are once it is made.
FASTENED = "glued"


def refusal(contact: Contact) -> str:
    """Why the edge of a cannot be glued to b; '' where it can."""
    if contact.kind == "edge":
        return ""
    return edge_on_face(contact, "a butt joint")


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Either edge on the other board."""
    if contact.kind == "edge":
        return [{"kind": "butt", "order": "ab", "title": f"Glue {name_a} and {name_b} edge to edge", "refused": ""}]
    return both_ways("butt", contact, lambda a, b: f"Butt joint, the edge of {a} glued to {b}", refusal, name_a, name_b)


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The glued length."""
    low, high = context.contact.run
    context.figures["area"] = (high - low) * context.a.thickness
    return (Finger(low, high, context.a.key),)


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """Nothing is cut; the edge's outline on b's face is marked where that is wanted."""
    if not context.record.outline or context.contact.kind == "edge":
        return [], []
    a, b = context.a, context.b
    spans = {a.frame.normal: a.span.span(a.frame.normal), context.contact.axis: context.contact.run}
    return [], [Mark(rectangle(*b.local(spans), context.owner), context.owner, context.face_b)]
