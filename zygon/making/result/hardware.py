"""Sets as built: the hardware along a bore, wherever the bore is, and the hole that it asks for in each part."""

from __future__ import annotations

from dataclasses import dataclass, field

from zygon.geometry.motion import Motion
from zygon.stock.hardware.piece import Hardware

__all__ = ["BoreHole", "BuiltSet", "SetPiece", "SetPlace"]


@dataclass(frozen=True)
class BoreHole:
    """What a set asks of one passage of its bore through a part, mm and radians: a hole ``wide``, ``deep`` from where it enters or through where None.

    ``high``: it enters, and is sunk or counterbored, at the high end along the bore's axis. ``sink`` is a countersink's width and included angle,
    ``counterbore`` a counterbore's width and depth.
    """

    wide: float
    deep: float | None = None
    high: bool = False
    sink: tuple[float, float] | None = None
    counterbore: tuple[float, float] | None = None
    #: how far under the face or edge it begins, where something is sunk or let in there
    below: float = 0.0


@dataclass(frozen=True)
class SetPiece:
    """One piece of a set where it lies: ``motion`` takes its own coordinates, w along its axis, to the room."""

    hardware: Hardware
    motion: Motion


@dataclass(frozen=True)
class SetPlace:
    """A set in one place: the parts that it holds, as instances, from the head on, and its pieces in order.

    ``stack`` is from where to where its parts lie along its axis, mm from the face under the head on; ``tip`` is where the screw ends; ``tool`` diameter and
    length of the room over the head that turning it takes.
    """

    parts: tuple[str, ...]
    pieces: tuple[SetPiece, ...]
    #: the place on the axis under the head, and the way that the screw looks, in the room
    at: tuple[float, float, float]
    way: tuple[float, float, float]
    stack: tuple[float, float]
    tip: float
    tool: tuple[float, float]


@dataclass(frozen=True)
class BuiltSet:
    """The set of a bore: its pieces in order, the least length that does (None where it has no screw), the length that it has, and how deep its thread reaches in (mm)."""

    bore: str
    words: str
    needed: float | None
    length: float | None
    engaged: float
    places: tuple[SetPlace, ...]
    #: how wide the holes are that it asks for, by the key of the part
    holes: dict[str, float] = field(default_factory=dict)

    @property
    def pieces(self) -> tuple[Hardware, ...]:
        """What one of it is made of, head first."""
        return tuple(p.hardware for p in self.places[0].pieces) if self.places else ()
