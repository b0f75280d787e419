"""Screws and dowels: every hole's place, width and depth by hand, their limits on both sides, and whom a fault is told of."""

import math

import pytest

from tests.core.making.joints.pairs import pair
from zygon.making.pipeline import build

TA, TB, RUN = 12.0, 15.0, 120.0


def made(kind, ta=TA, tb=TB, run=RUN, meeting="", **more):
    built = build(pair(kind, ta, tb, run, meeting, cutter="router", **more).document())
    return built, built.parts["a"].flat, built.parts["b"].flat


def fault(built):
    return built.faults[0]  # one an end


# -- screws ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("fit", ["0", "0.4", "-0.3"])
@pytest.mark.parametrize(("size", "clearance", "pilot", "head"), [("3", 3.4, 2.0, 6.0), ("4", 4.5, 2.8, 8.0), ("5", 5.5, 3.5, 10.0)])
def test_screws_have_a_clearance_hole_a_countersink_on_the_far_face_and_a_pilot_hole(size, clearance, pilot, head, fit):
    built, a, b = made("screws", size=size, fit=fit, number="2", inset="21")
    hole = clearance + float(fit)
    # b is seen from outside: a stands on its back, 80 from its left, 12 thick
    places = sorted(c.as_circle for c in b.inside)
    assert [c[:2] for c in places] == [pytest.approx((86, 21)), pytest.approx((86, 99))] and [2 * c[2] for c in places] == [
        pytest.approx(hole)
    ] * 2
    assert {(s.diameter, round(s.hole, 6), s.angle) for s in b.sinks} == {(head, round(hole, 6), math.pi / 2)}
    near = {p.face for p in build(pair("groove", TA, TB, RUN, cutter="router").document()).parts["b"].flat.pockets}
    assert {s.face for s in b.sinks}.isdisjoint(near) and sorted((s.u, s.v) for s in b.sinks) == [
        pytest.approx((86, 21)),
        pytest.approx((86, 99)),
    ]
    assert b.sinks[0].depth == pytest.approx((head - hole) / 2)
    # into a's edge: as deep as the screw is longer than b is thick, in the middle of its thickness
    length = built.joints["a-b"].details.get("length") or 40.0
    assert {(round(x.diameter, 6), x.w) for x in a.bores} == {(pilot, TA / 2)}
    assert {x.depth for x in a.bores} == {length - TB} and sorted(x.along for x in a.bores) == [21, 99]
    assert not built.faults


def test_screws_are_as_long_as_is_sold_and_lie_along_the_joint():
    _, a, b = made("screws")
    # 2.5 times 15 is 37.5: 40 is as near as 35, and the shorter comes first
    assert {x.depth for x in a.bores} == {35.0 - TB} or {x.depth for x in a.bores} == {40.0 - TB}
    assert len(b.inside) == 2 and sorted(c.as_circle[1] for c in b.inside) == [pytest.approx(30), pytest.approx(90)]
    assert len(made("screws", run=520.0)[2].inside) == 3
    _, a, b = made("screws", countersink=False, pilot=False)
    assert not b.sinks and not a.bores and len(b.inside) == 2


@pytest.mark.parametrize(("length", "fine"), [(15.0, False), (15.01, True), (158.0, True), (158.01, False)])
def test_a_screw_is_longer_than_the_first_board_and_ends_two_before_the_far_side(length, fine):
    built, a, _ = made("screws", length=f"{length} mm")  # a is 145 long
    if fine:
        assert not built.faults and {round(x.depth, 6) for x in a.bores} == {round(length - TB, 6)}
    else:
        f = fault(built)
        assert (
            (f.code, f.entry, f.value) == ("too_deep", "/joints/a-b/length", f"{length:g} mm")
            and f.rule.startswith("more than 15 mm, at most 158 mm")
            and not a.bores
        )


@pytest.mark.parametrize(("ta", "fine"), [(5.6, True), (5.58, False)])
def test_a_pilot_hole_is_half_of_its_edge_at_most(ta, fine):
    built, a, _ = made("screws", ta=ta, size="4")
    assert bool(a.bores) == fine
    if not fine:
        assert fault(built).entry == "/joints/a-b/size" and "splits an edge 5.58 mm thick" in fault(built).message


@pytest.mark.parametrize(("inset", "fine"), [("2.26", True), ("2.24", False)])
def test_screws_lie_within_the_joint(inset, fine):
    built, _, b = made("screws", inset=inset, number="2")
    assert (len(b.inside) == 2) == fine and (not built.faults) == fine
    if not fine:
        assert fault(built).entry == "/joints/a-b/inset" and fault(built).value == "2.24 mm"


