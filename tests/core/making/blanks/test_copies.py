"""Mirrors and repeats: in step whatever was made first, handed where they have to be, equal where they are; and what cannot be is said."""

import json
import math

import numpy as np
import pytest
import shapely
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid, stocked
from tests.core.shared import placed_mesh
from tests.explore import drawn
from zygon.check.overlap import overlap_faults
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list
from zygon.geometry.boolean import region_polygon
from zygon.geometry.motion import mirroring, moving, turning
from zygon.making.blanks.instances import instances_of
from zygon.making.datums.solving import solve
from zygon.making.flats.alike import alike, rows_of
from zygon.making.flats.handed import handed_flat
from zygon.making.pipeline import build


def box(width="420 mm", depth="500 mm", ta=12.0, tb=12.0) -> Draft:
    """A box of which one front and one side are drawn; the others are their mirror images."""
    d = Draft("box", "ply12")
    a, b = stocked(d, "sa", ta), stocked(d, "sb", tb)
    d.size("width", width).size("depth", depth)
    d.board("front", a, "facing_front", "0", ("0", "width"), ("0", "240 mm"))
    d.board("side", b, "facing_side", "0", ("front.back", "depth - front.thickness"), ("0", "240 mm"))
    d.board("floor", a, "lying", "0", ("side.right", "width - side.thickness"), ("front.back", "depth - front.thickness"))
    d.mirror("mx", "x", "width / 2", "part:side", names={"side": "side_right"})
    d.mirror("my", "y", "depth / 2", "part:front", names={"front": "back"})
    for one, other in (("front", "side"), ("floor", "front"), ("floor", "side")):
        d.joint("finger", one, other)
    return d


def test_motions_mirror_twice_and_turn_back():
    for motion in (mirroring("y", 37.5), turning("z", (10, 20, 0), math.pi)):
        assert (motion @ motion).same(moving((0, 0, 0)))
    m = turning("x", (0, 3, 5), 0.7) @ mirroring("z", 4) @ moving((1, 2, 3))
    assert (m.inverse @ m).same(moving((0, 0, 0))) and m.handed == -1


@settings(max_examples=drawn(12))
@given(st.floats(150, 700), st.floats(150, 700), st.floats(3, 25), st.floats(3, 25))
def test_a_mirrored_box_fills_its_blanks_as_one_that_is_drawn_whole(width, depth, ta, tb):
    built = build(box(f"{width:.3f} mm", f"{depth:.3f} mm", ta, tb).document(), nominal=True)
    assert not built.faults and len(built.parts) == 5
    solids = {k: solid(p) for k, p in built.parts.items()}
    keys = list(solids)
    for i, a in enumerate(keys):
        for b in keys[i + 1 :]:
            assert (solids[a] ^ solids[b]).volume() < 1e-3
    # walls, their corners and the floor with its edges in them: the whole box but for its inside
    ta, tb = round(ta, 3), round(tb, 3)
    width, depth = round(width, 3), round(depth, 3)
    whole = width * depth * 240 - (width - 2 * tb) * (depth - 2 * ta) * (240 - ta)
    assert sum(s.volume() for s in solids.values()) == pytest.approx(whole, rel=1e-6)
    assert all(len(p.flat.pieces) == 1 for p in built.parts.values())


def test_handed_parts_have_equal_area_mass_and_mirrored_inertia():
    draft = box()
    draft.feature("side", "hole", "hole", ("front", "70 mm"), ("top", "50 mm"), diameter="31 mm")
    draft.feature("side", "groove", "groove", ("centre", "0"), ("bottom", "60 mm"), along="u", width="6 mm", depth="4 mm")
    built = build(draft.document())
    one, other = built.parts["side"], built.parts["side@mx.1"]
    assert other.handed == -1 and one.flat.area == pytest.approx(other.flat.area)
    a, b = (trimesh.Trimesh(np.asarray(m.vert_properties)[:, :3], m.tri_verts) for m in (solid(p).to_mesh() for p in (one, other)))
    assert a.volume == pytest.approx(b.volume, rel=1e-6)
    mirror = np.diag((-1.0, 1.0, 1.0))
    assert mirror @ a.center_mass + (420, 0, 0) == pytest.approx(b.center_mass, abs=1e-3)
    assert mirror @ a.moment_inertia @ mirror == pytest.approx(b.moment_inertia, rel=1e-4, abs=10)
    assert np.linalg.det(np.array(other.matrix)) == pytest.approx(1.0)  # it is cut so, not turned inside out


