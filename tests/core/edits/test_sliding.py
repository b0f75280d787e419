"""Panels that slide, drawers and axles, over every way they can stand: they are clear of everything, are held, and come out."""

import itertools

import pytest
from pydantic import ValidationError

from zygon.check.overlap import overlap_faults
from zygon.design.draft import Draft
from zygon.design.drawers import place_drawer
from zygon.design.patch import patched
from zygon.design.starters import starter
from zygon.design.workshop import BARS
from zygon.edits.axles import place_axle
from zygon.edits.operations import OPERATIONS
from zygon.edits.placing import join_all, place_board
from zygon.edits.sliding import sliding_panel
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.making.asked.contacts import touches
from zygon.making.pipeline import build
from zygon.making.rooms.catches import catches
from zygon.making.rooms.free import free_rooms

SIZE = {"x": 300, "y": 240, "z": 180}
PLANES = ("lying", "facing_side", "facing_front")
STANDS = {"x": "facing_side", "y": "facing_front", "z": "lying"}
OUTS = [(plane, out) for plane in PLANES for axis in (frame_of(plane).u, frame_of(plane).v) for out in FACES[axis]]


def walls(*without, first="x", cutter="router"):
    """A box of boards 11.8 mm thick but for some: those across ``first`` run through, then the next axes' stand between them."""
    d = Draft("box")
    d.data["cutter"] = cutter
    d.data["stocks"] |= BARS
    order = [first, *(a for a in AXES if a != first)]
    for n, axis in enumerate(order):
        for side, word in enumerate(FACES[axis]):
            if word in without:
                continue
            spans = []
            for other in sorted(set(AXES) - {axis}):
                low, high = FACES[other]
                between = order.index(other) < n
                spans.append(
                    (
                        f"{low}.{high}" if between and low not in without else "0",
                        f"{high}.{low}" if between and high not in without else f"{SIZE[other]} mm",
                    )
                )
            u, v = (frame_of(STANDS[axis]).u, frame_of(STANDS[axis]).v)
            by_axis = dict(zip(sorted(set(AXES) - {axis}), spans, strict=True))
            d.board(word, "ply12", STANDS[axis], "0" if not side else f"{SIZE[axis]} mm", by_axis[u], by_axis[v], face=word)
    return d.document()


def holes_of(part):
    """The diameters of the bores through a flat."""
    return [c.bounds[2] - c.bounds[0] for c in part.flat.inside]


def inside(plane):
    frame = frame_of(plane)
    return {a: (f"{FACES[a][0]}.{FACES[a][1]}", f"{FACES[a][1]}.{FACES[a][0]}") for a in (frame.u, frame.v)}


def slid(plane, out, end, *, first="x", play="0.5 mm"):
    """A box without the wall at ``end`` (0 low, 1 high) of the panel's normal, and a panel there that slides out at ``out``."""
    word = FACES[frame_of(plane).normal][end]
    document = walls(word, first=first)
    built = build(document)
    wall = next(w for w in ("left", "front", "bottom") if w not in (word, out) and w not in FACES[frame_of(plane).normal])
    at = f"{wall}.{word}" if wall in built.parts else word
    ends = {w: w for a in (frame_of(plane).u, frame_of(plane).v) for w in FACES[a]}
    label, patch = sliding_panel(built, "ply6", plane, inside(plane), word, at, out, ends, play=play)
    return word, label, build(patched(document.dump(), patch))


