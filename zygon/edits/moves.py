"""What is said of movements, each as one edit: how far they are moved and may go, what they follow, what stands still, what is one thing, positions with names."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any, Literal

from zygon.design.document import Document
from zygon.design.layout_operations import fresh_key, fresh_name, without_moves
from zygon.design.movement import Move
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.making.movement.pieces import part_of
from zygon.making.movement.record import Movement
from zygon.making.movement.said import Said, said_of
from zygon.making.result.built import Built
from zygon.measure.display import exact_length
from zygon.measure.entry import Entry

__all__ = ["SAID", "couple_moves", "forget_move", "keep_position", "say_move", "stand_still", "tie_parts"]

#: What may be said of a movement, and what it is called in the history.
SAID = {
    "to": "moved to",
    "least": "not under",
    "most": "not over",
    "play_least": "end play at least",
    "play_most": "end play at most",
    "clear": "never nearer than",
}
Field = Literal["to", "least", "most", "play_least", "play_most", "clear"]


def say_move(built: Built, movement: str, field: Field, entry: Entry | None) -> tuple[str, Patch]:
    """Label and patch that say something of a movement, or no longer do; ``movement`` is its key as it was found. Raises DocumentError where there is none."""
    said = said_of(built)
    found = _movement(said, movement)
    own = said.of.get(movement)
    if entry is None:
        if own is None or getattr(own.record, field) is None:
            rule = "something that is said of a movement"
            raise DocumentError(f"Nothing of this is said of {_named(built, found)}", entry="field", value=field, rule=rule)
        return f"{own.record.name}: no longer {SAID[field]}", [{"op": "remove", "path": pointer("moves", own.key, field)}]
    if field.startswith("play") and found.kind != "turns":
        rule = "end play is asked of what turns"
        raise DocumentError(f"{_named(built, found)} slides: {rule}", entry="field", value=field, rule=rule)
    patch, key, name = _record(built, said, found)
    patch.append({"op": "add", "path": pointer("moves", key, field), "value": entry.model_dump(mode="json")})
    return f"{name}: {SAID[field]} {entry.text}", patch


def forget_move(built: Built, key: str) -> tuple[str, Patch]:
    """Label and patch that forget what is said of a movement, by its key in the document. Raises DocumentError where nothing is."""
    record = built.document.moves.get(key)
    if record is None:
        raise DocumentError(f"Nothing is said of {key}", entry="key", value=key, rule="what is said of a movement, by its key")
    return f"Forget what is said of {record.name}", without_moves(built.document, {key})


def couple_moves(built: Built, movement: str, follows: str | None, ratio: Entry) -> tuple[str, Patch]:
    """Label and patch that let a movement follow another, ``ratio`` times as far, or by itself again."""
    said = said_of(built)
    found = _movement(said, movement)
    own = said.of.get(movement)
    if follows is None:
        if own is None or own.record.follows is None:
            raise DocumentError(
                f"{_named(built, found)} follows nothing", entry="follows", value=None, rule="a movement that follows another"
            )
        return f"{own.record.name} moves by itself", [{"op": "remove", "path": pointer("moves", own.key, "follows")}]
    leader = _movement(said, follows)
    patch, first, leads = _record(built, said, leader)
    more, key, name = _record(built, said, found, beside={first: leads})
    value = {"move": first, "ratio": ratio.model_dump(mode="json")}
    patch += [*more, {"op": "add", "path": pointer("moves", key, "follows"), "value": value}]
    return f"{name} follows {leads}, {ratio.text} times as far", patch


def stand_still(built: Built, part: str) -> tuple[str, Patch]:
    """Label and patch that choose what stands still, by a part of it; '' for what bears the rest."""
    if part and part not in built.made:
        raise DocumentError(f"There is no part {part}", entry="part", value=part, rule="a part that is made")
    label = f"{built.parts[part].path} stands still" if part else "What bears the rest stands still"
    return label, [{"op": "add", "path": "/still", "value": part}]


def tie_parts(built: Built, a: str, b: str, how: Literal["held", "free", "as found"]) -> tuple[str, Patch]:
    """Label and patch that make two parts one thing, or free of one another, or leave them as they are found."""
    for part in (a, b):
        if part_of(part) not in built.made:
            raise DocumentError(f"There is no part {part}", entry="part", value=part, rule="two parts that are made")
    if part_of(a) == part_of(b):
        raise DocumentError("A part is one with itself", entry="b", value=b, rule="two parts")
    names = " and ".join(built.parts[part_of(k)].path for k in (a, b))
    before = [k for k, t in built.document.ties.items() if {t.a, t.b} == {a, b}]
    patch: Patch = [{"op": "remove", "path": pointer("ties", k)} for k in before]
    if how == "as found":
        if not before:
            raise DocumentError(f"Nothing is said of {names}", entry="how", value=how, rule="two parts of which something is said")
        return f"{names}: as they are found", patch
    key = fresh_key(built.document.ties, "tie")
    order = 1 + max((t.order for t in built.document.ties.values()), default=-1)
    patch.append({"op": "add", "path": pointer("ties", key), "value": {"a": a, "b": b, "how": how, "order": order}})
    return f"{names}: {'one thing' if how == 'held' else 'free of one another'}", patch


def keep_position(built: Built, name: str, at: Mapping[str, float]) -> tuple[str, Patch]:
    """Label and patch that keep how far movements are moved (radians or mm, by their keys) under a name; a position of that name is said anew."""
    said = said_of(built)
    document = built.document
    if not name.strip():
        raise DocumentError("A position has a name", entry="name", value=name, rule="1 to 40 characters")
    patch: Patch = []
    known: dict[str, str] = {}
    entries: dict[str, Any] = {}
    for movement, value in at.items():
        found = _movement(said, movement)
        more, key, own = _record(built, said, found, beside=known)
        known[key] = own
        patch += more
        entries[key] = figure(document, found.kind, value)
    before = next((k for k, p in document.positions.items() if p.name == name), None)
    key = before or fresh_key(document.positions, "position")
    order = document.positions[before].order if before else 1 + max((p.order for p in document.positions.values()), default=-1)
    patch.append({"op": "add", "path": pointer("positions", key), "value": {"name": name, "order": order, "at": entries}})
    return f"Position {name}", patch


def figure(document: Document, kind: str, value: float) -> dict[str, str]:
    """A value in radians or mm as an entry, to a hundredth of a degree or a thousandth of a millimetre."""
    if kind == "turns":
        return {"text": f"{round(math.degrees(value), 2) + 0.0:g} deg", "unit": document.unit}
    return {"text": exact_length(round(value, 3), document.unit).strip("()"), "unit": document.unit}


def _movement(said: Said, key: str) -> Movement:
    try:
        return said.movement(key)
    except KeyError:
        known = ", ".join(m.key for m in said.moving.movements) or "none"
        raise DocumentError(
            f"Nothing moves as {key}", entry="movement", value=key, rule=f"a movement of the design: {known}", code="bad_reference"
        ) from None


def _named(built: Built, movement: Movement) -> str:
    return built.parts[part_of(movement.thing.key)].path


def _record(built: Built, said: Said, found: Movement, beside: Mapping[str, str] | None = None) -> tuple[Patch, str, str]:
    """What makes a record of a movement where none speaks of it yet, its key, and its name; ``beside`` are those that are made with it."""
    own = said.of.get(found.key)
    if own is not None:
        return [], own.key, own.record.name
    document = built.document
    taken = dict(document.moves) | dict.fromkeys(beside or (), None)
    key = fresh_key(taken, "move")
    word = {"turns": "turn", "slides": "slide"}[found.kind]
    part = built.document.parts[built.parts[part_of(found.thing.key)].of].name
    name = fresh_name(document, f"{part}_{word}", set((beside or {}).values()))
    order = 1 + max((m.order for m in document.moves.values()), default=-1) + len(beside or ())
    several = sum(m.kind == found.kind and m.thing == found.thing for m in said.moving.movements) > 1
    value = Move(name=name, order=order, part=found.thing.key, kind=found.kind, axis=found.axis if several else "")
    return [{"op": "add", "path": pointer("moves", key), "value": value.model_dump(mode="json", exclude_none=True)}], key, name
