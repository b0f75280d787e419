"""What is seen of solids from one side, and what is hidden: exact, through Open CASCADE's hidden-line removal. Lines and arcs stay lines and arcs.

What is asked for is plain data, so that it can be worked out in another process and kept by its digest.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any, Literal

from zygon.making.kinds.registry import KINDS
from zygon.making.result.body import Matrix
from zygon.memo import Memo, digest
from zygon.paper.facets import Facets, facets_of, seen_lines
from zygon.paper.ink import Arc, Curve, Line, Point
from zygon.paper.looks import Look
from zygon.paper.pens import Pen
from zygon.paper.recognise import recognised
from zygon.paper.strokes import Stroke, tidied
from zygon.tolerance import EPS, SEEN, SNAP, TINY

__all__ = ["Asked", "Seen", "Thing", "look_at", "look_at_all"]

#: Chords of curves that are no arcs stray so far at most (mm of the part).
STRAY = 0.02
#: With more edges than this a view is worked out on meshes.
MANY = 1500
#: How far those stray (mm, radians): of few things, and of many. What is round is found again by its corners, which lie on it.
FINE, COARSE = (STRAY, 0.1), (0.1, 0.35)
#: A box larger than any design (mm).
FAR = 4e5
STILL: Matrix = ((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0))
#: Solids that were made, by their bodies.
_SOLIDS = Memo(400)
#: Their meshes, by how fine they are.
_FACETS = Memo(120)


@dataclass(frozen=True)
class Thing:
    """A body in its place: ``kind`` is that of a part, or 'set' for a piece of one. ``key`` is what its lines are of."""

    key: str
    kind: str
    body: Any
    rows: Matrix

    @cached_property
    def digest(self) -> str:
        """The hash of its body and place."""
        told = getattr(self.body, "digest", None) or repr(self.body)
        return digest(self.kind, told, tuple(tuple(round(x, 6) + 0.0 for x in r) for r in self.rows[:3]))


@dataclass(frozen=True)
class Asked:
    """What is looked at, and from where; ``hidden`` asks for hidden lines too."""

    things: tuple[Thing, ...]
    look: Look
    hidden: bool
    #: what lies nearer to the eye than this, along ``look.toward`` (mm), is cut away; None for nothing
    cut: float | None = None
    #: of a stepped section: from where along x or y of the view (``steps_along``) another plane holds, from low to high
    steps: tuple[tuple[float, float], ...] = ()
    steps_along: Literal["x", "y"] = "x"

    @cached_property
    def digest(self) -> str:
        """What is seen is the same where this is: keys are of no account to what is drawn but for what it is of."""
        things = tuple((t.key, t.digest) for t in self.things)
        return digest("view", things, self.look, self.hidden, self.cut, self.steps, self.steps_along if self.steps else "")

    @property
    def slabs(self) -> list[tuple[float, float, float]]:
        """From where to where along its line each plane of a section holds, and where that lies."""
        if self.cut is None:
            return []
        starts = [(-FAR / 2, self.cut), *self.steps]
        ends = [*(at for at, _ in self.steps), FAR / 2]
        return [(low, high, at) for (low, at), high in zip(starts, ends, strict=True)]


@dataclass(frozen=True)
class Seen:
    """Strokes in mm of the part, in the view's own x and y."""

    strokes: tuple[Stroke, ...]
    #: what a section cuts through: of which part, and the rings of its outline, the outer one first
    faces: tuple[tuple[str, tuple[tuple[Point, ...], ...]], ...] = ()

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """The box round what is seen; of nothing a point."""
        from zygon.paper.ink import box_of

        return box_of(self.strokes)


