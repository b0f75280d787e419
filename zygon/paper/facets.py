"""What is seen of solids by their meshes: their sharp and smooth edges, and the outlines of what is curved, each cut where facets lie before it.

An outline runs where the surface's own normals are square to the way one looks, so that it is smooth across the facets; nodes that lie on it exactly count as seen,
as a mesh that happens to have nodes there must not lose it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely

from zygon.paper.ink import Line
from zygon.paper.looks import Look
from zygon.paper.pens import Pen
from zygon.tolerance import EPS, SNAP, TINY

__all__ = ["Facets", "facets_of", "seen_lines"]

#: Edges of so many lines are looked at at once.
CHUNK = 20_000
#: What lies askew is looked for in slices, so many across a view.
SLICES = 60
#: So many widths of its facet before an outline the solid's own facets do not hide it.
WIDE = 1.5
#: Nodes that lie this near are one (mm): those that two faces share on their edge.
SAME = 1e-5
#: A facet is seen from its edge where its normal is square to the way one looks to this (sine).
EDGE_ON = 1e-6
#: Lines this near to a facet's sides (mm) lie on it: its plane, if it is not seen from its edge, rises by no more than a hundredth of a millimetre over as much.
ON = 1e-8


@dataclass(frozen=True)
class Facets:
    """The mesh of a solid in its own coordinates: ``nodes`` (n, 3) mm with ``normals`` (n, 3), ``triangles`` (m, 3), of which ``curved`` (m,) lie in faces that are no planes.

    ``edges`` (k, 2) are chords of its edges as nodes, ``smooth`` (k,) tells those across which the surface goes on without a corner. ``same`` (n,) is equal for nodes
    of different faces that lie on one another.
    """

    nodes: np.ndarray
    normals: np.ndarray
    triangles: np.ndarray
    curved: np.ndarray
    edges: np.ndarray
    smooth: np.ndarray
    same: np.ndarray


@dataclass
class _Read:
    nodes: list[np.ndarray]
    normals: list[np.ndarray]
    triangles: list[np.ndarray]
    curved: list[np.ndarray]
    edges: list[np.ndarray]
    smooth: list[bool]
    count: int = 0


def facets_of(solid: Any, stray: float, turn: float) -> Facets:
    """A solid's mesh that strays so far at most (mm, radians)."""
    from OCP import collections
    from OCP.BRep import BRep_Tool
    from OCP.BRepMesh import BRepMesh_IncrementalMesh
    from OCP.TopAbs import TopAbs_EDGE, TopAbs_FACE
    from OCP.TopExp import TopExp
    from OCP.TopoDS import TopoDS

    BRepMesh_IncrementalMesh(solid, stray, False, turn, True)
    read = _Read([], [], [], [], [], [])
    faces = collections.IndexedMap_TopoDS_Shape_TopTools_ShapeMapHasher()
    TopExp.MapShapes_s(solid, TopAbs_FACE, faces)
    starts = {k: _read_face(TopoDS.Face(faces.FindKey(k)), read) for k in range(1, faces.Extent() + 1)}
    around = collections.IndexedDataMap_TopoDS_Shape_List_TopoDS_Shape_TopTools_ShapeMapHasher()
    TopExp.MapShapesAndAncestors_s(solid, TopAbs_EDGE, TopAbs_FACE, around)
    for k in range(1, around.Extent() + 1):
        edge = TopoDS.Edge(around.FindKey(k))
        own = [TopoDS.Face(f) for f in around.FindFromIndex(k)]
        if BRep_Tool.Degenerated_s(edge) or not own or BRep_Tool.IsClosed_s(edge, own[0]):
            continue  # a point, or the seam of what is round
        pen = _pen(edge, own)
        if pen is None:
            continue
        chain = _chain(edge, own[0], starts[faces.FindIndex(own[0])])
        if chain is not None:
            read.edges.append(np.column_stack((chain[:-1], chain[1:])))
            read.smooth += [pen == "smooth"] * (len(chain) - 1)
    nodes = np.vstack([*read.nodes, np.zeros((0, 3))])
    _, same = np.unique(np.round(nodes / SAME).astype(np.int64), axis=0, return_inverse=True)
    return Facets(
        nodes,
        np.vstack([*read.normals, np.zeros((0, 3))]),
        np.vstack([*read.triangles, np.zeros((0, 3), int)]),
        np.concatenate([*read.curved, np.zeros(0, bool)]),
        np.vstack([*read.edges, np.zeros((0, 2), int)]),
        np.array(read.smooth, bool),
        same.reshape(-1),
    )


