"""Twists: which motions contacts and carriers leave, and what each is."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.making.movement.twists import allows, axis_rows, cone, contact_row, null_space, read_off, sliding_twist, turning_twist

NONE = np.zeros((0, 6))
X, Y, Z = np.eye(3)
units = st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda v: math.hypot(*v) > 0.2).map(lambda v: np.array(v) / math.hypot(*v))
places = st.tuples(*[st.floats(-2, 2)] * 3).map(np.array)


def square(normal, at):
    """Four corners about a place, square to a normal, as contact rows."""
    u = np.cross(normal, np.eye(3)[int(np.abs(normal).argmin())])
    u /= np.linalg.norm(u)
    v = np.cross(normal, u)
    return [contact_row(normal, np.array(at) + a * u + b * v) for a in (-0.5, 0.5) for b in (-0.5, 0.5)]


@settings(max_examples=60, deadline=None)
@given(units, places)
def test_a_turn_is_read_off_again(way, at):
    screw = read_off(turning_twist(way, at))
    assert screw.kind == "turns"
    assert abs(abs(float(np.array(screw.way) @ way)) - 1) < 1e-6
    assert np.linalg.norm(np.cross(np.array(screw.at) - at, way)) < 1e-6
    assert screw.pitch == 0


@settings(max_examples=60, deadline=None)
@given(units)
def test_a_slide_is_read_off_again(way):
    screw = read_off(sliding_twist(way) * 3)
    assert screw.kind == "slides"
    assert np.allclose(screw.way, way, atol=1e-6)


@settings(max_examples=60, deadline=None)
@given(units, places, st.floats(0.01, 2))
def test_a_screw_goes_on_by_its_pitch(way, at, pitch):
    screw = read_off(turning_twist(way, at) + pitch * sliding_twist(way))
    assert screw.pitch == pytest.approx(pitch, rel=1e-6)
    assert np.linalg.norm(np.cross(np.array(screw.at) - at, way)) < 1e-6


def test_a_block_on_a_floor_may_lift_slide_and_turn():
    assert cone(NONE, np.array(square(Z, (0, 0, 0)))).shape[1] == 6


def test_a_block_between_two_floors_has_three_freedoms_left():
    rows = np.array(square(Z, (0, 0, 0)) + square(-Z, (0, 0, 1)))
    span = cone(NONE, rows)
    assert span.shape[1] == 3
    for free in (sliding_twist(X), sliding_twist(Y), turning_twist(Z, np.array((0.3, 0.2, 0)))):
        assert allows(free, span, rows) == (-1, 1)
    assert allows(sliding_twist(Z), span, rows) == ()


@pytest.mark.parametrize("axis", [0, 1, 2])
@pytest.mark.parametrize("sign", [-1, 1])
def test_a_tongue_with_a_ground_slides_one_way_alone(axis, sign):
    ways = [np.eye(3)[k] for k in range(3) if k != axis]
    rows = [r for w in ways for s in (-1, 1) for r in square(s * w, -s * w * 0.5)]
    rows += square(sign * np.eye(3)[axis], np.zeros(3))
    rows = np.array(rows)
    span = cone(NONE, rows)
    assert span.shape[1] == 1
    screw = read_off(span[:, 0])
    assert screw.kind == "slides"
    assert allows(sliding_twist(np.eye(3)[axis]), span, rows) == (sign,)


def test_closed_on_all_six_sides_nothing_moves():
    rows = np.array([r for k in range(3) for s in (-1, 1) for r in square(s * np.eye(3)[k], -s * np.eye(3)[k] * 0.5)])
    assert cone(NONE, rows).shape[1] == 0


@settings(max_examples=40, deadline=None)
@given(units, places)
def test_two_hinges_on_one_line_are_one_and_two_beside_one_another_hold(way, at):
    hinge = axis_rows(turning_twist(way, at)[:, None])
    along = axis_rows(turning_twist(way, at + 1.7 * way)[:, None])
    assert cone(np.vstack((hinge, along)), NONE).shape[1] == 1
    off = np.cross(way, np.eye(3)[int(np.abs(way).argmin())])
    beside = axis_rows(turning_twist(way, at + 0.5 * off)[:, None])
    assert cone(np.vstack((hinge, beside)), NONE).shape[1] == 0


def test_a_shaft_in_a_bore_turns_and_slides_and_a_shoulder_takes_one_way():
    never = axis_rows(np.column_stack((turning_twist(X, np.zeros(3)), sliding_twist(X))))
    assert cone(never, NONE).shape[1] == 2
    shoulder = np.array(square(X, (0, 0, 0)))
    span = cone(never, shoulder)
    assert span.shape[1] == 2
    assert allows(sliding_twist(X), span, shoulder) == (1,)
    assert allows(turning_twist(X, np.zeros(3)), span, shoulder) == (-1, 1)


def test_rows_are_nought_for_what_is_allowed_and_for_nothing_else():
    allowed = np.column_stack((turning_twist(Z, np.array((1.0, 2.0, 0.0))), sliding_twist(X)))
    rows = axis_rows(allowed)
    assert rows.shape == (4, 6)
    assert np.abs(rows @ allowed).max() < 1e-9
    assert null_space(rows).shape[1] == 2
