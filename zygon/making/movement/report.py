"""How far everything that moves can go, from where it is drawn: kept by what it was found from, since it takes a second or two."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from zygon.making.movement.pose import stepped
from zygon.making.movement.record import Movement
from zygon.making.movement.said import Said
from zygon.making.movement.travel import Stop, Travel, hangs_together, travel
from zygon.memo import Memo, digest

__all__ = ["Play", "play_of", "together_with", "travel_of"]

_TRAVELS = Memo(400)
#: A shaft that goes no farther than this (mm) along its axis, stopped both ways, has end play; what goes farther slides.
MOST_PLAY = 8.0
#: A movement that goes with another is looked at in so many steps each way.
SEEN = 180
#: Places nearer than this (radians or mm) are one.
SAME = 1e-4


@dataclass(frozen=True)
class Play:
    """How far (mm) a shaft goes along its axis in all, and what stops it at each end."""

    along: Movement
    size: float
    low: Stop
    high: Stop


def together_with(said: Said, key: str) -> set[str]:
    """The movements that go where one goes, that one among them."""
    return hangs_together(said.moving, said.couplings, key)


def travel_of(said: Said, key: str, *, free: bool = False, told: Callable[[float], None] = lambda _: None) -> Travel:
    """How far a movement can go from where everything is drawn, between its own limits, or ``free`` of those that are said."""
    moving = said.own if free else said.moving
    movement = next(m for m in moving.movements if m.key == key)
    which = digest("travel", moving.digest, [(m.key, m.least, m.most) for m in moving.movements], said.couplings, key)

    def make() -> Travel:
        leader = min(together_with(said, key), key=[m.key for m in moving.movements].index)
        if leader != key:  # what hangs together is looked for once
            return _seen(travel_of(said, leader, free=free, told=told), said, leader, key)
        return travel(moving, said.couplings, movement, told)

    return _TRAVELS.get(which, make)[0]


def _seen(found: Travel, said: Said, leader: str, key: str) -> Travel:
    """How far a movement goes that goes with another one, whose stops are known: what turns back before them has no stop of its own there."""
    gone: list[tuple[float, Stop | None]] = [(0.0, None)]
    for stop in (found.low, found.high):
        steps = [at[key] for at, _ in stepped(said.moving, said.couplings, {}, leader, stop.by, SEEN)] if stop.by else []
        gone += [(by, stop if n == len(steps) - 1 else None) for n, by in enumerate(steps)]
        if not steps:
            gone.append((0.0, stop))
    ends = []
    for pick in (min, max):
        by = pick(g for g, _ in gone)
        reached = next((s for g, s in gone if s is not None and abs(g - by) < SAME), None)
        ends.append(replace(reached, by=by) if reached is not None else Stop(by, "loop"))
    return Travel(ends[0], ends[1])


def play_of(said: Said, key: str) -> Play | None:
    """The end play of what turns: how far it goes along its axis between what stops it; None where nothing lets it, or nothing stops it."""
    turning = said.movement(key)
    along = next((m for m in said.moving.movements if m.kind == "slides" and m.thing == turning.thing), None)
    if turning.kind != "turns" or along is None:
        return None
    found = travel_of(said, along.key, free=True)
    size = found.high.by - found.low.by
    if found.low.why != "strikes" or found.high.why != "strikes" or size > MOST_PLAY:
        return None
    return Play(along, size, found.low, found.high)
