"""Folding: sizes asked for are sizes measured, volumes by formula, and the fold keeps every length of the flat."""

import csv
import io
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.metal.trays import SIDES, flange, folded, part_of, solid
from tests.explore import drawn
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.making.flats.flat import turned_over
from zygon.making.flats.handed import handed_flat
from zygon.making.metal.folded_mesh import folded_mesh, net_of
from zygon.making.pipeline import build
from zygon.making.result.fold import bend_points, face_motions

THICK = st.sampled_from([0.5, 1.0, 2.0])
RADIUS = st.floats(0.3, 6)


@given(THICK, RADIUS, st.floats(20, 60), st.floats(0, 0.5))
@settings(max_examples=drawn(40))
def test_a_channel_measures_what_was_asked_for(t, r, height, k):
    part = part_of(folded({"a": flange("left", height), "b": flange("right", height)}, thickness=t, radius=r, k=k))
    low, high = solid(part).bounds
    assert (high - low) == pytest.approx([200, 120, height], abs=1e-6)
    assert part.reaches[1] == pytest.approx(high.tolist(), abs=1e-6)


@pytest.mark.parametrize(("measured", "extra"), [("outer", 0.0), ("inner", 1.0), ("tangent", 3.0)])
def test_a_length_is_to_the_outer_sharp_the_inner_one_or_the_tangent(measured, extra):
    """At a right angle the inner sharp lies a thickness, the tangent radius and thickness behind the outer one."""
    part = part_of(folded({"a": flange("right", 30, measured=measured)}, thickness=1, radius=2))
    assert solid(part).bounds[1][2] == pytest.approx(30 + extra)


@pytest.mark.parametrize(("where", "right"), [("outside", 200.0), ("inside", 201.0), ("edge", 203.0)])
def test_a_flange_stands_flush_outside_inside_or_starts_at_the_edge(where, right):
    part = part_of(folded({"a": flange("right", 30, where=where)}, thickness=1, radius=2))
    assert solid(part).bounds[1][0] == pytest.approx(right)


@given(st.floats(95, 170), RADIUS)
@settings(max_examples=drawn(25))
def test_over_a_right_angle_sizes_are_measured_to_the_tangent(degrees, r):
    part = part_of(folded({"a": flange("right", 40, angle=f"{degrees} deg")}, radius=r))
    mesh = solid(part)
    angle = math.radians(degrees)
    # the farthest place of a bend drawn in chords falls short of the true tangent by at most its sagitta
    short = (r + 1) * (1 - math.cos(math.radians(9) / 2)) + 1e-6
    assert 200 - short <= mesh.bounds[1][0] <= 200 + 1e-6
    along = mesh.vertices[mesh.vertices[:, 2] > 1 + 1e-6] @ [math.cos(angle), 0, math.sin(angle)]
    centre = np.array([200 - r - 1, 0, r + 1])
    assert along.max() - centre @ [math.cos(angle), 0, math.sin(angle)] == pytest.approx(40 - r - 1)


@st.composite
def trees(draw):
    """Random flanges on a plate and on one another that do not meet in corners."""
    flanges = {}
    for side in draw(st.sets(st.sampled_from(["left", "right"]), min_size=1)):
        on = ""
        for level in range(draw(st.integers(1, 3))):
            key = f"{side}{level}"
            angle = draw(st.floats(5, 120))
            flanges[key] = flange(
                side if not on else "end",
                draw(st.floats(45, 60)),
                on=on,
                angle=f"{angle} deg",
                radius=draw(st.floats(0.2, 5)),
                toward=draw(st.sampled_from(["a", "b"])),
                where=draw(st.sampled_from(["outside", "inside", "edge"])),
            )
            on = key
    return flanges


def exact_volume(part):
    """Thickness times the middle surface: faces as they are, bends A (R + T/2) wide."""
    t, fold = part.flat.thickness, part.flat.fold
    faces = sum(c.area for f in fold.faces for c in f.outline)
    return t * faces + sum(t * abs(b.angle) * (b.radius + t / 2) * math.dist(b.start, b.end) for b in fold.bends)


