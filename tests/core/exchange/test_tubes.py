"""Templates of tubes wrapped back round them, holes among them, and the saw list."""

import csv
import io
import itertools
import math
import zipfile

import ezdxf
import numpy as np
import pytest

from tests.core.making.tube.frames import mm, stocked, two
from tests.core.making.tube.test_bent import BAIL, rod
from zygon.check.run import check
from zygon.design.examples.tube_stand import tube_stand
from zygon.exchange.bundle import bundle
from zygon.exchange.named import ExportError
from zygon.exchange.tubes import needs_template, template_file, template_files, write_bender_table, write_saw_list
from zygon.geometry.contour import Contour
from zygon.making.pipeline import build
from zygon.making.tube.body import MemberBody
from zygon.making.tube.developed import Around, developed, end_template


def wrapped(around: Around, points: np.ndarray) -> np.ndarray:
    """(n, 2) of (u, v) where so many mm round the section lie."""
    return np.array([around.point(x) for x in points])


def edge(contour: Contour, least: float) -> np.ndarray:
    """The flat points of a template's edge, but for its lower side and its seams."""
    points = contour.flatten(0.002)
    return points[points[:, 1] > least]


@pytest.mark.parametrize("joint", ["member_cope", "member_butt", "member_mitre"])
@pytest.mark.parametrize(
    ("one", "other"),
    [("thin round tube", "round tube"), ("round tube", "square tube"), ("square tube", "rectangular tube"), ("flat", "round tube")],
)
@pytest.mark.parametrize(("end", "slope"), list(itertools.product("ab", [0.0, 0.4])))
def test_a_template_wrapped_back_lies_on_the_end_within_two_hundredths(joint, one, other, end, slope):
    ways = [(300, 0, 0), (0, 60 * slope, 200)]
    d = two(one, other, ways, joint, span=(0, 1) if joint == "member_mitre" else (-1, 1), turns=(0, 0))
    if end == "b":
        d.data["frames"]["f"]["lines"]["l"] = {"a": "q", "b": "p"}
    built = build(d.document())
    if built.faults:
        assert [f.code for f in built.faults] == ["joint_refused"]
        return
    body = built.made["one"].body
    assert isinstance(body, MemberBody) and body.cuts(end) and not body.cuts("b" if end == "a" else "a")
    made = end_template(body, end)
    around = Around(body.section)
    x0, y0, x1, _ = made.outline.bounds
    assert (x0, y0) == pytest.approx((0, 0)) and x1 == pytest.approx(around.length)
    assert around.length == pytest.approx(body.region.outer.length)
    points = edge(made.outline, 15)
    assert len(points) >= 5
    sign, span = (1, body.span[1]) if end == "b" else (-1, -body.span[0])
    xs = points[:, 0] if end == "b" else around.length - points[:, 0]
    heights = body.stops(wrapped(around, xs))[1 if end == "b" else 0]
    off = np.abs(sign * heights - (span - made.from_long) - points[:, 1])
    assert float(off.max()) < 0.02 * max(1.0, 1 / math.cos(body.saw(end).angle or 0))
    assert made.from_long >= 20


def test_right_is_right_when_it_is_wrapped_round():
    """Seen from outside with the end up, degrees grow to the right at end B; the side at 0 is the seam."""
    d = stocked("square tube")
    d.frame("f", {"p": mm((0, 0, 0)), "q": mm((0, 0, 300)), "r": mm((0, 200, 300))}, {"l": ("p", "q"), "m": ("q", "r")})
    d.member("post", "square_tube", "f", "l", against="y").member("rail", "square_tube", "f", "m")
    d.joint("member_mitre", "post", "rail")
    body = build(d.document()).made["post"].body
    around = Around(body.section)
    # upright, 0 looks to the back, 90 to the left
    assert around.point(0) == pytest.approx((0, 20)) and around.point(around.length / 4) == pytest.approx((-20, 0))
    points = end_template(body, "b").outline.flatten(0.01)
    middle = points[np.abs(points[:, 0] - around.length / 2) < 15]
    assert middle[:, 1].max() == pytest.approx(60.0)  # the long point is at the front, half way round
    seam = points[points[:, 0] < 0.01]
    assert seam[:, 1].max() == pytest.approx(20.0)