def look_at(asked: Asked) -> Seen:
    """What is seen. Raises ZygonError where a solid cannot be made.

    Exact where the edges are lines, circles and ellipses, and not all too many: the free-form edges of a coped tube, or a plate with a thousand holes, would take
    minutes. There the view is worked out on meshes, in which what runs straight or round is drawn straight and round again.
    """
    solids = [(t, _solid(t)) for t in asked.things]
    faces: list[tuple[str, tuple[tuple[Point, ...], ...]]] = []
    if asked.cut is not None:
        solids, faces = _cut_away(solids, asked)
    told = [_edges(solid) for _, solid in solids]
    many = sum(n for n, _ in told)
    if many > MANY or any(free for _, free in told):
        found = _by_mesh(solids, asked, FINE if many <= MANY else COARSE)
    else:
        found = _exactly([(t.key, placed_in(t, solid)) for t, solid in solids], asked)
    if asked.steps:
        found = [s for s in found if not _on_step(s, asked)]
    return Seen(tuple(tidied(found)), tuple(faces))


def _on_step(s: Stroke, asked: Asked) -> bool:
    """Whether a line lies where a section goes over from one plane to the next, where none is drawn (ISO 128-3)."""
    k = "xy".index(asked.steps_along)
    return isinstance(s, Line) and any(abs(s.p[k] - at) < SEEN and abs(s.q[k] - at) < SEEN for at, _ in asked.steps)


def look_at_all(asked: Sequence[Asked]) -> list[Seen]:
    """What is seen from several sides; solids are made once for all of them."""
    return [look_at(a) for a in asked]


def placed_in(thing: Thing, solid: Any) -> Any:
    """A solid where its thing lies."""
    from zygon.geometry.exact import placed

    return placed(solid, thing.rows[:3])


def _cut_away(
    solids: list[tuple[Thing, Any]], asked: Asked
) -> tuple[list[tuple[Thing, Any]], list[tuple[str, tuple[tuple[Point, ...], ...]]]]:
    """The solids in their places without what lies before the cutting plane, and the outlines of what it cuts through."""
    from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

    toward, right, up = asked.look.toward, asked.look.right, asked.look.up
    before = []
    for low, high, at in asked.slabs:
        x, y = (low, -FAR / 2) if asked.steps_along == "x" else (-FAR / 2, low)
        wide, tall = (high - low, FAR) if asked.steps_along == "x" else (FAR, high - low)
        corner = [x * r + y * u + at * t for r, u, t in zip(right, up, toward, strict=True)]
        # a box stands on its corner along its axes: right, up and toward are right-handed
        before.append(BRepPrimAPI_MakeBox(gp_Ax2(gp_Pnt(*corner), gp_Dir(*toward), gp_Dir(*right)), wide, tall, FAR).Shape())
    kept, faces = [], []
    for thing, solid in solids:
        left = placed_in(thing, solid)
        for box in before:
            left = BRepAlgoAPI_Cut(left, box).Shape()
            if left.IsNull():
                break
        if left.IsNull() or not _edges(left)[0]:
            continue
        kept.append((replace(thing, rows=STILL), left))
        for low, high, at in asked.slabs:
            faces += [(thing.key, rings) for rings in _faces_on(left, asked.look, at, (asked.steps_along, low, high))]
    return kept, faces


def _faces_on(solid: Any, look: Look, cut: float, slab: tuple[str, float, float]) -> list[tuple[tuple[Point, ...], ...]]:
    """The outlines, in the view, of the faces that lie on the cutting plane, where it holds."""
    import shapely
    from OCP.BRep import BRep_Tool
    from OCP.BRepAdaptor import BRepAdaptor_Surface
    from OCP.BRepMesh import BRepMesh_IncrementalMesh
    from OCP.GeomAbs import GeomAbs_Plane
    from OCP.TopAbs import TopAbs_FACE
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopLoc import TopLoc_Location
    from OCP.TopoDS import TopoDS

    BRepMesh_IncrementalMesh(solid, STRAY, False, 0.1, True)
    triangles = []
    faces = TopExp_Explorer(solid, TopAbs_FACE)
    while faces.More():
        face = TopoDS.Face(faces.Current())
        faces.Next()
        if BRepAdaptor_Surface(face).GetType() != GeomAbs_Plane:
            continue
        place = TopLoc_Location()
        mesh = BRep_Tool.Triangulation_s(face, place)
        if mesh is None:
            continue
        at = [mesh.Node(i).Transformed(place.Transformation()) for i in range(1, mesh.NbNodes() + 1)]
        points = [(p.X(), p.Y(), p.Z()) for p in at]
        if any(abs(sum(a * b for a, b in zip(p, look.toward, strict=True)) - cut) > SEEN for p in points):
            continue
        flat = [look.seen(p) for p in points]
        triangles += [shapely.Polygon([flat[k - 1] for k in mesh.Triangle(i).Get()]) for i in range(1, mesh.NbTriangles() + 1)]
    along, low, high = slab
    holds = shapely.box(low, -FAR, high, FAR) if along == "x" else shapely.box(-FAR, low, FAR, high)
    whole = shapely.intersection(shapely.union_all([shapely.set_precision(t, SNAP) for t in triangles if t.area > TINY]), holds)
    found = []
    for p in shapely.get_parts(whole):
        if p.geom_type == "Polygon":
            found.append(tuple(tuple((x, y) for x, y in ring.coords) for ring in (p.exterior, *p.interiors)))
    return found


