"""Where three boards meet: the volume common to all three is taken out of the pairwise patterns and given whole to one of them.

It goes to the board that owns most of the finger ends next to it, a tie by order; some board always owns one, so the cube stays
attached. The finger layout does not depend on who wins.
"""

from __future__ import annotations

from itertools import combinations

from zygon.making.blanks.blank import Blank
from zygon.making.joints.base import JointContext
from zygon.making.result.built import Finger
from zygon.tolerance import CONTACT

__all__ = ["settle_corners"]

Patterns = dict[str, tuple[Finger, ...]]


def settle_corners(contexts: dict[str, JointContext], patterns: Patterns, same: dict[str, str] | None = None) -> Patterns:
    """The finger patterns with every corner cube given to its owner; the arguments are left as they are.

    ``same`` names the original of boards that are copies: a cube at copies goes to the same board as at their originals.
    """
    pairs = {frozenset((c.record.a, c.record.b)): key for key, c in contexts.items()}
    settled = dict(patterns)
    neighbours: dict[str, set[str]] = {}
    for pair in pairs:
        for one in pair:
            neighbours.setdefault(one, set()).update(pair - {one})
    cubes: dict[frozenset[str], list[list[str]]] = {}
    for a in sorted(neighbours):
        for b, c in combinations(sorted(n for n in neighbours[a] if n > a), 2):
            if frozenset((b, c)) in pairs:
                keys = [pairs[frozenset(p)] for p in ((a, b), (a, c), (b, c))]
                if _is_cube(keys, contexts):
                    originals = frozenset((same or {}).get(x, x) for x in (a, b, c))
                    cubes.setdefault(originals, []).append(keys)
    for group in cubes.values():
        _settle(group, contexts, patterns, settled, same or {})
    return settled


def _blanks(keys: list[str], contexts: dict[str, JointContext]) -> dict[str, Blank]:
    return {b.key: b for k in keys for b in (contexts[k].a, contexts[k].b)}


def _is_cube(keys: list[str], contexts: dict[str, JointContext]) -> bool:
    """Whether three joints have a cube in common: it lies in all three blocks or there is none."""
    blanks = _blanks(keys, contexts)
    if len({b.frame.normal for b in blanks.values()}) != 3:
        return False
    slabs = {b.frame.normal: b.span.span(b.frame.normal) for b in blanks.values()}
    for k in keys:
        axis, (low, high) = contexts[k].contact.axis, contexts[k].contact.run
        if slabs[axis][0] < low - CONTACT or slabs[axis][1] > high + CONTACT:
            return False
    return True


def _settle(group: list[list[str]], contexts: dict[str, JointContext], patterns: Patterns, settled: Patterns, same: dict[str, str]) -> None:
    """Gives the cubes of an original and of its copies to one board: the one that owns most finger ends next to them."""
    votes: list[dict[str, int]] = []
    order: dict[str, tuple[int, str]] = {}
    for keys in group:
        blanks = _blanks(keys, contexts)
        slabs = {b.frame.normal: b.span.span(b.frame.normal) for b in blanks.values()}
        found: dict[str, int] = {}
        for key, blank in blanks.items():
            found[same.get(key, key)] = 0
            order[same.get(key, key)] = (blank.record.order, same.get(key, key))
        for k in keys:
            owner = _next_to(patterns[k], slabs[contexts[k].contact.axis])
            if owner:
                found[same.get(owner, owner)] += 1
        votes.append(found)
    winner = min(order, key=lambda key: (-min(1, *(v.get(key, 0) for v in votes)), -sum(v.get(key, 0) for v in votes), order[key]))
    for keys in group:
        blanks = _blanks(keys, contexts)
        slabs = {b.frame.normal: b.span.span(b.frame.normal) for b in blanks.values()}
        own = next(k for k in blanks if same.get(k, k) == winner)
        for k in keys:
            settled[k] = _given(settled[k], slabs[contexts[k].contact.axis], own)


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
