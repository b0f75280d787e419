"""The opening between neighbours, and the memory of results."""

import threading

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.design.draft import Draft
from zygon.geometry.frame import frame_of
from zygon.making.features.opening import opening
from zygon.making.pipeline import build
from zygon.making.result.box import Box
from zygon.memo import Memo, digest

FRONT = Box((0.0, 0.0, 0.0), (400.0, 12.0, 200.0))
FRAME = frame_of("facing_front")


@given(st.lists(st.floats(0, 390), max_size=6), st.floats(1, 10))
def test_the_opening_is_the_widest_gap_and_touches_no_neighbour(places, thick):
    posts = [(Box((x, 12.0, 0.0), (x + thick, 100.0, 200.0)), "x") for x in places]
    low, high = opening(FRONT, FRAME, "back", posts)["x"]
    assert 0 <= low < high <= 400
    for box, _ in posts:
        a, b = box.span("x")
        assert b <= low + 1e-6 or a >= high - 1e-6
    edges = sorted([(0.0, 0.0), *((b.low[0], b.high[0]) for b, _ in posts), (400.0, 400.0)])
    reach, widest = 0.0, 0.0
    for a, b in edges:
        widest = max(widest, min(a, 400.0) - reach)
        reach = max(reach, b)
    assert abs((high - low) - widest) < 1e-6


def test_neighbours_on_the_other_face_or_beside_the_board_do_not_count():
    behind = (Box((100.0, 12.0, 0.0), (110.0, 100.0, 200.0)), "x")
    above = (Box((100.0, 12.0, 300.0), (110.0, 100.0, 400.0)), "x")
    assert opening(FRONT, FRAME, "front", [behind])["x"] == (0.0, 400.0)
    assert opening(FRONT, FRAME, "back", [above])["x"] == (0.0, 400.0)
    assert opening(FRONT, FRAME, "back", [behind])["x"] == (110.0, 400.0)


def test_a_shelf_takes_its_strip_of_the_height():
    shelf = (Box((0.0, 12.0, 40.0), (400.0, 100.0, 52.0)), "z")
    assert opening(FRONT, FRAME, "back", [shelf]) == {"x": (0.0, 400.0), "z": (52.0, 200.0)}


def wall():
    """A back of 400 x 300 mm with a hole in the middle of its opening, on its front face."""
    d = Draft("d", "ply12")
    d.board("back", "ply12", "facing_front", "100 mm", ("0", "400 mm"), ("0", "300 mm"))
    d.feature("back", "h", "hole", ("opening", "0"), ("opening", "0"), diameter="10 mm", face="front")
    return d


def hole(d):
    built = build(d.document())
    assert not built.faults, [f.message for f in built.faults]
    return pytest.approx(built.flats["back"].flat.inside[0].as_circle[:2], abs=1e-6)


T = 11.8


def test_copies_of_what_stands_on_a_face_take_their_strips_too():
    d = wall().board("divider", "ply12", "facing_side", "100 mm", ("0", "100 mm"), ("0", "300 mm"))
    assert hole(d) == ((100 + T + 400) / 2, 150)
    d.repeat("row", "row", "part:divider", number="3", spacing="70 mm", axis="x")
    assert hole(d) == ((240 + T + 400) / 2, 150)
    d.board("shelf", "ply12", "lying", "40 mm", ("0", "400 mm"), ("0", "100 mm"))
    d.repeat("up", "row", "part:shelf", number="2", spacing="50 mm", axis="z")
    assert hole(d) == ((240 + T + 400) / 2, (90 + T + 300) / 2)


@pytest.mark.parametrize("other", [False, True])
@pytest.mark.parametrize("along", ["u", "v"])
def test_one_axis_may_lie_in_the_opening_and_the_other_elsewhere(along, other):
    d = Draft("d", "ply12").board("back", "ply12", "facing_front", "100 mm", ("0", "400 mm"), ("0", "300 mm"))
    d.board("divider", "ply12", "facing_side", "100 mm", ("0", "100 mm"), ("0", "300 mm"))
    d.board("shelf", "ply12", "lying", "40 mm", ("0", "400 mm"), ("0", "100 mm"))
    u, v = (("opening", "0"), ("bottom", "33 mm")) if along == "u" else (("left", "33 mm"), ("opening", "0"))
    d.feature("back", "h", "hole", u, v, diameter="10 mm", face="front")
    if other:
        d.feature("back", "plain", "hole", ("left", "390 mm"), ("bottom", "290 mm"), diameter="4 mm")
    built = build(d.document())
    holes = [c.as_circle for c in built.flats["back"].flat.inside]
    expected = ((100 + T + 400) / 2, 33) if along == "u" else (33, (40 + T + 300) / 2)
    assert next(c[:2] for c in holes if abs(c[2] - 5) < 1e-6) == pytest.approx(expected)


