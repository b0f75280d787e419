"""How wide a bit is engaged: in a slot its width, beside a cut what is left of it, over what is gone nothing; by moves made up for it, and by areas of a real sheet."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from tests.core.program.milled import swept_to
from tests.core.program.test_routed import looked_at, milled
from zygon.program.engaged import engaged
from zygon.program.read import Move


def paths_of(way="plain"):
    return milled("landing-board", "ply12", way).paths


def line(p, q, kind="line", tool=1):
    return Move(kind, p, q, 1, on=True, feed=10, tool=tool)


def widths(*moves, way="plain"):
    return engaged(moves, paths_of(way))


BIT = 6.0


@pytest.mark.parametrize(("dx", "dy"), [(60.0, 0.0), (0.0, 60.0), (-40.0, 30.0), (33.0, -51.0)])
@pytest.mark.parametrize("aside", [0.5, 2.4, 4.0, 5.9, 9.0])
def test_beside_a_slot_it_takes_just_what_is_between(dx, dy, aside):
    long = math.hypot(dx, dy)
    nx, ny = -dy / long * aside, dx / long * aside
    found = widths(
        line((0, 0, 2), (0, 0, -3)),
        line((0, 0, -3), (dx, dy, -3)),
        line((dx, dy, -3), (0, 0, -3)),
        line((0, 0, -3), (nx, ny, -3)),
        line((nx, ny, -3), (dx + nx, dy + ny, -3)),
    )
    assert found[0] == BIT and found[1] == pytest.approx(BIT, abs=0.1)
    assert found[2] == 0
    assert found[4] == pytest.approx(min(aside, BIT), abs=0.25 + aside / 20)


def test_a_deeper_pass_is_a_full_one_again_and_a_rapid_or_a_move_over_the_sheet_takes_nothing():
    found = widths(
        line((0, 0, -2), (50, 0, -2)),
        line((50, 0, -4), (0, 0, -4)),
        line((0, 0, 1), (0, 30, 1)),
        line((0, 60, -2), (50, 60, -2), kind="rapid"),
        line((0, 0, -4), (50, 0, -4)),
    )
    assert found[1] == pytest.approx(BIT, abs=0.2) and found[2:] == [0, 0, 0]


def test_a_way_down_on_a_slope_is_as_wide_as_the_bit():
    assert widths(line((0, 0, 0), (50, 0, -4)))[0] == pytest.approx(BIT, abs=0.5)


@pytest.mark.parametrize("sweep", [math.pi, -math.pi, 2 * math.pi])
def test_round_a_circle_the_outer_ring_takes_the_step(sweep):
    def ring(r):
        end = (r * math.cos(sweep), r * math.sin(sweep), -3.0)
        return Move("arc", (r, 0, -3.0), end, 1, on=True, feed=10, tool=1, centre=(0.0, 0.0), sweep=sweep)

    one, _, other = widths(ring(20.0), line((20, 0, -3), (22.4, 0, -3)), ring(22.4))
    assert one == pytest.approx(BIT, abs=0.2)
    assert other == pytest.approx(2.4 * (22.4 + 20) / 2 / 22.4 + (BIT / 2) * (1 - 20 / 22.4), abs=0.45)


def test_zero_on_the_bed_is_reckoned_from_the_face():
    thick = paths_of("conventional").thickness
    found = widths(line((0, 0, thick - 3), (50, 0, thick - 3)), line((50, 0, thick + 1), (0, 0, thick + 1)), way="conventional")
    assert found[0] == pytest.approx(BIT, abs=0.4) and found[1] == 0


def test_over_a_sheet_all_that_is_taken_is_what_the_bits_sweep():
    one = milled("landing-board", "ply12")
    found = engaged(one.program.moves, one.paths)
    moves, wide = looked_at(one)
    assert max(found) <= max(wide.values()) and min(found) == 0
    # what is taken in all is, level by level, the area that is swept there
    levels = sorted({round(m.q[2], 3) for m in one.program.moves if m.kind in ("line", "arc") and m.q[2] < -0.05 and m.p[2] == m.q[2]})
    assert len(levels) > 1
    low = [k for k, m in enumerate(one.program.moves) if m.kind in ("line", "arc") and min(m.p[2], m.q[2]) < levels[1] - 0.05]
    taken = sum(found[k] * one.program.moves[k].length for k in low)
    assert taken == pytest.approx(swept_to(moves, levels[1] - 0.05, wide, surely=False).area, rel=0.12)


def test_a_program_that_cuts_nothing_and_one_with_a_v_bit_alone():
    assert engaged([], paths_of()) == []
    assert widths(line((0, 0, 5), (50, 0, 5))) == [0]
    v = paths_of()
    only_v = replace(v, bits={k: replace(b, kind="v") for k, b in v.bits.items()})
    assert engaged([line((0, 0, -1), (50, 0, -1))], only_v) == [0]
