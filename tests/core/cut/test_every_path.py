"""Paths, what is left by hand, and the time of every kind of feature and flange, for each cutter, at no kerf, a usual one and a wide one: what they were."""

import itertools

import pytest

from tests.core.figures import compared, condensed
from tests.core.making.features.test_every_feature import KINDS, board
from tests.core.making.metal.test_every_fold import VARIANTS, made, square
from tests.core.making.metal.trays import SIDES
from zygon.cut.kerf import _run_out, by_hand_of, compensated
from zygon.cut.reckon import by_hand, cutting_order, reckon
from zygon.geometry.contour import Contour, circle, polygon, rectangle, rounded_rectangle
from zygon.making.pipeline import build

KERFS = (0.0, 0.18, 6.0)


def drawn(found):
    def lines(some):
        return [[list(c.points), list(c.bulges), c.closed, list(c.owners)] for c in some]

    return [
        lines(found.marks),
        lines(found.inside),
        lines(found.outside),
        [[n.owner, n.at, n.width] for n in found.narrow],
        [[name, *lines([c])] for name, c in found.depths],
        [[d.depth, *lines([d.contour])] for d in found.drills],
        lines(found.notes),
        [[name, *lines([c])] for name, c in found.bends],
    ]


def paths(flat, cutter, stock="ply12"):
    found = []
    for kerf in KERFS:
        own = compensated(flat, kerf, by_hand_of(cutter, stock))
        order = cutting_order([own])
        took = reckon(order, cutter, stock, flat.thickness)
        found.append(
            [
                drawn(own),
                [name for name, _ in order],
                [name for name, _ in by_hand([own])],
                took.cut_length,
                took.travel_length,
                took.pierces,
                took.seconds,
                took.cost,
            ]
        )
    return found


@pytest.mark.parametrize("kind", KINDS)
def test_the_paths_of_each_feature_are_what_they_were(kind):
    found = []
    places = itertools.cycle([(("left", "31"), ("front", "27")), (("left", "4"), ("front", "60")), (("right", "2"), ("back", "3"))])
    for n, cutter in enumerate(("laser", "router", "saw", "router", "saw", "laser")):
        more = {"face": ("top", "bottom")[n % 2]} if kind in ("hole", "pocket", "groove", "rebate") else {}
        if kind == "hole" and n % 3:
            more["depth"] = "5"
        document = board(kind, "lying", "ab"[n // 3], cutter, *next(places), **more)
        part = build(document).parts["p"]
        found.append([cutter, paths(part.flat, document.cutters[document.cutter])])
    compared(f"paths {kind}", {"paths": condensed(found)})


@pytest.mark.parametrize("variant", VARIANTS)
def test_the_paths_of_each_flange_are_what_they_were(variant):
    found = []
    laser = board("hole").cutters["laser"] if "laser" in board("hole").cutters else next(iter(board("hole").cutters.values()))
    for n, (kind, more) in enumerate(VARIANTS[variant]):
        flat = square({"f": made(kind, SIDES[n % 4], toward="ab"[n % 2], **more)}).parts["p"].flat
        found.append(paths(flat, laser))
    compared(f"paths of flanges {variant}", {"paths": condensed(found)})


BOUNDS = (0.0, 0.0, 100.0, 60.0)


@pytest.mark.parametrize(
    ("pocket", "reach"),
    [
        (rectangle(-0.01, 10, 30, 20), (-3, 10, 30, 20)),
        (rectangle(70, 10, 100.01, 20), (70, 10, 103, 20)),
        (rectangle(10, -0.01, 30, 20), (10, -3, 30, 20)),
        (rectangle(10, 30, 30, 60.5), (10, 30, 30, 63)),
        (rectangle(-1, -1, 30, 61), (-3, -3, 30, 63)),
        (rectangle(5, 5, 30, 20), (5, 5, 30, 20)),
        (rectangle(0, 5, 30, 20), (0, 5, 30, 20)),
        (rectangle(-1, 10, 101, 20), (-3, 10, 103, 20)),
        (rounded_rectangle(20, 20, 30, 20, 4), (5, 10, 35, 30)),
        (circle(50, 30, 9), (41, 21, 59, 39)),
    ],
)
def test_a_pocket_runs_out_half_a_tool_past_the_edges_that_it_reaches_over_and_no_others(pocket, reach):
    assert _run_out(pocket, BOUNDS, 3.0).bounds == pytest.approx(reach)
    assert _run_out(pocket, BOUNDS, 0.0) is pocket


def test_arcs_past_the_edge_are_straightened_and_those_on_the_board_stay():
    open_ = rounded_rectangle(0, 20, 40, 20, 4)  # its left half lies beyond the board
    out = _run_out(open_, BOUNDS, 3.0)
    assert out.bounds == pytest.approx((-3, 10, 20, 30)) and sum(bool(b) for b in out.bulges) == 2
    assert len(out.points) == len(out.bulges) == len(out.owners)
    # a sliver that lies past the edge altogether is left as it is
    sliver = polygon([(-2, 10), (-1, 10), (-1, 20)])
    assert _run_out(sliver, BOUNDS, 3.0) == sliver
    disc = Contour(((-5.0, 30.0), (-1.0, 30.0)), (1.0, 1.0), ("a", "a"))
    assert _run_out(disc, BOUNDS, 3.0) == disc


def test_what_lies_in_holes_is_cut_before_what_has_them_however_deep():
    from zygon.cut.kerf import CutContours

    def ring(size, at):
        x, y = at
        return CutContours(
            (), (rectangle(x + 5, y + 5, x + size - 5, y + size - 5).wound(ccw=False),), (rectangle(x, y, x + size, y + size),)
        )

    large, middle, small, aside = ring(90, (0, 0)), ring(70, (10, 10)), ring(40, (20, 20)), ring(30, (200, 0))
    for some in itertools.permutations([large, middle, small, aside]):
        order = [c for name, c in cutting_order(some) if name == "outside"]
        first = [order.index(p.outside[0]) for p in (small, middle, large)]
        assert first == sorted(first)
        every = [c for _, c in cutting_order(some)]
        assert all(every.index(p.inside[0]) < every.index(p.outside[0]) for p in some)
    assert [name for name, _ in cutting_order([large])] == ["inside", "outside"]
