"""The pieces that a search is made of, each alone on small unlike figures: quick, so that a mistake in one is found where it is."""

import itertools
import math
from dataclasses import astuple, replace

import numpy as np
import pytest
import shapely

from tests.core.figures import compared, condensed
from tests.core.nest.test_nesting import ELL, el_offcut, rect
from tests.core.nest.test_same_layouts import FULL, MARGINS, SMALL, comb, shapes
from zygon.errors import NestError
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, polygon, rectangle, rounded_rectangle
from zygon.nest import bars as bars_room
from zygon.nest.bars import Bar, Cut, cut_bars
from zygon.nest.base import base_of
from zygon.nest.bottom_left import finished_layout
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.field import Field
from zygon.nest.ground import ground_of
from zygon.nest.improve import score
from zygon.nest.legal import layout_faults
from zygon.nest.mend import fitting, holding, mended
from zygon.nest.nofit import convex_pieces, no_fit
from zygon.nest.rectangles import packed, sizes_of
from zygon.nest.room import room_on
from zygon.nest.shapes import envelope, grown, turned
from zygon.nest.strip import Memory, compressed, explored, separated
from zygon.nest.swap import exchanged
from zygon.nest.task import Layout, NestSheet, Placement, Shape, Task

TOOTHED = [
    comb(180, 70, 30),
    comb(120, 44, 14),
    comb(60, 30, 7),
    Region(circle(3, -8, 21)),
    Region(rounded_rectangle(10, 4, 90, 30, 11)),
    Region(ELL),
    Region(polygon([(40 * math.cos(t / 15 * math.pi) * (1 + 0.3 * (t % 2)), 25 * math.sin(t / 15 * math.pi)) for t in range(30)])),
    Region(polygon([(0, 0), (90, 0), *((90 - 3 * k, 40 + 4 * math.sin(k)) for k in range(31)), (0, 20)])),
]


def same(name, data):
    compared(f"pieces {name}", {"pieces": condensed(data)})


@pytest.mark.parametrize("gap", [0.0, 1.7, 9.0])
def test_envelopes_and_grown_outlines_are_what_they_were(gap):
    found = []
    for region in TOOTHED:
        polygon_ = envelope(region.outer, gap)
        assert polygon_.contains(shapely.Polygon(region.outer.flatten(0.01)).buffer(gap / 2 - 0.02)) and polygon_.exterior.is_ccw
        found.append(
            [
                len(polygon_.exterior.coords),
                polygon_.area,
                polygon_.bounds,
                turned(polygon_, 0.4).bounds,
                turned(polygon_, 3 * math.pi / 2).bounds,
            ]
        )
    for outer, least in ((70.0, 0.0), (70.0, 6.0), (44.0, 11.0)):
        window = Region(rectangle(0, 0, outer, 50), (rounded_rectangle(30, 25, 9, 23, 3), circle(20, 25, 2)))
        polygon_ = grown(window, gap, least)
        found.append([len(polygon_.interiors), polygon_.area, [shapely.Polygon(h).area for h in polygon_.interiors]])
    same(f"envelopes {gap:g}", found)


def test_no_fit_polygons_and_what_they_are_made_of_are_what_they_were():
    regions = [envelope(r.outer, 1.0) for r in TOOTHED[3:]]
    pieces = [convex_pieces(r) for r in regions]
    for region, own in zip(regions, pieces, strict=True):
        assert sum(shapely.Polygon(p).area for p in own) == pytest.approx(region.area)
    found = [[p.area, p.bounds, len(shapely.get_coordinates(p))] for a, b in itertools.permutations(pieces, 2) for p in (no_fit(a, b),)]
    same("no fit", [found, [[len(p) for p in own] for own in pieces]])


def rooms():
    task = Task(shapes(3), FULL, 1.3, 2.0, margins=MARGINS, stock=(el_offcut(),))
    still = [Placement(0, 0, 12.0, 15.0, 0.0), Placement(3, 0, 150.0, 20.0, 0.0), Placement(5, 1, 130.0, 120.0, math.pi / 2, True)]
    for sheet in (FULL, SMALL, NestSheet(math.inf, 210.0), el_offcut()):
        for moving in (
            Placement(1, 0, 0, 0, 0.0),
            Placement(1, 1, 0, 0, math.pi / 2, True),
            Placement(4, 0, 0, 0, 0.0),
            Placement(6, 0, 0, 0, 0.3),
        ):
            for some in (still, still[:1], []):
                yield task, sheet, some, moving


