"""A folded part split in two: the whole is folded and cut by the line; both halves are that, plus what holds them."""

import math

import manifold3d
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid
from tests.explore import diagonal, drawn
from zygon.check.overlap import overlap_faults
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import apply_patch, patched
from zygon.edits.split import split_part
from zygon.errors import DocumentError
from zygon.geometry.contour import polygon, rectangle
from zygon.making.blanks.halves import edge_at
from zygon.making.flats.exact import is_sound, solid_of
from zygon.making.pipeline import build

SIDES = ("left", "right", "front", "back")
HOLDS = ["rivets", "tabs", "none"]


def tray(plane="lying", thickness=""):
    d = Draft("t", "galv20")
    if thickness:
        d.data["stocks"]["galv20"].pop("measured", None)
        d.data["stocks"]["galv20"]["nominal"] = d.entry(thickness)
    d.board("tray", "galv20", plane, "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray", corner="closed", gap="0.3 mm")
    for side in SIDES:
        d.flange("tray", side, side, "30 mm")
    d.feature("tray", "near", "hole", ("centre", "-40 mm"), ("centre", "0"), diameter="10 mm")
    d.feature("tray", "far", "hole", ("right", "40 mm"), ("centre", "0"), diameter="12 mm")
    return d.document()


def split(document, at=150.0, axis="x", **more):
    _, patch = split_part(build(document), "tray", axis, at, **more)
    return build(patched(document.dump(), patch))


def beyond(axis, at, *, low):
    """All of the room on one side of a plane."""
    far = 5000.0
    corner, size = [-far] * 3, [2 * far] * 3
    i = "xyz".index(axis)
    corner[i], size[i] = (-far, far + at) if low else (at, far)
    return manifold3d.Manifold.cube(size).translate(corner)


def beside_the_overlap(found, axis, at, overlap, t):
    """What of the room the overlap, its step and what holds it do not reach: for these, halves are the whole, cut by the plane."""
    i = "xyz".index(axis)
    low, high = at - 12 * t - 4, at + overlap + 3 * t + 4
    far = 5000.0
    one, other = [-far] * 3, [-far] * 3
    sizes = [[2 * far] * 3, [2 * far] * 3]
    sizes[0][i] = far + low
    other[i], sizes[1][i] = high, far
    return manifold3d.Manifold.cube(sizes[0]).translate(one) + manifold3d.Manifold.cube(sizes[1]).translate(other)


def differ(a, b):
    return (a - b).volume() + (b - a).volume()


def agrees(document, at, axis, overlap=16.0, **more):
    """The halves against the whole cut by a plane with the manifold library: away from the overlap to the letter, beside it by what holds them."""
    whole = build(document)
    assert not whole.faults, [f.message for f in whole.faults]
    part = whole.parts["tray"]
    body, t = solid(part), part.flat.thickness
    found = split(document, at, axis, overlap=overlap, **more)
    assert not [f.message for f in found.faults], [f.message for f in found.faults]
    away = beside_the_overlap(found, axis, at, overlap, t)
    for key, low in (("tray", True), ("tray_2", False)):
        half = solid(found.parts[key])
        cut = body ^ beyond(axis, at, low=low)
        assert differ(half ^ away, cut ^ away) < 0.6, key
        if low and more.get("hold") == "none":  # beside the line the walls go on to it
            gone = (cut - half).volume()
            assert gone < 0.6 * (12 * t + 4) * 500 * t
        assert len(found.parts[key].flat.pieces) == 1
        assert is_sound(solid_of(found.parts[key].flat))
    if more.get("hold") == "none":
        assert differ(solid(found.parts["tray_2"]), body ^ beyond(axis, at, low=False)) < 0.6
    return found


@pytest.mark.parametrize(("hold", "place"), diagonal(2, HOLDS, [("x", 150.0), ("x", 90.0), ("y", 75.0)]))
def test_both_halves_stand_where_the_whole_stood_and_overlap_nowhere(hold, place):
    axis, at = place
    found = agrees(tray(), at, axis, hold=hold)
    assert set(found.parts) == {"tray", "tray_2"}
    low = [min(p.reaches[0][i] for p in found.parts.values()) for i in range(2)]
    high = [max(p.reaches[1][i] for p in found.parts.values()) for i in range(2)]
    assert (low, high) == (pytest.approx([0, 0], abs=1e-6), pytest.approx([300, 120], abs=1e-6))
    i = "xy".index(axis)
    assert found.parts["tray"].reaches[1][i] - found.parts["tray_2"].reaches[0][i] == pytest.approx(16, abs=0.01)
    assert not [p.fault.message for p in check(found) if p.fault.severity == "error"]


