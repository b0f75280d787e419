"""A stock that is taken from the shelf brings what belongs to it and changes nothing that the design has; it goes with all of that."""

import pytest

from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.design.workshop import BRAKES, CUTTERS, FITS, STOCKS
from zygon.edits.cut_tests import add_kerf_test
from zygon.edits.stocks import remove_stock, take_stock
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.stock.shelf import Shelf

SHELF = Shelf(stocks=STOCKS, cutters=CUTTERS, fits=FITS, brakes=BRAKES)


def bench(cutter="laser"):
    d = Draft("d", "ply12", cutter=cutter)
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 100))
    return d.document()


def paths(patch):
    return [p["path"] for p in patch]


@pytest.mark.parametrize("key", [k for k in STOCKS if k != "ply12"])
def test_a_stock_brings_what_the_shelf_knows_of_it(key):
    before = bench()
    label, patch = take_stock(before, key, SHELF)
    after = patched(before.dump(), patch)
    assert label == f"Stock: {STOCKS[key]['name']}"
    assert after.stocks[key].order == 1 + max(s.order for s in before.stocks.values())
    assert after.stocks[key].model_copy(update={"order": 0}) == type(after.stocks[key]).model_validate({**STOCKS[key], "order": 0})
    ours = {k for k in before.cutters if key in CUTTERS.get(k, {}).get("work", {})}
    assert {k for k, c in after.cutters.items() if key in c.work} == ours
    for cutter in ours:
        assert after.cutters[cutter].work[key].cut_speed == CUTTERS[cutter]["work"][key]["cut_speed"]
    assert (key in after.fits) == (FITS.get(key, {}).get("cutter") in before.cutters)
    # only what is bent wants a brake
    assert bool(after.brakes) == bool(STOCKS[key].get("bending")) and after.brake == (next(iter(BRAKES)) if after.brakes else "")


def test_what_the_design_has_stays_as_it_is():
    data = bench().dump()
    own = {"stock": "ply12", "cutter": "laser", "slip": {"text": "0.33 mm"}}
    data["fits"]["galv20"] = own
    data["cutters"]["laser"]["work"]["galv20"] = {"cut_speed": 3, "mark_speed": 30}
    data["brakes"] = {"mine": {"name": "Mine", "punches": {}, "dies": {}}}
    before = patched(data, [])
    _, patch = take_stock(before, "galv20", SHELF)
    assert paths(patch) == ["/stocks/galv20"]
    after = patched(before.dump(), patch)
    assert after.fits["galv20"].slip.text == "0.33 mm" and after.cutters["laser"].work["galv20"].cut_speed == 3 and after.brake == ""


def test_fits_of_a_cutter_that_the_design_lacks_stay_on_the_shelf():
    fits = {"ply6": {**FITS["ply12"], "stock": "ply6", "cutter": "another"}}
    _, patch = take_stock(bench(), "ply6", SHELF.model_copy(update={"fits": fits}))
    assert "/fits/ply6" not in paths(patch)
    fits = {"ply6": {**fits["ply6"], "cutter": next(iter(bench().cutters))}}
    _, patch = take_stock(bench(), "ply6", SHELF.model_copy(update={"fits": fits}))
    assert "/fits/ply6" in paths(patch)


@pytest.mark.parametrize(("key", "rule"), [("ply12", "a stock that the design lacks"), ("nothing", "a stock of the shelf")])
def test_what_cannot_be_taken_is_refused(key, rule):
    with pytest.raises(DocumentError) as refused:
        take_stock(bench(), key, SHELF)
    assert (refused.value.entry, refused.value.value, refused.value.rule) == ("key", key, rule)


@pytest.mark.parametrize("key", [k for k in STOCKS if k != "ply12"])
def test_a_stock_that_came_goes_without_a_trace(key):
    before = bench()
    after = patched(before.dump(), take_stock(before, key, SHELF)[1])
    label, patch = remove_stock(after, key)
    gone = patched(after.dump(), patch)
    assert label == f"Remove {STOCKS[key]['name']}"
    # a brake stays: what else is bent may be bent on it
    assert (gone.stocks, gone.fits, gone.cutters) == (before.stocks, before.fits, before.cutters)


def test_a_stock_stays_while_anything_is_of_it_also_what_is_left_out():
    with pytest.raises(DocumentError, match="p is made of Birch plywood 12 mm"):
        remove_stock(bench(), "ply12")
    data = bench().dump()
    data["parts"]["p"]["out"] = True
    with pytest.raises(DocumentError, match="p is made of"):
        remove_stock(patched(data, []), "ply12")
    del data["parts"]["p"]
    plain = patched(data, [])
    assert "/stocks/ply12" in paths(remove_stock(plain, "ply12")[1])
    tested = patched(data, add_kerf_test(build(plain), "ply12", plain.cutter)[1])
    with pytest.raises(DocumentError, match="is made of Birch plywood 12 mm"):
        remove_stock(tested, "ply12")
    with pytest.raises(DocumentError, match="no stock nothing"):
        remove_stock(plain, "nothing")
