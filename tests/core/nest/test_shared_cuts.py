"""Cuts that slanting ends share: against every order of the pieces tried one after the other, and by solids laid on the bar."""

import math
from itertools import permutations, product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.tube.frames import key, stocked
from zygon.design.examples import example
from zygon.design.patch import patched
from zygon.edits.frames import join_members
from zygon.making.pipeline import build
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import PlaneCut
from zygon.nest.bars_of_design import bar_work
from zygon.nest.shared_cuts import Slanting, ends_of, saw_cuts, shared
from zygon.stock.section import Section

WAYS = [None, Slanting(0.7, 0.0, 40.0), Slanting(0.5, 0.0, 25.0), Slanting(0.3, 0.0, 10.0)]


def tried(pieces) -> tuple[int, float]:
    """The most that any order of the pieces, each either way round, saves; and the most cuts that are shared in one that saves it."""
    best = (0.0, 0)
    for order in set(permutations(pieces)):
        for flips in product((False, True), repeat=len(order)):
            laid = [p[::-1] if f else p for p, f in zip(order, flips, strict=True)]
            met = [a[1] for a, b in zip(laid, laid[1:], strict=False) if a[1] is not None and a[1] == b[0]]
            best = max(best, (round(sum(m.saves for m in met), 4), len(met)))
    return best[1], best[0]


@settings(max_examples=150, deadline=None)
@given(st.lists(st.tuples(st.sampled_from(WAYS), st.sampled_from(WAYS)), min_size=1, max_size=5))
def test_no_order_of_the_pieces_saves_more(pieces):
    assert shared((p, 1) for p in pieces) == tried(pieces)


def test_so_many_of_a_piece_count_so_often():
    both = (WAYS[1], WAYS[1])
    assert shared([(both, 6)]) == (5, 200.0) and shared([(both, 1)]) == shared([(both, 0)]) == (0, 0)
    assert shared([((WAYS[1], None), 6)]) == (3, 120.0)
    # a run through both ways, open at its ends
    assert shared([((None, WAYS[1]), 1), ((WAYS[1], WAYS[2]), 1), ((WAYS[2], None), 1)]) == (2, 65.0)


def cut(section: Section, angle: float, toward: float, end: str = "b") -> MemberBody:
    out = (-math.sin(toward) * math.sin(angle), math.cos(toward) * math.sin(angle), math.cos(angle))
    if end == "b":
        return MemberBody(section, 300.0, at_b=(PlaneCut((0, 0, 300.0), out, "j"),))
    return MemberBody(section, 300.0, at_a=(PlaneCut((0, 0, 0.0), (out[0], out[1], -out[2]), "j"),))


@pytest.mark.parametrize("end", ["a", "b"])
@pytest.mark.parametrize("quarter", range(4))
@pytest.mark.parametrize(
    "section, across",
    [(Section("square", 40, wall=3), (40, 40)), (Section("rectangle", 20, 50), (20, 50)), (Section("round", 30, wall=2), (30, 30))],
)
def test_a_slanting_end_lies_so_far_in_the_next(section, across, quarter, end):
    own = ends_of(cut(section, math.radians(30), quarter * math.pi / 2, end))
    found, other = own[0 if end == "a" else 1], own[1 if end == "a" else 0]
    assert other is None and found is not None
    assert found.saves == pytest.approx(across[quarter % 2] * math.tan(math.radians(30)), abs=1e-3)
    again = ends_of(cut(section, math.radians(30), (quarter + 2) * math.pi / 2, "b" if end == "a" else "a"))
    assert found in again  # looks the other way, which a turned piece does
    if section.shape == "rectangle":
        assert found not in ends_of(cut(section, math.radians(30), (quarter + 1) * math.pi / 2))


def test_what_cannot_be_turned_shares_nothing():
    assert ends_of(cut(Section("angle", 40, 40, 4), 0.5, 0.0)) == (None, None)
    assert ends_of(cut(Section("square", 40), 0.5, 0.3)) == (None, None)
    assert ends_of(cut(Section("square", 40), 0.5, math.pi / 4))[1] is not None
    assert ends_of(cut(Section("round", 40), 0.5, 0.3))[1] is not None
    assert ends_of(MemberBody(Section("round", 40), 300.0)) == (None, None)


def test_four_mitred_sides_of_a_frame_share_three_cuts():
    d = stocked("square tube")
    points = {"o": ("0", "0", "0"), "p": ("500", "0", "0"), "q": ("500", "400", "0"), "r": ("0", "400", "0")}
    d.frame("f", points, {"l": ("o", "p"), "m": ("p", "q"), "n": ("q", "r"), "k": ("r", "o")})
    for name, line in (("front", "l"), ("right", "m"), ("back", "n"), ("left", "k")):
        d.member(name, key("square tube"), "f", line)
    document = patched(d.document().dump(), join_members(build(d.document()), corner="mitre")[1])
    (work,) = bar_work(build(document))
    (pattern,) = work.plan["patterns"]
    assert pattern["shared"] == 3 and pattern["saved"] == pytest.approx(3 * 40, abs=1e-3)
    # two long points of 540 and two of 440, less the three overlaps, and a kerf of 2 / cos 45 with each
    assert pattern["rest"] == pytest.approx(6000 - 2 * 540 - 2 * 440 - 4 * 2 * math.sqrt(2), abs=2 * math.sqrt(2) + 1e-3)


@pytest.mark.parametrize(
    ("pieces", "slanting", "shared", "trimmed", "rest", "cuts"),
    [
        (3, 0, 0, False, 40.0, 3),  # one behind each piece
        (3, 0, 0, False, 0.0, 2),  # the last ends with its bar
        (3, 0, 0, True, 40.0, 4),
        (3, 0, 0, True, 0.0, 4),  # trimmed at both ends
        (2, 4, 0, False, 40.0, 4),
        (2, 4, 1, False, 40.0, 3),
        (2, 4, 1, False, 0.0, 3),  # mitred at both ends: each its own, or one for two
        (2, 2, 0, False, 40.0, 3),  # square to square, and a slanting end on either side
        (1, 1, 0, False, 40.0, 2),
        (1, 0, 0, False, 0.0, 0),
    ],
)
def test_cuts_are_counted_by_the_ends_that_they_make(pieces, slanting, shared, trimmed, rest, cuts):
    assert saw_cuts(pieces, slanting, shared, trimmed=trimmed, rest=rest) == cuts


def test_a_plan_says_how_many_cuts_it_takes_and_how_long():
    """The stand's eight mitred pieces lie on one bar: sixteen slanting ends, less those that two share; the rails are coped from square ends."""
    document = example("tube-stand")
    data = document.dump()
    data["stocks"]["tube42"]["sawing"] = 90.0
    by = {w.stock: w.plan for w in bar_work(build(patched(data, [])))}
    mitred = by["tube42"]
    assert (
        mitred["saw_cuts"] == 16 - sum(p["shared"] * p["times"] for p in mitred["patterns"])
        and mitred["seconds"] == 90 * mitred["saw_cuts"]
    )
    rails = by["tube33"]
    assert (
        rails["saw_cuts"] == sum(c["count"] * p["times"] for p in rails["patterns"] for c in p["cuts"])
        and rails["seconds"] == 60 * rails["saw_cuts"]
    )
