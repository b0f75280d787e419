"""Triangle meshes of flat parts for the screen and for volume checks; every triangle carries its owner."""

from __future__ import annotations

from dataclasses import dataclass

import manifold3d
import mapbox_earcut
import numpy as np
import shapely

from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour
from zygon.tolerance import DISPLAY_SAGITTA, TINY

__all__ = ["Mesh", "creases", "extrude", "triangulated"]

#: Vertical edges are inked where the outline turns by more than this (radians); the chords of arcs turn by less.
CREASE = 0.35
#: From so many rings on, as of a field of holes, the way that looks rings up in an index is the quicker one.
MANY = 200


@dataclass(frozen=True)
class Mesh:
    """``positions`` (n, 3) float in (u, v, w), ``triangles`` (m, 3) int, ``owners`` a name each triangle, ``edges`` (k, 2, 3) float."""

    positions: np.ndarray
    triangles: np.ndarray
    owners: tuple[str, ...]
    edges: np.ndarray

    def moments(self) -> tuple[float, np.ndarray]:
        """Volume in mm³ and its first moment (3,) in mm⁴, of a closed mesh, by signed tetrahedra."""
        a, b, c = (self.positions[self.triangles[:, k]] for k in range(3))
        six = np.einsum("ij,ij->i", a, np.cross(b, c))
        return float(six.sum()) / 6, ((a + b + c) * six[:, None]).sum(axis=0) / 24


def extrude(region: Region, thickness: float, sagitta: float = DISPLAY_SAGITTA) -> Mesh:
    """The solid of a region cut straight through a sheet, w from 0 to ``thickness``; closed, faces outward."""
    rings = [_ring(c, sagitta) for c in (region.outer, *region.inner)]
    points = np.vstack([r[0] for r in rings])
    ends = np.cumsum([len(r[0]) for r in rings]).astype(np.uint32)
    cap = triangulated(points, ends)
    n = len(points)
    low = np.column_stack((points, np.zeros(n)))
    high = np.column_stack((points, np.full(n, thickness)))
    walls, owners, edges = [], ["face_b"] * len(cap) + ["face_a"] * len(cap), []
    start = 0
    for ring, names in rings:
        m = len(ring)
        i = start + np.arange(m)
        j = start + (np.arange(m) + 1) % m
        walls.append(np.stack((np.column_stack((i, j, j + n)), np.column_stack((i, j + n, i + n))), axis=1).reshape(-1, 3))
        owners += [name for name in names for _ in (0, 1)]
        edges.append(np.stack((low[i], low[j]), axis=1))
        edges.append(np.stack((high[i], high[j]), axis=1))
        sharp = i[_turns(ring) > CREASE]
        edges.append(np.stack((low[sharp], high[sharp]), axis=1))
        start += m
    triangles = np.vstack((cap[:, ::-1], cap + n, *walls))
    return Mesh(np.vstack((low, high)), triangles, tuple(owners), np.concatenate(edges))


def triangulated(points: np.ndarray, ends: np.ndarray) -> np.ndarray:
    """Counter-clockwise triangles (m, 3) int of rings of points (n, 2) that end at ``ends``, every point used.

    The fast way passes over points that lie straight between others, which would leave the solid open along its walls; then the
    constrained Delaunay triangulation is taken.
    """
    if len(ends) > MANY:
        fast = np.asarray(manifold3d.triangulate(np.split(points, ends[:-1])), dtype=np.int64)
    else:
        fast = mapbox_earcut.triangulate_float64(points, ends).reshape(-1, 3).astype(np.int64)
    if len(fast) == len(points) + 2 * (len(ends) - 1) - 2:
        return _oriented(points, fast)
    index = {tuple(p): i for i, p in enumerate(points.tolist())}
    rings = np.split(points, ends[:-1])
    triangles = shapely.get_parts(shapely.constrained_delaunay_triangles(shapely.Polygon(rings[0], rings[1:])))
    corners = shapely.get_coordinates(triangles).reshape(-1, 4, 2)[:, :3]
    found = [[index.get(tuple(c), -1) for c in t] for t in corners.tolist()]
    return _oriented(points, np.array(found) if all(min(t) >= 0 for t in found) else fast)


def creases(mesh: Mesh) -> np.ndarray:
    """The edges (k, 2, 3) of a closed mesh where its faces turn by more than a crease."""
    corners = mesh.positions[mesh.triangles]
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    normals /= np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), TINY)
    sides = np.sort(np.concatenate([mesh.triangles[:, [i, (i + 1) % 3]] for i in range(3)]), axis=1)
    of = np.tile(np.arange(len(mesh.triangles)), 3)
    order = np.lexsort((sides[:, 1], sides[:, 0]))
    sides, of = sides[order], of[order]
    twice = np.flatnonzero((sides[1:] == sides[:-1]).all(axis=1))
    turned = np.einsum("ij,ij->i", normals[of[twice]], normals[of[twice + 1]]) < np.cos(CREASE)
    return mesh.positions[sides[twice[turned]]]


def _ring(contour: Contour, sagitta: float) -> tuple[np.ndarray, list[str]]:
    points, owners = [], []
    for s in contour.segments():
        one = Contour((s.p, s.q), (s.bulge,), (s.owner,), closed=False).flatten(sagitta)[:-1]
        points.append(one)
        owners += [s.owner] * len(one)
    return np.vstack(points), owners


def _oriented(points: np.ndarray, triangles: np.ndarray) -> np.ndarray:
    a, b, c = (points[triangles[:, k]] for k in range(3))
    area = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    flipped = triangles.copy()
    flipped[area < 0] = triangles[area < 0][:, ::-1]
    return flipped


def _turns(ring: np.ndarray) -> np.ndarray:
    """The turn at every vertex of a closed ring, in radians."""
    ahead = np.roll(ring, -1, axis=0) - ring
    back = ring - np.roll(ring, 1, axis=0)
    cross = back[:, 0] * ahead[:, 1] - back[:, 1] * ahead[:, 0]
    return np.abs(np.arctan2(cross, (back * ahead).sum(axis=1)))
