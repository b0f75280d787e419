"""Solid files by their kind: exact ones as STEP, meshes as STL, 3MF and GLB, flats as STEP."""

from __future__ import annotations

from typing import Literal

from zygon.exchange.meshes import write_mesh
from zygon.exchange.named import ExportError, safe
from zygon.exchange.step import write_step, write_step_flat
from zygon.making.result.built import Built, MadePart

__all__ = ["SolidFile", "solid_file", "solid_files", "solid_part"]

SolidFile = Literal["step", "stl", "3mf", "glb"]


def solid_part(built: Built, key: str) -> MadePart:
    """A part with a solid, by its key. Raises ExportError where nothing is made of it, KeyError where it is not there."""
    part = built.parts[key]
    if key not in built.made:
        raise ExportError(f"{part.path} has no solid", entry=part.path, rule="a part that takes up room")
    return built.made[key]


def solid_file(built: Built, to: SolidFile, part: MadePart | None = None, *, flat: bool = False) -> tuple[str, bytes]:
    """Name and content of the whole design's solids or of one part's; ``flat`` its flat instead, as STEP. Raises ZygonError where there is none."""
    name = safe(built.document.name) + (f"_{safe(part.path)}" if part else "")
    if flat and part:
        if part.key not in built.flats:
            raise ExportError(f"{part.path} has no flat", entry=part.path, rule="a part that lies in a plane")
        return f"{name}_flat.step", write_step_flat(built.flats[part.key])
    parts = [part] if part else None
    return f"{name}.{to}", write_step(built, parts) if to == "step" else write_mesh(built, to, parts)


def solid_files(built: Built, to: SolidFile) -> dict[str, bytes]:
    """The design whole; as STEP the flat of every folded part that is cut too."""
    files = dict([solid_file(built, to)])
    if to == "step":
        for part in built.flats.values():
            if part.flat.fold and part.flat.pieces and not part.made_by and part.record.cut_here:
                files |= dict([solid_file(built, to, part, flat=True)])
    return files
