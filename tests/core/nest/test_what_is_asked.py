"""What a search is given: sheets, counts, offcuts, edges of a design or of several; and small pieces of the engine at their limits."""

import math
from types import SimpleNamespace

import pytest
import shapely
from shapely.geometry import Polygon, box

from zygon.design.draft import Draft
from zygon.geometry.boolean import Region
from zygon.geometry.contour import rectangle
from zygon.making.pipeline import build
from zygon.nest.base import LEAST_POLE, poles_of
from zygon.nest.bottom_left import _score
from zygon.nest.design import lay_out, plans
from zygon.nest.rectangles import sizes_of
from zygon.nest.shapes import FILL_SHARE, MANY, _spared
from zygon.nest.task import NestSheet, Shape, Task
from zygon.nest.together import Item, plans_together


def design(name="d", gap="3 mm", edges=None, seconds=2.0, quantity=2, sheets=None, offcuts=None, on_hand=None, **stock):
    d = Draft(name, "ply12")
    d.board("p", "ply12", "lying", 0, (0, 120), (0, 80), quantity=quantity)
    d.data["nest"] = {
        "gap": d.entry(gap),
        "margin": d.entry("5 mm"),
        "seconds": seconds,
        "seed": 7,
        **({"edges": {k: d.entry(v) for k, v in edges.items()}} if edges else {}),
    }
    own = d.data["stocks"]["ply12"]
    own |= stock
    if sheets is not None:
        own["sheets"] = {
            k: {"length": d.entry(f"{a} mm"), "width": d.entry(f"{b} mm"), "price": price, "order": n, **more}
            for n, (k, (a, b, price, more)) in enumerate(sheets.items())
        }
    if offcuts:
        own["offcuts"] = {
            k: {"name": k, "outline": [[0, 0], [w, 0], [w, h], [0, h]], "order": n} for n, (k, (w, h)) in enumerate(offcuts.items())
        }
    return build(d.document(), on_hand={"ply12": on_hand or {}})


SHEETS = {
    "full": (1000, 500, 30.0, {}),
    "half": (500, 480, 16.0, {}),
    "roll": (0, 600, 20.0, {"roll": True}),
    "across": (900, 410, 22.0, {"grain": "across"}),
}


@pytest.mark.parametrize("grain", ["none", "along"])
def test_a_search_is_given_what_there_is_of_sheets_and_offcuts(grain):
    (plan,) = plans(
        design(sheets=SHEETS, offcuts={"r2": (200, 90), "r1": (90, 70)}, grain=grain, on_hand={"full": 1, "half": 2, "roll": 0})
    )
    task = plan.task
    turned = grain == "along"
    assert [(s.name, s.length, s.width, s.price, s.count) for s in task.kinds] == [
        # two copies are never on more than two sheets, and of a roll there is always enough
        ("full", 1000, 500, 30.0, 1),
        ("half", 500, 480, 16.0, None),
        ("roll", math.inf, 600, 20.0, None),
        ("across", *((410, 900) if turned else (900, 410)), 22.0, None),
    ]
    assert [(s.name, s.price, s.outline.area) for s in task.stock] == [("r2", 0.0, 18000), ("r1", 0.0, 6300)]
    assert (task.gap, task.margin, task.seed, task.seconds, task.margins) == (3.0, 5.0, 7, 2.0, None)
    assert [(s.name, s.quantity) for s in task.shapes] == [("p", 2)]


def test_edges_of_their_own_take_the_margin_s_place():
    (plan,) = plans(design(edges={"left": "9 mm", "top": "2 mm"}))
    assert plan.task.edges == (9.0, 5.0, 5.0, 2.0)


def test_designs_cut_together_keep_the_widest_gap_and_edges_and_the_longest_search():
    one = design("one", gap="3 mm", edges={"left": "9 mm", "top": "2 mm"}, seconds=4.0, offcuts={"r1": (90, 70)})
    two = design("two", gap="4 mm", edges={"left": "1 mm", "bottom": "8 mm"}, seconds=3.0, quantity=3, offcuts={"r2": (91, 70)})
    for first, second in ((one, two), (two, one)):
        (found,) = plans_together([Item("a", first, 2), Item("b", second, 1)])
        task = found.plan.task
        # left, bottom, right, top
        assert (task.edges, task.gap, task.seconds) == ((9.0, 8.0, 5.0, 5.0), 4.0, 4.0)
        assert sum(s.quantity for s in task.shapes) == (2 * 2 + 3 if first is one else 2 * 3 + 2)
        assert {s.name for s in task.stock} == {"r1", "r2"} and found.built is first


def test_designs_cut_together_have_all_their_sheets_each_once():
    """Sheets of one size are one kind, that of the first; those of a name that is taken are named anew."""
    one = design("one", sheets={"full": (1000, 500, 30.0, {}), "half": (500, 480, 16.0, {})})
    two = design("two", sheets={"full": (1200, 600, 44.0, {}), "odd": (500, 480, 99.0, {}), "roll": (0, 600, 20.0, {"roll": True})})
    (found,) = plans_together([Item("a", one, 1), Item("b", two, 1)])
    assert [(s.name, s.length, s.width, s.price) for s in found.plan.task.kinds] == [
        ("full", 1000, 500, 30.0),
        ("half", 500, 480, 16.0),
        ("full-1", 1200, 600, 44.0),
        ("roll", math.inf, 600, 20.0),
    ]