def _read_face(face: Any, read: _Read) -> int:
    """Adds a face's mesh; the place of its first node among all."""
    from OCP.BRep import BRep_Tool
    from OCP.BRepAdaptor import BRepAdaptor_Surface
    from OCP.BRepLib import BRepLib_ToolTriangulatedShape
    from OCP.GeomAbs import GeomAbs_Plane
    from OCP.TopLoc import TopLoc_Location

    start, place = read.count, TopLoc_Location()
    mesh = BRep_Tool.Triangulation_s(face, place)
    if mesh is None:
        return start
    curved = BRepAdaptor_Surface(face).GetType() != GeomAbs_Plane
    BRepLib_ToolTriangulatedShape.ComputeNormals_s(face, mesh)
    move = place.Transformation()
    n = mesh.NbNodes()
    at = [mesh.Node(i).Transformed(move) for i in range(1, n + 1)]
    read.nodes.append(np.array([(p.X(), p.Y(), p.Z()) for p in at]))
    ways = [mesh.Normal(i).Transformed(move) for i in range(1, n + 1)]
    read.normals.append(np.array([(w.X(), w.Y(), w.Z()) for w in ways]))
    triangles = np.array([mesh.Triangle(i).Get() for i in range(1, mesh.NbTriangles() + 1)]).reshape(-1, 3) - 1 + start
    read.triangles.append(triangles)
    read.curved.append(np.full(len(triangles), curved))
    read.count += n
    return start


def _chain(edge: Any, face: Any, start: int) -> np.ndarray | None:
    """The nodes along an edge; None of one that has no mesh."""
    from OCP.BRep import BRep_Tool
    from OCP.TopLoc import TopLoc_Location

    place = TopLoc_Location()
    mesh = BRep_Tool.Triangulation_s(face, place)
    polygon = BRep_Tool.PolygonOnTriangulation_s(edge, mesh, place) if mesh is not None else None
    if polygon is None:
        return None
    return np.array([polygon.Node(i) for i in range(1, polygon.NbNodes() + 1)]) - 1 + start


def _pen(edge: Any, faces: Sequence[Any]) -> Pen | None:
    """How an edge is drawn; None of one across which a surface goes on as if it were one."""
    from OCP.BRep import BRep_Tool
    from OCP.GeomAbs import GeomAbs_C0, GeomAbs_C1, GeomAbs_G1, GeomAbs_G2

    if len(faces) < 2:
        return "visible"
    found = BRep_Tool.Continuity_s(edge, faces[0], faces[1])
    return "visible" if found == GeomAbs_C0 else "smooth" if found in (GeomAbs_G1, GeomAbs_C1, GeomAbs_G2) else None


@dataclass(frozen=True)
class _Lines:
    """Chords in a view: their ends (k, 3), x and y of the paper and z toward the eye; ``near`` (k, 3) are the nodes of the facet that each lies in, of edges their own and -1.

    ``own`` is which mesh they are of, ``before`` (k,) how far before them facets of that have to lie to hide them (mm).
    """

    p: np.ndarray
    q: np.ndarray
    near: np.ndarray
    own: int
    before: np.ndarray
    pen: Pen
    of: str


