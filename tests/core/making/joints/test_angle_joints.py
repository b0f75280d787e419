"""Joints of boards at any angle: nothing overlaps, every part is one piece, what lies against a face lies on it, slots are no wider than they must be."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid, stocked
from tests.explore import drawn
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.layout import Place
from zygon.exchange.cutlist import cut_list
from zygon.making.asked.measured import measure
from zygon.making.pipeline import build
from zygon.screen.joint_figure import joint_figure

SETTINGS = settings(max_examples=drawn(40))


def ring(n: int, thickness: float, width: float, height: float = 80.0, **more) -> Draft:
    """A prism of n staves whose outer arrises meet, with its middle at the origin."""
    d = Draft("ring", "ply12", **more)
    stock = stocked(d, "s", thickness)
    apothem = round(width, 3) / 2 / math.tan(math.pi / n)
    d.board("stave", stock, "facing_front", f"{-apothem:.12f} mm", (f"{-width / 2:.3f} mm", f"{width / 2:.3f} mm"), (0, f"{height} mm"))
    d.repeat("r", "ring", "part:stave", axis="z", at={"x": "0", "y": "0"}, number=str(n))
    d.data["joints"]["m"] = {"kind": "mitre", "a": "stave", "b": "stave@r.1"}
    return d


@SETTINGS
@given(st.integers(3, 16), st.floats(2, 20), st.floats(60, 200))
def test_mitred_staves_fill_their_prism_and_overlap_nowhere(n, thickness, width):
    thickness = min(thickness, 0.4 * width / math.tan(math.pi / n))
    built = build(ring(n, thickness, width).document())
    assert not built.faults
    solids = [solid(p) for p in built.parts.values()]
    t, width = round(thickness, 3), round(2 * round(width / 2, 3), 3)
    apothem = width / 2 / math.tan(math.pi / n)
    area = n * math.tan(math.pi / n) * (apothem**2 - (apothem - t) ** 2)  # of a regular ring, from its apothems
    assert sum(s.volume() for s in solids) == pytest.approx(area * 80.0, rel=2e-5)
    for i, one in enumerate(solids):
        assert (one ^ solids[(i + 1) % n]).volume() < 1e-2
    assert built.joints["m"].details["angle"] == pytest.approx(math.pi / n)
    assert cut_list(built)[0].quantity == n and cut_list(built)[0].mass == pytest.approx(solids[0].volume() * 0.68 / 1000, rel=1e-4)


def test_a_square_corner_is_mitred_too_and_a_cutter_that_cannot_says_so():
    d = Draft("d", "ply12", cutter="laser")
    d.board("a", "ply12", "facing_front", "0", (0, "200 mm"), (0, "80 mm"))
    d.board("b", "ply12", "facing_side", "0", (0, "150 mm"), (0, "80 mm"))
    d.joint("mitre", "a", "b")
    for cutter, said in (("laser", True), ("router", True), ("saw", False)):
        d.data["cutter"] = cutter
        built = build(d.document())
        found = [p.fault for p in check(built) if p.fault.code == "bevelled_edge"]
        assert bool(found) == said and all(f.value == "45°" for f in found)
    assert found == [] and (solid(built.parts["a"]) ^ solid(built.parts["b"])).volume() < 1e-3
    d.data["cutter"] = "laser"
    mends = [m.label for p in check(build(d.document())) for m in p.fault.mends]
    assert "Cut it on Table saw and hand tools" in mends


def leaning(angle: float, second: float = 0.0, ta: float = 12.0, tb: float = 15.0, more: float = 0.0, up: str = "a") -> Draft:
    """A leg that leans about one axis, or two, under (or through) a plate."""
    d = Draft("leg", "ply12")
    a, b = stocked(d, "sa", ta), stocked(d, "sb", tb)
    d.board("plate", b, "lying", "200 mm", ("-300 mm", "300 mm"), ("-300 mm", "300 mm"))
    d.board("leg", a, "facing_side", "0", ("-40 mm", "40 mm"), ("0", f"plate.bottom + {more} mm"), up=up)
    d.turn("leg", "y", f"{angle:.4f} deg", x="leg.centre", z="200 mm")
    if second:
        d.turn("leg", "x", f"{second:.4f} deg", y="leg.centre", z="200 mm")
    return d


ANGLES = st.floats(4, 45).flatmap(lambda a: st.sampled_from([a, -a]))


@SETTINGS
@given(ANGLES, st.floats(-35, 35), st.floats(3, 25), st.floats(3, 25), st.floats(-2, 0.4))
def test_a_bevelled_end_lies_flat_on_the_face_at_simple_and_compound_angles(angle, second, ta, tb, more):
    draft = leaning(angle, second, ta, tb, more * tb)
    draft.joint("bevel", "leg", "plate")
    built = build(draft.document())
    assert not built.faults
    a, b = solid(built.parts["leg"]), solid(built.parts["plate"])
    assert (a ^ b).volume() < 1e-2 and a.min_gap(b, 10) < 1e-4
    # what touches the plate is the whole end: a hair under it, the section is the leg's own, cut level
    # a plane cuts the leg in its cross-section over the cosine of its lean to the plane's normal
    area = a.slice(199.99).area()
    lean = abs(np.array(built.parts["leg"].matrix)[2, 1])
    assert area == pytest.approx(80 * round(ta, 3) / lean, rel=2e-3)


@SETTINGS
@given(ANGLES, st.floats(-30, 30), st.floats(4, 20), st.floats(4, 20), st.integers(1, 2))
def test_tabs_go_through_at_an_angle_and_their_slots_enclose_them_and_no_more(angle, second, ta, tb, n):
    draft = leaning(angle, second, ta, tb)
    draft.joint("tab_slot", "leg", "plate", fit="0", number=n, length="18 mm")
    built = build(draft.document())
    assert not built.faults
    leg, plate = solid(built.parts["leg"]), solid(built.parts["plate"])
    assert (leg ^ plate).volume() < 1e-2
    assert len(built.parts["leg"].flat.pieces) == 1 and len(built.parts["plate"].flat.inside) == n
    assert leg.bounding_box()[5] > 200 + 1e-6  # it does go in
    tight = draft.data["joints"]["leg-plate"]
    tight["fit"] = {"text": "-0.4 mm"}  # half of it a side: any less and it no longer goes through
    bitten = build(draft.document())
    assert (solid(bitten.parts["leg"]) ^ solid(bitten.parts["plate"])).volume() > 0.1


def test_a_slot_for_a_slanting_tab_is_as_wide_as_geometry_says():
    draft = leaning(30.0, 0.0, 10.0, 16.0)
    draft.joint("tab_slot", "leg", "plate", fit="0.5 mm", number=1, length="20 mm")
    (slot,) = build(draft.document()).parts["plate"].flat.inside
    x0, y0, x1, y1 = slot.bounds
    theta = math.radians(60)  # between the two planes
    whole = 10 / math.sin(theta) + 16 / math.tan(theta)
    assert y1 - y0 == pytest.approx(20.5)
    # the tab ends flush with the far face at its nearer arris, which takes the last corner off the slot
    assert whole + 0.5 - 10 / math.tan(math.pi / 2 - theta) - 1e-6 <= x1 - x0 <= whole + 0.5 + 1e-6


@SETTINGS
@given(
    st.floats(20, 160).filter(lambda a: abs(a - 90) > 1),
    st.floats(3, 20),
    st.floats(3, 20),
    st.floats(0.2, 0.8),
    st.sampled_from(["low", "high"]),
)
def test_boards_that_cross_at_any_angle_are_halved(angle, ta, tb, share, side):
    d = Draft("cross", "ply12")
    a, b = stocked(d, "sa", ta), stocked(d, "sb", tb)
    d.board("a", a, "facing_side", "0", ("-300 mm", "300 mm"), (0, "80 mm"), face="centre")
    d.board("b", b, "facing_side", "0", ("-300 mm", "300 mm"), ("10 mm", "100 mm"), face="centre")
    d.turn("b", "z", f"{angle:.4f} deg", x="0", y="0")
    d.joint("cross_lap", "a", "b", fit="0", share=f"{share:.3f}", side=side)
    built = build(d.document())
    assert not built.faults
    one, other = solid(built.parts["a"]), solid(built.parts["b"])
    assert (one ^ other).volume() < 1e-2 and one.min_gap(other, 5) < 1e-4
    assert all(len(p.flat.pieces) == 1 for p in built.parts.values())
    assert built.joints["a-b"].details["notch_a"] == pytest.approx(70 * round(share, 3), abs=1e-6)


@SETTINGS
@given(
    st.floats(15, 165),
    st.floats(0.2, 0.8),
    st.sampled_from(["low", "high"]),
    st.sampled_from(["facing_side", "facing_front", "lying"]),
    st.booleans(),
)
def test_boards_that_cross_in_one_plane_at_an_angle_are_halved_and_fill_what_they_share(angle, share, keeps, plane, over):
    d = Draft("cross", "ply12", cutter="router")
    t = stocked(d, "s", 18.0)
    u, v = {"facing_side": "yz", "facing_front": "xz", "lying": "xy"}[plane]
    normal = next(x for x in "xyz" if x not in (u, v))
    d.board("a", t, plane, "0", ("-200 mm", "200 mm"), ("-30 mm", "30 mm"))
    d.board("b", t, plane, "0", ("-200 mm", "200 mm"), ("-20 mm", "20 mm"))
    d.turn("b", normal, f"{angle:.4f} deg", **{u: "0", v: "0"})
    if over:
        d.turn("b", u, "180 deg", **{v: "0", normal: "b.centre"})
    d.joint("half_lap", "a", "b", fit="0", share=f"{share:.3f}", keeps=keeps, relief="none")
    built = build(d.document(), nominal=True)
    assert not built.faults
    a, b = solid(built.parts["a"]), solid(built.parts["b"])
    assert (a ^ b).volume() < 1e-2
    common = 60 * 40 / math.sin(math.radians(round(angle, 4)))
    reach = 400 * math.sin(math.radians(angle)) / 2  # short of the corners the common part is a whole rhomboid
    if reach > 80:
        assert (a + b).volume() == pytest.approx((400 * 60 + 400 * 40 - common) * 18, rel=1e-6)


@pytest.mark.parametrize(
    ("kind", "words"),
    [
        ("finger", "a finger joint needs a corner, and these boards meet at an angle"),
        ("dowels", "a dowel needs boards that stand square to each other"),
        ("groove", "a groove needs boards that stand square to each other"),
        ("half_lap", "a half-lap lies in one plane, and these boards meet at an angle"),
        ("face_glue", "face gluing needs boards that lie parallel, and these meet at an angle"),
        ("cross_lap", "a cross lap needs both boards to run on past each other"),
    ],
)
def test_a_joint_that_needs_square_boards_says_so(kind, words):
    draft = leaning(20.0)
    draft.joint(kind, "leg", "plate")
    (fault,) = [f for f in build(draft.document()).faults if f.code == "joint_refused"]
    assert words in fault.message


def test_a_board_that_ends_before_the_other_is_told_how_far():
    draft = leaning(20.0)
    draft.data["parts"]["leg"]["spans"]["z"]["high"]["text"] = "80 mm"
    draft.joint("tab_slot", "leg", "plate")
    (fault,) = [f for f in build(draft.document()).faults if f.code == "joint_refused"]
    assert "lie" in fault.message and "apart" in fault.message


def test_too_flat_an_angle_is_said_with_how_far_it_would_reach():
    draft = leaning(88.9)
    draft.joint("bevel", "leg", "plate")
    faults = build(draft.document()).faults
    assert [f.code for f in faults] in (["too_flat"], ["joint_refused"])


def test_a_trim_cuts_feet_level_at_any_lean():
    draft = leaning(17.0, -9.0)
    draft.feature("leg", "foot", "trim", ("centre", "0"), ("centre", "0"), axis="z", at="20 mm", side="low")
    built = build(draft.document())
    assert solid(built.parts["leg"]).bounding_box()[2] == pytest.approx(20.0, abs=1e-6)
    whole = solid(build(leaning(17.0, -9.0).document()).parts["leg"])
    assert solid(built.parts["leg"]).volume() == pytest.approx(whole.trim_by_plane((0, 0, 1), 20.0).volume(), rel=1e-6)


def test_the_figure_of_a_joint_at_an_angle_shows_both_boards():
    draft = leaning(25.0)
    draft.joint("tab_slot", "leg", "plate")
    figure = joint_figure(build(draft.document()), "leg-plate")
    (view,) = figure["views"]
    assert {s["part"] for s in view["shapes"]} == {"a", "b"} and view["title"] == "Section across"


def test_the_angle_between_turned_boards_is_the_one_they_were_turned_by():
    built = build(leaning(33.0).document())
    found = measure(built, Place(part="leg", what="face", name="left"), Place(part="plate", what="face", name="top"))
    assert math.degrees(found.angle) == pytest.approx(90 - 33)


@pytest.mark.parametrize("side", ["low", "high"])
@pytest.mark.parametrize("short", ["a", "b"])
def test_a_mitre_is_the_same_however_short_the_other_board(side, short):
    """A board whose middle lies within the other's thickness still tells which side is the inner one."""

    def bevels(reach):
        d = Draft("corner", "ply12")
        width = (0, f"{reach} mm") if side == "low" else (f"{200 - reach} mm", "200 mm")
        at = 0 if side == "low" else "200 mm - 11.8 mm"
        if short == "a":
            width = (0, "200 mm")
        d.board("b", "ply12", "facing_front", 0, width, (0, "100 mm"))
        d.board("a", "ply12", "facing_side", at, ("b.back", "160 mm" if short == "b" else f"{reach} mm"), (0, "100 mm"))
        d.joint("mitre", "a", "b")
        built = build(d.document())
        assert not built.joints["a-b"].refused
        return {k: p.flat for k, p in built.flats.items()}

    near, far = bevels(18), bevels(150)
    other = "a" if short == "b" else "b"
    assert near[other].bevels and near[other].bevels == far[other].bevels
    assert [p.outer.points for p in near[other].pieces] == [p.outer.points for p in far[other].pieces]
    if side == "low" or short == "a":  # it begins at the joint
        assert near[short].bevels == far[short].bevels