@pytest.mark.parametrize(("spacing", "fine"), [("4.52", True), ("4.48", False)])
def test_screws_do_not_run_into_one_another(spacing, fine):
    built, _, _ = made("screws", spacing=spacing, number="3", inset="30")
    assert (not built.faults) == fine
    if not fine:
        assert fault(built).entry == "/joints/a-b/number" and fault(built).value == "3"


def test_screwed_face_to_face_the_pilot_is_a_blind_hole_in_the_touching_face():
    built, a, b = made("screws", meeting="faces", length="22 mm", number="2")
    assert not built.faults and len(b.inside) == 2 and not a.bores
    assert {(p.depth, round(2 * p.as_circle[2], 6), p.what) for p in a.pockets} == {(22 - TB, 2.8, "hole")}
    touching = built.parts["a"].flat.pockets[0].face
    assert touching == ("b" if built.parts["a"].record.up == "a" else "a")  # a lies on b, and is bored from below


# -- dowels ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("fit", ["0", "0.2", "-0.1"])
@pytest.mark.parametrize("diameter", ["5", "8"])
def test_dowels_are_bored_as_wide_as_they_are_with_their_fit_in_line(diameter, fit):
    built, a, b = made("dowels", diameter=diameter, fit=fit, number="2", inset="25", depth_edge="22", depth_face="9")
    hole = float(diameter) + float(fit)
    assert not built.faults
    assert {(round(x.diameter, 6), x.depth, x.w) for x in a.bores} == {(round(hole, 6), 22.0, TA / 2)} and sorted(
        x.along for x in a.bores
    ) == [25, 95]
    assert {(round(2 * p.as_circle[2], 6), p.depth, p.what) for p in b.pockets} == {(round(hole, 6), 9.0, "hole")}
    assert sorted(p.as_circle[:2] for p in b.pockets) == [pytest.approx((86, 25)), pytest.approx((86, 95))]


def test_dowels_where_nothing_is_said():
    built, a, b = made("dowels")
    # the largest that is at most 0.55 of 12 is 6: 25 deep in the edge, two thirds of 15 in the face, 24 from the ends
    assert not built.faults and {(x.diameter, x.depth) for x in a.bores} == {(6.0, 25.0)} and {p.depth for p in b.pockets} == {10.0}
    assert sorted(x.along for x in a.bores) == [24, 96]
    assert len(made("dowels", run=450.0)[1].bores) == 4


@pytest.mark.parametrize(("ta", "diameter", "fine"), [(11.0, 8.0, True), (10.98, 8.0, False), (12.0, 9.0, True), (12.0, 9.02, False)])
def test_a_millimetre_and_a_half_of_wood_stays_beside_a_dowel(ta, diameter, fine):
    built, a, _ = made("dowels", ta=ta, diameter=f"{diameter} mm")
    assert bool(a.bores) == fine and (not built.faults) == fine
    if not fine:
        f = fault(built)
        assert (f.code, f.entry, f.value) == (
            "thick_dowel",
            "/joints/a-b/diameter",
            f"{diameter:g} mm",
        ) and "1.5 mm of wood on both sides" in f.rule
        assert f.part == "a"


@pytest.mark.parametrize(("inset", "fine"), [("4.5", True), ("4.48", False)])
def test_a_dowel_stays_a_millimetre_and_a_half_within_the_joint_s_ends(inset, fine):
    built, a, _ = made("dowels", diameter="6", inset=inset, number="2")
    assert (len(a.bores) == 2) == fine
    if not fine:
        assert (fault(built).entry, fault(built).value, fault(built).rule) == (
            "/joints/a-b/inset",
            "4.48 mm",
            "at least 4.5 mm from its middle to the end",
        )


@pytest.mark.parametrize(
    ("field", "value", "fine", "part"),
    [
        ("depth_edge", 143.49, True, ""),
        ("depth_edge", 143.5, False, "a"),
        ("depth_face", 14.99, True, ""),
        ("depth_face", 15.01, False, "b"),
    ],
)
def test_a_dowel_s_hole_ends_inside_its_board_and_the_fault_is_that_board_s(field, value, fine, part):
    built, a, _ = made("dowels", **{field: f"{value} mm"})
    assert bool(a.bores) == fine
    if not fine:
        f = fault(built)
        assert (f.entry, f.part) == (f"/joints/a-b/{field}", part) and f.code == "too_deep"


@pytest.mark.parametrize("kind", ["screws", "dowels"])
def test_a_fit_that_leaves_no_hole_is_told(kind):
    built, a, b = made(kind, fit="-9 mm")
    assert not a.bores and not b.pockets and not b.inside
    assert fault(built).entry == "/joints/a-b/fit" and "leaves no hole" in fault(built).message
