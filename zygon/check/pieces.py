"""Rules of the part itself: one piece, and the face that is worked lies up."""

from __future__ import annotations

from zygon.build.built import BuiltPart, Fault, Mend, Side
from zygon.build.face_words import face_word
from zygon.design.patch import pointer

__all__ = ["piece_faults", "underside_faults"]


def piece_faults(part: BuiltPart) -> list[Fault]:
    """A part is one piece."""
    n = len(part.flat.pieces)  # type: ignore[union-attr]
    if n == 1:
        return []
    message = f"{part.path} falls into {n} pieces" if n else f"Nothing is left of {part.path}"
    at = part.flat.pieces[1].outer.points[0] if n else None  # type: ignore[union-attr]
    loose = "piece" if n == 2 else "pieces"
    mends = (
        (Mend(f"Take the loose {loose} away", [{"op": "add", "path": pointer("parts", part.of, "loose"), "value": "removed"}]),)
        if n
        else ()
    )
    return [Fault("pieces", message, "a part is one piece", str(n), "geometry", part=part.key, at=at, mends=mends)]


def underside_faults(part: BuiltPart) -> list[Fault]:
    """A part that is worked on the face that lies down alone would lie better the other way."""
    up = part.record.up  # type: ignore[union-attr]
    down: Side = "b" if up == "a" else "a"
    if part.flat is None or part.flat.worked(up) or not part.flat.worked(down):
        return []
    names: dict[Side, str] = {"a": face_word(part, "a"), "b": face_word(part, "b")}
    mend = Mend(f"Lay {part.path} with its {names[down]} up", [{"op": "add", "path": pointer("parts", part.key, "up"), "value": down}])
    return [
        Fault("underside", f"{part.path} is worked on its {names[down]} alone, which lies down on the cutter", "the face that is worked lies up",
              names[down], "common practice", "warning", part.key, mends=(mend,))
    ]  # fmt: skip
