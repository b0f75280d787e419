"""Splitting a folded part in two along a line across its plate: an overlap that steps under the other half, and what holds both together.

Flanges on the edges that the line crosses are split with the plate; those beside it go to their half, and so does what is cut into the plate.
"""

from __future__ import annotations

import copy
from typing import Any, Literal

from zygon.design.document import Document
from zygon.design.layout_operations import fresh_key, fresh_name
from zygon.design.patch import Patch, pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES, frame_of

__all__ = ["Hold", "split_part"]

Hold = Literal["rivets", "tabs", "none"]
#: The step under the other half: its angle, and how far before the line it begins (mm), so that it has levelled out there.
STEP_ANGLE, STEP_ROOM = 30.0, 6.0


def split_part(document: Document, key: str, axis: str, at: float, places: dict[str, float], thickness: float, overlap: float = 16.0, hold: Hold = "rivets",
               diameter: float = 3.2, number: int = 4) -> tuple[str, Patch]:  # fmt: skip
    """Label and patch that make two parts of a folded one, split at a place ``at`` (mm in its own room) along an axis of its plate.

    ``places`` are the plate's own span ends and its features' places by pointer, in mm; ``overlap`` is how far the first half reaches under the second.
    The overlap steps towards face B and is about as long as said. ``hold``: a row of rivet holes through both, tabs of the first half through slots of the second, or nothing. Raises DocumentError where it cannot be.
    """
    part = document.boards(out=True).get(key)
    if part is None or part.folding is None:
        raise DocumentError("Only a folded part is split", entry="part", value=key, rule="a folded part of the design")
    frame = frame_of(part.plane)
    if axis not in (frame.u, frame.v):
        raise DocumentError(f"{part.name} does not run along {axis}", entry="axis", value=axis, rule=f"{frame.u} or {frame.v}")
    low, high = places[pointer("parts", key, "spans", axis, "low")], places[pointer("parts", key, "spans", axis, "high")]
    room = STEP_ROOM + 2 * thickness
    if not low + room < at < high - overlap - room:
        rule = f"between {low + room:g} and {high - overlap - room:g} mm, with room for the overlap on both sides"
        raise DocumentError(f"{part.name} cannot be split at {at:g} mm: {rule}", entry="at", value=at, rule=rule)
    if not 2 <= number <= 50 or not 0 < diameter < overlap / 2:
        rule = "2 to 50 of them, less than half as wide as the overlap"
        raise DocumentError(f"What holds both halves: {rule}", entry="number", value=[number, diameter], rule=rule)
    other = fresh_name(document, f"{part.name}_2")
    second = fresh_key(document.parts, other)
    data = part.model_dump(mode="json", exclude_none=True)
    halves = copy.deepcopy(data), copy.deepcopy(data)
    halves[1]["name"], halves[1]["order"] = other, max(p.order for p in document.parts.values()) + 1
    halves[0]["spans"][axis]["high"] = _mm(at - STEP_ROOM)
    halves[1]["spans"][axis]["low"] = _mm(at)
    faces = FACES[axis]
    for n, half in enumerate(halves):
        half["folding"]["sequence"] = []
        _keep_flanges(half, faces[1 - n], faces, part.name)
        half["features"] = _kept_features(data, key, axis, frame, (low, high), at, places, n)
    edge, across = faces[1], frame.v if axis == frame.u else frame.u
    entry = f"{2 * thickness:g} mm"
    halves[0]["folding"]["flanges"]["overlap"] = {
        "kind": "offset", "name": "overlap", "edge": edge, "toward": "b", "height": _mm(thickness), "angle": {"text": f"{STEP_ANGLE:g} deg", "unit": "mm"},
        "length": _mm(overlap + STEP_ROOM / 2), "extent": "inset", "first": {"text": entry, "unit": "mm"}, "second": {"text": entry, "unit": "mm"}, "order": 900,
        "relief": {"style": "none"},
    }  # fmt: skip
    patch: Patch = [
        {"op": "replace", "path": pointer("parts", key), "value": halves[0]},
        {"op": "add", "path": pointer("parts", second), "value": halves[1]},
    ]
    a0, a1 = places[pointer("parts", key, "spans", across, "low")], places[pointer("parts", key, "spans", across, "high")]
    middle = at + overlap / 2
    spots = [a0 + (a1 - a0) * (i + 0.5) / number for i in range(number)]
    if hold == "rivets":
        for i, spot in enumerate(spots, 1):
            name = f"{part.name} rivet {i}"[:40]
            bore = {"name": name, "axis": frame.normal, "at": {axis: _mm(middle), across: _mm(spot)}, "diameter": _mm(diameter), "order": 900 + i,
                    "low": _by(part.name, FACES[frame.normal][0], "-", thickness), "high": _by(part.name, FACES[frame.normal][1], "+", thickness),
                    "parts": {key: {"action": "cut"}, second: {"action": "cut"}}}  # fmt: skip
            patch.append({"op": "add", "path": pointer("bores", fresh_key(document.bores, f"rivet_{key}_{i}")), "value": bore})
    elif hold == "tabs":
        _add_tabs(halves, axis, frame, faces, spots, (a0, a1), overlap, thickness, number)
    return f"{part.name}: split in two at {at:g} mm", patch


