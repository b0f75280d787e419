"""Ends of tubes and bars pressed flat, with a hole: sizes by the length round the wall, solids both ways, at either end, turned, bent, mirrored, and what is refused."""

import itertools
import math
from dataclasses import replace

import manifold3d
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepCheck import BRepCheck_Analyzer

from tests.core.making.tube.frames import key, mm, stocked
from tests.core.making.tube.test_joined import volume
from zygon.exchange.cutlist import cut_list
from zygon.exchange.tubes import write_saw_list
from zygon.geometry.solid import manifold_of
from zygon.making.kinds.registry import exact_of, meshes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.tube.body import MemberBody
from zygon.making.tube.flat_end import Flat, flat_wide
from zygon.making.tube.tips import Tip
from zygon.stock.section import Section

LONG = 400.0


def entry(text):
    return {"text": str(text), "unit": "mm"}


def pressed(section="round tube", bent=False, way=(LONG, 0, 0), **ends):
    d = stocked(section)
    points = {"a": mm((0, 0, 0)), "b": mm(way)} | ({"c": mm((LONG, 0, LONG))} if bent else {})
    d.frame("f", points, {"l": ("a", "b")} | ({"m": ("b", "c")} if bent else {}))
    d.member("rod", key(section), "f", *(("l", "m") if bent else ("l",)), against="y", **({"radius": "90"} if bent else {}))
    d.data["parts"]["rod"]["worked"] = {e: {k: entry(v) for k, v in w.items()} for e, w in ends.items()}
    return d


@pytest.mark.parametrize(
    ("across", "wall", "thick", "wide"),
    [
        # between two straight walls the middle of the wall is as long as it was: pi (D - t) = 2 s + pi t
        (20, 2, 4, math.pi * 16 / 2 + 4),
        (42.4, 2.6, 5.2, math.pi * 37.2 / 2 + 5.2),
        (20, 2, 10, math.pi * 10 / 2 + 10),
        # a bar keeps its area: with rounds of half its thickness
        (12, 0, 6, (math.pi * 36 - math.pi * 9) / 6 + 6),
        (10, 0, 10, 10),
    ],
)
def test_what_is_pressed_keeps_its_wall_or_its_area(across, wall, thick, wide):
    assert flat_wide(across, wall, thick) == pytest.approx(wide)
    if not wall:
        half = thick / 2
        assert (wide - thick) * thick + math.pi * half**2 == pytest.approx(math.pi * across**2 / 4)


@pytest.mark.parametrize(("ends", "hole"), [("a", {}), ("b", {"bore": 8, "bore_off": 12}), ("ab", {"bore": 8, "bore_off": 12})])
@pytest.mark.parametrize("bent", [False, True])
@pytest.mark.parametrize("section", ["round tube", "round bar"])
def test_both_solids_are_sound_and_one(section, bent, ends, hole):
    built = build(pressed(section, bent, **{e: {"flat": 40, "looks": 25, **hole} for e in ends}).document())
    assert not built.faults
    part = built.made["rod"]
    exact = exact_of(part)
    assert BRepCheck_Analyzer(exact).IsValid()
    assert volume_of_part(part) == pytest.approx(volume(exact), rel=3e-3)
    (mesh,) = meshes_of(part)
    solid = manifold_of(mesh, list(dict.fromkeys(mesh.owners)))
    assert solid.status() == manifold3d.Error.NoError and len(solid.decompose()) == 1
    assert abs(solid.genus() - (len(ends) if hole else 0)) <= 2 * len(ends)  # the slit of a tube and its hole are ways through too
    assert "edge:flat" in mesh.owners


def across_at(part, w: float) -> tuple[np.ndarray, np.ndarray]:
    """How far a straight part reaches along u and v where it is cut across at w: low and high."""
    (mesh,) = meshes_of(part)
    made = manifold3d.Mesh64(mesh.positions, mesh.triangles.astype(np.uint64))
    made.merge()
    ring = np.vstack(manifold3d.Manifold(made).slice(w).to_polygons())
    return ring.min(axis=0), ring.max(axis=0)


@pytest.mark.parametrize("end", ["a", "b"])
@pytest.mark.parametrize(("looks", "axis"), [(0, 1), (90, 0), (180, 1), (-90, 0)])
def test_the_flat_lies_at_its_end_and_looks_where_it_is_said_to(end, looks, axis):
    part = build(pressed(**{end: {"flat": 40, "blend": 60, "looks": looks}}).document()).made["rod"]
    wide = math.pi * 37.2 / 2 + 5.2
    for w, (thin, broad) in {20: (5.2, wide), 399 - 5: (42.4, 42.4), 101: (42.4, 42.4), 70: ((5.2 + 42.4) / 2, (wide + 42.4) / 2)}.items():
        low, high = across_at(part, w if end == "a" else LONG - w)
        found = (high - low)[[axis, 1 - axis]]
        assert found == pytest.approx((thin, broad), abs=0.05)
        assert low == pytest.approx(-high, abs=0.02)
    # its box in the room is as wide as the flat
    reach = np.array(part.reaches[1]) - np.array(part.reaches[0])
    assert sorted(reach)[1] == pytest.approx(wide, abs=0.05) and max(reach) == pytest.approx(LONG)


def test_a_turned_flat_turns_right_hand_from_a_to_b_at_both_ends():
    """At 30 degrees the thin way lies 30 degrees round from the side at 0, as holes in the wall are counted."""
    part = build(pressed(a={"flat": 40, "looks": 30}, b={"flat": 40, "looks": 30}).document()).made["rod"]
    (mesh,) = meshes_of(part)
    way = np.array((-math.sin(math.radians(30)), math.cos(math.radians(30))))
    for tip in (mesh.positions[:, 2] < 1e-6, mesh.positions[:, 2] > LONG - 1e-6):
        assert np.abs(mesh.positions[tip][:, :2] @ way).max() == pytest.approx(2.6, abs=1e-3)


