"""Connectors on the points of frames: how they turn onto lines, how far tubes go into them, what they are, and what is said where something is wrong."""

import itertools
import math

import manifold3d
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from tests.core.making.tube.frames import CLOSED, SECTIONS, key, mm, stocked
from zygon.check.run import check
from zygon.design.connector_starts import CONNECTOR_STARTS
from zygon.design.parts.connector import TOWARD
from zygon.design.patch import patched
from zygon.edits.connectors import add_connectors
from zygon.edits.frames import add_frame, join_members, remove_frame, remove_line
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list
from zygon.exchange.step import solid_record
from zygon.exchange.tubes import write_saw_list
from zygon.making.asked.contacts import touches
from zygon.making.flats.exact import volume as exact_volume
from zygon.making.kinds.registry import exact_of, meshes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.solids.solids import gap_between, in_common
from zygon.stock.section import Section

LONG, TUBE = 400.0, "thin round tube"
ACROSS, WALL, FIT, DEEP = 33.7, 3.0, 0.2, 30.0
HALF = (ACROSS + FIT) / 2
TUBES = [k for k in CLOSED if "wall" in SECTIONS[k]]
#: Directions of the ends that each connector of the catalogue is for; what passes through is named by both.
LINES = {
    "elbow": ["right", "up"],
    "coupling": ["right", "left"],
    "tee": ["up+down", "right"],
    "corner": ["right", "back", "up"],
    "split_tee": ["right", "left", "up"],
    "side_tee": ["up+down", "right", "back"],
    "cross": ["up+down", "right", "left"],
    "split_cross": ["right", "left", "up", "down"],
    "three_way": ["up+down", "right", "left", "back"],
    "four_way": ["up+down", "right", "left", "back", "front"],
    "foot": ["up"],
    "cap": ["up"],
    "plug": ["up"],
    "inner_coupling": ["right", "left"],
    "inner_elbow": ["right", "up"],
    "inner_corner": ["right", "back", "up"],
}
#: Those that go into tubes.
INNER = [s for s in LINES if s.startswith("inner") or s == "plug"]


def star(lines, turned=None, section=TUBE, middle=(0.0, 0.0, 0.0), **more):
    """Members out of one point ``o``, each along a word, words joined by + passing it, or a vector; all turned by a matrix (3, 3)."""
    d = stocked(section)
    turned = np.eye(3) if turned is None else turned
    points, runs, lines_at = {"o": mm(middle)}, {}, {}

    def way(word):
        return turned @ (np.array(TOWARD[word]) if isinstance(word, str) else np.array(word, dtype=float))

    for n, line in enumerate(lines):
        ends = line.split("+") if isinstance(line, str) else [line]
        for m, word in enumerate(ends):
            points[f"p{n}{m}"] = mm(np.array(middle) + way(word) * LONG)
        lines_at[f"l{n}"] = (f"p{n}1" if len(ends) > 1 else "o", f"p{n}0")
        runs[f"l{n}"] = way(ends[0])
    d.frame("f", points, lines_at)
    for k, along in runs.items():
        against = "xyz"[int(np.abs(along).argmin())]
        d.member(k, key(section), "f", k, against=against, **more)
    return d.document()


def with_connector(document, shape="", points=("o",), depth=""):
    return patched(document.dump(), add_connectors(build(document), "f", list(points), shape, depth)[1])


def codes(built):
    return [p.fault.code for p in check(built)]


def apart(built):
    """No member runs into what holds it, by the manifold library: the check of overlaps trusts sockets."""
    for seat in built.seats:
        shared = in_common(built.made[seat.connector], built.made[seat.member])
        assert shared is None or shared.depth < 0.05, seat
    return True


def connector(built):
    return next(p for p in built.made.values() if p.record.kind == "connector")