def test_mirrored_twice_a_part_is_where_it_was_and_as_it_was():
    draft = box()
    draft.feature("side", "hole", "hole", ("front", "70 mm"), ("top", "50 mm"), diameter="31 mm")
    draft.mirror("again", "x", "width / 2", "copy:mx")
    built = build(draft.document())
    twice = built.parts["side@mx.1@again.1"]
    assert twice.flat.digest == built.parts["side"].flat.digest and twice.handed == 1
    assert np.array(twice.matrix) == pytest.approx(np.array(built.parts["side"].matrix))
    flat = built.parts["side"].flat
    assert alike(handed_flat(handed_flat(flat)), flat) is not None


@pytest.mark.parametrize("kind", ["row", "grid", "ring"])
def test_the_parts_of_a_repeat_are_congruent_and_stand_where_they_should(kind):
    draft = Draft("d", "ply12")
    draft.board("bar", "ply12", "facing_front", "100 mm", ("0", "30 mm"), ("0", "80 mm"))
    more = {
        "row": {"axis": "y", "number": "5", "spacing": "40 mm"},
        "grid": {"axis": "y", "number": "3", "spacing": "40 mm", "axis_2": "x", "number_2": "2", "spacing_2": "70 mm"},
        "ring": {"axis": "z", "at": {"x": "15 mm", "y": "0"}, "number": "6"},
    }[kind]
    draft.repeat("r", kind, "part:bar", **more)
    built = build(draft.document())
    assert not built.faults and len(built.parts) == {"row": 5, "grid": 6, "ring": 6}[kind]
    assert {p.flat.digest for p in built.parts.values()} == {built.parts["bar"].flat.digest}
    centres = [placed_mesh(p).center_mass for p in built.parts.values()]
    if kind == "row":
        assert [c[1] for c in centres] == pytest.approx([105.9 + 40 * i for i in range(5)])
    if kind == "grid":
        assert {(round(c[0]), round(c[1] - 5.9)) for c in centres} == {(x, y) for x in (15, 85) for y in (100, 140, 180)}
    if kind == "ring":
        radii = [math.hypot(c[0] - 15, c[1]) for c in centres]
        assert radii == pytest.approx([105.9] * 6)
        angles = sorted(math.degrees(math.atan2(c[1], c[0] - 15)) % 60 for c in centres)
        assert angles == pytest.approx([angles[0]] * 6, abs=1e-6)
    (row,) = cut_list(built)
    assert row.quantity == len(built.parts) and len(row.keys) == len(built.parts)


@pytest.mark.parametrize(
    ("length", "largest", "n"), [("600 mm", "250 mm", 4), ("600 mm", "200 mm", 4), ("600 mm", "199 mm", 5), ("-90 mm", "500 mm", 2)]
)
def test_a_length_is_filled_with_no_spacing_larger_than_said(length, largest, n):
    draft = Draft("d", "ply12")
    draft.board("bar", "ply12", "facing_front", "0", ("0", "30 mm"), ("0", "80 mm"))
    draft.repeat("r", "row", "part:bar", axis="y", length=length, largest=largest)
    built = build(draft.document())
    places = sorted(p.reaches[0][1] for p in built.parts.values())
    assert len(places) == n
    steps = {round(b - a, 6) for a, b in zip(places, places[1:], strict=False)}
    assert len(steps) == 1 and steps.pop() <= float(largest.split()[0]) + 1e-6
    assert places[-1] - places[0] == pytest.approx(abs(float(length.split()[0])))


