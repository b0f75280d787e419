"""The solid of a folded part: its flat cut into cells by the bends, and every corner of them laid where the fold takes it."""

from __future__ import annotations

import math

import numpy as np
import shapely

from zygon.build.metal.fold import Fold, FoldBend, bend_points, face_motions
from zygon.geometry.boolean import Region, region_polygon, to_polygon
from zygon.geometry.mesh import Mesh, triangulated
from zygon.geometry.tolerance import DISPLAY_SAGITTA, SNAP

__all__ = ["folded_mesh"]

#: A bend is drawn in steps of at most this (radians): its volume is then right to four parts in a thousand.
STEP = math.radians(9)
#: The outline is inked down its thickness where it turns by more than this (radians).
CREASE = 0.35


def folded_mesh(pieces: tuple[Region, ...], thickness: float, fold: Fold, share: float = 1.0) -> Mesh:
    """The closed mesh of a flat folded ``share`` of the way, in the plate's (u, v, w)."""
    body = shapely.union_all([region_polygon(p, DISPLAY_SAGITTA) for p in pieces])
    zones = [to_polygon(c, DISPLAY_SAGITTA) for f in fold.faces for c in f.outline]
    face_of = [i for i, f in enumerate(fold.faces) for _ in f.outline]
    strips = [to_polygon(b.outline, DISPLAY_SAGITTA) for b in fold.bends]
    lines = [_edge(g) for g in (body, *zones, *strips)] + [line for b in fold.bends for line in _slices(b)]
    net = shapely.union_all(lines, grid_size=SNAP)
    cells = shapely.get_parts(shapely.polygonize([net]))
    inside = shapely.point_on_surface(cells)
    shapely.prepare(body)
    within = shapely.contains(body, inside)
    cells, inside = cells[within], inside[within]
    places = _Places(fold, share, thickness)
    triangles: list[np.ndarray] = []
    owners: list[str] = []
    tree = shapely.STRtree([*zones, *strips])
    found: dict[int, int] = {}
    for cell, zone in tree.query(inside, predicate="intersects").T.tolist():
        found.setdefault(cell, zone)
    for i, cell in enumerate(cells):
        zone = found.get(i, 0)
        bend = zone - len(zones) if zone >= len(zones) else None
        face = 0 if bend is not None else face_of[zone]
        rings = [shapely.get_coordinates(r)[:-1] for r in (cell.exterior, *cell.interiors)]
        index = places.index(np.vstack(rings), face, bend)
        ends = np.cumsum([len(r) for r in rings]).astype(np.uint32)
        made = triangulated(np.vstack(rings), ends)
        triangles.append(index[made])
        owners += [fold.bends[bend].owner if bend is not None else fold.faces[face].owner] * len(made)
    return places.mesh(np.vstack(triangles), owners, pieces)


def _edge(polygon: shapely.Geometry) -> shapely.Geometry:
    return shapely.boundary(polygon)


def _slices(bend: FoldBend) -> list[shapely.Geometry]:
    """The lines that divide a strip into steps of its angle."""
    steps = max(2, math.ceil(abs(bend.angle) / STEP))
    n, lines = bend.outward, []
    for k in range(1, steps):
        x = bend.width * k / steps
        lines.append(shapely.LineString([(p[0] + n[0] * x, p[1] + n[1] * x) for p in (bend.start, bend.end)]))
    return lines


class _Places:
    """Corners by their place on the flat, and where the fold takes them."""

    def __init__(self, fold: Fold, share: float, thickness: float) -> None:
        self.fold, self.share, self.thickness = fold, share, thickness
        self.motions = face_motions(fold, share)
        self.known: dict[tuple[int, int], int] = {}
        self.flat: list[tuple[float, float]] = []
        self.low: list[np.ndarray] = []
        self.high: list[np.ndarray] = []

    def index(self, points: np.ndarray, face: int, bend: int | None) -> np.ndarray:
        """The numbers of corners (n, 2) that lie in a face or in a bend."""
        keys = [tuple(k) for k in np.round(points / SNAP).astype(np.int64).tolist()]
        new = [i for i, k in enumerate(keys) if k not in self.known]
        if new:
            some = points[new]
            if bend is None:
                ends = [self.motions[face].points(np.column_stack((some, np.full(len(some), w)))) for w in (0.0, self.thickness)]
            else:
                b = self.fold.bends[bend]
                ends = [bend_points(b, self.motions[b.parent], some, w, self.share) for w in (0.0, self.thickness)]
            for i, low, high in zip(new, *ends, strict=True):
                if keys[i] not in self.known:
                    self.known[keys[i]] = len(self.low)
                    self.low.append(low)
                    self.high.append(high)
                    self.flat.append((points[i][0], points[i][1]))
        return np.array([self.known[k] for k in keys])

    def mesh(self, cap: np.ndarray, owners: list[str], pieces: tuple[Region, ...]) -> Mesh:
        """The closed solid on the caps' triangles; walls stand where a side belongs to one triangle only."""
        n = len(self.low)
        sides = np.concatenate((cap[:, [0, 1]], cap[:, [1, 2]], cap[:, [2, 0]]))
        known = {(a, b) for a, b in sides.tolist()}
        rim = np.array([(a, b) for a, b in sides.tolist() if (b, a) not in known])
        a, b = rim[:, 0], rim[:, 1]
        walls = np.stack((np.column_stack((a, b, b + n)), np.column_stack((a, b + n, a + n))), axis=1).reshape(-1, 3)
        positions = np.vstack((np.array(self.low), np.array(self.high)))
        names = self._rim_owners(rim, pieces)
        edges = [np.stack((positions[a + k], positions[b + k]), axis=1) for k in (0, n)]
        sharp = self._sharp(rim)
        edges.append(np.stack((positions[sharp], positions[sharp + n]), axis=1))
        triangles = np.vstack((cap[:, ::-1], cap + n, walls))
        named = (*(o or "face_b" for o in owners), *(o or "face_a" for o in owners), *(x for x in names for _ in (0, 1)))
        return Mesh(positions, triangles, named, np.concatenate(edges))

    def _rim_owners(self, rim: np.ndarray, pieces: tuple[Region, ...]) -> list[str]:
        """Whose each side of the rim is: the owner of the flat's segment that it lies on."""
        chords, owners = [], []
        for c in (c for p in pieces for c in (p.outer, *p.inner)):
            for s in c.segments():
                one = type(c)((s.p, s.q), (s.bulge,), (s.owner,), closed=False).flatten(DISPLAY_SAGITTA)
                chords.append(shapely.LineString(one))
                owners.append(s.owner)
        flat = np.array(self.flat)
        middles = shapely.points((flat[rim[:, 0]] + flat[rim[:, 1]]) / 2)
        nearest = shapely.STRtree(chords).nearest(middles)
        return [owners[i] for i in nearest.tolist()]

    def _sharp(self, rim: np.ndarray) -> np.ndarray:
        """The corners of the rim that are inked down the thickness."""
        flat = np.array(self.flat)
        ahead = dict(rim.tolist())
        found = []
        for a, b in rim.tolist():
            c = ahead.get(b)
            if c is None:
                continue
            one, other = flat[b] - flat[a], flat[c] - flat[b]
            if abs(math.atan2(one[0] * other[1] - one[1] * other[0], float(one @ other))) > CREASE:
                found.append(b)
        return np.array(found, dtype=np.int64)
