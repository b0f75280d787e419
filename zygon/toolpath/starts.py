"""Where a closed contour may be begun, and the same contour begun there."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from zygon.geometry.contour import Contour, Point

__all__ = ["Start", "begun_at", "starts_of"]

#: A vertex is a corner where the path turns by at least so much (degrees).
CORNER = math.radians(20)
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
        half = math.tan(math.atan(bulges[k]) / 2)
        points.insert(k + 1, start.at)
        bulges[k : k + 1] = [half, half]
        owners.insert(k, owners[k])
        k += 1
    points, bulges, owners = points[k:] + points[:k], bulges[k:] + bulges[:k], owners[k:] + owners[:k]
    return Contour((*points, points[0]), tuple(bulges), tuple(owners), closed=False)
