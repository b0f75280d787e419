"""Measuring, clearances and overlaps against trimesh, scipy and plain geometry; measured sizes that stay live."""

import math

import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import lsq_linear

from tests.core.making.joints.pairs import solid
from tests.core.shared import placed_mesh
from tests.explore import drawn
from zygon.check.overlap import overlap_faults
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.design.layout import Place
from zygon.design.patch import patched
from zygon.making.asked.measured import Lost, about, measure, weigh
from zygon.making.datums.measuring import Spot, shortest
from zygon.making.pipeline import build

VECTORS = st.tuples(*[st.floats(-200, 200)] * 3)


def place(part, what="part", name=""):
    return Place(part=part, what=what, name=name)


@settings(max_examples=drawn(24))
@given(
    VECTORS,
    VECTORS,
    st.lists(VECTORS, min_size=3, max_size=3),
    st.lists(VECTORS, min_size=3, max_size=3),
    st.integers(0, 3),
    st.integers(0, 3),
)
def test_the_shortest_way_between_places_is_the_least_squares_one(p, q, sides_a, sides_b, flat_a, flat_b):
    """Referee: bounded least squares of scipy (BVLS)."""
    a, b = (np.array(s) * (np.arange(3)[:, None] >= n) for s, n in ((sides_a, flat_a), (sides_b, flat_b)))
    found, x, y = shortest(Spot(np.array(p), a), Spot(np.array(q), b))
    ways = np.array([w for w in (*a, *-b) if np.linalg.norm(w) > 1e-9]).T
    target = np.array(q) - np.array(p)
    best = np.linalg.norm(ways @ lsq_linear(ways, target, (0, 1), method="bvls").x - target) if ways.size else np.linalg.norm(target)
    assert found == pytest.approx(best, abs=1e-6) and np.linalg.norm(x - y) == pytest.approx(found, abs=1e-9)


def two(lean=0.0) -> Draft:
    d = Draft("d", "ply12")
    d.board("a", "ply12", "facing_side", "0", ("0", "100 mm"), ("0", "200 mm"))
    d.board("b", "ply12", "facing_side", "150 mm", ("20 mm", "90 mm"), ("0", "120 mm"))
    if lean:
        d.turn("b", "y", f"{lean} deg", x="b.left", z="b.bottom")
    return d


def test_distances_along_the_axes_straight_and_angles():
    built = build(two().document())
    found = measure(built, place("a", "face", "right"), place("b", "face", "left"))
    assert found.along == pytest.approx((138.2, 5, 40)) and found.straight == pytest.approx(138.2) and found.angle == pytest.approx(0)
    found = measure(built, place("a", "edge", "right-top"), place("b", "edge", "left-top"))
    assert found.straight == pytest.approx(math.hypot(138.2, 80))
    found = measure(built, place("a", "centre"), place("b", "centre"))
    assert found.straight == pytest.approx(math.dist((5.9, 50, 100), (155.9, 55, 60)))
    found = measure(built, place("a"), place("b"))
    assert found.along == pytest.approx((138.2, 0, 0)) and found.gap == pytest.approx(138.2, abs=1e-6)


@settings(max_examples=drawn(10))
@given(st.floats(-60, 60).filter(lambda x: abs(x) > 0.1), st.floats(60, 300))
def test_the_gap_between_turned_parts_agrees_with_trimesh(lean, away):
    draft = two(round(lean, 3))
    draft.data["parts"]["b"]["position"]["at"]["text"] = f"{away:.3f} mm"
    built = build(draft.document())
    found = measure(built, place("a"), place("b")).gap
    meshes = [placed_mesh(built.parts[k]) for k in "ab"]
    if found < 1e-6:
        assert measure(built, place("a"), place("b")).straight < 1e-6
        return
    # convex bodies: the nearest points are corners or lie on edges of one of them; sample one densely, ask the other
    points = [p for m in meshes for p in (trimesh.sample.sample_surface_even(m, 3000, seed=1)[0],)]
    distances = [trimesh.proximity.closest_point(meshes[1 - i], points[i])[1].min() for i in (0, 1)]
    assert found <= min(distances) + 1e-6 and min(distances) - found < 4.0
    corners = min(trimesh.proximity.closest_point(meshes[1 - i], meshes[i].vertices)[1].min() for i in (0, 1))
    assert found <= corners + 1e-6


