"""Frames as one edit each: what begins one, what a drawn line says, which joints are usual, and what goes with a line."""

import itertools

import numpy as np
import pytest

from tests.core.making.tube.frames import key, stocked
from zygon.check.run import check
from zygon.design.frame_starts import FRAME_STARTS
from zygon.design.patch import patched
from zygon.edits.drawn_lines import Spot, draw_line
from zygon.edits.frames import add_frame, bend_members, join_members, remove_frame, remove_line
from zygon.errors import DocumentError
from zygon.making.datums.members import point_of
from zygon.making.datums.solving import solve
from zygon.making.pipeline import build

PLACES = {"x": ("0", "width"), "y": ("0", "depth"), "z": ("0", "height")}


def sized(*sections):
    d = stocked(*(sections or ("square tube",)))
    for name, text in (("width", "600 mm"), ("depth", "400 mm"), ("height", "700 mm")):
        d.size(name, text)
    return d


def begun(kind, section, **more):
    document = sized(section).document()
    return patched(document.dump(), add_frame(build(document), kind, key(section), PLACES, count=3, **more)[1])


def outside(built):
    reaches = np.array([p.reaches for p in built.made.values()])
    return reaches[:, 0].min(axis=0), reaches[:, 1].max(axis=0)


@pytest.mark.parametrize(
    ("kind", "section"),
    list(itertools.product(FRAME_STARTS, ["round tube", "square tube", "rectangular tube", "flat", "hexagon", "angle", "channel", "tee"])),
)
def test_what_a_frame_begins_with_fits_and_follows_its_sizes(kind, section):
    if (kind == "box" and section in ("angle", "channel", "tee")) or (kind, section) == ("sawhorse", "tee"):
        with pytest.raises(DocumentError, match="is open, and the rails of a box" if kind == "box" else "comes aslant between the legs"):
            begun(kind, section)
        return
    if (kind, section) == ("box", "hexagon"):
        pytest.skip("rails of hexagons would run into one another at a corner, and the overlap is told")
    document = begun(kind, section)
    for width, depth, height in ((600, 400, 700), (500, 450, 820)):
        data = document.dump()
        for name, value in (("width", width), ("depth", depth), ("height", height)):
            data["sizes"][name]["entry"]["text"] = f"{value} mm"
        built = build(patched(data, []))
        assert not built.faults
        assert [p.fault.code for p in check(built)] == []
        low, high = outside(built)
        if kind == "box":
            assert low == pytest.approx((0, 0, 0), abs=1e-6) and high == pytest.approx((width, depth, height), abs=1e-6)
        elif kind in ("portal", "ladder"):
            assert (low[0], low[2]) == pytest.approx((0, 0), abs=1e-6) and (high[0], high[2]) == pytest.approx((width, height), abs=1e-6)
        else:
            assert (low[2], high[2]) == pytest.approx((0, height), abs=1e-6)
            assert low[:2] + high[:2] == pytest.approx((width, depth), abs=1e-5)


def test_a_second_frame_takes_names_of_its_own():
    document = begun("portal", "square tube")
    again = patched(document.dump(), add_frame(build(document), "portal", "square_tube", {**PLACES, "y": ("300 mm", "400 mm")})[1])
    assert len(again.frames) == 2 and not build(again).faults
    assert len({p.name for p in again.parts.values()}) == 6


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ({"kind": "dome"}, "no frame dome"),
        ({"stock": "ply18"}, "cut from a bar or tube"),
        ({"places": {"x": ("0", "1")}}, "low and a high place"),
        ({"kind": "ladder", "count": 0}, "0 rungs"),
        ({"kind": "ladder", "count": 101}, "101 rungs"),
    ],
)
def test_a_frame_that_cannot_be_says_why(said, words):
    built = build(sized().document())
    given = {"kind": "box", "stock": "square_tube", "places": PLACES, "count": 1} | said
    with pytest.raises(DocumentError, match=words):
        add_frame(built, given["kind"], given["stock"], given["places"], count=given["count"])