EDITS = [
    {"op": "add", "path": "/joints/floor-side", "value": {"kind": "tab_slot", "a": "floor", "b": "side", "number": {"text": "2"}}},
    {
        "op": "add",
        "path": "/parts/side/features/h",
        "value": {"kind": "hole", "diameter": {"text": "24 mm"}, "u": {"origin": "front", "offset": {"text": "80 mm"}}},
    },
    {
        "op": "add",
        "path": "/bores/rod",
        "value": {
            "name": "rod",
            "axis": "x",
            "at": {"y": {"text": "250 mm"}, "z": {"text": "150 mm"}},
            "diameter": {"text": "9 mm"},
            "parts": {"side": {}, "divider": {}},
        },
    },
    {
        "op": "add",
        "path": "/copies/m",
        "value": {"kind": "mirror", "name": "m", "of": ["part:side"], "axis": "x", "at": {"text": "width / 2"}},
    },
]


def _plain() -> Draft:
    d = Draft("d", "ply12")
    d.size("width", "420 mm")
    d.board("side", "ply12", "facing_side", "0", ("0", "500 mm"), ("0", "240 mm"))
    d.board("floor", "ply12", "lying", "40 mm", ("side.right", "width - side.thickness"), ("0", "500 mm"))
    d.board("divider", "ply12", "facing_side", "width / 2 - 5.9 mm", ("0", "500 mm"), ("floor.top", "200 mm"))
    return d


@settings(max_examples=drawn(24))
@given(st.permutations(range(len(EDITS))))
def test_the_order_of_mirror_joints_and_holes_does_not_matter(order):
    data = _plain().document().dump()
    for i in order:
        data = patched(data, [EDITS[i]]).dump()
    built = build(patched(data, []))
    straight = build(patched(_plain().document().dump(), EDITS))
    assert {k: p.flat.digest for k, p in built.parts.items()} == {k: p.flat.digest for k, p in straight.parts.items()}
    # the mirrored side has the hole, the slots and the bore, and the floor has tabs for both
    other = built.parts["side@m.1"].flat
    assert len(other.inside) == len(built.parts["side"].flat.inside) == 4
    x0, _, x1, _ = built.parts["floor"].flat.bounds
    assert (x0, x1) == pytest.approx((-11.8, 420 - 2 * 11.8 + 11.8))
    assert not overlap_faults(built)


def test_a_copy_can_do_without_a_hole_or_a_joint():
    draft = _plain()
    for edit in EDITS:
        group, key = edit["path"].split("/")[1:3]
        if group != "parts":
            draft.data[group][key] = json.loads(json.dumps(edit["value"]))
    draft.data["parts"]["side"]["features"] = {"h": EDITS[1]["value"]}
    draft.data["copies"]["m"]["spared"] = {"feature:side:h": ["side@m.1"], "joint:floor-side": ["side@m.1"]}
    built = build(draft.document())
    assert not built.faults
    assert len(built.parts["side"].flat.inside) == 4 and len(built.parts["side@m.1"].flat.inside) == 1
    assert built.parts["floor"].flat.bounds[2] == pytest.approx(420 - 2 * 11.8)  # no tabs on that side
    assert [len(r.keys) for r in rows_of(built.document, built.parts)] == [1, 1, 1, 1]


def test_a_handed_copys_name_stands_for_its_faces_which_keep_their_names():
    draft = box()
    draft.board("rail", "sa", "facing_front", "100 mm", ("side.right", "side_right.left"), ("100 mm", "140 mm"))
    built = build(draft.document())
    low, high = built.parts["rail"].span_box.span("x")
    assert (low, high) == (12, 408)  # both inner faces: the mirror image of an inner face is one
    draft.data["parts"]["rail"]["spans"]["x"]["high"]["text"] = "side_right.right"
    assert build(draft.document()).parts["rail"].span_box.span("x")[1] == 420


