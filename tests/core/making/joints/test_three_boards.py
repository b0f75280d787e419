"""Where three boards meet: who gets the cube, and that it stays attached whoever does."""

from itertools import product

import manifold3d
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid
from zygon.design.draft import Draft
from zygon.making.pipeline import build

T = 11.8


def corner(starts, order=("front", "left", "floor"), counts=(5, 5, 5), size=(120.0, 120.0, 120.0), high=(0, 0, 0), short=False, half=False):
    """Three boards of one thickness at one corner, that at the high end along the axes that ``high`` says; ``starts`` say who begins at the
    corner in front-left, front-floor, left-floor. ``short`` ones leave room for a board at the other end;
    the ``half`` of a floor ends before its middle."""
    draft = Draft("corner", "ply12")
    x, y, z = size
    behind = (0, "front.front") if high[1] else ("front.back", y - T * short)
    beside = (0, "left.left") if high[0] else ("left.right", x - T * short)
    at = [(n - T) * h for n, h in zip(size, high, strict=True)]
    boards = {
        "front": ("facing_front", at[1], (0, x), (0, z)),
        "left": ("facing_side", at[0], behind, (0, z)),
        "floor": ("lying", at[2], ("left.right", x * 0.45) if half else beside, behind),
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


# each of the three begins at one of the joints, so that without more none would have the cube: it goes by order
ROUND = [(("front", "floor", "left"), "front"), (("left", "front", "floor"), "front")]


@pytest.mark.parametrize(("starts", "winner"), [*WON, *ROUND])
@pytest.mark.parametrize("which", ["left", "front", "floor", "left and half a floor"])
def test_a_mirror_image_s_cube_goes_to_the_image_of_who_has_it(which, starts, winner):
    """What is mirrored meets at the far corner what stays; there as at the near one a single board has the cube."""
    half = "half" in which
    draft = corner(starts, counts=(5, 3 if half else 5, 5), short=not half, half=half)
    mirrored = [name for name in ("left", "front", "floor") if name in which]
    axis = {"left": "x", "front": "y", "floor": "z"}[mirrored[0]]
    draft.mirror("m", axis, "60 mm", *(f"part:{name}" for name in mirrored))
    built = build(draft.document(), nominal=True)
    assert not [f for f in built.faults if f.severity == "error"]
    for high in (0, 1):
        here = {**dict.fromkeys("xyz", T / 2), axis: 120 - T / 2 if high else T / 2}
        holders = [k for k, p in built.parts.items() if covers(p, [here[a] for a in "xyz"])]
        assert holders == [f"{winner}@m.1" if high and winner in mirrored else winner], (high, holders)
    assert all(len(p.flat.pieces) == 1 for p in built.parts.values())


@pytest.mark.parametrize(("starts", "winner"), [*WON, *ROUND])
def test_every_corner_of_a_box_of_turned_copies_has_one_owner(starts, winner):
    """Front and left once more, half a turn about the middle: their joints with the floor run the other way round there."""
    draft = corner(starts, short=True)
    draft.repeat("ring", "ring", "part:left", "part:front", axis="z", at={"x": "60 mm", "y": "60 mm"}, number="2", angle="360 deg")
    first = "a" if starts[0] == "front" else "b"
    draft.data["joints"]["right"] = draft.data["joints"]["front-left"] | {"b": "left@ring.1", "starts": first, "order": 3}
    built = build(draft.document(), nominal=True)
    assert not [f for f in built.faults if f.severity == "error"]
    for x in (T / 2, 120 - T / 2):
        for y in (T / 2, 120 - T / 2):
            there = {"left": "left", "front": "front", "floor": "floor"}
            if x > 60:
                there["left"] = "left@ring.1"
            if y > 60:
                there["front"] = "front@ring.1"
            assert [k for k, p in built.parts.items() if covers(p, [x, y, T / 2])] == [there[winner]], (x, y)
    assert all(len(p.flat.pieces) == 1 for p in built.parts.values())


def covers(part, point):
    """Whether a place in the room is in a part's wood."""
    return (solid(part) ^ manifold3d.Manifold.cube([1, 1, 1], center=True).translate(point)).volume() > 0.5
