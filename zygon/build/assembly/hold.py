"""What holds the parts up: from the ground, over what each one rests on, pins and fastenings; and how far the others would drop.

Tipping over is not looked at: a part that rests on something counts as held.
"""

from __future__ import annotations

from dataclasses import dataclass

from zygon.build.assembly.sweep import TOUCH, runs_into, solid_parts, tolerance_of
from zygon.build.built import Built, BuiltPart

__all__ = ["Drop", "drops"]

#: Play (mm) within which a part counts as resting: the loosest fits of the trade.
PLAY = 1.2
DOWN = ("z", -1)


@dataclass(frozen=True)
class Drop:
    """A part that nothing holds up: how far it would fall in mm, and onto which part ('' for the ground)."""

    part: str
    height: float
    onto: str


def drops(built: Built) -> list[Drop]:
    """The parts that nothing holds up, in the cut list's order."""
    parts = solid_parts(built)
    if not parts:
        return []
    ground = min(p.reaches[0][2] for p in parts)
    held = {p.key for p in parts if p.reaches[0][2] <= ground + PLAY}
    ties = _ties(built)
    bites = tolerance_of(built)

    def rests(a: BuiltPart, b: BuiltPart) -> bool:
        pair = frozenset((a.key, b.key))
        return pair in ties or runs_into(a, b, DOWN, PLAY, bites.get(pair, TOUCH))

    waiting = [p for p in parts if p.key not in held]
    found = True
    while found and waiting:
        found = False
        for part in list(waiting):
            if any(rests(part, other) for other in parts if other.key in held):
                held.add(part.key)
                waiting.remove(part)
                found = True
    return [_drop(part, [p for p in parts if p.key in held], ground) for part in waiting]


def _ties(built: Built) -> set[frozenset[str]]:
    """Pairs of which one holds the other: fastened, pinned across, or pressed together."""
    return {
        frozenset(p)
        for j in built.joints.values()
        for p in j.pairs
        if not j.refused and (j.fastened or (j.holds and j.holds != "z") or (j.fit < 0 and j.fingers))
    }


def _drop(part: BuiltPart, held: list[BuiltPart], ground: float) -> Drop:
    """How far a part falls, to a hundredth of a millimetre."""
    most = part.reaches[0][2] - ground
    best, onto = most, ""
    for other in held:
        if not runs_into(part, other, DOWN, round(best, 3), TOUCH):
            continue
        low, high = 0.0, best
        while high - low > 0.01:
            middle = (low + high) / 2
            low, high = (low, middle) if runs_into(part, other, DOWN, round(middle, 4), TOUCH) else (middle, high)
        if high - TOUCH < best:
            best, onto = max(high - TOUCH, 0.0), other.key
    return Drop(part.key, round(best, 2), onto)
