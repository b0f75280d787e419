"""Boards that meet at an angle: how they lie to each other, planes as lines on a board's faces, and straight cuts along such lines.

Lengths are mm in a board's own (u, v, w). A plane that is not parallel to a board cuts its two faces in two parallel lines; they are given
as ``way`` (a unit direction in (u, v), outward), and how far along it the line lies on face B and on face A.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
import shapely

from zygon.geometry.contour import Contour, polygon
from zygon.geometry.motion import Motion, three
from zygon.making.blanks.blank import Blank
from zygon.making.datums.measuring import Spot, shortest
from zygon.making.joints.contact import Contact, Reach
from zygon.making.result.box import Box
from zygon.making.result.operations import Bevel, Cut
from zygon.measure.display import Display, format_length
from zygon.tolerance import CONTACT, EPS, MERGED, WITHIN

__all__ = ["Edge", "Meeting", "beyond", "cut_off", "edge_of_plane", "find_angle", "grow_to", "hull_of", "meeting_of", "strip"]

#: Boards farther apart than this many thicknesses do not meet.
NEAR = 3.0
#: A board that runs on past another by more than this many thicknesses of that passes it, else it ends there.
PASSES = 2.5
#: Cuts reach this far past the board (mm).
PAST = 1.0
#: A board that grows to an edge grows this much past it (mm), which is cut off again.
CLEAN = 0.02


@dataclass(frozen=True)
class Edge:
    """Where a plane cuts a board: ``way`` outward in (u, v), and how far along it on face B (``low``) and on face A (``high``)."""

    way: tuple[float, float]
    low: float
    high: float

    @property
    def along(self) -> tuple[float, float]:
        """The direction of the line."""
        return -self.way[1], self.way[0]

    @property
    def inner(self) -> float:
        """The nearer of both lines."""
        return min(self.low, self.high)

    @property
    def outer(self) -> float:
        """The farther of both lines."""
        return max(self.low, self.high)

    def point(self, out: float, along: float) -> tuple[float, float]:
        """(u, v) of a place ``out`` along the way and ``along`` the line."""
        return self.way[0] * out - self.way[1] * along, self.way[1] * out + self.way[0] * along

    def turned(self) -> Edge:
        """The same lines with the other side outward."""
        return Edge((-self.way[0], -self.way[1]), -self.low, -self.high)


@dataclass(frozen=True)
class Meeting:
    """Board b as seen from board a: ``q`` takes b's (u, v, w) to a's."""

    a: Blank
    b: Blank
    q: Motion

    def turned_round(self) -> Meeting:
        """The meeting as the other board sees it."""
        return Meeting(self.b, self.a, self.q.inverse)

    def middle_of_b(self) -> tuple[float, float, float]:
        """The middle of b's extents in a's (u, v, w)."""
        u0, v0, u1, v1 = self.b.bounds()
        return self.q.point(((u0 + u1) / 2, (v0 + v1) / 2, self.b.thickness / 2))

    def face(self, near: bool) -> Edge:
        """Where b's near or far face, as a's middle sees it, cuts a; outward is away from a's middle. b is not parallel to a."""
        back = self.turned_round()
        below = back.middle_of_b()[2] < self.b.thickness / 2
        height = 0.0 if below == near else self.b.thickness
        n = self.q.inverse.rows[2]
        sign = 1.0 if below else -1.0
        found = edge_of_plane((sign * n[0], sign * n[1], sign * n[2]), sign * (height - n[3]), self.a.thickness)
        assert found is not None, "boards at an angle are not parallel"
        return found


def meeting_of(a: Blank, b: Blank) -> Meeting:
    """Two boards as they lie in the room."""
    return Meeting(a, b, a.in_room.inverse @ b.in_room)


def edge_of_plane(normal: tuple[float, float, float], at: float, thickness: float) -> Edge | None:
    """Where a plane (``normal`` · p = ``at``, outward along the normal) cuts a board; None where it is parallel to the board."""
    m = math.hypot(normal[0], normal[1])
    if m < WITHIN:
        return None
    return Edge((normal[0] / m, normal[1] / m), at / m, (at - normal[2] * thickness) / m)


def corners_of(blank: Blank) -> list[tuple[float, float, float]]:
    """The eight corners of a blank's extents in its own (u, v, w)."""
    u0, v0, u1, v1 = blank.bounds()
    return [(u, v, w) for u in (u0, u1) for v in (v0, v1) for w in (0.0, blank.thickness)]


def beyond(blank: Blank, edge: Edge) -> float:
    """How far the blank's extents reach along an edge's way."""
    return max(edge.way[0] * u + edge.way[1] * v for u, v, _ in corners_of(blank))


def reach_along(blank: Blank, direction: tuple[float, float]) -> tuple[float, float]:
    """Low and high of the blank's extents along a direction in (u, v)."""
    found = [direction[0] * u + direction[1] * v for u, v, _ in corners_of(blank)]
    return min(found), max(found)


def strip(edge: Edge, out: tuple[float, float], along: tuple[float, float], owner: str) -> Contour:
    """The rectangle from ``out`` low to high along an edge's way and ``along`` low to high its line, counter-clockwise."""
    (o0, o1), (l0, l1) = out, along
    return polygon([edge.point(o, line) for o, line in ((o0, l0), (o1, l0), (o1, l1), (o0, l1))], owner)


