"""Arcs by bulge, exact intersections, frames, and the mitres and arcs that offsets join with."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from zygon.geometry.arc import arc_from_bulge, arc_points, bulge_from_angle, chord_count
from zygon.geometry.contour import Contour, Segment, circle, polygon
from zygon.geometry.frame import FACES, frame_of
from zygon.geometry.intersect import circle_circle, junction, line_circle, line_line
from zygon.geometry.offset import offset

place = st.tuples(st.floats(-100, 100), st.floats(-100, 100))


@given(place, place, st.floats(-3, 3))
def test_an_arc_goes_through_both_ends_with_its_sweep(p, q, bulge):
    assume(math.dist(p, q) > 0.1 and abs(bulge) > 1e-3)
    cx, cy, r, start, sweep = arc_from_bulge(p, q, bulge)
    assert math.dist(p, (cx, cy)) == pytest.approx(r, rel=1e-6)
    assert math.dist(q, (cx, cy)) == pytest.approx(r, rel=1e-6)
    end = (cx + r * math.cos(start + sweep), cy + r * math.sin(start + sweep))
    assert math.dist(end, q) < 1e-5 * max(r, 1)
    assert bulge_from_angle(sweep) == pytest.approx(bulge, rel=1e-6)
    assert Segment(p, q, bulge, "").length == pytest.approx(r * abs(sweep), rel=1e-6)


@given(st.floats(0.01, 5000), st.floats(0.01, 2 * math.pi), st.floats(1e-4, 0.1))
def test_no_chord_is_farther_from_the_arc_than_the_sagitta(r, sweep, sagitta):
    n = chord_count(r, sweep, sagitta)
    assert n >= 1
    if r > sagitta:
        assert r * (1 - math.cos(sweep / n / 2)) <= sagitta * (1 + 1e-6)


def test_an_arc_is_divided_evenly_from_its_first_point_on():
    points = arc_points((1.0, 0.0), (-1.0, 0.0), 1.0, 0.001)
    assert tuple(points[0]) == (1.0, 0.0)
    assert np.hypot(points[:, 0], points[:, 1]) == pytest.approx(1.0)
    gaps = np.hypot(*np.diff(points, axis=0).T)
    assert gaps == pytest.approx(gaps[0])
    assert (points[1:, 1] > 0).all()


@given(place, st.floats(0, 2 * math.pi), place, st.floats(0, 2 * math.pi))
def test_two_lines_meet_on_both(p, a, q, b):
    u, v = (math.cos(a), math.sin(a)), (math.cos(b), math.sin(b))
    for x, y in line_line(p, u, q, v):
        assume(abs(u[0] * v[1] - u[1] * v[0]) > 1e-3)
        assert (x - p[0]) * u[1] - (y - p[1]) * u[0] == pytest.approx(0, abs=1e-6)
        assert (x - q[0]) * v[1] - (y - q[1]) * v[0] == pytest.approx(0, abs=1e-6)
    assert line_line(p, u, q, u) == []


@given(place, st.floats(0, 2 * math.pi), place, st.floats(0.1, 80))
def test_a_line_meets_a_circle_on_both_or_passes_it_by(p, a, centre, r):
    u = (math.cos(a), math.sin(a))
    found = line_circle(p, u, centre, r)
    away = abs((centre[0] - p[0]) * u[1] - (centre[1] - p[1]) * u[0])
    assert bool(found) == (away <= r) or abs(away - r) < 1e-3
    for point in found:
        assert math.dist(point, centre) == pytest.approx(r, rel=1e-4, abs=1e-4)


@given(place, st.floats(0.5, 80), place, st.floats(0.5, 80))
def test_two_circles_meet_on_both(c, r, d, s):
    assume(math.dist(c, d) > 1e-3)
    found = circle_circle(c, r, d, s)
    gap = math.dist(c, d)
    if gap > r + s + 1e-3 or gap < abs(r - s) - 1e-3:
        assert found == []
    for point in found:
        assert math.dist(point, c) == pytest.approx(r, rel=1e-4, abs=1e-3)
        assert math.dist(point, d) == pytest.approx(s, rel=1e-4, abs=1e-3)
    assert circle_circle(c, r, c, s) == []


def test_a_junction_is_exact_and_stays_where_it_is_where_none_is_near():
    line, other = Segment((0, 0), (10, 0), 0, ""), Segment((5, -5), (5, 5), 0, "")
    assert junction(line, other, (5.001, 0.001)) == (5, 0)
    assert junction(line, Segment((0, 1), (10, 1), 0, ""), (3, 0.5)) == (3, 0.5)
    assert junction(line, other, (7, 0)) == (7, 0)
    assert junction(line, Segment((10, 0), (10, 9), 0, ""), (10, 0.0005)) == (10, 0)


@pytest.mark.parametrize("plane", ["facing_front", "facing_side", "lying"])
def test_every_frame_is_right_handed_and_knows_its_faces(plane):
    frame = frame_of(plane)
    m = np.array(frame.matrix(20.0, 32.0))
    assert np.linalg.det(m[:3, :3]) == pytest.approx(1)
    axis = "xyz".index(frame.normal)
    on_b, on_a = (m @ (0, 0, 0, 1))[axis], (m @ (0, 0, 12, 1))[axis]
    assert {on_a, on_b} == {20.0, 32.0}
    assert frame.face_a == FACES[frame.normal][int(on_a > on_b)]
    assert frame.face_b == FACES[frame.normal][int(on_b > on_a)]


def test_a_square_corner_is_drawn_out_to_a_point_and_a_sharp_one_gets_an_arc():
    square = polygon([(0, 0), (10, 0), (10, 10), (0, 10)])
    assert offset(square, 1).bounds == (-1, -1, 11, 11) and not any(offset(square, 1).bulges)
    spike = polygon([(0, 0), (40, 0), (0, 8)])
    grown = offset(spike, 1)
    assert sum(1 for b in grown.bulges if b) == 1
    assert grown.bounds[2] == pytest.approx(41, abs=1e-9)  # a mitre would reach out to 45
    assert offset(square, 0) is square


def test_a_shrinking_hole_keeps_its_way_round_and_a_rounded_one_loses_its_corners():
    hole = circle(0, 0, 5).wound(ccw=False)
    assert offset(hole, 0.2).as_circle[2] == pytest.approx(4.8)
    assert offset(hole, 0.2).area < 0
    from zygon.geometry.contour import rounded_rectangle

    small = rounded_rectangle(0, 0, 20, 10, 0.1).wound(ccw=False)
    shrunk = offset(small, 0.25)
    assert len(shrunk.points) == 4 and shrunk.bounds == pytest.approx((-9.75, -4.75, 9.75, 4.75))


def test_open_runs_have_a_length_and_no_closing_line():
    run = Contour(((0, 0), (3, 4), (3, 10)), (0.0, 0.0), ("", ""), closed=False)
    assert run.length == 11
    assert len(run.flatten(0.1)) == 3
    assert run.reversed().points == ((3, 10), (3, 4), (0, 0))
