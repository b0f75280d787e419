"""Half-profiles that are drawn: what steps say comes out the same, over axes; closed forms of balls, cones and rings; and what cannot be turned."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.shared import edited
from zygon.design.turned_starts import TURNED_STARTS
from zygon.design.upgrade import load
from zygon.edits.drawings.begin_turned import begin_half_profile
from zygon.edits.drawings.relate import relate
from zygon.errors import DocumentError
from zygon.making.asked.drawings.of import place_of
from zygon.making.pipeline import build
from zygon.measure.entry import Entry


def entry(text):
    return {"text": str(text), "unit": "mm"}


def turned(axis="z", length=40, **record):
    across = [a for a in "xyz" if a != axis]
    part = {
        "kind": "turned", "name": "knob", "axis": axis, "span": {"low": entry(10), "high": entry(f"{10 + length} mm")},
        "at": {a: entry(50 + 10 * k) for k, a in enumerate(across)}, "deep": entry(30), **record,
    }  # fmt: skip
    return build(load({"schema": 5, "name": "t", "stocks": {"s": {"name": "ply", "nominal": entry(12)}}, "parts": {"k": part}}))


def profile(points, arcs=(), closed=False):
    """A drawing of lines through points (r, w), as (x, y) about z; ``arcs`` are (a, b, centre) by their numbers instead of a line."""
    named = {f"p{n}": {"x": float(r), "y": float(w)} for n, (r, w) in enumerate(points)}
    run = [n for n in range(len(points)) if n not in {c for *_, c in arcs}]
    pairs = list(zip(run, [*run[1:], *(run[:1] if closed else [])], strict=False))
    curves = {}
    for k, (a, b) in enumerate(pairs):
        arc = next((x for x in arcs if {x[0], x[1]} == {a, b}), None)
        made = (
            {"kind": "arc", "a": f"p{arc[0]}", "b": f"p{arc[1]}", "centre": f"p{arc[2]}"}
            if arc
            else {"kind": "line", "a": f"p{a}", "b": f"p{b}"}
        )
        curves[f"c{k}"] = {**made, "order": k}
    return {"points": named, "curves": curves, "references": {"stay": {"kind": "point", "seen": [0, 0]}}}


def volume_of(shape):
    from OCP.BRepGProp import BRepGProp
    from OCP.GProp import GProp_GProps

    props = GProp_GProps()
    BRepGProp.VolumeProperties_s(shape, props)
    return props.Mass()


def volume(built):
    assert built.faults == (), [f.message for f in built.faults]
    return built.parts["k"].body.volume


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("start", [k for k in TURNED_STARTS if k != "knob"])
def test_steps_that_are_drawn_come_out_the_same(axis, start):
    said = TURNED_STARTS[start]
    given = {k: v for k, v in said.start.items() if k != "deep"}
    built = turned(axis, float(said.length.removesuffix(" mm")), deep=said.start["deep"], **given)
    drawn = edited(built, begin_half_profile(built, "k")[1])
    assert volume(drawn) == pytest.approx(volume(built), rel=1e-9)
    assert drawn.parts["k"].body.profile.bounds == pytest.approx(built.parts["k"].body.profile.bounds, abs=1e-6)
    assert volume_of(drawn.parts["k"].body.exact()) == pytest.approx(volume(built), rel=2e-3)
    # and lies where it lay
    assert drawn.parts["k"].matrix == built.parts["k"].matrix


def test_its_figures_lead_the_drawing():
    steps = {"s0": {"across": entry(30), "length": entry("head"), "order": 0}, "s1": {"across": entry("pin"), "order": 1}}
    for axis in "xyz":
        built = turned(axis, 40, steps=steps)
        sizes = {"head": {"name": "head", "entry": entry(12)}, "pin": {"name": "pin", "entry": entry(10), "order": 1}}
        built = edited(built, [{"op": "add", "path": "/sizes", "value": sizes}])
        drawn = edited(built, begin_half_profile(built, "k")[1])
        for head, pin in ((12, 10), (20, 8), (5, 22)):
            patch = [{"op": "replace", "path": f"/sizes/{k}/entry/text", "value": f"{v} mm"} for k, v in (("head", head), ("pin", pin))]
            assert volume(edited(drawn, patch)) == pytest.approx(volume(edited(built, patch)), rel=1e-9)
        assert volume(edited(drawn, patch)) == pytest.approx(math.pi * (15**2 * 5 + 11**2 * 35), rel=1e-6)


def test_closed_forms():
    ball = profile([(0, 0), (0, 30), (0, 15)], arcs=[(0, 1, 2)])
    assert volume(turned("z", 30, drawing=ball)) == pytest.approx(4 / 3 * math.pi * 15**3, rel=1e-6)
    cone = profile([(0, 0), (12, 0), (0, 40)])
    assert volume(turned("z", 40, drawing=cone)) == pytest.approx(math.pi * 12**2 * 40 / 3, rel=1e-6)
    # a ring of 10 x 5 about a mean radius of 8, by Pappus
    ring = profile([(5.5, 0), (10.5, 0), (10.5, 10), (5.5, 10)], closed=True)
    made = turned("z", 10, drawing=ring)
    assert volume(made) == pytest.approx(2 * math.pi * 8 * 50, rel=1e-6)
    assert volume_of(made.parts["k"].body.exact()) == pytest.approx(2 * math.pi * 8 * 50, rel=1e-6)


def test_the_other_way_round_and_along_the_other_axes_it_is_the_same():
    points = [(0, 0), (12, 0), (12, 15), (7, 22), (7, 40), (0, 40)]
    known = volume(turned("z", 40, drawing=profile(points)))
    assert known == pytest.approx(volume(turned("z", 40, drawing=profile(points[::-1]))))
    for axis in "xy":
        found = profile(points)
        # x of the drawing runs along the axis there
        found["points"] = {k: {"x": p["y"], "y": p["x"]} for k, p in found["points"].items()}
        assert volume(turned(axis, 40, drawing=found)) == pytest.approx(known)


def test_it_is_as_long_as_is_drawn_where_its_span_says_so():
    points = [(0, 0), (12, 0), (12, 25), (0, 25)]
    built = turned("z", 40, drawing=profile(points))
    (fault,) = built.faults
    assert "reaches from 0 mm to 25 mm along its axis, and it is 40 mm long" in fault.message
    for mend in fault.mends:
        assert volume(edited(built, mend.patch)) == pytest.approx(math.pi * 144 * 25, rel=1e-6)
    follows = edited(built, fault.mends[1].patch)
    assert follows.document.parts["k"].span.high.text == "(10) + drawn"


@pytest.mark.parametrize(
    "points, closed, said",
    [
        ([], False, "nothing is drawn"),
        ([(-3, 0), (12, 0), (12, 40), (0, 40)], False, "its profile crosses its axis"),
        ([(0, 0), (12, 0), (12, 40), (2, 40)], False, "its profile ends 2 mm off its axis"),
        ([(0, 0), (20, 0), (20, 40), (0, 40)], False, "its profile is 40 mm across"),
        ([(-2, 0), (12, 0), (12, 40), (-2, 40)], True, "its profile crosses its axis"),
        ([(4, 0), (12, 40), (12, 0), (4, 40)], True, "crosses itself"),
    ],
)
def test_what_cannot_be_turned_is_said(points, closed, said):
    built = turned("z", 40, drawing=profile(points, closed=closed))
    assert any(said in f.message for f in built.faults), [f.message for f in built.faults]
    assert all(f.code == "bad_profile" and f.entry.startswith("/parts/k/drawing") for f in built.faults)


def test_a_shoulder_is_named_and_read_along_each_axis():
    points = [(0, 0), (12, 0), (12, 15), (7, 15), (7, 40), (0, 40)]
    for axis in "xyz":
        found = profile(points)
        if axis != "z":
            found["points"] = {k: {"x": p["y"], "y": p["x"]} for k, p in found["points"].items()}
        found["curves"]["c2"]["name"] = "shoulder"
        built = turned(axis, 40, drawing=found)
        built = edited(built, [{"op": "add", "path": "/sizes/s", "value": {"name": "to", "entry": entry("knob.shoulder")}}])
        low = {"x": "left", "y": "front", "z": "bottom"}[axis]
        built = edited(built, [{"op": "replace", "path": "/sizes/s/entry/text", "value": f"knob.shoulder - knob.{low}"}])
        assert built.faults == ()
        assert built.values["/sizes/s/entry"].value == pytest.approx(15)


def test_its_dimensions_are_said_from_its_axis_and_its_ends():
    built = turned("z", 40, steps={"s0": {"across": entry(20)}})
    drawn = edited(built, begin_half_profile(built, "k")[1])
    place, drawing = place_of(drawn, "k")
    ids = {c.id for c in place.candidates()}
    assert {"zero:x", "zero:y", "y:knob.bottom", "y:knob.top"} <= ids
    upright = next(k for k, c in drawing.curves.items() if abs(drawing.points[c.a].x - drawing.points[c.b].x) < 1e-9)
    said = relate(drawn, "k", "", "distance", [upright, "zero:x"], Entry(text="8 mm"))
    # the diameter is said already: it is only measured
    assert "Measure" in said[0]


def test_serrations_stay_with_steps():
    built = turned("z", 18, **{k: v for k, v in TURNED_STARTS["knob"].start.items() if k != "deep"})
    with pytest.raises(DocumentError, match="serrations"):
        begin_half_profile(built, "k")


@settings(max_examples=30, deadline=None)
@given(st.lists(st.tuples(st.integers(2, 14), st.integers(2, 20)), min_size=1, max_size=5), st.sampled_from("xyz"))
def test_any_steps_are_drawn_as_they_are(found, axis):
    steps = {f"s{n}": {"across": entry(2 * r), "length": entry(w), "order": n} for n, (r, w) in enumerate(found)}
    built = turned(axis, sum(w for _, w in found), steps=steps)
    drawn = edited(built, begin_half_profile(built, "k")[1])
    assert volume(drawn) == pytest.approx(math.pi * sum(r * r * w for r, w in found), rel=1e-6)
    assert volume(drawn) == pytest.approx(volume(built), rel=1e-9)


@pytest.mark.parametrize("axis", "xyz")
def test_a_rim_that_follows_a_board_while_its_length_follows_the_drawing(axis):
    """What its plane begins at is known before its drawing is read, whichever way it lies."""
    points = [(0, 0), (12, 0), (12, 25), (0, 25)]
    found = profile(points)
    if axis != "z":
        found["points"] = {k: {"x": p["y"], "y": p["x"]} for k, p in found["points"].items()}
    radial = "x" if axis == "z" else "z"
    way = "x" if axis == "z" else "y"
    middle = 50 + 10 * [a for a in "xyz" if a != axis].index(radial)
    found["references"]["rim"] = {"kind": "line", way: entry(f"{middle + 14} mm"), "seen": [13, 0, 13, 9] if way == "x" else [0, 13, 9, 13]}
    found["relations"] = {"r1": {"kind": "on", "of": ["p1", "rim"]}, "r2": {"kind": "on", "of": ["p2", "rim"]}}
    built = turned(axis, 25, drawing=found, span={"low": entry(10), "high": entry("10 + drawn")})
    assert volume(built) == pytest.approx(math.pi * 14**2 * 25, rel=1e-6)
