"""Nesting: layouts are legal, the seed decides, known sets are met, and the checker itself finds what is wrong."""

import dataclasses
import math

import pytest
import rectpack
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.explore import drawn
from zygon.design.examples import brood_box
from zygon.errors import NestError
from zygon.geometry.boolean import Region, subtract, to_polygon
from zygon.geometry.contour import circle, polygon, rectangle, rounded_rectangle
from zygon.making.pipeline import build
from zygon.nest.bottom_left import first_layout
from zygon.nest.design import lay_out, plans
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.left_over import reason_of
from zygon.nest.legal import layout_faults
from zygon.nest.nofit import convex_pieces, no_fit
from zygon.nest.record import restored
from zygon.nest.rectangles import packed
from zygon.nest.shapes import envelope, outline
from zygon.nest.task import Layout, NestSheet, Shape, Task
from zygon.screen.design import nest_data

ELL = polygon([(0, 0), (60, 0), (60, 20), (20, 20), (20, 50), (0, 50)])


def rect(w, h, n=1, turn="90", name=""):
    return Shape(name or f"{w}x{h}", Region(rectangle(0, 0, float(w), float(h))), n, allowed_turns(turn))


@st.composite
def outlines(draw):
    kind = draw(st.sampled_from(["rectangle", "round", "ell", "fingers", "circle"]))
    w, h = draw(st.floats(15, 120)), draw(st.floats(15, 90))
    if kind == "circle":
        return Region(circle(5, 5, w / 2))
    if kind == "ell":
        return Region(ELL)
    if kind == "round":
        return Region(rounded_rectangle(0, 0, w, h, min(w, h) * draw(st.floats(0, 0.5))))
    if kind == "fingers":
        cuts = [rectangle(-1, y, 6, y + 6) for y in range(3, int(h) - 6, 12)]
        return subtract([rectangle(0, 0, w, h)], cuts)[0]
    return Region(rectangle(0, 0, w, h))


@settings(max_examples=drawn(18))
@given(
    st.lists(st.tuples(outlines(), st.integers(1, 3)), min_size=1, max_size=6),
    st.sampled_from([0, 0.5, 3]),
    st.sampled_from([0, 5]),
    st.sampled_from(["none", "180", "90"]),
    st.booleans(),
)
def test_every_layout_is_legal_and_counts_every_copy(drawn, gap, margin, turn, roll):
    shapes = tuple(Shape(f"s{i}", region, n, allowed_turns(turn)) for i, (region, n) in enumerate(drawn))
    task = Task(shapes, NestSheet(math.inf if roll else 300.0, 200.0), gap, margin, seconds=0.03)
    layout = nest(task)
    assert layout_faults(task, layout) == []
    assert not layout.unplaced
    assert 0 < layout.share <= 1 + 1e-3


# Hopper and Turton, test set C1, problem 1 (from memory; the area sum confirms it); optimum height 20
C1 = "2x12 7x12 8x6 3x6 3x5 5x5 3x12 3x7 5x7 2x6 3x2 4x2 3x4 4x4 9x2 11x2"


def test_sixteen_rectangles_that_fill_20_by_20_go_on_20_by_20():
    shapes = tuple(rect(*map(int, s.split("x"))) for s in C1.split())
    assert sum(s.region.area for s in shapes) == 400
    for sheet in (NestSheet(math.inf, 20.0), NestSheet(20.0, 20.0)):
        layout = nest(Task(shapes, sheet, rounds=1))
        assert layout_faults(Task(shapes, sheet), layout) == []
        assert len(layout.sheets) == 1 and layout.sheets[0].used_length == pytest.approx(20, abs=1e-6)


@settings(max_examples=drawn(18))
@given(
    st.lists(st.tuples(st.integers(2, 40), st.integers(2, 30), st.integers(1, 3)), min_size=1, max_size=8),
    st.sampled_from([0.0, 1.5]),
    st.sampled_from([0.0, 2.0]),
    st.sampled_from(["none", "90"]),
)
def test_packed_rectangles_are_legal_and_never_longer_than_they_were(drawn, gap, margin, turn):
    task = Task(
        tuple(rect(w, h, n, turn, str(i)) for i, (w, h, n) in enumerate(drawn)), NestSheet(math.inf, 50.0), gap, margin, seconds=0.1
    )
    first = first_layout(task)
    layout = packed(task, first)
    assert layout_faults(task, layout) == []
    assert layout.sheets[0].used_length <= first.sheets[0].used_length + 1e-6


