"""Built parts as solids in the room: what two have in common, the room between them, volume and centre of gravity.

For boards that stand at any angle to each other; boards along the same axes are reckoned faster from layers (``places.py``).
"""

from __future__ import annotations

from dataclasses import dataclass

import manifold3d
import numpy as np
import shapely

from zygon.geometry.mesh import Mesh
from zygon.geometry.solid import manifold_of
from zygon.making.kinds.registry import meshes_of, volume_of_part
from zygon.making.result.built import MadePart
from zygon.memo import Memo, digest
from zygon.tolerance import EPS, WITHIN

__all__ = [
    "Shared",
    "depth_in_common",
    "footprint",
    "gap_between",
    "in_common",
    "mass_centre",
    "solid_in_room",
    "solid_volume",
    "turned_alike",
    "volume_and_centre",
]

_SOLIDS = Memo(2000)
_SHARED = Memo(8000)
_VOLUMES = Memo(4000)


@dataclass(frozen=True)
class Shared:
    """What two parts have in common: volume in mm³, a place in the room inside the largest piece of it, about how thick it is in mm, and in how many pieces."""

    volume: float
    at: tuple[float, float, float]
    depth: float
    places: int = 1


def turned_alike(a: MadePart, b: MadePart) -> bool:
    """Whether both parts are flat and their axes lie along each other's."""
    if not (a.body.layered and b.body.layered):
        return False
    m, n = np.array(a.matrix)[:3, :3], np.array(b.matrix)[:3, :3]
    q = np.abs(m.T @ n)
    return bool(np.all((q < EPS) | (q > 1 - EPS)))


def solid_in_room(part: MadePart) -> manifold3d.Manifold:
    """A part's solid where it lies in the room."""
    key = digest("placed solid", part.body.digest, part.matrix)
    return _SOLIDS.get(key, lambda: _loose(part).transform(np.array(part.matrix)[:3]))[0]


def _loose(part: MadePart) -> manifold3d.Manifold:
    """A part's solid in its own frame."""

    def make() -> manifold3d.Manifold:
        pieces = [_bare(m) for m in meshes_of(part)]
        return pieces[0] if len(pieces) == 1 else manifold3d.Manifold.compose(pieces)

    return _SOLIDS.get(digest("loose solid", part.body.digest), make)[0]


def _beside(a: MadePart, b: MadePart) -> tuple[manifold3d.Manifold, manifold3d.Manifold, np.ndarray]:
    """Both solids in one frame, and the matrix (3, 4) from there to the room.

    That is the room where the first lies along its axes, else the first's own frame: the boxes of long triangles that lie askew hold nearly all others, and
    what is looked for among them takes some eight times as long.
    """
    m = np.array(a.matrix)
    along = np.abs(m[:3, :3])
    if bool(np.all((along < EPS) | (along > 1 - EPS))):
        return solid_in_room(a), solid_in_room(b), np.eye(4)[:3]
    return _loose(a), _loose(b).transform((np.linalg.inv(m) @ np.array(b.matrix))[:3]), m[:3]


def _bare(mesh: Mesh) -> manifold3d.Manifold:
    return manifold_of(mesh, list(dict.fromkeys(mesh.owners)))


def in_common(a: MadePart, b: MadePart) -> Shared | None:
    """What two parts have in common; None for nothing."""
    key = digest("common", a.body.digest, a.matrix, b.body.digest, b.matrix)

    def make() -> Shared | None:
        first, second, to_room = _beside(a, b)
        both = first ^ second
        volume = both.volume()
        if both.is_empty() or volume < WITHIN:
            return None
        area = both.surface_area()
        pieces = [p for p in both.decompose() if p.volume() >= WITHIN]
        largest = max(pieces, key=lambda p: p.volume()) if pieces else both
        at = _inside(largest.transform(to_room))
        return Shared(volume, at, 2 * volume / area if area else 0.0, max(len(pieces), 1))

    return _SHARED.get(key, make)[0]


def _inside(solid: manifold3d.Manifold) -> tuple[float, float, float]:
    """The middle of a solid's box where that lies in the solid, else a place inside it at half its height."""
    x0, y0, z0, x1, y1, z1 = solid.bounding_box()
    middle = ((x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2)
    rings = [shapely.Polygon(ring) for ring in solid.slice(middle[2]).to_polygons() if len(ring) > 2]
    # holes are rings inside of rings: what lies in an odd number of them is solid
    section = shapely.Polygon()
    for ring in rings:
        section = shapely.symmetric_difference(section, shapely.make_valid(ring))
    if section.is_empty or shapely.covers(section, shapely.Point(middle[:2])):
        return middle
    largest = max(shapely.get_parts(section), key=lambda g: g.area)
    at = shapely.point_on_surface(largest)
    return float(at.x), float(at.y), middle[2]


def depth_in_common(a: MadePart, b: MadePart, tolerance: float) -> float:
    """About how far two parts run through one another, in mm; 0 where by no more than ``tolerance``."""
    shared = in_common(a, b)
    return shared.depth if shared and shared.depth > tolerance else 0.0


def gap_between(a: MadePart, b: MadePart, most: float) -> float:
    """The least room between two parts in mm, 0 where they touch or overlap, ``most`` where there is more."""
    key = digest("gap", a.body.digest, a.matrix, b.body.digest, b.matrix, most)

    def make() -> float:
        first, second, _ = _beside(a, b)
        return float(first.min_gap(second, most))

    return _SHARED.get(key, make)[0]


def footprint(part: MadePart, other: MadePart, play: float) -> list[shapely.Polygon]:
    """Where a part bears on another, seen from above: what it would run into if it sank by ``play`` mm."""
    sunk = solid_in_room(part).translate((0.0, 0.0, -play)) ^ solid_in_room(other)
    found = [np.array(ring) for ring in sunk.project().to_polygons()]
    return [shapely.convex_hull(shapely.MultiPoint(ring)) for ring in found if len(ring) > 2]


def volume_and_centre(part: MadePart) -> tuple[float, tuple[float, float, float]]:
    """Volume in mm³, and centre of gravity in the room from the mesh (signed tetrahedra)."""
    key = digest("volume", part.body.digest, part.matrix)

    def make() -> tuple[float, tuple[float, float, float]]:
        total, moment = 0.0, np.zeros(3)
        for mesh in meshes_of(part):
            volume, first = mesh.moments()
            total += volume
            moment += first
        centre = moment / total if total else moment
        m = np.array(part.matrix)
        return volume_of_part(part), tuple((m[:3, :3] @ centre + m[:3, 3]).tolist())

    return _VOLUMES.get(key, make)[0]


def solid_volume(part: MadePart) -> float:
    """Volume in mm³."""
    return volume_and_centre(part)[0]


def mass_centre(parts: list[tuple[MadePart, float]]) -> tuple[float, tuple[float, float, float]] | None:
    """Mass in g and centre of gravity of parts with their densities in g/cm³; None where they weigh nothing."""
    mass, moment = 0.0, np.zeros(3)
    for part, density in parts:
        volume, centre = volume_and_centre(part)
        mass += volume * density / 1000
        moment += np.array(centre) * volume * density / 1000
    return (mass, tuple((moment / mass).tolist())) if mass > 0 else None
