"""What has changed is told so that whoever applies it (here by the patch library) has exactly what is now, and in few words where little has changed."""

import json
from copy import deepcopy

import jsonpatch
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.check.run import check
from zygon.design.examples import brood_box
from zygon.design.patch import patched
from zygon.making.pipeline import build
from zygon.screen.changes import changes
from zygon.screen.design import built_data

LEAVES = st.none() | st.integers(2, 4) | st.sampled_from(["", "a", "b/c~d", "0"]) | st.floats(5, 6)
KEYS = st.sampled_from(["a", "b", "a/b", "~1", ""])
DATA = st.recursive(LEAVES, lambda inner: st.lists(inner, max_size=5) | st.dictionaries(KEYS, inner, max_size=4), max_leaves=25)


@given(DATA, DATA)
def test_whoever_applies_what_has_changed_has_what_is_now(before, after):
    kept = deepcopy(before)
    patch = changes({"it": before}, {"it": after})
    assert before == kept
    assert jsonpatch.apply_patch({"it": before}, patch) == {"it": after}
    assert {o["op"] for o in patch} <= {"add", "remove", "replace"}


@given(DATA)
def test_of_what_has_not_changed_nothing_is_told(data):
    assert changes(data, deepcopy(data)) == []


ROW = [{"n": k, "more": [k, k]} for k in range(6)]


@pytest.mark.parametrize(
    "before,after,told",
    [
        (ROW, ROW[:2] + ROW[3:], [{"op": "remove", "path": "/2"}]),
        (ROW, ROW[:-2], [{"op": "remove", "path": "/5"}, {"op": "remove", "path": "/4"}]),
        (ROW[:2] + ROW[4:], ROW, [{"op": "add", "path": "/2", "value": ROW[2]}, {"op": "add", "path": "/3", "value": ROW[3]}]),
        (ROW, [*ROW[:3], {"n": 9, "more": [3, 3]}, *ROW[4:]], [{"op": "replace", "path": "/3/n", "value": 9}]),
        (
            ROW[:3],
            [ROW[0], {"n": 1, "more": [1, 7]}],
            [{"op": "replace", "path": "/1/more", "value": [1, 7]}, {"op": "remove", "path": "/2"}],
        ),
        ([1, 2, 3], [1, 2, 4], [{"op": "replace", "path": "", "value": [1, 2, 4]}]),
        (
            {"a": 1, "b": {"c": [1, "x"]}},
            {"b": {"c": [2, "x"]}, "d": None},
            [
                {"op": "remove", "path": "/a"},
                {"op": "replace", "path": "/b/c", "value": [2, "x"]},
                {"op": "add", "path": "/d", "value": None},
            ],
        ),
    ],
)
def test_only_what_has_changed_is_told(before, after, told):
    assert changes(before, after) == told


def test_a_changed_width_is_told_in_a_fifth_of_the_words():
    document = brood_box().dump()

    def shown(patch):
        built = build(patched(document, patch))
        return {"document": built.document.dump(), "built": built_data(built, check(built, assembled=False))}

    before, after = shown([]), shown([{"op": "replace", "path": "/sizes/width/entry/text", "value": "401.5 mm"}])
    patch = changes(before, after)
    assert jsonpatch.apply_patch(json.loads(json.dumps(before)), json.loads(json.dumps(patch))) == json.loads(json.dumps(after))
    assert {o["path"] for o in patch if o["path"].startswith("/document")} == {"/document/sizes/width/entry/text"}
    assert len(json.dumps(patch)) < len(json.dumps(after)) / 5
