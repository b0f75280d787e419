"""What is asked of stocks and cutters: which fields which kind has, and the words that their choices are told in."""

import math
from typing import get_args

import pytest

from zygon.stock.allowance import k_of
from zygon.stock.bending import _RULE_WORDS, Bending, BendRow, BendRule
from zygon.stock.cutter import _BIT, _NO_BIT, _WORDS
from zygon.stock.sheet import SheetSize


def test_rules_of_bends_are_told_in_the_trade_s_words():
    assert _RULE_WORDS == {
        "k": "K-factor",
        "table": "the shop's own bend table",
        "din6935": "DIN 6935",
        "handbook-soft": "handbook: soft copper, brass",
        "handbook-half-hard": "handbook: soft steel, aluminium",
        "handbook-hard": "handbook: hard copper, spring steel",
    }
    assert set(_RULE_WORDS) == set(get_args(BendRule))


def test_which_cutters_have_a_bit():
    assert _BIT == {"kind": ("router",)} and _NO_BIT == {"kind": ("laser", "saw")} and set(_WORDS) == {"laser", "router", "saw"}


def test_a_roll_has_a_width_and_a_price_and_no_length_nor_number():
    asked = {n: f.json_schema_extra["asked"]["only"] for n, f in SheetSize.model_fields.items() if f.json_schema_extra}  # type: ignore[index, call-overload]
    of = {n: only["roll"] for n, only in asked.items() if only}
    assert of == {"length": ["false"], "width": ["false", "true"], "price": ["false", "true"], "grain": ["false"]}


ROWS = [
    BendRow(thickness=t, radius=r, angle=a, k=k)
    for t, r, a, k in ((1, 1, 90, 0.3), (1, 1, 120, 0.36), (1, 2, 90, 0.4), (3, 1, 90, 0.42), (3, 4, 60, 0.5))
]


@pytest.mark.parametrize(
    ("thickness", "radius", "angle", "k"),
    [
        (1, 1, 90, 0.3),
        (1, 1, 105, 0.33),
        (1, 1, 150, 0.36),
        (1, 1, 30, 0.3),
        (1, 1.25, 90, 0.325),
        (1, 9, 90, 0.4),
        (0.5, 1, 90, 0.3),
        (3, 2.5, 75, 0.46),
        (9, 4, 60, 0.5),
        (2, 1, 90, 0.36),
        (1.5, 1, 90, 0.33),
        (2, 1, 120, (0.36 + 0.42) / 2),
    ],
)
def test_a_table_that_is_no_full_grid_is_straight_between_what_it_has(thickness, radius, angle, k):
    assert k_of(Bending(rule="table", table=ROWS), thickness, radius, math.radians(angle)) == pytest.approx(k)


def test_a_table_without_rows_is_no_table():
    empty = Bending(rule="table", table=[], k=0.37)
    assert k_of(empty, 2, 2, math.pi / 2) == pytest.approx(0.37)
