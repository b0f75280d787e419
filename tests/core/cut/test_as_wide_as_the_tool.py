"""What is just as wide as the tool is one run of it, what is narrower is named, and a slit is one line; every file is read back with ezdxf."""

import io
import math

import ezdxf
import pytest
import shapely

from tests.core.making.joints.pairs import pair
from zygon.check.run import check
from zygon.cut.kerf import by_hand_of, compensated, kerf_of
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.exchange.bundle import bundle, part_file, part_files
from zygon.geometry.boolean import region_polygon
from zygon.making.pipeline import build

BIT = 6.0


def board(kind, u=("centre", "0"), v=("centre", "0"), cutter="router", **more):
    d = Draft("d", "ply12", cutter=cutter)
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    d.board("q", "ply12", "lying", 40, (0, 90), (0, 60))
    d.feature("p", "f", kind, u, v, **more)
    document = d.document()
    # with one bit only: a finer one would get in
    cutters = {k: c.model_copy(update={"bits": {}}) for k, c in document.cutters.items()}
    return document.model_copy(update={"cutters": cutters})


def paths(document, key="p"):
    built = build(document)
    flat = built.parts[key].flat
    cutter = document.cutters[document.cutter]
    return flat, compensated(flat, kerf_of(document, "ply12"), by_hand_of(cutter, "ply12"))


def taken(contours, kerf):
    """What a round tool takes away along its inner paths and pockets; a point is one plunge."""
    shapes = []
    for c in (*contours.inside, *(d for _, d in contours.depths)):
        points = [tuple(p) for p in c.flatten(1e-3)]
        line = shapely.Point(points[0]) if len(points) == 1 else shapely.LineString([*points, points[0]] if c.closed else points)
        shapes.append(line.buffer(kerf / 2, quad_segs=64))
    return shapely.union_all(shapes)


@pytest.mark.parametrize("depth", [None, "5"])
def test_a_hole_as_wide_as_the_bit_is_one_drilled_point(depth):
    document = board("hole", diameter="6", **({"depth": depth} if depth else {}))
    _, found = paths(document)
    assert not found.narrow and not found.drills
    (point,) = (*found.inside, *(c for _, c in found.depths))
    assert point.points == (pytest.approx((100, 60)),) and not point.closed
    _, text = part_file(build(document), build(document).parts["p"], "dxf", "compensated")
    (entity,) = ezdxf.read(io.StringIO(text)).modelspace().query("POINT")
    assert tuple(entity.dxf.location)[:2] == pytest.approx((100, 60))
    assert not [p for p in check(build(document)) if p.fault.severity == "error"]
    svg = part_file(build(document), build(document).parts["p"], "svg", "compensated")[1]
    assert "h0" in svg


@pytest.mark.parametrize("angle", [0, 30, 90, 137])
@pytest.mark.parametrize("length", [20, 60])
def test_a_slot_as_wide_as_the_bit_is_one_run_along_its_middle(angle, length):
    flat, found = paths(board("slot", length=length, width="6", angle=f"{angle} deg"))
    (run,) = found.inside
    assert not run.closed and len(run.points) == 2 and run.length == pytest.approx(length - BIT, abs=2e-3)
    hole = shapely.Polygon(flat.inside[0].flatten(1e-3))
    assert shapely.symmetric_difference(taken(found, BIT), hole).area < 0.2


@pytest.mark.parametrize("along", ["u", "v"])
def test_a_groove_as_wide_as_the_bit_runs_out_past_both_edges(along):
    flat, found = paths(board("groove", width="6", depth="4", along=along))
    ((_, run),) = found.depths
    assert not run.closed
    reach = shapely.LineString(run.points).bounds
    k = 0 if along == "u" else 1
    assert reach[k] < 0 and reach[k + 2] > (200, 120)[k]
    assert taken(found, BIT).covers(region_polygon(flat.pockets[0].region).intersection(shapely.box(0, 0, 200, 120)).buffer(-2e-3))


def test_grooves_of_the_bits_width_that_close_a_ring_are_cut_and_leave_their_island():
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    for i, (along, at) in enumerate((("u", 20), ("u", 100), ("v", 20), ("v", 180))):
        u, v = (("centre", "0"), ("front", at)) if along == "u" else (("left", at), ("centre", "0"))
        d.feature("p", f"g{i}", "groove", u, v, along=along, width="6", depth="4")
    flat, found = paths(d.document())
    assert not found.narrow
    asked = region_polygon(flat.pockets[0].region).intersection(shapely.box(0, 0, 200, 120))
    gone = taken(found, BIT).intersection(shapely.box(0, 0, 200, 120))
    # corners inside stay round, nothing beyond what was asked is taken
    assert shapely.difference(gone, asked.buffer(3e-3)).area < 1e-3
    assert shapely.difference(asked, gone.buffer(3e-3)).area < 20 * (1 - math.pi / 4) * 9