@given(trees(), THICK, st.floats(0.2, 0.5))
@settings(max_examples=drawn(60))
def test_any_tree_of_flanges_is_closed_keeps_its_lengths_and_its_volume(flanges, t, k):
    part = part_of(folded(flanges, thickness=t, k=k))
    flat, fold = part.flat, part.flat.fold
    mesh = solid(part)
    assert mesh.is_watertight and mesh.volume == pytest.approx(exact_volume(part), rel=5e-3)
    # the flat's area times the thickness differs from the volume by the shift of the neutral line alone
    shift = sum(abs(b.angle) * t * t * (b.k - 0.5) * math.dist(b.start, b.end) for b in fold.bends)
    assert flat.area * t - exact_volume(part) == pytest.approx(shift, abs=1e-3)
    # unfolded, it is the flat again
    (x0, y0, x1, y1) = flat.bounds
    laid = folded_mesh(net_of(flat.pieces, fold), t, fold, share=0.0).positions
    assert np.array([laid.min(axis=0), laid.max(axis=0)]) == pytest.approx(np.array([[x0, y0, 0], [x1, y1, t]]))
    # every face is moved rigidly, and meets its bend without a step
    motions = face_motions(fold)
    for i, bend in enumerate(fold.bends):
        rows = np.array(motions[i + 1].rows)[:, :3]
        assert rows @ rows.T == pytest.approx(np.eye(3), abs=1e-9) and motions[i + 1].handed == 1
        n = np.array(bend.outward)
        ends = np.array([bend.start, bend.end]) + n * bend.width
        for w in (0.0, t):
            there = bend_points(bend, motions[bend.parent], ends, w)
            assert there == pytest.approx(motions[i + 1].points(np.column_stack((ends, [w, w]))), abs=1e-7)


@given(trees(), THICK)
@settings(max_examples=drawn(20))
def test_turned_over_or_mirrored_the_part_is_the_same_or_its_mirror_image(flanges, t):
    part = part_of(folded(flanges, thickness=t))
    own = sorted(solid(part).bounding_box.extents)
    for other in (turned_over(part.flat), handed_flat(part.flat)):
        mesh = folded_mesh(net_of(other.pieces, other.fold), t, other.fold)
        assert sorted(np.ptp(mesh.positions, axis=0)) == pytest.approx(own, abs=1e-6)
        assert mesh.moments()[0] == pytest.approx(solid(part).volume)
    ups = [b.angle > 0 for b in part.flat.fold.bends]
    assert [b.angle < 0 for b in turned_over(part.flat).fold.bends] == ups
    assert [b.angle > 0 for b in handed_flat(part.flat).fold.bends] == ups


@given(st.floats(4.5, 30), RADIUS, st.floats(20, 90))
@settings(max_examples=drawn(30))
def test_an_offset_bend_steps_aside_by_its_height(height, r, degrees):
    least = (2 * r + 1) * (1 - math.cos(math.radians(degrees))) + 0.5
    height = max(height, least)
    part = part_of(folded({"z": flange("right", 25, kind="offset", height=height, angle=f"{degrees} deg")}, radius=r))
    mesh = solid(part)
    assert mesh.bounds[1][2] == pytest.approx(height + 1, abs=1e-6)
    assert mesh.is_watertight


@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize(
    ("more", "right"), [({}, 230), ({"measured": "tangent"}, 230), ({"measured": "inner"}, 228), ({"measured": "outer"}, 227)]
)
def test_the_leg_after_an_offset_is_measured_as_said(more, right, toward):
    """T 1, R 2 at 90 degrees: the web stands from 202 to 203, and the second bend, which opens to the right, ends at 205."""
    part = part_of(folded({"z": flange("right", 25, kind="offset", height=20, toward=toward, **more)}, thickness=1, radius=2))
    assert solid(part).bounds[1][0] == pytest.approx(right)