@pytest.mark.parametrize(("thickness", "hold"), diagonal(2, ["0.8 mm", "1.5 mm", "2 mm", "3 mm", "4 mm"], HOLDS))
def test_own_default_results_never_overlap(thickness, hold):
    found = split(tray(thickness=thickness), 150.0, hold=hold, overlap=26.0)
    assert not overlap_faults(found), [f.message for f in overlap_faults(found)]
    bodies = [solid(found.parts[k]) for k in ("tray", "tray_2")]
    assert (bodies[0] ^ bodies[1]).volume() < 0.02


@pytest.mark.parametrize(("plane", "hold"), diagonal(2, ["lying", "facing_front", "facing_side"], ["rivets", "tabs"]))
def test_every_plane_is_split_along_both_of_its_axes(plane, hold):
    axes = {"lying": "xy", "facing_front": "xz", "facing_side": "yz"}[plane]
    d = Draft("t", "galv20")
    d.board("tray", "galv20", plane, "0", ("0", "300 mm"), ("0", "180 mm"), up="a")
    d.fold("tray", corner="closed", gap="0.3 mm")
    low, high = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}[axes[1]]
    d.flange("tray", "one", low, "25 mm").flange("tray", "two", high, "18 mm", toward="b")
    for axis in axes:
        agrees(d.document(), 90.0, axis, hold=hold)


HOLES = st.tuples(st.floats(12, 288), st.floats(-10, 10), st.sampled_from([4.0, 7.0]))


@settings(max_examples=drawn(5))
@given(
    st.integers(90, 200),
    st.lists(HOLES, max_size=3),
    st.lists(st.tuples(st.sampled_from(["front", "back"]), st.floats(15, 285), st.sampled_from(["low", "high", "centre"])), max_size=3),
    st.sampled_from(["none", "u", "v"]),
    st.booleans(),
    st.sampled_from(["whole", "inset", "between"]),
)
def test_any_folded_part_with_holes_and_mirrors_is_cut_by_the_line(at, holes, in_walls, mirrored, field, extent):
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "160 mm"), up="a")
    d.fold("tray", corner="closed", gap="0.3 mm")
    d.flange("tray", "left", "left", "25 mm").flange("tray", "right", "right", "25 mm")
    more = {} if extent == "whole" else {"extent": extent, "first": "20 mm", "second": "40 mm" if extent == "inset" else "250 mm"}
    d.flange("tray", "front", "front", "28 mm", **more)
    if mirrored == "v":
        d.data["parts"]["tray"]["folding"]["flanges"]["front"]["mirrored"] = "v"
    else:
        d.flange("tray", "back", "back", "28 mm", **more)
    for i, (x, y, diameter) in enumerate(holes):
        if i and abs(x - at) < 40:
            continue  # under the overlap a hole goes through both
        d.feature(
            "tray",
            f"h{i}",
            "hole",
            ("left", f"{x:.2f} mm"),
            ("centre", f"{y:.2f} mm"),
            diameter=f"{diameter} mm",
            mirrored=mirrored if mirrored != "v" else "none",
        )
    for i, (wall, x, origin) in enumerate(in_walls):
        if wall == "back" and mirrored == "v":
            continue
        offset = {"low": x / 2, "high": x / 2, "centre": x / 4 - 35}[origin] + 25
        d.flange_feature("tray", wall, f"w{i}", "hole", (origin, f"{offset:.2f} mm"), ("centre", "0"), diameter="5 mm")
    if field:
        d.feature(
            "tray", "vent", "perforation", ("left", "60 mm"), ("centre", "0"), width="40 mm", height="30 mm", diameter="3 mm", pitch="7 mm"
        )
    d.bore("axle", "y", {"x": "52 mm", "z": "18 mm"}, "6 mm", tray=("cut", "0"))
    agrees(d.document(), float(at), "x", hold="none")


