"""Tools, gauges and cutters on both sides of each of their limits, with figures worked by hand."""

import math

import pytest

from zygon.design.workshop import ROUTER
from zygon.stock.bending import Bending
from zygon.stock.brake import Brake, Die, Punch, air_radius, force, least_leg, suits
from zygon.stock.cutter import Cutter, cut_width
from zygon.stock.gauge import gauge_thickness
from zygon.stock.tooling import Wanted, default_radius, options, radii

STEEL = Bending(strength=420.0, air=0.16)


def shop(dies=(6, 8, 10, 16), punches=((88, 1.0), (60, 0.5), (88, 3.0)), **die):
    return Brake(
        name="b",
        dies={f"v{v}": Die(name=f"V {v}", v=v, **die) for v in dies},
        punches={f"p{i}": Punch(name=f"P{i}", angle=a, radius=r, order=i) for i, (a, r) in enumerate(punches)},
    )


@pytest.mark.parametrize(
    ("v", "t", "fine"), [(4.99, 1, False), (5.0, 1, True), (14.0, 1, True), (14.01, 1, False), (9.9, 2, False), (28.0, 2, True)]
)
def test_a_die_suits_from_five_to_fourteen_thicknesses(v, t, fine):
    assert suits(v, t) == fine


@pytest.mark.parametrize(("angle", "times"), [(0, 0.5), (60, 0.57735), (90, 0.70711), (120, 1.0), (170, 5.73686), (175, 5.73686)])
def test_the_least_leg_is_half_the_opening_over_the_cosine_of_half_the_angle(angle, times):
    assert least_leg(Die(name="d", v=12), math.radians(angle)) == pytest.approx(12 * times, rel=1e-4)
    # a stated least flange of a square bend grows and shrinks the same way
    assert least_leg(Die(name="d", v=12, least_flange=10), math.radians(angle)) == pytest.approx(10 / 0.70711 * times, rel=1e-4)


def test_force_is_worked_by_hand():
    assert force(450, 2, 1500, 16) == pytest.approx((1 + 4 * 2 / 16) * 450 * 1500 * 4 / 16 / 1000)
    assert (air_radius(10, 0.2, 1.9), air_radius(10, 0.2, 2.1)) == (2.0, 2.1)


@pytest.mark.parametrize(("angle", "fine"), [(91.9, True), (92.0, True), (92.1, False)])
def test_a_punch_reaches_an_angle_up_to_its_own_and_a_die_two_degrees_more(angle, fine):
    wanted = Wanted(1.0, 1.3, math.radians(angle), 100.0, 40.0)
    assert bool(options(shop(punches=((88, 1.0),), angle=80), STEEL, wanted)) == fine
    over = Wanted(1.0, 1.3, math.radians(angle + 2), 100.0, 40.0)
    assert bool(options(shop(punches=((30, 1.0),)), STEEL, over)) == fine


def test_what_comes_out_of_each_pair_is_told():
    (first, *_) = options(shop(dies=(8,), punches=((88, 1.0),)), STEEL, Wanted(1.0, 1.3, math.pi / 2, 250.0, 40.0))
    assert (first.radius, first.pressed, first.name) == (pytest.approx(1.28), False, "P0 in V 8")
    assert first.least == pytest.approx(8 * 0.70711, rel=1e-4) and first.force == pytest.approx(1.5 * 420 * 250 / 8 / 1000)
    (hem, *_) = options(shop(dies=(8,), punches=((30, 1.0),), angle=30), STEEL, Wanted(1.0, 0.2, math.pi, 250.0, 40.0))
    assert (hem.radius, hem.pressed, hem.name) == (0.2, True, "P0 in V 8, then pressed flat")
    assert hem.force == pytest.approx(4 * first.force) and hem.least == pytest.approx(4 / math.cos(math.radians(67.5)))


@pytest.mark.parametrize(("angle", "pressed"), [(174.9, False), (175.0, True), (180.0, True)])
def test_over_175_degrees_a_bend_is_pressed(angle, pressed):
    wanted = Wanted(1.0, 0.2, math.radians(angle), 100.0, 40.0)
    assert wanted.pressed == pressed and wanted.air == pytest.approx(math.radians(135 if pressed else angle))