@pytest.mark.parametrize("shape", LINES)
def test_each_of_the_catalogue_takes_the_lines_that_it_is_for(shape):
    document = star(LINES[shape])
    if shape not in ("foot", "cap", *INNER):
        chosen = connector(build(with_connector(document)))  # by itself
        assert chosen.record.name == CONNECTOR_STARTS[shape].title.lower().replace(" ", "_")
    built = build(with_connector(document, shape))
    assert len(built.seats) == len(LINES[shape])
    loose = {"drop", "unheld", "tips"}
    assert not built.faults and not set(codes(built)) - loose
    of = {s.socket: s for s in built.seats}
    assert [of[s.key].at == "through" for s in connector(built).body.sleeves] == ["+" in x for x in LINES[shape]]


@pytest.mark.parametrize("shape", [s for s in LINES if len(LINES[s]) > 1])
@settings(max_examples=4, deadline=None)
@given(seed=st.integers(0, 10_000))
def test_a_connector_turns_onto_its_lines_however_they_lie(shape, seed):
    turned = Rotation.random(random_state=seed).as_matrix()
    start = CONNECTOR_STARTS[shape]
    lines = LINES[shape]
    document = star(lines, turned, middle=(120.0, -35.0, 410.0))
    still, moved = (build(with_connector(d, shape)) for d in (star(lines), document))
    assert not moved.faults and len(moved.seats) == len(start.sockets)
    assert [moved.made[k].body.length for k in ("l0", "l1")] == pytest.approx([still.made[k].body.length for k in ("l0", "l1")], abs=1e-6)
    assert connector(moved).body.alike == connector(still).body.alike
    for a, b in itertools.combinations(moved.made.values(), 2):
        assert in_common(a, b) is None or in_common(a, b).depth < 0.05, (a.key, b.key)


def clear(degrees, half=HALF):
    """Common practice: two tubes in one body end where half a wall stands between each and the plane half-way between them."""
    between = math.radians(degrees) / 2
    return (WALL / 2 + half * math.cos(between)) / math.sin(between)


@pytest.mark.parametrize("degrees", [40, 60, 90, 110, 135, 170, 180])
def test_tubes_end_short_of_the_point_by_what_their_walls_need(degrees):
    a = math.radians(degrees)
    document = star(["right", (math.cos(a), 0.0, math.sin(a))])
    built = build(with_connector(document, "measured"))
    expected = LONG - clear(degrees)
    assert built.made["l0"].body.length == pytest.approx(expected, abs=1e-6)
    assert built.made["l1"].body.length == pytest.approx(expected, abs=1e-6)
    # referee: the nearest room between the two tubes is a wall and their fits, by the manifold library
    if degrees < 180:
        between = gap_between(built.made["l0"], built.made["l1"], 50.0)
        assert between == pytest.approx(WALL + FIT * math.cos(a / 2), abs=0.06)
    assert [s.deep for s in connector(built).body.sleeves] == [DEEP, DEEP]


@pytest.mark.parametrize(("depth", "mm_deep"), [("", 30.0), ("45 mm", 45.0), ("1 in", 25.4), ("20 mm + 5 mm", 25.0)])
def test_a_socket_is_as_deep_as_is_said_and_stands_off_with_it(depth, mm_deep):
    built = build(with_connector(star(LINES["corner"]), "corner", depth=depth))
    (reach,) = {(round(s.out, 6), s.deep) for s in connector(built).body.sleeves}
    assert reach == (pytest.approx(clear(90) + mm_deep, abs=1e-5), mm_deep)
    assert built.made["l0"].body.length == pytest.approx(LONG - clear(90), abs=1e-6)


@pytest.mark.parametrize(("out", "depth"), [("80 mm", "30 mm"), ("50 mm", "20 mm"), ("30 mm", "30 mm")])
def test_a_stated_stand_off_less_the_depth_is_what_a_tube_is_short(out, depth):
    d = star(["right"])
    data = with_connector(d, "cap").dump()
    part = next(k for k, p in data["parts"].items() if p["kind"] == "connector")
    data["parts"][part]["sockets"]["s1"] |= {"out": {"text": out}, "depth": {"text": depth}}
    built = build(patched(data, []))
    far, deep = (float(x.split()[0]) for x in (out, depth))
    assert built.made["l0"].body.length == pytest.approx(LONG - (far - deep), abs=1e-6)


