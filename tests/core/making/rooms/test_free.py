"""Rooms before faces against brute force: solids of the manifold library, tried with small and large boxes."""

import manifold3d
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid
from tests.explore import drawn
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES, example
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import build
from zygon.making.rooms.free import OPEN, free_rooms
from zygon.making.rooms.named import figure, named_places, written
from zygon.making.rooms.taken import taken
from zygon.measure.evaluate import evaluate

T = 11.8
PLANES = ("lying", "facing_front", "facing_side")
#: What joints take of one another (mm³ a mm of edge), and rounding.
SLACK = 0.05


def box_of(room, grown=0.0, along="", end=0):
    """A room as a solid, a hair smaller all round, or grown at one end."""
    low = [room.span(a)[0] + SLACK for a in AXES]
    high = [room.span(a)[1] - SLACK for a in AXES]
    if along:
        i = AXES.index(along)
        if end:
            low[i], high[i] = high[i], high[i] + grown
        else:
            low[i], high[i] = low[i] - grown, low[i]
    return cube(low, high)


def cube(low, high):
    return manifold3d.Manifold.cube([h - x for x, h in zip(low, high, strict=True)]).translate(low)


def bodies(built):
    return {k: solid(p) for k, p in built.made.items() if not p.record.aside and not p.body.empty}


def met(bodies, box):
    """What of a box is taken up already, in mm³."""
    return sum((b ^ box).volume() for b in bodies.values())


def frame(*boards):
    d = Draft("d", "ply12")
    for n, (plane, at, u, v) in enumerate(boards):
        d.board(f"b{n}", "ply12", plane, f"{at} mm", tuple(f"{x} mm" for x in u), tuple(f"{x} mm" for x in v))
    return d


span = st.tuples(st.integers(0, 12), st.integers(3, 12)).map(lambda p: (25 * p[0], 25 * (p[0] + p[1])))
boards = st.lists(st.tuples(st.sampled_from(PLANES), st.integers(0, 20).map(lambda n: 20 * n), span, span), min_size=1, max_size=6)


@settings(max_examples=drawn(40))
@given(boards, st.data())
def test_rooms_are_free_end_where_something_is_met_and_leave_nothing_out(some, data):
    built = build(frame(*some).document())
    there = bodies(built)
    part = data.draw(st.sampled_from(sorted(there)))
    face = data.draw(st.sampled_from([f for pair in FACES.values() for f in pair]))
    plane = data.draw(st.sampled_from(PLANES))
    axis = next(a for a in AXES if face in FACES[a])
    k, n = AXES.index(axis), AXES.index(frame_of(plane).normal)
    out = 1 if face == FACES[axis][1] else -1
    try:
        found = free_rooms(built, part, face, plane, T)
    except DocumentError:
        rooms = ()
    else:
        rooms = found.rooms
        assert (found.axis, found.outward) == (axis, out)
        assert found.at == pytest.approx(built.parts[part].span_box.span(axis)[out > 0])
    first = [min(p.span_box.span(a)[0] for p in built.made.values()) for a in AXES]
    last = [max(p.span_box.span(a)[1] for p in built.made.values()) for a in AXES]
    for room in rooms:
        assert met(there, box_of(room)) < 1e-3
        assert room.span(AXES[n])[1] - room.span(AXES[n])[0] > T - 0.05
        for i, a in enumerate(AXES):
            for end in (0, 1):
                value = room.bounds[a][end].value
                edge = (last if end else first)[i]
                beyond = value > edge - 0.1 if end else value < edge + 0.1
                # across the board it ends where something is met, or with the design
                if i != n:
                    assert beyond or met(there, box_of(room, 0.5, a, end)) > 1e-3
    # wherever a board could begin on the face, one of the rooms is there
    own = built.parts[part].span_box
    for _ in range(4):
        at = [data.draw(st.floats(own.low[i] + 0.5, own.high[i] - 0.5)) for i in range(3)]
        at[k] = own.span(axis)[out > 0] + out * 0.6
        low, high = [x - 0.5 for x in at], [x + 0.5 for x in at]
        if n == k:
            low[k], high[k] = sorted((own.span(axis)[out > 0] + out * 0.1, own.span(axis)[out > 0] + out * T))
        else:
            low[n], high[n] = at[n] - T / 2, at[n] + T / 2
            if low[n] < own.low[n] or high[n] > own.high[n]:
                continue
        # a wall thinner than the probe beside it does not hide behind rounding
        if met(there, cube(low, high)) > 0:
            continue
        inside = [
            r
            for r in rooms
            if all(r.span(a)[0] - 0.6 <= at[i] <= r.span(a)[1] + 0.6 for i, a in enumerate(AXES) if i != n or n == k)
            and r.span(AXES[n])[0] - 0.1 <= low[n]
            and high[n] <= r.span(AXES[n])[1] + 0.1
        ]
        assert inside, (part, face, plane, at, [r.bounds for r in rooms])


