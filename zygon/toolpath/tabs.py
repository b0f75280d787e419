"""Tabs: where parts stay held in the sheet while they are cut out, clear of corners, joints and bends, where there is something across the cut that holds them.

Paths of parts that lie a bit's width apart run in one channel: a tab is kept by every path that passes it, and may hold one part on another.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import shapely

from zygon.geometry.contour import Contour
from zygon.owner import is_of
from zygon.toolpath.descents import Tabs
from zygon.toolpath.pieces import CHORD
from zygon.toolpath.stretches import stretch

__all__ = ["Held", "TabPlan", "planned"]

#: A tab reaches so far (mm) into what it holds on.
BEYOND = 0.3
#: Paths of two parts take all between them where these lie nearer than four radii: a tab reaches from one part to the other, so many radii from the path.
ACROSS = 3.0
#: Places to begin a tab are looked at so far apart (mm).
STEP = 2.0
#: What is left of a sheet between cuts holds nothing where it is smaller than this (mm²).
FIRM = 400.0
#: A place on what is firm is taken rather than one on another part, up to this share of the way between tabs farther.
RATHER = 0.5
#: Tabs stand no nearer to one another than this share of the way between them.
NEAREST = 0.4


@dataclass(frozen=True)
class Held:
    """A cut all round that wants tabs: its compensated path with material to its left, and which part it is of."""

    wall: Contour
    part: int


@dataclass(frozen=True)
class _Place:
    """Where along a path a tab's zone begins (mm), what it holds on, and how far beyond the cut that is."""

    at: float
    node: int
    away: float


@dataclass
class TabPlan:
    """Tabs on a sheet. ``counts`` are those of each path that was asked for, ``loose`` the parts that hang on nothing firm."""

    radius: float
    top: float
    cores: list[shapely.Geometry] = field(default_factory=list)
    counts: list[int] = field(default_factory=list)
    loose: set[int] = field(default_factory=set)
    _tree: shapely.STRtree | None = None

    def on(self, run: Contour) -> Tabs:
        """Where a run once round is lifted: wherever its bit would take something of a tab."""
        if not self.cores:
            return Tabs()
        if self._tree is None:
            self._tree = shapely.STRtree([shapely.buffer(c, self.radius, quad_segs=4) for c in self.cores])
        line = _line(run)
        share = run.length / line.length
        zones = []
        for k in self._tree.query(line, predicate="intersects").tolist():
            for piece in shapely.get_parts(shapely.intersection(line, self._tree.geometries[k])):
                if piece.geom_type == "LineString" and piece.length > 0:
                    ends = sorted(line.project(shapely.Point(p)) * share for p in (piece.coords[0], piece.coords[-1]))
                    if ends[1] - ends[0] > run.length / 2 > piece.length:  # it ends where the run does
                        ends = [0.0, ends[0]] if ends[0] > run.length - ends[1] else [ends[1], run.length]
                    zones.append((ends[0], ends[1]))
        return Tabs(tuple(sorted(zones)), self.top)

    def clear_of(self, run: Contour) -> list[int]:
        """The corners of a closed run at which it may be begun: all that no tab is near to, all of them where there are none."""
        every = list(range(len(run.points)))
        if not self.cores or len(every) < 2:
            return every
        near = shapely.buffer(shapely.union_all(self.cores), 2 * self.radius)
        return [k for k in every if not shapely.intersects_xy(near, *run.points[k])] or every


def planned(
    held: Sequence[Held],
    bodies: Sequence[shapely.Geometry],
    sheet: shapely.Geometry,
    radius: float,
    count: int,
    length: float,
    top: float,
    finish: float = 0.0,
) -> TabPlan:
    """``count`` tabs ``length`` mm long on each path, spread alike, as many as have room; ``top`` is their height under the face.

    The cut is wider by ``finish`` (mm), by which a run before lies farther out.
    """
    far = radius + finish
    plan = TabPlan(radius, top)
    if not count:
        plan.counts = [0] * len(held)
        return plan
    lines = np.array([_line(h.wall, closed=True) for h in held], object)
    taken = shapely.union_all([*shapely.buffer(lines, far, quad_segs=4), *bodies])
    firm = [p for p in shapely.get_parts(shapely.difference(sheet, taken)) if p.area >= FIRM]
    nodes = [*bodies, *firm]
    tree = shapely.STRtree(nodes)
    root = len(bodies) + max(range(len(firm)), key=lambda k: firm[k].area) if firm else -1
    links: list[tuple[int, int]] = []
    for h in held:
        places = _places(h, tree, radius, far, length)
        zones = _spread(places, h.wall.length, count, length + 2 * radius, radius, root)
        plan.counts.append(len(zones))
        for z in zones:
            middle = stretch(h.wall.segments(), z.at + radius, z.at + radius + length)
            plan.cores.append(shapely.buffer(_line(middle), far + z.away + BEYOND, cap_style="flat"))
            links.append((h.part, z.node))
    plan.loose = _loose(links, {h.part for h in held}, root)
    return plan


