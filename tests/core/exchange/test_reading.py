"""Outlines as other programs draw them: polylines with bulges, arcs chained with lines, ellipses, transforms, units, nested holes."""

import math

import ezdxf
import pytest

from zygon.errors import ImportFileError
from zygon.exchange.read import read_contours, read_regions


def drawing(tmp_path, draw, unit=4):
    doc = ezdxf.new("R2010")
    doc.header["$INSUNITS"] = unit
    draw(doc.modelspace(), doc)
    path = tmp_path / "drawing.dxf"
    doc.saveas(path)
    return path


def page(tmp_path, body, head='width="200mm" height="100mm" viewBox="0 0 200 100"'):
    path = tmp_path / "page.svg"
    path.write_text(f'<svg xmlns="http://www.w3.org/2000/svg" {head}>{body}</svg>')
    return path


@pytest.mark.parametrize(("unit", "factor"), [(0, 1.0), (1, 25.4), (2, 304.8), (4, 1.0), (5, 10.0), (6, 1000.0)])
def test_a_drawing_is_read_in_its_unit(tmp_path, unit, factor):
    path = drawing(tmp_path, lambda s, _: s.add_lwpolyline([(0, 0), (2, 0), (2, 1), (0, 1)], close=True), unit)
    assert read_regions(path)[0].area == pytest.approx(2 * factor**2)


def test_an_unknown_unit_is_refused(tmp_path):
    path = drawing(tmp_path, lambda s, _: s.add_circle((0, 0), 5), unit=20)
    with pytest.raises(ImportFileError, match="unit number 20"):
        read_regions(path)


def test_polylines_keep_their_bulges_old_style_and_new(tmp_path):
    def draw(space, _):
        space.add_lwpolyline([(0, 0, 0), (10, 0, 1), (10, 10, 0), (0, 10, 1)], format="xyb", close=True)
        space.add_polyline2d([(40, 0, 0), (50, 0, 1), (50, 10, 0), (40, 10, 1)], format="xyb", close=True)

    for contour in read_contours(drawing(tmp_path, draw)):
        assert abs(contour.area) == pytest.approx(100 + math.pi * 25)
        assert sorted(abs(b) for b in contour.bulges) == [0, 0, 1, 1]


def test_an_ellipse_is_divided_finely_and_a_mirrored_block_keeps_its_area(tmp_path):
    def draw(space, doc):
        space.add_ellipse((0, 0), (30, 0), 0.5)
        block = doc.blocks.new("D")
        block.add_lwpolyline([(0, 0, 0), (10, 0, 1), (10, 10, 0), (0, 10, 0)], format="xyb", close=True)
        space.add_blockref("D", (100, 0), dxfattribs={"xscale": -1, "rotation": 30})

    areas = sorted(abs(c.area) for c in read_contours(drawing(tmp_path, draw)))
    assert areas == pytest.approx([100 + math.pi * 12.5, math.pi * 30 * 15], rel=1e-3)


def test_what_lies_on_mark_and_note_layers_is_no_outline(tmp_path):
    def draw(space, _):
        space.add_circle((0, 0), 20)
        space.add_circle((0, 0), 5, dxfattribs={"layer": "MARK"})
        space.add_circle((0, 0), 90, dxfattribs={"layer": "NOTE"})
        space.add_text("hello")

    (region,) = read_regions(drawing(tmp_path, draw))
    assert region.outer.as_circle[2] == 20 and region.inner == ()


def test_an_island_in_a_hole_is_an_outline_of_its_own(tmp_path):
    def draw(space, _):
        for r in (50, 30, 10):
            space.add_circle((0, 0), r)

    regions = read_regions(drawing(tmp_path, draw))
    assert [r.area for r in regions] == pytest.approx([math.pi * (2500 - 900), math.pi * 100])


def test_a_page_in_millimetres_with_transforms_and_shapes(tmp_path):
    body = '<g transform="translate(20 30) rotate(90)"><rect width="40" height="20"/></g><circle cx="150" cy="50" r="10"/><ellipse cx="100" cy="50" rx="10" ry="10"/>'
    regions = read_regions(page(tmp_path, body))
    assert [r.area for r in regions] == pytest.approx([800, math.pi * 100, math.pi * 100], rel=1e-6)
    box = regions[0].outer.bounds
    assert box == pytest.approx((0, -70, 20, -30), abs=1e-6)


@pytest.mark.parametrize(
    ("head", "mm"),
    [
        ('width="200mm" height="100mm" viewBox="0 0 400 200"', 10),
        ('width="10cm" height="5cm" viewBox="0 0 100 50"', 20),
        ('width="96" height="96"', 20 * 25.4 / 96),
        ('width="2in" height="2in" viewBox="0 0 2 2"', 20 * 25.4),
    ],
)
def test_a_page_is_read_at_its_printed_size(tmp_path, head, mm):
    x0, _, x1, _ = read_regions(page(tmp_path, '<rect width="20" height="20"/>', head))[0].outer.bounds
    assert x1 - x0 == pytest.approx(mm, rel=1e-5)


def test_curves_are_divided_and_rounded_rectangles_keep_their_arcs(tmp_path):
    curve = "M0 0 C 0 27.6142 22.3858 50 50 50 L 50 0 Z"  # a quarter turn, nearly
    assert read_regions(page(tmp_path, f'<path d="{curve}"/>'))[0].area == pytest.approx(
        2500 - math.pi * 625 + (math.pi * 625 - (2500 - math.pi * 625)), rel=0.05
    )
    (region,) = read_regions(page(tmp_path, '<rect width="60" height="40" rx="8"/>'))
    assert region.area == pytest.approx(2400 - (4 - math.pi) * 64, rel=1e-6)
    assert any(region.outer.bulges)


@pytest.mark.parametrize("body", ["", "<text>words</text>", '<line x1="0" y1="0" x2="9" y2="9"/>', '<g class="mark"><circle r="5"/></g>'])
def test_a_page_without_an_outline_says_so(tmp_path, body):
    with pytest.raises(ImportFileError, match="no closed outline"):
        read_regions(page(tmp_path, body))
