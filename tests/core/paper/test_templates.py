"""Templates at 1 : 1: true to size, and on several pages that butt on their seams."""

from __future__ import annotations

import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.core.paper.sheets import built_example, pages
from zygon.design.papers import Papers, SheetSaid
from zygon.exchange.tubes import template_of
from zygon.geometry.contour import circle, rectangle
from zygon.making.pipeline import build
from zygon.paper.formats import area_of
from zygon.paper.ink import Curve, Line, Words, box_of
from zygon.paper.template import OVERLAP, tiled


@pytest.mark.parametrize("end", ["a", "b"])
@pytest.mark.parametrize("scale", ["", "1:5"])
def test_a_template_is_as_wide_as_the_tube_is_round(end, scale):
    """The outline is π times the outside diameter across, as a sheet wrapped round it must be; whatever scale is said."""
    document = built_example("tube-stand").document
    papers = Papers(size="A4", sheets={f"template:rail_low_front:{end}": SheetSaid(scale=scale)})
    built = build(document.model_copy(update={"papers": papers}))
    (page,) = pages(built, f"template:rail_low_front:{end}")
    own = [i for i in page.drawn if not isinstance(i, Words) and i.of]
    x0, y0, x1, y1 = box_of(own)
    body = built.made["rail_low_front"].body
    assert x1 - x0 == pytest.approx(math.pi * body.section.height, abs=0.01)
    outline = next(c for op, c in template_of(built, built.made["rail_low_front"], end).drawn if op == "outside")
    assert y1 - y0 == pytest.approx(outline.bounds[3] - outline.bounds[1], abs=0.02)
    assert "1 : 1" in {i.text for i in page.drawn if isinstance(i, Words)} and page.scale == "1 : 1"
    assert any(f"end {end.upper()}: coped onto" in i.text for i in page.drawn if isinstance(i, Words))


@given(st.floats(60, 900), st.floats(60, 900), st.sampled_from(["A4", "A3", "ANSI A"]))
def test_tiles_put_together_are_the_whole_and_butt_on_their_seams(wide, high, size):
    contours = [("visible", rectangle(3, -5, 3 + wide, -5 + high)), ("centre", circle(3 + wide / 2, -5 + high / 2, min(wide, high) / 3))]
    found = tiled(contours, area_of(size), 12.0, 2.5, "x")
    assert len(found.tiles) == found.columns * found.rows
    area = area_of(size)
    left, low = area[0] + 6, None
    placed, seams = [], {}
    for tile in found.tiles:
        own = [i for i in tile.ink if getattr(i, "of", "")]
        for i in own:  # all of it lies within the frame
            assert area[0] <= box_of([i])[0] and box_of([i])[2] <= area[2] and area[1] <= box_of([i])[1] and box_of([i])[3] <= area[3]
        lines = [i for i in tile.ink if isinstance(i, Line) and i.pen == "phantom"]
        assert len(lines) == (tile.column > 0) + (tile.column < found.columns - 1) + (tile.row > 0) + (tile.row < found.rows - 1)
        room = (area[2] - 6 - left, _room(area))
        low = area[1] + 37.0 + 12.0 + 6
        dx, dy = 3 + tile.column * (room[0] - OVERLAP) - left, -5 + tile.row * (room[1] - OVERLAP) - low
        placed += [shapely.LineString([(x + dx, y + dy) for x, y in (i.points if isinstance(i, Curve) else (i.p, i.q))]) for i in own]
        for i in lines:
            upright = abs(i.p[0] - i.q[0]) < 1e-9
            at = round(i.p[0] + dx, 6) if upright else round(i.p[1] + dy, 6)
            seams.setdefault((upright, at, tile.row if upright else tile.column), 0)
            seams[upright, at, tile.row if upright else tile.column] += 1
    assert set(seams.values()) <= {2}, "each seam is drawn on both pages that butt there"
    whole = shapely.union_all([shapely.LineString([*map(tuple, c.flatten(0.01)), tuple(c.flatten(0.01)[0])]) for _, c in contours])
    together = shapely.union_all(placed)
    assert whole.difference(together.buffer(0.01)).length < 0.1
    assert together.difference(whole.buffer(0.01)).length < 0.1


def _room(area) -> float:
    return area[3] - 6 - (area[1] + 37.0 + 12.0 + 6) - 5.0
