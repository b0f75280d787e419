"""What is drilled, sunk and marked: each with the bit that has its width or its angle, or left to the hand and said."""

from __future__ import annotations

import math

from zygon.cut.kerf import Drill
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour, Point
from zygon.tolerance import SAGITTA
from zygon.toolpath.clearing import eroded
from zygon.toolpath.descents import across, drilled, levels_of
from zygon.toolpath.milling import Milling
from zygon.toolpath.pieces import once_round
from zygon.toolpath.pockets import layers
from zygon.toolpath.routed import BitWork, Dips, straight_down

__all__ = ["drill_of", "hole", "marked", "sunk", "v_bit"]

#: A drill is as wide as a hole within this (mm).
ALIKE = 0.05
#: A V bit has the angle of a countersink within this (radians).
ANGLE = math.radians(1)
#: A drill's tip is so many diameters long (118°), and goes through by that.
TIP = 0.3


def drill_of(drill: Drill, m: Milling) -> BitWork | None:
    """The bit for a round hole: a drill of its width, else the largest end mill that gets into it; None where there is none."""
    assert drill.contour.as_circle
    wide = 2 * drill.contour.as_circle[2]
    own = [b for b in m.bits if b.kind == "drill" and abs(b.diameter - wide) <= ALIKE]
    mills = [b for b in m.mills() if b.diameter <= wide + ALIKE]
    return min(own, key=lambda b: abs(b.diameter - wide)) if own else max(mills, key=lambda b: b.diameter, default=None)


def hole(drill: Drill, bit: BitWork, m: Milling, at: Point) -> Dips:
    """A round hole, straight through or to its depth; wider than its bit it is gone round."""
    assert drill.contour.as_circle
    x, y, r = drill.contour.as_circle
    depth = drill.depth or m.through
    if bit.kind == "drill" and not drill.depth:
        depth += TIP * bit.diameter
    if 2 * r <= bit.diameter + ALIKE:
        return drilled((x, y), depth, m.peck)
    middles = eroded(to_polygon(drill.contour, SAGITTA), bit.diameter / 2)
    return tuple(layers(middles, bit, m, levels_of(depth, bit.pass_depth), at))


def v_bit(m: Milling, angle: float = 0.0) -> BitWork | None:
    """The V bit of an angle (radians), of 0 the sharpest; None where there is none."""
    found = [b for b in m.bits if b.kind == "v" and (not angle or abs(b.angle - angle) <= ANGLE)]
    return min(found, key=lambda b: b.angle, default=None)


def sunk(drill: Drill, bit: BitWork) -> Dips:
    """A countersink by a V bit of its angle: so deep that its cone is as wide at the face as drawn."""
    assert drill.contour.as_circle
    x, y, r = drill.contour.as_circle
    return ((straight_down((x, y), 0.0, -r / math.tan(bit.angle / 2)),),)


def marked(mark: Contour, m: Milling) -> Dips:
    """A run along a mark."""
    return (across(once_round(mark), [-m.mark_depth]),)