@settings(max_examples=drawn(25))
@given(st.floats(-80, 80), st.floats(-30, 130))
def test_overlaps_of_turned_parts_agree_with_the_solids_of_trimesh(lean, away):
    draft = two(round(lean, 3))
    draft.data["parts"]["b"]["position"]["at"]["text"] = f"{away:.3f} mm"
    built = build(draft.document())
    a, b = (placed_mesh(built.parts[k]) for k in "ab")
    common = trimesh.boolean.intersection([a, b])
    volume = common.volume if len(common.faces) else 0.0
    found = overlap_faults(built)
    if volume > 60:
        (fault,) = found
        assert float(fault.value.split()[0]) == pytest.approx(volume / 1000, rel=6e-3)
        middle = common.bounds.mean(axis=0)
        said = [float(x.strip("≈")) for x in fault.message.split(" at ")[1].replace(" mm", "").split(" (")[0].split(", ")]
        assert said == pytest.approx(middle, abs=0.06)
    elif volume < 1e-3:
        assert not found


def test_boards_turned_alike_are_checked_as_finely_as_square_ones():
    draft = Draft("d", "ply12")
    draft.group("g").board("a", "ply12", "lying", 0, (0, "100 mm"), (0, "100 mm"))
    draft.board("b", "ply12", "facing_side", "40 mm", (0, "100 mm"), ("a.top - 0.004 mm", "80 mm"))
    draft.turn("g", "x", "33 deg", "groups", y="7 mm", z="3 mm")
    assert len(overlap_faults(build(draft.document()))) == 1
    draft.data["parts"]["b"]["spans"]["z"]["low"]["text"] = "a.top"
    assert not overlap_faults(build(draft.document()))


def test_mass_area_and_centre_of_gravity():
    draft = two(30.0)
    draft.feature("a", "h", "hole", ("front", "30 mm"), ("bottom", "30 mm"), diameter="40 mm")
    draft.feature("a", "p", "pocket", ("back", "30 mm"), ("top", "40 mm"), width="30 mm", height="50 mm", depth="5 mm")
    built = build(draft.document())
    found = weigh(built, ["a", "b"])
    volume = 100 * 200 * 11.8 - math.pi * 400 * 11.8 - 30 * 50 * 5 + 70 * 120 * 11.8
    assert found.volume == pytest.approx(volume, rel=1e-3) and found.mass == pytest.approx(volume * 0.68 / 1000, rel=1e-3)
    solids = [solid(built.parts[k]).to_mesh() for k in "ab"]
    meshes = [trimesh.Trimesh(np.asarray(m.vert_properties)[:, :3], m.tri_verts) for m in solids]
    centre = sum(m.center_mass * m.volume for m in meshes) / sum(m.volume for m in meshes)
    # the referee's hole has chords, and weighs its parts by them
    assert found.centre == pytest.approx(centre, abs=0.02)
    assert about(built, place("a", "edge", "left-front")).length == pytest.approx(200)
    assert math.degrees(about(built, place("b", "face", "left")).angle) == pytest.approx(60)
    spot = about(built, place("a", "feature", "h"))
    assert spot.centre == pytest.approx((5.9, 30, 30))


def test_the_opening_on_a_face_is_told():
    built = build(example("brood-box"))
    found = about(built, place("front", "face", "back"))
    assert found.opening[0] == pytest.approx(420 - 2 * 11.8)


@pytest.mark.parametrize(
    "lost",
    [
        place("nobody"),
        place("a", "face", "inside"),
        place("a", "edge", "left"),
        place("a", "edge", "left-right"),
        place("a", "feature", "no"),
    ],
)
def test_what_is_not_there_cannot_be_measured(lost):
    with pytest.raises(Lost) as caught:
        measure(build(two().document()), lost, place("b"))
    assert str(caught.value)


def measured(draft, along, a, b, kind="length"):
    draft.data["sizes"]["gap"] = {"name": "gap", "kind": kind, "entry": draft.entry("0"), "measured": {"a": a, "b": b, "along": along}}
    return draft


