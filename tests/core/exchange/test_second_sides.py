"""Files of parts with depth: a layer for each face and depth, a second file with the turn axis, and a drilling list whose holes meet."""

import csv
import io

import ezdxf
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import pair
from tests.explore import drawn
from zygon.cut.kerf import compensated
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.exchange.bundle import needs_turning, part_file
from zygon.exchange.drilling import drilling_list, write_drilling
from zygon.geometry.frame import FACES
from zygon.making.flats.flat import edge_bore_axis
from zygon.making.pipeline import build


def read(text):
    doc = ezdxf.read(io.StringIO(text))
    assert not doc.audit().errors
    layers = {}
    for entity in doc.modelspace():
        layers.setdefault(entity.dxf.layer, []).append(entity)
    return layers


def both_sides():
    d = Draft("two sides", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    d.feature("p", "a", "pocket", ("left", "40"), ("front", "30"), width=40, height=20, depth=4, radius=5)
    d.feature("p", "b", "pocket", ("left", "150"), ("front", "30"), width=30, height=20, depth="3.5 mm", face="bottom")
    d.feature("p", "c", "hole", ("centre", "0"), ("centre", "0"), diameter=30)
    d.feature("p", "d", "hole", ("left", "20"), ("back", "20"), diameter=4)
    return build(d.document())


def test_every_depth_is_a_layer_named_with_face_and_millimetres():
    built = both_sides()
    part = built.parts["p"]
    assert needs_turning(part)
    name, text = part_file(built, part, "dxf", "nominal")
    layers = read(text)
    assert {"DEPTH_A_4MM", "CUT_INSIDE", "CUT_OUTSIDE", "DRILL", "NOTE"} <= set(layers)
    assert "DEPTH_B_3.5MM" not in layers
    assert len(layers["DRILL"]) == 1 and layers["DRILL"][0].dxf.radius == pytest.approx(2)  # under the bit of 6 mm
    assert any("TURN OVER" in e.dxf.text for e in layers["NOTE"] if e.dxftype() == "TEXT")

    second, text = part_file(built, part, "dxf", "nominal", turned=True)
    assert "second-side" in second and second != name
    layers = read(text)
    assert "CUT_OUTSIDE" not in layers and "CUT_INSIDE" not in layers and "DEPTH_A_4MM" not in layers
    (pocket,) = layers["DEPTH_B_3.5MM"]
    # turned left to right about x = 100: what lay at 135..165 lies at 35..65
    xs = [p[0] for p in pocket.get_points("xy")]
    assert (min(xs), max(xs)) == pytest.approx((35, 65))
    axis = next(e for e in layers["NOTE"] if e.dxftype() == "LINE")
    assert axis.dxf.start.x == axis.dxf.end.x == pytest.approx(100)
    assert any("x = 100 mm" in e.dxf.text for e in layers["NOTE"] if e.dxftype() == "TEXT")


def test_a_bits_path_stays_half_a_bit_inside_a_pocket_and_runs_out_where_it_is_open():
    d = Draft("open", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    d.feature("p", "g", "groove", ("centre", "0"), ("centre", "0"), width=10, depth=5)
    flat = build(d.document()).parts["p"].flat
    ((operation, path),) = compensated(flat, 6.0).depths
    assert operation == "depth-a-5"
    # along the groove the tool's middle gets to the edges; across, it keeps off the walls by half its width
    assert path.bounds == pytest.approx((0, 58, 200, 62), abs=1e-6)


def place(built, row):
    """A row's hole in the room, from nothing but what the list says: the start of its axis, and the way in."""
    part = built.parts[row.key]
    box = {x: part.box.span(x) for x in "xyz"}
    axis_of = {w: (x, i) for x in "xyz" for i, w in enumerate(FACES[x])}
    point = {}
    for value, words in ((row.along, row.along_from), (row.across, row.across_from)):
        axis, side = axis_of[words.split()[0]]
        point[axis] = box[axis][0] + value if side == 0 else box[axis][1] - value
    axis, side = axis_of[row.side]
    point[axis] = box[axis][side]
    way = -1 if side else 1
    return np.array([point[x] for x in "xyz"]), axis, way


@settings(max_examples=drawn(30))
@given(
    st.sampled_from(["tee", "corner"]),
    st.floats(12, 25),
    st.floats(12, 25),
    st.floats(100, 300),
    st.integers(2, 4),
    st.booleans(),
    st.booleans(),
)
def test_a_maker_who_follows_the_list_bores_holes_that_meet(meeting, ta, tb, run, number, low, high):
    draft = pair("dowels", ta, tb, run, meeting=meeting, number=number, fit="0", inset="16 mm")
    span = draft.data["parts"]["b"]["spans"]["z"]
    if low:  # b begins below a, or ends above it: the list then measures from the end that both share, or from each one's own
        span["low"] = draft.entry("-17 mm")
    if high:
        span["high"] = draft.entry(f"{run} + 23 mm")
    draft.data["cutter"] = "saw"
    built = build(draft.document())
    rows = [r for r in drilling_list(built) if r.joint]
    assert len(rows) == 2 * number
    places = {key: sorted((place(built, r) for r in rows if r.key == key), key=lambda p: p[0][2]) for key in "ab"}
    for (p, axis, way), (q, other_axis, other_way) in zip(places["a"], places["b"], strict=True):
        assert axis == other_axis == "y" and way == -other_way
        assert p == pytest.approx(q, abs=1e-3)


def test_the_list_of_a_design_agrees_with_its_bores():
    built = build(EXAMPLES["stand"]())
    rows = drilling_list(built)
    assert sum(r.surface == "edge" for r in rows) == sum(len(p.flat.bores) for p in built.flats.values())
    for row in (r for r in rows if r.surface == "edge"):
        p, _, _ = place(built, row)
        part = built.parts[row.key]
        starts = [(np.array(part.matrix) @ (*edge_bore_axis(b)[0], 1.0))[:3] for b in part.flat.bores]
        assert min(np.linalg.norm(p - s) for s in starts) < 1e-3
    table = list(csv.reader(io.StringIO(write_drilling(built))))
    assert len(table) == len(rows) + 1 and table[0][0] == "Part"
    assert write_drilling(build(EXAMPLES["frame"]())) == ""
