"""Motions against matrices written out, contours in odd places and both ways round against finely divided ones, letters each as drawn, arcs in SVG read back."""

import itertools
import json
import math
from pathlib import Path

import numpy as np
import pytest
from shapely.geometry import LineString, Polygon
from svgpathtools import parse_path

from zygon.exchange.svg import path_data
from zygon.geometry.contour import Contour, circle, obround, polygon, polyline, rectangle, rounded_rectangle
from zygon.geometry.motion import IDENTITY, Motion, mirroring, moving, turning
from zygon.geometry.stroke_font import letter_fault, strokes, text_width

LETTERS = Path(__file__).parents[1] / "fixtures" / "letters.json"


def written_out(axis, through, angle):
    """Rodrigues' formula for a turn about a line, as a (4, 4) matrix."""
    u = np.eye(3)["xyz".index(axis)]
    k = np.array([[0, -u[2], u[1]], [u[2], 0, -u[0]], [-u[1], u[0], 0]])
    r = np.eye(3) + math.sin(angle) * k + (1 - math.cos(angle)) * (k @ k)
    m = np.eye(4)
    m[:3, :3], m[:3, 3] = r, np.array(through) - r @ np.array(through)
    return m


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("degrees", [0, 23, -41, 90, 180, 270, -90, 450, 131])
def test_a_turn_is_rodrigues_formula(axis, degrees):
    through = (7.0, -11.0, 13.0)
    m = turning(axis, through, math.radians(degrees))
    assert np.array(m.matrix) == pytest.approx(written_out(axis, through, math.radians(degrees)), abs=1e-12)
    assert m.handed == 1 and m.plain == (degrees % 360 == 0) and m.square == (degrees % 90 == 0) and m.shifts == (degrees % 360 == 0)
    if degrees % 90 == 0:
        assert all(x in (0.0, 1.0, -1.0) for r in m.rows for x in r[:3])
    assert m.point(through) == pytest.approx(through)


@pytest.mark.parametrize("axis", "xyz")
def test_a_mirror_changes_one_place_and_the_hand(axis):
    m = mirroring(axis, 5.0)
    i = "xyz".index(axis)
    p = [2.0, 3.0, 4.0]
    q = list(p)
    q[i] = 10.0 - p[i]
    assert (m.point(p), m.handed, m.square, m.plain, m.shifts) == (tuple(q), -1, True, False, False)
    v = [1.0, 1.0, 1.0]
    v[i] = -1.0
    assert m.vector((1, 1, 1)) == tuple(v) and (m @ m).same(IDENTITY)


MOTIONS = [
    IDENTITY,
    moving((3, -4, 5)),
    turning("x", (1, 2, 3), 0.7),
    turning("z", (4, 5, 6), -math.pi / 2),
    mirroring("y", 2.5),
    mirroring("z", -1.0),
]


@pytest.mark.parametrize(("one", "two"), list(itertools.product(range(len(MOTIONS)), repeat=2)))
def test_products_and_ways_back_are_those_of_their_matrices(one, two):
    a, b = MOTIONS[one], MOTIONS[two]
    both = a @ b
    assert np.array(both.matrix) == pytest.approx(np.array(a.matrix) @ np.array(b.matrix), abs=1e-12)
    assert np.array(both.inverse.matrix) == pytest.approx(np.linalg.inv(np.array(both.matrix)), abs=1e-12)
    p = (1.5, -2.5, 3.5)
    assert both.point(p) == pytest.approx(a.point(b.point(p))) and both.points(np.array([p]))[0] == pytest.approx(both.point(p))
    assert both.handed == a.handed * b.handed and both.shift == pytest.approx(both.point((0, 0, 0)))


def test_the_same_to_a_millionth():
    rows = [list(r) for r in IDENTITY.rows]
    rows[1][3] = 0.9e-6
    near = Motion(tuple(tuple(r) for r in rows))
    rows[1][3] = 1.1e-6
    far = Motion(tuple(tuple(r) for r in rows))
    assert near.same(IDENTITY) and not far.same(IDENTITY)
    assert moving((1e-12, 0, -0.0)).rounded() == IDENTITY


# -- contours ----------------------------------------------------------------------------------------------------------

#: More than half a turn and less, bulging out and in, both ways round.
BULGED = [
    Contour(((0, 0), (40, 0), (40, 30), (0, 30)), (b, 0.0, c, 0.0), ("",) * 4)
    for b, c in ((0.4, 0.0), (-0.3, 0.2), (1.6, 0.0), (0.0, 2.4), (1.0, -0.25))
]


