"""The document's JSON Schema, as published in docs/design.schema.json."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.measure.asked import ASKED

__all__ = ["json_schema"]


def json_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of the current document."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **_without_forms(Document.model_json_schema(by_alias=True))}


def _without_forms(schema: Any) -> Any:
    """How a field is asked for is a matter of screens (see ``forms.py``), not of the file."""
    if isinstance(schema, dict):
        return {k: _without_forms(v) for k, v in schema.items() if k != ASKED}
    return [_without_forms(v) for v in schema] if isinstance(schema, list) else schema
