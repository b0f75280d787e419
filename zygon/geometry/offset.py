"""Offsets of contours segment by segment: lines move, arcs change their radius and stay arcs.

The side: distance > 0 lies to the right of the direction of travel, which is away from the material for outer contours that run
counter-clockwise and for inner ones that run clockwise.
"""

from __future__ import annotations

import math

from zygon.geometry.arc import arc_from_bulge, bulge_from_angle
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour, Point, Segment, circle
from zygon.geometry.intersect import circle_circle, line_circle, line_line
from zygon.tolerance import EPS

__all__ = ["EQUAL", "OffsetError", "gets_in", "offset"]

#: A place counts as just as wide as a tool within twice this (mm).
EQUAL = 5e-4

#: A convex corner of lines is drawn out to a point unless that is farther than this many offsets away (an angle under 60 degrees).
MITRE_LIMIT = 2.0
#: Where the offsets' ends come this near (mm), the run is smooth: junctions out of booleans are exact to a hundredth of this.
SMOOTH = 2e-5
#: Carriers that just miss one another, while the offsets' ends lie this near (mm), meet half way.
GRAZED = 1e-3


class OffsetError(ValueError):
    """The contour has a place narrower than the offset; ``at`` is where."""

    def __init__(self, at: Point) -> None:
        super().__init__(f"too narrow at {at[0]:.3f}, {at[1]:.3f}")
        self.at = at


def offset(contour: Contour, distance: float) -> Contour:
    """The closed contour ``distance`` mm to the right of its travel. Raises OffsetError where it is too narrow for that."""
    if abs(distance) < EPS:
        return contour
    round_ = contour.as_circle
    if round_:
        cx, cy, r = round_
        grown = r + distance if contour.area > 0 else r - distance
        if grown <= EPS:
            raise OffsetError((cx, cy))
        owner = contour.owners[0]
        return circle(cx, cy, grown, owner).wound(contour.area > 0)
    segments = contour.segments()
    while True:
        if len(segments) < 2:
            raise OffsetError(contour.points[0])
        built = _walk(segments, distance)
        if isinstance(built, int):  # this segment vanishes; its neighbours meet directly
            segments = segments[:built] + segments[built + 1 :]
            continue
        _verify(built, contour)
        return built


def gets_in(opening: Contour, width: float) -> bool:
    """Whether a round tool ``width`` mm wide gets into an opening everywhere, but for its corners, wound either way; one that is just as wide as it does."""
    if width <= 2 * EQUAL:
        return True
    try:
        offset(opening.wound(ccw=False), width / 2 - EQUAL)
    except OffsetError:
        return False
    return True


def _walk(segments: list[Segment], d: float) -> Contour | int:
    """The offset contour, or the index of a segment that vanishes."""
    n = len(segments)
    joints = [_joint(segments[i - 1], segments[i], d) for i in range(n)]  # joints[i]: before segment i
    points: list[Point] = []
    bulges: list[float] = []
    owners: list[str] = []
    for i, segment in enumerate(segments):
        start, end = joints[i][-1], joints[(i + 1) % n][0]
        bulge = _moved_bulge(segment, start, end, d)
        if bulge is None:
            return i
        if len(joints[i]) == 2:  # an arc about the corner
            points.append(joints[i][0])
            bulges.append(bulge_from_angle(_turn(segments[i - 1], segment)))
            owners.append(segment.owner)
        if math.dist(start, end) > EPS:
            points.append(start)
            bulges.append(bulge)
            owners.append(segment.owner)
    return Contour(tuple(points), tuple(bulges), tuple(owners))


def _turn(a: Segment, b: Segment) -> float:
    """Signed turn from the end of a to the start of b, positive to the left."""
    return _turn_between(a.tangents()[1], b.tangents()[0])


def _turn_between(u: Point, v: Point) -> float:
    (ux, uy), (vx, vy) = u, v
    return math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)


