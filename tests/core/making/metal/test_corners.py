"""Corners of folded parts: the gap that is stated is the gap that is measured, and nothing runs into anything."""

import itertools
import math

import manifold3d
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.metal.trays import SIDES, flange, folded, part_of, solid
from tests.explore import drawn
from zygon.check.run import check
from zygon.making.metal.rounding import sharp_corners
from zygon.making.result.fold import face_motions


def faces(part):
    """The flat faces of a folded part as solids of their own, by flange key."""
    fold, t = part.flat.fold, part.flat.thickness
    found = {}
    for face, motion in zip(fold.faces, face_motions(fold), strict=True):
        body = manifold3d.CrossSection([face.outline[0].flatten(0.01)]).extrude(t)
        found[face.key] = body.transform(np.array(motion.rows))
    return found


def gap(part, a, b):
    found = faces(part)
    return found[a].min_gap(found[b], 50.0)


def tray(length=30, hems=False, lips=0, **more):
    angle = more.pop("angle", 90)
    flanges = {s: flange(s, length, angle=f"{angle} deg") for s in SIDES}
    if lips:
        flanges |= {f"{s}_lip": flange("end", lips, on=s) for s in SIDES}
    if hems:
        flanges |= {f"{s}_hem": flange("end", 8, kind="hem", on=s) for s in SIDES}
    return folded(flanges, **more)


@given(st.floats(0.1, 4), st.floats(0.5, 4), st.sampled_from([0.5, 1.0, 2.0]), st.floats(30, 120))
@settings(max_examples=drawn(40))
def test_a_closed_corner_has_the_gap_that_was_said_at_any_slope(width, radius, t, angle):
    part = part_of(tray(gap=width, radius=radius, thickness=t, angle=angle))
    for a, b in itertools.product(("left", "right"), ("front", "back")):
        assert gap(part, a, b) == pytest.approx(width, abs=1e-5)
    assert solid(part).is_watertight


@pytest.mark.parametrize(("style", "reach_a", "reach_b"), [("a_covers", 0.0, 1.25), ("b_covers", 1.25, 0.0)])
def test_a_butted_corner_covers_one_end_and_stops_the_other_short(style, reach_a, reach_b):
    corners = {"c": {"a": "left", "b": "front", "style": style, "gap": {"text": "0.25"}}}
    part = part_of(folded({s: flange(s) for s in ("left", "front")}, corners=corners))
    found = faces(part)
    assert found["left"].bounding_box()[1] == pytest.approx(reach_a, abs=1e-6)  # how near it comes to the front
    assert found["front"].bounding_box()[0] == pytest.approx(reach_b, abs=1e-6)
    assert gap(part, "left", "front") == pytest.approx(0.25, abs=1e-6)


def test_an_open_corner_ends_both_at_their_bends():
    part = part_of(tray(corner="open", radius=2))
    found = faces(part)
    assert found["left"].bounding_box()[1] == pytest.approx(3) and found["front"].bounding_box()[0] == pytest.approx(3)


@pytest.mark.parametrize("angle", [70, 90, 110])
def test_lips_on_the_flanges_of_a_tray_meet_in_mitres(angle):
    part = part_of(tray(lips=12, gap=0.5, angle=angle, length=40))
    if angle == 90:
        assert gap(part, "left_lip", "front_lip") == pytest.approx(0.5, abs=1e-5)
    apart = [a for a in faces(part) if a]
    for a, b in itertools.combinations(apart, 2):
        shared = (faces(part)[a] ^ faces(part)[b]).volume()
        assert shared < 1e-6, (a, b, shared)


@given(st.booleans(), st.floats(0.1, 1), st.floats(0.5, 3))
@settings(max_examples=drawn(15))
def test_no_bend_runs_through_another(hems, width, radius):
    """Put together from its own triangles the solid has the volume of its pieces: nothing is covered twice."""
    part = part_of(tray(hems=hems, lips=0 if hems else 15, gap=width, radius=radius, length=40))
    mesh = solid(part)
    whole = manifold3d.Manifold(manifold3d.Mesh(np.float32(mesh.vertices), np.uint32(mesh.faces)))
    merged = whole ^ manifold3d.Manifold.cube((1000, 1000, 1000)).translate((-400, -400, -400))
    assert merged.volume() == pytest.approx(mesh.volume, rel=1e-4)
    pieces = list(faces(part).values())
    for a, b in itertools.combinations(pieces, 2):
        assert (a ^ b).volume() < 1e-6