@pytest.mark.parametrize("end", [0, 1])
@pytest.mark.parametrize(("plane", "out"), OUTS)
def test_a_panel_slides_out_at_every_end_however_it_lies(plane, out, end):
    word, label, built = slid(plane, out, end)
    panel = next(k for k, p in built.flats.items() if p.record.stock == "ply6")
    part, through = built.flats[panel], built.flats[out]
    assert label == f"Panel {part.path}, slides out at {out}" and not built.faults and not overlap_faults(built)
    axis = next(a for a in AXES if out in FACES[a])
    side = FACES[axis].index(out)
    normal = frame_of(plane).normal
    # it closes flush, the wall is cut down to it, and it has wood on its other side
    assert part.span_box.span(axis)[side] == pytest.approx(through.span_box.span(axis)[side])
    assert through.span_box.span(normal)[end] == pytest.approx(part.span_box.span(normal)[1 - end])
    outer = [built.flats[w].span_box.span(normal)[end] for w in FACES[axis] if w != out]
    assert all(abs(o - part.span_box.span(normal)[end]) == pytest.approx(5.9) for o in outer), word
    # grooves: as wide as the panel and its play, open where it comes out
    grooves = {j.b: j for j in built.document.joints.values()}
    assert set(grooves) == {w for a in (frame_of(plane).u, frame_of(plane).v) for w in FACES[a]} - {out}
    for wall, joint in grooves.items():
        along = wall not in FACES[axis]
        assert joint.kind == "groove" and joint.ends == (f"open_{('low', 'high')[side]}" if along else "through")
    # moved out by its whole length it meets nothing
    for other in built.flats.values():
        if other.key in (panel, out):
            continue
        assert other.key in grooves or not _in_the_way(part, other, axis, side)


def _in_the_way(part, other, axis, side):
    k = AXES.index(axis)
    (low, high), (low_o, high_o) = part.reaches, other.reaches
    swept = [list(low), list(high)]
    swept[side][k] += (2 * side - 1) * (high[k] - low[k])
    return all(swept[0][i] < high_o[i] - 0.01 and low_o[i] < swept[1][i] - 0.01 for i in range(3))


@pytest.mark.parametrize("play", ["0.3 mm", "1 mm"])
def test_its_play_is_left_at_its_edges_and_faces(play):
    _, _, built = slid("lying", "front", 1, play=play)
    panel = next(p for p in built.flats.values() if p.record.stock == "ply6")
    mm = float(play.split()[0])
    low, high = panel.reaches
    assert len(built.joints) == 3
    # grooves are a third of 11.8 mm deep, to half a millimetre
    assert low[0] == pytest.approx(11.8 - 4 + mm) and high[0] == pytest.approx(300 - 11.8 + 4 - mm)


def test_a_mirrored_wall_that_is_cut_down_becomes_a_board_of_its_own():
    d = Draft("pencils")
    d.data["cutter"] = "router"
    document = d.document()
    for args, more in [
        (("ply12", "lying", {"x": ("0", "300 mm"), "y": ("0", "200 mm")}, "bottom", "0 mm"), {}),
        (
            ("ply12", "facing_side", {"y": ("floor.front", "floor.back"), "z": ("floor.top", "floor.top + 60 mm")}, "left", "floor.left"),
            {"pair": True, "between": ("floor.left", "floor.right")},
        ),
        (
            ("ply12", "facing_front", {"x": ("left.right", "right.left"), "z": ("floor.top", "left.top")}, "front", "floor.front"),
            {"pair": True, "between": ("floor.front", "floor.back")},
        ),
    ]:
        document = patched(document.dump(), place_board(build(document), *args, **more)[1])
    built = build(document)
    pairs = {p.path: k for k, p in built.flats.items()}
    for key in ("left", "front"):
        document = patched(document.dump(), join_all(build(document), [(key, t.part, "finger") for t in touches(build(document), key)])[1])
    built = build(document)
    assert {frozenset(p) for j in built.joints.values() for p in j.pairs} == {
        frozenset((a, b))
        for a, b in [
            *itertools.product((pairs["left"], pairs["right"]), (pairs["front"], pairs["back"])),
            *((w, "floor") for n, w in pairs.items() if n != "floor"),
        ]
    }
    for out in ("front", "back", "left", "right"):
        _, patch = sliding_panel(
            built, "ply6", "lying", {"x": ("left.right", "right.left"), "y": ("front.back", "back.front")}, "top", "left.top", out, pairs
        )
        made = build(patched(document.dump(), patch))
        assert not made.faults and not overlap_faults(made), out
        by_path = {p.path: p for p in made.flats.values()}
        opposite = {"front": "back", "back": "front", "left": "right", "right": "left"}[out]
        assert by_path[out].span_box.high[2] == pytest.approx(71.8 - 11.8) and by_path[opposite].span_box.high[2] == pytest.approx(71.8)


