"""What is left of bars: on the shelf once they are cut, used first by another design, gone when that is cut too."""

import pytest
from zygon_server.designs import service as designs
from zygon_server.workshop.offcuts import keep_offcut

from zygon.design.draft import Draft
from zygon.design.workshop import BARS, STOCKS
from zygon.geometry.boolean import Region
from zygon.geometry.contour import rectangle
from zygon.making.pipeline import build
from zygon.nest.bars_of_design import bar_work


def rods(name: str, *lengths: tuple[int, int]):
    d = Draft(name, "steel6")
    for n, (length, quantity) in enumerate(lengths):
        d.rod(f"rod_{n}", "steel6", "x", ("0", f"{length} mm"), y=f"{30 * n} mm", z="0")
        d.data["parts"][f"rod_{n}"]["quantity"] = quantity
    d.data["stocks"]["steel6"] |= {"kerf": {"text": "0"}, "lengths": {"bar": {"length": {"text": "1 m"}, "price": 5.0}}}
    return d.document()


def plan(api, design):
    (bars,) = api.get(f"/designs/{design.pk}")[1]["built"]["bars"]
    return bars


def test_bars_that_are_cut_give_what_is_left_to_the_shelf_and_another_design_uses_it(api, maker):
    design = designs.create(maker, rods("Axles", (600, 2)))
    path, body = f"/designs/{design.pk}/bars/left", {"stock": "steel6", "place": "rack 1"}
    status, fault = api.post(path, body)
    assert status == 422 and "not marked as cut" in fault["message"]
    planned = plan(api, design)
    api.edit(design, 1, {"op": "add", "path": "/stocks/steel6/sawn", "value": planned["digest"]})
    status, made = api.post(path, body)
    assert status == 200 and [(o["length"], o["thickness"], o["place"]) for o in made] == [(400.0, 6.0, "rack 1")] * 2
    status, fault = api.post(path, body)
    assert status == 422 and "on the shelf already" in fault["message"]
    # another design takes one of them before a new bar
    other = designs.create(maker, rods("Pins", (390, 1), (950, 1)))
    assert plan(api, other)["plan"]["cost"] == pytest.approx(10.0)
    label = made[0]["label"]
    assert api.call("PATCH", f"/offcuts/{label}", {"reserved": str(other.pk)})[0] == 200
    piece = {"name": f"{label}, rack 1", "length": made[0]["length"]}
    api.edit(other, 1, {"op": "add", "path": "/stocks/steel6/remainders", "value": {label: piece}})
    planned = plan(api, other)
    assert planned["plan"]["cost"] == pytest.approx(5.0)
    assert {p["remainder"] for p in planned["plan"]["patterns"]} == {f"{label}, rack 1", ""}
    # its own rests are too short to keep, and the remainder is used up
    api.edit(other, 2, {"op": "add", "path": "/stocks/steel6/sawn", "value": planned["digest"]})
    status, left = api.post(f"/designs/{other.pk}/bars/left", body)
    assert status == 200 and left == []
    assert [o["label"] for o in api.get("/offcuts")[1]] == [made[1]["label"]]


def test_where_a_remainder_is_not_on_the_shelf_nothing_is_put_there_either(api, maker):
    """All or nothing: the one that is there stays as it was, until the one that nobody knows is taken out of the plan."""
    there = keep_offcut(maker, "steel6", "Steel rod 6 mm", 6.0, Region(rectangle(0.0, 0.0, 900.0, 6.0), ()))
    design = designs.create(maker, rods("Pins", (600, 1), (390, 1)))
    pieces = {n: {"name": n, "length": x} for n, x in ((there.label, 900.0), ("R77", 400.0))}
    api.edit(design, 1, {"op": "add", "path": "/stocks/steel6/remainders", "value": pieces})
    assert {p["remainder"] for p in plan(api, design)["plan"]["patterns"]} == set(pieces)
    api.edit(design, 2, {"op": "add", "path": "/stocks/steel6/sawn", "value": plan(api, design)["digest"]})
    status, fault = api.post(f"/designs/{design.pk}/bars/left", {"stock": "steel6"})
    assert status == 404 and "R77" in fault["message"]
    assert [(o["label"], o["length"]) for o in api.get("/offcuts")[1]] == [(there.label, 900.0)]


def test_a_mark_counts_for_the_plan_that_was_cut_alone(api, maker):
    design = designs.create(maker, rods("Axles", (600, 2)))
    planned = plan(api, design)
    api.edit(
        design,
        1,
        {"op": "add", "path": "/stocks/steel6/sawn", "value": planned["digest"]},
        {"op": "replace", "path": "/parts/rod_0/span/high/text", "value": "610 mm"},
    )
    status, fault = api.post(f"/designs/{design.pk}/bars/left", {"stock": "steel6"})
    assert status == 422 and "not marked as cut" in fault["message"]
    assert api.post(f"/designs/{design.pk}/bars/left", {"stock": "nothing"})[0] == 404


def test_the_plan_and_its_hash_are_those_of_the_core(api, maker):
    document = rods("Axles", (600, 2))
    design = designs.create(maker, document)
    (work,) = bar_work(build(document))
    assert plan(api, design)["digest"] == work.digest


@pytest.mark.parametrize(
    "stock, own",
    [
        ("steel6", {"remainders": {"R1": {"name": "R1", "length": 400.0}}, "sawn": "x", "taken": {"bar": 2}}),
        ("ply12", {"offcuts": {"R1": {"name": "R1", "outline": [[0, 0], [9, 0], [0, 9]]}}}),
    ],
)
def test_what_a_design_took_of_a_stock_does_not_go_on_the_shelf_with_it(api, maker, stock, own):
    before = (STOCKS | BARS)[stock]
    assert api.call("PUT", f"/workshop/stocks/{stock}", {**before, **own, "name": "Kept"})[0] == 200
    after = api.get("/workshop")[1]["stocks"][stock]
    assert after["name"] == "Kept" and not after.keys() & own.keys()
