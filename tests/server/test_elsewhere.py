"""Orders to outside cutters: drawings as each of them states, asked, ordered once, received piece by piece; frozen at their revision."""

from __future__ import annotations

import csv
import io
import zipfile

import ezdxf
import pytest
import shapely
from zygon_server.designs import service
from zygon_server.elsewhere import simulated
from zygon_server.elsewhere.models import OutsideOrder
from zygon_server.elsewhere.outside import OutsideRefused
from zygon_server.elsewhere.simulated import CUTTERS

from tests.server.test_programs import changed
from zygon.design.examples import example
from zygon.exchange.elsewhere import Wanted, order_pack
from zygon.exchange.read import read_outlines
from zygon.geometry.boolean import region_polygon
from zygon.stock.cutter import Layers

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def own_books(tmp_path, monkeypatch, settings):
    monkeypatch.setattr(simulated, "VAR", tmp_path)
    settings.OUTSIDE_DAY = 3600.0


def ask(api, design, cutter="pebbleford", *parts):
    return api.post(f"/designs/{design.pk}/outside-orders", {"cutter": cutter, "parts": list(parts)})


def asked(api, design, cutter="pebbleford", *parts):
    status, body = ask(api, design, cutter, *parts)
    assert status == 200, body
    return body


def act(api, order, what):
    return api.post(f"/outside-orders/{order['id']}/acts", {"act": what})


def files(api, order):
    answer = api.client.get(f"/api/outside-orders/{order['id']}/files")
    assert answer.status_code == 200
    return zipfile.ZipFile(io.BytesIO(answer.content))


def test_an_order_from_its_price_to_its_last_piece(api, design, settings):
    order = asked(api, design)
    assert order["state"] == "asked" and order["price"] > 18 and order["days"] >= 2 and not order["changed"]
    assert {i["part"] for i in order["items"]} >= {"front", "back", "floor"} and all(i["received"] == 0 for i in order["items"])
    status, done = act(api, order, "order")
    assert status == 200 and done["state"] == "ordered" and done["reference"] and not done["sent"]
    status, fault = act(api, order, "order")
    assert (status, fault["code"]) == (422, "not_now") and act(api, order, "drop")[0] == 422
    assert len(list(CUTTERS["pebbleford"]._books().records())) == 1
    settings.OUTSIDE_DAY = 0.0
    again = asked(api, design)
    act(api, again, "order")
    assert [o["sent"] for o in api.get(f"/designs/{design.pk}/outside-orders")[1]] == [True, False]
    first, *others = order["items"]
    status, part = api.post(f"/outside-orders/{order['id']}/received", {"received": {first["key"]: first["quantity"]}})
    assert status == 200 and part["state"] == "ordered" and part["items"][0]["received"] == first["quantity"]
    status, whole = api.post(f"/outside-orders/{order['id']}/received", {"received": {i["key"]: i["quantity"] for i in others}})
    assert status == 200 and whole["state"] == "received"
    # one that turns out to be bad is taken back
    status, less = api.post(f"/outside-orders/{order['id']}/received", {"received": {first["key"]: 0}})
    assert status == 200 and less["state"] == "ordered"
    assert api.post(f"/outside-orders/{order['id']}/received", {"received": {first["key"]: 99}})[0] == 422
    assert api.post(f"/outside-orders/{order['id']}/received", {"received": {"nobody": 1}})[0] == 404


def test_what_was_asked_stays_as_it_was_when_the_design_moves_on(api, design):
    order = asked(api, design)
    before = {n: files(api, order).read(n) for n in files(api, order).namelist()}
    changed(api, design, {"op": "replace", "path": "/sizes/width/entry/text", "value": "480 mm"})
    (now,) = api.get(f"/designs/{design.pk}/outside-orders")[1]
    assert now["changed"] and now["revision"] == order["revision"] and now["items"] == order["items"]
    assert {n: files(api, order).read(n) for n in files(api, order).namelist()} == before


def test_dropped_it_is_not_ordered(api, design):
    order = asked(api, design)
    assert act(api, order, "drop")[1]["state"] == "dropped"
    assert act(api, order, "order")[0] == 422 and not list(CUTTERS["pebbleford"]._books().records())
    assert api.post(f"/outside-orders/{order['id']}/received", {"received": {}})[1]["code"] == "not_now"


