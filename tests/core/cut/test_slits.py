"""A slit is taken out of the flat as wide as the cut line that it is, square at its beginning and a little past its end, whichever way it runs."""

import math

import pytest
import shapely

from zygon.cut.kerf import SLIT_OVER, _filled, _single_run
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import polygon, polyline
from zygon.making.metal.faces import SLIT

WAYS = [0, 30, 90, 135, 180, 250, 270, 333]


@pytest.mark.parametrize("degrees", WAYS)
@pytest.mark.parametrize("length", [3.0, 17.5])
def test_a_slit_fills_its_width_and_goes_on_past_its_end(degrees, length):
    way = (math.cos(math.radians(degrees)), math.sin(math.radians(degrees)))
    start, end = (11.0, -7.0), (11.0 + way[0] * length, -7.0 + way[1] * length)
    found = to_polygon(_filled(polyline([start, end], "flange:p:f")), 1e-4)
    past = (end[0] + way[0] * SLIT_OVER, end[1] + way[1] * SLIT_OVER)
    true = shapely.buffer(shapely.LineString([start, past]), SLIT / 2 + SLIT_OVER, cap_style="flat")
    assert shapely.area(shapely.symmetric_difference(found, true)) < 1e-4 * true.area
    assert found.area == pytest.approx((length + SLIT_OVER) * (SLIT + 2 * SLIT_OVER), rel=1e-4)


@pytest.mark.parametrize("degrees", WAYS)
@pytest.mark.parametrize("length", [8.0, 40.0])
def test_a_slot_as_wide_as_the_tool_is_one_run_along_its_middle(degrees, length):
    """From half a width inside one end to half a width inside the other: there the tool's edge touches the end."""
    kerf, turn = 6.0, math.radians(degrees)
    c, s = math.cos(turn), math.sin(turn)
    corners = [(x * c - y * s + 50, x * s + y * c + 20) for x, y in ((0, 0), (length, 0), (length, kerf), (0, kerf))]
    run = _single_run(polygon(corners, "feature:p:h").wound(ccw=False), kerf)
    ends = {(round(x, 2), round(y, 2)) for x, y in run.points}
    true = {(round(x * c - kerf / 2 * s + 50, 2), round(x * s + kerf / 2 * c + 20, 2)) for x in (kerf / 2, length - kerf / 2)}
    assert not run.closed
    assert len(ends) == 2
    assert all(min(math.dist(p, q) for q in true) < 0.03 for p in ends), (ends, true)
    assert all(min(math.dist(p, q) for q in ends) < 0.03 for p in true)
