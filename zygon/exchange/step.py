"""STEP files (ISO 10303-21, AP 214): a design's solids in their places under their names, its flats, and solids read from a file.

Open CASCADE is imported only when one of these is called.
"""

from __future__ import annotations

import re
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np

from zygon.errors import ImportFileError, ZygonError
from zygon.geometry.found import find
from zygon.making.flats.flat import lying
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.tolerance import WITHIN

__all__ = ["MESHES", "mesh_record", "read_step", "solid_record", "write_step", "write_step_flat"]

#: Meshes of solids that are read are taken this near to them (mm, radians).
DEFLECTION = (0.2, 0.3)
#: A solid that is read has at most so many triangles on the screen.
MOST_TRIANGLES = 20_000
#: Files that hold a mesh, by their suffix.
MESHES = frozenset({".stl", ".3mf", ".glb", ".obj", ".ply"})
#: Lists in lists; those of the standard's schemas are a handful deep.
DEEPEST = 100


def write_step(built: Built, parts: list[MadePart] | None = None) -> bytes:
    """The solids of all parts with the hardware (or of some parts) in their places, folded. Raises ZygonError where there is none."""
    from zygon.geometry.exact import placed
    from zygon.making.hardware.pieces import exact_hardware
    from zygon.making.sets.rings import rings_of
    from zygon.making.solids.exact import placed_solid

    chosen = list(built.made.values()) if parts is None else parts
    solids = [(p.path, placed_solid(p)) for p in chosen if not p.body.empty]
    if parts is None:
        every = [p for one in built.sets.values() for place in one.places for p in place.pieces] + [p for _, p in rings_of(built)]
        solids += [(p.hardware.designation, placed(exact_hardware(p.hardware), p.motion.rows)) for p in every]
    return _written(solids, built.document.name)


def write_step_flat(part: FlatPart) -> bytes:
    """A part's flat as it lies, as a solid."""
    from zygon.making.flats.exact import solid_of

    return _written([(f"{part.path} flat", solid_of(lying(part), bent=False))], part.path)


def _written(solids: list[tuple[str, Any]], title: str) -> bytes:
    from OCP.Interface import Interface_Static
    from OCP.STEPCAFControl import STEPCAFControl_Writer
    from OCP.TCollection import TCollection_ExtendedString
    from OCP.TDataStd import TDataStd_Name
    from OCP.TDocStd import TDocStd_Document
    from OCP.XCAFDoc import XCAFDoc_DocumentTool

    if not solids:
        raise ZygonError(f"{title}: nothing to write", code="no_solid", rule="at least one part with a solid")
    document = TDocStd_Document(TCollection_ExtendedString("XmlXCAF"))
    shapes = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    for name, solid in solids:
        TDataStd_Name.Set_s(shapes.AddShape(solid, False), TCollection_ExtendedString(name))
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    writer = STEPCAFControl_Writer()
    writer.SetNameMode(True)
    with TemporaryDirectory() as folder:
        path = Path(folder) / "design.step"
        if not writer.Transfer(document) or not path.parent.is_dir():
            raise ZygonError(f"{title}: its solids could not be written as STEP", code="no_solid")
        writer.Write(str(path))
        return path.read_bytes()


def read_step(path: Path, name: str) -> tuple[Any, float]:
    """The shape in a STEP file and its volume in mm³. Raises ImportFileError."""
    from OCP.STEPControl import STEPControl_Reader

    from zygon.making.flats.exact import volume

    _refuse_deep(path, name)
    reader = STEPControl_Reader()
    rule = "a STEP file (ISO 10303-21) with at least one solid"
    if int(reader.ReadFile(str(path))) != 1 or not reader.TransferRoots():
        raise ImportFileError(f"{name}: it cannot be read as STEP", entry=name, rule=rule)
    shape = reader.OneShape()
    found = volume(shape) if not shape.IsNull() else 0.0
    if found <= WITHIN:
        raise ImportFileError(f"{name}: there is no solid in it", entry=name, rule=rule)
    return shape, found


def _refuse_deep(path: Path, name: str) -> None:
    """Open CASCADE reads lists in lists by calling itself: some ten thousand of them end the process."""
    text = re.sub(rb"'[^']*'", b"", path.read_bytes())
    opened = np.frombuffer(text, np.uint8)
    depth = int(np.cumsum((opened == ord("(")).astype(np.int32) - (opened == ord(")"))).max(initial=0))
    if depth > DEEPEST:
        rule = f"lists at most {DEEPEST} deep in one another"
        raise ImportFileError(f"{name}: its lists lie {depth} deep in one another", entry=name, value=depth, rule=rule)


