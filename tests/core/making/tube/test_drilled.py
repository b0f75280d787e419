"""Holes, slots and marks in members: their own, and those of bores that pass walls and boards alike."""

import csv
import io
import math

import ezdxf
import manifold3d
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.tube.frames import key, mm, stocked
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.exchange.cutlist import cut_list
from zygon.exchange.tubes import template_file, write_saw_list
from zygon.making.asked.questions import parts_along
from zygon.making.flats.exact import volume
from zygon.making.kinds.registry import exact_of, meshes_of, volume_of_part
from zygon.making.pipeline import build

SQUARE, ROUND, SOLID = "square tube", "round tube", "round bar"
#: Outer size and wall of each.
ACROSS = {SQUARE: (40.0, 3.0), ROUND: (42.4, 2.6), SOLID: (20.0, 0.0)}
LONG = 500.0


def entry(text):
    return {"text": str(text), "unit": "mm"}


def drilled(section, *holes, way=(LONG, 0, 0), against="z", turn="0"):
    d = stocked(section)
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm(way)}, {"l": ("a", "b")})
    d.member("tube", key(section), "f", "l", against=against, turn=turn)
    plain = ("end", "walls", "count", "ring", "made")
    d.data["parts"]["tube"]["holes"] = {
        f"h{n}": {"order": n, **{k: v if k in plain else entry(v) for k, v in hole.items()}} for n, hole in enumerate(holes)
    }
    return d.document()


def tube(document):
    return build(document).made["tube"]


def taken(document):
    """What is drilled out, by Open CASCADE and by the mesh, mm³."""
    whole = document.dump()
    whole["parts"]["tube"]["holes"] = {}
    without, part = tube(patched(whole, [])), tube(document)
    return volume(exact_of(without)) - volume(exact_of(part)), volume_of_part(without) - volume_of_part(part)


HOLE = {"off": "120", "wide": "9"}
SLOT = {"off": "200", "wide": "8", "long": "30"}


@pytest.mark.parametrize(("hole", "area"), [(HOLE, math.pi * 4.5**2), (SLOT, math.pi * 4**2 + 8 * 22)])
@pytest.mark.parametrize(("walls", "n"), [("one", 1), ("both", 2)])
@pytest.mark.parametrize(("count", "ring"), [(1, 1), (3, 1), (1, 2), (2, 4)])
def test_in_flat_walls_a_hole_takes_its_area_times_the_wall(hole, area, walls, n, count, ring):
    if walls == "both" and ring > 1:
        n = 1  # what goes in at one side comes out where the next of the ring goes in
    exact, mesh = taken(drilled(SQUARE, {**hole, "walls": walls, "count": count, "ring": ring, "pitch": "60"}))
    assert exact == pytest.approx(area * 3 * n * count * ring, rel=1e-6)
    assert mesh == pytest.approx(exact, rel=0.02)


@pytest.mark.parametrize("section", [SQUARE, ROUND])
@pytest.mark.parametrize("around", [0, 30, 90, 137, 180, 270, 333])
@pytest.mark.parametrize("end", ["a", "b"])
def test_a_hole_is_where_it_is_said(section, around, end):
    part = tube(drilled(section, {**HOLE, "around": f"{around} deg", "end": end, "walls": "one"}))
    mesh = meshes_of(part)[0]
    made = manifold3d.Mesh64(mesh.positions, mesh.triangles.astype(np.uint64))
    made.merge()
    solid = manifold3d.Manifold(made)
    across, wall = ACROSS[section]
    a = math.radians(around)
    out = np.array((-math.sin(a), math.cos(a)))  # from 0 degrees, v's side, to 90, against u
    far = across / 2 / (1.0 if section == ROUND else max(abs(out)))
    w = 120 if end == "a" else LONG - 120

    def there(share, back=1.0):
        u, v = out * (far - share * wall) * back
        probe = manifold3d.Manifold.sphere(0.2, 8).translate((u, v, w))
        return (probe ^ solid).volume() > 0

    assert not there(0.5) and there(0.5, -1.0)
    moved = manifold3d.Manifold.sphere(0.2, 8).translate((*(out * (far - wall / 2)), w + 6.0))
    assert (moved ^ solid).volume() > 0


def test_both_walls_are_passed_and_a_solid_bar_through_and_through():
    exact, _ = taken(drilled(SOLID, {**HOLE, "walls": "one"}))
    # a cylinder of 9 across one of 20, by the integral of their common volume
    y = np.linspace(-4.5, 4.5, 20001)
    common = np.trapezoid(2 * np.sqrt(4.5**2 - y**2) * 2 * np.sqrt(10**2 - y**2), y)
    assert exact == pytest.approx(common, rel=1e-5)


