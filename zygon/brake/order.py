"""The order of bending, found by trying: inner bends before outer ones, with the least turning and flipping, as far as nothing runs into anything.

Bends on one line of one face, by one angle and radius, are one stroke. A step is tried half-way and done, with the tools as plain profiles
as long as the stroke's bends.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from shapely import affinity

from zygon.brake.backgauge import Gauge, gauge_of
from zygon.brake.pose import Pose, Workpiece
from zygon.brake.profiles import die_profile, punch_profiles
from zygon.brake.slabs import runs_into
from zygon.errors import StoppedError
from zygon.making.metal.legs import record_of
from zygon.making.result.fold import Fold
from zygon.stock.bending import Bending
from zygon.stock.brake import Brake, force
from zygon.stock.tooling import BEFORE, Option, Wanted, options
from zygon.tolerance import WITHIN

__all__ = ["Step", "Stroke", "bend_order", "strokes_and_tools", "strokes_of"]

#: A step is tried with its bend so far done.
TRIED = (0.5, 1.0)
#: So many tries are spent on one part; then the best order so far stands.
MOST_TRIES = 500
#: So many pairs of tools are tried on a step.
MOST_TOOLS = 6
#: Bends whose lines, ways, angles and radii differ by less (mm, radians) are bent as one.
SAME = 1e-4


@dataclass(frozen=True)
class Step:
    """One stroke: the bends that it makes (numbers in the fold), its tools, and what it runs into (empty where it can be done).

    ``offset`` where an offset tool makes both bends of an offset at once. ``flipped`` and ``turned`` say what is done with the sheet before it; ``length`` in mm and ``force`` in kN of the whole stroke.
    """

    bends: tuple[int, ...]
    tool: Option | None
    gauge: Gauge
    length: float
    force: float
    offset: bool
    flipped: bool
    turned: bool
    collides: tuple[str, ...]


@dataclass(frozen=True)
class Stroke:
    """Bends that are made at once: along the first one from ``extent`` on, ``length`` in all, ``leg`` the shortest flat beside its bend line (mm).

    ``beyond`` is the bend on whose far side that leg lies, None where it lies towards the plate.
    ``level`` is how many bends lie between it and the plate, ``way`` its outward direction on the flat, ``up`` whether towards who looks at the flat.
    """

    bends: tuple[int, ...]
    extent: tuple[float, float]
    length: float
    leg: float
    level: int
    way: tuple[float, float]
    up: bool
    offset: bool
    beyond: int | None = None


def strokes_of(fold: Fold, joggle: float = 0.0) -> list[tuple[int, ...]]:
    """The bends that are made at once: on one line of one face, by one angle and radius; both of an offset that an offset tool makes, or of at most ``joggle`` mm.

    The numbers of a stroke's bends; of an offset bend the second follows the first.
    """
    groups: list[list[int]] = []
    for i, b in enumerate(fold.bends):
        first = next((g for g in groups if len(g) == 1 and b.parent == g[0] + 1 and _opposite(fold, g[0], i)), None)
        if first and (b.pressed or offset_height(fold, first[0], i) <= joggle + SAME):
            first.append(i)
            continue
        for g in groups:
            a = fold.bends[g[0]]
            on_line = abs(a.outward[0] * (b.start[0] - a.start[0]) + a.outward[1] * (b.start[1] - a.start[1])) < SAME
            if (
                a.parent == b.parent
                and math.dist(a.along, b.along) < SAME
                and abs(a.angle - b.angle) < SAME
                and abs(a.radius - b.radius) < SAME
                and on_line
            ):
                g.append(i)
                break
        else:
            groups.append([i])
    return [tuple(g) for g in groups]


def bend_order(
    fold: Fold,
    thickness: float,
    bending: Bending,
    brake: Brake,
    by_hand: Sequence[str] = (),
    names: dict[str, str] | None = None,
    stop: Callable[[], bool] = bool,
) -> list[Step]:
    """The steps in order. ``by_hand`` names bends by key in the order that is wanted, what it leaves out follows as found; ``names`` of flanges by key.

    ``stop`` is asked before each try; StoppedError where it says so.
    """
    search = _Search(fold, thickness, bending, brake, names or {}, stop)
    fixed: list[int] = []
    for key in by_hand:
        found = next((i for i, s in enumerate(search.strokes) if any(fold.bends[b].key == key for b in s.bends)), None)
        if found is not None and found not in fixed:
            fixed.append(found)
    return search.steps(search.found(fixed))


def _opposite(fold: Fold, first: int, second: int) -> bool:
    """Whether two bends step the sheet aside: by one angle, one each way, along parallel lines, and from one record."""
    a, b = fold.bends[first], fold.bends[second]
    return abs(a.angle + b.angle) < SAME and math.dist(a.along, b.along) < SAME and record_of(a.key) == record_of(b.key)


def strokes_and_tools(fold: Fold, thickness: float, bending: Bending, brake: Brake) -> list[tuple[Stroke, list[Option]]]:
    """Every stroke with the tools that make it, best first; none for an offset tool's."""
    search = _Search(fold, thickness, bending, brake, {})
    return list(zip(search.strokes, search.tools, strict=True))


