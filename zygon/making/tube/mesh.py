"""The closed mesh of a straight member with its ends cut."""

from __future__ import annotations

import math

import manifold3d
import numpy as np

from zygon.geometry.mesh import CREASE, Mesh, triangulated
from zygon.geometry.solid import Tool, carved
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody, divided
from zygon.making.tube.cuts import ENDS, AtEnd, PlaneCut, SideCut
from zygon.making.tube.tips import tip_tools
from zygon.tolerance import DISPLAY_SAGITTA

__all__ = ["bent_mesh", "member_mesh", "reach_along"]

#: A curved end is drawn with straight sides of a section in so many pieces.
PIECES = 32
#: In so many steps the wall of a tube is drawn at a curved end.
IN_WALL = 5
#: Rings over the end of a solid bar that lies on a round side.
RINGS = 12
#: Mains that pass through reach so far beyond the member (mm).
PAST = 1.0


def member_mesh(body: MemberBody) -> Mesh:
    """The mesh in the member's own (u, v, w); its ends carry the joints that cut them, or 'face_b' at A and 'face_a' at B."""
    curved = any(isinstance(c, SideCut) for end in ("a", "b") for c in body.cuts(end))
    step = max(body.section.extents) / PIECES if curved else 0.0
    rings = [divided(c, step) for c in (body.region.outer, *body.region.inner)]
    points = np.vstack(rings)
    cap = triangulated(points, np.cumsum([len(r) for r in rings]).astype(np.uint32))
    if curved:
        points, cap = _walled(body, *rings) if body.section.hollow else _filled(rings[0])
    low, high = body.stops(points)
    n = len(points)
    walls, edges, owners = [], [], [*_end_owners(body, "a", points, cap), *_end_owners(body, "b", points, cap)]
    bottom, top = np.column_stack((points, low)), np.column_stack((points, high))
    start = 0
    for ring, contour in zip(rings, (body.region.outer, *body.region.inner), strict=True):
        m = len(ring)
        i, j = start + np.arange(m), start + (np.arange(m) + 1) % m
        walls.append(np.stack((np.column_stack((i, j, j + n)), np.column_stack((i, j + n, i + n))), axis=1).reshape(-1, 3))
        owners += [contour.owners[0]] * (2 * m)
        edges += [np.stack((bottom[i], bottom[j]), axis=1), np.stack((top[i], top[j]), axis=1)]
        sharp = i[_turned(ring) > CREASE]
        edges.append(np.stack((bottom[sharp], top[sharp]), axis=1))
        start += m
    triangles = np.vstack((cap[:, ::-1], cap + n, *walls))
    mesh = Mesh(np.vstack((bottom, top)), triangles, tuple(owners), np.concatenate(edges))
    tools = [_through(body, hole) for hole in body.holes] + _tips(body)
    return carved(mesh, tools, _flats(body)) if tools else mesh


def _tips(body: MemberBody | BentBody) -> list[Tool]:
    return [t for tip, place in body.tipped() for t in tip_tools(tip, body.section.height / 2, place)]


def _flats(body: MemberBody | BentBody) -> list[Tool]:
    return [tip.flat.solid(place) for tip, place in body.tipped() if tip.flat]