@pytest.mark.parametrize(("width", "fine"), [(5.9, False), (5.99, False), (6.0, True), (6.1, True)])
def test_what_is_narrower_than_the_bit_is_named_at_its_place_with_a_mend_that_works(width, fine):
    document = board("slot", ("left", "50"), ("front", "40"), length="40", width=f"{width}")
    problems = [p.fault for p in check(build(document)) if p.fault.code in ("under_kerf", "too_small")]
    assert bool(problems) != fine
    if fine:
        return
    fault = problems[0]
    assert fault.owner == "feature:p:f" and fault.at == pytest.approx((50, 40), abs=25)
    narrow = board("groove", width=f"{width}", depth="4")
    (fault,) = [p.fault for p in check(build(narrow)) if p.fault.code == "under_kerf"]
    assert f"groove, {width:g} mm wide, is narrower than the bit of 6 mm" in fault.message
    assert fault.mends
    for mend in fault.mends:
        after = build(patched(narrow.dump(), mend.patch))
        assert not [p for p in check(after) if p.fault.code == "under_kerf"], mend.label


def test_a_part_that_cannot_be_written_does_not_keep_the_others_back():
    built = build(board("slot", length="40", width="5"))
    files = part_files(built, "dxf", "compensated")
    assert [n for n in files if "_q_" in n] and not [n for n in files if "_p_" in n]
    assert "slot" in files["NOT-WRITTEN.txt"] and "narrower" in files["NOT-WRITTEN.txt"]
    assert bundle(built, [], [], "compensated")
    assert "NOT-WRITTEN.txt" not in part_files(built, "dxf", "nominal")


@pytest.mark.parametrize("kind", ["dowels", "mortise_tenon", "groove"])
def test_dowels_of_the_bits_width_keep_no_file_back(kind):
    more = {"dowels": {"diameter": "6", "fit": "0"}, "mortise_tenon": {"thickness": "6", "fit": "0"}, "groove": {}}[kind]
    built = build(pair(kind, ta=6 if kind == "groove" else 12, cutter="router", **({"fit": "0"} | more)).document())
    assert not [p.fault.message for p in check(built) if p.fault.code == "under_kerf"]
    assert "NOT-WRITTEN.txt" not in part_files(built, "dxf", "compensated")


# -- slits -------------------------------------------------------------------------------------------------------------


def slitted(cutter="laser", style="tear"):
    d = Draft("d", "galv20", cutter=cutter)
    d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "120 mm"), up="a")
    d.fold("p")
    d.flange("p", "f", "front", "25 mm", extent="inset", first="30 mm", second="50 mm", relief={"style": style})
    return d.document()


def test_a_slit_is_one_run_of_a_laser_along_a_line():
    document = slitted()
    built = build(document)
    assert not [p.fault.message for p in check(built) if p.fault.code in ("under_kerf", "too_small", "slit")]
    for mode in ("nominal", "compensated"):
        _, text = part_file(built, built.parts["p"], "dxf", mode)
        lines = ezdxf.read(io.StringIO(text)).modelspace().query("LINE")
        runs = [e for e in lines if e.dxf.layer == "CUT_INSIDE"]
        assert len(runs) == 2
        bend = built.parts["p"].flat.fold.bends[0]
        ends = sorted((tuple(e.dxf.start)[:2], tuple(e.dxf.end)[:2]) for e in runs)
        assert [round(e[0][0]) for e in ends] == [30, 150] and all(e[0][1] == pytest.approx(0) for e in ends)
        assert all(e[1][1] == pytest.approx(bend.start[1]) for e in ends)  # as deep as the bend begins
        (outline,) = [e for e in ezdxf.read(io.StringIO(text)).modelspace().query("LWPOLYLINE") if e.dxf.layer == "CUT_OUTSIDE"]
        shape = shapely.Polygon([p[:2] for p in outline.get_points()])
        assert shape.is_valid
        # the slits are no part of the outline: it is cut with no notch narrower than itself
        assert all(not (0.01 < p[1] < bend.start[1] + 0.01) for p in outline.get_points())


@pytest.mark.parametrize("cutter", ["router", "saw"])
def test_on_other_cutters_a_slit_is_a_problem_with_a_round_relief_as_its_mend(cutter):
    document = slitted(cutter)
    (fault,) = [p.fault for p in check(build(document)) if p.fault.code == "slit"]
    assert (fault.owner, fault.part) == ("flange:p:f", "p")
    after = patched(document.dump(), fault.mends[0].patch)
    assert after.parts["p"].folding.flanges["f"].relief.style == "round"
    assert not [p for p in check(build(after)) if p.fault.code == "slit"]