def test_a_search_that_is_stopped_gives_what_it_has():
    """Stopped before anything was laid there is nothing; later, the best so far."""
    built = design(quantity=6)
    (plan,) = plans(built)
    shown = []

    def stop(share, found):
        shown.append(found.layout)
        return not found.layout.sheets

    found = lay_out(built.document, plan, seconds=1.0, progress=stop)
    assert found is not None and found.layout.sheets and shown
    assert sum(len(s.placements) for s in found.layout.sheets) == 6


def test_an_upright_rectangle_has_the_sizes_of_its_turns_and_another_shape_has_none():
    task = Task((Shape("s", Region(rectangle(3, 4, 33, 24)), 1, (0.0, math.pi / 2)),), NestSheet(300.0, 200.0))
    assert sizes_of(task) == [[((30, 20), 0.0), ((20, 30), math.pi / 2)]]
    slanted = Region(rectangle(0, 0, 30, 20).moved(0, 0, 0.3))
    assert sizes_of(Task((Shape("s", slanted, 1, (0.0,)),), NestSheet(300.0, 200.0))) is None
    assert sizes_of(Task((Shape("s", Region(rectangle(0, 0, 30, 20)), 1, (0.3,)),), NestSheet(300.0, 200.0))) is None


def test_layouts_are_weighed_by_what_is_left_out_then_their_cost_then_how_far_they_reach():
    def sheet(price, *placed, roll=False):
        shapes = [(SimpleNamespace(bounds=(0, 0, w, 10), polygon=box(0, 0, w, 10)), x, 0.0, copy) for x, w, copy in placed]
        return SimpleNamespace(placed=shapes, sheet=SimpleNamespace(price=price, roll=roll))

    one, several = SimpleNamespace(others=()), SimpleNamespace(others=(1,))
    sheets = [sheet(10.0, (0, 30, 0), (40, 20, 1)), sheet(4.0, (5, 10, 0), (90, 50, -1))]
    # what is held there has a number under nought, and counts for nothing
    assert _score(one, sheets, {0: 2, 1: 1}) == (3, 0.0, 2, 15.0, 30 * 300 + 60 * 200 + 15 * 100)
    assert _score(several, sheets, {})[:3] == (0, 14.0, 2)
    assert _score(several, [sheet(8.0, (100, 150, 0), roll=True)], {})[1] == 8.0 * 250 / 1000
    assert _score(several, [sheet(8.0, (5, 10, -1), roll=True)], {}) == (0, 0.0, 1, 0.0, 0.0)
    assert _score(one, [], {}) == (0, 0.0, 0, 0.0, 0)


def comb(length, depth, notch, tooth, wide):
    """An upright strip with notches in its right side."""
    points, y = [(0.0, 0.0), (wide, 0.0)], tooth
    while y + notch + tooth < length:
        points += [(wide, y), (wide - depth, y), (wide - depth, y + notch), (wide, y + notch)]
        y += notch + tooth
    return Polygon([*points, (wide, length), (0.0, length)])


@pytest.mark.parametrize("turned", [False, True])
@pytest.mark.parametrize(("notch", "depth", "filled"), [(3, 0.3, True), (18, 0.3, True), (38, 0.4, True), (3, 6, False)])
def test_notches_are_filled_where_that_takes_little_however_long_the_part(notch, depth, filled, turned):
    """Also where the part is narrower than a notch is wide, as long as it is longer."""
    shape = comb(notch * 10, depth, notch, notch / 6, 30.0)
    if turned:
        shape = shapely.affinity.rotate(shape, 90, origin=(0, 0))
    assert len(shape.exterior.coords) > MANY
    found = _spared(shape)
    assert found.buffer(1e-6).contains(shape)
    assert found.area <= shape.area * (1 + FILL_SHARE) + 1e-6
    assert (len(found.exterior.coords) < 12) is filled


@pytest.mark.parametrize(("share", "hulled"), [(0.3, True), (0.48, True), (0.55, False), (0.9, False)])
def test_a_hull_is_taken_only_where_it_adds_less_than_half_of_what_may_be_filled(share, hulled):
    """A wide shallow dent of so much of that share, wider than any notch that is filled."""
    size, dent = 1000.0, 900.0
    sag = share * FILL_SHARE * size * size / (dent * 2 / 3)
    edge = [(50 + dent * k / 60, sag * (1 - (2 * k / 60 - 1) ** 2)) for k in range(61)]
    shape = Polygon([(0, 0), *edge, (size, 0), (size, size), (0, size)])
    grown = shape.convex_hull.area / shape.area - 1
    assert grown == pytest.approx(share * FILL_SHARE, rel=0.03)
    assert (len(_spared(shape).exterior.coords) == 5) is hulled


@pytest.mark.parametrize("shape", [box(0, 0, 100, 20), box(-30, 5, 40, 60), comb(200, 10, 12, 8, 30), box(0, 0, 300, 4)])
def test_circles_fill_an_outline_until_they_are_small(shape):
    poles = poles_of(shape)
    real = [p for p in poles if p[2] > 0]
    assert len(real) == len(poles) or real[-1][2] >= LEAST_POLE * real[0][2] - 1e-6
    assert len(real) >= 4
    for k, (x, y, r) in enumerate(real):
        assert shape.boundary.distance(shapely.Point(x, y)) >= r - 1e-9 and shape.contains(shapely.Point(x, y))
        for a, b, other in real[:k]:
            assert math.hypot(x - a, y - b) >= r + other - 1e-9
    assert sum(math.pi * r * r for _, _, r in real) > 0.3 * shape.area or len(real) == len(poles)
