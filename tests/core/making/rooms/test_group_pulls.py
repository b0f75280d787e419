"""A group is pulled along each axis by what moves it: the figure that is told moves it by just that, its ends catch on faces, and its own faces are no catch."""

import pytest

from zygon.design.draft import Draft
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.making.rooms.pulls import group_pulls

AXES = "xyz"


def grouped(**move):
    d = Draft("grouped")
    d.size("off", "25 mm")
    d.board("base", "ply12", "lying", "0", ("0", "500 mm"), ("0", "300 mm"))
    d.group("frame", **move)
    d.board("post", "ply12", "facing_side", "40 mm", ("30 mm", "130 mm"), ("20 mm", "90 mm"))
    d.board("bar", "ply12", "lying", "90 mm", ("40 mm", "140 mm"), ("30 mm", "130 mm"))
    return d


def ends(built):
    own = [built.made[k] for k in ("post", "bar")]
    return [(min(p.reaches[0][i] for p in own), max(p.reaches[1][i] for p in own)) for i in range(3)]


@pytest.mark.parametrize("axis", AXES)
@pytest.mark.parametrize("text", [None, "0", "12 mm", "off", "off + 3 mm", "2 * off - 1/2 in"])
def test_pulled_by_so_much_it_moves_by_just_that(axis, text):
    move = {} if text is None else {axis: text}
    d = grouped(**move)
    before = build(d.document())
    one = next(p for p in group_pulls(before, "frame") if p.axis == axis)
    i = AXES.index(axis)
    low, high = ends(before)[i]
    assert one.value == pytest.approx((low + high) / 2) and not one.whole
    d.data["groups"]["frame"]["move"][axis] = {"text": one.text.with_constant(one.text.constant + 17.25), "unit": one.text.bare}
    after = build(d.document())
    assert not after.faults
    for k in range(3):
        by = 17.25 if k == i else 0
        assert ends(after)[k] == pytest.approx([x + by for x in ends(before)[k]], abs=1e-3)


@pytest.mark.parametrize("axis", AXES)
def test_it_catches_with_either_end_on_the_faces_of_others(axis):
    built = build(grouped().document())
    one = next(p for p in group_pulls(built, "frame") if p.axis == axis)
    low, high = ends(built)[AXES.index(axis)]
    caught = {(c.entry, round(c.value, 4)) for c in one.catches}
    face, place = {"x": ("base.right", 500.0), "y": ("base.back", 300.0), "z": ("base.top", 11.8)}[axis]
    assert (face, round(one.value + place - low, 4)) in caught and (face, round(one.value + place - high, 4)) in caught
    assert {c.entry.partition(".")[0] for c in one.catches} == {"base"}


@pytest.mark.parametrize(("key", "words"), [("gone", "no group"), ("empty", "holds nothing"), ("frame", "is turned")])
def test_a_group_that_cannot_be_pulled_says_why(key, words):
    d = grouped()
    d.group("empty")
    if key == "frame":
        d.turn("frame", "z", "30 deg", "groups", x="0", y="0")
    with pytest.raises(DocumentError, match=words):
        group_pulls(build(d.document()), key)
