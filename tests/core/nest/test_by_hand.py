"""Laying by hand: room in which everything is legal, locked parts that stay, arrangements that are mended; kinds of sheets, margins, mirrors."""

import dataclasses
import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon

from tests.core.nest.test_nesting import ELL, el_offcut, outlines, rect
from tests.explore import drawn
from zygon.design.document import parse_document
from zygon.design.examples import brood_box
from zygon.errors import NestError
from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon, rectangle
from zygon.making.pipeline import build
from zygon.nest.bottom_left import finished_layout, first_layout
from zygon.nest.design import as_laid, lay_out, plans
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.legal import layout_faults
from zygon.nest.mend import mended
from zygon.nest.record import carried, restored
from zygon.nest.room import room_on
from zygon.nest.swap import exchanged
from zygon.nest.task import NestSheet, Placement, Shape, Task
from zygon.screen.design import nest_data

SHEET = NestSheet(300.0, 200.0)


def laid(task, *sheets):
    return finished_layout(task, sheets, {}, 0, False)


@settings(max_examples=drawn(10))
@given(outlines(), outlines(), st.sampled_from([0.0, 0.6, 3.0]), st.sampled_from(["none", "90", "30"]), st.booleans(), st.data())
def test_a_part_is_legal_everywhere_in_its_room(a, b, gap, turn, on_offcut, data):
    sheet = el_offcut() if on_offcut else SHEET
    shapes = (Shape("a", a, 1, allowed_turns(turn), mirror=True), Shape("b", b, 2, allowed_turns(turn), mirror=True))
    task = Task(shapes, sheet, gap, 2.0, rounds=1, max_sheets=1)
    first = first_layout(task)
    if not first.sheets or 0 in first.unplaced:
        return
    still = [p for p in first.sheets[0].placements if p.shape == 1]
    moving = Placement(0, 0, 0.0, 0.0, data.draw(st.sampled_from(shapes[0].turns)), data.draw(st.booleans()))
    room = room_on(task, sheet, still, moving)
    alone = dataclasses.replace(task, shapes=(shapes[0], dataclasses.replace(shapes[1], quantity=max(len(still), 1))))
    for piece in room[:3]:
        corner = data.draw(st.sampled_from(piece[0]))
        middle = shapely.Polygon(piece[0], piece[1:]).representative_point().coords[0]
        for x, y in (corner, middle):
            layout = laid(alone, (sheet, [*still, dataclasses.replace(moving, x=x, y=y)]))
            assert [f for f in layout_faults(alone, layout) if "left over" not in f] == []


def test_room_is_all_there_is():
    # beside a block of 100 x 100 in the corner of 300 x 200 a square of 50 has an L to go about in, with gap and margin
    task = Task((rect(50, 50), rect(100, 100)), SHEET, 2.0, 5.0)
    (piece,) = room_on(task, SHEET, [Placement(1, 0, 5.0, 5.0, 0.0)], Placement(0, 0, 0.0, 0.0, 0.0))
    area = (300 - 10 - 50) * (200 - 10 - 50) - (102) * (102)
    assert Polygon(piece[0], piece[1:]).area == pytest.approx(area, rel=1e-4)
    assert room_on(task, NestSheet(55.0, 55.0), [], Placement(0, 0, 0.0, 0.0, 0.0)) == []


def test_locked_parts_stay_while_the_rest_is_nested_round_them():
    task = Task((rect(80, 60, 6), Shape("ell", Region(ELL), 4, allowed_turns("90"))), SHEET, 2.0, 5.0, rounds=6)
    held = (Placement(0, 3, 111.0, 77.0, math.pi / 2), Placement(1, 1, 200.0, 20.0, 0.0))
    task = dataclasses.replace(task, stock=(SHEET,), held=tuple((0, p) for p in held))
    layout = nest(task)
    assert layout_faults(task, layout) == [] and not layout.unplaced
    assert set(held) <= set(layout.sheets[0].placements)
    # the checker says where one was moved
    sheet = layout.sheets[0]
    away = dataclasses.replace(sheet, placements=tuple(p for p in sheet.placements if p != held[0]))
    assert any("locked" in f for f in layout_faults(task, dataclasses.replace(layout, sheets=(away, *layout.sheets[1:]))))


