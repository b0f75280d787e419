"""The compiled kernels: overlap as shapely finds it, circles that lie inside, and no numba outside the nesting room."""

import math
import subprocess
import sys

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import Polygon, box

from tests.explore import drawn
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, rectangle
from zygon.nest.base import base_of, poles_of
from zygon.nest.field import Field
from zygon.nest.kernels import POLES
from zygon.nest.shapes import grown

ELL = Polygon([(0, 0), (60, 0), (60, 20), (20, 20), (20, 50), (0, 50)])
RING = box(0, 0, 70, 70).difference(box(10, 10, 60, 60))
STAR = Polygon([(40 * math.cos(k * math.pi / 5) * (1 + k % 2), 40 * math.sin(k * math.pi / 5) * (1 + k % 2)) for k in range(10)])
SHAPES = [ELL, RING, STAR, box(0, 0, 30, 30), Polygon([(0, 0), (90, 3), (80, 9)])]


def placed(polygon, x, y, angle, mirrored):
    if mirrored:
        polygon = affinity.scale(polygon, -1, 1, origin=(0, 0))
    return affinity.translate(affinity.rotate(polygon, angle, origin=(0, 0), use_radians=True), x, y)


@settings(max_examples=drawn(70))
@given(st.integers(0, 4), st.integers(0, 4), st.floats(-110, 110), st.floats(-110, 110), st.floats(0, 6.3), st.booleans())
def test_two_outlines_have_a_loss_where_their_areas_overlap(a, b, x, y, angle, mirrored):
    base = base_of(SHAPES, [[(0.0, False)]] * 5)
    field = Field(base, [a, b], np.array([[0, 0, 0, 0], [x, y, angle, float(mirrored)]]), 1)
    shared = SHAPES[a].intersection(placed(SHAPES[b], x, y, angle, mirrored)).area
    loss = field.losses()
    assert loss[0, 1] == loss[1, 0]
    if shared > 1e-6:
        assert loss[0, 1] > 0
    elif shared == 0:
        assert loss[0, 1] == 0


def test_a_part_in_a_hole_overlaps_nothing_and_one_that_touches_neither():
    base = base_of(SHAPES, [[(0.0, False)]] * 5)
    for x, y, overlaps in ((20, 20, False), (10, 10, False), (9, 20, True), (70, 0, False), (35, 20, True)):
        field = Field(base, [1, 3], np.array([[0.0, 0, 0, 0], [x, y, 0, 0]]), 1)
        assert (field.losses()[0, 1] > 0) == overlaps, (x, y)


@pytest.mark.parametrize("shape", range(5))
def test_poles_lie_inside_their_outline_the_largest_first(shape):
    poles = poles_of(SHAPES[shape])
    radii = poles[:, 2]
    assert poles.shape == (POLES, 3) and radii[0] > 0 and (np.diff(radii) <= 1e-9).all()
    inside = SHAPES[shape].buffer(1e-6)
    assert all(inside.contains(shapely.Point(x, y).buffer(r)) for x, y, r in poles if r > 0)


def test_a_grown_outline_keeps_its_holes_as_small_as_they_have_to_be():
    region = Region(rectangle(0, 0, 100, 80), (circle(50, 40, 30),))
    true = box(0, 0, 100, 80).difference(shapely.Point(50, 40).buffer(30, quad_segs=256))
    found = grown(region, 3.0)
    assert len(found.interiors) == 1
    assert found.buffer(1e-3).contains(true.buffer(1.5, quad_segs=64))
    assert not grown(region, 3.0, least_hole=60).interiors


def test_overlapping_items_are_moved_apart_and_fixed_ones_stay():
    base = base_of(SHAPES, [[(0.0, False), (math.pi / 2, False)]] * 5)
    poses = np.zeros((4, 4))
    field = Field(base, [0, 1, 3, 4], poses, 3, [False, True, False, False])
    best, tally = poses.copy(), np.array([np.inf, 0.0, 0.0, 0.0])
    bounds = np.array([0.0, 0.0, 150.0, 120.0])
    field.within(bounds)
    assert field.separate(bounds, 200, tally, best)
    assert field.losses().sum() == 0 and (field.pose[1] == 0).all() and field.tries > 0
    assert (field.box[:, :2] >= -1e-9).all() and (field.box[:, 2:] <= bounds[2:] + 1e-9).all()


def test_nobody_imports_numba_before_it_nests():
    code = "import sys, zygon.nest.design, zygon.nest.room, zygon.nest.remainder, zygon.nest.together, zygon.screen.design, zygon.cli; sys.exit('numba' in sys.modules)"
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0