@pytest.mark.parametrize(("x", "origin", "wall"), diagonal(2, [230, 30], ["low", "high"], ["front", "back"]))
def test_a_hole_in_a_crossed_wall_stays_where_it_was_and_is_in_one_half(wall, x, origin):
    data = tray().dump()
    hole = {
        "kind": "hole",
        "diameter": {"text": "6 mm", "unit": "mm"},
        "u": {"origin": origin, "offset": {"text": f"{x} mm", "unit": "mm"}},
        "v": {"origin": "root", "offset": {"text": "12 mm", "unit": "mm"}},
    }
    data["parts"]["tray"]["folding"]["flanges"][wall]["features"] = {"h": hole}
    found = agrees(apply_patch(data, [])[0], 150.0, "x", hold="none")
    keep = [k for k in ("tray", "tray_2") if found.document.parts[k].folding.flanges[wall].features]
    assert len(keep) == 1


def test_holes_slots_and_fields_over_the_line_go_through_both():
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray")
    d.flange("tray", "front", "front", "30 mm").flange("tray", "back", "back", "30 mm")
    d.feature("tray", "slot", "slot", ("left", "160 mm"), ("centre", "0"), length="60 mm", width="8 mm")
    found = split(d.document(), 150.0, hold="none")
    assert not found.faults
    # looked through from above where both lie on each other, there is nothing in the slot
    probe = manifold3d.Manifold.cube((24.0, 7.0, 60.0)).translate((153.0, 56.5, -30.0))
    assert sum((solid(p) ^ probe).volume() for p in found.parts.values()) < 0.01
    assert {k: "slot" in p.features for k, p in found.document.parts.items()} == {"tray": True, "tray_2": True}


def test_rivets_go_through_both_halves_and_features_keep_their_places():
    found = split(tray(), 150.0, number=5, diameter=4.0)
    first, second = (sorted(round(2 * c.as_circle[2], 3) for c in found.parts[k].flat.inside) for k in ("tray", "tray_2"))
    assert (first, second) == ([4.0] * 5 + [10.0], [4.0] * 5 + [12.0])
    assert set(found.document.parts["tray"].features) == {"near"} and set(found.document.parts["tray_2"].features) == {"far"}


def test_rivets_follow_the_sizes_and_the_line():
    found = split(tray(), 150.0, number=3, diameter=4.0)
    data = found.document.dump()
    data["sizes"]["tray_split"]["entry"]["text"] = "170 mm"
    data["parts"]["tray"]["spans"]["y"]["high"]["text"] = data["parts"]["tray_2"]["spans"]["y"]["high"]["text"] = "140 mm"
    moved = build(apply_patch(data, [])[0])
    assert not moved.faults and not [p.fault.message for p in check(moved) if p.fault.severity == "error"]
    centres = sorted(c.as_circle[:2] for c in moved.parts["tray_2"].flat.inside if abs(c.as_circle[2] - 2) < 1e-6)
    assert [c[0] for c in centres] == pytest.approx([178] * 3)
    assert np.diff([c[1] for c in centres]) == pytest.approx([140 / 120 * (120 - 2 * 5.52336) / 3] * 2, rel=1e-3)


def test_rivets_stand_clear_of_the_holes_there_are():
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray").flange("tray", "front", "front", "30 mm")
    d.feature("tray", "h", "hole", ("left", "158 mm"), ("front", "60 mm"), diameter="9 mm")
    found = split(d.document(), 150.0, number=3, diameter=4.0)
    for key in ("tray", "tray_2"):
        rounds = [c.as_circle for c in found.parts[key].flat.inside]
        assert len(rounds) == 4
        gaps = [np.hypot(a[0] - b[0], a[1] - b[1]) - a[2] - b[2] for i, a in enumerate(rounds) for b in rounds[i + 1 :]]
        assert min(gaps) >= 0.9


