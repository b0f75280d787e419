"""A folded part split in two: both halves together are as large as the whole was, and go together."""

import pytest

from zygon.build.pipeline import build
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import apply_patch, patched
from zygon.design.split import split_part
from zygon.errors import DocumentError


def tray(plane="lying"):
    d = Draft("t", "galv20")
    d.board("tray", "galv20", plane, "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray", corner="closed", gap="0.3 mm")
    for side in ("left", "right", "front", "back"):
        d.flange("tray", side, side, "30 mm")
    d.feature("tray", "near", "hole", ("centre", "-40 mm"), ("centre", "0"), diameter="10 mm")
    d.feature("tray", "far", "hole", ("right", "40 mm"), ("centre", "0"), diameter="12 mm")
    return d.document()


def split(document, at=150.0, axis="x", **more):
    built = build(document)
    places = {k: v.value for k, v in built.values.items()}
    _, patch = split_part(document, "tray", axis, at, places, built.parts["tray"].flat.thickness, **more)
    return build(patched(document.dump(), patch))


@pytest.mark.parametrize("hold", ["rivets", "tabs", "none"])
@pytest.mark.parametrize(("axis", "at"), [("x", 150.0), ("x", 90.0), ("y", 75.0)])
def test_both_halves_stand_where_the_whole_stood_and_overlap_nowhere(hold, axis, at):
    found = split(tray(), at, axis, hold=hold)
    assert set(found.parts) == {"tray", "tray_2"}
    low = [min(p.reaches[0][i] for p in found.parts.values()) for i in range(2)]
    high = [max(p.reaches[1][i] for p in found.parts.values()) for i in range(2)]
    assert (low, high) == (pytest.approx([0, 0], abs=1e-6), pytest.approx([300, 120], abs=1e-6))
    i = "xy".index(axis)
    reach = found.parts["tray"].reaches[1][i] - found.parts["tray_2"].reaches[0][i]
    assert reach == pytest.approx(16, abs=1.5)
    assert not [p.fault.message for p in check(found) if p.fault.severity == "error"]


def test_rivets_go_through_both_halves_and_features_keep_their_places():
    found = split(tray(), 150.0, number=5, diameter=4.0)
    first, second = (sorted(round(2 * c.as_circle[2], 3) for c in found.parts[k].flat.inside) for k in ("tray", "tray_2"))
    assert (first, second) == ([4.0] * 5 + [10.0], [4.0] * 5 + [12.0])


def test_rivets_do_not_go_through_a_lip_that_hangs_over_the_plate():
    document = tray().dump()
    flanges = document["parts"]["tray"]["folding"]["flanges"]
    flanges["lip"] = {**flanges["front"], "on": "front", "edge": "end", "length": {"text": "35 mm", "unit": "mm"}, "toward": "a"}
    found = split(apply_patch(document, [])[0], 150.0, number=3, diameter=4.0)
    assert [sum(abs(c.as_circle[2] - 2.0) < 1e-6 for c in found.parts[k].flat.inside) for k in ("tray", "tray_2")] == [3, 3]


@pytest.mark.parametrize("at", [5.0, 280.0, -10.0])
def test_a_place_without_room_for_the_overlap_is_refused_with_what_would_do(at):
    with pytest.raises(DocumentError, match=r"between .* and .* mm"):
        split(tray(), at)


def test_a_board_that_is_not_folded_is_not_split():
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"))
    with pytest.raises(DocumentError, match="folded part"):
        split(d.document())


def test_loose_pieces_are_found_and_taken_away():
    d = Draft("t", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"))
    d.feature("tray", "cut", "rectangle", ("left", "60 mm"), ("centre", "0"), width="5 mm", height="200 mm")
    document = d.document()
    problem = next(p for p in check(build(document)) if p.fault.code == "pieces")
    found = build(patched(document.dump(), problem.fault.mends[0].patch))
    assert found.parts["tray"].flat.bounds == pytest.approx((62.5, 0, 300, 120))
    assert not [p for p in check(found) if p.fault.code == "pieces"]
