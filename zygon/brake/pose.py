"""A folded part in the press brake: convex pieces of its faces and bends, placed with the bend line under the punch.

Brake frame: x along the bend line, y towards the back-gauge, z up; the top of the die is z = 0, and the bend opens upward.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely

from zygon.build.metal.fold import Fold, FoldBend, bend_points, face_motions
from zygon.geometry.boolean import to_polygon
from zygon.geometry.motion import Motion

__all__ = ["Piece", "Pose", "Workpiece", "runs_into"]

#: Pieces that reach less than this into one another only touch (mm).
TOUCH = 0.08
#: Outlines are taken with chords this near to their arcs (mm).
COARSE = 0.05
#: A bend that is done is taken as so many straight pieces.
SLICES = 3


@dataclass(frozen=True)
class Piece:
    """A convex slab: cap corners (n, 3) on face B and on face A. ``zone`` is its face (i) or bend (-1 - i)."""

    zone: int
    low: np.ndarray
    high: np.ndarray

    @cached_property
    def points(self) -> np.ndarray:
        """All corners (2 n, 3)."""
        return np.vstack((self.low, self.high))

    @cached_property
    def box(self) -> tuple[np.ndarray, np.ndarray]:
        """Low and high corner."""
        return self.points.min(axis=0), self.points.max(axis=0)

    @cached_property
    def sides(self) -> np.ndarray:
        """Edge directions around the cap and down the thickness (n + 1, 3)."""
        around = np.concatenate((self.low[1:], self.low[:1])) - self.low
        return np.vstack((around, self.high[:1] - self.low[:1]))

    @cached_property
    def normals(self) -> np.ndarray:
        """Normals of the cap and of the walls (n + 1, 3)."""
        up = self.sides[-1]
        return np.vstack((np.cross(self.sides[:-1], up), up))


class Workpiece:
    """A fold with its faces cut into convex outlines, ready to be posed."""

    def __init__(self, fold: Fold, thickness: float) -> None:
        self.fold, self.thickness = fold, thickness
        self.faces = [[ring for c in f.outline for ring in _convex_rings(to_polygon(c, COARSE))] for f in fold.faces]
        self.children: list[set[int]] = [set() for _ in fold.faces]  # faces that a face carries, itself too
        for i in range(len(fold.faces) - 1, -1, -1):
            self.children[i].add(i)
            if i:
                self.children[fold.bends[i - 1].parent] |= self.children[i]

    def carried(self, bend: int) -> set[int]:
        """The faces that move with a bend."""
        return self.children[bend + 1]

    def moves_with(self, zone: int, bend: int) -> bool:
        """Whether a piece's zone lies beyond a bend."""
        if zone >= 0:
            return zone in self.carried(bend)
        return self.fold.bends[-1 - zone].parent in self.carried(bend)

    def pieces(self, shares: Sequence[float], slices: int = SLICES) -> list[Piece]:
        """All pieces in the plate's room, with each bend its share of the way done and taken as so many straight pieces."""
        motions = face_motions(self.fold, tuple(shares))
        found = []
        for i, rings in enumerate(self.faces):
            for ring in rings:
                ends = [motions[i].points(np.column_stack((ring, np.full(len(ring), w)))) for w in (0.0, self.thickness)]
                found.append(Piece(i, ends[0], ends[1]))
        for i, bend in enumerate(self.fold.bends):
            found += self._bend_pieces(i, bend, motions[bend.parent], shares[i], slices)
        return found

    def _bend_pieces(self, number: int, bend: FoldBend, parent: Motion, share: float, slices: int) -> list[Piece]:
        start, end, n = np.array(bend.start), np.array(bend.end), np.array(bend.outward)
        steps = slices if share else 1
        found = []
        for k in range(steps):
            y0, y1 = bend.width * k / steps, bend.width * (k + 1) / steps
            ring = np.array([start + n * y0, end + n * y0, end + n * y1, start + n * y1])
            low, high = (bend_points(bend, parent, ring, w, share) for w in (0.0, self.thickness))
            found.append(Piece(-1 - number, low, high))
        return found


