"""Readers and writers at their limits, each a hair inside it and a hair beyond; and what only one test in a hundred would see."""

import io
import math

import ezdxf
import pytest
import trimesh

from tests.core.exchange.test_reading import drawing, page
from tests.fuzz.spoilt import CORPUS
from zygon.design.draft import Draft
from zygon.errors import ImportFileError, ZygonError
from zygon.exchange import read, read_dxf, read_svg, step
from zygon.exchange.bundle import part_file, part_files
from zygon.exchange.chain import JOIN, chained
from zygon.exchange.cutlist import cut_list
from zygon.exchange.drilling import drilling_list
from zygon.exchange.meshes import write_mesh
from zygon.exchange.read import read_contours, read_regions
from zygon.exchange.step import solid_record
from zygon.making.pipeline import build

SQUARE = '<path d="M0 0 H40 V20 H0 Z"/>'


@pytest.mark.parametrize(
    ("head", "factor"),
    [
        ('width="100mm" viewBox="0 0 200 100"', 0.5),
        ('height="5cm" viewBox="0 0 200 100"', 0.5),
        ('width="100%" height="50mm" viewBox="10 20 200 100"', 0.5),
        ('width="300" viewBox="0 0 200 100"', 1.5 * 25.4 / 96),
        ('width="10cm" height="5cm" viewBox="0 0 200 100"', 0.5),
        ('width="100mm" height="20mm" viewBox="0 0 200 100"', 0.2),  # it keeps its shape, and fits within both
        ('width="100" height="50mm" viewBox="0 0 100 50"', 25.4 / 96),
        ('viewBox="0 0 200 100"', 25.4 / 96),
        ('width="200mm" height="100mm"', 25.4 / 96),
    ],
)
def test_a_page_is_as_wide_as_it_says(tmp_path, head, factor):
    (region,) = read_regions(page(tmp_path, SQUARE, head))
    assert region.outer.bounds[2] - region.outer.bounds[0] == pytest.approx(40 * factor, rel=1e-3)


@pytest.mark.parametrize("flag", [0, 1])
@pytest.mark.parametrize("large", [0, 1])
def test_an_elliptic_arc_turns_either_way(tmp_path, flag, large):
    (contour,) = read_contours(page(tmp_path, f'<path d="M20 40 A30 20 0 {large} {flag} 50 20 Z"/>'))
    # a quarter of the ellipse less the triangle, or what is left of the whole one
    quarter = math.pi * 30 * 20 / 4 - 30 * 20 / 2
    assert abs(contour.area) == pytest.approx(math.pi * 30 * 20 - quarter if large else quarter, rel=2e-3)


def test_a_circle_may_be_a_polyline_of_two_corners(tmp_path):
    (contour,) = read_contours(drawing(tmp_path, lambda s, _: s.add_lwpolyline([(0, 0, 1), (20, 0, 1)], format="xyb", close=True)))
    assert abs(contour.area) == pytest.approx(math.pi * 100)


def bounds(tmp_path, body):
    return sorted(tuple(round(float(x), 3) + 0.0 for x in c.bounds) for c in read_contours(page(tmp_path, body)))


USED = '<path id="s" d="M0 0 H40 V20 H0 Z"/>'


@pytest.mark.parametrize(
    ("body", "found"),
    [
        (f'{USED}<use href="#s" x="50" y="10"/>', [(0, -20, 40, 0), (50, -30, 90, -10)]),
        (f'<defs>{USED}</defs><use href="#s" transform="translate(10 30) scale(2)"/>', [(10, -70, 90, -30)]),
        (f'<defs>{USED}</defs><use href="#s" x="5" transform="scale(2)"/>', [(10, -40, 90, 0)]),
        (f'<defs><g id="g" transform="rotate(90)">{USED}</g></defs><use href="#g" x="100"/>', [(80, -40, 100, 0)]),
        (
            f'<defs><g id="g">{USED}<circle class="mark" r="9"/></g></defs><use href="#g" x="100"/><use href="#g" class="note"/>',
            [(100, -20, 140, 0)],
        ),
        (
            f'<defs>{USED}<g id="g"><use href="#s"/><use href="#s" x="50"/></g></defs><use href="#g" y="30"/>',
            [(0, -50, 40, -30), (50, -50, 90, -30)],
        ),
        (f'<symbol id="y">{USED}</symbol><use href="#y" x="10" y="5"/><use href="#y" y="40"/>', [(0, -60, 40, -40), (10, -25, 50, -5)]),
        (f'<symbol id="y">{USED}</symbol><rect width="9" height="5"/>', [(0, -5, 9, 0)]),
        (
            f'<mask id="m">{USED}</mask><marker id="k">{USED}</marker><clipPath id="c">{USED}</clipPath><pattern id="p">{USED}</pattern><rect width="9" height="5"/>',
            [(0, -5, 9, 0)],
        ),
        (f'<g display="none">{USED}</g><rect width="9" height="5"/>', [(0, -5, 9, 0)]),
        (
            '<g x="7" y="8" r="20" d="M0 0 H9 V9 Z"><rect width="9" height="5"/><circle cx="50" cy="50" r="10"/></g>',
            [(0, -5, 9, 0), (40, -60, 60, -40)],
        ),
    ],
)
def test_what_is_used_is_drawn_where_it_is_used_and_nothing_else(tmp_path, body, found):
    assert bounds(tmp_path, body) == found


