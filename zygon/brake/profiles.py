"""Outlines of punch, die, ram and bed across the bend line, as (y, z) polygons in the brake's frame."""

from __future__ import annotations

import math

import shapely
from shapely import affinity

from zygon.brake.slabs import TOUCH
from zygon.stock.brake import Die, Punch

__all__ = ["die_profile", "punch_profiles"]

#: Half width and height of the ram above the punch, and of the bed below the die (mm): plain stand-ins for a small brake.
RAM = (28.0, 400.0)
BED = (45.0, 700.0)
#: A V is cut so much deeper than its flanks meet (mm), for the tip of an acute punch.
SLACK = 0.5


def punch_profiles(punch: Punch) -> list[tuple[shapely.Polygon, shapely.Polygon]]:
    """The punch with its tip at (0, 0) and the ram above it; both ways round where it is not symmetric."""
    points = [tuple(p) for p in punch.profile] or _wedge(punch)
    shape = shapely.Polygon(points)
    if not shape.is_valid:
        shape = shapely.make_valid(shape)
    top = max(z for _, z in points)
    ram = shapely.box(-RAM[0], top, RAM[0], top + RAM[1])
    ways = [shape]
    turned = affinity.scale(shape, -1.0, 1.0, origin=(0, 0))
    if shape.symmetric_difference(turned).area > 0.5:
        ways.append(turned)
    return [(shapely.buffer(w, -TOUCH), shapely.buffer(ram, -TOUCH)) for w in ways]


def _wedge(punch: Punch) -> list[tuple[float, float]]:
    """A plain punch: a rounded tip, its flanks, and a body of one width up to the ram."""
    half = math.radians(punch.angle) / 2
    r = min(punch.radius, punch.width / 2 * 0.999)
    # the tip's arc ends where the flanks are tangent to it
    arc = [(r * math.sin(t), r - r * math.cos(t)) for t in (k / 6 * (math.pi / 2 - half) for k in range(-6, 7))]
    y, z = arc[-1]
    side = max(punch.width / 2 - y, 0.0)
    shoulder = z + side / math.tan(half)
    right = [(punch.width / 2, shoulder), (punch.width / 2, max(punch.height, shoulder + 1.0))]
    return [*arc, *right, *[(-a, b) for a, b in reversed(right)]]


def die_profile(die: Die) -> tuple[shapely.Polygon, shapely.Polygon]:
    """The die with its top at z = 0 and its V about y = 0, and the bed under it."""
    half, v = math.radians(die.angle) / 2, die.v / 2
    deep = min(v / math.tan(half) + SLACK, die.height * 0.9)
    w = max(die.width / 2, v + 1.0)
    body = shapely.Polygon([(-w, 0), (-v, 0), (0, -deep), (v, 0), (w, 0), (w, -die.height), (-w, -die.height)])
    bed = shapely.box(-BED[0], -die.height - BED[1], BED[0], -die.height)
    return shapely.buffer(body, -TOUCH), shapely.buffer(bed, -TOUCH)
