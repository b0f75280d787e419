"""How far a punch goes down, against the plane figure: the bent sheet lies on both shoulders and cuts into neither. And the programs that tell it."""

from __future__ import annotations

import json
import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zygon.brake.bend_plan import plan_of
from zygon.brake.travel import punch_travel
from zygon.design.examples import example
from zygon.exchange.strokes import brake_programs, write_brake_program, write_strokes
from zygon.making.flats.flat import lying
from zygon.making.pipeline import build


def bent_sheet(angle: float, thickness: float, radius: float, low: float) -> shapely.Geometry:
    """A sheet bent by ``angle``, its inside lowest at (0, ``low``): the inside is an arc that goes on in straight legs."""
    slope, long = angle / 2, 200.0
    middle = (0.0, low + radius)
    inner = [(middle[0] + radius * math.sin(a), middle[1] - radius * math.cos(a)) for a in (slope * k / 200 for k in range(-200, 201))]
    ends = [(side * (radius * math.sin(slope) + long * math.cos(slope)), inner[0][1] + long * math.sin(slope)) for side in (-1, 1)]
    line = shapely.LineString([ends[0], *inner, ends[1]])
    return line.buffer(-thickness, single_sided=True, quad_segs=400)


@given(
    angle=st.floats(0.1, 2.4),
    thickness=st.floats(0.8, 4),
    wide=st.floats(6, 12),
    round_=st.floats(0.5, 1.5),
    shoulder=st.floats(0.3, 1.0),
)
def test_a_bent_sheet_lies_on_both_shoulders(angle, thickness, wide, round_, shoulder):
    v, radius, corner = wide * thickness, round_ * thickness, shoulder * thickness
    travel = punch_travel(angle, thickness, radius, v, corner)
    sheet = bent_sheet(angle, thickness, radius, thickness - travel)
    gaps = [sheet.distance(shapely.Point(side * v / 2, -corner)) - corner for side in (-1, 1)]
    assert gaps == pytest.approx([0.0, 0.0], abs=2e-3 * thickness)


def test_a_flat_sheet_needs_no_travel_and_a_sharper_bend_or_a_wider_v_needs_more():
    assert punch_travel(0.0, 2.0, 3.0, 16.0, 1.0) == 0.0
    assert punch_travel(0.5, 2.0, 3.0, 16.0, 1.0) < punch_travel(1.0, 2.0, 3.0, 16.0, 1.0) < punch_travel(1.0, 2.0, 3.0, 24.0, 1.0)
    # of a sheet without thickness on sharp shoulders it is half the V at a square bend
    assert punch_travel(math.pi / 2, 0.0, 0.0, 16.0, 0.0) == pytest.approx(8.0)


def test_a_program_tells_every_stroke_of_the_bend_plan_in_its_order():
    built = build(example("roof"))
    (program,) = brake_programs(built)
    part = next(p for p in built.flats.values() if p.path == program["part"])
    steps = plan_of(built.document, part, lying(part))
    assert [s["bends"] for s in program["strokes"]] == [[part.fold.bends[i].key for i in s.bends] for s in steps]
    for told, step in zip(program["strokes"], steps, strict=True):
        bend = part.fold.bends[step.bends[0]]
        assert told["inside"] == pytest.approx(180 - math.degrees(abs(bend.angle)), abs=1e-3)
        assert told["gauge"] == pytest.approx(step.gauge.distance, abs=1e-3) and told["force"] == pytest.approx(step.force, abs=0.01)
        assert (told["punch"], told["die"]) == (step.tool.punch.name, step.tool.die.name) and told["travel"] > 0
    assert sorted(b for s in program["strokes"] for b in s["bends"]) == sorted(b.key for b in part.fold.bends)
    told = json.loads(write_strokes(built))
    assert told["parts"] == [program] and told["brake"] == built.document.brakes[built.document.brake].name
    text = write_brake_program(built)
    assert text.count(" deg inside") + text.count(" to flat") == len(steps)
    assert "turn round" in text and "then pressed flat" in text and all(s["die"] in text for s in program["strokes"])


def test_a_design_that_is_not_bent_has_no_program():
    built = build(example("brood-box"))
    assert write_brake_program(built) == "" and write_strokes(built) == ""