def _line(run: Contour, closed: bool = False) -> shapely.LineString:
    places = run.flatten(CHORD)
    return shapely.LineString([*places, places[0]] if closed or run.closed else places)


def _places(h: Held, tree: shapely.STRtree, radius: float, far: float, length: float) -> list[_Place]:
    """Where along a path a tab's zone may begin, and what it would hold on."""
    zone = length + 2 * radius
    starts: list[float] = []
    probes: list[tuple[float, float, float, float]] = []
    done = 0.0
    for s in h.wall.segments():
        low, high = done + radius, done + s.length - radius - zone
        if high >= low and not is_of(s.owner, "joint", "bend"):
            n = max(1, math.ceil((high - low) / STEP))
            for k in range(n + 1):
                at = low + (high - low) * k / n
                starts.append(at)
                for share in (0.0, 0.5, 1.0):
                    one = stretch([s], 0.0, at - done + radius + length * share)
                    (x, y), (dx, dy) = one.points[-1], one.segments()[-1].tangents()[1]
                    ray = ACROSS * far + BEYOND
                    probes.append((x + dy * far, y - dx * far, x + dy * ray, y - dx * ray))
        done += s.length
    if not starts:
        return []
    facing, away = _facing(np.array(probes), tree, h.part)
    groups, gaps = facing.reshape(-1, 3), away.reshape(-1, 3).max(axis=1)
    firm = (groups[:, 0] >= 0) & (groups[:, 0] == groups[:, 1]) & (groups[:, 1] == groups[:, 2])
    return [_Place(starts[k], int(groups[k, 0]), float(gaps[k])) for k in np.nonzero(firm)[0].tolist()]


def _facing(probes: np.ndarray, tree: shapely.STRtree, part: int) -> tuple[np.ndarray, np.ndarray]:
    """What lies first on each probe (n, 4: from, to), -1 where nothing does, and how far along it."""
    rays = shapely.linestrings(probes.reshape(-1, 2, 2))
    feet = shapely.points(probes[:, :2])
    which, nodes = tree.query(rays, predicate="intersects")
    facing, away = np.full(len(probes), -1), np.zeros(len(probes))
    other = nodes != part
    which, nodes = which[other], nodes[other]
    far = shapely.distance(feet[which], tree.geometries[nodes])
    order = np.lexsort((far, which))
    first = np.unique(which[order], return_index=True)[1]
    chosen = order[first]
    facing[which[chosen]], away[which[chosen]] = nodes[chosen], far[chosen]
    return facing, away


def _spread(places: list[_Place], around: float, count: int, zone: float, apart: float, root: int) -> list[_Place]:
    found: list[_Place] = []
    # two that stand close together hold no more than one
    least = max(zone + apart, around / count * NEAREST)
    for k in range(count):
        wanted = around * (k + 0.5) / count - zone / 2
        free = [p for p in places if all(abs(p.at - f.at) >= least for f in found)]
        if free:
            found.append(min(free, key=lambda p: (round(abs(p.at - wanted) + (p.node != root) * RATHER * around / count, 3), p.at)))
    return found


def _loose(links: Sequence[tuple[int, int]], parts: set[int], root: int) -> set[int]:
    """The parts that no chain of tabs holds on the largest piece of what is left."""
    beside: dict[int, set[int]] = {}
    for a, b in links:
        beside.setdefault(a, set()).add(b)
        beside.setdefault(b, set()).add(a)
    reached, front = {root}, [root]
    while front:
        for n in beside.get(front.pop(), set()) - reached:
            reached.add(n)
            front.append(n)
    return parts - reached