def test_what_runs_through_is_not_cut_and_is_marked_on_the_saw_list():
    document = star(LINES["side_tee"])
    built = build(with_connector(document))
    assert built.made["l0"].body.length == 2 * LONG
    assert built.made["l1"].body.length == pytest.approx(LONG - (HALF + WALL), abs=1e-6)
    rows = write_saw_list(built).splitlines()
    assert "Connectors from end A mm" in rows[0]
    assert "corner_tee 400" in rows[1] and "square, 30 mm deep in corner_tee" in rows[2]


@pytest.mark.parametrize("section", TUBES)
@pytest.mark.parametrize("shape", ["corner", "side_tee", "elbow"])
def test_a_socket_follows_the_section_that_lies_in_it(shape, section):
    built = build(with_connector(star(LINES[shape], section=section), shape))
    assert not built.faults and not {"overlap", "socket_size"} & set(codes(built))
    for seat in built.seats:
        assert seat.gap == pytest.approx(FIT)
        gap = gap_between(built.made[seat.connector], built.made[seat.member], 5.0)
        # they touch where the tube's end stands on the bottom, and nowhere run into one another
        assert gap <= FIT / 2 + 1e-6
        assert in_common(built.made[seat.connector], built.made[seat.member]) is None


def test_bodies_weigh_what_geometry_says():
    built = build(with_connector(star(["up"]), "cap"))
    cap = connector(built)
    outside = HALF + WALL
    by_hand = math.pi * (outside**2 - HALF**2) * DEEP + math.pi * outside**2 * WALL
    assert volume_of_part(cap) == pytest.approx(by_hand, rel=3e-3)
    assert exact_volume(exact_of(cap)) == pytest.approx(by_hand, rel=1e-9)
    foot = connector(build(with_connector(star(["up"]), "foot")))
    plate = round(2 * ACROSS)
    by_hand = math.pi * (outside**2 - HALF**2) * DEEP + math.pi * (plate / 2) ** 2 * 4
    assert exact_volume(exact_of(foot)) == pytest.approx(by_hand, rel=1e-6)


@pytest.mark.parametrize("shape", list(LINES))
def test_exact_solids_are_the_meshes(shape):
    part = connector(build(with_connector(star(LINES[shape]), shape)))
    mesh = manifold3d.Mesh64(meshes_of(part)[0].positions, meshes_of(part)[0].triangles.astype(np.uint64))
    mesh.merge()
    assert manifold3d.Manifold(mesh).status() == manifold3d.Error.NoError
    assert volume_of_part(part) == pytest.approx(exact_volume(exact_of(part)), rel=4e-3)
    faces = set(meshes_of(part)[0].owners)
    assert {f"edge:socket_{s.key}" for s in part.body.sleeves} <= faces


@pytest.mark.parametrize("degrees", [20, 35, 61, 75, 90, 120, 160])
def test_a_swivel_takes_any_angle_and_stays_one_thing_to_buy(degrees):
    a = math.radians(degrees)
    document = star(["right", (math.cos(a), 0.0, math.sin(a))])
    square = connector(build(with_connector(star(["right", "up"]), "swivel")))
    built = build(with_connector(document, "swivel"))
    assert len(built.seats) == 2
    # two tubes at so sharp an angle have no room beside one another, and that is said
    assert ("overlap" in codes(built)) is (degrees < 60) and (degrees < 60 or apart(built))
    assert connector(built).body.alike == square.body.alike
    assert not [s for s in built.faults if s.code == "no_place"]


def test_a_clamp_holds_two_tubes_that_pass_beside_one_another():
    d = stocked(TUBE)
    lift = ACROSS + 3
    d.frame(
        "f",
        {"a": mm((-300, 0, 0)), "b": mm((300, 0, 0)), "c": mm((0, -300, lift)), "e": mm((0, 300, lift)), "o": mm((0, 0, 0))},
        {"l0": ("a", "b"), "l1": ("c", "e")},
    )
    d.on_line("f", "at", "l0", "300 mm")
    for k in ("l0", "l1"):
        d.member(k, key(TUBE), "f", k)
    document = with_connector(d.document(), "clamp", ["at"])
    built = build(document)
    assert [(s.member, s.at) for s in built.seats] == [("l0", "through"), ("l1", "through")]
    assert not {"overlap", "no_socket"} & set(codes(built)) and apart(built)


