"""Solids with pockets, sloping cuts and bores: a prism with tools taken away, every triangle with its owner.

The booleans are those of the manifold library, on double floats; which tool a face came from is kept by the library's own face ids.
Arcs are chords here: what has to be exact is reckoned from contours and depths, not from these meshes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import manifold3d
import numpy as np

from zygon.geometry.contour import Contour
from zygon.geometry.mesh import Mesh
from zygon.tolerance import DISPLAY_SAGITTA, TINY

__all__ = ["Tool", "carved", "cone", "cylinder", "frustum", "prism", "united"]

#: Edges are inked where faces turn by more than this (radians); chords of arcs are made to turn by less.
CREASE = 0.5
#: Chords of small bores: at least this many round.
ROUND = 32
#: Tools reach this far past the face that they enter through (mm).
PAST = 1.0


@dataclass(frozen=True)
class Tool:
    """A solid to take away, and the feature or joint that it belongs to."""

    solid: manifold3d.Manifold
    owner: str


def prism(contours: Sequence[Contour], low: float, high: float, owner: str, sagitta: float = DISPLAY_SAGITTA / 2) -> Tool:
    """What lies in the first contour and in none of the others, from w ``low`` to ``high``."""
    rings = [c.wound(ccw=not i).flatten(sagitta) for i, c in enumerate(contours)]
    solid = manifold3d.CrossSection(rings).extrude(high - low).translate((0.0, 0.0, low))
    return Tool(solid, owner)


def frustum(low: Contour, high: Contour, thickness: float, owner: str) -> Tool:
    """The sloping solid between a convex contour at w 0 and one at w ``thickness``, drawn on past both faces."""
    share = PAST / thickness
    corners = []
    for (x0, y0), (x1, y1) in zip(low.points, high.points, strict=True):
        corners.append((x0 - (x1 - x0) * share, y0 - (y1 - y0) * share, -PAST))
        corners.append((x1 + (x1 - x0) * share, y1 + (y1 - y0) * share, thickness + PAST))
    return Tool(manifold3d.Manifold.hull_points(np.array(corners)), owner)


def cylinder(start: tuple[float, float, float], end: tuple[float, float, float], radius: float, owner: str) -> Tool:
    """A bore from just before ``start`` to ``end``."""
    a, b = np.array(start), np.array(end)
    depth = float(np.linalg.norm(b - a))
    axis = (b - a) / depth
    solid = manifold3d.Manifold.cylinder(depth + PAST, radius, radius, ROUND)
    return Tool(solid.transform(_toward(axis, a - axis * PAST)), owner)


def cone(at: tuple[float, float], wide: float, narrow: float, depth: float, thickness: float, face: str, owner: str) -> Tool:
    """A countersink of radius ``wide`` at face 'a' (w = thickness) or 'b' (w = 0) that is ``narrow`` at ``depth``."""
    grown = wide + (wide - narrow) / depth * PAST
    solid = manifold3d.Manifold.cylinder(depth + PAST, grown, narrow, ROUND)  # the wide end at w = 0
    way = np.array((0.0, 0.0, -1.0 if face == "a" else 1.0))
    start = np.array((*at, thickness if face == "a" else 0.0)) - way * PAST
    return Tool(solid.transform(_toward(way, start)), owner)


def _toward(axis: np.ndarray, origin: np.ndarray) -> np.ndarray:
    """(3, 4): turns z to ``axis`` and moves to ``origin``."""
    helper = np.array((1.0, 0.0, 0.0)) if abs(axis[0]) < 0.9 else np.array((0.0, 1.0, 0.0))
    u = np.cross(helper, axis)
    u /= np.linalg.norm(u)
    return np.column_stack((u, np.cross(axis, u), axis, origin))


def manifold_of(mesh: Mesh, names: list[str]) -> manifold3d.Manifold:
    """A mesh as a manifold whose face ids are its owners' places in ``names``."""
    ids = np.array([names.index(o) for o in mesh.owners], np.uint64)
    made = manifold3d.Mesh64(mesh.positions, mesh.triangles.astype(np.uint64), face_id=ids)
    made.merge()
    return manifold3d.Manifold(made)


def carved(body: Mesh, tools: list[Tool], added: Sequence[Tool] = ()) -> Mesh:
    """The body without the tools, and with what is added."""
    names = list(dict.fromkeys(body.owners))
    owners: dict[int, str] = {}
    result = manifold3d.Manifold.batch_boolean([manifold_of(body, names), *_owned(tools, owners)], manifold3d.OpType.Subtract)
    if added:
        result = manifold3d.Manifold.batch_boolean([result, *_owned(added, owners)], manifold3d.OpType.Add)
    return _mesh(result.to_mesh64(), names, owners)


def united(solids: list[Tool], holes: list[Tool]) -> Mesh:
    """Solids as one, without what holes take of it; each face has the owner of the solid or the hole that it came from."""
    owners: dict[int, str] = {}
    whole = manifold3d.Manifold.batch_boolean(_owned(solids, owners), manifold3d.OpType.Add)
    result = manifold3d.Manifold.batch_boolean([whole, *_owned(holes, owners)], manifold3d.OpType.Subtract) if holes else whole
    return _mesh(result.to_mesh64(), [], owners)


def _owned(tools: Sequence[Tool], owners: dict[int, str]) -> list[manifold3d.Manifold]:
    """The solids of tools under ids of their own, which ``owners`` takes note of."""
    found = []
    for tool in tools:
        original = tool.solid.as_original()
        owners[original.original_id()] = tool.owner
        found.append(original)
    return found


def _mesh(result: manifold3d.Mesh64, names: list[str], owners: dict[int, str]) -> Mesh:
    positions = np.array(result.vert_properties, np.float64)[:, :3].copy()
    triangles = np.asarray(result.tri_verts).astype(np.int64)
    face_ids = np.asarray(result.face_id)
    index, runs = np.asarray(result.run_index), np.asarray(result.run_original_id)
    found: list[str] = []
    for k, run in enumerate(runs.tolist()):
        rows = range(int(index[k]) // 3, int(index[k + 1]) // 3)
        found += [owners[run]] * len(rows) if run in owners else [names[int(face_ids[i])] for i in rows]
    return Mesh(positions, triangles, tuple(found), _creases(positions, triangles))


def _creases(positions: np.ndarray, triangles: np.ndarray) -> np.ndarray:
    """The edges (k, 2, 3) between triangles that meet at more than a crease."""
    if not len(triangles):
        return np.empty((0, 2, 3))
    corners = positions[triangles]
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    normals /= np.maximum(np.linalg.norm(normals, axis=1), TINY)[:, None]
    pairs = np.sort(np.concatenate((triangles[:, [0, 1]], triangles[:, [1, 2]], triangles[:, [2, 0]])), axis=1)
    face = np.tile(np.arange(len(triangles)), 3)
    order = np.lexsort((pairs[:, 1], pairs[:, 0]))
    pairs, face = pairs[order], face[order]
    same = (pairs[:-1] == pairs[1:]).all(axis=1)
    left, right = face[:-1][same], face[1:][same]
    sharp = (normals[left] * normals[right]).sum(axis=1) < math.cos(CREASE)
    return positions[pairs[:-1][same][sharp]]
