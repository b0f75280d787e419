"""Members cut to one another: against Open CASCADE and manifold solids, the trade's formulas, and by laws that hold at any angle, turn and hand."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepAlgoAPI import BRepAlgoAPI_Common
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps

from tests.core.making.tube.frames import CLOSED, SECTIONS, key, mm, section_of, stocked, two
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.exchange.cutlist import cut_list
from zygon.geometry.solid import manifold_of
from zygon.making.kinds.registry import exact_of, meshes_of, sizes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cope import Cope
from zygon.making.tube.developed import Around, developed


def volume(shape) -> float:
    found = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, found)
    return found.Mass()


def placed(part):
    """A part's exact solid in the room."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.gp import gp_Trsf

    move = gp_Trsf()
    move.SetValues(*(x for row in part.matrix[:3] for x in row))
    return BRepBuilderAPI_Transform(exact_of(part), move, True).Shape()


def body(part) -> MemberBody:
    assert isinstance(part.body, MemberBody)
    return part.body


def fine(built, slack: float = 2e-3):
    """Every solid is one and sound, mesh and exact volumes agree, and no two take up the same room."""
    for part in built.made.values():
        exact = exact_of(part)
        assert BRepCheck_Analyzer(exact).IsValid()
        assert volume_of_part(part) == pytest.approx(volume(exact), rel=slack)
        (mesh,) = meshes_of(part)
        solid = manifold_of(mesh, list(dict.fromkeys(mesh.owners)))
        assert solid.status().name == "NoError" and len(solid.decompose()) == 1
    for a, b in itertools.combinations(built.made.values(), 2):
        least = min(volume_of_part(a), volume_of_part(b))
        assert abs(volume(BRepAlgoAPI_Common(placed(a), placed(b)).Shape())) < 1e-4 * least


@pytest.mark.parametrize(("degrees", "offset"), [(30, 0), (30, 5), (45, -5), (60, 5), (60, 0), (90, 0), (90, -5)])
def test_a_cope_is_the_two_cylinders_equation(degrees, offset):
    """60.3 and 42.4 mm; lengths from the axes' common perpendicular, by the formula that the template is drawn by."""
    theta = math.radians(degrees)
    d = stocked("round tube", "thin round tube")
    d.data["stocks"]["thin_round_tube"]["nominal"]["text"] = "60.3"
    d.frame(
        "f",
        {
            "p": mm((0, offset, 0)),
            "q": mm((300 * math.sin(theta), offset, 300 * math.cos(theta))),
            "r": mm((0, 0, -400)),
            "s": mm((0, 0, 400)),
        },
        {"l": ("p", "q"), "m": ("r", "s")},
    )
    d.member("branch", "round_tube", "f", "l", against="y").member("main", "thin_round_tube", "f", "m", against="y")
    d.joint("member_cope", "branch", "main")
    built = build(d.document())
    assert not built.faults
    found = body(built.made["branch"])
    told = Cope(60.3, 42.4, degrees, abs(offset))
    # the formula's 0 degrees look along the main, its 90 to the side that the axes pass
    along = np.array(built.made["branch"].matrix)[:3, :3].T @ (0.0, 0.0, 1.0)
    aside = np.array(built.made["branch"].matrix)[:3, :3].T @ (0.0, 1.0 if offset >= 0 else -1.0, 0.0)
    for phi in range(0, 360, 15):
        c, s = math.cos(math.radians(phi)), math.sin(math.radians(phi))
        flat = along[:2] / np.linalg.norm(along[:2]) if degrees < 90 else np.array((aside[1], -aside[0]))
        uv = 21.2 * (c * flat + s * aside[:2])
        low, _ = found.stops(uv[None])
        assert low[0] == pytest.approx(told.length(phi), abs=2e-6) or (
            degrees == 90 and low[0] == pytest.approx(told.length(-phi), abs=2e-6)
        )
    fine(built)


WAYS = {"square": (0, 0, 1), "sloping": (0, 0.6, 0.8), "on a corner": (1, 0, 1), "askew": (0.3, -0.5, 0.9)}


