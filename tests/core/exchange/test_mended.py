"""Drawings from outside: their layers, and all that is mended in them told; arcs found again in chords."""

import math

import ezdxf
import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.errors import ImportFileError
from zygon.exchange.outline_in import drawn_outline
from zygon.exchange.read import read_outlines, read_regions
from zygon.geometry.boolean import to_polygon
from zygon.geometry.chords import with_arcs
from zygon.geometry.contour import circle, obround, polygon, rounded_rectangle


def chords(contour, sagitta):
    return polygon([tuple(p) for p in contour.flatten(sagitta).tolist()])


def drawing(tmp_path, draw, name="x.dxf"):
    doc = ezdxf.new()
    doc.header["$INSUNITS"] = 4
    draw(doc.modelspace())
    doc.saveas(tmp_path / name)
    return tmp_path / name


@settings(max_examples=40, deadline=None)
@given(st.floats(2, 400), st.floats(2, 300), st.floats(0.5, 40), st.floats(-3, 3), st.sampled_from([0.002, 0.01, 0.05]))
def test_rounded_shapes_come_back_from_their_chords(w, h, r, turned, sagitta):
    """As many lines and arcs as they were drawn with, on the same radii; nothing moves farther than the chords did."""
    r = min(r, w / 2.2, h / 2.2)
    drawn = rounded_rectangle(0, 0, w, h, r, turned)
    flat = chords(drawn, sagitta)
    found, n = with_arcs(flat)
    per_corner = (len(flat.points) - 4) // 4
    if per_corner < 5:
        return
    assert n >= 4 * per_corner - 8
    arcs = [s for s in found.segments() if s.bulge]
    # where little is left straight between two corners, that may lie on an arc's own
    plain = min(w, h) > 3 * r
    assert len(arcs) == 4 if plain else 2 <= len(arcs) <= 8
    for s in arcs if plain else ():
        radius = math.dist(s.p, s.q) * (1 + s.bulge**2) / (4 * abs(s.bulge))
        assert radius == pytest.approx(r, abs=0.05 + r * 0.02)
    assert shapely.symmetric_difference(to_polygon(found, 0.001), to_polygon(drawn, 0.001)).area < drawn.length * (sagitta + 0.012)


@pytest.mark.parametrize("sagitta", [0.001, 0.01, 0.05, 0.2])
def test_a_circle_is_one_again(sagitta):
    found, n = with_arcs(chords(circle(30, -7, 25), sagitta))
    assert n and found.as_circle is not None and found.as_circle == pytest.approx((30, -7, 25), abs=0.02)


def test_a_slot_keeps_its_sides():
    found, _ = with_arcs(chords(obround(0, 0, 60, 12, 0.3, ""), 0.01))
    assert sum(bool(b) for b in found.bulges) == 4 or sum(bool(b) for b in found.bulges) == 2
    assert abs(found.area) == pytest.approx(48 * 12 + math.pi * 36, rel=1e-3)


@pytest.mark.parametrize("sides", [3, 4, 6, 8, 12])
def test_polygons_stay_polygons(sides):
    corners = [(50 * math.cos(2 * math.pi * k / sides), 50 * math.sin(2 * math.pi * k / sides)) for k in range(sides)]
    assert with_arcs(polygon(corners)) == (polygon(corners), 0)


@pytest.mark.parametrize(("sides", "radius"), [(16, 50), (20, 200), (40, 400)])
def test_chords_that_an_arc_would_stand_far_out_of_stay(sides, radius):
    corners = [(radius * math.cos(2 * math.pi * k / sides), radius * math.sin(2 * math.pi * k / sides)) for k in range(sides)]
    assert with_arcs(polygon(corners))[1] == 0


def test_a_line_that_shakes_is_no_arc():
    shaky = [(float(x), 0.002 * (x % 2)) for x in range(0, 60, 2)] + [(float(x), 40 + 0.002 * (x % 4) / 2) for x in range(60, 0, -2)]
    shaky = [(x, y + 0.002 * (i % 2)) for i, (x, y) in enumerate(shaky)]
    assert with_arcs(polygon(shaky))[1] == 0


def test_a_gear_s_teeth_and_a_zigzag_stay():
    zigzag = [(float(x), 10.0 + (x % 2)) for x in range(30)] + [(29.0, 0.0), (0.0, 0.0)]
    assert with_arcs(polygon(zigzag))[1] == 0


def test_an_s_of_two_arcs_is_two():
    t = np.linspace(0, math.pi / 2, 30)
    first = np.column_stack((20 * np.sin(t), 20 - 20 * np.cos(t)))
    second = np.column_stack((40 - 20 * np.cos(t), 20 + 20 * np.sin(t)))
    points = [*map(tuple, first.tolist()), *map(tuple, second[1:].tolist()), (40.0, -10.0), (0.0, -10.0)]
    found, _ = with_arcs(polygon(points))
    bulges = [b for b in found.bulges if b]
    assert len(bulges) == 2 and bulges[0] > 0 > bulges[1]


