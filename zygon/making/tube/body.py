"""A straight member as it is made: a section along w with its ends cut, and the holes of what passes through it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from zygon.geometry.boolean import Region
from zygon.geometry.motion import Motion, moving
from zygon.making.result.body import Corners, Matrix
from zygon.making.tube.cuts import ENDS, AtEnd, EndCut, SideCut
from zygon.making.tube.tips import Tip
from zygon.memo import digest as digest_of
from zygon.stock.section import Section
from zygon.tolerance import EPS

__all__ = ["MemberBody", "SawEnd"]

#: Chords round a section, at least, where an end is read off.
ROUND = 180
#: Places that a top between two of them is looked for at, and how often anew between the best of those.
ROUND_TOP = 17
FINER = 6


@dataclass(frozen=True)
class SawEnd:
    """An end as a saw is set for it: how far off square in radians, and toward which side of the section, in radians from its 0; None where no one plane cuts it."""

    angle: float | None
    toward: float


@dataclass(frozen=True)
class MemberBody:
    """``section`` from w 0 to ``length`` mm where an end is cut square, else to its cuts; ``holes`` are mains that pass through,
    filled, and what is drilled; ``marks`` are where something would be drilled, and is not.
    ``tips`` are what is done at A and at B."""

    section: Section
    length: float
    at_a: tuple[EndCut, ...] = ()
    at_b: tuple[EndCut, ...] = ()
    holes: tuple[SideCut, ...] = ()
    marks: tuple[SideCut, ...] = ()
    tips: tuple[Tip | None, Tip | None] = (None, None)
    layered: bool = False

    @property
    def region(self) -> Region:
        """Its outline, and the hole of a tube."""
        return self.section.region

    @cached_property
    def digest(self) -> str:
        """The hash of what it was made from, to a tenth of a micrometre."""
        return digest_of("member", self.section, self.length, self.at_a, self.at_b, self.holes, self.marks, self.tips)

    @property
    def mirrored(self) -> MemberBody:
        """Left for right across u."""
        one, other = (tuple(c.mirrored for c in cuts) for cuts in (self.at_a, self.at_b))
        holes, marks = (tuple(h.mirrored for h in some) for some in (self.holes, self.marks))
        tips = (self.tips[0] and self.tips[0].mirrored, self.tips[1] and self.tips[1].mirrored)
        return replace(self, section=self.section.mirrored, at_a=one, at_b=other, holes=holes, marks=marks, tips=tips)

    def cuts(self, end: AtEnd) -> tuple[EndCut, ...]:
        """What cuts an end; none where it is square."""
        return self.at_a if end == "a" else self.at_b

    def stops(self, uv: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Where fibres (n, 2) start and stop along w, each (n,) in mm."""
        found = []
        for end, square in zip(ENDS, (0.0, self.length), strict=True):
            cuts = self.cuts(end)
            if not cuts:
                found.append(np.full(len(uv), square))
                continue
            heights = np.array([c.heights(uv, end) for c in cuts])
            found.append(heights.min(axis=0) if end == "b" else heights.max(axis=0))
        return found[0], found[1]

    @cached_property
    def _round(self) -> np.ndarray:
        return fine_ring(self.section)

    @cached_property
    def _ends(self) -> tuple[np.ndarray, np.ndarray]:
        return self.stops(self._round)

    @cached_property
    def empty(self) -> bool:
        """Whether its ends meet somewhere, so that it comes apart or is nothing."""
        low, high = self._ends
        return not bool((np.isfinite(low) & np.isfinite(high) & (high - low > 0)).all())

    @cached_property
    def _farthest(self) -> tuple[tuple[float, float], tuple[float, float]]:
        """Lowest and highest place of end A, and of end B."""
        if self.section.shape != "round":
            low, high = ((float(e.min()), float(e.max())) for e in self._ends)
            return low, high
        low, high = ((-self._peak(k, -1.0), self._peak(k, 1.0)) for k in (0, 1))
        return low, high

    def _peak(self, end: int, sign: float) -> float:
        """The highest place of an end of a round section, or with a ``sign`` of -1 what is lowest, turned: looked for between the places of its outline too, where it may be a sharp point."""
        u, v, radius = self.section.region.outer.as_circle or (0.0, 0.0, 0.0)
        heights = sign * self._ends[end]
        before, after = np.roll(heights, 1), np.roll(heights, -1)
        best = float(heights.max())
        step = 2 * np.pi / len(heights)
        for k in np.flatnonzero((heights >= before) & (heights >= after) & (heights < np.inf)):
            way = self._round[k] - (u, v)
            middle, half = float(np.arctan2(way[1], way[0])), step
            for _ in range(FINER):
                angles = np.linspace(middle - half, middle + half, ROUND_TOP)
                found = sign * self.stops(np.column_stack((u + radius * np.cos(angles), v + radius * np.sin(angles))))[end]
                found = np.where(np.isfinite(found), found, -np.inf)
                middle, half = float(angles[found.argmax()]), 2 * half / (ROUND_TOP - 1)
                best = max(best, float(found.max()))
        return best

    @property
    def long(self) -> float:
        """From long point to long point, mm."""
        (low, _), (_, high) = self._farthest
        return round(high - low, 7)

    @property
    def short(self) -> float:
        """Between the short points, mm."""
        (_, low), (high, _) = self._farthest
        return round(high - low, 7)

    @property
    def span(self) -> tuple[float, float]:
        """From where to where it reaches along w, mm."""
        (low, _), (_, high) = self._farthest
        return low, high

    def tipped(self) -> list[tuple[Tip, Motion]]:
        """What is done at each end, and the motion that takes the end's own coordinates, w outward, to the member's."""
        at_a = Motion(((1.0, 0.0, 0.0, 0.0), (0.0, -1.0, 0.0, 0.0), (0.0, 0.0, -1.0, 0.0)))
        return [(tip, place) for tip, place in zip(self.tips, (at_a, moving((0.0, 0.0, self.length))), strict=True) if tip]

    @property
    def alike(self) -> str:
        """The same for members that are the same piece."""
        from zygon.making.tube.alike import signature

        return signature(self)

    @property
    def other_hand(self) -> str:
        """What ``alike`` is of the mirror image."""
        from zygon.making.tube.alike import signature

        return signature(self, mirrored=True)

    def saw(self, end: AtEnd) -> SawEnd:
        """How an end is sawn."""
        cuts = self.cuts(end)
        if not cuts:
            return SawEnd(0.0, 0.0)
        cut = cuts[0]
        if len(cuts) > 1 or isinstance(cut, SideCut):
            return SawEnd(None, 0.0)
        a, b, _ = cut.normal
        return SawEnd(round(cut.angle, 9), round(float(np.arctan2(-a, b)), 9) if cut.angle > EPS else 0.0)

    def reach(self, matrix: Matrix) -> Corners:
        """To within the chords that a picture has."""
        low, high = self._ends
        uv = self._round
        flats = [tip.flat.corners(place) for tip, place in self.tipped() if tip.flat]
        points = np.vstack((np.column_stack((uv, low)), np.column_stack((uv, high)), *flats))
        m = np.array(matrix)
        seen = points @ m[:3, :3].T + m[:3, 3]
        return tuple(np.round(seen.min(axis=0), 7).tolist()), tuple(np.round(seen.max(axis=0), 7).tolist())