def test_holes_lie_on_the_template_where_they_are_drilled():
    document = drilled(
        ROUND, {**HOLE, "around": "90 deg", "walls": "one"}, {**HOLE, "off": "300", "around": "180 deg", "walls": "one", "made": "mark"}
    )
    built = build(document)
    _, text = template_file(built, built.made["tube"], "whole", "dxf")
    drawing = ezdxf.read(io.StringIO(text)).modelspace()
    once = math.pi * 42.4
    places = {}
    for e in drawing.query("LWPOLYLINE CIRCLE"):
        points = np.array([p[:2] for p in e.get_points()]) if e.dxftype() == "LWPOLYLINE" else np.array([e.dxf.center[:2]])
        places.setdefault(e.dxf.layer, []).append(((points.min(axis=0) + points.max(axis=0)) / 2).tolist())
    inside = [p for ps in places.values() for p in ps if abs(p[1] - 120) < 0.5]
    marked = [p for ps in places.values() for p in ps if abs(p[1] - 300) < 0.5]
    assert inside == [[pytest.approx(once / 4, abs=0.02), pytest.approx(120, abs=0.02)]]
    assert marked == [[pytest.approx(once / 2, abs=0.02), pytest.approx(300, abs=0.02)]]
    # marks are not cut
    assert taken(document)[0] == pytest.approx(taken(drilled(ROUND, {**HOLE, "around": "90 deg", "walls": "one"}))[0], rel=1e-6)


def rows(*pairs):
    """Two tubes side by side, each with its holes and its turn: in how many rows of the cut list they are."""
    d = stocked(ROUND)
    d.frame(
        "f",
        {k: mm(p) for k, p in {"a": (0, 0, 0), "b": (LONG, 0, 0), "c": (0, 300, 0), "e": (LONG, 300, 0)}.items()},
        {"l0": ("a", "b"), "l1": ("c", "e")},
    )
    for n, (holes, turn) in enumerate(pairs):
        d.member(f"tube{n}", key(ROUND), "f", f"l{n}", turn=turn)
        plain = ("end", "walls", "count", "ring", "made")
        d.data["parts"][f"tube{n}"]["holes"] = {
            f"h{k}": {kk: v if kk in plain else entry(v) for kk, v in h.items()} for k, h in enumerate(holes)
        }
    return len(cut_list(build(d.document())))


@pytest.mark.parametrize(
    ("one", "other", "n"),
    [
        ([HOLE], [HOLE], 1),
        ([HOLE], [{**HOLE, "around": "70 deg"}], 1),  # a round tube is turned about
        ([HOLE], [{**HOLE, "end": "b"}], 1),  # and end for end
        ([HOLE], [{**HOLE, "around": "180 deg"}], 1),  # through both walls it is the same hole
        ([HOLE], [{**HOLE, "walls": "one"}], 2),
        ([HOLE], [{**HOLE, "off": "121"}], 2),
        ([HOLE], [{**HOLE, "wide": "9.5"}], 2),
        ([HOLE], [{**HOLE, "made": "mark"}], 2),
        ([SLOT], [{**SLOT, "long": "32"}], 2),
        ([HOLE, {**HOLE, "off": "300", "around": "40 deg"}], [HOLE, {**HOLE, "off": "300", "around": "-40 deg"}], 2),  # mirror images
        ([HOLE, {**HOLE, "off": "300", "around": "90 deg"}], [HOLE, {**HOLE, "off": "300", "around": "-90 deg"}], 1),
    ],
)
def test_equal_pieces_are_one_row_however_they_are_drilled(one, other, n):
    assert rows((one, "0"), (other, "0")) == n
    assert rows((one, "25 deg"), (other, "0")) == n


@pytest.mark.parametrize(
    ("hole", "field"),
    [
        ({**HOLE, "wide": "0"}, "wide"),
        ({**HOLE, "wide": "45"}, "wide"),
        ({**SLOT, "long": "5"}, "long"),
        ({**HOLE, "off": "-3"}, "off"),
        ({**HOLE, "off": "510"}, "off"),
        ({**HOLE, "count": 9, "pitch": "60"}, "off"),
        ({**HOLE, "wide": "nothing"}, "wide"),
    ],
)
def test_what_cannot_be_drilled_is_said_and_the_rest_stands(hole, field):
    built = build(drilled(ROUND, {**HOLE, "off": "60"}, hole))
    assert [f.entry for f in built.faults] == [f"/parts/tube/holes/h1/{field}"]
    assert len(built.made["tube"].body.holes) == 1