def seen_lines(
    meshes: Sequence[tuple[str, Facets, Any]], look: Look, *, hidden: bool, stray: float
) -> Iterator[tuple[str, Pen, list[Line]]]:
    """What is seen of meshes, each with what it is of and the rows of its place, as chords by owner and pen; ``hidden`` ones too where they are asked for.

    A line counts as hidden by what lies more than three times ``stray`` (mm) before it: by so much meshes of parts that touch may run into one another.
    """
    eye = np.array((look.right, look.up, look.toward))
    lines: list[_Lines] = []
    corners: list[np.ndarray] = []
    known: list[np.ndarray] = []
    owners: list[np.ndarray] = []
    first = 0
    before = 3 * stray
    for n, (of, mesh, rows) in enumerate(meshes):
        m = np.array(rows)[:3]
        at = (mesh.nodes @ m[:, :3].T + m[:, 3]) @ eye.T
        ids = mesh.same + first
        first += len(mesh.nodes)
        turned = (mesh.normals @ m[:, :3].T) @ eye[2]
        # nodes that two faces share lie on the outline in both, whatever rounding makes of it
        turned = np.where(np.abs(turned) < EPS, 0.0, turned)
        # a smooth passage to a plane that is seen from its edge is an outline
        smooth = mesh.smooth & (turned[mesh.edges] != 0).any(axis=1)
        pens: tuple[tuple[np.ndarray, Pen], ...] = ((mesh.edges[~smooth], "visible"), (mesh.edges[smooth], "smooth"))
        for own, pen in pens:
            near = np.column_stack((ids[own], np.full(len(own), -1)))
            lines.append(_Lines(at[own[:, 0]], at[own[:, 1]], near, n, np.full(len(own), before), pen, of))
        lines.append(_outline(mesh, at, turned, ids, n, before, of))
        corners.append(at[mesh.triangles])
        # planes have no facets about an outline
        known.append(np.where(mesh.curved[:, None], ids[mesh.triangles], -2))
        owners.append(np.full(len(mesh.triangles), n))
    cover = _Cover(
        np.concatenate([*corners, np.zeros((0, 3, 3))]),
        np.concatenate([*known, np.zeros((0, 3), int)]),
        np.concatenate([*owners, np.zeros(0, int)]),
        before,
    )
    for drawn in lines:
        shown, behind = cover.parted(drawn)
        yield drawn.of, drawn.pen, _chords(shown, drawn.pen, drawn.of)
        if hidden and drawn.pen == "visible":
            yield drawn.of, "hidden", _chords(behind, "hidden", drawn.of)


def _chords(ends: np.ndarray, pen: Pen, of: str) -> list[Line]:
    return [Line(pen, (a, b), (c, d), of) for a, b, c, d in ends.tolist()]


def _outline(mesh: Facets, at: np.ndarray, turned: np.ndarray, ids: np.ndarray, n: int, before: float, of: str) -> _Lines:
    """Where curved faces turn away from the eye: through each facet from the place on one side to that on another. Chords stand a facet's width before it there."""
    triangles = mesh.triangles[mesh.curved]
    front = turned[triangles] >= 0
    crossed = front.any(axis=1) & ~front.all(axis=1)
    triangles, front = triangles[crossed], front[crossed]
    # the corner that is alone on its side of the outline, and both others
    lone = np.where(front.sum(axis=1) == 1, front.argmax(axis=1), (~front).argmax(axis=1)) if len(front) else np.zeros(0, int)
    ends = []
    for k in (1, 2):
        a = triangles[np.arange(len(triangles)), lone]
        b = triangles[np.arange(len(triangles)), (lone + k) % 3]
        # from the same end in both facets of a side, so that chords meet to the last digit
        swap = ids[a] > ids[b]
        a, b = np.where(swap, b, a), np.where(swap, a, b)
        share = turned[a] / np.where(turned[a] == turned[b], 1.0, turned[a] - turned[b])
        ends.append(at[a] + share[:, None] * (at[b] - at[a]))
    sides = np.linalg.norm(at[triangles] - at[np.roll(triangles, 1, axis=1)], axis=2)
    wide = np.maximum(before, WIDE * sides.min(axis=1)) if len(sides) else np.zeros(0)
    return _Lines(ends[0], ends[1], ids[triangles], n, wide, "visible", of)