def test_equal_parts_are_one_row_however_they_came_about_and_handed_ones_are_told():
    draft = Draft("d", "ply12")
    for i, plane in enumerate(("lying", "lying", "lying")):
        draft.board(
            f"p{i}", "ply12", plane, f"{i * 40} mm", (0, "200 mm") if i < 2 else (0, "90 mm"), (0, "90 mm") if i < 2 else (0, "200 mm")
        )
    draft.feature("p0", "h", "hole", ("left", "30 mm"), ("front", "20 mm"), diameter="10 mm")
    draft.feature("p1", "h", "hole", ("right", "30 mm"), ("back", "20 mm"), diameter="10 mm")  # turned half round
    draft.feature("p2", "h", "hole", ("left", "20 mm"), ("front", "30 mm"), diameter="10 mm")  # turned and mirrored
    rows = cut_list(build(draft.document()))
    assert [(r.part, r.quantity, r.handed_of) for r in rows] == [("p0, p1", 2, 0), ("p2", 1, 1)]
    draft.data["stocks"]["ply12"]["faces"] = "alike"  # cut straight through, the third is the first turned over
    assert [(r.part, r.quantity) for r in cut_list(build(draft.document()))] == [("p0, p1, p2", 3)]
    draft.data["stocks"]["ply12"] |= {"faces": "differ", "grain": "along"}
    for i, grain in enumerate(("u", "v", "u")):
        draft.data["parts"][f"p{i}"]["grain"] = grain
    assert len(cut_list(build(draft.document()))) == 3  # the grain runs otherwise


def test_a_symmetric_part_is_simply_equal_to_its_mirror_image():
    built = build(box().document())
    assert built.parts["front@my.1"].handed == 1
    assert [(r.part, r.quantity) for r in cut_list(built)] == [("front, back", 2), ("side, side_right", 2), ("floor", 1)]


def test_text_on_a_handed_part_still_reads_right():
    draft = _plain()
    draft.feature("side", "t", "mark_text", ("front", "90 mm"), ("bottom", "50 mm"), text="LEFT", height="12 mm", face="right")
    draft.feature("side", "pocket", "pocket", ("front", "90 mm"), ("top", "50 mm"), width="40 mm", height="20 mm", depth="4 mm")
    draft.mirror("m", "x", "width / 2", "part:side")
    built = build(draft.document())

    def strokes(key):
        part = built.parts[key]
        x = min(m.contour.bounds[0] for m in part.flat.engraved)
        return [[(round(u - x, 6), round(v, 6)) for u, v in m.contour.points] for m in part.flat.engraved]

    assert built.parts["side@m.1"].handed == -1 and strokes("side@m.1") == strokes("side")


BAD = [
    ("mirror", {"axis": "x", "at": {"text": "side.right +"}}, "broken_expression", "it stops too early"),
    ("row", {"axis": "z", "number": {"text": "0"}, "spacing": {"text": "10 mm"}}, "bad_copy", "0 in all"),
    ("row", {"axis": "z", "number": {"text": "100000"}, "spacing": {"text": "10 mm"}}, "bad_copy", "100000 in all"),
    ("row", {"axis": "z", "number": {"text": "3"}, "spacing": {"text": "0"}}, "bad_copy", "a spacing of 0 mm"),
    ("row", {"axis": "z"}, "bad_copy", "neither a length to fill nor a number"),
    ("row", {"axis": "z", "length": {"text": "9 m"}, "largest": {"text": "1 mm"}}, "bad_copy", "9001 in all"),
    (
        "ring",
        {"axis": "z", "at": {"x": {"text": "0"}, "y": {"text": "0"}}, "number": {"text": "4"}, "angle": {"text": "0 deg"}},
        "bad_copy",
        "a ring over 0°",
    ),
    (
        "grid",
        {
            "axis": "z",
            "axis_2": "z",
            "number": {"text": "2"},
            "spacing": {"text": "9 mm"},
            "number_2": {"text": "2"},
            "spacing_2": {"text": "9 mm"},
        },
        "bad_copy",
        "both of its rows run along z",
    ),
]


@pytest.mark.parametrize(("kind", "more", "code", "words"), BAD)
def test_a_copy_that_cannot_be_is_said_where_it_is_and_the_rest_stands(kind, more, code, words):
    draft = _plain()
    draft.data["copies"]["c"] = {"kind": kind, "name": "the copy", "of": ["part:side"], **more}
    built = build(draft.document())
    (fault,) = [f for f in built.faults if f.code == code]
    assert words in fault.message and fault.entry.startswith("/copies/c")
    assert set(built.parts) == {"side", "floor", "divider"}


