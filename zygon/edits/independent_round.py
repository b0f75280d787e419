"""Rods and turned parts whose copies are made independent: what is said from end A, and what is drawn, as a mirror image has it."""

from __future__ import annotations

from typing import Any

from zygon.design.parts.kinds import is_rod, is_turned
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Drawing
from zygon.geometry.frame import AXES, FACES
from zygon.making.datums.on_plane import radial_of
from zygon.making.result.built import Built, MadePart
from zygon.measure.display import exact_length
from zygon.measure.entry import Entry

__all__ = ["mirrored_round", "moved_references"]

_ENDS = {"a": "b", "b": "a"}


def mirrored_round(built: Built, part: MadePart, data: dict[str, Any], axis: str, name: str) -> dict[str, Any]:
    """The record ``data`` of a rod or a turned part as its copy has it, mirrored along ``axis`` ('' for none)."""
    record = part.record
    if is_rod(record):
        if axis == record.axis and "worked" in data:
            data["worked"] = {_ENDS[k]: v for k, v in data["worked"].items()}
        return data
    if not is_turned(record):
        return data
    box = built.made[part.of].span_box
    low, high = box.span(record.axis)
    if record.drawing is not None:
        radial = radial_of(record.axis)
        first, second = (record.axis, radial) if record.axis < radial else (radial, record.axis)
        made = record.drawing
        if axis == record.axis:
            made = made.mirrored("x" if axis == first else "y", high - low)
        data["drawing"] = moved_references(built, part, name, made, axis, pointer("parts", part.of, "drawing"), (first, second))
    if axis == record.axis:
        _turned_end_for_end(built, part, data, high - low)
    elif axis:
        u = AXES[(AXES.index(record.axis) + 1) % 3]
        for field in ("flats", "cross"):
            for one in data.get(field, {}).values():
                angle = f"-({one['around']['text']})"
                one["around"] = {**one["around"], "text": f"180 deg + {angle}" if axis == u else angle}
    return data


def _turned_end_for_end(built: Built, part: MadePart, data: dict[str, Any], long: float) -> None:
    """What is said from end A is said from end B."""
    unit = built.document.unit

    def at(*path: str) -> float:
        return built.values[pointer("parts", part.of, *path)].value

    steps = sorted(data.get("steps", {}).items(), key=lambda ks: (ks[1].get("order", 0), ks[0]))
    for n, (_, step) in enumerate(reversed(steps)):
        step["order"] = n
        if "to" in step:
            step["across"], step["to"] = step["to"], step["across"]
    for bore in data.get("bores", {}).values():
        bore["end"] = _ENDS[bore["end"]]
    for key, flat in data.get("flats", {}).items():
        begins = long - at("flats", key, "begins") - at("flats", key, "length")
        flat["begins"] = {"text": exact_length(begins, unit), "unit": unit}
    for key, hole in data.get("cross", {}).items():
        hole["off"] = {"text": exact_length(long - at("cross", key, "off"), unit), "unit": unit}
    if "riveted" in data:
        data["riveted"] = {_ENDS[k]: v for k, v in data["riveted"].items()}


def moved_references(
    built: Built, part: MadePart, name: str, drawing: Drawing, axis: str, where: str, ways: tuple[str, str]
) -> dict[str, Any]:
    """The record of a drawing on a copy: its own sides stay those, mirrored along ``axis``; what else it refers to lies where it lay for the original, moved along."""
    swap = dict(zip(FACES[axis], reversed(FACES[axis]), strict=True)) if axis else {}
    data = drawing.model_dump(mode="json", exclude_none=True)

    def placed(key: str, way: str, entry: Entry, along: str) -> dict[str, str]:
        own, _, face = entry.text.partition(".")
        if own == part.record.name and face:
            return {"text": f"{name}.{swap.get(face, face)}", "unit": entry.unit}
        value = built.values[f"{where}{pointer('references', key, way)}"].value
        i = AXES.index(along)
        moved = part.place.rows[i][i] * value + part.place.rows[i][3]
        return {"text": exact_length(moved, built.document.unit).strip("()"), "unit": built.document.unit}

    for key, r in drawing.references.items():
        said = data["references"][key]
        # what it follows is the original's; where that lay stays
        said |= {"hole": "", "line": "", "body": ""}
        for way, entry, along in (("x", r.x, ways[0]), ("y", r.y, ways[1])):
            if entry is not None and along:
                said[way] = placed(key, way, entry, along)
    return data
