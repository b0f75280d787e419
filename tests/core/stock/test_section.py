"""Sections: areas against formulas and a polygon library, a tube's mass a metre, and what is refused."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.errors import MemberError
from zygon.geometry.boolean import region_polygon, to_polygon
from zygon.stock.section import Section

STEEL = 7.85


def test_a_square_tube_weighs_what_its_section_says():
    """40 x 40 x 3 with an outer corner of 6 and an inner one of 3: 420.82 mm2 and 3.303 kg a metre, by the areas of squares and quarter discs."""
    tube = Section("square", 40, wall=3, corner=6)
    assert tube.area == pytest.approx(420.82, abs=5e-3) and tube.mass(STEEL) == pytest.approx(3.303, abs=5e-4)
    assert tube.area == pytest.approx(40**2 - (4 - math.pi) * 36 - (34**2 - (4 - math.pi) * 9))


@pytest.mark.parametrize(
    "section, area, extents",
    [
        (Section("round", 12), math.pi * 36, (12, 12)),
        (Section("round", 42.4, wall=2), math.pi * (21.2**2 - 19.2**2), (42.4, 42.4)),
        (Section("square", 25), 625, (25, 25)),
        (Section("square", 25, wall=2), 625 - 441, (25, 25)),
        (Section("rectangle", 5, 30), 150, (30, 5)),
        (Section("rectangle", 30, 50, wall=2, corner=1), 1500 - 46 * 26 - (4 - math.pi), (50, 30)),
        (Section("hexagon", 10), math.sqrt(3) / 2 * 100, (10 / math.cos(math.pi / 6), 10)),
        (Section("hexagon", 10, wall=1), math.sqrt(3) / 2 * (100 - 64), (10 / math.cos(math.pi / 6), 10)),
    ],
)
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


@pytest.mark.parametrize(
    "asked, entry, words",
    [
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
    ],
)
def test_what_is_no_section_is_refused_by_its_entry(asked, entry, words):
    with pytest.raises(MemberError) as error:
        Section(*asked)
    assert error.value.entry == entry and words in error.value.message


@pytest.mark.parametrize(
    "section, area",
    [
        (Section("angle", 40, 40, 4), 40 * 4 + 36 * 4),
        (Section("angle", 40, 40, 4, 6), 304 + (1 - math.pi / 4) * 36),
        (Section("angle", 30, 50, 5), 50 * 5 + 25 * 5),
        (Section("channel", 40, 20, 2), 40 * 2 + 2 * 18 * 2),
        (Section("channel", 40, 20, 2, 3), 152 + 2 * (1 - math.pi / 4) * 9),
        (Section("tee", 30, 30, 4), 30 * 4 + 26 * 4),
        (Section("tee", 30, 30, 4, 4), 224 + 2 * (1 - math.pi / 4) * 16),
        (Section("tee", 30, 30, 4, 13), 224 + 2 * (1 - math.pi / 4) * 169),
    ],
)
def test_what_is_open_weighs_its_legs_and_the_rounds_between_them(section, area):
    for own in (section, section.mirrored):
        polygon = region_polygon(own.region)
        assert own.area == pytest.approx(area, rel=1e-9) and polygon.is_valid and own.region.outer.area > 0
        assert own.region.outer.bounds == pytest.approx((-section.width / 2, -section.height / 2, section.width / 2, section.height / 2))
        assert own.open and not own.hollow and not own.region.inner
    assert section.mirrored.mirrored == section
    # a gap all round: what lies within it of the outside, by the polygon library
    grown = to_polygon(section.outline(0.4), 1e-4)
    assert grown.area == pytest.approx(region_polygon(section.region, 1e-4).buffer(0.4, join_style="mitre").area, rel=1e-3)


def test_an_open_section_is_mirrored_where_it_is_not_its_own_mirror_image():
    for section, own in ((Section("angle", 40, 40, 4), False), (Section("channel", 40, 20, 2), False), (Section("tee", 30, 30, 4), True)):
        flipped = [(round(-x, 6), round(y, 6)) for x, y in section.region.outer.points]
        assert sorted(flipped) == sorted((round(x, 6), round(y, 6)) for x, y in section.mirrored.region.outer.points)
        assert (section.mirrored == section) is own


@pytest.mark.parametrize(
    "asked, entry, words",
    [
        (("angle", 40, 40), "wall", "at least 0.1 mm"),
        (("angle", 40, 20, 20), "wall", "less than 20 mm"),
        (("channel", 40, 30, 20), "wall", "less than 20 mm"),
        (("channel", 80, 20, 20), "wall", "less than 20 mm"),
        (("tee", 30, 20, 21), "wall", "so that its legs stand apart"),
        (("angle", 40, 40, 4, 37), "corner", "at most the 36 mm"),
        (("channel", 40, 60, 4, 16.5), "corner", "at most the 16 mm"),
        (("tee", 30, 30, 4, 14), "corner", "at most the 13 mm"),
    ],
)
def test_what_is_no_open_section_is_refused_by_its_entry(asked, entry, words):
    with pytest.raises(MemberError) as error:
        Section(*asked)
    assert error.value.entry == entry and words in error.value.message


def test_a_corner_may_be_as_round_as_the_side_allows():
    assert Section("square", 20, corner=10).area == pytest.approx(math.pi * 100)
