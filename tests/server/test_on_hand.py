"""How many sheets and bars there are: said on the shelf, read by every design's layouts and plans, taken off as they are cut."""

from importlib import import_module

import pytest
from django.apps import apps
from zygon_server.designs import service as designs
from zygon_server.workshop.models import Stock
from zygon_server.workshop.service import stock_the_shelf

from tests.server.conftest import Api
from tests.server.test_arranging import arrange, arrangement, laid_out, stock_of
from tests.server.test_remainders import plan, rods


@pytest.fixture
def shelf(maker):
    stock_the_shelf(maker)


def say(api, stock, size, count):
    return api.call("PUT", f"/workshop/on-hand/{stock}/{size}", {"count": count})


def there(api, stock):
    return api.get("/workshop")[1]["on_hand"].get(stock, {})


def step(api, design, way):
    revision = api.get(f"/designs/{design.pk}")[1]["revision"]
    status, _ = api.post(f"/designs/{design.pk}/{way}", {"have": []}, **{"If-Match": f'"{revision}"'})
    assert status == 200


def test_what_is_counted_is_kept_refused_and_forgotten(api, shelf):
    assert there(api, "ply12") == {}
    assert say(api, "ply12", "half", 4) == (200, {"half": 4}) and say(api, "ply12", "full", 0) == (200, {"half": 4, "full": 0})
    assert say(api, "ply12", "half", None) == (200, {"full": 0}) and there(api, "ply12") == {"full": 0}
    for stock, size in (("ply12", "nothing"), ("nothing", "half"), ("felt3", "roll")):
        status, fault = say(api, stock, size, 1)
        assert status == 404 and stock in fault["message"] and size in fault["message"]
    for count in (-1, 10_001):
        status, fault = say(api, "ply12", "full", count)
        assert status == 422 and str(count) in fault["message"] and "0 to 10000" in fault["rule"]
    # a size that the stock is sold in no more is not counted any more, and one that stays is
    say(api, "ply12", "half", 7)
    record = api.get("/workshop")[1]["stocks"]["ply12"]
    del record["sheets"]["full"]
    api.call("PUT", "/workshop/stocks/ply12", record)
    assert there(api, "ply12") == {"half": 7}


def test_another_maker_s_shelf_counts_for_nobody_else(api, shelf, maker, django_user_model, design):
    other = django_user_model.objects.create_user("other", password="a long enough one")
    stock_the_shelf(other)
    say(Api(other), "ply12", "half", 0)
    assert there(api, "ply12") == {} and stock_of(laid_out(api, design))["layout"]["unplaced"] == {}


def test_a_layout_takes_no_more_sheets_than_there_are_and_follows_the_shelf(api, shelf, design):
    free = stock_of(laid_out(api, design))["layout"]
    for sheets, state in ((0, "nothing"), (1, "all"), (None, "all")):
        assert say(api, "ply12", "half", sheets)[0] == 200
        say(api, "ply12", "full", 0)
        layout = stock_of(laid_out(api, design))["layout"]
        left = sum(layout["unplaced"].values())
        assert (left == 0) == (state == "all") and len(layout["sheets"]) == (0 if state == "nothing" else len(free["sheets"]))
    # the only sheet that is left is the large one
    say(api, "ply12", "half", 0)
    say(api, "ply12", "full", 1)
    layout = stock_of(laid_out(api, design))["layout"]
    assert [s["size"] for s in layout["sheets"]] == ["full"] and not layout["unplaced"]


def test_a_piece_in_the_hand_begins_a_new_sheet_only_where_one_is_left(api, shelf, design):
    say(api, "ply12", "half", 1)
    laid_out(api, design)
    body = {"stock": "ply12", "part": "left", "number": 0, "angle": 90, "mirrored": False}
    room = api.post(f"/designs/{design.pk}/nest/room", body)[1]
    assert room["fresh"]["size"] == "full" and room["rooms"][-1]
    say(api, "ply12", "full", 0)
    laid_out(api, design)
    room = api.post(f"/designs/{design.pk}/nest/room", body)[1]
    assert room["fresh"]["length"] == 0.0 and room["rooms"][-1] == [] and room["rooms"][0]