@pytest.mark.parametrize(
    ("one", "other"), [("round bar", "round tube"), ("round bar", "square tube"), ("flat", "rectangular tube"), ("hexagon", "round tube")]
)
@pytest.mark.parametrize("off", [0.0, 2.0])
def test_holes_laid_flat_are_where_the_tube_passes(one, other, off):
    d = two(one, other, [(0, 0, 300), (0, 200, 0)], "member_passage", at=(off, 0, 150), fit="0.4 mm")
    built = build(d.document())
    assert not built.faults
    body, passing = built.made["other"].body, built.made["one"]
    outline, holes, _ = developed(body)
    assert len(holes) == 2 and needs_template(built.made["other"])[-1] == "whole"
    around = Around(body.section)
    assert outline.bounds == pytest.approx((0, 0, around.length, body.long))
    (hole,) = body.holes
    grown = Around(hole.section.grown(hole.gap))
    for contour in holes:
        points = contour.flatten(0.005)
        uv = wrapped(around, points[:, 0])
        inside = np.array(hole.motion.inverse.rows) @ np.column_stack((uv, points[:, 1] + body.span[0], np.ones(len(uv)))).T
        gaps = [math.dist(p, grown.point(grown.place(*p))) for p in inside[:2].T]
        assert max(gaps) < 0.02
    assert passing.body.section.extents


def test_what_lies_on_no_line_has_no_template():
    d = stocked("round tube")
    d.rod("rod", "round_tube", "x", ("0", "300 mm"), y="0", z="0")
    part = build(d.document()).made["rod"]
    assert needs_template(part) == []
    with pytest.raises(ExportError, match="rod has no template"):
        template_file(build(d.document()), part, "a", "dxf")


def test_the_stand_s_files_go_out_whole():
    """Saw list, a template of each different end once, all of them in the ZIP, and drawings that other readers open."""
    built = build(tube_stand())
    rows = list(csv.DictReader(io.StringIO(write_saw_list(built))))
    assert [
        (r["Part"].partition(",")[0], r["Quantity"], r["Long point mm"], r["End A off square deg"], r["Turn between deg"]) for r in rows
    ] == [
        ("foot", "4", "502.4", "45", "0"),
        ("post_back", "4", "422.4", "45", "0"),
        ("rail_low_front", "4", "494.269", "", ""),
    ]
    assert rows[2]["End A"].startswith("coped onto post front") and float(rows[0]["Short point mm"]) == pytest.approx(502.4 - 2 * 42.4)
    files = template_files(built, "dxf")
    assert [n.removeprefix("tube-stand_") for n in files] == [
        f"{p}_end-{e}.dxf" for p in ("foot", "post_back", "rail_low_front") for e in "ab"
    ]
    drawn = ezdxf.read(io.StringIO(files["tube-stand_rail_low_front_end-a.dxf"]))
    assert drawn.units == 4 and len(drawn.modelspace().query("LWPOLYLINE")) == 1
    packed = zipfile.ZipFile(io.BytesIO(bundle(built, check(built), [], "nominal")))
    names = packed.namelist()
    assert {"templates-svg/tube-stand_foot_end-b.svg", "tube-stand_saw-list.csv"} <= set(names)


def test_the_bender_s_table_of_a_bail():
    """Up, over and down: fed 184, bent by 90, fed 268, bent by 90, then 184; bent over where the bar springs back."""
    d = rod(BAIL, against="y")
    d.data["stocks"]["round_bar"]["springs"] = 5
    built = build(d.document())
    rows = list(csv.DictReader(io.StringIO(write_bender_table(built))))
    assert [(r["Bend"], r["Feed mm"], r["Turn deg"], r["Bend deg"], r["Bent over to deg"]) for r in rows] == [
        ("1", "184", "0", "90", "94.5"),
        ("2", "268", "0", "90", "94.5"),
    ]
    assert (
        rows[0]["Straight length mm"] == "686.265"
        and rows[1]["Then mm"] == "184"
        and float(rows[1]["Begins at mm"]) == pytest.approx(184 + 8 * math.pi + 268, abs=1e-3)
    )
    assert write_bender_table(build(tube_stand())) == ""
