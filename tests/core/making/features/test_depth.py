"""Depth on faces and borings in edges: features, layers, solids, both sides of a flat, and what remains."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid
from tests.explore import drawn
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.flats.flat import turned_over
from zygon.making.flats.layers import layers_of, volume_of
from zygon.making.pipeline import build

T = 11.8


def board(**features):
    """A lying board 200 by 120 with features on it."""
    d = Draft("board", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    for key, (kind, more) in features.items():
        u, v = more.pop("u", ("centre", "0")), more.pop("v", ("centre", "0"))
        d.feature("p", key, kind, u, v, **more)
    return d


def flat(draft):
    built = build(draft.document())
    assert not built.faults, [f.message for f in built.faults]
    return built.parts["p"].flat


CASES = [
    ("pocket", {"width": 60, "height": 30, "depth": 4}, 60 * 30 * 4),
    ("groove", {"width": 6, "depth": 5}, 6 * 5 * 200),
    ("groove", {"width": 6, "depth": 5, "along": "v"}, 6 * 5 * 120),
    ("groove", {"width": 6, "depth": 5, "length": 50}, 6 * 5 * 50),
    ("rebate", {"edge": "back", "width": 10, "depth": 6}, 10 * 6 * 200),
    ("rebate", {"edge": "left", "width": 10, "depth": 6, "stop_low": 20, "stop_high": 30}, 10 * 6 * 70),
    ("hole", {"diameter": 20, "depth": 5}, 3.14159265 * 100 * 5),
    ("edge_hole", {"edge": "right", "diameter": 6, "depth": 25}, 3.14159265 * 9 * 25),
]


@pytest.mark.parametrize(("kind", "more", "gone"), CASES)
@pytest.mark.parametrize("face", ["top", "bottom"])
def test_a_feature_with_depth_takes_away_what_its_sizes_say(kind, more, gone, face):
    """Referee for the solid: the manifold library's volume."""
    draft = board(f=(kind, {**more, "face": face}))
    part = build(draft.document()).parts["p"]
    whole = 200 * 120 * T
    assert whole - volume_of(part.flat) == pytest.approx(gone, rel=1e-3)
    assert whole - solid(part).volume() == pytest.approx(gone, rel=1e-2)  # circles are chords there
    if kind != "edge_hole":
        assert part.flat.pockets[0].face == ("a" if face == "top" else "b")


@settings(max_examples=drawn(40))
@given(
    st.lists(
        st.tuples(st.floats(20, 180), st.floats(20, 100), st.floats(8, 40), st.floats(1, 5), st.sampled_from(["top", "bottom"])),
        min_size=1,
        max_size=6,
    )
)
def test_layers_and_solid_agree_whatever_pockets_overlap(pockets):
    draft = board(
        **{
            f"f{i}": (
                "pocket",
                {"width": w, "height": w / 2 + 5, "depth": d, "face": face, "radius": 0, "u": ("left", x), "v": ("front", y)},
            )
            for i, (x, y, w, d, face) in enumerate(pockets)
        }
    )
    part = build(draft.document()).parts["p"]
    layers = layers_of(part.flat)
    assert layers[0].low == 0 and layers[-1].high == pytest.approx(T)
    assert all(a.high == b.low for a, b in zip(layers, layers[1:], strict=False))
    assert solid(part).volume() == pytest.approx(volume_of(part.flat), rel=1e-6)


def test_pockets_of_one_depth_are_one_contour_and_of_two_depths_two():
    same = {"width": 60, "height": 30, "depth": 4}
    one = flat(board(a=("pocket", {**same, "u": ("centre", "-20")}), b=("pocket", {**same, "u": ("centre", "20")})))
    assert len(one.pockets) == 1 and abs(one.pockets[0].contour.area) == pytest.approx(100 * 30)
    assert {"feature:p:a", "feature:p:b"} == set(one.pockets[0].contour.owners)
    two = flat(board(a=("pocket", same), b=("pocket", {**same, "depth": 5})))
    assert [p.depth for p in two.pockets] == [4, 5]


def test_turned_over_twice_is_nothing_and_once_is_mirrored_left_to_right():
    first = flat(
        board(
            a=("pocket", {"width": 20, "height": 10, "depth": 4, "u": ("left", "30"), "v": ("front", "25")}),
            b=("mark_line", {"length": 30, "face": "bottom"}),
        )
    )
    over = turned_over(first)
    assert over.seen == "b" and over.marks and not first.marks
    (pocket,) = over.pockets
    assert pocket.face == "a" and pocket.contour.bounds == pytest.approx((160, 20, 180, 30))
    again = turned_over(over)
    assert again.seen == "a" and again.pieces == first.pieces
    assert again.pockets[0].contour.bounds == pytest.approx(first.pockets[0].contour.bounds)


@pytest.mark.parametrize(
    ("kind", "more", "words"),
    [
        ("pocket", {"width": 20, "height": 20, "depth": 12}, "12 mm deep comes out on the other side"),
        ("pocket", {"width": 20, "height": 20, "depth": -1}, "a depth of -1 mm"),
        ("hole", {"diameter": 8, "depth": 11.8}, "comes out on the other side"),
        ("rebate", {"edge": "top", "width": 5, "depth": 5}, "it has no edge at its top"),
        ("rebate", {"edge": "left", "width": 250, "depth": 5}, "takes the whole board"),
        ("rebate", {"edge": "left", "width": 10, "depth": 5, "stop_low": 80, "stop_high": 80}, "nothing is left of it"),
        ("edge_hole", {"edge": "right", "diameter": 12, "depth": 20}, "breaks out of an edge"),
        ("edge_hole", {"edge": "right", "diameter": 6, "depth": 300}, "comes out at the far edge"),
        ("edge_hole", {"edge": "right", "diameter": 6, "depth": 20, "height": "1 mm"}, "breaks out of an edge"),
    ],
)
def test_a_depth_that_cannot_be_is_said_and_cuts_nothing(kind, more, words):
    built = build(board(f=(kind, more)).document())
    assert any(words in f.message for f in built.faults), [f.message for f in built.faults]
    assert built.parts["p"].flat.plain


def test_a_bore_in_an_edge_that_meets_a_pocket_is_said():
    draft = board(
        a=("edge_hole", {"edge": "right", "diameter": 6, "depth": 60}),
        b=("pocket", {"width": 30, "height": 30, "depth": 7, "u": ("right", "40")}),
    )
    (fault,) = [p.fault for p in check(build(draft.document())) if p.fault.code == "bore_meets"]
    assert "60 mm deep in its right edge runs into a pocket" in fault.message


def test_work_on_the_face_that_lies_down_alone_asks_to_be_laid_the_other_way():
    draft = board(a=("pocket", {"width": 30, "height": 30, "depth": 4, "face": "bottom"}))
    (fault,) = [p.fault for p in check(build(draft.document())) if p.fault.code == "underside"]
    draft.data["parts"]["p"]["up"] = fault.mends[0].patch[0]["value"]
    assert check(build(draft.document())) == []