def test_rivets_do_not_go_through_a_lip_that_hangs_over_the_plate():
    document = tray().dump()
    flanges = document["parts"]["tray"]["folding"]["flanges"]
    flanges["lip"] = {**flanges["front"], "on": "front", "edge": "end", "length": {"text": "35 mm", "unit": "mm"}, "toward": "a"}
    found = split(apply_patch(document, [])[0], 150.0, number=3, diameter=4.0)
    assert [sum(abs(c.as_circle[2] - 2.0) < 1e-6 for c in found.parts[k].flat.inside) for k in ("tray", "tray_2")] == [3, 3]


def test_bores_go_on_through_whichever_half_they_meet():
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray").flange("tray", "front", "front", "30 mm").flange("tray", "back", "back", "30 mm")
    for name, x in (("a", 60), ("b", 240)):
        d.bore(name, "y", {"x": f"{x} mm", "z": "15 mm"}, "6 mm", tray=("cut", "0"))
    found = split(d.document(), 150.0, hold="none")
    assert not found.faults
    assert {k: set(b.parts) for k, b in found.document.bores.items()} == {"a": {"tray"}, "b": {"tray_2"}}
    assert [len(found.parts[k].flat.inside) for k in ("tray", "tray_2")] == [2, 2]


def test_a_half_is_split_again():
    once = split(tray(), 200.0, hold="rivets", number=3)
    _, patch = split_part(once, "tray", "x", 90.0, hold="rivets", number=3)
    found = build(patched(once.document.dump(), patch))
    assert not found.faults and not [p.fault.message for p in check(found) if p.fault.severity == "error"]
    assert len(found.parts) == 3
    reach = {k: (p.reaches[0][0], p.reaches[1][0]) for k, p in found.parts.items()}
    assert sorted(reach.values()) == [
        pytest.approx((0, 106), abs=0.01),
        pytest.approx((90, 216), abs=0.01),
        pytest.approx((200, 300), abs=0.01),
    ]


@pytest.mark.parametrize("at", [3.0, 280.0, -10.0])
def test_a_place_without_room_for_the_overlap_is_refused_with_what_would_do(at):
    with pytest.raises(DocumentError, match=r"between .* and .* mm"):
        split(tray(), at)


def test_a_line_through_a_bend_that_does_not_run_along_it_is_refused():
    """A wall in the middle of its edge, square to the line, has a side flange where the line runs."""
    data = tray().dump()
    flanges = data["parts"]["tray"]["folding"]["flanges"]
    flanges["front"] |= {"extent": "between", "first": {"text": "40 mm", "unit": "mm"}, "second": {"text": "149.5 mm", "unit": "mm"}}
    flanges["side"] = {**flanges["left"], "on": "front", "edge": "high", "length": {"text": "12 mm", "unit": "mm"}, "order": 9}
    document = apply_patch(data, [])[0]
    with pytest.raises(DocumentError, match=r"side.*line"):
        split(document, 148.5)
    agrees(document, 180.0, "x", hold="none")


def test_a_board_that_is_not_folded_is_not_split():
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"))
    with pytest.raises(DocumentError, match="folded part"):
        split(d.document())


def test_loose_pieces_are_found_and_taken_away():
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"))
    d.feature("tray", "cut", "rectangle", ("left", "60 mm"), ("centre", "0"), width="5 mm", height="200 mm")
    document = d.document()
    problem = next(p for p in check(build(document)) if p.fault.code == "pieces")
    found = build(patched(document.dump(), problem.fault.mends[-1].patch))
    assert found.parts["tray"].flat.bounds == pytest.approx((62.5, 0, 300, 120))
    assert not [p for p in check(found) if p.fault.code == "pieces"]


@pytest.mark.parametrize(("placed", "hold"), diagonal(2, [("30 mm", ""), ("0", "30 deg"), ("-45 mm", "90 deg")], ["rivets", "tabs"]))
def test_a_part_of_a_group_that_is_moved_and_turned_is_split_as_it_lies_at_rest(placed, hold):
    move, turn = placed
    d = Draft("t", "galv20")
    d.group("g", x=move, z="12 mm")
    d.board("tray", "galv20", "lying", "0", ("20 mm", "320 mm"), ("10 mm", "130 mm"), up="a")
    d.fold("tray", corner="closed", gap="0.3 mm")
    for side in SIDES:
        d.flange("tray", side, side, "30 mm")
    d.feature("tray", "near", "hole", ("left", "60 mm"), ("centre", "0"), diameter="10 mm")
    if turn:
        d.turn("g", "z", turn, "groups", x="0", y="0")
    plain = Draft("t", "galv20")
    plain.data = {**d.data, "groups": {"g": {**d.data["groups"]["g"], "move": {}, "turns": {}}}}
    found, wanted = (split(x.document(), 170.0, hold=hold) for x in (d, plain))
    assert not found.faults, [f.message for f in found.faults]
    for key in ("tray", "tray_2"):
        assert found.parts[key].flat.area == pytest.approx(wanted.parts[key].flat.area, abs=1e-3)
        assert len(found.parts[key].flat.inside) == len(wanted.parts[key].flat.inside)
    assert not overlap_faults(found)


