"""Tab and slot: the edge of one board goes through the face of another in tabs."""

from __future__ import annotations

from dataclasses import replace

from zygon.geometry.contour import rectangle
from zygon.making.blanks.blank import Blank
from zygon.making.joints.askew import looks_low, run_way, tab_cuts, tab_run
from zygon.making.joints.base import OVERSHOOT, JointContext, both_ways
from zygon.making.joints.contact import Contact
from zygon.making.joints.spread import centres, number_of, spaced
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut
from zygon.tolerance import CONTACT

__all__ = ["cuts", "layout", "offers", "refusal"]

#: A tab is this many thicknesses long where nothing is said, and one stands for about every so many mm of run.
DEFAULT_LENGTH = 3.0
DEFAULT_EVERY = 160.0


def refusal(contact: Contact) -> str:
    """Why board a's edge cannot go through board b's face; '' where it can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind in ("edge", "lap", "faces"):
        return "a tab goes through a face that its board stands square to, and these boards lie parallel"
    if contact.kind == "angle_lap":
        return "a tab goes through a face that its board stands at an angle to, and these lie in one plane"
    if contact.reach_a.ends:
        return ""
    if contact.kind == "angle":
        return "a tab is cut on an edge, and here the board runs on past the other"
    if contact.kind == "tee":
        return "a tab is cut on an edge, and here it is the other board whose edge meets a face"
    return "a tab is cut on an edge, and these boards cross"


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """The ways this joint could be made at a contact: tabs on either board."""
    return both_ways("tab_slot", contact, lambda a, b: f"Tabs on {a} through {b}", refusal, name_a, name_b)


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The tabs along the run, in the room's mm, low to high. Tabs that do not fit are a fault and left out."""
    run = tab_run(context) if context.contact.kind == "angle" else context.contact.run
    if run is None:
        return ()
    low, high = run
    if context.contact.kind == "angle":
        context = replace(context, contact=replace(context.contact, run=run))
    spans = _listed(context, low, high) if context.record.tabs else _spread(context, low, high)
    return spaced(context, spans, "a tab", context.a.key, "length")


def _listed(context: JointContext, low: float, high: float) -> list[tuple[float, float]]:
    spans = []
    way = run_way(context)
    back = way is not None and looks_low(context.a, way)  # listed from the board's own low end, whichever way the run is counted
    for key, tab in context.record.tabs.items():
        at = context.read(tab.at, "tabs", key, "at") or 0.0
        length = context.read(tab.length, "tabs", key, "length") or 0.0
        middle = high - at if back else low + at
        spans.append((middle - length / 2, middle + length / 2))
    return spans


def _spread(context: JointContext, low: float, high: float) -> list[tuple[float, float]]:
    record, run, t = context.record, high - low, context.a.thickness
    n = number_of(context, max(1, round(run / DEFAULT_EVERY)), "tabs")
    length = context.figure("length", min(DEFAULT_LENGTH * t, run / (2 * n - 1 if n > 1 else 2)))
    inset = context.figure("inset", max(0.0, min(2 * t, (run - n * length) / 2 - (n - 1) * t / 2)))
    spacing = context.read(record.spacing, "spacing")
    return [(c - length / 2, c + length / 2) for c in centres((low, high), n, inset + length / 2, spacing)]


def cuts(context: JointContext, tabs: tuple[Finger, ...], fit: float) -> tuple[list[Cut], list[Cut]]:
    """Adds the tabs to blank a; gives the cuts between tabs in a (where its span runs through b) and the slots in b."""
    if context.contact.kind == "angle":
        return tab_cuts(context, tabs, fit) if tabs else ([], [])
    _web(context)
    contact, a, b = context.contact, context.a, context.b
    axis, across = contact.axis, b.frame.normal
    near, far = b.span.span(across)
    stand = max(context.read(context.record.stand_over, "stand_over") or 0.0, near - far)
    side = contact.reach_a.side
    depth = (near, far + stand) if side == "high" else (near - stand, far)
    cuts_a: list[Cut] = []
    if contact.reach_a.how == "far":  # the span runs through b already: take away what stands between the tabs
        low, high = contact.run
        edges = [low - OVERSHOOT, *(x for t in tabs for x in (t.low, t.high)), high + OVERSHOOT]
        slab = (near, far + OVERSHOOT) if side == "high" else (near - OVERSHOOT, far)
        for start, end in zip(edges[::2], edges[1::2], strict=True):
            if end - start > CONTACT + OVERSHOOT:
                cuts_a.append(Cut(rectangle(*a.local({across: slab, axis: (start, end)}), context.owner), context.owner))
    for tab in tabs:
        reach = depth if contact.reach_a.how == "near" else ((far, far + stand) if side == "high" else (near - stand, near))
        if reach[1] - reach[0] > CONTACT:
            # the tab bites a little into the board it stands on, so that their union has no seam
            root = (reach[0] - OVERSHOOT, reach[1]) if side == "high" else (reach[0], reach[1] + OVERSHOOT)
            a.add({across: root, axis: (tab.low, tab.high)}, context.owner)
    a0, a1 = a.span.span(a.frame.normal)
    slot_low, slot_high = _slot_across(a0, a1, b, a.frame.normal, fit)
    cuts_b = [
        Cut(
            rectangle(*b.local({a.frame.normal: (slot_low, slot_high), axis: (t.low - fit / 2, t.high + fit / 2)}), context.owner),
            context.owner,
        )
        for t in tabs
    ]
    return cuts_a, cuts_b


def _slot_across(a0: float, a1: float, b: Blank, normal: str, fit: float) -> tuple[float, float]:
    """The slot's extent across board a's thickness; open past b's end where b does not run on past a."""
    b0, b1 = b.extents.span(normal)
    low = b0 - OVERSHOOT if a0 - b0 <= CONTACT else a0 - fit / 2
    high = b1 + OVERSHOOT if b1 - a1 <= CONTACT else a1 + fit / 2
    return low, high


def _web(context: JointContext) -> None:
    """Notes what remains of b beyond the slots where b runs on past a, in mm."""
    a0, a1 = context.a.span.span(context.a.frame.normal)
    b0, b1 = context.b.extents.span(context.a.frame.normal)
    rest = min(a0 - b0, b1 - a1)
    if rest > CONTACT:
        context.figures["web"] = rest
