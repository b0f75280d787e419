"""A fold: the flat faces of a sheet and the bends between them, as they lie flat, and where every point comes to lie when it is bent.

Flat coordinates are (u, v) with w from face B (0) to face A (thickness). A bend is a strip as wide as its allowance; it begins on the line
``start`` to ``end`` on its parent's side, and what it carries lies to the right of that line. The plate, face 0, stays where it is; bend i
carries face i + 1.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour
from zygon.geometry.motion import IDENTITY, Motion
from zygon.owner import read_owner
from zygon.stock.allowance import allowance, inner_setback
from zygon.tolerance import EPS, SAGITTA

__all__ = [
    "Fold",
    "FoldBend",
    "FoldFace",
    "SLIT",
    "bend_points",
    "face_motions",
    "gusset_points",
    "leg_rectangle",
    "mirrored",
    "reach_of",
    "standing",
]

Point = tuple[float, float]
#: A face of which less than this is left (mm²) is not there any more.
NOTHING = 1e-2
#: A slit where the sheet is slit beside a bend (mm): a line's width.
SLIT = 0.05


@dataclass(frozen=True)
class FoldFace:
    """A flat face: its outline, without the holes in it. ``key`` is '' for the plate."""

    key: str
    owner: str
    outline: tuple[Contour, ...]


@dataclass(frozen=True)
class FoldBend:
    """A bend by ``angle`` radians (over 0 towards face A) about an inside ``radius`` in mm; ``parent`` is the face that it starts from."""

    key: str
    owner: str
    parent: int
    start: Point
    end: Point
    angle: float
    radius: float
    k: float
    thickness: float
    outline: Contour
    #: stiffeners pressed into it: (from its start along it, width, reach from the inner sharp along both legs), mm
    gussets: tuple[tuple[float, float, float], ...] = ()
    #: made by an offset tool, together with the other bend of its offset
    pressed: bool = False

    @property
    def width(self) -> float:
        """The bend allowance in mm: the width of its strip on the flat."""
        return allowance(self.thickness, self.radius, abs(self.angle), self.k)

    @property
    def along(self) -> Point:
        """Unit direction of the bend line."""
        length = math.dist(self.start, self.end)
        return (self.end[0] - self.start[0]) / length, (self.end[1] - self.start[1]) / length

    @property
    def outward(self) -> Point:
        """Unit direction from the parent across the bend."""
        dx, dy = self.along
        return dy, -dx

    @property
    def middle(self) -> tuple[Point, Point]:
        """The line that the punch meets: half way across the strip, as long as the bend."""
        n, half = self.outward, self.width / 2
        return tuple((p[0] + n[0] * half, p[1] + n[1] * half) for p in (self.start, self.end))  # type: ignore[return-value]

    def bent(self, s: np.ndarray, w: np.ndarray, share: float = 1.0) -> tuple[np.ndarray, np.ndarray]:
        """Across and up, in mm, of points ``s`` mm into the strip and at height ``w``, where the bend is ``share`` of the way done."""
        angle = abs(self.angle) * share
        if angle < EPS:
            return s, w
        # half-way bends keep the length of the neutral line, so their radius is larger
        radius = self.width / angle - self.k * self.thickness
        turn = s / self.width * angle
        if self.angle > 0:
            centre = self.thickness + radius
            return (centre - w) * np.sin(turn), centre - (centre - w) * np.cos(turn)
        return (radius + w) * np.sin(turn), (radius + w) * np.cos(turn) - radius

    def motion(self, share: float = 1.0) -> Motion:
        """From where its face lies on the flat to where it stands when bent, its parent lying flat."""
        width = np.array([self.width, self.width])
        (y0, y1), (z0, z1) = self.bent(width, np.array([0.0, 1.0]), share)
        up = (float(y1 - y0), float(z1 - z0))  # where w comes to point, across and up
        out = (up[1], -up[0])  # where outward comes to point
        d, n = self.along, self.outward
        base = (self.start[0] + n[0] * self.width, self.start[1] + n[1] * self.width)  # on the flat, where the face begins
        at = (self.start[0] + n[0] * float(y0), self.start[1] + n[1] * float(y0), float(z0))
        columns = [
            # images of the axes u, v, w: split along the bend line, outward, up
            (d[0] * d[0] + n[0] * n[0] * out[0], d[0] * d[1] + n[0] * n[1] * out[0], n[0] * out[1]),
            (d[1] * d[0] + n[1] * n[0] * out[0], d[1] * d[1] + n[1] * n[1] * out[0], n[1] * out[1]),
            (n[0] * up[0], n[1] * up[0], up[1]),
        ]
        shift = [at[i] - columns[0][i] * base[0] - columns[1][i] * base[1] for i in range(3)]
        return Motion(tuple((columns[0][i], columns[1][i], columns[2][i], shift[i]) for i in range(3)))


@dataclass(frozen=True)
class Fold:
    """Faces and bends of a folded part; ``faces[i + 1]`` hangs on ``bends[i]``, and a parent comes before what it carries."""

    faces: tuple[FoldFace, ...]
    bends: tuple[FoldBend, ...]
    #: records of flanges that meet in a corner of what they stand on
    corners: tuple[tuple[str, str], ...] = ()
    #: the middle lines of slits beside bends, from the edge inward
    slits: tuple[Contour, ...] = ()


def face_motions(fold: Fold, shares: tuple[float, ...] | float = 1.0) -> list[Motion]:
    """Where each face comes to stand, from the flat; ``shares`` of the way done, of all bends or of each."""
    given = (shares,) * len(fold.bends) if isinstance(shares, float) else shares
    motions = [IDENTITY]
    for bend, share in zip(fold.bends, given, strict=True):
        motions.append(motions[bend.parent] @ bend.motion(share))
    return motions


def leg_rectangle(fold: Fold, thickness: float, i: int, side: str) -> np.ndarray:
    """Where the rectangle along its bend that encloses face ``i`` stands on its 'inner' or 'outer' side, in the plate's (u, v, w): (3, 3), a
    corner at its bend, the corner along the bend from there, and the one at its far end.
    """
    bend = fold.bends[i - 1]
    # within the bend is the side that it turns towards
    w = thickness if (bend.angle > 0) == (side == "inner") else 0.0
    flat = np.array([p for c in fold.faces[i].outline for p in c.flatten(SAGITTA)])
    axes = np.array((bend.along, bend.outward))
    low, high = (flat @ axes.T).min(axis=0), (flat @ axes.T).max(axis=0)
    corners = [(*(axes.T @ np.array(at)), w) for at in (low, (high[0], low[1]), (low[0], high[1]))]
    return face_motions(fold)[i].points(np.array(corners))


def standing(fold: Fold, material: Sequence[shapely.Polygon]) -> Fold:
    """The fold without the faces of which ``material`` on the flat has nothing left, and without what hangs on those."""
    whole = shapely.union_all(list(material))
    number: dict[int, int] = {0: 0}
    faces, bends = [fold.faces[0]], []
    for i, (face, bend) in enumerate(zip(fold.faces[1:], fold.bends, strict=True), 1):
        shape = shapely.union_all([to_polygon(c) for c in face.outline])
        if bend.parent in number and shapely.area(shapely.intersection(shape, whole)) > NOTHING:
            number[i] = len(faces)
            faces.append(face)
            bends.append(replace(bend, parent=number[bend.parent]))
    left = {read_owner(b.owner).key for b in bends}
    corners = tuple(c for c in fold.corners if set(c) <= left)
    return Fold(tuple(faces), tuple(bends), corners, fold.slits)


def bend_points(bend: FoldBend, parent: Motion, points: np.ndarray, w: float, share: float = 1.0) -> np.ndarray:
    """Where points (n, 2) of a bend's strip come to lie at height ``w``; (n, 3)."""
    d, n = np.array(bend.along), np.array(bend.outward)
    offset = points - np.array(bend.start)
    across, up = bend.bent(offset @ n, np.full(len(points), w), share)
    flat = np.array(bend.start) + np.outer(offset @ d, d) + np.outer(across, n)
    return parent.points(np.column_stack((flat, up)))


