"""Edges worked by a bit that runs along them, against shapely's own offsets of the outline, slice by slice; and bands that make the cut size smaller."""

import math

import numpy as np
import pytest
import shapely

from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.edits.operations import OPERATIONS
from zygon.geometry.boolean import region_polygon
from zygon.making.flats.exact import solid_of, volume
from zygon.making.flats.flat import lying, mesh_of
from zygon.making.flats.handed import handed_flat
from zygon.making.kinds.registry import volume_of_part
from zygon.making.pipeline import build

SHAPES = ("round", "chamfer", "cove")
PLANES = ("lying", "facing_front", "facing_side")


def board(plane="lying", features=(), size=(100, 60), **more):
    d = Draft("x", "ply12", cutter="router")
    d.board("p", "ply12", plane, "0", ("0", f"{size[0]} mm"), ("0", f"{size[1]} mm"), **more)
    for n, (kind, fields) in enumerate(features):
        d.feature("p", f"f{n}", kind, ("centre", "0"), ("centre", "0"), **fields)
    return d.document()


def profile(edge="all", shape="round", size="5 mm", **more):
    return ("edge_profile", {"edge": edge, "profile": shape, "size": size, **more})


def star():
    """A board whose outline is drawn of straight lines that turn in and out."""
    points = [((30, 18)[k % 2] * math.cos(math.pi * k / 5), (30, 18)[k % 2] * math.sin(math.pi * k / 5)) for k in range(10)]
    low, high = np.min(points, axis=0), np.max(points, axis=0)
    outer = [[x - low[0], y - low[1], 0.0] for x, y in points]
    return board(size=tuple(high - low), outline={"kind": "drawn", "outer": outer})


OUTLINES = {
    "rectangle": board,
    "rounded less than the profile": lambda: board(features=[("corner", {"corner": "all", "style": "round", "size": "3 mm"})]),
    "rounded more than the profile": lambda: board(features=[("corner", {"corner": "all", "style": "round", "size": "14 mm"})]),
    "hollowed corners": lambda: board(features=[("corner", {"corner": "all", "style": "hollow", "size": "14 mm"})]),
    "notched": lambda: board(features=[("edge_notch", {"edge": "front", "width": "30 mm", "depth": "20 mm"})]),
    "round notch": lambda: board(features=[("edge_notch", {"edge": "back", "shape": "round", "width": "30 mm", "depth": "30 mm"})]),
    "slanting": lambda: board(features=[("taper", {"edge": "right", "low": "25 mm", "high": "0"})]),
    "curved": lambda: board(features=[("edge_curve", {"edge": "back", "bulge": "in", "rise": "15 mm"})]),
    "crowned": lambda: board(features=[("edge_curve", {"edge": "back", "bulge": "out", "rise": "15 mm"})]),
    "disc": lambda: board(size=(60, 60), outline={"kind": "disc"}),
    "ring": lambda: board(size=(60, 60), outline={"kind": "ring", "inner": {"text": "20 mm"}}),
    "star": star,
}


def with_profile(document: Document, *profiles):
    data = document.dump()
    features = data["parts"]["p"].setdefault("features", {})
    for kind, fields in profiles:
        entry = {k: {"text": v} if k in ("size", "height", "thickness") else v for k, v in fields.items()}
        features[f"e{len(features)}"] = {"kind": kind, "order": len(features), **entry}
    return build(Document.model_validate(data))


def inward(shape, w, h, d):
    """How far in a profile has come at a depth (mm)."""
    if shape == "chamfer":
        return w * (1 - d / h)
    return w - math.sqrt(w * w - (w - d) ** 2) if shape == "round" else math.sqrt(w * w - d * d)


def reckoned(polygon, t, shape, w, h, faces=1):
    """Volume in mm³ of a board with all its outer edge worked, by midpoints of 400 slices a face."""
    ring = shapely.Polygon(polygon.exterior)
    holes = [shapely.Polygon(r) for r in polygon.interiors]
    depths = (np.arange(400) + 0.5) * h / 400
    areas = [ring.buffer(-inward(shape, w, h, d), quad_segs=64).difference(shapely.union_all(holes)).area for d in depths]
    return polygon.area * (t - faces * h) + faces * sum(areas) * h / 400


