"""The solid of a folded part: its flat cut into cells by the bends (the net), and every corner of them laid where the fold takes it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely

from zygon.geometry.boolean import Region, region_polygon, to_polygon
from zygon.geometry.mesh import Mesh
from zygon.making.result.fold import Fold, FoldBend, bend_points, face_motions
from zygon.tolerance import DISPLAY_SAGITTA, SEEN, SNAP

__all__ = ["Net", "folded_mesh", "inked", "laid", "net_of"]

#: A bend is drawn in steps of at most this (radians): its volume is then right to four parts in a thousand.
STEP = math.radians(9)
#: The outline is inked down its thickness where it turns by more than this (radians).
CREASE = 0.35


@dataclass(frozen=True)
class Net:
    """A flat cut into triangles that follow its faces and bends, the same however far it is folded.

    ``flat`` (n, 2) are its corners; ``zone`` (n,) which face (i) or which bend (-1 - i) lays each of them; ``cap`` (m, 3) the triangles of one side and
    ``owners`` whose they are; ``rim`` (k, 2) the sides of the outline, ``rim_owners`` whose, ``sharp`` the corners inked down the thickness, ``lines`` (j, 2)
    the sides along which a bend starts or ends.
    """

    flat: np.ndarray
    zone: np.ndarray
    cap: np.ndarray
    owners: tuple[str, ...]
    rim: np.ndarray
    rim_owners: tuple[str, ...]
    sharp: np.ndarray
    lines: np.ndarray


def folded_mesh(net: Net, thickness: float, fold: Fold, share: tuple[float, ...] | float = 1.0) -> Mesh:
    """The closed mesh of a flat folded ``share`` of the way, of all bends or of each, in the plate's (u, v, w)."""
    return _solid(net, *laid(net, fold, thickness, share))


def net_of(pieces: tuple[Region, ...], fold: Fold) -> Net:
    """The net of a flat."""
    body = shapely.union_all([region_polygon(p, DISPLAY_SAGITTA) for p in pieces])
    zones = [to_polygon(c, DISPLAY_SAGITTA) for f in fold.faces for c in f.outline]
    face_of = [i for i, f in enumerate(fold.faces) for _ in f.outline]
    strips = [to_polygon(b.outline, DISPLAY_SAGITTA) for b in fold.bends]
    lines = [shapely.boundary(g) for g in (body, *zones, *strips)] + [line for b in fold.bends for line in _slices(b)]
    cells = shapely.get_parts(shapely.polygonize([shapely.union_all(lines, grid_size=SNAP)]))
    inside = shapely.point_on_surface(cells)
    shapely.prepare(body)
    within = shapely.contains(body, inside)
    cells, inside = cells[within], inside[within]
    found = np.full(len(cells), -1, dtype=np.int64)
    at, zone = shapely.STRtree([*zones, *strips]).query(inside, predicate="intersects")
    found[at[::-1]] = zone[::-1]  # the first zone of each
    # slivers that rounding leaves between a slanting edge and its zones belong to none
    there = (found >= 0) | (shapely.area(cells) > SEEN)
    cells, found = cells[there], np.maximum(found[there], 0)
    numbers = np.array([*face_of, *(-1 - i for i in range(len(strips)))])[found]
    flat, zone_of, cap, cell_of = _triangles(cells, numbers)
    names = [f.owner for f in fold.faces], [b.owner for b in fold.bends]
    owners = tuple(names[0][k] if k >= 0 else names[1][-1 - k] for k in numbers[cell_of].tolist())
    rim = _rim(cap)
    return Net(flat, zone_of, cap, owners, rim, _rim_owners(flat, rim, pieces), _sharp(flat, rim), _bend_lines(cap, numbers[cell_of]))


def laid(net: Net, fold: Fold, thickness: float, share: tuple[float, ...] | float = 1.0) -> tuple[np.ndarray, np.ndarray]:
    """Where a net's corners come to lie on face B and on face A; (n, 3) each."""
    motions = face_motions(fold, share)
    shares = (share,) * len(fold.bends) if isinstance(share, float) else share
    low, high = np.empty((len(net.flat), 3)), np.empty((len(net.flat), 3))
    order = np.argsort(net.zone, kind="stable")
    sorted_zones = net.zone[order]
    for group in np.split(order, np.flatnonzero(np.diff(sorted_zones)) + 1):
        some, zone = net.flat[group], int(net.zone[group[0]])
        for ends, w in ((low, 0.0), (high, thickness)):
            if zone >= 0:
                ends[group] = motions[zone].points(np.column_stack((some, np.full(len(some), w))))
            else:
                bend = fold.bends[-1 - zone]
                ends[group] = bend_points(bend, motions[bend.parent], some, w, shares[-1 - zone])
    return low, high


