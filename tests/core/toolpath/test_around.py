"""Ways of the head round what is cut loose: nothing loose is crossed while there is a way, no way is longer than it has to be, and what is held or falls is no hindrance."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.toolpath.sheets import SHEETS, bodies, laid, with_laser
from zygon.geometry.contour import Contour, circle, rectangle
from zygon.program.of_design import program_of
from zygon.toolpath import around
from zygon.toolpath.around import ways_round
from zygon.toolpath.cuts import Cut
from zygon.toolpath.laser import laser_paths
from zygon.toolpath.pieces import once_round


def cut(contour: Contour, n: int, operation="outside", held=False) -> Cut:
    return Cut(operation, f"p{n}", 0, "e", (once_round(contour),), "none", held=held, outline=contour)


def box(x: float, y: float, w: float, h: float) -> Contour:
    return rectangle(x, y, x + w, y + h, "e")


def boxes(*at: tuple[float, float, float, float]) -> list[Cut]:
    return [cut(box(x, y, w, h), k) for k, (x, y, w, h) in enumerate(at)]


def ways(cuts, home=(0.0, 0.0)):
    """Every way of the head as (number of the cut that it goes to, places)."""
    found, last, _ = ways_round(cuts, home)
    ends = [home, *(c.end for c in found)]
    return [(k, [e, *c.by, c.start]) for k, (e, c) in enumerate(zip(ends, found, strict=False))] + [(len(found), [ends[-1], *last, home])]


def areas(cuts, until):
    return [shapely.Polygon(c.outline.points).buffer(-0.1) for c in cuts[:until]]


@given(
    st.lists(st.tuples(st.floats(8, 34), st.floats(8, 34)), min_size=2, max_size=12),
    st.randoms(use_true_random=False),
)
@settings(max_examples=60, deadline=None)
def test_no_way_crosses_what_is_loose_and_none_is_longer_than_it_has_to_be(sizes, random):
    places = [(40.0 * (k % 4) + 3, 40.0 * (k // 4) + 3) for k in range(12)]
    random.shuffle(places)
    cuts = boxes(*((x, y, w, h) for (x, y), (w, h) in zip(places, sizes, strict=False)))
    _, _, crossed = ways_round(cuts)
    assert crossed == 0
    for k, way in ways(cuts):
        loose = areas(cuts, k)
        line = shapely.LineString(way)
        own = [a for a in loose if a.intersects(shapely.Point(way[0])) or a.intersects(shapely.Point(way[-1]))]
        assert not any(line.intersects(a) for a in loose if not any(a is o for o in own))
        assert line.length <= shortest(way[0], way[-1], loose) + 4.0  # it keeps a little off each corner


def shortest(p, q, loose):
    """The way along corners of all that is loose, by looking at every pair of them until nothing gets shorter."""
    places = [p, q, *(c for a in loose for c in a.buffer(0.05, join_style="mitre").exterior.coords[:-1])]
    n = len(places)
    far = np.full((n, n), math.inf)
    for i in range(n):
        for j in range(i):
            leg = shapely.LineString([places[i], places[j]])
            if not any(leg.intersects(a) for a in loose):
                far[i, j] = far[j, i] = leg.length
    for k in range(n):
        far = np.minimum(far, far[:, k, None] + far[None, k, :])
    return far[0, 1]


@pytest.mark.parametrize(("name", "stock"), SHEETS)
@pytest.mark.parametrize("joints", [0, 2])
def test_in_a_sheets_program_no_rapid_crosses_a_loose_piece(name, stock, joints):
    document, nest = laid(name, stock)
    document = with_laser(document, joints=joints)
    made = program_of(document, nest, 1)
    assert not any("over what is cut loose" in f for f in made.paths.faults)
    whole = {(k, n): shapely.Polygon(b.exterior).buffer(-0.1) for k, n, b in bodies(document, nest, 1)}
    moves = made.program.moves
    loose: list[shapely.Geometry] = []
    crossed = 0
    for c, low, high in zip(made.paths.cuts, made.firsts[:-1], made.firsts[1:], strict=True):
        tree = shapely.union_all(loose)
        for m in moves:
            if low <= m.line < high and m.kind == "rapid" and m.length:
                crossed += shapely.LineString([m.p[:2], m.q[:2]]).intersects(tree)
        if c.operation == "outside" and not c.held:
            loose.append(whole[c.key, c.copy])
    home = [m for m in moves if m.line >= made.firsts[-1] and m.kind == "rapid" and m.length]
    crossed += sum(shapely.LineString([m.p[:2], m.q[:2]]).intersects(shapely.union_all(loose)) for m in home)
    assert crossed == 0 and home


def test_some_sheet_has_a_way_that_goes_round():
    counts = [sum(bool(c.by) for c in laser_paths(*laid(name, stock), 1).cuts) for name, stock in SHEETS]
    assert max(counts) >= 2


def test_a_piece_in_the_way_is_gone_round_and_one_that_is_held_is_not():
    # from the first to the third straight over the second
    row = boxes((10, 10, 20, 20), (40, 0, 20, 60), (70, 10, 20, 20))
    order = [row[1], row[0], row[2]]
    found, _, crossed = ways_round(order)
    assert not found[0].by and found[2].by and crossed == 0
    held = [replace(order[0], held=True), *order[1:]]
    assert not any(c.by for c in ways_round(held)[0])


@pytest.mark.parametrize("operation", ["outside", "inside"])
def test_a_slug_stands_up_only_where_it_is_too_wide_to_fall(operation):
    for radius, stands in ((4.5, operation == "outside"), (15.0, True)):
        slug = cut(circle(50, 20, radius, "e"), 0, operation)
        order = [slug, *(replace(c, held=True) for c in boxes((5, 15, 10, 10), (80, 19.9, 10, 10)))]
        found, _, _ = ways_round(order)
        assert bool(found[2].by) == stands


def test_from_within_a_slug_the_head_leaves_straight():
    around_it = cut(box(20, 20, 60, 60), 0, "inside")
    inner = [replace(around_it, runs=(Contour(((20.0, 20.0), (50.0, 50.0)), (0.0,), ("e",), closed=False),))]
    found, _, crossed = ways_round([*inner, *boxes((200, 200, 10, 10))])
    assert not found[1].by and crossed == 0


def test_where_there_is_no_way_the_head_crosses_and_that_is_counted():
    walls = boxes((0, 0, 100, 21), (0, 79, 100, 21), (0, 20, 21, 60), (79, 20, 21, 60))
    middle = cut(box(45, 45, 10, 10), 9)
    _, home, crossed = ways_round([*walls, middle], home=(-5.0, -5.0))
    assert crossed == 1 and not home  # in from the corner of the last wall, and out over one


def test_too_many_corners_are_given_up(monkeypatch):
    monkeypatch.setattr(around, "MOST_CORNERS", 5)
    row = boxes((40, 0, 20, 60), (10, 10, 20, 20), (70, 10, 20, 20))
    assert ways_round(row)[2] >= 1


def test_on_the_way_home_too():
    row = boxes((20, 20, 20, 20), (60, 60, 20, 20))
    _, home, crossed = ways_round(row)
    assert home and crossed == 0


def test_what_cannot_be_gone_round_is_said_with_the_way_out(monkeypatch):
    monkeypatch.setattr(around, "MOST_CORNERS", 3)
    document, nest = laid("hive", "ply12")
    said = [laser_paths(document, nest, n).faults for n in range(1, len(nest.layout.sheets) + 1)]
    assert any("over what is cut loose" in f and "micro-joints" in f for one in said for f in one)
