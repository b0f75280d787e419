"""Outlines as other programs draw them: polylines with bulges, arcs chained with lines, ellipses, transforms, units, nested holes."""

import math

import ezdxf
import ezdxf.units
import pytest
import shapely

from zygon.errors import ImportFileError
from zygon.exchange import read, read_svg
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


@pytest.mark.parametrize(("rx", "ry"), [(10, 4), (4, 10), (7, 7)])
@pytest.mark.parametrize("path", [False, True])
def test_an_ellipse_is_as_large_as_its_two_radii_whichever_is_longer(tmp_path, rx, ry, path):
    arcs = f'<path d="M {50 - rx} 50 A {rx} {ry} 0 0 1 {50 + rx} 50 A {rx} {ry} 0 0 1 {50 - rx} 50 Z"/>'
    (found,) = read_contours(page(tmp_path, arcs if path else f'<ellipse cx="50" cy="50" rx="{rx}" ry="{ry}"/>'))
    assert abs(found.area) == pytest.approx(math.pi * rx * ry, rel=2e-3)
    assert found.bounds == pytest.approx((50 - rx, -50 - ry, 50 + rx, -50 + ry), abs=0.02)


SHAPES = {
    "x": '<rect {} y="20" width="30" height="10"/>',
    "y": '<rect x="20" {} width="30" height="10"/>',
    "width": '<rect x="20" y="20" {} height="10"/>',
    "height": '<rect x="20" y="20" width="30" {}/>',
    "cx": '<circle {} cy="30" r="9"/>',
    "cy": '<circle cx="30" {} r="9"/>',
    "r": '<circle cx="30" cy="30" {}/>',
    "rx": '<ellipse cx="30" cy="30" {} ry="9"/>',
    "ry": '<ellipse cx="30" cy="30" rx="9" {}/>',
    "points": "<polygon {}/>",
    "d": "<path {}/>",
    "x1": '<line {} y1="5" x2="40" y2="50"/>',
    "y1": '<line x1="5" {} x2="40" y2="50"/>',
    "x2": '<line x1="5" y1="5" {} y2="50"/>',
    "y2": '<line x1="5" y1="5" x2="40" {}/>',
}


@pytest.mark.parametrize("place", sorted(SHAPES))
def test_a_group_hands_no_place_down_to_its_shapes(tmp_path, place):
    """A group that names a place, which it has none of, changes nothing of a shape that lacks it."""
    value = {"points": "0,0 9,0 9,9", "d": "M 0 0 L 9 0 L 9 9 Z"}.get(place, "7")
    beside = '<rect x="60" y="60" width="11" height="13"/>'
    plain = f"<g>{SHAPES[place].format('')}{beside}</g>"
    handed = f'<g {place}="{value}">{SHAPES[place].format("")}{beside}</g>'
    found = [[c.bounds for c in read_contours(page(tmp_path, body))] for body in (plain, handed)]
    assert found[0] == found[1] and (60, -73, 71, -60) in [tuple(round(x) for x in b) for b in found[0]]


@pytest.mark.parametrize(
    ("head", "size"),
    [
        ('width="100mm" viewBox="0 0 200 50"', (100, 25)),
        ('height="100mm" viewBox="0 0 200 50"', (400, 100)),
        ('width="4in" viewBox="0 0 30 60"', (101.6, 203.2)),
        ('height="4in" viewBox="0 0 30 60"', (50.8, 101.6)),
    ],
)
def test_a_page_of_one_side_keeps_the_shape_of_its_box(tmp_path, head, size):
    box = [float(x) for x in head.split('viewBox="')[1].rstrip('"').split()]
    (found,) = read_contours(page(tmp_path, f'<rect x="0" y="0" width="{box[2]}" height="{box[3]}"/>', head))
    assert (found.bounds[2] - found.bounds[0], found.bounds[3] - found.bounds[1]) == pytest.approx(size, rel=1e-3)


@pytest.mark.parametrize(("deep", "fine"), [(198, True), (199, False)])
def test_groups_lie_at_most_200_deep(tmp_path, deep, fine):
    """The page and the shape are elements too."""
    body = "<g>" * deep + '<rect width="9" height="9"/>' + "</g>" * deep
    if fine:
        assert len(read_contours(page(tmp_path, body))) == 1
    else:
        with pytest.raises(ImportFileError, match="more than 200 deep"):
            read_contours(page(tmp_path, body))


def test_curves_that_would_give_too_many_corners_are_refused(tmp_path, monkeypatch):
    curve = '<path d="M 0 0 C 0 90 90 90 90 0 Z"/>'
    corners = len(read_contours(page(tmp_path, curve))[0].points)
    for most, fine in ((corners + 1, True), (corners - 3, False)):
        monkeypatch.setattr(read_svg, "MAX_VERTICES", most)
        if fine:
            read_contours(page(tmp_path, curve))
        else:
            with pytest.raises(ImportFileError, match=f"more than {most} corners"):
                read_contours(page(tmp_path, curve))


def test_a_spoilt_drawing_is_mended_as_far_as_it_goes(tmp_path):
    """A drawing without its end, and with a line between two tags that is none, as a broken transfer leaves it."""
    path = drawing(tmp_path, lambda m, doc: m.add_lwpolyline([(0, 0), (30, 0), (30, 20), (0, 20)], close=True))
    text = path.read_text()
    path.write_text(
        text.replace("  0\nENDSEC\n  0\nSECTION\n  2\nOBJECTS", "  0\nENDSEC\n  0\nSECTION\n  2\nOBJECTS", 1).removesuffix("  0\nEOF\n")
    )
    (found,) = read_contours(path)
    assert abs(found.area) == pytest.approx(600)


@pytest.mark.parametrize(
    ("raised", "told"), [(ValueError(""), "ValueError"), (KeyError("LAYER"), "'LAYER'"), (ZeroDivisionError("a\nb"), "a b")]
)
def test_whatever_a_library_raises_is_told_in_one_line(tmp_path, monkeypatch, raised, told):
    def fails(path):
        raise raised

    monkeypatch.setattr(read, "svg_segments", fails)
    with pytest.raises(ImportFileError, match=rf"not an SVG that can be read \({told}\)"):
        read_contours(page(tmp_path, ""))
