"""A board with an arc in front holds over all of its range: its middle moves far for a little wider or flatter, and still it comes to hold."""

from __future__ import annotations

import math

import pytest

from zygon.check.run import check
from zygon.design.examples import example
from zygon.making.pipeline import build
from zygon.range_test.tries import with_sizes


@pytest.mark.parametrize("rise", [20.0, 28.3, 40.0, 41.0, 55.5, 70.0])
@pytest.mark.parametrize("wide", [200.0, 233.3, 300.0, 360.0, 368.0, 379.0, 398.0, 400.0, 431.7, 460.0])
def test_an_arc_of_a_board_holds_at_every_width_and_rise(wide, rise):
    built = build(with_sizes(example("landing-board"), {"wide": wide, "rise": rise}))
    assert not [p.fault.message for p in check(built) if p.fault.severity == "error"]
    outline = built.flats["landing"].flat.pieces[0].outer
    arcs = [s for s in outline.segments() if s.bulge]
    radius = (wide**2 / 4 + rise**2) / (2 * rise)  # of a circle through both ends that touches the front amid them
    assert len(arcs) == 1 and outline.bounds == pytest.approx((0, 0, wide, 120), abs=1e-6)
    assert arcs[0].length == pytest.approx(2 * radius * math.asin(wide / 2 / radius), abs=1e-5)
