"""Exact solids of parts through Open CASCADE: boards as prisms less their depth operations, folded parts sewn of planes and cylinders.

Imported only where a solid is asked for: the bindings take seconds to load.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepBuilderAPI import (
    BRepBuilderAPI_MakeEdge,
    BRepBuilderAPI_MakeFace,
    BRepBuilderAPI_MakeSolid,
    BRepBuilderAPI_Sewing,
)
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepFill import BRepFill
from OCP.BRepGProp import BRepGProp
from OCP.BRepLib import BRepLib
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCone, BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakePrism, BRepPrimAPI_MakeRevol
from OCP.BRepTools import BRepTools
from OCP.Geom import Geom_CylindricalSurface
from OCP.Geom2d import Geom2d_Ellipse, Geom2d_Line, Geom2d_TrimmedCurve
from OCP.gp import gp_Ax1, gp_Ax2, gp_Ax2d, gp_Ax3, gp_Dir, gp_Dir2d, gp_Pln, gp_Pnt, gp_Pnt2d, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.ShapeFix import ShapeFix_Shape
from OCP.TopAbs import TopAbs_SHELL
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS

from zygon.errors import ZygonError
from zygon.geometry.along_edge import AXIS, edge_section, inward_corners
from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour
from zygon.geometry.exact import compound, edge, face, middle, prism, wire
from zygon.geometry.motion import Motion
from zygon.making.flats.flat import edge_bore_axis
from zygon.making.metal.zones import ZoneEdge, ZoneRegion, zones_of
from zygon.making.result.flat import Flat
from zygon.making.result.fold import Fold, FoldBend, face_motions
from zygon.making.result.operations import EdgeWork
from zygon.tolerance import WITHIN

__all__ = ["is_sound", "solid_of", "volume"]

#: Faces are sewn where their edges lie this near to each other (mm).
SEWN = 1e-3
#: How near to its axis what goes round a corner may come (mm).
CLEAR = 0.01
Point = tuple[float, float]


def solid_of(flat: Flat, *, bent: bool = True) -> Any:
    """The exact solid of a flat in (u, v, w); folded where it has bends and ``bent`` says so. Raises ZygonError where none can be made."""
    if not flat.pieces:
        raise ZygonError("There is no solid: nothing is left of the part", code="no_solid")
    if flat.fold and bent:
        found = _folded(flat, flat.fold)
    else:
        bodies = [prism([p.outer, *p.inner], 0.0, flat.thickness) for p in flat.pieces]
        for tool in _tools(flat):
            bodies = [BRepAlgoAPI_Cut(b, tool).Shape() for b in bodies]
        found = bodies[0] if len(bodies) == 1 else compound(bodies)
    return found


def volume(shape: Any) -> float:
    """Volume in mm³."""
    found = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, found)
    return abs(found.Mass())


def is_sound(shape: Any) -> bool:
    """Whether a shape is valid and its shells are closed."""
    if not BRepCheck_Analyzer(shape).IsValid():
        return False
    shells = TopExp_Explorer(shape, TopAbs_SHELL)
    count = 0
    while shells.More():
        count += 1
        if not shells.Current().Closed():
            return False
        shells.Next()
    return count > 0


def _tools(flat: Flat) -> list[Any]:
    """What is taken away short of a through cut."""
    t, found = flat.thickness, []
    for p in flat.pockets:
        low, high = (t - p.depth, t + 1.0) if p.face == "a" else (-1.0, p.depth)
        found.append(prism([p.region.outer, *p.region.inner], low, high))
    for s in flat.sinks:
        up = s.face == "a"
        ax = gp_Ax2(gp_Pnt(s.u, s.v, t if up else 0.0), gp_Dir(0, 0, -1 if up else 1))
        found.append(BRepPrimAPI_MakeCone(ax, s.diameter / 2, s.hole / 2, s.depth).Shape())
    for b in flat.bores:
        start, end = edge_bore_axis(b)
        way = [e - a for a, e in zip(start, end, strict=True)]
        found.append(BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(*start), gp_Dir(*way)), b.diameter / 2, math.dist(start, end)).Shape())
    for d in flat.skew_bores:
        start, end = d.axis
        found.append(BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(*start), gp_Dir(*d.way)), d.diameter / 2, math.dist(start, end)).Shape())
    for bevel in flat.bevels:
        found.append(_loft(bevel.on_b, bevel.on_a, t))
    for e in flat.edges:
        found += [tool for run in e.runs for tool in _along_edge(e, run, t)]
    return found


def _along_edge(e: EdgeWork, run: Contour, thickness: float) -> list[Any]:
    """What a profile takes away along a run of an edge: prisms along lines, bodies of revolution round arcs and about corners that turn in."""
    up = e.face == "a"
    found = []

    def section(at: Point, inward: tuple[float, float], most: float = math.inf, *, within: bool = False) -> Any:
        drawn = edge_section(e.shape, e.width, e.height, most)
        if within:  # about a corner: a surface of revolution that touches its own axis cannot be cut with
            drawn = _off_the_axis(drawn)

        def lift(p: Point) -> tuple[float, float, float]:
            return at[0] + inward[0] * p[0], at[1] + inward[1] * p[0], thickness - p[1] if up else p[1]

        edges = [edge(s.p, s.q, s.bulge, lift) for s in drawn.segments()]
        normal = (inward[1], -inward[0], 0.0)
        return face([edges], gp_Pln(gp_Pnt(*lift((0.0, 0.0))), gp_Dir(*normal)))

    def turned(made: Any, centre: Point, angle: float) -> Any:
        return BRepPrimAPI_MakeRevol(made, gp_Ax1(gp_Pnt(*centre, 0.0), gp_Dir(0, 0, 1)), angle).Shape()

    for s in run.segments():
        (dx, dy), _ = s.tangents()
        if not s.bulge:
            along = gp_Vec(s.q[0] - s.p[0], s.q[1] - s.p[1], 0.0)
            found.append(BRepPrimAPI_MakePrism(section(s.p, (-dy, dx)), along).Shape())
            continue
        cx, cy, radius, _, sweep = arc_from_bulge(s.p, s.q, s.bulge)
        most = radius - AXIS if s.bulge > 0 else math.inf
        found.append(turned(section(s.p, (-dy, dx), most), (cx, cy), sweep))
    for (px, py), start, end in inward_corners(run):
        found.append(turned(section((px, py), (math.cos(start), math.sin(start)), within=True), (px, py), end - start))
    return found


def _off_the_axis(section: Contour) -> Contour:
    """A profile's section as far as it keeps ``CLEAR`` of where it begins."""
    (x0, d0), (x1, d1), *_ = section.points
    bulge, start = section.bulges[0], (x0 + CLEAR, d0 + (d1 - d0) * CLEAR / (x1 - x0))
    if bulge:
        cx, cy, radius, _, _ = arc_from_bulge((x0, d0), (x1, d1), bulge)
        side = 1.0 if bulge < 0 else -1.0
        start = (CLEAR, cy + side * math.sqrt(max(radius**2 - (CLEAR - cx) ** 2, 0.0)))
        bulge = math.copysign(math.tan(math.asin(min(math.dist(start, (x1, d1)) / 2 / radius, 1.0)) / 2), bulge)
    points = (start, (x1, d1), section.points[2], (start[0], section.points[2][1]))
    return Contour(points, (bulge, 0.0, 0.0, 0.0), section.owners[:4])


