"""What holds the parts up: from the ground, over what each one rests on, pins and fastenings; and how far the others would drop, or tip.

A part that lies loose on others is held where its centre of gravity lies over what bears it; joints of any kind hold it too.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np
import shapely

from zygon.design.parts.kinds import is_plate
from zygon.making.assembly.sweep import TOUCH, WAYS, along, runs_into, solid_parts, tolerance_of
from zygon.making.result.built import Built, MadePart
from zygon.making.solids.solids import footprint, volume_and_centre
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody

__all__ = ["PLAY", "Drop", "drops", "halves", "is_riveted", "threaded"]

#: Play (mm) within which a part counts as resting: the loosest fits of the trade.
PLAY = 1.2
DOWN = ("z", -1)
#: A centre of gravity this far beyond what bears it (mm) is still in balance: rounding.
BALANCE = 0.01


@dataclass(frozen=True)
class Drop:
    """A part that nothing holds up: how far it would fall in mm, and onto which part ('' for the ground)."""

    part: str
    height: float
    onto: str
    #: where it lies on something and tips: the way ('x', 1), and how far its centre of gravity lies beyond what bears it (mm)
    way: tuple[str, int] | None = None
    beyond: float = 0.0


def drops(built: Built) -> list[Drop]:
    """The parts that nothing holds up, in the cut list's order."""
    parts = solid_parts(built)
    if not parts:
        return []
    ground = min(p.reaches[0][2] for p in parts)
    held = {p.key for p in parts if p.reaches[0][2] <= ground + PLAY}
    ties, joined = _ties(built), _joined(built)
    tips: dict[str, tuple[tuple[str, int], float]] = {}
    bites = tolerance_of(built)

    def holds(part: MadePart, others: list[MadePart]) -> bool:
        """Whether held parts hold one: tied, resting in a joint, or lying on them in balance."""
        bearing = []
        bought = not part.record.cut_here  # its own screws keep it on whatever it lies against
        for other in others:
            pair = frozenset((part.key, other.key))
            if pair in ties or (bought and any(runs_into(part, other, way, PLAY, TOUCH) for way in WAYS)):
                return True
            if runs_into(part, other, DOWN, PLAY, bites.get(pair, TOUCH)):
                if pair in joined:
                    return True
                bearing.append(other)
        if not bearing:
            return False
        over = _over(part, bearing)
        if over is not None:
            tips[part.key] = over
        return over is None

    boxes = _Boxes(parts)
    waiting = [p for p in parts if p.key not in held]
    found = True
    while found and waiting:
        found = False
        for part in list(waiting):
            if holds(part, [other for other in boxes.near(part, PLAY) if other.key in held]):
                held.add(part.key)
                waiting.remove(part)
                found = True
    return [
        Drop(p.key, 0.0, "", *tips[p.key])
        if p.key in tips
        else _drop(p, [q for q in boxes.near(p, p.reaches[0][2] - ground) if q.key in held], ground)
        for p in waiting
    ]


class _Boxes:
    """The room that parts take, to find what lies about or below one without asking each."""

    def __init__(self, parts: list[MadePart]) -> None:
        self.parts = parts
        self.lows, self.highs = (np.array([p.reaches[k] for p in parts]) for k in (0, 1))

    def near(self, part: MadePart, below: float) -> list[MadePart]:
        """The others that it meets where it is moved by ``PLAY`` any way, or by ``below`` mm down; in order."""
        low, high = (np.array(c) for c in part.reaches)
        low, high = low - PLAY, high + PLAY
        low[2] = min(low[2], part.reaches[0][2] - below)
        found = np.flatnonzero(((self.lows <= high) & (self.highs >= low)).all(axis=1))
        return [self.parts[i] for i in found.tolist() if self.parts[i] is not part]


def _joined(built: Built) -> set[frozenset[str]]:
    """Pairs with a joint that is cut."""
    return {frozenset(p) for j in built.joints.values() if not j.refused and j.fingers for p in j.pairs}


