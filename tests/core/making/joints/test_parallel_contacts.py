"""Parallel boards: edge to edge, lapping in one plane in every form, face on face, or not at all with the reason."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.design.draft import Draft
from zygon.making.asked.questions import offers_between
from zygon.making.joints.contact import find_contact, turned_round
from zygon.making.pipeline import build
from zygon.making.result.box import Box

T = 12.0


def lying(x0, x1, y0, y1, z=0.0, t=T):
    return Box((x0, y0, z), (x1, y1, z + t))


def meet(a, b):
    return find_contact(a, "z", "a", b, "z", "b")


def test_edge_to_edge_knows_the_edge_and_the_side():
    found = meet(lying(0, 100, 0, 80), lying(100, 200, 20, 120))
    assert (found.kind, found.across, found.axis, found.reach_a.side, found.run) == ("edge", "x", "y", "high", (20, 80))


FORMS = [
    ("corner", lying(0, 200, 0, 40), lying(160, 200, 0, 300), ""),
    ("tee", lying(0, 200, 100, 140), lying(160, 200, 0, 300), "a"),
    ("tee", lying(160, 200, 0, 300), lying(0, 200, 100, 140), "b"),
    ("cross", lying(0, 400, 100, 140), lying(160, 200, 0, 300), ""),
    ("line", lying(0, 200, 0, 40), lying(150, 400, 0, 40), ""),
]


@pytest.mark.parametrize(("form", "a", "b", "stem"), FORMS)
def test_a_lap_in_one_plane_knows_its_form_and_which_board_ends(form, a, b, stem):
    found = meet(a, b)
    assert (found.kind, found.form, found.stem) == ("lap", form, stem)
    assert found.span("x") == (max(a.low[0], b.low[0]), min(a.high[0], b.high[0]))


@pytest.mark.parametrize(
    ("b", "words"),
    [
        (lying(0, 100, 0, 80, z=30), "lie parallel, 18 mm apart"),
        (lying(140, 200, 0, 80), "end 40 mm before each other"),
        (lying(100, 200, 80, 120), "touch at one corner only"),
        (lying(100, 200, 0, 80, z=4), "their faces are not flush"),
        (lying(20, 60, 20, 60), "one covers the other"),
        (lying(100, 200, 0, 80, z=T), "touch in a line only"),
    ],
)
def test_where_parallel_boards_do_not_meet_the_reason_is_said(b, words):
    found = meet(lying(0, 100, 0, 80), b)
    assert found.kind == "none" and words in found.reason


@given(st.tuples(*[st.integers(0, 12)] * 4), st.tuples(*[st.integers(0, 12)] * 4), st.integers(0, 3))
def test_seen_from_the_other_board_it_is_the_same_meeting(a, b, step):
    one = lying(10 * a[0], 10 * (a[0] + a[1] + 1), 10 * a[2], 10 * (a[2] + a[3] + 1))
    other = lying(10 * b[0], 10 * (b[0] + b[1] + 1), 10 * b[2], 10 * (b[2] + b[3] + 1), z=6.0 * step)
    there, back = meet(one, other), meet(other, one)
    assert there.kind == back.kind and there.form == back.form
    if there.kind != "none":
        assert turned_round(there).stem == back.stem and sorted(there.region) == sorted(back.region)


def test_what_is_offered_follows_the_meeting_and_says_what_the_laser_cannot_do():
    d = Draft("two", "ply12")
    d.board("a", "ply12", "lying", 0, (0, 200), (0, 40))
    d.board("b", "ply12", "lying", 0, (160, 200), (0, 300))
    offers = offers_between(d.document(), "a", "b")
    assert [o["kind"] for o in offers if not o["refused"]] == ["half_lap"]
    (lap,) = [o for o in offers if o["kind"] == "half_lap"]
    assert lap["note"] == "needs depth, and Bench laser 130 W cuts straight through" and lap["title"].endswith("at a corner")
    assert all(o["refused"] for o in offers if o is not lap)


def test_another_kind_may_be_asked_for_instead_of_the_one_that_stands():
    d = Draft("two", "ply12")
    d.board("b", "ply12", "facing_front", 0, (0, 200), (0, 100))
    d.board("a", "ply12", "facing_side", 80, ("b.back", 160), (0, 100))
    d.joint("tab_slot", "a", "b")
    document = d.document()
    assert not [o for o in offers_between(document, "a", "b") if not o["refused"]]
    possible = {o["kind"] for o in offers_between(document, "a", "b", "a-b") if not o["refused"]}
    assert possible == {"tab_slot", "mortise_tenon", "groove", "dowels", "screws", "butt"}


def test_layers_of_a_stack_are_glued_pair_by_pair_and_stand():
    d = Draft("stack", "ply12")
    for i in range(4):
        below = f"layer_{i - 1}.top" if i else "0"
        d.board(f"layer_{i}", "ply12", "lying", below, (0, 100), (0, 60))
        if i:
            d.joint("face_glue", f"layer_{i}", f"layer_{i - 1}")
    built = build(d.document())
    assert not built.faults and [j.contact for j in built.joints.values()] == ["faces"] * 3