@pytest.mark.parametrize("kind", ["cabinet", "tray", "stool"])
def test_in_every_room_a_panel_slides_or_it_is_said_why_and_nothing_comes_apart(kind):
    document = starter(kind, kind)
    built = build(document)
    tried, slid_out, refused = set(), 0, 0
    for key, face, plane in itertools.product(built.made, (w for p in FACES.values() for w in p), PLANES):
        frame = frame_of(plane)
        try:
            rooms = free_rooms(built, key, face, plane, 5.9).rooms
        except DocumentError:
            continue
        for room in rooms:
            walls_of = {FACES[a][i]: room.bounds[a][i].part for a in (frame.u, frame.v) for i in (0, 1) if room.bounds[a][i].part}
            sign = plane, tuple(sorted(walls_of.items()))
            if len(walls_of) < 3 or sign in tried:
                continue
            tried.add(sign)
            spans = {a: (room.bounds[a][0].entry, room.bounds[a][1].entry) for a in (frame.u, frame.v)}
            caught = catches(built, room, plane, 5.9)[-1]
            for out in (*FACES[frame.u], *FACES[frame.v]):
                try:
                    _, patch = sliding_panel(built, "ply6", plane, spans, caught.face, caught.entry, out, walls_of)
                except DocumentError as error:
                    assert "@" not in str(error), str(error)
                    refused += 1
                    continue
                made = build(patched(document.dump(), patch))
                assert not [f for f in made.faults if f.severity == "error"], (sign, out)
                slid_out += 1
    assert slid_out and refused, (slid_out, refused)


@pytest.mark.parametrize(
    ("change", "entry", "words"),
    [
        ({"out": "top"}, "out", "slides out at one of left, right, front, back"),
        ({"walls": {"left": "left", "front": "front"}}, "walls", "Nothing holds the panel at its"),
        ({"walls": {"left": "left", "right": "right", "back": "back", "front": "gone"}}, "walls", "no part gone"),
        ({"stock": "gold"}, "stock", "cut from a sheet"),
    ],
)
def test_what_cannot_slide_is_said(change, entry, words):
    asked = {
        "stock": "ply6",
        "plane": "lying",
        "spans": inside("lying"),
        "face": "top",
        "at": "left.top",
        "out": "front",
        "walls": {w: w for w in ("left", "right", "front", "back")},
    } | change
    with pytest.raises(DocumentError, match=words) as refused:
        sliding_panel(build(walls("top")), **asked)
    assert refused.value.entry == entry