def test_sizes_move_tubes_connectors_and_angles():
    """A sloping rail between two legs: what is made to measure follows its line, and so does a swivel; a plain tee says that it does not."""
    d = stocked(TUBE)
    d.size("deep", "400 mm")
    d.size("drop", "40 mm")
    d.frame(
        "f",
        {"a": ("0", "0", "0"), "b": ("0", "0", "700 mm"), "c": ("0", "deep", "0"), "e": ("0", "deep", "700 mm")},
        {"front": ("a", "b"), "back": ("c", "e")},
    )
    d.on_line("f", "m", "front", "350 mm - drop")
    d.on_line("f", "n", "back", "350 mm")
    d.line("f", "rail", "m", "n")
    for k in ("front", "back", "rail"):
        d.member(k, key(TUBE), "f", k, against="x")
    plain = d.document()
    for shape in ("measured", "swivel_tee"):
        document = with_connector(plain, shape, ["m", "n"])
        for deep, drop in ((400, 40), (500, 60), (330, 0)):
            data = document.dump()
            data["sizes"]["deep"]["entry"]["text"] = f"{deep} mm"
            data["sizes"]["drop"]["entry"]["text"] = f"{drop} mm"
            built = build(patched(data, []))
            long = math.hypot(deep, drop)
            sine = deep / long
            back = (
                (HALF + WALL + HALF * (drop / long)) / sine
                if shape == "measured"
                else (HALF + WALL + HALF * math.cos(math.radians(60))) / math.sin(math.radians(60))
            )
            assert built.made["rail"].body.length == pytest.approx(long - 2 * back, abs=1e-6)
            assert not built.faults and not {"overlap", "no_socket", "locked"} & set(codes(built)) and apart(built)
    tees = with_connector(plain, "tee", ["m"])
    assert "no_socket" in codes(build(tees))


def test_mirrored_connectors_are_equal_where_they_can_be():
    for deep, rows in (("30 mm", 1), ("45 mm", 2)):
        d = stocked(TUBE)
        d.group("side")
        d.frame(
            "f",
            {"o": mm((0, 0, 0)), "a": mm((0, 400, 0)), "b": mm((0, 0, 400)), "c": mm((200, 0, 0))},
            {"l0": ("o", "a"), "l1": ("o", "b"), "l2": ("o", "c")},
        )
        for k in ("l0", "l1", "l2"):
            d.member(k, key(TUBE), "f", k, against="x" if k != "l2" else "z")
        d.connector(
            "corner", "f", "o", {"toward": "right", "depth": "30 mm"}, {"toward": "back", "depth": deep}, {"toward": "up", "depth": "35 mm"}
        )
        d.mirror("sides", "x", "500 mm", "group:side", name="sides")
        built = build(d.document())
        assert len(built.seats) == 6 and {s.connector for s in built.seats} == {"corner", "corner@sides.1"}
        found = [r for r in cut_list(built) if any(k.startswith("corner") for k in r.keys)]
        assert len(found) == rows
        assert sum(r.quantity for r in found) == 2


def test_a_corner_of_equal_sockets_is_its_own_mirror_image():
    built = build(with_connector(star(LINES["corner"]), "corner"))
    body = connector(built).body
    assert body.alike == body.other_hand == body.mirrored.alike
    told = build(with_connector(star(LINES["corner"]), "corner"))
    data = told.document.dump()
    part = connector(told).key
    for n, deep in enumerate(("30 mm", "40 mm", "50 mm"), 1):
        data["parts"][part]["sockets"][f"s{n}"]["depth"]["text"] = deep
    body = connector(build(patched(data, []))).body
    assert body.alike != body.other_hand and body.other_hand == body.mirrored.alike and body.mirrored.other_hand == body.alike