def test_the_room_for_a_part_is_what_it_was():
    same("rooms", [room_on(*each) for each in rooms()])


@pytest.mark.parametrize("gap", [0.0, 4.0])
def test_a_part_that_just_goes_has_a_place_and_one_that_is_wider_by_little_has_none(gap):
    for over, there in ((0.0, True), (0.002, False)):
        for wide, high in ((290.0 + over, 100.0), (100.0, 184.0 + over)):
            task = Task((rect(wide, high),), FULL, gap, margins=MARGINS)
            assert bool(room_on(task, FULL, [], Placement(0, 0, 0, 0, 0.0))) == there


def test_the_ground_of_a_sheet_leaves_each_margin_less_half_the_gap():
    ground = ground_of(Task((rect(5, 5),), FULL, 4.0, margins=MARGINS), FULL)
    assert [ground.low_x, ground.low_y, ground.high_x, ground.high_y] == pytest.approx([1, 3, 295, 191], abs=1e-3)
    task = Task((rect(5, 5),), FULL, 4.0, margins=MARGINS, stock=(el_offcut(),))
    same("ground", [[p.area, p.bounds] for p in ground_of(task, el_offcut()).obstacles])


# exchange


def lying(task, *sheets, unplaced=None):
    return finished_layout(task, sheets, unplaced or {}, 3, False)


SLAB = Placement(0, 0, 10.0, 10.0, 0.0)


def names(layout):
    return [s.sheet.name for s in layout.sheets]


def test_a_sheet_is_not_exchanged_for_kinds_that_are_used_up_or_have_no_end():
    few = replace(SMALL, count=1)
    task = Task((rect(140, 90, 2),), FULL, 2.0, 2.0, others=(few,))
    both = lying(task, (few, [replace(SLAB, copy=1)]), (FULL, [SLAB]))
    found = [exchanged(task, both, seed) for seed in range(12)]
    assert all(names(f).count("small") <= 1 and layout_faults(task, f) == [] for f in found) and any(f is both for f in found)
    more = replace(task, others=(replace(few, count=2),))
    both = lying(more, (more.others[0], [replace(SLAB, copy=1)]), (FULL, [SLAB]))
    found = exchanged(more, both, 1)
    assert names(found) == ["small", "small"] and found.passes == 4 and layout_faults(more, found) == []
    roll = Task((rect(140, 90, 1),), FULL, 2.0, 2.0, others=(NestSheet(math.inf, 150.0, "roll", 2.0),))
    assert names(exchanged(roll, lying(roll, (FULL, [SLAB])), 1)) == ["full"]
    # one of the same cost is no gain
    alike = Task((rect(140, 90, 1),), FULL, 2.0, 2.0, others=(replace(SMALL, price=10.0),))
    assert names(exchanged(alike, lying(alike, (FULL, [SLAB])), 1)) == ["full"]


def test_a_sheet_with_something_locked_is_not_exchanged_and_of_choices_the_cheapest_is_taken():
    task = Task(
        (rect(140, 90, 1),), FULL, 2.0, 2.0, others=(SMALL, NestSheet(160.0, 110.0, "smaller", 3.0), NestSheet(150.0, 95.0, "tight", 3.5))
    )
    assert names(exchanged(task, lying(task, (FULL, [SLAB])), 1)) == ["smaller"]
    held = replace(task, stock=(FULL,), held=((0, SLAB),))
    assert names(exchanged(held, lying(held, (FULL, [SLAB])), 1)) == ["full"]
    # of stock that is no kind to be had nothing is exchanged
    rest = NestSheet(180.0, 120.0, "rest", 9.0)
    own = replace(task, stock=(rest,))
    assert names(exchanged(own, lying(own, (rest, [SLAB])), 1)) == ["rest"]


