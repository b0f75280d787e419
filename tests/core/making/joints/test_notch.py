"""A board housed whole in a notch of another's edge: from either edge, flush, over or under it, over every way to stand; and where it cannot be."""

import itertools
import math

import pytest

from tests.core.making.joints.pairs import solid
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.asked.contacts import touches
from zygon.making.asked.questions import offers_between
from zygon.making.pipeline import build

#: (normal of a, normal of b): the run is the third axis.
WAYS = list(itertools.permutations("xyz", 2))
PLANE = {"x": "facing_side", "y": "facing_front", "z": "lying"}


def housed(na, nb, run_b, *, ends="cross", **more):
    """a is 200 by 100 along the run; b, 15 thick, stands across its middle along ``run_b``."""
    run = next(x for x in "xyz" if x not in (na, nb))
    d = Draft("housed", "ply12", "ply18", cutter="router")
    spans = {nb: (0, 200), run: (0, 100)}
    order = {"x": "yz", "y": "xz", "z": "xy"}
    d.board("a", "ply12", PLANE[na], 50, *(spans[x] for x in order[na]))
    reach = {"cross": (0, 150), "far": ("50 mm", 150), "near": ("61.8 mm", 150)}[ends]
    spans = {na: reach, run: run_b}
    d.board("b", "ply18", PLANE[nb], 90, *(spans[x] for x in order[nb]))
    return d.joint("notch", "a", "b", fit="0", relief="none", **more), run


@pytest.mark.parametrize(
    ("run_b", "floor", "side"),
    [
        ((60, 100), 60, "high"),
        ((70, 120), 70, "high"),
        ((40, 80), 40, "high"),
        ((0, 40), 40, "low"),
        ((-15, 30), 30, "low"),
        ((20, 60), 60, "low"),
        ((30, 70), 30, "high"),
    ],
)
@pytest.mark.parametrize("ends", ["cross", "far"])
@pytest.mark.parametrize(("na", "nb"), WAYS)
def test_the_notch_reaches_from_the_nearer_edge_to_the_board_that_stays_whole(na, nb, ends, run_b, floor, side):
    d, _ = housed(na, nb, run_b, ends=ends)
    built = build(d.document())
    assert not built.faults and built.joints["a-b"].kind == "notch" and not built.joints["a-b"].refused
    a, b = built.flats["a"], built.flats["b"]
    assert len(b.flat.pieces[0].outer.points) == 4
    # what is left of a: its blank without a notch as wide as b is thick
    depth = 100 - floor if side == "high" else floor
    assert solid(a).volume() == pytest.approx(11.8 * (200 * 100 - 17.7 * depth), rel=1e-6)
    assert (solid(a) ^ solid(b)).volume() == pytest.approx(0, abs=1e-6)
    assert built.joints["a-b"].details["depth"] == pytest.approx(depth)


@pytest.mark.parametrize("side", ["low", "high"])
def test_it_is_open_at_the_edge_that_is_said(side):
    d, _ = housed("x", "y", (30, 60), side=side)
    built = build(d.document())
    depth = 70 if side == "high" else 60
    assert solid(built.flats["a"]).volume() == pytest.approx(11.8 * (20000 - 17.7 * depth), rel=1e-6)


@pytest.mark.parametrize(
    ("run_b", "ends", "said"),
    [
        ((0, 100), "cross", "cut that in two"),
        ((-10, 130), "cross", "cut that in two"),
        ((60, 100), "near", "run it on to the far one"),
    ],
)
def test_where_it_cannot_be_it_says_why_and_is_not_offered(run_b, ends, said):
    d, _ = housed("x", "y", run_b, ends=ends)
    joint = build(d.document()).joints["a-b"]
    assert said in joint.refused
    del d.data["joints"]["a-b"]
    (offer,) = [o for o in offers_between(d.document(), "a", "b") if o["kind"] == "notch" and o["order"] == "ab"]
    assert offer["refused"] == joint.refused


