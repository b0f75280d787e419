"""Parts with sharp tips lie where they are let lie: within the sheet to the micrometre, also on one that is just as large as they are."""

import math

import pytest
from shapely.geometry import Polygon

from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon
from zygon.nest.bottom_left import first_layout
from zygon.nest.engine import nest
from zygon.nest.legal import layout_faults
from zygon.nest.shapes import TOUCH, envelope, grown
from zygon.nest.task import NestSheet, Shape, Task
from zygon.tolerance import CHECK


def sliver(degrees, turned):
    """A triangle 100 long with a tip of so many degrees, turned, in the corner at 0, 0."""
    far = 100 * math.tan(math.radians(degrees))
    a = math.radians(turned)
    points = [(x * math.cos(a) - y * math.sin(a), x * math.sin(a) + y * math.cos(a)) for x, y in ((0, 0), (100, 0), (100, far))]
    low = [min(p[k] for p in points) for k in (0, 1)]
    return [(x - low[0], y - low[1]) for x, y in points]


@pytest.mark.parametrize("turned", [0, 90, 180, 270, 37])
@pytest.mark.parametrize("degrees", [0.3, 1.0, 4.0, 20.0, 45.0])
def test_a_sharp_part_fills_a_sheet_that_is_as_large_as_it_is(degrees, turned):
    points = sliver(degrees, turned)
    wide, high = (max(p[k] for p in points) for k in (0, 1))
    shapes = (Shape("tip", Region(polygon(points)), 2),)
    task = Task(shapes, NestSheet(wide, high), rounds=2)
    for layout in (first_layout(task), nest(task)):
        assert not layout_faults(task, layout) and not layout.unplaced and len(layout.sheets) == 2


@pytest.mark.parametrize("make", [lambda r: grown(r, 0.0), lambda r: envelope(r.outer, 0.0)])
@pytest.mark.parametrize("degrees", [0.3, 1.0, 4.0, 20.0, 45.0])
def test_what_is_kept_apart_reaches_as_far_as_the_part_and_is_within_it_elsewhere(degrees, make):
    points = sliver(degrees, 0)
    found, true = make(Region(polygon(points))), Polygon(points)
    assert max(abs(a - b) for a, b in zip(found.bounds, true.bounds, strict=True)) < CHECK / 2
    assert found.difference(true.buffer(TOUCH)).area < 1e-9 and true.area - found.area < TOUCH * true.length * 1.1
