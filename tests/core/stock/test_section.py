"""Sections: areas against formulas and a polygon library, a tube's mass a metre, and what is refused."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.errors import MemberError
from zygon.geometry.boolean import region_polygon
from zygon.stock.section import Section

STEEL = 7.85


def test_a_square_tube_weighs_what_its_section_says():
    """40 x 40 x 3 with an outer corner of 6 and an inner one of 3: 420.82 mm2 and 3.303 kg a metre, by the areas of squares and quarter discs."""
    tube = Section("square", 40, wall=3, corner=6)
    assert tube.area == pytest.approx(420.82, abs=5e-3) and tube.mass(STEEL) == pytest.approx(3.303, abs=5e-4)
    assert tube.area == pytest.approx(40**2 - (4 - math.pi) * 36 - (34**2 - (4 - math.pi) * 9))


@pytest.mark.parametrize("section, area, extents", [
    (Section("round", 12), math.pi * 36, (12, 12)),
    (Section("round", 42.4, wall=2), math.pi * (21.2**2 - 19.2**2), (42.4, 42.4)),
    (Section("square", 25), 625, (25, 25)),
    (Section("square", 25, wall=2), 625 - 441, (25, 25)),
    (Section("rectangle", 5, 30), 150, (30, 5)),
    (Section("rectangle", 30, 50, wall=2, corner=1), 1500 - 46 * 26 - (4 - math.pi), (50, 30)),
    (Section("hexagon", 10), math.sqrt(3) / 2 * 100, (10 / math.cos(math.pi / 6), 10)),
    (Section("hexagon", 10, wall=1), math.sqrt(3) / 2 * (100 - 64), (10 / math.cos(math.pi / 6), 10)),
])  # fmt: skip
def test_areas_and_the_box_round_a_section(section, area, extents):
    assert section.area == pytest.approx(area, rel=1e-7) and section.extents == pytest.approx(extents)
    assert section.region.outer.bounds == pytest.approx((-extents[0] / 2, -extents[1] / 2, extents[0] / 2, extents[1] / 2), abs=1e-6)


@given(
    st.sampled_from(["round", "square", "rectangle", "hexagon"]),
    st.floats(5, 80),
    st.floats(5, 80),
    st.one_of(st.just(0.0), st.floats(0.02, 0.45)),
    st.floats(0, 0.5),
)
def test_a_wall_is_as_thick_all_round(shape, height, width, wall, corner):
    least = min(height, width) if shape == "rectangle" else height
    section = Section(shape, height, width, wall * least, corner * least if shape in ("square", "rectangle") else 0.0)
    polygon = region_polygon(section.region)
    assert polygon.is_valid and section.area == pytest.approx(polygon.area, rel=2e-3, abs=0.05)
    for hole in polygon.interiors:
        assert polygon.exterior.distance(hole) == pytest.approx(section.wall, abs=0.01)


@pytest.mark.parametrize("asked, entry, words", [
    (("round", 0), "nominal", "greater than 0"),
    (("round", math.nan), "nominal", "greater than 0"),
    (("rectangle", 20, 0), "nominal", "greater than 0"),
    (("rectangle", 20, -3), "width", "greater than 0"),
    (("round", 20, 0, 10), "wall", "and less than half of 20 mm across"),
    (("rectangle", 20, 10, 5), "wall", "and less than half of 10 mm across"),
    (("square", 20, 0, -1), "wall", "at least 0.1 mm"),
    (("square", 20, 0, 0.09), "wall", "at least 0.1 mm"),
    (("square", 20, 0, 0, 10.1), "corner", "at most half of 20 mm"),
    (("square", 20, 0, 0, -0.1), "corner", "at most half of 20 mm"),
])  # fmt: skip
def test_what_is_no_section_is_refused_by_its_entry(asked, entry, words):
    with pytest.raises(MemberError) as error:
        Section(*asked)
    assert error.value.entry == entry and words in error.value.message


def test_a_corner_may_be_as_round_as_the_side_allows():
    assert Section("square", 20, corner=10).area == pytest.approx(math.pi * 100)
