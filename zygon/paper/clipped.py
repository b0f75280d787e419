"""Strokes and cut faces cut to what lies in a circle: lines and arcs stay lines and arcs."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import shapely

from zygon.paper.ink import Arc, Curve, Line, Point
from zygon.paper.strokes import Stroke
from zygon.paper.view import CutFace
from zygon.tolerance import EPS, SEEN

__all__ = ["faces_within", "within_circle"]

#: Corners of the polygon that stands for a circle where faces are cut to it.
CORNERS = 128
#: Shares of a stroke that are nearer to one another are one.
SHARE = 1e-9


def within_circle(strokes: Iterable[Stroke], centre: Point, radius: float) -> list[Stroke]:
    """What of the strokes lies in the circle (mm of the view)."""
    found: list[Stroke] = []
    for s in strokes:
        if isinstance(s, Line):
            found += _line(s, centre, radius)
        elif isinstance(s, Arc):
            found += _arc(s, centre, radius)
        else:
            found += _curve(s, centre, radius)
    return found


def _shares(p: Point, q: Point, centre: Point, radius: float) -> tuple[float, float] | None:
    """Between which shares of the way from p to q it lies in the circle; None where it does nowhere."""
    dx, dy = q[0] - p[0], q[1] - p[1]
    x, y = p[0] - centre[0], p[1] - centre[1]
    a, b, c = dx * dx + dy * dy, dx * x + dy * y, x * x + y * y - radius * radius
    root = b * b - a * c
    if a < EPS or root <= 0:
        return None
    half = math.sqrt(root)
    low, high = max(0.0, (-b - half) / a), min(1.0, (-b + half) / a)
    return (low, high) if high - low > SHARE else None


def _between(p: Point, q: Point, share: float) -> Point:
    return p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share


def _line(s: Line, centre: Point, radius: float) -> list[Stroke]:
    found = _shares(s.p, s.q, centre, radius)
    return [] if found is None else [Line(s.pen, _between(s.p, s.q, found[0]), _between(s.p, s.q, found[1]), s.of)]


def _arc(s: Arc, centre: Point, radius: float) -> list[Stroke]:
    """The runs of an arc between where it meets the circle, those whose middle lies within."""
    away = math.dist(s.centre, centre)
    shares = [0.0, 1.0]
    if away > EPS and abs(radius - s.radius) < away < radius + s.radius:
        turn = math.atan2(centre[1] - s.centre[1], centre[0] - s.centre[0])
        half = math.acos((s.radius**2 + away**2 - radius**2) / (2 * s.radius * away))
        for angle in (turn - half, turn + half):
            on = (angle - s.start) * (1 if s.sweep > 0 else -1) % (2 * math.pi)
            if on < abs(s.sweep):
                shares.append(on / abs(s.sweep))
    shares.sort()
    found: list[Stroke] = []
    for a, b in zip(shares, shares[1:], strict=False):
        if b - a > SHARE and math.dist(s.at((a + b) / 2), centre) < radius:
            found.append(Arc(s.pen, s.centre, s.radius, s.start + s.sweep * a, s.sweep * (b - a), s.of))
    return found


def _curve(s: Curve, centre: Point, radius: float) -> list[Stroke]:
    found: list[Stroke] = []
    run: list[Point] = []
    for p, q in zip(s.points, s.points[1:], strict=False):
        cut = _shares(p, q, centre, radius)
        if cut is None:
            ends = None
        else:
            ends = _between(p, q, cut[0]), _between(p, q, cut[1])
        if ends is not None and run and math.dist(run[-1], ends[0]) < SEEN / 10:
            run.append(ends[1])
            continue
        if len(run) > 1:
            found.append(Curve(s.pen, tuple(run), s.of))
        run = [*ends] if ends else []
    if len(run) > 1:
        found.append(Curve(s.pen, tuple(run), s.of))
    return found


def faces_within(faces: Sequence[CutFace], centre: Point, radius: float) -> tuple[CutFace, ...]:
    """What of the faces that a section cuts lies in the circle."""
    turn = 2 * math.pi / CORNERS
    disc = shapely.Polygon([(centre[0] + radius * math.cos(k * turn), centre[1] + radius * math.sin(k * turn)) for k in range(CORNERS)])
    return tuple(part for f in faces for part in face_in(f, disc))


def face_in(face: CutFace, region: shapely.Geometry) -> list[CutFace]:
    """What of a face lies in a region, a face each piece."""
    whole = shapely.Polygon(face.rings[0], face.rings[1:]).buffer(0)
    found = []
    for p in shapely.get_parts(shapely.intersection(whole, region)):
        if p.geom_type == "Polygon" and p.area > EPS:
            rings = tuple(tuple((x, y) for x, y in ring.coords) for ring in (p.exterior, *p.interiors))
            found.append(CutFace(face.of, face.hatch, face.turn, rings))
    return found
