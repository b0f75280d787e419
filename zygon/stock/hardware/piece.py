"""One piece of hardware: what it is called, its true body in slices along its axis, its mass. Millimetres and grams."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from zygon.stock.hardware.shape import Freedom, Leaf

__all__ = ["Disc", "Hardware", "Slice", "hexagon", "round_", "square"]

#: g/cm³, common handbook values.
STEEL = 7.85


@dataclass(frozen=True)
class Disc:
    """What a slice looks like across: round, square or hexagonal, ``across`` its diameter or its size across flats in mm."""

    shape: Literal["round", "square", "hexagon"]
    across: float

    @property
    def area(self) -> float:
        """In mm²."""
        return {"round": math.pi / 4, "square": 1.0, "hexagon": math.sqrt(3) / 2}[self.shape] * self.across**2

    @property
    def reach(self) -> float:
        """How far it reaches from its middle, in mm."""
        return self.across / 2 * {"round": 1.0, "square": math.sqrt(2), "hexagon": 2 / math.sqrt(3)}[self.shape]


@dataclass(frozen=True)
class Slice:
    """A stretch of a body from ``low`` to ``high`` along its axis, with a hole through it or none; a round one may taper to ``to`` mm at its high end."""

    low: float
    high: float
    disc: Disc
    hole: Disc | None = None
    to: float | None = None

    @property
    def volume(self) -> float:
        """In mm³."""
        h = self.high - self.low
        if self.to is not None:
            a, b = self.disc.across / 2, self.to / 2
            whole = math.pi * h / 3 * (a * a + a * b + b * b)
        else:
            whole = self.disc.area * h
        return whole - (self.hole.area * h if self.hole else 0.0)


@dataclass(frozen=True)
class Hardware:
    """A piece as a standard names it. Its axis is w: a screw's bearing face lies at 0, its tip at its length, its head below 0; a countersunk head begins at 0;
    what lies on a screw, as a nut does, goes from 0 up. What is no round of slices is made of ``leaves``, which may move against one another."""

    family: str
    title: str
    standard: str
    size: str
    length: float | None
    slices: tuple[Slice, ...]
    source: str = "memory"
    density: float = STEEL
    leaves: tuple[Leaf, ...] = ()
    freedom: Freedom | None = None

    @property
    def measure(self) -> str:
        """Its size as the trade writes it: 'M5 × 60'."""
        return self.size if self.length is None else f"{self.size} × {self.length:g}"

    @property
    def name(self) -> str:
        """As an order has it: 'Socket head screw M5 × 60'."""
        return f"{self.title[0].upper()}{self.title[1:]} {self.measure}"

    @property
    def designation(self) -> str:
        """As its standard writes it: 'ISO 4762 - M5 x 60', or by its name where none does; the same for no other piece."""
        return f"{self.standard or self.title} - {self.measure.replace('×', 'x')}"

    @cached_property
    def mass(self) -> float:
        """In g, from its body."""
        return self.volume * self.density / 1000

    @property
    def volume(self) -> float:
        """In mm³."""
        return sum(s.volume for s in self.slices) + sum(leaf.volume for leaf in self.leaves)

    @property
    def span(self) -> tuple[float, float]:
        """From where to where along its axis it reaches."""
        return min(s.low for s in self.slices), max(s.high for s in self.slices)

    @property
    def reach(self) -> float:
        """How far it reaches from its axis, in mm."""
        return max(s.disc.reach for s in self.slices)


def round_(low: float, high: float, across: float, hole: float = 0.0, to: float | None = None) -> Slice:
    """A round slice, with a round hole or none."""
    return Slice(low, high, Disc("round", across), Disc("round", hole) if hole else None, to)


def hexagon(low: float, high: float, across: float, hole: float = 0.0) -> Slice:
    """A hexagonal slice, with a round hole or none."""
    return Slice(low, high, Disc("hexagon", across), Disc("round", hole) if hole else None)


def square(low: float, high: float, across: float) -> Slice:
    """A square slice."""
    return Slice(low, high, Disc("square", across))