def test_a_flat_that_overlaps_itself_is_said():
    built = folded(
        {
            "a": flange("end", 60, on="b", where="edge"),
            "b": flange("right", 30),
            "c": flange("low", 90, on="b"),
            "d": flange("high", 150, on="c"),
        }
    )
    codes = {p.fault.code for p in check(built)}
    part = built.parts["p"]
    zones = sum(c.area for f in part.flat.fold.faces for c in f.outline) + sum(b.outline.area for b in part.flat.fold.bends)
    assert ("flat_overlaps" in codes) == (zones > part.flat.area + 0.01)


def test_a_tight_radius_and_a_hole_by_a_bend_are_said_with_their_mend():
    hole = {"kind": "hole", "diameter": {"text": "6"}, "u": {"origin": "right", "offset": {"text": "7"}}, "v": {"origin": "centre"}}
    built = folded({"a": flange("right")}, radius=0.4, features={"h": hole})
    found = {p.fault.code: p.fault for p in check(built)}
    assert found["tight_bend"].value == "0.4 mm" and found["tight_bend"].mends[0].patch[0]["path"] == "/parts/p/folding/radius"
    # the bend starts 1.4 inside the edge, the hole ends 4 inside it: 2.6 left of 2 T + R = 2.4 is enough
    assert "near_bend" not in found
    near = folded({"a": flange("right")}, radius=2, features={"h": hole})
    assert {p.fault.code: p.fault.value for p in check(near)}["near_bend"] == "1 mm"


def test_sharp_corners_are_rounded_but_not_at_bends():
    part = part_of(folded({"a": flange("right")}, rounding=4))
    arcs = [s for s in part.flat.pieces[0].outer.segments() if s.bulge]
    assert len(arcs) == 4 and all(s.length == pytest.approx(4 * math.pi / 2) for s in arcs)


def test_a_chamfer_takes_a_corner_off_straight():
    part = part_of(folded({"a": flange("right", 30)}, rounding=4, corner_shape="chamfer"))
    outer = part.flat.pieces[0].outer
    assert not any(s.bulge for s in outer.segments())
    sharp = part_of(folded({"a": flange("right", 30)}))
    assert sharp.flat.pieces[0].area - part.flat.pieces[0].area == pytest.approx(4 * 4 * 4 / 2)  # four corners of 4 by 4


def test_flanges_that_meet_in_a_corner_are_named_in_pairs():
    assert set(part_of(tray(lips=8)).flat.fold.corners) == {("left", "front"), ("front", "right"), ("right", "back"), ("back", "left")}
    assert part_of(folded({"a": flange("left"), "b": flange("right", order=1)})).flat.fold.corners == ()


@pytest.mark.parametrize(("rounding", "left"), [(0, 4), (4, 0), (60, 2)])
def test_exposed_corners_that_stay_sharp_are_found(rounding, left):
    part = part_of(folded({"a": flange("right", 30)}, rounding=rounding))
    found = sharp_corners(part.flat)
    # two of the plate and two of the flange; a round of 60 fits the plate's sides but not the flange's
    assert len(found) == left
    points = {(round(x, 4), round(y, 4)) for x, y in part.flat.pieces[0].outer.points}
    assert all((round(x, 4), round(y, 4)) in points for x, y in found)


def test_a_plate_that_its_bends_use_up_is_said():
    built = folded({"a": flange("left", 40), "b": flange("right", 40)}, width=9, radius=5)
    assert "flange_cut_away" in [f.code for f in built.faults]


def test_depth_in_a_folded_part_is_said():
    pocket = {"kind": "pocket", "width": {"text": "20"}, "height": {"text": "20"}, "depth": {"text": "0.5"}}
    codes = [p.fault.code for p in check(folded({"a": flange("right")}, features={"h": pocket}))]
    assert "depth_in_folded" in codes
    assert "depth_in_folded" not in [p.fault.code for p in check(folded({}, features={"h": pocket}))]