def test_a_mirror_of_a_part_through_itself_is_said_and_makes_nothing():
    for of, at in (("side", "side.left + 4 mm"), ("side", "side.centre"), ("floor", "width / 2")):
        draft = _plain()
        draft.mirror("m", "x", at, f"part:{of}")
        built = build(draft.document())
        (fault,) = built.faults
        assert f"goes through {of}, which would stand in itself" in fault.message and fault.entry == "/copies/m/at"
        assert set(built.parts) == {"side", "floor", "divider"}


def test_a_leaning_board_may_cross_its_mirror_image_and_the_overlap_is_said():
    draft = Draft("d", "ply12")
    draft.board("leg", "ply12", "facing_side", "0", ("0", "60 mm"), ("0", "300 mm"))
    draft.turn("leg", "y", "30 deg", x="0", z="150 mm")
    draft.mirror("m", "x", "5 mm", "part:leg", names={"leg": "other"})
    built = build(draft.document())
    assert not built.faults
    (fault,) = overlap_faults(built)
    assert "leg and other overlap" in fault.message


def test_too_many_parts_in_all_are_refused_with_their_number():
    draft = Draft("d", "ply12")
    draft.board("bar", "ply12", "lying", 0, (0, "10 mm"), (0, "10 mm"))
    draft.repeat("a", "row", "part:bar", axis="x", number="150", spacing="20 mm")
    draft.repeat("b", "row", "part:bar", "copy:a", axis="y", number="100", spacing="20 mm")
    built = build(draft.document())
    assert len(built.parts) == 150
    (fault,) = built.faults
    assert fault.entry == "/copies/b/number" and "15000 parts in their places" in fault.message and fault.rule == "at most 1500"
    draft.data["copies"]["b"]["number"]["text"] = "3"
    few = build(draft.document())
    draft.data["copies"]["b"]["number"]["text"] = "100"
    assert build(draft.document(), few.good).parts.keys() == few.parts.keys() and len(few.parts) == 450


@pytest.mark.parametrize("of", [["part:nobody"], ["copy:m"], ["nonsense"], ["part:side", "part:lid"]])
def test_a_copy_of_what_is_not_there_or_lies_elsewhere_is_refused(of):
    draft = _plain()
    draft.group("top").board("lid", "ply12", "lying", "300 mm", (0, "100 mm"), (0, "100 mm"))
    draft.data["copies"]["m"] = {"kind": "mirror", "name": "m", "of": of, "axis": "x", "at": {"text": "0"}}
    with pytest.raises(DocumentError) as caught:
        draft.document()
    assert caught.value.entry.startswith("/copies/m/of")


def test_a_joint_to_a_copy_repeats_from_each_to_the_next():
    draft = Draft("d", "ply12")
    draft.board("a", "ply12", "lying", 0, (0, "100 mm"), (0, "80 mm"))
    draft.repeat("r", "row", "part:a", axis="x", number="4", spacing="100 mm")
    draft.data["joints"]["k"] = {"kind": "edge_key", "a": "a", "b": "a@r.1", "number": {"text": "2"}, "fit": {"text": "0"}}
    built = build(draft.document(), nominal=True)
    assert not built.faults
    assert built.joints["k"].pairs == (("a", "a@r.1"), ("a@r.1", "a@r.2"), ("a@r.2", "a@r.3"))
    assert len({p.flat.digest for p in built.parts.values()}) == 1  # all have keys and sockets: they are in step
    shapes = [
        shapely.affinity.translate(shapely.union_all([region_polygon(r) for r in p.flat.pieces]), 100 * i)
        for i, p in enumerate(built.parts.values())
    ]
    for one, other in zip(shapes, shapes[1:], strict=False):
        assert one.intersection(other).area < 1e-3
    del draft.data["copies"]["r"]
    lost = [f for f in build(draft.document()).faults if f.code == "lost_copy"]
    assert lost and lost[0].mends


