"""How long moves take on a machine with a limited acceleration: trapezoids of speed, with what speed is left at corners.

At a corner between two moves the head may keep the speed at which a circle that touches both, and strays from the corner by ``STRAY``, is run with the same acceleration
(common practice of motion controllers); on an arc of radius r no more than √(a r).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from zygon.program.read import Move
from zygon.tolerance import EPS

__all__ = ["Machine", "durations", "trapezoid"]

#: How far a circle may stray from a corner (mm).
STRAY = 0.02


@dataclass(frozen=True)
class Machine:
    """``rapid`` in mm/s, ``acceleration`` in mm/s²; ``bed`` is how far it reaches along x and y (mm), 0 where that is not said.

    ``face`` is the height of the sheet's face in programs for a bit (mm), None of a beam, which has no heights.
    """

    rapid: float
    acceleration: float
    bed: tuple[float, float] = (0.0, 0.0)
    face: float | None = None


def trapezoid(length: float, first: float, last: float, most: float, acceleration: float) -> float:
    """Seconds for a way of ``length`` mm that begins and ends at speeds (mm/s) that can be had on it, no faster than ``most``."""
    if length <= 0:
        return 0.0
    top = min(most, math.sqrt(max((2 * acceleration * length + first**2 + last**2) / 2, 0.0)))
    top = max(top, first, last)
    ramps = (2 * top**2 - first**2 - last**2) / (2 * acceleration)
    return (top - first) / acceleration + (top - last) / acceleration + max(length - ramps, 0.0) / top


def durations(moves: Sequence[Move], machine: Machine) -> list[float]:
    """Seconds that each move takes. The head stands where the beam goes on or off, at waits, and between rapid and cut."""
    a = machine.acceleration
    most = [_most(m, machine) for m in moves]
    ends = [0.0] * (len(moves) + 1)
    for i in range(1, len(moves)):
        one, other = moves[i - 1], moves[i]
        if one.kind != "wait" and other.kind != "wait" and one.on == other.on and (one.kind == "rapid") == (other.kind == "rapid"):
            ends[i] = min(most[i - 1], most[i], _corner(one, other, a))
    for i, m in enumerate(moves):  # what can be reached from before, then from behind
        ends[i + 1] = min(ends[i + 1], math.sqrt(ends[i] ** 2 + 2 * a * m.length))
    for i in range(len(moves) - 1, -1, -1):
        ends[i] = min(ends[i], math.sqrt(ends[i + 1] ** 2 + 2 * a * moves[i].length))
    return [m.wait if m.kind == "wait" else trapezoid(m.length, ends[i], ends[i + 1], most[i], a) for i, m in enumerate(moves)]


def _most(m: Move, machine: Machine) -> float:
    if m.kind == "rapid":
        return machine.rapid
    if m.kind == "arc" and m.centre is not None:
        return min(m.feed, math.sqrt(machine.acceleration * max(math.dist(m.p[:2], m.centre), EPS)))
    return m.feed


def _corner(one: Move, other: Move, a: float) -> float:
    """The speed that is kept from one move to the next."""
    u, v = _way(one, last=True), _way(other, last=False)
    cosine = -sum(p * q for p, q in zip(u, v, strict=True))  # of the angle between the sides of the corner
    if cosine < -1 + EPS:
        return math.inf
    half = math.sqrt(max((1 - cosine) / 2, 0.0))  # the sine of half of that angle
    return 0.0 if half < EPS else math.sqrt(a * STRAY * half / (1 - half)) if half < 1 - EPS else math.inf


def _way(m: Move, *, last: bool) -> tuple[float, float, float]:
    """The unit direction at a move's start or end; of one that goes nowhere nothing."""
    long = m.length
    if not long:
        return 0.0, 0.0, 0.0
    rise = m.q[2] - m.p[2]
    if m.kind == "arc" and m.centre is not None:
        x, y = m.q[:2] if last else m.p[:2]
        share = m.sweep / long
        return -(y - m.centre[1]) * share, (x - m.centre[0]) * share, rise / long
    return (m.q[0] - m.p[0]) / long, (m.q[1] - m.p[1]) / long, rise / long
