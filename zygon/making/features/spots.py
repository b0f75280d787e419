"""Where along one way of a board a feature lies: from an edge inward, from a middle onward, or at a place in the room."""

from __future__ import annotations

from typing import Any, Literal

from zygon.design.features import FEATURE_RECORDS
from zygon.geometry.frame import FACES, Frame

__all__ = ["placed_ways", "spot_place", "spot_sign"]


def spot_place(origin: str, offset: float, axis: str, span: tuple[float, float], gap: tuple[float, float]) -> float | None:
    """Mm from the span's low end; None where the origin does not lie along the axis. ``gap`` is the opening along it, in the room."""
    low, high = span
    starts = {"room": -low, "centre": (high - low) / 2, "opening": sum(gap) / 2 - low, FACES[axis][0]: 0.0, FACES[axis][1]: high - low}
    return starts[origin] + spot_sign(origin) * offset if origin in starts else None


def spot_sign(origin: str) -> int:
    """1 where a larger offset lies farther to the high end, -1 where it is measured inward from there."""
    return -1 if origin in {pair[1] for pair in FACES.values()} else 1


def placed_ways(feature: Any, frame: Frame) -> list[Literal["u", "v"]]:
    """Along which of u and v a feature has a place of its own."""
    placed = FEATURE_RECORDS[feature.kind].placed
    if placed == "free":
        return ["u", "v"]
    if placed == "along_edge":
        return ["v"] if feature.edge in FACES[frame.u] else ["u"]
    if placed == "across_way":
        if feature.length is not None:
            return ["u", "v"]
        return ["u"] if feature.along == "v" else ["v"]
    return []
