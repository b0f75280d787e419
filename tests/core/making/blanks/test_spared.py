"""A copy that does without a hole, a joint or a bore: it alone, with its own copies, and without anything that the joint did to its shape."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid
from tests.explore import drawn
from zygon.check.overlap import overlap_faults
from zygon.design.draft import Draft
from zygon.geometry.contour import rectangle
from zygon.making.blanks.blank import Blank, blank_contours, blank_of
from zygon.making.pipeline import build
from zygon.making.result.box import Box


def rack(kind="groove", **fields) -> Draft:
    """Two uprights and three shelves between them; of the shelves one is drawn."""
    d = Draft("rack", "ply12")
    d.board("left", "ply12", "facing_side", "0", ("0", "200 mm"), ("0", "400 mm"))
    d.board("right", "ply12", "facing_side", "288.2 mm", ("0", "200 mm"), ("0", "400 mm"))
    d.board("shelf", "ply12", "lying", "60 mm", ("left.right", "right.left"), ("0", "200 mm"))
    d.repeat("up", "row", "part:shelf", axis="z", number="3", spacing="110 mm")
    d.joint(kind, "shelf", "left", **fields).joint(kind, "shelf", "right", **fields)
    return d


@pytest.mark.parametrize(
    ("kind", "fields"), [("groove", {}), ("tab_slot", {"number": 2}), ("mortise_tenon", {"number": 2}), ("dowels", {"number": 3})]
)
def test_a_spared_joint_leaves_the_copy_as_a_plain_board_and_the_others_as_they_were(kind, fields):
    whole = build(rack(kind, **fields).document())
    draft = rack(kind, **fields)
    draft.data["copies"]["up"]["spared"] = {"joint:shelf-left": ["shelf@up.2"], "joint:shelf-right": ["shelf@up.2"]}
    built = build(draft.document())
    assert not built.faults and not overlap_faults(built)
    flats = {k: p.flat for k, p in built.parts.items()}
    assert flats["shelf@up.2"].bounds == pytest.approx((0, 0, 288.2 - 11.8, 200))
    assert flats["shelf@up.2"].area == pytest.approx((288.2 - 11.8) * 200) and not flats["shelf@up.2"].bores
    assert flats["shelf@up.1"].digest == flats["shelf"].digest == whole.parts["shelf"].flat.digest
    removed = [11.8 * 200 * 400 - solid(p).volume() for p in (built.parts["left"], whole.parts["left"])]
    assert removed[0] == pytest.approx(removed[1] * 2 / 3) and removed[0] > 100


def test_a_copy_that_is_spared_a_joint_keeps_its_drawn_outline():
    """A post stands on a shelf with a corner cut off, and both are copied; the shelf that is spared its mortise has its corner cut off too."""
    outline = {"kind": "drawn", "outer": [[0, 0, 0], [200, 0, 0], [200, 80, 0], [100, 200, 0], [0, 200, 0]]}
    draft = Draft("d", "ply18").board("shelf", "ply18", "lying", "0", ("0", "200 mm"), ("0", "200 mm"), outline=outline)
    draft.board("post", "ply18", "facing_side", "60 mm", ("40 mm", "120 mm"), ("shelf.top", "shelf.top + 90 mm"))
    draft.joint("mortise_tenon", "post", "shelf", number=1)
    draft.repeat("up", "row", "part:shelf", "part:post", axis="z", number="3", spacing="200 mm")
    draft.data["copies"]["up"]["spared"] = {"joint:post-shelf": ["shelf@up.2", "post@up.2"]}
    built = build(draft.document())
    assert not built.faults, [f.message for f in built.faults]
    volumes = {k: solid(built.parts[k]).volume() for k in ("shelf", "shelf@up.1", "shelf@up.2")}
    assert volumes["shelf@up.2"] == pytest.approx((200 * 200 - 100 * 120 / 2) * 17.6, rel=0.03)
    assert built.flats["shelf@up.2"].flat.area == pytest.approx(200 * 200 - 100 * 120 / 2)
    assert volumes["shelf"] == pytest.approx(volumes["shelf@up.1"]) and volumes["shelf"] < volumes["shelf@up.2"] - 100


def test_what_is_spared_on_a_copy_is_spared_on_its_own_copies_and_on_no_other():
    draft = Draft("d", "ply12")
    draft.board("bar", "ply12", "lying", "0", ("0", "60 mm"), ("0", "200 mm"))
    draft.feature("bar", "h", "hole", ("left", "20 mm"), ("front", "30 mm"), diameter="10 mm")
    draft.repeat("side", "row", "part:bar", axis="x", number="2", spacing="100 mm")
    draft.repeat("up", "row", "part:bar", "copy:side", axis="z", number="3", spacing="50 mm")
    draft.data["copies"]["side"]["spared"] = {"feature:bar:h": ["bar@side.1"]}
    built = build(draft.document())
    bare = {k for k, p in built.parts.items() if not p.flat.inside}
    assert bare == {"bar@side.1", "bar@side.1@up.1", "bar@side.1@up.2"}
    draft.data["copies"]["side"]["spared"] = {}
    draft.data["copies"]["up"]["spared"] = {"feature:bar:h": ["bar@side.1@up.2"]}
    built = build(draft.document())
    assert {k for k, p in built.parts.items() if not p.flat.inside} == {"bar@side.1@up.2"}


def test_a_spared_bore_goes_neither_through_the_copy_nor_through_what_stays_beside_it():
    draft = Draft("d", "ply12")
    draft.board("post", "ply12", "facing_side", "0", ("0", "60 mm"), ("0", "200 mm"))
    draft.board("wall", "ply12", "facing_side", "40 mm", ("0", "400 mm"), ("0", "200 mm"))
    draft.bore("rod", "x", {"y": "30 mm", "z": "100 mm"}, "8 mm", post=("cut", "0"), wall=("cut", "0"))
    draft.repeat("along", "row", "part:post", axis="y", number="4", spacing="100 mm")
    assert len(build(draft.document()).parts["wall"].flat.inside) == 4
    draft.data["copies"]["along"]["spared"] = {"bore:rod": ["post@along.2"]}
    built = build(draft.document())
    assert not built.faults
    assert sorted(round(c.bounds[0] + 4) for c in built.parts["wall"].flat.inside) == [30, 130, 330]
    assert [len(p.flat.inside) for p in built.parts.values() if p.of == "post"] == [1, 1, 0, 1]


PLACES = st.integers(-30, 130).map(float)


@settings(max_examples=drawn(60))
@given(
    st.lists(
        st.tuples(st.sampled_from("abc"), st.sampled_from(["lengthen", "grow", "add", "shape"]), st.sampled_from("xy"), PLACES, PLACES),
        max_size=8,
    ),
    st.sets(st.sampled_from("abc")),
)
def test_a_blank_without_some_joints_is_the_one_that_only_the_others_worked_on(changes, without):
    def worked(owners):
        board = rack().document().parts["shelf"]
        blank = blank_of("shelf", board, Box((0, 0, 0), (100, 100, 12)))
        for by, what, axis, one, other in changes:
            if by not in owners:
                continue
            blank.by = by
            low, high = min(one, other), max(one, other) + 1
            if what == "add":
                blank.add({"x": (low, high), "y": (10, 20)}, by)
            elif what == "shape":
                blank.shape(rectangle(low, 30, high, 40, by))
            else:
                getattr(blank, what)(axis, "high", 100 + abs(one))
        return blank

    def as_it_is(blank: Blank):
        return blank.extents, blank.grown, blank.additions, [c.points for c in blank.shapes], [c.points for c in blank_contours(blank)]

    full = worked({"a", "b", "c"})
    assert as_it_is(full.without(frozenset(without))) == as_it_is(worked({"a", "b", "c"} - without))
    assert as_it_is(full.without(frozenset())) == as_it_is(full)