def hoop(hole, section=ROUND, radius=120.0):
    """An elbow of tube with a hole; what is straight is 280 mm on either side of the bend."""
    d = stocked(section)
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm((400, 0, 0)), "c": mm((400, 0, 400))}, {"l": ("a", "b"), "m": ("b", "c")})
    d.member("tube", key(section), "f", "l", "m", radius=f"{radius} mm", against="y")
    d.data["parts"]["tube"]["holes"] = {"h": hole}
    return d


BEND = 120 * math.pi / 2


@pytest.mark.parametrize("walls", ["one", "both"])
@pytest.mark.parametrize("around", [0, 40, 90, 180, 270])
@pytest.mark.parametrize(("end", "off"), [("a", 30), ("a", 280 + BEND + 50), ("b", 30), ("b", 200)])
def test_a_bent_tube_is_drilled_where_the_straight_bar_was(end, off, around, walls):
    """Before it is bent and after: the same metal is gone, at the same place of the run, on the side that the bend carries it to."""
    hole = {"end": end, "off": entry(f"{off:.6f}"), "wide": entry("8"), "walls": walls, "around": {"text": f"{around} deg"}}
    built = build(hoop(hole).document())
    assert not built.faults
    part, bare = built.made["tube"], build(hoop(hole | {"made": "mark"}).document()).made["tube"]
    taken = volume_of_part(bare) - volume_of_part(part)
    straight = stocked(ROUND)
    straight.frame("f", {"a": mm((0, 0, 0)), "b": mm((560 + BEND, 0, 0))}, {"l": ("a", "b")}).member(
        "tube", key(ROUND), "f", "l", against="y"
    )
    straight.data["parts"]["tube"]["holes"] = {"h": hole}
    other = build(straight.document()).made["tube"]
    bar = math.pi * (21.2**2 - 18.6**2) * (560 + BEND)
    assert taken == pytest.approx(bar - volume_of_part(other), rel=0.03)
    assert volume(exact_of(part)) == pytest.approx(volume_of_part(part), rel=1e-4)
    # its mouth lies so far along the run that it is in: the corners of the mesh that the hole has made
    at = off if end == "a" else 560 + BEND - off
    where = np.array((at, 0.0, 0.0)) if at < 300 else np.array((400.0, 0.0, 120 + at - 280 - BEND))
    m = np.array(part.matrix)
    (mesh,) = meshes_of(part)
    owned = np.unique(mesh.triangles[[o.startswith("hole") for o in mesh.owners]])
    middle = (mesh.positions[owned] @ m[:3, :3].T + m[:3, 3]).mean(axis=0)
    way = np.array((1.0, 0, 0)) if at < 300 else np.array((0, 0, 1.0))
    assert (middle - where) @ way == pytest.approx(0, abs=0.2)
    off_middle = middle - where
    if walls == "both":
        assert np.linalg.norm(off_middle) < 0.5
    else:
        # 0 degrees look along y (against), 90 by the right hand about the run; the bend lies in x and z and carries x to z, z to -x
        a = math.radians(around)
        side = np.array((0.0, math.cos(a), math.sin(a))) if at < 300 else np.array((-math.sin(a), math.cos(a), 0.0))
        assert off_middle @ side > 15


def test_what_is_drilled_leaves_the_other_leg_alone_and_no_bend_is_drilled():
    """A narrow hairpin: the hole in one leg ends there, though the other lies behind it."""
    d = stocked(ROUND)
    d.frame(
        "f",
        {k: mm(p) for k, p in {"a": (0, 0, 0), "b": (400, 0, 0), "c": (400, 0, 130), "e": (0, 0, 130)}.items()},
        {"l": ("a", "b"), "m": ("b", "c"), "n": ("c", "e")},
    )
    d.member("tube", key(ROUND), "f", "l", "m", "n", radius="65 mm", against="y")
    d.data["parts"]["tube"]["holes"] = {"h": {"off": entry("100"), "wide": entry("10"), "around": {"text": "90 deg"}}}
    built = build(d.document())
    assert not built.faults
    (mesh,) = meshes_of(built.made["tube"])
    m = np.array(built.made["tube"].matrix)
    z = (mesh.positions @ m[:3, :3].T + m[:3, 3])[np.unique(mesh.triangles[[o.startswith("hole") for o in mesh.owners]]), 2]
    assert np.abs(z).max() < 22
    for off in ("340", "281"):
        (fault,) = build(hoop({"off": entry(off), "wide": entry("8")}).document()).faults
        assert fault.entry == "/parts/tube/holes/h/off" and "0 mm to 280 mm, 468.5 mm to 748.5 mm" in fault.rule