class _Cover:
    """All facets that may hide something, found by their boxes in the view."""

    def __init__(self, corners: np.ndarray, known: np.ndarray, owners: np.ndarray, before: float) -> None:
        """``corners`` (m, 3, 3) in the view with the numbers of their nodes (m, 3), -2 of planes, and which mesh they are of (m,); one hides lines of others from ``before`` mm before them."""
        n = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
        area = n[:, 2]
        flat = np.abs(area) > np.linalg.norm(n, axis=1) * EDGE_ON + TINY  # one that is seen from its edge hides nothing
        corners, known, area, self.owners = corners[flat], known[flat], area[flat], owners[flat]
        turned = area < 0
        corners[turned] = corners[turned][:, ::-1]
        self.corners, self.known, self.before = corners, known, before
        flat_ones = corners[:, :, :2]
        self.step = max(float(np.ptp(flat_ones.reshape(-1, 2), axis=0).max()) / SLICES, EPS) if len(corners) else 1.0
        self.facet, boxes = _sliced(flat_ones, self.step)
        self.tree = shapely.STRtree(boxes) if len(corners) else None
        self.slope = _slopes(corners)

    def parted(self, lines: _Lines) -> tuple[np.ndarray, np.ndarray]:
        """What of lines is seen and what lies behind facets, as ends in the view: each (n, 4)."""
        found = [self._parted(lines, k) for k in range(0, len(lines.p), CHUNK)]
        empty = np.zeros((0, 4))
        return np.vstack([*(f[0] for f in found), empty]), np.vstack([*(f[1] for f in found), empty])

    def _parted(self, lines: _Lines, start: int) -> tuple[np.ndarray, np.ndarray]:
        p, q, near, before = (x[start : start + CHUNK] for x in (lines.p, lines.q, lines.near, lines.before))
        long = np.hypot(*(q - p)[:, :2].T)
        kept = long > EPS
        p, q, near, before, long = p[kept], q[kept], near[kept], before[kept], long[kept]
        line, low, high = self._hidden(p, q, near, before, lines.own)
        seen, behind = [], []
        shares: dict[int, list[tuple[float, float]]] = {}
        for k, a, b in zip(line.tolist(), low.tolist(), high.tolist(), strict=True):
            shares.setdefault(k, []).append((a, b))
        for k in range(len(p)):
            done = 0.0
            slack = SNAP / float(long[k])
            for a, b in _joined(shares.get(k, ()), slack):
                if a > done + slack:
                    seen.append((k, done, a))
                behind.append((k, a, b))
                done = b
            if done < 1.0 - slack:
                seen.append((k, done, 1.0))
        return _cut(p, q, seen), _cut(p, q, behind)

    def _hidden(
        self, p: np.ndarray, q: np.ndarray, near: np.ndarray, before: np.ndarray, own: int
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Of every line and facet before it: which line, and from which share of it to which it is hidden."""
        if self.tree is None or not len(p):
            return np.zeros(0, int), np.zeros(0), np.zeros(0)
        of, boxes = _sliced(np.stack((p[:, :2], q[:, :2]), axis=1), self.step)
        box, slice_ = self.tree.query(boxes)
        pairs = np.unique(of[box] * len(self.corners) + self.facet[slice_])
        line, facet = pairs // len(self.corners), pairs % len(self.corners)
        # facets about a chord stray from the surface as it does: what turns away from the eye just there neither hides nor shows it
        about = (near[line][:, :, None] == self.known[facet][:, None, :]).any(axis=(1, 2))
        line, facet = line[~about], facet[~about]
        a, b, corners = p[line], q[line], self.corners[facet]
        low, high = np.zeros(len(line)), np.ones(len(line))
        for k in range(3):
            v, w = corners[:, k, :2], corners[:, (k + 1) % 3, :2]
            side = (w - v) / np.hypot(*(w - v).T)[:, None]
            inside = [side[:, 0] * (e[:, 1] - v[:, 1]) - side[:, 1] * (e[:, 0] - v[:, 0]) + ON for e in (a, b)]
            low, high = _clipped(low, high, *inside)
        off = np.where(self.owners[facet] == own, before[line], self.before)
        over = [corners[:, 0, 2] + ((e[:, :2] - corners[:, 0, :2]) * self.slope[facet]).sum(axis=1) - e[:, 2] - off for e in (a, b)]
        low, high = _clipped(low, high, *over)
        found = high > low
        return line[found], low[found], high[found]


def _sliced(shapes: np.ndarray, step: float) -> tuple[np.ndarray, np.ndarray]:
    """Shapes (n, 2 or 3 corners, 2) in slices across the longer side of their boxes: which shape each is of, and its box; what lies askew is long and thin."""
    low, high = shapes.min(axis=1), shapes.max(axis=1)
    size = high - low
    axis = size.argmax(axis=1)
    count = np.maximum(1, np.ceil(size.max(axis=1) / step)).astype(int)
    of = np.repeat(np.arange(len(shapes)), count)
    k = np.arange(len(of)) - np.repeat(np.cumsum(count) - count, count)
    ax = axis[of]
    at, across = (np.take_along_axis(shapes[of], a[:, None, None], axis=2)[:, :, 0] for a in (ax, 1 - ax))
    wide = size[of, ax] / count[of]
    a = low[of, ax] + k * wide
    b = a + wide
    least, most = np.full(len(of), np.inf), np.full(len(of), -np.inf)
    n = shapes.shape[1]
    for i, j in [(i, (i + 1) % n) for i in range(n if n > 2 else 1)]:
        run = at[:, j] - at[:, i]
        with np.errstate(divide="ignore", invalid="ignore"):
            shares = [np.where(run == 0, e, np.clip((x - at[:, i]) / run, 0.0, 1.0)) for e, x in ((0.0, a), (1.0, b))]
        met = (np.minimum(at[:, i], at[:, j]) <= b + SNAP) & (np.maximum(at[:, i], at[:, j]) >= a - SNAP)
        for share in shares:
            y = across[:, i] + share * (across[:, j] - across[:, i])
            least, most = np.where(met, np.minimum(least, y), least), np.where(met, np.maximum(most, y), most)
    first, last = (a - SNAP, b + SNAP), (least - SNAP, most + SNAP)
    x0, y0 = np.where(ax == 0, first[0], last[0]), np.where(ax == 0, last[0], first[0])
    x1, y1 = np.where(ax == 0, first[1], last[1]), np.where(ax == 0, last[1], first[1])
    return of, shapely.box(x0, y0, x1, y1)


def _slopes(corners: np.ndarray) -> np.ndarray:
    """How much each facet's plane rises toward the eye along x and y: (m, 2)."""
    u, v = corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]
    n = np.cross(u, v)
    return -n[:, :2] / n[:, 2:]


