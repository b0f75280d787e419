"""Entries: what is read, what it gives, and what is said where it cannot be."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.errors import ExpressionError
from zygon.measure.display import exact_length, format_length
from zygon.measure.evaluate import NoScope, evaluate
from zygon.measure.quantity import Quantity, count, length
from zygon.measure.syntax import mixed_numbers, parse
from zygon.measure.units import name_fault


class Scope(NoScope):
    """width 300 mm, gap 2 mm, n 4 pieces, and the faces of a left and a right board along x."""

    def size(self, name):
        known = {"width": length(300), "gap": length(2), "n": count(4)}
        if name not in known:
            raise KeyError(f"no size is called {name}")
        return known[name]

    def face(self, part, face):
        places = {("left", "right"): 12.0, ("right", "left"): 288.0, ("right", "right"): 300.0}
        if (part, face) == ("floor", "top"):
            return Quantity(6.0, length=1, axis="z", weight=1)
        return Quantity(places[part, face], length=1, axis="x", weight=1)


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("19", "mm", 19),
        ("19", "in", 19 * 25.4),
        ("3/4 in", "mm", 19.05),
        ("3/4", "in", 19.05),
        ("3/4", "mm", 0.75),
        ("2'6-1/2\"", "mm", 30.5 * 25.4),
        ("2' 6 1/2\"", "mm", 30.5 * 25.4),
        ("2'6", "mm", 762),
        ("2'", "mm", 609.6),
        ("1-1/2 in", "mm", 38.1),
        ("1 1/2 in", "mm", 38.1),
        ("2 - 1/2", "mm", 1.5),
        ("1.5 mm", "in", 1.5),
        ("2 cm + 1/4 in", "mm", 26.35),
        ("width/3 - 2*gap", "mm", 96),
        ("width + 3", "mm", 303),
        ("width + 3", "in", 300 + 76.2),
        ("max(width, 400)", "mm", 400),
        ("min(width, 2 ft, 1 m)", "mm", 300),
        ("round(12.6)", "mm", 13),
        ("round(width / 7, 5 mm)", "mm", 45),
        ("floor(width / 7)", "mm", 42),
        ("ceil(width / 7)", "mm", 43),
        ("abs(gap - width)", "mm", 298),
        ("sqrt(width * width)", "mm", 300),
        ("width * sin(30 deg)", "mm", 150),
        ("width * cos(60)", "mm", 150),
        ("width * tan(45°)", "mm", 300),
        ("n * gap", "mm", 8),
        ("right.left - left.right", "mm", 276),
        ("-(3 - 5)", "mm", 2),
    ],
)
def test_an_entry_gives_its_length(text, unit, mm):
    assert evaluate(text, unit, "length", Scope()).value == pytest.approx(mm, abs=1e-9)


@pytest.mark.parametrize(
    ("text", "inches"),
    [
        # a whole number that is a denominator already joins no fraction behind it
        ("1/2-1/8", 0.375),
        ("10/2-1/2", 4.5),
        ("10 / 2-1/2", 4.5),
        ("10/-2-1/2", -5.5),
        ("3/4-1/2", 0.25),
        ("6/3-1-1/2", 0.5),
        ("(8)/2-1/4", 3.75),
        ("10/2-1/2 in", 4.5),
        ("8/2 - 1/2", 3.5),
        ("8/(2-1/2)", 3.2),
        ("8/(2 1/2)", 3.2),
        # anywhere else it does
        ("1-1/2", 1.5),
        ("1 1/2", 1.5),
        ("6-1-1/2", 4.5),
        ("6 - 1-1/2", 4.5),
        ("-1-1/2", -1.5),
        ("1-1/2 in + 1/4", 1.75),
        ("(1-1/2)*2", 3),
        ("max(1-1/2, 1)", 1.5),
        # behind * a space can only join, and spaces about the hyphen only subtract
        ("4*2 1/4", 9),
        ("4*(2-1/4)", 9),
        ("4*2 - 1/4", 7.75),
        ("4*2.5-1/4", 9.75),
        # a fraction that goes on is no fraction of its own
        ("2-1/4*4", 1),
        ("2-1/4/2", 1.875),
    ],
)
def test_a_fraction_is_read_as_it_is_meant(text, inches):
    assert evaluate(text, "in", "length", Scope()).value == pytest.approx(inches * 25.4)


@pytest.mark.parametrize(
    ("text", "readings", "values"),
    [
        ("4*2-1/4", ("4*(2-1/4)", "4*2 - 1/4"), (9, 7.75)),
        ("4 * 2-1/4 in", ("4 * (2-1/4 in)", "4 * 2 - 1/4 in"), (9, 7.75)),
        ("4*-2-1/4", ("4*-(2-1/4)", "4*-2 - 1/4"), (-9, -8.25)),
        ("1 + 4*2-1/4", ("1 + 4*(2-1/4)", "1 + 4*2 - 1/4"), (10, 8.75)),
        ("8/2 1/2", ("8/(2 1/2)",), (3.2,)),
    ],
)
def test_what_can_be_read_in_two_ways_is_refused_with_each_written_out(text, readings, values):
    with pytest.raises(ExpressionError) as caught:
        parse(text)
    assert caught.value.readings == readings
    for reading, value in zip(readings, values, strict=True):
        assert reading in caught.value.message
        assert evaluate(reading, "in", "length", Scope()).value == pytest.approx(value * 25.4)


def test_mixed_numbers_tell_how_they_were_read():
    assert mixed_numbers("1-1/2 + 2 3/4 in") == [("1-1/2", "1 + 1/2"), ("2 3/4", "2 + 3/4")]
    assert mixed_numbers("10/2-1/2") == mixed_numbers("3/4") == mixed_numbers("2 - 1/2") == []


def test_a_place_between_two_faces_is_a_place():
    middle = evaluate("mid(left.right, right.left)", "mm", "length", Scope())
    assert (middle.value, middle.axis, middle.weight) == (150.0, "x", 1)
    assert evaluate("right.right + 20 mm", "mm", "length", Scope()).weight == 1


@pytest.mark.parametrize(
    ("text", "reason", "start"),
    [
        ("width/3 - 2*gpa", "no size is called gpa", 12),
        ("width * width", "this gives an area where a length is wanted", 0),
        ("width + n", "a length and a count cannot be added", 0),
        ("left.right + right.left", "two places cannot be added", 0),
        ("mid(left.right, floor.top)", "places along different axes", 0),
        ("2 * left.right", "a place cannot be multiplied", 0),
        ("sin(30)", "this gives a number where a length is wanted", 0),
        ("30 deg", "this gives an angle where a length is wanted", 0),
        ("3 / 0", "a division by 0", 0),
        ("3/0 in", "a fraction over 0", 0),
        ("2 width", "between a number and a name a * is needed", 2),
        ("3 furlongs", "furlongs is not a unit", 2),
        ("1,5", "write decimals with a point, not a comma", 1),
        ("(3", "it stops too early", 2),
        ("3 +* 4", "* is not expected here", 3),
        ("3 $ 4", "$ is not expected here", 2),
        ("", "an entry is needed", 0),
        ("hypot(3, 4)", "no function is called hypot", 0),
        ("mid(3)", "mid takes two values, not 1", 0),
        ("sqrt(-4 mm)", "sqrt needs", 0),
        ("1e999", "the number is too large", 0),
        ("11 ga", "a gauge needs a stock with a gauge table", 0),
        ("(" * 60 + "1" + ")" * 60, "brackets nest at most 40 deep", 40),
        ("1" * 500, "an entry has at most 400 characters", 0),
        ("__import__('os')", "is not expected here", 11),
    ],
)
def test_a_broken_entry_says_what_and_where(text, reason, start):
    with pytest.raises(ExpressionError) as caught:
        evaluate(text, "mm", "length", Scope())
    assert reason in caught.value.reason
    assert caught.value.start == start
    assert caught.value.as_dict()["code"] == "broken_expression"


def test_the_kinds_are_told_apart():
    assert evaluate("45 deg", "mm", "angle", Scope()).value == pytest.approx(math.pi / 4)
    assert evaluate("90", "in", "angle", Scope()).value == pytest.approx(math.pi / 2)
    assert evaluate("n + 1", "mm", "count", Scope()).value == 5
    with pytest.raises(ExpressionError, match=r"a count is a whole number, and this gives 2\.5"):
        evaluate("10 / n", "mm", "count", Scope())
    with pytest.raises(ExpressionError, match="a length where an angle is wanted"):
        evaluate("width", "mm", "angle", Scope())


def test_names_that_are_units_or_functions_are_reserved():
    assert name_fault("in") and name_fault("ga", part=True)
    assert name_fault("floor") and not name_fault("floor", part=True)
    assert name_fault("snug") and name_fault("3rd") and name_fault("a b") and name_fault("")
    assert not name_fault("bee_gap")


@given(st.text(max_size=40))
def test_any_text_is_read_or_refused_and_never_breaks_the_reader(text):
    try:
        parse(text)
    except ExpressionError as error:
        assert 0 <= error.start <= len(error.text)


@given(st.floats(-1e5, 1e5), st.sampled_from(["mm", "in"]))
def test_a_frozen_length_reads_back_to_the_same_value(mm, unit):
    assert evaluate(exact_length(mm, unit), "mm", "length", NoScope()).value == pytest.approx(mm, rel=1e-9, abs=1e-9)


@given(st.integers(0, 200), st.integers(1, 63))
def test_every_sixty_fourth_reads_back_exactly(whole, sixty_fourths):
    mm = (whole + sixty_fourths / 64) * 25.4
    shown = format_length(mm, "fraction")
    assert not shown.startswith("≈")
    assert evaluate(shown, "mm", "length", NoScope()).value == pytest.approx(mm, abs=1e-9)


def test_a_rounded_figure_says_so():
    assert format_length(0.248 * 25.4, "fraction") == "≈1/4 in"
    assert format_length(0.248 * 25.4, "in") == "0.248 in"
    assert format_length(100 / 3, "mm") == "≈33.33 mm"