def test_a_copy_that_does_not_meet_what_its_joint_is_to_is_said_and_cuts_nothing():
    draft = _plain()
    draft.joint("tab_slot", "floor", "side")
    draft.mirror("m", "x", "width / 2 + 3 mm", "part:side")
    built = build(draft.document())
    (fault,) = [f for f in built.faults if f.code == "copy_misses"]
    assert "does not meet floor" in fault.message and fault.severity == "warning"
    assert built.parts["floor"].flat.bounds[2] == pytest.approx(420 - 2 * 11.8)
    (mend,) = fault.mends
    mended = build(patched(draft.document().dump(), list(mend.patch)))
    assert mend.label.endswith("without this joint") and not mended.faults
    assert mended.parts["side"].flat.inside and not mended.parts["side@m.1"].flat.inside


def test_each_copy_of_a_row_that_misses_is_left_without_the_joint_by_itself():
    """A row of three, of which two stand beyond the floor: each mend leaves out one, and both together clear the list."""
    draft = _plain()
    draft.joint("tab_slot", "floor", "side")
    draft.repeat("row", "row", "part:side", axis="x", number="3", spacing="600 mm")
    document = draft.document()
    for n in (2, 1, 0):
        missing = [f for f in build(document).faults if f.code == "copy_misses"]
        assert len(missing) == n
        if n:
            document = patched(document.dump(), list(missing[-1].mends[0].patch))


def test_copies_of_groups_nest_and_stand_where_the_product_of_their_motions_says():
    draft = Draft("d", "ply12")
    draft.group("outer", x="100 mm").group("inner", "outer", y="10 mm")
    draft.board("bar", "ply12", "lying", "0", (0, "20 mm"), (0, "30 mm"))
    draft.repeat("row", "row", "part:bar", axis="z", number="2", spacing="50 mm")
    draft.repeat("two", "row", "group:inner", axis="y", number="3", spacing="40 mm")
    draft.mirror("m", "x", "0", "group:outer")
    document = draft.document()
    instances = instances_of(solve(document))
    assert len(instances) == 2 * 3 * 2
    assert instances["bar@row.1@two.2@m.1"].motion.point((1, 2, 3)) == pytest.approx((-101, 92, 53))
    assert len({i.name for i in instances.values()}) == 12
    built = build(document)
    assert cut_list(built)[0].quantity == 12


def test_the_demos_handed_gables_and_ten_frames():
    built = build(example("hive"))
    rows = {r.part: r for r in cut_list(built)}
    assert rows["gable_right"].handed_of == rows["gable"].number and rows["top_bar"].quantity == 10
    assert rows["gable"].code == "TH-04-02" and rows["end_bar, end_bar_back"].quantity == 20


@pytest.mark.parametrize("kind", ["tab_slot", "dowels", "screws", "butt", "groove", "mortise_tenon"])
@pytest.mark.parametrize("copied", ["mirror", "row"])
def test_a_rail_s_copy_is_joined_to_the_side_that_it_does_meet(kind, copied):
    """Two sides drawn each by itself, a short rail at the left one, and its copy at the right one: the joint's copy misses the left side."""
    d = Draft("d", "ply12", cutter="router")
    d.board("left", "ply12", "facing_side", "0", ("0", "300 mm"), ("0", "240 mm"))
    d.board("right", "ply12", "facing_side", "388.2 mm", ("0", "300 mm"), ("0", "240 mm"))
    d.board("rail", "ply12", "lying", "100 mm", ("left.right", "90 mm"), ("20 mm", "280 mm"))
    d.joint(kind, "rail", "left")
    if copied == "mirror":
        d.mirror("m", "x", "200 mm", "part:rail", names={"rail": "copy"})
    else:
        d.repeat("m", "row", "part:rail", axis="x", number="2", spacing="298.2 mm")
    document = d.document()
    (fault,) = [f for f in build(document).faults if f.code == "copy_misses"]
    if copied == "row":  # it meets the right side with its other end, where its original has nothing to be joined
        (without,) = fault.mends
        assert without.label.endswith("without this joint")
        return
    instead, without = fault.mends
    assert instead.label.endswith("to right instead") and without.label.endswith("without this joint")
    assert instead.patch[-1]["path"] == "/joints/rail-left_1"
    mended = build(patched(document.dump(), list(instead.patch)))
    assert not [f for f in mended.faults if f.code in ("copy_misses", "joint_refused", "lost_copy")]
    assert len(mended.joints) == 2 and not any(j.refused for j in mended.joints.values())
    assert [mended.document.joints[k].order for k in mended.joints] == [0, 1]  # after those that are there
    # both ends are cut alike
    areas = {k: sum(region_polygon(r).area for r in p.flat.pieces) for k, p in mended.parts.items()}
    assert areas["rail"] == pytest.approx(areas["rail@m.1"]) and areas["left"] == pytest.approx(areas["right"])


