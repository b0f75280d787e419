"""Press brakes and their tools, and what air bending asks of them: the radius that a die gives, the least leg that it carries, the force."""

from __future__ import annotations

import math
from typing import Annotated, ClassVar

from pydantic import Field

from zygon.measure.asked import asked
from zygon.measure.entry import Record
from zygon.tolerance import WITHIN

__all__ = ["Brake", "Die", "Punch", "air_radius", "force", "least_leg", "suits"]

Key = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]
MAX_TOOLS = 60
#: A die suits sheet from so many to so many times thinner than its opening (common practice).
NARROWEST, WIDEST, USUAL = 5.0, 14.0, 8.0
Point = tuple[float, float]


class Punch(Record):
    """An upper tool; lengths in mm, its included angle in degrees."""

    title: ClassVar[str] = "Punches"

    name: str = asked("Name", min_length=1, max_length=60)
    angle: float = asked("Angle", 88.0, note="included, of its tip", suffix="°", gt=0, lt=180)
    radius: float = asked("Tip radius", 1.0, suffix=" mm", ge=0, le=200)
    width: float = asked("Body", 12.0, note="width of its body", suffix=" mm", gt=0, le=500)
    height: float = asked("Height", 100.0, note="from its tip to the ram", suffix=" mm", gt=0, le=1000)
    profile: list[Point] = Field(
        default_factory=list, max_length=60, description="its outline where it is no plain wedge: (across, up) in mm from its tip"
    )
    order: int = 0


class Die(Record):
    """A lower tool with a V; lengths in mm, its included angle in degrees."""

    title: ClassVar[str] = "Dies"

    name: str = asked("Name", min_length=1, max_length=60)
    v: float = asked("V", note="opening of its V", suffix=" mm", gt=0, le=500)
    angle: float = asked("Angle", 88.0, note="included, of its V", suffix="°", gt=0, lt=180)
    radius: float = asked("Shoulder R", 1.0, note="of its shoulders", suffix=" mm", ge=0, le=100)
    width: float = asked("Body", 30.0, note="width of its body", suffix=" mm", gt=0, le=1000)
    height: float = asked("Height", 60.0, note="above its bed", suffix=" mm", gt=0, le=1000)
    least_flange: float | None = asked("Least flange", None, note="shortest leg at a square bend", suffix=" mm", blank="by V", gt=0)
    order: int = 0


class Brake(Record):
    """A press brake with the tools that the shop has for it."""

    title: ClassVar[str] = "Press brake"

    name: str = asked("Name", min_length=1, max_length=80)
    length: float = asked("Longest bend", 1250.0, suffix=" mm", gt=0, le=20000)
    force: float = asked("Force", 300.0, suffix=" kN", gt=0, le=50000)
    gauge: float = asked(
        "Nearest gauge", 6.0, note="nearest place of its back-gauge to the bend line", section="reach", suffix=" mm", ge=0, le=1000
    )
    free: float = asked(
        "Free past punch",
        15.0,
        note="how far a bend may reach past both ends of a punch made up of segments",
        section="reach",
        suffix=" mm",
        ge=0,
        le=200,
    )
    joggle: float = asked(
        "Offset tool up to",
        0.0,
        note="highest offset that its offset tool makes in one stroke",
        section="reach",
        suffix=" mm",
        zero=" mm: none",
        ge=0,
        le=500,
    )
    joggle_radius: float = asked(
        "Offset tool's radius", 0.5, note="inside radius of both bends that it makes", section="reach", suffix=" mm", step=0.1, ge=0, le=50
    )
    joggle_angle: float = asked(
        "Offset tool's angle", 60.0, note="steepest angle of bend that it makes", section="reach", suffix="°", gt=0, le=90
    )
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
    return NARROWEST * thickness - WITHIN <= v <= WIDEST * thickness + WITHIN


def least_leg(die: Die, angle: float) -> float:
    """Shortest leg in mm, from the bend line on, that still lies on the die's shoulder at the end of a bend by ``angle`` radians.

    Geometry: the leg leans by half the angle and reaches half the opening across; at 90 degrees that is 0.71 V, the trade's rule of thumb.
    """
    own = die.v / 2 / math.cos(min(angle, math.radians(170)) / 2)
    return own if die.least_flange is None else max(own, die.least_flange * own / (die.v / 2 / math.cos(math.pi / 4)))


def force(strength: float, thickness: float, length: float, v: float) -> float:
    """Force in kN for an air bend: (1 + 4 T/V) Rm L T² / V with the tensile strength in N/mm² (textbook formula of forming, from memory)."""
    return (1 + 4 * thickness / v) * strength * length * thickness**2 / v / 1000
