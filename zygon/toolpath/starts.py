"""Where a closed contour may be begun, and the same contour begun there."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour, Point, Segment
from zygon.tolerance import EPS
from zygon.toolpath.stretches import along

__all__ = ["Start", "begun_at", "start_near", "starts_of"]

#: A vertex is a corner where the path turns by at least so much (degrees).
CORNER = math.radians(20)
#: A place by hand so near to a corner (mm) means that corner.
SNAP = 1.5
#: So many places of each kind are tried.
MOST = 6


@dataclass(frozen=True)
class Start:
    """On a segment of a contour, so far along it (0 to 1): its place, and which way the path leaves it and comes back to it (unit directions)."""

    segment: int
    share: float
    at: Point
    leaves: Point
    comes: Point


def starts_of(contour: Contour, wanted: Literal["corner", "middle"]) -> list[Start]:
    """Places to begin at, the wanted kind first: corners, or the middles of the longest segments."""
    segments = contour.segments()
    corners, middles = [], []
    for i, s in enumerate(segments):
        before = segments[i - 1].tangents()[1]
        leaves = s.tangents()[0]
        turn = math.atan2(before[0] * leaves[1] - before[1] * leaves[0], before[0] * leaves[0] + before[1] * leaves[1])
        if abs(turn) >= CORNER:
            # material lies to the left: a corner that turns left stands out of the part, and burns least
            corners.append((turn, Start(i, 0.0, s.p, leaves, before)))
        at, way = _amid(contour, i)
        middles.append((s.length, Start(i, 0.5, at, way, way)))
    found = [[c for _, c in sorted(corners, key=lambda tc: -tc[0])[:MOST]], [m for _, m in sorted(middles, key=lambda lm: -lm[0])[:MOST]]]
    return found[0] + found[1] if wanted == "corner" else found[1] + found[0]


def start_near(contour: Contour, place: Point) -> Start:
    """The place on a closed contour that is nearest to one: a corner where it lies within ``SNAP`` of it."""
    segments = contour.segments()
    found = []
    for i, s in enumerate(segments):
        share = _nearest_share(s, place)
        at = along(s, share)
        found.append((math.dist(at, place), i, share, at))
    _, i, share, at = min(found)
    for k, whole in ((i, 0.0), ((i + 1) % len(segments), 1.0)):
        corner = segments[k].p
        before, leaves = segments[k - 1].tangents()[1], segments[k].tangents()[0]
        if math.dist(at, corner) <= SNAP and math.dist(before, leaves) > 2 * math.sin(CORNER / 2):
            return Start(k, 0.0, corner, leaves, before)
        if abs(share - whole) < EPS:
            return Start(k, 0.0, corner, leaves, before)
    way = _way_at(segments[i], share)
    return Start(i, share, at, way, way)


def _nearest_share(s: Segment, place: Point) -> float:
    """How far along a segment (0 to 1) it is nearest to a place."""
    if not s.bulge:
        dx, dy = s.q[0] - s.p[0], s.q[1] - s.p[1]
        return min(1.0, max(0.0, ((place[0] - s.p[0]) * dx + (place[1] - s.p[1]) * dy) / (dx * dx + dy * dy)))
    x, y, _, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
    turn = (math.atan2(place[1] - y, place[0] - x) - start) % (2 * math.pi)
    share = turn / sweep if sweep > 0 else (turn - 2 * math.pi) / sweep
    return share if share <= 1 else (1.0 if math.dist(place, s.q) < math.dist(place, s.p) else 0.0)


def _way_at(s: Segment, share: float) -> Point:
    """Which way a segment goes there."""
    if not s.bulge:
        return s.tangents()[0]
    _, _, _, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
    turn, hand = start + sweep * share, math.copysign(1.0, sweep)
    return -hand * math.sin(turn), hand * math.cos(turn)


def _amid(contour: Contour, i: int) -> tuple[Point, Point]:
    """The middle of a segment and the way through it: of an arc along its chord."""
    s = contour.segments()[i]
    chord = math.dist(s.p, s.q)
    way = (s.q[0] - s.p[0]) / chord, (s.q[1] - s.p[1]) / chord
    # the top of an arc stands off its chord by half of it times the bulge, to the right where that is over 0
    rise = s.bulge * chord / 2
    return ((s.p[0] + s.q[0]) / 2 + way[1] * rise, (s.p[1] + s.q[1]) / 2 - way[0] * rise), way


def begun_at(contour: Contour, start: Start) -> Contour:
    """The closed contour as an open run from a start once round to it; arcs stay on their circles."""
    points, bulges, owners = list(contour.points), list(contour.bulges), list(contour.owners)
    k = start.segment
    if start.share:
        turn = math.atan(bulges[k])
        points.insert(k + 1, start.at)
        bulges[k : k + 1] = [math.tan(turn * start.share), math.tan(turn * (1 - start.share))]
        owners.insert(k, owners[k])
        k += 1
    points, bulges, owners = points[k:] + points[:k], bulges[k:] + bulges[:k], owners[k:] + owners[:k]
    return Contour((*points, points[0]), tuple(bulges), tuple(owners), closed=False)
