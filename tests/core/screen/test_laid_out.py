"""A layout as a screen draws it: each part where it was laid, as large as it is, turned, turned over and locked as it was."""

import math
from dataclasses import replace

import pytest
import shapely
from svgelements import Path

from zygon.design.arrangement import ArrangedSheet, Arrangement, Placed
from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.nest.design import lay_out, plans
from zygon.nest.task import Placement
from zygon.screen.design import nest_data


def laid(*placements, hand=None):
    """An angle piece with a hole, a mark and a pocket, laid as said."""
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 120), (0, 80), quantity=len(placements))
    d.feature("p", "notch", "rectangle", ("right", 20), ("back", 15), width="60", height="50")
    d.feature("p", "hole", "hole", ("left", 15), ("front", 12), diameter="9")
    d.feature("p", "pocket", "pocket", ("left", 35), ("front", 20), width="20", height="14", depth="3", face="top")
    d.feature("p", "mark", "mark_circle", ("left", 20), ("back", 20), diameter="8")
    built = build(d.document())
    (plan,) = plans(built)
    found = lay_out(built.document, plan, seconds=0.05)
    sheet = replace(found.layout.sheets[0], placements=tuple(Placement(0, n, *p) for n, p in enumerate(placements)))
    return nest_data(built.document, replace(found, layout=replace(found.layout, sheets=(sheet,)), plan=replace(plan, hand=hand)))


def shape(d):
    """The rings of a path with y turned back up."""
    found = shapely.Polygon()
    for part in Path(d).as_subpaths():
        points = [Path(part).point(i / 400) for i in range(400)]
        found = shapely.symmetric_difference(found, shapely.make_valid(shapely.Polygon([(p.x, -p.y) for p in points])))
    return found


ANGLE = shapely.Polygon([(0, 0), (120, 0), (120, 40), (70, 40), (70, 80), (0, 80)])


@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("degrees", [0, 90, 180, 33])
def test_a_part_lies_where_it_was_laid(degrees, mirrored):
    (sheet,) = laid((310.0, 205.0, math.radians(degrees), mirrored))["sheets"]
    (part,) = sheet["parts"]
    own = shapely.affinity.scale(ANGLE, -1, 1, origin=(0, 0)) if mirrored else ANGLE
    own = shapely.affinity.translate(shapely.affinity.rotate(own, degrees, origin=(0, 0)), 310, 205)
    assert shapely.symmetric_difference(shape(part["outside"]), own).area < 60
    x0, y0, x1, y1 = own.bounds
    assert part["middle"] == pytest.approx([(x0 + x1) / 2, (y0 + y1) / 2], abs=1e-3)
    assert part["size"] == pytest.approx([x1 - x0, y1 - y0], abs=1e-3)
    assert (part["x"], part["y"], part["mirrored"], part["locked"]) == (310.0, 205.0, mirrored, False)
    assert part["angle"] == pytest.approx(degrees)
    for paths, size in (("inside", 9), ("marks", 8)):
        (one,) = part[paths]
        box = shape(one).bounds
        assert (box[2] - box[0], box[3] - box[1]) == pytest.approx((size, size), abs=0.05)
        assert own.covers(shape(one))
    assert len(part["depths"]) == 1


def test_what_is_cut_or_locked_says_so():
    def arranged(cut, *locked):
        own = {str(n): Placed(part="p", number=n, x=0, y=0, locked=lock) for n, lock in enumerate(locked)}
        return Arrangement(sheets={"1": ArrangedSheet(size="full", order=0, cut=cut, placed=own)})

    at = [(0.0, 0.0, 0.0, False), (200.0, 0.0, 0.0, False)]
    for hand, cut, locked in (
        (None, False, [False, False]),
        (arranged(False, True, False), False, [True, False]),
        (arranged(True, False, False), True, [True, True]),
    ):
        (sheet,) = laid(*at, hand=hand)["sheets"]
        assert (sheet["cut"], [p["locked"] for p in sheet["parts"]]) == (cut, locked)
