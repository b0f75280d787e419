"""Faces of mirror images are named as they stand, everywhere: in entries, in places that are measured, and in the list that a maker drills by."""

import itertools

import numpy as np
import pytest

from tests.core.making.blanks.test_copies import box
from zygon.design.draft import Draft
from zygon.design.layout import Place
from zygon.design.upgrade import load
from zygon.exchange.drilling import drill_rows, write_drilling
from zygon.geometry.frame import AXES, FACES
from zygon.making.asked.measured import place_of
from zygon.making.flats.face_words import end_words, face_word, own_words
from zygon.making.flats.flat import edge_bore_axis
from zygon.making.pipeline import build

MIDDLE = ("centre", "0")
WORDS = [(axis, k, word) for axis, pair in FACES.items() for k, word in enumerate(pair)]
SPANS = {"facing_front": ("x", "z"), "facing_side": ("y", "z"), "lying": ("x", "y")}


def one(plane, *mirrors, group=False, turn=""):
    """A board with an odd hole in it, mirrored once or more, each mirror taking along what came before; a follower reads the last image."""
    d = Draft("d", "ply12")
    if group:
        d.group("g", x="7 mm", y="-11 mm", z="3 mm")
    d.board("p", "ply12", plane, "20 mm", ("30 mm", "90 mm"), ("40 mm", "110 mm"))
    d.feature("p", "h", "hole", ("centre", "-13 mm"), ("centre", "9 mm"), diameter="6 mm")
    if turn:
        d.turn("p", turn, "90 deg", **{a: "0" for a in AXES if a != turn})
    of = ["part:p"]
    for n, axis in enumerate(mirrors):
        d.mirror(f"m{n}", axis, "200 mm", *of, names={"p": f"q{n}"})
        of = [*of, f"copy:m{n}"] if n + 1 < len(mirrors) else of
    return d


def room_box(part):
    """Low and high of a part's blank in the room, from its own box and place."""
    box_ = part.span_box
    corners = [part.place.point([(box_.low, box_.high)[k][i] for i, k in enumerate(ks)]) for ks in itertools.product((0, 1), repeat=3)]
    return np.min(corners, axis=0), np.max(corners, axis=0)


@pytest.mark.parametrize("plane", SPANS)
@pytest.mark.parametrize("mirrors", ["x", "y", "z"])
def test_every_face_of_an_image_is_where_its_name_says(plane, mirrors):
    """The referee is the box that the image takes up in the room."""
    draft = one(plane, *mirrors)
    for axis, _, word in WORDS:
        draft.size(f"s_{word}", f"q0.{word} - p.{FACES[axis][0]}")
    built = build(draft.document())
    assert not built.faults, [f.message for f in built.faults]
    low, high = room_box(built.parts["p@m0.1"])
    own_low, _ = room_box(built.parts["p"])
    for axis, k, word in WORDS:
        i = AXES.index(axis)
        assert built.values[f"/sizes/s_{word}/entry"].value == pytest.approx((low, high)[k][i] - own_low[i])


@pytest.mark.parametrize("plane", SPANS)
@pytest.mark.parametrize("mirrors", ["x", "y", "z", "xy", "yz", "zx", "xx", "xyz", "xyx"])
@pytest.mark.parametrize("group", [False, True])
def test_places_words_and_edges_of_images_are_named_as_they_stand(plane, mirrors, group):
    built = build(one(plane, *mirrors, group=group).document())
    assert not built.faults, [f.message for f in built.faults]
    assert len(built.parts) > len(mirrors)
    for part in built.parts.values():
        low, high = room_box(part)
        m = np.array(part.matrix)
        for axis, k, word in WORDS:
            i = AXES.index(axis)
            spot = place_of(built, Place(part=part.key, what="face", name=word))
            assert spot.centre[i] == pytest.approx((low, high)[k][i]), (part.key, word)
        ways = [
            (-m[:3, 0], end_words(part)[0][0]),
            (m[:3, 0], end_words(part)[0][1]),
            (-m[:3, 1], end_words(part)[1][0]),
            (m[:3, 1], end_words(part)[1][1]),
            (m[:3, 2], face_word(part, "a")),
            (-m[:3, 2], face_word(part, "b")),
        ]
        for way, word in ways:
            i = int(np.argmax(abs(way)))
            assert word == FACES[AXES[i]][int(way[i] > 0)], (part.key, way)
        # what the flat's own edges are called leads to the same faces
        bounds = part.flat.bounds
        for own, word in own_words(part).items():
            segments = [s for s in part.flat.pieces[0].outer.segments() if s.owner in (f"edge:{own}", own)]
            for s in segments:
                middle = m @ np.array([(s.p[0] + s.q[0]) / 2, (s.p[1] + s.q[1]) / 2, part.flat.thickness / 2, 1.0])
                i = AXES.index(next(a for a, pair in FACES.items() if word in pair))
                k = FACES[AXES[i]].index(word)
                assert middle[i] == pytest.approx((low, high)[k][i], abs=1e-6), (part.key, own, word)
            assert segments or own in (part.frame.face_a, part.frame.face_b), (own, bounds)