@pytest.mark.parametrize("leg", ["first", "second"])
def test_a_bore_passes_the_run_of_a_bent_tube_that_it_meets(leg):
    d = hoop({"off": entry("30"), "wide": entry("8"), "made": "mark"})
    at = {"x": "150 mm", "z": "0"} if leg == "first" else {"x": "400 mm", "z": "250 mm"}
    d.bore("pin", "y", at, "6 mm", tube=("cut", "0"))
    built = build(d.document())
    assert not built.faults
    runs = [len(r.holes) for r in built.made["tube"].body.runs]
    assert runs == ([1, 0] if leg == "first" else [0, 1])
    d.data["bores"]["pin"]["at"]["z"]["text"] = "60 mm"
    assert [f.code for f in build(d.document()).faults] == ["bore_misses"]


def test_the_saw_list_says_what_is_drilled():
    built = build(drilled(ROUND, HOLE, {**SLOT, "around": "90 deg", "walls": "one", "end": "b"}))
    (line,) = csv.DictReader(io.StringIO(write_saw_list(built)))
    assert line["Holes from end A mm"] == "⌀9 at 120, 0°, through; slot 8 × 30 at 300, 90°, one wall"


@pytest.mark.parametrize("way", [(LONG, 0, 0), (0, LONG, 0), (0, 0, LONG), (LONG, 0, 150), (LONG, 90, 0)])
@pytest.mark.parametrize("action", ["cut", "drill", "mark", "leave"])
def test_a_bore_passes_a_tube_and_a_board_in_one_line(way, action):
    """A rail of tube on a board: one bore square to the board goes through both; the hole lies on its axis, and the pin fits."""
    d = stocked(ROUND)
    middle = np.array(way) / 2
    axis = next(a for a, w in zip("zyx", (way[2], way[1], way[0]), strict=True) if w == 0)
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm(way)}, {"l": ("a", "b")})
    d.member("tube", key(ROUND), "f", "l", against="z" if way[2] == 0 else "y")
    if axis == "z":
        d.board("board", "ply18", "lying", "30 mm", ("-600 mm", "600 mm"), ("-600 mm", "600 mm"))
    at = {a: f"{x} mm" for a, x in zip("xyz", middle, strict=True) if a != axis}
    ends = {"tube": (action, "0.5 mm")} | ({"board": ("cut", "0")} if axis == "z" else {})
    d.bore("pin", axis, at, "8 mm", **ends)
    built = build(d.document())
    assert not built.faults
    body = built.made["tube"].body
    found = body.holes if action in ("cut", "drill") else body.marks if action == "mark" else ()
    assert len(body.holes) + len(body.marks) == len(found) == (action != "leave")
    if found:
        place = np.array(built.made["tube"].matrix) @ np.array((*found[0].motion.rows, (0, 0, 0, 1)))
        assert abs(place[:3, 2] @ np.eye(3)["xyz".index(axis)]) == pytest.approx(1)
        off = place[:3, 3] - middle
        assert np.linalg.norm(np.delete(off, "xyz".index(axis))) == pytest.approx(0, abs=1e-6)
        assert found[0].section.height == pytest.approx(8.5)
    along = parts_along(d.document(), axis, {a: entry(t) for a, t in at.items()})
    assert [m["part"] for m in along] == (["tube", "board"] if axis == "z" else ["tube"])


@pytest.mark.parametrize(("at", "code"), [("300 mm", "bore_misses"), ("21.1 mm", ""), ("21.3 mm", "bore_misses")])
def test_a_bore_that_misses_a_tube_is_said(at, code):
    d = stocked(ROUND)
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm((LONG, 0, 0))}, {"l": ("a", "b")})
    d.member("tube", key(ROUND), "f", "l")
    d.bore("pin", "z", {"x": "250 mm", "y": at}, "8 mm", tube=("cut", "0"))
    assert [f.code for f in build(d.document()).faults] == ([code] if code else [])
    d.bore("along", "x", {"y": "0", "z": "0"}, "8 mm", tube=("cut", "0"))
    assert "bore_misses" in [f.code for f in build(d.document()).faults]