def test_a_measured_size_drives_a_part_and_stays_live():
    draft = two()
    draft.size("away", "150 mm")
    draft.data["parts"]["b"]["position"]["at"]["text"] = "away"
    measured(draft, "x", {"part": "a", "what": "face", "name": "right"}, {"part": "b", "what": "face", "name": "left"})
    draft.board("strip", "ply12", "lying", "300 mm", (0, "gap"), (0, "10 mm"))
    built = build(draft.document())
    assert not built.faults and built.parts["strip"].flat.size[0] == pytest.approx(138.2)
    draft.data["sizes"]["away"]["entry"]["text"] = "200 mm"
    assert build(draft.document()).parts["strip"].flat.size[0] == pytest.approx(188.2)
    draft.data["parts"]["b"]["out"] = True
    stale = build(draft.document(), built.good)
    (fault,) = [f for f in stale.faults if f.code == "lost_measure"]
    assert "b is left out or gone" in fault.message
    assert stale.parts["strip"].flat.size[0] == pytest.approx(138.2)  # the last good value stands


def test_a_measured_size_that_would_follow_itself_is_a_loop():
    draft = two()
    measured(draft, "x", {"part": "a", "what": "face", "name": "right"}, {"part": "b", "what": "face", "name": "left"})
    draft.data["parts"]["b"]["position"]["at"]["text"] = "gap + 1 mm"
    assert [f.code for f in build(draft.document()).faults if f.code == "cycle"]


def test_an_angle_and_a_straight_way_can_be_sizes_too():
    draft = two(25.0)
    measured(draft, "angle", {"part": "a", "what": "face", "name": "right"}, {"part": "b", "what": "face", "name": "left"}, "angle")
    assert math.degrees(build(draft.document()).values["/sizes/gap/entry"].value) == pytest.approx(25)
    measured(draft, "straight", {"part": "a"}, {"part": "b"})
    built = build(draft.document())
    assert built.values["/sizes/gap/entry"].value == pytest.approx(measure(built, place("a"), place("b")).gap, abs=1e-6)


def test_stated_clearances_are_kept_under_watch():
    draft = two()
    draft.size("play", "138 mm")
    draft.clearance("between them", {"part": "a"}, {"part": "b"}, least="play")
    draft.clearance(
        "end play",
        {"part": "a", "what": "face", "name": "back"},
        {"part": "b", "what": "face", "name": "back"},
        "y",
        least="0.5 mm",
        most="1.5 mm",
    )
    faults = [p.fault for p in check(build(draft.document())) if p.fault.code == "clearance"]
    assert [f.message for f in faults] == ["end play: there is 10 mm of room, more than 1.5 mm"]
    assert faults[0].rule == "at least 0.5 mm and at most 1.5 mm" and faults[0].owner == "clearance:end_play"
    tighter = patched(draft.document().dump(), [{"op": "replace", "path": "/sizes/play/entry/text", "value": "138.3 mm"}])
    assert [p.fault.message for p in check(build(tighter)) if p.fault.owner == "clearance:between_them"] == [
        "between them: there is 138.2 mm of room, less than 138.3 mm"
    ]
    draft.data["parts"]["b"]["out"] = True
    lost = [p.fault for p in check(build(draft.document())) if p.fault.code == "lost_clearance"]
    assert {(f.owner, f.entry) for f in lost} >= {("clearance:end_play", "/clearances/end_play")}
    assert all(f.severity == "warning" and f.rule == "both places are there" for f in lost)


