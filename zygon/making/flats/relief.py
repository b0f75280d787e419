"""Reliefs: the small extra cuts that let a square mate seat in an inside corner which a round bit leaves round.

A dog-bone's circle lies on the corner's bisector, a T-bone's bites into the shorter wall only; both touch the corner itself.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass

import shapely

from zygon.geometry.contour import Contour, Segment, circle
from zygon.geometry.offset import gets_in
from zygon.owner import is_of

__all__ = ["Relief", "relief_circles", "within"]

#: A relief is this much wider than the bit, so that the bit's path keeps a true arc in it and the corner lies inside, not on it.
WIDER = 1.02
#: Corners that turn by less than this (radians) are run through.
TURN = 0.15


@dataclass(frozen=True)
class Relief:
    """The radius in mm of the bit that cuts outlines, and by owner how its inside corners are relieved: 'dog_bone', 't_bone' or 'none'.

    ``finer`` are the radii of narrower bits, the widest first: an opening that the first does not get into is cut with one of them.
    """

    radius: float
    styles: tuple[tuple[str, str], ...]
    finer: tuple[float, ...] = ()

    def style(self, *owners: str) -> str:
        """The relief of the first owner that has one; 'none' elsewhere."""
        return next((s for o in owners for name, s in self.styles if name == o), "none")


def relief_circles(contours: Iterable[Contour], relief: Relief, inside: Callable[[float, float], bool] | None = None) -> list[Contour]:
    """The circles for all inside corners of contours that have the material on their left; ``inside`` may leave corners out."""
    found = []
    for contour in contours:
        segments, r = contour.segments(), None
        for before, after in zip((segments[-1], *segments[:-1]), segments, strict=True):
            style = relief.style(before.owner, after.owner)
            if style == "none" or (inside and not inside(*after.p)):
                continue
            r = r or _radius(contour, relief)
            made = _circle(before, after, style, r)
            if made:
                found.append(made)
    return found


def _radius(contour: Contour, relief: Relief) -> float:
    """The radius of the bit that cuts a contour with the material on its left."""
    if not relief.finer or contour.area > 0:
        return relief.radius
    return next((r for r in (relief.radius, *relief.finer) if gets_in(contour, 2 * r)), relief.radius)


def _circle(before: Segment, after: Segment, style: str, r: float) -> Contour | None:
    (ax, ay), (bx, by) = before.tangents()[1], after.tangents()[0]
    if math.atan2(ax * by - ay * bx, ax * bx + ay * by) > -TURN:
        return None
    x, y = after.p
    owner = before.owner if is_of(before.owner, "joint") else after.owner
    if style == "t_bone":
        dx, dy = (-ax, -ay) if before.length < after.length else (bx, by)
    else:
        dx, dy = bx - ax, by - ay
        length = math.hypot(dx, dy)
        dx, dy = dx / length, dy / length
    return circle(x + dx * r, y + dy * r, r * WIDER, owner)


def within(polygon: shapely.Geometry, margin: float) -> Callable[[float, float], bool]:
    """Whether a place lies inside a polygon by more than ``margin`` mm."""
    core = shapely.buffer(polygon, -margin)
    shapely.prepare(core)
    return lambda x, y: bool(shapely.contains_xy(core, x, y))