def test_rectangles_lie_about_as_tight_as_a_rectangle_packer_lays_them():
    """Referee: rectpack, the best of its algorithms, on the same strip."""
    sizes = [(40 + 13 * i % 57, 25 + 29 * i % 71) for i in range(24)]
    best = math.inf
    for algorithm in (rectpack.MaxRectsBssf, rectpack.SkylineBlWm, rectpack.GuillotineBssfSas):
        packer = rectpack.newPacker(rotation=True, pack_algo=algorithm)
        for i, (w, h) in enumerate(sizes):
            packer.add_rect(w, h, i)
        packer.add_bin(10_000, 200)
        packer.pack()
        best = min(best, max(r.x + r.width for r in packer[0]))
    task = Task(tuple(rect(w, h, name=str(i)) for i, (w, h) in enumerate(sizes)), NestSheet(math.inf, 200.0), seconds=0.6)
    layout = nest(task)
    assert layout_faults(task, layout) == []
    assert layout.sheets[0].used_length <= best * 1.05


def test_true_shapes_nest_into_one_another_where_boxes_would_not():
    # two Ls of 60 x 50 fit turned into each other on 64 x 72; their boxes would need 60 x 100 or 120 x 50
    task = Task((Shape("ell", Region(ELL), 2, allowed_turns("180")),), NestSheet(84.0, 52.0), seconds=0.5)
    assert len(nest(task).sheets) == 1
    boxes = Task((rect(60, 50, 2, "180"),), NestSheet(84.0, 52.0), seconds=0.5)
    assert len(nest(boxes).sheets) == 2


def mixed(**more):
    shapes = (rect(50, 30, 5), rect(21, 77, 4), Shape("ell", Region(ELL), 6, allowed_turns("90")))
    return Task(shapes, NestSheet(math.inf, 200.0), 1, 2, **{"seed": 5, **more})


@pytest.mark.parametrize("workers", [1, 2])
def test_the_same_seed_gives_the_same_layout_and_another_one_does_not(workers):
    task = mixed(rounds=3, workers=workers)
    assert nest(task) == nest(task)
    assert nest(task).sheets != nest(mixed(rounds=3, seed=6)).sheets


def test_more_rounds_go_on_where_fewer_ended_and_are_never_worse():
    seen = {}
    for rounds in (1, 2, 4, 7):
        seen[rounds] = nest(mixed(rounds=rounds)).sheets[0].used_length
    assert list(seen.values()) == sorted(seen.values(), reverse=True)
    assert seen[7] < nest(mixed(seconds=1e-3)).sheets[0].used_length  # better than the first layout
    told = []
    nest(mixed(rounds=7), lambda done, of, best: told.extend((best.passes, s.used_length) for s in best.sheets) or True)
    assert {length for _, length in told} >= {seen[1], seen[4]}


def test_parts_lie_in_holes_of_parts_and_in_those_again():
    def ring(outer, inner, name):
        return Shape(
            name,
            Region(
                rectangle(0, 0, outer, outer),
                (rectangle((outer - inner) / 2, (outer - inner) / 2, (outer + inner) / 2, (outer + inner) / 2),),
            ),
        )

    # each ring takes the next one with 2 mm to spare on each side, at a gap of 1
    task = Task((ring(100, 84, "large"), ring(80, 64, "middle"), rect(60, 60)), NestSheet(math.inf, 102.0), 1.0, 0.5, rounds=12)
    layout = nest(task)
    assert layout_faults(task, layout) == []
    assert layout.sheets[0].used_length == pytest.approx(101, abs=0.01)  # as long as the large one with its margins
    # the checker measures in the hole, too
    inside = next(p for p in layout.sheets[0].placements if p.shape == 2)
    rest = tuple(p for p in layout.sheets[0].placements if p.shape != 2)
    for shift in (1.9, 5.0):
        moved = dataclasses.replace(layout.sheets[0], placements=(*rest, dataclasses.replace(inside, x=inside.x + shift)))
        assert any("keep" in f for f in layout_faults(task, dataclasses.replace(layout, sheets=(moved,))))


