"""Flats and solids of boards from blank and operations; kept by the hash of both, so that only what changed is made again."""

from __future__ import annotations

from zygon.build.blanks import Blank, blank_contours
from zygon.build.built import Cut, Flat, Mark, Operation
from zygon.build.memo import Memo, digest
from zygon.geometry.boolean import Region, subtract
from zygon.geometry.contour import Contour
from zygon.geometry.mesh import Mesh, extrude

__all__ = ["flat_of", "mesh_of", "turned_over"]

_FLATS = Memo(4000)
_MESHES = Memo(4000)


def flat_of(blank: Blank, operations: list[Operation]) -> tuple[Flat, bool]:
    """The flat in the board's (u, v) as seen from face A, and whether it was made now rather than remembered."""
    outline = blank_contours(blank)
    thickness = round(blank.thickness, 7)
    key = digest("flat", outline, operations, thickness)

    def make() -> Flat:
        cuts = [o.contour for o in operations if isinstance(o, Cut)]
        marks = tuple(o.contour for o in operations if isinstance(o, Mark))
        return Flat(tuple(subtract(outline, cuts)), marks, thickness, key)

    return _FLATS.get(key, make)


def mesh_of(flat: Flat) -> list[Mesh]:
    """The solids of a flat's pieces in (u, v, w), w from face B to face A."""
    return _MESHES.get(flat.digest, lambda: [extrude(p, flat.thickness) for p in flat.pieces])[0]


def turned_over(flat: Flat) -> Flat:
    """The flat as seen from face B, mirrored left to right about its own middle."""
    x0, _, x1, _ = flat.bounds

    def turn(c: Contour) -> Contour:
        return c.moved(x0 + x1, 0.0, mirrored=True)

    pieces = tuple(Region(turn(p.outer), tuple(turn(i) for i in p.inner)) for p in flat.pieces)
    return Flat(pieces, tuple(turn(m) for m in flat.marks), flat.thickness, digest("over", flat.digest))
