"""What moves as one from the start: a part, one leaf of hardware whose leaves move against one another, or the sets that a part holds."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

import manifold3d
import numpy as np

from zygon.geometry.mesh import Mesh
from zygon.geometry.solid import manifold_of
from zygon.making.assembly.sweep import solid_parts
from zygon.making.hardware.body import HardwareBody
from zygon.making.kinds.registry import meshes_of
from zygon.making.result.built import Built, MadePart
from zygon.making.result.hardware import SetPiece
from zygon.making.sets.rings import rings_of
from zygon.making.solids.hardware import placed_piece
from zygon.making.solids.solids import solid_in_room
from zygon.memo import Memo, digest
from zygon.tolerance import CONTACT

__all__ = ["LEAF", "SETS", "Piece", "leaf_of", "moves_in_itself", "part_of", "parts_of", "pieces_of", "runs_on"]

#: What the id of a second leaf ends in.
LEAF = "~b"
#: What the id of the sets that a part holds ends in.
SETS = "~sets"
_LEAVES = Memo(400)


@dataclass(frozen=True)
class Piece:
    """A part with the rings that are on it, one leaf of it, or the sets that it holds; ``id`` is the part's key, with ``LEAF`` or ``SETS`` behind it.

    ``fasteners`` are those rings, or those sets.
    """

    id: str
    part: MadePart
    leaf: int | None = None
    fasteners: tuple[SetPiece, ...] = ()

    @property
    def only_sets(self) -> bool:
        """Whether it is the sets that a part holds, without the part."""
        return self.id.endswith(SETS)

    @cached_property
    def digest(self) -> str:
        """The hash of what it is and where it lies."""
        rings = [(r.hardware.designation, r.motion) for r in self.fasteners]
        return digest("piece", self.only_sets or (self.part.body.digest, self.part.matrix), self.leaf, rings)

    @cached_property
    def meshes(self) -> list[Mesh]:
        """The closed meshes of its part, or of its leaf, in the part's own (u, v, w)."""
        found = meshes_of(self.part)
        return found if self.leaf is None else [found[self.leaf]]

    @cached_property
    def solid(self) -> manifold3d.Manifold:
        """It where it lies at rest in the room."""
        if self.leaf is None and not self.fasteners:
            return solid_in_room(self.part)

        def make() -> manifold3d.Manifold:
            held = [placed_piece(r) for r in self.fasteners]
            if self.only_sets:
                return manifold3d.Manifold.batch_boolean(held, manifold3d.OpType.Add)
            whole = solid_in_room(self.part)
            if self.leaf is not None:
                own = [manifold_of(m, list(dict.fromkeys(m.owners))) for m in self.meshes]
                whole = manifold3d.Manifold.compose(own).transform(np.array(self.part.matrix)[:3])
            return whole + manifold3d.Manifold.compose(held) if held else whole

        return _LEAVES.get(self.digest, make)[0]

    @cached_property
    def corners(self) -> np.ndarray:
        """The corners (n, 3) of its mesh in the room, at rest."""
        return np.asarray(self.solid.to_mesh64().vert_properties, np.float64)[:, :3].copy()

    @cached_property
    def reaches(self) -> tuple[np.ndarray, np.ndarray]:
        """Low and high corner (3,) in the room."""
        if self.leaf is None and not self.fasteners:
            low, high = self.part.reaches
            return np.array(low), np.array(high)
        return self.corners.min(axis=0), self.corners.max(axis=0)


def pieces_of(built: Built) -> dict[str, Piece]:
    """The pieces of a design by id, in the order of its parts; sets come last, with the part that each is tight in."""
    rings: dict[str, list[SetPiece]] = {}
    for part, ring in rings_of(built):
        rings.setdefault(part.key, []).append(ring)
    found: dict[str, Piece] = {}
    for part in solid_parts(built):
        if moves_in_itself(part):
            found[part.key] = Piece(part.key, part, 0)
            found[part.key + LEAF] = Piece(part.key + LEAF, part, 1)
        else:
            found[part.key] = Piece(part.key, part, None, tuple(rings.get(part.key, ())))
    sets: dict[str, list[SetPiece]] = {}
    for key, one in built.sets.items():
        for place in one.places:
            held = [k for k in place.parts if k in found and not moves_in_itself(built.made[k])]
            tight = [k for k in held if not runs_on(built, key, built.made[k])] or held
            if tight:
                sets.setdefault(tight[-1], []).extend(place.pieces)
    return found | {k + SETS: Piece(k + SETS, built.made[k], None, tuple(p)) for k, p in sets.items()}


def runs_on(built: Built, bore: str, part: MadePart) -> bool:
    """Whether a part runs on what goes through a bore: its hole is wider there by a fit of more than 0."""
    fit = built.hole_fit(bore, part)
    return fit is not None and fit > CONTACT


def moves_in_itself(part: MadePart) -> bool:
    """Whether it is hardware of two leaves that move against one another."""
    body = part.body
    return isinstance(body, HardwareBody) and body.freedom is not None and len(body.leaves) == 2


def leaf_of(part: MadePart, leaf: str) -> str:
    """The id of the piece that is the leaf 'a' or 'b' of a part."""
    return part.key + LEAF if leaf == "b" and moves_in_itself(part) else part.key


def part_of(piece: str) -> str:
    """The key of the part of a piece."""
    return piece.removesuffix(LEAF).removesuffix(SETS)


def parts_of(pieces: Iterable[str]) -> tuple[str, ...]:
    """The keys of the parts of pieces, each once, in order."""
    return tuple(dict.fromkeys(part_of(p) for p in pieces))
