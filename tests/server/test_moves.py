"""What moves, over the API: found, how far, said of, and what cannot be asked."""

import math
import threading

import pytest
from zygon_server.designs import service, travels

from zygon.design.examples import EXAMPLES
from zygon.patience import still_wanted
from zygon.screen.moves import travel_data

pytestmark = pytest.mark.django_db


@pytest.fixture
def chest(maker):
    return service.create(maker, EXAMPLES["tool-chest"]())


def travelled(api, design, key):
    """How far a movement goes, once that is found."""
    while True:
        status, found = api.get(f"/designs/{design.pk}/moves/{key}/travel")
        assert status == 200
        assert 0 <= found["share"] <= 1
        if found["travel"] is not None:
            return found["travel"]


def test_movements_come_with_their_axes_chains_and_what_is_said(api, chest):
    status, found = api.get(f"/designs/{chest.pk}/moves")
    assert status == 200
    by = {m["key"]: m for m in found["moves"]}
    lid, drawer = by["turns:lid"], by["slides:drawer_left"]
    assert lid["name"] == "lid_opens"
    assert lid["entries"]["most"]["text"] == "105 deg"
    assert lid["entries"]["most"]["value"] == pytest.approx(math.radians(105))
    assert drawer["way"] == [0.0, -1.0, 0.0]
    assert "left" in found["still"]
    assert {p["name"] for p in found["positions"]} == {"closed", "open"}
    pieces = {p for t in found["things"] for p in t["pieces"]}
    assert {"hinge", "hinge~b", "slide_left~b"} <= pieces


def test_a_hinge_tells_where_its_second_leaf_begins(api, chest):
    _, design = api.get(f"/designs/{chest.pk}")
    solids = {p["key"]: p["solid"] for p in design["built"]["parts"] if p.get("solid")}
    leaf = design["resources"][solids["hinge"]]["leaf"]
    assert leaf and 0 < leaf[0] * 3 < len(design["resources"][solids["hinge"]]["triangles"])
    assert design["resources"][solids["lid"]].get("leaf") is None


def test_a_travel_tells_both_stops_and_what_is_struck(api, chest):
    found = travelled(api, chest, "turns:lid")
    assert (found["low"]["why"], found["high"]["why"]) == ("strikes", "limit")
    assert found["low"]["parts"] == ["lid", "left"]
    assert found["high"]["by"] == pytest.approx(math.radians(105))
    assert found["track"] == []


def test_what_hangs_together_comes_with_its_track(api, maker):
    leg = service.create(maker, EXAMPLES["fold-down-leg"]())
    found = travelled(api, leg, "turns:leg")
    track = found["track"]
    assert len(track) > 40
    assert [k["by"] for k in track] == sorted(k["by"] for k in track)
    assert set(track[0]["at"]) == {"turns:leg", "turns:stay"}
    assert any(k["by"] == 0 and k["at"]["turns:stay"] == 0 for k in track)


def test_what_does_not_move_is_refused_by_name(api, chest):
    status, fault = api.get(f"/designs/{chest.pk}/moves/turns:left/travel")
    assert status == 422
    assert (fault["entry"], fault["value"], fault["code"]) == ("key", "turns:left", "bad_reference")


def test_an_operation_says_something_and_an_edit_keeps_it(api, chest):
    body = {"operation": "say_move", "movement": "turns:lid", "field": "to", "text": "40 deg"}
    status, worked = api.post(f"/designs/{chest.pk}/operations", body)
    assert status == 200
    assert worked["label"] == "lid_opens: moved to 40 deg"
    assert api.edit(chest, 1, *worked["patch"])[0] == 200
    _, found = api.get(f"/designs/{chest.pk}/moves")
    assert next(m["now"] for m in found["moves"] if m["key"] == "turns:lid") == pytest.approx(math.radians(40))
    status, fault = api.post(f"/designs/{chest.pk}/operations", {**body, "movement": "turns:none"})
    assert status == 422
    assert "Nothing moves as turns:none" in fault["message"]


def test_a_search_that_takes_long_tells_how_much_of_it_is_done(api, chest, monkeypatch):
    """It is asked for again until it is there, and a newer revision ends it."""
    gate, shares = threading.Event(), []

    def slow(built, key, told):
        told(0.4)
        shares.append(key)
        gate.wait(30)
        still_wanted()
        return travel_data(built, key, told)

    monkeypatch.setattr(travels, "travel_data", slow)
    monkeypatch.setattr(travels, "PATIENCE", 0.05)
    status, found = api.get(f"/designs/{chest.pk}/moves/turns:lid/travel")
    assert (status, found["travel"]) == (200, None)
    found = api.get(f"/designs/{chest.pk}/moves/turns:lid/travel")[1]
    assert found == {"travel": None, "share": 0.4}
    assert shares == ["turns:lid"]
    assert api.edit(chest, 1, {"op": "replace", "path": "/sizes/width/entry/text", "value": "500 mm"})[0] == 200
    api.get(f"/designs/{chest.pk}/moves/turns:lid/travel")
    gate.set()
    assert travelled(api, chest, "turns:lid")["low"]["why"] == "strikes"
    assert shares == ["turns:lid", "turns:lid"]