@pytest.mark.parametrize("more", ["", 'viewBox="0 0 50 25"'])
def test_a_page_within_the_page_is_refused(tmp_path, more):
    with pytest.raises(ImportFileError, match="stands within the page"):
        read_contours(page(tmp_path, f'<svg x="20" y="10" width="100" height="50" {more}>{USED}</svg>'))


def test_a_symbol_that_would_be_scaled_is_refused(tmp_path):
    with pytest.raises(ImportFileError, match="the symbol 'y' has a view box of its own"):
        read_contours(page(tmp_path, f'<symbol id="y" viewBox="0 0 40 20">{USED}</symbol><use href="#y" width="80" height="40"/>'))


@pytest.mark.parametrize(("pixels", "read_"), [(3_000_000, True), (4_500_000, False)])
def test_a_curve_is_measured_in_millimetres(tmp_path, pixels, read_):
    # 96 pixels an inch: 1,000 m are some 3.8 million of them
    body = f'<path d="M0 0 Q{pixels / 2} 100 {pixels} 0 V-5 H0 Z"/>'
    path = page(tmp_path, body, 'width="200" height="100"')
    if read_:
        assert read_contours(path)
    else:
        with pytest.raises(ImportFileError, match="mm long"):
            read_contours(path)


@pytest.mark.parametrize(("radius", "read_"), [(159_000.0, True), (159_200.0, False)])
def test_an_ellipse_is_measured_round(tmp_path, radius, read_):
    path = drawing(tmp_path, lambda s, _: s.add_ellipse((0, 0), (radius, 0), 0.99))
    if read_:
        assert read_contours(path)
    else:
        with pytest.raises(ImportFileError, match="mm long"):
            read_contours(path)


@pytest.mark.parametrize("over", [0, 1])
def test_as_many_corners_as_there_may_be(tmp_path, monkeypatch, over):
    path = page(tmp_path, SQUARE + '<path d="M60 0 H80 V20 H60 Z"/>')
    monkeypatch.setattr(read, "MAX_VERTICES", 8 - over)
    if over:
        with pytest.raises(ImportFileError, match="8 corners; at most 7 are read"):
            read_contours(path)
    else:
        assert len(read_contours(path)) == 2


@pytest.mark.parametrize("over", [0, 1])
def test_as_many_elements_as_there_may_be(tmp_path, monkeypatch, over):
    body = f'<defs><g id="a">{SQUARE}</g></defs>' + "".join(f'<use href="#a" x="{50 * n}"/>' for n in range(3))
    # the page, defs, group and path, and three uses of a group and a path
    monkeypatch.setattr(read_svg, "MAX_VERTICES", 13 - over)
    if over:
        with pytest.raises(ImportFileError, match="its uses give more than"):
            read_contours(page(tmp_path, body))
    else:
        assert read_contours(page(tmp_path, body))


@pytest.mark.parametrize("over", [0, 1])
def test_as_many_outlines_within_outlines_as_there_may_be(tmp_path, monkeypatch, over):
    rings = "".join(f'<circle cx="50" cy="50" r="{5 + 5 * n}"/>' for n in range(5))
    monkeypatch.setattr(read, "MAX_NESTED", 10 - over)
    if over:
        with pytest.raises(ImportFileError, match="at most 9 pairs"):
            read_regions(page(tmp_path, rings))
    else:
        assert len(read_regions(page(tmp_path, rings))) == 3


@pytest.mark.parametrize("over", [0, 1])
def test_as_many_triangles_as_there_may_be(monkeypatch, over):
    count = len(solid_record(CORPUS / "tag.step", "tag.step")["triangles"]) // 3
    monkeypatch.setattr(step, "MOST_TRIANGLES", count - over)
    if over:
        with pytest.raises(ImportFileError, match=f"its shape has {count} triangles"):
            solid_record(CORPUS / "tag.step", "tag.step")
    else:
        assert solid_record(CORPUS / "tag.step", "tag.step")["size"] == pytest.approx([40, 30, 11.8], abs=0.2)