def test_the_next_of_the_ways_it_stands_is_another_one():
    data = with_connector(star(LINES["corner"]), "corner").dump()
    part = next(k for k, p in data["parts"].items() if p["kind"] == "connector")
    ways = build(patched(data, [])).seatings[part].ways
    assert ways == 3  # a corner turns about its diagonal
    seen = set()
    for n in range(ways):
        data["parts"][part]["another"] = n
        seen.add(tuple(s.run.part for s in build(patched(data, [])).seatings[part].seats))
    assert len(seen) == 3


def test_what_connectors_hold_meets_no_more_and_its_joints_go():
    document = star(LINES["corner"])
    joined = patched(document.dump(), join_members(build(document))[1])
    assert joined.joints
    held = with_connector(joined)
    assert not held.joints and "open_end" not in codes(build(held))
    assert touches(build(held), "l0") == []
    with pytest.raises(DocumentError, match="No two members meet"):
        join_members(build(held))


def test_joints_of_what_a_connector_does_not_take_stay():
    document = star(LINES["corner"])
    joined = patched(document.dump(), join_members(build(document))[1])
    held = with_connector(joined, "elbow")
    taken = {s.member for s in build(held).seats}
    assert len(taken) == 2
    assert set(held.joints) == {k for k, j in joined.joints.items() if not {j.a, j.b} <= taken} != set()


def test_a_connector_goes_with_its_line_and_its_frame():
    document = with_connector(star(LINES["corner"]), "measured")
    cap = with_connector(document, "cap", ["p00"])
    caps = [k for k, p in cap.parts.items() if p.kind == "connector" and p.point == "p00"]
    less = patched(cap.dump(), remove_line(cap, "f", "l0")[1])
    assert not set(caps) & set(less.parts) and "socket_empty" in codes(build(less))
    assert not patched(cap.dump(), remove_frame(cap, "f")[1]).parts


@pytest.mark.parametrize("kind", ["box", "portal", "ladder"])
def test_a_frame_begins_with_connectors(kind):
    d = stocked(TUBE)
    for name, text in (("width", "600 mm"), ("depth", "400 mm"), ("height", "700 mm")):
        d.size(name, text)
    document = d.document()
    places = {"x": ("0", "width"), "y": ("0", "depth"), "z": ("0", "height")}
    document = patched(document.dump(), add_frame(build(document), kind, key(TUBE), places, count=3, ends="connectors")[1])
    built = build(document)
    assert not built.faults and not set(codes(built)) - {"bare_line"}
    assert not document.joints and len(built.seats) >= {"box": 24, "portal": 4, "ladder": 6}[kind]
    if kind == "box":
        assert sorted(round(p.body.length, 6) for p in built.made.values() if p.record.kind == "member") == pytest.approx(
            sorted([x - 2 * clear(90) for x in (600, 400, 700)] * 4), abs=1e-5
        )


def faulty(document, **more):
    data = document.dump()
    part = next(k for k, p in data["parts"].items() if p["kind"] == "connector")
    for path, value in more.items():
        at, *rest = path.split("__")
        where = data["parts"][part]
        if rest:
            where = where["sockets"][at]
            at = rest[0]
        where[at] = value
    return build(patched(data, []))


def entry(text):
    return {"text": text, "unit": "mm"}


