"""A value walked to its end: the break is found to a step, however it lies; a count stays whole."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.range_test.tries import Broken
from zygon.range_test.walk import STEPS, walked

BROKEN = Broken(code="any", message="It breaks")


@given(
    value=st.floats(-50, 400, allow_nan=False),
    way=st.floats(0, 500),
    up=st.booleans(),
    share=st.floats(0.001, 1.5),
    step=st.sampled_from([0.1, 0.25, 1.0, 25.4 / 256]),
)
def test_a_single_break_is_found_to_a_step(value, way, up, share, step):
    side = 1 if up else -1
    end, edge = value + side * way, value + side * way * share
    tried: list[float] = []

    def at(v):
        tried.append(v)
        return BROKEN if side * v >= side * edge else None

    found = walked(at, value, end, step)
    assert all(min(value, end) <= v <= max(value, end) for v in tried) and len(tried) == len(set(tried))
    if way > 1e-6 and share <= 1:
        assert found.at is not None and found.broken == BROKEN
        assert side * found.good < side * edge <= side * found.at
        # no whole step lies between them
        assert abs(found.at - found.good) <= step * (1 + 1e-6)
    elif way > 1e-6:
        assert (found.good, found.at, found.broken) == (end, None, None) and len(tried) <= STEPS


@pytest.mark.parametrize("end", range(1, 30))
@pytest.mark.parametrize("breaks", [2, 7, 13, 29])
def test_a_count_is_only_tried_whole(end, breaks):
    tried: list[float] = []

    def at(v):
        tried.append(v)
        return BROKEN if v >= breaks else None

    found = walked(at, 1.0, float(end), 1.0)
    assert all(v == int(v) for v in tried)
    assert (found.good, found.at) == ((breaks - 1, breaks) if end >= breaks else (end, None))


def test_halving_takes_as_many_tries_as_doublings_of_the_step_and_no_more():
    tried: list[float] = []

    def at(v):
        tried.append(v)
        return BROKEN if v > 83.2 + 1e-9 else None

    found = walked(at, 10.0, 1000.0, 0.1)
    assert found.good == pytest.approx(83.2) and found.at == pytest.approx(83.3)
    assert len(tried) <= 1 + 11  # 198 mm are 2^11 tenths


def test_the_nearest_break_of_several_is_the_one():
    found = walked(lambda v: BROKEN if 40 <= v <= 60 or v >= 90 else None, 0.0, 100.0, 1.0)
    assert (found.good, found.at) == (39.0, 40.0)
