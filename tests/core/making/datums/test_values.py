"""Sizes and datums: order, cycles named datum by datum, last good values, ranges, spans."""

import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import brood_box
from zygon.design.patch import apply_patch
from zygon.making.pipeline import build


def two_boards():
    draft = Draft("d", "ply12")
    draft.size("width", "300 mm", "200 mm", "400 mm")
    draft.board("base", "ply12", "lying", 0, ("lid.left", "width"), (0, 100))
    draft.board("lid", "ply12", "lying", "base.top + 50", (0, "base.right"), (0, 100))
    return draft


def test_parts_may_read_each_other_as_long_as_no_datum_reads_itself():
    built = build(two_boards().document())
    assert not built.faults
    assert built.parts["lid"].box.span("z")[0] == pytest.approx(11.8 + 50)
    assert built.parts["lid"].box.span("x") == pytest.approx((0, 300))


def test_a_true_cycle_is_named_datum_by_datum():
    draft = two_boards()
    draft.data["parts"]["lid"]["spans"]["x"]["low"] = draft.entry("inner")
    draft.size("inner", "lid.right - lid.left")
    draft.data["parts"]["base"]["spans"]["x"]["low"] = draft.entry("0")
    faults = build(draft.document()).faults
    cycle = next(f for f in faults if f.code == "cycle")
    for name in ("lid.left", "inner"):
        assert name in cycle.value
    assert cycle.value.split(" → ")[0] == cycle.value.split(" → ")[-1]


def test_a_long_chain_is_worked_out_without_recursion():
    draft = Draft("d", "ply12")
    draft.size("s0", "1 mm")
    for i in range(1, 399):
        draft.size(f"s{i}", f"s{i - 1} + 1 mm")
    assert build(draft.document()).values["/sizes/s398/entry"].value == pytest.approx(399)


def test_what_breaks_keeps_its_last_good_value_and_says_so():
    document = brood_box()
    good = build(document).good
    broken, _, _ = apply_patch(document.dump(), [{"op": "remove", "path": "/sizes/rest"}])
    built = build(broken, good)
    assert built.parts["rest_front"].flat.size[1] == pytest.approx(22)
    assert built.parts["rest_front"].stale
    assert [f.message for f in built.faults if f.entry == "/parts/rest_front/spans/y/high"] == ["front.back + rest: no size is called rest"]
    assert "rest_front" not in build(broken).made
    assert "front" in build(broken).made


def test_a_cycle_stands_on_its_last_good_values_and_breaks_nothing_else():
    document = brood_box()
    good = build(document).good
    looped, _, _ = apply_patch(document.dump(), [{"op": "replace", "path": "/sizes/width/entry/text", "value": "hold * 4"}])
    built = build(looped, good)
    assert [f.code for f in built.faults] == ["cycle"]
    assert built.parts["front"].flat.size[0] == pytest.approx(420)


def test_a_size_outside_its_range_offers_the_limit_as_its_mend():
    draft = two_boards()
    draft.data["sizes"]["width"]["entry"]["text"] = "500 mm"
    document = draft.document()
    problem = next(p for p in check(build(document)) if p.fault.code == "size_range")
    assert problem.fault.value == "500 mm" and "at most 400 mm" in problem.fault.rule
    mended, _, _ = apply_patch(document.dump(), problem.fault.mends[0].patch)
    assert not [f for f in build(mended).faults if f.code == "size_range"]


def test_a_reversed_span_is_a_problem_with_a_swap_as_its_mend():
    draft = Draft("d", "ply12")
    draft.board("shelf", "ply12", "lying", 0, ("300 mm", "0"), (0, 100))
    document = draft.document()
    built = build(document)
    fault = built.faults[0]
    assert fault.code == "reversed_span" and "shelf" not in built.made
    mended, _, _ = apply_patch(document.dump(), list(fault.mends[0].patch))
    assert build(mended).parts["shelf"].flat.size == pytest.approx((300, 100))
    draft.data["parts"]["shelf"]["spans"]["x"] = {"low": draft.entry(5), "high": draft.entry(5)}
    empty = build(draft.document()).faults[0]
    assert empty.code == "empty_span" and not empty.mends


def test_a_place_along_the_wrong_axis_is_said():
    draft = two_boards()
    draft.data["parts"]["lid"]["spans"]["x"]["low"] = draft.entry("base.top")
    fault = build(draft.document()).faults[0]
    assert "base.top lies along z; a place along x needs left, right or centre" in fault.message


def test_the_measured_thickness_is_used_wherever_it_matters():
    draft = two_boards()
    assert build(draft.document()).parts["base"].flat.thickness == pytest.approx(11.8)
    del draft.data["stocks"]["ply12"]["measured"]
    assert build(draft.document()).parts["base"].flat.thickness == pytest.approx(12)


def test_gauges_are_read_by_the_stock_at_hand():
    draft = Draft("d", "galv20", "ply12")
    draft.board("roof", "galv20", "lying", "2 * roof.thickness", (0, "100 mm"), (0, "20 ga * 100"))
    draft.board("side", "ply12", "lying", "11 ga", (0, "100 mm"), (0, "100 mm"))
    built = build(draft.document())
    assert built.parts["roof"].flat.thickness == pytest.approx(0.0396 * 25.4)
    assert built.parts["roof"].flat.size[1] == pytest.approx(0.0396 * 25.4 * 100)
    assert [f.message for f in built.faults] == ["11 ga: Birch plywood 12 mm has no gauge table; give its thickness in mm or in"]