def _clipped(low: np.ndarray, high: np.ndarray, at_p: np.ndarray, at_q: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Shares of lines narrowed to where what is ``at_p`` at one end and ``at_q`` at the other is over 0."""
    change = at_q - at_p
    with np.errstate(divide="ignore", invalid="ignore"):
        at = -at_p / change
    rises, falls, flat = change > 0, change < 0, change == 0
    low = np.where(rises, np.maximum(low, at), low)
    high = np.where(falls, np.minimum(high, at), high)
    return low, np.where(flat & (at_p <= 0), low, high)


def _joined(spans: Sequence[tuple[float, float]], slack: float) -> list[tuple[float, float]]:
    """Spans that meet or overlap as one, from low to high."""
    found: list[tuple[float, float]] = []
    for a, b in sorted(spans):
        if found and a <= found[-1][1] + slack:
            found[-1] = (found[-1][0], max(b, found[-1][1]))
        else:
            found.append((a, b))
    return found


def _cut(p: np.ndarray, q: np.ndarray, spans: Sequence[tuple[int, float, float]]) -> np.ndarray:
    if not spans:
        return np.zeros((0, 4))
    k, a, b = (np.array(x) for x in zip(*spans, strict=True))
    k = k.astype(int)
    way = (q - p)[k, :2]
    return np.hstack((p[k, :2] + a[:, None] * way, p[k, :2] + b[:, None] * way))
