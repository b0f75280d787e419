"""Limits of ISO 286-2 against worked values of textbooks (from memory) and the formulas of ISO 286-1."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.measure.iso_fits import GRADES, RANGES, SHAFTS, limits_of

#: Class, nominal size, upper and lower deviation in thousandths: values that stand in every machinist's handbook (from memory).
KNOWN = [
    ("H7", 25, 21, 0), ("g6", 25, -7, -20), ("k6", 50, 18, 2), ("N7", 20, -7, -28), ("P7", 40, -17, -42), ("K7", 40, 7, -18), ("M7", 30, 0, -21),
    ("f7", 10, -13, -28), ("h9", 8, 0, -36), ("js6", 60, 9.5, -9.5), ("H8", 100, 54, 0), ("h11", 18, 0, -110), ("H11", 30, 130, 0), ("F8", 20, 53, 20),
    ("E9", 40, 112, 50), ("D10", 12, 120, 50), ("m6", 12, 18, 7), ("n6", 100, 45, 23), ("p6", 25, 35, 22), ("G7", 50, 34, 9), ("d9", 65, -100, -174),
    ("e8", 15, -32, -59), ("N9", 10, 0, -36), ("JS7", 25, 10.5, -10.5), ("H6", 3, 6, 0), ("N7", 3, -4, -14), ("h6", 500, 0, -40), ("k8", 20, 33, 0),
]  # fmt: skip


@pytest.mark.parametrize(("tolerance", "nominal", "upper", "lower"), KNOWN)
def test_worked_values(tolerance, nominal, upper, lower):
    assert limits_of(tolerance, nominal) == pytest.approx((upper / 1000, lower / 1000), abs=1e-12)


def _mean(n: int) -> float:
    low = RANGES[n - 1] if n else 1
    return math.sqrt(low * RANGES[n])


@pytest.mark.parametrize("grade", sorted(GRADES))
def test_grades_follow_their_formula(grade):
    """ISO 286-1: IT5 to IT13 are 7, 10, 16, 25, 40, 64, 100, 160, 250 times i = 0.45 ∛D + 0.001 D, rounded; IT4 lies between."""
    times = {4: 5, 5: 7, 6: 10, 7: 16, 8: 25, 9: 40, 10: 64, 11: 100, 12: 160, 13: 250}[grade]
    for n, width in enumerate(GRADES[grade]):
        d = _mean(n)
        # up to 3 mm the standard rounds up further
        assert width == pytest.approx(times * (0.45 * d ** (1 / 3) + 0.001 * d), rel=0.18 if n == 0 else 0.08, abs=1.5)


@pytest.mark.parametrize(("letter", "formula"), [
    ("d", lambda d: -16 * d**0.44), ("e", lambda d: -11 * d**0.41), ("f", lambda d: -5.5 * d**0.41), ("g", lambda d: -2.5 * d**0.34),
    ("n", lambda d: 5 * d**0.34),
])  # fmt: skip
def test_deviations_follow_their_formula(letter, formula):
    """From 3 mm on; the finer ranges are means of two, so that the formula holds to a rounding."""
    for n in range(1, len(RANGES)):
        assert SHAFTS[letter][n] == pytest.approx(formula(_mean(n)), rel=0.1, abs=1.0)


@given(st.sampled_from([*"defghkmnp", "js"]), st.integers(4, 13), st.floats(0.1, 500))
def test_a_class_is_as_wide_as_its_grade_and_a_hole_of_d_to_h_mirrors_its_shaft(letter, grade, nominal):
    shaft = limits_of(f"{letter}{grade}", nominal)
    width = next(GRADES[grade][n] for n, high in enumerate(RANGES) if nominal <= high)
    assert shaft is not None and shaft[0] - shaft[1] == pytest.approx(width / 1000)
    hole = limits_of(f"{letter.upper()}{grade}", nominal)
    if hole is not None:
        assert hole[0] - hole[1] == pytest.approx(width / 1000)
        if letter in "defgh":
            assert hole == pytest.approx((-shaft[1], -shaft[0]))


@pytest.mark.parametrize(
    ("tolerance", "nominal"), [("Q7", 20), ("H3", 20), ("H14", 20), ("H7", 0), ("H7", 501), ("", 20), ("±0.1", 20), ("H", 20), ("7H", 20)]
)
def test_what_is_no_class_here_has_no_limits(tolerance, nominal):
    assert limits_of(tolerance, nominal) is None
