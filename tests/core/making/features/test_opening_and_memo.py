"""The opening between neighbours, and the memory of results."""

import threading

from hypothesis import given
from hypothesis import strategies as st

from zygon.geometry.frame import frame_of
from zygon.making.features.opening import opening
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
