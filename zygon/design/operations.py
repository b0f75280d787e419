"""Edits that touch many records at once, each worked out here as one patch with a label: rename, freeze, remove."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from zygon.design.document import Document
from zygon.design.layout import MirrorCopy
from zygon.design.layout_operations import fresh_name, without_part
from zygon.design.parts.kinds import is_hardware
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError, ExpressionError
from zygon.measure.display import exact_length
from zygon.measure.syntax import FaceRef, parse, references
from zygon.measure.units import name_fault

__all__ = ["entries", "face_called", "freeze", "remove_part", "remove_size", "rename", "renamed_face", "repoint"]


def entries(data: Any, at: str = "") -> Iterator[tuple[str, str]]:
    """(pointer, text) of every entry in a document's plain data."""
    if isinstance(data, dict):
        if set(data) == {"text", "unit"} and isinstance(data["text"], str):
            yield at, data["text"]
            return
        for key, value in data.items():
            yield from entries(value, at + pointer(key))


def rename(document: Document, group: str, key: str, name: str) -> tuple[str, Patch]:
    """Label and patch that give a size, part, group, frame, movement or handed copy (``group`` 'sizes', 'parts', 'groups', 'frames', 'moves', 'handed') another name.

    Every entry that names it follows.

    Raises DocumentError where the name is taken or cannot be one.
    """
    where, old = _name_at(document, group, key)
    fault = name_fault(name, part=group != "sizes")
    if fault is None and name != old and fresh_name(document, name) != name:
        fault = f"{name} is taken already"
    if fault:
        raise DocumentError(f"{name or 'Name'}: {fault}", entry=where, value=name, rule=fault, code="bad_name")
    patch: Patch = [{"op": "replace", "path": where, "value": name}]
    if group not in ("groups", "frames"):  # no entry names them
        patch += _rewritten(document, old, name, part=group != "sizes")
    return f"Rename {old} to {name}", patch


def _name_at(document: Document, group: str, key: str) -> tuple[str, str]:
    """Where a name stands, and what it is; ``key`` of a handed copy's part is 'COPY:PART'. Raises DocumentError where there is none."""
    if group == "handed":
        copy, _, part = key.partition(":")
        record = document.copies.get(copy)
        if isinstance(record, MirrorCopy) and part in record.names:
            return pointer("copies", copy, "names", part), record.names[part]
    elif group in ("sizes", "parts", "groups", "frames", "moves") and key in getattr(document, group):
        return pointer(group, key, "name"), getattr(document, group)[key].name
    raise DocumentError(
        f"There is no {key or 'name'} to change among the {group or 'names'} of this design",
        entry=f"/{group}/{key}",
        value=key,
        rule="a size, a part, a group, a movement or a handed copy",
    )


def _rewritten(document: Document, old: str, new: str, *, part: bool) -> Patch:
    patch: Patch = []
    for where, text in entries(document.dump()):
        changed = _renamed(text, old, new, part=part)
        if changed != text:
            patch.append({"op": "replace", "path": where + "/text", "value": changed})
    return patch


def repoint(document: Document, lost: str, name: str) -> tuple[str, Patch]:
    """Label and patch that let every entry that names ``lost``, which is not there any more, name something else.

    Raises DocumentError where ``lost`` is there after all, ``name`` is not, or nothing names it.
    """
    handed = {n for c in document.copies.values() if isinstance(c, MirrorCopy) for n in c.names.values()}
    parts = {b.name for k, b in document.placed().items()} | handed
    sizes = {s.name for s in document.sizes.values()}
    if name not in parts | sizes:
        raise DocumentError(f"There is no size or part called {name}", entry="name", value=name, rule="a size or part of the design")
    if lost in parts | sizes:
        raise DocumentError(f"{lost} is not lost", entry="lost", value=lost, rule="a name that stands for nothing")
    patch = _rewritten(document, lost, name, part=name in parts)
    if not patch:
        raise DocumentError(f"No entry names {lost}", entry="lost", value=lost, rule="a name that entries use")
    uses = f"{len(patch)} use{'s' if len(patch) > 1 else ''}"
    return f"Point {uses} of {lost} at {name}", patch


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


def renamed_face(text: str, part: str, face: str, instead: str) -> str:
    """The entry with the same face of another part named in place of ``part.face``; broken entries stay as typed."""
    return face_called(text, part, face, f"{instead}.{face}")


def face_called(text: str, part: str, face: str, other: str) -> str:
    """The entry with another face, ``PART.FACE``, named in place of ``part.face``; broken entries stay as typed."""
    try:
        found = sorted((r for r in references(parse(text)) if isinstance(r, FaceRef)), key=lambda r: -r.start)
    except ExpressionError:
        return text
    for ref in found:
        if (ref.part, ref.face) == (part, face):
            text = text[: ref.start] + other + text[ref.end :]
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
    ends = {k: (j.a.partition("@")[0], j.b.partition("@")[0]) for k, j in document.joints.items()}
    patch: Patch = [{"op": "remove", "path": pointer("joints", k)} for k, parts in ends.items() if key in parts]
    patch += [
        {"op": "remove", "path": pointer("bores", k, "parts", key)}
        for k, b in document.bores.items()
        if key in b.parts and key not in (b.of, b.member)
    ]
    patch += [{"op": "remove", "path": pointer("bores", k)} for k, b in document.bores.items() if key in (b.of, b.member)]
    patch += [
        {"op": "remove", "path": pointer("parts", k, "on", leaf)}
        for k, p in document.parts.items()
        if is_hardware(p) and k != key
        for leaf, on in p.on.items()
        if on == key
    ]
    gone = {op["path"] for op in patch}
    patch += [op for op in without_part(document, key) if op["path"] not in gone]
    return f"Remove {document.parts[key].name}", [*patch, {"op": "remove", "path": pointer("parts", key)}]


def remove_size(document: Document, key: str) -> tuple[str, Patch]:
    """Label and patch that remove a size. Entries that name it will say so."""
    if key not in document.sizes:
        raise DocumentError(f"There is no size with the key {key!r}", entry=f"/sizes/{key}", value=key, rule="a size of the design")
    return f"Remove {document.sizes[key].name}", [{"op": "remove", "path": pointer("sizes", key)}]
