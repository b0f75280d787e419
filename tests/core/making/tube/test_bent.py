"""Bent members: against Open CASCADE's pipe, Pappus, the bender's table played back, and by laws that hold wherever they stand."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepCheck import BRepCheck_Analyzer

from tests.core.making.tube.frames import SECTIONS, key, mm, stocked
from tests.core.making.tube.test_joined import volume
from zygon.exchange.cutlist import cut_list
from zygon.geometry.solid import manifold_of
from zygon.making.kinds.registry import exact_of, meshes_of, sizes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.tube.bent import BentBody


def rod(points, radius="16 mm", section="round bar", **more):
    d = stocked(section)
    if section == "round bar":
        d.data["stocks"]["round_bar"]["nominal"]["text"] = "8"
    keys = [f"p{k}" for k in range(len(points))]
    d.frame("f", dict(zip(keys, map(mm, points), strict=True)), {f"l{k}": (keys[k], keys[k + 1]) for k in range(len(points) - 1)})
    d.member("rod", key(section), "f", *(f"l{k}" for k in range(len(points) - 1)), radius=radius, **more)
    return d


def bent(built) -> BentBody:
    body = built.made["rod"].body
    assert isinstance(body, BentBody)
    return body


BAIL = [(0, 0, 0), (0, 0, 200), (300, 0, 200), (300, 0, 0)]
IN_SPACE = [(0, 0, 0), (120, 0, 0), (120, 80, 0), (120, 80, 90), (30, 140, 150)]


def test_the_worked_example():
    """120 and 80 mm with one bend of 16: two runs less the radius each, and a quarter round (by hand): 193.133 mm."""
    built = build(rod([(0, 0, 0), (120, 0, 0), (120, 80, 0)]).document())
    assert not built.faults and bent(built).length == pytest.approx(104 + 64 + 8 * math.pi, abs=1e-6)
    (row,) = cut_list(built)
    assert row.length == pytest.approx(193.133, abs=5e-4)
    assert row.mass == pytest.approx(193.133 * math.pi * 16 * 7.85 / 1000, rel=1e-4)


@pytest.mark.parametrize("points", [BAIL, IN_SPACE])
@pytest.mark.parametrize(
    ("section", "radius"), [("round bar", "16 mm"), ("round tube", "60 mm"), ("square tube", "60 mm"), ("flat", "20 mm")]
)
def test_it_is_its_section_along_its_line(points, section, radius):
    scale = 1 if section == "round bar" else 4
    built = build(rod([tuple(scale * x for x in p) for p in points], radius, section, against="y").document())
    assert not built.faults
    part, body = built.made["rod"], bent(built)
    exact = exact_of(part)
    assert BRepCheck_Analyzer(exact).IsValid()
    assert volume(exact) == pytest.approx(body.region.area * body.length, rel=1e-5) == pytest.approx(volume_of_part(part))
    (mesh,) = meshes_of(part)
    solid = manifold_of(mesh, list(dict.fromkeys(mesh.owners)))
    assert solid.status().name == "NoError"
    assert solid.volume() == pytest.approx(volume(exact), rel=0.02)
    low, high = np.array(part.reaches)
    seen = mesh.positions @ np.array(part.matrix)[:3, :3].T + np.array(part.matrix)[:3, 3]
    assert seen.min(axis=0) == pytest.approx(low, abs=0.06) and seen.max(axis=0) == pytest.approx(high, abs=0.06)
    assert sizes_of(part).length == body.length


def played(body: BentBody) -> np.ndarray:
    """Where the bender's table leads: the end of the rod, and the way it looks, from its start along w."""
    at, way, normal = np.zeros(3), np.array((0.0, 0.0, 1.0)), None
    for k, b in enumerate(body.path.bends):
        at = at + way * b.feed
        if normal is None:  # the first bend's own plane
            ways = np.diff(np.array(body.points), axis=0)
            normal = next(n for n in (np.cross(a, b) for a, b in zip(ways, ways[1:], strict=False)) if np.linalg.norm(n) > 1)
            normal = normal / np.linalg.norm(normal)
        else:
            turn = math.radians(b.turn)
            normal = normal * math.cos(turn) + np.cross(way, normal) * math.sin(turn)
        inward, angle = np.cross(normal, way), math.radians(b.bend)
        at = at + body.radius * (way * math.sin(angle) + inward * (1 - math.cos(angle)))
        way = way * math.cos(angle) + inward * math.sin(angle)
        assert k < 50
    return at + way * body.path.end