@pytest.mark.parametrize("cutter", ["router", "laser"])
@pytest.mark.parametrize("number", [1, 3])
@pytest.mark.parametrize("out", ["front", "back", "left", "right"])
def test_drawers_fill_an_opening_to_every_side(out, number, cutter):
    document = walls(out, first="z", cutter=cutter)
    axis = next(a for a in AXES if out in FACES[a])
    cross = "y" if axis == "x" else "x"
    side = FACES[axis].index(out)
    opposite = FACES[axis][1 - side]
    face = f"bottom.{out}"
    inner = f"{opposite}.{out}"
    room = {
        cross: (f"{FACES[cross][0]}.{FACES[cross][1]}", f"{FACES[cross][1]}.{FACES[cross][0]}"),
        "z": ("bottom.top", "top.bottom"),
        axis: (face, inner) if side == 0 else (inner, face),
    }
    label, patch = place_drawer(document, "ply6", "ply6", room, out, number=number, play="0.8 mm")
    built = build(patched(document.dump(), patch))
    assert label == ("Drawer drawer" if number == 1 else "3 drawers") and not built.faults and not overlap_faults(built)
    assert len(built.flats) == 5 + 5 * number
    fronts = sorted((p for p in built.flats.values() if p.record.name == "drawer_front"), key=lambda p: p.reaches[0][2])
    inside_z, inside_c = (11.8, SIZE["z"] - 11.8), (11.8, SIZE[cross] - 11.8)
    height = (inside_z[1] - inside_z[0] - (number + 1) * 0.8) / number
    for n, front in enumerate(fronts):
        assert front.reaches[0][2] == pytest.approx(inside_z[0] + 0.8 + n * (height + 0.8))
        assert front.reaches[1][2] - front.reaches[0][2] == pytest.approx(height)
        k = AXES.index(cross)
        assert (front.reaches[0][k], front.reaches[1][k]) == (pytest.approx(inside_c[0] + 0.8), pytest.approx(inside_c[1] - 0.8))
        k = AXES.index(axis)
        assert front.reaches[side][k] == pytest.approx(0 if side == 0 else SIZE[axis])
    # its back stops at the carcass, and nothing of it reaches into a wall
    backs = [p for p in built.flats.values() if p.record.name == "drawer_back"]
    stop = built.flats[opposite].span_box.span(axis)[side]
    assert all(p.reaches[1 - side][AXES.index(axis)] == pytest.approx(stop) for p in backs)
    held = {built.document.joints[j.key].kind for j in built.joints.values()}
    assert held == {"finger", "groove" if cutter == "router" else "tab_slot"} and len(built.joints) == 8


@pytest.mark.parametrize(
    ("change", "entry"),
    [
        ({"stock": "gold"}, "stock"),
        ({"bottom": "gold"}, "bottom"),
        ({"out": "top"}, "out"),
        ({"number": 0}, "number"),
        ({"number": 101}, "number"),
        ({"corners": "glue"}, "corners"),
    ],
)
def test_a_drawer_that_cannot_be_is_refused_by_name(change, entry):
    room = {"x": ("left.right", "right.left"), "y": ("bottom.front", "back.front"), "z": ("bottom.top", "top.bottom")}
    asked = {"stock": "ply6", "bottom": "ply6", "room": room, "out": "front"} | change
    with pytest.raises(DocumentError) as refused:
        place_drawer(walls("front"), **asked)
    assert refused.value.entry == entry


def test_two_drawers_beside_each_other_have_names_of_their_own():
    document = walls("front", first="z")
    room = {"x": ("left.right", "150 mm"), "y": ("bottom.front", "back.front"), "z": ("bottom.top", "top.bottom")}
    other = room | {"x": ("150 mm", "right.left")}
    for r in (room, other):
        document = patched(document.dump(), place_drawer(document, "ply6", "ply6", r, "front")[1])
    built = build(document)
    assert not built.faults and not overlap_faults(built)
    assert set(document.groups) == {"drawer", "drawer_2"} and "drawer_2_bottom" in document.parts


@pytest.mark.parametrize("face", [w for pair in FACES.values() for w in pair])
def test_an_axle_goes_through_all_that_lies_across_and_turns_in_it(face):
    document = walls()
    built = build(document)
    axis = next(a for a in AXES if face in FACES[a])
    across = [a for a in AXES if a != axis]
    low, high = (dict(zip(AXES, built.flats[face].reaches[e], strict=True)) for e in (0, 1))
    at = {axis: 0.0, across[0]: (low[across[0]] + high[across[0]]) / 2 + 3, across[1]: low[across[1]] + 41.7}
    label, patch = place_axle(built, "steel6", face, face, tuple(at[a] for a in AXES), catch=5, step=5)
    made = build(patched(document.dump(), patch))
    assert label == "Axle through 2 boards" and not made.faults and not overlap_faults(made)
    rod = made.document.parts["axle"]
    assert rod.axis == axis and rod.at[across[0]].text.startswith("mid(") and rod.at[across[1]].text.endswith(" + 40 mm")
    ends = FACES[axis]
    assert (rod.span.low.text, rod.span.high.text) == (f"{ends[0]}.{ends[0]}", f"{ends[1]}.{ends[1]}")
    (bore,) = made.document.bores.values()
    assert set(bore.parts) == set(ends) and bore.diameter.text == "6 mm"
    for end in ends:  # a hole 0.2 mm wider than the rod in each
        (hole,) = holes_of(made.flats[end])
        assert hole == pytest.approx(6.2)