@pytest.mark.parametrize("hold", ["rivets", "tabs"])
@pytest.mark.parametrize("copied", [False, True])
def test_a_half_that_stands_on_nothing_is_held_by_the_other_one(hold, copied):
    """A step down at one end: it stands on that, and without the other half the rest would drop."""
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "311 mm"), ("0", "97 mm"))
    d.fold("tray")
    d.flange("tray", "front", "front", "23 mm").flange("tray", "back", "back", "23 mm")
    d.flange("tray", "step", "right", "18 mm", kind="offset", height="9 mm", toward="b")
    if copied:
        d.mirror("m", "x", "400 mm", "part:tray")
    _, patch = split_part(build(d.document()), "tray", "x", 70.0, hold=hold)
    built = build(patched(d.document().dump(), patch))
    assert not [p for p in check(built) if p.fault.code in ("drops", "tips")]
    assert set(built.parts) == {"tray", "tray_2", *(["tray@m.1", "tray_2@m.1"] if copied else [])}


@pytest.mark.parametrize("end", ["tray", "tray@m.1"])
def test_what_is_joined_to_the_whole_or_to_its_copy_is_joined_to_both_halves(end):
    d = Draft("t", "galv20", "ply12")
    d.board("tray", "galv20", "lying", "0", ("0", "311 mm"), ("0", "97 mm"))
    d.fold("tray")
    d.flange("tray", "front", "front", "23 mm")
    d.mirror("m", "x", "400 mm", "part:tray")
    d.board("plank", "ply12", "lying", "-11.8 mm", ("0", "800 mm"), ("0", "97 mm"))
    d.data["joints"]["k"] = {"kind": "screws", "a": "plank", "b": end}
    _, patch = split_part(build(d.document()), "tray", "x", 70.0)
    joints = build(patched(d.document().dump(), patch)).joints.values()
    assert not any(j.refused for j in joints)
    assert {j.b for j in joints} == {end, end.replace("tray", "tray_2")}


@pytest.mark.parametrize("number", [2, 3, 5])
@pytest.mark.parametrize("at", [100.0, 150.0, 233.0])
def test_gussets_stay_in_the_half_that_has_all_of_them_and_where_they_were(number, at):
    """The front wall's bend is cut across by the line: of its stiffeners each lies in one half, or is cut by the line and gone."""
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray")
    d.flange("tray", "front", "front", "30 mm", gussets={"number": number, "width": d.entry("14 mm"), "depth": d.entry("9 mm")})
    whole = build(d.document()).parts["tray"]
    halves = split(d.document(), at, hold="none")

    def where(part):
        """The room's x of every stiffener's middle, and its width and depth."""
        found = []
        for b in part.flat.fold.bends:
            for along, width, depth in b.gussets:
                u, v = b.start[0] + b.along[0] * along, b.start[1] + b.along[1] * along
                found.append((round(part.matrix[0][0] * u + part.matrix[0][1] * v + part.matrix[0][3], 6), width, depth))
        return found

    parts = list(halves.flats.values())
    assert len(parts) == 2 and len(where(whole)) == number
    kept = sorted(g for p in parts for g in where(p))
    # the second half has none where the first one reaches under it
    assert set(kept) <= set(where(whole))
    clear = [g for g in where(whole) if abs(g[0] - at) > 40]
    assert set(clear) <= set(kept) and len(kept) == len(set(kept))
    assert all(abs(g[0] - at) > 7 for g in kept)


