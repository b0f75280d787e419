"""Problems: each rule fires where it is broken, says value and rule, and stays quiet where it is kept."""

from dataclasses import replace

import pytest

from tests.core.making.joints.pairs import pair
from zygon.check.depth import Run
from zygon.check.problem import as_problems
from zygon.check.run import check
from zygon.check.thin import finger_faults
from zygon.design.draft import Draft
from zygon.design.examples import brood_box
from zygon.design.patch import apply_patch, patched
from zygon.making.flats.flat import edge_bore_axis
from zygon.making.pipeline import build
from zygon.making.result.fault import Fault
from zygon.making.result.operations import EdgeBore
from zygon.measure.display import format_length


def board(**more):
    draft = Draft("d", "ply12")
    draft.board("plate", "ply12", "lying", 0, (0, "300 mm"), (0, "200 mm"), **more)
    return draft


def found(draft, code):
    return [p.fault for p in check(build(draft.document() if isinstance(draft, Draft) else draft)) if p.fault.code == code]


def test_the_demo_has_no_problems():
    assert check(build(brood_box())) == []


def test_parts_that_overlap():
    draft = board()
    draft.board("post", "ply12", "facing_side", "50 mm", ("40 mm", "90 mm"), ("-20 mm", "60 mm"))
    fault = found(draft, "overlap")[0]
    assert fault.value == "6.96 cm³"  # 50 by 11.8 by 11.8 mm
    assert "over 11.8 mm at 55.9 mm, 65 mm, 5.9 mm" in fault.message or "over 50 mm at 55.9 mm, 65 mm, 5.9 mm" in fault.message
    draft.board("twin", "ply12", "lying", "5 mm", ("250 mm", "400 mm"), (0, "200 mm"))
    assert {(f.part, f.other) for f in found(draft, "overlap")} == {("plate", "post"), ("plate", "twin")}


def test_parts_that_only_touch_do_not_overlap():
    draft = board()
    draft.board("post", "ply12", "facing_side", "50 mm", (0, "200 mm"), ("plate.top", "60 mm"))
    assert not found(draft, "overlap")


def test_a_post_through_a_fitting_slot_does_not_overlap():
    draft = board()
    draft.board("post", "ply12", "facing_side", "50 mm", ("40 mm", "90 mm"), ("-20 mm", "60 mm"))
    draft.feature("plate", "slot", "rectangle", ("room", "post.centre"), ("room", "post.centre"), width="12 mm", height="50.4 mm")
    assert not found(draft, "overlap")


def test_a_part_in_two_pieces():
    draft = board()
    draft.feature("plate", "gash", "rectangle", ("centre", 0), ("centre", 0), width="5 mm", height="300 mm")
    assert found(draft, "pieces")[0].value == "2"


def test_a_thin_finger_names_the_joint_and_offers_to_let_the_thickness_set_it():
    document, _, _ = apply_patch(brood_box().dump(), [{"op": "add", "path": "/joints/front-left/count", "value": {"text": "60"}}])
    fault = found(document, "thin_finger")[0]
    assert (fault.value, fault.owner) == ("4 mm", "joint:front-left")
    mended, _, _ = apply_patch(document.dump(), list(fault.mends[0].patch))
    assert not found(mended, "thin_finger")


@pytest.mark.parametrize(("u", "thin"), [("16.9 mm", False), ("14 mm", True)])
def test_a_hole_too_near_an_edge(u, thin):
    draft = board()
    draft.feature("plate", "h", "hole", ("left", u), ("centre", 0), diameter="10 mm")
    assert bool(found(draft, "near_edge")) is thin


def test_two_holes_with_too_little_between():
    draft = board()
    for key, u in (("a", "-10 mm"), ("b", "10 mm")):
        draft.feature("plate", key, "hole", ("centre", u), ("centre", 0), diameter="12 mm")
    assert found(draft, "thin_web")[0].value == "8 mm"


def test_a_hole_smaller_than_the_cutter_can_cut():
    draft = board()
    draft.feature("plate", "h", "hole", ("left", "40 mm"), ("front", "70 mm"), diameter="0.8 mm")
    (small,) = found(draft, "too_small")
    assert (small.value, small.owner, small.part) == ("0.8 mm", "feature:plate:h", "plate") and small.at == pytest.approx((40, 70))
    draft.data["parts"]["plate"]["features"]["h"]["diameter"]["text"] = "1 mm"
    assert not found(draft, "too_small")