def test_nothing_is_added_to_a_sheet_that_is_cut():
    base = Task((rect(80, 60, 4),), SHEET, 2.0, 5.0, rounds=6)
    one = Placement(0, 0, 10.0, 10.0, 0.0)
    task = dataclasses.replace(base, stock=(SHEET,), held=((0, one),), closed=frozenset({0}))
    layout = nest(task)
    assert layout_faults(task, layout) == []
    assert layout.sheets[0].placements == (one,) and len(layout.sheets[1].placements) == 3
    both = dataclasses.replace(layout.sheets[0], placements=(one, dataclasses.replace(one, copy=1, x=120.0)))
    assert any("takes nothing more" in f for f in layout_faults(task, dataclasses.replace(layout, sheets=(both,))))


@settings(max_examples=drawn(10))
@given(st.lists(st.tuples(outlines(), st.integers(1, 3)), min_size=2, max_size=5), st.sampled_from([0.0, 2.0]), st.floats(1.0, 1.35))
def test_after_a_change_what_may_stay_stays(drawn, gap, growth):
    shapes = tuple(Shape(f"s{i}", region, n, allowed_turns("90")) for i, (region, n) in enumerate(drawn))
    task = Task(shapes, SHEET, gap, 2.0, rounds=1)
    before = first_layout(task)
    grown = Region(rectangle(0, 0, 40 * growth, 30 * growth))
    after = dataclasses.replace(task, shapes=(dataclasses.replace(shapes[0], region=grown), *shapes[1:]))
    rank = {(0, c): 1 for c in range(shapes[0].quantity)}
    layout = mended(after, [(s.sheet, s.placements) for s in before.sheets], rank)
    assert layout_faults(after, layout) == []
    still = {p for s in before.sheets for p in s.placements if p.shape}
    assert still <= {p for s in layout.sheets for p in s.placements}  # only the changed one has moved


def test_parts_that_are_gone_are_left_out_and_new_ones_are_put_in():
    task = Task((rect(80, 60, 4),), SHEET, 2.0, 5.0)
    before = first_layout(task)
    sheets = [(s.sheet, s.placements) for s in before.sheets]
    fewer = dataclasses.replace(task, shapes=(rect(80, 60, 2),))
    assert layout_faults(fewer, mended(fewer, sheets, {})) == []
    more = dataclasses.replace(task, shapes=(rect(80, 60, 4), rect(50, 40, 3)))
    layout = mended(more, sheets, {})
    assert layout_faults(more, layout) == [] and not layout.unplaced
    assert set(before.sheets[0].placements) <= set(layout.sheets[0].placements)


def test_each_edge_has_its_margin():
    task = Task((rect(290, 100),), SHEET, 0.0, 5.0, rounds=1, margins=(2.0, 60.0, 8.0, 3.0))
    (sheet,) = nest(task).sheets
    (p,) = sheet.placements
    assert layout_faults(task, laid(task, (SHEET, [p]))) == []
    x0, y0, x1, y1 = task.shapes[0].region.outer.moved(p.x, p.y, p.angle).bounds
    assert (x0, x1) == (pytest.approx(2.0, abs=1e-3), pytest.approx(292.0, abs=1e-3)) and y0 >= 60.0 - 1e-3 and y1 <= 197.0 + 1e-3
    assert any("margin" in f for f in layout_faults(task, laid(task, (SHEET, [dataclasses.replace(p, y=59.0)]))))


