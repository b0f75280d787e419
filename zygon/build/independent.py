"""Independent copies: a mirror's or a row's copies made into boards of their own, which no longer stay in step with their originals."""

from __future__ import annotations

from typing import Any

from zygon.build.built import Built, BuiltPart
from zygon.design.document import Board
from zygon.design.layout_operations import fresh_key, fresh_name, remove_copy
from zygon.design.patch import Patch, pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.measure.display import exact_length

__all__ = ["make_independent"]


def make_independent(built: Built, key: str) -> tuple[str, Patch]:
    """Label and patch that put boards of their own, with all their features and joints, in place of a copy.

    Raises DocumentError for copies that are turned, of groups, or copied again: their boards have no place along the axes to be written down.
    """
    document = built.document
    copy = document.copies.get(key)
    if copy is None:
        raise DocumentError(f"There is no copy with the key {key!r}", entry=f"/copies/{key}", value=key, rule="a copy of the design")
    made = [p for p in built.parts.values() if p.made_by and p.made_by[-1][0] == key]
    odd = next((p for p in made if len(p.made_by) > 1 or p.record.group or p.record.turns or not p.place.square), None)  # type: ignore[union-attr]
    again = any(f"copy:{key}" in c.of for c in document.copies.values())
    if odd is not None or again or not made or any(p.span_box is None for p in made):
        rule = "a mirror or a row of boards that stand along the axes, outside groups, and are not copied again"
        raise DocumentError(
            f"{copy.name} cannot be made independent: it has to be {rule}", entry=f"/copies/{key}", value=copy.name, rule=rule
        )
    patch: Patch = []
    taken: set[str] = set()
    new_keys: dict[str, str] = {}
    parts: dict[str, Any] = {**document.parts}
    for part in made:
        name = fresh_name(document, part.path.replace(".", "_"), taken)
        if part.path in getattr(copy, "names", {}).values():
            name = part.path  # it keeps the name that entries use
        taken.add(name)
        new_keys[part.key] = fresh_key(parts, name)
        parts[new_keys[part.key]] = True
    removed = remove_copy(document, key)[1]
    patch += removed
    for n, part in enumerate(made):
        record = _record(built, part, copy.axis if copy.kind == "mirror" else "")
        record |= {
            "name": part.path if part.path in getattr(copy, "names", {}).values() else _name_of(part, new_keys),
            "order": _last(built) + n,
        }
        patch.append({"op": "add", "path": pointer("parts", new_keys[part.key]), "value": record})
    joints: dict[str, Any] = {**document.joints}
    for joint in built.joints.values():
        for a, b in joint.copies:
            ends = [new_keys.get(x, x) for x in (a, b)]
            if joint.refused or (a not in new_keys and b not in new_keys) or any("@" in x for x in ends):
                continue
            new = fresh_key(joints, f"{ends[0]}-{ends[1]}")
            joints[new] = True
            value = document.joints[joint.key].model_dump(mode="json", exclude_none=True) | {
                "a": ends[0],
                "b": ends[1],
                "order": len(joints),
            }
            patch.append({"op": "add", "path": pointer("joints", new), "value": value})
    return f"Make {copy.name} independent", patch


def _name_of(part: BuiltPart, keys: dict[str, str]) -> str:
    return keys[part.key]


def _last(built: Built) -> int:
    return max(p.order for p in built.document.parts.values()) + 1


def _record(built: Built, part: BuiltPart, axis: str) -> dict[str, Any]:
    """A copy's board written down: its place in numbers, its features mirrored along ``axis`` ('' for none)."""
    board: Board = part.record  # type: ignore[assignment]
    unit = built.document.unit
    original = built.parts[part.of]
    shift = [part.place.rows[i][3] for i in range(3)]

    def entry(value: float) -> dict[str, str]:
        return {"text": exact_length(value, unit).strip("()"), "unit": unit}

    def moved(name: str, value: float) -> float:
        i = AXES.index(name)
        return part.place.rows[i][i] * value + shift[i]

    data = board.model_dump(mode="json", exclude_none=True)
    spans = {}
    for name in board.spans:
        ends = sorted(moved(name, x) for x in original.span_box.span(name))  # type: ignore[union-attr]
        spans[name] = {"low": entry(ends[0]), "high": entry(ends[1])}
    normal = frame_of(board.plane).normal
    low = min(moved(normal, x) for x in original.span_box.span(normal))  # type: ignore[union-attr]
    data |= {"spans": spans, "position": {"face": FACES[normal][0], "at": entry(low)}, "turns": {}}
    if axis:
        data["features"] = {k: _mirrored(f, board, axis, built, part) for k, f in data["features"].items()}
        if axis == normal:
            data["up"] = "b" if board.up == "a" else "a"
    return data


def _mirrored(feature: dict[str, Any], board: Board, axis: str, built: Built, part: BuiltPart) -> dict[str, Any]:
    """A feature's record with the faces along an axis swapped and what runs along it turned round."""
    swap = dict(zip(FACES[axis], reversed(FACES[axis]), strict=True))
    frame = frame_of(board.plane)
    found = dict(feature)
    for field in ("edge", "face"):
        if feature.get(field) in swap:
            found[field] = swap[feature[field]]
    if feature.get("corner", "all") != "all":
        found["corner"] = "-".join(swap.get(w, w) for w in feature["corner"].split("-"))
    for name in ("u", "v"):
        if getattr(frame, name) != axis:
            continue
        spot = dict(feature[name])
        if spot["origin"] in swap:
            spot["origin"] = swap[spot["origin"]]
        elif spot["origin"] == "room":
            value = built.values[f"/parts/{part.of}/features/{_key_of(board, feature)}/{name}/offset"].value
            i = AXES.index(axis)
            mirrored = part.place.rows[i][i] * value + part.place.rows[i][3]
            spot["offset"] = {"text": exact_length(mirrored, built.document.unit).strip("()"), "unit": built.document.unit}
        else:
            spot["offset"] = {**spot["offset"], "text": f"-({spot['offset']['text']})"}
        found[name] = spot
        if "angle" in feature:
            found["angle"] = {**feature["angle"], "text": f"-({feature['angle']['text']})"}
    runs_along = feature.get("edge") in (*FACES["x"], *FACES["y"], *FACES["z"]) and feature["edge"] not in swap
    if runs_along and feature["kind"] == "taper":
        found["low"], found["high"] = feature["high"], feature["low"]
    if runs_along and feature["kind"] == "rebate":
        found["stop_low"], found["stop_high"] = feature["stop_high"], feature["stop_low"]
    return found


def _key_of(board: Board, feature: dict[str, Any]) -> str:
    return next(k for k, f in board.features.items() if f.model_dump(mode="json", exclude_none=True) == feature)
