"""The end of a round tube or bar that is pressed flat, with a hole through the flat: its sizes, its solid as a mesh and its exact one.

What is pressed keeps its area: the middle of a tube's wall is as long round the flat as it was round the tube. Between round and flat it runs in
straight lines from four arcs of the circle to the sides and rounds of the flat.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import manifold3d
import numpy as np

from zygon.geometry.motion import Motion
from zygon.geometry.solid import Tool
from zygon.owner import edge_id

__all__ = ["Flat", "flat_wide"]

#: Half of the opening that is left between two walls that lie on one another (mm).
SLIT = 0.01
#: From so many degrees on either side of its width a circle runs to the rounds of the flat, else to its sides; an even number, as the chords are.
ROUNDS = 44
CHORD = 2
#: In so many steps a mesh goes from round to flat.
STEPS = 12
PAST = 1.0


def flat_wide(across: float, wall: float, thick: float) -> float:
    """How wide (mm) what is ``across`` wide, with a ``wall`` or 0 for a solid bar, becomes where it is pressed to a thickness."""
    if wall:
        return math.pi * (across - thick) / 2 + thick
    return math.pi * (across**2 - thick**2) / (4 * thick) + thick


@dataclass(frozen=True)
class Flat:
    """``across`` and ``wall`` of what is pressed, over ``long`` mm from the end and ``blend`` mm behind that; ``thick`` and ``wide`` as it then is.

    ``turned``: by how much its sides are turned about the end's own w, from looking along v, in radians. A ``hole`` (0 for none) goes through its middle,
    ``off`` mm from the end.
    """

    across: float
    wall: float
    long: float
    blend: float
    thick: float
    turned: float = 0.0
    hole: float = 0.0
    off: float = 0.0

    @property
    def wide(self) -> float:
        """How wide the flat is, mm."""
        return flat_wide(self.across, self.wall, self.thick)

    @property
    def far(self) -> float:
        """From the end to where it is round, mm."""
        return self.long + self.blend

    @property
    def mirrored(self) -> Flat:
        """Left for right across u."""
        return replace(self, turned=-self.turned)

    @property
    def _cavity(self) -> tuple[float, float]:
        """Half of how thick and how wide the hollow of a flat tube is."""
        half = max(self.thick / 2 - self.wall, SLIT)
        return half, (self.wide - self.thick) / 2 + half

    @property
    def taken(self) -> float:
        """By how much less it is than what was pressed, mm³, with its hole."""
        outer, inner = self.across / 2, self.across / 2 - self.wall if self.wall else 0.0
        return math.pi * (outer**2 - inner**2) * self.far - volume_of(replace(self, turned=0.0))

    def corners(self, place: Motion) -> np.ndarray:
        """Places (n, 3) that enclose it, ``place`` as for ``solid``."""
        return place.points(self._turned(_ring(self.thick / 2, self.wide / 2, self.across / 2), -self.long))

    def _turned(self, ring: np.ndarray, w: float) -> np.ndarray:
        c, s = math.cos(self.turned), math.sin(self.turned)
        return np.column_stack((ring @ np.array(((c, s), (-s, c))), np.full(len(ring), w)))

    def solid(self, place: Motion) -> Tool:
        """What stands in place of the round end; ``place`` has its origin in the middle of the end and w outward."""
        made = self._lofted(self.across / 2, self.thick / 2, self.wide / 2, 0.0)
        if self.wall:
            made -= self._lofted(self.across / 2 - self.wall, *self._cavity, PAST)
        if self.hole:
            made -= self._bored()
        return Tool(made.transform(np.array(place.rows)), edge_id("flat"))

    def tool(self, place: Motion) -> Tool:
        """What of the round end gives way to it."""
        room = self.across + self.wide
        box = manifold3d.Manifold.cube((2 * room, 2 * room, self.far + room)).translate((-room, -room, -self.far))
        return Tool(box.transform(np.array(place.rows)), edge_id("flat"))

    def _lofted(self, radius: float, half_thick: float, half_wide: float, past: float) -> manifold3d.Manifold:
        round_, flat = self._turned(_ring(radius, radius, 0.0), -self.far), self._turned(_ring(half_thick, half_wide, radius), -self.long)
        # in steps between: one long face there would be twisted
        rings = [round_ + (flat - round_) * share for share in np.linspace(0.0, 1.0, STEPS + 1)]
        rings.append(self._turned(_ring(half_thick, half_wide, radius), past))
        n, last = len(rings[0]), (len(rings) - 1) * len(rings[0])
        i, j = np.arange(n), (np.arange(n) + 1) % n
        fan = np.column_stack((np.zeros(n - 2, int), np.arange(1, n - 1), np.arange(2, n)))
        triangles = [fan[:, ::-1], fan + last]
        for k in range(0, last, n):
            triangles += [np.column_stack((k + i, k + j, k + n + j)), np.column_stack((k + i, k + n + j, k + n + i))]
        mesh = manifold3d.Mesh64(np.vstack(rings), np.vstack(triangles).astype(np.uint64))
        return manifold3d.Manifold(mesh)

    def _bored(self) -> manifold3d.Manifold:
        long = self.thick + 2 * PAST
        made = manifold3d.Manifold.cylinder(long, self.hole / 2, self.hole / 2, 90, center=True).rotate((90.0, 0.0, 0.0))
        return made.rotate((0.0, 0.0, math.degrees(self.turned))).translate((0.0, 0.0, -self.off))

    def exact(self, solid: Any, place: Motion) -> Any:
        """The exact solid of a member with this end in place of a round one."""
        from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
        from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
        from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

        room = self.across + self.wide
        box_at = gp_Ax2(
            gp_Pnt(*place.point((-room, -room, -self.far))), gp_Dir(*place.vector((0.0, 0.0, 1.0))), gp_Dir(*place.vector((1.0, 0.0, 0.0)))
        )
        short = BRepAlgoAPI_Cut(solid, BRepPrimAPI_MakeBox(box_at, 2 * room, 2 * room, self.far + room).Shape()).Shape()
        made = self._lofted_exact(place, self.across / 2, self.thick / 2, self.wide / 2, 0.0)
        if self.wall:
            made = BRepAlgoAPI_Cut(made, self._lofted_exact(place, self.across / 2 - self.wall, *self._cavity, PAST)).Shape()
        if self.hole:
            s, c = math.sin(self.turned), math.cos(self.turned)
            far = self.thick / 2 + PAST
            start, way = place.point((s * far, -c * far, -self.off)), place.vector((-s, c, 0.0))
            drill = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(*start), gp_Dir(*way)), self.hole / 2, 2 * far).Shape()
            made = BRepAlgoAPI_Cut(made, drill).Shape()
        return BRepAlgoAPI_Fuse(short, made).Shape()

    def _lofted_exact(self, place: Motion, radius: float, half_thick: float, half_wide: float, past: float) -> Any:
        from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeWire
        from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
        from OCP.GC import GC_MakeArcOfCircle
        from OCP.gp import gp_Pnt

        def wire(half_thick: float, half_wide: float, of: float, w: float) -> Any:
            ring, made, at = _ring(half_thick, half_wide, of), BRepBuilderAPI_MakeWire(), 0
            for n, (count, bends) in enumerate(zip(_COUNTS, (True, not of, True, not of), strict=True)):
                p, m, q = (
                    gp_Pnt(*place.point(x))
                    for x in self._turned(ring[[at, (at + count // 2) % len(ring), (at + count) % len(ring)]], w).tolist()
                )
                made.Add(
                    BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(p, m, q).Value()).Edge() if bends else BRepBuilderAPI_MakeEdge(p, q).Edge()
                )
                at += _COUNTS[n]
            return made.Wire()

        loft = BRepOffsetAPI_ThruSections(True, True)
        loft.CheckCompatibility(False)
        loft.AddWire(wire(radius, radius, 0.0, -self.far))
        loft.AddWire(wire(half_thick, half_wide, radius, -self.long))
        loft.AddWire(wire(half_thick, half_wide, radius, past))
        loft.Build()
        return loft.Shape()


#: Chords of the four pieces of a ring: a round, a side, the other round, the other side.
_COUNTS = (2 * ROUNDS // CHORD, (180 - 2 * ROUNDS) // CHORD, 2 * ROUNDS // CHORD, (180 - 2 * ROUNDS) // CHORD)


def _ring(half_thick: float, half_wide: float, of: float) -> np.ndarray:
    """The corners (180, 2) of a circle, or with ``of``, the circle that is pressed, of what it becomes: as many on each round and side as on the circle."""
    if not of:
        angles = np.radians(np.arange(-ROUNDS, 360 - ROUNDS, CHORD))
        return half_thick * np.column_stack((np.cos(angles), np.sin(angles)))
    side, found = half_wide - half_thick, []
    for sign, count in ((1, _COUNTS[0]), (-1, _COUNTS[2])):
        angles = np.pi * (np.arange(count) / count - 0.5)
        found.append(sign * np.column_stack((side + half_thick * np.cos(angles), half_thick * np.sin(angles))))
        shares = np.arange(_COUNTS[1]) / _COUNTS[1]
        found.append(sign * np.column_stack((side - 2 * side * shares, np.full(len(shares), half_thick))))
    return np.vstack(found)


@lru_cache(maxsize=256)
def volume_of(flat: Flat) -> float:
    """Of a flat end, mm³."""
    still = Motion(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))
    return float(flat.solid(still).solid.volume())
