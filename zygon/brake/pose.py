"""A folded part in the press brake: convex pieces of its faces and bends, placed with the bend line under the punch.

Brake frame: x along the bend line, y towards the back-gauge, z up; the top of the die is z = 0, and the bend opens upward.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from zygon.brake.slabs import TOUCH, Piece, Slabs
from zygon.geometry.boolean import to_polygon
from zygon.geometry.motion import IDENTITY, Motion
from zygon.making.result.fold import Fold, FoldBend, bend_points
from zygon.tolerance import SEEN, WITHIN

__all__ = ["Pose", "Workpiece", "into_brake"]

#: Outlines are taken with chords this near to their arcs (mm).
COARSE = 0.05
#: A bend that is done is taken as so many straight pieces.
SLICES = 3


_NOTHING = Slabs(np.empty(0, int), np.empty(0, int), np.empty((0, 3)))


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
        self._turns: dict[tuple[int, float], Motion] = {}
        self._last: tuple[Sequence[float], list[Motion]] = ((), [])
        self._flat: dict[int, Slabs] = {}
        self._strips: dict[tuple[int, float, int], Slabs] = {}

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
        slabs = self.slabs(shares, slices)
        return [slabs.piece(i) for i in range(len(slabs))]

    def slabs(self, shares: Sequence[float], slices: int = SLICES) -> Slabs:
        """The same, all at once."""
        motions = self.motions(shares)
        found = [self._face(i) for i in range(len(self.faces))]
        found += [self._bend(i, share, slices) for i, share in enumerate(shares)]
        standing = [motions[i].rows for i in range(len(self.faces))] + [motions[b.parent].rows for b in self.fold.bends]
        rows = np.repeat(np.array(standing), [len(s.points) for s in found], axis=0)
        points = np.einsum("pij,pj->pi", rows[:, :, :3], np.vstack([s.points for s in found])) + rows[:, :, 3]
        begin = np.cumsum([0, *(len(s.points) for s in found[:-1])])
        starts = np.concatenate([s.starts + b for s, b in zip(found, begin, strict=True)])
        return Slabs(np.concatenate([s.zones for s in found]), starts, points)

    def motions(self, shares: Sequence[float]) -> list[Motion]:
        """Where each face stands, every bend its share of the way done."""
        if self._last[0] == shares:  # asked for again at once, to place the slabs in the brake
            return self._last[1]
        motions = [IDENTITY]
        for i, (bend, share) in enumerate(zip(self.fold.bends, shares, strict=True)):
            if (i, share) not in self._turns:
                self._turns[i, share] = bend.motion(share)
            motions.append(motions[bend.parent] @ self._turns[i, share])
        self._last = (shares, motions)
        return motions

    def _face(self, number: int) -> Slabs:
        """A face's slabs as it lies on the flat."""
        if number not in self._flat:
            rings = self.faces[number]
            ends = [np.vstack([np.column_stack((r, np.full(len(r), w))) for w in (0.0, self.thickness)]) for r in rings]
            self._flat[number] = Slabs.of([number] * len(rings), ends) if rings else _NOTHING
        return self._flat[number]

    def _bend(self, number: int, share: float, slices: int) -> Slabs:
        """A bend's slabs, what it stands on lying flat."""
        key = (number, share, slices)
        if key not in self._strips:
            bend = self.fold.bends[number]
            start, end, n = np.array(bend.start), np.array(bend.end), np.array(bend.outward)
            steps = slices if share else 1
            found = []
            for k in range(steps):
                y0, y1 = bend.width * k / steps, bend.width * (k + 1) / steps
                ring = np.array([start + n * y0, end + n * y0, end + n * y1, start + n * y1])
                found.append(np.vstack([bend_points(bend, IDENTITY, ring, w, share) for w in (0.0, self.thickness)]))
            self._strips[key] = Slabs.of([-1 - number] * steps, found)
        return self._strips[key]


@dataclass(frozen=True)
class Pose:
    """A workpiece at a bend: its slabs in the brake's frame, and the stretch of x that the tools take."""

    slabs: Slabs
    low: float
    high: float
    tip: float

    @staticmethod
    def of(work: Workpiece, bend: int, shares: Sequence[float], *, v: float, extent: tuple[float, float]) -> Pose:
        """The workpiece with ``bend`` done by its share over a die of opening ``v``; ``extent`` along the bend from its start, in mm."""
        b = work.fold.bends[bend]
        frame = into_brake(b, work.thickness, work.motions(shares)[b.parent])
        angle = abs(b.angle) * shares[bend]
        # a bend half done keeps its neutral line, so its radius is larger
        inner = b.width / angle - b.k * work.thickness if angle > WITHIN else 0.0
        lift = _lifted(angle, inner, work.thickness, v)
        tip = _centre(angle, inner, work.thickness, v) - inner if angle > WITHIN else work.thickness
        low, high = extent if b.angle > 0 else (-extent[1], -extent[0])
        return Pose(work.slabs(shares).moved(lift @ frame), low, high, tip)

    def meets(self, counts: np.ndarray, tool: shapely.Polygon, short: float = 0.0) -> int | None:
        """The zone of a slab that a tool's profile (y, z) runs into, along the stretch less ``short`` at both ends; None where none does.

        ``counts`` (n,) says which slabs count.
        """
        x0, x1 = self.low + TOUCH + short, self.high - TOUCH - short
        ty0, tz0, ty1, tz1 = tool.bounds
        low, high = self.slabs.boxes
        near = counts & (high > (x0, ty0, tz0)).all(axis=1) & (low < (x1, ty1, tz1)).all(axis=1)
        for i in np.flatnonzero(near).tolist():
            piece = self.slabs.piece(i)
            rings = [_between(r, x0, x1) for r in (piece.low, piece.high)]
            corners = np.vstack([r for r in rings if len(r)] or [np.empty((0, 3))])
            if len(corners) < 3:
                continue
            shadow = shapely.convex_hull(shapely.multipoints(corners[:, 1:]))
            if shapely.intersects(shadow, tool):
                return piece.zone
        return None


def into_brake(bend: FoldBend, thickness: float, parent: Motion) -> Motion:
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
    if angle <= WITHIN:
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
    if hull.area - polygon.area < SEEN * max(polygon.area, 1.0):
        return [shapely.get_coordinates(hull.exterior)[:-1]]
    # a face that is folded into itself may cross its own outline
    sound = polygon if polygon.is_valid else shapely.make_valid(polygon)
    faces = [p for p in shapely.get_parts(shapely.get_parts(sound)) if p.geom_type == "Polygon"]
    triangles = [t for p in faces for t in shapely.get_parts(shapely.constrained_delaunay_triangles(p))]
    return [shapely.get_coordinates(t)[:-1] for t in triangles]
