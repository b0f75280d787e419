"""Documents are written as the interface reads them: each record has the fields that its description says, and no others."""

import pytest

from tests.core.test_robustness import DOCUMENTS
from zygon.design.document import Document
from zygon.design.schema import json_schema, records_as_written
from zygon.measure.asked import ASKED

RECORDS = records_as_written()["components"]["schemas"]


def unlike(value, said, at):
    """Where a written value is not as it is described."""
    if "$ref" in said:
        return unlike(value, RECORDS[said["$ref"].rsplit("/", 1)[1]], at)
    for among in ("anyOf", "oneOf"):
        if among in said:
            found = [unlike(value, one, at) for one in said[among]]
            return [] if [] in found else min(found, key=len)
    if "const" in said or "enum" in said:
        return [] if value in said.get("enum", [said.get("const")]) else [at]
    kind = {"object": dict, "array": list, "string": str, "integer": int, "number": (int, float), "boolean": bool}.get(said.get("type"))
    if kind and (not isinstance(value, kind) or (isinstance(value, bool) and kind is not bool)):
        return [at]
    if isinstance(value, list):
        inner = said.get("prefixItems") or [said.get("items", {})] * len(value)
        return [p for i, (v, s) in enumerate(zip(value, inner, strict=False)) for p in unlike(v, s, f"{at}/{i}")]
    if not isinstance(value, dict):
        return []
    if "properties" in said:
        fields = said["properties"]
        odd = [f"{at}/{k} is not described" for k in value if k not in fields] + [
            f"{at}/{k} is missing" for k in said["required"] if k not in value
        ]
        return odd + [p for k, v in value.items() if k in fields for p in unlike(v, fields[k], f"{at}/{k}")]
    inside = next(iter(said.get("patternProperties", {}).values()), said.get("additionalProperties") or {})
    return [p for k, v in value.items() for p in unlike(v, inside, f"{at}/{k}")]


@pytest.mark.parametrize("n", range(len(DOCUMENTS)))
def test_a_document_is_written_as_it_is_described(n):
    assert unlike(DOCUMENTS[n], RECORDS["Document"], "") == []


def test_what_may_be_none_may_be_missing_and_nothing_else():
    board = RECORDS["Board"]
    assert "outline" not in board["required"] and {"kind", "turns", "aside", "note"} <= set(board["required"])
    assert unlike({**DOCUMENTS[0], "sizes": {"w": {"name": "w"}}}, RECORDS["Document"], "") == [
        "/sizes/w/kind is missing",
        "/sizes/w/entry is missing",
        "/sizes/w/note is missing",
        "/sizes/w/order is missing",
    ]
    assert unlike({**DOCUMENTS[0], "unit": "cubit", "more": 1}, RECORDS["Document"], "") == ["/more is not described", "/unit"]
    every = {
        name for name, record in RECORDS.items() for field in record["properties"].values() if {"type": "null"} in field.get("anyOf", [])
    }
    assert every == set()


def test_how_fields_are_asked_for_is_in_neither_description():
    assert f"'{ASKED}':" not in str(json_schema()) and f"'{ASKED}':" not in str(records_as_written())
    assert (
        set(json_schema()["properties"])
        == set(RECORDS["Document"]["properties"])
        == {f.alias or n for n, f in Document.model_fields.items()}
    )