def test_a_last_sheet_is_dissolved_where_its_parts_find_room():
    # bottom left alone leaves one of these on a second sheet
    shapes = tuple(rect(w, h, 1, "none", str(i)) for i, (w, h) in enumerate([(60, 40)] * 6 + [(55, 38)] * 2))
    shapes += (Shape("ell", Region(ELL), 4, allowed_turns("90")),)
    task = Task(shapes, NestSheet(252.0, 122.0), rounds=14)
    first = first_layout(task)
    layout = nest(task)
    assert layout_faults(task, layout) == []
    assert (len(first.sheets), len(layout.sheets)) == (2, 1)


def el_offcut():
    outline = Region(polygon([(0, 0), (200, 0), (200, 80), (90, 80), (90, 150), (0, 150)]), (circle(40, 110, 20).wound(ccw=False),))
    return NestSheet(200.0, 150.0, "rest 7", 0.0, outline)


@pytest.mark.parametrize("gap", [0.0, 2.0])
def test_an_offcut_of_any_outline_is_used_first_and_its_corner_and_hole_stay_free(gap):
    offcut = el_offcut()
    task = Task((rect(85, 35, 3), rect(30, 30, 4)), NestSheet(300.0, 200.0), gap, 1.0, rounds=4, stock=(offcut,))
    layout = nest(task)
    assert layout_faults(task, layout) == []
    assert layout.sheets[0].sheet == offcut and len(layout.sheets[0].placements) >= 4
    # the checker knows the corner that is not there, and the hole
    sheet = layout.sheets[0]
    for x, y in ((110.0, 90.0), (25.0, 95.0)):
        moved = dataclasses.replace(sheet, placements=(dataclasses.replace(sheet.placements[0], x=x, y=y, angle=0.0),))
        assert any("leaves the sheet" in f for f in layout_faults(task, dataclasses.replace(layout, sheets=(moved, *layout.sheets[1:]))))


@settings(max_examples=drawn(10))
@given(st.lists(st.tuples(outlines(), st.integers(1, 3)), min_size=1, max_size=4), st.sampled_from([0, 1.5]))
def test_layouts_on_offcuts_and_single_sheets_are_legal(drawn, gap):
    shapes = tuple(Shape(f"s{i}", region, n, allowed_turns("90")) for i, (region, n) in enumerate(drawn))
    single = NestSheet(130.0, 100.0, "single", 2.0)
    task = Task(shapes, NestSheet(250.0, 160.0, "full", 5.0), gap, 2.0, rounds=1, max_sheets=1, stock=(el_offcut(), single, single))
    layout = nest(task)
    assert layout_faults(task, layout) == []
    for i in layout.unplaced:
        assert reason_of(task, i) in ("no sheet left", "too large even when turned")


def test_why_a_part_is_left_over_is_said():
    task = Task((rect(290, 100, 3), rect(500, 20), rect(150, 250, 1, "none")), NestSheet(300.0, 200.0), rounds=1, max_sheets=1)
    layout = nest(task)
    assert {i: reason_of(task, i) for i in layout.unplaced} == {
        0: "no sheet left",
        1: "too large even when turned",
        2: "too large, and it must not be turned",
    }
    assert reason_of(dataclasses.replace(task, max_sheets=0, stock=(NestSheet(100.0, 90.0),)), 0) == "too large even when turned"


def test_sheets_that_are_not_there_are_said():
    task = Task((rect(80, 80, 2),), NestSheet(300.0, 200.0), rounds=1, max_sheets=1, stock=(NestSheet(100.0, 100.0, "small"),))
    layout = nest(task)
    assert [s.sheet.name for s in layout.sheets] == ["small", ""] and layout_faults(task, layout) == []
    twice = dataclasses.replace(layout, sheets=(layout.sheets[0], dataclasses.replace(layout.sheets[1], sheet=layout.sheets[0].sheet)))
    assert any("there 1 times" in f for f in layout_faults(task, twice))


def test_free_turns_lie_at_angles_that_quarter_turns_do_not_allow():
    # a bar of 130 goes into a square of 110 only askew
    bar = Shape("bar", Region(rectangle(0, 0, 130, 6)), 1, allowed_turns("free"))
    assert not nest(Task((bar,), NestSheet(110.0, 110.0), rounds=1)).unplaced
    assert nest(Task((dataclasses.replace(bar, turns=allowed_turns("90")),), NestSheet(110.0, 110.0), rounds=1)).unplaced == {0: 1}


def test_what_cannot_fit_is_left_over_and_counted():
    task = Task((rect(500, 10, 2), rect(50, 50)), NestSheet(300.0, 200.0), seconds=0.1)
    layout = nest(task)
    assert layout.unplaced == {0: 2} and len(layout.sheets) == 1
    assert layout_faults(task, layout) == []
    assert nest(Task((), NestSheet(300.0, 200.0))) == Layout(())


