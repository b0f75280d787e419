"""A half of a folded part begins before it ends, and both lie within its plate; what cannot be is said at its entry, and the whole stands."""

import pytest

from zygon.design.draft import Draft
from zygon.making.pipeline import build


def half(**ends):
    d = Draft("tray", "galv20")
    d.board("p", "galv20", "lying", 0, ("20 mm", "320 mm"), (0, 200), up="a")
    d.fold("p").flange("p", "left", "left", 30).flange("p", "right", "right", 30)
    d.data["parts"]["p"]["folding"]["split"] = {"axis": "x", **{k: d.entry(v) for k, v in ends.items()}}
    return build(d.document())


@pytest.mark.parametrize("low, high, width", [("100 mm", "100.1 mm", 0.1), ("100 mm", "250 mm", 150), ("219 mm", "220 mm", 1)])
def test_a_half_is_as_wide_as_its_cuts_lie_apart(low, high, width):
    built = half(low=low, high=high)
    assert [f.code for f in built.faults] == []
    x0, _, x1, _ = built.flats["p"].flat.bounds
    assert x1 - x0 == pytest.approx(width, abs=1e-6)


@pytest.mark.parametrize("low, high, left", [("200 mm", "199 mm", "-1 mm"), ("200 mm", "200 mm", "0 mm")])
def test_nothing_is_left_of_one_that_ends_before_it_begins(low, high, left):
    (fault,) = half(low=low, high=high).faults
    assert (fault.code, fault.entry, fault.value, fault.rule) == ("bad_split", "/parts/p/folding/split", left, "it begins before it ends")
    assert fault.message == "p: nothing is left between its two cuts"


@pytest.mark.parametrize("name", ["low", "high"])
@pytest.mark.parametrize("at", ["20 mm", "320 mm", "-5 mm", "400 mm"])
def test_a_cut_beside_the_plate_is_said_where_it_stands(name, at):
    built = half(**{name: at})
    (fault,) = built.faults
    assert (fault.code, fault.entry, fault.value) == ("bad_split", f"/parts/p/folding/split/{name}", at)
    assert fault.rule == "between 20 mm and 320 mm"
    # the whole stands, with both flanges
    x0, _, x1, _ = built.flats["p"].flat.bounds
    assert x1 - x0 > 300


@pytest.mark.parametrize("low, high, owners", [("20.6 mm", "200 mm", {"flange:p:left"}), ("100 mm", "319.4 mm", {"flange:p:right"})])
def test_a_cut_through_a_bend_is_said_of_the_flange(low, high, owners):
    faults = [f for f in half(low=low, high=high).faults if f.code == "split_crosses"]
    assert {f.owner for f in faults} >= owners, [(f.owner, f.message) for f in faults]
    assert {f.entry for f in faults} == {"/parts/p/folding/split"}
    assert all(f.owner == "folding" or f.owner in owners for f in faults)
