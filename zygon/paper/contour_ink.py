"""Contours as ink: a circle as one, lines and true arcs otherwise."""

from __future__ import annotations

import math
from collections.abc import Iterable

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour
from zygon.owner import is_of
from zygon.paper.ink import Arc, Line
from zygon.paper.pens import Pen

__all__ = ["contour_ink"]


def contour_ink(contour: Contour, pen: Pen, of: str) -> Iterable[Line | Arc]:
    """The strokes of a contour, in its own mm."""
    disc = contour.as_circle
    if disc:
        yield Arc(pen, disc[:2], disc[2], 0.0, 2 * math.pi, _of(contour.owners[0], of))
        return
    for s in contour.segments():
        own = _of(s.owner, of)
        if s.bulge:
            cx, cy, r, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
            yield Arc(pen, (cx, cy), r, start, sweep, own)
        else:
            yield Line(pen, s.p, s.q, own)


def _of(owner: str, part: str) -> str:
    """What a line is of: the cut or joint that made it, else the part."""
    return owner if part and is_of(owner, "feature", "bore", "joint") else part