def best(brake, **more):
    return options(brake, STEEL, Wanted(**{"thickness": 1.0, "radius": 1.3, "angle": math.pi / 2, "length": 100.0, "leg": 40.0} | more))[0]


def test_the_leg_comes_first_then_a_near_radius_then_the_usual_opening():
    brake = shop(punches=((88, 0.2),))
    assert best(brake).die.v == 8
    assert best(brake, leg=5.6).die.v == 6  # V 8 needs 5.66
    assert best(brake, leg=5.66).die.v == 8
    assert best(brake, leg=3.0).die.v == 6  # none holds it: the nearest one
    # radii within 15 % count as near, whichever side they are off
    assert best(brake, radius=1.28 / 1.16).die.v == 6 and best(brake, radius=1.28 / 1.14).die.v == 8
    assert best(brake, radius=1.6).die.v == 10 and best(brake, radius=1.28 / 0.86).die.v == 8
    # of equal ones the nearer radius, then the shop's own order
    several = shop(dies=(8,), punches=((88, 1.45), (88, 1.31), (88, 1.2)))
    assert best(several).punch.radius == 1.31
    same = Brake(name="b", dies={"d": Die(name="V 8", v=8)}, punches={"z": Punch(name="Z", order=1), "a": Punch(name="A", order=2)})
    assert best(same).punch.name == "Z"


def test_the_default_radius_is_over_the_usual_opening_with_the_bluntest_punch():
    assert default_radius(shop(), STEEL, 1.0) == pytest.approx(1.28)
    assert default_radius(shop(punches=((60, 2.0), (88, 1.9))), STEEL, 1.0) == 1.9
    assert default_radius(shop(punches=((88, 2.0), (88, 1.9))), STEEL, 1.0) == 1.9
    assert default_radius(shop(dies=(7, 9), punches=((88, 0.1),)), STEEL, 1.0) == pytest.approx(1.12)  # as near: the narrower
    assert default_radius(shop(dies=(40,)), STEEL, 1.0) is None
    assert radii(shop(dies=(8, 16), punches=((88, 1.0), (88, 1.5))), STEEL, 1.5) == [pytest.approx(x) for x in (1.28, 1.5, 2.56)]


@pytest.mark.parametrize(("number", "fine"), [(-1, False), (0, True), (40, True), (41, False), (10.5, False)])
def test_the_nonferrous_gauges_run_from_0_to_40(number, fine):
    if fine:
        assert gauge_thickness("nonferrous", number) == pytest.approx(round(0.005 * 92 ** ((36 - number) / 39), 4) * 25.4)
    else:
        with pytest.raises(KeyError):
            gauge_thickness("nonferrous", number)


def test_every_gauge_table_falls_with_its_number():
    for system in ("steel", "galvanised", "stainless"):
        found = []
        for n in range(3, 39):
            try:
                found.append(gauge_thickness(system, n))
            except KeyError as error:
                assert "no number" in str(error)
        assert len(found) >= 12 and found == sorted(found, reverse=True) and len(set(found)) == len(found)


@pytest.mark.parametrize(
    ("kind", "bit", "own", "width"),
    [
        ("router", "6", None, 6),
        ("router", None, None, 0.5),
        ("laser", "6", None, 0.5),
        ("laser", None, "0.2", 0.2),
        ("router", "6", "0.2", 6),
        ("saw", "6", "2.2", 2.2),
    ],
)
def test_a_router_cuts_as_wide_as_its_bit_and_others_as_their_kerf_in_the_stock(kind, bit, own, width):
    data = {**ROUTER, "kind": kind, "kerf": {"text": "0.5", "unit": "mm"}, "bit": {"text": bit, "unit": "mm"} if bit else None}
    work = {**data["work"]["ply12"], "kerf": {"text": own, "unit": "mm"} if own else None}
    cutter = Cutter.model_validate({**data, "work": {"ply12": work}})
    assert cut_width(cutter, "ply12") == width
    assert cut_width(cutter, "oak") == (6 if kind == "router" and bit else 0.5)
