"""Kerf: a simulated round tool on the compensated path leaves the nominal part; time and cost are reckoned from lengths."""

import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon

from tests.explore import drawn
from zygon.cut.kerf import CutContours, compensated, cut_on_the_line, kerf_of
from zygon.cut.reckon import cutting_order, reckon
from zygon.design.draft import Draft
from zygon.design.examples import brood_box
from zygon.geometry.boolean import region_polygon
from zygon.geometry.contour import circle, polyline, rectangle
from zygon.making.pipeline import build

FINE = 1e-4


def swept(contour, kerf):
    """What a round beam of diameter ``kerf`` takes away along a closed path."""
    points = contour.flatten(FINE)
    return LineString([*points, points[0]]).buffer(kerf / 2, quad_segs=64)


def cut_out(flat, kerf):
    """The part that falls out of a sheet when the compensated contours are cut with a round tool."""
    contours = compensated(flat, kerf)
    assert not contours.narrow
    x0, y0, x1, y1 = flat.bounds
    sheet = shapely.box(x0 - 20, y0 - 20, x1 + 20, y1 + 20)
    burnt = shapely.union_all([swept(c, kerf) for c in (*contours.inside, *contours.outside)])
    centre = region_polygon(flat.pieces[0], FINE).representative_point()
    return next(p for p in shapely.get_parts(shapely.difference(sheet, burnt)) if p.contains(centre))


def check_part(flat, kerf):
    wanted = region_polygon(flat.pieces[0], FINE)
    got = cut_out(flat, kerf)
    k = kerf / 2
    # nothing of the part is lost (but for a film of chords), and what stays over are fillets of k in inside corners: no more than
    # what a disc of radius k cannot reach
    assert shapely.difference(wanted, got.buffer(2e-3)).area < 1e-6
    reachable = wanted.buffer(k, quad_segs=64).buffer(-k, quad_segs=64)
    assert shapely.difference(got, reachable.buffer(2e-3)).area < 1e-6


@pytest.mark.parametrize("part", ["front", "left", "floor", "cover", "rest_back"])
def test_a_round_tool_on_the_compensated_path_leaves_the_nominal_part(part):
    document = brood_box()
    check_part(build(document).parts[part].flat, kerf_of(document, document.parts[part].stock))


@settings(max_examples=drawn(25))
@given(st.floats(0.1, 0.5), st.floats(0, 0.4), st.integers(3, 9), st.floats(0, 10), st.floats(0, 360))
def test_so_it_does_on_boards_at_random(kerf, fit, count, radius, angle):
    draft = Draft("d", "ply12")
    draft.board("front", "ply12", "facing_front", 0, (0, "200 mm"), (0, "110 mm"))
    draft.board("left", "ply12", "facing_side", 0, ("front.back", "200 mm"), (0, "110 mm"))
    draft.joint("finger", "front", "left", fit=f"{fit} mm", count=count)
    draft.feature(
        "front",
        "r",
        "rectangle",
        ("centre", "20 mm"),
        ("centre", 0),
        width="50 mm",
        height="25 mm",
        radius=f"{radius} mm",
        angle=f"{angle} deg",
    )
    draft.feature("front", "n", "slot", ("right", 0), ("centre", "30 mm"), length="30 mm", width="9 mm")
    built = build(draft.document())
    check_part(built.parts["front"].flat, kerf)
    check_part(built.parts["left"].flat, kerf)


def test_outside_grows_inside_shrinks_arcs_stay_arcs_and_marks_stay():
    flat = build(brood_box()).parts["cover"].flat
    plain, cut = compensated(flat, 0.0), compensated(flat, 0.2)
    assert cut.outside[0].bounds == pytest.approx([b + s * 0.1 for b, s in zip(plain.outside[0].bounds, (-1, -1, 1, 1), strict=True)])
    assert cut.inside[0].bounds == pytest.approx([b - s * 0.1 for b, s in zip(plain.inside[0].bounds, (-1, -1, 1, 1), strict=True)])
    assert [bool(b) for b in cut.inside[0].bulges] == [bool(b) for b in plain.inside[0].bulges]
    assert cut.marks == plain.marks
    assert compensated(flat, 0.0).outside == plain.outside


def test_cut_on_the_line_outsides_lose_a_kerf_and_holes_gain_one():
    # common practice: a hole cut on the line comes out 0.15 to 0.20 mm over its drawn diameter in thin ply
    assert cut_on_the_line(circle(0, 0, 5), 0.18, outer=False) == pytest.approx((10.18, 10.18))
    assert cut_on_the_line(rectangle(0, 0, 100, 50), 0.18, outer=True) == pytest.approx((99.82, 49.82))
    ring = circle(0, 0, 5)
    burnt = swept(ring, 0.18)
    assert math.sqrt(Polygon(burnt.exterior).area / math.pi) * 2 == pytest.approx(10.18, abs=1e-3)