def test_turns_exchange_no_names():
    for axis in AXES:
        built = build(one("lying", turn=axis).document())
        assert own_words(built.parts["p"]) == {w: w for w in own_words(built.parts["p"])}


def test_a_shelf_between_a_side_and_its_image_reaches_to_both_inner_faces():
    draft = box()
    draft.board("shelf", "sa", "lying", "100 mm", ("side.right", "side_right.left"), ("front.back", "back.front"))
    shelf = build(draft.document()).parts["shelf"].span_box
    assert (shelf.span("x"), shelf.span("y")) == ((12, 408), (12, 488))


def test_no_value_moves_when_old_documents_name_images_by_their_originals_words():
    """What schema 4 called ``side_right.right`` was the image of the original's right face: the left one, as it stands."""
    draft = box()
    draft.board(
        "shelf",
        "sa",
        "lying",
        "100 mm",
        ("side.right", "2*(side_right.right - side.right)/2 + side.right"),
        ("front.back", "back.back - 1 mm"),
    )
    draft.size("room", "0").clearance(
        "c",
        {"part": "side", "what": "face", "name": "right"},
        {"part": "side@mx.1", "what": "edge", "name": "right-top"},
        "x",
        least="1 mm",
    )
    draft.data["sizes"]["room"]["measured"] = {
        "a": {"part": "front", "what": "face", "name": "back"},
        "b": {"part": "front@my.1", "what": "face", "name": "back"},
        "along": "y",
    }
    draft.data["schema"] = 4
    document = load(draft.data)
    texts = document.parts["shelf"].spans["x"].high.text, document.parts["shelf"].spans["y"].high.text
    assert texts == ("2*(side_right.left - side.right)/2 + side.right", "back.front - 1 mm")
    assert document.clearances["c"].b.name == "left-top" and document.sizes["room"].measured.b.name == "front"
    built = build(document)
    shelf = built.parts["shelf"].span_box
    assert (shelf.span("x")[1], shelf.span("y")[1]) == (408, 487)
    assert built.values["/sizes/room/entry"].value == pytest.approx(476)


# -- the list that a maker drills by ---------------------------------------------------------------------------------


def drilled(kind, boards, *, group="", ring=False, mirrors=("x", "y")):
    """A box of a front, a side and a floor joined by ``kind`` and mirrored; in a group that is moved and turned where so said."""
    d = Draft("d", "ply12", "ply18", cutter="saw")
    if group:
        d.group("g", x="31 mm", z="5 mm")
    d.size("width", "420 mm").size("depth", "300 mm")
    d.board("front", "ply12", "facing_front", "0", ("0", "width"), ("0", "240 mm"))
    d.board("side", "ply18", "facing_side", "0", ("front.back", "depth - front.thickness"), ("0", "200 mm"))
    d.board("floor", "ply12", "lying", "40 mm", ("side.right", "width - side.thickness"), ("front.back", "depth - front.thickness"))
    for a, b in boards:
        more = {"depth_face": "8 mm"} if kind == "dowels" else {}
        d.joint(kind, a, b, number=3, inset="30 mm", **more)
    names = {"x": {"side": "side_right"}, "y": {"front": "back"}}
    for axis in mirrors:
        of = "part:side" if axis == "x" else "part:front"
        d.mirror(f"m{axis}", axis, "width / 2" if axis == "x" else "depth / 2", of, names=names[axis])
    if group == "turned":
        d.turn("g", "z", "37 deg", "groups", x="0", y="0")
    if ring:
        d.data["copies"]["r"] = {
            "kind": "row",
            "name": "r",
            "of": ["group:g"],
            "axis": "x",
            "number": d.entry("2"),
            "spacing": d.entry("900 mm"),
            "order": 9,
        }
    return d


