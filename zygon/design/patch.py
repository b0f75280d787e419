"""Edits as RFC 6902 JSON Patches, each with its inverse; an edit counts only when the whole document stands."""

from __future__ import annotations

from typing import Any

import jsonpatch
import jsonpointer

from zygon.design.document import SCHEMA, Document, parse_document
from zygon.design.text import cleaned, printable
from zygon.design.upgrade import upgraded
from zygon.errors import PatchError
from zygon.limits import MAX_DOCUMENT_BYTES, MAX_PATCH_OPERATIONS

__all__ = ["Patch", "apply_patch", "difference", "patched", "touched"]

Patch = list[dict[str, Any]]
#: So many letters of an edit, or of why it does not fit, are told.
MOST_SAID = 200


def apply_patch(data: dict[str, Any], patch: Patch, schema: int = SCHEMA) -> tuple[Document, dict[str, Any], Patch]:
    """The patched document, its data, and the inverse patch. ``data`` is left as it is; an edit of an older ``schema`` comes with data of it.

    Raises PatchError where an operation does not fit, DocumentError where the result breaks the schema.
    """
    if schema == SCHEMA:
        data = upgraded(data)
    document = _patched(data, patch)
    clean = document.dump()
    return document, clean, difference(clean, upgraded(data))


def patched(data: dict[str, Any], patch: Patch) -> Document:
    """The patched document alone, as a preview needs it. Raises as ``apply_patch`` does."""
    return _patched(upgraded(data), patch)


def _patched(data: dict[str, Any], patch: Patch) -> Document:
    if not isinstance(patch, list) or len(patch) > MAX_PATCH_OPERATIONS:
        raise PatchError(f"An edit is a list of at most {MAX_PATCH_OPERATIONS} operations", entry="patch", rule="RFC 6902")
    try:
        try:
            after = _operated(cleaned(data), patch)
        except (jsonpatch.JsonPatchException, jsonpointer.JsonPointerException):
            if data.get("schema") != SCHEMA:
                raise
            # stored before a field was there that the edit speaks of: written out whole it has it
            after = _operated(parse_document(cleaned(data)).dump(), patch)
    except (
        jsonpatch.JsonPatchException,
        jsonpointer.JsonPointerException,
        TypeError,
        KeyError,
        AttributeError,
        ValueError,
        RecursionError,
    ) as error:
        # what is not found is told, not the whole design in which it is not
        why = (
            "it nests too deep" if isinstance(error, RecursionError) else str(error).partition(" in {")[0].partition(" in [")[0][:MOST_SAID]
        )
        raise PatchError(
            f"The edit does not fit the design: {why}", entry="patch", value=str(patch)[:MOST_SAID], rule="RFC 6902"
        ) from error
    return parse_document(upgraded(after))


def _operated(after: dict[str, Any], patch: Patch) -> dict[str, Any]:
    """Plain data after a patch's operations; ``after`` is changed."""
    room = MAX_DOCUMENT_BYTES
    for operation in map(_written, patch):
        if operation.get("op") == "copy":
            room -= _weight(jsonpointer.resolve_pointer(after, operation["from"]), room)
            if room < 0:
                raise _too_much_copied(operation)
        after = jsonpatch.apply_patch(after, [operation], in_place=True)
    return after


def _written(operation: dict[str, Any]) -> dict[str, Any]:
    """An operation with what it writes in one form."""
    return {**operation, "value": printable(operation["value"], str(operation.get("path", "")))} if "value" in operation else operation


def _weight(data: Any, most: int) -> int:
    """About how many bytes a value is as JSON; no more of it is looked at than what weighs ``most``."""
    weight, waiting = 0, [data]
    while waiting and weight <= most:
        value = waiting.pop()
        if isinstance(value, dict):
            waiting += value.values()
            weight += 2 + sum(len(k) + 4 for k in value)
        elif isinstance(value, list):
            waiting += value
            weight += 2 + len(value)
        else:
            weight += len(value) + 2 if isinstance(value, str) else 8
    return weight


def _too_much_copied(operation: dict[str, Any]) -> PatchError:
    return PatchError(
        f"The edit copies {operation['from']} into {operation.get('path')}, and grows past what a design may hold",
        entry="patch",
        value=str(operation)[:200],
        rule=f"copies of at most {MAX_DOCUMENT_BYTES} bytes together",
    )


def difference(before: dict[str, Any], after: dict[str, Any]) -> Patch:
    """The patch that turns ``before`` into ``after``."""
    return jsonpatch.make_patch(before, after).patch


def touched(patch: Patch) -> set[str]:
    """The pointers that a patch writes or reads from."""
    return {op[k] for op in patch for k in ("path", "from") if isinstance(op.get(k), str)}