@pytest.mark.parametrize("section", ["round tube", "square tube", "flat"])
@pytest.mark.parametrize("kind", FRAME_STARTS)
def test_members_that_are_joined_as_is_usual_fit(kind, section):
    """Taken apart and joined again by the usual kinds: nothing overlaps, nothing is loose."""
    document = begun(kind, section)
    apart = patched(document.dump(), [{"op": "remove", "path": f"/joints/{k}"} for k in document.joints])
    assert [p.fault.code for p in check(build(apart))] != []
    joined = patched(apart.dump(), join_members(build(apart))[1])
    built = build(joined)
    assert not built.faults and [p.fault.code for p in check(built)] == []
    with pytest.raises(DocumentError, match="No two members meet"):
        join_members(built)


def test_only_what_is_named_is_joined_and_corners_as_is_wished():
    document = begun("portal", "square tube")
    apart = patched(document.dump(), [{"op": "remove", "path": f"/joints/{k}"} for k in document.joints])
    _, patch = join_members(build(apart), ["post_left"])
    assert [(p["value"]["kind"], {p["value"]["a"], p["value"]["b"]}) for p in patch] == [("member_mitre", {"post_left", "beam"})]
    _, patch = join_members(build(apart), corner="butt")
    assert [p["value"]["kind"] for p in patch] == ["member_butt"] * 2


def drawn(document, *steps, **more):
    for start, end in steps:
        document = patched(document.dump(), draw_line(build(document), start, end, "square_tube", **more)[1])
    return document


def test_a_line_drawn_in_the_room_says_what_it_is_level_with():
    """From a corner of a board up, over and down to the ground: all follows the board's size, and what is level stays level."""
    d = sized()
    d.board("top", "ply18", "lying", "height", ("0", "width"), ("0", "depth"))
    document = drawn(d.document(), (Spot(at=(0.4, -0.3, 0.2), part="top"), Spot(at=(0.1, 0.2, 699.8), part="top")), catch=1.0)
    (frame,) = document.frames.values()
    one, other = (frame.points[k] for k in (frame.lines["line"].a, frame.lines["line"].b))
    assert {a: e.text for a, e in one.at.items()} == {"x": "top.left", "y": "top.front", "z": "0 mm"}
    assert {a: e.text for a, e in other.at.items()} == {"x": "top.left", "y": "top.front", "z": "top.bottom"}
    document = drawn(document, (Spot(point="frame:p2"), Spot(at=(600.3, 0.6, 700.4), part="top")), catch=1.0)
    last = document.frames["frame"].points["p3"]
    assert {a: e.text for a, e in last.at.items()} == {"x": "top.right", "y": "top.front", "z": "top.bottom"}
    data = document.dump()
    data["sizes"]["height"]["entry"]["text"] = "900 mm"
    data["sizes"]["width"]["entry"]["text"] = "550 mm"
    values = solve(patched(data, []))
    assert [point_of(values, "frame", k).tolist() for k in ("p1", "p2", "p3")] == [[0, 0, 0], [0, 0, 900], [550, 0, 900]]


def test_the_middle_of_what_is_pressed_is_caught_and_else_whole_steps_are_taken():
    d = sized()
    d.board("top", "ply18", "lying", "height", ("0", "width"), ("0", "depth"))
    document = drawn(d.document(), (Spot(at=(300.6, 0.2, 700), part="top"), Spot(at=(123.4, 77.7, 33.3))), catch=1.0, step=5)
    points = document.frames["frame"].points
    assert points["p1"].at["x"].text == "mid(top.left, top.right)" and points["p1"].at["y"].text == "top.front"
    assert [points["p2"].at[a].text for a in "xyz"] == ["125 mm", "80 mm", "35 mm"]


