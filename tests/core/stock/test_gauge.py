"""Gauges against their published tables."""

import pytest

from zygon.stock.gauge import gauge_thickness


@pytest.mark.parametrize(
    ("number", "inches"),
    # Manufacturers' Standard Gauge (values from memory; weight / 41.82 recomputes them)
    [
        (7, 0.1793),
        (10, 0.1345),
        (11, 0.1196),
        (12, 0.1046),
        (14, 0.0747),
        (16, 0.0598),
        (18, 0.0478),
        (20, 0.0359),
        (22, 0.0299),
        (24, 0.0239),
    ],
)
def test_steel_sheet_follows_the_manufacturers_standard_gauge(number, inches):
    assert gauge_thickness("steel", number) / 25.4 == pytest.approx(inches, abs=5e-5)


@pytest.mark.parametrize(
    ("number", "inches"),
    # AWG (Brown & Sharpe), ASTM B258 (values from memory)
    [(12, 0.0808), (14, 0.0641), (16, 0.0508), (18, 0.0403)],
)
def test_nonferrous_sheet_follows_the_wire_gauge_formula(number, inches):
    assert gauge_thickness("nonferrous", number) / 25.4 == pytest.approx(inches, abs=5e-5)


def test_galvanised_sheet_has_a_table_of_its_own():
    # galvanised sheet gauge (from memory)
    assert gauge_thickness("galvanised", 20) / 25.4 == pytest.approx(0.0396)
    assert gauge_thickness("galvanised", 20) != gauge_thickness("steel", 20)


@pytest.mark.parametrize(
    ("system", "number", "words"),
    [(None, 11, "has no gauge table"), ("steel", 99, "no number 99"), ("steel", 11.5, "whole number"), ("nonferrous", 41, "0 to 40")],
)
def test_a_number_without_a_thickness_is_refused(system, number, words):
    with pytest.raises(KeyError, match=words):
        gauge_thickness(system, number, "Birch plywood")


@pytest.mark.parametrize(
    ("number", "fraction"),
    # U.S. Standard Gauge of 1893, defined by fractions of an inch (values from memory)
    [(7, 3 / 16), (10, 9 / 64), (11, 1 / 8), (14, 5 / 64), (16, 1 / 16), (18, 1 / 20), (20, 3 / 80), (24, 1 / 40), (28, 1 / 64)],
)
def test_stainless_sheet_has_a_table_of_its_own(number, fraction):
    assert gauge_thickness("stainless", number) / 25.4 == pytest.approx(fraction, abs=5.1e-5)


#: The U.S. Standard Gauge of 1893 as the act says it, in fractions of an inch (values from memory).
FRACTIONS = {
    7: (3, 16),
    8: (11, 64),
    9: (5, 32),
    10: (9, 64),
    11: (1, 8),
    12: (7, 64),
    13: (3, 32),
    14: (5, 64),
    15: (9, 128),
    16: (1, 16),
    17: (9, 160),
    18: (1, 20),
    19: (7, 160),
    20: (3, 80),
    21: (11, 320),
    22: (1, 32),
    23: (9, 320),
    24: (1, 40),
    25: (7, 320),
    26: (3, 160),
    28: (1, 64),
    30: (1, 80),
}


@pytest.mark.parametrize("number", FRACTIONS)
def test_stainless_gauges_are_the_fractions_of_the_act(number):
    top, bottom = FRACTIONS[number]
    assert gauge_thickness("stainless", number) / 25.4 == pytest.approx(top / bottom, abs=0.51e-4)


@pytest.mark.parametrize("number", [10, 11, 12, 13, 14, 16, 18, 20, 22, 24, 26])
def test_a_galvanised_gauge_is_the_steel_one_with_its_zinc(number):
    """Zinc of 2.5 oz a square foot on both faces together: 0.0037 in (common practice)."""
    assert (gauge_thickness("galvanised", number) - gauge_thickness("steel", number)) / 25.4 == pytest.approx(0.0037, abs=1.01e-4)