def test_layers_are_told_and_chosen(tmp_path):
    def draw(space):
        space.add_lwpolyline([(0, 0), (100, 0), (100, 60), (0, 60)], close=True, dxfattribs={"layer": "PLATE"})
        space.add_circle((30, 30), 10, dxfattribs={"layer": "HOLES"})
        space.add_lwpolyline([(-50, -50), (200, -50), (200, 200), (-50, 200)], close=True, dxfattribs={"layer": "FRAME"})
        space.add_line((0, 0), (5, 5), dxfattribs={"layer": "NOTE"})

    path = drawing(tmp_path, draw)
    found = read_outlines(path)
    assert {(x.name, x.curves, x.read) for x in found.layers} == {
        ("PLATE", 1, True), ("HOLES", 1, True), ("FRAME", 1, True), ("NOTE", 1, False)
    }  # fmt: skip
    assert found.regions[0].outer.bounds == (-50, -50, 200, 200)
    chosen = read_outlines(path, layers=["PLATE", "HOLES"])
    [region] = chosen.regions
    assert region.outer.bounds == (0, 0, 100, 60) and len(region.inner) == 1
    with pytest.raises(ImportFileError) as refused:
        read_outlines(path, layers=["NOPE"])
    assert refused.value.entry == "layers" and "PLATE" in refused.value.rule


def test_groups_classes_and_colours_of_a_page_are_its_layers(tmp_path):
    path = tmp_path / "x.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">'
        '<g id="plates"><g id="inner"><rect width="40" height="40"/></g></g>'
        '<rect x="50" width="30" height="30" class="cut"/><rect x="50" y="50" width="20" height="20" stroke="#ff0000" fill="none"/>'
        '<g class="mark"><rect y="80" width="10" height="10"/></g></svg>'
    )
    found = read_outlines(path)
    assert {(x.name, x.read) for x in found.layers} == {("plates", True), ("cut", True), ("lines #ff0000", True), ("mark", False)}
    assert len(found.regions) == 3
    [red] = read_outlines(path, layers=["lines #ff0000"]).regions
    assert red.area == pytest.approx(400, rel=1e-3)


def test_all_that_was_mended_is_told_with_its_place(tmp_path):
    def draw(space):
        space.add_line((0, 0), (100, 0))
        space.add_line((100, 0), (100, 60))
        space.add_line((100, 60), (0.1, 60))  # a gap of 0.1
        space.add_line((0, 60), (0, 0))
        space.add_line((0, 0), (100, 0))  # once more
        space.add_line((100, 60), (100, 0))  # and the other way round
        space.add_circle((30, 30), 10)
        space.add_circle((30, 30), 10)
        ring = circle(70, 30, 8).flatten(0.01).tolist()
        space.add_lwpolyline(ring, close=True)
        space.add_lwpolyline([(10, 5), (20, 5), (20, 8)])

    path = drawing(tmp_path, draw)
    found = read_outlines(path)
    told = {m.what: m for m in found.mended}
    assert told["doubled lines left out"].count == 4 and told["doubled lines left out"].at == (0, 0)
    assert told["gaps closed"].count == 1 and told["gaps closed"].most == pytest.approx(0.1) and told["gaps closed"].at[1] == 60
    assert told["chords made arcs"].count == len(circle(70, 30, 8).flatten(0.01))
    assert told["open lines within outlines left out"].count == 1
    [region] = found.regions
    assert sorted(c.as_circle[2] for c in region.inner) == pytest.approx([8, 10], abs=0.01)
    plain = read_outlines(path, arcs=False)
    assert "chords made arcs" not in {m.what for m in plain.mended}
    assert sum(c.as_circle is not None for c in plain.regions[0].inner) == 1


def test_a_clean_drawing_has_nothing_to_mend(tmp_path):
    path = drawing(tmp_path, lambda space: (space.add_circle((0, 0), 20), space.add_circle((0, 0), 5)))
    found = read_outlines(path)
    assert found.mended == () and list(found.regions) == read_regions(path)


def test_the_record_has_every_outline_with_its_place(tmp_path):
    def draw(space):
        space.add_lwpolyline([(10, 20), (110, 20), (110, 80), (10, 80)], close=True)
        space.add_circle((60, 50), 10)
        space.add_circle((200, 50), 25)

    found = drawn_outline(drawing(tmp_path, draw), "two.dxf")
    assert found["count"] == 2 and found["width"] == 100 and len(found["outline"]["inner"]) == 1
    assert [(s["width"], s["height"], s["at"]) for s in found["shapes"]] == [(100, 60, [10, 20]), (50, 50, [175, 25])]
