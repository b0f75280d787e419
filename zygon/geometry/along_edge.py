"""What a bit takes away that runs along a board's edge: a section swept along lines, round arcs and about corners that turn in."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

import manifold3d
import numpy as np

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour, Point, Segment
from zygon.geometry.mesh import triangulated
from zygon.geometry.solid import PAST, Tool
from zygon.tolerance import DISPLAY_SAGITTA, EPS

__all__ = ["AXIS", "EdgeShape", "along_edge", "edge_section", "inward_corners"]

EdgeShape = Literal["round", "chamfer", "cove"]
#: Chords of the profile itself turn by at most this (radians).
CHORD = math.radians(9)
#: The section reaches this far out past the edge (mm); no farther, since another edge may lie there.
OUT = 0.02
#: A profile that ends in the middle of an arc stops this near to it (mm).
AXIS = 1e-4


def edge_section(shape: EdgeShape, width: float, height: float, most: float = math.inf) -> Contour:
    """What is taken away in (inward from the edge, down from the face), mm, drawn on past both; nothing farther in than ``most``."""
    end, high = (width, 0.0), height
    bulge = 0.0
    if shape != "chamfer":
        # a quarter about (width, height) or about (0, 0)
        bulge = math.tan(math.pi / 8) * (1 if shape == "round" else -1)
    if width > most:
        if shape == "chamfer":
            end = (most, high * (1 - most / width))
        elif shape == "round":
            end = (most, width - math.sqrt(width**2 - (width - most) ** 2))
            bulge = math.tan(math.asin(_unit((width - end[1]) / width)) / 4)
        else:
            end = (most, math.sqrt(width**2 - most**2))
            bulge = -math.tan(math.acos(_unit(end[1] / width)) / 4)
    points: list[Point] = [(0.0, high), end, (end[0], -PAST), (-OUT, -PAST), (-OUT, high)]
    return Contour(tuple(points), (bulge, 0.0, 0.0, 0.0, 0.0), ("",) * 5)


def _unit(x: float) -> float:
    return min(max(x, -1.0), 1.0)


def inward_corners(run: Contour) -> list[tuple[Point, float, float]]:
    """The corners of a run (the board to its left) that turn away from the board: where, from which direction inward to which (radians, counter-clockwise)."""
    segments = run.segments()
    found = []
    for before, after in zip(segments, segments[1:] + (segments[:1] if run.closed else []), strict=False):
        (ux, uy), (vx, vy) = before.tangents()[1], after.tangents()[0]
        turn = math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)
        if turn < -EPS * 1e3:
            start = math.atan2(ux, -uy)
            found.append((before.q, start + turn, start))
    return found


def along_edge(run: Contour, shape: EdgeShape, width: float, height: float, thickness: float, face: str, owner: str) -> list[Tool]:
    """What a profile takes away along a run (the board to its left) of the edge of face 'a' (w = thickness) or 'b' (w = 0)."""
    whole = _through_the_wall(_chords(edge_section(shape, width, height)))
    made: list[manifold3d.Manifold] = []
    for s in run.segments():
        if not s.bulge:
            (dx, dy), _ = s.tangents()
            rings = [[(p[0] - dy * x, p[1] + dx * x, d) for x, d in whole] for p in (s.p, s.q)]
            made.append(_swept(rings, closed=False))
            continue
        made.append(_round(s, shape, width, height))
    for (px, py), start, end in inward_corners(run):
        near = [p for p in _chords(edge_section(shape, width, height)) if p[0] > -OUT] + [(0.0, -PAST)]
        n = _steps(end - start, width)
        made.append(_turned((px, py), near, [start + (end - start) * k / n for k in range(n + 1)]))
    up = face == "a"
    # down from the face: up in the room of face B, and the other way round from face A
    rows = np.array([[1.0, 0, 0, 0], [0, 1, 0, 0], [0, 0, -1.0 if up else 1.0, thickness if up else 0.0]])
    return [Tool(m.transform(rows), owner) for m in made]


def _steps(sweep: float, radius: float) -> int:
    most = 2 * math.acos(max(1 - DISPLAY_SAGITTA / 2 / max(radius, DISPLAY_SAGITTA), 0.0))
    return max(2, math.ceil(abs(sweep) / most))


def _chords(section: Contour) -> list[Point]:
    """A section's corners, arcs as chords."""
    found: list[Point] = []
    for s in section.segments():
        found.append(s.p)
        if s.bulge:
            cx, cy, radius, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
            n = max(2, math.ceil(abs(sweep) / CHORD))
            found += [(cx + radius * math.cos(start + sweep * k / n), cy + radius * math.sin(start + sweep * k / n)) for k in range(1, n)]
    return found


