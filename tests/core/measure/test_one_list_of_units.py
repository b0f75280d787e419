"""Units stand in one list; the interface's is the same one."""

import re
from pathlib import Path

import pytest

from zygon.measure.units import INCH, LENGTH_UNITS

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
    assert found == {"units.py", "units.ts"}, found


@pytest.mark.parametrize(("unit", "mm"), [("mm", 1), ("cm", 10), ("m", 1000), ("in", 25.4), ('"', 25.4), ("ft", 304.8), ("'", 304.8)])
def test_each_unit_is_as_long_as_it_is(unit, mm):
    assert LENGTH_UNITS[unit] == pytest.approx(mm) and len(LENGTH_UNITS) == 7