def _area(ring: np.ndarray) -> float:
    x, y = ring.T
    return float(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2


@lru_cache(maxsize=256)
def fine_ring(section: Section, step: float = 0.0) -> np.ndarray:
    """The outline (n, 2): at least ``ROUND`` chords on a circle, straight sides in pieces of ``step`` mm where that is said."""
    found = divided(section.region.outer, step)
    found.flags.writeable = False  # it is kept for all members of the section
    return found


@lru_cache(maxsize=256)
def drawn_area(section: Section) -> float:
    """Of a section with the chords that a mesh has, in mm²."""
    return sum(_area(divided(c)) for c in (section.region.outer, *section.region.inner))


def divided(contour, step: float = 0.0) -> np.ndarray:
    """A contour's points (n, 2), arcs in chords of two degrees; straight sides in pieces of at most ``step`` mm where that is said."""
    disc = contour.as_circle
    if disc:
        u, v, radius = disc
        angles = np.arange(ROUND) * 2 * np.pi / ROUND
        way = 1 if contour.area > 0 else -1
        return np.column_stack((u + radius * np.cos(angles), v + way * radius * np.sin(angles)))
    points = contour.flatten(0.002)
    if not step:
        return points
    found = []
    for p, q in zip(points, np.roll(points, -1, axis=0), strict=True):
        n = max(1, int(np.ceil(np.linalg.norm(q - p) / step)))
        found.append(p + (q - p) * (np.arange(n) / n)[:, None])
    return np.vstack(found)
