"""Where pieces lie against one another: flat faces that look at each other within play, as places and normals."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from zygon.geometry.mesh import Mesh
from zygon.making.assembly.hold import PLAY
from zygon.making.movement.pieces import Piece
from zygon.memo import Memo, digest
from zygon.tolerance import SNAP

__all__ = ["Contact", "contacts", "play_of"]

_FACES = Memo(500)
_CONTACTS = Memo(6000)
#: Faces look at each other where their normals do to within this (as a sine): two degrees, as of boards that stand as splayed as rounding lets them.
OPPOSITE = 0.035
#: Less of a face (mm²) touches nothing: slivers, and the chords of small arcs.
LEAST = 1.0
#: How far (mm) one may run into the other and still lie against it: a press fit.
INTO = 0.6
#: The play (mm) within which faces count as lying against one another grows with what lies there: a drawer has more than a peg.
SHARE = 0.006
#: The corners that are told of a place; more of them say nothing new.
CORNERS = 8


@dataclass(frozen=True)
class Contact:
    """The second of two pieces lies against the first at ``at`` (n, 3), whose face looks ``normal`` (3,) there, with ``gap`` mm between them at rest."""

    at: np.ndarray
    normal: np.ndarray
    gap: float


@dataclass(frozen=True)
class _Faces:
    """Flat faces of a body: ``normals`` (n, 3), ``offsets`` (n,) along them, and the triangles (m, 3, 3) of each."""

    normals: np.ndarray
    offsets: np.ndarray
    triangles: tuple[np.ndarray, ...]


def play_of(a: Piece, b: Piece) -> float:
    """How much room (mm) there may be between two pieces that lie against one another."""
    size = min(float((p.reaches[1] - p.reaches[0]).max()) for p in (a, b))
    return max(PLAY, SHARE * size)


def contacts(a: Piece, b: Piece) -> tuple[Contact, ...]:
    """Where b lies against a; sets lie in what they hold, and are not asked."""
    if a.is_set or b.is_set:
        return ()
    play = play_of(a, b)
    (low, high), (other_low, other_high) = a.reaches, b.reaches
    if bool((low > other_high + play).any()) or bool((high < other_low - play).any()):
        return ()
    key = digest("contacts", a.digest, b.digest)
    return _CONTACTS.get(key, lambda: _found(a, b, play))[0]


def _found(a: Piece, b: Piece, play: float) -> tuple[Contact, ...]:
    one, other = _placed(a), _placed(b)
    found = []
    facing = one.normals @ other.normals.T < -1 + OPPOSITE**2 / 2
    gaps = -other.offsets[None, :] - one.offsets[:, None]  # of faces that look straight at one another
    near = facing & (gaps < play + 1) & (gaps > -INTO - 1)
    for i, j in zip(*np.nonzero(near), strict=True):
        contact = _touching(one, int(i), other, int(j), play)
        if contact is not None:
            found.append(contact)
    return tuple(found)


def _touching(one: _Faces, i: int, other: _Faces, j: int, play: float) -> Contact | None:
    """What the faces i and j have before one another."""
    normal = one.normals[i]
    helper = np.eye(3)[int(np.abs(normal).argmin())]
    u = np.cross(normal, helper)
    u /= np.linalg.norm(u)
    v = np.cross(normal, u)
    across = np.stack((u, v))
    both = shapely.intersection(*(_outline(f.triangles[k] @ across.T) for f, k in ((one, i), (other, j))))
    if both.area < LEAST:
        return None
    ring = shapely.get_coordinates(shapely.convex_hull(both).exterior if both.geom_type else both)[:-1]
    if len(ring) > CORNERS:
        ring = ring[np.linspace(0, len(ring), CORNERS, endpoint=False).astype(int)]
    # both faces as heights over the plane through the origin
    first = one.offsets[i]
    m = other.normals[j]
    at = ring @ across  # (n, 3) in that plane
    second = (other.offsets[j] - at @ m) / float(normal @ m)
    gap = float((second - first).mean())
    if not -INTO < gap < play:
        return None
    return Contact(at + normal * first, normal, gap)


def _outline(triangles: np.ndarray) -> shapely.Geometry:
    """Triangles (m, 3, 2) as one outline."""
    made = shapely.polygons(np.round(triangles, 6))
    return shapely.union_all(made[shapely.is_valid(made) & (shapely.area(made) > 0)], grid_size=SNAP)


def _placed(piece: Piece) -> _Faces:
    """The flat faces of a piece in the room."""
    key = digest("faces", piece.part.body.digest, piece.leaf)
    own = _FACES.get(key, lambda: _faces_of(piece.meshes))[0]
    m = np.array(piece.part.matrix)
    normals = own.normals @ m[:3, :3].T
    return _Faces(normals, own.offsets + normals @ m[:3, 3], tuple(t @ m[:3, :3].T + m[:3, 3] for t in own.triangles))


def _faces_of(meshes: list[Mesh]) -> _Faces:
    """The flat faces of closed meshes: triangles that lie in one plane and look one way."""
    triangles = np.concatenate([m.positions[m.triangles] for m in meshes])
    cross = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    double = np.linalg.norm(cross, axis=1)
    kept = double > SNAP
    triangles, normals = triangles[kept], cross[kept] / double[kept, None]
    offsets = np.einsum("ij,ij->i", normals, triangles[:, 0])
    _, groups = np.unique(np.column_stack((np.round(normals, 4), np.round(offsets, 2))) + 0.0, axis=0, return_inverse=True)
    groups = groups.reshape(-1)
    order = np.argsort(groups, kind="stable")
    areas = np.bincount(groups, weights=double[kept] / 2)
    found: list[tuple[np.ndarray, float, np.ndarray]] = []
    for k, members in enumerate(np.split(order, np.cumsum(np.bincount(groups))[:-1])):
        if areas[k] >= LEAST:
            found.append((normals[members[0]], float(offsets[members[0]]), triangles[members]))
    return _Faces(np.array([f[0] for f in found]).reshape(-1, 3), np.array([f[1] for f in found]), tuple(f[2] for f in found))