@pytest.mark.parametrize(
    ("axis", "by", "ends"),
    [
        ("x", "120 mm", (160, 50, 60)),
        ("y", "-depth / 2", (40, -150, 60)),
        ("z", "height", (40, 50, 760)),
        ("x", "-(30 mm + 5 mm)", (5, 50, 60)),
    ],
)
def test_a_line_drawn_by_a_length_runs_along_an_axis_and_keeps_what_it_was_told(axis, by, ends):
    document = drawn(sized().document(), (Spot(at=(40, 50, 60)), Spot()), axis=axis, by=by)
    values = solve(document)
    assert not values.faults
    assert point_of(values, "frame", "p2") == pytest.approx(ends)
    entry = document.frames["frame"].points["p2"].at[axis].text
    assert entry.startswith({"x": "40 mm", "y": "50 mm", "z": "60 mm"}[axis])
    size = {"y": "depth", "z": "height"}.get(axis)
    if size:
        data = document.dump()
        data["sizes"][size]["entry"]["text"] = "500 mm"
        assert point_of(solve(patched(data, [])), "frame", "p2")["xyz".index(axis)] == pytest.approx({"y": 50 - 250, "z": 560}[axis])


def test_a_line_may_begin_on_another_and_stays_there():
    document = begun("portal", "square tube")
    built = build(document)
    (frame,) = document.frames
    spots = Spot(line=f"{frame}:post_left", off=212.4), Spot(line=f"{frame}:post_right", off=351)
    document = patched(document.dump(), draw_line(built, *spots, "square_tube", catch=3.0, step=10)[1])
    made = [p for p in document.frames[frame].points.values() if p.on]
    assert [(p.on, p.off.text) for p in made] == [("post_left", "210 mm"), ("post_right", "((height) - (0)) / 2")]
    data = document.dump()
    data["sizes"]["height"]["entry"]["text"] = "900 mm"
    values = solve(patched(data, []))
    keys = [k for k, p in document.frames[frame].points.items() if p.on]
    assert [round(point_of(values, frame, k)[2], 6) for k in keys] == [210, 450]
    joined = patched(document.dump(), join_members(build(document))[1])
    assert not build(joined).faults and [p.fault.code for p in check(build(joined))] == []


@pytest.mark.parametrize("end", [{"point": "left_high"}, {"line": "post_left", "off": 300}])
def test_a_line_may_run_from_one_frame_to_a_place_of_another(end):
    document = begun("portal", "square tube")
    document = patched(document.dump(), add_frame(build(document), "portal", "square_tube", {**PLACES, "y": ("300 mm", "400 mm")})[1])
    built = build(document)
    first, second = document.frames
    there = {k: f"{second}:{v}" if k in ("point", "line") else v for k, v in end.items()}
    wanted = np.array(point_of(solve(document), second, "left_high"))
    if "line" in end:
        wanted = np.array(point_of(solve(document), second, document.frames[second].lines["post_left"].a)) + (0, 0, 300)
    made = patched(document.dump(), draw_line(built, Spot(point=f"{first}:left_high"), Spot(**there), "square_tube")[1])
    (line,) = set(made.frames[first].lines) - set(document.frames[first].lines)
    assert point_of(solve(made), first, made.frames[first].lines[line].b) == pytest.approx(wanted, abs=0.51)
    assert made.frames[second] == document.frames[second]


def test_a_typed_length_counts_in_the_unit_of_the_design_whatever_the_start_was_written_in():
    document = drawn(sized().document(), (Spot(at=(40, 50, 60)), Spot(at=(40, 50, 160))))
    data = document.dump()
    data["frames"]["frame"]["points"]["p1"]["at"]["x"] = {"text": "2", "unit": "in"}
    document = patched(data, [])
    made = patched(document.dump(), draw_line(build(document), Spot(point="frame:p1"), Spot(), axis="x", by="100")[1])
    assert point_of(solve(made), "frame", "p3") == pytest.approx((150.8, 50, 60))