def test_a_notch_narrower_than_the_kerf():
    draft = board()
    draft.feature("plate", "n", "rectangle", ("left", 0), ("centre", 0), width="40 mm", height="0.2 mm")
    assert [f.owner for f in found(draft, "under_kerf")] == ["feature:plate:n"]


def test_a_part_larger_than_any_sheet_and_a_sheet_larger_than_the_bed():
    draft = board()
    draft.data["parts"]["plate"]["spans"]["x"]["high"] = draft.entry("1250 mm")
    assert "1250 mm" in found(draft, "too_large")[0].value
    draft.data["cutters"]["laser"]["bed_length"] = draft.entry("1210 mm")
    assert found(draft, "over_bed")[0].severity == "warning"


def test_a_part_that_fits_only_turned_is_not_too_large():
    draft = board()
    draft.data["parts"]["plate"]["spans"] = {
        "x": {"low": draft.entry(0), "high": draft.entry("600 mm")},
        "y": {"low": draft.entry(0), "high": draft.entry("1200 mm")},
    }
    assert not found(draft, "too_large")


def test_a_stock_without_speeds_or_sheets_is_said():
    draft = board()
    del draft.data["cutters"]["laser"]["work"]["ply12"]
    draft.data["stocks"]["ply12"]["sheets"] = {}
    assert found(draft, "no_speeds") and found(draft, "no_sheets")


def test_a_kept_problem_stays_visible_and_opens_again_when_its_value_or_rule_changes():
    draft = board()
    draft.feature("plate", "h", "hole", ("left", "14 mm"), ("centre", 0), diameter="10 mm")
    problem = check(build(draft.document()))[0]
    draft.data["kept"] = {
        problem.id: {"reason": "a lamp cord, no load", "by": "bench", "value": problem.fault.value, "rule": problem.fault.rule}
    }
    kept = check(build(draft.document()))[0]
    assert (kept.id, kept.open, kept.reopened) == (problem.id, False, False)
    draft.data["parts"]["plate"]["features"]["h"]["u"]["offset"]["text"] = "12 mm"
    again = check(build(draft.document()))[0]
    assert (again.id, again.open, again.reopened) == (problem.id, True, True)
    draft.data["parts"]["plate"]["features"]["h"]["u"]["offset"]["text"] = "14 mm"
    draft.data["rules"] = {"edge": 2}
    assert check(build(draft.document()))[0].reopened


def test_a_press_fit_bites_by_its_half_a_flank_without_a_problem():
    document, _, _ = apply_patch(brood_box().dump(), [{"op": "replace", "path": "/joints/front-left/fit/text", "value": "press"}])
    assert not found(document, "overlap")


@pytest.mark.parametrize("number", [1, 2, 3, 4, 7])
@pytest.mark.parametrize("kind", ["tab_slot", "mortise_tenon"])
@pytest.mark.parametrize(("width", "thin"), [(2.0, True), (5.8, True), (5.9, False), (12.0, False)])
def test_thin_tabs_are_found_however_many_there_are(kind, number, width, thin):
    """At least half a thickness of 11.8 mm."""
    field = {"tab_slot": "length", "mortise_tenon": "width"}[kind]
    built = build(pair(kind, 11.8, 11.8, 200, number=number, **{field: f"{width} mm"}).document())
    faults = [f for f in finger_faults(built) if f.code == "thin_finger"]
    assert bool(faults) == thin
    if thin:
        assert f"is {width:g} mm wide" in faults[0].message
        if kind == "tab_slot":
            mended = build(patched(built.document.dump(), faults[0].mends[0].patch))
            assert not finger_faults(mended)


def test_the_thinnest_of_listed_tabs_is_told():
    draft = pair("tab_slot", 11.8, 11.8, 200)
    draft.data["joints"]["a-b"]["tabs"] = {
        f"t{i}": {"at": draft.entry(f"{40 * i + 30} mm"), "length": draft.entry(f"{length} mm")} for i, length in enumerate((20, 3, 20))
    }
    (fault,) = finger_faults(build(draft.document()))
    assert "3 mm" in fault.message


