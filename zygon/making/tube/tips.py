"""What is done at the end of a round bar or tube after it is sawn: a thread, a chamfer; or it is pressed flat.

A thread is drawn as it is on drawings, its core as solid: ISO metric, coarse pitches of ISO 261, the core's diameter d3 = d - 1.22687 P of ISO 724
(both from memory).
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import manifold3d
import numpy as np

from zygon.geometry.motion import Motion
from zygon.geometry.solid import Tool
from zygon.making.tube.flat_end import Flat
from zygon.owner import edge_id

__all__ = ["PITCHES", "Tip", "core_of", "size_of", "tip_tools", "without_tip"]

#: Coarse pitch of each size, mm.
PITCHES: dict[str, float] = {
    "M3": 0.5,
    "M4": 0.7,
    "M5": 0.8,
    "M6": 1.0,
    "M8": 1.25,
    "M10": 1.5,
    "M12": 1.75,
    "M14": 2.0,
    "M16": 2.0,
    "M20": 2.5,
    "M24": 3.0,
    "M30": 3.5,
}
#: Tools reach so far beyond what they cut (mm), and are so many chords round.
PAST, ROUND = 1.0, 180


def size_of(thread: str) -> float:
    """The outer diameter of a thread, mm."""
    return float(thread.removeprefix("M"))


def core_of(thread: str) -> float:
    """The diameter of a thread's core, mm."""
    return size_of(thread) - 1.22687 * PITCHES[thread]


@dataclass(frozen=True)
class Tip:
    """The end of a round bar: ``thread`` over ``long`` mm ('' for none), and a ``chamfer`` of 45 degrees, so far in (mm); or it is ``flat``.

    ``groove`` is one for a retaining ring: how far in from the end it begins, how wide it is, and the diameter at its ground (mm).
    """

    thread: str = ""
    long: float = 0.0
    chamfer: float = 0.0
    flat: Flat | None = None
    groove: tuple[float, float, float] | None = None

    @property
    def mirrored(self) -> Tip:
        """Left for right across the end's u."""
        return replace(self, flat=self.flat.mirrored) if self.flat else self

    def taken(self, radius: float) -> float:
        """What it takes off a bar of a radius, mm³."""
        if self.flat:
            return self.flat.taken
        r = core_of(self.thread) / 2 if self.thread else radius
        c, ring = self.chamfer, math.pi * (radius**2 - r**2) * self.long if self.thread else 0.0
        if self.groove:
            ring += math.pi * (radius**2 - (self.groove[2] / 2) ** 2) * self.groove[1]
        return ring + math.pi * c * (r * r - (r * r + r * (r - c) + (r - c) ** 2) / 3)


def tip_tools(tip: Tip, radius: float, place: Motion) -> list[Tool]:
    """What is taken off an end; ``place`` has its origin in the middle of the end and w outward."""
    if tip.flat:
        return [tip.flat.tool(place)]
    rows, found, r = np.array(place.rows), [], radius
    outside = manifold3d.Manifold.cylinder(1.0, radius + PAST, radius + PAST, ROUND)
    if tip.thread:
        r = core_of(tip.thread) / 2
        ring = outside.scale((1, 1, tip.long + PAST)) - manifold3d.Manifold.cylinder(tip.long + PAST, r, r, ROUND)
        found.append(Tool(ring.translate((0.0, 0.0, -tip.long)).transform(rows), edge_id("thread")))
    if tip.groove:
        off, wide, core = tip.groove
        ring = outside.scale((1, 1, wide)) - manifold3d.Manifold.cylinder(wide, core / 2, core / 2, ROUND)
        found.append(Tool(ring.translate((0.0, 0.0, -off - wide)).transform(rows), edge_id("groove")))
    if tip.chamfer:
        c = tip.chamfer
        cone = manifold3d.Manifold.cylinder(c + PAST, r, r - c - PAST if r > c + PAST else 0.0, ROUND)
        if r <= c + PAST:
            cone = manifold3d.Manifold.cylinder(r, r, 0.0, ROUND)
        ring = outside.scale((1, 1, c + PAST)) - cone
        found.append(Tool(ring.translate((0.0, 0.0, -c)).transform(rows), edge_id("chamfer")))
    return found


def without_tip(solid: Any, tip: Tip, radius: float, place: Motion) -> Any:
    """The exact solid without what an end's thread and chamfer take off, or with its end pressed flat."""
    if tip.flat:
        return tip.flat.exact(solid, place)
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCone, BRepPrimAPI_MakeCylinder
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    def axes(w: float) -> Any:
        return gp_Ax2(gp_Pnt(*place.point((0.0, 0.0, w))), gp_Dir(*place.vector((0.0, 0.0, 1.0))), gp_Dir(*place.vector((1.0, 0.0, 0.0))))

    r = radius
    if tip.thread:
        r = core_of(tip.thread) / 2
        outside = BRepPrimAPI_MakeCylinder(axes(-tip.long), radius + PAST, tip.long + PAST).Shape()
        core = BRepPrimAPI_MakeCylinder(axes(-tip.long), r, tip.long + PAST).Shape()
        solid = BRepAlgoAPI_Cut(solid, BRepAlgoAPI_Cut(outside, core).Shape()).Shape()
    if tip.groove:
        off, wide, core = tip.groove
        outside = BRepPrimAPI_MakeCylinder(axes(-off - wide), radius + PAST, wide).Shape()
        solid = BRepAlgoAPI_Cut(
            solid, BRepAlgoAPI_Cut(outside, BRepPrimAPI_MakeCylinder(axes(-off - wide), core / 2, wide).Shape()).Shape()
        ).Shape()
    if tip.chamfer:
        outside = BRepPrimAPI_MakeCylinder(axes(-tip.chamfer), radius + PAST, tip.chamfer).Shape()
        cone = BRepPrimAPI_MakeCone(axes(-tip.chamfer), r, r - tip.chamfer, tip.chamfer).Shape()
        solid = BRepAlgoAPI_Cut(solid, BRepAlgoAPI_Cut(outside, cone).Shape()).Shape()
    return solid
