"""Paths of a beam over sheets as nested: what comes off the sheet is what was drawn, in an order in which nothing is lost."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.toolpath.sheets import SHEETS, bodies, laid, with_laser
from zygon.errors import NestError
from zygon.geometry.boolean import Region, to_polygon
from zygon.geometry.contour import Contour, circle, polygon, rectangle, rounded_rectangle
from zygon.measure.entry import Entry
from zygon.nest.design import placed_contours
from zygon.nest.task import Placement
from zygon.toolpath.laser import laser_paths
from zygon.toolpath.micro_joints import jointed
from zygon.toolpath.starts import begun_at, starts_of


def burned(paths) -> shapely.Geometry:
    """All that the beam takes away; what it marks it does not."""
    lines = [shapely.LineString(r.flatten(0.001)) for c in paths.cuts if c.operation != "mark" for r in c.runs if len(r.points) > 1]
    return shapely.union_all([line.buffer(paths.kerf / 2, quad_segs=32) for line in lines])


def left_of(paths) -> list[shapely.Geometry]:
    return list(shapely.get_parts(shapely.difference(shapely.box(0, 0, *paths.size), burned(paths))))


def assert_as_drawn(piece: shapely.Geometry, body: shapely.Geometry, kerf: float) -> None:
    """To a hundredth of a millimetre, but for inner corners, which a round beam leaves as round as it is."""
    r = kerf / 2
    rounded = body.buffer(r, quad_segs=32).buffer(-r, quad_segs=32)
    assert shapely.difference(body.buffer(-0.01), piece).area < 1e-6, "a part has lost something"
    assert shapely.difference(piece, rounded.buffer(0.01)).area < 1e-6, "something is left on a part"


@pytest.mark.parametrize(("name", "stock"), SHEETS)
@pytest.mark.parametrize("at", ["corner", "middle"])
@pytest.mark.parametrize("lead", ["arc", "line", "none"])
def test_what_comes_off_the_sheet_is_what_was_drawn(name, stock, lead, at):
    """The sheet without what is burned away falls into pieces; each part's is its nominal body to a hundredth of a millimetre."""
    document, nest = laid(name, stock)
    paths = laser_paths(with_laser(document, lead=lead, lead_at=at), nest, 1)
    pieces = left_of(paths)
    for _, _, body in bodies(document, nest, 1):
        at_ = body.representative_point()
        piece = next(p for p in pieces if p.contains(at_))
        assert_as_drawn(piece, body, paths.kerf)


@pytest.mark.parametrize(("name", "stock"), SHEETS)
def test_every_contour_is_cut_once_and_insides_before_their_outside(name, stock):
    document, nest = laid(name, stock)
    cuts = laser_paths(document, nest, 1).cuts
    placed = nest.layout.sheets[0].placements
    for p in placed:
        own = [(i, c) for i, c in enumerate(cuts) if (c.key, c.copy) == (nest.plan.parts[p.shape], p.copy) and c.operation != "mark"]
        last_inside = max((i for i, c in own if c.operation == "inside"), default=-1)
        first_outside = min(i for i, c in own if c.operation == "outside")
        assert last_inside < first_outside
        # one part is cut whole before the next is begun
        assert own[-1][0] - own[0][0] == len(own) - 1
    marks = [i for i, c in enumerate(cuts) if c.operation == "mark"]
    assert marks == list(range(len(marks)))


def test_small_holes_are_cut_before_large_ones():
    document, nest = laid("electronics-box", "galv20")
    paths = laser_paths(document, nest, 1)
    for key in {c.key for c in paths.cuts}:
        wide = [
            max(c.runs[0].bounds[2] - c.runs[0].bounds[0], c.runs[0].bounds[3] - c.runs[0].bounds[1])
            for c in paths.cuts
            if c.key == key and c.operation == "inside"
        ]
        small = [w <= 2 * paths.thickness for w in wide]
        assert small == sorted(small, reverse=True), key