def _slices(bend: FoldBend) -> list[shapely.Geometry]:
    """The lines that divide a strip into steps of its angle."""
    steps = max(2, math.ceil(abs(bend.angle) / STEP))
    n, lines = bend.outward, []
    for k in range(1, steps):
        x = bend.width * k / steps
        lines.append(shapely.LineString([(p[0] + n[0] * x, p[1] + n[1] * x) for p in (bend.start, bend.end)]))
    return lines


def _triangles(cells: np.ndarray, numbers: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    """Corners (n, 2) and their zones (n,), counter-clockwise triangles (m, 3) and the cell of each."""
    parts, cell_of = shapely.get_parts(shapely.constrained_delaunay_triangles(cells), return_index=True)
    corners = shapely.get_coordinates(parts).reshape(-1, 4, 2)[:, :3]
    flat_corners = corners.reshape(-1, 2)
    _, first, index = np.unique(np.round(flat_corners / SNAP).astype(np.int64), axis=0, return_index=True, return_inverse=True)
    cap = index.reshape(-1, 3)
    points = flat_corners[first]
    a, b, c = (points[cap[:, k]] for k in range(3))
    turned = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) < (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    cap[turned] = cap[turned][:, ::-1]
    return points, numbers[cell_of[first // 3]], cap, cell_of


def _sides(cap: np.ndarray) -> np.ndarray:
    return np.concatenate((cap[:, [0, 1]], cap[:, [1, 2]], cap[:, [2, 0]]))


def _rim(cap: np.ndarray) -> np.ndarray:
    """The sides that belong to one triangle only, as they run there."""
    sides = _sides(cap)
    n = int(sides.max()) + 1
    own, back = sides[:, 0] * n + sides[:, 1], sides[:, 1] * n + sides[:, 0]
    return sides[~np.isin(own, back)]


def _bend_lines(cap: np.ndarray, zone: np.ndarray) -> np.ndarray:
    """The sides between triangles of a face and of a bend, or of two bends."""
    sides, zones = _sides(cap), np.tile(zone, 3)
    keys = np.sort(sides, axis=1)
    order = np.lexsort((keys[:, 1], keys[:, 0]))
    keys, zones = keys[order], zones[order]
    twice = np.flatnonzero((keys[1:] == keys[:-1]).all(axis=1) & (zones[1:] != zones[:-1]))
    return keys[twice]


def _rim_owners(flat: np.ndarray, rim: np.ndarray, pieces: tuple[Region, ...]) -> tuple[str, ...]:
    """Whose each side of the rim is: the owner of the flat's segment that it lies on."""
    chords, owners = [], []
    for c in (c for p in pieces for c in (p.outer, *p.inner)):
        for s in c.segments():
            one = type(c)((s.p, s.q), (s.bulge,), (s.owner,), closed=False).flatten(DISPLAY_SAGITTA)
            chords.append(shapely.LineString(one))
            owners.append(s.owner)
    middles = shapely.points((flat[rim[:, 0]] + flat[rim[:, 1]]) / 2)
    return tuple(owners[i] for i in shapely.STRtree(chords).nearest(middles).tolist())


def _sharp(flat: np.ndarray, rim: np.ndarray) -> np.ndarray:
    """The corners of the rim that are inked down the thickness."""
    ahead = np.full(len(flat), -1, dtype=np.int64)
    ahead[rim[:, 0]] = rim[:, 1]
    a, b = rim[:, 0], rim[:, 1]
    c = ahead[b]
    a, b, c = (x[c >= 0] for x in (a, b, c))
    one, other = flat[b] - flat[a], flat[c] - flat[b]
    turn = np.arctan2(one[:, 0] * other[:, 1] - one[:, 1] * other[:, 0], (one * other).sum(axis=1))
    return b[np.abs(turn) > CREASE]


def inked(net: Net) -> np.ndarray:
    """The inked edges (k, 2) as corners of the solid: those of face B first, then those of face A."""
    n = len(net.flat)
    return np.vstack((net.rim, net.rim + n, np.column_stack((net.sharp, net.sharp + n))))


def _solid(net: Net, low: np.ndarray, high: np.ndarray) -> Mesh:
    """The closed solid between the two laid caps, with walls along the rim."""
    n = len(low)
    a, b = net.rim[:, 0], net.rim[:, 1]
    walls = np.stack((np.column_stack((a, b, b + n)), np.column_stack((a, b + n, a + n))), axis=1).reshape(-1, 3)
    positions = np.vstack((low, high))
    edges = positions[inked(net)]
    triangles = np.vstack((net.cap[:, ::-1], net.cap + n, walls))
    named = (*(o or "face_b" for o in net.owners), *(o or "face_a" for o in net.owners), *(x for x in net.rim_owners for _ in (0, 1)))
    return Mesh(positions, triangles, named, edges)