def _projector(look: Look) -> Any:
    from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
    from OCP.HLRAlgo import HLRAlgo_Projector

    return HLRAlgo_Projector(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(*look.toward), gp_Dir(*look.right)))


def _kinds(hidden: bool) -> list[tuple[str, Pen]]:
    """The names of what Open CASCADE finds, by the pens that they are drawn with: sharp edges, outlines of round faces, smooth passages; not the seams of round faces."""
    kinds: list[tuple[str, Pen]] = [
        ("VCompound", "visible"),
        ("OutLineVCompound", "visible"),
        ("Rg1LineVCompound", "smooth"),
    ]
    return [*kinds, ("HCompound", "hidden"), ("OutLineHCompound", "hidden")] if hidden else kinds


def _exactly(solids: list[tuple[str, Any]], asked: Asked) -> list[Stroke]:
    from OCP.BRepLib import BRepLib
    from OCP.HLRBRep import HLRBRep_Algo, HLRBRep_HLRToShape

    algo = HLRBRep_Algo()
    for _, solid in solids:
        algo.Add(solid, 0)
    algo.Projector(_projector(asked.look))
    algo.Update()
    algo.Hide()
    read = HLRBRep_HLRToShape(algo)
    found: list[Stroke] = []
    for name, pen in _kinds(asked.hidden):
        for key, solid in solids:
            shape = getattr(read, name)(solid)
            if shape is not None and not shape.IsNull():
                BRepLib.BuildCurves3d_s(shape)
                found += _strokes(shape, pen, key)
    return found


def _by_mesh(solids: list[tuple[Thing, Any]], asked: Asked, fine: tuple[float, float]) -> list[Stroke]:
    """On meshes that stray so far at most (mm, radians); each solid is meshed once."""
    meshes = [(thing.key, _facets(thing, solid, fine), thing.rows[:3]) for thing, solid in solids]
    found: list[Stroke] = []
    for of, pen, chords in seen_lines(meshes, asked.look, hidden=asked.hidden, stray=fine[0]):
        found += recognised(chords, pen, of)
    return found


def _facets(thing: Thing, solid: Any, fine: tuple[float, float]) -> Facets:
    """The mesh of a solid in its own coordinates, made once; of one that a section has cut, each time."""
    if solid is not _solid(thing):
        return facets_of(solid, *fine)
    return _FACETS.get(digest(*_body(thing), fine), lambda: facets_of(solid, *fine))[0]


def _body(thing: Thing) -> tuple[str, str]:
    """What tells bodies apart."""
    return thing.kind, getattr(thing.body, "digest", None) or repr(thing.body)


