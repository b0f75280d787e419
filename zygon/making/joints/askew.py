"""Tabs, cross laps and half-laps of boards that stand at any other angle than square; everything is cut straight through.

What has to pass through a board at an angle needs a wider slot: the smallest one that encloses it is taken.
"""

from __future__ import annotations

import numpy as np
import shapely

from zygon.geometry.contour import Contour, polygon
from zygon.making.blanks.blank import Blank
from zygon.making.joints.angle import Edge, Meeting, beyond, corners_of, grow_to, hull_of, reach_along, strip
from zygon.making.joints.base import OVERSHOOT, JointContext
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut, Operation, Pocket
from zygon.tolerance import CONTACT, EPS

__all__ = ["crossing", "lap_pockets", "looks_low", "notches", "open_side", "run_axis", "run_way", "tab_cuts", "tab_run"]

#: Past the board's edge, where a cut leaves it (mm).
PAST = 1.0
#: A tab at a flatter angle would be longer than this many thicknesses.
MOST = 8.0


def _tab_ends(context: JointContext) -> tuple[Edge, Edge, float, float]:
    """b's near and far face as they cut a; how far out the shoulders lie, and the tabs' ends."""
    near, far = context.meeting.face(near=True), context.meeting.face(near=False)
    stand = context.read(context.record.stand_over, "stand_over") or 0.0
    return near, far, near.inner, far.inner + stand


def tab_run(context: JointContext) -> tuple[float, float] | None:
    """The stretch along a's end over which both boards are there; None with a fault where tabs cannot go through."""
    near, _, shoulder, end = _tab_ends(context)
    a, b = context.a, context.b
    if end - shoulder <= CONTACT or end - shoulder > MOST * max(a.thickness, b.thickness):
        context.fault("kind", f"{a.record.name} meets {b.record.name} too flat for tabs to go through", "a steeper angle", "", "too_flat")
        return None
    own = reach_along(a, near.along)
    lines = [context.meeting.q.point(c) for c in corners_of(b)]
    theirs = [near.along[0] * p[0] + near.along[1] * p[1] for p in lines]
    low, high = max(own[0], min(theirs)), min(own[1], max(theirs))
    if high - low <= CONTACT:
        context.fault(
            "kind", f"{a.record.name} ends beside {b.record.name}", "both boards are there where the tabs go through", "", "joint_value"
        )
        return None
    grow_to(a, Edge(near.way, end, end), MOST * max(a.thickness, b.thickness))
    return low, high


def tab_cuts(context: JointContext, tabs: tuple[Finger, ...], fit: float) -> tuple[list[Cut], list[Cut]]:
    """What is taken off a between and beyond its tabs, and the slots in b that enclose them."""
    near, far, shoulder, end = _tab_ends(context)
    a, owner = context.a, context.owner
    low, high = reach_along(a, near.along)
    out = max(beyond(a, near), end) + PAST
    found = []
    stops = [low - PAST, *(x for t in tabs for x in (t.low, t.high)), high + PAST]
    for start, stop in zip(stops[::2], stops[1::2], strict=True):
        if stop - start > CONTACT:
            found.append(Cut(strip(near, (shoulder, out), (start, stop), owner), owner))
    if beyond(a, near) > end + CONTACT:
        found += [Cut(strip(near, (end, out), (t.low, t.high), owner), owner) for t in tabs]
    slots = []
    for tab in tabs:
        points = []
        for w, first, last in ((0.0, near.low, far.low), (a.thickness, near.high, far.high)):
            for along in (tab.low, tab.high):
                for o in (first, min(last, end)):
                    u, v, _ = context.meeting.q.inverse.point((*near.point(o, along), w))
                    points.append((u, v))
        slot = hull_of(points, fit / 2, owner)
        if slot:
            slots.append(Cut(slot, owner))
    return found, slots


def looks_low(blank: Blank, way: tuple[float, float]) -> bool:
    """Whether a direction in (u, v) runs from a board's high end to its low one: along the axis that it lies nearer to, u where it lies between."""
    k = 1 if abs(way[1]) > abs(way[0]) + EPS else 0
    return way[k] < 0


def run_axis(blank: Blank, way: tuple[float, float]) -> str:
    """The board's own axis that a direction in (u, v) lies nearer to."""
    return blank.frame.v if abs(way[1]) > abs(way[0]) + EPS else blank.frame.u


def run_way(context: JointContext) -> tuple[float, float] | None:
    """The direction in a's (u, v) along which runs of boards at an angle are counted; None for other meetings."""
    return context.meeting.face(near=True).along if context.contact.kind == "angle" else None


def open_side(context: JointContext) -> str:
    """The side at which a's notch is open, as it lies along the run: 'high' is the board's own high end whichever way the run is counted."""
    side = context.record.side
    way = run_way(context)
    if way is None or not looks_low(context.a, way):
        return side
    return "low" if side == "high" else "high"


def _band(meeting: Meeting) -> tuple[Edge, float, float]:
    """The strip of board a that b's thickness takes up: an edge for its direction, and its two sides along the edge's way."""
    near, far = meeting.face(near=True), meeting.face(near=False)
    places = (near.low, near.high, far.low, far.high)
    return near, min(places), max(places)


