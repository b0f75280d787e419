"""What is said of movements, as values: limits, play, the positions that have names. How far each is moved is a datum, which other entries may read."""

from __future__ import annotations

from zygon.design.pointer import pointer
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.measure.quantity import Kind
from zygon.owner import move_id

__all__ = ["read_moves"]


def read_moves(values: Values) -> None:
    """Reads what is said of movements; what cannot be read is a fault of its entry."""
    scope = EntryScope(values)
    moves = values.document.moves
    for key, move in moves.items():
        if move.out:
            continue
        kind: Kind = "angle" if move.kind == "turns" else "length"
        said = [("least", move.least, kind), ("most", move.most, kind)]
        said += [(f, getattr(move, f), "length") for f in ("play_least", "play_most", "clear")]
        for field, entry, of in said:
            if entry is not None:
                values.read(entry, pointer("moves", key, field), of, scope, owner=move_id(key))
        if move.follows is not None:
            values.read(move.follows.ratio, pointer("moves", key, "follows", "ratio"), "number", scope, fallback=1.0, owner=move_id(key))
    for key, position in values.document.positions.items():
        for moved, entry in position.at.items():
            if moved in moves and not moves[moved].out:
                of = "angle" if moves[moved].kind == "turns" else "length"
                values.read(entry, pointer("positions", key, "at", moved), of, scope, owner=move_id(moved))