@pytest.mark.parametrize(
    ("one", "other"),
    # what is open beside all closed ones of a kind, and beside itself
    [(a, b) for a, b in itertools.product(SECTIONS, SECTIONS) if a == b or {a, b} <= set(CLOSED) or {a, b} & {"square tube", "round bar"}],
)
def test_a_mitre_of_any_two_sections_fits(one, other):
    """Also of unequal ones: both ends are cut in one plane, through the corners where the outsides and the insides meet."""
    d = two(one, other, [(0, 300, 0), (0, 0, 280)], "member_mitre", span=(0, 1))
    built = build(d.document())
    assert not built.faults
    a, b = (body(built.made[k]) for k in ("one", "other"))
    assert a.saw("a").angle + b.saw("a").angle == pytest.approx(math.pi / 2)
    # the outside of the corner: each reaches to the other's far side
    assert built.made["one"].reaches[0][1] == pytest.approx(built.made["other"].reaches[0][1], abs=0.05)
    assert built.made["other"].reaches[0][2] == pytest.approx(built.made["one"].reaches[0][2], abs=0.05)
    fine(built)


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(
    ("one", "other"),
    [("square tube", "square tube"), ("flat", "rectangular tube"), ("hexagon", "square tube"), ("round tube", "rectangular tube")],
)
def test_a_butt_lies_flat_on_the_side_that_it_comes_to(one, other, way):
    d = two(one, other, [(400, 0, 0), [200 * x for x in WAYS[way]]], "member_butt")
    built = build(d.document())
    if built.joints["one-other"].refused:
        assert way == "on a corner" and "runs along" in built.joints["one-other"].refused
        return
    assert not built.faults
    fine(built)
    # nothing of the end stands off the side
    assert body(built.made["one"]).saw("a").angle is not None
    assert gap(built, "one", "other") < 0.02


def gap(built, one, other) -> float:
    from zygon.making.solids.solids import gap_between

    return gap_between(built.made[one], built.made[other], 10)


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ("thin round tube", "round tube"),
        ("round tube", "round tube"),
        ("round bar", "square tube"),
        ("flat", "round tube"),
        ("square tube", "square tube"),
        ("hexagon", "round tube"),
        ("round bar", "hexagon"),
        ("thin round tube", "square tube"),
    ],
)
@pytest.mark.parametrize("way", ["square", "sloping"])
def test_a_cope_lies_all_round_on_any_section(one, other, way):
    built = build(two(one, other, [(300, 0, 0), [300 * x for x in WAYS[way]]], "member_cope").document())
    if one == other == "square tube" and way == "sloping":  # it stands on its corner there, wider than the side that it comes to
        assert "overhangs" in built.joints["one-other"].refused
        return
    assert not built.faults
    fine(built)
    assert gap(built, "one", "other") < 0.02
    shift = build(two(one, other, [(300, 0, 0), [300 * x for x in WAYS[way]]], "member_cope", gap="1.5 mm").document())
    assert gap(shift, "one", "other") == pytest.approx(1.5, abs=0.05)


@given(
    st.sampled_from(["round tube", "square tube", "rectangular tube", "flat"]),
    st.sampled_from(["member_mitre", "member_butt", "member_cope"]),
    st.tuples(*[st.floats(-1, 1)] * 6),
    st.integers(0, 3),
    st.floats(-180, 180),
)
@settings(max_examples=40, deadline=None)
def test_what_is_cut_does_not_hang_on_where_it_stands(section, joint, ways, quarter, turn):
    """A frame that is turned and moved as a whole is cut as it was; so is its mirror image, in the other hand."""
    a, b = np.array(ways[:3]), np.array(ways[3:])
    if min(np.linalg.norm(a), np.linalg.norm(b)) < 0.3:
        return
    a, b = 300 * a / np.linalg.norm(a), 250 * b / np.linalg.norm(b)
    span = (0, 1) if joint == "member_mitre" else (-1, 1)
    still = two(section, section, [a, b], joint, turns=(quarter * 90, 0), span=span)
    moved = two(section, section, [a, b], joint, turns=(quarter * 90, 0), span=span)
    moved.data["groups"]["g"] = {
        "name": "g",
        "order": 0,
        "move": {"x": {"text": "12.5 mm"}},
        "turns": {"t": {"axis": "y", "angle": {"text": f"{turn} deg"}, "at": {"x": {"text": "3 mm"}, "z": {"text": "7 mm"}}}},
    }
    for record in (moved.data["frames"]["f"], moved.data["parts"]["one"], moved.data["parts"]["other"]):
        record["group"] = "g"
    moved.mirror("m", "x", "900 mm", "group:g", names={"one": "one_m", "other": "other_m"})
    first, then = build(still.document()), build(moved.document())
    assert [j.refused for j in first.joints.values()] == [j.refused for j in then.joints.values()]
    for name in ("one", "other"):
        if name not in first.made or first.made[name].body.empty:
            continue
        own, there = body(first.made[name]), body(then.made[name])
        assert there.long == pytest.approx(own.long, abs=1e-5) and there.alike == own.alike
        image = body(then.made[f"{name}@m.1"])
        assert image.long == pytest.approx(own.long, abs=1e-5)
        assert image.alike in (own.alike, own.other_hand) and image.other_hand in (own.alike, own.other_hand)
    if not any(j.refused for j in then.joints.values()):
        assert then.joints["one-other"].copies == (("one@m.1", "other@m.1"),)


