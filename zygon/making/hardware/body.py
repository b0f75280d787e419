"""The body of hardware that lies by itself: a piece of the catalogue as far as it is moved, or a shape as it was read; its holes and the names of its places."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from zygon.design.parts.bought import Solid
from zygon.geometry.frame import AXES
from zygon.geometry.mesh import Mesh
from zygon.geometry.motion import IDENTITY, Motion, Vector, mirroring, moving, of_rows, three, turning
from zygon.making.hardware.leaves import exact_leaf, mesh_of_leaf, mesh_of_shape
from zygon.making.hardware.pieces import exact_hardware, mesh_of_hardware
from zygon.making.result.body import Corners, Matrix
from zygon.memo import digest as digest_of
from zygon.stock.hardware.catalogue import by_designation
from zygon.stock.hardware.piece import Hardware
from zygon.stock.hardware.shape import Freedom, Leaf

__all__ = ["BACK", "ORIGIN", "BodyHole", "HardwareBody", "body_of", "stance_of", "turned_by"]

#: The name of a piece's own origin.
ORIGIN = "origin"
MIRROR = mirroring("x", 0.0)
#: What the name of a hole ends in where it is taken from its other side.
BACK = "_back"


@dataclass(frozen=True)
class BodyHole:
    """A hole as it stands in the body's coordinates: ``start`` lies on what its leaf is screwed to, ``end`` where a screw goes in."""

    name: str
    leaf: str
    start: Vector
    end: Vector
    across: float
    sink: float
    screw: tuple[str, str]


