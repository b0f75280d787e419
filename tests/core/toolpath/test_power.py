"""The test piece for speed and power: every square at its speed and power in the program, none over another, figures beside them; and what makes no sense."""

from __future__ import annotations

import itertools

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.core.program.test_write import CONTROLLERS, controlled
from tests.core.toolpath.sheets import laid
from zygon.errors import NestError
from zygon.program.of_power_test import power_test_program
from zygon.program.read import read_program
from zygon.toolpath.power_test import PowerTest, grid, power_test_paths

TEST = PowerTest("cut", 10.0, 30.0, 40.0, 100.0, 4)


@pytest.mark.parametrize("controller", list(CONTROLLERS))
@pytest.mark.parametrize("what", ["cut", "mark"])
def test_every_square_is_cut_at_its_own_speed_and_power(controller, what):
    document = controlled(laid("brood-box", "ply12")[0], controller)
    full = document.cutters[document.cutter].controller.full_power
    text, told = power_test_program(document, "ply12", PowerTest(what, 10.0, 30.0, 40.0, 100.0, 4))
    speeds, powers = told["speeds"], told["powers"]
    assert speeds == [10.0, 16.7, 23.3, 30.0] and powers == [40.0, 60.0, 80.0, 100.0]
    squares = {}
    for m in read_program(text).moves:
        if m.kind == "line" and m.on and m.length == pytest.approx(10.0, abs=0.01):
            column, row = (int((min(m.p[k], m.q[k]) - 17.9) // 15) for k in (0, 1))
            squares.setdefault((column, row), []).append((round(m.feed, 2), round(m.power / full, 3)))
    assert squares.keys() == set(itertools.product(range(4), range(4)))
    for (column, row), sides in squares.items():
        assert len(sides) == 4 and len(set(sides)) == 1
        assert sides[0] == (pytest.approx(speeds[column], abs=0.06), pytest.approx(powers[row] / 100, abs=0.006))
    assert told["size"] == 78.0 and told["seconds"] > 16 * 40 / 30


def test_nothing_lies_on_anything_else_and_figures_come_first():
    paths = power_test_paths(laid("brood-box", "ply12")[0], "ply12", TEST)
    squares = [c for c in paths.cuts if c.key == "square"]
    labels = [c for c in paths.cuts if c.key == "label"]
    assert paths.cuts[: len(labels)] == tuple(labels) and len(squares) == 16 and all(c.speed is None for c in labels)
    boxes = [shapely.box(*c.runs[0].bounds) for c in squares]
    assert all(not a.intersects(b) for a, b in itertools.combinations(boxes, 2))
    assert all(not b.intersects(shapely.LineString(c.runs[0].points)) for b in boxes for c in labels if len(c.runs[0].points) > 1)
    # the gentlest first
    assert (squares[0].speed, squares[0].power) == (30.0, 0.4) and (squares[-1].speed, squares[-1].power) == (10.0, 1.0)


@given(slow=st.floats(0.1, 50), more=st.floats(0.5, 100), weak=st.floats(1, 60), stronger=st.floats(1, 40), steps=st.integers(2, 8))
def test_a_grid_goes_evenly_from_end_to_end(slow, more, weak, stronger, steps):
    speeds, powers = grid(PowerTest("cut", slow, slow + more, weak, weak + stronger, steps))
    for found, low, high in ((speeds, slow, slow + more), (powers, weak, weak + stronger)):
        assert len(found) == steps and found == sorted(found)
        assert found[0] == pytest.approx(low, abs=0.051) and found[-1] == pytest.approx(high, abs=0.051)
        steps_ = [b - a for a, b in itertools.pairwise(found)]
        assert max(steps_) - min(steps_) < 0.21


@pytest.mark.parametrize(
    ("test", "entry"),
    [
        (PowerTest("cut", 0.0, 30.0, 40.0, 100.0), "slow"),
        (PowerTest("cut", 30.0, 30.0, 40.0, 100.0), "slow"),
        (PowerTest("cut", 1.0, 1e9, 40.0, 100.0), "slow"),
        (PowerTest("cut", 10.0, 30.0, 0.0, 100.0), "weak"),
        (PowerTest("cut", 10.0, 30.0, 40.0, 101.0), "weak"),
        (PowerTest("cut", 10.0, 30.0, 90.0, 80.0), "weak"),
        (PowerTest("cut", 10.0, 30.0, 40.0, 100.0, 1), "steps"),
        (PowerTest("cut", 10.0, 30.0, 40.0, 100.0, 9), "steps"),
        (PowerTest("cut", float("nan"), 30.0, 40.0, 100.0), "slow"),
    ],
)
def test_what_makes_no_sense_is_said(test, entry):
    with pytest.raises(NestError) as fault:
        grid(test)
    assert fault.value.entry == entry and fault.value.code == "bad_test"


def test_a_router_has_no_power_to_try():
    document = laid("brood-box", "ply12")[0].model_copy(update={"cutter": "router"})
    with pytest.raises(NestError, match="has no beam"):
        power_test_paths(document, "ply12", TEST)
