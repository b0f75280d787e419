"""The dovetailed half-lap at a frame's tee: the board that ends is cut to a tail, and the other is let in for it."""

from __future__ import annotations

from zygon.geometry.contour import polygon, rectangle
from zygon.making.joints.base import OVERSHOOT, JointContext, slope_of
from zygon.making.joints.contact import Contact
from zygon.making.joints.half_lap import lap_spans, split_of
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut, Operation, Pocket
from zygon.tolerance import CONTACT

__all__ = ["DEPTH", "cuts", "layout", "offers", "refusal"]

#: Its cuts stop inside the board.
DEPTH = True

#: The tail's root keeps at least this share of the board's width (common practice).
ROOT = 0.4


def refusal(contact: Contact) -> str:
    """Why there can be no dovetailed lap; '' where there can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind == "lap" and contact.form == "tee":
        return "" if contact.stem == "a" else "the tail is cut on the board that ends, and here it is the other one"
    if contact.kind == "lap":
        return f"a dovetailed half-lap needs a tee, and these boards lap at a {contact.form}"
    return "a dovetailed half-lap needs boards that lap in one plane, one ending in the middle of the other"


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """The one way round that the tee leaves."""
    order = "ba" if contact.stem == "b" else "ab"
    names = (name_b, name_a) if order == "ba" else (name_a, name_b)
    refused = "" if contact.kind == "lap" and contact.form == "tee" else refusal(contact)
    return [{"kind": "dovetail_lap", "order": order, "title": f"Dovetailed half-lap, {names[0]} into {names[1]}", "refused": refused}]


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The tail's length."""
    low, high = context.contact.run
    return (Finger(low, high, context.a.key),)


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """In a the lap's depth and the cheeks beside the tail; in b a pocket of the tail's shape."""
    split, tangent = split_of(context), slope_of(context)
    contact, a, b = context.contact, context.a, context.b
    along = contact.axis
    wide_axis = next(x for x, _, _ in contact.region if x != along)
    low, high = contact.span(along)
    w0, w1 = contact.span(wide_axis)
    length, width = high - low, w1 - w0
    flare = length * tangent
    shoulder = context.figure("shoulder", flare)
    root = width - 2 * shoulder
    context.figures.update({"root": root, "flare": flare})
    if split is None or not tangent:
        return [], []
    if shoulder < flare - CONTACT:
        context.fault(
            "shoulder",
            f"a shoulder of {context.shown(shoulder)} lets the tail grow wider than its board",
            f"at least {context.shown(flare)} for this slope and length",
            context.shown(shoulder),
            would_do=flare,
        )
        return [], []
    if root < ROOT * width:
        most = width * (1 - ROOT) / 2
        context.fault(
            "shoulder",
            f"the tail's root is {context.shown(root)} wide and would break off",
            f"at least {context.shown(ROOT * width)}, {ROOT:g} of the board's width",
            context.shown(root),
            "weak_tail",
            would_do=most if most >= flare else None,
        )
        return [], []
    high_end = contact.reach_a.side == "low"  # a runs on past its low end, so that its tail points high
    start, end = (low, high) if high_end else (high, low)

    def tail(extra: float, past: float) -> list[tuple[float, float]]:
        """(along, across) of the tail's corners, ``extra`` wider on each flank and ``past`` beyond its root."""
        way = 1.0 if high_end else -1.0
        root0, root1 = w0 + shoulder - extra, w1 - shoulder + extra
        end0, end1 = w0 + shoulder - flare - extra, w1 - shoulder + flare + extra
        back = tangent * past
        return [(start - way * past, root0 + back), (end, end0), (end, end1), (start - way * past, root1 - back)]

    def placed(blank, corners):
        return polygon([blank.point({along: p, wide_axis: q}) for p, q in corners], context.owner).wound(ccw=True)

    sides = ("high", "low") if context.record.keeps == "low" else ("low", "high")
    lap = rectangle(*a.local(lap_spans(a, contact, fit)), context.owner)
    ops_a: list[Operation] = [Pocket(lap, context.owner, a.face_toward(sides[0]), context.figures["depth_a"], "lap")]
    t0, t1, t2, t3 = tail(0.0, 0.0)
    way = 1.0 if high_end else -1.0
    for edge, (root_at, root_q), (_, tip_q) in ((w0 - OVERSHOOT, t0, t1), (w1 + OVERSHOOT, t3, t2)):
        # the cheek beside the flank, out past the board's edge and its end
        past = end + way * OVERSHOOT
        tip = tip_q + (tip_q - root_q) / length * OVERSHOOT
        if (tip - edge) * (1 if edge < w0 else -1) > 0:
            cheek = [(root_at, root_q), (past, tip), (past, edge), (root_at, edge)]
        else:
            cheek = [(root_at, root_q), (root_at + way * abs(root_q - edge) / tangent, edge), (root_at, edge)]
        ops_a.append(Cut(placed(a, cheek), context.owner))
    pocket = placed(b, tail(fit / 2, OVERSHOOT))
    return ops_a, [Pocket(pocket, context.owner, b.face_toward(sides[1]), context.figures["depth_b"], "lap")]
