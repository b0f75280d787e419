"""Edits by chance on rich designs: each is refused in words or leaves a design that is built, checked, shown and read back, within the work that a request has."""

import json
import random
import time

from hypothesis import given, settings
from hypothesis import strategies as st
from zygon_server.wanted import EDIT_SECONDS, TooLong

from tests.core.test_robustness import DOCUMENTS, TEXTS
from tests.explore import drawn
from zygon.check.run import check
from zygon.design.patch import apply_patch
from zygon.design.upgrade import load
from zygon.errors import ZygonError
from zygon.making.pipeline import build
from zygon.patience import asked_by
from zygon.screen.design import built_data, part_resources

ODD = [
    "",
    "x",
    "-1",
    None,
    True,
    -1,
    0,
    1,
    2,
    7,
    1.5,
    1e9,
    -1e9,
    1e308,
    10**18,
    [],
    {},
    ["front"],
    {"text": "5 mm", "unit": "mm"},
    {"text": "-3", "unit": "in"},
    "a",
    "b",
    "left",
    "top",
    "x" * 300,
    "=1",
    "²",
]


def places(data, at=""):
    """Every pointer of a document with its value."""
    yield at, data
    steps = data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ()
    for key, value in steps:
        yield from places(value, f"{at}/{str(key).replace('~', '~0').replace('/', '~1')}")


def operation(found, chance):
    path, value = chance.choice(found)
    kind = chance.choice(("replace", "replace", "replace", "text", "text", "remove", "copy", "move", "another", "quantity"))
    texts = [p for p, v in found if p.endswith("/text")]
    if kind == "text" and texts:
        return {
            "op": "replace",
            "path": chance.choice(texts),
            "value": chance.choice([*TEXTS, "1e6 mm", "0.001 mm", "3 * 4 mm", "-20 mm", "45 deg", "199"]),
        }
    if kind == "remove":
        return {"op": "remove", "path": path}
    if kind in ("copy", "move"):
        return {"op": kind, "from": chance.choice(found)[0], "path": path}
    if kind == "another":  # a value of another place
        return {"op": "replace", "path": path, "value": chance.choice(found)[1]}
    if kind == "quantity" and isinstance(value, int):
        return {"op": "replace", "path": path, "value": value * chance.choice((2, 10, 100))}
    return {"op": "replace", "path": path, "value": chance.choice(ODD)}


class Bound:
    """As a request's work is bounded."""

    def __init__(self):
        self.began = time.thread_time()

    def __call__(self):
        if time.thread_time() - self.began > EDIT_SECONDS:
            raise TooLong(EDIT_SECONDS)


@settings(max_examples=drawn(60), deadline=None)
@given(st.sampled_from(range(len(DOCUMENTS))), st.integers(0, 2**32))
def test_edits_by_chance(which, seed):
    chance = random.Random(seed)
    data = DOCUMENTS[which]
    for _ in range(3):
        found = [(p, v) for p, v in places(data) if p and p != "/schema"]
        patch = [operation(found, chance) for _ in range(chance.randint(1, 2))]
        try:
            document, after, inverse = apply_patch(data, patch)
        except ZygonError as error:
            assert error.message and error.rule
            continue
        with asked_by(Bound()):
            built = build(document)
            problems = check(built)
            shown = json.dumps([built_data(built, problems), part_resources(built)], allow_nan=False)
        assert shown and all(p.fault.message and p.fault.rule for p in problems)
        assert load(json.loads(json.dumps(after, allow_nan=False))) == document
        assert apply_patch(after, inverse)[1] == load(data).dump()
        data = after
