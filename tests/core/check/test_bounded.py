"""What the checks do about designs that would take long: what overlaps many times is counted, what lies apart is not united."""

import math

import pytest
import shapely

from zygon.check import overlap, placed
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.upgrade import load
from zygon.making.assembly import hold
from zygon.making.pipeline import build


def in_a_grid(n: int, spacing: str):
    """``n`` times ``n`` boards that stand upright, at the same spacing to the back and up."""
    d = Draft("Grid", "ply12")
    d.board("p", "ply12", "facing_side", "0", ("0", "100 mm"), ("0", "100 mm"))
    data = d.document().dump()
    space = {"text": spacing, "unit": "mm"}
    data["copies"] = {
        "g": {
            "kind": "grid",
            "name": "g",
            "of": ["part:p"],
            "axis": "y",
            "number": {"text": str(n)},
            "spacing": space,
            "axis_2": "z",
            "number_2": {"text": str(n)},
            "spacing_2": space,
        },
    }
    return build(load(data))


def test_what_overlaps_many_times_is_told_a_hundred_times_and_counted_from_there(monkeypatch):
    looked_at = []
    whole = overlap.common_length
    monkeypatch.setattr(overlap, "common_length", lambda a, b, t: looked_at.append((a.key, b.key)) or whole(a, b, t))
    monkeypatch.setattr(hold, "drops", lambda _: pytest.fail("what holds them up is not asked"))
    found = check(in_a_grid(14, "1 mm"))
    told = [p.fault for p in found if p.fault.code == "overlap"]
    counted = [p.fault for p in found if p.fault.code == "overlaps"]
    assert len(told) == len(looked_at) == 100
    # each of the 196 boards overlaps each other one
    (rest,) = counted
    assert rest.value == str(196 * 195 // 2 - 100) == "19010"
    assert rest.message.startswith("19,010 more pairs of parts reach into each other")
    assert rest.severity == "error"


def test_a_hundred_overlaps_are_all_told_and_what_drops_too():
    # every board meets the next one up and back, and the one across: 5 x 5 boards, each spaced so that only neighbours overlap
    found = check(in_a_grid(5, "80 mm"))
    pairs = 2 * 5 * 4 + 2 * 4 * 4
    assert len([p for p in found if p.fault.code == "overlap"]) == pairs
    assert not [p for p in found if p.fault.code == "overlaps"]


def test_boards_beside_each_other_are_not_counted():
    assert not [p for p in check(in_a_grid(14, "100 mm")) if p.fault.code in ("overlap", "overlaps")]


def grille(pitch: str, **more):
    d = Draft("Grille", "ply12")
    d.board("p", "ply12", "facing_side", "0", ("0", "300 mm"), ("0", "300 mm"))
    more = {"width": "200 mm", "height": "200 mm", "diameter": "4 mm", "edge_distance": "2 mm"} | more
    d.feature("p", "f", "perforation", ("centre", "0"), ("centre", "0"), pitch=pitch, field="rectangle", pattern="square", name="f", **more)
    d.feature("p", "h", "hole", ("front", "30 mm"), ("bottom", "30 mm"), diameter="10 mm", name="h")
    return d.document()


def test_holes_of_a_field_that_lie_apart_are_not_united(monkeypatch):
    united = []
    whole = shapely.union_all
    monkeypatch.setattr(shapely, "union_all", lambda shapes, **more: united.append(len(shapes)) or whole(shapes, **more))
    built = build(grille("10 mm"))
    united.clear()
    placed.placed_faults(built.document, built.flats["p"])
    assert max(united) == 1  # the outline


@pytest.mark.parametrize("at", [(30, 30), (22, 30), (30, 24.001), (40, 40)])
def test_together_is_the_union_whether_shapes_touch_or_not(at):
    one = shapely.box(20, 20, 30, 30)
    other = shapely.box(*at, at[0] + 10, at[1] + 10)
    found = placed._together([one, other])
    assert found.is_valid and math.isclose(found.area, shapely.union(one, other).area)


@pytest.mark.parametrize(("side", "x"), [("front", -0.5), ("back", 300.5)])
def test_a_field_that_breaks_out_is_told_where_it_does(side, x):
    data = grille("10 mm").dump()
    # the outermost holes stand 90 mm from the field's middle, and reach 2 mm further
    data["parts"]["p"]["features"]["f"]["u"] = {"origin": side, "offset": {"text": "89.5 mm", "unit": "mm"}}
    (fault,) = [p.fault for p in check(build(load(data))) if p.fault.code == "breaks_out"]
    assert fault.at is not None and fault.at[0] == pytest.approx(x)
    assert fault.value == "2.5 mm"


@pytest.mark.parametrize("beside", [[], [shapely.box(60, 0, 80, 20)], [shapely.box(5, 0, 15, 10)]])
def test_an_outline_that_crosses_itself_is_taken_for_what_it_encloses(beside):
    bow = shapely.Polygon([(0, 0), (20, 20), (20, 0), (0, 20)])
    assert not bow.is_valid
    found = placed._together([bow, *beside])
    assert found.is_valid and math.isclose(found.area, shapely.union_all([shapely.make_valid(bow), *beside]).area)
    assert shapely.intersection(found, shapely.box(0, 0, 100, 100)).area > 0
