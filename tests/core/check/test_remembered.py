"""What is remembered of a part's checks hangs on all that they read: after any one change, problems are those of a check that remembers nothing."""

import json

import pytest

from tests.explore import EXPLORE
from zygon.check import flat_rules
from zygon.check.run import check
from zygon.design.examples import EXAMPLES
from zygon.design.patch import patched
from zygon.errors import ZygonError
from zygon.making.pipeline import build
from zygon.making.result.fault import Fault

OTHER = {
    "a": "b",
    "b": "a",
    "kept": "removed",
    "closed": "open",
    "open": "closed",
    "tear": "rectangular",
    "rectangular": "round",
    "outer": "inner",
    "none": "dog_bone",
    "dog_bone": "none",
    "laser": "router",
    "mm": "in",
    "cut": "bought",
    "snug": "slip",
    "k": "din6935",
    "din6935": "k",
    "outside": "inside",
    "glued": "dry",
}
#: What stands where it is read by other rooms, or is text alone.
LEFT = (
    "/schema",
    "/note",
    "/nest",
    "/kept",
    "/currency",
    "/numbering",
    "/sizes",
    "/marks",
    "/tests",
    "/clearances",
    "/copies",
    "/groups",
    "/brakes",
    "/fits",
    "/bores",
)
FARTHER = ("/sheets/", "/layers/", "/tint", "/hatch", "/order", "/offset/", "/spans/", "/density", "/hourly", "/travel")


def leaves(data, path=""):
    if isinstance(data, dict):
        for key, value in data.items():
            yield from leaves(value, f"{path}/{key}")
    elif not isinstance(data, list) and data is not None:
        yield path, data


def changed(path, value):
    """Another value that may stand there; None where there is none."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, int | float):
        return value * 1.7 if value else 1
    if path.endswith("/name"):
        return f"{value[:20]}_x"
    if path.endswith("/text"):
        return f"({value}) * 1.1" if not value.isalpha() else None
    return OTHER.get(value)


def of_every_kind(data):
    """One leaf for each kind of place: of parts alike, joints alike, stocks alike the last one."""
    found = {}
    for path, value in leaves(data):
        if path.endswith("/unit") or path.startswith(LEFT) or any(x in path for x in FARTHER):
            continue
        words = path.split("/")
        for i in (2, 4, 6):  # keys of records, at whichever depth they stand
            if len(words) > i + 1 and words[i - 1] in (
                "parts",
                "joints",
                "stocks",
                "cutters",
                "features",
                "flanges",
                "bores",
                "fits",
                "brakes",
                "sheets",
                "work",
            ):
                words[i] = "*"
        # whose name it is matters: it stands in what is said
        found[path if path.endswith("/name") else "/".join(words)] = path, value
    return found.values()


def told(built):
    return [
        (p.id, json.dumps([p.fault.message, p.fault.rule, p.fault.at, [m.patch for m in p.fault.mends]]))
        for p in check(built, assembled=False)
    ]


#: What each rule told, and what all told together.
MEMORIES = (flat_rules._FOUND, flat_rules._ALL)


def forget():
    for memory in MEMORIES:
        memory._kept.clear()


@pytest.mark.parametrize("name", ["frame-rests", *(["rebated-box"] if EXPLORE else [])])
def test_no_change_brings_yesterday_s_problems_back(name):
    data = EXAMPLES[name]().dump()
    # what is wrong is what is remembered: everything is too thin, too near, too small
    data["rules"] = {"finger": 4.0, "web": 4.0, "edge": 4.0, "floor": 0.5}
    tried = 0
    forget()
    told(build(patched(data, [])))
    each, together = (dict(m._kept) for m in MEMORIES)
    for path, value in of_every_kind(data):
        other = changed(path, value)
        if other is None:
            continue
        try:
            built = build(patched(data, [{"op": "replace", "path": path, "value": other}]))
        except ZygonError:
            continue
        tried += 1
        flat_rules._FOUND._kept.update(each)
        by_each = told(built)
        forget()
        flat_rules._ALL._kept.update(together)
        by_all = told(built)
        forget()
        assert by_each == by_all == told(built), path
    assert tried > 30


def test_mends_that_are_tried_are_asked_for_again_when_anything_of_the_design_is_another(monkeypatch):
    data = EXAMPLES["electronics-box"]().dump()
    asked = []
    fault = Fault("folds_into_itself", "p: it runs into itself", "a folded part runs nowhere into itself")
    monkeypatch.setattr(
        flat_rules, "clash_faults", lambda document, part, *, tried: asked.append((document.note, part.key, tried)) or [fault]
    )
    forget()
    for note in ("one", "one", "another"):
        check(build(patched(data, [{"op": "replace", "path": "/note", "value": note}])))
    forget()
    folded = {key for _, key, _ in asked}
    assert folded
    # what is found is remembered of the part alone; whether its mends are any good, of the design as a whole
    assert [a for a in asked if not a[2]] == [("one", key, False) for key in dict.fromkeys(k for _, k, _ in asked)]
    assert sorted(a for a in asked if a[2]) == sorted((note, key, True) for note in ("one", "another") for key in folded)
