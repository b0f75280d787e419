"""Files written are read back by independent readers, and area, length and count compared."""

import csv
import io
import json
import math
import re
import zipfile

import ezdxf
import pyogrio
import pytest
import svgpathtools
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.explore import drawn
from zygon.check.run import check
from zygon.cut.kerf import compensated, kerf_of
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES, brood_box
from zygon.design.patch import apply_patch
from zygon.errors import ImportFileError, ZygonError
from zygon.exchange.bundle import bundle, part_file, part_files
from zygon.exchange.cutlist import cut_list, write_csv
from zygon.exchange.read import read_regions
from zygon.geometry.contour import circle, rounded_rectangle
from zygon.making.pipeline import build
from zygon.nest.design import lay_out, plans
from zygon.screen.picture import picture

BUILT = build(brood_box())
LAYERS = BUILT.document.cutters["laser"].layers


def dxf(text):
    return ezdxf.read(io.StringIO(text))


@pytest.mark.parametrize("mode", ["nominal", "compensated"])
@pytest.mark.parametrize("part", ["front", "left", "cover", "floor"])
def test_a_dxf_passes_the_auditor_and_holds_what_was_to_be_cut(part, mode):
    name, text = part_file(BUILT, BUILT.parts[part], "dxf", mode)
    doc = dxf(text)
    assert not doc.audit().has_issues
    assert (doc.header["$INSUNITS"], doc.header["$MEASUREMENT"]) == (4, 1)
    kerf = kerf_of(BUILT.document, BUILT.parts[part].record.stock)
    flat = BUILT.parts[part].flat
    wanted = compensated(flat, kerf) if mode == "compensated" else compensated(flat, 0.0)
    by_layer = {n: [e for e in doc.modelspace() if e.dxf.layer == n] for n in ("MARK", "CUT_INSIDE", "CUT_OUTSIDE", "NOTE")}
    assert [len(by_layer[n]) for n in ("MARK", "CUT_INSIDE", "CUT_OUTSIDE")] == [len(wanted.marks), len(wanted.inside), 1]
    order = [e.dxf.layer for e in doc.modelspace() if e.dxf.layer != "NOTE"]
    assert order == sorted(order, key=["MARK", "CUT_INSIDE", "CUT_OUTSIDE"].index)
    note = " ".join(e.dxf.text for e in by_layer["NOTE"])
    if mode == "compensated":
        assert f"compensated-{kerf:g}mm" in name and f"COMPENSATED for a kerf of {kerf:g} mm" in note
    else:
        assert "nominal" in name and "NOMINAL" in note


def test_a_round_hole_is_a_circle_in_the_file_and_a_slot_has_true_arcs():
    doc = dxf(part_file(BUILT, BUILT.parts["left"], "dxf", "nominal")[1])
    circles = doc.modelspace().query("CIRCLE")
    assert [c.dxf.radius for c in circles] == pytest.approx([5.2])
    hold = [
        p
        for p in dxf(part_file(BUILT, BUILT.parts["front"], "dxf", "nominal")[1]).modelspace().query("LWPOLYLINE[layer=='CUT_INSIDE']")
        if p.has_arc
    ]
    assert any(sorted(b for *_, b in p.get_points("xyb")) == pytest.approx([-1, -1, 0, 0]) for p in hold)


def test_a_second_reader_finds_the_same_outline(tmp_path):
    """Referee: GDAL's DXF reader, which divides arcs, gives the area and the length."""
    path = tmp_path / "cover.dxf"
    path.write_text(part_file(BUILT, BUILT.parts["cover"], "dxf", "nominal")[1])
    _, _, shapes, fields = pyogrio.raw.read(path, columns=["Layer"])
    import shapely

    lines = dict.fromkeys(("CUT_OUTSIDE", "CUT_INSIDE"), 0.0)
    for layer, shape in zip(fields[0], shapely.from_wkb(shapes), strict=True):
        if layer in lines:
            lines[layer] += shape.length
    flat = BUILT.parts["cover"].flat
    assert lines["CUT_OUTSIDE"] == pytest.approx(flat.pieces[0].outer.length)
    assert lines["CUT_INSIDE"] == pytest.approx(flat.inside[0].length, rel=1e-3)


