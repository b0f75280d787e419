"""Edits of a folded part's flanges."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.design.flange_words import flange_words
from zygon.design.folding import Folding
from zygon.design.layout_operations import fresh_key
from zygon.design.parts.kinds import is_plate
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError, ExpressionError
from zygon.geometry.frame import FACES, frame_of
from zygon.measure.syntax import Literal, Negative, parse

__all__ = ["mirror_wall", "remove_flange"]

_SWAPPED = {"low": "high", "high": "low"}


def remove_flange(document: Document, part: str, key: str) -> tuple[str, Patch]:
    """Label and patch that remove a flange with all that stands on it and the corners that any of them has a part in.

    With the last flange the part is no folded one any more: a board, or a bought block again. Raises DocumentError where there is none.
    """
    record = document.parts.get(part)
    folding = record.folding if is_plate(record) else None
    if record is None or folding is None or key not in folding.flanges:
        raise DocumentError(f"There is no flange {key} to remove", entry="key", value=key, rule="a flange of a folded part")
    gone = [key]
    for k in gone:  # it grows while it is gone through
        gone += [other for other, f in folding.flanges.items() if f.on == k and other not in gone]
    label = f"{record.name}: without {flange_words(key, folding.flanges)}"
    base = ("parts", part, "folding")
    if len(gone) < len(folding.flanges):
        corners = [k for k, c in folding.corners.items() if c.a in gone or c.b in gone]
        removed = [(*base, "corners", k) for k in corners] + [(*base, "flanges", k) for k in gone]
        return label, [{"op": "remove", "path": pointer(*where)} for where in removed]
    bought = getattr(record, "made", "") == "bought"
    said = document.dump()["parts"][part]
    # what only a folded part says; a bought block has its price still
    own = [f for f in ("folding", "made", *(() if bought else ("price",))) if f in said]
    kind = {"op": "replace", "path": pointer("parts", part, "kind"), "value": "bought" if bought else "board"}
    return label, [*({"op": "remove", "path": pointer("parts", part, f)} for f in own), kind]


def mirror_wall(document: Document, part: str, key: str, feature: str = "") -> tuple[str, Patch]:
    """Label and patch that give the wall across the plate what a wall has: its cuts and all that stands on it, or one ``feature`` alone.

    Where no wall stands there yet, the wall itself stands once more on the other half. What is there already stays. Raises DocumentError.
    """
    record = document.parts.get(part)
    folding = record.folding if is_plate(record) else None
    if record is None or not is_plate(record) or folding is None or key not in folding.flanges:
        raise DocumentError(f"There is no flange {key} to mirror", entry="key", value=key, rule="a flange of a folded part")
    flange, frame, name = folding.flanges[key], frame_of(record.plane), flange_words(key, folding.flanges)
    way = next((w for w, axis in (("u", frame.u), ("v", frame.v)) if flange.edge in FACES[axis]), "")
    if flange.on or not way:
        rule = "a flange on one of the plate's four sides"
        why = "stands on another flange: mirror the wall that carries it" if flange.on else "slants, and has no wall across from it"
        raise DocumentError(f"{name} {why}", entry="key", value=key, rule=rule)
    if flange.mirrored != "none":
        raise DocumentError(f"{name} stands on both halves already", entry="key", value=key, rule="a flange that stands once")
    if feature and feature not in getattr(flange, "features", {}):
        raise DocumentError(f"{name} has no {feature} cut into it", entry="feature", value=feature, rule="a cut of the flange")
    low, high = FACES[frame.u if way == "u" else frame.v]
    across = high if flange.edge == low else low
    other = next((k for k, f in folding.flanges.items() if f.edge == across and not f.on and not f.out), None)
    label = f"{record.name}: {f'{feature} of {name}' if feature else name} on the {across} too"
    if other is None:
        if feature:
            raise DocumentError(f"No wall stands on the {across} edge", entry="key", value=across, rule="a wall across the plate")
        return label, [{"op": "add", "path": pointer("parts", part, "folding", "flanges", key, "mirrored"), "value": way}]
    data = document.dump()["parts"][part]["folding"]["flanges"]
    patch = _onto(folding, data, pointer("parts", part, "folding", "flanges"), key, other, feature)
    if not patch:
        raise DocumentError(f"The wall on the {across} has all that {name} has", entry="key", value=key, rule="something to mirror")
    return label, patch


def _onto(folding: Folding, data: dict[str, Any], base: str, key: str, other: str, feature: str = "") -> Patch:
    """What gives flange ``other`` the mirror image of the cuts of ``key``, or one of them, and of what stands on it."""
    patch: Patch = []
    if "features" in data[other] or hasattr(folding.flanges[other], "features"):
        there = dict(data[other].get("features", {}))
        if not there:
            patch.append({"op": "add", "path": f"{base}{pointer(other, 'features')}", "value": {}})
        for k, own in data[key].get("features", {}).items():
            image = _mirrored_cut(own)
            if (feature and k != feature) or any({**f, "order": 0} == {**image, "order": 0} for f in there.values()):
                continue
            fresh = fresh_key(there, k)
            there[fresh] = image
            patch.append({"op": "add", "path": f"{base}{pointer(other, 'features', fresh)}", "value": image})
        if len(patch) == 1 and patch[0]["value"] == {}:
            patch = []
    if feature:
        return patch
    made = dict(data)
    for k, f in data.items():
        if f.get("on") != key or f.get("out"):
            continue
        edge = _SWAPPED.get(f["edge"], f["edge"])
        standing = next((n for n, g in data.items() if g.get("on") == other and g["edge"] == edge and not g.get("out")), None)
        if standing is not None:
            patch += _onto(folding, data, base, k, standing)
            continue
        patch += _copied(made, data, base, k, other, edge)
    return patch


def _copied(made: dict[str, Any], data: dict[str, Any], base: str, key: str, on: str, edge: str) -> Patch:
    """A flange once more on the other wall, mirrored, with all that stands on it."""
    own = data[key]
    fresh = fresh_key(made, f"{key}_2")
    image = {**own, "on": on, "edge": edge, "order": max(f.get("order", 0) for f in made.values()) + 1}
    if "features" in own:
        image["features"] = {k: _mirrored_cut(f) for k, f in own["features"].items()}
    match own.get("extent", "whole"):
        case "inset":
            image["first"], image["second"] = own["second"], own["first"]
        case "centred":
            image["second"] = _negated(own["second"])
        case "between":
            rule = "an extent that is whole, inset or centred"
            raise DocumentError(
                f"{key} begins so far from its low end, which its image does not have: inset it from both ends",
                entry="key",
                value=key,
                rule=rule,
            )
    made[fresh] = image
    patch: Patch = [{"op": "add", "path": f"{base}{pointer(fresh)}", "value": image}]
    for k, f in data.items():
        if f.get("on") == key and not f.get("out"):
            patch += _copied(made, data, base, k, fresh, _SWAPPED.get(f["edge"], f["edge"]))
    return patch


def _mirrored_cut(own: dict[str, Any]) -> dict[str, Any]:
    """A cut in a flange as its image across the plate has it: from the other end, turned the other way."""
    origin = own.get("u", {}).get("origin", "centre")
    offset = own.get("u", {}).get("offset", {"text": "0", "unit": "mm"})
    image = {**own, "u": {"origin": _SWAPPED.get(origin, origin), "offset": _negated(offset) if origin == "centre" else offset}}
    if "angle" in own:
        image["angle"] = _negated(own["angle"])
    return image


def _negated(entry: dict[str, str]) -> dict[str, str]:
    """An entry with the other sign."""
    text = entry["text"].strip()
    try:
        root = parse(text)
    except ExpressionError:
        return entry
    if isinstance(root, Literal):
        return entry if root.value == 0 else {**entry, "text": f"-{text}"}
    if isinstance(root, Negative) and isinstance(root.operand, Literal) and text.startswith("-"):
        return {**entry, "text": text[1:].lstrip()}
    return {**entry, "text": f"-({text})"}
