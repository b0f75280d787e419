"""Features dragged on their face: where they are told to be is where they are cut, and an offset moved moves them, over every origin, plane and face."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.design.draft import Draft
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES, frame_of
from zygon.making.pipeline import build
from zygon.making.rooms.feature_pulls import feature_pulls

PLANES = ("lying", "facing_side", "facing_front")
SIZE = {"u": 260.0, "v": 180.0}


def board(plane, u, v, *, face=None, low=37.0, neighbour=False, others=()):
    frame = frame_of(plane)
    d = Draft("dragged")
    spans = [(f"{low} mm", f"{low + SIZE[w]} mm") for w in ("u", "v")]
    d.board("a", "ply12", plane, "20 mm", *spans)
    if neighbour:  # a board that stands on the middle of it, nearer to the low end
        across = {"x": "facing_side", "y": "facing_front", "z": "lying"}[frame.u]
        runs = {frame.v: spans[1], frame.normal: ("a." + FACES[frame.normal][1], f"a.{FACES[frame.normal][1]} + 50 mm")}
        other = frame_of(across)
        d.board("b", "ply12", across, f"{low + 60} mm", runs[other.u], runs[other.v])
    more = {} if face is None else {"face": face}
    d.feature("a", "f", "hole", u, v, diameter="5 mm", **more)
    for n, (ou, ov) in enumerate(others):
        d.feature("a", f"g{n}", "hole", ou, ov, diameter="5 mm", **more)
    return d


def middle_of(built):
    """Where the hole is cut, as (u, v) on the flat."""
    flat = built.flats["a"].flat
    contours = [c for c in flat.inside if all(s.owner == "feature:a:f" for s in c.segments())]
    (c,) = contours or flat.inside[:1]
    return (c.bounds[0] + c.bounds[2]) / 2, (c.bounds[1] + c.bounds[3]) / 2


def origins(plane):
    frame = frame_of(plane)
    return list(itertools.product((*FACES[frame.u], "centre", "opening", "room"), (*FACES[frame.v], "centre", "opening", "room")))


@pytest.mark.parametrize("neighbour", [False, True])
@pytest.mark.parametrize("plane", PLANES)
def test_it_is_told_where_it_is_cut_from_every_origin(plane, neighbour):
    for u, v in origins(plane):
        offset = {o: ("21 mm" if o != "room" else "95 mm") for o in (u, v)}
        built = build(board(plane, (u, offset[u]), (v, offset[v]), neighbour=neighbour).document())
        assert not built.faults
        found = feature_pulls(built, "a", "f")
        assert found.at[:2] == pytest.approx(middle_of(built)), (u, v)
        assert [p.value for p in found.pulls] == pytest.approx(found.at[:2])


@given(
    st.sampled_from(PLANES),
    st.sampled_from(range(25)),
    st.floats(-30, 30).map(lambda x: round(x, 2)),
    st.floats(-30, 30).map(lambda x: round(x, 2)),
)
def test_a_moved_offset_moves_the_cut_by_just_that_and_back_again_is_as_before(plane, which, du, dv):
    u, v = origins(plane)[which]
    texts = ["hand + 60 mm" if o == "room" else "hand + 3 mm" for o in (u, v)]
    d = board(plane, (u, texts[0]), (v, texts[1])).size("hand", "25 mm")
    before = feature_pulls(build(d.document()), "a", "f")
    for pull, by in zip(before.pulls, (du, dv), strict=True):
        text = pull.text.with_constant(pull.text.constant + pull.sign * by)
        d.data["parts"]["a"]["features"]["f"][pull.way]["offset"]["text"] = text
    after = feature_pulls(build(d.document()), "a", "f")
    for one, other, by, text in zip(before.pulls, after.pulls, (du, dv), texts, strict=True):
        assert other.value - one.value == pytest.approx(by, abs=1e-6) and not other.whole
        assert other.text.base == "hand"
        assert other.text.with_constant(other.text.constant - other.sign * by) == text


@pytest.mark.parametrize("plane", PLANES)
def test_it_catches_on_the_middles_and_on_others_of_its_own_face(plane):
    frame = frame_of(plane)
    low_u, low_v = FACES[frame.u][0], FACES[frame.v][0]
    faces = (frame.face_a, frame.face_b)
    d = board(
        plane,
        (low_u, "30 mm"),
        (low_v, "30 mm"),
        neighbour=True,
        others=[((FACES[frame.u][1], "40 mm"), (low_v, "77 mm"))],
        face=FACES[frame.normal][1],
    )
    other_face = next(f for f in faces if f != FACES[frame.normal][1])
    d.feature("a", "far", "pocket", (low_u, "111 mm"), (low_v, "99 mm"), width="6 mm", height="6 mm", depth="2 mm", face=other_face)
    built = build(d.document())
    along, across = feature_pulls(built, "a", "f").pulls
    told = {m.words: (round(m.value, 3), m.origin, m.text) for m in along.marks if not m.edge}
    # the neighbour takes its strip from 60 mm on: the wider of what is left lies above it
    stands = 60 + 11.8
    assert told == {
        "in the middle": (130.0, "centre", "0"),
        "in the middle of the opening": (round((stands + 260) / 2, 3), "opening", "0"),
        "in line with g0": (220.0, FACES[frame.u][1], "40 mm"),
    }
    assert {m.words: m.value for m in across.marks if not m.edge} == {"in the middle": 90.0, "in line with g0": 77.0}
    assert [(m.words, m.value) for m in along.marks if m.edge] == [(f"{low_u} edge", 0.0), (f"{FACES[frame.u][1]} edge", 260.0)]


def test_it_lies_on_the_face_that_it_is_cut_into():
    for face, height in (("top", 11.8), ("bottom", 0.0)):
        built = build(board("lying", ("left", "30 mm"), ("front", "30 mm"), face=face).document())
        assert feature_pulls(built, "a", "f").at[2] == pytest.approx(height)


@pytest.mark.parametrize(
    ("kind", "more", "ways"),
    [
        ("groove", {"along": "u", "width": "4 mm", "depth": "2 mm"}, ["v"]),
        ("groove", {"along": "v", "width": "4 mm", "depth": "2 mm"}, ["u"]),
        ("groove", {"along": "v", "width": "4 mm", "depth": "2 mm", "length": "30 mm"}, ["u", "v"]),
        ("edge_notch", {"edge": "left", "width": "9 mm", "depth": "4 mm"}, ["v"]),
        ("edge_hole", {"edge": "back", "diameter": "4 mm", "depth": "9 mm"}, ["u"]),
    ],
)
def test_what_lies_along_one_way_is_dragged_along_it_alone(kind, more, ways):
    d = Draft("d")
    d.board("a", "ply12", "lying", "0", ("0", "200 mm"), ("0", "100 mm"))
    d.feature("a", "f", kind, ("centre", "0"), ("centre", "0"), **more)
    found = feature_pulls(build(d.document()), "a", "f")
    assert [p.way for p in found.pulls] == ways and found.at[:2] == pytest.approx((100, 50))


@pytest.mark.parametrize(
    ("key", "name", "words"), [("a", "gone", "has no feature"), ("gone", "f", "has no feature"), ("a", "c", "no place to be dragged")]
)
def test_what_cannot_be_dragged_is_said(key, name, words):
    d = board("lying", ("left", "30 mm"), ("front", "30 mm"))
    d.feature("a", "c", "corner", ("centre", "0"), ("centre", "0"), corner="all", style="round", size="5 mm")
    with pytest.raises(DocumentError, match=words):
        feature_pulls(build(d.document()), key, name)


def test_an_offset_that_cannot_be_read_is_left_alone():
    d = board("lying", ("left", "30 mm"), ("front", "nothing + 2"))
    assert [p.way for p in feature_pulls(build(d.document()), "a", "f").pulls] == ["u"]


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize(
    ("kind", "more"),
    [
        ("hole", {"diameter": "21 mm"}),
        ("slot", {"length": "44 mm", "width": "12 mm", "angle": "30 deg"}),
        ("rectangle", {"width": "50 mm", "height": "31 mm", "angle": "-70 deg"}),
        ("pocket", {"width": "50 mm", "height": "31 mm", "depth": "4 mm"}),
        ("hand_hold", {"length": "90 mm", "width": "30 mm"}),
        ("mark_circle", {"diameter": "18 mm"}),
        ("mark_line", {"length": "40 mm", "angle": "15 deg"}),
    ],
)
def test_what_is_pulled_at_its_sides_grows_to_both_and_lies_where_it_is_cut(kind, more, plane):
    frame = frame_of(plane)
    d = board(plane, (FACES[frame.u][0], "121 mm"), (FACES[frame.v][0], "83 mm"))
    d.feature("a", "x", kind, (FACES[frame.u][0], "121 mm"), (FACES[frame.v][0], "83 mm"), **more)
    del d.data["parts"]["a"]["features"]["f"]
    found = feature_pulls(build(d.document()), "a", "x")
    assert found.extents
    for extent in found.extents:
        assert extent.pull.value == pytest.approx(float(more[extent.pull.face].split()[0]))
        for by in (0.0, 7.0):
            text = extent.pull.text.with_constant(extent.pull.text.constant + by)
            d.data["parts"]["a"]["features"]["x"][extent.pull.face]["text"] = text
            flat = build(d.document()).flats["a"].flat
            every = [*flat.inside, *(p.contour for p in flat.pockets), *(m.contour for m in flat.engraved)]
            drawn = [c for c in every if "feature:a:x" in c.owners]
            reach = [
                max(
                    (p[0] - found.at[0]) * s * extent.way[0] + (p[1] - found.at[1]) * s * extent.way[1]
                    for c in drawn
                    for p in c.flatten(0.001)
                )
                for s in (1, -1)
            ]
            assert reach == pytest.approx([(extent.pull.value + by) / 2] * 2, abs=2e-3)
        d.data["parts"]["a"]["features"]["x"][extent.pull.face]["text"] = more[extent.pull.face]


def test_a_measure_that_is_a_size_pulls_the_size_and_a_figure_catches_on_sizes():
    d = board("lying", ("left", "60 mm"), ("front", "60 mm")).size("shaft", "8 mm").size("other", "30 mm")
    d.feature("a", "s", "slot", ("left", "100 mm"), ("front", "100 mm"), length="40 mm", width="shaft")
    along, across = feature_pulls(build(d.document()), "a", "s").extents
    assert (along.pull.size, along.pull.whole, sorted(c.entry for c in along.pull.catches)) == ("", True, ["other", "shaft"])
    assert (across.pull.size, across.pull.pointer, across.pull.catches) == ("shaft", "/sizes/shaft/entry", ())