@pytest.mark.parametrize("shape", SHAPES)
@pytest.mark.parametrize("outline", OUTLINES)
def test_all_of_an_edge_is_worked_as_offsets_of_it_say(outline, shape):
    """In the mesh and in the exact solid; where a corner turns in, the bit goes round it."""
    built = with_profile(OUTLINES[outline](), profile(shape=shape))
    assert not built.faults, built.faults
    part = built.flats["p"]
    [region] = part.flat.pieces
    polygon, t = region_polygon(region, 0.001), part.flat.thickness
    wanted = reckoned(polygon, t, shape, 5, 5)
    off = polygon.area * t - wanted
    assert volume(solid_of(part.flat)) == pytest.approx(wanted, abs=0.004 * off + 2)
    plain = sum(m.moments()[0] for m in mesh_of(build(OUTLINES[outline]()).flats["p"].flat))
    assert plain - volume_of_part(part) == pytest.approx(off, rel=0.02)
    assert all(m.moments()[0] > 0 for m in mesh_of(part.flat))


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("shape", SHAPES)
def test_each_edge_alone_and_each_face(plane, shape):
    """A straight edge loses its length times the section, on the face that is said and no other."""
    frame = {
        "lying": ("left", "right", "front", "back"),
        "facing_front": ("left", "right", "bottom", "top"),
        "facing_side": ("front", "back", "bottom", "top"),
    }
    faces = {"lying": ("top", "bottom"), "facing_front": ("front", "back"), "facing_side": ("left", "right")}
    area = {"round": 25 * (1 - math.pi / 4), "chamfer": 12.5, "cove": 25 * math.pi / 4}[shape]
    seen = set()
    for edge in frame[plane]:
        for face in (None, *faces[plane]):
            built = with_profile(board(plane), profile(edge, shape, **({"face": face} if face else {})))
            assert not built.faults, built.faults
            flat = built.flats["p"].flat
            long = 60 if edge in frame[plane][:2] else 100
            exact = 6000 * flat.thickness - volume(solid_of(flat))
            assert exact == pytest.approx(long * area, rel=1e-6)
            [work] = flat.edges
            # which corner of the room is gone: the mesh's points there
            seen.add((edge, face, work.face))
            z = flat.thickness if work.face == "a" else 0.0
            points = np.vstack([m.positions for m in mesh_of(flat)])
            at = {"left": (0, None), "right": (100, None), "front": (None, 0) if plane == "lying" else (0, None)}
            u, v = work.runs[0].points[0]
            on = (np.abs(points[:, 2] - z) < 1e-6) & (np.hypot(points[:, 0] - u, points[:, 1] - v) < 1e-6)
            assert not on.any() and at
    sides = {(face, side) for _, face, side in seen if face}
    assert len(sides) == 2 and {side for _, side in sides} == {"a", "b"}


def test_both_faces_and_a_chamfer_of_two_lengths():
    built = with_profile(board(), profile("left", "chamfer", "4 mm", height="5 mm", both=True))
    flat = built.flats["p"].flat
    assert 6000 * flat.thickness - volume(solid_of(flat)) == pytest.approx(2 * 60 * 10, rel=1e-6)


def test_what_joints_cut_is_left_square():
    d = Draft("x", "ply12", cutter="router")
    d.board("p", "ply12", "lying", "0", ("0", "100 mm"), ("0", "60 mm"))
    d.board("q", "ply12", "facing_side", "0", ("0", "60 mm"), ("0", "80 mm"))
    d.joint("finger", "p", "q")
    d.feature("p", "e", "edge_profile", ("centre", "0"), ("centre", "0"), edge="all", profile="round", size="3 mm")
    built = build(d.document())
    assert not built.faults, built.faults
    flat = built.flats["p"].flat
    owners = {o for run in flat.edges[0].runs for o in run.owners}
    assert not any(o.startswith("joint:") for o in owners) and len(owners) == 3
    length = sum(r.length for r in flat.edges[0].runs)
    assert 200 < length < 270


