"""Air bending against the trade's rules, each named beside its figure."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.design.workshop import BRAKE
from zygon.stock.bending import Bending
from zygon.stock.brake import Brake, Die, air_radius, force, least_leg, suits
from zygon.stock.tooling import Wanted, default_radius, options, radii

SHOP = Brake.model_validate(BRAKE)
MILD = Bending(strength=450.0)


@pytest.mark.parametrize(
    ("thickness", "v", "kn"),
    # air-bending charts of press brakes, mild steel of 450 N/mm², kN for a metre, to within a tenth (values from memory)
    [(1, 8, 80), (1.5, 12, 120), (2, 16, 170), (3, 24, 255), (6, 50, 480)],
)
def test_force_against_an_air_bending_chart(thickness, v, kn):
    assert force(450, thickness, 1000, v) == pytest.approx(kn, rel=0.12)


def test_the_least_leg_at_a_right_angle_is_the_trade_s_seven_tenths_of_v():
    """0.7 V (common practice)."""
    assert least_leg(Die(name="d", v=10), math.pi / 2) == pytest.approx(7.07, abs=0.01)
    assert least_leg(Die(name="d", v=10), math.radians(30)) < 5.2


def test_a_die_s_own_least_flange_wins_where_it_is_longer():
    assert least_leg(Die(name="d", v=10, least_flange=9.0), math.pi / 2) == pytest.approx(9.0)
    assert least_leg(Die(name="d", v=10, least_flange=2.0), math.pi / 2) == pytest.approx(7.07, abs=0.01)


def test_three_millimetre_steel_is_not_air_bent_to_half_a_millimetre():
    """Common practice: the radius follows from V, material and thickness."""
    brake = SHOP.model_copy(update={"dies": {f"v{v}": Die(name=f"V {v}", v=v) for v in (6, 8, 12, 16, 24)}})
    assert min(radii(brake, MILD, 3.0)) >= 0.16 * 15
    assert all(suits(o.die.v, 3.0) for o in options(brake, MILD, Wanted(3.0, 0.5, math.pi / 2, 100.0, 50.0)))


def test_the_punch_sets_the_radius_only_where_it_is_larger_than_the_die_s():
    assert air_radius(8, 0.16, 1.0) == pytest.approx(1.28)
    assert air_radius(8, 0.16, 3.0) == 3.0


@given(t=st.floats(0.5, 3.0), radius=st.floats(0.1, 6), angle=st.floats(5, 150))
def test_options_reach_the_angle_and_suit_the_thickness(t, radius, angle):
    wanted = Wanted(t, radius, math.radians(angle), 100.0, 30.0)
    for o in options(SHOP, MILD, wanted):
        assert o.punch.angle <= 180 - angle + 1e-6
        assert 5 * t - 1e-6 <= o.die.v <= 14 * t + 1e-6


def test_a_short_leg_takes_a_narrower_die():
    wide, narrow = (options(SHOP, MILD, Wanted(1.0, 1.5, math.pi / 2, 100.0, leg))[0] for leg in (20.0, 5.0))
    assert (wide.die.v, narrow.die.v) == (8.0, 6.0)


def test_the_default_radius_is_one_that_the_shop_s_tools_give():
    assert default_radius(SHOP, MILD, 1.0) in radii(SHOP, MILD, 1.0)
    assert default_radius(SHOP, MILD, 20.0) is None
