"""The search on families of instances drawn anew: what it finds is legal, so that nothing of it is thrown away; combs are looked at as boards."""

import math
import random

import numpy as np
import pytest
from shapely.geometry import Polygon

from bench.families import FAMILIES, LETTERS, comb_panel
from zygon.nest import improve
from zygon.nest.base import base_of
from zygon.nest.bottom_left import first_layout
from zygon.nest.engine import nest
from zygon.nest.field import Field
from zygon.nest.kernels import OFF
from zygon.nest.legal import layout_faults
from zygon.nest.shapes import TOUCH, filled
from zygon.nest.task import NestSheet, Task


@pytest.mark.parametrize("seed", [1, 2])
@pytest.mark.parametrize("name", sorted(FAMILIES))
def test_what_rounds_find_is_legal_and_never_worse(name, seed, monkeypatch):
    instance = FAMILIES[name](random.Random(f"{name} {seed}"))
    task = Task(instance.shapes, NestSheet(math.inf, instance.width), rounds=3, seed=seed)
    first = first_layout(task)
    assert not layout_faults(task, first) and not first.unplaced
    checked = []
    monkeypatch.setattr(improve, "layout_faults", lambda *a: checked.append(layout_faults(*a)) or checked[-1])
    found = nest(task)
    assert [c for c in checked if c] == []
    assert improve.score(found) <= improve.score(first) and not layout_faults(task, found) and not found.unplaced


@pytest.mark.parametrize("letter", ["E", "F", "H", "I", "L", "T"])
@pytest.mark.parametrize("along", [0, 1])
@pytest.mark.parametrize("by", [0.15, 0.35, 1.0, 2.0])
def test_outlines_in_line_with_one_another_that_overlap_are_seen_once_they_are_within_bounds(letter, along, by):
    """Pushed against a bound, two alike lie edge on edge: none of their edges crosses another, and all the same they share room."""
    shape = Polygon([(10 * x, 10 * y) for x, y in LETTERS[letter]]).buffer(-TOUCH, join_style="mitre")
    base = base_of([shape], [[(0.0, False)]])
    poses = np.zeros((2, 4))
    poses[1, along] = 10 * by
    if shape.intersection(Polygon(np.asarray(shape.exterior.coords) + poses[1, :2])).area < 1:
        pytest.skip("they do not overlap so")
    bounds = np.array([0.0, 0.0, 90.0, 70.0])
    if along:
        bounds = np.array([0.0, 0.0, 50.0, 90.0])
    field = Field(base, [0, 0], poses, seed=3)
    field.within(bounds)
    assert field.losses()[0, 1] > 0
    # and nothing was moved farther than it may be
    assert np.abs(field.pose[:, :2] - poses[:, :2]).max() <= OFF + TOUCH * 1.01


@pytest.mark.parametrize("n", [5, 18, 37])
def test_a_comb_is_looked_at_as_a_board_and_what_could_take_a_part_is_left(n):
    comb = Polygon(comb_panel(120, 80, 6, 2 * n + 1, 2 * n + 1))
    board = filled(comb, 12.0)
    assert comb.difference(board).area < 1e-6 and len(board.exterior.coords) <= 13 < len(comb.exterior.coords)
    assert filled(comb, 0.0) is comb
    assert filled(comb, 0.5 * 80 / (2 * n + 1)).area == pytest.approx(comb.area, rel=1e-6)
    u = Polygon(
        [
            (0, 0),
            (84, 0),
            *((84 - 2 * k / 10, 6 * k) for k in range(1, 11)),
            (66, 60),
            (66, 18),
            (18, 18),
            (18, 60),
            *((2 - 2 * k / 10, 60 - 6 * k) for k in range(10)),
        ]
    )
    assert filled(u, 20.0).area == pytest.approx(u.area, rel=0.02)