def mirrored(fold: Fold, middle: float, turn: Callable[[Contour], Contour], *, over: bool) -> Fold:
    """The fold with x turned to ``middle`` - x; laid on its other face too where ``over`` (up becomes down)."""

    def point(p: Point) -> Point:
        return middle - p[0], p[1]

    sign = -1.0 if over else 1.0
    faces = tuple(replace(f, outline=tuple(turn(c) for c in f.outline)) for f in fold.faces)
    bends = tuple(
        replace(b, start=point(b.end), end=point(b.start), angle=sign * b.angle, outline=turn(b.outline), gussets=_turned(b))
        for b in fold.bends
    )
    return Fold(faces, bends, fold.corners, tuple(turn(s) for s in fold.slits))


def _turned(bend: FoldBend) -> tuple[tuple[float, float, float], ...]:
    length = math.dist(bend.start, bend.end)
    return tuple((length - along, width, depth) for along, width, depth in bend.gussets)


def gusset_points(bend: FoldBend) -> list[tuple[tuple[float, float], tuple[float, float], tuple[float, float], tuple[float, float]]]:
    """Of each stiffener the (along, across) on the flat where it begins on the parent, ends on the leg, and stands left and right in the bend."""
    back = inner_setback(bend.radius, abs(bend.angle))
    return [
        ((x, back - depth), (x, bend.width + depth - back), (x - width / 2, bend.width / 2), (x + width / 2, bend.width / 2))
        for x, width, depth in bend.gussets
    ]


def reach_of(fold: Fold, thickness: float, matrix: tuple[tuple[float, ...], ...]) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Low and high corner of the folded part in the room; ``matrix`` (4, 4) takes the plate's (u, v, w) there."""
    motions = face_motions(fold)
    found = []
    for face, motion in zip(fold.faces, motions, strict=True):
        for contour in face.outline:
            points = contour.flatten(0.05)
            found += [motion.points(np.column_stack((points, np.full(len(points), w)))) for w in (0.0, thickness)]
    for bend in fold.bends:
        across = np.outer(np.linspace(0.0, bend.width, 9), bend.outward)
        lines = np.vstack([across + np.array(p) for p in (bend.start, bend.end)])
        found += [bend_points(bend, motions[bend.parent], lines, w) for w in (0.0, thickness)]
    m = np.array(matrix)
    points = np.vstack(found) @ m[:3, :3].T + m[:3, 3]
    return tuple(points.min(axis=0).tolist()), tuple(points.max(axis=0).tolist())
