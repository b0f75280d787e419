"""Small pieces of nesting at their limits: which sheets may be asked for, what is taken for the same outline, how far a sheet is used, what is kept of a rest."""

import math

import pytest
from shapely import affinity
from shapely.geometry import Polygon

from zygon.design.draft import Draft
from zygon.errors import NestError
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, rectangle
from zygon.making.pipeline import build
from zygon.nest import engine, mend
from zygon.nest.bottom_left import _same, finished_layout
from zygon.nest.design import plans
from zygon.nest.engine import nest
from zygon.nest.improve import _base
from zygon.nest.legal import near_fault
from zygon.nest.rectangles import sizes_of
from zygon.nest.remainder import rests_of, squared
from zygon.nest.shapes import turned
from zygon.nest.task import NestSheet, Placement, Shape, SheetLayout, Task

MARGINS = (5.0, 7.0, 11.0, 13.0)
PLATE = Shape("plate", Region(rectangle(0, 0, 60, 30), ()), turns=(0.0, math.pi / 2))


@pytest.mark.parametrize(
    ("length", "width", "entry"),
    [
        (16.01, 20.01, ""),
        (16.0, 20.01, "sheet length"),
        (16.01, 20.0, "sheet width"),
        (15.99, 400.0, "sheet length"),
        (400.0, 19.99, "sheet width"),
    ],
)
@pytest.mark.parametrize("where", ["first", "other", "single"])
def test_a_sheet_is_larger_than_both_its_margins(length, width, entry, where):
    """Along x they are 5 and 11 mm, along y 7 and 13."""
    small, large = NestSheet(length, width, "small"), NestSheet(900.0, 900.0, "large")
    more = {"first": {}, "other": {"others": (small,)}, "single": {"stock": (small,)}}[where]
    if not entry:
        Task((PLATE,), small if where == "first" else large, margins=MARGINS, **more)
        return
    with pytest.raises(NestError) as refused:
        Task((PLATE,), small if where == "first" else large, margins=MARGINS, **more)
    assert refused.value.entry == entry and refused.value.rule == "greater than both margins"


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("gap", -0.01),
        ("gap", math.inf),
        ("gap", math.nan),
        ("seconds", 0.0),
        ("margins", (5, 7, 11, -0.01)),
        ("margins", (-0.01, 7, 11, 13)),
    ],
)
def test_what_is_asked_is_a_number_and_not_under_nought(field, value):
    with pytest.raises(NestError, match="is not allowed; it is at least"):
        Task((PLATE,), NestSheet(900.0, 900.0, "large"), **{field: value})
    Task((PLATE,), NestSheet(900.0, 900.0, "large"), gap=0.0, margins=(0, 0, 0, 0))


@pytest.mark.parametrize("gap", [(99.99, True), (100.0, False)])
@pytest.mark.parametrize("upright", [False, True])
def test_a_gap_is_smaller_than_the_sheet(gap, upright):
    sheet = NestSheet(100.0, 300.0, "s") if upright else NestSheet(300.0, 100.0, "s")
    if gap[1]:
        Task((PLATE,), sheet, gap=gap[0])
        return
    with pytest.raises(NestError, match="as large as a sheet"):
        Task((PLATE,), sheet, gap=gap[0])


ELL = Polygon([(0, 0), (50, 0), (50, 12), (17, 12), (17, 34), (0, 34)])


@pytest.mark.parametrize(
    ("other", "same"),
    [
        (affinity.translate(ELL, 31.7, -12.3), True),
        (ELL, True),
        # as large and in the same box, but turned over, and round by a half turn
        (affinity.scale(ELL, -1, 1), False),
        (affinity.rotate(ELL, 180), False),
        # as large, as high or as wide, and stretched the other way
        (Polygon([(0, 0), (50, 0), (50, 12), (17, 12), (17, 34.3), (0, 34.3)]), False),
        (Polygon([(0, 0), (50.3, 0), (50.3, 12), (17, 12), (17, 34), (0, 34)]), False),
        # larger, and smaller, by a hair
        (Polygon([(0, 0), (50, 0), (50, 12.1), (17, 12.1), (17, 34), (0, 34)]), False),
        (Polygon([(0, 0), (50, 0), (50, 11.9), (17, 11.9), (17, 34), (0, 34)]), False),
    ],
)
def test_outlines_are_the_same_where_a_shift_lays_one_on_the_other(other, same):
    assert _same(ELL, other) is same and _same(other, ELL) is same


