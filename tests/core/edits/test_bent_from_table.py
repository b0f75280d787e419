"""A bar bent by the bender's table: the table of what is made is the one that was entered, and what cannot be is refused by its row."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.tube.frames import key, stocked
from zygon.design.parts.connector import TOWARD
from zygon.design.patch import patched
from zygon.edits.bent_from_table import bent_from_table
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.making.tube.bent_path import Bend, BentPath, bent_path, corners_of

STOCK = key("round bar")
START = {"x": "10 mm", "y": "20 mm", "z": "30 mm"}


def made(rows, end="60 mm", radius="40 mm", way="right", toward="up", start=None, unit="mm"):
    d = stocked("round bar")
    d.data["unit"] = unit
    document = d.document()
    said = bent_from_table(build(document), STOCK, rows, end, radius, start or START, way, toward)
    return build(patched(document.dump(), said[1]))


def table(built):
    (rod,) = [p for p in built.made.values() if p.record.kind == "member"]
    return rod.body


bends = st.lists(st.tuples(st.floats(0, 200), st.floats(-179, 180), st.floats(3, 170)), min_size=1, max_size=6)


@settings(max_examples=40)
@given(
    bends,
    st.floats(1, 100),
    st.floats(5, 60),
    st.sampled_from([(a, b) for a in TOWARD for b in TOWARD if abs(np.dot(TOWARD[a], TOWARD[b])) < 0.5]),
)
def test_the_corners_of_a_table_give_the_table_back(rows, end, radius, ways):
    """Points round the corners of which a bar is bent, and back: feeds, bends, and all turns but the first, which says where the first bend goes."""
    way, toward = (np.array(TOWARD[w]) for w in ways)
    path = BentPath(tuple(Bend(*r) for r in rows), end, radius)
    corners = corners_of(path, way, toward)
    back = bent_path(corners, radius, 2.0)
    assert [b.feed for b in back.bends] == pytest.approx([b.feed for b in path.bends], abs=1e-6)
    assert [b.bend for b in back.bends] == pytest.approx([b.bend for b in path.bends], abs=1e-6)
    assert back.end == pytest.approx(end, abs=1e-6) and back.length == pytest.approx(path.length)
    for a, b in list(zip(back.bends, path.bends, strict=True))[1:]:
        assert math.cos(math.radians(a.turn - b.turn)) == pytest.approx(1.0, abs=1e-8)
    # it begins along its way, and its first bend goes toward its side, turned by the first turn about the way
    assert corners[1] / np.linalg.norm(corners[1]) == pytest.approx(way)
    leaves = corners[2] - corners[1]
    aside = leaves - way * float(leaves @ way)
    turned = math.radians(rows[0][1])
    assert aside / np.linalg.norm(aside) == pytest.approx(toward * math.cos(turned) + np.cross(way, toward) * math.sin(turned), abs=1e-6)


def test_a_carrying_bail_by_hand():
    """Up 100, a quarter to the right, 200, a quarter down, 100: 40 mm radius; by hand the straight bar is 400 and two quarter circles."""
    built = made([("100 mm", "0", "90"), ("200 mm", "0", "90")], "100 mm", way="up", toward="right")
    body = table(built)
    assert not built.faults and body.length == pytest.approx(400 + 40 * math.pi)
    low, high = next(p for p in built.made.values()).reaches
    assert high[0] - low[0] == pytest.approx(200 + 80 + 20) and low[0] == pytest.approx(10 - 10) and high[2] == pytest.approx(30 + 140 + 10)
    # the other half-turn goes on in a step
    step = made([("100 mm", "0", "90"), ("200 mm", "180", "90")], "100 mm", way="up", toward="right")
    assert next(p for p in step.made.values()).reaches[1][2] == pytest.approx(30 + 140 + 40 + 100)


def test_entries_are_in_the_design_s_unit_and_the_start_follows_what_it_names():
    built = made([("4", "0", "90 deg")], "3", radius="1.5", start={"x": "1", "y": "2 in + 1 in", "z": "0"}, unit="in")
    assert table(built).length == pytest.approx(25.4 * (4 + 3 + 1.5 * math.pi / 2))
    assert next(iter(built.document.frames.values())).points["p1"].at["y"].text == "2 in + 1 in"
    straight = made([], "500 mm")
    assert table(straight).length == pytest.approx(500) and straight.document.parts["bent_bar"].radius is None


@pytest.mark.parametrize(
    ("rows", "more", "entry"),
    [
        ([("100", "0", "0")], {}, "bend 1"),
        ([("100", "0", "90"), ("50", "0", "176")], {}, "bend 2"),
        ([("-1", "0", "90")], {}, "straight 1"),
        ([("100", "x + ", "90")], {}, "turn 1"),
        ([("100", "0", "90")], {"end": "-5"}, "last straight"),
        ([], {"end": "0"}, "last straight"),
        ([("100", "0", "90")], {"toward": "left"}, "toward"),
        ([("100", "0", "90")], {"radius": "nobody"}, "radius"),
        ([("100", "0", "90")], {"radius": "0"}, "radius"),
        ([("100", "0", "90")], {"radius": "-40"}, "radius"),
    ],
)
def test_what_cannot_be_is_refused_by_its_row(rows, more, entry):
    with pytest.raises(DocumentError) as refused:
        made(rows, **more)
    assert refused.value.entry == entry and refused.value.rule


def test_what_is_no_bar_cannot_be_bent():
    document = stocked("round bar").document()
    with pytest.raises(DocumentError, match="cut from a bar or tube"):
        bent_from_table(build(document), "ply18", [], "100", "10", {}, "right", "up")
