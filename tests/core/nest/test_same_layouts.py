"""A seed and a number of rounds fix a layout: the layouts of odd tasks are what they were, and so are rests, rooms, mended arrangements and bar plans.

Where a change of the engine is meant to change them, ``ZYGON_WRITE_FIGURES=1 pytest tests/core/nest/test_same_layouts.py`` writes them anew; whether
they are better is what ``make bench-nest`` tells.
"""

import math
import random
from dataclasses import astuple, replace

import pytest

from tests.core.figures import compared, condensed
from tests.core.nest.test_nesting import ELL, el_offcut, rect
from zygon.design.examples import EXAMPLES
from zygon.geometry.boolean import Region, subtract
from zygon.geometry.contour import circle, polygon, rectangle, rounded_rectangle
from zygon.making.pipeline import build
from zygon.nest.bars import Bar, Cut, cut_bars
from zygon.nest.bottom_left import first_layout
from zygon.nest.design import lay_out, plans
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.legal import layout_faults
from zygon.nest.mend import holding, mended
from zygon.nest.remainder import rest_region, rests_of, squared
from zygon.nest.room import room_on
from zygon.nest.task import NestSheet, Placement, Shape, Task

FULL, MIDDLE, SMALL = NestSheet(300.0, 200.0, "full", 10.0), NestSheet(210.0, 130.0, "middle", 5.5), NestSheet(170.0, 120.0, "small", 4.0)
MARGINS = (3.0, 5.0, 7.0, 11.0)


