"""Saw cuts that two slanting ends share: pieces turned end for end on the bar, so that one cut makes the end of the one and of the next.

A bar is planned on the long points of its pieces; what shared cuts leave over of it is counted afterwards.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import AtEnd
from zygon.stock.section import Section
from zygon.tolerance import SEEN

__all__ = ["Ends", "Slanting", "ends_of", "saw_cuts", "shared"]

#: By how much a section may be turned about its axis to lie on itself (radians); a round one by anything, what is open by nothing.
_FOLDS = {"square": math.pi / 2, "rectangle": math.pi, "hexagon": math.pi / 3}


@dataclass(frozen=True, order=True)
class Slanting:
    """An end that a saw cuts slanting: ``angle`` off square and ``toward`` which side, as far as turning the piece does not change that, in radians; two
    such ends lie ``saves`` mm into one another."""

    angle: float
    toward: float
    saves: float


Ends = tuple[Slanting | None, Slanting | None]


def ends_of(body: MemberBody) -> Ends:
    """What of the ends of a member can be cut together with another's; None where it is square, coped, or has no such other."""
    return _end(body, "a"), _end(body, "b")


def _end(body: MemberBody, end: AtEnd) -> Slanting | None:
    saw, section = body.saw(end), body.section
    if not saw.angle or section.open:
        return None
    if section.shape == "round":
        return Slanting(round(saw.angle, 4), 0.0, round(math.tan(saw.angle) * section.height, 4))
    fold = _FOLDS[section.shape]
    toward = saw.toward % fold
    # turned end for end it looks the other way round; only where that is the same does it fit on any other such end
    if min(abs(2 * toward - fold * k) for k in (0, 1, 2)) > SEEN:
        return None
    return Slanting(round(saw.angle, 4), round(toward, 4) % round(fold, 4), round(math.tan(saw.angle) * _across(section, saw.toward), 4))


def saw_cuts(pieces: int, slanting: int, shared: int, *, trimmed: bool, rest: float) -> int:
    """How many cuts a bar takes: ``slanting`` of its pieces' ends each have one of their own but where two are ``shared``, square ends meet in one,
    a bar that is trimmed has one more at its beginning; one of which nothing is left ends as its last piece does."""
    square = 2 * pieces - slanting
    whole = rest <= SEEN and not trimmed and square > 0
    return slanting - shared + math.ceil(square / 2) + trimmed - whole


def _across(section: Section, toward: float) -> float:
    """How far a section reaches along the side that a cut slants to, in mm."""
    way = (-math.sin(toward), math.cos(toward))
    along = [p[0] * way[0] + p[1] * way[1] for p in section.region.outer.flatten(0.01).tolist()]
    return max(along) - min(along)


def shared(pieces: Iterable[tuple[Ends, int]]) -> tuple[int, float]:
    """Of pieces by their ends, each so often, that are cut from one bar in whatever order: how many cuts two of them can share, and how many mm that saves.

    A piece is an edge between the ways in which its ends slant, and a run of pieces that share their cuts is a trail over such edges: as many ends as
    there are at a way, two by two, less one where all the pieces of a ring would meet themselves.
    """
    ends: Counter[Slanting] = Counter()
    beside: dict[Slanting, set[Slanting]] = {}
    loose: set[Slanting] = set()
    for (a, b), n in pieces:
        if not n:
            continue
        for one, other in ((a, b), (b, a)):
            if one is not None:
                ends[one] += n
                beside.setdefault(one, {one}).add(other or one)
                if other is None:
                    loose.add(one)
    count, saved, left = 0, 0.0, set(beside)
    while left:
        group, waiting = set[Slanting](), [min(left)]
        while waiting:
            now = waiting.pop()
            if now not in group:
                group.add(now)
                waiting += beside[now]
        left -= group
        pairs = {way: ends[way] // 2 for way in group}
        # a bar is no ring: where every end has another, the run begins and ends at one of them
        if not group & loose and all(ends[way] % 2 == 0 for way in group):
            pairs[min(group, key=lambda way: way.saves)] -= 1
        count += sum(pairs.values())
        saved += sum(way.saves * n for way, n in pairs.items())
    return count, round(saved, 4)