@pytest.mark.parametrize(
    ("start", "end", "more", "words"),
    [
        (Spot(at=(0, 0, 0)), Spot(at=(0.2, 0, 0)), {}, "no length"),
        (Spot(at=(0, 0, 0)), Spot(), {}, "begins and ends somewhere"),
        (Spot(point="portal:left_low"), Spot(point="portal:left_high"), {}, "a line between these two"),
        (Spot(point="portal:nowhere"), Spot(at=(0, 0, 9)), {}, "no point 'nowhere'"),
        (Spot(point="other:a"), Spot(at=(0, 0, 9)), {}, "no frame with the key 'other'"),
        (Spot(point="portal:left_low"), Spot(point="other:a"), {}, "no frame with the key 'other'"),
        (Spot(line="portal:none", off=3), Spot(at=(0, 0, 9)), {}, "no line 'none'"),
        (Spot(at=(0, 0, 0)), Spot(), {"axis": "x", "by": "nosuch + 3"}, "nosuch"),
        (Spot(at=(0, 0, 0)), Spot(), {"axis": "x", "by": "0"}, "no length"),
        (Spot(at=(0, 0, 0)), Spot(at=(0, 0, 9)), {"stock": "ply18"}, "cut from a bar"),
    ],
)
def test_a_line_that_cannot_be_says_why(start, end, more, words):
    built = build(begun("portal", "square tube"))
    with pytest.raises(DocumentError, match=words):
        draw_line(built, start, end, **more)


def test_with_a_line_goes_what_lies_on_it_and_with_the_last_the_frame():
    document = begun("ladder", "square tube")
    (frame,) = document.frames
    after = patched(document.dump(), remove_line(document, frame, "rung_2")[1])
    assert "rung_2" not in after.parts and not {"left_2", "right_2"} & after.frames[frame].points.keys()
    assert all("rung_2" not in (j.a, j.b) for j in after.joints.values()) and len(after.joints) == 4
    with pytest.raises(DocumentError, match="begins on this one"):
        remove_line(document, frame, "rail_left")
    gone = patched(document.dump(), remove_frame(document, frame)[1])
    assert not gone.frames and not gone.parts and not gone.joints
    for line in ("rung_1", "rung_2", "rung_3", "rail_left", "rail_right"):
        document = patched(document.dump(), remove_line(document, frame, line)[1])
    assert not document.frames and not document.parts


def test_a_frame_moves_turns_and_is_copied_with_its_group():
    """Grouping one member takes the whole frame along; the group is moved, mirrored and dissolved, and its members stay cut as they were."""
    from zygon.design.layout_operations import group_parts, remove_group

    document = begun("portal", "square tube")
    grouped = patched(document.dump(), group_parts(document, ["beam"], "gate")[1])
    assert {p.group for p in grouped.parts.values()} == {"gate"} == {f.group for f in grouped.frames.values()}
    data = grouped.dump()
    data["groups"]["gate"]["move"] = {"y": {"text": "250 mm"}}
    data["copies"]["m"] = {"kind": "mirror", "name": "m", "of": ["group:gate"], "axis": "y", "at": {"text": "900 mm"}, "names": {}}
    moved = build(patched(data, []))
    assert not moved.faults and [p.fault.code for p in check(moved)] == []
    still = build(document)
    for name, part in still.made.items():
        assert moved.made[name].body.digest == part.body.digest
        assert moved.made[name].reaches[0][1] == pytest.approx(part.reaches[0][1] + 250)
        copied = moved.made[f"{name}@m.1"]
        assert copied.body.alike == part.body.alike and copied.reaches[1][1] == pytest.approx(2 * 900 - 250 - part.reaches[0][1])
    assert moved.points["portal"]["left_low"] == pytest.approx((0, 250, 0))
    back = patched(grouped.dump(), remove_group(grouped, "gate")[1])
    assert {p.group for p in back.parts.values()} == {""} == {f.group for f in back.frames.values()}