@pytest.mark.parametrize(
    ("lines", "shape", "more", "code"),
    [
        (["right", "up"], "corner", {}, "socket_empty"),
        (["right", "up", "back"], "elbow", {}, "no_socket"),
        (["right", "up+down"], "elbow", {}, "no_socket"),
        (["right", (math.cos(1.3), 0, math.sin(1.3))], "elbow", {}, "no_socket"),
        (["right", "up"], "elbow", {"s1__across": entry("25 mm")}, "socket_size"),
        (["right", "up"], "elbow", {"s1__across": entry("42 mm")}, "socket_size"),
        (["right", "up"], "elbow", {"s1__fit": entry("-0.5 mm")}, "socket_size"),
        (["right", "up"], "elbow", {"s1__out": entry("31 mm")}, "sockets_meet"),
        (["right", "up"], "elbow", {"s1__depth": entry("0")}, "no_place"),
        (["right", "up"], "elbow", {"s1__depth": entry("-5 mm")}, "no_place"),
        (["right", "up"], "elbow", {"s1__out": entry("10 mm")}, "no_place"),
        (["right", "up"], "elbow", {"wall": entry("0")}, "no_place"),
        (["right", "up"], "elbow", {"s1__fit": entry("-40 mm")}, "no_place"),
        (["up"], "foot", {"base": entry("0")}, "no_place"),
    ],
)
def test_what_does_not_go_together_is_said_and_its_way_out_mends_it(lines, shape, more, code):
    fine = with_connector(star(lines), shape)
    built = faulty(fine, **more)
    problem = next(p for p in check(built) if p.fault.code == code)
    assert problem.fault.entry.startswith("/parts/") and "None" not in problem.fault.message
    if problem.fault.mends:
        mended = build(patched(built.document.dump(), problem.fault.mends[0].patch))
        assert code not in codes(mended)
    elif code != "no_place":
        assert code in ("socket_size", "two_in_socket")


def test_two_tubes_in_one_socket_two_connectors_on_a_point_and_a_tube_too_short_are_said():
    d = stocked(TUBE)
    d.frame(
        "f",
        {"o": mm((0, 0, 0)), "a": mm((400, 0, 0)), "b": mm((300, 0, 0)), "c": mm((0, 0, 70))},
        {"l0": ("o", "a"), "l1": ("o", "b"), "l2": ("o", "c")},
    )
    d.member("l0", key(TUBE), "f", "l0")
    d.member("l1", key(TUBE), "f", "l1")
    d.member("l2", key(TUBE), "f", "l2", against="y")
    d.connector("elbow", "f", "o", {"toward": "right"}, {"toward": "up"})
    d.connector("again", "f", "o", {"toward": "right"})
    d.connector("over", "f", "c", {"toward": "down"}, {"toward": "right"})
    found = codes(build(d.document()))
    assert {"two_in_socket", "two_connectors", "short_for_sockets"} <= set(found)


def test_a_member_that_lies_by_a_side_is_in_no_socket_and_the_mend_lays_it_by_its_middle():
    document = with_connector(star(["right", "up"]), "elbow")
    data = document.dump()
    data["parts"]["l0"]["lies"] = "180"
    built = build(patched(data, []))
    assert built.made["l0"].body.length == LONG
    problem = next(p for p in check(built) if p.fault.code == "no_socket")
    assert "beside the middle" in problem.fault.message
    mended = build(patched(built.document.dump(), problem.fault.mends[0].patch))
    assert "no_socket" not in codes(mended) and mended.made["l0"].body.length == pytest.approx(LONG - clear(90), abs=1e-6)


def test_a_bent_rod_ends_in_a_socket():
    d = stocked(TUBE)
    d.frame(
        "f",
        {"a": mm((0, 0, 0)), "b": mm((300, 0, 0)), "c": mm((300, 0, 300)), "e": mm((0, 0, -300))},
        {"l0": ("a", "b"), "l1": ("b", "c"), "l2": ("a", "e")},
    )
    d.member("bent", key(TUBE), "f", "l0", "l1", radius="100 mm")
    d.member("post", key(TUBE), "f", "l2", against="y")
    d.connector("elbow", "f", "a", {"toward": "right"}, {"toward": "up"})
    d.connector("cap", "f", "c", {"toward": "up"})
    built = build(d.document())
    assert {(s.member, s.at) for s in built.seats} == {("bent", "a"), ("bent", "b"), ("post", "a")}
    straight = 300 + 300 - 2 * 100 + math.pi / 2 * 100
    assert built.made["bent"].body.length == pytest.approx(straight - clear(90), abs=1e-6)
    assert not {"overlap", "no_socket", "socket_empty"} & set(codes(built))


