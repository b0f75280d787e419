"""Turned boards and groups: what is named keeps holding, and a group that is turned or moved is what it was, elsewhere."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.shared import placed_mesh
from tests.explore import drawn
from zygon.check.overlap import overlap_faults
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES, example
from zygon.design.layout_operations import group_parts
from zygon.design.operations import rename
from zygon.design.patch import patched
from zygon.geometry.motion import moving, turning
from zygon.making.pipeline import build


def leg(**turn) -> Draft:
    d = Draft("d", "ply12")
    d.size("lean", "20 deg", kind="angle")
    d.board("leg", "ply12", "facing_side", "100 mm", ("0", "60 mm"), ("0", "300 mm"))
    if turn:
        d.turn("leg", **turn)
    return d


def test_a_board_is_turned_about_an_edge_by_an_expression():
    built = build(leg(axis="y", angle="lean / 2", x="leg.left", z="leg.bottom").document())
    m = np.array(built.parts["leg"].matrix)
    # the edge stays, the top leans to the right by the right-hand rule
    bottom, top = m @ (0, 0, 0, 1), m @ (0, 300, 0, 1)
    assert bottom[[0, 2]] == pytest.approx((100, 0), abs=1e-6) and math.degrees(math.atan2(top[0] - 100, top[2])) == pytest.approx(10)
    assert not built.faults


def test_faces_that_stay_square_to_an_axis_can_still_be_named_and_sloping_ones_say_so():
    draft = leg(axis="y", angle="lean", x="leg.left", z="leg.bottom")
    draft.board("beside", "ply12", "facing_front", "leg.back", ("0", "50 mm"), ("0", "leg.top"))
    (fault,) = build(draft.document()).faults
    assert "leg.top slopes here" in fault.message and fault.entry == "/parts/beside/spans/z/high"
    draft.data["parts"]["leg"]["turns"]["t0"]["angle"]["text"] = "90 deg"
    built = build(draft.document())
    # lying on its side its top is a right face, which has a place along x and none along z
    assert "leg.top lies along x" in built.faults[0].message
    draft.data["parts"]["beside"]["spans"]["z"]["high"]["text"] = "100 mm"
    draft.data["parts"]["beside"]["spans"]["x"]["high"]["text"] = "leg.top"
    built = build(draft.document())
    assert not built.faults and built.parts["beside"].span_box.high[0] == pytest.approx(400) and built.parts["beside"].span_box.low[1] == 60


def test_the_centre_of_a_turned_board_is_where_it_came_to_lie():
    draft = leg(axis="y", angle="lean", x="leg.left", z="leg.bottom")
    draft.board("plate", "ply12", "lying", "leg.centre", ("leg.centre", "leg.centre + 10 mm"), ("0", "10 mm"))
    built = build(draft.document())
    centre = placed_mesh(built.parts["leg"]).center_mass
    assert built.parts["plate"].span_box.low[0] == pytest.approx(centre[0]) and built.parts["plate"].span_box.low[2] == pytest.approx(
        centre[2]
    )


def test_a_turn_that_reads_what_follows_it_is_a_loop_that_is_named():
    draft = leg(axis="y", angle="lean", x="plate.left", z="0")
    draft.board("plate", "ply12", "lying", "0", ("leg.centre", "900 mm"), ("0", "10 mm"))
    faults = [f for f in build(draft.document()).faults if f.code == "cycle"]
    assert faults and "leg, turned at x" in faults[0].message and "plate.left" in faults[0].message


def test_spans_in_a_loop_are_named_datum_by_datum():
    draft = Draft("d", "ply12")
    draft.board("a", "ply12", "lying", 0, ("b.right", "900 mm"), (0, "10 mm"))
    draft.board("b", "ply12", "lying", 0, (0, "a.left"), (0, "10 mm"))
    (fault,) = [f for f in build(draft.document()).faults if f.code == "cycle"]
    assert "a.left → b.right → a.left" in fault.message or "b.right → a.left → b.right" in fault.message


@settings(max_examples=drawn(12))
@given(
    st.sampled_from(["brood-box", "rebated-box", "hive-floor"]),
    st.sampled_from("xyz"),
    st.floats(-3.1, 3.1),
    st.tuples(*[st.floats(-500, 500)] * 3),
)
def test_a_group_that_is_turned_and_moved_is_what_it_was_elsewhere(name, axis, angle, by):
    plain = example(name)
    _label, patch = group_parts(plain, list(plain.parts), "whole")
    data = patched(plain.dump(), patch).dump()
    others = {a: {"text": "50 mm"} for a in "xyz" if a != axis}
    data["groups"]["whole"]["turns"] = {"t": {"axis": axis, "at": others, "angle": {"text": f"{angle:.6f} rad"}}}
    data["groups"]["whole"]["move"] = {a: {"text": f"{d:.3f} mm"} for a, d in zip("xyz", by, strict=True)}
    one, other = build(plain), build(patched(data, []))
    motion = moving([round(d, 3) for d in by]) @ turning(axis, [0.0 if a == axis else 50.0 for a in "xyz"], round(angle, 6))
    for key, part in one.flats.items():
        moved = other.flats[key]
        assert moved.flat.area == pytest.approx(part.flat.area, abs=1e-4) and len(moved.flat.inside) == len(part.flat.inside)
        assert len(moved.flat.pieces[0].outer.points) == len(part.flat.pieces[0].outer.points)
        assert np.array(moved.matrix) == pytest.approx(np.array(motion.matrix) @ np.array(part.matrix), abs=1e-5)
    assert not [f for f in other.faults if f.severity == "error"] and not overlap_faults(other)


@pytest.mark.parametrize("name", EXAMPLES)
def test_the_examples_have_nothing_but_their_known_warnings(name):
    faults = [p.fault for p in check(build(example(name))) if p.open]
    assert not [f.message for f in faults if f.severity == "error"]
    assert {f.code for f in faults} <= {"by_hand", "bevelled_edge", "round_corners", "underside", "near_edge"}


@pytest.mark.parametrize(("group", "key"), [("parts", "leg"), ("handed", "sides:leg"), ("sizes", "splay"), ("sizes", "height")])
def test_a_rename_leaves_the_built_design_as_it_is(group, key):
    document = example("splayed-stand")
    _, patch = rename(document, group, key, "another_name")
    renamed = patched(document.dump(), patch)
    assert "another_name" in renamed.model_dump_json()
    one, other = build(document), build(renamed)
    assert not other.faults and not any(v.stale for v in other.values.values())
    assert {k: (p.flat.digest, p.matrix) for k, p in one.parts.items()} == {k: (p.flat.digest, p.matrix) for k, p in other.parts.items()}


def test_what_is_left_out_is_not_built_and_who_reads_it_says_so():
    draft = Draft("d", "ply12")
    draft.group("low").board("base", "ply12", "lying", 0, (0, "200 mm"), (0, "100 mm"))
    draft.group("high").board("post", "ply12", "facing_side", "50 mm", (0, "100 mm"), ("base.top", "200 mm"))
    draft.joint("tab_slot", "post", "base")
    draft.feature("base", "h", "hole", ("left", "20 mm"), ("front", "20 mm"), diameter="9 mm", name="drain")
    whole = build(draft.document())
    assert not whole.faults and len(whole.parts["base"].flat.inside) > 1
    draft.data["joints"]["post-base"]["out"] = True
    draft.data["parts"]["base"]["features"]["h"]["out"] = True
    assert not build(draft.document()).parts["base"].flat.inside
    draft.data["groups"]["low"]["out"] = True
    built = build(draft.document(), whole.good)
    assert set(built.parts) == {"post"}
    (fault,) = built.faults
    assert fault.message == "base.top: base is left out of the design" and fault.lost == "base"
    assert built.parts["post"].span_box.low[2] == pytest.approx(11.8)  # the last good value stands