def rows(built) -> list[tuple[str, int]]:
    return [(r.part, r.quantity) for r in cut_list(built)]


@pytest.mark.parametrize("section", ["round tube", "square tube", "rectangular tube"])
def test_equal_members_are_one_row_however_they_came_about(section):
    """Four sides of a mitred square, drawn round, back, and from both ends: one row; a fifth that is longer is not."""
    d = stocked(section)
    corners = {"a": (0, 0, 0), "b": (400, 0, 0), "c": (400, 0, 400), "d": (0, 0, 400), "e": (900, 0, 0), "f": (900, 0, 401)}
    lines = {"ab": ("a", "b"), "cb": ("c", "b"), "dc": ("d", "c"), "da": ("d", "a"), "ef": ("e", "f")}
    d.frame("f", {k: mm(p) for k, p in corners.items()}, lines)
    for line in lines:
        d.member(line, key(section), "f", line, against="y")
    for a, b in (("ab", "cb"), ("cb", "dc"), ("dc", "da"), ("da", "ab")):
        d.joint("member_mitre", a, b)
    built = build(d.document())
    assert not built.faults
    assert rows(built) == [("ab, cb, dc, da", 4), ("ef", 1)]
    (row, _) = cut_list(built)
    assert row.length == pytest.approx(400 + body(built.made["ab"]).section.extents[0])


def test_members_of_two_hands_are_two_rows_that_name_each_other():
    """A compound end on one side only: its mirror image is another piece."""
    d = two("rectangular tube", "rectangular tube", [(300, 0, 0), (0, 0.6 * 300, 0.8 * 300)], "member_butt", turns=(0, 20))
    d.mirror("m", "y", "500 mm", "part:one", "part:other", names={"one": "one_m", "other": "other_m"})
    found = cut_list(build(d.document()))
    assert [(r.part, r.handed_of) for r in found] == [("one", 0), ("one_m", 1), ("other, other_m", 0)]


def test_at_a_point_of_three_an_earlier_member_is_never_cut_by_a_later_one():
    """A post and two rails as thick as it: the first rail lies on the post, the second on both, and only where the first one is."""
    d = stocked("round tube")
    d.frame(
        "f",
        {"o": mm((0, 0, 0)), "z": mm((0, 0, 500)), "x": mm((400, 0, 0)), "y": mm((0, 300, 0))},
        {"lz": ("o", "z"), "lx": ("o", "x"), "ly": ("o", "y")},
    )
    d.member("post", "round_tube", "f", "lz", against="y").member("rail_x", "round_tube", "f", "lx").member(
        "rail_y", "round_tube", "f", "ly"
    )
    d.joint("member_cope", "rail_x", "post").joint("member_cope", "rail_y", "post").joint("member_cope", "rail_y", "rail_x")
    built = build(d.document())
    assert not built.faults
    fine(built, slack=5e-3)
    alone = build(
        patched(d.document().dump(), [{"op": "remove", "path": "/joints/rail_y-rail_x"}, {"op": "remove", "path": "/joints/rail_y-post"}])
    )
    assert body(alone.made["rail_x"]).digest == body(built.made["rail_x"]).digest
    # on the outside of the corner nothing is missing: the second rail still reaches round the post there
    assert body(built.made["rail_y"]).long == pytest.approx(300.0, abs=1e-4)
    # the post runs on to the far side of both
    assert built.made["post"].reaches[0][2] == pytest.approx(-21.2)