def bent_mesh(body: BentBody) -> Mesh:
    """The mesh of a bent member, its section drawn along its centre line."""
    contours = (body.region.outer, *body.region.inner)
    rings = [c.flatten(DISPLAY_SAGITTA) for c in contours]
    points = np.vstack(rings)
    n = len(points)
    cap = triangulated(points, np.cumsum([len(r) for r in rings]).astype(np.uint32))
    stations = body.ended()
    places = [s.at + points[:, :1] * s.u + points[:, 1:] * s.v for s in stations]
    walls, owners, edges = [], ["face_b"] * len(cap) + ["face_a"] * len(cap), []
    start = 0
    for ring, contour in zip(rings, contours, strict=True):
        m = len(ring)
        i, j = start + np.arange(m), start + (np.arange(m) + 1) % m
        sharp = i[_turned(ring) > CREASE]
        for k in range(len(stations) - 1):
            a, b = k * n, (k + 1) * n
            walls.append(np.stack((np.column_stack((a + i, a + j, b + j)), np.column_stack((a + i, b + j, b + i))), axis=1).reshape(-1, 3))
            edges.append(np.stack((places[k][sharp], places[k + 1][sharp]), axis=1))
        owners += [contour.owners[0]] * (2 * m * (len(stations) - 1))
        edges += [np.stack((p[i], p[j]), axis=1) for p in (places[0], places[-1])]
        start += m
    last = (len(stations) - 1) * n
    triangles = np.vstack((cap[:, ::-1], cap + last, *walls))
    mesh = Mesh(np.vstack(places), triangles, tuple(owners), np.concatenate(edges))
    tools = _cut_off(body) + _tips(body)
    return carved(mesh, tools, _flats(body)) if tools else mesh


def _cut_off(body: BentBody) -> list[Tool]:
    """What cuts the ends of a bent member, and what is drilled in it: no farther than its own run, whatever else of it lies beyond."""
    found = []
    for run, (_, _, place) in zip(body.runs, body.straights, strict=True):
        rows = np.array(place.rows)
        found += [_cut_tool(run, cut, end, rows) for end in ENDS for cut in run.cuts(end)]
        for hole in run.holes:
            solid, start, stop = _near(run, hole)
            found.append(Tool(_extruded(solid, start, stop).transform(np.array(hole.motion.rows)).transform(rows), hole.owner))
    return found


def _cut_tool(run: MemberBody, cut: PlaneCut | SideCut, end: AtEnd, rows: np.ndarray) -> Tool:
    if isinstance(cut, SideCut):
        outline, start, stop = _near(run, cut)
        return Tool(_extruded(outline, start, stop).transform(np.array(cut.motion.rows)).transform(rows), cut.owner)
    # a box that stands on the plane, where the run's middle meets it
    far = (math.hypot(*run.section.extents) + 2 * PAST) / abs(cut.normal[2])
    w = np.array(cut.normal)
    u = np.cross(np.eye(3)[int(np.abs(w).argmin())], w)
    u = u / np.linalg.norm(u)
    at = np.array((0.0, 0.0, float(cut.heights(np.zeros((1, 2)), end)[0])))
    box = manifold3d.Manifold.cube((2 * far, 2 * far, far)).translate((-far, -far, 0.0))
    return Tool(box.transform(np.column_stack((u, np.cross(w, u), w, at))).transform(rows), cut.owner)


def _near(run: MemberBody, cut: SideCut) -> tuple[np.ndarray, float, float]:
    return divided(cut.section.outline(cut.gap)), *reach_along(run, cut)


def reach_along(run: MemberBody, cut: SideCut) -> tuple[float, float]:
    """From where to where along what passes or cuts a run can reach it, mm."""
    way, start = np.array(cut.motion.vector((0.0, 0.0, 1.0))), np.array(cut.motion.shift)
    flat = float(way[0] ** 2 + way[1] ** 2)
    middle = -float(start[:2] @ way[:2]) / flat
    section = cut.section.grown(cut.gap)
    half = (math.hypot(*run.section.extents) / 2 + math.hypot(*section.extents) / 2) / math.sqrt(flat) + PAST
    return middle - half if cut.begins is None else cut.begins, middle + half


def _extruded(outline: np.ndarray, start: float, stop: float) -> manifold3d.Manifold:
    return manifold3d.CrossSection([outline]).extrude(stop - start).translate((0.0, 0.0, start))


def _end_owners(body: MemberBody, end: AtEnd, points: np.ndarray, cap: np.ndarray) -> list[str]:
    cuts = body.cuts(end)
    if not cuts:
        return ["face_b" if end == "a" else "face_a"] * len(cap)
    if len(cuts) == 1:
        return [cuts[0].owner] * len(cap)
    heights = np.array([c.heights(points[cap].mean(axis=1), end) for c in cuts])
    first = heights.argmax(axis=0) if end == "a" else heights.argmin(axis=0)
    return [cuts[k].owner for k in first.tolist()]