LOW = {
    "flange": ({"z": flange("right", 2)}, "which its bend of 2 mm inside radius takes", ["Make it 3.01 mm"]),
    "hem": ({"z": flange("right", 1, kind="hem", style="open", gap=2)}, "which its bend of 1 mm inside radius takes", ["Make it 2.01 mm"]),
    "offset": (
        {"z": flange("right", 20, kind="offset", height=1.8)},
        "which its two bends through 90° of 2 mm inside radius take",
        ["Make it 5.01 mm", "Bend it through 50°"],
    ),
    "profile": (
        {"z": {"kind": "profile", "edge": "right", "legs": [{"length": {"text": "4"}}, {"length": {"text": "20"}}]}},
        "which its bends of 2 mm inside radius take",
        ["Make it 6.01 mm"],
    ),
}


@pytest.mark.parametrize("kind", LOW)
def test_what_a_bend_leaves_no_room_for_says_what_sets_the_least_and_mends_it(kind):
    flanges, why, labels = LOW[kind]
    built = folded(flanges, thickness=1, radius=2)
    (fault,) = [f for f in built.faults if f.code == "bad_value"]
    assert fault.rule.endswith(why) and [m.label for m in fault.mends] == labels
    for mend in fault.mends:
        assert not build(patched(built.document.dump(), list(mend.patch))).faults


@pytest.mark.parametrize("style", ["closed", "open", "teardrop"])
def test_a_hem_lies_on_its_sheet_and_is_as_long_as_said(style):
    gap = {"closed": 0.1, "open": 2.0, "teardrop": 0.2}[style]
    part = part_of(folded({"h": flange("right", 12, kind="hem", style=style, gap=gap)}, radius=1.5))
    mesh = solid(part)
    assert mesh.is_watertight
    r = 1.5 if style == "teardrop" else gap / 2
    assert mesh.bounds[1][0] == pytest.approx(200, abs=(r + 1) * 0.004)
    tip = np.array([v for i, v in enumerate(mesh.vertices) if v[2] > 1 + 1e-6 and v[0] < 200 - 6])
    assert tip[:, 2].min() == pytest.approx(1 + gap, abs=1e-6)
    if style != "teardrop":
        assert tip[:, 0].min() == pytest.approx(188, abs=1e-6)


def test_a_flange_inside_its_edge_has_reliefs_and_says_where_one_is_missing():
    inset = {"extent": "inset", "first": 20, "second": 30}
    part = part_of(folded({"a": flange("right", 25, **inset)}))
    assert solid(part).is_watertight and len(part.flat.pieces) == 1
    ys = solid(part).vertices[solid(part).vertices[:, 2] > 20][:, 1]
    assert (ys.min(), ys.max()) == (pytest.approx(20), pytest.approx(90))
    built = folded({"a": flange("right", 25, relief={"style": "none"}, **inset)})
    assert [f.code for f in built.faults] == ["missing_relief"] * 2


def test_a_hole_in_a_flange_lies_where_its_own_coordinates_say():
    hole = {
        "kind": "hole",
        "diameter": {"text": "6"},
        "u": {"origin": "low", "offset": {"text": "25"}},
        "v": {"origin": "end", "offset": {"text": "8"}},
    }
    part = part_of(folded({"a": flange("right", 30, features={"h": hole})}))
    mesh = solid(part)
    assert mesh.is_watertight and mesh.euler_number == 0  # one hole through
    wall = mesh.vertices[[o == "feature:p:a.h" for o in _vertex_owners(part)]]
    assert wall.mean(axis=0)[1:] == pytest.approx([25, 22], abs=1e-2)


def _vertex_owners(part, prefix="feature"):
    from zygon.making.flats.flat import mesh_of

    (mesh,) = mesh_of(part.flat)
    owners = [""] * len(mesh.positions)
    for triangle, owner in zip(mesh.triangles, mesh.owners, strict=True):
        if owner.startswith(prefix):
            for i in triangle:
                owners[i] = owner
    return owners


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"angle": "0 deg"}, "bad_value"),
        ({"angle": "180 deg"}, "bad_value"),
        ({"length": 1}, "bad_value"),
        ({"radius": -1}, "bad_value"),
        ({"extent": "between", "first": 50, "second": 900}, "off_edge"),
        ({"length": "nonsense"}, "broken_expression"),
    ],
)
def test_what_cannot_be_is_said_and_the_last_good_part_stands(change, code):
    good = folded({"a": flange("right", 30)})
    values = {**{"length": 30}, **change}
    length = values.pop("length")
    built = folded({"a": flange("right", length, **values)})
    assert [f.code for f in built.faults][:1] == [code]
    assert built.faults[0].entry.startswith("/parts/p/folding/flanges/a/")
    assert built.parts["p"].flat.fold is not None and len(built.parts["p"].flat.fold.bends) == len(good.parts["p"].flat.fold.bends)


