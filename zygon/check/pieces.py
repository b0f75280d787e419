"""Rules of the part itself: one piece, and marks on the face that lies up."""

from __future__ import annotations

from zygon.build.built import BuiltPart, Fault, Mend
from zygon.build.pipeline import marked_faces
from zygon.design.patch import pointer

__all__ = ["piece_faults", "underside_faults"]


def piece_faults(part: BuiltPart) -> list[Fault]:
    """A part is one piece."""
    n = len(part.flat.pieces)  # type: ignore[union-attr]
    if n == 1:
        return []
    message = f"{part.path} falls into {n} pieces" if n else f"Nothing is left of {part.path}"
    at = part.flat.pieces[1].outer.points[0] if n else None  # type: ignore[union-attr]
    return [Fault("pieces", message, "a part is one piece", str(n), "geometry", part=part.key, at=at)]


def underside_faults(part: BuiltPart) -> list[Fault]:
    """Marks are engraved on the face that lies up; both faces in one cut cannot be."""
    faces = marked_faces(part)
    up = part.record.up  # type: ignore[union-attr]
    down = "b" if up == "a" else "a"
    if down not in faces:
        return []
    names = {"a": part.frame.face_a, "b": part.frame.face_b}  # type: ignore[union-attr]
    message = f"{part.path} has marks on its {names[down]}, which lies down on the cutter"
    mend = Mend(f"Lay {part.path} with its {names[down]} up", [{"op": "add", "path": pointer("parts", part.key, "up"), "value": down}])
    return [
        Fault("underside", message, "marks are cut from the face that lies up", names[down], "common practice", part=part.key,
              mends=() if up in faces else (mend,))
    ]  # fmt: skip