@pytest.mark.parametrize("part", ["front", "cover", "left"])
def test_an_svg_read_by_another_parser_has_the_same_lengths_in_millimetres(part, tmp_path):
    """Referee: svgpathtools."""
    path = tmp_path / "part.svg"
    path.write_text(part_file(BUILT, BUILT.parts[part], "svg", "nominal")[1])
    paths, attributes, head = svgpathtools.svg2paths2(str(path))
    assert head["width"].endswith("mm") and head["viewBox"].split()[2] == head["width"][:-2]
    flat = BUILT.parts[part].flat
    total = sum(c.length for c in (*flat.marks, *flat.inside, flat.pieces[0].outer))
    assert sum(p.length(error=1e-6) for p in paths) == pytest.approx(total, rel=1e-5)
    assert len(attributes) == len(flat.marks) + len(flat.inside) + 1


@pytest.mark.parametrize("to", ["dxf", "svg"])
@settings(max_examples=drawn(20))
@given(w=st.floats(20, 300), h=st.floats(20, 200), r=st.floats(0, 40), angle=st.floats(0, 90))
def test_what_is_written_is_read_back_with_its_exact_area(to, w, h, r, angle, tmp_path_factory):
    draft = Draft("d", "ply12")
    draft.board("plate", "ply12", "lying", 0, (0, "400 mm"), (0, "400 mm"))
    draft.feature(
        "plate",
        "r",
        "rectangle",
        ("centre", 0),
        ("centre", 0),
        width=f"{w} mm",
        height=f"{h} mm",
        radius=f"{min(r, w / 2.1, h / 2.1)} mm",
        angle=f"{angle} deg",
    )
    draft.feature("plate", "c", "hole", ("left", "30 mm"), ("top", "25 mm"), diameter="21 mm")
    draft.feature("plate", "m", "mark_circle", ("left", "60 mm"), ("top", "25 mm"), diameter="21 mm")
    built = build(draft.document())
    path = tmp_path_factory.mktemp("files") / f"plate.{to}"
    path.write_text(part_file(built, built.parts["plate"], to, "nominal")[1])
    regions = read_regions(path)
    assert len(regions) == 1 and len(regions[0].inner) == len(built.parts["plate"].flat.inside)
    assert regions[0].area == pytest.approx(built.parts["plate"].flat.area, rel=1e-6)


def test_loose_lines_arcs_and_blocks_in_inches_are_chained_to_an_outline(tmp_path):
    doc = ezdxf.new()
    doc.header["$INSUNITS"] = 1
    block = doc.blocks.new("HOLE")
    block.add_circle((0, 0), 0.25)
    space = doc.modelspace()
    space.add_line((0, 0), (4, 0))
    space.add_line((4, 2), (4, 0))
    space.add_arc((2, 2), 2, 0, 180)
    space.add_line((0, 2), (0, 0))
    space.add_blockref("HOLE", (2, 1))
    space.add_line((10, 10), (11, 11))  # open: left out
    doc.saveas(tmp_path / "arch.dxf")
    (region,) = read_regions(tmp_path / "arch.dxf")
    assert region.area == pytest.approx((8 + math.pi * 2 - math.pi / 16) * 25.4**2, rel=1e-9)
    assert region.inner[0].as_circle[2] == pytest.approx(6.35)


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("x.dxf", "not a dxf", "not a DXF"),
        ("x.svg", "<svg", "not an SVG"),
        ("x.svg", '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L10 0"/></svg>', "no closed outline"),
        ("x.svg", '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L10 10L20 0L10 2L0 10Z"/></svg>', "crosses itself"),
        ("x.txt", "", "not a kind of file"),
    ],
)
def test_a_file_that_cannot_be_read_is_named_with_the_reason(name, content, words, tmp_path):
    (tmp_path / name).write_text(content)
    with pytest.raises(ImportFileError, match=words):
        read_regions(tmp_path / name)