def _loft(on_b: Contour, on_a: Contour, thickness: float) -> Any:
    """The four-cornered body between a contour on face B and one on face A, a little longer than the sheet is thick."""
    from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections

    made = BRepOffsetAPI_ThruSections(True, True)
    for share, w in ((-0.05, -0.05 * thickness), (1.05, 1.05 * thickness)):
        points = [(b[0] + (a[0] - b[0]) * share, b[1] + (a[1] - b[1]) * share, w) for b, a in zip(on_b.points, on_a.points, strict=True)]
        edges = [BRepBuilderAPI_MakeEdge(gp_Pnt(*p), gp_Pnt(*q)).Edge() for p, q in zip(points, points[1:] + points[:1], strict=True)]
        made.AddWire(wire(edges))
    made.Build()
    return made.Shape()


def _folded(flat: Flat, fold: Fold) -> Any:
    """A folded part sewn of the caps and walls of its faces and bends."""
    sewing = BRepBuilderAPI_Sewing(SEWN)
    motions = face_motions(fold)
    for region in zones_of(flat.pieces, fold):
        if region.zone >= 0:
            faces = _plane_faces(region, motions[region.zone], flat.thickness)
        else:
            bend = fold.bends[-1 - region.zone]
            faces = _bend_faces(region, bend, motions[bend.parent])
        for f in faces:
            sewing.Add(f)
    sewing.Perform()
    solids = []
    shells = TopExp_Explorer(sewing.SewedShape(), TopAbs_SHELL)
    while shells.More():
        solid = BRepBuilderAPI_MakeSolid(TopoDS.Shell(shells.Current())).Solid()
        BRepLib.OrientClosedSolid_s(solid)
        solids.append(solid)
        shells.Next()
    if not solids:
        raise ZygonError("No closed solid could be sewn of this part", code="no_solid")
    found = solids[0] if len(solids) == 1 else compound(solids)
    if not BRepCheck_Analyzer(found).IsValid():
        fix = ShapeFix_Shape(found)
        fix.Perform()
        found = fix.Shape()
    return found


