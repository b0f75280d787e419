"""Which boards a joint's ends are, and how they meet."""

from __future__ import annotations

from zygon.geometry.motion import Motion
from zygon.making.blanks.blank import Blank, blank_of
from zygon.making.blanks.instances import Instance
from zygon.making.datums.values import Values
from zygon.making.joints.angle import find_angle, moved_box, same_frame
from zygon.making.joints.contact import Contact, find_contact
from zygon.tolerance import EPS

__all__ = ["contact_of", "diagonal", "end_blank"]


def contact_of(values: Values, a: Blank, b: Blank) -> Contact:
    """How two blanks meet, by their spans; boards that are turned to each other by their planes."""
    if not same_frame(a, b):
        return find_angle(a, b, values.document.display)
    return find_contact(a.span, a.frame.normal, a.record.name, b.span, b.frame.normal, b.record.name, values.document.display)


def end_blank(reference: str, blanks: dict[str, Blank], instances: dict[str, Instance]) -> Blank | None:
    """The blank at a joint's end: a part's own, or that of one of its copies in the copy's place; None where it is not there."""
    if reference in blanks:
        return blanks[reference]
    instance = instances.get(reference)
    if instance is None or instance.part not in blanks:
        return None
    own = blanks[instance.part]
    motion = instance.motion @ instances[instance.part].motion.inverse  # in the room, from the original to the copy
    inner = own.place.inverse @ motion @ own.place
    if diagonal(inner):  # it lies along the same axes
        return blank_of(reference, own.record, moved_box(own.span, inner), own.place)
    return blank_of(reference, own.record, own.span, motion @ own.place)


def diagonal(motion: Motion) -> bool:
    """Whether every axis stays along itself."""
    return all(abs(motion.rows[i][j]) < EPS for i in range(3) for j in range(3) if i != j)
