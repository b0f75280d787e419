"""The document's JSON Schema, as published in docs/design.schema.json."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document

__all__ = ["json_schema"]


def json_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of the current document."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **Document.model_json_schema(by_alias=True)}
