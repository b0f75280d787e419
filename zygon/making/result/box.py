"""A board's extents in the room."""

from __future__ import annotations

from dataclasses import dataclass

__all__ = ["Box"]


@dataclass(frozen=True)
class Box:
    """A board's extents along x, y and z in mm: ``low`` and ``high`` are (3,) tuples."""

    low: tuple[float, float, float]
    high: tuple[float, float, float]

    def span(self, axis: str) -> tuple[float, float]:
        """Low and high along an axis."""
        i = "xyz".index(axis)
        return self.low[i], self.high[i]

    def with_span(self, axis: str, low: float, high: float) -> Box:
        """The same box with another span along an axis."""
        i = "xyz".index(axis)
        lows, highs = list(self.low), list(self.high)
        lows[i], highs[i] = low, high
        return Box((lows[0], lows[1], lows[2]), (highs[0], highs[1], highs[2]))
