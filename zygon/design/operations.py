"""Edits that touch many records at once, each worked out here as one patch with a label: rename, freeze, remove."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from zygon.design.document import Document
from zygon.design.patch import Patch, pointer
from zygon.errors import DocumentError, ExpressionError
from zygon.measure.display import exact_length
from zygon.measure.syntax import FaceRef, parse, references
from zygon.measure.units import name_fault

__all__ = ["entries", "freeze", "remove_part", "remove_size", "rename"]


def entries(data: Any, at: str = "") -> Iterator[tuple[str, str]]:
    """(pointer, text) of every entry in a document's plain data."""
    if isinstance(data, dict):
        if set(data) == {"text", "unit"} and isinstance(data["text"], str):
            yield at, data["text"]
            return
        for key, value in data.items():
            yield from entries(value, at + pointer(key))


def rename(document: Document, group: str, key: str, name: str) -> tuple[str, Patch]:
    """Label and patch that give a size or part (``group`` 'sizes' or 'parts') another name, in every entry that names it.

    Raises DocumentError where the name is taken or cannot be one.
    """
    record = getattr(document, group).get(key) if group in ("sizes", "parts") else None
    if record is None:
        raise DocumentError(f"/{group}/{key} is neither a size nor a part", entry=f"/{group}/{key}", value=key, rule="a size or a part")
    fault = name_fault(name, part=group == "parts")
    others = [r.name for g in (document.sizes, document.parts) for k, r in g.items() if not (g is getattr(document, group) and k == key)]
    if fault is None and name in others:
        fault = f"{name} is taken already"
    if fault:
        raise DocumentError(f"{name or 'Name'}: {fault}", entry=f"/{group}/{key}/name", value=name, rule=fault, code="bad_name")
    patch: Patch = [{"op": "replace", "path": pointer(group, key, "name"), "value": name}]
    for where, text in entries(document.dump()):
        changed = _renamed(text, record.name, name, part=group == "parts")
        if changed != text:
            patch.append({"op": "replace", "path": where + "/text", "value": changed})
    return f"Rename {record.name} to {name}", patch


def _renamed(text: str, old: str, new: str, *, part: bool) -> str:
    """The entry with a name replaced where the syntax tree has it; broken entries stay as typed."""
    try:
        found = sorted(references(parse(text)), key=lambda r: -r.start)
    except ExpressionError:
        return text
    for ref in found:
        if isinstance(ref, FaceRef) == part and (ref.part if isinstance(ref, FaceRef) else ref.name) == old:
            text = text[: ref.start] + new + text[ref.start + len(old) :]
    return text


def freeze(document: Document, where: str, value: float, kind: str) -> tuple[str, Patch]:
    """Label and patch that replace what an entry refers to by its present value (mm, radians or plain)."""
    found = dict(entries(document.dump())).get(where)
    if found is None:
        raise DocumentError(f"{where} is no entry", entry=where, rule="an entry of the design")
    unit = _unit_of(document, where)
    if kind == "length":
        text = exact_length(value, unit).strip("()")
    elif kind == "angle":
        text = f"{value * 57.29577951308232:.10g} deg"
    else:
        text = f"{value:.10g}"
    return f"Freeze {found} at {text}", [{"op": "replace", "path": where + "/text", "value": text}]


def _unit_of(document: Document, where: str) -> str:
    node: Any = document.dump()
    for key in where.split("/")[1:]:
        node = node[key.replace("~1", "/").replace("~0", "~")]
    return node["unit"]


def remove_part(document: Document, key: str) -> tuple[str, Patch]:
    """Label and patch that remove a part with its joints and its place in bores. Entries that name it will say so."""
    if key not in document.parts:
        raise DocumentError(f"There is no part with the key {key!r}", entry=f"/parts/{key}", value=key, rule="a part of the design")
    patch: Patch = [{"op": "remove", "path": pointer("joints", k)} for k, j in document.joints.items() if key in (j.a, j.b)]
    patch += [{"op": "remove", "path": pointer("bores", k, "parts", key)} for k, b in document.bores.items() if key in b.parts]
    return f"Remove {document.parts[key].name}", [*patch, {"op": "remove", "path": pointer("parts", key)}]


def remove_size(document: Document, key: str) -> tuple[str, Patch]:
    """Label and patch that remove a size. Entries that name it will say so."""
    if key not in document.sizes:
        raise DocumentError(f"There is no size with the key {key!r}", entry=f"/sizes/{key}", value=key, rule="a size of the design")
    return f"Remove {document.sizes[key].name}", [{"op": "remove", "path": pointer("sizes", key)}]