def test_a_search_can_be_stopped_and_keeps_its_best():
    seen = []
    task = Task((rect(50, 30, 20),), NestSheet(300.0, 200.0), seconds=5)
    layout = nest(task, lambda done, of, best: seen.extend(done for _ in best.sheets[:1]) or len(seen) < 3)
    assert len(seen) == 3 and layout.stopped and not layout_faults(task, layout)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"gap": -1.0}, "gap"),
        ({"margin": math.nan}, "margin"),
        ({"margin": 100.0}, "sheet"),
        ({"seconds": 0.0}, "time"),
        ({"sheet": NestSheet(300.0, -5.0)}, "sheet width"),
        ({"sheet": NestSheet(300.0, math.inf)}, "sheet width"),
    ],
)
def test_a_request_that_makes_no_sense_is_refused(change, words):
    with pytest.raises(NestError, match=words):
        dataclasses.replace(Task((rect(5, 5),), NestSheet(300.0, 200.0)), **change)


def test_the_checker_finds_what_is_wrong():
    task = Task((rect(50, 30, 2),), NestSheet(300.0, 200.0), 3.0, 5.0, seconds=0.1)
    layout = nest(task)
    sheet = layout.sheets[0]

    def moved(**change):
        bad = dataclasses.replace(sheet, placements=(dataclasses.replace(sheet.placements[0], **change), *sheet.placements[1:]))
        return layout_faults(task, dataclasses.replace(layout, sheets=(bad,)))

    other = sheet.placements[1]
    assert any("keep" in f for f in moved(x=other.x + 1, y=other.y + 1))
    assert any("leaves the sheet" in f for f in moved(x=-2.0))
    assert any("turned" in f for f in moved(angle=0.3))
    assert any("of 2" in f for f in layout_faults(task, dataclasses.replace(layout, sheets=())))
    near = dataclasses.replace(task, gap=0.0)
    assert any(
        "overlap" in f
        for f in layout_faults(
            near,
            dataclasses.replace(
                layout, sheets=(dataclasses.replace(sheet, placements=(other, dataclasses.replace(other, x=other.x + 0.01))),)
            ),
        )
    )


@given(outlines(), st.sampled_from([0, 0.5, 3, 6]))
def test_an_envelope_contains_its_shape_and_half_the_gap(region, gap):
    shape = envelope(region.outer, gap)
    true = to_polygon(region.outer, 1e-3)
    assert shape.buffer(1e-3).contains(true if gap == 0 else true.buffer(gap / 2, quad_segs=32))
    assert outline(region.outer).buffer(1e-6).contains(true)
    assert shape.area <= true.buffer(gap / 2 + 0.06, join_style="mitre").area * 1.06


@given(outlines(), outlines(), st.floats(-150, 150), st.floats(-150, 150))
def test_the_no_fit_polygon_tells_overlap(a, b, x, y):
    from shapely import affinity
    from shapely.geometry import Point

    still, moving = outline(a.outer).simplify(0.5), outline(b.outer).simplify(0.5)
    nfp = no_fit(convex_pieces(still), convex_pieces(moving))
    shifted = affinity.translate(moving, x, y)
    if nfp.buffer(-1e-3).contains(Point(x, y)):
        assert still.intersection(shifted).area > 0
    elif nfp.buffer(1e-3).disjoint(Point(x, y)):
        assert still.disjoint(shifted)


def test_a_design_is_laid_out_stock_by_stock_with_grain_and_price():
    document = brood_box()
    found = {p.stock: p for p in plans(build(document))}
    assert set(found) == {"ply12", "ply6"}
    # ply6 has grain along the sheet, and its parts follow it: no quarter turns
    assert all(s.turns in ((0.0, math.pi), (0.0,)) for s in found["ply6"].task.shapes)
    laid = lay_out(document, found["ply12"], seconds=0.3)
    assert [s.sheet.name for s in laid.layout.sheets] == ["half"] and laid.sheet_cost == pytest.approx(24.5)
    assert laid.reckonings[0].known and laid.reckonings[0].seconds > 60
    again = restored(document, found["ply12"], nest_data(document, laid))
    assert again.layout.sheets == laid.layout.sheets and again.reckonings == laid.reckonings
    assert restored(document, found["ply6"], nest_data(document, laid)) is None