@pytest.mark.parametrize("name", sorted(EXAMPLES))
def test_entries_of_a_room_are_worth_what_it_says(name):
    document = example(name)
    built = build(document)
    values = solve(document, leg_faces=leg_face)
    tried = 0
    for key in sorted(built.made)[-4:]:
        for plane in PLANES:
            for face in ("left", "back", "top"):
                try:
                    found = free_rooms(built, key, face, plane, 6.0)
                except DocumentError as error:
                    assert error.message
                    continue
                for room in found.rooms[:4]:
                    for axis, (low, high) in room.bounds.items():
                        for bound in (low, high):
                            value = evaluate(bound.entry, document.unit, "length", EntryScope(values, axis)).value
                            assert value == pytest.approx(bound.value, abs=1e-3), (bound, axis)
                            tried += 1
    assert tried > 20 or len(built.made) < 3


def cabinet():
    d = Draft("cabinet", "ply12")
    d.size("width", "400 mm").size("depth", "300 mm").size("height", "500 mm")
    d.board("left", "ply12", "facing_side", "0", ("0", "depth"), ("0", "height"))
    d.board("right", "ply12", "facing_side", "width", ("0", "depth"), ("0", "height"), face="right")
    d.board("floor", "ply12", "lying", "40 mm", ("left.right", "right.left"), ("0", "depth"))
    d.board("top", "ply12", "lying", "height", ("left.right", "right.left"), ("0", "depth"), face="top")
    return d


def entries(room):
    return {a: (low.entry, high.entry) for a, (low, high) in room.bounds.items()}


def test_a_shelf_between_two_sides_runs_from_face_to_face_and_from_edge_to_edge():
    found = free_rooms(build(cabinet().document()), "left", "right", "lying", T)
    assert entries(found.rooms[0]) == {
        "x": ("left.right", "right.left"),
        "y": ("left.front", "left.back"),
        "z": ("floor.top", "top.bottom"),
    }
    assert entries(found.rooms[1])["z"] == ("left.bottom", "floor.bottom")
    assert [r.bounds["y"][0].part for r in found.rooms] == ["", ""] and found.rooms[0].bounds["x"][1].part == "right"


def test_the_pressed_part_is_named_first_and_what_is_met_after_it():
    d = cabinet().board("back", "ply12", "facing_front", "depth", ("0", "width"), ("0", "height"), face="front")
    for part, face, low in (("left", "right", "left.front"), ("right", "left", "right.front"), ("floor", "top", "floor.front")):
        room = free_rooms(build(d.document()), part, face, "lying", T).rooms[0]
        assert entries(room)["y"] == (low, "back.front")


@pytest.mark.parametrize(("plane", "what"), [("lying", "z"), ("facing_front", "y")])
def test_before_a_face_that_looks_out_a_board_is_as_long_as_a_hand_or_two(plane, what):
    room = free_rooms(build(cabinet().document()), "left", "left", plane, T).rooms[0]
    assert room.span("x") == (-OPEN, 0.0) and room.open == ("x",)
    assert entries(room)["x"][1] == "left.left" and what in "yz"


def test_a_gap_that_is_too_thin_says_how_wide_it_is():
    d = cabinet().board("shelf", "ply12", "lying", "floor.top + 9 mm", ("left.right", "right.left"), ("0", "depth"))
    for thickness, least in ((9.1, False), (8.9, True)):
        for part, face in (("left", "right"), ("floor", "top")):
            found = free_rooms(build(d.document()), part, face, "lying", thickness)
            assert any(entries(r)["z"] == ("floor.top", "shelf.bottom") for r in found.rooms) == least
            if not least:
                assert found.why == f"Only 9 mm are free before {part}, and the board is 9.1 mm thick"


def test_what_slopes_says_so():
    d = cabinet()
    d.turn("top", "y", "20 deg", x="0", z="500 mm")
    built = build(d.document())
    with pytest.raises(DocumentError, match="top slopes here"):
        free_rooms(built, "top", "bottom", "lying", T)
    room = free_rooms(built, "left", "right", "lying", T).rooms[0]
    assert met(bodies(built), box_of(room)) < 1e-3


