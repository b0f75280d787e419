"""Press brakes and their tools, and what air bending asks of them: the radius that a die gives, the least leg that it carries, the force."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from zygon.measure.entry import Record

__all__ = ["Brake", "Die", "Punch", "air_radius", "force", "least_leg", "suits"]

Key = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]
MAX_TOOLS = 60
#: A die suits sheet from so many to so many times thinner than its opening (common practice).
NARROWEST, WIDEST, USUAL = 5.0, 14.0, 8.0
Point = tuple[float, float]


class Punch(Record):
    """An upper tool; lengths in mm, its included angle in degrees."""

    name: str = Field(min_length=1, max_length=60)
    angle: float = Field(default=88.0, gt=0, lt=180, description="included, of its tip, in degrees")
    radius: float = Field(default=1.0, ge=0, le=200, description="of its tip, in mm")
    height: float = Field(default=100.0, gt=0, le=1000, description="from its tip to the ram, in mm")
    width: float = Field(default=12.0, gt=0, le=500, description="of its body, in mm")
    profile: list[Point] = Field(
        default_factory=list, max_length=60, description="its outline where it is no plain wedge: (across, up) in mm from its tip"
    )
    order: int = 0


class Die(Record):
    """A lower tool with a V; lengths in mm, its included angle in degrees."""

    name: str = Field(min_length=1, max_length=60)
    v: float = Field(gt=0, le=500, description="opening of its V, in mm")
    angle: float = Field(default=88.0, gt=0, lt=180, description="included, of its V, in degrees")
    radius: float = Field(default=1.0, ge=0, le=100, description="of its shoulders, in mm")
    height: float = Field(default=60.0, gt=0, le=1000, description="above its bed, in mm")
    width: float = Field(default=30.0, gt=0, le=1000, description="of its body, in mm")
    least_flange: float | None = Field(default=None, gt=0, description="shortest leg at a square bend, in mm; from its V where not said")
    order: int = 0


class Brake(Record):
    """A press brake with the tools that the shop has for it."""

    name: str = Field(min_length=1, max_length=80)
    length: float = Field(default=1250.0, gt=0, le=20000, description="longest bend, in mm")
    force: float = Field(default=300.0, gt=0, le=50000, description="in kN")
    gauge: float = Field(default=6.0, ge=0, le=1000, description="nearest place of its back-gauge to the bend line, in mm")
    free: float = Field(
        default=15.0, ge=0, le=200, description="how far a bend may reach past both ends of a punch made up of segments, in mm"
    )
    joggle: float = Field(
        default=0.0, ge=0, le=500, description="highest offset that its offset tool makes in one stroke, in mm; 0 for none"
    )
    joggle_radius: float = Field(default=0.5, ge=0, le=50, description="inside radius of both bends that its offset tool makes, in mm")
    joggle_angle: float = Field(default=60.0, gt=0, le=90, description="steepest angle of bend that its offset tool makes, in degrees")
    punches: dict[Key, Punch] = Field(default_factory=dict, max_length=MAX_TOOLS)
    dies: dict[Key, Die] = Field(default_factory=dict, max_length=MAX_TOOLS)
    order: int = 0


def air_radius(v: float, share: float, punch: float) -> float:
    """Inside radius in mm of an air bend over a die of opening ``v``: the material's share of V, or the punch's radius where that is larger.

    Mild steel takes about 0.16 V, soft aluminium 0.13, stainless steel 0.20 (common practice, from memory).
    """
    return max(share * v, punch)


def suits(v: float, thickness: float) -> bool:
    """Whether sheet of a thickness can be air-bent over a die's opening; mm."""
    return NARROWEST * thickness - 1e-6 <= v <= WIDEST * thickness + 1e-6


def least_leg(die: Die, angle: float) -> float:
    """Shortest leg in mm, from the bend line on, that still lies on the die's shoulder at the end of a bend by ``angle`` radians.

    Geometry: the leg leans by half the angle and reaches half the opening across; at 90 degrees that is 0.71 V, the trade's rule of thumb.
    """
    own = die.v / 2 / math.cos(min(angle, math.radians(170)) / 2)
    return own if die.least_flange is None else max(own, die.least_flange * own / (die.v / 2 / math.cos(math.pi / 4)))


def force(strength: float, thickness: float, length: float, v: float) -> float:
    """Force in kN for an air bend: (1 + 4 T/V) Rm L T² / V with the tensile strength in N/mm² (textbook formula of forming, from memory)."""
    return (1 + 4 * thickness / v) * strength * length * thickness**2 / v / 1000
