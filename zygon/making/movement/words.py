"""What moves, in a maker's words."""

from __future__ import annotations

import math
from collections.abc import Iterable

from zygon.making.movement.pieces import SET, part_of
from zygon.making.movement.record import Lies, Movement, Moving
from zygon.making.movement.travel import Stop, Travel
from zygon.making.result.built import Built
from zygon.measure.display import Display, format_length

__all__ = ["amount", "lies_words", "moves_words", "names", "piece_name", "stop_words", "travel_words", "way_words"]

#: What a slide along an axis is called, back and forth.
_WAYS = {"x": ("to the left", "to the right"), "y": ("to the front", "to the back"), "z": ("down", "up")}
#: A way that is so near to an axis (a cosine) is told by it.
ALONG = 0.999
#: So many names are told of a thing; others are counted.
MOST = 4


def names(built: Built, pieces: Iterable[str]) -> list[str]:
    """The names of the parts of pieces, each once, in order."""
    return list(dict.fromkeys(built.parts[part_of(p)].path for p in pieces if part_of(p) in built.parts))


def piece_name(built: Built, piece: str) -> str:
    """What a piece is called: the part's name, or of a set that of its bore."""
    if SET in piece:
        bore = piece.partition(SET)[2].rpartition(":")[0]
        return f"the set of {built.document.bores[bore].name}"
    return built.parts[part_of(piece)].path


def _some(found: list[str]) -> str:
    if len(found) <= MOST:
        return ", ".join(found)
    return f"{', '.join(found[: MOST - 1])} and {len(found) - MOST + 1} more"


def moves_words(built: Built, moving: Moving, movement: Movement) -> str:
    """'turns: shaft, crank · in left, right'."""
    own = names(built, movement.thing.pieces)
    on = [n for n in names(built, _carriers(moving, movement)) if n not in own]
    return f"{movement.kind}: {_some(own)}" + (f" · in {_some(on)}" if on else "")


def _carriers(moving: Moving, movement: Movement) -> list[str]:
    """The pieces of what carries a thing that it runs in or lies against; all of it where that is not known."""
    found = moving.carriers.get(movement.thing.key, ())
    return list(found or movement.on.pieces)


def amount(kind: str, by: float, display: Display) -> str:
    """How far, with its unit."""
    if kind == "slides":
        return format_length(round(by, 3), display)
    return f"{round(math.degrees(by), 2) + 0.0:g}°"


def way_words(movement: Movement, sign: int) -> str:
    """Which way a slide goes: 'to the front', 'up'."""
    k = "xyz".index(movement.axis)
    if abs(movement.way[k]) < ALONG:
        return "along its way" if sign > 0 else "back along its way"
    return _WAYS[movement.axis][movement.way[k] * sign > 0]


def stop_words(built: Built, movement: Movement, stop: Stop, sign: int) -> str:
    """'350 mm to the front: its limit', '90°: lid strikes wall'; turns are counted by the right hand about their axis, from where they are drawn."""
    display = built.document.display
    if stop.why == "round":
        return "all round"
    if stop.why == "out":
        return f"{way_words(movement, sign)}: comes out"
    if movement.kind == "turns":
        shown = amount("turns", round(stop.by, 6) + 0.0, display)
    else:
        shown = f"{amount('slides', abs(stop.by), display)} {way_words(movement, sign)}"
    if stop.why == "strikes":
        a, b = (piece_name(built, p) for p in (stop.a, stop.b))
        return f"{shown}: {a} strikes {b}"
    why = {"limit": "its limit", "loop": "what it hangs on takes it no farther"}[stop.why]
    return f"{shown}: {why}"


def travel_words(built: Built, movement: Movement, found: Travel) -> str:
    """From the one stop to the other."""
    if found.low.why == found.high.why == "round":
        return "turns all round"
    said = [stop_words(built, movement, s, sign) for s, sign in ((found.low, -1), (found.high, 1)) if not _none(s)]
    return "; ".join(said) or "does not move"


def _none(stop: Stop) -> bool:
    return abs(stop.by) < math.radians(0.01) and stop.why != "strikes"


def lies_words(built: Built, lies: Lies) -> str:
    """'lid lies on left, right'."""
    own = _some(names(built, lies.thing.pieces))
    on = [n for t in lies.on for n in names(built, t.pieces)]
    return f"{own} lies on {_some(on)}" if on else f"{own}: by itself"
