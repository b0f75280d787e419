"""Keys in one plane: two boards edge to edge, held by dovetails or round keys that one has and the other has sockets for."""

from __future__ import annotations

import math

from zygon.geometry.contour import Contour
from zygon.making.joints.base import OVERSHOOT, JointContext, both_ways, half_mm, how_they_meet, slope_of
from zygon.making.joints.contact import Contact
from zygon.making.joints.spread import centres, number_of, spaced
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut, Operation
from zygon.tolerance import CONTACT

__all__ = ["cuts", "layout", "offers", "refusal"]

DEFAULT_EVERY = 90.0
#: The neck keeps at least this share of the key's width, or it breaks off (common practice); a round key's neck has it.
NECK = 0.5
#: A round key is at least so many times as long as wide, so that it has a neck before its head.
SHORTEST = 0.95


def refusal(contact: Contact) -> str:
    """Why the boards cannot be keyed; '' where they can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind == "edge":
        return ""
    return f"keys need two boards edge to edge in one plane, and these {how_they_meet(contact)}"


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Keys on either board."""
    return both_ways("edge_key", contact, lambda a, b: f"Keys of {a} in {b}", refusal, name_a, name_b)


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The keys at their widest, along the common edge."""
    low, high = context.contact.run
    run, t = high - low, context.a.thickness
    n = number_of(context, max(1, round(run / DEFAULT_EVERY)), "keys")
    width = context.figure("width", half_mm(min(2.2 * t, run / (1.6 * n))))
    # a round key reaches at least so far that its neck is shorter than its head
    longest = max(1.5 * t, width) if context.record.shape == "round" else min(1.5 * t, run / 3)
    depth = context.figure("depth", half_mm(longest))
    spacing = context.read(context.record.spacing, "spacing")
    if depth <= CONTACT:
        context.fault("depth", f"a key {context.shown(depth)} long", "longer than 0", context.shown(depth), would_do=half_mm(1.5 * t))
        return ()
    if context.record.shape == "round" and depth < SHORTEST * width:
        context.fault(
            "depth",
            f"a round key {context.shown(depth)} long and {context.shown(width)} wide holds nothing",
            f"at least {context.shown(SHORTEST * width)} long",
            context.shown(depth),
            would_do=width,
        )
        return ()
    if context.record.shape == "dovetail":
        tangent = slope_of(context)
        root = width - 2 * depth * tangent
        context.figures["root"] = root
        if not tangent:
            return ()
        if root < NECK * width:
            would = NECK * width / (2 * tangent)
            context.fault(
                "depth",
                f"the key's root is {context.shown(max(root, 0.0))} wide and would break off",
                f"at least {context.shown(NECK * width)}, half of its width",
                context.shown(root),
                "weak_tail",
                would_do=math.floor(would * 10) / 10,
            )
            return ()
    middles = centres((low, high), n, run / (2 * n), spacing)
    return spaced(context, [(c - width / 2, c + width / 2) for c in middles], "a key", context.a.key)


def cuts(context: JointContext, keys: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """Adds the keys to a; their sockets, half the fit wider all round, out of b."""
    sockets: list[Operation] = []
    for key in keys:
        context.a.shape(_outline(context, context.a, key, 0.0))
        sockets.append(Cut(_outline(context, context.b, key, fit / 2), context.owner))
    return [], sockets


def _outline(context: JointContext, blank, key: Finger, grown: float) -> Contour:
    """A key's outline from just before the common edge, ``grown`` mm larger all round."""
    contact = context.contact
    edge = contact.span(contact.across)[0] if contact.reach_a.side == "high" else contact.span(contact.across)[1]
    way = 1.0 if contact.reach_a.side == "high" else -1.0
    middle, width, depth = (key.low + key.high) / 2, key.high - key.low, context.figures["depth"]
    if context.record.shape == "round":
        r, neck = width / 2 + grown, width * NECK / 2 + grown
        centre = depth - width / 2
        meet = centre - math.sqrt(r * r - neck * neck)
        bulge = math.tan((2 * math.pi - 2 * math.asin(neck / r)) / 4)
        local = [(-OVERSHOOT, -neck, 0.0), (meet, -neck, bulge), (meet, neck, 0.0), (-OVERSHOOT, neck, 0.0)]
    else:
        slope = math.tan(context.figures["angle"])
        # flanks move out square to themselves, the end by the same
        out = grown / math.cos(context.figures["angle"])
        tip, root = width / 2 + out + grown * slope, width / 2 - depth * slope + out - OVERSHOOT * slope
        local = [(-OVERSHOOT, -root, 0.0), (depth + grown, -tip, 0.0), (depth + grown, tip, 0.0), (-OVERSHOOT, root, 0.0)]
    points = tuple(blank.point({contact.across: edge + way * p, contact.axis: middle + q}) for p, q, _ in local)
    # the way round on the board follows from how its axes lie
    right = (blank.frame.u == contact.across) == (way > 0)
    bulges = tuple(b if right else -b for _, _, b in local)
    return Contour(points, bulges, (context.owner,) * 4).wound(ccw=True)
