"""What a router's paths refuse and say, the bits they choose, tabs between neighbours, clamps, and the under side of a sheet."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
import shapely
import shapely.ops

from tests.core.program.milled import placed_pockets
from tests.core.toolpath.sheets import bodies, laid
from zygon.check.run import check
from zygon.cut.kerf import Drill
from zygon.errors import NestError, ZygonError
from zygon.geometry.contour import circle, rectangle
from zygon.geometry.offset import offset
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.program.of_design import program_of
from zygon.stock.router import Bit, Clamp, Routing
from zygon.toolpath.bits import bits_of, chip_faults
from zygon.toolpath.clearing import begun_near
from zygon.toolpath.holes import drill_of, hole, sunk, v_bit
from zygon.toolpath.milling import milling_of
from zygon.toolpath.register import register_holes
from zygon.toolpath.router import router_paths, worked_under
from zygon.toolpath.tabs import Held, planned


def mm(value: float) -> Entry:
    return Entry(text=f"{value:g} mm")


def with_router(document, routing=None, **said):
    cutter = document.cutters[document.cutter]
    if routing:
        said["routing"] = Routing(**routing)
    return document.model_copy(update={"cutters": {**document.cutters, document.cutter: cutter.model_copy(update=said)}})


def paths(name="hive-floor", stock="ply18", under=False, **said):
    document, nest = laid(name, stock)
    return router_paths(with_router(document, **said), nest, 1, under)


def milling(name="stand", stock="ply18", **said):
    document, _ = laid(name, stock)
    document = with_router(document, **said)
    cutter = document.cutters[document.cutter]
    return milling_of(document, stock, cutter, cutter.work[stock], 18.0)


def test_the_feed_of_a_finer_bit_follows_its_chip():
    document, _ = laid("stand", "ply18")
    cutter = document.cutters[document.cutter]
    bits = bits_of(document, "ply18", cutter, cutter.work["ply18"])
    first, fine = bits[0], next(b for b in bits if b.key == "fine")
    assert first.chip == pytest.approx(25 * 60 / (12_000 * 2))
    assert fine.chip / fine.diameter == pytest.approx(first.chip / first.diameter)
    assert fine.pass_depth == pytest.approx(first.pass_depth / 2)


@pytest.mark.parametrize(("spindle", "said"), [(12_000, ""), (24_000, "rubs"), (1_000, "may break")])
def test_a_chip_out_of_range_is_said(spindle, said):
    document, _ = laid("stand", "ply18")
    cutter = document.cutters[document.cutter]
    work = cutter.work["ply18"].model_copy(update={"spindle": spindle})
    told = chip_faults(bits_of(document, "ply18", cutter, work), "ply")
    assert (said in " ".join(told)) if said else told == []


@pytest.mark.parametrize(
    ("wide", "depth", "key"),
    [(2.5, 0, "drill25"), (2.54, 0, "drill25"), (2.6, 0, None), (3.0, 0, "fine"), (4.5, 8, "drill45"), (8.0, 12, "")],
)
def test_a_hole_has_the_drill_of_its_width_or_a_mill_that_gets_into_it(wide, depth, key):
    m = milling()
    drill = Drill(circle(30, 40, wide / 2), depth)
    bit = drill_of(drill, m)
    assert (bit.key if bit else None) == key
    if bit:
        dips = hole(drill, bit, m, (0, 0))
        deep = -min(leg.z1 for dip in dips for leg in dip)
        assert deep == pytest.approx(depth or 18.3 + (0.3 * wide if "drill" in bit.key else 0), abs=0.02)
        reach = max(math.dist(p, (30, 40)) for dip in dips for leg in dip for p in leg.run.points)
        assert reach + bit.diameter / 2 == pytest.approx(max(wide, bit.diameter) / 2, abs=0.03)


@pytest.mark.parametrize("wide", [6.0, 9.0, 11.5])
def test_a_countersink_is_as_wide_at_the_face_as_drawn(wide):
    m = milling()
    bit = v_bit(m, math.radians(90))
    (dip,) = sunk(Drill(circle(0, 0, wide / 2), 2.0, math.radians(90)), bit)
    assert -dip[-1].z1 * 2 * math.tan(math.radians(45)) == pytest.approx(wide)
    assert v_bit(m, math.radians(82)) is None


@pytest.mark.parametrize(
    ("said", "told"),
    [
        ({"routing": {"reach": mm(15)}}, "cuts 15 mm deep, and 18 mm are wanted"),
        ({"routing": {"tab_height": mm(18)}}, "leave it uncut"),
        ({"routing": {"tab_length": mm(900)}}, "No tab fits on"),
        (
            {"clamps": {"c": Clamp(name="left", x=mm(0), y=mm(0), length=mm(30), width=mm(30), height=mm(5))}},
            "is cut where the clamp left is",
        ),
        ({"clamps": {"c": Clamp(name="high", x=mm(1150), y=mm(500), length=mm(30), width=mm(30), height=mm(15))}}, "raise the safe height"),
        ({"clamps": {"c": Clamp(name="far", x=mm(1150), y=mm(500), length=mm(30), width=mm(30), height=mm(5))}}, ""),
    ],
)
def test_what_must_not_be_cut_so_is_said(said, told):
    wrong = " / ".join(paths(**said).wrong)
    assert told in wrong if told else wrong == ""


@pytest.mark.parametrize(
    ("said", "code"),
    [
        ({"routing": {"safe": mm(0)}}, "bad_routing"),
        ({"routing": {"finish": mm(-1)}}, "bad_routing"),
        ({"routing": {"finish": mm(3.1)}}, "bad_routing"),
        ({"routing": {"peck": mm(0.001)}}, "bad_routing"),
        ({"pass_depth": mm(0.001)}, "bad_routing"),
        ({"bits": {"b": Bit(name="none", diameter=mm(0))}}, "bad_bit"),
    ],
)
def test_what_cannot_be_milled_with_is_refused(said, code):
    with pytest.raises(NestError) as told:
        paths(**said)
    assert told.value.code == code


@pytest.mark.parametrize(
    ("said", "told"),
    [
        ({"routing": {"safe": Entry(text="")}}, "safe height"),
        ({"routing": {"tab_length": mm(-2)}}, "length of a tab is -2 mm"),
        ({"bits": {"a": Bit(name="one", diameter=mm(3), number=5), "b": Bit(name="two", diameter=mm(2), number=5)}}, "T5 is one already"),
        ({"bits": {"a": Bit(name="one", diameter=mm(0))}}, "its diameter is 0 mm"),
        ({"bits": {"a": Bit(name="one", diameter=mm(300))}}, "its diameter is 300 mm"),
        ({"clamps": {"c": Clamp(name="odd", x=mm(-3), y=mm(0), length=mm(1), width=mm(1), height=mm(1))}}, "from the left is -3 mm"),
    ],
)
def test_entries_that_mean_nothing_are_problems_of_the_design(said, told):
    document, _ = laid("hive-floor", "ply18")
    found = check(build(with_router(document, **said)))
    own = [p for p in found if told in p.fault.message]
    assert own and own[0].fault.entry.startswith("/cutters/") and own[0].fault.severity == "error"
    # and keep a program here, which would otherwise be written with them, or not at all
    try:
        one = program_of(with_router(document, **said), laid("hive-floor", "ply18")[1], 1, found)
    except ZygonError:
        return
    assert any(told in f for f in one.faults)


def test_without_bits_what_they_would_do_is_left_to_the_hand_and_said():
    document, nest = laid("stand", "ply18")
    bare = router_paths(with_router(document, bits={}), nest, 1)
    told = " / ".join(bare.faults)
    assert "Holes of 4.5 mm are left to a drill by hand" in told and "Countersinks are left to the hand" in told
    assert {c.operation for c in bare.cuts} <= {"inside", "outside", "pocket", "drill"}
    assert all(c.bit == "" for c in bare.cuts)


# tabs


def square(x: float, y: float, side: float, r: float = 3.0):
    body = shapely.box(x, y, x + side, y + side)
    return body, rectangle(x - r, y - r, x + side + r, y + side + r)


@pytest.mark.parametrize("finish", [0.0, 1.0, 3.0])
@pytest.mark.parametrize("gap", [6.0, 6.5, 8.0, 11.0, 14.0, 30.0])
def test_neighbours_keep_one_another_s_tabs_at_any_gap(gap, finish):
    if gap < 6.0 + finish:
        return  # they would cut into one another
    own = [square(20 + i * (100 + gap), 20 + j * (100 + gap), 100) for i in range(3) for j in range(3)]
    sheet = shapely.box(0, 0, 400 + 2 * gap, 400 + 2 * gap)
    plan = planned([Held(w, k) for k, (_, w) in enumerate(own)], [b for b, _ in own], sheet, 3.0, 4, 8.0, -16.0, finish)
    assert plan.counts == [4] * 9 and plan.loose == set()
    gone = []
    for wall in [w for _, w in own] + ([offset(w, finish) for _, w in own] if finish else []):
        opened = begun_near(wall, (0, 0))
        line = shapely.LineString(opened.flatten(0.01))
        share = line.length / opened.length
        kept = [shapely.ops.substring(line, a * share, b * share) for a, b in plan.on(opened).zones]
        gone.append(shapely.difference(line, shapely.union_all(kept).buffer(1e-6)).buffer(3.0, cap_style="flat"))
    left = shapely.difference(sheet, shapely.union_all(gone))
    pieces = [p for p in shapely.get_parts(left) if p.area > 9000]
    assert len({next(k for k, p in enumerate(pieces) if p.contains(b.centroid)) for b, _ in own}) == 1, "all parts hang together"


def test_parts_without_a_frame_hang_on_nothing():
    body, wall = square(3, 3, 100)
    plan = planned([Held(wall, 0)], [body], shapely.box(0, 0, 106, 106), 3.0, 4, 8.0, -16.0)
    assert plan.counts == [0]


@pytest.mark.parametrize("owner", ["joint:a", "bend:p:b"])
def test_tabs_keep_off_joints_and_bends(owner):
    body, wall = square(50, 50, 100)
    wall = replace(wall, owners=(owner, "edge:a", "edge:b", "edge:c"))
    plan = planned([Held(wall, 0)], [body], shapely.box(0, 0, 200, 200), 3.0, 4, 8.0, -16.0)
    assert plan.counts == [4]
    side = wall.segments()[0]
    line = shapely.LineString([side.p, side.q])
    assert all(not shapely.intersects(shapely.buffer(line, -0.0).buffer(0.1), c.buffer(-3.2)) for c in plan.cores)


# the under side


@pytest.mark.parametrize(("name", "stock"), [("stand", "ply18"), ("rebated-box", "ply18"), ("tool-chest", "ply18")])
def test_the_under_side_has_what_lies_there_mirrored_and_two_register_holes(name, stock):
    document, nest = laid(name, stock)
    assert worked_under(document, nest, 1)
    one = router_paths(document, nest, 1, under=True)
    assert one.under and {c.operation for c in one.cuts} <= {"register", "pocket", "drill", "mark", "sink"}
    pins = [c for c in one.cuts if c.operation == "register"]
    assert len(pins) == 2 and one.cuts[:2] == tuple(pins)
    (x0, y0), (x1, y1) = (c.start for c in pins)
    assert x0 + x1 == pytest.approx(one.size[0]) and y0 == y1
    own = shapely.union_all([b for _, _, b in bodies(document, nest, 1)])
    for x in (x0, x1):
        assert shapely.distance(own, shapely.Point(x, y0)) >= one.kerf
    assert all(-leg.z1 > one.thickness for c in pins for leg in c.dips[-1])
    far = placed_pockets(nest, 1, far=True)
    milled = [c for c in one.cuts if c.operation == "pocket"]
    for c in milled:
        x, y = c.dips[0][0].run.points[0]
        back = shapely.Point(one.size[0] - x, y)
        assert any(shapely.distance(region, back) <= one.kerf and -c.dips[-1][-1].z1 == pytest.approx(d) for _, d, region in far)
    assert "The under side is cut first" in " ".join(router_paths(document, nest, 1).faults)


def test_where_there_is_no_room_for_register_holes_it_is_said():
    assert register_holes((200.0, 100.0), shapely.box(2, 2, 198, 98), 6.0) is None
    assert register_holes((200.0, 100.0), shapely.box(60, 2, 198, 98), 6.0) is None
    found = register_holes((200.0, 100.0), shapely.box(60, 2, 140, 98), 6.0)
    assert found and found[0][0] + found[1][0] == 200.0 and found[0][1] == found[1][1]
