"""What runs along a flat's edges: the lines of its outline that a profile or a band follows, and the flat without its bands."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import TypeVar

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.boolean import Region, subtract
from zygon.geometry.contour import Contour, Point, Segment, polygon
from zygon.making.result.flat import Flat
from zygon.making.result.operations import Band, EdgeWork
from zygon.memo import Memo, digest
from zygon.owner import is_of
from zygon.tolerance import CONTACT, EPS

__all__ = ["without_bands", "worked_along"]

T = TypeVar("T", EdgeWork, Band)
_BARE = Memo(2000)
#: A band's strip reaches this far out past the edge (mm).
OUT = 0.01


def worked_along(operations: Sequence[T], pieces: Sequence[Region]) -> tuple[T, ...]:
    """Operations along edges with their runs on the pieces; those that find none of their edges left are not among them."""
    found = []
    for o in operations:
        reach = o.width if isinstance(o, EdgeWork) else o.thickness
        runs = [run for p in pieces for run in _runs(p.outer.wound(ccw=True), o, reach)]
        if runs:
            found.append(replace(o, runs=tuple(runs)))
    return tuple(found)


def _followed(segment: Segment, o: EdgeWork | Band) -> bool:
    return segment.owner in o.edges if o.edges else segment.owner not in o.without and not is_of(segment.owner, "joint", "bore")


def _runs(outer: Contour, o: EdgeWork | Band, reach: float) -> list[Contour]:
    """The runs of an outline's lines that are followed; at their ends they run out of the board, as far as ``reach`` inward asks for."""
    segments = outer.segments()
    n = len(segments)
    on = [_followed(s, o) for s in segments]
    if all(on):
        return [outer]
    found = []
    for first in (i for i in range(n) if on[i] and not on[i - 1]):
        run = []
        k = first
        while on[k % n] and k < first + n:
            run.append(segments[k % n])
            k += 1
        before, after = segments[first - 1], segments[k % n]
        points: list[Point] = [run[0].p, *(s.q for s in run)]
        bulges, owners = [s.bulge for s in run], [s.owner for s in run]
        start = _run_out(before.tangents()[1], run[0].tangents()[0], reach)
        if start:
            (dx, dy), _ = run[0].tangents()
            points.insert(0, (run[0].p[0] - dx * start, run[0].p[1] - dy * start))
            bulges.insert(0, 0.0)
            owners.insert(0, run[0].owner)
        end = _run_out(run[-1].tangents()[1], after.tangents()[0], reach)
        if end:
            _, (dx, dy) = run[-1].tangents()
            points.append((run[-1].q[0] + dx * end, run[-1].q[1] + dy * end))
            bulges.append(0.0)
            owners.append(run[-1].owner)
        found.append(Contour(tuple(points), tuple(bulges), tuple(owners), closed=False))
    return found


def _run_out(u: Point, v: Point, reach: float) -> float:
    """How far past a corner what is worked ``reach`` inward runs on, where the board is left at less than a right angle."""
    turn = math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1])
    if not CONTACT < turn < math.pi / 2 - CONTACT:
        return 0.0
    return reach / math.tan(turn) if turn > math.radians(5) else 0.0


def without_bands(flat: Flat) -> Flat:
    """The flat as it is cut: its outline farther in by each band that is glued on."""
    if not flat.bands:
        return flat
    key = digest("bare", flat.digest)

    def make() -> Flat:
        strips = [_strip(s, b.thickness, b.owner) for b in flat.bands for run in b.runs for s in run.segments()]
        pieces = subtract([p.outer for p in flat.pieces], [*flat.inside, *strips])
        kept = tuple(pieces)
        return replace(flat, pieces=kept, digest=key, edges=worked_along([_again(e, flat) for e in flat.edges], kept))

    return _BARE.get(key, make)[0]


def _again(e: EdgeWork, flat: Flat) -> EdgeWork:
    """Edge work that follows the bands' edges too, where it follows the edges that they are on."""
    banded = tuple(b.owner for b in flat.bands if not e.edges or set(b.edges) & set(e.edges) or not b.edges)
    return replace(e, edges=(*e.edges, *banded) if e.edges else ())


def _strip(s: Segment, thickness: float, owner: str) -> Contour:
    """What a band takes the place of along a line or an arc, the board to its left."""
    if not s.bulge:
        (dx, dy), _ = s.tangents()
        out, far = (dy * OUT, -dx * OUT), (-dy * thickness, dx * thickness)
        corners = [(s.p[0] + out[0], s.p[1] + out[1]), (s.q[0] + out[0], s.q[1] + out[1])]
        return polygon([*corners, (s.q[0] + far[0], s.q[1] + far[1]), (s.p[0] + far[0], s.p[1] + far[1])], owner)
    cx, cy, radius, _, _ = arc_from_bulge(s.p, s.q, s.bulge)
    inward = -1.0 if s.bulge > 0 else 1.0

    def at(p: Point, r: float) -> Point:
        return cx + (p[0] - cx) * r / radius, cy + (p[1] - cy) * r / radius

    outer, inner = radius - inward * OUT, radius + inward * thickness
    if inner <= EPS:
        return Contour((at(s.p, outer), at(s.q, outer), (cx, cy)), (s.bulge, 0.0, 0.0), (owner,) * 3)
    points = (at(s.p, outer), at(s.q, outer), at(s.q, inner), at(s.p, inner))
    return Contour(points, (s.bulge, 0.0, -s.bulge, 0.0), (owner,) * 4).wound(ccw=True)