@given(st.lists(st.tuples(*[st.integers(-3, 3)] * 3), min_size=3, max_size=6), st.sampled_from(["x", "y", "z"]))
@settings(max_examples=60, deadline=None)
def test_the_table_played_back_ends_where_the_rod_does_and_either_end_may_be_first(steps, against):
    points, at = [(0.0, 0.0, 0.0)], np.zeros(3)
    for step in steps:
        if not any(step):
            return
        at = at + 60.0 * np.array(step)
        points.append(tuple(at))
    first = np.array(steps[0], float)
    if abs(first["xyz".index(against)]) == np.linalg.norm(first):
        return
    built = build(rod(points, against=against).document())
    if built.faults:
        assert {f.code for f in built.faults} <= {"no_place"}
        return
    if not isinstance(built.made["rod"].body, BentBody):
        return  # one straight line
    body = bent(built)
    assert played(body) == pytest.approx(np.array(body.points[-1]), abs=1e-5)
    back = build(
        rod(
            points[::-1],
            against=next(
                a for a in "xyz" if abs((at - np.array(points[-2]))["xyz".index(a)]) < 0.9 * np.linalg.norm(at - np.array(points[-2]))
            ),
        ).document()
    )
    assert bent(back).length == pytest.approx(body.length) and bent(back).alike == body.alike
    mirrored = build(rod([(-x, y, z) for x, y, z in points], against=against).document())
    assert bent(mirrored).alike == body.other_hand


def test_equal_bails_are_one_row_and_hands_are_told_apart():
    d = rod(BAIL, against="y")
    d.mirror("m", "y", "200 mm", "part:rod", names={"rod": "rod_m"})
    assert [(r.part, r.quantity) for r in cut_list(build(d.document()))] == [("rod, rod_m", 2)]
    d = rod(IN_SPACE)
    d.mirror("m", "y", "200 mm", "part:rod", names={"rod": "rod_m"})
    assert [(r.part, r.handed_of) for r in cut_list(build(d.document()))] == [("rod", 0), ("rod_m", 1)]


@pytest.mark.parametrize(
    ("points", "more", "words", "field"),
    [
        (BAIL, {"radius": "180 mm"}, "room for the rounds", "lines"),
        (BAIL, {"radius": "3 mm"}, "at least half of the diameter", "radius"),
        (BAIL, {"radius": "0"}, "greater than 0", "radius"),
        (BAIL, {"lies": "0"}, "lies by a side of it", "lies"),
        ([(0, 0, 0), (0, 0, 100), (0, 0, 20)], {}, "go back on itself", "lines"),
    ],
)
def test_what_cannot_be_bent_so_is_said_at_its_entry(points, more, words, field):
    built = build(rod(points, against="y", **{"radius": "16 mm", **more}).document())
    (fault,) = [f for f in built.faults if f.code == "no_place"]
    assert words in fault.message and fault.entry == f"/parts/rod/{field}" and "rod" not in built.made


def test_without_a_radius_lines_in_a_row_are_straight():
    d = rod(BAIL)
    del d.data["parts"]["rod"]["radius"]
    (fault,) = build(d.document()).faults
    assert "not straight in a row" in fault.message and fault.entry == "/parts/rod/radius"
    straight = rod([(0, 0, 0), (0, 0, 100), (0, 0, 300)], against="y")
    assert sizes_of(build(straight.document()).made["rod"]).length == 300


def test_its_ends_run_on():
    built = build(rod(BAIL, past_a="10 mm", past_b="-5 mm", against="y").document())
    assert bent(built).length == pytest.approx(200 + 300 + 200 - 4 * 16 + 2 * 8 * math.pi + 5)


def test_all_sections_are_swept():
    for section, against in itertools.product(SECTIONS, "xy"):
        big = [tuple(4 * x for x in p) for p in BAIL]
        built = build(rod(big, "80 mm", section, against=against, turn="30 deg").document())
        assert not built.faults and volume(exact_of(built.made["rod"])) == pytest.approx(volume_of_part(built.made["rod"]), rel=1e-5)