def followed(built, part, row):
    """Where in the room a maker who follows a row sets the drill: from the ends and faces that it names, as the part stands at rest.

    The part's own box, seen where its image stands before anything was turned, is all that this knows.
    """
    box_ = part.box
    spot = {}
    for distance, named in ((row.along, row.along_from), (row.across, row.across_from)):
        word = named.split()[0]
        axis = next(a for a, pair in FACES.items() if word in pair)
        high = FACES[axis].index(word) ^ (axis in part.mirrored)  # back to the original's own room
        low, top = box_.span(axis)
        spot[axis] = top - distance if high else low + distance
    axis = next(a for a in AXES if a not in spot)
    word = row.side
    assert word in FACES[axis], (row, axis)
    high = FACES[axis].index(word) ^ (axis in part.mirrored)
    spot[axis] = box_.span(axis)[high]
    return np.array(part.place.point([spot[a] for a in AXES]))


def holes(part):
    """Where the holes really are: the mouths of edge bores and both ends of holes in faces, in the room."""
    m, t = np.array(part.matrix), part.flat.thickness
    found = [np.array((*edge_bore_axis(b)[0], 1.0)) for b in part.flat.bores]
    rounds = [c.as_circle for c in part.flat.inside if c.as_circle] + [
        p.contour.as_circle for p in part.flat.pockets if p.contour.as_circle
    ]
    found += [np.array((u, v, w, 1.0)) for u, v, _ in rounds for w in (0.0, t)]
    return [(m @ p)[:3] for p in found]


ARRANGEMENTS = [("", False), ("moved", False), ("turned", False), ("turned", True)]


@pytest.mark.parametrize("kind", ["dowels", "screws"])
@pytest.mark.parametrize(("group", "ring"), ARRANGEMENTS)
@pytest.mark.parametrize("mirrors", [(), ("x",), ("y",), ("x", "y")])
def test_who_follows_the_list_bores_where_the_holes_are(kind, group, ring, mirrors):
    built = build(
        drilled(kind, [("side", "front"), ("floor", "front"), ("floor", "side")], group=group, ring=ring, mirrors=mirrors).document()
    )
    assert not [f for f in built.faults if f.severity == "error"], [f.message for f in built.faults]
    count = 0
    for part in built.parts.values():
        true = holes(part)
        for row in drill_rows(built, part):
            count += 1
            at = followed(built, part, row)
            assert min(np.linalg.norm(at - h) for h in true) < 1e-4, (part.key, row)
    assert count >= 9


@pytest.mark.parametrize("mirrors", [("x",), ("y",), ("x", "y")])
def test_the_list_names_the_ends_of_an_image_as_it_stands(mirrors):
    """In a box that is not turned, the words are those of the room."""
    built = build(drilled("dowels", [("side", "front"), ("floor", "side")], mirrors=mirrors).document())
    for part in built.parts.values():
        low, high = room_box(part)
        for row in drill_rows(built, part):
            for distance, named in ((row.along, row.along_from), (row.across, row.across_from)):
                word = named.split()[0]
                i = AXES.index(next(a for a, pair in FACES.items() if word in pair))
                k = FACES[AXES[i]].index(word)
                place = low[i] + distance if k == 0 else high[i] - distance
                assert any(abs(h[i] - place) < 1e-4 for h in holes(part)), (part.key, row)


def test_a_mirrored_side_is_drilled_from_the_front_as_its_original_is():
    """Not symmetric front to back, so that the image is a part of its own: both are measured from the same end."""
    draft = drilled("dowels", [("side", "front")], mirrors=("x",))
    draft.feature("side", "cut", "corner", MIDDLE, MIDDLE, corner="back-top", style="cut", size="30 mm")
    draft.feature("side", "sunk", "rebate", MIDDLE, MIDDLE, edge="bottom", width="6 mm", depth="5 mm", face="right")
    built = build(draft.document())
    own, image = (sorted(drill_rows(built, built.parts[k]), key=lambda r: (r.along, r.across)) for k in ("side", "side@mx.1"))
    assert {r.side for r in own} == {r.side for r in image} == {"front"}
    assert [(r.along, r.along_from, r.across, r.across_from.replace("left", "right")) for r in own] == [
        (r.along, r.along_from, r.across, r.across_from.replace("left", "right")) for r in image
    ]
    assert "left face" in {r.across_from for r in own} and "right face" in {r.across_from for r in image}
    assert write_drilling(built).count("side_right") == 3