def _shift(p: Point, direction: Point, d: float) -> Point:
    return p[0] + direction[1] * d, p[1] - direction[0] * d


def _joint(a: Segment, b: Segment, d: float) -> tuple[Point, ...]:
    """Where the offsets of a and b meet: one point, or the two ends of an arc about the corner."""
    u, v = a.tangents()[1], b.tangents()[0]
    end, start = _shift(a.q, u, d), _shift(b.p, v, d)
    turn = _turn_between(u, v)
    if math.dist(a.q, b.p) < EPS:
        if math.dist(end, start) < SMOOTH:
            return (end,)
        if turn * d > 0:  # the gap opens
            if not a.bulge and not b.bulge and 1 / max(math.cos(turn / 2), EPS) <= MITRE_LIMIT:
                return (line_line(end, u, start, v)[0],)
            return (end, start)
    near = ((end[0] + start[0]) / 2, (end[1] + start[1]) / 2)
    found = min(_carriers_meet(a, b, d), key=lambda p: math.dist(p, near), default=None)
    if found is None:
        if math.dist(end, start) > GRAZED:
            raise OffsetError(b.p)
        found = near
    return (found,)


def _carriers_meet(a: Segment, b: Segment, d: float) -> list[Point]:
    la, lb = _carrier(a, d), _carrier(b, d)
    if len(la[1]) == 2 and len(lb[1]) == 2:
        return line_line(la[0], la[1], lb[0], lb[1])
    if len(la[1]) == 1 and len(lb[1]) == 1:
        return circle_circle(la[0], la[1][0], lb[0], lb[1][0])
    line, arc = (la, lb) if len(la[1]) == 2 else (lb, la)
    return line_circle(line[0], line[1], arc[0], arc[1][0])


def _carrier(s: Segment, d: float) -> tuple[Point, tuple]:
    """(point, direction) of an offset line or (centre, (radius,)) of an offset arc."""
    if not s.bulge:
        u = s.tangents()[0]
        return _shift(s.p, u, d), u
    cx, cy, r, _, sweep = arc_from_bulge(s.p, s.q, s.bulge)
    return (cx, cy), (max(r + d * (1 if sweep > 0 else -1), 0.0),)


def _moved_bulge(s: Segment, start: Point, end: Point, d: float) -> float | None:
    """The bulge of the offset segment between its joints; None where it has turned round or shrunk away."""
    if not s.bulge:
        u = s.tangents()[0]
        along = (end[0] - start[0]) * u[0] + (end[1] - start[1]) * u[1]
        return 0.0 if along > EPS else None
    cx, cy, r, _, sweep = arc_from_bulge(s.p, s.q, s.bulge)
    if r + d * (1 if sweep > 0 else -1) <= EPS:
        return None
    turn = math.atan2(end[1] - cy, end[0] - cx) - math.atan2(start[1] - cy, start[0] - cx)
    turn = turn % (2 * math.pi) if sweep > 0 else -((-turn) % (2 * math.pi))
    # an arc that trimming has eaten up comes out as nearly a full turn the same way
    if abs(turn) > abs(sweep) + math.pi:
        return None
    return bulge_from_angle(turn)


def _verify(built: Contour, original: Contour) -> None:
    """Raises OffsetError where the offset crosses itself."""
    if len(built.points) < (2 if any(built.bulges) else 3) or len(built.flatten(0.01)) < 3:
        raise OffsetError(original.points[0])
    polygon = to_polygon(built, 0.01)
    if not polygon.is_valid or polygon.area == 0 or (built.area > 0) != (original.area > 0):
        raise OffsetError(_crossing(polygon, original))


def _crossing(polygon, original: Contour) -> Point:
    import shapely

    reason = shapely.is_valid_reason(polygon)
    if "[" in reason:
        x, y = reason.split("[")[1].rstrip("]").split()[:2]
        return float(x), float(y)
    return original.points[0]
