"""Bringing a document of an older schema up to date: one pure function a version."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from zygon.design.document import SCHEMA, Document, parse_document
from zygon.design.plain import copied
from zygon.design.text import cleaned
from zygon.errors import DocumentError, ExpressionError
from zygon.geometry.frame import across
from zygon.measure.syntax import FaceRef, parse, references

__all__ = ["UPGRADES", "as_schema", "load", "upgraded"]

Step = Callable[[dict[str, Any]], dict[str, Any]]


def _to_2(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 2 brought depth, other cutters and more joints; all that schema 1 says still means the same."""
    return data


def _to_3(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 3 brought turns, groups, copies, outlines and clearances; all that schema 2 says still means the same."""
    return data


def _to_4(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 4 brought folded parts and bend data; all that schema 3 says still means the same."""
    return data


#: A mixed number straight behind * or /, as schema 4 read it, with the unit that belongs to it.
_MIXED_FACTOR = re.compile(r"([*/]\s*(?:[-+]\s*)*)(\d+[- ]\d+/\d+(?!\s*[*/(.\d])(?:\s*(?:(?:mm|cm|m|in|ft|deg|rad|ga)(?!\w)|[\"'°]))?)")


def _to_5(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 5 reads ``10/2-1/2`` as 4.5; what was read as one mixed number behind * or / is bracketed, so that no value moves.

    It also names the faces of mirror images as they stand.
    """
    _each_entry(data, lambda text: _MIXED_FACTOR.sub(r"\1(\2)", text))
    _name_images_as_they_stand(data)
    return data


def _name_images_as_they_stand(data: dict[str, Any]) -> None:
    """Schema 5 names the faces of a mirror image as they stand, so what named them by their original's words names the other one now."""
    copies = {k: c for k, c in data.get("copies", {}).items() if isinstance(c, dict) and c.get("kind") == "mirror"}
    axes = {name: str(c.get("axis", "")) for c in copies.values() for name in c.get("names", {}).values()}

    def renamed(text: str) -> str:
        try:
            found = [r for r in references(parse(text)) if isinstance(r, FaceRef) and axes.get(r.part)]
        except ExpressionError:
            return text
        for ref in reversed(found):
            text = f"{text[: ref.start]}{ref.part}.{across(ref.face, axes[ref.part])}{text[ref.end :]}"
        return text

    if axes:
        _each_entry(data, renamed)
    measured = [s["measured"] for s in data.get("sizes", {}).values() if s.get("measured")]
    for record in [*measured, *data.get("clearances", {}).values()]:
        for end in ("a", "b"):
            place = record.get(end, {})
            swapped: set[str] = set()
            for step in str(place.get("part", "")).split("@")[1:]:
                if step.rpartition(".")[0] in copies:
                    swapped ^= {copies[step.rpartition(".")[0]]["axis"]}
            if swapped and place.get("what") in ("face", "edge"):
                place["name"] = "-".join(across(w, swapped) for w in place["name"].split("-"))


def _each_entry(data: Any, change: Callable[[str], str]) -> None:
    """Changes the text of every entry in plain data, in place."""
    if isinstance(data, list):
        for item in data:
            _each_entry(item, change)
    elif isinstance(data, dict):
        if isinstance(data.get("text"), str) and set(data) <= {"text", "unit"}:
            data["text"] = change(data["text"])
        for item in data.values():
            _each_entry(item, change)


#: What schema 5 said of the stock that bought blocks were shown as; nothing was cut from it.
_BOUGHT = {
    "name": "Bought things",
    "material": "bought",
    "nominal": {"text": "1 mm", "unit": "mm"},
    "density": 1.0,
    "tint": "#8C959E",
    "hatch": "plastic",
    "order": 90,
}
#: What a board said in schema 5 that only some kinds of parts say now.
_SAID_BY = {
    "board": frozenset[str](),
    "folded": frozenset({"made", "price", "folding"}),
    "bought": frozenset({"price", "deep", "mass", "solid"}),
}


def _to_6(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 6 tells boards, folded parts and bought parts apart by their kind; what is bought needs no stock, and a stock says that it bends."""
    for part in _records(data, "parts"):
        if part.get("kind") == "item":
            part.pop("made", None)
        elif part.get("kind") == "board":
            part["kind"] = kind = "folded" if part.get("folding") else "bought" if part.get("made") == "bought" else "board"
            for name in frozenset({"made", "price", "folding", "deep", "mass", "solid"}) - _SAID_BY[kind]:
                part.pop(name, None)
            if kind == "bought" and part.get("stock") == "bought" and part.get("deep"):
                part["stock"] = ""
    for stock in _records(data, "stocks"):
        if stock.get("kind", "sheet") == "sheet":
            stock["bends"] = stock.get("hatch") == "metal"
    named = [r for group in ("parts", "fits", "tests") for r in _records(data, group)]
    if not any(r.get("stock") == "bought" for r in named) and isinstance(data.get("stocks"), dict):
        stock = data["stocks"].get("bought")
        # the one that came with bought blocks, whatever was left to its defaults
        if isinstance(stock, dict) and stock.get("material") == "bought" and not stock.get("sheets"):
            del data["stocks"]["bought"]
    return data


def _from_6(data: dict[str, Any]) -> dict[str, Any]:
    """A document of schema 6 as schema 5 would have said it, so that an edit of that time can be taken back."""
    for stock in _records(data, "stocks"):
        stock.pop("bends", None)
    for part in _records(data, "parts"):
        if part.get("kind") == "item":
            part["made"] = "bought"
        elif part.get("kind") in ("folded", "bought", "board"):
            part.setdefault("made", "bought" if part["kind"] == "bought" else "cut")
            part.setdefault("price", 0.0)
            part["kind"] = "board"
            if part.get("stock") == "":
                part["stock"] = "bought"
                data.setdefault("stocks", {}).setdefault("bought", copied(_BOUGHT))
    return data


#: What schema 6 said of a bend where nothing else was meant; since then the part says it for all of its flanges.
_AS_THE_PART = {"where": "outside", "measured": "outer"}


def _flanges(data: dict[str, Any]) -> list[tuple[dict[str, Any], list[dict[str, Any]]]]:
    """Each folding with those of its flanges that its sizes speak for."""
    found = []
    for part in _records(data, "parts"):
        folding = part.get("folding")
        if isinstance(folding, dict):
            flanges = [f for f in _records(folding, "flanges") if f.get("kind", "flange") in ("flange", "profile")]
            found.append((folding, flanges))
    return found


def _to_7(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 7 says once a part whether its sizes are outside or inside ones; a flange that is as all were says nothing of its own.

    It also says of each part how it is made: what was cut and folded is bent.
    """
    for part in _records(data, "parts"):
        if part.get("kind") == "folded" and part.get("made", "cut") == "cut":
            part["made"] = "bent"
        elif part.get("kind") == "bought":
            part["made"] = "bought"
    for folding, flanges in _flanges(data):
        folding.setdefault("sizes", "outside")
        for flange in flanges:
            for name, usual in _AS_THE_PART.items():
                if flange.get(name) == usual:
                    del flange[name]
    return data


def _from_7(data: dict[str, Any]) -> dict[str, Any]:
    """A document of schema 7 as schema 6 would have said it: every flange for itself, and what is turned or printed as bought."""
    for part in _records(data, "parts"):
        if part.get("kind") == "folded" and part.get("made") == "bent":
            part["made"] = "cut"
        elif part.get("kind") == "bought":
            part.pop("made", None)
    for folding, flanges in _flanges(data):
        inside = folding.pop("sizes", "outside") == "inside"
        for flange in flanges:
            for name, usual in _AS_THE_PART.items():
                if flange.get(name) is None:
                    flange[name] = {"where": "inside", "measured": "inner"}[name] if inside else usual
    return data


def _sold(data: dict[str, Any]) -> list[dict[str, Any]]:
    """What the stocks are sold in: sheets and bars."""
    return [size for stock in _records(data, "stocks") for group in ("sheets", "lengths") for size in _records(stock, group)]


def _to_8(data: dict[str, Any]) -> dict[str, Any]:
    """Schema 8 leaves to the workshop's shelf how many sheets and bars there are."""
    for size in _sold(data):
        size.pop("count", None)
    return data


def _from_8(data: dict[str, Any]) -> dict[str, Any]:
    """A document of schema 8 as schema 7 would have said it: of everything there is any number."""
    for size in _sold(data):
        size["count"] = 0
    return data


def _records(data: dict[str, Any], group: str) -> list[dict[str, Any]]:
    found = data.get(group)
    return [r for r in found.values() if isinstance(r, dict)] if isinstance(found, dict) else []


#: From each older schema number to the next; ``tests/core/fixtures`` keeps one document a version.
UPGRADES: dict[int, Step] = {1: _to_2, 2: _to_3, 3: _to_4, 4: _to_5, 5: _to_6, 6: _to_7, 7: _to_8}
#: From a schema number to the one before; where there is none, what the older one said still means the same.
DOWNGRADES: dict[int, Step] = {6: _from_6, 7: _from_7, 8: _from_8}


def as_schema(data: dict[str, Any], schema: int) -> dict[str, Any]:
    """``data`` of the current schema as an older one would have said it, for edits that were made then; the argument is left as it is."""
    data = copied(data)
    for version in range(SCHEMA, schema, -1):
        data = DOWNGRADES.get(version, lambda d: d)(data)
    return {**data, "schema": schema}


def upgraded(data: Any, steps: Mapping[int, Step] | None = None, target: int = SCHEMA) -> dict[str, Any]:
    """``data`` at schema ``target``; the argument is left as it is. Raises DocumentError for an unknown schema."""
    steps = UPGRADES if steps is None else steps
    if not isinstance(data, dict):
        raise DocumentError("A design file holds one JSON object", entry="/", value=type(data).__name__, rule="a JSON object")
    version = data.get("schema")
    if not isinstance(version, int) or isinstance(version, bool) or not 1 <= version <= target:
        rule = f"a whole number from 1 to {target}; a newer file needs a newer Zygon"
        raise DocumentError(f"/schema: {version!r} is not {rule}", entry="/schema", value=version, rule=rule, code="bad_schema")
    if version == target:
        return data
    data = copied(data)
    while version < target:
        data = steps[version](data)
        version += 1
        data["schema"] = version
    return data


def load(data: Any) -> Document:
    """A document from plain data of any known schema. Raises DocumentError."""
    return parse_document(cleaned(upgraded(data)))
