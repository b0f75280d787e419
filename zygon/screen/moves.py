"""What moves in a design, and how far, as a screen is told of it."""

from __future__ import annotations

from collections.abc import Callable

from zygon.design.pointer import pointer
from zygon.making.movement.pieces import parts_of
from zygon.making.movement.pose import stepped
from zygon.making.movement.record import Movement
from zygon.making.movement.report import play_of, together_with, travel_of
from zygon.making.movement.said import Said, said_of
from zygon.making.movement.travel import Stop
from zygon.making.movement.words import lies_words, moves_words, names, stop_words, travel_words
from zygon.making.result.built import Built
from zygon.measure.display import format_length
from zygon.screen.shown.moves import ShownKnot, ShownMove, ShownMoveEntry, ShownMoves, ShownStop, ShownTravel

__all__ = ["moves_data", "travel_data"]

#: So many knots a track has each way.
KNOTS = 48
#: A loop that is no farther open than this (mm) is closed.
OPEN = 0.01
#: The entries of what is said of a movement.
ENTRIES = ("to", "least", "most", "play_least", "play_most", "clear")


def moves_data(built: Built) -> ShownMoves:
    """The things of a design, which of them stands still, its movements with what is said of them, and what only lies there."""
    said = said_of(built)
    moving = said.moving
    at = said.posed().at if moving.movements else {}
    return {
        "things": [{"key": t.key, "pieces": list(t.pieces), "parts": list(parts_of(t.pieces))} for t in moving.things],
        "still": list(parts_of(moving.still.pieces)) if moving.still else [],
        "chosen": bool(built.document.still),
        "moves": [_move(built, said, m, at.get(m.key, 0.0)) for m in moving.movements],
        "loose": [{"parts": list(parts_of(x.thing.pieces)), "words": lies_words(built, x)} for x in moving.loose],
        "positions": [
            {"key": k, "name": p.name, "at": said.positions[k]}
            for k, p in sorted(built.document.positions.items(), key=lambda kp: (kp[1].order, kp[0]))
        ],
    }


def _move(built: Built, said: Said, m: Movement, now: float) -> ShownMove:
    own = said.of.get(m.key)
    entries: dict[str, ShownMoveEntry] = {}
    for field in ENTRIES if own else ():
        entry = getattr(own.record, field) if own else None
        if own and entry is not None:
            value = built.values.get(pointer("moves", own.key, field))
            entries[field] = {"text": entry.text, "value": value.value if value else None}
    follows = own.record.follows if own else None
    return {
        "key": m.key,
        "kind": m.kind,
        "thing": m.thing.key,
        "on": m.carried,
        "way": m.way,
        "at": m.at,
        "pitch": m.pitch,
        "name": own.record.name if own else names(built, [m.thing.key])[0],
        "words": moves_words(built, said.moving, m),
        "parts": list(parts_of(m.thing.pieces)),
        "carrier": m.on.key,
        "group": [k.key for k in said.moving.movements if k.key in together_with(said, m.key)],
        "said": own.key if own else "",
        "entries": entries,
        "follows": (said.key_of(follows.move) or "") if follows else "",
        "ratio": follows.ratio.text if follows else "",
        "now": now,
    }


def travel_data(built: Built, key: str, told: Callable[[float], None] = lambda _: None) -> ShownTravel:
    """How far a movement goes; ``told`` hears which share of the search is done. Raises KeyError where there is none."""
    said = said_of(built)
    movement = said.movement(key)
    found = travel_of(said, key, told=told)
    play = play_of(said, key)
    words = travel_words(built, movement, found)
    return {
        "low": _stop(built, movement, found.low, -1),
        "high": _stop(built, movement, found.high, 1),
        "words": words,
        "play": _play_words(built, play.size) if play else "",
        "track": _track(said, key, found.low.by, found.high.by),
    }


def _play_words(built: Built, size: float) -> str:
    return f"{format_length(round(size, 3), built.document.display)} of end play"


def _stop(built: Built, movement: Movement, stop: Stop, sign: int) -> ShownStop:
    return {
        "by": stop.by,
        "why": stop.why,
        "parts": list(parts_of(p for p in (stop.a, stop.b) if p)),
        "at": stop.at,
        "words": stop_words(built, movement, stop, sign),
    }


def _track(said: Said, key: str, low: float, high: float) -> list[ShownKnot]:
    group = together_with(said, key)
    if len(group) == 1:
        return []
    rest = dict.fromkeys(group, 0.0)
    found: list[ShownKnot] = [{"by": 0.0, "at": rest}]
    for end in (low, high):
        for at, off in stepped(said.moving, said.couplings, {}, key, end, KNOTS) if end else ():
            if off < OPEN:
                found.append({"by": at[key], "at": {k: at[k] for k in group}})
    return sorted(found, key=lambda k: k["by"])
