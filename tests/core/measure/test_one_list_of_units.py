"""Units stand in one list; the interface's is the same one."""

import math
import re
from pathlib import Path

import pytest

from zygon.measure.evaluate import NoScope, evaluate
from zygon.measure.units import INCH, LENGTH_UNITS, name_fault

ROOT = Path(__file__).parents[3]


def test_the_interface_knows_the_units_that_the_core_knows():
    text = (ROOT / "web" / "src" / "lib" / "units.ts").read_text()
    (inside,) = re.findall(r"LENGTH_UNITS.*?= \{(.*?)\};", text, re.S)
    found = eval("{" + re.sub(r"\b([a-z]+):", r'"\1":', inside) + "}", {"INCH": INCH})
    assert found == LENGTH_UNITS
    assert text.count("INCH = 25.4") == 1


def test_an_inch_is_said_once():
    said = [
        p
        for folder in ("zygon", "server", "web/src")
        for p in (ROOT / folder).rglob("*")
        if p.suffix in (".py", ".ts", ".tsx") and ".test." not in p.name
    ]
    found = {p.name for p in said if re.search(r"(?<![\d.])25\.4(?!\d)", p.read_text()) and "examples" not in p.parts}
    # the reader of programs shares nothing with what writes them, not even the inch
    assert found == {"units.py", "units.ts", "read.py"}, found


@pytest.mark.parametrize(("unit", "mm"), [("mm", 1), ("cm", 10), ("m", 1000), ("in", 25.4), ('"', 25.4), ("ft", 304.8), ("'", 304.8)])
def test_each_unit_is_as_long_as_it_is(unit, mm):
    assert LENGTH_UNITS[unit] == pytest.approx(mm) and len(LENGTH_UNITS) == 7


@pytest.mark.parametrize("word", ["mm", "cm", "m", "in", "ft", "deg", "rad", "ga"])
def test_a_unit_is_no_name(word):
    assert word in (name_fault(word) or "") and "is a unit" in name_fault(word, part=True)


@pytest.mark.parametrize(
    "word", ["pi", "press", "snug", "slip", "loose", "min", "max", "round", "floor", "ceil", "abs", "sqrt", "sin", "cos", "tan", "mid"]
)
def test_a_function_or_a_fit_is_no_size_s_name_but_may_be_a_part_s(word):
    assert name_fault(word) == f"{word} is a function or a fit and cannot be a size's name"
    assert name_fault(word, part=True) is None


@pytest.mark.parametrize(("text", "radians"), [("1.25 rad", 1.25), ("90 deg", math.pi / 2), ("45°", math.pi / 4)])
def test_an_angle_is_read_in_its_unit(text, radians):
    assert evaluate(text, "mm", "angle", NoScope()).value == pytest.approx(radians)


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("min(3, 1, 2)", 1),
        ("max(3, 1, 2)", 3),
        ("round(2.6)", 3),
        ("floor(2.6)", 2),
        ("ceil(2.2)", 3),
        ("abs(-4)", 4),
        ("sqrt(9)", 3),
        ("sin(30 deg)", 0.5),
        ("cos(60 deg)", 0.5),
        ("tan(45 deg)", 1),
        ("mid(1, 4)", 2.5),
    ],
)
def test_each_function_does_what_its_name_says(text, value):
    assert evaluate(text, "mm", "number", NoScope()).value == pytest.approx(value)
