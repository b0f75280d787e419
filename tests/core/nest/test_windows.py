"""Full sheets filled further, window by window: parts are neither lost nor doubled, locked ones stay, and what lots found on different sheets is put together."""

import math
import random
from collections import Counter
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.explore import drawn
from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon, rectangle
from zygon.nest import improve
from zygon.nest.bottom_left import finished_layout, first_layout
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.legal import layout_faults
from zygon.nest.task import Layout, NestSheet, Placement, Shape, Task

SHEET = NestSheet(200.0, 100.0, "full")


def rect(w, h, n, name=""):
    return Shape(name or f"{w}x{h}", Region(rectangle(0, 0, float(w), float(h))), n, allowed_turns("90"))


def counted(layout: Layout) -> Counter:
    return Counter((p.shape, p.copy) for s in layout.sheets for p in s.placements)


def on_last(layout: Layout) -> int:
    return len(layout.sheets[-1].placements)


def loosely(task: Task, first: list[Placement], last: list[Placement]) -> Layout:
    layout = finished_layout(task, [(SHEET, first), (SHEET, last)], {}, 0, False)
    assert not layout_faults(task, layout)
    return layout


def filled(task: Task, layout: Layout, lot: int = 0, effort: float = 2e5) -> Layout:
    return improve._filled(task, layout, 5, effort, improve._Clock(math.inf, None), improve._share_of(task, layout, lot))


def test_parts_are_moved_apart_for_what_comes_from_the_last_sheet():
    # three columns with 20 mm between them: room for one more only once they move together
    task = Task((rect(45, 100, 3), rect(50, 90, 1)), SHEET)
    first = [Placement(0, k, 66.0 * k, 0.0, 0.0) for k in range(3)]
    layout = filled(task, loosely(task, first, [Placement(1, 0, 0.0, 0.0, 0.0)]))
    assert len(layout.sheets) == 1 and not layout_faults(task, layout) and counted(layout) == {(0, 0): 1, (0, 1): 1, (0, 2): 1, (1, 0): 1}


def test_a_part_is_exchanged_for_a_larger_one_where_nothing_goes_in_beside():
    # 30 mm are empty, and what waits needs 80: it goes in where one of 60 comes out
    task = Task((rect(110, 100, 1), rect(60, 100, 1), rect(80, 100, 1)), SHEET)
    first = [Placement(0, 0, 0.0, 0.0, 0.0), Placement(1, 0, 110.0, 0.0, 0.0)]
    layout = filled(task, loosely(task, first, [Placement(2, 0, 20.0, 0.0, 0.0)]))
    assert [sorted(p.shape for p in s.placements) for s in layout.sheets] == [[0, 2], [1]]
    assert not layout_faults(task, layout) and layout.sheets[-1].used_length <= 100.001
    assert improve.score(task, layout) < improve.score(task, loosely(task, first, [Placement(2, 0, 20.0, 0.0, 0.0)]))


@pytest.mark.parametrize("where", [0, 1])
def test_what_is_locked_stays_and_so_does_a_sheet_that_takes_nothing_more(where):
    task = Task((rect(45, 100, 3), rect(50, 90, 1)), SHEET, stock=(SHEET, SHEET))
    first, last = [Placement(0, k, 66.0 * k, 0.0, 0.0) for k in range(3)], [Placement(1, 0, 0.0, 0.0, 0.0)]
    # the middle one locked leaves 21 mm on either side; a locked part on the last sheet keeps it; a closed sheet takes nothing
    locked = (0, first[1]) if where == 0 else (1, last[0])
    whole = tuple((0, p) for p in first)
    for held in (replace(task, held=(locked,)), replace(task, held=whole, closed=frozenset({0}))):
        layout = filled(held, loosely(held, first, last))
        assert len(layout.sheets) == 2 and on_last(layout) == 1 and not layout_faults(held, layout)


@st.composite
def loads(draw):
    rng = random.Random(draw(st.integers(0, 10_000)))
    shapes = []
    for k in range(rng.randint(3, 7)):
        w, h = rng.uniform(8, 45), rng.uniform(8, 40)
        points = rng.choice(
            [
                [(0, 0), (w, 0), (w, h), (0, h)],
                [(0, 0), (w, 0), (w * 0.6, h)],
                [(0, 0), (w, 0), (w, h / 3), (w / 3, h / 3), (w / 3, h), (0, h)],
            ]
        )
        shapes.append(Shape(f"s{k}", Region(polygon(points)), rng.randint(3, 14), allowed_turns("90")))
    return Task(tuple(shapes), SHEET, rng.choice([0.0, 1.0]), rng.choice([0.0, 3.0]), seed=rng.randint(1, 99), rounds=6)


@settings(max_examples=drawn(12))
@given(loads())
def test_nothing_is_lost_or_doubled_and_the_last_sheet_never_grows(task):
    before = first_layout(task)
    if len(before.sheets) < 2:
        return
    after = filled(task, before, effort=3e4)
    assert counted(after) == counted(before) and not layout_faults(task, after)
    assert improve.score(task, after) <= improve.score(task, before)


def three_full(workers: int = 2) -> tuple[Task, Layout]:
    """Two sheets with three loose columns each, and two boards that wait on a third."""
    task = Task((rect(45, 100, 6), rect(50, 90, 2)), SHEET, workers=workers)
    columns = [[Placement(0, 3 * n + k, 66.0 * k, 0.0, 0.0) for k in range(3)] for n in range(2)]
    waits = [Placement(1, k, 60.0 * k, 0.0, 0.0) for k in range(2)]
    layout = finished_layout(task, [(SHEET, columns[0]), (SHEET, columns[1]), (SHEET, waits)], {}, 0, False)
    assert not layout_faults(task, layout)
    return task, layout


def test_lots_have_sheets_and_parts_of_their_own_and_what_they_find_is_put_together():
    task, before = three_full()
    shares = [improve._share_of(task, before, lot) for lot in range(2)]
    assert [s.full for s in shares] == [(0,), (1,)] and [s.offered for s in shares] == [((1, 0),), ((1, 1),)]
    found = [filled(task, before, lot) for lot in range(2)]
    assert [on_last(f) for f in found] == [1, 1]
    whole = improve.joined(task, before, found)
    assert len(whole.sheets) == 2 and counted(whole) == counted(before) and not layout_faults(task, whole)
    # where only one found something, or both changed the same sheet, the best is what is gone on from
    assert improve.joined(task, before, [found[0], before]) is found[0]
    assert improve.joined(task, before, [found[0], found[0]]) is found[0]


def test_with_more_lots_than_full_sheets_each_has_all():
    task, before = three_full(workers=3)
    assert {improve._share_of(task, before, lot) for lot in range(3)} == {improve._Share((0, 1), ((1, 0), (1, 1)))}


@pytest.mark.parametrize("workers", [1, 2])
def test_many_sheets_too_come_out_the_same_from_the_same_seed(workers):
    rng = random.Random(4)
    shapes = tuple(rect(rng.uniform(12, 50), rng.uniform(10, 40), 6, f"r{k}") for k in range(9))
    task = Task(shapes, SHEET, 1.0, 2.0, seed=3, rounds=4, workers=workers)
    one, other = nest(task), nest(task)
    assert one == other and not layout_faults(task, one) and len(one.sheets) > 2
    assert improve.score(task, one) <= improve.score(task, first_layout(task))
