"""Common lines: what is cut is the union of all edges, each once; every piece comes off as drawn; earlier pieces first."""

from __future__ import annotations

import math
import random

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.core.toolpath.sheets import laid, with_laser
from zygon.check.sheets import sheet_faults
from zygon.cut.kerf import kerf_of
from zygon.design.examples import example
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, rectangle
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.nest.design import plans
from zygon.program.of_design import program_of
from zygon.program.of_outlines import sheet_of_outlines
from zygon.program.read import read_program
from zygon.toolpath.common_lines import owned, shared
from zygon.toolpath.laser import laser_paths


def packed(seed: int, kerf: float, rows: int = 3) -> list[Region]:
    """Rows of rectangles a kerf apart, of random widths, some with a hole."""
    chance, y, found = random.Random(seed), 20.0, []
    for _ in range(rows):
        x, high = 20.0, chance.uniform(30, 60)
        for _ in range(chance.randint(2, 5)):
            wide = chance.uniform(25, 80)
            holes = (circle(x + wide / 2, y + high / 2, 6).wound(ccw=False),) if chance.random() < 0.4 else ()
            found.append(Region(rectangle(x, y, x + wide, y + high).wound(ccw=True), holes))
            x += wide + kerf
        y += high + kerf
    return found


def common(seed: int, rows: int = 3, **said):
    document, _ = laid("brood-box", "ply12")
    document = with_laser(document, **{"common": True, "lead": "none", **said})
    regions = packed(seed, kerf_of(document, "ply12"), rows)
    return document, regions, sheet_of_outlines("ply12", regions, 11.8, (700, 400))


def edges(document, nest) -> shapely.Geometry:
    """All paths of the outsides, as they are without common lines, merged where they lie on one another."""
    alone = laser_paths(with_laser(document, common=False), nest, 1)
    lines = [shapely.LineString(c.runs[0].points) for c in alone.cuts if c.operation == "outside"]
    return shapely.union_all([shapely.set_precision(line, 1e-4) for line in lines], grid_size=1e-4)


@pytest.mark.parametrize("seed", range(12))
def test_what_is_cut_is_the_union_of_all_edges_each_once(seed):
    document, regions, nest = common(seed)
    paths = laser_paths(document, nest, 1)
    outs = [r for c in paths.cuts if c.operation == "outside" for r in c.runs]
    assert sum(r.length for r in outs) == pytest.approx(edges(document, nest).length, abs=0.02 * len(outs))
    alone = laser_paths(with_laser(document, common=False), nest, 1)
    assert sum(c.length for c in paths.cuts) < 0.9 * sum(c.length for c in alone.cuts)
    # a knife as wide as the kerf leaves every part as drawn
    knife = shapely.union_all(
        [shapely.LineString(r.flatten(0.002)).buffer(paths.kerf / 2, cap_style="flat", join_style="mitre") for r in outs]
    )
    for region in regions:
        body = shapely.Polygon(region.outer.points)
        assert body.intersection(knife).area < 1e-3 * body.length
    pieces = [p for p in shapely.get_parts(shapely.box(0, 0, 700, 400).difference(knife.buffer(1e-3))) if p.area > 10]
    assert len(pieces) == len(regions) + 1


@pytest.mark.parametrize("seed", range(6))
def test_a_stretch_is_begun_in_a_cut_that_is_there_and_each_inside_comes_before_its_outside(seed):
    document, _, nest = common(seed, lead="arc")
    paths = laser_paths(document, nest, 1)
    done = shapely.GeometryCollection()
    seen: set[str] = set()
    for cut in paths.cuts:
        if cut.operation == "outside":
            for run in cut.runs:
                if cut.lead == "none" and math.dist(run.points[0], run.points[-1]) > 0.01:
                    assert done.distance(shapely.Point(run.points[0])) < 0.02, cut.key
                    assert done.union(shapely.LineString(run.points)).distance(shapely.Point(run.points[-1])) < 0.02
            seen.add(cut.key)
        else:
            assert cut.key not in seen
        done = done.union(shapely.union_all([shapely.LineString(r.flatten(0.01)) for r in cut.runs]))
    made = program_of(document, nest, 1)
    assert not made.faults
    cut = sum(m.length for m in read_program(made.text).moves if m.on and m.kind in ("line", "arc"))
    assert cut == pytest.approx(sum(c.length for c in paths.cuts), rel=1e-4)