def _through_the_wall(chords: list[Point]) -> list[Point]:
    """A section whose first chord goes on out of the board, so that no corner of it lies in the wall that it is cut into."""
    (x0, d0), (x1, d1) = chords[:2]
    return [*chords[1:-1], (-OUT, d0 + OUT * (d0 - d1) / (x1 - x0))]


def _round(s: Segment, shape: EdgeShape, width: float, height: float) -> manifold3d.Manifold:
    """Along an arc: the section turned about its centre, at the same chords as the board's own."""
    cx, cy, radius, _, _ = arc_from_bulge(s.p, s.q, s.bulge)
    inward = -1.0 if s.bulge > 0 else 1.0  # a board to the left of an arc to the left lies within it
    section = _through_the_wall(_chords(edge_section(shape, width, height, radius - AXIS if inward < 0 else math.inf)))
    ends = Contour((s.p, s.q), (s.bulge,), ("",), closed=False).flatten(DISPLAY_SAGITTA) - (cx, cy)
    angles = np.unwrap(np.arctan2(ends[:, 1], ends[:, 0])).tolist()
    return _turned((cx, cy), [(radius + inward * x, d) for x, d in section], angles)


def _turned(centre: Point, section: Sequence[Point], angles: Sequence[float]) -> manifold3d.Manifold:
    """A section in (from the centre outward, down) turned from angle to angle."""
    cx, cy = centre
    rings = [[(cx + r * math.cos(a), cy + r * math.sin(a), d) for r, d in section] for a in angles]
    return _swept(rings, closed=abs(abs(angles[-1] - angles[0]) - 2 * math.pi) < EPS)


def _swept(rings: Sequence[Sequence[tuple[float, float, float]]], *, closed: bool) -> manifold3d.Manifold:
    """The solid whose sections are rings of as many corners each, in their order; what lies on one axis comes together there."""
    m, n = len(rings[0]), len(rings)
    points = np.array(rings, float).reshape(-1, 3)
    triangles: list[tuple[int, int, int]] = []
    for k in range(n if closed else n - 1):
        low, high = k * m, (k + 1) % n * m
        for i in range(m):
            j = (i + 1) % m
            triangles += [(low + i, low + j, high + j), (low + i, high + j, high + i)]
    if not closed:
        first = points[:m]
        # laid flat: along its own longest side, and down
        along = first[:, :2] - first[0, :2]
        way = along[np.argmax(np.hypot(*along.T))]
        flat = np.column_stack((along @ way / max(float(np.hypot(*way)), EPS), first[:, 2]))
        cap = triangulated(flat, np.array([m], np.uint32))
        following = np.roll(flat, -1, 0)
        around = float((flat[:, 0] * following[:, 1] - flat[:, 1] * following[:, 0]).sum()) > 0
        cap = cap if around else cap[:, ::-1]
        triangles += [(a, c, b) for a, b, c in cap.tolist()] + [
            (a + (n - 1) * m, b + (n - 1) * m, c + (n - 1) * m) for a, b, c in cap.tolist()
        ]
    welded, index = np.unique(np.round(points, 9), axis=0, return_inverse=True)
    faces = index.reshape(-1)[np.array(triangles)]
    kept = faces[(faces[:, 0] != faces[:, 1]) & (faces[:, 1] != faces[:, 2]) & (faces[:, 2] != faces[:, 0])]
    made = manifold3d.Manifold(manifold3d.Mesh64(welded, kept.astype(np.uint64)))
    if made.volume() < 0:
        made = manifold3d.Manifold(manifold3d.Mesh64(welded, kept[:, ::-1].astype(np.uint64)))
    return made