def test_who_runs_through_at_a_corner():
    """The second one of a butt runs on to the far side of the first; taken the other way round it is the first."""
    for swapped in (False, True):
        d = two("square tube", "square tube", [(0, 300, 0), (0, 0, 280)], span=(0, 1))
        d.joint("member_butt", *(("other", "one") if swapped else ("one", "other")))
        built = build(d.document())
        long = {k: body(built.made[k]).long for k in ("one", "other")}
        assert long == {"one": 320.0, "other": 260.0} if swapped else {"one": 280.0, "other": 300.0}
        fine(built)


def test_a_tube_that_passes_through_another_cuts_its_hole():
    d = two("round bar", "round tube", [(0, 0, 300), (0, 200, 0)], "member_passage", at=(0, 0, 150), fit="0.6 mm")
    built = build(d.document())
    assert not built.faults
    fine(built)
    whole = build(two("round bar", "round tube", [(0, 0, 300), (0, 200, 0)], at=(0, 0, 150)).document())
    # two walls of 2.6 mm lose about a disc of 20.6 mm each
    lost = volume_of_part(whole.made["other"]) - volume_of_part(built.made["other"])
    assert lost == pytest.approx(2 * 2.6 * math.pi * 10.3**2, rel=0.05)
    assert gap(built, "one", "other") == pytest.approx(0.3, abs=0.06)
    assert [p.fault.code for p in check(built)] == []
    wide = build(two("round tube", "thin round tube", [(0, 0, 300), (0, 200, 0)], "member_passage", at=(0, 0, 150)).document())
    assert "too wide for a hole" in wide.joints["one-other"].refused


@pytest.mark.parametrize(
    ("ways", "at", "joint", "words"),
    [
        ([(300, 0, 0), (200, 0, 0)], (0, 100, 0), "member_cope", "run alongside each other"),
        ([(300, 0, 0), (0, 0, 200)], (0, 100, 0), "member_cope", "pass each other 57.6 mm apart"),
        ([(300, 0, 0), (0, 0, 200)], (-90, 0, 0), "member_cope", "ends 90 mm short"),
        ([(300, 0, 0), (0, 0, 200)], (150, 0, 0), "member_cope", "has no end there: the two cross"),
        ([(300, 0, 0), (0, 0, 200)], (0, 0, 0), "member_mitre", "a mitre is where two ends meet, and here an end meets a side"),
        ([(300, 0, 0), (0, 0, 200)], (0, 12, 0), "member_cope", "overhangs"),
        ([(300, 0, 0), (0, 0, 200)], (0, 0, 0), "member_butt", "is round: an end that lies on it is coped"),
        ([(300, 0, 0), (0, 0, 200)], (0, 0, 0), "member_passage", "runs on at both sides"),
    ],
)
def test_what_cannot_be_joined_so_says_why_and_stays_as_it_is(ways, at, joint, words):
    built = build(two("round tube", "round tube", ways, joint, at=at).document())
    assert words in built.joints["one-other"].refused
    assert [f.code for f in built.faults] == ["joint_refused"] and words in built.faults[0].message
    assert not body(built.made["one"]).at_a


def test_an_end_that_no_joint_cuts_can_be_level():
    """A splayed leg: its foot lies on the ground all round, and its length is that of the long point."""
    d = stocked("square tube")
    d.frame("f", {"p": mm((0, 0, 0)), "q": mm((100, 0, 400))}, {"l": ("p", "q")})
    d.member("leg", "square_tube", "f", "l", against="x", end_a="z")
    built = build(d.document())
    part = built.made["leg"]
    assert not built.faults and part.reaches[0][2] == pytest.approx(0.0, abs=1e-7)
    slope = math.atan(100 / 400)
    assert body(part).saw("a").angle == pytest.approx(slope) and body(part).saw("b").angle == 0
    assert body(part).long == pytest.approx(math.hypot(100, 400) + 20 * math.tan(slope))
    assert body(part).short == pytest.approx(math.hypot(100, 400) - 20 * math.tan(slope))
    fine(built)
    d.data["parts"]["leg"]["end_a"] = "x"
    assert not build(d.document()).faults
    d.data["parts"]["leg"] |= {"end_a": "y"}
    assert [f.code for f in build(d.document()).faults] == ["bad_end"]


def test_too_short_for_its_ends_is_said():
    d = two("square tube", "square tube", [(0, 18, 0), (0, 0, 280)], "member_mitre", span=(0, 1))
    d.frame("g", {"p": mm((0, 18, 0)), "q": mm((0, 18, 300))}, {"l": ("p", "q")}).member("third", "square_tube", "g", "l", against="y")
    d.joint("member_butt", "one", "third")
    built = build(d.document())
    assert "too_short" in [f.code for f in built.faults] and built.made["one"].body.empty
    assert sizes_of(built.made["one"]).length is None
    assert "one" in [f.part for f in built.faults]


