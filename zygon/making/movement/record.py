"""What is found of a design that moves, as records: movements, what only lies there, and all of it together."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from zygon.design.layout import Axis
from zygon.design.movement import MoveKind
from zygon.geometry.motion import Vector
from zygon.making.movement.links import Link
from zygon.making.movement.pieces import Piece
from zygon.making.movement.things import Thing

AXES: tuple[Axis, ...] = ("x", "y", "z")

__all__ = ["Lies", "Meshed", "Movement", "Moving"]


@dataclass(frozen=True)
class Meshed:
    """Two movements whose gears run in one another: when the first turns by an angle, the second turns by ``ratio`` times that."""

    first: str
    second: str
    ratio: float


@dataclass(frozen=True)
class Movement:
    """One freedom of a thing: it turns about the line through ``at`` along ``way``, or slides along that, in the room at rest.

    ``on`` is the thing that carries it, ``carried`` the movement by which that moves itself ('' where it stands still). ``ways`` are the signs in
    which contact lets it begin; ``least`` and ``most`` are the limits of the hardware that carries it, from rest, radians or mm.
    """

    key: str
    kind: MoveKind
    thing: Thing
    on: Thing
    carried: str
    way: Vector
    at: Vector
    ways: tuple[int, ...]
    least: float = -math.inf
    most: float = math.inf
    pitch: float = 0.0

    @property
    def axis(self) -> Axis:
        """The room's axis that it goes about, or along, most nearly."""
        return AXES[int(np.abs(np.array(self.way)).argmax())]


@dataclass(frozen=True)
class Lies:
    """A thing that is not carried: it lies on others and can be taken off, or is held by nothing (``on`` is then empty)."""

    thing: Thing
    on: tuple[Thing, ...]


@dataclass(frozen=True)
class Moving:
    """All that is found: the pieces, the things, the one that stands still, the movements in an order in which carriers come first.

    ``passing`` are pairs of pieces that need not be asked: a part that turns about a set, and that. ``closing`` are the links that close loops: with them
    movements hang on one another. ``meshed`` are gears that drive one another. ``carriers`` are the pieces that each thing that moves runs in, or lies
    against, by the thing's key. ``digest`` tells two apart.
    """

    pieces: dict[str, Piece]
    things: tuple[Thing, ...]
    still: Thing | None
    movements: tuple[Movement, ...]
    loose: tuple[Lies, ...]
    closing: tuple[Link, ...] = ()
    meshed: tuple[Meshed, ...] = ()
    carriers: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    digest: str = ""
    passing: frozenset[frozenset[str]] = frozenset()

    def thing_of(self, piece: str) -> Thing:
        """The thing that a piece is of."""
        return next(t for t in self.things if piece in t.pieces)

    def chain(self, thing: Thing) -> tuple[Movement, ...]:
        """The movements that a thing moves by, that of its last carrier first."""
        own = [m for m in self.movements if m.thing == thing]
        if not own:
            return ()
        return (*self.chain(own[0].on), *own)

    def carried_by(self, movement: Movement) -> tuple[str, ...]:
        """The pieces that a movement takes along, its own thing's first."""
        return tuple(p for t in self.things if movement in self.chain(t) for p in t.pieces)