def test_what_lies_in_a_hole_is_cut_before_the_hole():
    """A small piece put into the largest hole of another by hand: the whole of it comes before any of the other's holes, wherever the head is."""
    document, nest = laid("electronics-box", "galv20")
    sheet = nest.layout.sheets[0]
    pairs = [(p, c) for p in sheet.placements for c in placed_contours(document, nest.plan, p, 0.0).inside if c.closed]
    where, hole = max(pairs, key=lambda pc: abs(pc[1].area))
    x0, y0, x1, y1 = hole.bounds
    small = Contour(((0.0, 0.0), (2.0, 0.0), (1.0, 2.0)), (0.0, 0.0, 0.0), ("edge:a/b",) * 3)
    flat = replace(nest.plan.flats[where.shape], pieces=(Region(small, ()),), pockets=(), digest="a small one")
    plan = replace(nest.plan, parts=(*nest.plan.parts, "small"), flats=(*nest.plan.flats, flat))
    laid_in = Placement(len(plan.flats) - 1, 0, (x0 + x1) / 2 - 1, (y0 + y1) / 2 - 1, 0.0)
    for places in ((laid_in, *sheet.placements), (*sheet.placements, laid_in)):
        one = replace(nest, plan=plan, layout=replace(nest.layout, sheets=(replace(sheet, placements=places),)))
        keys = [(c.key, c.operation) for c in laser_paths(document, one, 1).cuts if c.operation != "mark"]
        assert keys.index(("small", "outside")) < keys.index((plan.parts[where.shape], "inside"))


@pytest.mark.parametrize("kerf", [0.1, 0.3])
@pytest.mark.parametrize("length", ["0.5 mm", "3 mm", "12 mm", "60 mm"])
def test_leads_burn_nothing_that_stays_whatever_their_length(kerf, length):
    document, nest = laid("electronics-box", "galv20")
    paths = laser_paths(with_laser(document, lead_length=length), nest, 1)
    for cut in paths.cuts:
        if cut.lead not in ("arc", "line"):
            continue
        first = shapely.LineString(
            replace(cut.runs[0], points=cut.runs[0].points[:2], bulges=cut.runs[0].bulges[:1], owners=("",)).flatten(0.001)
        )
        swath = first.buffer(paths.kerf / 2)
        for key, _, body in bodies(document, nest, 1):
            assert shapely.intersection(swath, body).area < 0.02 * paths.kerf, (cut.owner, key)
    assert any(c.lead == "arc" for c in paths.cuts)


@pytest.mark.parametrize("count", [1, 2, 4])
def test_micro_joints_hold_each_part_until_all_is_cut(count):
    """With them the sheet stays in one piece about its parts: each is joined to what is round it by so many bridges as wide as was asked for."""
    document, nest = laid("electronics-box", "galv20")
    paths = laser_paths(with_laser(document, joints=count, joint_width="0.4 mm"), nest, 1)
    pieces = left_of(paths)
    whole = max(pieces, key=lambda p: p.area)
    without = laser_paths(document, nest, 1)
    for key, copy, body in bodies(document, nest, 1):
        assert whole.contains(body.representative_point()), (key, copy)
        outside = [c for c in paths.cuts if (c.key, c.copy, c.operation) == (key, copy, "outside")]
        assert all(len(c.runs) == count + 1 for c in outside)
        # a gap is a joint and a kerf wide, as the beam is round
        own = [c for c in without.cuts if (c.key, c.copy, c.operation) == (key, copy, "outside")]
        for c, plain in zip(outside, own, strict=True):
            assert plain.length - c.length == pytest.approx(count * (0.4 + paths.kerf), abs=1e-6)


@given(
    st.sampled_from([rectangle(0, 0, 80, 40), circle(0, 0, 30), rounded_rectangle(0, 0, 90, 50, 8), polygon([(0, 0), (60, 0), (20, 45)])]),
    st.integers(0, 30),
    st.booleans(),
)
@settings(deadline=None)
def test_a_contour_begun_anywhere_is_the_same_contour(contour, n, inner):
    contour = contour.wound(ccw=not inner)
    for wanted in ("corner", "middle"):
        starts = starts_of(contour, wanted)
        start = starts[n % len(starts)]
        run = begun_at(contour, start)
        assert run.points[0] == run.points[-1] == start.at
        assert run.length == pytest.approx(contour.length)
        assert shapely.distance(shapely.Point(start.at), to_polygon(contour, 0.0005).exterior) < 1e-3
        assert abs(shapely.Polygon(run.flatten(0.0005)).area) == pytest.approx(abs(contour.area), rel=1e-4)
        leaves = run.segments()[0].tangents()[0]
        assert math.dist(leaves, start.leaves) < 1e-9


