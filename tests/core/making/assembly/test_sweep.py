"""Who stands in whose way, on all six ways, for boards in all planes, at every limit; boxes reckoned by hand are the referee."""

import itertools

import pytest

from zygon.design.draft import Draft
from zygon.making.assembly.plan import assembly, way_word
from zygon.making.assembly.sweep import TOUCH, WAYS, along, blockers, opposite, runs_into, silhouette, solid_parts, tolerance_of
from zygon.making.pipeline import build

PLANES = ["lying", "facing_front", "facing_side"]


def two(plane, other, shift, hole=False):
    """Board a, 12 thick, about the origin's corner, and board b beside it, moved by ``shift``."""
    d = Draft("two", "ply12")
    d.data["stocks"]["ply12"].pop("measured", None)
    for key, p, at in (("a", plane, (0, 0, 0)), ("b", other, shift)):
        x, y, z = at
        if p == "lying":
            d.board(key, "ply12", p, z, (x, x + 70), (y, y + 40))
        elif p == "facing_front":
            d.board(key, "ply12", p, y, (x, x + 70), (z, z + 50))
        else:
            d.board(key, "ply12", p, x, (y, y + 40), (z, z + 50))
    if hole:
        d.feature("b", "h", "rectangle", ("centre", 0), ("centre", 0), width="20", height="16")
    return build(d.document()).parts


def expected(a, b, way, reach, tolerance=TOUCH):
    """By their boxes alone."""
    (al, ah), (bl, bh) = a.reaches, b.reaches
    k = "xyz".index(way[0])
    for i in range(3):
        low = al[i] - (reach if i == k and way[1] < 0 else 0)
        high = ah[i] + (reach if i == k and way[1] > 0 else 0)
        if min(high, bh[i]) - max(low, bl[i]) <= tolerance:
            return False
    return True


SHIFTS = [
    (90, 3, 2),
    (-100, -5, 4),
    (4, 61, -3),
    (-6, -71, 5),
    (3, 5, 81),
    (7, -4, -93),
    (90, 61, 3),
    (69.9, 2, 1),
    (2, 39.9, 3),
    (75, 39.97, 2),
]


@pytest.mark.parametrize(("plane", "other"), list(itertools.product(PLANES, repeat=2)))
@pytest.mark.parametrize("shift", SHIFTS)
def test_solid_boards_are_in_the_way_as_their_boxes_are(plane, other, shift):
    parts = two(plane, other, shift)
    a, b = parts["a"], parts["b"]
    for way in WAYS:
        for reach in (5.0, 30.0, 200.0):
            assert runs_into(a, b, way, reach, TOUCH) == expected(a, b, way, reach), (way, reach)
            assert runs_into(b, a, way, reach, TOUCH) == expected(b, a, way, reach), (way, reach)


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(("over", "hit"), [(0.04, False), (0.06, True)])
def test_contact_is_no_collision(way, over, hit):
    # b stands just beyond a on the way, off to the side but for a strip of ``over``
    k = "xyz".index(way[0])
    side = (k + 1) % 3
    shift = [0.0, 0.0, 0.0]
    sizes = [70.0, 40.0, 12.0]
    shift[k] = way[1] * 100.0
    shift[side] = sizes[side] - over
    parts = two("lying", "lying", tuple(shift))
    assert runs_into(parts["a"], parts["b"], way, 300.0, TOUCH) == hit
    # and it is reached only as far as it goes
    gap = 100.0 - sizes[k]
    shift[side] = 0.0
    parts = two("lying", "lying", tuple(shift))
    assert runs_into(parts["a"], parts["b"], way, gap + over, TOUCH) == hit


