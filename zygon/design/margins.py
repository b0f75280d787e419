"""Margins at the edges of sheets, as a design says them."""

from __future__ import annotations

from zygon.design.document import NestSettings
from zygon.errors import ExpressionError
from zygon.measure.evaluate import plain_length

__all__ = ["EDGES", "broken_margin", "margins_of"]

#: The names of a sheet's edges: at low x, low y, high x, high y.
EDGES = ("left", "bottom", "right", "top")


def margins_of(nest: NestSettings) -> tuple[float, float, float, float]:
    """Margins in mm at low x, low y, high x, high y: an edge's own, or the one for all. Raises ExpressionError."""
    low_x, low_y, high_x, high_y = (plain_length(getattr(nest.edges, edge) or nest.margin) for edge in EDGES)
    return low_x, low_y, high_x, high_y


def broken_margin(nest: NestSettings) -> tuple[str, ExpressionError] | None:
    """The entry (as a pointer) of a margin that cannot be worked out, and why."""
    for pointer, entry in (("/nest/margin", nest.margin), *((f"/nest/edges/{e}", getattr(nest.edges, e)) for e in EDGES)):
        try:
            if entry:
                plain_length(entry)
        except ExpressionError as error:
            return pointer, error
    return None