def test_only_what_may_be_turned_over_is():
    # the offcut's square corner is at its right, the part's at its left
    half = Shape("half", Region(polygon([(0, 0), (60, 0), (0, 40)])), 1, allowed_turns("none"), mirror=True)
    rest = NestSheet(66.0, 44.0, "rest", 0.0, Region(polygon([(0, 0), (66, 0), (66, 44)])))
    task = Task((half,), SHEET, rounds=4, max_sheets=0, stock=(rest,))
    layout = nest(task)
    assert layout_faults(task, layout) == [] and [p.mirrored for p in layout.sheets[0].placements] == [True]
    plain = dataclasses.replace(task, shapes=(dataclasses.replace(half, mirror=False),))
    assert nest(plain).unplaced == {0: 1}
    assert any("turned over" in f for f in layout_faults(plain, layout))


def test_free_parts_lie_at_any_angle():
    # the square's diagonal holds a bar of 128 x 6 only at 45 degrees, give or take two
    bar = Shape("bar", Region(rectangle(0, 0, 128, 6)), 1, allowed_turns("free"), free=True)
    discs = Shape("square", Region(rectangle(0, 0, 50, 50)), 2, allowed_turns("free"), free=True)
    task = Task((bar, discs), NestSheet(math.inf, 110.0), rounds=14, seed=3)
    layout = nest(task)
    assert layout_faults(task, layout) == []
    steps = {round(math.degrees(p.angle) / 15, 6) for p in layout.sheets[0].placements}
    assert any(s != round(s) for s in steps) or layout.sheets[0].used_length < 111.0


def test_the_cheaper_choice_of_kinds_is_found_and_counts_are_kept():
    # four of 140 x 90 go on one full sheet of 300 x 200, one more on a small one: cheaper than two full ones
    full, small = NestSheet(300.0, 200.0, "full", 10.0), NestSheet(160.0, 110.0, "small", 4.0)
    task = Task((rect(140, 90, 5),), full, 2.0, 2.0, rounds=8, others=(small,))
    layout = nest(task)
    assert layout_faults(task, layout) == []
    assert sorted(s.sheet.name for s in layout.sheets) == ["full", "small"]
    scarce = dataclasses.replace(
        task, sheet=dataclasses.replace(full, count=1), others=(dataclasses.replace(small, count=1),), shapes=(rect(140, 90, 7),)
    )
    layout = nest(scarce)
    assert layout_faults(scarce, layout) == [] and sum(layout.unplaced.values()) == 2
    # of what is used up there is none, whichever kind it is
    for n, m, left in ((0, 1, 6), (1, 0, 3), (0, 0, 7)):
        none = dataclasses.replace(scarce, sheet=dataclasses.replace(full, count=n), others=(dataclasses.replace(small, count=m),))
        layout = nest(none)
        assert layout_faults(none, layout) == [] and sum(layout.unplaced.values()) == left
    # where the small one is dear, two full ones are taken
    dear = dataclasses.replace(task, others=(dataclasses.replace(small, price=11.0),))
    assert [s.sheet.name for s in nest(dear).sheets] == ["full", "full"]


def test_a_sheet_is_exchanged_for_a_cheaper_one():
    full, small = NestSheet(300.0, 200.0, "full", 10.0), NestSheet(160.0, 110.0, "small", 4.0)
    task = Task((rect(140, 90, 1),), full, 2.0, 2.0, others=(small,))
    dear = laid(task, (full, [Placement(0, 0, 10.0, 10.0, 0.0)]))
    assert [s.sheet.name for s in exchanged(task, dear, 1).sheets] == ["small"]
    alone = dataclasses.replace(task, others=(dataclasses.replace(small, price=12.0),))
    assert exchanged(alone, dear, 1) is dear