def _plane_faces(region: ZoneRegion, motion: Motion, thickness: float) -> list[Any]:
    """Both caps of a flat region and the walls along its free edges."""

    def lift(w: float) -> Any:
        return lambda p: motion.point((p[0], p[1], w))

    up = motion.vector((0.0, 0.0, 1.0))
    found = []
    for w in (0.0, thickness):
        rings = [[edge(e.p, e.q, e.bulge, lift(w)) for e in ring] for ring in region.rings]
        found.append(face(rings, gp_Pln(gp_Pnt(*lift(w)(region.rings[0][0].p)), gp_Dir(*up))))
    along = gp_Vec(*(x * thickness for x in up))
    found += [
        BRepPrimAPI_MakePrism(edge(e.p, e.q, e.bulge, lift(0.0)), along).Shape() for ring in region.rings for e in ring if not e.shared
    ]
    return found


class _Cylinders:
    """A bend in its place: its axis, and for each cap the cylinder that the flat's (across, along) is laid on as (angle, height)."""

    def __init__(self, bend: FoldBend, parent: Motion) -> None:
        self.bend = bend
        d, n, t = bend.along, bend.outward, bend.thickness
        sign = 1.0 if bend.angle > 0 else -1.0
        centre_w = t + bend.radius if sign > 0 else -bend.radius
        centre = parent.point((bend.start[0], bend.start[1], centre_w))
        axis = np.array(parent.vector((d[0], d[1], 0.0)))
        # at angle 0 the sheet hangs below the axis (above it, of a bend down), and it turns outward
        x = np.array(parent.vector((0.0, 0.0, -sign)))
        y = np.array(parent.vector((n[0], n[1], 0.0)))
        # the cylinder's own angle grows from x to z × x; where that is not outward, it is walked the other way
        z = np.cross(x, y)
        self.flip = float(z @ axis) < 0
        self.axes = gp_Ax3(gp_Pnt(*centre), gp_Dir(*z), gp_Dir(*x))
        self.rate = abs(bend.angle) / bend.width
        self.inner_is_a = sign > 0

    def radius(self, w: float) -> float:
        """The cylinder's radius at height ``w`` of the sheet."""
        b = self.bend
        return b.thickness + b.radius - w if self.inner_is_a else b.radius + w

    def on(self, p: Point) -> Point:
        """(angle, height) of a place on the flat."""
        b = self.bend
        x, y = p[0] - b.start[0], p[1] - b.start[1]
        across = x * b.outward[0] + y * b.outward[1]
        along = x * b.along[0] + y * b.along[1]
        return across * self.rate, -along if self.flip else along

    def edge(self, e: ZoneEdge, surface: Any) -> Any:
        """An edge on one of the cylinders."""
        (u0, v0), (u1, v1) = self.on(e.p), self.on(e.q)
        if not e.bulge:
            length = math.hypot(u1 - u0, v1 - v0)
            line = Geom2d_Line(gp_Pnt2d(u0, v0), gp_Dir2d(u1 - u0, v1 - v0))
            made = BRepBuilderAPI_MakeEdge(line, surface, 0.0, length).Edge()
        else:
            made = BRepBuilderAPI_MakeEdge(*self._ellipse(e, surface)).Edge()
        BRepLib.BuildCurves3d_s(made)
        return made

    def _ellipse(self, e: ZoneEdge, surface: Any) -> tuple[Any, Any, float, float]:
        """An arc of the flat as the ellipse that it is in (angle, height): radii r × rate and r."""
        cx, cy, r, _, _ = arc_from_bulge(e.p, e.q, e.bulge)
        cu, cv = self.on((cx, cy))
        wide = r * self.rate
        (u0, v0), (u1, v1) = self.on(e.p), self.on(e.q)
        mu, mv = self.on(middle(e.p, e.q, e.bulge))
        angles = [math.atan2((v - cv) / r, (u - cu) / wide) for u, v in ((u0, v0), (mu, mv), (u1, v1))]
        ccw = (angles[1] - angles[0]) % (2 * math.pi) < (angles[2] - angles[0]) % (2 * math.pi)
        major_along_u = wide >= r
        axis = gp_Ax2d(gp_Pnt2d(cu, cv), gp_Dir2d(1, 0) if major_along_u else gp_Dir2d(0, 1))
        ellipse = Geom2d_Ellipse(axis, max(wide, r), min(wide, r), True)
        start, end = (a if major_along_u else a - math.pi / 2 for a in (angles[0], angles[2]))
        if ccw:
            end = start + (end - start) % (2 * math.pi)
            return Geom2d_TrimmedCurve(ellipse, start, end), surface, start, end
        low = end
        high = low + (start - end) % (2 * math.pi)
        return Geom2d_TrimmedCurve(ellipse, low, high), surface, low, high


def _bend_faces(region: ZoneRegion, bend: FoldBend, parent: Motion) -> list[Any]:
    """Both cylinders of a bend's region and the walls along its free edges."""
    cylinders = _Cylinders(bend, parent)
    found, lifted = [], []
    for w in (0.0, bend.thickness):
        r = cylinders.radius(w)
        if r < WITHIN:
            raise ZygonError("A bend without an inside radius has no exact solid", code="no_solid", rule="an inside radius over 0")
        surface = Geom_CylindricalSurface(cylinders.axes, r)
        rings = [[cylinders.edge(e, surface) for e in ring] for ring in region.rings]
        made = BRepBuilderAPI_MakeFace(surface, wire(rings[0]), True)
        for ring in rings[1:]:
            made.Add(wire(ring))
        face = made.Face()
        BRepTools.UpdateFaceUVPoints_s(face)
        found.append(face)
        lifted.append(rings)
    for ring, low, high in zip(region.rings, *lifted, strict=True):
        for e, a, b in zip(ring, low, high, strict=True):
            if not e.shared:
                found.append(BRepFill.Face_s(a, b))  # ruled between the same edge on either cylinder
    return found