def test_an_edge_runs_out_where_its_neighbour_slants():
    """Past an obtuse corner the bit goes on until it has left the board."""
    document = board(features=[("taper", {"edge": "right", "low": "30 mm", "high": "0"})])
    built = with_profile(document, profile("back", "chamfer", "6 mm"))
    flat = built.flats["p"].flat
    # the back edge is 100 long; at its right end the board ends at 63.43 degrees
    exact = region_polygon(flat.pieces[0]).area * flat.thickness - volume(solid_of(flat))
    assert exact == pytest.approx(100 * 18 - 30 / 60 * 6**3 / 6, rel=1e-3) or exact == pytest.approx(
        100 * 18 + 30 / 60 * 6**3 / 6, rel=1e-3
    )
    built = with_profile(document, profile("front", "chamfer", "6 mm"))
    flat = built.flats["p"].flat
    exact = region_polygon(flat.pieces[0]).area * flat.thickness - volume(solid_of(flat))
    assert exact == pytest.approx(70 * 18 + 30 / 60 * 6**3 / 6, rel=1e-3)


@pytest.mark.parametrize(
    "fields, entry, rule",
    [
        ({"size": "0"}, "size", "greater than 0"),
        ({"size": "13 mm"}, "size", "at most the board's"),
        ({"size": "7 mm", "both": True}, "size", "at most half the board's"),
        ({"shape": "chamfer", "size": "3 mm", "height": "30 mm"}, "height", "at most the board's"),
        ({"edge": "top"}, "edge", "one of left, right, front, back"),
        ({"edge": "line7"}, "edge", "one of left, right, front, back"),
    ],
)
def test_what_cannot_be_is_said_by_name(fields, entry, rule):
    built = with_profile(board(), profile(**fields))
    [fault] = built.faults
    assert fault.entry.endswith(f"/{entry}") and rule in fault.rule and "p, " in fault.message
    assert built.flats["p"].flat.plain


def test_lines_of_a_drawing_are_edges():
    document = board()
    _, patch = OPERATIONS["begin_outline"].model_validate({"operation": "begin_outline", "part": "p"}).work(build(document))
    from zygon.design.patch import patched

    document = patched(document.dump(), patch)
    for key in ("line1", "line2"):
        built = with_profile(document, profile(key, "chamfer", "4 mm"))
        assert not built.faults
        flat = built.flats["p"].flat
        long = flat.edges[0].runs[0].length
        assert long in (100, 60)
        assert 6000 * flat.thickness - volume(solid_of(flat)) == pytest.approx(long * 8, rel=1e-6)
    assert with_profile(document, profile("left")).faults[0].rule == "all, or a line of its drawing"


def band(edge="all", thickness="2 mm", of="birch"):
    return ("edge_band", {"edge": edge, "thickness": thickness, "band": of})


@pytest.mark.parametrize(
    "edge, cut", [("left", (98, 60)), ("right", (98, 60)), ("front", (100, 58)), ("back", (100, 58)), ("all", (96, 56))]
)
def test_a_band_makes_the_cut_size_smaller_and_the_part_no_smaller(edge, cut):
    built = with_profile(board(), band(edge))
    part = built.flats["p"]
    assert part.flat.size == (100, 60) and volume_of_part(part) == pytest.approx(6000 * part.flat.thickness)
    bare = lying(part)
    assert bare.size == pytest.approx(cut)
    x0, y0, x1, y1 = bare.bounds
    wanted = {"left": x0 - 2, "right": x1 - 98, "front": y0 - 2, "back": y1 - 58}
    assert edge == "all" or wanted[edge] == pytest.approx(0, abs=1e-6)


@pytest.mark.parametrize("outline", OUTLINES)
def test_a_band_all_round_is_an_offset(outline):
    built = with_profile(OUTLINES[outline](), band(thickness="1 mm"))
    assert not built.faults
    part = built.flats["p"]
    before, after = region_polygon(part.flat.pieces[0], 0.001), region_polygon(lying(part).pieces[0], 0.001)
    ring = shapely.Polygon(before.exterior)
    wanted = ring.buffer(-1.0, quad_segs=64).difference(shapely.union_all([shapely.Polygon(r) for r in before.interiors]))
    # a corner that turns in is left sharp: the bands there are straight
    assert shapely.symmetric_difference(after, wanted).area < 0.25 * max(1, len(part.flat.pieces[0].outer.points)) + 0.5
    assert after.area >= wanted.area - 0.5


