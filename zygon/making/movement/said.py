"""What is found together with what is said of it: limits, couplings, how far everything is moved now, and positions that have names."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from zygon.design.movement import Move
from zygon.design.pointer import pointer
from zygon.making.movement.found import movements_of
from zygon.making.movement.pose import Coupling, Posed, posed
from zygon.making.movement.record import Movement, Moving
from zygon.making.result.built import Built

__all__ = ["Said", "SaidMove", "said_of"]


@dataclass(frozen=True)
class SaidMove:
    """What is said of a movement, under its key in the document; values in radians or mm, None where nothing is said."""

    key: str
    record: Move
    to: float | None
    least: float | None
    most: float | None
    play_least: float | None
    play_most: float | None
    clear: float | None


@dataclass(frozen=True)
class Said:
    """``moving`` with the limits that are said, ``own`` what the hardware and contact leave without them; what is said by movement; the records that
    speak of what does not move (``lost``); the couplings of gears and of what is said; and where everything is moved to now."""

    moving: Moving
    own: Moving
    of: dict[str, SaidMove]
    lost: tuple[str, ...]
    couplings: tuple[Coupling, ...]
    at: dict[str, float]
    positions: dict[str, dict[str, float]]

    def movement(self, key: str) -> Movement:
        """A movement by its key. Raises KeyError where there is none."""
        found = next((m for m in self.moving.movements if m.key == key), None)
        if found is None:
            raise KeyError(key)
        return found

    def key_of(self, said: str) -> str | None:
        """The movement that a record speaks of."""
        return next((k for k, s in self.of.items() if s.key == said), None)

    def posed(self, at: Mapping[str, float] | None = None) -> Posed:
        """Where everything lies with movements as they are moved now, or as they are said."""
        return posed(self.moving, self.couplings, self.at if at is None else at)


def said_of(built: Built) -> Said:
    """What moves in a design, and what is said of it."""
    own = movements_of(built)
    records = {k: m for k, m in sorted(built.document.moves.items(), key=lambda km: (km[1].order, km[0])) if not m.out}
    of: dict[str, SaidMove] = {}
    for key, record in records.items():
        found = _meant(own, record)
        if found is not None and found.key not in of:
            of[found.key] = _values(built, key, record)
    known = {s.key: k for k, s in of.items()}
    lost = tuple(k for k in records if k not in known)
    limited = tuple(_limited(m, of.get(m.key)) for m in own.movements)
    moving = replace(own, movements=limited)
    couplings = [Coupling(g.first, g.second, g.ratio) for g in own.meshed]
    for key, record in records.items():
        follows = record.follows
        if follows is None or key not in known or follows.move not in known:
            continue
        ratio = built.values.get(pointer("moves", key, "follows", "ratio"))
        if ratio is not None:
            couplings.append(
                Coupling(known[follows.move], known[key], ratio.value * _unit(record.kind) / _unit(records[follows.move].kind))
            )
    positions = {k: _position(built, k, known) for k in built.document.positions}
    return Said(moving, own, of, lost, tuple(couplings), {k: s.to for k, s in of.items() if s.to is not None}, positions)


def _unit(kind: str) -> float:
    """What 1 of a movement is as it is told: a degree, or a millimetre."""
    return math.radians(1) if kind == "turns" else 1.0


def _meant(moving: Moving, record: Move) -> Movement | None:
    """The movement that a record speaks of."""
    own = [m for m in moving.movements if m.kind == record.kind and record.part in m.thing.pieces]
    return next((m for m in own if not record.axis or m.axis == record.axis), None)


def _values(built: Built, key: str, record: Move) -> SaidMove:
    def value(field: str) -> float | None:
        found = built.values.get(pointer("moves", key, field))
        return found.value if found is not None else None

    return SaidMove(
        key,
        record,
        value("to"),
        value("least"),
        value("most"),
        value("play_least"),
        value("play_most"),
        value("clear"),
    )


def _limited(movement: Movement, said: SaidMove | None) -> Movement:
    if said is None:
        return movement
    least = movement.least if said.least is None else max(movement.least, said.least)
    most = movement.most if said.most is None else min(movement.most, said.most)
    return replace(movement, least=least, most=most)


def _position(built: Built, key: str, known: Mapping[str, str]) -> dict[str, float]:
    found = {}
    for moved in built.document.positions[key].at:
        value = built.values.get(pointer("positions", key, "at", moved))
        if value is not None and moved in known:
            found[known[moved]] = value.value
    return found