@pytest.mark.parametrize("roll", [False, True])
def test_a_sheet_is_used_as_far_as_its_last_part_and_the_margin_behind_it(roll):
    """By hand: the second plate stands from x = 130 to 160 and from y = 20 to 80, the margin behind it is 11 mm."""
    sheet = NestSheet(math.inf if roll else 400.0, 200.0, "sheet")
    task = Task((PLATE,), sheet, margins=MARGINS)
    lying, standing = Placement(0, 0, 20, 150, 0.0), Placement(0, 1, 160, 20, math.pi / 2)
    layout = finished_layout(task, [(sheet, [lying, standing])], {}, 1, False)
    assert layout.sheets[0].used_length == pytest.approx(171.0)
    assert layout.share == pytest.approx(2 * 1800 / (171.0 * 200 if roll else 400 * 200))
    if roll:
        return
    # no farther than the sheet is long
    assert finished_layout(task, [(sheet, [Placement(0, 0, 335, 20, 0.0)])], {}, 1, False).sheets[0].used_length == pytest.approx(400.0)


def test_a_rest_of_less_than_the_least_square_is_waste():
    """Beside a part as wide as the sheet a strip stays, less the 0.2 mm to which its outline is kept: 50 by 50 is kept, and nothing under it."""
    for wide, high, kept in ((50.3, 50.1, 1), (50.1, 60, 0), (60, 49.9, 0), (50.3, 49.9, 0)):
        sheet = NestSheet(100 + wide, high, "s")
        block = Shape("block", Region(rectangle(0, 0, 100, high), ()))
        found = rests_of(Task((block,), sheet), SheetLayout(sheet, (Placement(0, 0, 0, 0, 0.0),), 100.0))
        assert len(found) == kept, (wide, high)


@pytest.mark.parametrize(("length", "width"), [(300.0, 120.0), (90.0, 410.0)])
def test_a_rest_that_is_a_rectangle_is_squared_to_itself(length, width):
    region = squared(Region(rectangle(0, 0, length, width), ()))
    assert region is not None and region.outer.bounds == pytest.approx((0, 0, length, width), abs=0.3)
    assert region.area <= length * width + 1e-6


@pytest.mark.parametrize("lacks", ["", "sheets", "parts"])
def test_a_stock_without_a_size_or_without_a_part_has_nothing_to_be_laid_out(lacks):
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 120), (0, 80))
    if lacks == "sheets":
        d.data["stocks"]["ply12"]["sheets"] = {}
    if lacks == "parts":
        d.feature("p", "all", "rectangle", ("centre", 0), ("centre", 0), width="200", height="200")
    tasks = [p.task for p in plans(build(d.document())) if p.stock == "ply12"]
    assert [t is not None for t in tasks] == ([] if lacks == "parts" else [not lacks])


@pytest.mark.parametrize(("hole", "kept"), [(10.2, True), (9.8, False)])
def test_a_hole_that_takes_half_of_the_narrowest_part_stays_a_hole(hole, kept):
    """The narrowest part is 20 mm wide: holes from 10 mm on are looked at, narrower ones are filled."""
    frame = Shape("frame", Region(rectangle(0, 0, 90, 50), (rectangle(30, 20, 30 + hole, 45).wound(ccw=False),)), turns=(0.0,))
    strip = Shape("strip", Region(rectangle(0, 0, 200, 20), ()), turns=(0.0,))
    base = _base(Task((frame, strip), NestSheet(900.0, 900.0, "s"), gap=0.0))
    assert bool(base.polygons[0].interiors) == kept and not base.polygons[1].interiors