@pytest.mark.parametrize("k", range(len(BULGED)))
@pytest.mark.parametrize("angle", [0.0, 0.6, math.pi / 2, 2.9])
@pytest.mark.parametrize("mirrored", [False, True])
def test_area_bounds_length_and_svg_are_those_of_the_finely_divided_shape(k, angle, mirrored):
    c = BULGED[k].moved(7.0, -9.0, angle, mirrored)
    fine = Polygon(c.flatten(1e-5))
    assert c.area == pytest.approx(fine.area, rel=1e-5) and c.area > 0
    assert c.bounds == pytest.approx(fine.bounds, abs=1e-3)
    assert c.length == pytest.approx(LineString([*fine.exterior.coords]).length, rel=1e-5)
    back = c.reversed()
    assert back.area == pytest.approx(-c.area) and back.bounds == pytest.approx(c.bounds) and back.reversed().points == c.points
    assert c.wound(ccw=False).area < 0 < back.wound(ccw=True).area
    drawn = parse_path(path_data(c, dx=3.0, top=100.0))
    x0, x1, y0, y1 = drawn.bbox()
    bx0, by0, bx1, by1 = fine.bounds
    assert (x0, x1, y0, y1) == pytest.approx((bx0 + 3, bx1 + 3, 100 - by1, 100 - by0), abs=0.01)
    assert drawn.length() == pytest.approx(c.length, rel=1e-3)
    points = [drawn.point(t) for t in np.linspace(0, 1, 400)]
    assert Polygon([(p.real, p.imag) for p in points]).area == pytest.approx(fine.area, rel=5e-3)


@pytest.mark.parametrize("angle", [0.0, 0.5, math.pi / 2])
@pytest.mark.parametrize(("length", "width"), [(50.0, 12.0), (12.0, 12.0)])
def test_a_slot_is_two_half_circles_and_a_box(length, width, angle):
    c = obround(30, -20, length, width, angle)
    assert c.area == pytest.approx(width * (length - width) + math.pi * width**2 / 4)
    assert c.length == pytest.approx(2 * (length - width) + math.pi * width)
    fine = Polygon(c.flatten(1e-5))
    assert (fine.centroid.x, fine.centroid.y) == pytest.approx((30, -20), abs=1e-6)
    x0, _, x1, _ = c.bounds
    assert x1 - x0 == pytest.approx((length - width) * abs(math.cos(angle)) + width)
    assert (c.as_circle is not None) == (length == width)


def test_only_a_full_round_is_a_circle():
    assert circle(3, 4, 5).as_circle == pytest.approx((3, 4, 5)) and circle(3, 4, 5).reversed().as_circle == pytest.approx((3, 4, 5))
    lens = Contour(((0, 0), (10, 0)), (0.5, 0.5), ("", ""))
    other = Contour(((0, 0), (10, 0)), (0.5, 2.0), ("", ""))  # the same circle's two unlike arcs close it
    assert lens.as_circle is None and other.as_circle is not None and rectangle(0, 0, 3, 3).as_circle is None
    halves = Contour(((0, 0), (10, 0)), (1.0, -1.0), ("", ""))
    assert halves.as_circle is None and Contour(((0, 0), (10, 0)), (1.0, 1.0), ("", ""), closed=False).as_circle is None


@pytest.mark.parametrize("angle", [0.0, 0.4])
def test_a_rounded_rectangle_loses_its_corners(angle):
    c = rounded_rectangle(10, 20, 60, 40, 7, angle)
    assert c.area == pytest.approx(60 * 40 - (4 - math.pi) * 49) and c.length == pytest.approx(2 * 46 + 2 * 26 + 2 * math.pi * 7)
    fine = Polygon(c.flatten(1e-5))
    assert (fine.centroid.x, fine.centroid.y) == pytest.approx((10, 20), abs=1e-6)


def test_owners_go_with_their_edges():
    c = polygon([(0, 0), (10, 0), (10, 5), (0, 5)], ["s", "e", "n", "w"])
    for other in (c.reversed(), c.moved(0, 0, 0.0, mirrored=True)):
        for s in other.segments():
            middle = ((s.p[0] + s.q[0]) / 2, (s.p[1] + s.q[1]) / 2)
            wanted = {(5, 0): "s", (10, 2.5): "e", (5, 5): "n", (0, 2.5): "w"}[(abs(middle[0]), middle[1])]
            assert s.owner == wanted
    assert polyline([(0, 0), (3, 4), (3, 10)]).length == 11


# -- letters -----------------------------------------------------------------------------------------------------------


def test_each_letter_is_drawn_as_it_was_and_none_like_another():
    kept = json.loads(LETTERS.read_text())
    shapes = {}
    for letter, runs in kept.items():
        assert letter_fault(letter) is None
        found = [[list(p) for p in c.points] for c in strokes(letter, 2.0, 3.0, 6.0)]
        assert found == runs, letter
        assert all(-1e-9 <= x <= 4 + 1e-9 and -1e-9 <= y <= 6 + 1e-9 for run in found for x, y in run)
        assert letter == " " or str(found) not in shapes, (letter, shapes.get(str(found)))
        shapes[str(found)] = letter
    assert set("ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789.,-+/() ") <= set(kept)


def test_a_line_of_text_is_as_wide_as_its_letters_and_their_gaps():
    assert text_width("", 6) == 0 and text_width("A", 6) == 4 and text_width("AB", 6) == 9.5 and text_width("ABC", 12) == 30
    one, two = strokes("LL", 100, 50, 12)
    assert two.points[0][0] - one.points[0][0] == pytest.approx(11) and min(x for x, _ in one.points) == pytest.approx(100 - 19 / 2)
    assert {y for _, y in one.points} == {44, 56}
    assert letter_fault("ok 5") is None and letter_fault("a€b") == "€"
