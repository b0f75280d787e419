"""Letters as outlines: against the font's own curves, drawn by fontTools' pens and measured by shapely."""

import math

import numpy as np
import pytest
import shapely
from fontTools.pens.areaPen import AreaPen
from fontTools.pens.boundsPen import BoundsPen
from fontTools.ttLib import TTFont

import zygon.geometry
from zygon.geometry.boolean import to_polygon
from zygon.geometry.lettering import FONTS, lettering, missing_letter

LETTERS = "ABgOQ80&%@ÄßØé?"


def font(name):
    return TTFont(f"{zygon.geometry.__path__[0]}/fonts/{name}.ttf")


def region(contours):
    """Outer contours run one way round, what is open in them the other."""
    solid = shapely.union_all([to_polygon(c, 0.001) for c in contours if c.area > 0])
    return shapely.difference(solid, shapely.union_all([to_polygon(c, 0.001) for c in contours if c.area < 0]))


@pytest.mark.parametrize("name", FONTS)
@pytest.mark.parametrize("char", LETTERS)
def test_a_letter_is_as_large_and_lies_as_its_font_has_it(name, char):
    own = font(name)
    glyphs, glyph = own.getGlyphSet(), own.getBestCmap()[ord(char)]
    area, bounds = AreaPen(glyphs), BoundsPen(glyphs)
    glyphs[glyph].draw(area)
    glyphs[glyph].draw(bounds)
    scale = 50 / own["OS/2"].sCapHeight
    found = region(lettering(char, (0, 0), 50, 0.0, name))
    assert sum(c.area for c in lettering(char, (0, 0), 50, 0.0, name)) == pytest.approx(abs(area.value) * scale**2, rel=2e-3)
    assert found.bounds == pytest.approx([x * scale for x in bounds.bounds], abs=0.05)


@pytest.mark.parametrize("name", FONTS)
def test_capitals_are_as_high_as_is_said(name):
    for height in (3.0, 20.0, 400.0):
        found = region(lettering("H", (7, -3), height, 0.0, name))
        assert found.bounds[3] - found.bounds[1] == pytest.approx(height, rel=1e-6) and found.bounds[1] == pytest.approx(-3)


@pytest.mark.parametrize("turned", [0.0, 0.4, math.pi / 2, -2.5])
def test_a_line_is_turned_about_its_beginning(turned):
    straight, askew = (lettering("Rye 7", (0, 0), 30, t, "sans", "o") for t in (0.0, turned))
    assert len(straight) == len(askew) and all(set(c.owners) == {"o"} for c in askew)
    c, s = math.cos(turned), math.sin(turned)
    for a, b in zip(straight, askew, strict=True):
        p = np.array(a.points)
        assert np.array(b.points) == pytest.approx(p @ np.array([[c, s], [-s, c]]), abs=1e-6)


def test_letters_stand_apart_and_a_space_is_as_wide_as_the_font_says():
    one, two = (region(lettering(t, (0, 0), 30, 0.0, "mono")) for t in ("II", "I I"))
    first, second = sorted(shapely.get_parts(one), key=lambda g: g.bounds[0])
    wide = font("mono")["hmtx"]["I"][0] * 30 / font("mono")["OS/2"].sCapHeight
    assert second.bounds[0] - first.bounds[0] == pytest.approx(wide, abs=1e-6)
    last = max(shapely.get_parts(two), key=lambda g: g.bounds[0])
    assert last.bounds[0] - first.bounds[0] == pytest.approx(2 * wide, abs=1e-6)


def test_what_is_open_runs_the_other_way_and_nothing_crosses():
    contours = lettering("B8@", (0, 0), 40, 0.0, "sans")
    assert sum(c.area < 0 for c in contours) >= 5
    assert all(to_polygon(c, 0.001).is_valid for c in contours)
    assert all(abs(b) <= 1 for c in contours for b in c.bulges)


def test_a_letter_that_is_not_there_is_named():
    assert missing_letter("Oak №", "sans") == "№" and missing_letter("Eiche ä 12°", "sans") is None