@pytest.mark.parametrize(("diameter", "kept"), [(1.10, False), (1.16, True)])
def test_a_rest_has_the_area_of_a_square_of_the_least_width(diameter, kept):
    """A disc of 1.128 times that width has it."""
    least = 100.0
    disc = Region(circle(diameter * least / 2, diameter * least / 2, diameter * least / 2), ())
    sheet = NestSheet(diameter * least, diameter * least, "disc", outline=disc)
    rests = rests_of(Task((PLATE,), NestSheet(900.0, 900.0, "large")), SheetLayout(sheet, (), 0.0), least)
    assert len(rests) == kept and all(math.isclose(r.area, math.pi * (diameter * least / 2) ** 2, rel_tol=0.06) for r in rests)


def test_one_worker_needs_no_process_beside(monkeypatch):
    monkeypatch.setattr(engine, "ProcessPoolExecutor", None)
    assert nest(Task((PLATE,), NestSheet(900.0, 900.0, "s"), rounds=2, workers=1)).sheets
    with pytest.raises(TypeError):
        nest(Task((PLATE,), NestSheet(900.0, 900.0, "s"), rounds=2, workers=2))


@pytest.mark.parametrize("quarters", [1, 2, 3, 4, 5, -1])
def test_a_quarter_turn_leaves_no_rounding(quarters):
    shape = Polygon([(0, 0), (3, 0), (3, 1), (1, 1), (0, 7)])
    c, s = ((1, 0), (0, 1), (-1, 0), (0, -1))[quarters % 4]
    expected = [(c * x - s * y, s * x + c * y) for x, y in shape.exterior.coords]
    assert list(turned(shape, quarters * math.pi / 2).exterior.coords) == expected


@pytest.mark.parametrize("angle", [0.3, 1.0, 2.0, math.pi / 4, 4.0])
def test_any_other_turn_is_the_library_s(angle):
    shape = Polygon([(0, 0), (3, 0), (3, 1), (1, 1), (0, 7)])
    other = affinity.rotate(shape, angle, origin=(0, 0), use_radians=True)
    assert turned(shape, angle).symmetric_difference(other).area < 1e-9


@pytest.mark.parametrize(("bite", "fault"), [(-0.5, ""), (0.0, ""), (0.0008, ""), (0.0012, "overlap"), (0.01, "overlap"), (5.0, "overlap")])
def test_without_a_gap_parts_may_touch_and_bite_a_thousandth(bite, fault):
    task = Task((Shape("p", Region(rectangle(0, 0, 10, 10)), 2),), NestSheet(100.0, 100.0, "s"), gap=0.0)
    one = Polygon([(0, 0), (10, 0), (10, 10), (0, 10)])
    assert near_fault(task, one, affinity.translate(one, 10 - bite, 0)) == fault


def test_what_the_check_refuses_is_left_over_and_what_stays_is_told(monkeypatch):
    """A layout in which the search put something that the checks do not take: only what was kept stays, on the sheets that have something."""
    task = Task((Shape("p", Region(rectangle(0, 0, 10, 10)), 3),), NestSheet(100.0, 100.0, "s"), gap=1.0, max_sheets=2)
    kept = [Placement(0, 0, 20.0, 20.0, 0.0)]
    monkeypatch.setattr(mend, "layout_faults", lambda task, layout: ["refused"])
    found = mend.mended(task, [(task.sheet, kept), (task.sheet, [])], {})
    assert [[(p.x, p.y) for p in s.placements] for s in found.sheets] == [[(20.0, 20.0)]] and found.unplaced == {0: 2}


@pytest.mark.parametrize(
    ("turn", "rectangles"),
    [(math.pi / 2, True), (-math.pi / 2, True), (math.pi, True), (0.3, False), (-0.3, False), (math.pi / 2 - 0.01, False)],
)
def test_rectangles_are_such_as_turn_by_quarters(turn, rectangles):
    task = Task((Shape("p", Region(rectangle(0, 0, 60, 30)), turns=(0.0, turn)),), NestSheet(400.0, 300.0, "s"))
    found = sizes_of(task)
    assert (found is not None) == rectangles
    if rectangles:
        assert {s for s, _ in found[0]} == ({(60, 30)} if turn == math.pi else {(60, 30), (30, 60)})
