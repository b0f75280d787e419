"""How long moves take, against the closed formulas of trapezoids of speed."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.program.read import read_program
from zygon.program.timed import STRAY, Machine, durations, trapezoid

MACHINE = Machine(rapid=400.0, acceleration=2000.0)


def seconds(text: str) -> float:
    return sum(durations(read_program("G21 G90\n" + text).moves, MACHINE))


def test_a_long_way_is_a_trapezoid_and_a_short_one_a_triangle():
    """v/a up, v/a down and the rest at v: L/v + v/a; below v²/a the top is never reached: 2 √(L/a)."""
    assert seconds("G0 X1000") == pytest.approx(1000 / 400 + 400 / 2000)
    assert seconds("G0 X50") == pytest.approx(2 * math.sqrt(50 / 2000))
    assert seconds("M3\nG1 X300 F6000\nM5") == pytest.approx(300 / 100 + 100 / 2000)


def test_two_moves_in_line_are_as_one_and_there_and_back_are_two():
    assert seconds("M3\nG1 X150 F6000\nG1 X300\nM5") == pytest.approx(300 / 100 + 100 / 2000)
    assert seconds("M3\nG1 X150 F6000\nG1 X0\nM5") == pytest.approx(2 * (150 / 100 + 100 / 2000))


def test_a_square_corner_is_passed_at_the_speed_of_the_circle_that_strays_so_far():
    """Of a corner of 90° the circle through the stray has r = δ sin 45° / (1 - sin 45°), and v² = a r."""
    half = math.sin(math.pi / 4)
    v = math.sqrt(2000 * STRAY * half / (1 - half))
    one = trapezoid(200, 0, v, 100, 2000) + trapezoid(200, v, 0, 100, 2000)
    assert seconds("M3\nG1 X200 F6000\nG1 X200 Y200\nM5") == pytest.approx(one)
    # by hand: up to 100 and down to v, twice
    by_hand = 2 * (100 / 2000 + (100 - v) / 2000 + (200 - 100**2 / 4000 - (100**2 - v**2) / 4000) / 100)
    assert one == pytest.approx(by_hand)


def test_a_small_arc_is_run_no_faster_than_its_radius_lets():
    """√(a r): a circle of 2 mm at 2000 mm/s² at most 63.2 mm/s, from rest to rest."""
    v = math.sqrt(2000 * 2)
    assert v < 100
    long = 2 * math.pi * 2
    top = min(v, math.sqrt(2000 * long))
    assert seconds("M3\nG3 X0 Y0 I2 J0 F6000\nM5") == pytest.approx(2 * top / 2000 + (long - top**2 / 2000) / top)


def test_a_zigzag_of_short_moves_never_gets_up_to_its_feed():
    n, text = 40, "M3\nG1 F12000\n"
    for k in range(1, n + 1):
        text += f"G1 X{k} Y{k % 2}\n"
    long = n * math.sqrt(2)
    assert seconds(text + "M5") > 2 * long / 200
    half = math.sin(math.pi / 4)
    v = math.sqrt(2000 * STRAY * half / (1 - half))
    steady = trapezoid(math.sqrt(2), v, v, 200, 2000)
    assert seconds(text + "M5") == pytest.approx(n * steady, rel=0.02)


def test_it_stands_while_the_beam_goes_on_and_waits_as_long_as_it_is_told():
    assert seconds("G0 X100\nM3\nG4 P0.5\nG1 X200 F6000\nM5\nG0 X300") == pytest.approx(
        seconds("G0 X100") + 0.5 + (100 / 100 + 100 / 2000) + seconds("G0 X100")
    )


@given(st.floats(0.01, 2000), st.floats(0, 300), st.floats(0, 300), st.floats(1, 500), st.floats(100, 9000))
def test_a_trapezoid_covers_its_length(length, first, last, most, a):
    """Integrated: area under the speed is the length."""
    first, last = min(first, most), min(last, most)
    if abs(first**2 - last**2) > 2 * a * length:
        return
    t = trapezoid(length, first, last, most, a)
    top = max(min(most, math.sqrt((2 * a * length + first**2 + last**2) / 2)), first, last)
    up, down = (top - first) / a, (top - last) / a
    covered = (first + top) / 2 * up + (last + top) / 2 * down + top * (t - up - down)
    assert covered == pytest.approx(length, rel=1e-6, abs=1e-6)