@pytest.mark.parametrize(("side", "axis", "at"), [("left", "x", 150.0), ("right", "x", 90.0), ("front", "y", 60.0), ("back", "y", 50.0)])
def test_a_half_without_a_flange_ends_at_the_line_too(side, axis, at):
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray").flange("tray", side, side, "30 mm")
    found = split(d.document(), at, axis, hold="none")
    flat = "tray_2" if side in ("left", "front") else "tray"
    x0, y0, x1, y1 = found.flats[flat].flat.bounds
    size, across = (x1 - x0, y1 - y0) if axis == "x" else (y1 - y0, x1 - x0)
    whole = 300.0 if axis == "x" else 120.0
    assert across == pytest.approx(420.0 - whole)
    if flat == "tray_2":
        assert size == pytest.approx(whole - at)
    else:  # the first half is stepped under the second, which takes a little more than the overlap
        assert at + 16 < size < at + 16.2


@pytest.mark.parametrize(("radius", "thickness"), [(6.0, 1.0), (8.0, 1.5)])
def test_a_step_of_large_bends_keeps_a_straight_between_them(radius, thickness):
    """Two bends that step a sheet by its thickness t: each turns by acos(1 - 0.8 t / (2 R + t)), the straight between them makes up the rest."""
    d = Draft("t", "galv20")
    d.data["stocks"]["galv20"].pop("measured", None)
    d.data["stocks"]["galv20"]["nominal"] = d.entry(f"{thickness} mm")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray", radius=f"{radius} mm").flange("tray", "left", "left", "40 mm")
    found = split(d.document(), 150.0, "x", overlap=40.0)
    step = [b for b in found.flats["tray"].flat.fold.bends if abs(abs(b.angle) - math.pi / 2) > 0.1]
    turn = math.acos(1 - 0.8 * thickness / (2 * radius + thickness))
    assert [abs(b.angle) for b in step] == pytest.approx([turn, turn], abs=1e-4) and [b.radius for b in step] == [radius, radius]


@pytest.mark.parametrize(
    ("at", "low", "high"), [(28.9, 0, 1), (29.0, 0, 1), (29.1, 1, 1), (50.0, 1, 1), (70.9, 1, 1), (71.0, 1, 0), (71.1, 1, 0), (74.0, 1, 0)]
)
def test_a_gusset_stays_on_the_half_that_has_all_of_it(at, low, high):
    """Two of them 8 mm wide, with their middles at 25 and 75 mm."""
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "100 mm"), ("0", "80 mm"), up="a")
    d.fold("tray").flange("tray", "wall", "front", "30 mm")
    gussets = {"number": 2, "width": d.entry("8 mm"), "depth": d.entry("9 mm")}
    d.data["parts"]["tray"]["folding"]["flanges"]["wall"]["gussets"] = gussets
    found = split(d.document(), at, "x", hold="none")
    count = {k: sum(len(b.gussets) for b in found.flats[k].flat.fold.bends) for k in ("tray", "tray_2")}
    assert count == {"tray": low, "tray_2": high}


@pytest.mark.parametrize("at", [75.0, 150.0, 250.0])
@pytest.mark.parametrize("axis", ["x", "y"])
def test_slits_beside_bends_stay_in_the_half_where_they_are(at, axis):
    """Flanges over a part of an edge are slit free at both ends: each slit lies in one half, or was in the way of the line."""
    d = Draft("t", "galv20")
    size = ("300 mm", "120 mm") if axis == "x" else ("120 mm", "300 mm")
    d.board("tray", "galv20", "lying", "0", ("0", size[0]), ("0", size[1]), up="a")
    d.fold("tray")
    for n, (edge, place) in enumerate(
        (("front", 20), ("front", 180), ("back", 90)) if axis == "x" else (("left", 20), ("left", 180), ("right", 90))
    ):
        d.flange(
            "tray",
            f"f{n}",
            edge,
            "25 mm",
            extent="inset",
            first=f"{place} mm",
            second=f"{300 - place - 40} mm",
            relief={"style": "tear"},
        )
    k = "xy".index(axis)

    def places(part):
        return sorted(round(sum(p[k] for p in s.points) / 2, 3) for s in part.flat.fold.slits)

    whole = places(build(d.document()).flats["tray"])
    assert len(whole) == 6
    found = split(d.document(), at, axis, hold="none")
    low, high = (places(found.flats[key]) for key in ("tray", "tray_2"))
    origin = found.flats["tray_2"].span_box.span(axis)[0] - build(d.document()).flats["tray"].span_box.span(axis)[0]
    assert low == [x for x in whole if x < at]
    assert [round(x + origin, 3) for x in high] == [x for x in whole if x > at]


