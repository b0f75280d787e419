"""The rule of the part itself: it is one piece."""

from __future__ import annotations

from zygon.build.built import BuiltPart, Fault

__all__ = ["piece_faults"]


def piece_faults(part: BuiltPart) -> list[Fault]:
    """A part is one piece."""
    n = len(part.flat.pieces)  # type: ignore[union-attr]
    if n == 1:
        return []
    message = f"{part.path} falls into {n} pieces" if n else f"Nothing is left of {part.path}"
    at = part.flat.pieces[1].outer.points[0] if n else None  # type: ignore[union-attr]
    return [Fault("pieces", message, "a part is one piece", str(n), "geometry", part=part.key, at=at)]