def test_a_joint_s_copy_that_lies_askew_can_be_left_out():
    d = Draft("d", "ply12")
    d.board("base", "ply12", "lying", "0", ("0", "400 mm"), ("0", "400 mm"))
    d.board("rib", "ply12", "facing_side", "150 mm", ("20 mm", "180 mm"), ("base.top", "80 mm"))
    d.joint("tab_slot", "rib", "base")
    d.repeat("ring", "ring", "part:rib", axis="x", at={"y": "200 mm", "z": "30 mm"}, number="2", angle="20 deg")
    document = d.document()
    askew = [f for f in build(document).faults if f.code == "copy_misses"]
    for fault in askew:
        assert fault.mends
        document = patched(document.dump(), list(fault.mends[-1].patch))
    assert askew and not [f for f in build(document).faults if f.code == "copy_misses"]


@pytest.mark.parametrize(
    ("kind", "ends", "at"),
    [
        # into the plate's own edge
        *((kind, ("plate", "side"), "beside") for kind in ("dowels", "screws", "groove")),
        # the plate itself reaches out to the joint
        *((kind, ends, "under") for kind in ("finger", "dovetail") for ends in (("plate", "side"), ("side", "plate"))),
    ],
)
def test_what_cannot_be_turned_with_a_copy_is_said_with_its_mend(kind, ends, at):
    """A joint works at an edge of a plate, and a copy of the other board stands at an angle to it: said once, of the plate, and the copy can do without."""
    d = Draft("d", "ply12", cutter="router")
    d.board("plate", "ply12", "lying", "100 mm", ("0", "400 mm"), ("0", "400 mm"))
    x, up = ("400 mm", ("40 mm", "160 mm")) if at == "beside" else ("388.2 mm", (0, "plate.bottom"))
    d.board("side", "ply12", "facing_side", x, ("150 mm", "250 mm"), up)
    d.joint(kind, *ends)
    d.repeat("ring", "ring", "part:side", axis="z", at={"x": "200 mm", "y": "200 mm"}, number="2", angle="40 deg")
    document, joint = d.document(), "-".join(ends)
    (fault,) = build(document).faults
    assert (fault.code, fault.severity, fault.part, fault.owner) == ("copy_misses", "warning", "plate", f"joint:{joint}")
    assert fault.message == f"{ends[0]}–{ends[1]}: a copy of this joint does not lie along plate and is not whole"
    (without,) = fault.mends
    assert without.label == "Leave side.2 without this joint"
    assert without.patch == [{"op": "add", "path": f"/copies/ring/spared/joint:{joint}", "value": ["side@ring.1"]}]
    assert build(patched(document.dump(), list(without.patch))).faults == ()