def test_further_apart_nothing_is_shared_and_it_is_said():
    document, _ = laid("brood-box", "ply12")
    document = with_laser(document, common=True)
    kerf = kerf_of(document, "ply12")
    for gap, so in ((kerf, True), (kerf + 0.03, False), (kerf + 5, False)):
        regions = [Region(rectangle(x, 10, x + 50, 60).wound(ccw=True), ()) for x in (10.0, 60.0 + gap)]
        paths = laser_paths(document, sheet_of_outlines("ply12", regions, 11.8, (300, 200)), 1)
        assert any("every part is cut on its own" in f for f in paths.faults) != so
        assert (sum(len(c.runs[0].points) for c in paths.cuts) < 12) == so or not so


def test_round_sides_share_nothing():
    document, _ = laid("brood-box", "ply12")
    document = with_laser(document, common=True)
    kerf = kerf_of(document, "ply12")
    regions = [Region(circle(x, 50, 20).wound(ccw=True), ()) for x in (30.0, 70.0 + kerf)]
    paths = laser_paths(document, sheet_of_outlines("ply12", regions, 11.8, (300, 200)), 1)
    assert len(paths.cuts) == 2 and any("every part is cut on its own" in f for f in paths.faults)


def test_pieces_that_share_have_no_micro_joints_and_it_is_said():
    document, _, nest = common(1, joints=2, joint_width="0.5 mm")
    paths = laser_paths(document, nest, 1)
    assert any("shares a cut and has no micro-joints" in f for f in paths.faults)


@given(st.data())
def test_what_is_shared_and_what_is_its_own_make_the_whole(data):
    number = st.floats(0, 60)
    boxes = []
    for _ in range(data.draw(st.integers(2, 5))):
        x, y = round(data.draw(number)), round(data.draw(number))
        boxes.append(rectangle(x, y, x + data.draw(st.integers(5, 30)), y + data.draw(st.integers(5, 30))).wound(ccw=True))
    found, hangs = shared(boxes, range(len(boxes)))
    lines = [shapely.LinearRing(b.points) for b in boxes]
    before: shapely.Geometry = shapely.GeometryCollection()
    for k, (box, gone) in enumerate(zip(boxes, found, strict=True)):
        mine = sum(r.length for r in owned(box, gone)) if gone else box.length
        assert mine == pytest.approx(lines[k].difference(before).length, abs=0.05)
        assert all(m < k for m in hangs[k])
        before = before.union(lines[k])


@pytest.mark.parametrize("stock", ["ply6", "ply12"])
def test_parts_are_laid_a_kerf_of_their_own_stock_apart(stock):
    """Whatever the gap is: that is for cutters that share nothing, and for one that does it is no problem."""
    document = with_laser(example("brood-box"), common=True)
    document = document.model_copy(update={"nest": document.nest.model_copy(update={"gap": Entry(text="0.05 mm")})})
    built = build(document)
    kerf = kerf_of(document, stock)
    plan = next(p for p in plans(built) if p.stock == stock)
    assert plan.task is not None and plan.task.gap == kerf == {"ply6": 0.18, "ply12": 0.24}[stock]
    assert not [f for f in sheet_faults(built) if f.code == "narrow_gap"]
    assert [f for f in sheet_faults(build(with_laser(document, common=False))) if f.code == "narrow_gap"]
    router = document.model_copy(update={"cutter": "router"})
    assert next(p for p in plans(build(router)) if p.stock == stock).task.gap == 0.05
