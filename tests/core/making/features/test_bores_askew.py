"""Bores that lean, that run along a part's own axes, and that meet sheets at an angle or by their edges."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepGProp import BRepGProp
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.GProp import GProp_GProps

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.errors import DocumentError
from zygon.exchange.drilling import drilling_list
from zygon.geometry.boolean import to_polygon
from zygon.geometry.ellipse import ellipse, skewed_hole
from zygon.making.asked.questions import parts_along
from zygon.making.flats.exact import solid_of
from zygon.making.flats.flat import mesh_of
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build

T = 11.8  # the ply, as it was measured


def leaning(lean="0", toward=None, action="drill", plane="lying", axis="z", turn=None, of=""):
    """A board of 200 x 160 in one of the three planes, bored in its middle along its normal."""
    draft = Draft("d", "ply12")
    span = {"lying": ((0, 200), (0, 160)), "facing_front": ((0, 200), (0, 160)), "facing_side": ((0, 200), (0, 160))}[plane]
    draft.board("seat", "ply12", plane, 0, *[(f"{a} mm", f"{b} mm") for a, b in span])
    if turn:
        draft.turn("seat", *turn[:2], **turn[2])
    places = {
        "lying": {"x": 100, "y": 80, "z": T / 2},
        "facing_front": {"x": 100, "z": 80, "y": T / 2},
        "facing_side": {"y": 100, "z": 80, "x": T / 2},
    }[plane]
    at = {a: f"{x} mm" for a, x in places.items() if a != axis or lean != "0"}
    draft.bore("leg", axis, at, "20 mm", seat=(action, "0"))
    draft.askew("leg", of, None if lean == "0" else lean, toward)
    return draft


def only(draft):
    built = build(draft.document())
    assert not built.faults
    return built.flats["seat"]


# ---- the hole itself


@given(a=st.floats(3, 40), ratio=st.floats(1.0001, 6), turn=st.floats(0, 6.28))
@settings(deadline=None, max_examples=60)
def test_an_ellipse_of_arcs_is_within_a_sagitta_of_the_ellipse(a, ratio, turn):
    way = (math.cos(turn), math.sin(turn))
    found = ellipse((7.0, -3.0), a * ratio, a, way, "o")
    assert found.area == pytest.approx(math.pi * a * a * ratio, rel=1e-3) and set(found.owners) == {"o"}
    points = found.flatten(1e-4) - (7.0, -3.0)
    along, across = points @ np.array(way), points @ np.array((-way[1], way[0]))
    # how far a point lies off, to first order: the implicit function over its gradient
    value = (along / (a * ratio)) ** 2 + (across / a) ** 2 - 1
    slope = 2 * np.hypot(along / (a * ratio) ** 2, across / a**2)
    assert np.max(np.abs(value / slope)) < 0.0015


@given(lean=st.floats(0.0, 70), toward=st.floats(0, 360), diameter=st.floats(2, 30), thickness=st.floats(0.5, 25))
@settings(deadline=None, max_examples=60)
def test_a_hole_cut_straight_through_lets_the_round_pass_and_is_no_wider_than_that(lean, toward, diameter, thickness):
    theta, phi = math.radians(lean), math.radians(toward)
    travel = thickness * math.tan(theta)
    high = (travel * math.cos(phi), travel * math.sin(phi))
    hole = to_polygon(skewed_hole((0.0, 0.0), high, diameter, math.cos(theta), "o"), 1e-4)
    # rounds of the bore at any height, as points of its skin
    way = np.array((math.sin(theta) * math.cos(phi), math.sin(theta) * math.sin(phi), math.cos(theta)))
    side = np.array((-math.sin(phi), math.cos(phi), 0.0))
    up = np.cross(way, side)
    skin = []
    for angle in np.linspace(0, 2 * math.pi, 73):
        off = diameter / 2 * (math.cos(angle) * side + math.sin(angle) * up)
        for height in (0.0, thickness / 3, thickness):
            skin.append((off + way * ((height - off[2]) / way[2]))[:2])
    assert shapely.buffer(hole, 0.0015).covers(shapely.multipoints(skin))
    # common practice: d / cos(lean) + t tan(lean) long, d wide
    turned = shapely.affinity.rotate(hole, -toward, origin=(0, 0))
    x0, y0, x1, y1 = turned.bounds
    assert x1 - x0 == pytest.approx(diameter / math.cos(theta) + travel, abs=0.003)
    assert y1 - y0 == pytest.approx(diameter, abs=0.003)


def volume(shape):
    props = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, props)
    return props.Mass()


@pytest.mark.parametrize("plane, axis", [("lying", "z"), ("facing_front", "y"), ("facing_side", "x")])
@pytest.mark.parametrize(
    "lean, toward", [("10 deg", "0"), ("25 deg", "90 deg"), ("15 deg", "200 deg"), ("-15 deg", "37 deg"), ("60 deg", "301.5 deg")]
)
def test_a_drilled_hole_is_the_cylinder_that_open_cascade_takes_away(plane, axis, lean, toward):
    part = only(leaning(lean, toward, plane=plane, axis=axis))
    assert not part.flat.inside and len(part.flat.skew_bores) == 1
    theta, phi = (math.radians(float(x.split()[0])) for x in (lean, toward))
    one, other = (a for a in "xyz" if a != axis)
    way = {axis: math.cos(theta), one: math.sin(theta) * math.cos(phi), other: math.sin(theta) * math.sin(phi)}
    low, high = part.reaches
    middle = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
    start = [m - 200 * way[a] for m, a in zip(middle, "xyz", strict=True)]
    box = BRepPrimAPI_MakeBox(gp_Pnt(*low), gp_Pnt(*high)).Shape()
    tool = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(*start), gp_Dir(*(way[a] for a in "xyz"))), 10.0, 400.0).Shape()
    wanted = volume(BRepAlgoAPI_Cut(box, tool).Shape())
    # the picture's cylinder has 64 sides
    assert 0 < volume_of(part.flat) - wanted < 0.01 * (volume(box) - wanted)
    assert volume(solid_of(part.flat)) == pytest.approx(wanted, rel=1e-9)
    # and where it is: every triangle of the hole lies on the cylinder about that line
    (mesh,) = mesh_of(part.flat)
    own = [t for t, o in zip(mesh.triangles, mesh.owners, strict=True) if o == "bore:leg"]
    m = np.array(part.matrix)
    points = mesh.positions[np.unique(own)] @ m[:3, :3].T + m[:3, 3]
    off = points - middle
    w = np.array([way[a] for a in "xyz"])
    assert np.linalg.norm(off - np.outer(off @ w, w), axis=1) == pytest.approx(10.0, abs=0.02)


# ---- along a part's own axes


@pytest.mark.parametrize(
    "turn", [("y", "20 deg", {"x": "0", "z": "0"}), ("x", "-35 deg", {"y": "40 mm", "z": "3 mm"}), ("z", "50 deg", {"x": "0", "y": "0"})]
)
@pytest.mark.parametrize("plane, axis", [("lying", "z"), ("facing_front", "y"), ("facing_side", "x")])
def test_a_bore_along_the_axes_of_a_part_that_slopes_is_square_to_it(turn, plane, axis):
    part = only(leaning(plane=plane, axis=axis, turn=turn, of="seat", action="cut"))
    (hole,) = part.flat.inside
    assert hole.as_circle == pytest.approx((100, 80, 10.0))


@pytest.mark.parametrize("angle", [-30, 12, 40])
@pytest.mark.parametrize("action", ["cut", "drill", "mark"])
def test_a_bore_square_to_a_sloping_board_goes_on_through_what_lies_behind_at_its_angle(angle, action):
    draft = leaning(turn=("y", f"{angle} deg", {"x": "100 mm", "z": "5.9 mm"}), of="seat", action="cut")
    draft.board("floor", "ply12", "lying", "-150 mm", ("-200 mm", "400 mm"), (0, "160 mm"))
    draft.data["bores"]["leg"]["parts"]["floor"] = {"action": action, "fit": draft.entry("0.5 mm" if action != "mark" else "0")}
    built = build(draft.document())
    assert not built.faults
    flat = built.flats["floor"].flat
    # from the middle of the seat straight down its normal to the middle of the floor
    down = 150
    at = 100 - down * math.tan(math.radians(angle)) + 200
    theta, d = math.radians(abs(angle)), 20.5 if action != "mark" else 20.0
    if action == "drill":
        (drill,) = flat.skew_bores
        assert (drill.start[0] + drill.end[0]) / 2 == pytest.approx(at, abs=1e-6)
        assert math.degrees(math.acos(abs(drill.way[2]))) == pytest.approx(abs(angle), abs=1e-6) and drill.diameter == d
        return
    contour = flat.inside[0] if action == "cut" else flat.marks[0]
    x0, y0, x1, y1 = contour.bounds
    travel = T * math.tan(theta) if action == "cut" else 0.0
    assert x1 - x0 == pytest.approx(d / math.cos(theta) + travel, abs=0.003) and y1 - y0 == pytest.approx(d, abs=0.003)
    # the mark lies where the bore comes out of the face that lies up
    shift = 0.0 if action == "cut" else math.tan(math.radians(angle)) * (T / 2 if built.flats["floor"].record.up == "a" else -T / 2)
    assert (x0 + x1) / 2 == pytest.approx(at + shift, abs=0.003)


def test_places_of_such_a_bore_are_read_along_the_part_s_own_axes():
    draft = leaning(turn=("y", "20 deg", {"x": "0", "z": "0"}), of="seat", action="cut")
    draft.data["bores"]["leg"]["at"] = {"x": draft.entry("seat.left + 30 mm"), "y": draft.entry("mid(seat.front, seat.back)")}
    assert only(draft).flat.inside[0].as_circle == pytest.approx((30, 80, 10.0))
    # and what slopes as seen from there is said
    draft.board("wall", "ply12", "facing_side", "-40 mm", (0, "160 mm"), (0, "100 mm"))
    draft.data["bores"]["leg"]["at"]["x"] = draft.entry("wall.right + 30 mm")
    (fault,) = build(draft.document()).faults
    assert "slopes" in fault.message and fault.entry == "/bores/leg/at/x"


@pytest.mark.parametrize("mirrored", [False, True])
def test_a_rod_in_a_drilled_hole_of_its_own_size_strikes_nothing(mirrored):
    draft = leaning("20 deg", "0")
    draft.data["bores"]["leg"]["parts"]["seat"]["fit"] = draft.entry("0.2 mm")
    draft.data["stocks"]["rod20"] = {"kind": "bar", "name": "rod", "nominal": draft.entry("20 mm"), "material": "oak"}
    draft.rod("shaft", "rod20", "z", ("-60 mm", "80 mm"), x="100 mm", y="80 mm")
    draft.turn("shaft", "y", "20 deg", x="100 mm", z="5.9 mm")
    if mirrored:
        draft.mirror("right", "x", "300 mm", "part:seat", "part:shaft")

    def strikes():
        return [p.fault.code for p in check(build(draft.document())) if p.fault.code == "overlap"]

    assert not strikes()
    draft.data["bores"]["leg"]["toward"] = draft.entry("180 deg")
    assert strikes()


# ---- by the edge


@pytest.mark.parametrize(
    "axis, at, ends",
    [
        ("x", {"y": "80 mm", "z": "5.9 mm"}, ((0, 80, 5.9), (200, 80, 5.9))),
        ("y", {"x": "40 mm", "z": "5 mm"}, ((40, 0, 5), (40, 160, 5))),
    ],
)
def test_a_board_is_drilled_from_edge_to_edge(axis, at, ends):
    draft = leaning()
    draft.data["bores"].clear()
    draft.bore("rod", axis, at, "5 mm", seat=("drill", "0"))
    built = build(draft.document())
    (drill,) = built.flats["seat"].flat.skew_bores
    assert drill.start == pytest.approx(ends[0]) and drill.end == pytest.approx(ends[1])
    assert volume_of(built.flats["seat"].flat) == pytest.approx(200 * 160 * T - math.pi * 2.5**2 * math.dist(*ends), rel=1e-4)
    assert not check(built)


def test_a_board_of_an_outline_is_drilled_where_it_is():
    draft = leaning()
    draft.data["bores"].clear()
    draft.feature("seat", "gap", "rectangle", ("left", "100 mm"), ("front", "80 mm"), width="60 mm", height="40 mm")
    draft.bore("rod", "x", {"y": "80 mm", "z": "5.9 mm"}, "5 mm", seat=("drill", "0"))
    said = [(p.fault.code, p.fault.severity) for p in check(build(draft.document()))]
    assert said == [("bore_meets", "warning")]


@pytest.mark.parametrize("z, diameter, out", [(5.9, 11.0, False), (5.9, 11.8, True), (3, 6.0, True), (9, 5.0, False), (9, 7.0, True)])
def test_a_drill_that_comes_out_through_a_face_is_said(z, diameter, out):
    draft = leaning()
    draft.data["bores"].clear()
    draft.bore("rod", "x", {"y": "80 mm", "z": f"{z} mm"}, f"{diameter} mm", seat=("drill", "0"))
    assert [p.fault.code for p in check(build(draft.document()))] == ["bore_meets"] * out


@pytest.mark.parametrize("action", ["cut", "mark"])
def test_what_enters_an_edge_is_drilled_or_left_alone_in_one_press(action):
    draft = leaning()
    draft.data["bores"].clear()
    draft.bore("rod", "x", {"y": "80 mm", "z": "5.9 mm"}, "5 mm", seat=(action, "0"))
    (fault,) = build(draft.document()).faults
    assert fault.code == "bore_in_edge" and [m.label for m in fault.mends] == ["Drill seat there", "Leave seat alone"]
    for mend, drills in zip(fault.mends, (1, 0), strict=True):
        from zygon.design.patch import patched

        after = build(patched(draft.document().dump(), mend.patch))
        assert not after.faults and len(after.flats["seat"].flat.skew_bores) == drills


# ---- what goes wrong


@pytest.mark.parametrize("lean", ["76 deg", "-80 deg", "90 deg", "200 deg"])
def test_a_bore_that_leans_too_far_is_said_and_the_last_good_one_stands(lean):
    document = leaning(lean).document()
    built = build(document)
    assert [(f.code, f.entry) for f in built.faults] == [("bad_value", "/bores/leg/lean")] and not built.flats["seat"].flat.skew_bores
    good = build(document, {**built.good, "/bores/leg/lean": math.radians(20)})
    assert math.degrees(math.acos(good.flats["seat"].flat.skew_bores[0].way[2])) == pytest.approx(20)


def test_a_sheet_that_is_met_too_flat_is_said():
    draft = leaning(turn=("y", "80 deg", {"x": "100 mm", "z": "5.9 mm"}))
    (fault,) = build(draft.document()).faults
    assert (fault.code, fault.value, fault.entry) == ("bore_too_flat", "80°", "/bores/leg/parts/seat")


@pytest.mark.parametrize("x, codes", [(100, []), (12, ["breaks_out"]), (15.5, [])])
def test_a_drilled_hole_that_comes_out_through_an_edge_is_said(x, codes):
    draft = leaning("30 deg", "0")
    draft.data["bores"]["leg"]["at"]["x"] = draft.entry(f"{x} mm")
    assert [p.fault.code for p in check(build(draft.document())) if p.fault.code == "breaks_out"] == codes


@pytest.mark.parametrize(
    "change",
    [
        {"lean": None},
        {"at": {"x": "1 mm", "y": "1 mm"}},
        {"at": {"x": "1 mm", "z": "1 mm"}},
        {"of": "nobody"},
    ],
)
def test_a_bore_that_leans_says_where_it_is_measured_along_its_axis_too(change):
    draft = leaning("10 deg")
    for k, v in change.items():
        draft.data["bores"]["leg"][k] = {a: draft.entry(x) for a, x in v.items()} if isinstance(v, dict) else v
    with pytest.raises(DocumentError):
        draft.document()


# ---- beside what is there already


def test_a_mirrored_board_with_a_leaning_hole_is_the_other_hand_and_one_with_two_that_lean_apart_is_not():
    def hands(*towards):
        draft = leaning()
        draft.data["bores"].clear()
        for i, (x, toward) in enumerate(towards):
            draft.bore(f"b{i}", "z", {"x": f"{x} mm", "y": "80 mm", "z": "5.9 mm"}, "10 mm", seat=("drill", "0"))
            draft.askew(f"b{i}", "", "20 deg", f"{toward} deg")
        draft.mirror("other", "x", "300 mm", "part:seat")
        return [p.handed for p in build(draft.document()).flats.values()]

    assert hands((60, 30)) == [1, -1]
    assert hands((60, 30), (140, 150)) == [1, 1]
    # the same mouths on one face, and not on the other
    assert hands((60, 30), (140, -30)) == [1, -1]


def test_a_copied_leg_bores_the_seat_that_stays_too():
    draft = leaning("15 deg", "0")
    draft.board("leg_board", "ply12", "lying", "-40 mm", ("40 mm", "90 mm"), ("60 mm", "100 mm"))
    draft.data["bores"]["leg"]["parts"]["leg_board"] = {"action": "drill", "fit": draft.entry("0")}
    draft.data["bores"]["leg"]["at"]["x"] = draft.entry("70 mm")
    draft.mirror("pair", "x", "100 mm", "part:leg_board")
    built = build(draft.document())
    starts = sorted((round((d.start[0] + d.end[0]) / 2, 3), round(d.way[0], 3)) for d in built.flats["seat"].flat.skew_bores)
    assert starts == [(70.0, 0.259), (130.0, -0.259)]


def test_the_drilling_list_has_the_angle_and_the_way_it_leans():
    (row,) = drilling_list(build(leaning("15 deg", "30 deg").document()))
    assert (row.surface, row.side, row.depth, row.diameter) == ("face", "top", None, 20.0)
    assert (row.lean, row.toward) == (pytest.approx(15.0), "30° from right to back")
    # measured where the drill enters
    off = T / 2 * math.tan(math.radians(15))
    assert row.along == pytest.approx(100 + off * math.cos(math.radians(30))) and row.across == pytest.approx(
        80 + off * math.sin(math.radians(30))
    )
    draft = leaning()
    draft.data["bores"].clear()
    draft.bore("rod", "x", {"y": "80 mm", "z": "4 mm"}, "5 mm", seat=("drill", "0"))
    (row,) = drilling_list(build(draft.document()))
    assert (row.surface, row.side, row.depth, row.along, row.across, row.lean, row.toward) == ("edge", "left", None, 80, 4, 0.0, "")


def test_parts_along_a_line_that_leans_are_asked_for_as_it_is_drafted():
    draft = leaning("15 deg", "0")
    draft.board("low", "ply12", "lying", "-300 mm", ("0", "60 mm"), (0, "160 mm"))
    at = {a: draft.entry(x) for a, x in {"x": "100 mm", "y": "80 mm", "z": "5.9 mm"}.items()}

    def asked(**more):
        return [(p["part"], p["how"]) for p in parts_along(draft.document(), "z", at, **more)]

    assert asked() == [("seat", "square")]
    assert asked(lean=draft.entry("15 deg"), toward=draft.entry("0")) == [("low", "angle"), ("seat", "angle")]
    draft.turn("seat", "y", "15 deg", x="100 mm", z="5.9 mm")
    assert asked(of="seat") == [("low", "angle"), ("seat", "square")]
    with pytest.raises(DocumentError) as said:
        asked(of="ghost")
    assert said.value.entry == "of"
    with pytest.raises(DocumentError) as said:
        asked(lean=draft.entry("99 deg"))
    assert said.value.entry == "lean"


def test_a_part_whose_axes_a_bore_has_takes_the_bore_along_when_it_goes():
    from zygon.design.operations import remove_part
    from zygon.design.patch import patched

    draft = leaning(of="seat", turn=("y", "10 deg", {"x": "0", "z": "0"}), action="cut")
    draft.board("floor", "ply12", "lying", "-100 mm", (0, "200 mm"), (0, "160 mm"))
    draft.data["bores"]["leg"]["parts"]["floor"] = {"action": "cut", "fit": draft.entry("0")}
    after = patched(draft.document().dump(), remove_part(draft.document(), "seat")[1])
    assert not after.bores and set(after.parts) == {"floor"}
    after = patched(draft.document().dump(), remove_part(draft.document(), "floor")[1])
    assert set(after.bores["leg"].parts) == {"seat"}


def test_which_way_a_hole_is_drilled_does_not_tell_two_boards_apart():
    from zygon.making.flats.alike import alike

    flat = only(leaning("20 deg", "0")).flat
    (d,) = flat.skew_bores
    assert alike(flat, replace(flat, digest="other", skew_bores=(replace(d, start=d.end, end=d.start),))) is not None
    assert alike(flat, replace(flat, digest="wider", skew_bores=(replace(d, diameter=21.0),))) is None
    assert alike(flat, replace(flat, digest="none", skew_bores=())) is None


@pytest.mark.parametrize(
    "lean, toward, of", [("15 deg", "0", ""), ("-20 deg", "250 deg", ""), ("0", None, "wedge"), ("11 deg", "70 deg", "wedge")]
)
@pytest.mark.parametrize("axis, at", [("x", "128.5 mm"), ("y", "119 mm"), ("x", "260 mm"), ("z", "-120 mm")])
def test_copies_made_independent_keep_their_leaning_holes(lean, toward, of, axis, at):
    from zygon.design.patch import patched
    from zygon.edits.independent import make_independent

    draft = leaning(lean, toward)
    draft.board("wedge", "ply12", "lying", "-400 mm", (0, "40 mm"), (0, "40 mm")).turn("wedge", "y", "8 deg", x="0", z="0")
    draft.board("low", "ply12", "lying", "-40 mm", ("60 mm", "128 mm"), ("50 mm", "118 mm"))
    draft.data["bores"]["leg"] |= {
        "of": of,
        "parts": {"seat": {"action": "drill", "fit": draft.entry("0")}, "low": {"action": "cut", "fit": draft.entry("1 mm")}},
        "low": draft.entry("-60 mm"),
        "high": draft.entry("60 mm"),
    }
    draft.mirror("pair", axis, at, "part:low")
    document = draft.document()
    before = build(document)
    assert not before.faults
    after = build(patched(document.dump(), make_independent(before, "pair")[1]))
    assert not [f for f in after.faults if f.code != "bore_misses"]
    (copy,) = (p for p in before.flats.values() if p.made_by)
    own = next(p for k, p in after.flats.items() if k not in ("seat", "low", "wedge"))
    assert own.flat.area == pytest.approx(copy.flat.area, abs=1e-6)

    def in_room(part):
        m = np.array(part.matrix)
        holes = [np.mean(c.flatten(0.01), axis=0) for c in part.flat.inside]
        return sorted(np.round(m[:3, :3] @ (*h, part.flat.thickness / 2) + m[:3, 3], 4).tolist() for h in holes)

    assert in_room(own) == in_room(copy)
    assert len(after.flats["seat"].flat.skew_bores) == len(before.flats["seat"].flat.skew_bores)


@pytest.mark.parametrize("out", [True, False])
def test_a_bore_along_a_part_that_is_left_out_waits_for_it(out):
    draft = leaning(of="seat", turn=("y", "10 deg", {"x": "0", "z": "0"}), action="cut")
    draft.board("floor", "ply12", "lying", "-100 mm", ("-100 mm", "300 mm"), (0, "160 mm"))
    draft.data["bores"]["leg"]["parts"]["floor"] = {"action": "drill", "fit": draft.entry("0")}
    draft.data["parts"]["seat"]["out"] = out
    built = build(draft.document())
    flat = built.flats["floor"].flat
    assert not built.faults and not flat.inside and len(flat.skew_bores) == (0 if out else 1)
