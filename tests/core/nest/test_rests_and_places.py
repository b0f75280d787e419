"""What a sheet gives back, where a part may go, how parts may turn, and what is cut where it lies: figures worked by hand, unlike margins and turns."""

import math
from dataclasses import replace

import pytest
from shapely.geometry import Point, Polygon

from zygon.cut.kerf import compensated
from zygon.design.draft import Draft
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, polygon, rectangle
from zygon.making.pipeline import build
from zygon.nest.design import placed_contours, plans, reckon_sheet
from zygon.nest.engine import nest
from zygon.nest.left_over import reason_of
from zygon.nest.legal import layout_faults
from zygon.nest.remainder import largest_rectangle, offcut_sheet, rest_region, rests_of, squared
from zygon.nest.room import room_on
from zygon.nest.task import NestSheet, Placement, Shape, SheetLayout, Task

MARGINS = (5.0, 7.0, 11.0, 13.0)
SHEET = NestSheet(400.0, 200.0, "sheet")
PLATE = Shape("plate", Region(rectangle(0, 0, 60, 30), ()), turns=(0.0, math.pi / 2))


# -- rests -------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("gap", [4.0, 9.0])
def test_a_rest_begins_a_whole_gap_beside_the_parts(gap):
    task = Task((PLATE,), SHEET, gap=gap, margins=MARGINS)
    (rest,) = rests_of(task, SheetLayout(SHEET, (Placement(0, 0, 10, 60, math.pi / 2), Placement(0, 1, 10, 110, 0.0)), 400.0))
    # the plates end at x = 10 and 70; turned by a right angle the first reaches from -20 to 10
    _, y0, x1, y1 = rest.bounds
    assert (x1, y0, y1) == (400, 0, 200)
    assert rest.contains(Point(70 + gap + 0.3, 125)) and not rest.contains(Point(70 + gap - 0.3, 125))
    assert rest.contains(Point(10 + gap + 0.3 + 0.0, 30)) and rest.contains(Point(200, 199))


@pytest.mark.parametrize(("wide", "kept"), [(50.5, True), (49.5, False)])
def test_what_is_narrower_than_fifty_is_waste(wide, kept):
    task = Task((Shape("p", Region(rectangle(0, 0, 400 - wide - 3, 200), ())),), SHEET, gap=3.0)
    assert len(rests_of(task, SheetLayout(SHEET, (Placement(0, 0, 0, 0, 0.0),), 400.0))) == kept


def test_rests_are_told_largest_first_and_have_an_outline_of_their_own():
    bar = Shape("bar", Region(rectangle(0, 0, 20, 200), ()))
    task = Task((bar,), SHEET, gap=3.0)
    found = rests_of(task, SheetLayout(SHEET, (Placement(0, 0, 100, 0, 0.0),), 400.0))
    assert [p.bounds for p in found] == [pytest.approx((123, 0, 400, 200)), pytest.approx((0, 0, 97, 200))]
    region = rest_region(found[0])
    assert region.outer.bounds == pytest.approx((0, 0, 277, 200)) and region.area == pytest.approx(277 * 200)
    sheet = offcut_sheet("R1", Region(rectangle(20, 30, 120, 90), (circle(60, 60, 10).reversed(),)))
    assert (sheet.length, sheet.width, sheet.name, sheet.price) == (100, 60, "R1", 0.0)
    assert sheet.outline.outer.bounds == (0, 0, 100, 60) and sheet.outline.inner[0].bounds == pytest.approx((30, 20, 50, 40))


def test_a_roll_gives_back_what_lies_beside_its_parts_as_far_as_it_is_used():
    roll = NestSheet(math.inf, 200.0, "roll")
    task = Task((PLATE,), roll, gap=3.0)
    (rest,) = rests_of(task, SheetLayout(roll, (Placement(0, 0, 0, 0, 0.0),), 90.0))
    assert rest.bounds == pytest.approx((0, 33, 90, 200)) and rest.area == pytest.approx(90 * 167)  # beside it only 27 stay


def test_the_largest_rectangle_is_found_in_any_corner():
    steps = [(0, 0), (300, 0), (300, 80), (110, 80), (110, 200), (0, 200)]
    for mirror in (1, -1):
        for turn in (0, 1):
            points = [((y if turn else x) * mirror, (x if turn else y)) for x, y in steps]
            found = largest_rectangle(Polygon(points))
            assert sorted((found.length, found.width)) == pytest.approx([80, 300]) and found.length * found.width == pytest.approx(24000)
            assert Polygon(points).buffer(1e-6).contains(Point(found.x + found.length / 2, found.y + found.width / 2))
    assert squared(Region(polygon(steps), ())).outer.bounds == (0, 0, 300, 80)


# -- room and reasons --------------------------------------------------------------------------------------------------


def box_of(rooms):
    points = [p for rings in rooms for p in rings[0]]
    return min(x for x, _ in points), min(y for _, y in points), max(x for x, _ in points), max(y for _, y in points)


