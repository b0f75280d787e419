"""The end of a tube laid flat: what is wrapped round it, at 1 : 1, to scribe along or to cut by."""

from __future__ import annotations

from zygon.geometry.contour import Contour, polyline
from zygon.geometry.fitted import as_arcs
from zygon.making.tube.cope import Cope

__all__ = ["COLLAR", "template", "template_marks"]

#: A template's edge is as near as this (mm) to the true one.
NEAR = 0.01
#: What is left below the shortest place, so that the template goes round as a collar (mm).
COLLAR = 20.0


def template(cope: Cope) -> tuple[Contour, float]:
    """The outline to be wrapped round the branch, phi 0 at both its ends, x round the tube and y along it, in mm; and the length at its lower edge.

    The lower edge is straight and square to the tube; the upper one is the cope, as arcs within ``NEAR``.
    """
    knots = cope.corners
    around = cope.round
    floor = min(cope.length(phi) for phi in range(360)) - COLLAR
    points, bulges = as_arcs(lambda phi: (around * phi / 360, cope.length(phi) - floor), knots, NEAR / 2)
    outline = [(0.0, 0.0), (around, 0.0), *reversed(points)]
    back = [-b for b in reversed(bulges)]
    turned = [0.0, 0.0, *back, 0.0]
    return Contour(tuple(outline), tuple(turned), ("",) * len(outline)), floor


def template_marks(cope: Cope, floor: float) -> list[Contour]:
    """Lines along the tube at every quarter, from the lower edge to the cope."""
    return [polyline([(cope.round * phi / 360, 0.0), (cope.round * phi / 360, cope.length(phi) - floor)]) for phi in (90, 180, 270)]