def test_sides_of_connectors_can_be_named_and_a_circle_is_told():
    document = with_connector(star(["up"]), "foot")
    data = document.dump()
    part = next(p["name"] for p in data["parts"].values() if p["kind"] == "connector")
    data["sizes"]["tall"] = {"name": "tall", "entry": entry(f"{part}.top - {part}.bottom")}
    built = build(patched(data, []))
    assert built.values["/sizes/tall/entry"].value == pytest.approx(4 + DEEP, abs=1e-6) and not built.faults
    data["frames"]["f"]["points"]["o"]["at"]["z"] = entry(f"{part}.top")
    assert "cycle" in [f.code for f in build(patched(data, [])).faults]


def test_a_foot_lies_on_its_point_and_keeps_its_tube_off_the_ground():
    built = build(with_connector(star(["up"]), "foot"))
    low, high = connector(built).reaches
    assert (low[2], high[2]) == pytest.approx((0.0, 4.0 + DEEP), abs=1e-6)
    assert built.made["l0"].reaches[0][2] == pytest.approx(4.0, abs=1e-6)


def test_nothing_is_put_where_nothing_meets():
    document = star(["right", "up"])
    built = build(document)
    for frame, points, shape, said in (("g", ["o"], "", "no frame"), ("f", ["q"], "", "no point"), ("f", ["o"], "hexapus", "no connector")):
        with pytest.raises(DocumentError, match=said):
            add_connectors(built, frame, points, shape)
    with pytest.raises(DocumentError, match="stands on this point"):
        add_connectors(build(with_connector(document)), "f", ["o"])
    with pytest.raises(DocumentError, match="deeper than 0"):
        add_connectors(built, "f", ["o"], "", "-3 mm")


def test_the_gap_of_a_square_socket_is_its_fit_all_round():
    section = Section("square", 40.0, wall=3.0, corner=6.0)
    grown = section.grown(0.1)
    assert grown.extents == pytest.approx((40.2, 40.2)) and grown.corner == pytest.approx(6.1)


@pytest.mark.parametrize("shape", ["tee", "corner", "elbow"])
def test_a_shape_from_a_file_stands_where_its_sockets_are_stated(shape, tmp_path):
    """A connector written as STEP and read again as its own shape: in the room it is what it was, on whatever lines it stands."""
    from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer

    turned = Rotation.from_euler("xyz", (20, 35, 50), degrees=True).as_matrix()
    document = with_connector(star(LINES[shape], turned), shape)
    before = build(document)
    part = connector(before)
    writer = STEPControl_Writer()
    writer.Transfer(exact_of(part), STEPControl_StepModelType.STEPControl_AsIs)
    writer.Write(str(tmp_path / "fitting.step"))
    low = meshes_of(part)[0].positions.min(axis=0)
    read = [
        {"op": "add", "path": f"/parts/{part.of}/solid", "value": solid_record(tmp_path / "fitting.step", "fitting.step")},
        {
            "op": "add",
            "path": f"/parts/{part.of}/middle",
            "value": {a: {"text": f"{-x:.9f} mm"} for a, x in zip("xyz", low.tolist(), strict=True)},
        },
    ]
    after = build(patched(document.dump(), read))
    assert not after.faults and codes(after) == codes(before)
    again = connector(after)
    assert again.body.given is not None and volume_of_part(again) == pytest.approx(exact_volume(exact_of(part)), rel=2e-3)
    for one, other in zip(part.reaches, again.reaches, strict=True):
        assert other == pytest.approx(one, abs=0.15)  # as its chords are drawn
    assert [(s.member, s.at) for s in after.seats] == [(s.member, s.at) for s in before.seats]
    assert after.made["l0"].reaches == before.made["l0"].reaches if "l0" in before.made else True
    # a point that is stated elsewhere in it shifts it
    aside = [*read[:1], {**read[1], "value": {**read[1]["value"], "x": {"text": f"{-low[0] + 5:.9f} mm"}}}]
    moved = connector(build(patched(document.dump(), aside)))
    shift = np.array(moved.reaches[0]) - np.array(again.reaches[0])
    assert np.linalg.norm(shift) == pytest.approx(5, abs=1e-6)
