"""Every route of the API, each of its values replaced by odd ones: whatever comes, the answer is a sentence and never an error of the server's own.

The routes and their values are taken from the API's description, so that a new route is covered without being named.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

import pytest
from zygon_server.api import api as description
from zygon_server.designs import service
from zygon_server.nesting.models import Batch, BatchItem

from tests.explore import EXPLORE
from zygon.design.starters import starter

SCHEMA = json.loads(json.dumps(description.get_openapi_schema(), default=str))
DEEP = "[" * 900 + "]" * 900
#: As JSON text: some of it no library would write.
ODD = [
    '"\\ud800"',
    '"\\u0000"',
    '"²"',
    '"' + "9" * 5000 + '"',
    "NaN",
    "-Infinity",
    "1e999",
    "9" * 5000,
    "-1",
    "0",
    "1e308",
    "1e-320",
    "null",
    "[]",
    "{}",
    "true",
    DEEP,
    '""',
    '"\\n\\r=1+1"',
    '"../../x"',
    '"' + "x" * 100_000 + '"',
    "9223372036854775808",
    '"NaN"',
    '"%00"',
    '{"a": ' * 40 + "1" + "}" * 40,
]
IN_PATHS = ["²", "%00", "%ED%A0%80", "..%2f", "9" * 400, "-1", "NaN", "a" * 300, "%22%27", "0"]


def resolved(schema: dict[str, Any]) -> dict[str, Any]:
    while "$ref" in schema:
        found: Any = SCHEMA
        for step in schema["$ref"].removeprefix("#/").split("/"):
            found = found[step]
        schema = found
    for one in (*schema.get("anyOf", ()), *schema.get("oneOf", ()), *schema.get("allOf", ())):
        return resolved(one)
    return schema


def example(schema: dict[str, Any], depth: int = 0) -> Any:
    """Something that the schema takes, more or less."""
    schema = resolved(schema)
    if "const" in schema or "enum" in schema:
        return schema.get("const", schema.get("enum", [None])[0])
    kind = schema.get("type")
    if kind == "object":
        own = schema.get("properties", {})
        return {k: example(v, depth + 1) for k, v in own.items() if k in schema.get("required", ()) or depth < 1} if depth < 6 else {}
    if kind == "array":
        return [example(schema.get("items", {}), depth + 1)] if depth < 4 else []
    return {"integer": 1, "number": 1.5, "boolean": True, "string": "front", "null": None}.get(
        kind, {"op": "replace", "path": "/name", "value": "x"}
    )


def spots(value: Any, at: tuple = ()) -> Iterator[tuple]:
    """Every place in a value, itself first."""
    yield at
    for k, v in value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ():
        yield from spots(v, (*at, k))


def spoilt(value: Any, at: tuple, odd: str) -> str:
    """The value as JSON, with ``odd`` at a place."""
    if not at:
        return odd
    told = json.dumps(value)
    marked = json.loads(told)
    inner = marked
    for step in at[:-1]:
        inner = inner[step]
    inner[at[-1]] = "@@odd@@"
    return json.dumps(marked).replace('"@@odd@@"', odd)


def bodies(operation: dict[str, Any]) -> Iterator[Any]:
    content = operation.get("requestBody", {}).get("content", {}).get("application/json")
    if content:
        schema = content["schema"]
        while "$ref" in schema:
            schema = resolved(schema)
        for one in schema.get("oneOf") or schema.get("anyOf") or [schema]:
            yield example(one)


CALLS = [(method.upper(), path, operation) for path, ways in SCHEMA["paths"].items() for method, operation in ways.items()]


@pytest.fixture
def owned(api, maker):
    design = service.create(maker, starter("open-box", "Box"))
    batch = Batch.objects.create(owner=maker, name="B")
    BatchItem.objects.create(batch=batch, design=design)
    return {"design_id": str(design.pk), "batch_id": str(batch.pk), "key": "front", "stock": "ply12", "number": "1"}


@pytest.fixture(autouse=True)
def answered(monkeypatch):
    """What the server did not foresee fails the test with the error itself."""
    from zygon_server import faults

    def fails(request, error=None):
        raise AssertionError(f"{request.method} {request.get_full_path()[:200]}: {error!r:.300}") from error

    monkeypatch.setattr(faults, "unforeseen", fails)


def filled(path: str, owned: dict[str, str], **odd: str) -> str:
    for name in {p["name"] for _, q, o in CALLS if q == path for p in o.get("parameters", ()) if p["in"] == "path"}:
        path = path.replace(f"{{{name}}}", odd.get(name, owned.get(name, "front")))
    return path


@pytest.mark.parametrize(("method", "path", "operation"), CALLS, ids=[f"{m} {p}" for m, p, _ in CALLS])
def test_odd_values_are_answered_with_a_sentence(api, owned, method, path, operation):
    turn = sum(map(ord, path + method))

    def ask(where: str, body: str | None = None) -> None:
        headers = {"X-CSRFToken": api.token, "If-Match": '"1"'}
        response = api.client.generic(
            method, where, (body or "").encode("utf-8", "surrogatepass"), content_type="application/json", headers=headers
        )
        assert response.status_code < 500, (where[:200], (body or "")[:200], response.content[:300])
        if response.status_code >= 400:
            fault = response.json()
            assert fault["code"] and fault["message"]

    for p in operation.get("parameters", ()):
        for odd in IN_PATHS:
            if p["in"] == "path":
                ask(filled(path, owned, **{p["name"]: odd}))
            elif p["in"] == "query":
                ask(f"{filled(path, owned)}?{p['name']}={odd}")
    for body in bodies(operation):
        for n, at in enumerate(spots(body)):
            some = ODD if EXPLORE else [ODD[(turn + 7 * n + k) % len(ODD)] for k in range(3)]
            for odd in some:
                ask(filled(path, owned), spoilt(body, at, odd))
