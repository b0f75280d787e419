"""The checker that referees layouts refuses what is wrong by a hundredth of a millimetre, and takes what is right by one."""

import math
from dataclasses import replace

import pytest

from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, polygon, rectangle
from zygon.nest.legal import layout_faults, usable_of
from zygon.nest.task import Layout, NestSheet, Placement, Shape, SheetLayout, Task

PLATE = Shape("plate", Region(rectangle(0, 0, 60, 30), ()), turns=(0.0, math.pi / 2))
DISC = Shape("disc", Region(circle(0, 0, 10), ()), free=True)
RING = Shape("ring", Region(circle(0, 0, 40), (circle(0, 0, 25).reversed(),)))
#: Unlike margins: low x, low y, high x, high y.
MARGINS = (5.0, 7.0, 11.0, 13.0)
SHEET = NestSheet(400.0, 200.0, "sheet")


def task(*shapes, gap=3.0, edges=MARGINS, sheet=SHEET, **more):
    return Task(tuple(shapes), sheet, gap=gap, margins=edges, **more)


def laid(*placements, sheet=SHEET, used=400.0, unplaced=None):
    return Layout((SheetLayout(sheet, tuple(placements), used),), unplaced or {})


def at(shape, x, y, angle=0.0, copy=0, mirrored=False):
    return Placement(shape, copy, x, y, angle, mirrored)


@pytest.mark.parametrize("angle", [0, 30, 90, 217])
@pytest.mark.parametrize(("off", "fine"), [(-0.01, False), (-0.002, False), (0.0, True), (0.01, True)])
def test_the_gap_is_kept_whole_in_every_direction(angle, off, fine):
    asked = task(replace(DISC, quantity=2))
    a = math.radians(angle)
    d = 20 + 3.0 + off
    found = layout_faults(asked, laid(at(0, 150, 100), at(0, 150 + d * math.cos(a), 100 + d * math.sin(a), copy=1)))
    assert (found == []) == fine
    if not fine:
        (told,) = found
        assert told.startswith(f"sheet 1: disc and disc keep {3 + off:.3f}") and told.endswith(" mm, not 3")


@pytest.mark.parametrize(("gap", "off", "fine"), [(0.0, -0.01, False), (0.0, 0.0, True), (8.0, -0.01, False), (8.0, 0.0, True)])
def test_parts_side_by_side_keep_the_gap_or_touch(gap, off, fine):
    found = layout_faults(task(replace(PLATE, quantity=2), gap=gap), laid(at(0, 50, 50), at(0, 110 + gap + off, 50, copy=1)))
    assert (found == []) == fine
    if not fine:
        assert found == ["sheet 1: plate and plate " + ("overlap" if not gap else f"keep {gap + off:.4f} mm, not {gap:g}")]


@pytest.mark.parametrize(("off", "fine"), [(0.01, False), (0.0, True)])
def test_in_a_hole_the_gap_is_kept_too(off, fine):
    found = layout_faults(task(RING, DISC), laid(at(0, 150, 100), at(1, 150 + 12 + off, 100)))
    assert (found == []) == fine  # 25 less 10 less 3


@pytest.mark.parametrize("side", range(4))
@pytest.mark.parametrize(("off", "fine"), [(-0.01, False), (0.0, True), (0.01, True)])
def test_each_margin_is_its_own(side, off, fine):
    # the plate stands against one margin at a time
    x, y = [(5 + off, 60), (100, 7 + off), (400 - 11 - 60 - off, 60), (100, 200 - 13 - 30 - off)][side]
    found = layout_faults(task(PLATE), laid(at(0, x, y)))
    assert (found == []) == fine
    assert fine or found == ["sheet 1: plate leaves the sheet or its margin"]


@pytest.mark.parametrize(("off", "fine"), [(-0.01, False), (0.0, True)])
def test_an_offcut_keeps_the_widest_margin_all_round_its_outline(off, fine):
    sheet = NestSheet(
        200.0, 200.0, "rest", outline=Region(polygon([(0, 0), (200, 0), (200, 100), (100, 100), (100, 200), (0, 200)], "o"), ())
    )
    asked = task(PLATE, sheet=sheet)
    for x, y in ((13 + off, 50), (50, 13 + off), (200 - 13 - 60 - off, 40), (120, 100 - 13 - 30 - off)):
        assert (layout_faults(asked, laid(at(0, x, y), sheet=sheet, used=200)) == []) == fine
    # the notch is no sheet
    assert layout_faults(asked, laid(at(0, 110, 120), sheet=sheet, used=200)) != []


def test_a_roll_is_used_as_far_as_is_said():
    roll = NestSheet(math.inf, 200.0, "roll")
    asked = task(PLATE, sheet=roll)
    assert layout_faults(asked, laid(at(0, 900, 60), sheet=roll, used=900 + 60 + 11)) == []
    assert layout_faults(asked, laid(at(0, 900, 60), sheet=roll, used=900 + 60 + 10.99)) != []
    assert usable_of(asked, roll).bounds[2] > 1e6


@pytest.mark.parametrize(
    ("angle", "fine"), [(0, True), (90, True), (450, True), (-270, True), (180, False), (270, False), (0.001, False), (45, False)]
)
def test_a_part_is_turned_only_as_it_may_be(angle, fine):
    found = layout_faults(task(PLATE), laid(at(0, 150, 100, math.radians(angle))))
    assert found == ([] if fine else ["sheet 1: plate is turned in a way that it must not be"])


def test_free_parts_lie_at_any_angle_and_only_what_may_be_is_turned_over():
    assert layout_faults(task(replace(PLATE, free=True)), laid(at(0, 150, 100, 0.777))) == []
    over = laid(at(0, 150, 100, mirrored=True))
    assert layout_faults(task(PLATE), over) == ["sheet 1: plate is turned over, and must not be"]
    assert layout_faults(task(replace(PLATE, mirror=True)), over) == []


def test_each_copy_is_laid_once_or_left_over():
    asked = task(replace(PLATE, quantity=3))
    two = (at(0, 50, 50), at(0, 150, 50, copy=1))
    assert layout_faults(asked, laid(*two)) == ["plate: 2 placed and 0 left over, of 3"]
    assert layout_faults(asked, laid(*two, unplaced={0: 1})) == []
    assert layout_faults(asked, laid(*two, unplaced={0: 2})) == ["plate: 2 placed and 2 left over, of 3"]


def test_no_more_sheets_are_used_than_are_there():
    one = replace(SHEET, count=1)
    asked = Task((replace(PLATE, quantity=2),), one, gap=3.0, margins=MARGINS)
    twice = Layout((SheetLayout(one, (at(0, 50, 50),), 400.0), SheetLayout(one, (at(0, 50, 50, copy=1),), 400.0)), {})
    assert layout_faults(asked, twice) == ["sheet is used 2 times, and is there 1 times"]
    assert layout_faults(replace(asked, sheet=replace(one, count=2)), twice) != []  # another kind of sheet


def test_what_is_locked_stays_and_closed_sheets_take_nothing_more():
    first = at(0, 50, 50)
    asked = task(replace(PLATE, quantity=2), held=((0, first),))
    beside = at(0, 150, 50, copy=1)
    assert layout_faults(asked, laid(first, beside)) == []
    assert layout_faults(asked, laid(replace(first, x=50.5), beside)) == ["plate is locked, and lies elsewhere"]
    shut = replace(asked, closed=frozenset({0}))
    assert layout_faults(shut, laid(first, beside)) == ["something was added to a sheet that takes nothing more"]
    assert layout_faults(replace(shut, shapes=(PLATE,)), laid(first)) == []
