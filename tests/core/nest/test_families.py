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


@pytest.mark.parametrize("seed", [1])
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
    assert improve.score(task, found) <= improve.score(task, first) and not layout_faults(task, found) and not found.unplaced


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


@pytest.mark.parametrize("one", sorted(LETTERS))
def test_outlines_whose_edges_meet_at_corners_alone_overlap_where_their_areas_do(one):
    """On a lattice edges lie on edges and corners on corners, so that none crosses another properly: in place, turned, turned over, beside every letter."""
    shapes = {n: Polygon([(10 * x, 10 * y) for x, y in LETTERS[n]]) for n in LETTERS}
    names, seen = sorted(LETTERS), 0
    turns = [(math.radians(a), m) for m in (False, True) for a in (0, 90, 180, 270)]
    base = base_of([shapes[n] for n in names], [turns] * len(names))
    rng = random.Random(one)
    for _ in range(120):
        other, (angle, mirrored) = rng.choice(names), rng.choice(turns)
        # lattices of the letters' own widths, so that they meet all along
        pose = (
            rng.choice([0, 14, 15, 28, 35, 50, -14, -15, -28, -35]),
            rng.choice([0, 14, 28, 42, 56, -14, -28, -42]),
            angle,
            float(mirrored),
        )
        field = Field(base, [names.index(one), names.index(other)], np.array([(0.0, 0.0, 0.0, 0.0), pose]), seed=1)
        polygons = [Polygon(np.round(field.points[field.first[i] : field.first[i + 1]], 9)) for i in range(2)]
        area = polygons[0].intersection(polygons[1]).area
        assert (field.losses()[0, 1] > 0) == (area > 1e-6), (one, other, pose, area)
        seen += area > 1e-6
    assert 20 < seen < 115


@pytest.mark.parametrize("by", [0.05, 1.0, 8.0])
@pytest.mark.parametrize("along", [0, 1])
def test_boards_as_high_as_the_sheet_and_combs_tip_to_valley_overlap_where_they_do(along, by):
    wide, high = (45, 100) if along == 0 else (100, 45)
    boards = base_of([Polygon([(0, 0), (wide, 0), (wide, high), (0, high)])], [[(0.0, False)]])
    poses = np.zeros((2, 4))
    for way in (1, -1):
        poses[1, along] = way * (45 - by)
        assert Field(boards, [0, 0], poses, 1).losses()[0, 1] > 0
        poses[1, along] = way * 45
        assert Field(boards, [0, 0], poses, 1).losses()[0, 1] == 0
    # fingers of 20 by 9: laid into one another's gaps they touch, and by so much less they bite
    comb = base_of([Polygon(comb_panel(100, 60, 9, 5, 3)).buffer(0)], [[(0.0, False)]])
    depth, pitch = (9.0, 20.0)
    poses[1] = (pitch, 60 + depth, 0, 0) if along == 0 else (100 + depth, pitch, 0, 0)
    still = Field(comb, [0, 0], poses, 1)
    touching = Polygon(still.points[: still.first[1]]).intersection(Polygon(still.points[still.first[1] :])).area
    assert (still.losses()[0, 1] > 0) == (touching > 1e-6)
    poses[1, along] -= by
    moved = Field(comb, [0, 0], poses, 1)
    bite = Polygon(moved.points[: moved.first[1]]).intersection(Polygon(moved.points[moved.first[1] :])).area
    assert bite > 1e-6 and moved.losses()[0, 1] > 0