@pytest.mark.parametrize("entities", [0, 1])
def test_as_many_entities_as_there_may_be(tmp_path, monkeypatch, entities):
    path = drawing(tmp_path, lambda s, _: [s.add_circle((9 * n, 0), 3) for n in range(6)])
    monkeypatch.setattr(read_dxf, "MAX_VERTICES", 12 - entities)  # two corners each
    if entities:
        with pytest.raises(ImportFileError, match="more than 11"):
            read_contours(path)
    else:
        assert len(read_contours(path)) == 6


@pytest.mark.parametrize("gap", [0.9, 1.1, 1.9])
@pytest.mark.parametrize("way", [(1, 0), (0, 1), (-0.6, 0.8)])
def test_ends_near_each_other_are_not_joined_farther_than_they_may_be(gap, way):
    # whatever square of the index both ends lie in
    dx, dy = (gap * JOIN * w for w in way)
    corner = [(0.0, 0.0), (30.0, 0.0), (30.0, 20.0)]
    back = [(30.0 + dx, 20.0 + dy), (0.0, 20.0), (0.0, 0.0)]
    contours, left = chained([(corner, [0.0, 0.0]), (back, [0.0, 0.0])])
    assert (len(contours), bool(left)) == ((1, False) if gap < 1 else (0, True))


@pytest.mark.parametrize(
    ("scheme", "codes"),
    [
        ("{number}", ["1", "2", "3"]),
        ("Z-{part}", ["Z-01", "Z-02", "Z-03"]),
        ("{number}/{part}", ["01/01", "02/02", "03/03"]),
        ("{group}.{number}", ["00.01", "00.02", "00.03"]),
        ("{group}{part}", ["0001", "0002", "0003"]),
    ],
)
def test_part_numbers_by_each_scheme(scheme, codes):
    d = Draft("d", "ply12")
    for n in range(3):
        d.board(f"p{n}", "ply12", "lying", 30 * n, (0, 100 + n), (0, 50))
    d.data["numbering"] = scheme
    assert [r.code for r in cut_list(build(d.document()))] == codes


def test_each_kind_of_line_is_a_kind_of_its_own_in_a_file():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 100), (0, 50))
    d.feature("p", "h", "hole", ("left", 20), ("front", 20), diameter=8)
    d.feature("p", "m", "mark_text", ("centre", 0), ("centre", 0), text="A", height=8)
    lines = {"mark": "dashed", "inside": "chain", "outside": "continuous"}
    for name, line in lines.items():
        d.data["cutters"]["laser"].setdefault("layers", {})[name] = {
            "name": name.upper(),
            "colour": "#112233",
            "line": line,
            "line_width": 0.25,
        }
    text = part_files(build(d.document()), "dxf", "nominal").popitem()[1]
    layers = ezdxf.read(io.StringIO(text)).layers
    assert {n: layers.get(n.upper()).dxf.linetype.upper() for n in lines} == {
        "mark": "DASHED",
        "inside": "DASHDOT",
        "outside": "CONTINUOUS",
    }
    assert layers.get("MARK").rgb == (0x11, 0x22, 0x33) and layers.get("MARK").dxf.lineweight == 25


@pytest.mark.parametrize("to", ["glb"])
def test_a_solid_has_the_tint_of_its_stock_and_hides_what_is_behind(to):
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 100), (0, 50))
    d.data["stocks"]["ply12"]["tint"] = "#20a060"
    scene = trimesh.load_scene(io.BytesIO(write_mesh(build(d.document()), to)), file_type=to)
    (solid,) = scene.geometry.values()
    visual = solid.visual
    colour = visual.face_colors[0] if hasattr(visual, "face_colors") else visual.to_color().face_colors[0]
    assert colour.tolist() == [0x20, 0xA0, 0x60, 255]


def test_a_part_that_is_cut_away_has_no_file():
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 100), (0, 50))
    d.feature("p", "all", "rectangle", ("centre", 0), ("centre", 0), width=200, height=100)
    built = build(d.document())
    assert built.flats["p"].flat.pieces == ()
    with pytest.raises(ZygonError, match="p has nothing to cut"):
        part_file(built, built.flats["p"], "dxf", "nominal", quantity=1)


