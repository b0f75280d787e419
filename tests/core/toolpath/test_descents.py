"""Ways down: slopes, passes, tabs and pecks, by what is cut at each height."""

from __future__ import annotations

import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.geometry.contour import circle, rectangle
from zygon.toolpath.clearing import begun_near
from zygon.toolpath.descents import Tabs, across, down, drilled, levels_of

RUNS = {
    "rectangle": begun_near(rectangle(0, 0, 200, 90), (0, 0)),
    "circle": begun_near(circle(50, 50, 30), (0, 0)),
    "small": begun_near(circle(0, 0, 2), (0, 0)),
}


def joined(legs) -> None:
    """Each leg begins where the one before ended, in all three directions."""
    for one, other in zip(legs, legs[1:], strict=False):
        assert math.dist(one.run.points[-1], other.run.points[0]) < 1e-6
        assert one.z1 == pytest.approx(other.z0)


@given(st.floats(0.5, 40), st.floats(0.2, 12) | st.just(0.0))
def test_passes_are_alike_and_no_deeper_than_said(depth, most):
    levels = levels_of(depth, most)
    steps = [a - b for a, b in zip([0.0, *levels], levels, strict=False)]
    assert levels[-1] == pytest.approx(-depth)
    assert max(steps) == pytest.approx(min(steps))
    if most:
        assert max(steps) <= most + 1e-6
        assert len(levels) == 1 or depth / (len(levels) - 1) > most - 1e-6


@settings(deadline=None)
@given(
    st.sampled_from(sorted(RUNS)),
    st.sampled_from([0.0, 0.03, 0.07, 0.2, 0.6]),
    st.lists(st.floats(0.2, 5), min_size=1, max_size=5),
    st.booleans(),
)
def test_a_run_is_gone_down_on_the_slope_and_wholly_at_every_level(name, slope, steps, home):
    run = RUNS[name]
    levels = [-sum(steps[: k + 1]) for k in range(len(steps))]
    legs = down(run, 0.0, levels, slope, home=home)
    joined(legs)
    assert legs[-1].z1 == pytest.approx(levels[-1])
    for z in levels:
        at = sum(leg.run.length for leg in legs if leg.z0 == leg.z1 == pytest.approx(z))
        assert at == pytest.approx(run.length)
    if home:
        assert math.dist(legs[-1].run.points[-1], run.points[-1]) < 1e-6
    steep = [(leg.z0 - leg.z1) / leg.run.length for leg in legs if leg.run.bulges and leg.z0 != leg.z1]
    assert all(s == pytest.approx(math.tan(slope), rel=1e-6) for s in steep)
    assert bool(steep) == (slope > 0)


@settings(deadline=None)
@given(
    st.sampled_from([0.0, 0.03, 0.07, 0.2, 0.6]),
    st.lists(st.floats(0.02, 0.9), min_size=1, max_size=3, unique=True),
    st.floats(-11, -2),
    st.floats(0.5, 6) | st.just(0.0),
)
def test_over_tabs_the_bit_is_never_under_their_top_and_elsewhere_it_is_down(slope, shares, top, pass_depth):
    run = RUNS["rectangle"]
    around, long = run.length, 14.0
    zones = sorted((s * (around - long), s * (around - long) + long) for s in shares)
    if any(b[0] - a[1] < 1 for a, b in zip(zones, zones[1:], strict=False)):
        return
    legs = down(run, 0.0, levels_of(12.3, pass_depth), slope, Tabs(tuple(zones), top))
    joined(legs)
    line = shapely.LineString(run.flatten(0.001))
    floor = 0.0
    for leg in legs:
        x, y = leg.run.flatten(0.001)[len(leg.run.flatten(0.001)) // 2]
        if leg.run.bulges and not leg.run.bulges[1:]:
            (x0, y0), (x1, y1) = leg.run.points[0], leg.run.points[-1]
            x, y = (x0 + x1) / 2, (y0 + y1) / 2
            s = line.project(shapely.Point(x, y))
            if any(a + 1e-3 < s < b - 1e-3 for a, b in zones):
                assert min(leg.z0, leg.z1) >= top - 1e-6
        floor = min(floor, leg.z1)
    low = sum(leg.run.length for leg in legs if leg.z0 == leg.z1 == pytest.approx(-12.3))
    lifted = sum(b - a for a, b in zones) if top > -12.3 else 0.0
    assert low == pytest.approx(around - lifted, abs=1e-3)


def test_pecks_come_up_after_each():
    dips = drilled((10, 20), 18.3, 5)
    assert [(d[0].z0, d[0].z1) for d in dips] == [pytest.approx((-a, -a - 18.3 / 4)) for a in (0, 4.575, 9.15, 13.725)]
    assert all(len(d) == 1 and d[0].plunge and d[0].run.points == ((10, 20),) for d in dips)
    assert len(drilled((0, 0), 18.3, 0)) == 1


def test_an_open_run_is_run_there_and_back():
    open_ = begun_near(rectangle(0, 0, 10, 10), (0, 0))
    legs = across(open_, [-1.0, -2.0])
    joined(legs)
    assert [leg.z1 for leg in legs] == [-1.0, -1.0, -2.0, -2.0]


def test_a_slope_of_next_to_nothing_does_not_go_round_for_ever():
    legs = down(RUNS["small"], 0.0, [-6.0], 1e-9)
    joined(legs)
    assert sum(leg.run.length for leg in legs) <= 42 * RUNS["small"].length