def test_a_field_of_holes_too_near_to_one_another_is_one_problem_with_its_worst():
    draft = board()
    draft.feature(
        "plate", "vent", "perforation", ("centre", "0"), ("centre", "0"), width="120 mm", height="80 mm", diameter="5 mm", pitch="7 mm"
    )
    (fault,) = found(draft, "thin_web")
    assert "worst of" in fault.message and fault.value == "2 mm"
    assert int(fault.message.split("worst of ")[1].split()[0]) > 100


def test_a_field_near_a_bend_is_one_problem_and_a_radius_is_one():
    draft = Draft("d", "galv20")
    draft.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "120 mm"), up="a")
    draft.fold("p", radius="0.2 mm").flange("p", "f", "left", "30 mm").flange("p", "g", "right", "30 mm")
    draft.feature(
        "p",
        "vent",
        "perforation",
        ("left", "22.5 mm"),
        ("centre", "0"),
        width="39.1 mm",
        height="80 mm",
        diameter="3 mm",
        pitch="9 mm",
        pattern="square",
    )
    faults = [p.fault for p in check(build(draft.document()))]
    assert len([f for f in faults if f.code == "near_bend"]) == 1
    assert len([f for f in faults if f.code in ("tight_bend", "tool_radius") and f.severity == "error"]) == 1


def test_a_floating_drawer_is_one_problem():
    draft = Draft("d", "ply12")
    draft.board("ground", "ply12", "lying", 0, (0, 300), (0, 300))
    draft.board("bottom", "ply12", "lying", 100, (0, 200), (0, 150))
    draft.board("front", "ply12", "facing_front", 0, (0, 200), (100, 160))
    draft.board("left", "ply12", "facing_side", 0, ("front.back", 150), (100, 160))
    draft.board("right", "ply12", "facing_side", 200, ("front.back", 150), (100, 160), face="right")
    for a, b in (("left", "front"), ("right", "front"), ("bottom", "front"), ("bottom", "left"), ("bottom", "right")):
        draft.joint("finger", a, b)
    (fault,) = found(draft, "drops")
    assert "3 more parts" in fault.message and fault.value == "88.2 mm"


def test_one_thickness_is_one_thickness_and_what_is_there_is_never_told_as_nothing():
    draft = board()
    draft.feature("plate", "h", "hole", ("left", "12 mm"), ("centre", "0"), diameter="20 mm")
    (fault,) = found(draft, "near_edge")
    assert fault.rule.endswith("(1 thickness)")
    for display, shown in (("mm", "0.003 mm"), ("in", "≈0.00012 in"), ("fraction", "≈0.00012 in")):
        assert format_length(0.003, display) == shown
        assert format_length(0.0, display) == ("0 mm" if display == "mm" else "0 in")
    assert format_length(2.0, "mm") == "2 mm" and format_length(25.4 / 64, "fraction") == "1/64 in"


@pytest.mark.parametrize("height", [2.0, 2.01, 3.5, 100.0])
def test_a_drop_is_told_as_it_is(height):
    draft = Draft("d", "ply12")
    draft.board("ground", "ply12", "lying", 0, (0, 300), (0, 300))
    draft.board("up", "ply12", "lying", f"ground.top + {height} mm", (0, 200), (0, 150))
    (fault,) = found(draft, "drops")
    assert fault.value == f"{height:g} mm"


@pytest.mark.parametrize("gap", [2.0, 7.25, 11.0])
@pytest.mark.parametrize("diameter", [5.0, 20.0, 63.0])
def test_material_beside_a_hole_is_told_to_a_hundredth(diameter, gap):
    """On chords alone, 2 mm came out as 2.01."""
    for edge in ("left", "front"):
        draft = board()
        u, v = (
            (("left", f"{gap + diameter / 2} mm"), ("centre", "0"))
            if edge == "left"
            else (("centre", "0"), ("front", f"{gap + diameter / 2} mm"))
        )
        draft.feature("plate", "h", "hole", u, v, diameter=f"{diameter} mm")
        assert [f.value for f in found(draft, "near_edge")] == [f"{gap:g} mm"]
    draft = board()
    for n, x in enumerate((0, diameter + gap)):
        draft.feature("plate", f"h{n}", "hole", ("left", f"{100 + x} mm"), ("centre", "0"), diameter=f"{diameter} mm")
    assert [f.value for f in found(draft, "thin_web")] == [f"{gap:g} mm"]


