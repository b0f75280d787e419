"""The document's JSON Schema, as published in docs/design.schema.json, and its records as they are written."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.measure.asked import ASKED

__all__ = ["json_schema", "records_as_written"]


def json_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of the current document."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **_without_forms(Document.model_json_schema(by_alias=True))}


def records_as_written() -> dict[str, Any]:
    """The records of a document as it is written, by name, as an OpenAPI description has them: all that has a value is there, what has none is not.

    The types by which an interface reads documents come from it.
    """
    template = "#/components/schemas/{model}"
    schema = _without_forms(Document.model_json_schema(by_alias=True, mode="serialization", ref_template=template))
    records = {**schema.pop("$defs"), "Document": schema}
    return {
        "openapi": "3.1.0",
        "info": {"title": "Records of a document, as it is written", "version": "1"},
        "paths": {},
        "components": {"schemas": {name: _as_written(record) for name, record in records.items()}},
    }


def _as_written(record: dict[str, Any]) -> dict[str, Any]:
    """A record with its fields required, but for those that may be none, which are left out then."""
    none = {"type": "null"}
    fields: dict[str, Any] = {}
    required = []
    for name, field in record.get("properties", {}).items():
        said = {k: v for k, v in field.items() if k not in ("default", "title")}
        kinds = said.pop("anyOf", [said])
        some = [k for k in kinds if k != none]
        if some == kinds:
            required.append(name)
        fields[name] = _field(said, kinds, some)
    return {**{k: v for k, v in record.items() if k != "title"}, "properties": fields, "required": required}


def _field(said: dict[str, Any], kinds: list[Any], some: list[Any]) -> dict[str, Any]:
    """A field of one of ``some`` kinds."""
    if kinds == [said]:
        return said
    return {**said, **some[0]} if len(some) == 1 else {**said, "anyOf": some}


def _without_forms(schema: Any) -> Any:
    """How a field is asked for is a matter of screens (see ``forms.py``), not of the file."""
    if isinstance(schema, dict):
        return {k: _without_forms(v) for k, v in schema.items() if k != ASKED}
    return [_without_forms(v) for v in schema] if isinstance(schema, list) else schema