def test_a_banded_edge_is_worked_all_the_same_and_its_other_hand_too():
    built = with_profile(
        board(features=[("taper", {"edge": "right", "low": "30 mm", "high": "0"})]),
        profile("left", "round", "3 mm"),
        band("left", "2 mm"),
        band("back", "1 mm"),
    )
    flat = built.flats["p"].flat
    other = handed_flat(flat)
    assert volume(solid_of(other)) == pytest.approx(volume(solid_of(flat)), rel=1e-9)
    [work] = other.edges
    assert max(x for x, _ in work.runs[0].points) == pytest.approx(100) and work.runs[0].points[0][1] < work.runs[0].points[-1][1]
    bare = lying(built.flats["p"])
    assert bare.size == pytest.approx((97.5, 59)) and len(bare.edges) == 1


def test_a_drilling_list_says_where_it_measures_from_a_band():
    from zygon.exchange.drilling import drill_rows

    built = with_profile(board(features=[("hole", {"diameter": "5 mm"})]), band("left", "2 mm"))
    said = drill_rows(built, built.flats["p"])
    assert said
    for row in said:
        ends = [row.along_from, row.across_from]
        assert next(e for e in ends if e.startswith("left")).endswith("with its band"), ends
        assert not next(e for e in ends if e.startswith("front")).endswith("band"), ends


def test_lists_say_what_is_worked_and_how_large_it_is_cut():
    from zygon.exchange.cutlist import cut_list, write_csv

    built = with_profile(
        board(),
        profile("left", "round", "3 mm", both=True),
        profile("back", "chamfer", "2 mm", height="4 mm"),
        band("right", "1 mm", "oak"),
    )
    [row] = cut_list(built)
    assert (
        row.note
        == "left edge rounded over R 3 mm, both faces, back edge chamfered 2 mm x 4 mm, top face, right edge banded, 1 mm oak, cut 99 mm x 60 mm"
    )
    assert (row.length, row.width) == (100, 60) and "cut 99 mm x 60 mm" in write_csv(built)


@pytest.mark.parametrize("kind", ["dxf", "svg"])
@pytest.mark.parametrize("up", ["a", "b"])
def test_files_for_the_cutter_have_the_cut_size_and_say_the_rest(kind, up, tmp_path):
    from zygon.exchange.bundle import part_file
    from zygon.exchange.read import read_regions

    built = with_profile(board(up=up), profile("back", "chamfer", "2 mm"), band("right", "1 mm", "oak"))
    text = part_file(built, built.flats["p"], kind, "nominal")[1]
    (tmp_path / f"p.{kind}").write_text(text)
    [region] = read_regions(tmp_path / f"p.{kind}")
    x0, y0, x1, y1 = region.outer.bounds
    assert (x1 - x0, y1 - y0) == pytest.approx((99, 60), abs=1e-3)
    assert (
        f"EDGES: back edge chamfered 2 mm, {'top' if up == 'a' else 'bottom'} face, right edge banded, 1 mm oak, cut 99 mm x 60 mm" in text
    )


def test_sheets_are_laid_with_the_cut_size():
    from zygon.nest.design import plans

    built = with_profile(board(), band("all", "2 mm"))
    [plan] = plans(built)
    [shape] = plan.task.shapes
    x0, y0, x1, y1 = shape.region.outer.bounds
    assert (x1 - x0, y1 - y0) == pytest.approx((96, 56), abs=1e-3)


def test_a_mirror_image_s_edges_are_called_as_they_lie():
    from zygon.exchange.edge_words import edges_in_words

    d = Draft("x", "ply12", cutter="router")
    d.board("p", "ply12", "lying", "0", ("0", "100 mm"), ("0", "60 mm"))
    d.feature("p", "t", "taper", ("centre", "0"), ("centre", "0"), edge="back", low="20 mm", high="0")
    d.feature("p", "e", "edge_profile", ("centre", "0"), ("centre", "0"), edge="left", profile="round", size="3 mm")
    d.mirror("c", "x", "150 mm", "part:p")
    built = build(d.document())
    assert not built.faults
    said = [edges_in_words(built.document, p) for p in built.flats.values()]
    assert said == [["left edge rounded over R 3 mm, top face"], ["right edge rounded over R 3 mm, top face"]]
