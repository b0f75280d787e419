"""What of a region lies in a zone, against shapely: with holes wholly in it, on its edge, outside it, and round it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.geometry.boolean import Region, intersect, intersect_each, region_polygon, to_polygon
from zygon.geometry.contour import circle, rectangle

PLATE = rectangle(0, 0, 100, 60, "edge")


def plate(holes):
    """A plate with round and square holes on a raster of 20 mm, none of which touches another or the edge."""
    inner = []
    for (i, j), (size, square) in holes.items():
        x, y = 10 + 20 * i, 10 + 20 * j
        one = rectangle(x - size, y - size, x + size, y + size, f"s{i}{j}") if square else circle(x, y, size, f"r{i}{j}")
        inner.append(one.wound(ccw=False))
    return Region(PLATE, tuple(inner))


places = st.tuples(st.integers(0, 4), st.integers(0, 2))
plates = st.dictionaries(places, st.tuples(st.sampled_from([0.5, 3.0, 7.5, 9.5]), st.booleans()), max_size=12).map(plate)
at = st.one_of(st.integers(-1, 11).map(lambda k: k * 10.0), st.floats(-5, 105))


@st.composite
def zones(draw):
    x, y = draw(at), draw(at)
    return rectangle(
        x, y, x + draw(st.sampled_from([0.8, 4.0, 20.0, 55.0, 130.0])), y + draw(st.sampled_from([0.8, 4.0, 20.0, 90.0])), "zone"
    )


@given(plates, zones())
def test_what_lies_in_a_zone_is_what_shapely_finds(region, zone):
    expected = region_polygon(region).intersection(to_polygon(zone))
    found = intersect(region, zone)
    # both in chords, which begin elsewhere where an arc is cut
    assert sum(region_polygon(r).area for r in found) == pytest.approx(expected.area, abs=0.1)
    assert all(region_polygon(r).symmetric_difference(p).area < 0.1 for r in found for p in _same(expected, r))
    owners = {s.owner for c in (region.outer, *region.inner, zone) for s in c.segments()}
    assert {s.owner for r in found for c in (r.outer, *r.inner) for s in c.segments()} <= owners
    assert [r.area for r in found] == sorted((r.area for r in found), reverse=True)
    for r in found:
        assert r.outer.area > 0 and all(c.area < 0 for c in r.inner)


def _same(expected, region):
    """The piece of what was expected that a region lies on; exactly one."""
    there = [p for p in getattr(expected, "geoms", [expected]) if p.intersection(region_polygon(region)).area > region.area / 2]
    assert len(there) == 1
    return there


def test_a_zone_within_a_hole_holds_nothing_and_one_round_it_all_of_it():
    region = Region(PLATE, (circle(50, 30, 20, "hole").wound(ccw=False),))
    inside, whole = intersect_each(region, [rectangle(45, 25, 55, 35, "zone"), rectangle(-1, -1, 101, 61, "zone")])
    assert inside == []
    assert [r.area for r in whole] == [pytest.approx(region.area)]
    assert len(whole[0].inner) == 1 and whole[0].inner[0].area == pytest.approx(-3.141592653589793 * 400)