def test_an_axle_through_a_pair_is_cut_once_and_reaches_its_other_hand():
    d = Draft("stand")
    d.data["stocks"] |= BARS
    document = d.document()
    document = patched(
        document.dump(), place_board(build(document), "ply12", "lying", {"x": ("0", "300 mm"), "y": ("0", "200 mm")}, "bottom", "0 mm")[1]
    )
    document = patched(
        document.dump(),
        place_board(
            build(document),
            "ply12",
            "facing_side",
            {"y": ("floor.front", "floor.back"), "z": ("floor.top", "floor.top + 90 mm")},
            "left",
            "floor.left",
            pair=True,
            between=("floor.left", "floor.right"),
        )[1],
    )
    _, patch = place_axle(build(document), "beech12", "left", "left", (0.0, 100.0, 50.0), catch=1, step=1)
    made = build(patched(document.dump(), patch))
    assert not made.faults and not overlap_faults(made)
    assert made.document.parts["axle"].span.high.text == "right.right"
    assert made.document.parts["axle"].at["y"].text == "mid(left.front, left.back)"
    assert {p.path: len(holes_of(p)) for p in made.flats.values()} == {"floor": 0, "left": 1, "right": 1}


@pytest.mark.parametrize(
    ("change", "entry"),
    [
        ({"stock": "ply6"}, "stock"),
        ({"part": "gone"}, "face"),
        ({"face": "centre"}, "face"),
        ({"at": (0.0, 900.0, 20.0)}, "at"),
    ],
)
def test_an_axle_that_nothing_holds_is_refused_by_name(change, entry):
    asked = {"stock": "steel6", "part": "left", "face": "left", "at": (0.0, 100.0, 90.0)} | change
    with pytest.raises(DocumentError) as refused:
        place_axle(build(walls()), **asked)
    assert refused.value.entry == entry


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("end", [0, 1])
def test_a_pair_stands_as_far_from_either_end_and_is_named_by_its_hands(plane, end):
    document = walls(*FACES[frame_of(plane).normal])
    axis = frame_of(plane).normal
    word = FACES[axis][end]
    a, b = ("bottom" if axis != "z" else "left"), ("top" if axis != "z" else "right")
    other = f"{a}.{FACES[axis][0]}", f"{b}.{FACES[axis][1]}"
    at = f"{other[end]} {'-' if end else '+'} 30 mm"
    _, patch = place_board(build(document), "ply6", plane, inside(plane), word, at, pair=True, between=other)
    made = build(patched(document.dump(), patch))
    assert not made.faults
    names = {"x": {"left", "right"}, "y": {"front", "back"}, "z": {"floor", "top"}}
    pair = {
        p.path: (p.reaches[0][AXES.index(axis)], p.reaches[1][AXES.index(axis)]) for p in made.flats.values() if p.record.stock == "ply6"
    }
    assert len(pair) == 2 and set(pair) & names[axis]
    assert sorted(pair.values()) == [
        (pytest.approx(30), pytest.approx(35.9)),
        (pytest.approx(SIZE[axis] - 35.9), pytest.approx(SIZE[axis] - 30)),
    ]
    with pytest.raises(DocumentError, match="between two places"):
        place_board(build(document), "ply6", plane, inside(plane), word, at, pair=True)


@pytest.mark.parametrize(
    "change", [{"at": [1e308, 0, 0]}, {"at": [float("nan"), 0, 0]}, {"step": 0}, {"step": 1e-300}, {"catch": -1}, {"catch": float("inf")}]
)
def test_an_axle_at_no_place_is_refused_before_it_is_worked_out(change):
    asked = {"operation": "place_axle", "stock": "steel6", "part": "left", "face": "left", "at": [0, 100, 90]} | change
    with pytest.raises(ValidationError):
        OPERATIONS["place_axle"].model_validate(asked)
