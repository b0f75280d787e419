"""One cause is one problem, with the number of its places: nothing is said twice in the same words of the same thing."""

from collections import Counter
from dataclasses import replace

import pytest

from tests.core.test_figures import WHOLE
from zygon.check.alike import one_a_cause
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.upgrade import load
from zygon.making.pipeline import build
from zygon.making.result.fault import Fault


def perforated(hole, cutter):
    d = Draft("plate", "ply12", cutter=cutter)
    d.board("p", "ply12", "lying", 0, (0, 400), (0, 300))
    d.feature(
        "p", "field", "perforation", ("centre", 0), ("centre", 0), width="80 mm", height="40 mm", diameter="5 mm", pitch="8 mm", hole=hole
    )
    return d.document().dump()


CASES = {
    **{name: WHOLE[name] for name in ("example hive-floor", "split hems none", "joint dowels 1", "laid out", "worked b")},
    **{
        f"{hole} holes, {cutter}": lambda h=hole, c=cutter: perforated(h, c)
        for hole in ("round", "square")
        for cutter in ("laser", "router")
    },
}


@pytest.mark.parametrize("name", CASES)
def test_nothing_is_said_twice_of_one_thing(name):
    found = Counter(
        (f.code, f.part, f.other, f.entry or f.owner, f.message if f.measure is None else "")
        for f in (p.fault for p in check(build(load(CASES[name]()))))
    )
    assert {k: n for k, n in found.items() if n > 1} == {}


def test_holes_under_the_bit_are_one_problem_that_counts_them():
    one_bit = perforated("square", "router")
    one_bit["cutters"]["router"]["bits"] = {}
    faults = [p.fault for p in check(build(load(one_bit)))]
    (small,) = [f for f in faults if f.code == "too_small"]
    assert small.message == "p: a cut-out is 5 mm wide, under what Bench router, 6 mm bit can cut: the worst of 47 such places"
    assert small.owner == "feature:p:field"


def test_what_measures_nothing_is_said_once_with_its_places():
    first = Fault("bore_meets", "back: a bore runs into a groove", "clear", part="back", owner="joint:j", at=(1.0, 2.0))
    second, other = replace(first, at=(3.0, 2.0)), replace(first, owner="joint:k")
    again = replace(first, severity="error")
    told = one_a_cause([first, other, second, again])
    assert [(f.owner, f.message) for f in told] == [
        ("joint:j", "back: a bore runs into a groove, at 2 places"),
        ("joint:k", "back: a bore runs into a groove"),
    ]