def test_a_sheet_that_is_cut_is_taken_off_and_put_back_where_that_is_undone(api, shelf, design):
    say(api, "ply12", "half", 3)
    hand = arrangement(stock_of(laid_out(api, design))["layout"])
    arrange(api, design, 1, hand)
    assert there(api, "ply12") == {"half": 3}
    hand["sheets"]["s0"]["cut"] = True
    arrange(api, design, 2, hand)
    assert there(api, "ply12") == {"half": 2}
    # what has been cut is what this design has: nothing is laid out anew for it, and nothing is missing
    say(api, "ply12", "half", 0)
    say(api, "ply12", "full", 0)
    now = stock_of(laid_out(api, design))
    assert now["current"] and now["layout"]["sheets"][0]["cut"] and not now["layout"]["unplaced"]
    step(api, design, "undo")
    assert there(api, "ply12")["half"] == 1
    step(api, design, "redo")
    assert there(api, "ply12")["half"] == 0
    # a copy of the design is not cut, and has no sheet
    copy = designs.Design.objects.get(pk=api.post(f"/designs/{design.pk}/copy")[1]["id"])
    assert not any(s.get("cut") for s in copy.document["nest"]["arranged"]["ply12"]["sheets"].values())
    assert there(api, "ply12")["half"] == 0 and sum(stock_of(laid_out(api, copy))["layout"]["unplaced"].values()) > 0


def test_bars_that_are_cut_are_taken_off_and_their_plan_stays(api, shelf, maker):
    record = api.get("/workshop")[1]["stocks"]["steel6"]
    api.call("PUT", "/workshop/stocks/steel6", record)
    say(api, "steel6", "bar", 2)
    design = designs.create(maker, rods("Axles", (600, 3)))
    assert [m["count"] for m in plan(api, design)["plan"]["missing"]] == [1]
    say(api, "steel6", "bar", 5)
    planned = plan(api, design)
    assert planned["plan"]["bars"] == 3 and planned["plan"]["missing"] == []
    mark = [
        {"op": "add", "path": "/stocks/steel6/sawn", "value": planned["digest"]},
        {"op": "add", "path": "/stocks/steel6/taken", "value": {"bar": 3}},
    ]
    assert api.edit(design, 1, *mark)[0] == 200
    assert there(api, "steel6") == {"bar": 2} and plan(api, design) == planned
    # what it was cut from is enough of another design no more
    other = designs.create(maker, rods("Pins", (600, 3)))
    assert [m["count"] for m in plan(api, other)["plan"]["missing"]] == [1]
    assert api.post(f"/designs/{design.pk}/bars/left", {"stock": "steel6"})[0] == 200
    # changed, and cut once more: what was cut before stays cut
    again = [
        {"op": "replace", "path": "/stocks/steel6/sawn", "value": "another"},
        {"op": "add", "path": "/stocks/steel6/taken/bar", "value": 5},
    ]
    assert api.edit(design, 2, *again)[0] == 200 and there(api, "steel6") == {"bar": 0}
    step(api, design, "undo")
    assert there(api, "steel6") == {"bar": 2} and plan(api, design) == planned
    step(api, design, "undo")
    assert there(api, "steel6") == {"bar": 5} and plan(api, other)["plan"]["missing"] == []


def test_less_than_nothing_is_never_left(api, shelf, maker):
    say(api, "steel6", "bar", 1)
    design = designs.create(maker, rods("Axles", (600, 3)))
    api.edit(
        design,
        1,
        {"op": "add", "path": "/stocks/steel6/sawn", "value": "by hand"},
        {"op": "add", "path": "/stocks/steel6/taken", "value": {"bar": 3}},
    )
    assert there(api, "steel6") == {"bar": 0}


def test_what_stocks_of_before_said_of_how_many_there_are_goes_beside_them(maker):
    kept = {
        "sheet": {"sheets": {"half": {"count": 3}, "full": {"count": 0}, "odd": {}}},
        "bar": {"lengths": {"bar": {"count": 12, "price": 2.0}}},
    }
    for key, data in kept.items():
        Stock.objects.create(owner=maker, key=f"old-{key}", data=data)
    import_module("zygon_server.workshop.migrations.0005_on_hand").beside(apps, None)
    found = {s.key.removeprefix("old-"): (s.data, s.on_hand) for s in Stock.objects.filter(owner=maker, key__startswith="old-")}
    assert found == {
        "sheet": ({"sheets": {"half": {}, "full": {}, "odd": {}}}, {"half": 3}),
        "bar": ({"lengths": {"bar": {"price": 2.0}}}, {"bar": 12}),
    }
