"""What layers and solids have in common, at the limits of what counts."""

import math

import numpy as np
import pytest
from shapely.geometry import MultiPolygon, box

from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.making.solids.places import PlacedLayer, along_axes, common, stretches
from zygon.making.solids.solids import depth_in_common, in_common, mass_centre, turned_alike

TOLERANCE = 0.1


def layer(normal, low, high, *pieces):
    u, v = (a for a in "xyz" if a != normal)
    return PlacedLayer(u, v, normal, low, high, MultiPolygon([box(*p) for p in pieces]))


def swapped(piece):
    x0, y0, x1, y1 = piece
    return y0, x0, y1, x1


@pytest.mark.parametrize("along", ["x", "y"])
@pytest.mark.parametrize(
    ("pieces", "found"),
    [
        ([(0, 0, 100, 50)], [(0, 100)]),
        # it reaches into the slab from 10 to 30 by less, and by more, than half the tolerance
        ([(0, 0, 100, 10.04)], []),
        ([(0, 0, 100, 10.07)], [(0, 100)]),
        ([(0, 29.96, 100, 50)], []),
        ([(0, 29.93, 100, 50)], [(0, 100)]),
        # small, and too small to be anything
        ([(5, 15, 5.3, 15.3)], [(5, 5.3)]),
        ([(5, 15, 5.04, 15.04)], []),
        # one behind the other is one stretch where they touch, overlap, or one reaches over the other
        ([(0, 12, 40, 15), (40, 20, 70, 25)], [(0, 70)]),
        ([(0, 12, 40, 15), (30, 20, 70, 25)], [(0, 70)]),
        ([(0, 12, 80, 15), (30, 20, 50, 25)], [(0, 80)]),
        ([(0, 12, 30, 15), (40, 12, 80, 15)], [(0, 30), (40, 80)]),
    ],
)
def test_where_a_layer_is_well_within_another_s_slab(pieces, found, along):
    """A layer flat on z, seen along x through a slab across y, or along y through one across x."""
    own = layer("z", 0, 12, *(pieces if along == "x" else map(swapped, pieces)))
    slab = layer("y" if along == "x" else "x", 10, 30, (-500, -500, 500, 500))
    assert stretches(own, slab, along, TOLERANCE) == [pytest.approx(f) for f in found]


def test_a_slab_no_thicker_than_the_tolerance_holds_nothing():
    own = layer("z", 0, 12, (0, 0, 100, 50))
    for thick in (0.04, 0.1):
        assert stretches(own, layer("y", 10, 10 + thick, (-9, -9, 200, 200)), "x", TOLERANCE) == []


@pytest.mark.parametrize(("over", "found"), [(0.15, 0.15), (0.1, 0.0), (0.09, 0.0), (3.0, 3.0)])
def test_layers_in_one_plane_have_a_strip_in_common(over, found):
    one, other = layer("z", 0, 12, (0, 0, 100, 50)), layer("z", 4, 9, (100 - over, 10, 180, 40))
    assert common(one, other, TOLERANCE) == pytest.approx(found)
    assert common(other, one, TOLERANCE) == pytest.approx(found)


def test_layers_across_one_another_have_the_length_in_common_that_both_are_there():
    comb = layer("z", 0, 12, (0, 0, 20, 50), (40, 0, 45, 50), (90, 0, 100, 50))
    wall = layer("y", 10, 22, (10, -5, 43, 40), (99, -5, 200, 40))  # x, z
    assert common(comb, wall, TOLERANCE) == common(wall, comb, TOLERANCE) == pytest.approx(10 + 3 + 1)


def placed(degrees=0.0, about="z", x=0.0, bent=False, width=100):
    d = Draft("d", "ply12", "galv20")
    stock = "galv20" if bent else "ply12"
    d.board("p", stock, "lying", 0, (f"{x} mm", f"{x + width} mm"), (0, "60 mm"))
    if bent:
        d.fold("p").flange("p", "f", "left", "20 mm")
    if degrees:
        d.turn("p", about, f"{degrees} deg", **dict.fromkeys(set("xyz") - {about}, "0"))
    return build(d.document()).made["p"]


@pytest.mark.parametrize("degrees", [0, 90, 180, 270, 30, 120, 179.9])
@pytest.mark.parametrize("about", ["x", "y", "z"])
def test_along_the_room_s_axes_or_along_another_part_s(degrees, about):
    part, right = placed(degrees, about), degrees % 90 == 0
    assert along_axes(part) is right
    assert turned_alike(part, placed()) is turned_alike(placed(), part) is right
    assert turned_alike(part, part)
    bent = placed(bent=True)
    assert not turned_alike(bent, placed()) and not turned_alike(placed(), bent) and not along_axes(bent)


def test_how_deep_parts_run_into_one_another_and_from_where_on_it_counts():
    a, b = placed(), placed(x=96)
    assert in_common(a, b).depth == pytest.approx(2 * (4 * 60 * 11.8) / (2 * (4 * 60 + 4 * 11.8 + 60 * 11.8)))
    depth = in_common(a, b).depth
    assert depth_in_common(a, b, depth - 1e-9) == depth and depth_in_common(a, b, depth) == 0
    assert in_common(a, placed(x=100)) is None


def test_what_weighs_nothing_has_no_centre():
    part = placed()
    assert mass_centre([(part, 0.0)]) is None and mass_centre([]) is None
    mass, centre = mass_centre([(part, 0.5), (placed(x=300), 1.5)])
    assert mass == pytest.approx(2 * 100 * 60 * 11.8 / 1000)
    assert centre == pytest.approx((0.25 * 50 + 0.75 * 350, 30, 5.9))
    assert math.isfinite(np.sum(centre))
