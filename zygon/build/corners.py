"""Where three boards meet: the volume common to all three is taken out of the pairwise patterns and given whole to one of them.

It goes to the board that owns most of the finger ends next to it, a tie by order; some board always owns one, so the cube stays
attached. The finger layout does not depend on who wins.
"""

from __future__ import annotations

from itertools import combinations

from zygon.build.built import Finger
from zygon.build.joints.base import JointContext
from zygon.geometry.tolerance import CONTACT

__all__ = ["settle_corners"]

Patterns = dict[str, tuple[Finger, ...]]


def settle_corners(contexts: dict[str, JointContext], patterns: Patterns) -> Patterns:
    """The finger patterns with every corner cube given to its owner; the arguments are left as they are."""
    pairs = {frozenset((c.record.a, c.record.b)): key for key, c in contexts.items()}
    settled = dict(patterns)
    neighbours: dict[str, set[str]] = {}
    for pair in pairs:
        for one in pair:
            neighbours.setdefault(one, set()).update(pair - {one})
    for a in sorted(neighbours):
        for b, c in combinations(sorted(n for n in neighbours[a] if n > a), 2):
            if frozenset((b, c)) in pairs:
                keys = [pairs[frozenset(p)] for p in ((a, b), (a, c), (b, c))]
                _settle(keys, contexts, patterns, settled)
    return settled


def _settle(keys: list[str], contexts: dict[str, JointContext], patterns: Patterns, settled: Patterns) -> None:
    blanks = {b.key: b for k in keys for b in (contexts[k].a, contexts[k].b)}
    if len({b.frame.normal for b in blanks.values()}) != 3:
        return
    slabs = {b.frame.normal: b.span.span(b.frame.normal) for b in blanks.values()}
    for k in keys:  # the cube lies in all three blocks or there is none
        axis, (low, high) = contexts[k].contact.axis, contexts[k].contact.run
        if slabs[axis][0] < low - CONTACT or slabs[axis][1] > high + CONTACT:
            return
    votes: dict[str, int] = dict.fromkeys(blanks, 0)
    for k in keys:
        owner = _next_to(patterns[k], slabs[contexts[k].contact.axis])
        if owner:
            votes[owner] += 1
    order = {key: (b.record.order, key) for key, b in blanks.items()}
    winner = min(blanks, key=lambda key: (-votes[key], order[key]))
    for k in keys:
        settled[k] = _given(settled[k], slabs[contexts[k].contact.axis], winner)


def _next_to(fingers: tuple[Finger, ...], cube: tuple[float, float]) -> str | None:
    """Who owns the finger end next to the cube: on its inner side along the run."""
    low, high = fingers[0].low, fingers[-1].high
    inner_up = (cube[0] + cube[1]) / 2 < (low + high) / 2
    at = cube[1] if inner_up else cube[0]
    for f in fingers:
        if (inner_up and f.low <= at + CONTACT < f.high - CONTACT) or (not inner_up and f.low + CONTACT < at - CONTACT <= f.high):
            return f.owner
    return None


def _given(fingers: tuple[Finger, ...], cube: tuple[float, float], winner: str) -> tuple[Finger, ...]:
    """The pattern with the stretch of the cube owned by the winner."""
    low, high = max(cube[0], fingers[0].low), min(cube[1], fingers[-1].high)
    found: list[Finger] = []
    for f in fingers:
        if f.low < low - CONTACT:
            found.append(Finger(f.low, min(f.high, low), f.owner))
    found.append(Finger(low, high, winner))
    for f in fingers:
        if f.high > high + CONTACT:
            found.append(Finger(max(f.low, high), f.high, f.owner))
    return tuple(found)