def test_holes_into_the_edges_of_what_stays_go_round_with_a_ring():
    """Boards dowelled against all four edges of a square plate, drawn once: every edge has the holes of the first, a quarter turn on."""
    d = Draft("d", "ply12", cutter="router")
    d.board("plate", "ply12", "lying", "100 mm", (0, "400 mm"), (0, "400 mm"))
    d.board("side", "ply12", "facing_side", "400 mm", ("120 mm", "250 mm"), ("40 mm", "160 mm"))
    d.joint("dowels", "plate", "side", number=2)
    d.repeat("ring", "ring", "part:side", axis="z", at={"x": "200 mm", "y": "200 mm"}, number="4", angle="360 deg")
    built = build(d.document())
    assert not built.faults
    found = {}
    for bore in built.flats["plate"].flat.bores:
        found.setdefault((bore.across, bore.side), []).append(round(bore.along, 6))
        assert bore.at == pytest.approx(0.0 if bore.side == "low" else 400.0) and bore.w == pytest.approx(5.9)
    first = sorted(found["u", "high"])
    assert len(first) == 2 and 120 < first[0] < first[1] < 250
    turned = sorted(400 - y for y in first)
    assert {k: sorted(v) for k, v in found.items()} == {
        ("u", "high"): first,
        ("v", "high"): pytest.approx(turned),
        ("u", "low"): pytest.approx(turned),
        ("v", "low"): pytest.approx(first),
    }


@pytest.mark.parametrize("mirrored", ["y", "z"])
def test_holes_into_an_edge_are_mirrored_with_what_is_joined_there(mirrored):
    d = Draft("d", "ply12", cutter="router")
    d.board("plate", "ply12", "lying", "100 mm", (0, "400 mm"), (0, "400 mm"))
    d.board("side", "ply12", "facing_side", "400 mm", ("120 mm", "180 mm"), ("40 mm", "160 mm"))
    d.joint("dowels", "plate", "side", number=2)
    d.mirror("m", mirrored, "200 mm" if mirrored == "y" else "105.9 mm", "part:side")
    built = build(d.document())
    alongs = sorted(round(b.along, 6) for b in built.flats["plate"].flat.bores)
    own = alongs[:2]
    assert alongs == (pytest.approx([*own, *sorted(400 - y for y in own)]) if mirrored == "y" else alongs[:2])
    assert {(b.across, b.side, round(b.w, 6)) for b in built.flats["plate"].flat.bores} == {("u", "high", 5.9)}


@pytest.mark.parametrize(("angle", "step"), [("-90 deg", -45.0), ("90 deg", 45.0), ("-360 deg", -120.0), ("360 deg", 120.0)])
def test_a_ring_may_go_round_either_way(angle, step):
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, ("100 mm", "140 mm"), (0, "20 mm"))
    d.repeat("r", "ring", "part:p", axis="z", at={"x": "0", "y": "0"}, number="3", angle=angle)
    built = build(d.document())
    assert not built.faults and len(built.parts) == 3
    for n in (1, 2):
        x, y = (built.parts[f"p@r.{n}"].place.rows[i][0] for i in range(2))
        assert math.degrees(math.atan2(y, x)) == pytest.approx((step * n + 180) % 360 - 180)


def test_a_row_without_a_number_or_a_length_is_said_and_makes_none():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, "40 mm"), (0, "20 mm"))
    d.repeat("r", "row", "part:p", axis="x", number="3")
    built = build(d.document())
    (fault,) = built.faults
    assert (fault.entry, fault.rule) == ("/copies/r/number", "one of both is needed") and list(built.parts) == ["p"]


@pytest.mark.parametrize(("number", "fine"), [("0", False), ("1", True), ("2", True), ("200", True), ("201", False)])
@pytest.mark.parametrize("kind", ["row", "grid", "ring"])
def test_how_many_a_repeat_may_have(kind, number, fine):
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 20), (0, 10))
    more = {
        "row": {"axis": "x", "spacing": "30 mm"},
        "grid": {"axis": "x", "spacing": "30 mm", "axis_2": "y", "number_2": "1", "spacing_2": "20 mm"},
        "ring": {"axis": "z", "at": {"x": "-900 mm", "y": "0"}, "angle": "350 deg"},
    }[kind]
    d.repeat("again", kind, "part:p", number=number, **more)
    built = build(d.document())
    found = [f for f in built.faults if f.entry == "/copies/again/number"]
    assert bool(found) != fine
    assert len(built.made) == (int(number) if fine else 1)
    for f in found:
        assert f.rule == "from 1 to 200, the original included" and f.value == number