def test_only_what_depends_on_a_change_is_built_again():
    draft = Draft("d", "ply12")
    draft.size("a", "101.5 mm").size("b", "77.25 mm")
    for i in range(30):
        draft.board(f"p{i}", "ply12", "lying", f"{i * 40} mm", (0, "a" if i % 10 else "b"), (0, f"{50 + i} mm"))
    build(draft.document())
    draft.data["sizes"]["b"]["entry"]["text"] = "78.75 mm"
    assert build(draft.document()).rebuilt == ("p0", "p10", "p20")
    assert build(draft.document()).rebuilt == ()


@pytest.mark.parametrize("sign", ["", "-"])
@pytest.mark.parametrize(("length", "fine"), [("100 m", True), ("100.001 m", False)])
def test_the_longest_length(sign, length, fine):
    """100 m, either way; what is longer is told at its entry, and the last good value stands."""
    d = Draft("d", "ply12")
    d.size("far", f"{sign}{length}")
    built = build(d.document(), {"/sizes/far/entry": 12.0})
    assert [(f.entry, f.code) for f in built.faults] == ([] if fine else [("/sizes/far/entry", built.faults[0].code)])
    assert built.values["/sizes/far/entry"].value == (float(f"{sign}100000") if fine else 12.0)
    if not fine:
        assert "a length is at most 100 m" in built.faults[0].message


@pytest.mark.parametrize(
    ("value", "low", "high", "said"),
    [
        ("100", "100", "", ""),
        ("99.99", "100", "", "size_range"),
        ("100", "", "100", ""),
        ("100.01", "", "100", "size_range"),
        ("100", "100", "100", ""),
    ],
)
def test_a_size_may_be_its_least_and_its_greatest(value, low, high, said):
    d = Draft("d", "ply12")
    d.size("width", f"{value} mm", **{k: f"{v} mm" for k, v in (("low", low), ("high", high)) if v})
    faults = build(d.document()).faults
    assert [f.code for f in faults] == ([said] if said else [])
    assert [(f.severity, f.mends[0].label) for f in faults] == ([("warning", "Set width to 100 mm")] if said else [])


@pytest.mark.parametrize(("bound", "text"), [("100 mm", "100 mm"), ("4 in", "4 in"), ("base * 2", "100 mm")])
def test_a_bound_is_taken_as_it_is_written_where_it_reads_nothing_else(bound, text):
    d = Draft("d", "ply12")
    d.size("base", "50 mm").size("width", "7 m", high=bound)
    (fault,) = build(d.document()).faults
    assert fault.mends[0].patch[0]["value"]["text"] == text


@pytest.mark.parametrize("face", ["left", "right", "front", "back", "top", "bottom", "centre"])
@pytest.mark.parametrize(
    ("plane", "own"), [("lying", ("bottom", "top")), ("facing_front", ("front", "back")), ("facing_side", ("left", "right"))]
)
def test_a_board_is_placed_by_a_face_across_its_plane(plane, own, face):
    d = Draft("d", "ply12")
    d.board("p", "ply12", plane, "30 mm", (0, "100 mm"), (0, "80 mm"))
    d.data["parts"]["p"]["position"]["face"] = face
    built = build(d.document())
    if face in (*own, "centre"):
        assert not built.faults
        low = {own[0]: 30.0, own[1]: 30.0 - 11.8, "centre": 30.0 - 5.9}[face]
        assert built.parts["p"].span_box.span({"lying": "z", "facing_front": "y", "facing_side": "x"}[plane]) == pytest.approx(
            (low, low + 11.8)
        )
    else:
        (fault,) = [f for f in built.faults if f.code == "bad_position"]
        assert (fault.entry, fault.part, fault.rule) == ("/parts/p/position/face", "p", f"one of {own[0]}, {own[1]} or centre")
        assert fault.message == f"p: its position cannot be its {face} face"


@pytest.mark.parametrize(("deep", "fine"), [("0.01 mm", True), ("0.0099 mm", False), ("width +", False)])
def test_a_bought_block_has_a_least_thickness(deep, fine):
    d = Draft("d", "ply12")
    d.board("block", "ply12", "lying", 0, (0, "40 mm"), (0, "30 mm"))
    part = d.data["parts"]["block"]
    part |= {"kind": "bought", "deep": d.entry(deep), "price": 1.0}
    faults = [f for f in build(d.document()).faults if f.entry == "/parts/block/deep"]
    # what cannot be read is said once, and not that it is too thin
    assert [f.code == "bad_value" for f in faults] == ([] if fine else [deep[0] == "0"])


def test_places_are_kept_to_a_ten_millionth():
    """Faces that are meant to meet do, though they are reckoned in different ways; what is farther apart is not drawn together."""
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, "0.1 mm * 3 + 0.00000004 mm"), (0, "100.0000003 mm"))
    box = build(d.document()).parts["p"].span_box
    assert box.high[0] == 0.3
    assert box.high[1] == 100.0000003
