"""Screws through one board into another: clearance hole and countersink in the first, pilot hole in the second, by standard size."""

from __future__ import annotations

import math

from zygon.geometry.contour import circle
from zygon.making.joints.base import JointContext, both_ways, edge_on_face
from zygon.making.joints.contact import Contact
from zygon.making.joints.dowels import edge_bore
from zygon.making.joints.spread import centres, number_of
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut, Operation, Pocket, Sink
from zygon.stock.hardware.wood import screw, screw_length
from zygon.tolerance import CONTACT

__all__ = ["FASTENED", "cuts", "layout", "offers", "refusal"]

#: The boards stay where they are once it is made.
FASTENED = "screwed"
DEFAULT_EVERY = 150.0
#: A screw grips over about this many times what it goes through (common practice), and ends so far before the far side (mm).
GRIP = 2.5
TIP = 2.0


def refusal(contact: Contact) -> str:
    """Why there can be no screws through b into a; '' where there can."""
    if contact.kind == "faces":
        return ""
    return edge_on_face(contact, "a screw")


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Through either board into the other."""
    return both_ways("screws", contact, lambda a, b: f"Screws through {b} into {a}", refusal, name_a, name_b)


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The screws along the run, each as wide as its clearance hole."""
    low, high = context.contact.run
    run, tb = high - low, context.b.thickness
    sizes = screw(context.record.size)
    room = _room(context)
    length = context.figure("length", screw_length(GRIP * tb, tb + room - TIP))
    context.figures.update({"clearance": sizes.clearance, "pilot": sizes.pilot, "head": sizes.head})
    if not tb < length <= tb + room - TIP + CONTACT:
        would = screw_length(GRIP * tb, tb + room - TIP)
        context.fault(
            "length",
            f"a screw {context.shown(length)} long through {context.shown(tb)} into {context.shown(room)}",
            f"more than {context.shown(tb)}, at most {context.shown(tb + room - TIP)}, or its tip comes out",
            context.shown(length),
            "too_deep",
            would_do=would if tb < would <= tb + room - TIP else None,
        )
        return ()
    if context.contact.kind != "faces" and sizes.pilot > context.a.thickness / 2 + CONTACT:
        context.fault(
            "size",
            f"a screw of {context.record.size} mm splits an edge {context.shown(context.a.thickness)} thick",
            f"a pilot hole of at most half of it; this one is {context.shown(sizes.pilot)}",
            context.record.size,
        )
        return ()
    n = number_of(context, max(2, round(run / DEFAULT_EVERY)), "screws")
    inset = context.figure("inset", min(max(2 * tb, sizes.head), run / 4))
    spacing = context.read(context.record.spacing, "spacing")
    half = sizes.clearance / 2
    kept: list[Finger] = []
    for c in centres((low, high), n, inset, spacing):
        if c - half < low - CONTACT or c + half > high + CONTACT:
            context.fault(
                "spacing" if spacing is not None else "inset",
                "a screw lies past the joint's end",
                "all lie within the length that both boards share",
                context.shown(min(c - low, high - c)),
            )
        elif kept and c - half < kept[-1].high + CONTACT:
            context.fault("number", f"{n} screws run into one another", f"apart from each other over {context.shown(run)}", str(n))
            break
        else:
            kept.append(Finger(c - half, c + half, context.b.key))
    return tuple(kept)


def _room(context: JointContext) -> float:
    """How deep a screw may reach into a before it comes out, in mm."""
    if context.contact.kind == "faces":
        return context.a.thickness
    low, high = context.a.span.span(context.b.frame.normal)
    return high - low


def cuts(context: JointContext, screws: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """Clearance holes and countersinks in b from its far face, pilot holes in a, in line."""
    a, b, contact, owner = context.a, context.b, context.contact, context.owner
    ops_a: list[Operation] = []
    ops_b: list[Operation] = []
    faces = contact.kind == "faces"
    across = next((x for x, _, _ in contact.region if x != contact.axis), "") if faces else a.frame.normal
    span = contact.span(across) if faces else a.span.span(across)
    middle = (span[0] + span[1]) / 2
    sizes = screw(context.record.size)
    hole = sizes.clearance + fit
    if hole <= CONTACT:
        context.fault(
            "fit", f"a fit of {context.shown(fit)} leaves no hole", "clearance plus fit is greater than 0", context.shown(fit), would_do=0.0
        )
        return [], []
    deep = context.figures.get("length", 0.0) - b.thickness
    far = context.far_b
    for one in screws:
        at = (one.low + one.high) / 2
        u, v = b.point({across: middle, contact.axis: at})
        ops_b.append(Cut(circle(u, v, hole / 2, owner), owner))
        if context.record.countersink and sizes.head > hole:
            sink = Sink(u, v, sizes.head, hole, math.pi / 2, far, owner)
            if sink.depth < b.thickness:
                ops_b.append(sink)
        if not context.record.pilot:
            continue
        if faces:
            pu, pv = a.point({across: middle, contact.axis: at})
            face = a.face_toward(contact.reach_a.side)
            ops_a.append(Pocket(circle(pu, pv, sizes.pilot / 2, owner), owner, face, deep, "hole"))
        else:
            ops_a.append(edge_bore(context, a, b.frame.normal, contact.reach_a.side, (at, middle), sizes.pilot, deep))
    return ops_a, ops_b