def test_parts_of_two_sheets_go_on_one_and_keep_their_numbers():
    task = Task((rect(90, 60, 2), rect(140, 90, 1)), FULL, 1.0, 0.0, others=(SMALL,))
    left = Placement(0, 0, 1.0, 1.0, 0.0), Placement(0, 1, 1.0, 50.0, 0.0), Placement(1, 0, 1.0, 1.0, 0.0)
    three = lying(task, (SMALL, [left[0]]), (SMALL, [left[1]]), (SMALL, [left[2]]))
    found = [exchanged(task, three, seed) for seed in range(20)]
    better = [f for f in found if sum(s.cost for s in f.sheets) < 12.0 - 1e-9]
    assert better and all(layout_faults(task, f) == [] for f in found)
    assert {(p.shape, p.copy) for f in better for s in f.sheets for p in s.placements} == {(0, 0), (0, 1), (1, 0)}
    same("exchanged", [[names(f), [list(astuple(p)) for s in f.sheets for p in s.placements]] for f in found])


# mending


def test_of_two_that_are_too_near_the_lower_rank_stays_else_the_first():
    task = Task((rect(50, 30, 3), rect(20, 20, 2)), FULL, 2.0, 1.0)
    one, two, three = (Placement(0, c, x, 10.0, 0.0) for c, x in enumerate((10.0, 61.9, 113.9)))
    small = Placement(1, 0, 200.0, 10.0, 0.0)
    sheets = [(FULL, [one, two, three, small])]
    assert fitting(task, sheets, {}) == [[one, three, small]]
    assert fitting(task, sheets, {(0, 0): 1, (0, 1): 0, (0, 2): 1}) == [[two, three, small]]
    assert fitting(task, [(FULL, [one]), (FULL, [one, small])], {}) == [[one], [small]]
    # gone, turned as it may not be, over the edge by little, and just within
    odd = [
        Placement(0, 3, 10, 100, 0.0),
        Placement(2, 0, 10, 100, 0.0),
        Placement(0, 0, 100, 100, 0.4),
        Placement(0, 1, 249.01, 100, 0.0),
        Placement(0, 2, 249.0, 50, 0.0),
    ]
    assert fitting(task, [(FULL, odd)], {}) == [[odd[-1]]]


def test_what_has_no_place_is_put_where_there_is_room_but_not_on_closed_sheets():
    task = Task((rect(50, 30, 3),), FULL, 2.0, 1.0)
    first = Placement(0, 0, 100.0, 10.0, 0.0)
    found = mended(task, [(FULL, [first])], {})
    assert [len(s.placements) for s in found.sheets] == [3] and first in found.sheets[0].placements and found.unplaced == {}
    shut = mended(task, [(FULL, [first])], {}, closed=[0])
    assert [len(s.placements) for s in shut.sheets] == [1, 2]
    full = replace(FULL, count=1)
    scarce = replace(task, sheet=full)
    assert mended(scarce, [(full, [first])], {}, closed=[0]).unplaced == {0: 2}
    gone = mended(scarce, [(full, [first]), (full, [replace(first, copy=1)])], {})
    assert len(gone.sheets) == 1 and gone.unplaced == {}
    held = holding(replace(scarce, others=(SMALL,)), [(full, [first])], [[first]], [0])
    assert [held.sheet, held.others, held.stock, held.held, held.closed, held.max_sheets] == [
        SMALL,
        (),
        (full,),
        ((0, first),),
        frozenset({0}),
        200,
    ]
    assert holding(scarce, [(full, [first])], [[first]]).max_sheets == 0
    three = replace(FULL, count=3)
    assert holding(replace(scarce, sheet=three), [(three, [first])], [[first]]).sheet.count == 2


# rectangles


def test_sizes_of_rectangles_with_the_turns_that_give_them():
    task = Task((rect(30, 20, 1, "90"), rect(30, 20, 1, "180"), rect(25, 25), rect(40, 10, 1, "none")), FULL)
    assert [[(size, round(math.degrees(t))) for size, t in own] for own in sizes_of(task)] == [
        [((30, 20), 0), ((20, 30), 90)],
        [((30, 20), 0)],
        [((25, 25), 0)],
        [((40, 10), 0)],
    ]
    for odd in (
        Shape("ell", Region(ELL)),
        Shape("disc", Region(circle(0, 0, 5))),
        rect(3, 4, 1, "45"),
        Shape("lozenge", Region(polygon([(0, 0), (5, 5), (0, 10), (-5, 5)]))),
    ):
        assert sizes_of(Task((odd,), FULL)) is None