def _present(blank: Blank, edge: Edge, low: float, high: float) -> tuple[float, float] | None:
    """Where along the edge the board is there within a strip."""
    u0, v0, u1, v1 = blank.bounds()
    far = sum(abs(x) for x in (u0, v0, u1, v1)) + 10.0
    inside = shapely.intersection(shapely.box(u0, v0, u1, v1), shapely.Polygon(strip(edge, (low, high), (-far, far), "").points))
    if inside.is_empty:
        return None
    p = shapely.get_coordinates(inside)
    found = p @ np.array(edge.along)
    return float(found.min()), float(found.max())


def crossing(context: JointContext) -> tuple[float, float] | None:
    """The stretch over which the boards cross, along the line that both planes share, in a's coordinate along it; None where they do not."""
    edge, low, high = _band(context.meeting)
    own = _present(context.a, edge, low, high)
    back = context.meeting.turned_round()
    other_edge, other_low, other_high = _band(back)
    other = _present(context.b, other_edge, other_low, other_high)
    if own is None or other is None:
        return None
    middle = (other_low + other_high) / 2
    places = []
    for along in other:
        u, v, _ = context.meeting.q.point((*other_edge.point(middle, along), context.b.thickness / 2))
        places.append(edge.along[0] * u + edge.along[1] * v)
    run = max(own[0], min(places)), min(own[1], max(places))
    return run if run[1] - run[0] > CONTACT else None


def notches(context: JointContext, split: float, side: str, fit: float) -> tuple[list[Cut], list[Cut]]:
    """A notch in each board from ``split`` (a's coordinate along the crossing) to its open edge, wide enough for the other at its angle."""
    edge, low, high = _band(context.meeting)
    at = context.meeting.q.inverse.point((*edge.point((low + high) / 2, split), context.a.thickness / 2))
    forward = context.meeting.q.inverse.vector((*edge.along, 0.0))
    back = context.meeting.turned_round()
    other_edge, other_low, other_high = _band(back)
    other_split = other_edge.along[0] * at[0] + other_edge.along[1] * at[1]
    same_way = other_edge.along[0] * forward[0] + other_edge.along[1] * forward[1] > 0
    other_side = ("low" if side == "high" else "high") if same_way else side
    return (
        [Cut(_notch(context.a, edge, (low - fit / 2, high + fit / 2), split, side, context.owner), context.owner)],
        [
            Cut(
                _notch(context.b, other_edge, (other_low - fit / 2, other_high + fit / 2), other_split, other_side, context.owner),
                context.owner,
            )
        ],
    )


def _notch(blank: Blank, edge: Edge, out: tuple[float, float], split: float, side: str, owner: str) -> Contour:
    low, high = reach_along(blank, edge.along)
    return strip(edge, out, (split, high + PAST) if side == "high" else (low - PAST, split), owner)


def lap_pockets(context: JointContext, share: float, fit: float) -> tuple[list[Operation], list[Operation]]:
    """Where two boards cross in one plane at an angle, a pocket in each, as wide as the other is and the fit."""
    meeting, keeps_low = context.meeting, (context.record.keeps == "low") == (context.a.frame.up > 0)
    t, q = context.a.thickness, meeting.q
    ends = sorted((q.point((0, 0, 0))[2], q.point((0, 0, context.b.thickness))[2]))
    low, high = max(0.0, ends[0]), min(t, ends[1])
    split = high - share * (high - low) if keeps_low else low + share * (high - low)
    depth_a = t - split if keeps_low else split
    depth_b = split - ends[0] if keeps_low else ends[1] - split
    context.figures["depth_a"], context.figures["depth_b"] = depth_a, depth_b
    face_a = "a" if keeps_low else "b"
    same_way = q.rows[2][2] > 0
    face_b = ("b" if keeps_low else "a") if same_way else ("a" if keeps_low else "b")
    found: list[list[Operation]] = []
    for own, seen, face, depth in ((context.a, meeting, face_a, depth_a), (context.b, meeting.turned_round(), face_b, depth_b)):
        contour = _covered(own, seen, fit / 2, context.owner)
        found.append([Pocket(contour, context.owner, face, depth, "lap")] if contour and depth < own.thickness - CONTACT else [])  # type: ignore[arg-type]
    return found[0], found[1]


def _covered(own: Blank, meeting: Meeting, grown: float, owner: str) -> Contour | None:
    """The part of a board that the other one covers, a little past its own edges."""
    u0, v0, u1, v1 = meeting.b.bounds()
    corners = [meeting.q.point((u, v, 0.0))[:2] for u, v in ((u0, v0), (u1, v0), (u1, v1), (u0, v1))]
    other = shapely.buffer(shapely.Polygon(corners), grown, join_style="mitre")
    u0, v0, u1, v1 = own.bounds()
    shape = shapely.intersection(other, shapely.box(u0 - OVERSHOOT, v0 - OVERSHOOT, u1 + OVERSHOOT, v1 + OVERSHOOT))
    if shape.geom_type != "Polygon" or shape.area < CONTACT:
        return None
    ring = shapely.get_coordinates(shape.exterior)[:-1]
    return polygon([tuple(p) for p in ring.tolist()], owner).wound(ccw=True)