def _mm(value: float) -> dict[str, str]:
    return {"text": f"{round(value, 4):g} mm", "unit": "mm"}


def _by(name: str, face: str, way: str, thickness: float) -> dict[str, str]:
    """A little more than the overlap's thickness past a face of the plate, so that a lip over it is not drilled."""
    return {"text": f"{name}.{face} {way} {1.5 * thickness:g} mm", "unit": "mm"}


def _keep_flanges(half: dict[str, Any], gone: str, faces: tuple[str, str], name: str) -> None:
    """Takes the flanges of the other end away, with all that stands on them; those along the split edges must take the whole of them."""
    flanges = half["folding"]["flanges"]
    for key, f in flanges.items():
        if not f.get("on") and f["edge"] not in faces and f.get("extent", "whole") != "whole" and f["kind"] != "line":
            rule = "flanges that the line crosses take their whole edge"
            raise DocumentError(f"{name}, {f.get('name') or key}: {rule}", entry=f"flanges/{key}/extent", value=f["extent"], rule=rule)
    removed = {k for k, f in flanges.items() if not f.get("on") and f["edge"] == gone}
    while True:
        more = {k for k, f in flanges.items() if f.get("on") in removed} - removed
        if not more:
            break
        removed |= more
    for k in removed:
        del flanges[k]
    half["folding"]["corners"] = {k: c for k, c in half["folding"].get("corners", {}).items() if not {c["a"], c["b"]} & removed}


def _kept_features(
    data: dict[str, Any], key: str, axis: str, frame: Any, ends: tuple[float, float], at: float, places: dict[str, float], half: int
) -> dict[str, Any]:
    """The features whose middle lies in a half, each placed from that half's own outer edge."""
    name = "u" if axis == frame.u else "v"
    faces, found = FACES[axis], {}
    for k, f in data.get("features", {}).items():
        origin = f[name]["origin"]
        offset = places.get(pointer("parts", key, "features", k, name, "offset"), 0.0)
        middle = {faces[0]: ends[0] + offset, faces[1]: ends[1] - offset, "room": offset}.get(origin, (ends[0] + ends[1]) / 2 + offset)
        if (middle >= at) != bool(half):
            continue
        from_edge = middle - ends[0] if not half else ends[1] - middle
        found[k] = {**f, name: {"origin": faces[half], "offset": _mm(from_edge)}}
    return found


def _add_tabs(halves: tuple[dict, dict], axis: str, frame: Any, faces: tuple[str, str], spots: list[float], ends: tuple[float, float], overlap: float,
              thickness: float, number: int) -> None:  # fmt: skip
    """Tabs that stand up from the overlap's far edge, and slots for them in the second half."""
    width = min((ends[1] - ends[0]) / number / 2, 20.0)
    slot_names = ("u", "v") if axis == frame.u else ("v", "u")
    inset = 2 * thickness
    for i, spot in enumerate(spots, 1):
        first = spot - ends[0] - inset - width / 2
        halves[0]["folding"]["flanges"][f"tab_{i}"] = {
            "kind": "flange", "name": f"tab {i}", "on": "overlap", "edge": "end", "toward": "a", "length": _mm(3 * thickness + 4), "extent": "between",
            "first": _mm(first), "second": _mm(first + width), "order": 901 + i, "where": "outside",
        }  # fmt: skip
        slot = {
            "kind": "rectangle", "name": f"slot {i}", "order": 900 + i, "radius": {"text": "0", "unit": "mm"},
            slot_names[0]: {"origin": faces[0], "offset": _mm(overlap - 1.5 * thickness)},
            slot_names[1]: {"origin": FACES[frame.v if axis == frame.u else frame.u][0], "offset": _mm(spot - ends[0])},
        }  # fmt: skip
        along, acrosswise = _mm(4 * thickness + 2), _mm(width + 1)
        slot |= {"width": along, "height": acrosswise} if axis == frame.u else {"width": acrosswise, "height": along}
        halves[1]["features"][f"slot_{i}"] = slot