def _over(part: MadePart, bearing: list[MadePart]) -> tuple[tuple[str, int], float] | None:
    """The way in which a part tips off what it lies on, and by how much its centre of gravity lies beyond that; None where it is in balance."""
    places = [g for other in bearing for g in footprint(part, other, PLAY)]
    if not places:
        return None
    base = shapely.convex_hull(shapely.union_all(places))
    x, y, _ = volume_and_centre(part)[1]
    centre = shapely.Point(x, y)
    beyond = float(base.distance(centre))
    if beyond <= BALANCE:
        return None
    nearest = shapely.get_coordinates(shapely.shortest_line(base, centre))[0]
    way = (x - nearest[0], y - nearest[1])
    k = 0 if abs(way[0]) >= abs(way[1]) else 1
    return ("xy"[k], 1 if way[k] > 0 else -1), beyond


def _ties(built: Built) -> set[frozenset[str]]:
    """Pairs of which one holds the other: fastened, held by one set, pressed on or in, pinned across, or pressed together; and halves of one part at their common cut."""
    kept = {pair for pair, s in built.seated.items() if s.fastened}
    return (
        halves(built)
        | kept
        | threaded(built)
        | {pair for pair, fit in built.bored.items() if fit <= 0 or any(is_riveted(built.made[k]) for k in pair if k in built.made)}
        | {frozenset(pair) for s in built.sets.values() for place in s.places for pair in combinations(place.parts, 2)}
        | {
            frozenset(p)
            for j in built.joints.values()
            for p in j.pairs
            if not j.refused
            and (j.fastened or (j.holds and p[0] in built.made and along(built.made[p[0]], j.holds) != "z") or (j.fit < 0 and j.fingers))
        }
    )


def is_riveted(part: MadePart) -> bool:
    """Whether an end of it is riveted over what it goes through."""
    return isinstance(part.body, TurnedBody) and bool(part.body.riveted)


def threaded(built: Built) -> set[frozenset[str]]:
    """Pairs of a part with a thread on its end and what that goes through or into: its nuts hold it there."""
    found = set()
    for part in built.made.values():
        body, m = part.body, np.array(part.matrix)
        for tip, place in body.tipped() if isinstance(body, MemberBody | BentBody) else ():
            if not tip.thread:
                continue
            ends = np.array([(0.0, 0.0, -tip.long), (0.0, 0.0, 0.0)])
            seen = place.points(ends) @ m[:3, :3].T + m[:3, 3]
            low, high = seen.min(axis=0), seen.max(axis=0)
            for other in built.made.values():
                if other is not part and (low <= other.reaches[1]).all() and (high >= other.reaches[0]).all():
                    found.add(frozenset((part.key, other.key)))
    return found


def halves(built: Built) -> set[frozenset[str]]:
    """Pairs of halves that were cut from one folded part by the same line, which rivets or tabs hold together there."""
    cut = [(p, s) for p in built.parts.values() if is_plate(p.record) and p.record.folding and (s := p.record.folding.split)]
    return {
        frozenset((a.key, b.key))
        for a, one in cut
        for b, other in cut
        if a.made_by == b.made_by and one.axis == other.axis and one.high is not None and one.high == other.low
    }


def _drop(part: MadePart, held: list[MadePart], ground: float) -> Drop:
    """How far a part falls, to a hundredth of a millimetre; what it would run into is told apart by TOUCH, which is taken off again."""
    most = part.reaches[0][2] - ground
    best, onto = most, ""
    for other in held:
        if not runs_into(part, other, DOWN, round(best, 3), TOUCH):
            continue
        low, high = 0.0, best
        while high - low > 0.001:
            middle = (low + high) / 2
            low, high = (low, middle) if runs_into(part, other, DOWN, round(middle, 4), TOUCH) else (middle, high)
        if high - TOUCH < best:
            best, onto = max(high - TOUCH, 0.0), other.key
    return Drop(part.key, round(best, 2), onto)
