"""What a joint cannot be is a problem with its place, and the value that would do mends it; never an exception, never a wrong part."""

import pytest

from tests.core.making.joints.pairs import MEETING, pair
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.making.joints.angle import hull_of
from zygon.making.pipeline import build
from zygon.stock.hardware.holes import clearance

# (kind, entries, code, words in the message, entry)
BAD = [
    ("mortise_tenon", {"thickness": "14 mm"}, "thick_tenon", "a tenon 14 mm thick on a, which is 12 mm thick", "thickness"),
    ("mortise_tenon", {"ends": "stopped", "depth": "15 mm"}, "too_deep", "comes out on the other side of b, which is 15 mm thick", "depth"),
    ("mortise_tenon", {"ends": "stopped", "depth": "9 mm", "end_play": "9 mm"}, "joint_value", "an end play of 9 mm", "end_play"),
    ("groove", {"depth": "16 mm"}, "too_deep", "a groove 16 mm deep comes out on the other side", "depth"),
    ("groove", {"depth": "0"}, "joint_value", "a groove 0 mm deep", "depth"),
    ("groove", {"depth": "5 mm", "end_play": "6 mm"}, "joint_value", "an end play of 6 mm in a groove 5 mm deep", "end_play"),
    ("groove", {"ends": "stopped", "stop": "70 mm"}, "joint_value", "leaves nothing of 120 mm", "stop"),
    ("rebate", {"depth": "15 mm"}, "too_deep", "a rebate 15 mm deep", "depth"),
    ("dowels", {"depth_face": "15 mm"}, "too_deep", "comes out on the other side of b", "depth_face"),
    ("dowels", {"depth_edge": "150 mm"}, "too_deep", "a dowel's hole 150 mm deep in the edge of a", "depth_edge"),
    ("dowels", {"diameter": "10 mm"}, "thick_dowel", "a dowel of 10 mm in an edge 12 mm thick", "diameter"),
    ("screws", {"length": "200 mm"}, "too_deep", "a screw 200 mm long", "length"),
    ("dovetail_lap", {"shoulder": "1 mm"}, "joint_value", "lets the tail grow wider than its board", "shoulder"),
    ("edge_key", {"depth": "90 mm", "width": "30 mm"}, "weak_tail", "would break off", "depth"),
]


@pytest.mark.parametrize(("kind", "more", "code", "words", "entry"), BAD)
def test_a_value_that_cannot_be_is_said_where_it_is_and_its_mend_makes_it_right(kind, more, code, words, entry):
    document = pair(kind, **more).document()
    built = build(document)
    (fault,) = [f for f in built.faults if f.code == code]
    assert words in fault.message and fault.rule
    assert fault.entry == f"/joints/a-b/{entry}" and fault.owner == "joint:a-b" and fault.part in ("a", "b")
    u0, v0, u1, v1 = built.parts[fault.part].flat.bounds
    assert u0 - 31 <= fault.at[0] <= u1 + 31 and v0 <= fault.at[1] <= v1  # it is shown at the joint, on the part
    # the joint cuts nothing, and both boards stand whole
    assert all(p.flat.plain and len(p.flat.pieces) == 1 and not p.flat.inside for p in built.parts.values())
    if fault.mends:
        mended = build(patched(document.dump(), list(fault.mends[0].patch)))
        assert not [f for f in mended.faults if f.entry == fault.entry], [f.message for f in mended.faults]


def test_too_many_tails_are_mended_by_as_many_as_hold():
    document = pair("dovetail", number=9).document()
    (fault,) = [f for f in build(document).faults if f.code == "weak_tail"]
    assert fault.mends[0].label == "Set number to 6"
    mended = build(patched(document.dump(), list(fault.mends[0].patch)))
    assert not mended.faults and len(mended.joints["a-b"].fingers) == 6


@pytest.mark.parametrize(
    ("kind", "more", "words"),
    [
        ("dovetail", {"number": 9}, "would break off; 6 of them would do"),
        ("dovetail", {"slope": "angle", "angle": "60 deg"}, "flanks at 60°"),
        ("dovetail", {"pin": "0"}, "a pin 0 mm wide"),
        ("dowels", {"number": 40}, "run into one another"),
        ("dowels", {"inset": "1 mm"}, "a dowel comes out at the joint's end"),
        ("screws", {"size": "6", "number": 60}, "run into one another"),
        ("mortise_tenon", {"number": 3, "width": "60 mm"}, "a tenon runs into the next"),
        ("edge_key", {"number": 2, "spacing": "200 mm"}, "past the run"),
        ("half_lap", {"share": "0"}, "a share of 0"),
        ("cross_lap", {"share": "1.2"}, "a share of 1.2"),
        ("tab_slot", {"number": "0"}, "0 tabs"),
    ],
)
def test_what_no_single_value_mends_is_said_too(kind, more, words):
    faults = build(pair(kind, **more).document()).faults
    assert any(words in f.message for f in faults), [f.message for f in faults]


