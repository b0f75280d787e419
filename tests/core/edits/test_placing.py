"""What a hand places and joins, as edits: what cannot be is said with the entry, the value and the rule."""

import pytest

from tests.core.making.rooms.test_free import cabinet
from zygon.check.overlap import overlap_faults
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.placing import join_all, place_board
from zygon.errors import DocumentError
from zygon.making.asked.contacts import touches
from zygon.making.pipeline import build

SPANS = {"x": ("left.right", "right.left"), "y": ("left.front", "left.back")}


@pytest.mark.parametrize(
    ("change", "entry", "words"),
    [
        ({"stock": "gold"}, "stock", "cut from a sheet"),
        ({"spans": {"x": ("0", "1")}}, "spans", "runs along x and y"),
        ({"face": "left"}, "face", "bottom, top or centre"),
        ({"number": 0}, "number", "from 1 to 100"),
        ({"number": 101}, "number", "from 1 to 100"),
        ({"number": 2}, "between", "between two places"),
    ],
)
def test_what_cannot_be_placed_is_refused_by_name(change, entry, words):
    asked = {"stock": "ply12", "plane": "lying", "spans": SPANS, "face": "bottom", "at": "100 mm", **change}
    number = {k: asked.pop(k) for k in ("number", "between") if k in asked}
    with pytest.raises(DocumentError, match=words) as refused:
        place_board(build(cabinet().document()), **asked, **number)
    assert refused.value.entry == entry


def with_shelf(*more, cutter="router"):
    d = cabinet()
    d.data["cutter"] = cutter if cutter in d.data["cutters"] else d.data["cutter"]
    _, patch = place_board(build(d.document()), "ply12", "lying", SPANS, "bottom", "200 mm")
    return build(patched(d.document().dump(), patch))


def test_a_shelf_touches_both_sides_and_is_joined_to_both_at_once():
    built = with_shelf()
    found = touches(built, "shelf")
    assert [(t.part, t.contact) for t in found] == [("left", "tee"), ("right", "tee")]
    for touch in found:
        assert all(not o["refused"] for o in touch.offers) and len(touch.offers) > 3
    label, patch = join_all(built, [("shelf", t.part, "groove") for t in found])
    assert label == "Join shelf to 2" and [p["value"]["kind"] for p in patch] == ["groove", "groove"]
    assert len({p["path"] for p in patch}) == 2 and len({p["value"]["order"] for p in patch}) == 2
    joined = build(patched(built.document.dump(), patch))
    assert not joined.faults and not overlap_faults(joined)
    assert touches(joined, "shelf") == []
    assert not [p for p in check(joined) if p.fault.severity == "error" and p.fault.code != "narrow_gap"]


@pytest.mark.parametrize(("cutter", "first"), [("laser", "tab_slot"), ("router", "groove")])
def test_what_the_cutter_can_do_comes_first(cutter, first):
    d = cabinet()
    kinds = {c.kind: k for k, c in d.document().cutters.items()}
    if cutter not in kinds and cutter not in d.document().cutters:
        pytest.skip("no such cutter in a draft")
    d.data["cutter"] = kinds.get(cutter, cutter)
    _, patch = place_board(build(d.document()), "ply12", "lying", SPANS, "bottom", "200 mm")
    built = build(patched(d.document().dump(), patch))
    touch = touches(built, "shelf")[0]
    assert touch.offers[0]["kind"] == first
    notes = [bool(o["note"]) for o in touch.offers]
    assert notes == sorted(notes)


@pytest.mark.parametrize(
    ("plane", "name", "axes"), [("lying", "floor", "xy"), ("facing_side", "side", "yz"), ("facing_front", "front", "xz")]
)
def test_the_first_board_of_a_design_is_what_a_box_begins_with(plane, name, axes):
    empty = Draft("d", "ply12").document()
    spans = {a: ("0 mm", f"{n} mm") for a, n in zip(axes, (300, 200), strict=True)}
    label, patch = place_board(
        build(empty), "ply12", plane, spans, {"x": "left", "y": "front", "z": "bottom"}[({*"xyz"} - {*axes}).pop()], "0 mm"
    )
    built = build(patched(empty.dump(), patch))
    assert label == f"Board {name}" and not built.faults
    assert built.flats[name].flat.bounds == pytest.approx((0, 0, 300, 200))


def test_a_pair_that_cannot_be_joined_so_says_why():
    built = with_shelf()
    with pytest.raises(DocumentError, match="shelf and left cannot be joined so"):
        join_all(built, [("shelf", "left", "finger")])
    with pytest.raises(DocumentError, match="there is no joint weld"):
        join_all(built, [("shelf", "left", "weld")])
    with pytest.raises(DocumentError, match="no board with a place"):
        join_all(built, [("shelf", "nobody", "groove")])
    with pytest.raises(DocumentError, match="no board nobody"):
        touches(built, "nobody")
