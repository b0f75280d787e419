"""What cuts the end of a member: a plane, or the side of another member that it lies on. In the member's own (u, v, w), mm.

A cut says for every fibre of the section, a line along w at (u, v), where its material stops.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal, Protocol

import numpy as np

from zygon.geometry.motion import Motion
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS, SAGITTA

__all__ = ["ENDS", "AtEnd", "EndCut", "Filled", "MIRROR", "PlaneCut", "SideCut", "flat_sides"]

#: Left for right across u.
MIRROR = Motion(((-1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))
#: Places along a fibre at which it is looked whether it is in a main that ends there, and how often the first is halved in on.
PLACES = 32
HALVED = 40

AtEnd = Literal["a", "b"]
ENDS: tuple[AtEnd, AtEnd] = ("a", "b")


@dataclass(frozen=True)
class PlaneCut:
    """A plane through ``point``, square to ``normal``, which looks out of the material."""

    point: tuple[float, float, float]
    normal: tuple[float, float, float]
    owner: str

    def heights(self, uv: np.ndarray, end: AtEnd) -> np.ndarray:
        """Where fibres (n, 2) stop, (n,) w in mm; nan where they run along the plane."""
        (p, q, r), (a, b, c) = self.point, self.normal
        if abs(c) <= EPS or (c > 0) != (end == "b"):
            return np.full(len(uv), np.nan)
        return r - ((uv[:, 0] - p) * a + (uv[:, 1] - q) * b) / c

    @property
    def angle(self) -> float:
        """How far off square it cuts, in radians."""
        a, b, c = self.normal
        return math.atan2(math.hypot(a, b), abs(c))

    @property
    def mirrored(self) -> PlaneCut:
        """Left for right across u."""
        (p, q, r), (a, b, c) = self.point, self.normal
        return PlaneCut((-p, q, r), (-a, b, c), self.owner)


class Filled(Protocol):
    """A main that is cut itself where another meets it."""

    @property
    def mirrored(self) -> Filled:
        """Left for right across u."""

    def stops(self, uv: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Where fibres (n, 2) of it start and stop along w, each (n,) in mm."""


@dataclass(frozen=True)
class SideCut:
    """The outside of a main of a section, ``motion`` from its own (u, v, w) to the member's; a gap stands off it all round.

    The main runs on without end, or is as long as ``within`` is. A hole that is drilled from one side alone is cut from ``begins`` on along its own w.
    """

    motion: Motion
    section: Section
    gap: float
    owner: str
    within: Filled | None = None
    begins: float | None = None

    def heights(self, uv: np.ndarray, end: AtEnd) -> np.ndarray:
        """Where fibres (n, 2) come to the main from the member's inside, (n,) w in mm; where they pass beside it nan, or no end of one that ends."""
        low, high = self.inside(uv)
        if self.within is not None:
            low, high = self._limited(uv, low, high)
        return low if end == "b" else high

    def _limited(self, uv: np.ndarray, low: np.ndarray, high: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """From where to where fibres lie in a main that ends."""
        shares = np.linspace(0.0, 1.0, PLACES + 1)
        missed = ~np.isfinite(low) | ~np.isfinite(high)
        start, run = np.where(missed, 0.0, low), np.where(missed, 0.0, high - low)
        inside = self._in_main(np.tile(uv, (PLACES + 1, 1)), (start + np.outer(shares, run)).ravel()).reshape(PLACES + 1, -1) & ~missed
        found = inside.any(axis=0)
        first, last = inside.argmax(axis=0), PLACES - inside[::-1].argmax(axis=0)
        # both ends of all fibres at once, and only where a fibre leaves the main on the way: most lie in it as far as they reach
        at, out = np.concatenate((first, last)), np.concatenate((first - 1, last + 1))
        halved = np.flatnonzero(np.tile(found, 2) & (out >= 0) & (out <= PLACES))
        there = shares[at]
        if len(halved):
            fibre = halved % len(uv)
            near, far = there[halved], shares[out[halved]]
            for _ in range(HALVED):
                middle = (near + far) / 2
                is_in = self._in_main(uv[fibre], start[fibre] + run[fibre] * middle)
                near, far = np.where(is_in, middle, near), np.where(is_in, far, middle)
            there[halved] = near
        begins, stops = (start + run * share for share in np.split(there, 2))
        return np.where(found, begins, np.inf), np.where(found, stops, -np.inf)

    def _in_main(self, uv: np.ndarray, w: np.ndarray) -> np.ndarray:
        assert self.within is not None
        there = self.motion.inverse.points(np.column_stack((uv, w)))
        low, high = self.within.stops(there[:, :2])
        return (there[:, 2] >= low - EPS) & (there[:, 2] <= high + EPS)

    def inside(self, uv: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """From where to where along w fibres (n, 2) lie in the main, filled; nan where they pass beside it."""
        back = self.motion.inverse
        start = back.points(np.column_stack((uv, np.zeros(len(uv)))))[:, :2]
        dx, dy, _ = back.vector((0.0, 0.0, 1.0))
        with np.errstate(divide="ignore", invalid="ignore"):
            return self._disc(start, dx, dy) if self.section.shape == "round" else self._clipped(start, dx, dy)

    def _disc(self, start: np.ndarray, dx: float, dy: float) -> tuple[np.ndarray, np.ndarray]:
        a = dx * dx + dy * dy
        b = start @ (dx, dy)
        radius = self.section.height / 2 + self.gap
        root = b * b - a * ((start**2).sum(axis=1) - radius * radius)
        grazing = (root < 0) & (root >= -2 * radius * CONTACT)
        root = np.sqrt(np.where(grazing, 0.0, root))
        return (-b - root) / a, (-b + root) / a

    def _clipped(self, start: np.ndarray, dx: float, dy: float) -> tuple[np.ndarray, np.ndarray]:
        low, high = np.full(len(start), -np.inf), np.full(len(start), np.inf)
        for nx, ny, far in _half_planes(self.section.grown(self.gap)):
            room, slope = far - start @ (nx, ny), nx * dx + ny * dy
            if abs(slope) <= EPS:
                low = np.where(room < -CONTACT, np.nan, low)
            elif slope < 0:
                low = np.maximum(low, room / slope)
            else:
                high = np.minimum(high, room / slope)
        missed = ~(low <= high + CONTACT)
        return np.where(missed, np.nan, low), np.where(missed, np.nan, high)

    @property
    def mirrored(self) -> SideCut:
        """Left for right across u."""
        return replace(
            self, section=self.section.mirrored, motion=MIRROR @ self.motion @ MIRROR, within=self.within.mirrored if self.within else None
        )


EndCut = PlaneCut | SideCut


def flat_sides(section: Section) -> list[tuple[float, float, float]]:
    """The sides of a section that is not round, as (nx, ny, how far along them); the rounds of its corners left out. Of what is open those of its box."""
    return _half_planes(section.grown(0.0) if section.open else replace(section, corner=0.0, wall=0.0))


@lru_cache(maxsize=256)
def _half_planes(section: Section) -> list[tuple[float, float, float]]:
    """A convex section's outside as (nx, ny, how far along them), rounds as chords."""
    ring = section.region.outer.wound(ccw=True).flatten(SAGITTA)
    found = []
    for p, q in zip(ring, np.roll(ring, -1, axis=0), strict=True):
        x, y = q - p
        long = math.hypot(x, y)
        if long > EPS:
            found.append((y / long, -x / long, float((y * p[0] - x * p[1]) / long)))
    return found