@settings(max_examples=drawn(2))
@given(
    st.lists(
        st.tuples(outlines(), st.integers(1, 3), st.booleans(), st.sampled_from(["none", "180", "45", "free"])), min_size=1, max_size=5
    ),
    st.sampled_from([0.0, 0.7, 3.0]),
    st.tuples(*[st.sampled_from([0.0, 4.0, 11.0])] * 4),
    st.booleans(),
)
def test_every_layout_is_legal_whatever_is_asked_for(drawn, gap, margins, scarce):
    """Mirrored and free parts, margins of each edge, kinds with a price and a number, an offcut, held parts: all at once."""
    shapes = tuple(Shape(f"s{i}", r, n, allowed_turns(turn), mirror, turn == "free") for i, (r, n, mirror, turn) in enumerate(drawn))
    kinds = (
        NestSheet(300.0, 200.0, "full", 10.0, count=1 if scarce else None),
        NestSheet(170.0, 140.0, "small", 4.0, count=2 if scarce else None),
    )
    task = Task(shapes, kinds[0], gap, 2.0, rounds=2, others=kinds[1:], margins=margins, stock=(el_offcut(),), max_sheets=6)
    layout = nest(task)
    assert layout_faults(task, layout) == []
    held = next(((s.sheet, p) for s in layout.sheets for p in s.placements), None)
    if held:  # and once more round one of its parts
        again = dataclasses.replace(task, stock=(held[0], *(s for s in task.stock if s != held[0])), held=((0, held[1]),), seed=5)
        again = dataclasses.replace(
            again, sheet=dataclasses.replace(kinds[0], count=None), others=(dataclasses.replace(kinds[1], count=None),)
        )
        layout = nest(again)
        assert layout_faults(again, layout) == [] and held[1] in {p for s in layout.sheets for p in s.placements}


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"shapes": (rect(10, 10, 0),)}, "quantity 0"),
        ({"shapes": (rect(10, 10, 1_000_000),)}, "at most 1500"),
        ({"gap": 250.0}, "as large as a sheet"),
        ({"margins": (150.0, 0.0, 160.0, 0.0)}, "greater than both margins"),
        ({"margins": (-1.0, 0.0, 0.0, 0.0)}, "at least 0"),
    ],
)
def test_what_makes_no_sense_is_said(change, says):
    with pytest.raises(NestError, match=says):
        dataclasses.replace(Task((rect(5, 5),), SHEET), **change)


# a design laid by hand


def brood(change=None, **nest_settings):
    data = brood_box().dump()
    data["nest"] |= nest_settings
    if change:
        change(data)
    document = parse_document(data)
    return document, {p.stock: p for p in plans(build(document))}


def arrangement(plan, found, *, locked=()):
    sheets = {}
    for n, s in enumerate(found.layout.sheets):
        sheets[f"s{n}"] = {
            "size": s.sheet.name,
            "order": n,
            "placed": {
                f"{plan.parts[p.shape]}#{p.copy}": {
                    "part": plan.parts[p.shape],
                    "number": p.copy,
                    "x": p.x,
                    "y": p.y,
                    "angle": math.degrees(p.angle),
                    "locked": plan.parts[p.shape] in locked,
                }
                for p in s.placements
            },
        }
    return {"sheets": sheets, "flats": {part: f.digest for part, f in zip(plan.parts, plan.flats, strict=True)}}


def test_a_design_laid_by_hand_stays_so_and_a_search_goes_round_what_is_locked():
    document, found = brood()
    plan = found["ply12"]
    laid_ = lay_out(document, plan, seconds=0.3)
    hand = arrangement(plan, laid_)
    placed = hand["sheets"]["s0"]["placed"].values()
    last = max(placed, key=lambda p: p["x"])
    last["x"] += 40.0  # into the offcut
    last["locked"] = True
    document, found = brood(arranged={"ply12": hand})
    plan = found["ply12"]
    kept = as_laid(document, plan)
    assert kept and not kept.found and layout_faults(plan.task, kept.layout) == [] and not kept.layout.stopped
    assert restored(document, plan, nest_data(document, kept)).layout.sheets == kept.layout.sheets
    searched = lay_out(document, plan, seconds=0.4)
    left = plan.parts.index(last["part"])
    assert {p for s in searched.layout.sheets for p in s.placements if p.shape == left} == {
        p for s in kept.layout.sheets for p in s.placements if p.shape == left
    }
    assert plan.loose != plan.digest and searched.digest == plan.loose and kept.digest == plan.digest


