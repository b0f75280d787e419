"""Drawings over the API: told with what is loose, led without being kept, refused by name."""

import math

import pytest
from zygon_server.designs import service

from zygon.design.examples import EXAMPLES

pytestmark = pytest.mark.django_db


@pytest.fixture
def clamp(maker):
    return service.create(maker, EXAMPLES["clamp-plate"]())


def told(api, design, part="plate", feature=""):
    status, found = api.get(f"/designs/{design.pk}/parts/{part}/drawing" + (f"?feature={feature}" if feature else ""))
    assert status == 200, found
    return found


def test_a_drawing_is_told_whole(api, clamp):
    found = told(api, clamp)
    assert found["freedoms"] == 0 and found["clashes"] == [] and found["faults"] == [] and found["twice"] == []
    assert found["size"] == [120, 70] and found["ways"] == ["x", "y"] and found["high"] == pytest.approx(1.00584)
    assert {p["state"] for p in found["points"]} == {"settled"}
    bore = next(c for c in found["curves"] if c["key"] == "bore")
    assert all(math.dist(p, (60, 35)) == pytest.approx(17.25, abs=1e-3) for p in bore["path"])
    width = next(r for r in found["relations"] if r["words"].startswith("length of line") and r["figure"] == "120 mm")
    assert width["entry"].endswith("/entry") and width["state"] == "holds"
    kinds = {k["kind"]: k["takes"] for k in found["kinds"]}
    assert kinds["tangent"] == ["lc", "cl", "cc", "ls", "sl", "cs", "sc", "ss"] and len(kinds) == 19


def test_what_is_loose_is_told_with_its_way(api, clamp, maker):
    apart = next(r for r in told(api, clamp)["relations"] if r["kind"] == "across")
    path = f"/parts/plate/outline/drawing/relations/{apart['key']}"
    assert api.edit(clamp, 1, {"op": "remove", "path": path})[0] == 200
    found = told(api, clamp)
    assert found["freedoms"] == 1
    loose = {p["key"]: p["way"] for p in found["points"] if p["state"] == "way"}
    assert loose["p7"] == pytest.approx([1, 0]) and "p19" not in loose


def test_it_is_led_by_hand_and_nothing_is_kept(api, clamp):
    found = told(api, clamp)
    solving = found["solving"]
    relations = {k: r for k, r in solving["drawing"]["relations"].items() if r["kind"] != "across"}
    solving["drawing"]["relations"] = relations
    status, led = api.call("POST", f"/designs/{clamp.pk}/drawing/led", {"solving": solving, "to": {"p7": [25, 28]}})
    assert status == 200 and led["holds"]
    assert led["points"]["p7"] == pytest.approx([25, 28], abs=0.05)
    # its image comes as near from the other side
    assert led["points"]["p18"][0] == pytest.approx(120 - led["points"]["p7"][0], abs=1e-4)
    assert set(led["paths"]) == {c["key"] for c in found["curves"]}
    again = {"solving": solving, "to": {"p7": [27, 28]}, "start": led["points"]}
    assert api.call("POST", f"/designs/{clamp.pk}/drawing/led", again)[1]["points"]["p7"][0] == pytest.approx(27, abs=0.05)
    assert (
        told(api, clamp)["solving"]["drawing"] == service.find(clamp.owner, str(clamp.pk)).document["parts"]["plate"]["outline"]["drawing"]
    )


@pytest.mark.parametrize("path, words", [
    ("parts/gone/drawing", "gone is no board"),
    ("parts/plate/drawing?feature=gone", "has no shape gone"),
])  # fmt: skip
def test_what_is_not_there_is_said(api, clamp, path, words):
    status, fault = api.get(f"/designs/{clamp.pk}/{path}")
    assert status == 422 and words in fault["message"]


@pytest.mark.parametrize("body", [
    {"solving": {}},
    {"solving": {"drawing": 3}},
    {"solving": {"drawing": {"points": {"a": {"x": 1, "y": 2}}}}, "to": {"gone": [1, 2]}},
    {"solving": {"drawing": {"points": {"a": {"x": 1, "y": 2}}}, "figures": {"r": "much"}}},
    {"solving": {"drawing": {"points": {}, "curves": {"l": {"kind": "line", "a": "a", "b": "b"}}}}},
])  # fmt: skip
def test_what_is_no_drawing_cannot_be_led(api, clamp, body):
    status, fault = api.call("POST", f"/designs/{clamp.pk}/drawing/led", body)
    assert status == 422 and fault["message"]
