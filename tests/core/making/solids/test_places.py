"""Where layers of parts lie along one another, piece by piece; which parts lie along the room's axes, or along each other's."""

import pytest
import shapely
from shapely.geometry import box

from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.making.solids.places import PlacedLayer, along_axes, stretches
from zygon.making.solids.solids import turned_alike


def turned(angle, at="0.5 mm"):
    d = Draft("d", "ply12")
    d.board("b", "ply12", "lying", at, ("0.5 mm", "90.5 mm"), ("0.25 mm", "70.25 mm"))
    d.board("still", "ply12", "lying", "200 mm", ("0", "90 mm"), ("0", "70 mm"))
    if angle:
        d.turn("b", "z", f"{angle} deg", x="0.5 mm", y="0.25 mm")
    made = build(d.document()).made
    return made["b"], made["still"]


@pytest.mark.parametrize("angle", [0, 30, 90, 120, 150, 179, 180, 210, 270, 300])
def test_parts_lie_along_the_axes_at_quarter_turns_wherever_they_are(angle):
    part, still = turned(angle)
    assert along_axes(still) and along_axes(part) == (angle % 90 == 0)
    assert turned_alike(part, still) == turned_alike(still, part) == (angle % 90 == 0)


def layer(*pieces, u="x", v="y"):
    return PlacedLayer(u, v, "z", 0.0, 1.0, shapely.union_all(pieces))


def slab(low, high):
    return PlacedLayer("x", "z", "y", low, high, box(0, 0, 1, 1))


@pytest.mark.parametrize(("u", "v", "axis"), [("x", "y", "x"), ("y", "x", "y")])
def test_stretches_are_told_apart_and_joined_where_they_meet(u, v, axis):
    """Seen through a slab from 10 to 20: three pieces in a row, the third under a longer one, a fourth by itself; what lies beside the slab does not count."""
    pieces = [box(0, 0, 8, 30), box(8, 15, 20, 40), box(12, 0, 16, 13), box(30, 12, 35, 13), box(50, 21, 60, 30), box(70, 0, 71, 9.9)]
    own = layer(*pieces, u=u, v=v)
    assert stretches(own, slab(10, 20), axis, 0.1) == [(0, 20), (30, 35)]


@pytest.mark.parametrize(("side", "found"), [(0.049, 0), (0.051, 1)])
def test_a_speck_is_no_stretch(side, found):
    """At a tolerance of 0.1 mm a piece counts from 0.0025 mm² on."""
    assert len(stretches(layer(box(0, 12, side, 12 + side)), slab(10, 20), "x", 0.1)) == found


@pytest.mark.parametrize(("thick", "found"), [(0.099, []), (0.1, []), (0.3, [(0, 5)])])
def test_a_slab_that_is_thinner_than_the_tolerance_holds_nothing(thick, found):
    assert stretches(layer(box(0, 0, 5, 30)), slab(10, 10 + thick), "x", 0.1) == found


def test_across_the_slab_pieces_are_seen_along_the_other_way():
    own = layer(box(12, 0, 18, 7), box(15, 7, 19, 11), box(11, 30, 13, 33), box(25, 50, 30, 60))
    assert stretches(own, slab(10, 20), "y", 0.1) == [(0, 11), (30, 33)]
