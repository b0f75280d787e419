"""The exact solid of a straight member, a shape of Open CASCADE: true planes, cylinders and their intersections."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from zygon.geometry.motion import Motion, moving
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody, fine_ring
from zygon.making.tube.cuts import AtEnd, PlaneCut, SideCut
from zygon.making.tube.tips import without_tip
from zygon.tolerance import CONTACT

__all__ = ["bent_exact", "member_exact"]

#: Tools reach so far beyond what they cut (mm).
PAST = 10.0


def member_exact(body: MemberBody) -> Any:
    """The solid in the member's own (u, v, w)."""
    from zygon.geometry.exact import prism

    low, high = body.stops(fine_ring(body.section))
    room = float(max(body.section.extents))
    bottom = float(low.min()) - room if body.at_a else 0.0
    top = float(high.max()) + room if body.at_b else body.length
    solid = prism([body.region.outer, *body.region.inner], bottom, top)
    far = float(np.linalg.norm((*body.section.extents, top - bottom))) + PAST
    for end in ("a", "b"):
        for cut in body.cuts(end):
            solid = _kept(_without(solid, _half_space(cut, far) if isinstance(cut, PlaneCut) else _main(cut, far)), end)
    for hole in body.holes:
        solid = _without(solid, _main(hole, far))
    return _tipped(solid, body)


def _tipped(solid: Any, body: MemberBody | BentBody) -> Any:
    for tip, place in body.tipped():
        solid = without_tip(solid, tip, body.section.height / 2, place)
    return solid


def bent_exact(body: BentBody) -> Any:
    """The solid of a bent member: its section along lines and arcs, and straight members where an end is cut."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Fuse

    runs = list(zip(body.runs, (place for _, _, place in body.straights), strict=True))
    if len(runs) == 1:
        return _tipped(_moved(member_exact(runs[0][0]), runs[0][1]), body)
    solid = _swept(body)
    for run, place in runs:
        if run.at_a or run.at_b:
            solid = BRepAlgoAPI_Fuse(solid, _moved(member_exact(run), place)).Shape()
            continue
        for hole in run.holes:
            solid = _without(solid, _moved(_drill(run, hole), place))
    return _tipped(solid, body)


def _swept(body: BentBody) -> Any:
    """The section along the line, without the runs of which an end is cut."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
    from OCP.BRepOffsetAPI import BRepOffsetAPI_MakePipe
    from OCP.GC import GC_MakeArcOfCircle
    from OCP.gp import gp_Dir, gp_Pln, gp_Pnt

    from zygon.geometry.exact import ring_wire

    arcs = body.arcs()
    first = arcs[0][0] if body.at_a else np.array(body.points[0])
    last = arcs[-1][2] if body.at_b else np.array(body.points[-1])
    spine, at = BRepBuilderAPI_MakeWire(), first
    for start, middle, end in arcs:
        if np.linalg.norm(start - at) > CONTACT:
            spine.Add(BRepBuilderAPI_MakeEdge(gp_Pnt(*at.tolist()), gp_Pnt(*start.tolist())).Edge())
        arc = GC_MakeArcOfCircle(*(gp_Pnt(*p.tolist()) for p in (start, middle, end))).Value()
        spine.Add(BRepBuilderAPI_MakeEdge(arc).Edge())
        at = end
    if np.linalg.norm(last - at) > CONTACT:
        spine.Add(BRepBuilderAPI_MakeEdge(gp_Pnt(*at.tolist()), gp_Pnt(*last.tolist())).Edge())
    plane = gp_Pln(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1))
    made = BRepBuilderAPI_MakeFace(plane, ring_wire(body.region.outer), True)
    for ring in body.region.inner:
        made.Add(ring_wire(ring))
    return BRepOffsetAPI_MakePipe(spine.Wire(), _moved(made.Face(), moving((0.0, 0.0, float(first[2]))))).Shape()


def _drill(run: MemberBody, hole: SideCut) -> Any:
    """What is drilled in a run, no farther than it can reach it: other runs may lie beyond."""
    from zygon.geometry.exact import prism
    from zygon.making.tube.mesh import reach_along

    return _moved(prism([hole.section.outline(hole.gap)], *reach_along(run, hole)), hole.motion)


def _moved(shape: Any, motion: Motion) -> Any:
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.gp import gp_Trsf

    placed = gp_Trsf()
    placed.SetValues(*(x for row in motion.rows for x in row))
    return BRepBuilderAPI_Transform(shape, placed, True).Shape()


def _without(solid: Any, tool: Any) -> Any:
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut

    return BRepAlgoAPI_Cut(solid, tool).Shape()


def _kept(shape: Any, end: AtEnd) -> Any:
    """Of what a cut leaves, the piece on the member's side."""
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps
    from OCP.TopAbs import TopAbs_SOLID
    from OCP.TopExp import TopExp_Explorer

    pieces = []
    explorer = TopExp_Explorer(shape, TopAbs_SOLID)
    while explorer.More():
        weighed = GProp_GProps()
        BRepGProp.VolumeProperties_s(explorer.Current(), weighed)
        pieces.append((weighed.CentreOfMass().Z(), explorer.Current()))
        explorer.Next()
    if not pieces:
        return shape
    return (min if end == "b" else max)(pieces, key=lambda p: p[0])[1]


def _half_space(cut: PlaneCut, far: float) -> Any:
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    start = gp_Pnt(*cut.point)
    axes = gp_Ax2(start, gp_Dir(*cut.normal))
    corner = start.Translated(_vector(axes.XDirection(), -far)).Translated(_vector(axes.YDirection(), -far))
    return BRepPrimAPI_MakeBox(gp_Ax2(corner, axes.Direction(), axes.XDirection()), 2 * far, 2 * far, 2 * far).Shape()


def _vector(direction: Any, scale: float) -> Any:
    from OCP.gp import gp_Vec

    return gp_Vec(direction).Multiplied(scale)


def _main(cut: SideCut, far: float) -> Any:
    from zygon.geometry.exact import prism

    middle = cut.motion.inverse.shift[2]
    if isinstance(cut.within, MemberBody):
        solid = member_exact(replace(cut.within, section=replace(cut.within.section, wall=0.0), holes=()))
    else:
        start = middle - 2 * far if cut.begins is None else cut.begins
        solid = prism([cut.section.outline(cut.gap)], start, middle + 2 * far)
    return _moved(solid, cut.motion)
