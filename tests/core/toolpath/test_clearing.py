"""An area cleared by rings: nothing of it is left that the bit reaches, nothing beyond it is touched, whatever its form."""

from __future__ import annotations

import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.toolpath.clearing import cleared, eroded, linked, rings_of, swept


def star(spokes: list[float], turn: float) -> shapely.Polygon:
    n = len(spokes)
    return shapely.Polygon(
        [(r * math.cos(turn + 2 * math.pi * k / n), r * math.sin(turn + 2 * math.pi * k / n)) for k, r in enumerate(spokes)]
    )


AREAS = st.builds(star, st.lists(st.floats(8, 60), min_size=3, max_size=9), st.floats(0, 6)).filter(lambda p: p.is_valid and p.area > 200)


def milled(area: shapely.Geometry, radius: float, step: float, climb: bool = True) -> tuple[shapely.Geometry, shapely.Geometry, list]:
    middles = eroded(area, radius)
    runs = cleared(rings_of(middles, step, radius), climb, (0.0, 0.0))
    lines = [shapely.LineString(r.flatten(0.001)) if r.bulges else shapely.Point(r.points[0]) for r in runs]
    return middles, shapely.union_all([line.buffer(radius, quad_segs=48) for line in lines]), runs


@settings(max_examples=60, deadline=None)
@given(AREAS, st.floats(1, 4), st.floats(0.2, 1.2), st.booleans())
def test_all_that_the_bit_reaches_is_cleared_and_nothing_else(area, radius, share, climb):
    middles, gone, runs = milled(area, radius, share * radius, climb)
    reached = swept(middles, radius)
    assert shapely.difference(gone, area.buffer(0.01)).area < 1e-3
    assert shapely.difference(reached, gone).area <= 1e-3 * reached.area + 0.01
    for group in linked(runs, middles):
        for one, other in zip(group, group[1:], strict=False):
            way = shapely.LineString([one.points[-1], other.points[0]])
            assert way.length == 0 or middles.buffer(0.01).covers(way)


@settings(max_examples=40, deadline=None)
@given(AREAS, st.floats(1, 4))
def test_with_an_island_its_wall_is_run_the_other_way_round(area, radius):
    island = shapely.Point(area.representative_point()).buffer(2)
    ring = shapely.difference(area, island)
    for climb in (True, False):
        middles, gone, runs = milled(ring, radius, radius, climb)
        assert shapely.intersection(gone, island.buffer(-0.01)).area < 1e-3
        for run in runs:
            around = shapely.Polygon(run.flatten(0.01)) if len(run.points) > 3 and run.bulges else None
            if around is not None and around.is_valid and around.area > 1:
                # with the wall to the right climbing: out at the wall counter-clockwise, round the island clockwise
                ccw = shapely.LinearRing(around.exterior).is_ccw
                inner = bool(around.contains(island.centroid)) and not middles.covers(shapely.Point(island.centroid))
                outer_wall = shapely.hausdorff_distance(shapely.LinearRing(around.exterior), shapely.get_parts(middles)[0].exterior) < 0.1
                if outer_wall and not inner:
                    assert ccw == climb


@pytest.mark.parametrize("wide", [6.0, 6.0004, 6.002, 6.1, 6.5, 8.0, 12.0, 12.5, 18.0])
@pytest.mark.parametrize("turn", [0.0, 0.3])
def test_a_groove_of_any_width_from_the_bit_s_own_on(wide, turn):
    groove = shapely.affinity.rotate(shapely.box(0, 0, 120, wide), math.degrees(turn), origin=(0, 0))
    middles, gone, _ = milled(groove, 3.0, 2.4)
    corners = 4 * (1 - math.pi / 4) * 9
    assert shapely.difference(groove, gone).area == pytest.approx(corners, abs=0.6)
    assert shapely.difference(gone, groove.buffer(0.005)).area < 1e-3
    assert not shapely.is_empty(middles)


def test_a_place_narrower_than_the_bit_is_left_alone():
    assert shapely.is_empty(eroded(shapely.box(0, 0, 100, 5.99), 3.0))


@pytest.mark.parametrize("angle", [20, 30, 45, 60, 90, 120])
def test_sharp_corners_leave_nothing_between_rings(angle):
    """The rings stand apart by more than the bit is wide along the bisector of a sharp corner: they are laid nearer to one another there."""
    tip = math.radians(angle)
    area = shapely.Polygon([(0, 0), (120, 0), (120 * math.cos(tip), 120 * math.sin(tip))])
    middles, gone, _ = milled(area, 3.0, 3.6)
    assert shapely.difference(swept(middles, 3.0), gone.buffer(0.005)).area < 0.05
