"""Shared assertions and builders of the core's tests."""

from __future__ import annotations

import numpy as np
import shapely
import trimesh

from zygon.design.patch import Patch, apply_patch
from zygon.geometry.boolean import region_polygon
from zygon.geometry.mesh import extrude
from zygon.making.pipeline import build
from zygon.making.result.built import Built, BuiltPart


def same_shape(a: shapely.Geometry, b: shapely.Geometry, tolerance: float) -> None:
    """Fails where two shapes differ by more than a film of ``tolerance`` (mm)."""
    for one, other in ((a, b), (b, a)):
        rest = shapely.difference(one, other.buffer(tolerance))
        assert rest.is_empty or rest.area < tolerance * tolerance, rest.wkt[:300]


def placed_mesh(part: BuiltPart) -> trimesh.Trimesh:
    """A part's solid in the room, made by the mesh room and placed by the build's matrix."""
    meshes = []
    for piece in part.flat.pieces:
        solid = extrude(piece, part.flat.thickness, 0.01)
        meshes.append(trimesh.Trimesh(solid.positions, solid.triangles, process=False))
    mesh = trimesh.util.concatenate(meshes)
    mesh.apply_transform(np.array(part.matrix))
    return mesh


def solid_volume(built: Built) -> float:
    """Volume in mm³ of all parts, from areas and thicknesses."""
    return sum(sum(region_polygon(r).area for r in p.flat.pieces) * p.flat.thickness for p in built.flats.values())


def edited(built: Built, made: Patch | tuple[str, Patch]) -> Built:
    """The design built anew after an edit, as a patch or with its label."""
    patch = made[1] if isinstance(made, tuple) else made
    return build(apply_patch(built.document.dump(), patch)[0])
