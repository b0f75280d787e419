"""How two straight members meet: end to end, an end on a side, or crossing; in the first one's own coordinates."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from zygon.geometry.motion import Motion
from zygon.making.tube.body import fine_ring
from zygon.making.tube.cuts import AtEnd, PlaneCut
from zygon.measure.display import Display, format_length
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS

__all__ = ["MemberMeeting", "Straight", "meeting_between", "reach_of"]

Where = Literal["a", "b", "inside", ""]
#: Members whose axes lie nearer to parallel than this do not meet at an angle (radians).
LEAST_ANGLE = math.radians(5)
#: An end that stops short of a side by less than this (mm) was meant to reach it.
SHORT = 1.0


@dataclass(frozen=True)
class Straight:
    """A straight member in the room, cut off square: ``place`` takes its (u, v, w) there, w from 0 to ``length`` mm."""

    name: str
    section: Section
    length: float
    place: Motion


@dataclass(frozen=True)
class MemberMeeting:
    """``kind`` of the meeting, at which end or where along each, and as vectors (3,) in the first one's own coordinates: where the axes
    are nearest on the first, its way into its material, that of the second, and the common perpendicular; how far apart the axes pass (mm)."""

    kind: Literal["corner", "tee", "cross", "none"]
    one: Straight
    other: Straight
    at_one: Where = ""
    at_other: Where = ""
    reason: str = ""
    at: np.ndarray | None = None
    into_one: np.ndarray | None = None
    into_other: np.ndarray | None = None
    normal: np.ndarray | None = None
    apart: float = 0.0
    #: the name of one that ends short of the other's surface, and by how much (mm)
    short: tuple[str, float] | None = None

    @property
    def motion(self) -> Motion:
        """From the second one's own coordinates to the first one's."""
        return self.one.place.inverse @ self.other.place

    @property
    def angle(self) -> float:
        """Between the axes, from 0 to 90 degrees, in radians."""
        assert self.into_one is not None and self.into_other is not None
        return math.atan2(float(np.linalg.norm(np.cross(self.into_one, self.into_other))), abs(float(self.into_one @ self.into_other)))


def reach_of(section: Section, motion: Motion, way: np.ndarray) -> float:
    """How far a section reaches from its middle along a direction (3,), ``motion`` from its own coordinates; mm."""
    if section.shape == "round":
        w = np.array(motion.vector((0.0, 0.0, 1.0)))
        across = way - w * float(way @ w)
        return float(np.linalg.norm(across)) * section.height / 2
    u, v = (np.array(motion.vector(x)) for x in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0)))
    return float((fine_ring(section) @ np.array((u @ way, v @ way))).max())


def meeting_between(one: Straight, other: Straight, display: Display = "mm") -> MemberMeeting:
    """How they meet; of kind 'none' with the reason where they do not."""
    motion = one.place.inverse @ other.place
    w, d, q = np.array((0.0, 0.0, 1.0)), np.array(motion.vector((0.0, 0.0, 1.0))), np.array(motion.shift)
    cross = np.cross(w, d)
    sine = float(np.linalg.norm(cross))
    if sine < math.sin(LEAST_ANGLE):
        return MemberMeeting("none", one, other, reason=f"{one.name} and {other.name} run alongside each other")
    cosine = float(d[2])
    t = float(q[2] - (q @ d) * cosine) / (sine * sine)
    s = float(cosine * q[2] - q @ d) / (sine * sine)
    normal = cross / sine
    apart = float(np.linalg.norm(q + d * s - w * t))
    still = Motion(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))
    room = apart - reach_of(one.section, still, normal) - reach_of(other.section, motion, normal)
    if room > CONTACT:
        shown = format_length(round(room, 3), display)
        return MemberMeeting("none", one, other, reason=f"{one.name} and {other.name} pass each other {shown} apart")
    if room > -CONTACT:
        return MemberMeeting("none", one, other, reason=f"{one.name} and {other.name} lie against one another, side to side")
    half_one = reach_of(one.section, still, np.cross(normal, w))
    half_other = reach_of(other.section, motion, np.cross(normal, d))
    reach_one, reach_other = (half_other + half_one * abs(cosine)) / sine, (half_one + half_other * abs(cosine)) / sine
    at_one, at_other = _where(t, one.length, reach_one), _where(s, other.length, reach_other)
    for name, at, far, long, margin in ((one.name, at_one, t, one.length, reach_one), (other.name, at_other, s, other.length, reach_other)):
        if not at:
            lacking = format_length(round(max(-far, far - long), 3), display)
            reason = f"{name} ends {lacking} short of where the two lines meet"
            return MemberMeeting("none", one, other, reason=reason, short=(name, max(-far, far - long) - margin))
    kind: Literal["corner", "tee", "cross"] = (
        "cross" if at_one == at_other == "inside" else "tee" if "inside" in (at_one, at_other) else "corner"
    )
    into_one = -w if at_one == "b" or (at_one == "inside" and t > one.length / 2) else w
    into_other = -d if at_other == "b" or (at_other == "inside" and s > other.length / 2) else d
    return MemberMeeting(kind, one, other, at_one, at_other, "", w * t, into_one, into_other, normal, apart if apart > EPS else 0.0)


def _where(place: float, length: float, margin: float) -> Where:
    """At which end of a member a place along its axis lies, or inside; '' where it lies beyond."""
    margin += SHORT
    if not -margin <= place <= length + margin:
        return ""
    nearest: AtEnd = "a" if place < length / 2 else "b"
    return nearest if min(abs(place), abs(place - length)) <= margin else "inside"


def carried(cut: PlaneCut, motion: Motion) -> PlaneCut:
    """A plane in other coordinates."""
    return PlaneCut(motion.point(cut.point), motion.vector(cut.normal), cut.owner)