def test_rectangles_that_fill_a_length_whole_lie_in_it_and_only_where_that_is_asked():
    # three of 40 x 30 and two of 60 x 15 fill 120 x 45 whole
    task = Task((rect(40, 30, 3), rect(60, 15, 2)), NestSheet(math.inf, 45.0, price=8.0), rounds=1)
    loose = lying(task, (task.sheet, [Placement(i, c, 100.0 * (3 * i + c), 0.0, 0.0) for i, n in ((0, 3), (1, 2)) for c in range(n)]))
    found = packed(task, loose)
    assert found.sheets[0].used_length == pytest.approx(120) and layout_faults(task, found) == [] and found.passes == loose.passes
    for change in ({"stock": (SMALL,)}, {"others": (SMALL,)}, {"max_sheets": 0}):
        assert packed(replace(task, **change), loose) is loose
    short = replace(loose, unplaced={0: 1})
    assert packed(task, short) is short
    assert packed(task, found) is found
    many = Task((rect(4, 3, 31),), NestSheet(math.inf, 45.0))
    lots = lying(many, (many.sheet, [Placement(0, c, 10.0 * c, 0.0, 0.0) for c in range(31)]))
    assert packed(many, lots) is lots
    just = replace(many, shapes=(rect(4, 3, 30),))
    assert packed(just, lying(just, (just.sheet, lots.sheets[0].placements[:30]))).sheets[0].used_length == pytest.approx(8, abs=0.2)


# fields and strips


def field(fixed=(), seed=5):
    outlines = [envelope(r.outer, 0.0) for r in (Region(rectangle(0, 0, 40, 20)), Region(ELL), Region(circle(0, 0, 11)))]
    turns = [[(0.0, False), (math.pi / 2, False)], [(0.0, False), (math.pi, True)], [(0.0, False)]]
    items = [0, 0, 1, 1, 2]
    poses = np.array([(5, 5, 0, 0), (20, 10, 0, 0), (60, 3, 0, 0), (70, 20, math.pi, 1), (90, 40, 0, 0)], float)
    return Field(base_of(outlines, turns), items, poses, seed, [k in fixed for k in range(5)])


def test_a_field_knows_how_far_it_reaches_and_what_it_needs_at_least():
    one = field()
    assert one.reach == pytest.approx(130, abs=1e-2)  # the ell turned over and round reaches 60 beyond its origin
    bounds = np.array([0.0, 0.0, 300.0, 90.0])
    area = sum(one.base.polygons[i].area for i in one.items)
    assert one.least_reach(bounds) == pytest.approx(max(60.0, area / 90), abs=1e-2)
    assert one.least_reach(np.array([7.0, 0.0, 300.0, 31.0])) == np.inf  # no turn of the ell is so low
    assert one.least_reach(np.array([7.0, 0.0, 300.0, 55.0])) == pytest.approx(7 + max(60.0, area / 55), abs=1e-2)
    assert [one.fits(np.array([0, 0, x, y], float)) for x, y in ((60.1, 50.1), (59.9, 50.1), (60.1, 49.9))] == [True, False, False]
    assert field(fixed={2, 3}).fits(np.array([0, 0, 41.0, 30.0])) and field(fixed={3}).reach == pytest.approx(120, abs=1e-2)


def test_items_are_brought_within_bounds_turned_where_they_must_be_and_fixed_ones_are_not():
    one = field(fixed={4})
    one.within(np.array([10.0, 8.0, 75.0, 65.0]))
    boxes = one.box.round(2).tolist()
    assert all(b[0] >= 10 - 0.02 and b[1] >= 8 - 0.02 and b[2] <= 75.02 and b[3] <= 65.02 for b in boxes[:4])
    assert one.pose[4].tolist() == [90, 40, 0, 0]
    low = field()
    low.within(np.array([0.0, 0.0, 25.0, 300.0]))
    assert low.pose[0, 2] == pytest.approx(math.pi / 2)
    same("within", [one.pose.tolist(), low.pose.tolist(), one.losses().tolist()])


def counted(most):
    left = itertools.count(1)
    return lambda: next(left) <= most


