"""What a router's program leaves of a sheet, by the words that gcodeparser finds, and what ought to be left."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely
from gcodeparser import parse_gcode_lines

from zygon.geometry.boolean import region_polygon
from zygon.nest.design import StockNest

__all__ = ["Swath", "drilled_holes", "moves_of", "placed_pockets", "swept_to"]


@dataclass
class Swath:
    """A move in mm: where the bit's middle goes, from and to which height, with which bit, and whether it cuts."""

    line: shapely.LineString
    z0: float
    z1: float
    bit: int
    cuts: bool
    spindle: bool


def moves_of(text: str) -> list[Swath]:
    found, at, unit, bit, on = [], (0.0, 0.0, 0.0), 1.0, 0, False
    for raw in parse_gcode_lines(text):
        letter, number = raw.command
        p = raw.params
        if letter == "T":
            bit = number
        if letter == "G" and number in (20, 21):
            unit = 25.4 if number == 20 else 1.0
        if letter == "M" and number in (3, 5):
            on = number == 3
        if letter != "G" or number not in (0, 1, 2, 3) or not {"X", "Y", "Z"} & set(p):
            continue
        to = tuple(p[k] * unit if k in p else at[i] for i, k in enumerate("XYZ"))
        places = [at[:2]]
        if number in (2, 3):
            x, y = at[0] + p["I"] * unit, at[1] + p["J"] * unit
            r, start = math.dist(at[:2], (x, y)), math.atan2(at[1] - y, at[0] - x)
            turn = math.atan2(to[1] - y, to[0] - x) - start
            sweep = turn % (2 * math.pi) if number == 3 else -(-turn % (2 * math.pi))
            n = max(2, math.ceil(abs(sweep) / math.acos(max(0.0, 1 - 5e-4 / max(r, 1e-3))) / 2))
            places = [(x + r * math.cos(start + sweep * k / n), y + r * math.sin(start + sweep * k / n)) for k in range(n)]
        found.append(Swath(shapely.LineString([*places, to[:2]]), at[2], to[2], bit, number != 0, on))
        at = to
    return found


def swept_to(moves: list[Swath], z: float, wide: dict[int, float], *, surely: bool) -> shapely.Geometry:
    """What is gone at a height: of slopes all (``surely`` False), or only what lies wholly below (``surely`` True)."""
    own = [m for m in moves if m.cuts and (max if surely else min)(m.z0, m.z1) <= z + 2e-3 and wide.get(m.bit)]
    return shapely.union_all(
        shapely.buffer(np.array([m.line for m in own], object), np.array([wide[m.bit] / 2 for m in own]), quad_segs=24)
    )


def placed_pockets(nest: StockNest, number: int, far: bool = False) -> list[tuple[int, float, shapely.Geometry]]:
    """(which piece, depth, region) of every pocket and blind hole of the face that lies up, or of the other, where it lies."""
    found = []
    for k, p in enumerate(nest.layout.sheets[number - 1].placements):
        flat = nest.plan.flats[p.shape]
        for q in flat.pockets:
            if (q.face == flat.seen) != far:
                region = region_polygon(q.mapped(lambda c, p=p: c.moved(p.x, p.y, p.angle, p.mirrored)).region, 0.001)
                found.append((k, q.depth, region))
    return found


def drilled_holes(nest: StockNest, number: int, most: float) -> shapely.Geometry:
    """The round holes straight through that are no wider than ``most`` mm, where they lie."""
    found = []
    for p in nest.layout.sheets[number - 1].placements:
        for c in nest.plan.flats[p.shape].inside:
            placed = c.moved(p.x, p.y, p.angle, p.mirrored)
            if placed.as_circle and 2 * placed.as_circle[2] <= most:
                found.append(shapely.Point(placed.as_circle[:2]).buffer(placed.as_circle[2], quad_segs=64))
    return shapely.union_all(found)
