"""Members that end on boards: cut in the face that they come to, whichever end, face and slope it is, in copies and groups too; and plates on their ends."""

import math

import numpy as np
import pytest

from tests.core.making.tube.frames import key, mm, section_of, stocked
from tests.core.making.tube.test_joined import body, fine
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.edits.end_plates import add_end_plate
from zygon.errors import DocumentError
from zygon.making.asked.contacts import touches
from zygon.making.asked.questions import offers_between
from zygon.making.pipeline import build
from zygon.making.solids.solids import gap_between, in_common

PLANES = {"lying": "z", "facing_front": "y", "facing_side": "x"}


def onto(section="square tube", plane="lying", sign=1, lean=0.0, end="b", reach=3.0, **more):
    """A member from 300 mm before a board to ``reach`` mm past the face that it comes to, leaning by so many degrees."""
    d = stocked(section)
    k = "xyz".index(PLANES[plane])
    u, v = ((k + 1) % 3, (k + 2) % 3)
    way = np.zeros(3)
    way[k], way[u] = sign * math.cos(math.radians(lean)), math.sin(math.radians(lean))
    face = ["bottom", "top", "front", "back", "left", "right"][2 * (2 - k) + (sign < 0)]
    d.board("board", "ply18", plane, "0", ("-200 mm", "200 mm"), ("-200 mm", "200 mm"), face=face)
    start, stop = -way * 300, way * reach
    ends = (start, stop) if end == "b" else (stop, start)
    d.frame("f", {"p": mm(ends[0]), "q": mm(ends[1])}, {"l": ("p", "q")})
    d.member("post", key(section), "f", "l", against="xyz"[v])
    d.joint("member_on_board", "post", "board", **more)
    return d


def clear(a, b) -> bool:
    """Whether two parts have no more in common than rounding leaves where they lie on one another, mm³."""
    shared = in_common(a, b)
    return shared is None or shared.volume < 1e-4


@pytest.mark.parametrize("end", "ab")
@pytest.mark.parametrize("sign", [1, -1])
@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize(("section", "lean"), [("square tube", 0.0), ("round tube", 25.0), ("angle", -30.0), ("flat", 40.0)])
def test_an_end_lies_on_the_face_that_it_comes_to(section, lean, plane, sign, end):
    built = build(onto(section, plane, sign, lean, end).document())
    assert not built.faults and not built.joints["post-board"].refused
    post, board = built.made["post"], built.made["board"]
    assert clear(post, board) and gap_between(post, board, 5) < 1e-3
    # all of the end lies in the face: the corners of its mesh there, and none beyond
    m = np.array(post.matrix)
    from zygon.making.kinds.registry import meshes_of

    along = (meshes_of(post)[0].positions @ m[:3, :3].T + m[:3, 3])[:, "xyz".index(PLANES[plane])] * sign
    assert along.max() == pytest.approx(0, abs=1e-6)
    assert (np.abs(along) < 1e-6).sum() >= 4
    assert body(post).saw(end).angle == pytest.approx(math.radians(abs(lean)), abs=1e-6)
    assert "overlap" not in [p.fault.code for p in check(built)]


@pytest.mark.parametrize("gap", [0, 2])
@pytest.mark.parametrize("reach", [-0.5, 0, 3, 17])
def test_a_gap_for_the_weld_stays_wherever_the_line_ends(reach, gap):
    built = build(onto(reach=reach, gap=f"{gap} mm").document())
    assert not built.faults
    assert gap_between(built.made["post"], built.made["board"], 5) == pytest.approx(gap, abs=1e-3)


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"reach": -30.0}, "ends 30 mm short of board"),
        ({"reach": 60.0}, "passes through board; it can be let through"),
        ({"lean": 88.0}, "runs alongside board"),
    ],
)
def test_what_does_not_come_to_the_board_says_why(more, words):
    built = build(onto(**more).document())
    assert words in built.joints["post-board"].refused
    assert [f.code for f in built.faults] == ["joint_refused"]
    aside = onto()
    aside.data["parts"]["board"]["spans"]["x"] = {"low": aside.entry("50 mm"), "high": aside.entry("300 mm")}
    assert "post passes beside board" in build(aside.document()).joints["post-board"].refused


def test_it_holds_in_groups_that_turn_and_in_copies():
    d = onto(lean=20.0)
    d.data["groups"]["g"] = {"name": "g", "order": 0}
    for record in (d.data["parts"]["post"], d.data["parts"]["board"], d.data["frames"]["f"]):
        record["group"] = "g"
    d.turn("g", "x", "35 deg", kind="groups", y="0", z="0")
    d.mirror("m", "x", "500 mm", "group:g", name="m")
    built = build(d.document())
    assert not built.faults
    for suffix in ("", *{k.removeprefix("post") for k in built.made if k.startswith("post@")}):
        post, board = built.made[f"post{suffix}"], built.made[f"board{suffix}"]
        assert clear(post, board) and gap_between(post, board, 5) < 1e-3
    assert len(built.joints["post-board"].pairs) == 2


def test_it_is_offered_where_a_member_meets_a_board_and_holds_it_there():
    d = onto(plane="facing_side")
    del d.data["joints"]["post-board"]
    built = build(d.document())
    (touch,) = touches(built, "post")
    assert touch.part == "board" and [o["kind"] for o in touch.offers] == ["member_on_board"]
    assert offers_between(d.document(), "board", "post")[0]["order"] == "ba"
    # an arm that lies on nothing is held by the upright board that it is welded to, and drops without
    for joined in (False, True):
        arm = onto(plane="facing_side")
        if not joined:
            del arm.data["joints"]["post-board"]
        assert bool({"drops", "tips"} & {p.fault.code for p in check(build(arm.document())) if p.fault.part == "post"}) is not joined


