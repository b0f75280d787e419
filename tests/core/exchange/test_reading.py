"""Outlines as other programs draw them: polylines with bulges, arcs chained with lines, ellipses, transforms, units, nested holes."""

import math

import ezdxf
import ezdxf.units
import pytest
import shapely

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


@pytest.mark.parametrize("unit", [0, 1, 2, 4, 5, 6, 8, 9, 13, 14])
def test_a_drawing_is_read_in_its_unit(tmp_path, unit):
    """Referee: the library's own table of units (DXF reference, $INSUNITS); 0 is said to have none, and is read in mm."""
    by_hand = {0: 1.0, 8: 25.4e-6, 9: 25.4e-3}  # microinches and mils are not in it
    factor = by_hand.get(unit) or ezdxf.units.conversion_factor(ezdxf.units.InsertUnits(unit), ezdxf.units.MM)
    side = 40 / factor
    path = drawing(tmp_path, lambda s, _: s.add_lwpolyline([(0, 0), (side, 0), (side, side / 2), (0, side / 2)], close=True), unit)
    assert read_regions(path)[0].outer.bounds == pytest.approx((0, 0, 40, 20), rel=1e-4)


@pytest.mark.parametrize("depth", [1, 8, 60])
def test_blocks_in_blocks_are_unfolded(tmp_path, depth):
    def draw(space, doc):
        doc.blocks.new("b0").add_lwpolyline([(0, 0), (20, 0), (20, 10), (0, 10)], close=True)
        for n in range(1, depth):
            doc.blocks.new(f"b{n}").add_blockref(f"b{n - 1}", (3, 0))
        space.add_blockref(f"b{depth - 1}", (100, 50))
        space.add_circle((0, 0), 2)

    found = read_contours(drawing(tmp_path, draw))
    assert len(found) == 2 and max(c.bounds[2] for c in found) == pytest.approx(120 + 3 * (depth - 1))


@pytest.mark.parametrize("what", ["ellipse", "spline"])
def test_a_curve_is_divided_to_a_hundredth_and_no_coarser(tmp_path, what):
    """The middles of its chords lie off it by at most 0.01 mm, and somewhere by more than half of that."""

    def draw(space, _):
        if what == "ellipse":
            space.add_ellipse((0, 0), (60, 0), 0.5)
        else:
            space.add_spline_control_frame([(0, 0), (40, 60), (90, -10), (0, 0)])

    path = drawing(tmp_path, draw)
    (found,) = read_contours(path)
    curve = next(iter(ezdxf.readfile(path).modelspace()))
    fine = shapely.LineString([tuple(p)[:2] for p in curve.flattening(1e-5)])
    points = [*found.points, found.points[0]]
    off = [fine.distance(shapely.Point((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)) for a, b in zip(points, points[1:], strict=False)]
    assert 0.002 < max(off) <= 0.01 + 1e-5


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
