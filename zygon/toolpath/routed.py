"""What a router does, in order: what is milled and drilled with each bit, as runs at heights."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import shapely

from zygon.geometry.contour import Contour, Point
from zygon.stock.router import Routing

__all__ = ["NEAR", "BitWork", "Clamped", "Dips", "Leg", "Milled", "RoutedPaths", "straight_down"]

#: The head comes down so far over the face (mm) without cutting, and goes on at a feed.
NEAR = 2.0


@dataclass(frozen=True)
class BitWork:
    """A bit in a stock: lengths in mm, ``spindle`` in revolutions a minute, ``feed`` and ``plunge`` in mm/s, ``pass_depth`` 0 where it takes all at once.

    ``key`` is '' for the bit that outlines are cut with. ``angle`` is a V bit's included angle in radians, ``reach`` how deep it cuts, endless where that is not said.
    """

    key: str
    name: str
    kind: Literal["end_mill", "drill", "v"]
    number: int
    diameter: float
    flutes: int
    spindle: int
    feed: float
    plunge: float
    pass_depth: float
    angle: float = 0.0
    reach: float = math.inf

    @property
    def chip(self) -> float:
        """What each flute takes in a turn, mm."""
        return self.feed * 60 / (self.spindle * self.flutes)


@dataclass(frozen=True)
class Leg:
    """An open run in the plane from height ``z0`` to ``z1`` (mm, 0 on the face), evenly along it; of one point: straight down or up. ``plunge``: at that feed."""

    run: Contour
    z0: float
    z1: float
    plunge: bool = False

    @property
    def length(self) -> float:
        """How far it is, mm."""
        return math.hypot(self.run.length, self.z1 - self.z0)


#: Runs on end, each group entered from the safe height and left to it.
Dips = tuple[tuple[Leg, ...], ...]


def straight_down(at: Point, z0: float, z1: float) -> Leg:
    """A plunge, or a way up."""
    return Leg(Contour((at,), (), ("",), closed=False), z0, z1, plunge=True)


@dataclass(frozen=True)
class Milled:
    """One operation on a piece with one bit. ``dips`` are runs on end, each entered from the safe height and left to it. ``loose``: the piece comes off with it."""

    operation: Literal["drill", "mark", "sink", "pocket", "inside", "outside", "register"]
    key: str
    copy: int
    owner: str
    bit: str
    dips: Dips
    loose: bool = False

    @property
    def start(self) -> Point:
        """Where it is entered first."""
        return self.dips[0][0].run.points[0]

    @property
    def end(self) -> Point:
        """Where it is left last."""
        return self.dips[-1][-1].run.points[-1]

    @property
    def length(self) -> float:
        """How far it goes at a feed, with the ways down from ``NEAR``, mm."""
        return sum(NEAR - dip[0].z0 + sum(leg.length for leg in dip) for dip in self.dips)


@dataclass(frozen=True)
class Clamped:
    """A place on the sheet that is kept clear: low x, low y, high x, high y and height over the face, mm."""

    name: str
    box: tuple[float, float, float, float]
    height: float


@dataclass(frozen=True)
class RoutedPaths:
    """A sheet's work in order. ``size`` is the sheet's length and width, ``kerf`` the diameter of the bit of outlines (mm); ``safe`` is over the face.

    ``under`` where the sheet lies turned over about its middle across. ``unreached`` is what bits leave in pockets, by piece, as areas on the sheet. ``faults`` are sentences on
    what is not as was asked for, ``wrong`` on what must not be cut so.
    """

    cuts: tuple[Milled, ...]
    size: tuple[float, float]
    kerf: float
    thickness: float
    bits: dict[str, BitWork]
    routing: Routing
    safe: float
    clamps: tuple[Clamped, ...] = ()
    under: bool = False
    unreached: tuple[tuple[str, int, shapely.Geometry], ...] = ()
    faults: tuple[str, ...] = ()
    wrong: tuple[str, ...] = ()
