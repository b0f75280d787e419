"""True bodies that are no slices round an axis: leaves, rails and plates as blocks and drums, with their screw holes; and what may move. Millimetres and radians."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

__all__ = ["Block", "Drum", "Freedom", "Leaf", "ScrewHole"]

Point = tuple[float, float, float]
#: An axis of a piece's own coordinates: u, v, w.
AxisOf = Literal[0, 1, 2]


@dataclass(frozen=True)
class Block:
    """A box between two corners."""

    low: Point
    high: Point

    @property
    def volume(self) -> float:
        """In mm³."""
        return math.prod(h - w for w, h in zip(self.low, self.high, strict=True))

    @property
    def mirrored(self) -> Block:
        """Left for right across u."""
        return Block((-self.high[0], *self.low[1:]), (-self.low[0], *self.high[1:]))


@dataclass(frozen=True)
class Drum:
    """A cylinder along an axis from ``low`` to ``high``, its middle at ``at`` along all three (that along its axis counts for nothing)."""

    axis: AxisOf
    at: Point
    low: float
    high: float
    across: float

    @property
    def volume(self) -> float:
        """In mm³."""
        return math.pi / 4 * self.across**2 * (self.high - self.low)

    @property
    def mirrored(self) -> Drum:
        """Left for right across u."""
        ends = (-self.high, -self.low) if self.axis == 0 else (self.low, self.high)
        return replace(self, at=(-self.at[0], *self.at[1:]), low=ends[0], high=ends[1])


@dataclass(frozen=True)
class ScrewHole:
    """A hole for a screw, along w through what of its leaf lies from ``low`` to ``high``; ``sink`` is its countersink's width, 0 for none.

    ``screw`` is the head and the size that go through it as a rule.
    """

    name: str
    u: float
    v: float
    low: float
    high: float
    across: float
    sink: float = 0.0
    screw: tuple[str, str] = ("wood", "3.5")

    @property
    def mirrored(self) -> ScrewHole:
        """Left for right across u."""
        return replace(self, u=-self.u)


@dataclass(frozen=True)
class Leaf:
    """What of a piece moves as one: solids that together are it, holes that are taken out of it; ``lies`` is where along w it lies on what it is screwed to.

    ``shared`` is what its solids have in common (mm³). ``foot`` is the rectangle (u low, v low, u high, v high) that lies there.
    """

    key: str
    solids: tuple[Block | Drum, ...]
    holes: tuple[ScrewHole, ...] = ()
    lies: float = 0.0
    #: whether what it lies on is below it along w
    above: bool = True
    foot: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)
    #: cylinders taken out of it beside its screw holes
    bored: tuple[Drum, ...] = ()
    shared: float = 0.0

    @property
    def volume(self) -> float:
        """In mm³; countersinks are left out."""
        whole = sum(s.volume for s in self.solids) - self.shared
        return whole - sum(d.volume for d in self.bored) - sum(math.pi / 4 * h.across**2 * (h.high - h.low) for h in self.holes)

    @property
    def mirrored(self) -> Leaf:
        """Left for right across u."""
        a, b, c, d = self.foot
        return replace(
            self,
            solids=tuple(s.mirrored for s in self.solids),
            holes=tuple(h.mirrored for h in self.holes),
            bored=tuple(d.mirrored for d in self.bored),
            foot=(-c, b, -a, d),
        )


@dataclass(frozen=True)
class Freedom:
    """How the leaf ``b`` moves against ``a``: it turns about an axis through a place, or slides along it, from ``least`` to ``most`` (radians or mm).

    ``drawn`` is where the leaf is as its body says.
    """

    kind: Literal["turns", "slides"]
    axis: AxisOf
    at: Point
    least: float
    most: float
    drawn: float

    @property
    def words(self) -> str:
        """As a card says it: 'turns, 0 to 270°', 'slides 350 mm'."""
        if self.kind == "slides":
            return f"slides {self.most:g} mm"
        if math.isinf(self.most):
            return "turns all round"
        return f"turns, {math.degrees(self.least):g} to {math.degrees(self.most):g}°"