def test_with_the_notch_at_the_edge_that_the_board_covers_nothing_is_left_and_it_is_said():
    d, _ = housed("x", "y", (0, 40), side="high")
    (fault,) = build(d.document()).faults
    assert (fault.code, fault.entry) == ("joint_value", "/joints/a-b/side") and "nothing is left of a" in fault.message


def test_it_holds_the_board_up_and_is_offered_where_boards_cross():
    d, _ = housed("x", "y", (60, 100))
    assert not [p.fault.code for p in check(build(d.document())) if p.fault.severity == "error" or p.fault.code == "drops"]
    del d.data["joints"]["a-b"]
    (touch,) = touches(build(d.document()), "b")
    assert [o["kind"] for o in touch.offers][:2] == ["cross_lap", "notch"]


@pytest.mark.parametrize(("slope", "rise"), [("1:6", 11.8 / 6), ("1:8", 11.8 / 8), ("angle", 11.8 * math.tan(math.radians(14)))])
@pytest.mark.parametrize(("run_b", "side"), [((60, 100), "high"), ((0, 40), "low"), ((70, 120), "high"), ((20, 60), "low")])
@pytest.mark.parametrize("end", ["low", "high"])
@pytest.mark.parametrize(("na", "nb"), WAYS)
def test_a_dovetailed_end_fills_its_notch_and_cannot_be_drawn_out(na, nb, end, run_b, side, slope, rise):
    d, run = housed(na, nb, run_b, ends="far", floor="dovetailed", slope=slope, angle="14 deg")
    if end == "high":  # b comes from the low side and ends at the far, high face
        d.data["parts"]["b"]["spans"][na] = {"low": d.entry("-60 mm"), "high": d.entry("61.8 mm")}
    built = build(d.document())
    assert not built.faults
    a, b = solid(built.flats["a"]), solid(built.flats["b"])
    # a wedge as long as a is thick, over b's thickness, stays in a and is gone from b
    depth = 100 - run_b[0] if side == "high" else run_b[1]
    wedge = rise * 11.8 / 2 * 17.7
    assert a.volume() == pytest.approx(11.8 * (200 * 100 - 17.7 * depth) + wedge, rel=1e-6)
    whole = (run_b[1] - run_b[0]) * 17.7 * (100 if end == "low" else 121.8)
    assert b.volume() == pytest.approx(whole - wedge, rel=1e-6)
    assert (a ^ b).volume() == pytest.approx(0, abs=1e-5)
    # drawn out by a little, it strikes the slope; lifted towards the open edge, it is free
    way = [0.0, 0.0, 0.0]
    way["xyz".index(na)] = 0.5 if end == "low" else -0.5
    assert (a ^ b.translate(way)).volume() > 1
    free = [0.0, 0.0, 0.0]
    free["xyz".index(run)] = 0.5 if side == "high" else -0.5
    assert (a ^ b.translate(free)).volume() == pytest.approx(0, abs=1e-5)


@pytest.mark.parametrize(
    ("ends", "more", "field", "code"),
    [
        ("cross", {}, "floor", "joint_value"),
        ("far", {"slope": "angle", "angle": "44 deg"}, "slope", "weak_tail"),
        ("far", {"slope": "angle", "angle": "50 deg"}, "angle", "joint_value"),
    ],
)
def test_where_no_dovetail_can_be_the_floor_stays_level_and_it_is_said(ends, more, field, code):
    d, _ = housed("x", "y", (84, 100), ends=ends, floor="dovetailed", **more)
    built = build(d.document())
    assert [(f.code, f.entry) for f in built.faults] == [(code, f"/joints/a-b/{field}")]
    assert len(built.flats["b"].flat.pieces[0].outer.points) == 4


def test_what_is_pared_of_a_dovetailed_notch_is_said_as_that():
    d, _ = housed("x", "y", (60, 100), ends="far", floor="dovetailed")
    said = [p.fault.message for p in check(build(d.document())) if p.fault.code == "by_hand"]
    assert said == ["a: the floor of its notch slopes through the thickness; it is pared by hand to the lines on both faces"]
