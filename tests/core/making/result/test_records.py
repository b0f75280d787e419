"""Small records of what was made say what they hold."""

import math
from dataclasses import replace

import numpy as np
import pytest

from tests.core.making.metal.trays import flange, folded
from zygon.design.draft import Draft
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import polygon, rectangle
from zygon.making.flats.flat import turned_over
from zygon.making.pipeline import build
from zygon.making.result.fold import FoldBend, standing
from zygon.making.result.operations import Bevel, Pocket


def bevel():
    return Bevel(polygon([(10, 0), (30, 0), (30, 40), (12, 44)]), polygon([(16, 0), (30, 0), (30, 40), (20, 41)]), "o", edge=True)


def test_a_sloping_cut_is_seen_at_any_height_and_its_line_on_either_face():
    cut = bevel()
    assert cut.at(0).points == cut.on_b.points and cut.at(1).points == cut.on_a.points
    assert [x for p in cut.at(0.25).points for x in p] == pytest.approx([14.5, 0, 30, 0, 30, 40, 18, 41.75])
    for face, ends in (("a", ((12, 44), (10, 0))), ("b", ((20, 41), (16, 0)))):
        line = cut.line_on(face)
        assert line.points == ends and not line.closed


def test_a_pocket_is_a_region_whichever_way_its_contours_run():
    outer, island = rectangle(0, 0, 50, 40), rectangle(10, 10, 20, 15)
    for ccw_outer in (True, False):
        for ccw_island in (True, False):
            pocket = Pocket(outer.wound(ccw=ccw_outer), "o", "a", 3.0, islands=(island.wound(ccw=ccw_island),))
            assert pocket.region.area == pytest.approx(50 * 40 - 50)
            assert pocket.region.outer.area > 0 > pocket.region.inner[0].area


def test_what_is_bent_is_no_stack_of_outlines_and_neither_is_a_shape_from_a_file():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 50), (0, 40))
    flat = build(d.document()).flats["p"].flat
    assert flat.layered and not replace(flat, solid=object()).layered
    assert not folded({"f": flange("left")}).flats["p"].flat.layered


def test_what_is_empty_takes_no_room():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", "700 mm", ("300 mm", "350 mm"), ("200 mm", "240 mm"))
    d.feature("p", "all", "rectangle", ("centre", 0), ("centre", 0), width="60", height="50")
    part = build(d.document()).made["p"]
    assert part.body.empty and part.reaches == ((0.0, 0.0, 0.0), (0.0, 0.0, 0.0))


def bend(degrees, radius=2.0, k=0.4, t=1.0):
    return FoldBend("f", "bend:p:f", 0, (0.0, 0.0), (0.0, 50.0), math.radians(degrees), radius, k, t, rectangle(0, 0, 1, 50))


@pytest.mark.parametrize("degrees", [90, -90, 30, -30, 170])
def test_a_strip_lies_on_its_arc_and_half_bent_its_neutral_line_keeps_its_length(degrees):
    b, sign = bend(degrees), math.copysign(1, degrees)
    for share in (1.0, 0.5, 0.01):
        turn = abs(math.radians(degrees)) * share
        radius = b.width / turn - b.k * b.thickness
        for s in (0.0, b.width / 3, b.width):
            for w in (0.0, b.k, 1.0):
                across, up = b.bent(np.array([s]), np.array([w]), share)
                r = b.thickness + radius - w if sign > 0 else radius + w  # about an axis over, or under, the sheet
                phi = s / b.width * turn
                assert across[0] == pytest.approx(r * math.sin(phi))
                assert up[0] == pytest.approx(b.thickness + radius - r * math.cos(phi) if sign > 0 else r * math.cos(phi) - radius)
    flat = b.bent(np.array([1.5]), np.array([0.3]), 0.0)
    assert [float(x[0]) for x in flat] == [1.5, 0.3]


def test_what_hangs_on_a_face_that_is_gone_is_gone_and_so_are_its_corners():
    fold = (
        folded(
            {"l": flange("left"), "f": flange("front", order=1), "b": flange("back", order=2), "lip": flange("end", 12, on="f", order=3)}
        )
        .parts["p"]
        .flat.fold
    )
    assert {frozenset(c) for c in fold.corners} == {frozenset(("l", "f")), frozenset(("l", "b"))}
    whole = [to_polygon(c) for face in fold.faces for c in face.outline]
    assert [f.key for f in standing(fold, whole).faces] == ["", "l", "f", "b", "lip"]
    without = [to_polygon(c) for face in fold.faces if face.key != "f" for c in face.outline]
    left = standing(fold, without)
    assert [f.key for f in left.faces] == ["", "l", "b"] and [b.key for b in left.bends] == ["l", "b"]
    assert [b.parent for b in left.bends] == [0, 0]
    assert [set(c) for c in left.corners] == [{"l", "b"}]


def test_what_is_empty_is_turned_over_to_nothing_seen_from_its_other_face():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 50), (0, 40))
    flat = replace(build(d.document()).flats["p"].flat, pieces=(), digest="empty")
    assert turned_over(flat).seen == "b" and turned_over(turned_over(flat)) == flat