def test_a_stock_may_have_a_kerf_of_its_own():
    document = brood_box()
    assert (kerf_of(document, "ply12"), kerf_of(document, "ply6")) == (0.24, 0.18)


def test_marks_come_first_then_insides_then_outsides():
    flat = build(brood_box()).parts["front"].flat
    names = [name for name, _ in cutting_order([compensated(flat, 0.0), compensated(flat, 0.0)])]
    assert names == sorted(names, key=("mark", "inside", "outside").index)
    assert len(names) == 2 * (len(flat.marks) + len(flat.inside) + 1)


def test_what_lies_in_a_hole_of_another_part_is_cut_before_it_drops_out():
    def frame(outer, inner, at):
        gap = (outer - inner) / 2
        return CutContours(
            (), (rectangle(at + gap, at + gap, at + gap + inner, at + gap + inner),), (rectangle(at, at, at + outer, at + outer),)
        )

    large, middle, small = frame(100, 80, 0), frame(70, 50, 15), CutContours((), (), (circle(50, 50, 20),))
    beside = frame(100, 20, 200)
    order = [c for _, c in cutting_order([large, middle, beside, small])]
    place = {id(c): n for n, c in enumerate(order)}
    first, second, third = (max(place[id(c)] for c in (*p.inside, *p.outside)) for p in (small, middle, large))
    assert first < second < third
    assert min(place[id(c)] for c in (*large.inside, *beside.inside)) > second
    assert {name for name, _ in cutting_order([large])} == {"inside", "outside"}


def test_time_and_cost_follow_from_lengths_speeds_travel_and_pierces():
    document = brood_box()
    cutter = document.cutters["laser"]
    square = [("outside", rectangle(100, 0, 200, 100)), ("mark", rectangle(300, 0, 310, 10))]
    got = reckon(square, cutter, "ply12")
    seconds = 400 / 7 + 40 / 120 + (100 + 200) / 350 + 0.6
    assert got.seconds == pytest.approx(seconds)
    assert got.cost == pytest.approx(seconds / 3600 * 42)
    assert (got.cut_length, got.mark_length, got.pierces, got.known) == (pytest.approx(400), pytest.approx(40), 1, True)
    assert not reckon(square, cutter, "granite").known
    assert cutting_order([CutContours((), (), ())]) == []


def test_a_router_takes_as_many_passes_as_its_depth_of_a_pass_asks_for_and_clears_pockets():
    from zygon.cut.reckon import reckon
    from zygon.design.workshop import ROUTER
    from zygon.geometry.contour import rectangle
    from zygon.stock.cutter import Cutter

    cutter = Cutter.model_validate(ROUTER)  # 6 mm bit, 6 mm a pass, 30 mm/s in ply12
    outline = [("outside", rectangle(0, 0, 100, 100))]
    assert reckon(outline, cutter, "ply12", 6.0).cut_length == pytest.approx(400)
    assert reckon(outline, cutter, "ply12", 11.8).cut_length == pytest.approx(800)
    pocket = [("depth-a-6", rectangle(0, 0, 30, 20))]
    assert reckon(pocket, cutter, "ply12", 12).cut_length == pytest.approx(100 + 30 * 20 / 3)
    assert reckon([("depth-a-7", rectangle(0, 0, 30, 20))], cutter, "ply12", 12).cut_length == pytest.approx(2 * (100 + 200))


@given(st.lists(st.tuples(st.integers(-20, 20), st.integers(-20, 20), st.integers(1, 3)), min_size=1, max_size=25), st.booleans())
def test_always_the_nearest_is_cut_next_and_of_equals_the_first(holes, lines):
    shapes = [polyline([(x, y), (x + r, y)]) if lines else circle(float(x), float(y), float(r)) for x, y, r in holes]
    found = [c for _, c in cutting_order([CutContours(tuple(shapes), (), ()) if lines else CutContours((), tuple(shapes), ())])]
    at, rest, wanted = (0.0, 0.0), list(shapes), []
    while rest:
        nearest = min(rest, key=lambda c: round(math.dist(c.points[0], at), 6))
        rest.remove(nearest)
        wanted.append(nearest)
        at = nearest.points[-1] if lines else nearest.points[0]
    assert found == wanted