def test_a_changed_part_moves_and_the_others_stay_as_they_were_laid_by_hand():
    document, found = brood()
    hand = arrangement(found["ply12"], lay_out(document, found["ply12"], seconds=0.3))

    def wider(data):
        data["parts"]["rest_front"]["spans"]["y"]["high"] = {"text": "front.back + rest + 3 mm", "unit": "mm"}

    document, found = brood(wider, arranged={"ply12": hand})
    plan = found["ply12"]
    changed = {i for i, (part, f) in enumerate(zip(plan.parts, plan.flats, strict=True)) if hand["flats"].get(part) != f.digest}
    again = lay_out(document, plan, search=False)
    assert layout_faults(plan.task, again.layout) == [] and not again.layout.unplaced
    for p in (p for s in again.layout.sheets for p in s.placements if p.shape not in changed):
        before = next(
            o for s in hand["sheets"].values() for o in s["placed"].values() if o["part"] == plan.parts[p.shape] and o["number"] == p.copy
        )
        assert (p.x, p.y) == (before["x"], before["y"])


def test_an_earlier_layout_is_kept_after_a_small_change_as_long_as_it_costs_no_more():
    document, found = brood()
    data = nest_data(document, lay_out(document, found["ply12"], seconds=0.3))

    def shorter(d):
        d["parts"]["rest_front"]["quantity"] = 1
        d["stocks"]["ply12"]["name"] = "Birch plywood"

    document, found = brood(shorter)
    plan = found["ply12"]
    before = carried(plan, data)
    again = lay_out(document, plan, seconds=0.3, before=before, search=False)
    old = {(p[0], p[1], p[2], p[3]) for sheet in data["placements"] for p in sheet}
    assert {(p.shape, p.copy, p.x, p.y) for s in again.layout.sheets for p in s.placements} <= old


def test_grain_across_a_size_lies_along_the_sheet_that_is_turned():
    def across(data):
        data["stocks"]["ply6"]["sheets"] = {"one": {**data["stocks"]["ply6"]["sheets"]["half"], "grain": "across"}}

    _, found = brood(across)
    assert (found["ply6"].task.sheet.length, found["ply6"].task.sheet.width) == (610.0, 1220.0)


def test_a_plain_part_of_a_stock_with_like_faces_may_be_turned_over():
    def alike(data):
        data["stocks"]["ply12"]["faces"] = "alike"

    _, found = brood(alike)
    mirror = {s.name: s.mirror for s in found["ply12"].task.shapes}
    assert mirror["left"] and not mirror["front"]  # the front is engraved
    assert not any(s.mirror for s in brood()[1]["ply12"].task.shapes)


def test_what_is_not_on_cut_sheets_is_searched_a_place_beside_them():
    document, found = brood()
    plan = found["ply12"]
    hand = arrangement(plan, lay_out(document, plan, seconds=0.3))
    sheet = hand["sheets"]["s0"]
    kept = next(k for k, p in sheet["placed"].items() if p["part"] == "left")
    sheet["placed"], sheet["cut"] = {kept: sheet["placed"][kept]}, True
    document, found = brood(arranged={"ply12": {**hand, "sheets": {"s0": sheet}}})
    plan = found["ply12"]
    laid_ = lay_out(document, plan, seconds=0.3, search=False)
    assert layout_faults(plan.task, laid_.layout) == [] and not laid_.layout.unplaced
    assert len(laid_.layout.sheets) == 2 and len(laid_.layout.sheets[0].placements) == 1
    assert nest_data(document, laid_)["sheets"][0]["cut"] and not nest_data(document, laid_)["sheets"][1]["cut"]


def test_a_search_can_be_stopped_before_anything_is_laid():
    document, found = brood()
    asked = []

    def told(share, best):
        asked.append(len(best.layout.sheets))
        return len(asked) < 3

    assert lay_out(document, found["ply12"], seconds=5, progress=told) is None
    assert asked == [0, 0, 0]
    task = Task((rect(5, 5, 3),), SHEET)
    nothing = nest(task, lambda done, of, best: False)
    assert nothing.stopped and layout_faults(task, nothing) == []  # legal: all of it is left over
