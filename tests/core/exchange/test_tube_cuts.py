"""What a tube cutter is told: ways round ends and through holes lie where the tube ends, over ends, sections and joints; and angles as the saw list has them."""

from __future__ import annotations

import csv
import io
import itertools
import json
import math

import numpy as np
import pytest

from tests.core.making.tube.frames import two
from zygon.design.examples import EXAMPLES, example
from zygon.exchange.tube_cuts import write_tube_cuts
from zygon.exchange.tubes import write_saw_list
from zygon.making.pipeline import build
from zygon.making.tube.body import MemberBody
from zygon.making.tube.developed import Around, end_path


@pytest.mark.parametrize("joint", ["member_cope", "member_mitre"])
@pytest.mark.parametrize("one", ["thin round tube", "round tube", "square tube", "rectangular tube"])
@pytest.mark.parametrize(("end", "slope"), list(itertools.product("ab", [0.0, 0.4])))
def test_the_way_round_an_end_is_where_the_tube_stops(joint, one, end, slope):
    d = two(
        one, "round tube", [(300, 0, 0), (0, 60 * slope, 200)], joint, span=(0, 1) if joint == "member_mitre" else (-1, 1), turns=(0, 0)
    )
    if end == "b":
        d.data["frames"]["f"]["lines"]["l"] = {"a": "q", "b": "p"}
    built = build(d.document())
    if built.faults:
        assert [f.code for f in built.faults] == ["joint_refused"]
        return
    body = built.made["one"].body
    assert isinstance(body, MemberBody)
    way = end_path(body, end)
    around = Around(body.section)
    turns, rounds, along = (np.array(x) for x in zip(*way, strict=True))
    assert turns[0] == rounds[0] == 0 and turns[-1] == pytest.approx(360) and rounds[-1] == pytest.approx(around.length)
    assert (np.diff(turns) >= -1e-6).all() and (np.diff(rounds) > 0).all() and along[0] == pytest.approx(along[-1], abs=1e-6)
    # each place is on the outside, at its turn from the side at 0 degrees
    for t, x in zip(turns[1:-1], rounds[1:-1], strict=True):
        u, v = around.point(x)
        assert math.remainder(math.radians(t + 90) - math.atan2(v, u), 2 * math.pi) == pytest.approx(0, abs=1e-6)
    # chords between its places stray hardly from the tube's true end
    for a, b in zip(way, way[1:], strict=False):
        middle = (a[1] + b[1]) / 2
        true = body.stops(np.array([around.point(middle)]))[0 if end == "a" else 1][0] - body.span[0]
        assert abs(true - (a[2] + b[2]) / 2) < 0.05
    reach = along.min() if end == "a" else along.max()
    assert reach == pytest.approx(0.0 if end == "a" else body.long, abs=0.02)


def test_a_mitre_of_a_round_tube_is_a_cosine():
    d = two("round tube", "round tube", [(300, 0, 0), (0, 0, 200)], "member_mitre", span=(0, 1), turns=(0, 0))
    body = build(d.document()).made["one"].body
    radius = body.section.extents[0] / 2
    way = end_path(body, "a")
    middle = (max(p[2] for p in way) + min(p[2] for p in way)) / 2
    phase = next(p[0] for p in way if p[2] == max(q[2] for q in way))
    for turn, _, along in way:
        assert along - middle == pytest.approx(radius * math.cos(math.radians(turn - phase)), abs=1e-3)


@pytest.mark.parametrize("name", list(EXAMPLES))
def test_angles_and_lengths_are_those_of_the_saw_list(name):
    built = build(example(name))
    text, saw = write_tube_cuts(built), write_saw_list(built)
    assert bool(text) == bool(saw)
    if not text:
        return
    rows = list(csv.DictReader(io.StringIO(saw)))
    pieces = json.loads(text)["pieces"]
    assert [(str(p["number"]), p["part"].replace("'", ""), str(p["pieces"])) for p in pieces] == [
        (r["No."], r["Part"].replace("'", ""), r["Quantity"]) for r in rows
    ]
    for p, r in zip(pieces, rows, strict=True):
        for end, told in p.get("ends", {}).items():
            angle = r[f"End {end.upper()} off square deg"]
            assert (told["off_square"] is None) == (angle == "") and (
                not angle or told["off_square"] == pytest.approx(float(angle), abs=1e-3)
            )
            if told["off_square"] and "path" in told:
                spread = max(x[2] for x in told["path"]) - min(x[2] for x in told["path"])
                assert spread > 1
            assert "path" not in told or told["off_square"] != 0.0
