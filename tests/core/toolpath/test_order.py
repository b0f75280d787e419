"""The order of cuts: against every order that there is, against nearest next, and what has to come first."""

from __future__ import annotations

import itertools
import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.toolpath.order import tour, way_length

PLACE = st.tuples(st.floats(0, 1000), st.floats(0, 600))


@given(st.lists(PLACE, min_size=2, max_size=7), st.data())
@settings(max_examples=40, deadline=None)
def test_few_are_ordered_as_short_as_any_order_is(starts, data):
    ends = data.draw(st.lists(PLACE, min_size=len(starts), max_size=len(starts)))
    needs = [frozenset(j for j in range(i) if data.draw(st.booleans()) and j % 3 == 0) for i in range(len(starts))]
    found = tour(starts, ends, (0.0, 0.0), needs)
    allowed = [o for o in itertools.permutations(range(len(starts))) if all(o.index(j) < o.index(i) for i in o for j in needs[i])]
    best = min(way_length(o, starts, ends, (0.0, 0.0)) for o in allowed)
    assert tuple(found) in allowed
    assert way_length(found, starts, ends, (0.0, 0.0)) == pytest.approx(best, abs=1e-6)


def nearest(starts, ends, at, needs):
    order: list[int] = []
    while len(order) < len(starts):
        open_ = [i for i in range(len(starts)) if i not in order and needs[i] <= set(order)]
        k = min(open_, key=lambda i: (round(way_length([i], starts, ends, at), 6), i))
        order.append(k)
        at = ends[k]
    return order


@pytest.mark.parametrize("seed", range(4))
@pytest.mark.parametrize("n", [10, 60, 200, 300])
def test_many_are_never_further_than_nearest_next_and_keep_what_comes_first(seed, n):
    r = random.Random(seed)
    starts = [(r.uniform(0, 1200), r.uniform(0, 600)) for _ in range(n)]
    ends = [(x + r.uniform(-5, 5), y) for x, y in starts]
    needs = [frozenset(j for j in range(i) if r.random() < 0.01) for i in range(n)]
    found = tour(starts, ends, (0.0, 0.0), needs)
    assert sorted(found) == list(range(n))
    where = {k: i for i, k in enumerate(found)}
    assert all(where[j] < where[i] for i in range(n) for j in needs[i])
    plain = way_length(nearest(starts, ends, (0.0, 0.0), needs), starts, ends, (0.0, 0.0))
    assert way_length(found, starts, ends, (0.0, 0.0)) <= plain + 1e-6


def test_many_are_ordered_clearly_shorter_than_nearest_next():
    r = random.Random(3)
    starts = [(r.uniform(0, 1200), r.uniform(0, 600)) for _ in range(200)]
    none = [frozenset()] * 200
    found = way_length(tour(starts, starts, (0.0, 0.0)), starts, starts, (0.0, 0.0))
    assert found < 0.93 * way_length(nearest(starts, starts, (0.0, 0.0), none), starts, starts, (0.0, 0.0))