def leaning(side, toward, angle, axis="x"):
    """A tray of which one wall leans over the plate; the line runs beside that wall."""
    d = Draft("t", "galv20")
    size = ("0", "300 mm"), ("0", "120 mm")
    d.board("tray", "galv20", "lying", "0", *(size if axis == "x" else size[::-1]), up="a")
    d.fold("tray").flange("tray", "wall", side, "60 mm", angle=f"{angle} deg", toward=toward)
    return d.document()


@pytest.mark.parametrize("angle", [125, 142])
@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize(("side", "axis"), [("left", "x"), ("right", "x"), ("front", "y"), ("back", "y")])
def test_a_line_beside_a_leaning_wall_may_come_as_near_as_it_reaches(side, axis, toward, angle):
    """The outer corners of its end, with the sheet's thickness, are how far it leans over: measured on its solid."""
    document = leaning(side, toward, angle, axis)
    part = build(document).parts["tray"]
    i, low = "xy".index(axis), side in ("left", "front")
    body = solid(part)
    z0, z1 = body.bounding_box()[2], body.bounding_box()[5]
    above = body ^ manifold3d.Manifold.cube((5000, 5000, z1 - z0 - 8)).translate((-2500, -2500, z0 + 8 if toward == "a" else z0))
    reach = above.bounding_box()[3 + i] if low else above.bounding_box()[i]
    assert (reach if low else 300 - reach) > 20
    out = 1 if low else -1
    found = split(document, reach + out * 0.05, axis, hold="none")
    # a wall stays whole in the half that it stands in
    assert [len(found.flats[k].flat.fold.faces) > 1 for k in ("tray", "tray_2")] == [True, not low]
    with pytest.raises(DocumentError, match="stands askew to the line"):
        split(document, reach - out * 0.05, axis, hold="none")


@pytest.mark.parametrize("side", ["left", "right"])
def test_a_lip_that_reaches_over_the_line_from_the_other_half_is_refused_where_it_does(side):
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray").flange("tray", "wall", side, "30 mm").flange("tray", "lip", "end", "90 mm", on="wall")
    at = 60.0 if side == "left" else 240.0
    with pytest.raises(DocumentError, match=r"lip.*reaches over the line from what stands beyond it"):
        split(d.document(), at, hold="none")
    split(d.document(), 150.0, hold="none")


@pytest.mark.parametrize("at", [20.0, 30.0])
def test_a_side_flange_that_the_line_would_cut_across_its_bend_is_refused(at):
    """It hangs on a wall's upright edge and lies along the line's way: the line would run through it from its root to its end."""
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray").flange("tray", "wall", "front", "30 mm").flange("tray", "side", "high", "40 mm", on="wall")
    with pytest.raises(DocumentError, match="stands askew to the line"):
        split(d.document(), at, "y", hold="none")
    split(d.document(), 60.0, "y", hold="none")


def test_the_cut_edge_of_a_plate_runs_with_its_outside_on_the_right():
    plate = [rectangle(10, 20, 110, 70)]
    assert edge_at(plate, 0, 60.0, high=True) == ((60.0, 20.0), (60.0, 70.0))
    assert edge_at(plate, 0, 60.0, high=False) == ((60.0, 70.0), (60.0, 20.0))
    assert edge_at(plate, 1, 30.0, high=True) == ((110.0, 30.0), (10.0, 30.0))
    assert edge_at(plate, 1, 30.0, high=False) == ((10.0, 30.0), (110.0, 30.0))
    for k, at in ((0, 9.0), (0, 111.0), (1, 19.0), (1, 71.0)):
        assert edge_at(plate, k, at, high=True) is None
    assert edge_at([polygon([(0, 0), (10, 0), (0, 10)])], 0, 10.0 - 1e-9, high=True) is None  # it touches a corner
