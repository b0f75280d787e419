"""A bent member: a section along straight runs and bends of one radius. Each straight run is a straight member of its own, with what is drilled in it;
the first one's end A and the last one's end B are its ends, cut as those of straight members are."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Any

import numpy as np

from zygon.geometry.boolean import Region, to_polygon
from zygon.geometry.motion import Motion
from zygon.making.result.body import Corners, Matrix
from zygon.making.tube.bent_path import BentPath, bent_path
from zygon.making.tube.body import MemberBody, SawEnd, fine_ring
from zygon.making.tube.cuts import ENDS, AtEnd, EndCut, SideCut
from zygon.making.tube.tips import Tip
from zygon.memo import digest as digest_of
from zygon.stock.section import Section
from zygon.tolerance import EPS, SAGITTA, WITHIN

__all__ = ["BentBody", "Station"]

#: A bend is drawn in pieces of at most this (radians).
STEP = math.radians(6)
#: An end that is cut is drawn so much longer than its long point (mm), so that nothing of it is left where it is cut.
CUT = 0.5
#: Figures of a bend table that differ by less are one: nobody bends nearer (mm and degrees).
DIGITS = 2
#: By how much a section may be turned to lie on itself (degrees).
FOLD = {"square": 90.0, "rectangle": 180.0, "hexagon": 60.0}


@dataclass(frozen=True)
class Station:
    """A place along the centre line, with the directions of u and v there: each (3,)."""

    at: np.ndarray
    u: np.ndarray
    v: np.ndarray


@dataclass(frozen=True)
class BentBody:
    """``points`` are the corners of its centre line in its own coordinates, from the origin along w at first; ``radius`` that of the centre line; mm."""

    section: Section
    points: tuple[tuple[float, float, float], ...]
    radius: float
    tips: tuple[Tip | None, Tip | None] = (None, None)
    #: what cuts end A, in the first run's coordinates, and end B, in the last one's; its line runs to their long points
    at_a: tuple[EndCut, ...] = ()
    at_b: tuple[EndCut, ...] = ()
    #: of each run what is drilled in it, and what is marked, in its coordinates; none where nothing is in any
    drilled: tuple[tuple[SideCut, ...], ...] = ()
    marked: tuple[tuple[SideCut, ...], ...] = ()
    layered: bool = False
    empty: bool = False

    @property
    def region(self) -> Region:
        """Its outline, and the hole of a tube."""
        return self.section.region

    @cached_property
    def digest(self) -> str:
        """The hash of what it was made from."""
        return digest_of("bent", self.section, self.points, self.radius, self.tips, *self._cut)

    @property
    def _cut(self) -> tuple[tuple[Any, ...], ...]:
        return tuple(x for x in (self.at_a, self.at_b, self.drilled, self.marked) if x)

    @cached_property
    def straights(self) -> tuple[tuple[float, float, Motion], ...]:
        """Each straight run: from where to where on the bar before it is bent, in mm, and the motion that takes its own coordinates, w from 0, to these."""
        found, at, arcs = list[tuple[float, float, Motion]](), np.array(self.points[0]), self.arcs()
        done = 0.0
        for k, way in enumerate(self._bending):
            end = arcs[k][0] if k < len(arcs) else np.array(self.points[-1])
            u, v, w = way
            long = float((end - at) @ w)
            rows = tuple((float(u[i]), float(v[i]), float(w[i]), float(at[i])) for i in range(3))
            found.append((done, done + max(long, 0.0), Motion(rows).rounded()))
            done += max(long, 0.0)
            if k < len(arcs):
                at = arcs[k][2]
                done += self.radius * math.radians(self.path.bends[k].bend)
        return tuple(found)

    @cached_property
    def _bending(self) -> list[tuple[np.ndarray, np.ndarray, np.ndarray]]:
        """(u, v, w) of each run between bends; points in a row are no bends."""
        frames = self._frames
        return [frames[0], *(b for a, b in pairwise(frames) if math.degrees(_between(a[2], b[2])) > WITHIN)]

    @cached_property
    def runs(self) -> tuple[MemberBody, ...]:
        """Each straight run as a member of its own."""
        last = len(self.straights) - 1
        return tuple(
            MemberBody(
                self.section,
                round(end - start, 7),
                self.at_a if k == 0 else (),
                self.at_b if k == last else (),
                self.drilled[k] if self.drilled else (),
                self.marked[k] if self.marked else (),
            )
            for k, (start, end, _) in enumerate(self.straights)
        )

    def cuts(self, end: AtEnd) -> tuple[EndCut, ...]:
        """What cuts an end; none where it is square."""
        return self.at_a if end == "a" else self.at_b

    def saw(self, end: AtEnd) -> SawEnd:
        """How an end is sawn, toward which side of its run."""
        return self.runs[0 if end == "a" else -1].saw(end)

    @cached_property
    def path(self) -> BentPath:
        """What is fed, turned and bent."""
        return bent_path(self.points, self.radius, self.section.height)

    @property
    def length(self) -> float:
        """Of the straight bar that it is bent from, mm."""
        return round(self.path.length, 7)

    @cached_property
    def corners(self) -> tuple[tuple[float, ...], ...]:
        """Of each bend: the angle round the section toward which it bends, from its side at 0, in degrees; how far it bends."""
        found = []
        for a, b in zip(self._frames, self._frames[1:], strict=False):
            way = b[2] - a[2] * float(a[2] @ b[2])
            if np.linalg.norm(way) > EPS:
                found.append((math.degrees(math.atan2(-float(way @ a[0]), float(way @ a[1]))), math.degrees(_between(a[2], b[2]))))
        return tuple(found)

    @cached_property
    def _frames(self) -> list[tuple[np.ndarray, np.ndarray, np.ndarray]]:
        """(u, v, w) of each straight run; from one to the next they turn with the bend and not about the line."""
        points = np.array(self.points)
        ways = np.diff(points, axis=0)
        ways = ways / np.linalg.norm(ways, axis=1)[:, None]
        u, v = np.array((1.0, 0.0, 0.0)), np.array((0.0, 1.0, 0.0))
        found = [(u, v, ways[0])]
        for before, after in zip(ways, ways[1:], strict=False):
            u, v = (_turned(x, before, after, 1.0) for x in (u, v))
            found.append((u, v, after))
        return found

    def arcs(self) -> list[tuple[np.ndarray, np.ndarray, np.ndarray]]:
        """Of each bend where its centre line begins, its middle, and where it ends: each (3,) in mm."""
        points, frames, found = np.array(self.points), self._frames, []
        for k in range(1, len(points) - 1):
            before, after = frames[k - 1][2], frames[k][2]
            angle = _between(before, after)
            if math.degrees(angle) <= WITHIN:
                continue
            taken = self.radius * math.tan(angle / 2)
            inward = (after - before * math.cos(angle)) / math.sin(angle)
            start = points[k] - before * taken
            half = angle / 2
            middle = start + self.radius * (before * math.sin(half) + inward * (1 - math.cos(half)))
            found.append((start, middle, points[k] + after * taken))
        return found

    @property
    def centroid_length(self) -> float:
        """How long the line is in mm that the section's centre of area runs along; it is the centre line's where that is the middle."""
        centre = to_polygon(self.region.outer, SAGITTA).centroid if self.section.open else None
        total, frames = self.length, self._frames
        if centre is None:
            return total
        for (u, v, before), (_, _, after) in pairwise(frames):
            angle = _between(before, after)
            if math.degrees(angle) > WITHIN:
                inward = (after - before * math.cos(angle)) / math.sin(angle)
                total -= angle * float((u * centre.x + v * centre.y) @ inward)
        return total

    def stations(self, step: float = STEP) -> list[Station]:
        """Places along the centre line where rings of the section stand, from A to B."""
        points = np.array(self.points)
        frames = self._frames
        found = [Station(points[0], frames[0][0], frames[0][1])]
        for k in range(1, len(points) - 1):
            (u, v, before), after = frames[k - 1], frames[k][2]
            angle = _between(before, after)
            if math.degrees(angle) <= WITHIN:
                continue
            start = points[k] - before * (self.radius * math.tan(angle / 2))
            inward = (after - before * math.cos(angle)) / math.sin(angle)
            n = max(1, math.ceil(angle / step))
            for i in range(n + 1):
                a = angle * i / n
                at = start + self.radius * (before * math.sin(a) + inward * (1 - math.cos(a)))
                found.append(Station(at, *(_turned(x, before, after, i / n) for x in (u, v))))
        found.append(Station(points[-1], frames[-1][0], frames[-1][1]))
        return found

    def ended(self, step: float = STEP) -> list[Station]:
        """As ``stations``; an end that is cut begins where all of it has been cut away."""
        found = self.stations(step)
        ring = fine_ring(self.section)
        for end, k in zip(ENDS, (0, -1), strict=True):
            cuts, (u, v, w) = self.cuts(end), self._frames[k]
            if cuts:
                low, high = self.runs[k].stops(ring)
                far = float(low.min()) - CUT if end == "a" else float(high.max()) + CUT - self.runs[-1].length
                found[k] = Station(found[k].at + w * far, u, v)
        return found

    def tipped(self) -> list[tuple[Tip, Motion]]:
        """What is done at each end, and the motion that takes the end's own coordinates, w outward, to the member's."""
        found = []
        for tip, at, (u, v, w), sign in zip(
            self.tips, (self.points[0], self.points[-1]), (self._frames[0], self._frames[-1]), (-1.0, 1.0), strict=True
        ):
            if tip:
                rows = tuple((float(u[i]), float(v[i] * sign), float(w[i] * sign), float(at[i])) for i in range(3))
                found.append((tip, Motion(rows)))
        return found

    def reach(self, matrix: Matrix) -> Corners:
        """To within the chords that a picture has."""
        ring = self.section.region.outer.flatten(0.05)
        flats = [tip.flat.corners(place) for tip, place in self.tipped() if tip.flat]
        places = np.vstack([*(s.at + ring[:, :1] * s.u + ring[:, 1:] * s.v for s in self.ended()), *flats])
        m = np.array(matrix)
        seen = places @ m[:3, :3].T + m[:3, 3]
        return tuple(np.round(seen.min(axis=0), 7).tolist()), tuple(np.round(seen.max(axis=0), 7).tolist())

    @property
    def mirrored(self) -> BentBody:
        """Left for right across u."""
        points, tips = (
            tuple((-x, y, z) for x, y, z in self.points),
            (self.tips[0] and self.tips[0].mirrored, self.tips[1] and self.tips[1].mirrored),
        )
        one, other = (tuple(c.mirrored for c in cuts) for cuts in (self.at_a, self.at_b))
        drilled, marked = (tuple(tuple(h.mirrored for h in run) for run in some) for some in (self.drilled, self.marked))
        return BentBody(self.section.mirrored, points, self.radius, tips, one, other, drilled, marked)

    @property
    def _sided(self) -> bool:
        """Whether it matters how it is turned about its own line, beyond how its section lies."""
        return self.section.open or bool(self._cut) or any(tip and tip.flat for tip in self.tips)

    @property
    def alike(self) -> str:
        """The same for rods that are bent to one shape, whichever end is A; of what is open, or flat at an end, only where A is A too."""
        if self._sided:
            return self._written(back=False, hand=1.0)
        return min(self._written(back=b, hand=1.0) for b in (False, True))

    @property
    def other_hand(self) -> str:
        """What ``alike`` is of the mirror image."""
        if self._sided:
            return self.mirrored.alike
        return min(self._written(back=b, hand=-1.0) for b in (False, True))

    def _written(self, *, back: bool, hand: float) -> str:
        path = self.path
        feeds = [b.feed for b in path.bends] + [path.end]
        turns, bends = [b.turn for b in path.bends][1:], [b.bend for b in path.bends]
        if back:
            feeds, turns, bends = feeds[::-1], turns[::-1], bends[::-1]
        tips = self.tips[::-1] if back else self.tips
        fold = 360.0 if self._sided else FOLD.get(self.section.shape)
        side = [] if fold is None else [round(c[0] % fold % fold, DIGITS) for c in self.corners]
        # half a turn either way is one
        turned = [180.0 if abs(abs(t) - 180) < 0.5 * 10**-DIGITS else round(hand * t, DIGITS) + 0.0 for t in turns]
        return digest_of(
            "bent",
            self.section,
            self.radius,
            [round(x, DIGITS) for x in feeds],
            turned,
            [round(x, DIGITS) for x in bends],
            side,
            tips,
            *self._cut,
        )


def _between(a: np.ndarray, b: np.ndarray) -> float:
    return math.atan2(float(np.linalg.norm(np.cross(a, b))), float(a @ b))


def _turned(x: np.ndarray, before: np.ndarray, after: np.ndarray, share: float) -> np.ndarray:
    """A direction turned by a share of the turn that takes one way to another (Rodrigues)."""
    axis = np.cross(before, after)
    sine = float(np.linalg.norm(axis))
    if sine < EPS:
        return x
    axis, angle = axis / sine, math.atan2(sine, float(before @ after)) * share
    return x * math.cos(angle) + np.cross(axis, x) * math.sin(angle) + axis * float(axis @ x) * (1 - math.cos(angle))