def test_what_fits_through_a_hole_goes_through_it():
    d = Draft("two", "ply12")
    d.board("a", "ply12", "lying", 100, (25, 43), (12, 26))
    d.board("b", "ply12", "lying", 0, (0, 70), (0, 40))
    d.feature("b", "h", "rectangle", ("left", 34), ("front", 19), width="20", height="16")
    parts = build(d.document()).parts
    assert not runs_into(parts["a"], parts["b"], ("z", -1), 200.0, TOUCH)
    for u, v in ((36, 19), (32, 19), (34, 22), (34, 16)):  # its middle no longer over the hole's
        d.data["parts"]["b"]["features"]["h"] |= {
            "u": {"origin": "left", "offset": d.entry(u)},
            "v": {"origin": "front", "offset": d.entry(v)},
        }
        parts = build(d.document()).parts
        assert runs_into(parts["a"], parts["b"], ("z", -1), 200.0, TOUCH), (u, v)
    seen = silhouette(parts["b"], "z")
    assert seen.area == pytest.approx((70 - TOUCH) * (40 - TOUCH) - (20 + TOUCH) * (16 + TOUCH), rel=1e-6)
    assert silhouette(parts["b"], "x").bounds == pytest.approx((TOUCH / 2, TOUCH / 2, 40 - TOUCH / 2, 11.8 - TOUCH / 2))


def test_both_stand_in_each_other_s_way_there_and_back_and_dowels_leave_one_axis():
    parts = two("lying", "lying", (90, 3, 2))
    found = blockers(build(Draft("x", "ply12").document()), list(parts.values()))
    assert found.of("a", ("x", 1), frozenset("b")) == {"b"} and found.of("b", ("x", -1), frozenset("a")) == {"a"}
    assert not found.of("a", ("x", -1), frozenset("b")) and not found.of("a", ("x", 1), frozenset())
    from tests.core.making.joints.pairs import pair

    built = build(pair("dowels").document())
    blocks = blockers(built, solid_parts(built))
    # a's edge stands on b's back: they part along y alone
    assert [w for w in WAYS if not blocks.of("a", w, frozenset("b"))] == [("y", 1)]
    assert [w for w in WAYS if not blocks.of("b", w, frozenset("a"))] == [("y", -1)]


@pytest.mark.parametrize(
    ("axis", "turn", "lies"),
    [
        ("x", None, "x"),
        ("y", ("z", 90), "x"),
        ("x", ("z", 90), "y"),
        ("z", ("x", -90), "y"),
        ("x", ("z", 30), "none"),
        ("z", ("z", 30), "z"),
        ("y", ("z", 180), "y"),
    ],
)
def test_an_axis_of_a_turned_part_lies_along_the_room_s_or_slants(axis, turn, lies):
    d = Draft("t", "ply12")
    d.board("a", "ply12", "lying", 0, (0, 70), (0, 40))
    if turn:
        d.turn("a", turn[0], f"{turn[1]} deg", **{x: "0" for x in "xyz" if x != turn[0]})
    assert along(build(d.document()).parts["a"], axis) == lies


def test_ways_have_words_and_ways_back():
    assert [way_word(w) for w in WAYS] == ["up", "to the right", "to the left", "to the back", "to the front", "down"]
    assert [opposite(w) for w in WAYS] == [("z", -1), ("x", -1), ("x", 1), ("y", -1), ("y", 1), ("z", 1)]


def test_a_part_is_shown_thirty_past_the_rest_and_goes_home_on_its_shortest_way():
    d = Draft("slot", "ply12")
    d.board("base", "ply12", "lying", 0, (0, 300), (0, 100))
    d.board("wall", "ply12", "facing_side", 200, (0, 100), ("base.top", 90))
    found = assembly(build(d.document()))
    (step,) = found.steps
    # the wall leaves up: its foot has to pass the base's top by thirty; to the right it would be 100 and thirty
    assert found.first == ("base",) and step.parts == ("wall",) and step.way == ("z", -1)
    assert step.distance == pytest.approx(30.0)


@pytest.mark.parametrize(("fit", "bite"), [("-0.2 mm", 0.2), ("0", 0.0), ("0.3 mm", 0.0)])
def test_only_a_press_fit_bites(fit, bite):
    d = Draft("two", "ply12", cutter="router")
    d.board("a", "ply12", "facing_side", 0, (0, 200), (0, 100))
    d.board("b", "ply12", "facing_front", 0, (0, 300), (0, 100))
    d.joint("finger", "a", "b", fit=fit)
    assert tolerance_of(build(d.document())) == {frozenset("ab"): pytest.approx(TOUCH + bite)}