def comb(w, h, teeth):
    """A panel with fingers on two of its edges: of many corners, with notches that nothing goes into."""
    pitch = w / (2 * teeth + 1)
    cuts = [rectangle(pitch * (2 * k + 1), -1, pitch * (2 * k + 2), 4) for k in range(teeth)]
    cuts += [rectangle(pitch * (2 * k + 1), h - 6, pitch * (2 * k + 2), h + 1) for k in range(teeth // 2)]
    return subtract([rectangle(0, 0, w, h)], cuts)[0]


def shapes(seed=1, many=1, turn="90"):
    """Parts of all sorts, no two alike."""
    lot = random.Random(seed)

    def size(low, high):
        return round(lot.uniform(low, high), 1)

    tee = polygon([(28, 45), (28, 0), (42, 0), (42, 45), (70, 45), (70, 60), (0, 60), (0, 45)])
    window = Region(rectangle(0, 0, 110, 82), (rounded_rectangle(55, 41, 82, 58, 6).wound(ccw=False), circle(6, 6, 2).wound(ccw=False)))
    some = [
        ("panel", Region(rectangle(0, 0, size(80, 120), size(40, 60))), 2),
        ("ell", Region(ELL), 2),
        ("tee", Region(tee), 2),
        ("window", window, 1),
        ("disc", Region(circle(5, -3, size(9, 24))), 3),
        ("comb", comb(size(70, 90), 33, 5), 2),
        ("round", Region(rounded_rectangle(0, 0, 51, 37, size(6, 16))), 1),
    ]
    turns = allowed_turns(turn)
    return tuple(Shape(n, r, q * many, turns, n in ("ell", "comb"), turn == "free") for n, r, q in some)


TASKS = {
    "roll": Task(shapes(), NestSheet(math.inf, 203.0), 1.5, 4.0, 3, rounds=3),
    "gap-0": Task(shapes(2), NestSheet(math.inf, 203.0), 0.0, 0.0, 4, rounds=2, margins=MARGINS),
    "few-turns": Task(shapes(3, 1, "180"), FULL, 2.0, 3.0, 5, rounds=3),
    "free": Task(shapes(4, 1, "free")[1:5], NestSheet(math.inf, 140.0), 1.0, 2.0, 6, rounds=3),
    "dissolved": Task(
        (
            *(rect(w, h, 1, "none", str(i)) for i, (w, h) in enumerate([(60, 40)] * 6 + [(55, 38)] * 2)),
            Shape("ell", Region(ELL), 4, allowed_turns("90")),
        ),
        NestSheet(252.0, 122.0),
        rounds=4,
    ),
    "kinds": Task(shapes(5), MIDDLE, 2.0, rounds=2, others=(SMALL, NestSheet(math.inf, 150.0, "roll", 45.0)), margins=MARGINS),
    "counts": Task(shapes(6), replace(SMALL, count=2), 1.0, 2.0, rounds=2, others=(replace(MIDDLE, count=2),), margins=MARGINS),
    "one-sheet": Task(shapes(7, 2), FULL, 1.0, 2.0, rounds=2, max_sheets=1),
    "offcut": Task(shapes(8, 1), FULL, 2.0, 1.0, rounds=3, stock=(el_offcut(), NestSheet(90.0, 70.0, "rest 8", 0.0))),
    "held": Task(
        shapes(9, 1),
        FULL,
        2.0,
        1.0,
        rounds=3,
        stock=(FULL, SMALL),
        closed=frozenset({1}),
        held=(
            (0, Placement(0, 0, 60.0, 71.0, math.pi / 2)),
            (0, Placement(4, 1, 250.0, 40.0, 0.0)),
            (1, Placement(1, 0, 71.0, 91.0, math.pi / 2, True)),
        ),
    ),
    "packed": Task(
        (rect(70, 31, 4), rect(42, 42, 3), rect(19, 88, 3), rect(55, 24, 2, "none")),
        NestSheet(400.0, 130.0),
        1.0,
        rounds=1,
        margins=MARGINS,
    ),
    "packed-roll": Task(
        (rect(12, 7, 2), rect(8, 6, 2), rect(5, 3, 4), rect(9, 2, 2), rect(11, 2, 1, "180")), NestSheet(math.inf, 20.0), rounds=1
    ),
}


def told(layout):
    return {
        "sheets": [[s.sheet.name, s.used_length, s.cost, [list(astuple(p)) for p in s.placements]] for s in layout.sheets],
        "unplaced": sorted(layout.unplaced.items()),
        "share": layout.share,
        "tightness": layout.tightness,
        "passes": layout.passes,
    }


def same(name, data):
    compared(f"layout {name}", {"layout": condensed(data)})


@pytest.mark.parametrize("name", TASKS)
def test_first_layouts_and_what_comes_back_of_their_sheets_are_what_they_were(name):
    task = TASKS[name]
    layout = first_layout(task)
    assert layout_faults(task, layout) == []
    rests = [[squared(rest_region(r)), list(r.exterior.coords)] for s in layout.sheets for r in rests_of(task, s, 20.0)]
    rests = [[s.outer.bounds if s else None, points] for s, points in rests]
    rooms = [room_on(task, s.sheet, s.placements[1:], s.placements[0]) for s in layout.sheets]
    same(f"first-{name}", {"layout": told(layout), "rests": rests, "rooms": rooms})


@pytest.mark.parametrize("name", TASKS)
def test_the_same_rounds_give_the_same_layouts(name):
    task = TASKS[name]
    progress = []
    layout = nest(task, lambda done, of, best: progress.append((done, of, best.passes)) or True)
    assert layout_faults(task, layout) == []
    same(f"rounds-{name}", {"layout": told(layout), "told": sorted(set(progress))})


@pytest.mark.parametrize("name", ["few-turns", "kinds", "counts", "offcut"])
def test_arrangements_are_mended_as_they_were(name):
    """Some of what lay there is wider now, one lies too near its neighbour, one is turned as it may not be, one beside the sheet."""
    task = TASKS[name]
    first = first_layout(task)
    sheets = [(s.sheet, list(s.placements)) for s in first.sheets]
    own = sheets[0][1]
    own[1] = replace(own[1], x=own[1].x + 6.0)
    own[-1] = replace(own[-1], angle=own[-1].angle + 0.2)
    sheets[-1][1][-1] = replace(sheets[-1][1][-1], y=-50.0)
    wider = replace(task, shapes=(replace(task.shapes[0], region=Region(rectangle(0, 0, 104, 61))), *task.shapes[1:]))
    rank = {(p.shape, p.copy): n % 3 for n, p in enumerate(own)}
    found = mended(wider, sheets, rank, closed=[1] if len(sheets) > 1 else [])
    held = holding(wider, sheets, [s[:3] for _, s in sheets])
    rules = [[k.name, k.count or 0] for k in (*held.kinds, *held.stock)], held.max_sheets, [[n, list(astuple(p))] for n, p in held.held]
    same(f"mended-{name}", {"mended": told(found), "rules": rules})


def test_bar_plans_are_what_they_were():
    lot = random.Random(4)
    found = []
    for k in range(4):
        cuts = [Cut(round(lot.uniform(420, 1900), 1), lot.randint(1, 5)) for _ in range(2 + k)]
        bars = [Bar(6000.0, 21.0, None if k % 2 else 2), Bar(3000.0, 12.0), Bar(2010.0, 6.9, 1)][: 1 + k % 3]
        plan = cut_bars(cuts, bars, 2.4, 10.0)
        found.append([plan.bars, plan.cost, plan.bound, plan.proven, list(plan.missing), [list(astuple(p)) for p in plan.patterns]])
    same("bars", found)


@pytest.mark.parametrize("name", ["cupboard", "brood-box", "feeder-tray", "electronics-box"])
def test_designs_are_laid_out_as_they_were(name):
    document = EXAMPLES[name]()
    found = {}
    for plan in plans(build(document)):
        if plan.task is None:
            continue
        fixed = replace(plan, task=replace(plan.task, rounds=1))
        nested = lay_out(document, fixed)
        found[plan.stock] = {
            "parts": list(plan.parts),
            "layout": told(nested.layout),
            "cost": nested.sheet_cost,
            "reckoned": [[r.cut_length, r.travel_length, r.pierces, r.seconds, r.cost] for r in nested.reckonings],
        }
    same(f"design-{name}", found)