def test_in_a_folded_tray_a_board_stands_between_its_walls():
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray", gap="0.3 mm")
    for side in ("left", "right", "front", "back"):
        d.flange("tray", side, side, "40 mm")
    built = build(d.document())
    inner = ("tray.left.inner", "tray.right.inner")
    lying = free_rooms(built, "tray", "left.inner", "lying", T).rooms[0]
    assert entries(lying)["x"] == inner and entries(lying)["y"] == ("tray.front.inner", "tray.back.inner")
    assert lying.bounds["z"][0].slopes  # the round of the bends
    # a board that stands on the plate ends at the round of the bends, one above them at the walls
    on_plate = free_rooms(built, "tray", "top", "facing_front", T).rooms[0]
    assert 0.3 < on_plate.span("x")[0] - lying.span("x")[0] < 2 and on_plate.bounds["z"][0].entry == "tray.top"
    for room in (lying, on_plate):
        assert met(bodies(built), box_of(room)) < 1e-3


def test_what_lies_aside_takes_no_room():
    d = cabinet().board("jig", "ply12", "lying", "200 mm", ("left.right", "right.left"), ("0", "depth"), aside=True)
    room = free_rooms(build(d.document()), "left", "right", "lying", T).rooms[0]
    assert entries(room)["z"] == ("floor.top", "top.bottom")


@pytest.mark.parametrize(
    ("part", "face", "words"),
    [("left", "middle", "left has no face middle"), ("nobody", "left", "no part nobody"), ("left", "lip.inner", "left has no place there")],
)
def test_a_face_that_is_not_there_is_named(part, face, words):
    with pytest.raises(DocumentError, match=words):
        free_rooms(build(cabinet().document()), part, face, "lying", T)


def test_what_will_last_is_named_first():
    """A board, a rod and a bought block end at one place: the board's name is written, unless another one is pressed or bounds the room."""
    d = Draft("d", "ply12")
    d.data["stocks"]["bar"] = {"kind": "bar", "name": "bar", "material": "steel", "nominal": d.entry("10 mm"), "order": 9, "lengths": {}}
    d.block("motor", ("0", "100 mm"), ("0", "50 mm"), ("0", "40 mm"))
    d.rod("axle", "bar", "x", ("0", "100 mm"), y="200 mm", z="200 mm")
    d.board("shelf", "ply12", "lying", "300 mm", ("0", "100 mm"), ("0", "60 mm"))
    document = d.document()
    places = named_places(solve(document, leg_faces=leg_face), "x")
    assert written(places, 100.0, "mm") == "shelf.right" and written(places, 100.0, "mm", "axle") == "axle.right"
    assert written([p for p in places if p.part != "shelf"], 100.0, "mm") == "motor.right"
    assert written(places, 100.1, "mm") == "100.1 mm" and written(places, 100.0 + 5e-7, "mm") == "shelf.right"


@pytest.mark.parametrize(
    ("mm", "unit", "text"),
    [
        (12.3456, "mm", "12.346 mm"),
        (-0.0, "mm", "0 mm"),
        (25.4, "in", "1 in"),
        (3.175, "in", "0.125 in"),
        (-10, "mm", "-10 mm"),
        (100, "mm", "100 mm"),
    ],
)
def test_figures_are_written_as_they_are_typed(mm, unit, text):
    assert figure(mm, unit) == text


@pytest.mark.parametrize("angle", [17, 45, 90, 163])
@pytest.mark.parametrize("axis", ["x", "y", "z"])
def test_a_staircase_holds_all_of_what_slopes_and_not_much_more(axis, angle):
    d = Draft("d", "ply12").board("b", "ply12", "facing_side", "40 mm", ("10 mm", "190 mm"), ("20 mm", "260 mm"))
    d.turn("b", axis, f"{angle} deg", **{a: "30 mm" for a in "xyz" if a != axis})
    built = build(d.document())
    found, body = taken(built), solid(built.made["b"])
    boxes = [cube(low, high) for low, high in zip(found.low - 1e-3, found.high + 1e-3, strict=True)]
    around = manifold3d.Manifold.batch_boolean(boxes, manifold3d.OpType.Add)
    assert (body - around).volume() < 1e-3
    assert (len(boxes) == 1) == (angle == 90) == bool(found.exact.all())
    whole = body.bounding_box()
    if axis != "x" and angle in (17, 163):  # turned about x it stays in its plane, and its steps are as long as it is wide
        assert around.volume() < 0.6 * (whole[3] - whole[0]) * (whole[4] - whole[1]) * (whole[5] - whole[2])
