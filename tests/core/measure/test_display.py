"""Figures as they are shown, both signs, on both sides of every rounding."""

import pytest

from zygon.measure.display import exact_length, format_area, format_length, format_volume, in_thicknesses, listed
from zygon.measure.quantity import Quantity, QuantityError, length, number


@pytest.mark.parametrize(
    ("mm", "display", "text"),
    [
        (0, "mm", "0 mm"), (12, "mm", "12 mm"), (-12.5, "mm", "-12.5 mm"), (0.004, "mm", "0.004 mm"), (-0.004, "mm", "-0.004 mm"),
        (12.345, "mm", "≈12.35 mm"), (1e9, "mm", "1e+09 mm"), (-1e9, "mm", "-1e+09 mm"), (9.99e8, "mm", "999000000 mm"),
        (25.4, "in", "1 in"), (-25.4, "in", "-1 in"), (10, "in", "≈0.394 in"), (-10, "in", "≈-0.394 in"),
        (38.1, "fraction", "1-1/2 in"), (-38.1, "fraction", "-1-1/2 in"), (12.7, "fraction", "1/2 in"), (-12.7, "fraction", "-1/2 in"), (25.4, "fraction", "1 in"),
        (0, "fraction", "0 in"), (10, "fraction", "≈25/64 in"), (-10, "fraction", "≈-25/64 in"), (25.4 / 64, "fraction", "1/64 in"), (0.1, "fraction", "≈0.004 in"),
        (-0.1, "fraction", "≈-0.004 in"),
    ],
)  # a row a line  # fmt: skip
def test_a_length_is_told_with_its_sign_and_what_is_rounded_says_so(mm, display, text):
    assert format_length(mm, display) == text


@pytest.mark.parametrize(
    ("value", "display", "text"),
    [
        (999, "mm", "999 mm²"), (1000, "mm", "10 cm²"), (12345, "mm", "123 cm²"), (0.5, "mm", "0.5 mm²"), (645.16, "in", "1 in²"), (0.0004, "mm", "0.0004 mm²"),
        (12345678, "mm", "123457 cm²"), (0, "mm", "0 mm²"), (0, "in", "0 in²"), (0.00004, "mm", "4e-05 mm²"),
    ],
)  # a row a line  # fmt: skip
def test_an_area_has_three_figures(value, display, text):
    assert format_area(value, display) == text


@pytest.mark.parametrize(
    ("value", "display", "text"), [(99, "mm", "99 mm³"), (100, "mm", "0.1 cm³"), (123456, "mm", "123 cm³"), (16387.064 * 2, "in", "2 in³")]
)
def test_a_volume_has_three_figures(value, display, text):
    assert format_volume(value, display) == text


def test_lists_thicknesses_and_frozen_lengths():
    assert [listed([]), listed(["a"]), listed(["a", "b"]), listed(["a", "b", "c"])] == ["", "a", "a and b", "a, b and c"]
    assert listed(list("abcdef")) == "a, b, c, d, e and f"
    assert listed(list("abcdefg")) == "a, b, c, d, e and 2 more"
    assert (in_thicknesses(1), in_thicknesses(0.5), in_thicknesses(2)) == ("1 thickness", "0.5 thicknesses", "2 thicknesses")
    assert (exact_length(408, "mm"), exact_length(38.1, "in"), exact_length(-3.5, "mm"), exact_length(0, "mm")) == (
        "408 mm",
        "1.5 in",
        "(-3.5 mm)",
        "0 mm",
    )


def test_products_and_quotients_have_the_sum_and_difference_of_their_kinds():
    a, b = length(6), length(4)
    turn = Quantity(2.0, angle=1)
    assert ((a.times(b)).kind, a.times(b).value, a.over(b).kind, a.over(b).value) == ("area", 24, "number", 1.5)
    both = a.times(turn)
    assert (both.length, both.angle) == (1, 1) and both.over(turn).kind == "length" and both.over(a).kind == "angle"
    assert (turn.times(turn).angle, number(3).over(turn).angle, number(3).over(a).length) == (2, -1, -1)
    whole = Quantity(6, whole=True)
    assert whole.over(Quantity(3, whole=True)).kind == "count" and whole.over(Quantity(4, whole=True)).kind == "number"
    assert whole.times(whole).kind == "count" and whole.times(number(2)).kind == "number"
    assert Quantity(1, bare=True).times(Quantity(2, bare=True)).bare and not Quantity(1, bare=True).times(a).bare
    for wrong in (
        lambda: a.over(number(0)),
        lambda: Quantity(1, length=1, axis="x", weight=1).times(number(2)),
        lambda: number(2).over(Quantity(1, length=1, axis="x", weight=1)),
    ):
        with pytest.raises(QuantityError):
            wrong()


def test_places_and_lengths_add_up_to_places_and_lengths_along_their_axis():
    place, other = Quantity(100, length=1, axis="y", weight=1), Quantity(30, length=1, axis="y", weight=1)
    assert [(q.value, q.axis, q.weight) for q in (place.plus(length(5), 1, 1, 1), length(5).plus(place, 1, 1, 1), place.plus(length(5), -1, 1, 1))] == [
        (105, "y", 1), (105, "y", 1), (95, "y", 1),
    ]  # a row a line  # fmt: skip
    assert (place.plus(other, -1, 1, 1).value, place.plus(other, -1, 1, 1).axis, place.plus(other, -1, 1, 1).weight) == (70, None, 0)
    for wrong, says in (
        (lambda: place.plus(other, 1, 1, 1), "mid"),
        (lambda: length(5).plus(place, -1, 1, 1), "cannot be taken from a length"),
        (lambda: place.plus(Quantity(1, length=1, axis="x", weight=1), -1, 1, 1), "along y and a place along x"),
    ):
        with pytest.raises(QuantityError, match=says):
            wrong()
