"""Meshes of a design as files: STL (binary, mm), 3MF (mm) and GLB (glTF 2.0: metres, y up). trimesh is imported only when one is written."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np

from zygon.errors import ZygonError
from zygon.making.hardware.pieces import mesh_of_hardware
from zygon.making.kinds.registry import meshes_of
from zygon.making.result.built import Built, MadePart
from zygon.making.sets.rings import rings_of

__all__ = ["MeshFile", "write_mesh"]

#: Hardware's colour, red, green and blue.
STEEL = (150, 158, 166)
MeshFile = Literal["stl", "3mf", "glb"]


def write_mesh(built: Built, to: MeshFile, parts: list[MadePart] | None = None) -> bytes:
    """The solids of all parts (or of some) in their places; a 3MF and a GLB keep their names, a GLB their colours too. Raises ZygonError where there is none."""
    import trimesh
    from trimesh.visual import ColorVisuals

    scene = trimesh.Scene()
    for part in built.made.values() if parts is None else parts:
        if part.body.empty:
            continue
        move = np.array(part.matrix)
        for n, mesh in enumerate(meshes_of(part)):
            solid = trimesh.Trimesh(mesh.positions, mesh.triangles, process=False)
            solid.apply_transform(move)
            if solid.volume < 0:  # a frame that faces the front turns its faces inside out
                solid.invert()
            tint = built.document.stock_of(part.record).tint
            solid.visual = ColorVisuals(solid, face_colors=[int(tint[i : i + 2], 16) for i in (1, 3, 5)] + [255])
            name = part.path if n == 0 else f"{part.path} {n + 1}"
            scene.add_geometry(solid, node_name=name, geom_name=name)
    if parts is None:
        _add_hardware(scene, built)
    if not scene.geometry:
        raise ZygonError(f"{built.document.name}: nothing to write", code="no_solid", rule="at least one part with a solid")
    if to == "glb":  # glTF 2.0: metres, y up, facing z
        scene.apply_transform(np.array([[0.001, 0, 0, 0], [0, 0, 0.001, 0], [0, -0.001, 0, 0], [0, 0, 0, 1.0]]))
    content = scene.export(file_type=to)
    return content if isinstance(content, bytes) else str(content).encode()


def _add_hardware(scene: Any, built: Built) -> None:
    """The hardware of a design's sets in its places."""
    import trimesh
    from trimesh.visual import ColorVisuals

    count: dict[str, int] = {}
    every = [[p for place in one.places for p in place.pieces] for one in built.sets.values()]
    for pieces in (*every, [p for _, p in rings_of(built)]):
        for piece in pieces:
            mesh = mesh_of_hardware(piece.hardware)
            solid = trimesh.Trimesh(piece.motion.points(mesh.positions), mesh.triangles, process=False)
            solid.visual = ColorVisuals(solid, face_colors=[*STEEL, 255])
            count[piece.hardware.name] = n = count.get(piece.hardware.name, 0) + 1
            name = piece.hardware.name if n == 1 else f"{piece.hardware.name} {n}"
            scene.add_geometry(solid, node_name=name, geom_name=name)