def test_the_cut_list_as_csv_has_a_row_a_part_and_no_formulas():
    rows = list(csv.DictReader(io.StringIO(write_csv(BUILT))))
    names = [p.path for p in BUILT.parts.values()]
    names[names.index("rest_front") : names.index("rest_back") + 1] = ["rest_front, rest_back"]  # equal parts are one row
    assert [r["Part"] for r in rows] == names
    front = rows[0]
    assert (front["Length mm"], front["Width mm"], front["Nominal thickness mm"], front["Measured thickness mm"]) == (
        "420",
        "240",
        "12",
        "11.8",
    )
    assert float(front["Mass g"]) == pytest.approx(BUILT.parts["front"].flat.area * 11.8 * 0.68 / 1000, abs=0.1)
    document, _, _ = apply_patch(brood_box().dump(), [{"op": "replace", "path": "/stocks/ply12/name", "value": "=cmd()"}])
    assert next(iter(csv.DictReader(io.StringIO(write_csv(build(document))))))["Stock"] == "'=cmd()"
    assert sum(r.quantity for r in cut_list(BUILT)) == 10


def test_the_zip_holds_parts_sheets_cut_list_problems_and_the_design():
    document = BUILT.document
    nests = [lay_out(document, p, seconds=0.2) for p in plans(BUILT)]
    archive = zipfile.ZipFile(io.BytesIO(bundle(BUILT, check(BUILT), nests, "compensated")))
    names = archive.namelist()
    assert sum(n.startswith("parts-dxf/") for n in names) == 9
    assert sum(n.startswith("sheets-dxf/") for n in names) == sum(len(n.layout.sheets) for n in nests)
    assert all("compensated" in n for n in names if n.endswith((".dxf", ".svg")))
    assert json.loads(archive.read("brood-box.json")) == document.dump()
    assert archive.read("problems.txt").decode() == "No problems.\n"
    sheet = dxf(archive.read(next(n for n in names if n.startswith("sheets-dxf/"))).decode())
    assert not sheet.audit().has_issues


def test_the_sheet_file_puts_every_part_where_the_layout_says():
    plan = plans(BUILT)[0]
    found = lay_out(BUILT.document, plan, seconds=0.2)
    from zygon.exchange.bundle import sheet_files

    text = next(iter(sheet_files(BUILT, found, "dxf", "nominal").values()))
    boxes = []
    for p in dxf(text).modelspace().query("LWPOLYLINE[layer=='CUT_OUTSIDE']"):
        xs, ys = zip(*[(x, y) for x, y, _ in p.get_points("xyb")], strict=True)
        boxes.append((min(xs), min(ys), max(xs), max(ys)))
    wanted = [plan.flats[p.shape].pieces[0].outer.moved(p.x, p.y, p.angle).bounds for p in found.layout.sheets[0].placements]
    for box, want in zip(sorted(boxes), sorted(wanted), strict=True):
        assert box == pytest.approx(want, abs=1e-6)


def test_layers_follow_the_cutter():
    document, _, _ = apply_patch(
        brood_box().dump(),
        [{"op": "replace", "path": "/cutters/laser/layers/outside", "value": {"name": "PASS 3", "colour": "#00FF00", "line_width": 0.25}}],
    )
    doc = dxf(part_file(build(document), build(document).parts["front"], "dxf", "nominal")[1])
    layer = doc.layers.get("PASS 3")
    assert (layer.rgb, layer.dxf.lineweight, layer.color) == ((0, 255, 0), 25, 3)


def test_a_part_under_the_kerf_is_not_written_compensated():
    draft = Draft("d", "ply12")
    draft.board("plate", "ply12", "lying", 0, (0, "300 mm"), (0, "200 mm"))
    draft.feature("plate", "n", "rectangle", ("left", 0), ("centre", 0), width="40 mm", height="0.2 mm")
    built = build(draft.document())
    assert part_files(built, "dxf", "nominal")
    with pytest.raises(ZygonError, match=r"cut-out near .* mm is narrower than the cut, 0\.24 mm"):
        part_file(built, built.parts["plate"], "dxf", "compensated")
    assert list(part_files(built, "dxf", "compensated")) == ["NOT-WRITTEN.txt"]


def test_a_part_that_lies_with_its_other_face_up_is_written_mirrored():
    draft = Draft("d", "ply12")
    draft.board("plate", "ply12", "facing_front", 0, (0, "300 mm"), (0, "200 mm"), up="b")
    draft.feature("plate", "h", "hole", ("left", "40 mm"), ("bottom", "50 mm"), diameter="20 mm")
    built = build(draft.document())
    hole = dxf(part_file(built, built.parts["plate"], "dxf", "nominal")[1]).modelspace().query("CIRCLE")[0]
    assert tuple(hole.dxf.center)[:2] == pytest.approx((260, 50))