def solid_record(path: Path, name: str) -> dict[str, Any]:
    """A STEP file's shape as a bought block has it: a mesh from its box's low corner, its size and volume. Raises ImportFileError."""
    from OCP.BRep import BRep_Tool
    from OCP.BRepMesh import BRepMesh_IncrementalMesh
    from OCP.TopAbs import TopAbs_FACE, TopAbs_REVERSED
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopLoc import TopLoc_Location
    from OCP.TopoDS import TopoDS

    shape, volume = read_step(path, name)
    BRepMesh_IncrementalMesh(shape, DEFLECTION[0], False, DEFLECTION[1], True)
    points: list[tuple[float, float, float]] = []
    triangles: list[tuple[int, int, int]] = []
    counts = _solids(shape)
    faces = TopExp_Explorer(shape, TopAbs_FACE)
    while faces.More():
        face = TopoDS.Face(faces.Current())
        place = TopLoc_Location()
        mesh = BRep_Tool.Triangulation_s(face, place)
        if mesh is not None:
            first, move = len(points), place.Transformation()
            points += [(p.X(), p.Y(), p.Z()) for p in (mesh.Node(i).Transformed(move) for i in range(1, mesh.NbNodes() + 1))]
            turned = face.Orientation() == TopAbs_REVERSED
            for i in range(1, mesh.NbTriangles() + 1):
                a, b, c = mesh.Triangle(i).Get()
                triangles.append((first + a - 1, first + (c if turned else b) - 1, first + (b if turned else c) - 1))
        faces.Next()
    if len(triangles) > MOST_TRIANGLES:
        rule = f"at most {MOST_TRIANGLES} triangles on the screen"
        raise ImportFileError(f"{name}: its shape has {len(triangles)} triangles", entry=name, value=len(triangles), rule=rule)
    size, merged, whole = _merged(np.array(points), np.array(triangles), name)
    return _record(name, size, merged, whole, volume) | ({"solids": counts} if len(counts) > 1 else {})


def mesh_record(path: Path, name: str) -> dict[str, Any]:
    """A mesh file's shape (STL, 3MF, GLB, OBJ, PLY; a file without units is in mm), as ``solid_record`` has it. Raises ImportFileError."""
    import trimesh

    rule = "a closed mesh as STL, 3MF, GLB, OBJ or PLY"
    try:
        mesh = trimesh.load(path, force="mesh")
    except Exception as error:  # every reader has its own
        raise ImportFileError(f"{name}: it cannot be read as a mesh", entry=name, rule=rule) from error
    if not isinstance(mesh, trimesh.Trimesh) or not len(mesh.faces):
        raise ImportFileError(f"{name}: there is no mesh in it", entry=name, rule=rule)
    corners, faces = np.asarray(mesh.vertices, float), np.asarray(mesh.faces)
    if not np.isfinite(corners).all():
        raise ImportFileError(f"{name}: its places are no numbers", entry=name, rule=rule)
    if len(faces) > MOST_TRIANGLES:
        rule = f"at most {MOST_TRIANGLES} triangles on the screen"
        raise ImportFileError(f"{name}: its shape has {len(faces)} triangles", entry=name, value=len(faces), rule=rule)
    size, merged, whole = _merged(corners, faces, name)
    a, b, c = (merged[whole[:, k]] for k in range(3))
    volume = float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6)
    if volume <= WITHIN:
        raise ImportFileError(f"{name}: its shape is inside out, or flat", entry=name, rule=rule)
    return _record(name, size, merged, whole, volume)


def _merged(corners: np.ndarray, triangles: np.ndarray, name: str) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Size, corners from the box's low corner, and triangles of a shape, where faces that were meshed one by one have their common corners as one."""
    low = corners.min(axis=0)
    merged, index = np.unique(np.round(corners - low, 3), axis=0, return_inverse=True)
    whole = index[triangles].reshape(-1, 3)
    whole = whole[(whole[:, 0] != whole[:, 1]) & (whole[:, 1] != whole[:, 2]) & (whole[:, 2] != whole[:, 0])]
    _check_closed(whole, name)
    return np.round(corners.max(axis=0) - low, 4), merged, whole


def _record(name: str, size: np.ndarray, merged: np.ndarray, whole: np.ndarray, volume: float) -> dict[str, Any]:
    return {
        "source": name[-120:],
        "size": size.tolist(),
        "positions": merged.ravel().tolist(),
        "triangles": whole.ravel().tolist(),
        "volume": round(volume, 3),
        **find(merged, whole),
    }


def _solids(shape: Any) -> list[int]:
    """How many faces each solid of a shape has."""
    from OCP.TopAbs import TopAbs_FACE, TopAbs_SOLID
    from OCP.TopExp import TopExp_Explorer

    found = []
    solids = TopExp_Explorer(shape, TopAbs_SOLID)
    while solids.More():
        faces, n = TopExp_Explorer(solids.Current(), TopAbs_FACE), 0
        while faces.More():
            n += 1
            faces.Next()
        found.append(n)
        solids.Next()
    return found


def _check_closed(triangles: np.ndarray, name: str) -> None:
    sides = np.concatenate((triangles[:, [0, 1]], triangles[:, [1, 2]], triangles[:, [2, 0]]))
    n = int(sides.max()) + 1
    own, back = np.sort(sides[:, 0] * n + sides[:, 1]), np.sort(sides[:, 1] * n + sides[:, 0])
    if not np.array_equal(own, back):
        rule = "a solid whose faces close all round"
        raise ImportFileError(f"{name}: its shape is not closed", entry=name, rule=rule)
