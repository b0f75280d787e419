"""Cuts straight through with a bit: outlines in passes with tabs and a skin, openings, and small openings cleared whole."""

from __future__ import annotations

import math
from dataclasses import dataclass

import shapely

from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour, Point
from zygon.geometry.offset import OffsetError, offset
from zygon.tolerance import SAGITTA, WITHIN
from zygon.toolpath.clearing import begun_near
from zygon.toolpath.descents import down, drilled, levels_of, link
from zygon.toolpath.milling import Milling
from zygon.toolpath.pockets import layers
from zygon.toolpath.routed import Dips, straight_down
from zygon.toolpath.tabs import TabPlan

__all__ = ["Outlined", "has_slug", "opened", "outlined"]

#: What falls out of an opening that is no wider than so many bits is cleared away: it would be caught by the bit.
SLUG = 2.0
#: The corner of a finishing run lies no farther than so many times what was left for it from that of the run before, or it is another corner.
ASIDE = 4.0


@dataclass(frozen=True)
class Outlined:
    """The dips of a cut all round, those that take its skin when all else is done, and how many tabs hold what is inside it. ``finished``: it has the finishing run that is asked for."""

    dips: Dips
    last: Dips = ()
    tabs: int = 0
    finished: bool = True


def outlined(contour: Contour, outer: bool, m: Milling, plan: TabPlan, tabs: int, at: Point) -> Outlined:
    """A compensated contour all round, through the sheet, lifted over the tabs of a plan, of which ``tabs`` are its own; ``outer`` where the part is inside it."""
    # material is to the left of this one, the waste to its right
    fine = rough = contour.wound(ccw=outer)
    if m.finish:
        try:
            rough = offset(fine, m.finish)
        except OffsetError:
            rough = fine  # no room to leave anything: it is cut as drawn at once
    if m.climb:  # of a bit that turns clockwise: material to its right
        alike, fine, rough = rough is fine, fine.reversed(), rough.reversed()
        rough = fine if alike else rough
    run = begun_near(rough, at, plan.clear_of(rough))
    wall = begun_near(fine, run.points[0], plan.clear_of(fine))
    skin = min(m.skin, m.thickness)
    floor = m.thickness - skin if skin else m.through
    dips = [down(run, 0.0, levels_of(floor, m.bit.pass_depth), m.slope, plan.on(run))]
    if rough is not fine:
        final = down(wall, -floor, [-floor], 0.0, plan.on(wall))
        start, first = run.points[0], wall.points[0]
        if math.dist(start, first) <= ASIDE * m.finish:  # down where it is cut already, then over to the line
            dips.append((straight_down(start, 0.0, -floor), link(start, first, -floor), *final))
        else:
            dips.append((straight_down(first, 0.0, -floor), *final))
    last = (down(wall, 0.0, [-m.through], 0.0, plan.on(wall)),) if skin else ()
    return Outlined(tuple(dips), last, tabs, finished=not m.finish or rough is not fine)


def has_slug(contour: Contour, m: Milling) -> bool:
    """Whether something falls out of an opening that is too large to be cleared away."""
    if not contour.closed:
        return False
    return _across(shapely.buffer(to_polygon(contour, SAGITTA), -m.bit.diameter / 2)) > SLUG * m.bit.diameter


def opened(contour: Contour, m: Milling, at: Point) -> Outlined:
    """An opening of which nothing falls out: drilled where it is just as wide as the bit, else cleared whole."""
    if not contour.closed:
        if not contour.bulges:
            return Outlined(drilled(contour.points[0], m.through, m.peck))
        back = contour.reversed()
        there = Contour((*contour.points, *back.points[1:]), (*contour.bulges, *back.bulges), (*contour.owners, *back.owners), closed=False)
        return Outlined((down(there, 0.0, levels_of(m.through, m.bit.pass_depth), m.slope),))
    middles = to_polygon(contour, SAGITTA)
    if shapely.is_empty(shapely.buffer(middles, -m.step * m.bit.diameter)) and not m.finish:  # once round
        run = begun_near(contour.wound(ccw=m.climb), at)
        return Outlined((down(run, 0.0, levels_of(m.through, m.bit.pass_depth), m.slope),))
    return Outlined(tuple(layers(middles, m.bit, m, levels_of(m.through, m.bit.pass_depth), at)))


def _across(area: shapely.Geometry) -> float:
    """The longer side of what lies in it, mm."""
    if shapely.is_empty(area):
        return 0.0
    x0, y0, x1, y1 = shapely.bounds(area)
    return math.hypot(x1 - x0, y1 - y0) / math.sqrt(2) + WITHIN
