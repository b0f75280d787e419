"""The range test over the API: a few places at a time, kept, gone on with, and begun anew where the design is another."""

from zygon_server.designs import ranges, service
from zygon_server.designs.models import RangeTries

from zygon.design.examples import example
from zygon.range_test.run import range_test
from zygon.range_test.tries import Tries
from zygon.screen.ranges import ranges_data


def changed(api, design, path, value):
    design.refresh_from_db()
    assert api.edit(design, design.revision, {"op": "replace", "path": path, "value": value})[0] == 200


def small(maker):
    """A design with few sizes, of which one breaks."""
    return service.create(maker, example("landing-board"))


def to_the_end(api, at):
    for _ in range(200):
        status, told = api.post(at)
        assert status == 200
        if told["done"] == told["total"]:
            return told
    raise AssertionError("it does not come to an end")


def test_it_is_gone_on_with_until_all_is_tried_and_finds_what_one_run_finds(api, maker, monkeypatch):
    design = small(maker)
    at = f"/designs/{design.pk}/range-test"
    monkeypatch.setattr(ranges, "LONG", -1.0)
    begun = api.get(at)[1]
    assert (begun["tried"], begun["done"], begun["sizes"]) == (0, 0, []) and begun["total"] > 0 and not RangeTries.objects.exists()
    counts = [api.post(at)[1]["tried"] for _ in range(3)]
    assert counts == [1, 2, 3], "a place at least each time, no more than there is time for"
    assert api.get(at)[1]["tried"] == 3, "looking tries nothing"
    monkeypatch.setattr(ranges, "LONG", 60.0)
    told = to_the_end(api, at)
    document = example("landing-board")
    assert told == ranges_data(document, range_test(Tries(document)))
    assert api.get(at)[1] == told


def test_another_range_asks_for_its_own_places_and_another_design_for_all(api, maker):
    design = small(maker)
    at = f"/designs/{design.pk}/range-test"
    whole = to_the_end(api, at)
    key = next(s["key"] for s in whole["sizes"] if not s["wrong"])
    entry = design.document["sizes"][key]["entry"]
    changed(api, design, f"/sizes/{key}/low", entry)
    told = api.get(at)[1]
    assert told["tried"] >= whole["tried"] > 0, "what was tried stays"
    changed(api, design, f"/sizes/{key}/note", "another note")
    changed(api, design, "/rules/edge", 3.0)
    assert api.get(at)[1]["tried"] == 0
    api.post(at)
    assert RangeTries.objects.filter(design=design).count() == 1


def test_a_design_without_sizes_is_done_at_once(api, maker):
    document = example("landing-board")
    data = document.model_dump(mode="json", by_alias=True)
    from zygon.design.upgrade import load

    bare = service.create(
        maker, load(data | {"sizes": {}, "parts": {}, "joints": {}, "bores": {}, "groups": {}, "copies": {}, "clearances": {}})
    )
    status, told = api.post(f"/designs/{bare.pk}/range-test")
    assert status == 200 and (told["done"], told["total"], told["sizes"]) == (0, 0, [])