@dataclass(frozen=True)
class Pose:
    """A workpiece at a bend: its pieces in the brake's frame, and the stretch of x that the tools take."""

    pieces: list[Piece]
    low: float
    high: float
    tip: float

    @staticmethod
    def of(work: Workpiece, bend: int, shares: Sequence[float], *, v: float, extent: tuple[float, float]) -> Pose:
        """The workpiece with ``bend`` done by its share over a die of opening ``v``; ``extent`` along the bend from its start, in mm."""
        b = work.fold.bends[bend]
        motions = face_motions(work.fold, tuple(shares))
        frame = _into_brake(b, work.thickness, motions[b.parent])
        angle = abs(b.angle) * shares[bend]
        # a bend half done keeps its neutral line, so its radius is larger
        inner = b.width / angle - b.k * work.thickness if angle > 1e-6 else 0.0
        lift = _lifted(angle, inner, work.thickness, v)
        whole = lift @ frame
        pieces = [Piece(p.zone, whole.points(p.low), whole.points(p.high)) for p in work.pieces(shares)]
        tip = _centre(angle, inner, work.thickness, v) - inner if angle > 1e-6 else work.thickness
        low, high = extent if b.angle > 0 else (-extent[1], -extent[0])
        return Pose(pieces, low, high, tip)

    def meets(self, zone_ok: Sequence[bool], tool: shapely.Polygon, short: float = 0.0) -> int | None:
        """The zone of a piece that a tool's profile (y, z) runs into, along the stretch less ``short`` at both ends; None where none does.

        ``zone_ok`` says which pieces count.
        """
        x0, x1 = self.low + TOUCH + short, self.high - TOUCH - short
        ty0, tz0, ty1, tz1 = tool.bounds
        for piece, counts in zip(self.pieces, zone_ok, strict=True):
            low, high = piece.box
            if not counts or high[0] <= x0 or low[0] >= x1 or high[1] <= ty0 or low[1] >= ty1 or high[2] <= tz0 or low[2] >= tz1:
                continue
            rings = [_between(r, x0, x1) for r in (piece.low, piece.high)]
            corners = np.vstack([r for r in rings if len(r)] or [np.empty((0, 3))])
            if len(corners) < 3:
                continue
            shadow = shapely.convex_hull(shapely.multipoints(corners[:, 1:]))
            if shapely.intersects(shadow, tool):
                return piece.zone
        return None


def _into_brake(bend: FoldBend, thickness: float, parent: Motion) -> Motion:
    """From the plate's room to the bend's own frame: x along it, y across it outward, z up from the sheet's lower face; a bend down is turned over."""
    d, n = bend.along, bend.outward
    s = bend.start
    up = bend.angle > 0
    # turned over about its outward direction: along turns round, and what was up is down
    x = d if up else (-d[0], -d[1])
    rows = (
        (x[0], x[1], 0.0, -(x[0] * s[0] + x[1] * s[1])),
        (n[0], n[1], 0.0, -(n[0] * s[0] + n[1] * s[1])),
        (0.0, 0.0, 1.0 if up else -1.0, 0.0 if up else thickness),
    )
    return Motion(rows) @ parent.inverse


def _centre(angle: float, inner: float, thickness: float, v: float) -> float:
    """Height of a bend's centre over the die's top, both legs lying on its shoulders."""
    a, outer = angle / 2, inner + thickness
    return outer * math.cos(a) - (v / 2 - outer * math.sin(a)) * math.tan(a)


def _lifted(angle: float, inner: float, thickness: float, v: float) -> Motion:
    """From the bend's own frame, its parent lying level, to both legs rising by half the angle."""
    if angle <= 1e-6:
        return Motion(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))
    a, zc = angle / 2, thickness + inner
    c, s = math.cos(a), math.sin(a)  # turned by -a about the centre
    height = _centre(angle, inner, thickness, v)
    return Motion(((1.0, 0.0, 0.0, 0.0), (0.0, c, s, -s * zc), (0.0, -s, c, height - c * zc)))


def _between(ring: np.ndarray, x0: float, x1: float) -> np.ndarray:
    """A ring's part between two places along x."""
    points = ring.tolist()  # rings have a handful of corners: plain floats are quicker than arrays
    for sign, limit in ((1.0, x0), (-1.0, -x1)):
        off = [sign * p[0] - limit for p in points]
        if all(f >= 0 for f in off):
            continue
        kept = []
        for i, (p, fp) in enumerate(zip(points, off, strict=True)):
            q, fq = points[i - len(points) + 1], off[i - len(points) + 1]
            if fp >= 0:
                kept.append(p)
            if (fp > 0) != (fq > 0) and fp != fq:
                share = fp / (fp - fq)
                kept.append([c + (d - c) * share for c, d in zip(p, q, strict=True)])
        points = kept
    return np.array(points).reshape(-1, 3)


def _convex_rings(polygon: shapely.Polygon) -> list[np.ndarray]:
    """A polygon as convex rings: itself where it is convex, else its triangles."""
    hull = shapely.convex_hull(polygon)
    if hull.area - polygon.area < 1e-3 * max(polygon.area, 1.0):
        return [shapely.get_coordinates(hull.exterior)[:-1]]
    triangles = shapely.get_parts(shapely.constrained_delaunay_triangles(polygon))
    return [shapely.get_coordinates(t)[:-1] for t in triangles]


def runs_into(a: Piece, b: Piece) -> bool:
    """Whether two convex slabs share more than a touch: no direction parts them (separating axes)."""
    (al, ah), (bl, bh) = a.box, b.box
    if ((ah - bl) < TOUCH).any() or ((bh - al) < TOUCH).any():
        return False
    crossed = np.cross(a.sides[:, None, :], b.sides[None, :, :]).reshape(-1, 3)
    axes = np.vstack((a.normals, b.normals, crossed))
    length = np.linalg.norm(axes, axis=1)
    axes = axes[length > 1e-9] / length[length > 1e-9, None]
    pa, pb = a.points @ axes.T, b.points @ axes.T
    return bool((np.minimum(pa.max(axis=0) - pb.min(axis=0), pb.max(axis=0) - pa.min(axis=0)) > TOUCH).all())
