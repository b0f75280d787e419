"""Dowels: round pins across a joint, bored in line in the face of one board and the edge of the other, or in both edges."""

from __future__ import annotations

from zygon.geometry.contour import circle
from zygon.geometry.frame import FACES
from zygon.making.blanks.blank import Blank
from zygon.making.joints.base import JointContext, both_ways, edge_on_face, half_mm
from zygon.making.joints.contact import Contact
from zygon.making.joints.spread import centres, number_of
from zygon.making.result.built import Finger
from zygon.making.result.operations import EdgeBore, Operation, Pocket
from zygon.stock.hardware.wood import DOWELS, dowel_for
from zygon.tolerance import CONTACT

__all__ = ["cuts", "edge_bore", "holds", "layout", "offers", "refusal"]

DEFAULT_EVERY = 110.0
#: Wood beside a dowel in an edge, in mm (common practice).
WALL = 1.5
#: Depth in the edge where nothing is said: 25 mm for a dowel of 6 mm (common practice).
DEEP = 4.0


def refusal(contact: Contact) -> str:
    """Why there can be no dowels; '' where there can."""
    if contact.kind == "edge":
        return ""
    return edge_on_face(contact, "a dowel")


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """Bored into either board's edge."""
    if contact.kind == "edge":
        return [{"kind": "dowels", "order": "ab", "title": f"Dowels {name_a}–{name_b}", "refused": ""}]
    return both_ways("dowels", contact, lambda a, b: f"Dowels from the edge of {a} into {b}", refusal, name_a, name_b)


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The dowels along the run, each as wide as its diameter."""
    low, high = context.contact.run
    run, t = high - low, context.a.thickness
    diameter = context.figure("diameter", dowel_for(t))
    if not CONTACT < diameter <= t - 2 * WALL + CONTACT:
        would = max((d for d in DOWELS if d <= t - 2 * WALL), default=None)
        context.fault(
            "diameter",
            f"a dowel of {context.shown(diameter)} in an edge {context.shown(t)} thick leaves {context.shown(max((t - diameter) / 2, 0))} beside it",
            f"at most {context.shown(t - 2 * WALL)}, with {context.shown(WALL)} of wood on both sides",
            context.shown(diameter),
            "thick_dowel",
            would_do=would,
        )
        return ()
    if not _depths(context, diameter):
        return ()
    n = number_of(context, max(2, round(run / DEFAULT_EVERY)), "dowels")
    inset = context.figure("inset", min(max(2 * t, 2 * diameter), run / 4))
    spacing = context.read(context.record.spacing, "spacing")
    kept: list[Finger] = []
    for c in centres((low, high), n, inset, spacing):
        if c - diameter / 2 < low + WALL - CONTACT or c + diameter / 2 > high - WALL + CONTACT:
            context.fault(
                "spacing" if spacing is not None else "inset",
                "a dowel comes out at the joint's end",
                f"at least {context.shown(WALL + diameter / 2)} from its middle to the end",
                context.shown(min(c - low, high - c)),
            )
        elif kept and c - diameter / 2 < kept[-1].high + CONTACT:
            context.fault(
                "number",
                f"{n} dowels of {context.shown(diameter)} run into one another",
                f"apart from each other over {context.shown(run)}",
                str(n),
            )
            break
        else:
            kept.append(Finger(c - diameter / 2, c + diameter / 2, context.a.key))
    return tuple(kept)


def _depths(context: JointContext, diameter: float) -> bool:
    """Whether both borings end inside their boards."""
    contact, a, b = context.contact, context.a, context.b
    axis = contact.across if contact.kind == "edge" else b.frame.normal
    default = half_mm(min(DEEP * diameter + 1, (a.span.span(axis)[1] - a.span.span(axis)[0]) / 2))
    fine = _edge_depth(context, "depth_edge", a, axis, context.figure("depth_edge", default))
    if contact.kind == "edge":
        context.figures["depth_face"] = context.figure("depth_face", default)
        return _edge_depth(context, "depth_face", b, axis, context.figures["depth_face"]) and fine
    return context.depth_in("depth_face", b, half_mm(b.thickness * 2 / 3), "a dowel's hole") > 0 and fine


def _edge_depth(context: JointContext, field: str, blank: Blank, axis: str, depth: float) -> bool:
    low, high = blank.extents.span(axis)
    if CONTACT < depth < high - low - WALL:
        return True
    most = high - low - WALL
    context.fault(
        field,
        f"a dowel's hole {context.shown(depth)} deep in the edge of {blank.record.name}, which is {context.shown(high - low)} long there",
        f"more than 0, less than {context.shown(most)}",
        context.shown(depth),
        "too_deep",
        would_do=half_mm(most / 2),
        part=blank.key,
    )
    return False


def edge_bore(
    context: JointContext, blank: Blank, axis: str, side: str, place: tuple[float, float], diameter: float, depth: float
) -> EdgeBore:
    """A bore into the edge of a board at its ``side`` along ``axis``; ``place`` is (along the run, along the board's normal) in the room."""
    run_axis = context.contact.axis
    across = "u" if blank.frame.u == axis else "v"
    edge_at = blank.grown.span(axis)[1 if side == "high" else 0]
    local = blank.point({axis: edge_at, run_axis: place[0]})
    at, along = local if across == "u" else local[::-1]
    word = FACES[axis][1 if side == "high" else 0]
    return EdgeBore(word, across, side, at, along, blank.height(place[1]), diameter, depth, context.owner)  # type: ignore[arg-type]


def cuts(context: JointContext, dowels: tuple[Finger, ...], fit: float) -> tuple[list[Operation], list[Operation]]:
    """The borings in both boards, in line."""
    a, b, contact = context.a, context.b, context.contact
    low, high = a.span.span(a.frame.normal)
    middle = (low + high) / 2
    ops_a: list[Operation] = []
    ops_b: list[Operation] = []
    for dowel in dowels:
        at = (dowel.low + dowel.high) / 2
        hole = context.figures["diameter"] + fit
        if hole <= CONTACT:
            context.fault(
                "fit",
                f"a fit of {context.shown(fit)} leaves no hole",
                "diameter plus fit is greater than 0",
                context.shown(fit),
                would_do=0.0,
            )
            return [], []
        if contact.kind == "edge":
            ops_a.append(edge_bore(context, a, contact.across, contact.reach_a.side, (at, middle), hole, context.figures["depth_edge"]))
            ops_b.append(edge_bore(context, b, contact.across, contact.reach_b.side, (at, middle), hole, context.figures["depth_face"]))
            continue
        ops_a.append(edge_bore(context, a, b.frame.normal, contact.reach_a.side, (at, middle), hole, context.figures["depth_edge"]))
        u, v = b.point({a.frame.normal: middle, contact.axis: at})
        ops_b.append(Pocket(circle(u, v, hole / 2, context.owner), context.owner, context.face_b, context.figures["depth_face"], "hole"))
    return ops_a, ops_b


def holds(context: JointContext) -> str:
    """The axis along which alone dowelled boards come apart."""
    return context.contact.across if context.contact.kind == "edge" else context.b.frame.normal
