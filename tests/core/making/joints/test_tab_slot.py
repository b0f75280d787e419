"""Tabs through slots: number, spacing, lists, standing over, open and closed slots."""

import pytest

from zygon.check.overlap import common_length
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.pipeline import build

T = 11.8  # measured thickness of the workshop's 12 mm plywood


def shelf(at="100 mm", fit="0", **more):
    """A shelf of ply between two sides 300 apart, tabbed through both; sides 200 deep and 240 high."""
    draft = Draft("case", "ply12")
    draft.board("left", "ply12", "facing_side", 0, (0, 200), (0, 240))
    draft.board("right", "ply12", "facing_side", 300, (0, 200), (0, 240), face="right")
    draft.board("shelf", "ply12", "lying", at, ("left.right", "right.left"), (0, 200))
    draft.joint("tab_slot", "shelf", "left", fit=fit, **more)
    draft.joint("tab_slot", "shelf", "right", fit=fit)
    return draft


def slots(built, key="left"):
    return sorted(c.bounds for c in built.parts[key].flat.inside)


def test_a_tab_as_long_as_the_mating_board_is_thick_sits_flush():
    # common practice
    built = build(shelf(number=2).document(), nominal=True)
    x0, _, x1, _ = built.parts["shelf"].flat.bounds
    assert (x0, x1) == pytest.approx((-T, 300 - T), abs=1e-6)
    assert built.parts["left"].box.span("x") == pytest.approx((0, T))


def test_nothing_overlaps_and_slots_are_as_wide_as_the_tabbed_board_is_thick():
    built = build(shelf(number=3).document(), nominal=True)
    assert common_length(built.parts["shelf"], built.parts["left"], 1e-3) == 0
    found = slots(built)
    assert len(found) == 3
    for b in found:
        assert b[3] - b[1] == pytest.approx(T, abs=1e-6)


@pytest.mark.parametrize("fit", [0.06, 0.4, -0.1])
def test_the_slot_is_larger_than_the_tab_by_the_fit_in_both_directions(fit):
    built = build(shelf(number=2, length="30 mm", fit=f"{fit} mm").document())
    for b in slots(built):
        assert b[2] - b[0] == pytest.approx(30 + fit, abs=1e-6)
        assert b[3] - b[1] == pytest.approx(T + fit, abs=1e-6)


def test_spacing_and_inset_place_the_tabs():
    spaced = build(shelf(number=3, length="20 mm", spacing="50 mm").document(), nominal=True)
    assert [(b[0] + b[2]) / 2 for b in slots(spaced)] == pytest.approx([50, 100, 150])
    inset = build(shelf(number=2, length="20 mm", inset="25 mm").document(), nominal=True)
    assert [(b[0], b[2]) for b in slots(inset)] == [pytest.approx((25, 45)), pytest.approx((155, 175))]


def test_a_list_of_positions_and_lengths_is_taken_as_it_stands():
    tabs = {"p": {"at": {"text": "40 mm"}, "length": {"text": "30 mm"}}, "q": {"at": {"text": "150 mm"}, "length": {"text": "10 mm"}}}
    built = build(shelf(tabs=tabs).document(), nominal=True)
    assert [(b[0], b[2]) for b in slots(built)] == [pytest.approx((25, 55)), pytest.approx((145, 155))]


def test_tabs_that_leave_the_run_or_run_together_are_said_and_left_out():
    tabs = {
        "p": {"at": {"text": "5 mm"}, "length": {"text": "30 mm"}},
        "q": {"at": {"text": "100 mm"}, "length": {"text": "30 mm"}},
        "r": {"at": {"text": "110 mm"}, "length": {"text": "30 mm"}},
    }
    built = build(shelf(tabs=tabs).document(), nominal=True)
    assert len(slots(built)) == 1
    assert sorted(f.entry.rpartition("/")[2] for f in built.faults) == ["spacing", "tabs"]


def test_tabs_stand_over_the_far_face_by_what_is_asked():
    built = build(shelf(number=2, stand_over="4 mm").document(), nominal=True)
    assert built.parts["shelf"].flat.bounds[0] == pytest.approx(-T - 4, abs=1e-6)


def test_a_span_that_runs_through_the_slotted_board_is_cut_back_between_the_tabs():
    draft = shelf(number=2)
    draft.data["parts"]["shelf"]["spans"]["x"]["low"] = draft.entry("left.left")
    through, short = build(draft.document(), nominal=True), build(shelf(number=2).document(), nominal=True)
    assert through.parts["shelf"].flat.area == pytest.approx(short.parts["shelf"].flat.area, rel=1e-6)
    assert common_length(through.parts["shelf"], through.parts["left"], 1e-3) == 0


def test_flush_with_the_end_the_slot_is_open_and_set_in_it_is_closed_with_its_web_checked():
    flush = build(shelf(at="0").document(), nominal=True)
    assert slots(flush) == [] and "web" not in flush.joints["shelf-left"].details
    near = build(shelf(at="4 mm").document(), nominal=True)
    assert len(slots(near)) >= 1
    assert near.joints["shelf-left"].details["web"] == pytest.approx(4)
    webs = [p.fault for p in check(near) if p.fault.code == "thin_web"]
    assert webs and webs[0].value == "4 mm" and "11.8 mm" in webs[0].rule
    assert not [p for p in check(build(shelf(at="20 mm").document())) if p.fault.code == "thin_web"]
