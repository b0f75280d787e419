"""Where three boards meet: who gets the cube, and that it stays attached whoever does."""

from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.design.draft import Draft
from zygon.making.pipeline import build

T = 11.8


def corner(starts, order=("front", "left", "floor"), counts=(5, 5, 5), size=(120.0, 120.0, 120.0), high=(0, 0, 0)):
    """Three boards of one thickness at one corner, that at the high end along the axes that ``high`` says; ``starts`` say who begins at the
    corner in front-left, front-floor, left-floor."""
    draft = Draft("corner", "ply12")
    x, y, z = size
    behind = (0, "front.front") if high[1] else ("front.back", y)
    beside = (0, "left.left") if high[0] else ("left.right", x)
    at = [(n - T) * h for n, h in zip(size, high, strict=True)]
    boards = {
        "front": ("facing_front", at[1], (0, x), (0, z)),
        "left": ("facing_side", at[0], behind, (0, z)),
        "floor": ("lying", at[2], beside, behind),
    }
    for name in order:
        draft.board(name, "ply12", *boards[name])
    for (a, b), first, count in zip((("front", "left"), ("front", "floor"), ("left", "floor")), starts, counts, strict=True):
        draft.joint("finger", a, b, fit=0, count=count, starts="a" if first == a else "b")
    return draft


def cube_owner(draft, size=(120.0, 120.0, 120.0), high=(0, 0, 0)):
    """The part that is there in the middle of the corner's cube."""
    built = build(draft.document(), nominal=True)
    holders = []
    for key, part in built.parts.items():
        # the cube is the block of T along x, y and z in that corner; each board's flat starts at its span's low corner
        from shapely.geometry import Point

        from zygon.geometry.boolean import region_polygon

        middle = {a: n - T / 2 if h else T / 2 for a, n, h in zip("xyz", size, high, strict=True)}
        at = Point(*(middle[a] - part.span_box.span(a)[0] for a in (part.frame.u, part.frame.v)))
        if any(region_polygon(p).contains(at) for p in part.flat.pieces):
            holders.append(key)
        assert len(part.flat.pieces) == 1
    assert len(holders) == 1
    return holders[0]


WON = [
    (("front", "front", "left"), "front"),
    (("left", "floor", "floor"), "floor"),
    (("left", "front", "left"), "left"),
    (("left", "floor", "left"), "left"),
]


@pytest.mark.parametrize("high", list(product((0, 1), repeat=3)))
@pytest.mark.parametrize(("starts", "winner"), WON)
def test_the_cube_goes_to_the_board_with_most_finger_ends_beside_it_in_every_corner(starts, winner, high):
    """Both ends of an odd number of fingers are the same board's, so all eight corners are alike."""
    assert cube_owner(corner(starts, high=high), high=high) == winner
    size = (120.0, 170.0, 140.0)
    assert cube_owner(corner(starts, size=size, counts=(7, 5, 9), high=high), size, high) == winner


@pytest.mark.parametrize("order", [("front", "left", "floor"), ("floor", "left", "front"), ("left", "floor", "front")])
def test_a_tie_goes_by_order(order):
    # each of the three owns one finger end next to the cube
    assert cube_owner(corner(("front", "floor", "left"), order)) == order[0]


@given(
    st.tuples(*(st.sampled_from(p) for p in (("front", "left"), ("front", "floor"), ("left", "floor")))),
    st.tuples(*[st.integers(2, 24)] * 3),
    st.tuples(*[st.floats(40, 200)] * 3),
)
def test_one_board_holds_the_cube_and_none_comes_loose(starts, counts, size):
    assert cube_owner(corner(starts, counts=counts, size=size)) in ("front", "left", "floor")


def test_without_the_third_joint_there_is_no_cube_and_the_overlap_is_said():
    from zygon.check.run import check

    draft = corner(("front", "front", "left"))
    del draft.data["joints"]["left-floor"]
    codes = {p.fault.code for p in check(build(draft.document()))}
    assert codes <= {"overlap"}
    assert all(len(p.flat.pieces) == 1 for p in build(draft.document()).parts.values())


def test_a_board_that_runs_on_past_the_corner_keeps_its_own_wood():
    draft = Draft("tall", "ply12")
    draft.board("front", "ply12", "facing_front", 0, (0, 200), (0, 60))
    draft.board("left", "ply12", "facing_side", 0, ("front.back", 150), (0, 100))
    draft.joint("finger", "front", "left", fit="0.4 mm", count=5)
    built = build(draft.document())
    left = built.parts["left"].flat
    # above the joint's run the side is as it was: it does not reach forward over the lower front
    assert built.joints["front-left"].run == pytest.approx((0, 60))
    above = max(y for x, y in left.pieces[0].outer.points if x < -1)
    assert above <= 60 + 1e-6
