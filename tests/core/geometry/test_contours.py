"""Contours, booleans and offsets: arcs stay arcs, owners stay with their segments, no slivers."""

import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Point

from tests.core.shared import same_shape
from zygon.geometry.boolean import region_polygon, subtract, to_polygon
from zygon.geometry.contour import circle, obround, polygon, rectangle, rounded_rectangle
from zygon.geometry.mesh import extrude
from zygon.geometry.offset import OffsetError, offset

sizes = st.floats(5, 60)


@given(sizes, sizes, st.floats(0, 30), st.floats(0, 2 * math.pi))
def test_area_length_and_bounds_are_those_of_the_finely_divided_shape(w, h, r, angle):
    contour = rounded_rectangle(3, -4, w, h, r, angle)
    fine = to_polygon(contour, 1e-5)
    assert contour.area == pytest.approx(fine.area, rel=1e-5)
    assert contour.length == pytest.approx(fine.length, rel=1e-5)
    assert contour.bounds == pytest.approx(fine.bounds, abs=1e-4)


def test_a_slot_as_long_as_wide_is_a_circle_and_a_reversed_contour_is_its_negative():
    assert obround(1, 2, 10, 10).as_circle == pytest.approx((1, 2, 5))
    slot = obround(0, 0, 40, 10)
    assert len(slot.points) == 4
    assert slot.reversed().area == pytest.approx(-slot.area)
    assert slot.reversed().reversed() == slot
    assert slot.moved(5, 5, 1.0, mirrored=True).area == pytest.approx(slot.area)


@given(st.floats(-40, 140), st.floats(-30, 90), st.floats(2, 25))
def test_a_round_cut_anywhere_leaves_true_arcs_and_exact_corners(x, y, r):
    cut = circle(x, y, r, "hole")
    for piece in subtract([rectangle(0, 0, 100, 60, "edge")], [cut]):
        for contour in (piece.outer, *piece.inner):
            for s in contour.segments():
                if s.owner == "hole":
                    assert s.bulge != 0
                    # both ends lie on the circle itself, not on its chords
                    for p in (s.p, s.q):
                        assert math.dist(p, (x, y)) == pytest.approx(r, abs=2e-3)
                else:
                    assert s.bulge == 0
    exact = shapely.difference(shapely.box(0, 0, 100, 60), Point(x, y).buffer(r, quad_segs=2000))
    total = sum(p.area for p in subtract([rectangle(0, 0, 100, 60)], [cut]))
    assert total == pytest.approx(exact.area, abs=0.05)


def test_a_circle_that_crosses_an_edge_meets_it_exactly():
    piece = subtract([rectangle(0, 0, 100, 60, "edge")], [circle(50, 0, 10, "hole")])[0]
    arcs = [s for s in piece.outer.segments() if s.bulge]
    assert len(arcs) == 1
    assert sorted((arcs[0].p, arcs[0].q)) == [pytest.approx((40, 0), abs=1e-9), pytest.approx((60, 0), abs=1e-9)]
    assert arcs[0].owner == "hole"


def test_free_cuts_skip_the_boolean_and_come_back_untouched():
    hole = circle(50, 30, 8, "a")
    piece = subtract([rectangle(0, 0, 100, 60)], [hole, rectangle(-1, 20, 10, 30, "b")])[0]
    assert piece.inner == (hole.wound(ccw=False),)
    assert {s.owner for s in piece.outer.segments()} == {"", "b"}


def test_what_is_cut_in_two_is_two_pieces_largest_first():
    pieces = subtract([rectangle(0, 0, 100, 60)], [rectangle(30, -1, 32, 61)])
    assert [round(p.area) for p in pieces] == [68 * 60, 30 * 60]
    assert subtract([rectangle(0, 0, 10, 10)], [rectangle(-1, -1, 11, 11)]) == []


@given(
    st.lists(st.tuples(st.integers(0, 30), st.integers(0, 20), st.integers(1, 9), st.integers(1, 9)), min_size=1, max_size=8),
    st.floats(0.1, 0.9),
)
def test_cuts_that_share_edges_leave_no_slivers(cells, unit):
    """Cuts on one grid with an awkward unit: their edges coincide, and raw floats would leave films between them."""
    cuts = [rectangle(x * unit, y * unit, (x + w) * unit, (y + h) * unit, f"c{i}") for i, (x, y, w, h) in enumerate(cells)]
    for piece in subtract([rectangle(-unit, -unit, 41 * unit, 31 * unit)], cuts):
        for contour in (piece.outer, *piece.inner):
            assert abs(contour.area) > 0.9 * unit * unit
            assert min(s.length for s in contour.segments()) > 0.9 * unit


@given(sizes, sizes, st.floats(0.5, 4), st.floats(0.05, 0.45))
def test_growing_and_shrinking_move_every_arc_by_the_distance(w, h, r, d):
    contour = rounded_rectangle(0, 0, w + 10, h + 10, r)
    grown = offset(contour, d)
    assert grown.bounds == pytest.approx([b + s * d for b, s in zip(contour.bounds, (-1, -1, 1, 1), strict=True)], abs=1e-9)
    assert sum(1 for b in grown.bulges if b) == sum(1 for b in contour.bulges if b)
    same_shape(to_polygon(grown, 1e-4), to_polygon(contour, 1e-4).buffer(d, quad_segs=200), 2e-3)
    back = offset(offset(contour, d), -d)
    assert back.area == pytest.approx(contour.area, rel=1e-9)


def test_an_offset_too_narrow_is_said_with_its_place():
    notch = polygon([(0, 0), (20, 0), (20, 10), (10.1, 10), (10.1, 5), (10, 5), (10, 10), (0, 10)])
    with pytest.raises(OffsetError) as caught:
        offset(notch, 0.1)
    assert caught.value.at[0] == pytest.approx(10.05, abs=0.3)
    with pytest.raises(OffsetError):
        offset(circle(0, 0, 0.1).wound(ccw=False), 0.2)


def test_a_solid_is_closed_and_has_its_volume():
    import trimesh

    piece = subtract([rectangle(0, 0, 100, 60)], [circle(50, 30, 8), rectangle(-1, 20, 10, 30)])[0]
    solid = extrude(piece, 12.0, 0.001)
    mesh = trimesh.Trimesh(solid.positions, solid.triangles, process=True)
    assert mesh.is_watertight and mesh.is_winding_consistent
    assert mesh.volume == pytest.approx(piece.area * 12, rel=1e-4)
    assert region_polygon(piece).area == pytest.approx(piece.area, rel=1e-4)
    assert len(solid.owners) == len(solid.triangles)