def test_an_answer_that_is_lost_orders_nothing_twice(api, design, monkeypatch):
    order = asked(api, design)
    true = simulated.Simulated.order

    def lost(self, ours, items, data):
        true(self, ours, items, data)
        raise ConnectionError("gone")

    monkeypatch.setattr(simulated.Simulated, "order", lost)
    api.client.raise_request_exception = False
    assert act(api, order, "order")[0] == 500
    assert OutsideOrder.objects.get(pk=order["id"]).state == "sending"
    monkeypatch.setattr(simulated.Simulated, "order", true)
    status, done = act(api, order, "order")
    assert status == 200 and done["state"] == "ordered"
    assert [r["reference"] for r in CUTTERS["pebbleford"]._books().records()] == [done["reference"]]


def test_what_a_cutter_does_not_cut_is_said(api, design):
    status, fault = ask(api, design, "quern-lane")
    assert (status, fault["code"]) == (422, "not_cut_there") and "does not cut plywood" in fault["message"]
    assert ask(api, design, "nobody")[0] == 404
    status, fault = ask(api, design, "pebbleford", "beech_rod")
    assert status == 422 and "cut from sheets" in fault["message"]
    assert not OutsideOrder.objects.exists()
    item = {**one_item(api, design), "thickness": 30.0}
    with pytest.raises(OutsideRefused, match=r"30 mm thick; .* up to 18 mm"):
        CUTTERS["pebbleford"].quote([item])
    with pytest.raises(OutsideRefused, match="larger than the bed"):
        CUTTERS["pebbleford"].quote([{**item, "thickness": 12.0, "length": 3000.0}])


def one_item(api, design):
    return order_pack(service.head(design).document, CUTTERS["pebbleford"].wants)[0][0]


def test_nothing_is_asked_while_a_problem_of_its_parts_stands(api, design):
    changed(api, design, {"op": "replace", "path": "/sizes/width/entry/text", "value": "20 mm"})
    status, fault = ask(api, design)
    assert status == 422 and "Mend it first" in fault["message"]


@pytest.mark.parametrize("lines", ["nominal", "compensated"])
@pytest.mark.parametrize("name", ["brood-box", "electronics-box", "hive-floor"])
def test_the_drawings_are_as_the_cutter_states(tmp_path, name, lines):
    document = example(name)
    kerf = 0.3
    items, data = order_pack(document, Wanted("W", "laser", lines, "dxf", kerf))
    archive = zipfile.ZipFile(io.BytesIO(data))
    assert sorted(archive.namelist()) == sorted([*(i["file"] for i in items), "ORDER.csv"])
    rows = list(csv.DictReader(io.StringIO(archive.read("ORDER.csv").decode())))
    assert [(r["Part"], int(r["Quantity"]), r["File"]) for r in rows] == [(i["part"], i["quantity"], i["file"]) for i in items]
    for i in items:
        path = tmp_path / "part.dxf"
        path.write_bytes(archive.read(i["file"]))
        assert not ezdxf.readfile(path).audit().errors
        cut = [layer.name for layer in read_outlines(path).layers if layer.name in (Layers().inside.name, Layers().outside.name)]
        regions = read_outlines(path, layers=cut).regions
        drawn = shapely.union_all([region_polygon(r, 0.002) for r in regions])
        off = 0.0 if lines == "nominal" else kerf / 2
        # taken back by half the kerf it is the nominal part again, but for what a round tool leaves
        assert drawn.buffer(-off, join_style="mitre").area == pytest.approx(i["area"], rel=2e-3, abs=2.0), i["part"]
        assert ("compensated" if off else "nominal") in i["file"]


def test_what_stays_for_the_hand_is_said():
    items, _ = order_pack(example("hive-floor"), CUTTERS["pebbleford"].wants)
    assert any("grooves and pockets" in i["left"] for i in items)
    items, _ = order_pack(example("roof"), CUTTERS["quern-lane"].wants)
    assert all("bends" in i["left"] for i in items)