def offset_height(fold: Fold, first: int, second: int) -> float:
    """How far the two bends of an offset step the sheet aside, in mm."""
    a, b = fold.bends[first], fold.bends[second]
    angle, t = abs(a.angle), a.thickness
    between = (b.start[0] - a.start[0]) * a.outward[0] + (b.start[1] - a.start[1]) * a.outward[1] - a.width
    return (a.radius + b.radius + t) * (1 - math.cos(angle)) + between * math.sin(angle)


class _Search:
    def __init__(
        self, fold: Fold, thickness: float, bending: Bending, brake: Brake, names: dict[str, str], stop: Callable[[], bool] = bool
    ) -> None:
        self.stop = stop
        self.fold, self.thickness, self.bending, self.brake, self.names = fold, thickness, bending, brake, names
        self.work = Workpiece(fold, thickness)
        self.level = [0] * len(fold.faces)
        for i, b in enumerate(fold.bends):
            self.level[i + 1] = self.level[b.parent] + 1
        self.strokes = [self._stroke(g) for g in strokes_of(fold, brake.joggle)]
        self.tried: dict[tuple[int, frozenset[int]], tuple[Option | None, tuple[str, ...]]] = {}
        self.tools = [self._tools(s) for s in self.strokes]
        self._profiles: dict[tuple[int, int], tuple] = {}
        # by stroke which zones move with it, faces from 0 on and bends from the end back, as their numbers index
        zones = [*range(len(fold.faces)), *range(-len(fold.bends), 0)]
        self._moving = [np.array([any(self.work.moves_with(z, b) for b in s.bends) for z in zones], bool) for s in self.strokes]

    def _stroke(self, bends: tuple[int, ...]) -> Stroke:
        first = self.fold.bends[bends[0]]
        ends = []
        for i in bends:
            b = self.fold.bends[i]
            ends += [(p[0] - first.start[0]) * first.along[0] + (p[1] - first.start[1]) * first.along[1] for p in (b.start, b.end)]
        length = sum(math.dist(self.fold.bends[i].start, self.fold.bends[i].end) for i in (bends[:1] if self._offset(bends) else bends))
        leg, towards, short = min((*self._leg(i), i) for i in bends)
        return Stroke(
            bends,
            (min(ends), max(ends)),
            length,
            leg,
            self.level[first.parent],
            first.outward,
            first.angle > 0,
            self._offset(bends),
            None if towards else short,
        )

    def _offset(self, bends: tuple[int, ...]) -> bool:
        """Whether a stroke makes both bends of an offset with an offset tool."""
        return len(bends) == 2 and self.fold.bends[bends[1]].parent == bends[0] + 1

    def _leg(self, number: int) -> tuple[float, bool]:
        """The shorter of the flats on both sides of a bend, from its middle line on, in mm, and whether it lies towards the plate."""
        b = self.fold.bends[number]
        n, s = np.array(b.outward), np.array(b.start)
        reach = []
        for face, sign in ((number + 1, 1.0), (b.parent, -1.0)):
            rings = self.work.faces[face]
            deep = max((float((sign * ((r - s) @ n)).max()) for r in rings), default=0.0)
            reach.append((deep - b.width / 2, False) if sign > 0 else (deep + b.width / 2, True))
        return min(reach)

    def _tools(self, stroke: Stroke) -> list[Option]:
        if stroke.offset:
            return []
        b = self.fold.bends[stroke.bends[0]]
        wanted = Wanted(self.thickness, b.radius, min(abs(b.angle), math.pi), stroke.length, stroke.leg)
        return options(self.brake, self.bending, wanted)

    def found(self, fixed: list[int]) -> list[int]:
        """An order of strokes that begins with ``fixed``. The last stroke is found first: what can be done with all others done can be done with fewer.

        So the way back from the finished part hardly ever ends; where it does, other last strokes are tried, and at last the liked ones stand.
        """
        self.left = MOST_TRIES
        before = frozenset(fixed)
        best: list[int] = []

        def back(rest: frozenset[int], tail: list[int]) -> list[int] | None:
            nonlocal best
            if len(tail) > len(best):
                best = tail
            if not rest:
                return tail
            for i in self._last(rest, tail):
                if self.left <= 0:
                    return None
                if not self.at(i, before | (rest - {i}))[1]:
                    whole = back(rest - {i}, [i, *tail])
                    if whole is not None:
                        return whole
            return None

        rest = frozenset(range(len(self.strokes))) - before
        tail = back(rest, [])
        if tail is None:
            tail = best
            while len(tail) < len(rest):
                tail = [self._last(rest - set(tail), tail)[0], *tail]
        return [*fixed, *tail]

    def _last(self, rest: frozenset[int], tail: list[int]) -> list[int]:
        """What may come last of some strokes: outer ones, then without flipping before the next one, then without turning."""
        following = self.strokes[tail[0]] if tail else None

        def rank(i: int) -> tuple:
            s = self.strokes[i]
            return (-s.level, bool(following and following.up != s.up), bool(following and math.dist(following.way, s.way) > SAME), -i)

        return sorted(rest, key=rank)

    def at(self, stroke: int, done: frozenset[int]) -> tuple[Option | None, tuple[str, ...]]:
        """The tools that make a stroke after others, and what they or the part run into."""
        key = (stroke, done)
        if key not in self.tried:
            if self.stop():
                raise StoppedError("The order of bending is not asked for any more.")
            self.left -= 1
            self.tried[key] = self._try(stroke, done)
        return self.tried[key]

    def _shares(self, done: frozenset[int], stroke: int, share: float) -> list[float]:
        shares = [0.0] * len(self.fold.bends)
        for d in done:
            for b in self.strokes[d].bends:
                shares[b] = 1.0
        for b in self.strokes[stroke].bends:
            shares[b] = share
        return shares

    def _try(self, number: int, done: frozenset[int]) -> tuple[Option | None, tuple[str, ...]]:
        stroke, tools = self.strokes[number], self.tools[number]
        if stroke.offset:
            return None, self._itself(number, done)
        if not tools:
            return None, ("no tool of the brake makes this bend in this thickness",)
        # the sheet against itself does not ask for the tools
        own = self._itself(number, done)
        if own:
            return tools[0], own
        first: tuple[str, ...] = ()
        held = [t for t in tools if stroke.leg >= t.least - WITHIN] or tools[:1]
        poses: dict[tuple[float, float], Pose] = {}
        for tool in held[:MOST_TOOLS]:
            hits = self._hits(number, done, tool, poses)
            if not hits:
                return tool, ()
            first = first or hits
        return held[0], first

    def _itself(self, number: int, done: frozenset[int]) -> tuple[str, ...]:
        stroke = self.strokes[number]
        bend = stroke.bends[0]
        near = {self.fold.bends[bend].parent, *(b + 1 for b in stroke.bends)}
        own = {-1 - b for b in stroke.bends}
        for share in TRIED:
            slabs = self.work.slabs(self._shares(done, number, share))
            moving = self._moving[number][slabs.zones]
            resting = ~moving & ~np.isin(slabs.zones, list(own))
            for i, j in slabs.near(moving, resting):
                a, b = slabs.piece(i), slabs.piece(j)
                if not (a.zone in near and b.zone in near) and runs_into(a, b):
                    one, other = self.name(a.zone), self.name(b.zone)
                    return (f"{one} runs into {'itself' if one == other else other}",)
        return ()

    def _hits(self, number: int, done: frozenset[int], tool: Option, poses: dict[tuple[float, float], Pose]) -> tuple[str, ...]:
        stroke = self.strokes[number]
        bend = stroke.bends[0]
        b = self.fold.bends[bend]
        own = {-1 - i for i in stroke.bends}
        pair = (id(tool.die), id(tool.punch))  # both are the brake's
        if pair not in self._profiles:
            self._profiles[pair] = (die_profile(tool.die), punch_profiles(tool.punch))
        (die, bed), punches = self._profiles[pair]
        most = min(1.0, BEFORE / abs(b.angle)) if tool.pressed else 1.0
        if tool.pressed:  # its radius comes from the pressing; what lies along the punch's flanks is no collision
            own |= {b.parent, *(i + 1 for i in stroke.bends)}
        hits: list[str] = []
        for share in TRIED:
            at = share * most
            key = (at, tool.die.v)
            if key not in poses:
                poses[key] = Pose.of(self.work, bend, self._shares(done, number, at), v=tool.die.v, extent=stroke.extent)
            pose = poses[key]
            counts = ~np.isin(pose.slabs.zones, list(own))
            for what, shape in (("the die", die), ("the brake's bed", bed)):
                zone = pose.meets(counts, shape)
                if zone is not None:
                    hits.append(f"{self.name(zone)} runs into {what}")
            hits += self._upper_hits(pose, counts, punches)
            if hits:
                break
        return tuple(dict.fromkeys(hits))

    def _offset_force(self, stroke: Stroke) -> float:
        """Both bends at once, over openings of six times the thickness: twice the force of one (common practice)."""
        return 2 * force(self.bending.strength, self.thickness, stroke.length, 6 * self.thickness)

    def _upper_hits(self, pose: Pose, counts: np.ndarray, punches: list) -> list[str]:
        """What runs into punch and ram, in the better of both ways round; a punch of segments may leave the ends of the bend free."""
        ways = []
        free = min(self.brake.free, (pose.high - pose.low) / 4)
        for punch, ram in punches:
            found = []
            for what, shape, shorts in (("the punch", punch, (0.0, free)), ("the ram", ram, (0.0,))):
                at = affinity.translate(shape, 0.0, pose.tip)
                zones = [pose.meets(counts, at, short) for short in shorts]
                if all(z is not None for z in zones):
                    found.append(f"{self.name(zones[-1])} runs into {what}")  # type: ignore[arg-type]
            ways.append(found)
        return min(ways, key=len)

    def name(self, zone: int) -> str:
        """A face or bend in words."""
        if zone >= 0:
            key = self.fold.faces[zone].key
            return self.names.get(key, key.replace("_", " ")) if key else "the plate"
        key = self.fold.bends[-1 - zone].key
        return f"the bend of {self.names.get(key, key.replace('_', ' '))}"

    def steps(self, order: list[int]) -> list[Step]:
        """The steps of an order, with what every one of them runs into."""
        found: list[Step] = []
        for n, i in enumerate(order):
            stroke, before = self.strokes[i], self.strokes[order[n - 1]] if n else None
            tool, collides = self.at(i, frozenset(order[:n]))
            gauge = gauge_of(self.work, stroke.bends, self._shares(frozenset(order[:n]), i, 0.0), self.brake.gauge, self.name)
            needed = tool.force if tool else self._offset_force(stroke) if stroke.offset else 0.0
            found.append(
                Step(
                    stroke.bends,
                    tool,
                    gauge,
                    stroke.length,
                    needed,
                    stroke.offset,
                    bool(before and before.up != stroke.up),
                    bool(before and math.dist(before.way, stroke.way) > SAME),
                    collides,
                )
            )
        return found
