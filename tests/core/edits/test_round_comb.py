"""A comb of round holes: cut, read, and what it sets; a hole cut on its line."""

import pytest

from tests.core.making.kinds.test_rods_in_bores import holes, walls
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.edits.cut_tests import add_round_comb, fits_from_round_comb
from zygon.errors import DocumentError
from zygon.making.pipeline import build


def combed(**more):
    document = walls().document()
    return patched(document.dump(), add_round_comb(build(document), "ply12", "laser", "steel8", **more)[1])


def test_a_hole_for_each_clearance_apart_by_the_sheet_and_inside_it():
    built = build(combed())
    flat = built.flats["hole_comb_ply12"].flat
    wide = sorted(round(2 * c.as_circle[2], 4) for c in flat.inside)
    assert wide == pytest.approx([7.9 + 0.05 * i for i in range(9)])
    places = sorted(c.as_circle[:2] for c in flat.inside)
    assert all(b[0] - a[0] - 8.3 >= 11.8 - 1e-6 for a, b in zip(places, places[1:], strict=False))
    x0, y0, x1, y1 = flat.bounds
    assert all(x0 + 8 < x < x1 - 8 and y0 + 8 < y < y1 - 8 for x, y in places)
    assert not built.faults and len(flat.marks) >= 9
    assert not [p for p in check(built) if p.fault.part == "hole_comb_ply12" and p.fault.code in ("near_edge", "thin_web")]


def test_what_was_read_stands_in_for_its_names_and_only_for_that_shaft():
    document = combed()
    label, patch = fits_from_round_comb(document, "hole_comb_ply12", {"fixed": -0.05, "running": 0.15})
    assert label == "Steel rod 8 mm in Birch plywood 12 mm, from the comb"
    document = patched(document.dump(), patch)
    data = document.dump()
    for part, fit in (("one", "fixed"), ("two", "running")):
        data["bores"]["hole"]["parts"][part]["fit"]["text"] = fit
    built = build(patched(data, []))
    assert holes(built, "one") == [("through", pytest.approx(7.95))] and holes(built, "two") == [("through", pytest.approx(8.15))]
    # another shaft has not been tried: 0 and 0.2
    data["fits"] = {k: {**f, "shafts": {"other": f["shafts"]["steel8"]}} for k, f in data["fits"].items() if f.get("shafts")}
    built = build(patched(data, []))
    assert holes(built, "one") == [("through", 8.0)] and holes(built, "two") == [("through", 8.2)]


def test_they_may_be_reckoned_with_and_are_no_names_elsewhere():
    data = combed().dump()
    data["bores"]["hole"]["parts"]["one"]["fit"]["text"] = "running + 0.1 mm"
    assert holes(build(patched(data, [])), "one") == [("through", pytest.approx(8.3))]
    data["parts"]["rod"]["at"]["y"]["text"] = "running"
    assert [f.code for f in build(patched(data, [])).faults] == ["broken_expression"]


@pytest.mark.parametrize(
    ("values", "said"),
    [({}, "at least one hole"), ({"running": 0.123}, "no hole of"), ({"fixed": 0.1, "running": 0.05}, "out of order"), ({"fixed": 0.1, "running": 0.1}, "out of order")],
)  # fmt: skip
def test_readings_that_cannot_be_are_refused(values, said):
    with pytest.raises(DocumentError, match=said):
        fits_from_round_comb(combed(), "hole_comb_ply12", values)


@pytest.mark.parametrize("more", [{"number": 1}, {"number": 21}, {"step": 0.0}, {"start": -3.0}, {"start": float("nan")}])
def test_combs_that_cannot_be_are_refused(more):
    with pytest.raises(DocumentError):
        combed(**more)


def test_a_comb_wants_a_round_bar_and_a_kerf_that_still_holds():
    document = walls().document()
    with pytest.raises(DocumentError, match="for a round bar"):
        add_round_comb(build(document), "ply12", "laser", "ply12")
    data = combed().dump()
    data["cutters"]["laser"]["kerf"] = {"text": "0.3 mm", "unit": "mm"}
    data["cutters"]["laser"]["work"] = {}
    with pytest.raises(DocumentError, match="was cut with the kerf"):
        fits_from_round_comb(patched(data, []), "hole_comb_ply12", {"fixed": 0.0})


def test_cut_on_its_line_a_hole_is_wider_by_the_kerf():
    """Common practice: an axle of 0.248 in in a hole drawn 0.250 in and cut on the line, which comes out 0.15 to 0.20 mm wider, turns freely."""
    data = walls().document().dump()
    data["cutters"]["laser"]["kerf"] = {"text": "0.18 mm", "unit": "mm"}
    data["cutters"]["laser"]["work"] = {}
    data["bores"]["hole"]["parts"]["one"] |= {"on_line": True, "fit": {"text": "0.002 in", "unit": "in"}}
    built = build(patched(data, []))
    assert holes(built, "one") == [("through", pytest.approx(8 + 0.0508 + 0.18))]
    assert holes(built, "two") == [("through", 8.2)]