@settings(max_examples=4, deadline=None)
@given(st.floats(10, 60), st.floats(0.03, 0.3), st.floats(0, 1), st.floats(5, 60), st.floats(5, 80), st.floats(-3, 3))
def test_what_is_pressed_keeps_its_metal(across, share, loose, long, blend, turned):
    """A flat's wall is as long and as thick as it was: its straight piece weighs what it weighed, and its exact solid is its mesh."""
    wall = across * share
    thick = 2 * wall + loose * (0.9 * across - 2 * wall) if 2 * wall < 0.9 * across else 2 * wall
    flat = Flat(across, wall, long, blend, thick, turned)
    longer = replace(flat, long=long + 30)
    area = math.pi * (across - wall) * wall
    assert longer.taken - flat.taken == pytest.approx(0.0, abs=0.01 * 30 * area + 30 * 0.02 * flat.wide)
    body = MemberBody(Section("round", across, wall=wall), 300.0, tips=(None, Tip(flat=flat)))
    from zygon.making.tube.exact import member_exact
    from zygon.making.tube.mesh import member_mesh

    assert member_mesh(body).moments()[0] == pytest.approx(volume(member_exact(body)), rel=5e-3)


@pytest.mark.parametrize("other", ["turned", "end for end", "mirrored"])
def test_pieces_with_the_same_flats_are_one_row(other):
    """Turned about its axis or end for end a rod is the same; its flats look 40 degrees past one another, and its mirror image is another piece."""
    d = stocked("round tube")
    d.frame(
        "f", {"a": mm((0, 0, 0)), "b": mm((LONG, 0, 0)), "c": mm((0, 200, 0)), "e": mm((LONG, 200, 0))}, {"l": ("a", "b"), "m": ("c", "e")}
    )
    flats = {"a": {"flat": entry(40), "looks": {"text": "10 deg"}}, "b": {"flat": entry(40), "looks": {"text": "50 deg"}}}
    looks = {"turned": ("70 deg", "110 deg"), "end for end": ("-50 deg", "-10 deg"), "mirrored": ("-10 deg", "-50 deg")}[other]
    d.member("one", key("round tube"), "f", "l").member("two", key("round tube"), "f", "m")
    d.data["parts"]["one"]["worked"] = flats
    d.data["parts"]["two"]["worked"] = {e: {**flats[e], "looks": {"text": t}} for e, t in zip("ab", looks, strict=True)}
    built = build(d.document())
    assert not built.faults
    assert [r.quantity for r in cut_list(built)] == ([1, 1] if other == "mirrored" else [2])
    one, two = (built.made[k].body for k in ("one", "two"))
    assert (one.other_hand == two.alike) is (other == "mirrored") and one.mirrored.alike == one.other_hand


@pytest.mark.parametrize("bent", [False, True])
def test_mirrored_copies_have_their_flats_mirrored(bent):
    d = pressed(bent=bent, a={"flat": 40, "looks": "20 deg"}, b={"flat": 30, "bore": 8, "looks": "75 deg"})
    for w in d.data["parts"]["rod"]["worked"].values():
        w["looks"] = {"text": w["looks"]["text"]}
    d.mirror("other", "y", "100 mm", "part:rod", name="other")
    built = build(d.document())
    assert not built.faults
    one, other = (built.made[k] for k in built.made)

    def points(part, mirrored=False):
        m = np.array(part.matrix)
        found = meshes_of(part)[0].positions @ m[:3, :3].T + m[:3, 3]
        return found * (1, -1, 1) + (0, 200, 0) if mirrored else found

    def reach(p):
        return [f(p @ np.array(w)) for w in itertools.product((-1, 0, 1), repeat=3) for f in (np.min, np.max)]

    assert reach(points(one, mirrored=True)) == pytest.approx(reach(points(other)), abs=0.02)


@pytest.mark.parametrize(
    ("section", "end", "field", "words"),
    [
        ("square tube", {"flat": 40}, "flat", "a round tube or bar"),
        ("round tube", {"flat": 0}, "flat", "longer than 0"),
        ("round tube", {"flat": 401}, "flat", "no longer than what is straight there, 400 mm"),
        ("round tube", {"flat": 380, "blend": 30}, "blend", "no longer than what is straight there, 20 mm"),
        ("round tube", {"flat": 40, "thick": 5}, "thick", "at least its two walls, 5.2 mm"),
        ("round tube", {"flat": 40, "thick": 42.4}, "thick", "less than 42.4 mm"),
        ("round bar", {"flat": 40, "thick": 0}, "thick", "greater than 0"),
        ("round tube", {"flat": 40, "bore": 80}, "bore", "less than the flat is wide"),
        ("round tube", {"flat": 40, "bore": 10, "bore_off": 4}, "bore_off", "lies whole in the flat"),
        ("round tube", {"flat": 40, "bore": 10, "bore_off": 36}, "bore_off", "lies whole in the flat"),
        ("round bar", {"flat": 40, "chamfer": 1}, "flat", "a thread and a chamfer are on a round end"),
    ],
)
def test_what_cannot_be_pressed_is_said_at_its_field(section, end, field, words):
    built = build(pressed(section, b=end).document())
    (fault,) = built.faults
    assert fault.entry == f"/parts/rod/worked/b/{field}" and words in fault.rule
    assert built.made["rod"].body.length == LONG


def test_the_saw_list_says_it():
    listed = write_saw_list(build(pressed(b={"flat": 40, "bore": 10, "looks": "30"}).document()))
    assert "flat 40 long, 5.2 thick, looks to 30°, hole ⌀10 at 20" in listed
