"""Cuts begun by hand: on any part of any contour, in every copy however it lies, moved rather than doubled, and forgotten where the part has changed."""

from __future__ import annotations

import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.core.toolpath.sheets import laid, with_laser
from zygon.design.patch import patched
from zygon.errors import NestError
from zygon.geometry.contour import Contour, circle, polygon
from zygon.program.of_design import program_of
from zygon.program.times import sheet_time
from zygon.toolpath.begun import begin_here
from zygon.toolpath.laser import laser_paths
from zygon.toolpath.pieces import pieces_of
from zygon.toolpath.router import router_paths
from zygon.toolpath.starts import SNAP, begun_at, start_near

ROUND = Contour(((0, 0), (60, 0), (60, 40), (0, 40)), (0, math.tan(math.pi / 4), 0, -0.3), ("e",) * 4)


@given(
    st.sampled_from([ROUND, ROUND.reversed(), circle(10, 20, 15, "e"), polygon([(0, 0), (50, 5), (30, 60)], "e")]),
    st.floats(0, 1),
    st.floats(-1, 1),
)
def test_a_contour_begun_near_any_place_is_the_same_contour_begun_there(contour, share, aside):
    ring = shapely.LinearRing(contour.flatten(1e-4))
    at = ring.interpolate(share, normalized=True)
    place = (at.x + 0.4 * aside, at.y - 0.3 * aside)
    start = start_near(contour, place)
    run = begun_at(contour, start)
    assert math.dist(run.points[0], place) <= SNAP + 0.51 and run.points[0] == run.points[-1]
    assert run.length == pytest.approx(contour.length, rel=1e-9)
    line = shapely.LineString(run.flatten(1e-4))
    assert shapely.hausdorff_distance(line, ring, densify=0.05) < 2e-3
    first = run.segments()[0].tangents()[0]
    assert math.dist(first, start.leaves) < 1e-6
    before = run.segments()[-1].tangents()[1]
    assert math.dist(before, start.comes) < 1e-6


def test_near_a_corner_the_corner_is_meant():
    for corner in ROUND.points[:1]:
        assert start_near(ROUND, (corner[0] + 1.0, corner[1])).at == corner
    assert start_near(ROUND, (30.0, 1.0)).at == pytest.approx((30.0, 0.0))


def patch_at(document, nest, number, place):
    label, patch = begin_here(document, nest, number, place)
    assert label
    return patched(document.dump(), patch)


def on_ring(contour, share):
    p = shapely.LinearRing(contour.flatten(1e-3)).interpolate(share, normalized=True)
    return p.x, p.y


@pytest.mark.parametrize(("name", "stock"), [("frame", "ply12"), ("hive", "ply6"), ("electronics-box", "galv20")])
@pytest.mark.parametrize("share", [0.13, 0.5, 0.77])
def test_every_copy_of_the_part_is_begun_there_however_it_lies(name, stock, share):
    document, nest = laid(name, stock)
    pieces = pieces_of(document, nest, 1)
    counts = {p.key: sum(q.key == p.key for q in pieces) for p in pieces}
    piece = max(pieces, key=lambda p: (counts[p.key], p.key))
    outside = piece.contours.outside[0]
    place = on_ring(outside, share)
    after = patch_at(document, nest, 1, place)
    start = start_near(outside, place).at
    local = shapely.Point(start)
    for p in pieces_of(after, nest, 1):
        if p.key != piece.key:
            continue
        (cut,) = [c for c in laser_paths(after, nest, 1).cuts if (c.key, c.copy, c.operation) == (p.key, p.copy, "outside")]
        lead = cut.runs[0].points[1 if cut.lead != "none" else 0]
        # the same place of the part: as far from its corners as on the copy that was pressed on
        ours = sorted(math.dist(lead, q) for q in p.contours.outside[0].points)
        theirs = sorted(math.dist((local.x, local.y), q) for q in outside.points)
        assert ours == pytest.approx(theirs, abs=2e-3)


def test_a_second_place_on_a_cut_takes_the_first_s_and_another_cut_has_its_own():
    document, nest = laid("electronics-box", "galv20")
    piece = next(p for p in pieces_of(document, nest, 1) if p.contours.inside)
    outside, hole = piece.contours.outside[0], max((c for c in piece.contours.inside if c.closed), key=lambda c: c.length)
    one = patch_at(document, nest, 1, on_ring(outside, 0.2))
    two = patch_at(one, nest, 1, on_ring(outside, 0.6))
    assert len(one.nest.begun) == len(two.nest.begun) == 1 and one.nest.begun != two.nest.begun
    both = patch_at(two, nest, 1, on_ring(hole, 0.4))
    assert (len(both.nest.begun) == 2 and set(two.nest.begun.values()) <= set(both.nest.begun.values())) or len(both.nest.begun) == 2
    assert program_of(both, nest, 1).faults == ()


def test_what_is_no_longer_near_a_cut_does_not_count():
    document, nest = laid("brood-box", "ply12")
    piece = pieces_of(document, nest, 1)[0]
    far = document.model_dump(mode="json", by_alias=True)
    far["nest"]["begun"] = {"b1": {"part": piece.key, "x": -400.0, "y": -400.0}}
    from zygon.design.upgrade import load

    assert laser_paths(load(far), nest, 1) == laser_paths(document, nest, 1)


def test_where_there_is_no_cut_that_is_said():
    document, nest = laid("brood-box", "ply12")
    with pytest.raises(NestError, match="No cut is nearer than 12 mm"):
        begin_here(document, nest, 1, (-500.0, -500.0))
    with pytest.raises(NestError):
        begin_here(document, nest, 99, (10.0, 10.0))
    with pytest.raises(NestError):
        begin_here(with_laser(document, kind="saw"), nest, 1, (10.0, 10.0))


def test_a_router_begins_at_the_corner_nearest_to_it_that_is_clear_of_tabs():
    document, nest = laid("hive-floor", "ply18")
    piece = pieces_of(document, nest, 1)[0]
    place = on_ring(piece.contours.outside[0], 0.37)

    def begins(doc):
        cuts = [c for c in router_paths(doc, nest, 1).cuts if (c.key, c.copy, c.operation) == (piece.key, piece.copy, "outside")]
        return cuts[0].start

    after = patch_at(document, nest, 1, place)
    assert math.dist(begins(after), place) < math.dist(begins(document), place)
    assert program_of(after, nest, 1).faults == ()


def test_its_time_is_found_anew():
    document, nest = laid("frame", "ply12")
    before = sheet_time(document, nest, 1)
    piece = pieces_of(document, nest, 1)[0]
    after = patch_at(document, nest, 1, on_ring(piece.contours.outside[0], 0.5))
    assert sheet_time(after, nest, 1).seconds == program_of(after, nest, 1).looked.seconds != before.seconds