@given(st.integers(1, 12), st.floats(0.2, 6.0))
@settings(deadline=None)
def test_micro_joints_keep_the_rest_of_the_run_as_it_is(count, width):
    run = begun_at(rounded_rectangle(0, 0, 90, 50, 8), starts_of(rounded_rectangle(0, 0, 90, 50, 8), "middle")[0])
    pieces = jointed(run, run.length, count, width)
    gaps = len(pieces) - 1
    assert 1 <= gaps <= count
    assert sum(p.length for p in pieces) == pytest.approx(run.length - gaps * width)
    line = shapely.LineString(run.flatten(0.0005))
    assert all(
        shapely.hausdorff_distance(
            shapely.intersection(line, shapely.LineString(p.flatten(0.0005)).buffer(0.01)), shapely.LineString(p.flatten(0.0005))
        )
        < 0.05
        for p in pieces
    )


def test_there_is_no_room_for_a_lead_and_it_is_said():
    """A kerf nearly as wide as the holes: they are begun on their contour."""
    document, nest = laid("electronics-box", "galv20")
    paths = laser_paths(with_laser(document, lead_length="400 mm"), nest, 1)
    assert any("no room for a lead" in f for f in paths.faults)
    assert laser_paths(with_laser(document, lead="none"), nest, 1).faults == ()


@pytest.mark.parametrize(
    ("said", "wanted"),
    [
        ({"lead_length": "0 mm"}, ""),
        ({"lead_length": "-5 mm"}, ""),
        ({"joints": 3, "joint_width": "0 mm"}, "0 mm wide hold nothing"),
        ({"joints": 3, "joint_width": "-1 mm"}, "-1 mm wide hold nothing"),
        ({"joints": 20, "joint_width": "30 mm"}, "micro-joints of"),
        ({"joints": 4, "joint_width": "0.4 mm"}, ""),
    ],
)
def test_what_cannot_be_as_it_is_asked_is_said_and_the_part_is_cut_all_the_same(said, wanted):
    document, nest = laid("electronics-box", "galv20")
    paths = laser_paths(with_laser(document, **said), nest, 1)
    assert (wanted in " / ".join(paths.faults)) if wanted else paths.faults == ()
    for _, _, body in bodies(document, nest, 1):
        assert any(p.contains(body.representative_point()) for p in left_of(paths))


def test_a_kerf_of_nothing_has_leads_too():
    """A file that is compensated elsewhere: paths are the parts themselves."""
    document, nest = laid("electronics-box", "galv20")
    document = with_laser(document, kerf=Entry(text="0"))
    work = {k: w.model_copy(update={"kerf": None}) for k, w in document.cutters[document.cutter].work.items()}
    paths = laser_paths(with_laser(document, work=work), nest, 1)
    assert paths.kerf == 0.0 and paths.faults == ()
    assert all(c.lead == "arc" for c in paths.cuts if c.operation == "outside")


def test_another_cutter_or_sheet_is_refused_in_words():
    document, nest = laid("brood-box", "ply6")
    router = (
        next(k for k, c in document.cutters.items() if c.kind != "laser")
        if any(c.kind != "laser" for c in document.cutters.values())
        else ""
    )
    with pytest.raises(NestError) as said:
        laser_paths(document, nest, 9)
    assert said.value.code == "no_sheet" and "9" in said.value.message
    other = with_laser(document, kind="router") if not router else document.model_copy(update={"cutter": router})
    with pytest.raises(NestError) as said:
        laser_paths(other, nest, 1)
    assert said.value.code == "no_machine"


def test_placements_turned_and_mirrored_are_cut_as_they_lie():
    document, nest = laid("electronics-box", "galv20")
    sheet = nest.layout.sheets[0]
    turned = tuple(replace(p, x=p.x + 700, y=900 - p.y, angle=p.angle + math.pi / 3, mirrored=not p.mirrored) for p in sheet.placements[:1])
    only = replace(
        nest,
        layout=replace(nest.layout, sheets=(replace(sheet, placements=turned, sheet=replace(sheet.sheet, length=3000.0, width=3000.0)),)),
    )
    paths = laser_paths(document, only, 1)
    (_, _, body), *_ = bodies(document, only, 1)
    piece = next(p for p in left_of(paths) if p.contains(body.representative_point()))
    assert_as_drawn(piece, body, paths.kerf)
