"""Who gives way in an arrangement, what a search holds, and when an earlier layout is gone on with: at the limit, and for each way alone."""

import itertools
from types import SimpleNamespace

import pytest

from tests.core.nest.test_by_hand import arrangement
from tests.core.nest.test_nesting import rect
from zygon.design.document import parse_document
from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.nest.design import held_task, lay_out, plans, ranked
from zygon.nest.legal import layout_faults
from zygon.nest.mend import mended
from zygon.nest.record import carried, placements_data
from zygon.nest.task import NestSheet, Placement, Task


def at(shape, copy):
    return Placement(shape, copy, 0.0, 0.0, 0.0, False)


def test_changed_parts_give_way_before_those_that_are_as_they_were_and_others_before_locked_ones():
    plan = SimpleNamespace(parts=["a", "b", "c", "d"], flats=[SimpleNamespace(digest=k) for k in ("A", "B", "C", "D")])
    sheets = [(None, [at(0, 0), at(1, 0)]), (None, [at(2, 0), at(3, 0), at(3, 1)])]
    flats = {"a": "A", "b": "another", "c": "C"}  # b has changed, d is new
    locked = {("a", 0), ("b", 0), ("d", 1)}
    assert ranked(plan, sheets, flats, locked) == {(0, 0): 0, (1, 0): 1, (2, 0): 2, (3, 0): 3, (3, 1): 1}


def design(*quantities, width=90, first=None):
    d = Draft("d", "ply12")
    for i, quantity in enumerate(quantities):
        d.board(f"p{i}", "ply12", "lying", 20 * i, (0, first if first and not i else width + 10 * i), (0, 70), quantity=quantity)
    return d


def planned(quantities, **sizes):
    document = design(*quantities, **sizes).document()
    (plan,) = plans(build(document))
    return document, plan


def test_a_search_holds_what_is_locked_and_nothing_else():
    document, plan = planned((3, 2))
    found = lay_out(document, plan, seconds=0.1)
    for locked in ((), ("p0",), ("p1",), ("p0", "p1")):
        data = document.dump()
        data["nest"]["arranged"] = {"ply12": arrangement(plan, found, locked=locked)}
        (by_hand,) = plans(build(parse_document(data)))
        held = held_task(by_hand).held
        assert sorted(by_hand.parts[p.shape] for _, p in held) == ["p0"] * 3 * ("p0" in locked) + ["p1"] * 2 * ("p1" in locked)
    assert held_task(plan) is plan.task


def kept(found):
    flats = {part: flat.digest for part, flat in zip(found.plan.parts, found.plan.flats, strict=True)}
    return {**placements_data(found), "flats": flats, "sheet_cost": 24.5}


@pytest.mark.parametrize(("quantities", "few"), [((2, 2), True), ((3, 2), False), ((3, 3), True), ((1, 4), True)])
def test_an_earlier_layout_is_gone_on_with_where_half_of_the_parts_are_as_they_were(quantities, few):
    document, before = planned(quantities)
    data = kept(lay_out(document, before, seconds=0.1))
    same = carried(before, data)
    assert same.few and same.cost == 24.5 and set(same.rank.values()) == {2} and len(same.rank) == sum(quantities)
    # the first part has another width
    _, after = planned(quantities, first=97)
    again = carried(after, data)
    assert again.few is few
    assert again.rank == {
        (i, c): (2 if after.parts[i] == "p1" else 3) for i, part in enumerate(after.parts) for c in range(quantities[int(part[1])])
    }
    assert sorted(p.shape for _, own in again.sheets for p in own) == sorted(i for i, c in again.rank)


def test_an_earlier_layout_is_nothing_to_go_on_with_where_all_parts_are_others_or_other_sheets_are_there():
    document, before = planned((2, 2))
    data = kept(lay_out(document, before, seconds=0.1))
    _, other = planned((2, 2), width=95)
    assert carried(other, data) is None and carried(before, {"flats": {}}) is None
    assert carried(before, {**data, "choices": [*data["choices"], "an offcut"]}).few is False
    # a sheet that there is no more takes its parts with it
    assert carried(before, {**data, "sizes": ["gone"] * len(data["sizes"])}).sheets == []


TWO = NestSheet(100.0, 100.0, "two of it", 1.0, count=2)
REST = NestSheet(100.0, 100.0, "rest", 0.0)


@pytest.mark.parametrize("emptied", list(itertools.product([False, True], repeat=3)))
@pytest.mark.parametrize("last", ["kind", "rest", "gone"])
def test_a_sheet_that_was_emptied_is_used_again_and_none_twice(last, emptied):
    """Two sheets of a kind and one rest, a piece on each: whichever of them is emptied, all that is there is used, and no more."""
    third = {"kind": TWO, "rest": REST, "gone": NestSheet(100.0, 100.0, "no more", 1.0)}[last]
    task = Task((rect(90, 90, 5),), TWO, 0.0, rounds=1, stock=(REST,) if last == "rest" else ())
    place = [Placement(0, n, 3.0, 4.0, 0.0) for n in range(3)]
    sheets = [(s, [] if e else [p]) for s, e, p in zip((TWO, TWO, third), emptied, place, strict=True)]
    layout = mended(task, sheets, {})
    there = 3 if last == "rest" else 2
    assert layout_faults(task, layout) == []
    assert sum(len(s.placements) for s in layout.sheets) == there and layout.unplaced == {0: 5 - there}
    assert sorted(s.sheet.name for s in layout.sheets) == sorted(["two of it"] * 2 + ["rest"] * (there - 2))
    # what lay on a sheet that is there lies where it lay
    kept = [p for s, e, p in zip((TWO, TWO, third), emptied, place, strict=True) if not e and s is not None and last != "gone"][:there]
    if last == "gone":
        kept = [p for e, p in zip(emptied[:2], place[:2], strict=True) if not e]
    found = [p for s in layout.sheets for p in s.placements]
    assert all(p in found for p in kept), (kept, found)


def test_a_closed_sheet_gets_nothing_though_it_is_empty():
    task = Task((rect(90, 90, 3),), TWO, 0.0, rounds=1)
    layout = mended(task, [(TWO, []), (TWO, [Placement(0, 0, 3.0, 4.0, 0.0)])], {}, closed=[0])
    assert [len(s.placements) for s in layout.sheets] == [1] and layout.unplaced == {0: 2}