def test_a_slender_ring_is_a_warning():
    draft = Draft("d", "ply12")
    draft.board("p", "ply12", "lying", 0, (0, 100), (0, 100))
    draft.data["parts"]["p"]["outline"] = {"kind": "ring", "inner": draft.entry("84 mm")}
    (fault,) = found(draft, "near_edge")
    assert (fault.severity, fault.value) == ("warning", "8 mm")


def test_problems_of_one_kind_at_one_place_are_told_apart():
    fault = Fault("thin_web", "one", "at least 9 mm", "8 mm", part="p", owner="feature:p:a")
    ids = [
        p.id
        for p in as_problems(
            board().document(), [fault, replace(fault, value="7 mm"), replace(fault, value="6 mm"), replace(fault, owner="feature:p:b")]
        )
    ]
    assert ids[1:3] == [f"{ids[0]}-2", f"{ids[0]}-3"] and "-" not in ids[3] and len(set(ids)) == 4


@pytest.mark.parametrize("how", ["mirror", "row"])
def test_what_is_wrong_with_a_part_is_not_said_again_for_its_copies(how):
    draft = board()
    draft.feature("plate", "h", "hole", ("left", "8 mm"), ("front", "70 mm"), diameter="10 mm")
    assert len(found(draft, "near_edge")) == 1
    if how == "mirror":
        draft.mirror("m", "x", "400 mm", "part:plate")
    else:
        draft.repeat("m", "row", "part:plate", axis="x", number="3", spacing="400 mm")
    (fault,) = found(draft, "near_edge")
    assert fault.part == "plate"


@pytest.mark.parametrize("across", ["u", "v"])
@pytest.mark.parametrize(("side", "at", "low", "high"), [("low", 0.0, 0.0, 30.0), ("high", 200.0, 170.0, 200.0)])
def test_a_bore_from_above_is_as_long_as_it_is_deep_and_as_wide_as_it_is(across, side, at, low, high):
    bore = EdgeBore("left", across, side, at, 50.0, 6.0, 8.0, 30.0, "bore:x")
    bounds = Run(bore, *edge_bore_axis(bore)).plan.bounds
    along, beside = (bounds[0::2], bounds[1::2]) if across == "u" else (bounds[1::2], bounds[0::2])
    assert along == (low, high) and beside == (46.0, 54.0)


@pytest.mark.parametrize(("one", "two", "webs"), [("same", "same", 0), ("same", "other", 1)])
def test_slots_of_one_joint_may_lie_nearer_than_those_of_two(one, two, webs):
    """Twelve millimetres of ply with 5 mm between two slots: what one joint says is seen by its tabs."""
    draft = Draft("d", "ply12")
    draft.board("b", "ply12", "lying", "0", ("-200 mm", "200 mm"), ("-200 mm", "200 mm"))
    if two == "same":
        draft.board("a", "ply12", "facing_front", "0", ("-100 mm", "100 mm"), ("b.top", "150 mm"))
        tabs = {
            "s": {"at": draft.entry("50 mm"), "length": draft.entry("40 mm")},
            "t": {"at": draft.entry("95 mm"), "length": draft.entry("40 mm")},
        }
        draft.joint("tab_slot", "a", "b", tabs=tabs)
    else:
        draft.board("a", "ply12", "facing_front", "0", ("-100 mm", "0"), ("b.top", "150 mm"))
        draft.board("c", "ply12", "facing_front", "0", ("5 mm", "105 mm"), ("b.top", "150 mm"))
        for part, middle in (("a", "80 mm"), ("c", "20 mm")):
            draft.joint("tab_slot", part, "b", tabs={"t": {"at": draft.entry(middle), "length": draft.entry("40 mm")}})
    built = build(draft.document())
    assert len(built.parts["b"].flat.inside) == 2 and not built.faults
    assert len([f for f in found(draft, "thin_web") if f.part == "b"]) == webs
