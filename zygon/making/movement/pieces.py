"""What moves as one from the start: a part, one leaf of hardware whose leaves move against one another, or a set that a part holds."""

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
from zygon.tolerance import CONTACT, WITHIN

__all__ = ["LEAF", "SET", "Piece", "bite", "leaf_of", "moves_in_itself", "part_of", "parts_of", "pieces_of", "runs_on", "set_piece"]

#: What the id of a second leaf ends in.
LEAF = "~b"
#: What stands between the part that holds a set and the set's own bore and place in its id.
SET = "~set:"
_LEAVES = Memo(400)


def bite(one: manifold3d.Manifold, other: manifold3d.Manifold) -> float:
    """About how thick (mm) what two solids have in common is."""
    both = one ^ other
    volume = both.volume()
    if both.is_empty() or volume < WITHIN:
        return 0.0
    area = both.surface_area()
    return float(2 * volume / area) if area else 0.0


@dataclass(frozen=True)
class Piece:
    """A part with the rings that are on it, one leaf of it, or a set that it holds; ``id`` is the part's key, with ``LEAF`` behind it, or ``SET``, a bore and a number.

    ``fasteners`` are those rings, or the set's pieces.
    """

    id: str
    part: MadePart
    leaf: int | None = None
    fasteners: tuple[SetPiece, ...] = ()

    @property
    def is_set(self) -> bool:
        """Whether it is a set that a part holds, without the part."""
        return SET in self.id

    @cached_property
    def digest(self) -> str:
        """The hash of what it is and where it lies."""
        rings = [(r.hardware.designation, r.motion) for r in self.fasteners]
        return digest("piece", self.is_set or (self.part.body.digest, self.part.matrix), self.leaf, rings)

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
            if self.is_set:
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
        if self.is_set:
            box = self.solid.bounding_box()
            return np.array(box[:3]), np.array(box[3:])
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
    held = dict(found)
    for key, one in built.sets.items():
        for n, place in enumerate(one.places):
            piece = set_piece(built, key, n)
            if piece and part_of(piece) in found:
                held[piece] = Piece(piece, built.made[part_of(piece)], None, place.pieces)
    return held


def set_piece(built: Built, bore: str, place: int) -> str:
    """The id of a set: it goes with the last part that it is tight in, or the last that it passes; '' where it passes none that stays in itself."""
    passed = [k for k in built.sets[bore].places[place].parts if k in built.made and not moves_in_itself(built.made[k])]
    tight = [k for k in passed if not runs_on(built, bore, built.made[k])] or passed
    return f"{tight[-1]}{SET}{bore}:{place}" if tight else ""


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
    return piece.partition(SET)[0].removesuffix(LEAF)


def parts_of(pieces: Iterable[str]) -> tuple[str, ...]:
    """The keys of the parts of pieces, each once, in order."""
    return tuple(dict.fromkeys(part_of(p) for p in pieces))