def test_searches_of_a_strip_are_what_they_were():
    bounds = np.array([0.0, 0.0, 200.0, 75.0])
    found = []
    for seed in (1, 2):
        one = field(seed=seed)
        one.within(bounds)
        apart = separated(one, bounds, counted(60))
        assert apart and one.losses().sum() < 1e-6
        memory = Memory()
        explored(one, bounds, counted(60), memory)
        found.append(
            [one.pose.tolist(), one.reach, one.tries, len(memory.failed), [f[0] for f in memory.failed], memory.broken_off is not None]
        )
        explored(one, bounds, counted(120), memory)
        shares = itertools.count()
        compressed(one, bounds, counted(40), lambda shares=shares: next(shares) / 40)
        found.append([one.pose.tolist(), one.reach, one.tries, one.losses().sum(), len(memory.failed)])
    tight = field()
    narrow = np.array([0.0, 0.0, 62.0, 70.0])
    tight.within(narrow)
    found.append([separated(tight, narrow, counted(500), patience=8, strikes=3), tight.losses().sum(), tight.pose.tolist()])
    same("strip", found)


# engine


def test_of_two_layouts_the_one_with_all_parts_then_the_cheaper_then_the_shorter_is_better():
    task = Task((rect(50, 30, 3),), FULL, others=(SMALL,))
    one = lying(task, (FULL, [Placement(0, 0, 0.0, 0.0, 0.0)]))
    assert score(task, one) == (0, 10.0, 1, 50.0, 1500.0)
    assert score(task, replace(one, unplaced={0: 2})) == (2, 10.0, 1, 50.0, 1500.0)
    assert score(task, lying(task, (SMALL, [SLAB]), (FULL, [Placement(0, 1, 30.123, 0.0, 0.0)]))) == (0, 14.0, 2, 80.12, 1500.0)
    assert score(task, Layout(())) == (0, 0, 0, 0.0, 0)


def test_a_search_tells_its_share_and_stops_where_it_is_told_to():
    task = Task((Shape("ell", Region(ELL), 3, allowed_turns("90")),), NestSheet(math.inf, 150.0), rounds=4)
    told = []
    whole = nest(task, lambda done, of, best: told.append((done, of)) or True)
    assert (
        sorted({d for d, _ in told}) == [0, 250, 500, 750, 1000]
        and {of for _, of in told} == {1000}
        and whole.passes == 4
        and not whole.stopped
    )
    told.clear()
    short = nest(task, lambda done, of, best: told.append(done) or done < 500)
    assert short.stopped and short.passes == 2 and max(told) == 500
    known = replace(whole, passes=9)
    assert nest(replace(task, rounds=1), known=known).sheets[0].used_length <= whole.sheets[0].used_length


@pytest.mark.parametrize(
    ("turn", "degrees"),
    [("none", [0]), ("180", [0, 180]), ("90", [0, 90, 180, 270]), ("45", list(range(0, 360, 45))), ("free", list(range(0, 360, 15)))],
)
def test_turns_that_are_allowed(turn, degrees):
    assert [round(math.degrees(t), 6) for t in allowed_turns(turn)] == degrees


# bars


def test_bars_of_many_kinds_and_few_pieces_are_planned_as_they_were():
    found = []
    for wanted, stock in (
        ([(1200, 3), (900, 2), (555, 4)], [Bar(3000, 10), Bar(2000, 7.1, 2)]),
        ([(700, 5), (690, 2), (310, 7), (150, 3)], [Bar(2000, 5.0, 3), Bar(1500, 3.9)]),
        ([(1000, 9)], [Bar(2010, 5.0, 3), Bar(1020, 2.0, 2)]),
        ([(1499, 2), (700, 4)], [Bar(1500, 3.0), Bar(3005, 6.1)]),
    ):
        cuts = [Cut(length, n) for length, n in wanted]
        for kerf, trim in ((0.0, 0.0), (3.2, 0.0), (1.5, 4.0)):
            try:
                plan = cut_bars(cuts, stock, kerf, trim)
            except NestError as error:
                found.append([error.message, error.entry])
                continue
            for p in plan.patterns:
                used = sum(n * (c.length + kerf) for n, c in zip(p.pieces, cuts, strict=True))
                assert used <= stock[p.bar].length - 2 * trim + kerf + 1e-6
            for n, c in enumerate(cuts):
                assert sum(p.pieces[n] * p.bars for p in plan.patterns) + plan.missing[n] == c.quantity
            found.append([plan.bars, plan.cost, plan.bound, plan.proven, list(plan.missing), sorted(p.rest for p in plan.patterns)])
    same("bars", found)


