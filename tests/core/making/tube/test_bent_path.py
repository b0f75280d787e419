"""Bent bars: the bender's steps rolled out again give the path, lengths are those of lines and arcs, and what cannot be bent is refused."""

import math

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from tests.explore import drawn
from zygon.errors import MemberError
from zygon.making.tube.bent_path import BentPath, bent_path


def rolled_out(path: BentPath) -> np.ndarray:
    """The corners (n, 3) that the steps give: from 0, 0, 0 along x, the first bend towards y."""
    frame, at, corners = np.eye(3), np.zeros(3), [np.zeros(3)]  # rows: along, towards the bend, across
    for b in path.bends:
        turn = Rotation.from_rotvec(math.radians(b.turn) * frame[0]).as_matrix()
        frame = frame @ turn.T
        at = at + frame[0] * b.feed
        corners.append(at + frame[0] * path.radius * math.tan(math.radians(b.bend) / 2))
        centre = at + frame[1] * path.radius
        bend = Rotation.from_rotvec(math.radians(b.bend) * frame[2]).as_matrix()
        at, frame = centre + bend @ (at - centre), frame @ bend.T
    return np.array([*corners, at + frame[0] * path.end])


def between(points: np.ndarray) -> np.ndarray:
    """All distances, and the hand of every four in a row, so that a mirror image is another path."""
    gaps = np.linalg.norm(points[:, None] - points[None], axis=-1).ravel()
    hands = [np.linalg.det(points[k + 1 : k + 4] - points[k]) for k in range(len(points) - 3)]
    return np.array([*gaps, *hands])


def test_one_square_bend_in_a_plane():
    path = bent_path([(0, 0, 0), (120, 0, 0), (120, 80, 0)], 16, 8)
    assert path.length == pytest.approx(104 + 64 + 8 * math.pi) and round(path.length, 3) == 193.133
    assert [(b.feed, b.turn, b.bend) for b in path.bends] == [pytest.approx((104, 0, 90))] and path.end == pytest.approx(64)
    assert path.marks == pytest.approx((104,))


@pytest.mark.parametrize("last, turn", [((100, 80, 60), 90), ((100, 80, -60), -90), ((40, 80, 0), 0), ((160, 80, 0), 180)])
def test_turns_are_by_the_right_hand_along_the_feed(last, turn):
    path = bent_path([(0, 0, 0), (100, 0, 0), (100, 80, 0), last], 10, 5)
    assert [b.bend for b in path.bends] == pytest.approx([90, 90]) and path.bends[1].turn == pytest.approx(turn)


@settings(max_examples=drawn(120))
@given(st.lists(st.tuples(*[st.floats(-200, 200)] * 3), min_size=2, max_size=7), st.floats(2, 15))
def test_the_steps_rolled_out_give_the_path(points, radius):
    try:
        path = bent_path(points, radius, radius)
    except MemberError:
        assume(False)
    out, true = rolled_out(path), np.array(points)
    kept = [0, *(k for k in range(1, len(points) - 1) if bends_at(true, k)), len(points) - 1]
    assert between(out) == pytest.approx(between(true[kept]), rel=1e-6, abs=1e-3)
    arcs = sum(math.radians(b.bend) * radius for b in path.bends)
    assert path.length == pytest.approx(sum(b.feed for b in path.bends) + arcs + path.end)
    # as long as its corners' lines less what each round cuts off: twice the tangent for the arc
    corners = sum(math.dist(p, q) for p, q in zip(points, points[1:], strict=False))
    cut = sum(radius * (2 * math.tan(math.radians(b.bend) / 2) - math.radians(b.bend)) for b in path.bends)
    assert path.length == pytest.approx(corners - cut, abs=1e-6)


def bends_at(points: np.ndarray, k: int) -> bool:
    a, b = points[k] - points[k - 1], points[k + 1] - points[k]
    return math.degrees(math.atan2(np.linalg.norm(np.cross(a, b)), a @ b)) > 1e-6


def test_points_in_line_are_no_bends_and_marks_are_where_bends_begin():
    path = bent_path([(0, 0, 0), (30, 0, 0), (60, 0, 0), (100, 0, 0), (100, 50, 0), (100, 50, 90)], 12, 6)
    assert len(path.bends) == 2 and path.bends[0].feed == pytest.approx(88) and path.marks == pytest.approx((88, 88 + 6 * math.pi + 26))
    straight = bent_path([(0, 0, 0), (0, 0, 75)], 12, 6)
    assert (straight.bends, straight.end, straight.length) == ((), 75, 75)


def test_rounds_may_meet_but_not_overlap():
    assert bent_path([(0, 0, 0), (50, 0, 0), (50, 32, 0), (0, 32, 0)], 16, 8).bends[1].feed == pytest.approx(0)
    with pytest.raises(MemberError, match=r"between points 2 and 3: .*1\.000 mm are lacking"):
        bent_path([(0, 0, 0), (50, 0, 0), (50, 31, 0), (0, 31, 0)], 16, 8)


@pytest.mark.parametrize(
    "points, radius, diameter, entry, words",
    [
        ([(0, 0, 0), (50, 0, 0), (10, 0, 0)], 16, 8, "points", "go back on itself"),
        ([(0, 0, 0), (0, 0, 0), (10, 0, 0)], 16, 8, "points", "apart from the one before it"),
        ([(0, 0, 0)], 16, 8, "points", "two or more"),
        ([(0, 0, 0), (1, 2)], 16, 8, "points", "x, y and z"),
        ([(0, 0, 0), (1, 2, math.nan)], 16, 8, "points", "numbers"),
        ([(0, 0, 0), (90, 0, 0)], 3.9, 8, "radius", "at least half of the diameter of 8 mm"),
        ([(0, 0, 0), (90, 0, 0)], math.inf, 8, "radius", "greater than 0"),
        ([(0, 0, 0), (90, 0, 0)], 8, 0, "diameter", "greater than 0"),
    ],
)
def test_what_cannot_be_bent_is_refused_by_its_entry(points, radius, diameter, entry, words):
    with pytest.raises(MemberError) as error:
        bent_path(points, radius, diameter)
    assert error.value.entry == entry and words in error.value.message