@pytest.mark.parametrize("axis", ["x", "z"])
def test_a_mirror_image_takes_its_strip_where_it_stands(axis):
    d = wall()
    if axis == "x":
        d.board("post", "ply12", "facing_side", "60 mm", ("20 mm", "100 mm"), ("50 mm", "200 mm"))
        d.mirror("m", "x", "150 mm", "part:post")
        assert hole(d) == ((240 + 400) / 2, 150)  # from 60 to 71.8, and from 228.2 to 240
    else:
        d.board("shelf", "ply12", "lying", "50 mm", ("20 mm", "200 mm"), ("30 mm", "100 mm"))
        d.mirror("m", "z", "100 mm", "part:shelf")
        assert hole(d) == (200, (150 + 300) / 2)


def test_a_copy_that_stands_aslant_or_on_the_other_face_takes_nothing():
    d = wall().board("post", "ply12", "facing_side", "60 mm", ("20 mm", "100 mm"), ("50 mm", "200 mm"))
    d.repeat("ring", "ring", "part:post", number="8", axis="y", at={"x": "200 mm", "z": "150 mm"})
    assert hole(d) == (200, 150)  # between the first and the one across; what is turned a quarter or aslant takes no strip
    d = wall().board("behind", "ply12", "facing_side", "60 mm", ("111.8 mm", "200 mm"), ("0", "300 mm"))
    d.repeat("row", "row", "part:behind", number="4", spacing="70 mm", axis="x")
    assert hole(d) == (200, 150)


def test_a_wall_that_is_turned_with_its_neighbours_has_its_opening_where_it_would_have_it():
    plain = wall().board("post", "ply12", "facing_side", "60 mm", ("0", "100 mm"), ("0", "300 mm"))
    plain.repeat("row", "row", "part:post", number="2", spacing="90 mm", axis="x")
    expected = ((150 + T + 400) / 2, 150)
    assert hole(plain) == expected
    d = Draft("d", "ply12").group("g")
    d.board("back", "ply12", "facing_front", "100 mm", ("0", "400 mm"), ("0", "300 mm"))
    d.feature("back", "h", "hole", ("opening", "0"), ("opening", "0"), diameter="10 mm", face="front")
    d.board("post", "ply12", "facing_side", "60 mm", ("0", "100 mm"), ("0", "300 mm"))
    d.repeat("row", "row", "part:post", number="2", spacing="90 mm", axis="x")
    d.turn("g", "z", "33 deg", "groups", x="10 mm", y="20 mm")
    assert hole(d) == expected


def test_the_memory_is_bounded_and_forgets_what_was_used_longest_ago():
    memo = Memo(2)
    made = []

    def get(key):
        return memo.get(key, lambda: made.append(key) or key)

    assert get("a") == ("a", True) and get("b") == ("b", True) and get("a") == ("a", False)
    get("c")
    assert get("b") == ("b", True)
    assert made == ["a", "b", "c", "b"]


def test_the_memory_serves_threads():
    memo = Memo(50)
    wrong = []

    def work(offset):
        for i in range(400):
            key = str((i * 7 + offset) % 80)
            if memo.get(key, lambda key=key: int(key))[0] != int(key):
                wrong.append(key)

    threads = [threading.Thread(target=work, args=(n,)) for n in range(6)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert wrong == []


@given(st.lists(st.floats(allow_nan=False), min_size=2, max_size=5))
def test_a_digest_tells_values_and_their_order_apart(values):
    assert digest(*values) == digest(*values)
    if values != values[::-1]:
        assert digest(*values) != digest(*values[::-1])
    assert digest(tuple(values)) != digest(*values)