@pytest.mark.parametrize("side", SIDES)
def test_every_side_bends_up_to_face_a_and_down_to_b(side):
    up = solid(part_of(folded({"a": flange(side)})))
    down = solid(part_of(folded({"a": flange(side, toward="b")})))
    assert up.bounds[1][2] == pytest.approx(30) and up.bounds[0][2] == pytest.approx(0)
    assert down.bounds[0][2] == pytest.approx(-29) and down.bounds[1][2] == pytest.approx(1)


def test_the_bend_table_is_a_csv_that_says_what_the_deduction_refers_to():
    from zygon.exchange.bends import write_bends

    built = folded({"a": flange("right", 30), "b": flange("left", 30, angle="120 deg", toward="b")}, radius=2)
    rows = list(csv.DictReader(io.StringIO(write_bends(built))))
    assert [(r["Way"], r["Deduction to"]) for r in rows] == [("up", "outer sharp"), ("down", "tangent")]
    # A (R + K T) with K 0.42, and twice the setback less it
    assert float(rows[0]["Allowance mm"]) == pytest.approx(math.pi / 2 * 2.42, abs=1e-3)
    assert float(rows[1]["Deduction mm"]) == pytest.approx(6 - math.radians(120) * 2.42, abs=1e-3)
    assert write_bends(folded({})) == ""


def test_a_joint_that_would_lengthen_a_folded_plate_is_said():
    d = Draft("t", "galv20")
    d.board("floor", "galv20", "lying", "0", ("0", "100 mm"), ("0", "80 mm"))
    d.board("side", "galv20", "facing_side", "0", ("0", "80 mm"), ("floor.top", "60 mm"))
    d.fold("floor").flange("floor", "a", "right", "20 mm")
    d.joint("finger", "side", "floor", fit="0")
    codes = [f.code for f in build(d.document()).faults]
    assert "joint_on_folded" in codes
    del d.data["parts"]["floor"]["folding"]
    d.data["parts"]["floor"]["kind"] = "board"
    assert "joint_on_folded" not in [f.code for f in build(d.document()).faults]


def test_a_bore_passes_through_every_face_that_it_meets():
    d = Draft("t", "galv20")
    d.board("base", "galv20", "lying", "0", ("0", "120 mm"), ("0", "80 mm"))
    d.fold("base")
    for side in ("left", "right"):
        d.flange("base", side, side, "40 mm").flange("base", f"{side}_lip", "end", "30 mm", on=side)
    d.bore("rod", "x", {"y": "40 mm", "z": "20 mm"}, "6 mm", base=("cut", "0"))
    d.bore("screw", "z", {"x": "15 mm", "y": "20 mm"}, "4 mm", base=("cut", "0"))
    built = build(d.document())
    assert built.faults == ()
    part = built.parts["base"]
    found = sorted((c.owners[0], 2 * c.as_circle[2]) for c in part.flat.inside)
    assert found == [("bore:rod", 6.0)] * 2 + [("bore:screw", 4.0)] * 2  # both walls; the plate and the lip over it
    mesh = solid(part)
    rod = mesh.vertices[[o == "bore:rod" for o in _vertex_owners(part, "bore:")]]
    assert np.ptp(rod[:, 1:], axis=0) == pytest.approx([6, 6], abs=0.11) and rod[:, 1:].mean(axis=0) == pytest.approx([40, 20], abs=0.05)
    screw = mesh.vertices[[o == "bore:screw" for o in _vertex_owners(part, "bore:")]]
    assert screw[:, :2].mean(axis=0) == pytest.approx([15, 20], abs=0.05)