def test_a_picture_is_drawn_of_anything():
    assert picture(BUILT).count("<path") > 50
    assert picture(build(Draft("empty").document())).startswith("<svg")


def test_a_picture_shows_folded_parts_folded_and_hides_what_lies_behind():
    d = Draft("box", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "100 mm"), ("0", "100 mm"))
    d.fold("tray").flange("tray", "front", "front", "60 mm").flange("tray", "right", "right", "60 mm")
    d.block("inside", ("60 mm", "98 mm"), ("3 mm", "40 mm"), ("2 mm", "50 mm"))
    drawn = re.findall(r'<path fill="#(\w\w)\w+"[^>]* d="([^"]*)"', picture(build(d.document())))
    reds = [int(red, 16) for red, _ in drawn]
    steel = [i for i, red in enumerate(reds) if red in (round(0xC9 * 0.94), round(0xC9 * 0.84))]  # the walls' faces
    block = [i for i, red in enumerate(reds) if red == 0x8C]  # the block's top
    assert steel and block and max(block) < max(steel)
    ys = [float(y) for _, path in drawn for y in re.findall(r" (-?[\d.]+)", path)]
    xs = [float(x) for _, path in drawn for x in re.findall(r"[ML](-?[\d.]+)", path)]
    # seen at 30 degrees, walls of 60 stand 60 over the left corner and the middle lies 50 under it; side by side both sides are 200 cos 30 wide
    assert (max(ys) - min(ys)) / (max(xs) - min(xs)) == pytest.approx(110 / (200 * math.cos(math.pi / 6)), rel=0.03)


def test_marks_alone_make_no_outline(tmp_path):
    from zygon.exchange.svg import write_svg

    (tmp_path / "m.svg").write_text(write_svg([("mark", circle(0, 0, 5)), ("outside", rounded_rectangle(0, 0, 40, 30, 5))], LAYERS, ["x"]))
    (region,) = read_regions(tmp_path / "m.svg")
    assert region.inner == ()


def test_what_a_maker_notes_of_parts_stands_on_the_cut_list_once_and_before_what_the_part_asks():
    d = Draft("noted", "ply12", cutter="router")
    d.board("a", "ply12", "lying", 0, (0, 300), (0, 200)).board("b", "ply12", "lying", 100, (0, 300), (0, 200))
    d.board("c", "ply12", "lying", 200, (0, 310), (0, 200)).board("e", "ply12", "lying", 300, (0, 320), (0, 200))
    d.feature("c", "p", "pocket", ("centre", 0), ("centre", 0), width="40 mm", height="30 mm", depth="4 mm", radius="5 mm", face="bottom")
    for key, note in (("a", "seal the end grain"), ("b", "seal the end grain"), ("c", "=best veneer")):
        d.data["parts"][key]["note"] = note
    rows = {r["Part"]: r["Note"] for r in csv.DictReader(io.StringIO(write_csv(build(d.document()))))}
    assert rows == {"a, b": "seal the end grain", "c": "'=best veneer; turn over", "e": ""}
    d.data["parts"]["b"]["note"] = "oil it"
    rows = {r["Part"]: r["Note"] for r in csv.DictReader(io.StringIO(write_csv(build(d.document()))))}
    assert rows["a, b"] == "seal the end grain; oil it"
    assert rows["c"].startswith("'=")


def test_a_round_body_is_inked_round_itself_and_not_round_each_of_its_layers():
    d = Draft("one", "ply12")
    d.board("b", "ply12", "lying", 0, (0, 300), (0, 200))
    plain = picture(build(d.document()))
    assert 'fill="none"' not in plain
    drawn = picture(build(EXAMPLES["frame-rack"]()))
    rods = [p for p in build(EXAMPLES["frame-rack"]()).made.values() if p.record.kind == "rod"]
    outlines = re.findall(r'<path fill="none" d="([^"]*)"', drawn)
    assert len(outlines) == len(rods) == 3
    # one ring round each, of far fewer corners than all its layers have
    assert all(o.count("M") == 1 for o in outlines)
    own = re.findall(r'<path fill="(#\w+)" stroke="(#\w+)"', drawn)
    assert own
    assert all(fill == stroke for fill, stroke in own)
