"""A board placed in a room, or several evenly, and what it touches joined: what a hand does in the picture, as edits."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from zygon.design.document import Document
from zygon.design.drawers import MOST
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, mirror, next_order
from zygon.design.parts.kinds import is_placed
from zygon.design.patch import Patch, patched
from zygon.design.pointer import pointer
from zygon.errors import DocumentError, ExpressionError
from zygon.geometry.frame import AXES, FACES, Plane, frame_of
from zygon.making.asked.questions import Meeting
from zygon.making.asked.thirds import crossing_triples, thirds
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.making.rooms.catches import evenly
from zygon.making.rooms.free import Bound
from zygon.making.rooms.named import figure, named_places
from zygon.measure.evaluate import evaluate
from zygon.owner import part_id
from zygon.tolerance import WITHIN

__all__ = ["comparable", "join_all", "place_board"]

#: What a board that stands so is called until it is called something else.
NAMES: dict[Plane, str] = {"lying": "shelf", "facing_side": "divider", "facing_front": "panel"}
#: And the first one of a design.
FIRST_NAMES: dict[Plane, str] = {"lying": "floor", "facing_side": "side", "facing_front": "front"}
#: And one that stands at the low or the high end of the design.
END_NAMES: dict[Plane, tuple[str, str]] = {"lying": ("floor", "top"), "facing_side": ("left", "right"), "facing_front": ("front", "back")}


def place_board(
    built: Built,
    stock: str,
    plane: Plane,
    spans: dict[str, tuple[str, str]],
    face: str,
    at: str,
    *,
    number: int = 1,
    between: tuple[str, str] | None = None,
    pair: bool = False,
) -> tuple[str, Patch]:
    """Label and patch of a board that runs from ``spans[axis][0]`` to ``[1]`` with its ``face`` at a place; all are entries.

    With a ``number`` over 1 so many stand evenly ``between`` two places along its thickness, copies of the first in a row. As a ``pair`` another one,
    its mirror image, stands as far from the other of the two places. Raises DocumentError.
    """
    document, frame = built.document, frame_of(plane)
    _check_stands(document, stock, plane, spans, face)
    if not 1 <= number <= MOST:
        raise DocumentError(f"{number} boards: from 1 to {MOST} are placed at once", entry="number", value=number, rule=f"1 to {MOST}")
    if (number > 1 or pair) and between is None:
        raise DocumentError("Several boards stand between two places", entry="between", value=None, rule="two places")
    between = comparable(built, frame.normal, between) if between else None
    name = fresh_name(document, _wish(built, plane, face, at, pair=pair))
    key = fresh_key(document.parts, name)
    spacing = ""
    if number > 1 and not pair and between:
        face = FACES[frame.normal][0]
        at, spacing = evenly(Bound(0.0, between[0]), Bound(0.0, between[1]), number, name)
    record = {
        "kind": "board",
        "name": name,
        "stock": stock,
        "plane": plane,
        "order": next_order(document.parts),
        "position": {"face": face, "at": entry_of(document, at)},
        "spans": {axis: {"low": entry_of(document, low), "high": entry_of(document, high)} for axis, (low, high) in spans.items()},
    }
    patch: Patch = [{"op": "add", "path": pointer("parts", key), "value": record}]
    if pair and between:
        placed = patched(document.dump(), patch)
        patch += mirror(placed, [part_id(key)], frame.normal, f"mid({between[0]}, {between[1]})")[1]
        return f"Pair of boards {name}", patch
    if number == 1:
        return f"Board {name}", patch
    row = {
        "kind": "row",
        "name": f"{name} evenly",
        "of": [part_id(key)],
        "axis": frame.normal,
        "order": next_order(document.copies),
        "number": entry_of(document, str(number)),
        "spacing": entry_of(document, spacing),
    }
    patch.append({"op": "add", "path": pointer("copies", fresh_key(document.copies, f"{name}_row")), "value": row})
    return f"{number} boards {name}, evenly", patch


def comparable(built: Built, axis: str, ends: tuple[str, str]) -> tuple[str, str]:
    """Two places along an axis, as entries, so that one may be taken from the other: a figure beside a name is said from that name.

    An entry that cannot be worked out stays as it is.
    """
    scope = EntryScope(solve(built.document, built.good, leg_face), axis)
    found = []
    for text in ends:
        try:
            found.append(evaluate(text, built.document.unit, "length", scope))
        except ExpressionError:
            return ends
    if bool(found[0].axis) == bool(found[1].axis):
        return ends
    named = 0 if found[0].axis else 1
    off = found[1 - named].value - found[named].value
    said = f"{ends[named]} {'-' if off < 0 else '+'} {figure(abs(off), built.document.unit)}"
    return (ends[0], said) if named == 0 else (said, ends[1])


def _check_stands(document: Document, stock: str, plane: Plane, spans: dict[str, tuple[str, str]], face: str) -> None:
    frame = frame_of(plane)
    if stock not in document.sheets:
        raise DocumentError("A board is cut from a sheet of this design", entry="stock", value=stock, rule="a sheet stock of the design")
    if set(spans) != {frame.u, frame.v}:
        raise DocumentError(
            f"A board that stands so runs along {frame.u} and {frame.v}", entry="spans", value=sorted(spans), rule="its two axes"
        )
    if face not in (*FACES[frame.normal], "centre"):
        rule = f"{FACES[frame.normal][0]}, {FACES[frame.normal][1]} or centre"
        raise DocumentError(f"A board that stands so is placed by its {rule}", entry="face", value=face, rule=rule)


def _wish(built: Built, plane: Plane, face: str, at: str, *, pair: bool) -> str:
    """What a board would be called: by the end of the design at which it stands, else by how it stands."""
    document, axis = built.document, frame_of(plane).normal
    if not document.placed(out=True):
        return FIRST_NAMES[plane]
    used = {p.name for p in document.parts.values()}
    low, high = END_NAMES[plane]
    if pair and low not in used:
        return low
    place = next((p.value for p in named_places(solve(document, built.good, leg_face), axis) if p.text == at), None)
    reaches = [p.reaches for p in built.made.values() if not p.record.aside]
    if place is None or not reaches or pair:
        return NAMES[plane]
    k, ends = AXES.index(axis), FACES[axis]
    if face == ends[0] and place <= min(r[0][k] for r in reaches) + WITHIN and low not in used:
        return low
    if face == ends[1] and place >= max(r[1][k] for r in reaches) - WITHIN and high not in used:
        return high
    return NAMES[plane]


def join_all(built: Built, pairs: list[tuple[str, str, str]]) -> tuple[str, Patch]:
    """Label and patch that join boards in pairs (a, b, kind), each whichever way round it can be. Raises DocumentError where a pair cannot.

    A pair that a copy of an earlier one's joint joins in the same way needs none of its own.
    """
    document, meeting = built.document, Meeting(built.document)
    patch: Patch = []
    keys: dict[str, Any] = dict(document.joints)
    done: set[tuple[frozenset[str], str]] = set()
    for n, (a, b, kind) in enumerate(pairs):
        if (frozenset((a, b)), kind) in done:
            continue
        offers = [o for o in meeting.offers(a, b) if o["kind"] == kind]
        offer = next((o for o in offers if not o["refused"]), None)
        if offer is None:
            why = offers[0]["refused"] if offers else f"there is no joint {kind}"
            names = " and ".join(_path(built, k) for k in (a, b))
            raise DocumentError(f"{names} cannot be joined so: {why}", entry="pairs", value=kind, rule=why)
        one, other = (a, b) if offer["order"] == "ab" else (b, a)
        key = fresh_key(keys, f"{one}-{other}".replace("@", "_"))
        keys[key] = True
        record = {"kind": kind, "a": one, "b": other, "order": next_order(document.joints) + len(patch)}
        patch.append({"op": "add", "path": pointer("joints", key), "value": record})
        if any(_originals(a, b) == _originals(x, y) for x, y, _ in pairs[n + 1 :]):
            joined = build(patched(document.dump(), patch))
            done |= {(frozenset(pair), kind) for pair in joined.joints[key].pairs}
    patch += _shared(built, patch, keys.keys() - document.joints.keys())
    first = _path(built, pairs[0][0]) if pairs else ""
    return f"Join {first} to {len(pairs)}" if len(pairs) != 1 else f"Join {first} to {_path(built, pairs[0][1])}", patch


def _shared(built: Built, patch: Patch, made: Collection[str]) -> Patch:
    """Where a new cross lap is the third of three boards that cross on one line, they share it in thirds: else the middle one is cut in two."""
    if not any(op["value"]["kind"] == "cross_lap" for op in patch):
        return []
    document = patched(built.document.dump(), patch)
    return [op for keys in crossing_triples(document, made) for op in thirds(document, keys)]


def _originals(*keys: str) -> frozenset[str]:
    return frozenset(k.partition("@")[0] for k in keys)


def _path(built: Built, key: str) -> str:
    part = built.parts.get(key)
    record = built.document.parts.get(key)
    return part.path if part else record.name if is_placed(record) else key