def test_where_patterns_are_too_many_those_of_smaller_shares_are_taken(monkeypatch):
    monkeypatch.setattr(bars_room, "MOST_PATTERNS", 4)
    sizes, room, wanted = [700, 690, 310, 150], [2000], np.array([5.0, 2.0, 7.0, 3.0])
    some = bars_room._more(sizes, room, [5.0], wanted, [0])
    assert all(sum(s * n for s, n in zip(sizes, p, strict=True)) <= 2000 for _, p in some) and len(set(some)) > 4
    monkeypatch.setattr(bars_room, "MOST_PATTERNS", 5000)
    every = set(bars_room._more(sizes, room, [5.0], wanted, [0]))
    whole = {
        p
        for p in itertools.product(range(3), range(3), range(7), range(4))
        if (left := 2000 - sum(s * n for s, n in zip(sizes, p, strict=True))) >= 0
        and all(n >= w or s > left for s, n, w in zip(sizes, p, wanted, strict=True))
    }
    assert every == {(0, p) for p in whole}


@pytest.mark.parametrize(
    ("height", "width", "least"),
    [
        (45.0, 500.0, 100.0),
        (105.0, 500.0, 40.0),
        (100.0, 39.9, math.inf),
        (39.9, 500.0, math.inf),
        (45.0, 99.9, math.inf),
        (100.0, 40.0, 40.0),
    ],
)
def test_an_item_takes_the_least_along_x_of_the_turns_that_are_low_enough(height, width, least):
    # far from its own nought, so that what it takes is not where it ends
    outline = envelope(Region(rectangle(30, 70, 130, 110)).outer, 0.0)
    one = Field(base_of([outline], [[(0.0, False), (math.pi / 2, False)]]), [0], np.zeros((1, 4)), 1)
    bounds = np.array([7.0, 11.0, 7.0 + width, 11.0 + height])
    assert one._narrowest(bounds) == pytest.approx(least, abs=1e-3)
    assert one.fits(bounds) == math.isfinite(least)
    if math.isfinite(least):
        assert one.least_reach(bounds) == pytest.approx(7 + max(least, 4000 / height), abs=1e-2)


@pytest.mark.parametrize(
    ("region", "said", "rule"),
    [
        (Region(rectangle(0, 0, 40, 20).reversed()), "is drawn clockwise", "an outline that runs counter-clockwise"),
        (Region(rectangle(0, 0, 40, 20), (rectangle(0, 0, 40, 20).reversed(),)), "has no area", "an area"),
    ],
)
def test_an_outline_without_an_area_is_refused_with_what_is_wrong(region, said, rule):
    with pytest.raises(NestError) as caught:
        Task((Shape("tag", region),), NestSheet(100.0, 100.0, "s"))
    assert (caught.value.message, caught.value.rule, caught.value.entry) == (f"tag {said}", rule, "tag")


@pytest.mark.parametrize("bad", ["overlap", "outside", ""])
def test_a_search_begins_with_the_better_layout_only_where_it_is_legal(monkeypatch, bad):
    from zygon.nest import engine

    task = Task((Shape("p", Region(rectangle(0, 0, 60, 30)), 2),), NestSheet(200.0, 100.0, "s"), gap=4.0)
    places = {"overlap": [(10, 10), (40, 10)], "outside": [(10, 10), (170, 10)], "": [(10, 10), (90, 40)]}[bad]
    other = lying(task, (task.sheet, [Placement(0, n, float(x), float(y), 0.0) for n, (x, y) in enumerate(places)]))
    first = engine.first_layout(task, lambda: True)
    monkeypatch.setattr(engine, "packed", lambda *_: other)
    found = engine._begun(task, lambda: True)
    assert not layout_faults(task, found)
    assert (found is other) == (not bad)
    assert found is other or found.sheets == first.sheets