@pytest.mark.parametrize("wrong", [("board", "post"), ("post", "post2")])
def test_a_joint_on_a_board_is_between_a_member_and_a_board(wrong):
    d = onto()
    d.member("post2", key("square tube"), "f", "l")
    d.data["joints"]["post-board"] |= {"a": wrong[0], "b": wrong[1]}
    with pytest.raises(DocumentError, match="a member, which comes first"):
        d.document()


@pytest.mark.parametrize("end", "ab")
@pytest.mark.parametrize("backward", [False, True])
@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("section", ["square tube", "rectangular tube", "angle"])
def test_a_plate_on_an_end_keeps_the_length_and_follows_the_member(section, axis, backward, end):
    d = stocked(section)
    long = d.size("long", "700 mm") and ["0"] * 3
    far = [("long" if a == axis else "0") for a in "xyz"]
    ends = (far, long) if backward else (long, far)
    d.frame("f", {"p": tuple(ends[0]), "q": tuple(ends[1])}, {"l": ("p", "q")})
    d.member("leg", key(section), "f", "l", against="x" if axis == "z" else "z")
    document = d.document()
    document = patched(
        document.dump(),
        add_end_plate(build(document), "leg", end, "steel6" if "steel6" in document.sheets else "ply18", "30 mm", "9 mm")[1],
    )
    k = "xyz".index(axis)
    for long_mm in (700, 500):
        data = document.dump()
        data["sizes"]["long"]["entry"]["text"] = f"{long_mm} mm"
        built = build(patched(data, []))
        assert not built.faults
        leg, plate = built.made["leg"], built.made["leg_plate"]
        low, high = (np.array([f(p.reaches[i][k] for p in (leg, plate)) for f in (min, max)]) for i in (0, 1))
        assert (low.min(), high.max()) == pytest.approx((0, long_mm))
        at_far = (end == "b") != backward
        assert plate.reaches[at_far][k] == pytest.approx(long_mm if at_far else 0)
        fine_pair = gap_between(leg, plate, 5)
        assert fine_pair < 1e-3 and clear(leg, plate)
        sizes = sorted(round(plate.reaches[1][i] - plate.reaches[0][i], 3) for i in range(3) if i != k)
        assert sizes == pytest.approx(sorted(x + 60 for x in section_of(section).extents), abs=0.01)
        circles = [c.as_circle for c in built.flats["leg_plate"].flat.pieces[0].inner]
        assert len(circles) == 4 and all(c[2] == pytest.approx(4.5) for c in circles)
        spread = [max(c[i] for c in circles) - min(c[i] for c in circles) for i in (0, 1)]
        assert sorted(spread) == pytest.approx(sorted(x + 30 for x in section_of(section).extents), abs=0.01)
        assert not built.joints["leg-leg_plate"].refused and built.joints["leg-leg_plate"].fastened == "welded"


def test_plates_on_both_ends_of_every_leg():
    d = stocked("square tube")
    d.frame("f", {"p": ("0", "0", "0"), "q": ("0", "0", "700 mm")}, {"l": ("p", "q")})
    d.member("leg", key("square tube"), "f", "l", against="y", past_a="10 mm")
    document = d.document()
    for end in "ab":
        document = patched(document.dump(), add_end_plate(build(document), "leg", end, "ply18", "25 mm", "")[1])
    built = build(document)
    assert not built.faults and [p.fault.code for p in check(built) if p.fault.part.startswith("leg") and p.fault.code != "no_speeds"] == []
    assert built.made["leg"].reaches[0][2] == pytest.approx(-10 + 17.7) and built.made["leg"].reaches[1][2] == pytest.approx(700 - 17.7)
    fine(built)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda d: d.data["frames"]["f"]["points"]["q"]["at"]["x"].update(text="50 mm"), "does not run straight along an axis"),
        (
            lambda d: d.board("top", "ply18", "lying", "700 mm", ("-90 mm", "90 mm"), ("-90 mm", "90 mm")).joint(
                "member_on_board", "leg", "top"
            ),
            "End B of leg is cut to something already",
        ),
    ],
)
def test_what_bears_no_plate_says_why(change, words):
    d = stocked("square tube")
    d.frame("f", {"p": ("0", "0", "0"), "q": ("0", "0", "700 mm")}, {"l": ("p", "q")})
    d.member("leg", key("square tube"), "f", "l", against="y")
    change(d)
    built = build(d.document())
    with pytest.raises(DocumentError, match=words):
        add_end_plate(built, "leg", "b", "ply18", "30 mm", "")
    for stock, member, said in (("square_tube", "leg", "cut from sheet"), ("ply18", "nothing", "There is no member")):
        with pytest.raises(DocumentError, match=said):
            add_end_plate(built, member, "b", stock, "30 mm", "")


@pytest.mark.parametrize(
    ("beside", "hole", "entry"),
    [
        ("nothing", "", "beside"),
        ("30 mmm", "", "beside"),
        ("-80 mm", "", "beside"),
        (" ", "", "beside"),
        ("30 mm", "0", "hole"),
        ("30 mm", "-9 mm", "hole"),
        ("30 mm", "wide", "hole"),
        ("30 deg", "", "beside"),
    ],
)
def test_what_is_typed_for_a_plate_is_refused_by_its_entry(beside, hole, entry):
    d = stocked("square tube")
    d.frame("f", {"p": ("0", "0", "0"), "q": ("0", "0", "700 mm")}, {"l": ("p", "q")})
    d.member("leg", key("square tube"), "f", "l", against="y")
    with pytest.raises(DocumentError) as error:
        add_end_plate(build(d.document()), "leg", "b", "ply18", beside, hole)
    assert error.value.entry == entry
