"""The bodies of hardware in their own coordinates: closed meshes for pictures and checks, exact solids for files."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

import manifold3d

from zygon.geometry.contour import Contour, circle, polygon
from zygon.geometry.mesh import Mesh
from zygon.geometry.solid import Tool, prism, united
from zygon.stock.hardware.piece import Disc, Hardware, Slice

__all__ = ["exact_hardware", "mesh_of_hardware"]

#: Chords round a piece of hardware, which is small, and there are many.
ROUND = 24
#: Holes are drawn on past the slices that they go through (mm).
PAST = 0.01
#: The face that all of a piece belongs to.
OWNER = "hardware"


def _contour(disc: Disc) -> Contour:
    if disc.shape == "round":
        return circle(0.0, 0.0, disc.across / 2, OWNER)
    n = 4 if disc.shape == "square" else 6
    turn = math.pi / n
    return polygon(
        [(disc.reach * math.cos(turn + 2 * math.pi * k / n), disc.reach * math.sin(turn + 2 * math.pi * k / n)) for k in range(n)], OWNER
    )


def _solid(disc: Disc, low: float, high: float, to: float | None = None) -> Tool:
    if disc.shape == "round":
        wide = disc.across / 2
        solid = manifold3d.Manifold.cylinder(high - low, wide, wide if to is None else to / 2, ROUND)
        return Tool(solid.translate((0.0, 0.0, low)), OWNER)
    return prism([_contour(disc)], low, high, OWNER)


@lru_cache(maxsize=2048)
def mesh_of_hardware(hardware: Hardware) -> Mesh:
    """A piece's closed mesh; round faces as chords."""
    whole = [_solid(s.disc, s.low, s.high, s.to) for s in hardware.slices]
    # chords about a hole, so that what fills it lies in no wall of it
    holes = [_solid(_about(s.hole), s.low - PAST, s.high + (PAST if _open(hardware, s) else 0.0)) for s in hardware.slices if s.hole]
    return united(whole, holes)


def _about(hole: Disc) -> Disc:
    return Disc(hole.shape, hole.across / math.cos(math.pi / ROUND)) if hole.shape == "round" else hole


def _open(hardware: Hardware, s: Slice) -> bool:
    """Whether the hole of a slice comes out at its high end, or goes on in the next."""
    above = [o for o in hardware.slices if abs(o.low - s.high) < PAST]
    return not above or any(o.hole for o in above)


def exact_hardware(hardware: Hardware) -> Any:
    """A piece's exact solid, a shape of Open CASCADE."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeCone
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    from zygon.geometry.exact import prism as straight

    whole, holes = None, []
    for s in hardware.slices:
        if s.to is None:
            own = straight([_contour(s.disc)], s.low, s.high)
        else:
            own = BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(0, 0, s.low), gp_Dir(0, 0, 1)), s.disc.across / 2, s.to / 2, s.high - s.low).Shape()
        whole = own if whole is None else BRepAlgoAPI_Fuse(whole, own).Shape()
        if s.hole:
            holes.append(straight([_contour(s.hole)], s.low, s.high))
    for hole in holes:
        whole = BRepAlgoAPI_Cut(whole, hole).Shape()
    return whole