def _walled(body: MemberBody, outer: np.ndarray, inner: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The end of a tube with rings in its wall, so that it follows a curved surface: points, those of the two rings first, and triangles."""
    width, height = body.section.extents
    # nearer together at the outside, where an end that hugs a round main is steepest
    shares = [2 * body.section.wall * (k / IN_WALL) ** 2 for k in range(1, IN_WALL)]
    rings = [outer, *(outer * (1 - s / width, 1 - s / height) for s in shares), inner]
    starts = [0, *(len(outer) + len(inner) + k * len(outer) for k in range(IN_WALL - 1)), len(outer)]
    cap = [_between(one, other, i, j) for one, other, i, j in zip(rings, rings[1:], starts, starts[1:], strict=False)]
    return np.vstack((outer, inner, *rings[1:-1])), np.vstack(cap)


def _between(one: np.ndarray, other: np.ndarray, start: int, then: int) -> np.ndarray:
    """Triangles (m, 3) between two rings round one middle, the larger first, across and never along; their points begin at ``start`` and ``then``."""
    turns = [np.mod(np.arctan2(r[:, 1], r[:, 0]), 2 * np.pi) for r in (one, other)]
    orders = [np.argsort(t, kind="stable") for t in turns]
    ends = [np.append(t[o], t[o[0]] + 2 * np.pi) for t, o in zip(turns, orders, strict=True)]
    first, second = np.append(orders[0], orders[0][0]) + start, np.append(orders[1], orders[1][0]) + then
    found, i, j = [], 0, 0
    while i < len(one) or j < len(other):
        if j == len(other) or (i < len(one) and ends[0][i + 1] <= ends[1][j + 1]):
            found.append((first[i], first[i + 1], second[j]))
            i += 1
        else:
            found.append((first[i], second[j + 1], second[j]))
            j += 1
    return np.array(found)


def _filled(ring: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """A convex ring with smaller ones in it, so that a curved end follows its surface: points with the outer ring first, and triangles."""
    middle, m = ring.mean(axis=0), len(ring)
    points = np.vstack([middle + (ring - middle) * (1 - k / RINGS) for k in range(RINGS)] + [middle[None]])
    found = []
    i, j = np.arange(m), (np.arange(m) + 1) % m
    for k in range(RINGS - 1):
        a, b = k * m, (k + 1) * m
        found += [np.column_stack((a + i, a + j, b + j)), np.column_stack((a + i, b + j, b + i))]
    last = (RINGS - 1) * m
    found.append(np.column_stack((last + i, last + j, np.full(m, RINGS * m))))
    return points, np.vstack(found)


def _turned(ring: np.ndarray) -> np.ndarray:
    ahead, back = np.roll(ring, -1, axis=0) - ring, ring - np.roll(ring, 1, axis=0)
    return np.abs(np.arctan2(back[:, 0] * ahead[:, 1] - back[:, 1] * ahead[:, 0], (back * ahead).sum(axis=1)))


def _through(body: MemberBody, hole: SideCut) -> Tool:
    """A main that passes, as far as it reaches through the member."""
    back = hole.motion.inverse
    far = math.hypot(*body.section.extents) + PAST
    low, high = body.reach(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))
    corners = np.array([[x, y, z] for x in (low[0], high[0]) for y in (low[1], high[1]) for z in (low[2], high[2])])
    along = back.points(corners)[:, 2]
    ring = divided(hole.section.outline(hole.gap))
    start = float(along.min()) - far if hole.begins is None else hole.begins
    solid = manifold3d.CrossSection([ring]).extrude(float(along.max()) + far - start)
    solid = solid.translate((0.0, 0.0, start)).transform(np.array(hole.motion.rows))
    return Tool(solid, hole.owner)