def test_a_broken_bore_is_said_once():
    d = stocked(ROUND)
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm((LONG, 0, 0))}, {"l": ("a", "b")})
    d.member("tube", key(ROUND), "f", "l")
    d.board("board", "ply18", "lying", "30 mm", ("0", "500 mm"), ("-60 mm", "60 mm"))
    d.bore("pin", "z", {"x": "nothing", "y": "0"}, "none", tube=("cut", "0"), board=("cut", "0"))
    assert sorted(f.entry for f in build(d.document()).faults) == ["/bores/pin/at/x", "/bores/pin/diameter"]


@settings(max_examples=20, deadline=None)
@given(
    off=st.floats(20, 480),
    around=st.floats(0, 360),
    wide=st.floats(3, 18),
    angle=st.floats(0, 360),
    end=st.sampled_from("ab"),
    walls=st.sampled_from(["one", "both"]),
)
def test_a_tube_that_is_moved_or_mirrored_is_drilled_as_it_was(off, around, wide, angle, end, walls):
    hole = {"off": f"{off} mm", "around": f"{around} deg", "wide": f"{wide} mm", "end": end, "walls": walls}
    a = math.radians(angle)
    still = tube(drilled(ROUND, hole))
    moved = tube(drilled(ROUND, hole, way=(LONG * math.cos(a), LONG * math.sin(a), 0.0), turn="33 deg"))
    assert moved.body.alike == still.body.alike
    mirrored = still.body.mirrored
    assert mirrored.alike == still.body.other_hand and mirrored.other_hand == still.body.alike
    assert mirrored.alike == still.body.alike  # one hole alone has no hand


def test_holes_keep_off_the_ends_of_what_is_cut_and_seated():
    """From the finished end: where a socket keeps the tube back, the hole moves with its end."""
    d = stocked(ROUND)
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm((LONG, 0, 0)), "c": mm((0, 0, 300))}, {"l": ("a", "b"), "m": ("a", "c")})
    d.member("tube", key(ROUND), "f", "l")
    d.member("post", key(ROUND), "f", "m", against="y")
    d.data["parts"]["tube"]["holes"] = {"h": {"off": entry("100"), "wide": entry("8")}}
    d.connector("elbow", "f", "a", {"toward": "right"}, {"toward": "up"})
    part = build(d.document()).made["tube"]
    place = np.array(part.matrix) @ np.array((*part.body.holes[0].motion.rows, (0, 0, 0, 1)))
    start = np.array(part.matrix)[:3, 3]
    assert np.linalg.norm(place[:3, 3] - start) == pytest.approx(100) and start[0] > 20
    near = drilled(ROUND, {**HOLE, "off": "6"})
    assert "hole_near_end" in [p.fault.code for p in check(build(near))]


@pytest.mark.parametrize(
    ("around", "wide", "fine"), [("0", 20, True), ("0", 30, False), ("90 deg", 4, True), ("90 deg", 5, False), ("180 deg", 29, True)]
)
def test_a_hole_is_as_wide_as_the_bar_is_across_it(around, wide, fine):
    """A flat bar of 30 by 5 takes a wide hole through its broad side, and a narrow one through its edge."""
    built = build(drilled("flat", {**HOLE, "around": around, "wide": wide}))
    assert bool(built.made["tube"].body.holes) is fine and bool(built.faults) is not fine
    d = stocked("flat")
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm((LONG, 0, 0))}, {"l": ("a", "b")})
    d.member("tube", key("flat"), "f", "l")
    d.bore(
        "pin",
        "z" if "90" not in around else "y",
        {"x": "250 mm", ("y" if "90" not in around else "z"): "0"},
        f"{wide} mm",
        tube=("cut", "0"),
    )
    assert (not build(d.document()).faults) is fine


@pytest.mark.parametrize("apart", [5.0, 5.5])
def test_bars_that_lie_side_to_side_have_no_end_to_cut(apart):
    d = stocked("flat")
    d.frame("f", {"a": mm((0, 0, 0)), "b": mm((LONG, 0, 0))}, {"l": ("a", "b")})
    d.frame("g", {"a": mm((250, -10, apart)), "b": mm((300, 300, apart))}, {"l": ("a", "b")})
    d.member("one", key("flat"), "f", "l")
    d.member("other", key("flat"), "g", "l")
    assert "open_end" not in [p.fault.code for p in check(build(d.document()))]