def test_copies_of_members_stay_in_step():
    from zygon.edits.independent import make_independent

    document = begun("portal", "square tube")
    data = document.dump()
    data["copies"]["m"] = {
        "kind": "mirror",
        "name": "m",
        "of": ["part:beam"],
        "axis": "y",
        "at": {"text": "900 mm"},
        "names": {"beam": "beam_m"},
    }
    with pytest.raises(DocumentError, match="lie on no lines of a frame"):
        make_independent(build(patched(data, [])), "m")


def test_drawn_lines_are_bent_from_one_bar():
    """A bail drawn up, over and down as three bars becomes one, joints and all; its radius may be said, and follows a size."""
    document = drawn(
        sized().document(),
        (Spot(at=(0, 0, 0)), Spot(at=(0, 0, 200))),
        (Spot(point="frame:p2"), Spot(at=(300, 0, 200))),
        (Spot(point="frame:p3"), Spot(at=(300, 0, 0))),
    )
    document = patched(document.dump(), join_members(build(document))[1])
    names = list(document.parts)
    for order in (names, names[::-1]):
        label, patch = bend_members(build(document), order)
        one = patched(document.dump(), patch)
        assert len(one.parts) == 1 and not one.joints and label.startswith("Bend tube")
        built = build(one)
        assert not built.faults and [p.fault.code for p in check(built)] == []
        (part,) = built.made.values()
        # 40 mm tube: bent to twice that
        assert part.body.length == pytest.approx(700 - 4 * 80 + 80 * np.pi)
    one = patched(document.dump(), bend_members(build(document), names, "depth / 4")[1])
    (part,) = build(one).made.values()
    assert part.body.radius == 100
    tight = patched(document.dump(), bend_members(build(document), names, "45 mm")[1])
    (found,) = [p.fault for p in check(build(tight)) if p.fault.code == "bend_tight"]
    mended = build(patched(tight.dump(), found.mends[0].patch))
    assert [p.fault.code for p in check(mended)] == []


@pytest.mark.parametrize("of", [["tube"], ["tube", "tube_3"], [], ["nothing", "tube"]])
def test_what_does_not_follow_one_another_is_not_bent(of):
    document = drawn(
        sized().document(),
        (Spot(at=(0, 0, 0)), Spot(at=(0, 0, 200))),
        (Spot(point="frame:p2"), Spot(at=(300, 0, 200))),
        (Spot(point="frame:p3"), Spot(at=(300, 0, 0))),
    )
    with pytest.raises(DocumentError, match=r"cannot be bent from one bar|do not follow one another"):
        bend_members(build(document), of)


FACES_OUT = {"left": (0, -1), "right": (0, 1), "front": (1, -1), "back": (1, 1), "bottom": (2, -1), "top": (2, 1)}


@pytest.mark.parametrize("stock", ["square_tube", ""])
@pytest.mark.parametrize("corner", [("left", "front", "top"), ("right", "back", "bottom"), ("left", "top"), ("back",)])
def test_a_line_stands_off_the_faces_that_are_pressed_by_what_is_to_be_clear_and_half_of_its_tube(corner, stock):
    """A block is gone round: on each face that is pressed the tube's outside keeps the clearance, whichever way the face looks, and follows it."""
    d = stocked("square tube").size("room", "5 mm")
    d.board("block", "ply18", "lying", "100 mm", ("10 mm", "210 mm"), ("20 mm", "320 mm"))
    document = d.document()
    built = build(document)
    box = built.made["block"].span_box
    low, high = np.array([box.span(a)[0] for a in "xyz"]), np.array([box.span(a)[1] for a in "xyz"])
    at = (low + high) / 2 + (3.7, 3.7, 1.7)
    for face in corner:
        k, way = FACES_OUT[face]
        at[k] = high[k] if way > 0 else low[k]
    spot = Spot(at=tuple(at), part="block")
    after = patched(document.dump(), draw_line(built, spot, Spot(at=(900.0, 900.0, 900.0)), stock, catch=0.5, clear="room")[1])
    off = 5 + (20 if stock else 0)
    place = build(after).points["frame"]["p1"]
    for k in range(3):
        face = next((f for f in corner if FACES_OUT[f][0] == k), None)
        wanted = at[k] + FACES_OUT[face][1] * off if face else place[k]
        assert place[k] == pytest.approx(wanted), face
    moved = build(patched(after.dump(), [{"op": "replace", "path": "/sizes/room/entry/text", "value": "8 mm"}])).points["frame"]["p1"]
    assert [m - p for m, p in zip(moved, place, strict=True)] == pytest.approx(
        [3 * next((FACES_OUT[f][1] for f in corner if FACES_OUT[f][0] == k), 0) for k in range(3)]
    )
    for clear in ("nobody", "-1 mm"):
        with pytest.raises(DocumentError) as refused:
            draw_line(built, spot, Spot(at=(900.0, 900.0, 900.0)), stock, catch=0.5, clear=clear)
        assert refused.value.entry == "clear"


