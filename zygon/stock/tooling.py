"""Which punch and die make a bend, best first, and what comes out of them."""

from __future__ import annotations

import math
from dataclasses import dataclass

from zygon.stock.bending import Bending
from zygon.stock.brake import USUAL, Brake, Die, Punch, air_radius, force, least_leg, suits
from zygon.tolerance import EPS, WITHIN

__all__ = ["BEFORE", "NEAR", "Option", "Wanted", "default_radius", "options", "radii"]

#: Bends by more than this (radians) are made with acute tools as far as they go, then pressed flat.
PRESSED = math.radians(175)
#: How far acute tools bend a hem before it is pressed flat (radians).
BEFORE = math.radians(135)
#: Pressing a hem flat takes about so many times the force of its bend (common practice).
FLATTEN = 4.0
#: Radii this near to each other (share) count as the same.
NEAR = 0.15


@dataclass(frozen=True)
class Wanted:
    """A bend to be made: mm and radians; ``leg`` is the shorter of its flat legs, from the bend line on."""

    thickness: float
    radius: float
    angle: float
    length: float
    leg: float

    @property
    def pressed(self) -> bool:
        """Whether it is pressed flat in the end."""
        return self.angle >= PRESSED

    @property
    def air(self) -> float:
        """The angle that it is air-bent to."""
        return BEFORE if self.pressed else self.angle


@dataclass(frozen=True)
class Option:
    """A punch and a die, the inside radius that comes out (mm), the shortest leg that they hold (mm) and the force (kN)."""

    punch_key: str
    die_key: str
    punch: Punch
    die: Die
    radius: float
    least: float
    force: float
    pressed: bool

    @property
    def name(self) -> str:
        """Both tools in words."""
        return f"{self.punch.name} in {self.die.name}" + (", then pressed flat" if self.pressed else "")


def options(brake: Brake, bending: Bending, wanted: Wanted) -> list[Option]:
    """The pairs of tools that reach the angle in this thickness: first those that hold the leg or come nearest to it, then by how near the radius comes, then the usual V."""
    inner = 180 - math.degrees(wanted.air)
    found = []
    for die_key, die in brake.dies.items():
        if not suits(die.v, wanted.thickness) or die.angle > inner + 2.0 + EPS:
            continue
        for punch_key, punch in brake.punches.items():
            if punch.angle > inner + EPS:
                continue
            radius = wanted.radius if wanted.pressed else air_radius(die.v, bending.air, punch.radius)
            needed = force(bending.strength, wanted.thickness, wanted.length, die.v) * (FLATTEN if wanted.pressed else 1.0)
            found.append(Option(punch_key, die_key, punch, die, radius, least_leg(die, wanted.air), needed, wanted.pressed))

    def rank(o: Option) -> tuple:
        off = abs(o.radius - wanted.radius) / max(wanted.radius, wanted.thickness / 2)
        return (
            round(max(o.least - wanted.leg - WITHIN, 0.0), 4),
            off > NEAR,
            round(off, 2) if off > NEAR else 0,
            abs(o.die.v - USUAL * wanted.thickness),
            off,
            o.punch.order,
        )

    return sorted(found, key=rank)


def radii(brake: Brake, bending: Bending, thickness: float, angle: float = math.pi / 2) -> list[float]:
    """The inside radii in mm that the shop's tools give in a thickness, smallest first."""
    return sorted({round(o.radius, 4) for o in options(brake, bending, Wanted(thickness, thickness, angle, 1.0, math.inf))})


def default_radius(brake: Brake, bending: Bending, thickness: float) -> float | None:
    """The inside radius in mm of a square bend over the usual V for a thickness with the bluntest punch; None where no die suits."""
    found = options(brake, bending, Wanted(thickness, thickness, math.pi / 2, 1.0, math.inf))
    if not found:
        return None
    return min(found, key=lambda o: (abs(o.die.v - USUAL * thickness), o.die.v, -o.punch.angle, o.radius)).radius