@pytest.mark.parametrize(("angle", "x", "y", "wide", "high"), [(0.0, 5, 7, 60, 30), (math.pi / 2, 35, 7, 30, 60)])
def test_the_room_on_an_empty_sheet_is_bounded_by_each_margin(angle, x, y, wide, high):
    task = Task((PLATE,), SHEET, gap=3.0, margins=MARGINS)
    rooms = room_on(task, SHEET, [], Placement(0, 0, 0, 0, angle))
    assert box_of(rooms) == pytest.approx((x, y, x + 400 - 16 - wide, y + 200 - 20 - high), abs=2e-3)
    tall = NestSheet(400.0, 20.0 + high - 0.1, "low")
    assert room_on(replace(task, sheet=tall), tall, [], Placement(0, 0, 0, 0, angle)) == []


def test_on_a_roll_there_is_room_behind_what_lies_there():
    roll = NestSheet(math.inf, 200.0, "roll")
    task = Task((PLATE,), roll, gap=3.0, margins=MARGINS)
    empty, used = (box_of(room_on(task, roll, still, Placement(0, 1, 0, 0, 0.0))) for still in ([], [Placement(0, 0, 500, 50, 0.0)]))
    # a millimetre more than it needs, behind the margin where nothing lies yet
    assert empty == pytest.approx((5, 7, 6, 200 - 13 - 30), abs=5e-3)
    assert used[:2] == pytest.approx((5, 7), abs=5e-3) and used[2] == pytest.approx(560 + 3 + 1, abs=5e-3)


@pytest.mark.parametrize(
    ("length", "width", "turns", "says"),
    [
        (60, 30, (0.0,), "no sheet left"),
        (384.0, 180.0, (0.0,), "no sheet left"),
        (384.1, 30, (0.0,), "too large, and it must not be turned"),
        (60, 180.1, (0.0,), "too large, and it must not be turned"),
        (60, 200, (0.0, math.pi / 2), "no sheet left"),
        (390, 200, (0.0, math.pi / 2), "too large even when turned"),
    ],
)
@pytest.mark.parametrize("gap", [0.0, 3.0])
def test_why_a_part_found_no_place(length, width, turns, says, gap):
    task = Task((Shape("p", Region(rectangle(0, 0, length, width), ()), turns=turns),), SHEET, gap=gap, margins=MARGINS)
    assert reason_of(task, 0) == says


@pytest.mark.parametrize("gap", [0.0, 3.0])
def test_rectangles_are_packed_within_unlike_margins(gap):
    shapes = tuple(
        Shape(f"r{i}", Region(rectangle(0, 0, w, h), ()), n, turns=(0.0, math.pi / 2))
        for i, (w, h, n) in enumerate([(90, 50, 4), (60, 40, 5), (33, 71, 3)])
    )
    task = Task(shapes, SHEET, gap=gap, margins=MARGINS, rounds=3)
    layout = nest(task)
    assert layout_faults(task, layout) == [] and not layout.unplaced and len(layout.sheets) == 1
    area = sum(s.region.area * s.quantity for s in shapes)
    reach = max(p.x + (s.region.outer.moved(0, 0, p.angle).bounds[2]) for p in layout.sheets[0].placements for s in (shapes[p.shape],))
    assert layout.sheets[0].used_length == pytest.approx(reach + 11, abs=0.01)
    assert area / ((reach - 5) * 180) > 0.8


# -- turns, mirrors, what is cut where it lies --------------------------------------------------------------------------


def stocked(turn="180", grain="none", part_grain="free", faces="differ", **part):
    d = Draft("d", "ply12", cutter="router")
    stock = d.data["stocks"]["ply12"]
    stock |= {"turn": turn, "grain": grain, "faces": faces}
    d.board("p", "ply12", "lying", 0, (0, 120), (0, 70), up="a")
    d.data["parts"]["p"] |= {"grain": part_grain, **part}
    return d


RIGHT = 90
TURNS = [
    ("none", "none", "free", [0]),
    ("180", "none", "free", [0, 180]),
    ("90", "none", "free", [0, 90, 180, 270]),
    ("90", "along", "free", [0, 180]),
    ("none", "along", "free", [0]),
    ("90", "along", "u", [0, 180]),
    ("90", "along", "v", [90, 270]),
    ("none", "along", "u", [0]),
    ("none", "along", "v", [90]),
]


@pytest.mark.parametrize(("turn", "grain", "own", "angles"), TURNS)
def test_a_part_turns_as_its_stock_and_grain_allow(turn, grain, own, angles):
    (plan,) = plans(build(stocked(turn, grain, own).document()))
    assert [round(math.degrees(t)) for t in plan.task.shapes[0].turns] == angles