@pytest.mark.parametrize(
    ("low", "high", "at_low"),
    [(0, 0, True), (0, 30, True), (20, 0, False), (20, 30, True), (-20, 0, False), (-20, -30, True), (0, -30, True)],
)
def test_a_joint_is_measured_from_the_end_at_which_its_boards_are_flush(low, high, at_low):
    d = Draft("d", "ply18")
    d.board("side", "ply18", "facing_side", 0, (0, 200), (0, 300))
    d.board("shelf", "ply18", "lying", 100, ("side.right", 250), (low, 200 - high))
    d.joint("dowels", "shelf", "side")
    built = build(d.document())
    rows = drilling_list(built)
    assert {r.part for r in rows} == {"side", "shelf"}
    assert {r.along_from for r in rows} == {"front end" if at_low else "back end"}


@pytest.mark.parametrize("side", [-1, 1])
@pytest.mark.parametrize(("far", "read_"), [(1_000_000, True), (1_000_001, False)])
@pytest.mark.parametrize("axis", [0, 1])
def test_a_drawing_lies_within_a_kilometre_of_its_origin_on_every_side(tmp_path, side, far, read_, axis):
    corners = [(0, 0), (20, 0), (20, 10), (0, 10)]
    # its farthest corner lies just so far out
    by = far - (20, 10)[axis] if side > 0 else -far
    moved = [tuple(v + by * (k == axis) for k, v in enumerate(c)) for c in corners]
    path = drawing(tmp_path, lambda s, _: s.add_lwpolyline(moved, close=True))
    if read_:
        assert len(read_contours(path)) == 1
    else:
        with pytest.raises(ImportFileError, match="from the drawing's origin"):
            read_contours(path)


@pytest.mark.parametrize("curve", ["C 9e6 0 0 0 9 9", "C 0 0 0 9e6 9 9", "Q 9e6 0 9 9", "C 0 9e6 1 1 9 9"])
def test_a_curve_is_as_long_as_the_polygon_of_all_its_handles(tmp_path, curve):
    with pytest.raises(ImportFileError, match="mm long"):
        read_contours(page(tmp_path, f'<path d="M0 0 {curve} Z"/>'))


def test_layers_stand_in_cutting_order_whatever_is_in_them():
    from zygon.exchange.dxf import write_dxf
    from zygon.geometry.contour import circle
    from zygon.stock.cutter import Layers

    layers = Layers()
    for order in (["outside", "inside", "mark"], ["inside"], ["mark", "depth-a-6", "outside"], []):
        names = [x.dxf.name for x in ezdxf.read(io.StringIO(write_dxf([(o, circle(0, 0, 5)) for o in order], layers, []))).layers]
        wanted = [
            layers.mark.name,
            *(["DEPTH_A_6MM"] if "depth-a-6" in order else []),
            layers.inside.name,
            layers.outside.name,
            layers.note.name,
        ]
        assert [n for n in names if n in wanted] == wanted


def test_a_page_of_nothing_has_its_edges():
    from zygon.exchange.svg import EDGE, write_svg
    from zygon.stock.cutter import Layers

    text = write_svg([], Layers(), [])
    assert f'width="{2 * EDGE:g}mm" height="{2 * EDGE:g}mm" viewBox="0 0 {2 * EDGE:g} {2 * EDGE:g}"' in text


def test_what_is_too_narrow_is_left_out_of_a_sheet_and_all_else_stays():
    from zygon.cut.kerf import CutContours, NarrowPlace
    from zygon.exchange.bundle import _without_narrow
    from zygon.geometry.contour import circle, rectangle

    inside = (circle(10, 10, 2, "hole"), circle(30, 10, 2, "slit"))
    outside = (rectangle(0, 0, 60, 30, "edge"), rectangle(70, 0, 90, 30, "thin"))
    depths = (("depth-a-3", circle(40, 20, 3, "groove")), ("depth-a-3", circle(50, 20, 3, "crack")))
    whole = CutContours((), inside, outside, 0.2, (), depths)
    assert _without_narrow(whole) == whole
    for owner in ("slit", "thin", "crack"):
        found = _without_narrow(CutContours((), inside, outside, 0.2, (NarrowPlace(owner, (0, 0)),), depths))
        left = {c.owners[0] for c in (*found.inside, *found.outside, *(c for _, c in found.depths))}
        assert left == {"hole", "slit", "edge", "thin", "groove", "crack"} - {owner}


def test_solids_are_called_as_their_parts():
    d = Draft("d", "ply12")
    d.board("shelf", "ply12", "lying", 0, (0, 100), (0, 50))
    d.board("side", "ply12", "facing_side", 200, (0, 100), (0, 50))
    scene = trimesh.load_scene(io.BytesIO(write_mesh(build(d.document()), "glb")), file_type="glb")
    assert set(scene.geometry) == {"shelf", "side"}
