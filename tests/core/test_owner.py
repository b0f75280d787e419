"""Owner ids are read back as they were made, whatever stands in their keys."""

import ast
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon import owner
from zygon.owner import Owner, bend_id, feature_id, flange_id, is_of, read_owner

KEYS = st.from_regex(r"[A-Za-z0-9_-]{1,12}", fullmatch=True)


@given(KEYS, KEYS, KEYS)
def test_an_id_is_read_back_as_it_was_made(part, key, flange):
    for kind in ("joint", "bore", "copy", "group", "part", "size", "clearance", "edge"):
        made = getattr(owner, f"{kind}_id")(key)
        assert read_owner(made) == Owner(kind, key) and is_of(made, kind) and not is_of(made, "feature", "flange")
    assert read_owner(feature_id(part, key)) == Owner("feature", key, part)
    assert read_owner(feature_id(part, key, flange)) == Owner("feature", key, part, flange)
    assert read_owner(flange_id(part, key)) == Owner("flange", key, part) and read_owner(bend_id(part, key)) == Owner("bend", key, part)
    assert is_of(feature_id(part, key), "joint", "feature") and not is_of(feature_id(part, key), "joint")


@pytest.mark.parametrize("text", ["", "folding", "nobody's", "joint"])
def test_what_is_no_id_belongs_to_nothing(text):
    assert read_owner(text) == Owner(text, "") and not is_of(text, "joint", "feature", text)


def test_ids_are_made_and_read_in_one_module_alone():
    """No formatted text of the core begins with a kind and its colon, and nothing asks a text whether it begins so."""
    kinds = ("joint:", "bore:", "feature:", "flange:", "bend:", "edge:", "clearance:", "size:", "copy:", "group:")
    found = []
    for path in sorted(Path(owner.__file__).parent.rglob("*.py")):
        if path.name in ("owner.py", "ids.py") or "examples" in path.parts:
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if (
                isinstance(node, ast.JoinedStr)
                and isinstance(node.values[0], ast.Constant)
                and node.values[0].value.startswith(kinds)
                and len(node.values) == 2
            ):
                found.append((path.name, node.lineno))
            if isinstance(node, ast.Constant) and node.value in kinds:
                found.append((path.name, node.lineno))
    assert found == []