def cut_off(blank: Blank, edge: Edge, owner: str) -> list[Cut | Bevel]:
    """Takes away all that lies beyond an edge: square through where both lines are one, else a bevel; nothing where the board ends before."""
    far = beyond(blank, edge)
    if edge.inner >= far - CONTACT:
        return []
    low, high = reach_along(blank, edge.along)
    # the solid that is taken away is drawn on past both faces, and must not turn inside out there
    lean = abs(edge.high - edge.low) / blank.thickness
    out, run = max(far, edge.outer) + PAST * (1 + 2 * lean), (low - PAST, high + PAST)
    on_b, on_a = strip(edge, (edge.low, out), run, owner), strip(edge, (edge.high, out), run, owner)
    if abs(edge.low - edge.high) < CONTACT:
        return [Cut(on_b, owner)]
    return [Bevel(on_a, on_b, owner, edge=True)]


def grow_to(blank: Blank, edge: Edge, most: float) -> float:
    """Lets the side of a blank that looks along an edge's way reach out to its farther line; gives by how much it would grow (mm).

    Nothing is done where that is over ``most``.
    """
    k = 0 if abs(edge.way[0]) >= abs(edge.way[1]) else 1
    u0, v0, u1, v1 = blank.bounds()
    lows, highs = (u0, v0), (u1, v1)
    places = [(edge.outer - edge.way[1 - k] * x) / edge.way[k] for x in (lows[1 - k], highs[1 - k])]
    axis = (blank.frame.u, blank.frame.v)[k]
    high = edge.way[k] > 0
    to = max(places) if high else min(places)
    growth = to - highs[k] if high else lows[k] - to
    if CONTACT < growth <= most:
        # a little farther, so that the cut along the edge leaves a clean line and no slivers at its corners
        blank.grow(axis, "high" if high else "low", round(blank.origin[k] + to + (CLEAN if high else -CLEAN), 7))
    return growth


def hull_of(points: list[tuple[float, float]], grown: float, owner: str) -> Contour | None:
    """The convex outline of points, ``grown`` outward, counter-clockwise; None where nothing is left of it."""
    shape = shapely.convex_hull(shapely.multipoints(np.round(points, 9)))
    shape = shapely.buffer(shape, grown, join_style="mitre", mitre_limit=20) if grown else shape
    if shape.geom_type != "Polygon" or shape.area < CONTACT:
        return None
    ring = shapely.get_coordinates(shapely.orient_polygons(shape).exterior)[:-1]
    clean = shapely.get_coordinates(shapely.simplify(shapely.Polygon(ring), MERGED).exterior)[:-1]
    return polygon([tuple(p) for p in clean.tolist()], owner).wound(ccw=True)


def _spot(blank: Blank) -> Spot:
    u0, v0, u1, v1 = blank.bounds()
    m = blank.in_room
    sides = np.array([m.vector((u1 - u0, 0, 0)), m.vector((0, v1 - v0, 0)), m.vector((0, 0, blank.thickness))])
    return Spot(np.array(m.point((u0, v0, 0.0))), sides)


def _reach(meeting: Meeting) -> Reach:
    """How a meets b's slab: passes it, or ends there with its low or high side along b's w."""
    t = meeting.b.thickness
    u0, v0, u1, v1 = meeting.a.bounds()
    u, v, w = (u0 + u1) / 2, (v0 + v1) / 2, meeting.a.thickness / 2
    # by the middles of its edges: the corners of a board that is turned twice reach farther
    heights = [meeting.q.inverse.point(p)[2] for p in ((u0, v, w), (u1, v, w), (u, v0, w), (u, v1, w))]
    before, after = -min(heights), max(heights) - t
    if min(before, after) > PASSES * max(t, meeting.a.thickness):
        return Reach("passes")
    return Reach("near", "high" if before > after else "low")


def find_angle(a: Blank, b: Blank, display: Display = "mm") -> Contact:
    """How two boards that are not square or parallel to each other meet: 'angle', or 'angle_lap' in one plane; or not, with the reason."""
    name_a, name_b = a.record.name, b.record.name
    none = Contact("none", reason="")
    apart = shortest(_spot(a), _spot(b))[0]
    if apart > NEAR * max(a.thickness, b.thickness):
        return replace(none, reason=f"{name_a} and {name_b} lie {format_length(apart, display)} apart")
    meeting = meeting_of(a, b)
    if abs(meeting.q.rows[2][2]) > 1 - EPS:
        low, high = sorted((meeting.q.point((0, 0, 0))[2], meeting.q.point((0, 0, b.thickness))[2]))
        if min(high, a.thickness) - max(low, 0.0) <= CONTACT:
            return replace(none, reason=f"{name_a} and {name_b} are parallel and turned to each other, and do not lie in one plane")
        if apart > CONTACT:
            return replace(none, reason=f"{name_a} and {name_b} lie {format_length(apart, display)} apart")
        return Contact("angle_lap", a.frame.normal, b.frame.normal)
    return Contact("angle", a.frame.normal, b.frame.normal, reach_a=_reach(meeting), reach_b=_reach(meeting.turned_round()))


def same_frame(a: Blank, b: Blank) -> bool:
    """Whether both boards' boxes lie along the same axes."""
    return a.place.same(b.place)


def moved_box(box: Box, motion: Motion) -> Box:
    """The box that a motion along the axes makes of a box."""
    corners = [motion.point(box.low), motion.point(box.high)]
    low, high = (three(round(f(c[i] for c in corners), 7) for i in range(3)) for f in (min, max))
    return Box(low, high)
