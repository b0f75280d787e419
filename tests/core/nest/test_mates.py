"""Places where an edge lies along another's: in every turn, of both hands, beside items of both hands, along the sheet's edges, and along two at once."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import LineString, Point, Polygon, box

from tests.explore import drawn
from zygon.nest import kernels
from zygon.nest.base import base_of
from zygon.nest.field import Field
from zygon.tolerance import EPS

#: Outlines without a hollow, none the same turned over: what lies along an edge of one does not overlap it.
CONVEX = {
    "triangle": [(0, 0), (40, 0), (0, 25)],
    "leg": [(0, 0), (12, 0), (20, 60), (0, 60)],
    "board": [(0, 0), (50, 0), (50, 30), (0, 30)],
    "gusset": [(0, 0), (30, 0), (30, 10), (10, 30), (0, 30)],
}
TURNS = [(math.radians(a), m) for m in (False, True) for a in (0, 90, 180, 270)]


def lying(name: str, pose) -> Polygon:
    x, y, angle, mirrored = pose
    shape = Polygon(CONVEX[name])
    shape = affinity.scale(shape, -1, 1, origin=(0, 0)) if mirrored > 0.5 else shape
    return affinity.translate(affinity.rotate(shape, angle, origin=(0, 0), use_radians=True), x, y)


def state(seed: int) -> np.ndarray:
    return np.array([seed * 2654435761 % (1 << 63) + 88172645463325252], dtype=np.uint64)


def faced(field: Field, j: int, seed: int) -> np.ndarray:
    edge = np.zeros(5)
    assert kernels._facing(field.points, field.after, field.first, j, field.pose[j, 3], state(seed), edge)
    return edge


def sided(edge: np.ndarray, way: float) -> Point:
    """A point a little to the left (1) or the right (-1) of the middle of what is faced."""
    x, y, u, v, long = edge
    return Point(x + u * long / 2 - way * 0.01 * v, y + v * long / 2 + way * 0.01 * u)


@pytest.mark.parametrize("mirrored", [0.0, 1.0])
@pytest.mark.parametrize("name", CONVEX)
def test_what_is_faced_has_the_item_on_its_right(name, mirrored):
    base = base_of([Polygon(CONVEX[name])], [TURNS])
    for angle in (0.0, math.pi / 2, math.pi, 0.4):
        pose = (7.0, -3.0, angle, mirrored)
        field = Field(base, [0], np.array([pose]), 1)
        edges = {tuple(np.round(faced(field, 0, seed), 6)) for seed in range(60)}
        assert len(edges) == len(CONVEX[name])  # every edge is drawn in time
        for edge in edges:
            whole = lying(name, pose)
            assert whole.contains(sided(np.array(edge), -1)) and not whole.contains(sided(np.array(edge), 1))


@pytest.mark.parametrize("other_hand", [0.0, 1.0])
@pytest.mark.parametrize(("name", "other"), list(itertools.product(CONVEX, repeat=2)))
def test_an_edge_lies_along_an_edge_with_an_end_at_an_end_in_all_turns_of_both_hands(name, other, other_hand):
    base, at, taken = base_of([Polygon(CONVEX[name]), Polygon(CONVEX[other])], [TURNS, TURNS]), np.zeros(4), set()
    for seed in range(60):
        pose = (100.0, 50.0, (seed % 4) * math.pi / 2, other_hand)
        field = Field(base, [1], np.array([pose]), seed)
        edge = faced(field, 0, seed)
        t = kernels._along(
            0, len(TURNS), base.turns, base.lain, base.lain_first, base.lain_after, edge, np.zeros(5), 1.0, state(seed + 99), at
        )
        if t < 0:
            continue  # an edge as long was wanted, or one runs askew
        taken.add(t)
        one, two = lying(name, (*at[:2], *base.turns[t])), lying(other, pose)
        assert one.intersection(two).area < EPS
        assert kernels.APART / 2 - EPS <= one.distance(two) <= kernels.APART + EPS
        ends = [Point(edge[0] + k * edge[4] * edge[2], edge[1] + k * edge[4] * edge[3]) for k in (0, 1)]
        assert min(Point(c).distance(e) for c in one.exterior.coords for e in ends) <= kernels.APART + kernels.OFF
    assert len(taken) > 4


@settings(max_examples=drawn(60))
@given(
    st.sampled_from(sorted(CONVEX)),
    st.sampled_from(sorted(CONVEX)),
    st.floats(-math.pi, math.pi),
    st.booleans(),
    st.booleans(),
    st.integers(0, 9999),
)
def test_what_takes_any_angle_is_turned_so_that_an_edge_lies_along(name, other, angle, mirrored, other_mirrored, seed):
    base, at = base_of([Polygon(CONVEX[name]), Polygon(CONVEX[other])], [TURNS, TURNS], [True, True]), np.zeros(4)
    pose = (-20.0, 33.0, angle, float(other_mirrored))
    edge = faced(Field(base, [1], np.array([pose]), 1), 0, seed)
    kernels._turned_along(base.points, base.after, base.first[0], base.first[1], float(mirrored), edge, state(seed), at)
    one, two = lying(name, at), lying(other, pose)
    assert at[3] == float(mirrored) and one.intersection(two).area < 1e-6
    assert kernels.APART / 2 - 1e-7 <= one.distance(two) <= kernels.APART + 1e-7


def test_the_sheets_own_edges_are_faced_from_within():
    bounds, edge, sheet = np.array([3.0, 5.0, 203.0, 105.0]), np.zeros(5), box(3, 5, 203, 105)
    sides = set()
    for seed in range(40):
        kernels._wall(bounds, state(seed), edge)
        side = LineString([edge[:2], edge[:2] + edge[4] * edge[2:4]])
        assert sheet.boundary.covers(side) and sheet.contains(sided(edge, 1)) and not sheet.contains(sided(edge, -1))
        sides.add(tuple(np.round(edge, 6)))
    assert len(sides) == 4


@pytest.mark.parametrize("hand", [0.0, 1.0])
@pytest.mark.parametrize("name", CONVEX)
def test_what_lies_along_two_edges_touches_both(name, hand):
    """A board stands on the sheet's lower edge: what lies along its right side and along that edge lies in the corner between."""
    base, at, found = base_of([Polygon(CONVEX[name])], [[t for t in TURNS if t[1] == (hand > 0.5)]]), np.zeros(4), 0
    side, floor = np.array([50.0, 30.0, 0.0, -1.0, 30.0]), np.array([0.0, 0.0, 1.0, 0.0, 200.0])
    for seed in range(80):
        t = kernels._along(0, 4, base.turns, base.lain, base.lain_first, base.lain_after, side, floor, 1.0, state(seed), at)
        if t < 0:
            continue
        one = lying(name, (*at[:2], *base.turns[t]))
        x0, y0, *_ = one.bounds
        if kernels.OFF < y0 <= kernels.APART + EPS:  # else none of its edges at this turn runs along the floor, and an end is at an end
            found += 1
            assert y0 >= kernels.APART / 2 - EPS and kernels.APART / 2 - EPS <= x0 - 50.0 <= kernels.APART + EPS
    assert found > 10