@pytest.mark.parametrize("wall", ["facing_side", "facing_front", "lying"])
@pytest.mark.parametrize("how", ["bore", "feature", "mirrored"])
def test_a_line_from_hole_to_hole_runs_between_their_middles_and_follows_them(wall, how):
    """Two walls with a hole in each: pressed on the holes' walls, the line begins and ends in their middles, whichever way the walls stand."""
    k = {"facing_side": 0, "facing_front": 1, "lying": 2}[wall]
    across = [i for i in range(3) if i != k]
    u, v = ("xyz"[i] for i in across)
    d = stocked("square tube").size("up", "60 mm")
    for n, at in (("near", "0"), ("far", "400 mm")):
        d.board(n, "ply18", wall, at, ("0", "300 mm"), ("0", "200 mm"))
    if how == "bore":
        at = {u: f"near.{FIRST[u]} + up", v: "70 mm"}
        d.bore("axle", "xyz"[k], at, "12 mm", near=("cut", "0"), far=("cut", "0"))
        owner = "bore:axle"
    else:
        for n in ("near", "far") if how == "feature" else ("near",):
            d.feature(n, "eye", "hole", (FIRST[u], "60 mm"), (FIRST[v], "70 mm"), diameter="12 mm")
        owner = "feature:{}:eye"
    if how == "mirrored":
        d.data["parts"].pop("far")
        d.mirror("twin", "xyz"[k], "200 mm", "part:near")
    built = build(d.document())
    walls = sorted((p for p in built.flats.values()), key=lambda p: p.span_box.span("xyz"[k])[0])
    middle = np.zeros(3)
    middle[across] = 60.0, 70.0
    spots = []
    for p, side in zip(walls, (1, 0), strict=True):
        at = middle.copy()
        at[k] = p.span_box.span("xyz"[k])[side]
        at[across[0]] += 6.0  # the hole's wall
        spots.append(Spot(at=tuple(at), part=p.key, owner=owner.format("near" if how == "mirrored" else p.key)))
    after = patched(built.document.dump(), draw_line(built, *spots, "square_tube", catch=2.0)[1])
    (points,) = build(after).points.values()
    for p, spot in zip(points.values(), spots, strict=True):
        assert [p[i] for i in across] == pytest.approx([60.0, 70.0]) and p[k] == pytest.approx(spot.at[k])
    if how == "bore":  # in the bore's own words
        more = [{"op": "replace", "path": "/sizes/up/entry/text", "value": "90 mm"}]
        (points,) = build(patched(after.dump(), more)).points.values()
        assert [p[across[0]] for p in points.values()] == pytest.approx([90.0, 90.0])
    elif how == "feature":  # with its board
        more = [{"op": "replace", "path": f"/parts/near/spans/{u}/low/text", "value": "-25 mm"}]
        (points,) = build(patched(after.dump(), more)).points.values()
        assert next(iter(points.values()))[across[0]] == pytest.approx(35.0)


FIRST = {"x": "left", "y": "front", "z": "bottom"}
