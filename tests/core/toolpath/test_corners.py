"""Slower at corners: what is slow is what lies near a sharp one, nothing is lost between stretches, and the program says so."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.toolpath.sheets import laid, with_laser
from zygon.geometry.contour import Contour
from zygon.program.of_design import program_of
from zygon.program.times import sheet_time
from zygon.toolpath.corners import SHARP, paced
from zygon.toolpath.pieces import once_round


def run_of(turns, lengths):
    """An open run of straight lines, each turned so far (degrees) from the one before."""
    at, way, points = (0.0, 0.0), 0.0, [(0.0, 0.0)]
    for turn, long in zip(turns, lengths, strict=True):
        way += math.radians(turn)
        at = at[0] + long * math.cos(way), at[1] + long * math.sin(way)
        points.append(at)
    return Contour(tuple(points), (0.0,) * len(turns), ("e",) * len(turns), closed=False)


@given(
    st.lists(st.tuples(st.floats(-170, 170), st.floats(0.3, 40)), min_size=1, max_size=9),
    st.floats(0.1, 12),
)
def test_just_what_lies_near_a_sharp_corner_is_slow(legs, way):
    turns, lengths = [t for t, _ in legs], [n for _, n in legs]
    run = run_of(turns, lengths)
    ends = [sum(lengths[: k + 1]) for k in range(len(lengths) - 1)]
    sharp = [e for e, t in zip(ends, turns[1:], strict=True) if abs(math.radians(t)) >= SHARP]
    found, done = paced(run, way), 0.0
    assert sum(c.length for c, _ in found) == pytest.approx(run.length)
    assert math.dist(found[0][0].points[0], run.points[0]) < 1e-9 and math.dist(found[-1][0].points[-1], run.points[-1]) < 1e-9
    for (a, slow), nxt in zip(found, [*found[1:], None], strict=True):
        if nxt is not None:
            assert math.dist(a.points[-1], nxt[0].points[0]) < 1e-9
        for share in (0.01, 0.5, 0.99):
            at = done + share * a.length
            near = any(abs(at - s) < way - 1e-6 for s in sharp)
            far = all(abs(at - s) > way + 1e-6 for s in sharp)
            assert not (near and not slow) and not (far and slow)
        done += a.length


@pytest.mark.parametrize("bulge", [math.tan(math.pi / 8), -math.tan(math.pi / 8)])
def test_a_small_round_corner_is_one_and_a_large_one_is_none(bulge):
    for radius, sharp in ((1.0, True), (1.99, True), (2.01, False), (30.0, False)):
        side = 1 if bulge > 0 else -1
        run = Contour(
            ((0, 0), (40, 0), (40 + radius, side * radius), (40 + radius, side * (radius + 40))), (0, bulge, 0), ("e",) * 3, closed=False
        )
        slow = [c for c, s in paced(run, 2.0) if s]
        assert len(slow) == sharp
        if sharp:
            assert slow[0].length == pytest.approx(4.0 + math.pi / 2 * radius)


def test_a_circle_has_no_corner_and_no_way_none_is_slow():
    from zygon.geometry.contour import circle, rectangle

    assert [s for _, s in paced(once_round(circle(0, 0, 30, "e")), 2.0)] == [False]
    box = once_round(rectangle(0, 0, 40, 40, "e"))
    assert paced(box, 0.0) == [(box, False)]
    assert [s for _, s in paced(box, 2.0)] == [False, True] * 3 + [False]  # where it begins and ends it goes on or off


@pytest.mark.parametrize(("name", "stock"), [("brood-box", "ply12"), ("electronics-box", "galv20")])
def test_the_program_slows_down_there_and_cuts_the_same(name, stock):
    document, nest = laid(name, stock)
    slow = with_laser(document, corner_speed=40.0)
    plain, made = program_of(document, nest, 1), program_of(slow, nest, 1)
    work = document.cutters[document.cutter].work[stock]
    assert not made.faults and made.looked.cut == pytest.approx(plain.looked.cut, rel=1e-6)
    on = [m for m in made.program.moves if m.on and m.kind in ("line", "arc")]
    cuts = [m for m in on if round(m.feed / work.cut_speed, 3) in (0.4, 1.0)]
    assert {round(m.feed / work.cut_speed, 3) for m in cuts} == {0.4, 1.0}
    assert all(round(m.feed, 3) == work.mark_speed for m in on if m not in cuts)
    # the last stretch before and the first after a right angle are slow, and two millimetres long
    for one, other in zip(cuts, cuts[1:], strict=False):
        if one.kind == other.kind == "line" and math.dist(one.q, other.p) < 1e-6 and one.length > 4 and other.length > 4:
            u, v = ([b - a for a, b in zip(m.p[:2], m.q[:2], strict=True)] for m in (one, other))
            assert abs(math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1])) < SHARP
    assert sheet_time(slow, nest, 1).seconds > sheet_time(document, nest, 1).seconds


def test_a_way_that_is_no_length_is_said_where_it_counts():
    from zygon.check.run import check
    from zygon.making.pipeline import build

    document, _ = laid("brood-box", "ply12")

    def entries(**said):
        from zygon.measure.entry import Entry

        return {p.fault.entry for p in check(build(with_laser(document, corner_way=Entry(text="0 mm"), **said)))}

    entry = f"/cutters/{document.cutter}/corner_way"
    assert entry in entries(corner_speed=50.0) and entry not in entries(corner_speed=100.0)
