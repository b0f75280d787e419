"""Through dovetails at a corner: tails on board a, cut straight through; pins on board b, whose flanks slope through its thickness.

The tails widen towards b's outer face, so that the corner comes apart one way only. Tails can be cut by any through cutter; the pins'
flanks are sawn by hand or on a tilted table, to the lines that the flat shows for both faces.
"""

from __future__ import annotations

from zygon.geometry.contour import polygon
from zygon.making.joints.base import OVERSHOOT, JointContext, both_ways, how_they_meet, slope_of
from zygon.making.joints.contact import Contact
from zygon.making.joints.finger import lengthen
from zygon.making.result.built import Finger
from zygon.making.result.operations import Bevel, Cut, Operation
from zygon.tolerance import CONTACT

__all__ = ["cuts", "layout", "lengthen", "offers", "refusal"]

#: A tail's root is at least this many thicknesses wide, or it breaks off (common practice).
ROOT = 0.5
MOST = 60


def refusal(contact: Contact) -> str:
    """Why there can be no dovetails; '' where there can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind == "corner":
        return ""
    return f"through dovetails need a corner, and these boards {how_they_meet(contact)}"


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Tails on either board."""
    return both_ways("dovetail", contact, lambda a, b: f"Dovetails, tails on {a}", refusal, name_a, name_b)


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The tails at their widest along the run; between and beside them stand the pins."""
    low, high = context.contact.run
    run, ta, tb = high - low, context.a.thickness, context.b.thickness
    tangent = slope_of(context)
    pin = context.figure("pin", ta / 2)
    n = round(context.figure("number", max(1, round(run / (3 * ta))), "count"))
    context.figures["number"] = n
    if not tangent:
        return ()
    if not 1 <= n <= MOST:
        context.fault("number", f"{n} tails", f"from 1 to {MOST} tails", str(n))
        return ()
    if pin <= CONTACT:
        context.fault("pin", f"a pin {context.shown(pin)} wide", "wider than 0", context.shown(pin), would_do=ta / 2)
        return ()
    wide = (run - (n + 1) * pin) / n
    root = wide - 2 * tb * tangent
    least = ROOT * ta
    context.figures.update({"tail": wide, "root": root, "slope": tangent})
    if root < least - CONTACT:
        fewer = next((m for m in range(n, 0, -1) if (run - (m + 1) * pin) / m - 2 * tb * tangent >= least), 0)
        would = f"; {fewer} of them would do" if fewer else ""
        context.fault(
            "number",
            f"a tail is {context.shown(max(root, 0.0))} wide at its root and would break off{would}",
            f"at least {context.shown(least)}, {ROOT:g} thicknesses",
            context.shown(root),
            "weak_tail",
            count=fewer,
        )
        return ()
    step = wide + pin
    return tuple(Finger(low + pin + i * step, low + pin + i * step + wide, context.a.key) for i in range(n))


def cuts(context: JointContext, tails: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """Between the tails trapezoids out of a, straight through; for each tail a sloping socket out of b."""
    if not tails:
        return [], []
    a, b, contact, owner = context.a, context.b, context.contact, context.owner
    axis, across = contact.axis, b.frame.normal
    inner, outer = context.into_b(0.0), context.into_b(b.thickness)
    way = 1.0 if outer > inner else -1.0
    slope = context.figures["slope"]
    back = b.thickness * slope
    low, high = (e + d for e, d in zip(a.extents.span(axis), (-OVERSHOOT, OVERSHOOT), strict=True))
    ops_a: list[Operation] = []
    over = OVERSHOOT * slope
    for before, after in zip((None, *tails), (*tails, None), strict=True):
        # the waste beside the tails: narrow at the outer face, wider at the root
        start = (low, low) if before is None else (before.high - fit / 4 + over, before.high - back - fit / 4)
        end = (high, high) if after is None else (after.low + fit / 4 - over, after.low + back + fit / 4)
        corners = [(start[0], outer + way * OVERSHOOT), (end[0], outer + way * OVERSHOOT), (end[1], inner), (start[1], inner)]
        ops_a.append(Cut(polygon([a.point({axis: p, across: q}) for p, q in corners], owner).wound(ccw=True), owner))
    ops_b = [_socket(context, tail, back, fit) for tail in tails]
    return ops_a, list(ops_b)


def _socket(context: JointContext, tail: Finger, back: float, fit: float) -> Bevel:
    """The room for one tail in b: wide at its outer face, narrower at its inner one."""
    a, b, axis = context.a, context.b, context.contact.axis
    low, high = a.span.span(a.frame.normal)
    depth = (low, high + OVERSHOOT) if context.contact.reach_b.side == "high" else (low - OVERSHOOT, high)

    def at(narrower: float):
        start, end = tail.low + narrower - fit / 4, tail.high - narrower + fit / 4
        corners = [(start, depth[0]), (end, depth[0]), (end, depth[1]), (start, depth[1])]
        return polygon([b.point({axis: p, a.frame.normal: q}) for p, q in corners], context.owner)

    wide, narrow = at(0.0), at(back)
    outer_is_a = context.far_b == "a"
    return Bevel(wide if outer_is_a else narrow, narrow if outer_is_a else wide, context.owner)
