"""The figures of a drawing in one row: x and y of its points, radii of its circles and arcs, and behind them what lies fast."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from zygon.drawn.drawing import Drawing, DrawnArc, DrawnCircle, DrawnLine

__all__ = ["Fast", "Unknowns"]

#: Where what a drawing refers to lies, by its key: as ``Reference.seen``, in mm.
Fast = Mapping[str, tuple[float, ...]]
#: Places in the row of x and y of a point; of both ends of a line; of a circle's centre and its radius.
PointAt = tuple[int, int]
LineAt = tuple[int, int, int, int]
RoundAt = tuple[int, int, int]


class Unknowns:
    """Which place in the row is whose. ``start`` is the row as the drawing keeps it, ``now`` the same with what lies fast where ``fast`` has it.

    The first ``free`` figures are unknown.
    """

    def __init__(self, drawing: Drawing, fast: Fast | None = None) -> None:
        self.drawing = drawing
        row: list[float] = []
        self.points: dict[str, PointAt] = {}
        self.radii: dict[str, int] = {}
        for key, point in drawing.points.items():
            self.points[key] = len(row), len(row) + 1
            row += [point.x, point.y]
        for key, curve in drawing.curves.items():
            if isinstance(curve, DrawnCircle):
                self.radii[key] = len(row)
                row.append(curve.radius)
            elif isinstance(curve, DrawnArc):
                self.radii[key] = len(row)
                a, c = drawing.points[curve.a], drawing.points[curve.centre]
                row.append(math.dist((a.x, a.y), (c.x, c.y)))
        self.free = len(row)
        self._fast: dict[str, int] = {}
        for key, reference in drawing.references.items():
            self._fast[key] = len(row)
            row += reference.seen
        self.start = np.array(row, float)
        self.now = self.start.copy()
        for key, at in self._fast.items():
            if fast and key in fast:
                self.now[at : at + len(fast[key])] = fast[key]

    def point(self, key: str) -> PointAt:
        """Where the x and y of a point stand, by its key or as a 'KEY.a', 'KEY.b' or 'KEY.centre'."""
        own, _, end = key.partition(".")
        if not end:
            return self.points[own] if own in self.points else (self._fast[own], self._fast[own] + 1)
        if own in self.drawing.curves:
            return self.points[getattr(self.drawing.curves[own], end)]
        at = self._fast[own] + (2 if end == "b" else 0)
        return at, at + 1

    def line(self, key: str) -> LineAt:
        """Where the ends of a straight line stand."""
        curve = self.drawing.curves.get(key)
        if isinstance(curve, DrawnLine):
            return (*self.points[curve.a], *self.points[curve.b])
        at = self._fast[key]
        return at, at + 1, at + 2, at + 3

    def round(self, key: str) -> RoundAt:
        """Where the centre and the radius of a circle or an arc stand."""
        curve = self.drawing.curves.get(key)
        if isinstance(curve, DrawnArc | DrawnCircle):
            return (*self.points[curve.centre], self.radii[key])
        at = self._fast[key]
        return at, at + 1, at + 2

    def shared(self, one: str, other: str) -> str | None:
        """The key of the point at which two curves end that are joined there; None where they are not."""
        mine, others = (self._ends(k) for k in (one, other))
        return next((p for p in mine if p in others), None)

    def _ends(self, key: str) -> tuple[str, ...]:
        curve = self.drawing.curves.get(key)
        return (curve.a, curve.b) if isinstance(curve, DrawnLine | DrawnArc) else ()

    def is_line(self, key: str) -> bool:
        """Whether a key is of a straight line."""
        return self.drawing.thing(key) == "l"
