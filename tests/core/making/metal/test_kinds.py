"""Profiles, lines across flat pieces, mirrored halves, rounded corners: measured on the solid."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.metal.test_folding import exact_volume
from tests.core.making.metal.trays import SIDES, entry, flange, folded, part_of, solid
from tests.explore import drawn
from zygon.check.run import check


def profile(edge, *legs, **more):
    data = flange(edge, 1, kind="profile", **more)
    data.pop("length")
    return {**data, "legs": [{"length": entry(length), "angle": entry(f"{angle} deg")} for length, angle in legs]}


def test_a_hat_has_the_outer_sizes_that_its_line_says():
    """Side up 30, out 20: over all 200 + 20 each side, 30 high less nothing."""
    hat = {s: {**profile(s, (30, 90), (20, -90)), "order": n} for n, s in enumerate(("left", "right"))}
    mesh = solid(part_of(folded(hat)))
    assert mesh.is_watertight
    assert mesh.bounds[1][2] == pytest.approx(30, abs=1e-6)
    # the brim begins at the side's outer face, and its own length runs from the sharp of that side
    assert mesh.extents[0] == pytest.approx(200 + 2 * 20 - 2 * 1.0, abs=1e-6)


def test_a_channel_s_lips_turn_in():
    built = folded({"c": profile("right", (40, 90), (15, 90))})
    mesh = solid(part_of(built))
    assert mesh.bounds[1][2] == pytest.approx(40, abs=1e-6)
    assert mesh.bounds[1][0] == pytest.approx(200, abs=1e-6)
    assert len(part_of(built).flat.fold.bends) == 2


@given(
    st.lists(st.tuples(st.floats(25, 60), st.floats(20, 110), st.booleans()), min_size=1, max_size=4),
    st.sampled_from(["outer", "inner", "tangent", "face_a", "face_b"]),
)
@settings(max_examples=drawn(40))
def test_any_profile_is_closed_and_keeps_the_lengths_of_its_line(legs, measured):
    part = part_of(folded({"c": profile("right", *((x, a if up else -a) for x, a, up in legs), measured=measured)}))
    assert solid(part).is_watertight
    assert solid(part).volume == pytest.approx(exact_volume(part), rel=5e-3)
    for face, (length, _, _) in zip(part.flat.fold.faces[1:], legs, strict=True):
        x0, _, x1, _ = face.outline[0].bounds
        assert x1 - x0 <= length + 1e-6  # setbacks only take away
        if measured == "tangent":
            assert x1 - x0 == pytest.approx(length, abs=1e-6)


def test_lengths_along_a_face_leave_the_thickness_on_its_other_side():
    """A line on face A: bends towards it take the inner setback, bends away from it the outer."""
    r, t = 2.0, 1.0
    for way, off in ((90, r), (-90, r + t)):
        part = part_of(folded({"c": profile("right", (40, way), measured="face_a")}, radius=r))
        x0, _, x1, _ = part.flat.fold.faces[1].outline[0].bounds
        assert x1 - x0 == pytest.approx(40 - off)


def test_a_bend_that_does_not_bend_is_said():
    built = folded({"c": profile("right", (40, 0))})
    assert [f.entry for f in built.faults] == ["/parts/p/folding/flanges/c/legs/0/angle"]


def line(edge, at, **more):
    data = flange(edge, 1, kind="line", **more)
    data.pop("length")
    return {**data, "at": entry(at)}


@given(st.floats(20, 150), st.floats(10, 120), st.floats(0.3, 4), st.floats(0.25, 0.5))
@settings(max_examples=drawn(30))
def test_a_line_across_a_flat_piece_bends_it_and_leaves_its_flat_alone(at, angle, r, k):
    part = part_of(folded({"l": line("right", at, angle=f"{angle} deg")}, radius=r, k=k))
    assert part.flat.bounds == pytest.approx((0, 0, 200, 120))
    assert part.flat.area == pytest.approx(200 * 120)
    mesh = solid(part)
    assert mesh.is_watertight
    assert mesh.volume == pytest.approx(exact_volume(part), rel=5e-3)
    (a, b) = part.flat.fold.bends[0].middle
    assert (a[0], b[0]) == pytest.approx((200 - at, 200 - at))


def test_holes_stay_where_they_are_and_are_folded_with_their_piece():
    hole = {
        "kind": "hole",
        "u": {"origin": "right", "offset": entry(20)},
        "v": {"origin": "centre", "offset": entry(0)},
        "diameter": entry(10),
    }
    part = part_of(folded({"l": line("right", 50)}, features={"h": hole}))
    assert part.flat.inside[0].as_circle[:2] == pytest.approx((180, 60))
    mesh = solid(part)
    assert mesh.is_watertight
    assert mesh.euler_number == 0  # one hole through


def test_a_line_beside_the_sheet_is_said_and_nothing_is_bent():
    built = folded({"l": line("right", 230)})
    assert "off_edge" in [f.code for f in built.faults]
    assert built.parts["p"].flat.bounds == pytest.approx((0, 0, 200, 120))


def test_a_flange_stands_on_a_piece_that_was_bent_later():
    part = part_of(folded({"l": line("right", 50), "f": flange("end", 20, on="l", order=1)}))
    assert len(part.flat.fold.bends) == 2
    assert solid(part).is_watertight


def test_a_half_mirrored_within_a_part_is_a_mirror_image():
    hole = {
        "h": {
            "kind": "hole",
            "u": {"origin": "low", "offset": entry(15)},
            "v": {"origin": "end", "offset": entry(10)},
            "diameter": entry(6),
        }
    }
    own = {
        "f": {**flange("left", 40, extent="between", first=10, second=80, features=hole), "mirrored": "u"},
        "lip": flange("end", 12, on="f", order=1),
    }
    part = part_of(folded(own))
    keys = [b.key for b in part.flat.fold.bends]
    assert sorted(keys) == ["f", "f~", "lip", "lip~"]
    mesh = solid(part)
    assert mesh.is_watertight
    assert mesh.bounds[0][0] == pytest.approx(0, abs=1e-6)
    assert mesh.center_mass[0] == pytest.approx(100, abs=1e-6)
    x0, _, x1, _ = part.flat.bounds
    holes = sorted((c.as_circle[:2] for c in part.flat.inside), key=lambda p: p[0])
    assert holes[0][0] + holes[1][0] == pytest.approx(x0 + x1)
    assert holes[0][1] == pytest.approx(holes[1][1])


def test_features_are_mirrored_across_both_halves():
    hole = {
        "kind": "hole",
        "u": {"origin": "left", "offset": entry(20)},
        "v": {"origin": "front", "offset": entry(15)},
        "diameter": entry(6),
        "mirrored": "both",
    }
    part = part_of(folded({"f": flange("left", 30)}, features={"h": hole}))
    assert sorted(c.as_circle[:2] for c in part.flat.inside) == [pytest.approx(p) for p in ((20, 15), (20, 105), (180, 15), (180, 105))]


def test_a_flange_s_own_rounding_leaves_the_others_sharp():
    own = flange("right", 30, extent="centred", first=40)
    part = part_of(folded({"tab": {**own, "rounding": entry(8)}, "other": flange("left", 30, order=1)}))
    arcs = [s for p in part.flat.pieces for s in p.outer.segments() if s.bulge]
    assert len(arcs) == 2
    assert all(s.owner == "flange:p:tab" for s in arcs)
    assert [s.length for s in arcs] == pytest.approx([8 * math.pi / 2] * 2)


def test_a_line_on_an_edge_that_is_taken_is_said():
    built = folded({"f": flange("right", 30), "l": {**line("right", 60), "order": 1}})
    assert "flanges_overlap" in [f.code for f in built.faults]
    assert [p for p in check(built) if p.fault.code == "flanges_overlap"]


def test_gussets_are_spread_evenly_and_marked_across_their_bend():
    own = flange("right", 40)
    part = part_of(folded({"f": {**own, "gussets": {"number": 3, "width": entry(8), "depth": entry(12)}}}, radius=2))
    bend = part.flat.fold.bends[0]
    length = math.dist(bend.start, bend.end)
    assert [g[0] for g in bend.gussets] == pytest.approx([length / 6, length / 2, length * 5 / 6])
    marks = [m for m in part.flat.engraved if m.owner == "bend:p:f"]
    assert len(marks) == 3
    # from 12 before the inner sharp to 12 past it, over the bend's allowance
    assert math.dist(*marks[0].contour.points) == pytest.approx(2 * (12 - 2) + bend.width)


@pytest.mark.parametrize(
    ("gussets", "field"),
    [
        ({"number": 30, "width": entry(8), "depth": entry(12)}, "gussets/number"),
        ({"number": 2, "width": entry(8), "depth": entry(60)}, "gussets/depth"),
    ],
)
def test_gussets_without_room_are_said(gussets, field):
    built = folded({"f": {**flange("right", 40), "gussets": gussets}}, radius=2)
    assert [f.entry for f in built.faults] == [f"/parts/p/folding/flanges/f/{field}"]


@pytest.mark.parametrize("edge", SIDES)
@pytest.mark.parametrize(("width", "room"), [("25 mm", True), ("25.01 mm", False)])
def test_gussets_may_take_all_of_their_bend(edge, width, room):
    gussets = {"number": 4, "width": entry(width), "depth": entry(12)}
    built = folded({"f": {**flange(edge, 40, extent="centred", first=100, second=0), "gussets": gussets}}, radius=2)
    (bend,) = built.flats["p"].flat.fold.bends
    assert math.dist(bend.start, bend.end) == 100 and [g[0] for g in bend.gussets] == ([12.5, 37.5, 62.5, 87.5] if room else [])
    assert [(f.code, f.owner) for f in built.faults] == ([] if room else [("gussets_crowd", "flange:p:f")])


@pytest.mark.parametrize("field", ["width", "depth"])
def test_a_gusset_of_nothing_is_said_of_its_flange(field):
    gussets = {"number": 2, "width": entry(8), "depth": entry(12), field: entry(0)}
    (fault,) = folded({"f": {**flange("right", 40), "gussets": gussets}}, radius=2).faults
    assert (fault.owner, fault.part, fault.entry) == ("flange:p:f", "p", f"/parts/p/folding/flanges/f/gussets/{field}")


@pytest.mark.parametrize(("wall", "there"), [("left", "right"), ("right", "left"), ("front", "back"), ("back", "front")])
@pytest.mark.parametrize(("side", "image_side"), [("low", "high"), ("high", "low")])
def test_an_image_stands_on_the_other_wall_s_other_side(wall, there, side, image_side):
    """Walls and their sides are drawn on both halves; a lip on one of them that is mirrored stands on its opposite."""
    across = "u" if wall in ("left", "right") else "v"
    lip = {"mirrored": across, "on": "side", "order": 4}
    flanges = {
        "wall": flange(wall, 40),
        "there": flange(there, 40, order=1),
        "side": flange(side, 20, on="wall", order=2),
        "other": flange(image_side, 20, on="there", order=3),
        "lip": flange("end", 9, **lip),
    }
    built = folded(flanges)
    assert not built.faults
    faces = {b.key: b.parent for b in part_of(built).flat.fold.bends}
    keys = [f.key for f in part_of(built).flat.fold.faces]
    assert len(faces) == 6 and {keys[faces[k]] for k in faces if k.startswith("lip")} == {"side", "other"}