@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize("handed", [False, True])
@pytest.mark.parametrize("edges", [("left", "right"), ("front", "back")])
def test_faces_of_flanges_are_measured_between_on_every_edge_both_ways_and_mirrored(toward, handed, edges):
    """Outer sizes of a plate are those over its walls; between the walls it is two thicknesses less, whichever way they stand."""
    d = Draft("t", "galv20")
    d.data["stocks"]["galv20"] |= {"nominal": d.entry("1.5 mm"), "measured": None}
    d.board("p", "galv20", "lying", "40 mm", ("10 mm", "210 mm"), ("20 mm", "140 mm"), up="a").fold("p", radius="2 mm")
    for edge in edges:
        d.flange("p", edge, edge, "30 mm", toward=toward)
    d.mirror("m", "x", "400 mm", "part:p")
    built = build(d.document())
    key = "p@m.1" if handed else "p"
    low, high = (built.made[key].reaches[i]["xy".index("x" if edges[0] == "left" else "y")] for i in (0, 1))
    width = 200.0 if edges[0] == "left" else 120.0
    assert high - low == pytest.approx(width)
    for side, off in (("outer", 0.0), ("inner", 3.0)):
        found = measure(built, *(place(key, "face", f"{e}.{side}") for e in edges))
        assert (found.straight, found.angle) == (pytest.approx(width - off), pytest.approx(0, abs=1e-9))
    one = measure(built, place(key, "face", f"{edges[0]}.outer"), place(key, "face", f"{edges[0]}.inner"))
    assert one.straight == pytest.approx(1.5)
    # its outer face lies on the outside of the box
    at = about(built, place(key, "face", f"{edges[0]}.outer")).centre["xy".index("x" if edges[0] == "left" else "y")]
    assert min(abs(at - low), abs(at - high)) == pytest.approx(0, abs=1e-9)


def test_a_leaning_flange_its_area_and_the_legs_of_a_profile():
    d = Draft("t", "galv20")
    d.data["stocks"]["galv20"] |= {"nominal": d.entry("1 mm"), "measured": None}
    d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "100 mm"), up="a").fold("p", radius="2 mm")
    d.flange("p", "f", "right", "30 mm", angle="60 deg", measured="tangent").profile(
        "p", "c", "left", ("20 mm", "90 deg"), ("15 mm", "-90 deg")
    )
    built = build(d.document())
    leans = about(built, place("p", "face", "f.inner"))
    assert leans.area == pytest.approx(30.0 * 100.0) and leans.angle == pytest.approx(math.radians(60))
    found = measure(built, place("p", "face", "f.outer"), place("p", "face", "top"))
    assert found.angle == pytest.approx(math.radians(60))
    # the profile's second leg lies level again: 20 over all above the plate's lower face
    keys = [f.key for f in built.made["p"].flat.fold.faces if f.key.startswith("c")]
    assert len(keys) == 2
    assert measure(built, place("p", "face", f"{keys[1]}.inner"), place("p", "face", "bottom")).angle == pytest.approx(0, abs=1e-9)


def test_the_real_room_between_a_wall_and_the_skirt_over_it():
    built = build(example("electronics-box"))
    for side in ("left", "right"):
        found = measure(built, place("base", "face", f"{side}.outer"), place("lid", "face", f"{side}.inner"))
        assert found.straight == pytest.approx(0.4)
    draft = example("electronics-box").dump()
    draft["clearances"]["skirt"] = {
        "name": "skirt",
        "a": {"part": "base", "what": "face", "name": "left.outer"},
        "b": {"part": "lid", "what": "face", "name": "left.inner"},
        "least": {"text": "0.5 mm", "unit": "mm"},
    }
    (fault,) = [p.fault for p in check(build(patched(draft, []))) if p.fault.code == "clearance"]
    assert "0.4 mm" in fault.message


@pytest.mark.parametrize(
    ("name", "says"), [("left.top", "no such flange"), ("nothing.outer", "no such flange"), (".outer", "no such flange")]
)
def test_a_flange_that_is_not_there_is_said(name, says):
    built = build(example("electronics-box"))
    with pytest.raises(Lost, match=says):
        measure(built, place("lid", "face", name), place("base"))
    with pytest.raises(Lost, match="no such flange"):
        measure(build(two().document()), place("a", "face", "left.outer"), place("b"))


def test_a_size_that_follows_a_flange_says_when_it_is_gone():
    data = example("electronics-box").dump()
    data["sizes"]["gap"] = {
        "name": "gap",
        "entry": {"text": "0", "unit": "mm"},
        "measured": {
            "a": {"part": "base", "what": "face", "name": "left.outer"},
            "b": {"part": "lid", "what": "face", "name": "gone.inner"},
            "along": "x",
        },
    }
    (fault,) = [f for f in build(patched(data, [])).faults if f.code == "lost_measure"]
    assert "lid has no flange gone; it has" in fault.message