@dataclass(frozen=True)
class HardwareBody:
    """``moved`` is how far its leaf b is open (radians) or drawn out (mm)."""

    piece: Hardware | None
    shape: Solid | None
    moved: float = 0.0
    mirror: bool = False
    empty: bool = False
    layered: bool = False

    @cached_property
    def digest(self) -> str:
        """The hash of what it was made from."""
        return digest_of("hardware body", self._what, self.moved, self.mirror)

    @property
    def _what(self) -> str:
        return self.piece.designation if self.piece else digest_of(self.shape)

    @property
    def alike(self) -> str:
        """A piece of the catalogue is the same however it lies and is moved; a shape that was read has a hand."""
        return digest_of("hardware", self._what, self.mirror and self.piece is None)

    @property
    def other_hand(self) -> str:
        """What ``alike`` is of the mirror image."""
        return self.mirrored.alike

    @property
    def mirrored(self) -> HardwareBody:
        """Left for right across u."""
        return replace(self, mirror=not self.mirror)

    @property
    def freedom(self) -> Freedom | None:
        """How it moves."""
        return self.piece.freedom if self.piece else None

    @cached_property
    def leaves(self) -> tuple[tuple[Leaf, Motion], ...]:
        """Its leaves, each with the motion that takes it to where it is now."""
        if self.piece is None:
            return ()
        way = self._way()
        return tuple((leaf.mirrored if self.mirror else leaf, way if leaf.key == "b" else IDENTITY) for leaf in self.piece.leaves)

    def _way(self) -> Motion:
        """What its moving leaf has gone through from where it is drawn."""
        free = self.freedom
        if free is None:
            return IDENTITY
        if free.kind == "turns":  # about an axis along u, which a mirror across u leaves as it is
            return turning(AXES[free.axis], free.at, free.drawn - self.moved)
        by = [0.0, 0.0, 0.0]
        by[free.axis] = (self.moved - free.drawn) * (-1.0 if self.mirror else 1.0)
        return moving(by)

    @cached_property
    def mesh(self) -> Mesh:
        """All of it, closed."""
        if self.shape is not None:
            return mesh_of_shape(self.shape, mirror=self.mirror)
        assert self.piece
        if not self.piece.leaves:
            return mesh_of_hardware(self.piece)
        meshes = [(mesh_of_leaf(leaf), way) for leaf, way in self.leaves]
        offsets = np.cumsum([0, *(len(m.positions) for m, _ in meshes)])
        return Mesh(
            np.concatenate([way.points(m.positions) for m, way in meshes]),
            np.concatenate([m.triangles + offsets[n] for n, (m, _) in enumerate(meshes)]),
            tuple(o for m, _ in meshes for o in m.owners),
            np.concatenate([way.points(m.edges.reshape(-1, 3)).reshape(-1, 2, 3) for m, way in meshes]),
        )

    @cached_property
    def meshes(self) -> list[Mesh]:
        """One closed mesh a leaf, or the whole."""
        if not self.leaves:
            return [self.mesh]
        return [
            replace(m, positions=way.points(m.positions), edges=way.points(m.edges.reshape(-1, 3)).reshape(-1, 2, 3))
            for m, way in ((mesh_of_leaf(leaf), way) for leaf, way in self.leaves)
        ]

    def exact(self) -> Any:
        """A shape of Open CASCADE; of a shape that was read its mesh's faces."""
        from zygon.geometry.exact import compound, placed, sewn

        if self.piece is None:
            return sewn(self.mesh)
        if not self.piece.leaves:
            return exact_hardware(self.piece)
        return compound([placed(exact_leaf(leaf), way.rows) for leaf, way in self.leaves])

    @property
    def volume(self) -> float:
        """In mm³."""
        if self.shape is not None:
            return self.shape.volume
        assert self.piece
        return self.piece.volume

    @property
    def mass(self) -> float | None:
        """In g; None of a shape that was read, whose material is not known."""
        return self.piece.mass if self.piece else None

    @cached_property
    def holes(self) -> tuple[BodyHole, ...]:
        """Its screw holes where they are now."""
        if self.shape is not None:
            hand = MIRROR if self.mirror else IDENTITY
            seen = []
            for h in self.shape.holes:
                if h.outer:
                    continue
                ends = hand.point(h.ends), hand.point(h.opens)
                seen.append(BodyHole(h.name, "a", *ends, h.across, 0.0, ("", "")))
                if h.through:  # it may lie on something with either side
                    seen.append(BodyHole(f"{h.name}{BACK}", "a", *ends[::-1], h.across, 0.0, ("", "")))
            return tuple(seen)
        found = []
        for leaf, way in self.leaves:
            for own in leaf.holes:
                first, last = (own.low, own.high) if abs(own.low - leaf.lies) < abs(own.high - leaf.lies) else (own.high, own.low)
                start, end = (way.point((own.u, own.v, w)) for w in (first, last))
                found.append(BodyHole(own.name, leaf.key, start, end, own.across, own.sink, own.screw))
        if self.piece and not self.leaves:
            only = self.piece.slices[0]
            if only.hole is not None:
                found.append(BodyHole("bore", "a", (0.0, 0.0, only.low), (0.0, 0.0, only.high), only.hole.across, 0.0, ("", "")))
        return tuple(found)

    @cached_property
    def places(self) -> dict[str, Vector]:
        """The points of it that have names: its origin, the middles of its holes, and the flat faces found in it."""
        found: dict[str, Vector] = {ORIGIN: (0.0, 0.0, 0.0)}
        for h in self.holes:
            if h.name.endswith(BACK):
                continue
            found[h.name] = three((a + b) / 2 for a, b in zip(h.start, h.end, strict=True))
        for leaf, way in self.leaves:
            u0, v0, u1, v1 = leaf.foot
            found[f"lies_{leaf.key}"] = way.point(((u0 + u1) / 2, (v0 + v1) / 2, leaf.lies))
        hand = MIRROR if self.mirror else IDENTITY
        for pin in (h for h in self.shape.holes if h.outer) if self.shape else ():
            found[pin.name] = hand.point([(a + b) / 2 for a, b in zip(pin.opens, pin.ends, strict=True)])
        for face in self.shape.faces if self.shape else ():
            found[face.name] = hand.point(face.at)
        return found

    def reach(self, matrix: Matrix) -> Corners:
        """To within its chords."""
        m = np.array(matrix)
        seen = self.mesh.positions @ m[:3, :3].T + m[:3, 3]
        return tuple(np.round(seen.min(axis=0), 7).tolist()), tuple(np.round(seen.max(axis=0), 7).tolist())

    def play(self, fit: float) -> float:
        """How wide the room is that a round piece is let into, mm."""
        assert self.piece
        return max(s.disc.across for s in self.piece.slices) + fit


def body_of(designation: str, shape: Solid | None, moved: float | None) -> HardwareBody:
    """The body of a piece of the catalogue or of a shape that was read, moved so far (radians or mm); as it is drawn where that is not said. KeyError for what is in no catalogue."""
    if shape is not None:
        return HardwareBody(None, shape)
    piece = by_designation(designation)
    free = piece.freedom
    if free is None or not piece.leaves:
        return HardwareBody(piece, None)
    return HardwareBody(piece, None, free.drawn if moved is None else min(max(moved, free.least), free.most))


def stance_of(looks: str, along: str) -> Motion:
    """From its own coordinates to how it stands whose w looks and whose u lies along ways as '+x', its origin at that of the room."""
    w, u = (_vector(way) for way in (looks, along))
    v = np.cross(w, u)
    return of_rows((u[i], float(v[i]), w[i], 0.0) for i in range(3))


def _vector(way: str) -> Vector:
    sign = 1.0 if way[0] == "+" else -1.0
    return three(sign * (a == way[1]) for a in AXES)


def turned_by(freedom: Freedom | None, moved: float) -> str:
    """How far it is moved, in words; '' for what does not move."""
    if freedom is None or math.isinf(freedom.most):
        return ""
    return f"{math.degrees(moved):g}° open" if freedom.kind == "turns" else f"{moved:g} mm drawn out"