@pytest.mark.parametrize(("section", "area", "metre"), [("square tube", 420.82, 3.303)])
def test_mass_is_by_the_section(section, area, metre):
    """40 × 40 × 3, outer corner 6, inner 3: 420.82 mm² and 3.303 kg/m (worked from the outline)."""
    d = stocked(section)
    d.frame("f", {"p": mm((0, 0, 0)), "q": mm((1000, 0, 0))}, {"l": ("p", "q")}).member("bar", key(section), "f", "l")
    built = build(d.document())
    assert body(built.made["bar"]).region.area == pytest.approx(area, abs=0.01)
    assert cut_list(built)[0].mass == pytest.approx(metre * 1000, abs=0.5)


NOTCHED = [
    ("round tube", "square tube"),
    ("square tube", "round tube"),
    ("flat", "rectangular tube"),
    ("round bar", "hexagon"),
    ("hexagon", "round tube"),
    ("round tube", "channel"),
    ("angle", "square tube"),
    ("square tube", "angle"),
]


@pytest.mark.parametrize("hand", [1, -1])
@pytest.mark.parametrize("way", ["square", "sloping"])
@pytest.mark.parametrize(("one", "other"), NOTCHED)
def test_what_lies_in_a_notch_has_its_room_and_leaves_the_rest_whole(one, other, way, hand):
    """The lying one is shifted until it stands half out of the other's side."""
    deep = section_of(other).extents[1] / 2 * hand
    d = two(other, one, [(0, 0, 600), [0, 300 * WAYS[way][2], 300 * WAYS[way][1]]], at=(deep, 0, 300))
    d.joint("member_notch", "other", "one", fit="0.4 mm")
    built = build(d.document())
    if section_of(other).open and built.joints["other-one"].refused:
        assert "in two" in built.joints["other-one"].refused or "pass" in built.joints["other-one"].refused
        return
    assert not built.faults and not built.joints["other-one"].refused
    fine(built, 5e-3)
    assert gap(built, "one", "other") == pytest.approx(0.2, abs=0.05)
    assert "overlap" not in [p.fault.code for p in check(built)]
    # of the whole section something is left beside it, and as much is gone as lies in it
    assert body(built.made["one"]).holes and not body(built.made["other"]).holes


def test_a_notch_is_open_and_a_passage_is_not():
    def refused(kind, apart, one="round bar"):
        d = two("square tube", one, [(0, 0, 600), (0, 300, 0)], at=(apart, 0, 300))
        d.joint(kind, "other", "one")
        return build(d.document()).joints["other-one"].refused

    assert not refused("member_passage", 0) and "it passes through a hole" in refused("member_notch", 0)
    assert "which it would cut open" in refused("member_passage", 15) and not refused("member_notch", 15)
    # a tube of 40 through one of 40 takes all of it
    assert "in two" in refused("member_notch", 0, "square tube") and not refused("member_notch", 21, "square tube")


@pytest.mark.parametrize(("one", "other"), [("round bar", "square tube"), ("round bar", "round tube"), ("flat", "square tube")])
def test_a_notch_is_on_the_outside_laid_flat(one, other):
    """Wrapped back, its edge lies on what lies in it, less the fit; its area is what the cut is to a polygon library."""
    apart = section_of(other).extents[0] / 2
    d = two(other, one, [(0, 0, 600), (0, 300, 0)], at=(apart, 0, 300))
    d.joint("member_notch", "other", "one", fit="1 mm")
    built = build(d.document())
    assert not built.faults
    own = body(built.made["one"])
    _, (mouth,), _ = developed(own)
    around, (hole,) = Around(own.section), own.holes
    for x, y in mouth.flatten(0.01):
        u, v, w = hole.motion.inverse.point((*around.point(x % around.length), y))
        reach = section_of(one).grown(0.5)
        off = (
            math.hypot(u, v) - reach.height / 2
            if reach.shape == "round"
            else max(abs(u) - reach.extents[0] / 2, abs(v) - reach.extents[1] / 2)
        )
        assert abs(off) < 0.02 or (one == "flat" and off < 0.02), (x, y, w)
    assert mouth.area > 0
