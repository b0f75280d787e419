"""Orders of bending are found beside the answers: an edit does not wait for them, and what they show is said once they are found."""

import threading

import pytest
from zygon_server.designs import orders, service
from zygon_server.designs.models import Design

from tests.server.conftest import Api, text
from zygon.brake import bend_plan as plan
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.upgrade import load
from zygon.memo import Memo


@pytest.fixture
def gate(monkeypatch):
    """Holds every search of an order until it is opened."""
    gate, found = threading.Event(), plan._found

    def held(document, part, flat, stop):
        while not gate.wait(0.01):
            if stop():
                break
        return found(document, part, flat, stop)

    monkeypatch.setattr(plan, "_found", held)
    monkeypatch.setattr(plan, "_PLANS", Memo(100))
    monkeypatch.setattr(orders, "PATIENCE", 0.0)
    monkeypatch.setattr(orders, "known_move_faults", lambda built: [])
    yield gate
    gate.set()


@pytest.fixture
def maker(transactional_db, django_user_model):
    return django_user_model.objects.create_user("bender")


def tray():
    """A tray with a wall, a lip on it, and a back on that."""
    d = Draft("tray", "galv20")
    d.size("leg", "31.7 mm")
    d.board("tray", "galv20", "lying", "0", (0, "150 mm"), (0, "100 mm"))
    d.fold("tray")
    d.flange("tray", "left", "left", "leg").flange("tray", "lip", "end", "15 mm", on="left")
    d.flange("tray", "back", "end", "20 mm", on="lip")
    return d.document()


def finished(design):
    """Waits until the search of a design has ended by itself."""
    done = threading.Event()
    orders.when_done(design.pk, done.set)
    assert done.wait(60)


def test_an_edit_is_answered_before_its_order_is_found(maker, gate):
    api = Api(maker)
    design = service.create(maker, tray())
    status, first = api.get(f"/designs/{design.pk}")
    assert status == 200 and first["ordering"] == ["the order of bending of tray"]
    assert api.get(f"/designs/{design.pk}/parts/tray/bending")[1] | {"brake": ""} == {
        "brake": "",
        "by_hand": False,
        "steps": [],
        "finding": True,
    }
    assert api.get(f"/designs/{design.pk}/ordering")[1] == {
        "revision": 1,
        "ordering": ["the order of bending of tray"],
        "problems": [],
        "tag": first["tag"],
    }
    gate.set()
    finished(design)
    status, body = api.get(f"/designs/{design.pk}/ordering")
    whole = api.get(f"/designs/{design.pk}")[1]
    # whoever puts the problems in has the head that goes by this tag
    assert body["ordering"] == [] and body["tag"] == whole["tag"]
    assert {**first["built"], "problems": body["problems"]} == whole["built"]
    found = api.get(f"/designs/{design.pk}/parts/tray/bending")[1]
    assert len(found["steps"]) == 3 and not found["finding"]


def test_what_an_order_shows_is_said_and_counted_once_it_is_found(maker, gate):
    """An order by hand that cannot be bent: first unknown, then an error, and the list of designs counts it."""
    api = Api(maker)
    d = tray().dump()
    d["parts"]["tray"]["folding"]["flanges"]["back"]["length"]["text"] = "60 mm"
    d["parts"]["tray"]["folding"]["sequence"] = ["back", "lip", "left"]
    design = service.create(maker, load(d))
    before = Design.objects.get(pk=design.pk).problems
    first = api.get(f"/designs/{design.pk}")[1]
    assert "bend_order" not in [p["code"] for p in first["built"]["problems"]]
    gate.set()
    finished(design)
    found = api.get(f"/designs/{design.pk}/ordering")[1]
    problems = found["problems"]
    assert "bend_order" in [p["code"] for p in problems]
    whole = api.get(f"/designs/{design.pk}")[1]
    assert {**first["built"], "problems": problems} == whole["built"]
    assert found["tag"] == whole["tag"] != first["tag"]
    assert Design.objects.get(pk=design.pk).problems > before


def test_a_refused_edit_does_not_end_the_search_of_what_stands(maker, gate):
    api = Api(maker)
    design = service.create(maker, tray())
    status, _ = api.edit(design, 1, text("leg", "nobody.left"))
    assert status == 422
    assert api.get(f"/designs/{design.pk}/ordering")[1]["ordering"] == ["the order of bending of tray"]
    gate.set()
    finished(design)
    assert api.get(f"/designs/{design.pk}/ordering")[1]["ordering"] == []


def test_a_newer_edit_ends_the_search_of_the_older_one(maker, gate):
    api = Api(maker)
    design = service.create(maker, tray())
    first = orders._SEARCHES.known(str(design.pk))[0]
    status, body = api.edit(design, 1, text("leg", "33.3 mm"))
    assert status == 200 and body["ordering"] == ["the order of bending of tray"]
    assert first.exception(timeout=60) is not None
    gate.set()
    finished(design)
    told = api.get(f"/designs/{design.pk}/ordering")[1]
    assert (told["revision"], told["ordering"]) == (2, [])


def test_a_search_that_breaks_is_not_waited_for_for_ever(maker, gate, monkeypatch):
    def breaks(document, part, flat, stop):
        raise ZeroDivisionError

    monkeypatch.setattr(plan, "_found", breaks)
    api = Api(maker)
    design = service.create(maker, tray())
    orders._SEARCHES.known(str(design.pk))[0].exception(timeout=60)
    assert api.get(f"/designs/{design.pk}")[1]["ordering"] == []
    assert api.get(f"/designs/{design.pk}/parts/tray/bending")[1]["finding"] is False


def test_what_moves_is_looked_for_beside_the_answer_and_filled_in(maker, monkeypatch):
    """An edit is answered at once; what a thing strikes comes with the problems once it is found."""
    gate, found = threading.Event(), orders.move_faults

    def held(built):
        assert gate.wait(60)
        return found(built)

    monkeypatch.setattr(orders, "move_faults", held)
    monkeypatch.setattr(orders, "PATIENCE", 0.0)
    data = EXAMPLES["tool-chest"]().dump()
    data["moves"]["lid"]["least"] = {"text": "-20 deg", "unit": "mm"}
    api, design = Api(maker), service.create(maker, load(data))
    _, first = api.get(f"/designs/{design.pk}")
    assert first["ordering"] == ["what moves"]
    assert "strikes" not in {p["code"] for p in first["built"]["problems"]}
    gate.set()
    finished(design)
    found_then = api.get(f"/designs/{design.pk}/ordering")[1]
    assert found_then["ordering"] == []
    assert "strikes" in {p["code"] for p in found_then["problems"]}