def test_what_remains_under_a_pocket_is_checked():
    problems = check(build(pair("groove", depth="13 mm", cutter="router").document()))
    (thin,) = [p.fault for p in problems if p.fault.code == "thin_floor"]
    assert "2 mm of material is left under a groove 13 mm deep" in thin.message and thin.at is not None
    assert "at least 3.75 mm (0.25 thicknesses)" in thin.rule


def test_grooves_from_both_faces_that_meet_come_through():
    draft = pair("groove", depth="9 mm", cutter="router")
    draft.board("c", "sa", "facing_side", 80, (-160, "b.front"), (0, 120))
    draft.joint("groove", "c", "b", depth="7 mm")
    found = [p.fault for p in check(build(draft.document())) if p.fault.code == "floors_meet"]
    assert found and "come through to each other" in found[0].message


@pytest.mark.parametrize("kind", list(MEETING))
@pytest.mark.parametrize("meeting", sorted(set(MEETING.values())))
def test_any_kind_at_any_contact_either_stands_or_says_why_not(kind, meeting):
    built = build(pair(kind, meeting=meeting).document())
    joint = built.joints["a-b"]
    if joint.refused:
        assert [f.code for f in built.faults] == ["joint_refused"]
        assert all(p.flat.plain and not p.flat.inside for p in built.parts.values())
    else:
        assert not [f for f in built.faults if f.code == "joint_refused"]


@pytest.mark.parametrize(("kind", "shape"), [("dovetail", {}), ("dovetail_lap", {}), ("edge_key", {"shape": "dovetail"})])
@pytest.mark.parametrize("angle", ["0.99 deg", "45.01 deg"])
def test_flanks_at_no_dovetail_s_angle_are_not_cut(kind, shape, angle):
    built = build(pair(kind, slope="angle", angle=angle, **shape).document())
    assert [(f.code, f.entry) for f in built.faults] == [("joint_value", "/joints/a-b/angle")]
    assert all(p.flat.plain and not p.flat.inside for p in built.parts.values())
    fine = build(pair(kind, slope="angle", angle="1 deg" if angle < "1" else "8 deg", **shape).document())
    assert not [f for f in fine.faults if f.entry == "/joints/a-b/angle"] and fine.joints["a-b"].fingers


@pytest.mark.parametrize("shaped", "ab")
@pytest.mark.parametrize("kind", MEETING)
def test_a_straight_edge_is_asked_of_a_board_only_where_the_joint_works_it(kind, shaped):
    """A rounded board may be crossed in its middle, or lie against another; its edge is none to join."""
    d = pair(kind, cutter="router")
    d.data["parts"][shaped]["outline"] = {"kind": "disc"}
    joint = build(d.document()).joints["a-b"]
    by_face = {"tab_slot", "mortise_tenon", "groove", "dowels", "screws", "butt"}  # b's face is met, somewhere within it
    free = kind in ("cross_lap", "notch", "face_glue") or (kind in by_face and shaped == "b")
    assert joint.refused == ("" if free else f"{shaped} has an outline of its own there, and the joint needs a straight edge")


@pytest.mark.parametrize("end", [0, -1])
@pytest.mark.parametrize(("off", "wrong"), [(0.0, False), (0.01, False), (-0.01, True)])
def test_a_screw_may_touch_the_end_of_what_both_boards_share(end, off, wrong):
    half = clearance("4") / 2
    faults = build(pair("screws", inset=f"{half + off:.4f} mm", size="4", number=2).document()).faults
    assert [f.code for f in faults] == (["joint_value"] * 2 if wrong else [])
    if wrong:
        assert faults[end].message == "a–b: a screw lies past the joint's end" and faults[end].entry == "/joints/a-b/inset"


def test_a_tail_s_shoulder_may_be_all_that_its_flare_and_its_root_leave():
    """A board 40 mm wide keeps 0.4 of it at the root, 12 mm less a side; at a slope of 1 to 6 over 72 mm the tail widens by as much, and no more fits."""
    for width, said in ((72, "Set shoulder to 12 mm"), (72.1, "")):
        d = pair("dovetail_lap", slope="1:6", shoulder="14 mm")
        d.data["parts"]["a"]["spans"]["y"] = {"low": d.entry("80 mm"), "high": d.entry("120 mm")}
        d.data["parts"]["b"]["spans"]["x"]["high"] = d.entry(f"{width} mm")
        (fault,) = build(d.document()).faults
        assert fault.code == "weak_tail" and [m.label for m in fault.mends] == ([said] if said else [])


def test_points_without_an_area_have_no_outline():
    assert hull_of([(0, 0), (10, 0), (4, 0)], 0.0, "x") is None and hull_of([(3, 3)], 0.0, "x") is None
    assert hull_of([(0, 0), (0.001, 0), (0, 0.001)], 0.0, "x") is None  # less than what counts as contact
    triangle = hull_of([(0, 0), (10, 0), (0, 10), (1, 1)], 0.0, "x")
    assert triangle is not None and triangle.area == pytest.approx(50) and set(triangle.owners) == {"x"}
    grown = hull_of([(0, 0), (10, 0), (10, 4), (0, 4)], 1.5, "x")
    assert grown is not None and grown.bounds == pytest.approx((-1.5, -1.5, 11.5, 5.5))