def _edges(solid: Any) -> tuple[int, bool]:
    """How many edges it has, and whether one of them is a free-form curve."""
    from OCP.BRep import BRep_Tool
    from OCP.BRepAdaptor import BRepAdaptor_Curve
    from OCP.GeomAbs import GeomAbs_BezierCurve, GeomAbs_BSplineCurve, GeomAbs_OtherCurve
    from OCP.TopAbs import TopAbs_EDGE
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopoDS import TopoDS

    edges, n, free = TopExp_Explorer(solid, TopAbs_EDGE), 0, False
    while edges.More():
        n += 1
        edge = TopoDS.Edge(edges.Current())
        edges.Next()
        if BRep_Tool.Degenerated_s(edge):
            continue
        if BRepAdaptor_Curve(edge).GetType() in (GeomAbs_BezierCurve, GeomAbs_BSplineCurve, GeomAbs_OtherCurve):
            free = True
    return n, free


def _solid(thing: Thing) -> Any:
    """The body's solid in its own coordinates, made once."""

    def make() -> Any:
        from OCP.BRepTools import BRepTools

        if thing.kind == "set":
            from zygon.making.hardware.pieces import exact_hardware

            solid = exact_hardware(thing.body)
        else:
            solid = KINDS[thing.kind].exact(thing.body)
        BRepTools.Clean_s(solid)  # a mesh that its making left may be coarser than drawings are
        return solid

    return _SOLIDS.get(digest(*_body(thing)), make)[0]


def _strokes(shape: Any, pen: Pen, of: str) -> Iterator[Stroke]:
    from OCP.BRepAdaptor import BRepAdaptor_Curve
    from OCP.GeomAbs import GeomAbs_Circle, GeomAbs_Line
    from OCP.TopAbs import TopAbs_EDGE
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopoDS import TopoDS

    edges = TopExp_Explorer(shape, TopAbs_EDGE)
    while edges.More():
        curve = BRepAdaptor_Curve(TopoDS.Edge(edges.Current()))
        edges.Next()
        first, last = curve.FirstParameter(), curve.LastParameter()
        kind = curve.GetType()
        if kind == GeomAbs_Line:
            yield Line(pen, _at(curve, first), _at(curve, last), of)
        elif kind == GeomAbs_Circle:
            circle = curve.Circle()
            middle, radius = circle.Location(), circle.Radius()
            sign = 1.0 if circle.Axis().Direction().Z() > 0 else -1.0
            start = _at(curve, first)
            turn = math.atan2(start[1] - middle.Y(), start[0] - middle.X())
            yield Arc(pen, (middle.X(), middle.Y()), radius, turn, sign * (last - first), of)
        else:
            points = _chords(curve, first, last)
            if len(points) == 2:
                yield Line(pen, points[0], points[1], of)
            elif len(points) > 2:
                yield Curve(pen, tuple(points), of)


def _at(curve: Any, where: float) -> Point:
    p = curve.Value(where)
    return p.X(), p.Y()


def _chords(curve: Any, first: float, last: float) -> list[Point]:
    """Points along a curve so dense that its chords stray from it by no more than STRAY."""
    ends = [first + (last - first) * k / 4 for k in range(5)]
    points = [_at(curve, ends[0])]
    for a, b in zip(ends, ends[1:], strict=False):
        points += _between(curve, a, b, 0)
    kept = [points[0]]
    for p in points[1:]:
        if math.dist(p, kept[-1]) > EPS:
            kept.append(p)
    straight = len(kept) > 2 and all(_off(p, kept[0], kept[-1]) < STRAY / 20 for p in kept)
    return [kept[0], kept[-1]] if straight else kept


def _between(curve: Any, a: float, b: float, depth: int) -> list[Point]:
    p, q, middle = _at(curve, a), _at(curve, b), _at(curve, (a + b) / 2)
    if depth > 8 or _off(middle, p, q) < STRAY:
        return [q]
    return _between(curve, a, (a + b) / 2, depth + 1) + _between(curve, (a + b) / 2, b, depth + 1)


def _off(point: Point, p: Point, q: Point) -> float:
    """How far a point lies from the line through two others, mm."""
    long = math.dist(p, q)
    if long < EPS:
        return math.dist(point, p)
    return abs((q[0] - p[0]) * (point[1] - p[1]) - (q[1] - p[1]) * (point[0] - p[0])) / long