@pytest.mark.parametrize(
    ("faces", "work", "mirror"),
    [("alike", None, True), ("differ", None, False), ("alike", "hole", True), ("alike", "blind", False), ("alike", "mark", False)],
)
def test_only_what_is_alike_on_both_faces_may_be_turned_over(faces, work, mirror):
    d = stocked(faces=faces)
    if work == "mark":
        d.feature("p", "m", "mark_line", ("left", 20), ("front", 20), length="30")
    elif work:
        d.feature("p", "h", "hole", ("left", 20), ("front", 20), diameter="9", **({"depth": "4"} if work == "blind" else {}))
    (plan,) = plans(build(d.document()))
    assert plan.task.shapes[0].mirror == mirror


@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("angle", [0.0, math.pi / 2, 0.7])
def test_everything_of_a_part_goes_where_the_part_goes(mirrored, angle):
    d = stocked()
    d.feature("p", "hole", "hole", ("left", 20), ("front", 20), diameter="9")
    d.feature("p", "drill", "hole", ("left", 40), ("front", 50), diameter="4")
    d.feature("p", "pocket", "pocket", ("left", 80), ("front", 40), width="30", height="20", depth="5", face="top")
    d.feature("p", "line", "mark_line", ("left", 20), ("front", 60), length="30")
    document = d.document()
    (plan,) = plans(build(document))
    spot = Placement(0, 0, 300, 200, angle, mirrored)
    found, own = placed_contours(document, plan, spot), compensated(plan.flats[0], 6.0)

    def put(u, v):
        u = -u if mirrored else u
        return 300 + u * math.cos(angle) - v * math.sin(angle), 200 + u * math.sin(angle) + v * math.cos(angle)

    assert found.kerf == 6.0 and placed_contours(document, plan, spot, 0.0).kerf == 0.0
    assert found.inside[0].as_circle[:2] == pytest.approx(put(20, 20)) and found.drills[0].contour.as_circle[:2] == pytest.approx(
        put(40, 50)
    )
    ((name, pocket),) = found.depths
    x0, y0, x1, y1 = pocket.bounds
    assert name == "depth-a-5" and ((x0 + x1) / 2, (y0 + y1) / 2) == pytest.approx(put(80, 40))
    ends = {tuple(round(x, 4) for x in p) for p in found.marks[0].points}
    assert ends == {
        tuple(round(x, 4) for x in put(u, 60)) for u in ((5, 35) if own.marks[0].points[0][0] == pytest.approx(5) else (20, 50))
    }
    assert abs(found.outside[0].area) == pytest.approx(126 * 76, rel=1e-3)


def test_bend_lines_and_notes_lie_on_the_sheet_too_and_a_sheet_s_time_is_that_of_its_parts():
    d = Draft("d", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 150), (0, 90), up="a")
    d.fold("p")
    d.flange("p", "f", "left", "40")
    document = d.document()
    (plan,) = plans(build(document))
    own, found = compensated(plan.flats[0], 0.0), placed_contours(document, plan, Placement(0, 0, 300, 200, math.pi / 2), 0.0)
    ((name, line),), ((_, before),) = found.bends, own.bends
    assert name == "bend-up" and line.points == tuple(pytest.approx((300 - v, 200 + u)) for u, v in before.points)
    sheet = plan.task.sheet
    one, two = (
        reckon_sheet(document, plan, SheetLayout(sheet, tuple(Placement(0, i, 10 + 300 * i, 10, 0.0) for i in range(n)), 700.0))
        for n in (1, 2)
    )
    assert two.cut_length == pytest.approx(2 * one.cut_length) and two.pierces == 2 * one.pierces and two.known


def test_a_rest_round_a_part_has_the_hole_that_the_part_leaves():
    sheet = NestSheet(400.0, 300.0, "s")
    task = Task((Shape("p", Region(rectangle(0, 0, 60, 40))),), sheet, gap=5.0)
    (rest,) = rests_of(task, SheetLayout(sheet, (Placement(0, 0, 150, 120, 0.0),), 400.0))
    region = rest_region(rest)
    (hole,) = region.inner
    # the part and its gap of 5 all round
    assert hole.area == pytest.approx(-70 * 50) and hole.bounds == pytest.approx((145, 115, 215, 165))
    assert region.area == pytest.approx(400 * 300 - 70 * 50)


def test_an_offcut_of_a_stock_keeps_its_hole():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 100), (0, 50))
    for ring in ([[20, 30], [320, 30], [320, 230], [20, 230]], [[20, 30], [20, 230], [320, 230], [320, 30]]):
        for hole in ([[60, 60], [60, 160], [160, 160], [160, 60]], [[60, 60], [160, 60], [160, 160], [60, 160]]):
            d.data["stocks"]["ply12"]["offcuts"] = {"r1": {"name": "R1", "outline": ring, "holes": [hole]}}
            (plan,) = plans(build(d.document()))
            (offcut,) = plan.task.stock
            assert (offcut.length, offcut.width, offcut.price) == (300, 200, 0)
            assert offcut.outline.area == pytest.approx(300 * 200 - 100 * 100)
            assert offcut.outline.inner[0].bounds == pytest.approx((40, 30, 140, 130))
