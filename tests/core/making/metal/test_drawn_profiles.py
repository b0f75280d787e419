"""Profiles drawn square to an edge: bent as lengths and angles say the same, over edges, faces, planes and ways of measuring; and against a round tube."""

import math
from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.metal.trays import SIDES, entry, folded, solid
from tests.core.shared import edited
from zygon.edits.drawings.begin_profile import begin_profile
from zygon.edits.drawings.draw import Press, draw
from zygon.edits.drawings.relate import relate
from zygon.making.asked.drawings.of import place_of
from zygon.measure.entry import Entry
from zygon.owner import flange_id

F = flange_id("p", "f")


def profile(edge, legs, toward="a", **more):
    rows = [{"length": entry(n), "angle": entry(f"{a} deg"), **({"radius": entry(r[0])} if r else {})} for n, a, *r in legs]
    return {"kind": "profile", "edge": edge, "toward": toward, "legs": rows, **more}


def drawn(built, key="f"):
    return edited(built, begin_profile(built, "p", flange=key))


def legs(built):
    """Of each bend its angle, inside radius, and where its strip lies on the flat."""
    fold = built.parts["p"].flat.fold
    return [(round(b.angle, 6), round(b.radius, 6)) for b in fold.bends]


def alike(one, other):
    a, b = one.parts["p"], other.parts["p"]
    assert not other.faults, [f.message for f in other.faults]
    assert [x for leg in legs(one) for x in leg] == pytest.approx([x for leg in legs(other) for x in leg], abs=1e-5)
    assert a.flat.area == pytest.approx(b.flat.area, abs=1e-3)
    assert a.flat.size == pytest.approx(b.flat.size, abs=1e-4)
    assert solid(a).bounds.flatten() == pytest.approx(solid(b).bounds.flatten(), abs=1e-3)


SHAPES = {
    "flange": [(30, 90)],
    "lip": [(30, 90), (15, 90)],
    "zed": [(25, 90), (20, -90)],
    "slanting": [(25, 60), (30, 45), (20, -110)],
    "hat": [(25, 90), (40, -90), (25, -90), (12, 90)],
    "radii": [(25, 90), (30, 90, 3), (20, -45, 5)],
}


@pytest.mark.parametrize("edge", SIDES)
@pytest.mark.parametrize("toward", "ab")
@pytest.mark.parametrize("shape", SHAPES)
def test_a_profile_that_is_drawn_is_bent_as_the_one_that_was_said(edge, toward, shape):
    for measured in ("outer", "inner", "face_a", "face_b", "tangent"):
        # past 90° outer and inner run to tangents, as the lengths of a drawn line never do; the solid is the same all the same
        said = folded({"f": profile(edge, SHAPES[shape], toward, measured=measured)}, radius=1.5)
        assert not said.faults
        alike(said, drawn(said))


@pytest.mark.parametrize("where, back", [("outside", 0), ("inside", 0), ("edge", 0), ("outside", 7)])
@pytest.mark.parametrize("toward", "ab")
def test_where_it_stands_to_the_edge_stays(where, back, toward):
    said = folded({"f": profile("right", SHAPES["lip"], toward, where=where, back=entry(back))}, radius=2)
    alike(said, drawn(said))


@pytest.mark.parametrize("plane, spans", [("lying", "xy"), ("facing_front", "xz"), ("facing_side", "yz")])
def test_in_every_plane(plane, spans):
    at = {"lying": "bottom", "facing_front": "front", "facing_side": "left"}[plane]
    words = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}
    for edge, toward in product([w for a in spans for w in words[a]], "ab"):
        base = folded({"f": profile("left", SHAPES["slanting"], toward)}, radius=1.5).document.dump()
        part = base["parts"]["p"]
        part["plane"], part["position"] = plane, {"face": at, "at": entry(10)}
        part["spans"] = {a: {"low": entry(5), "high": entry(5 + n)} for a, n in zip(spans, (200, 120), strict=True)}
        part["folding"]["flanges"]["f"]["edge"] = edge
        said = edited(folded({}), ("", [{"op": "replace", "path": "", "value": base}]))
        assert not said.faults
        alike(said, drawn(said))


def test_a_new_one_stands_off_the_plate_by_one_length_at_each_edge():
    for edge, toward in product(SIDES, "ab"):
        bare = folded({})
        made = edited(bare, begin_profile(bare, "p", edge=edge, toward=toward))
        assert made.faults == ()
        ((angle, _),) = legs(made)
        assert angle == pytest.approx(math.pi / 2 if toward == "a" else -math.pi / 2)
        low, high = solid(made.parts["p"]).bounds
        # it stands 25 off the face that it bends to, and the plate is 1 thick
        assert high[2] - low[2] == pytest.approx(26, abs=1e-6)


def test_its_arcs_are_its_radii_on_whichever_face_it_lies():
    bare = folded({})
    for lies, toward in product("ab", "ab"):
        made = edited(bare, begin_profile(bare, "p", edge="right", toward=toward))
        where = "/parts/p/folding/flanges/right/"
        made = edited(made, ("", [{"op": "replace", "path": where + "lies", "value": lies}]))
        feature = flange_id("p", "right")
        drawing = place_of(made, "p", feature)[1]
        up = max(drawing.points.values(), key=lambda p: abs(p.y)).y
        presses = [Press(x=0, y=up, on="p2"), Press(x=30, y=up)]
        made = edited(made, draw(made, "p", feature, "line", presses, figures={}, helping=False, sides=6, turns="left", text=""))
        from zygon.edits.drawings.corners import ease_corner

        made = edited(made, ease_corner(made, "p", feature, ["p2"], "round", Entry(text="6 mm")))
        assert not made.faults, [f.message for f in made.faults]
        (_, _), (second, radius) = legs(made)
        inner = (second > 0) == (lies == "a")
        assert radius == pytest.approx(6 if inner else 5), (lies, toward)


@settings(max_examples=40, deadline=None)
@given(
    st.lists(st.tuples(st.floats(20, 60), st.floats(20, 140), st.booleans()), min_size=1, max_size=4),
    st.sampled_from(SIDES),
    st.sampled_from("ab"),
)
def test_any_line_of_corners_is_bent_to_where_it_is_drawn(found, edge, toward):
    said = folded({"f": profile(edge, [(n, a if up else -a) for n, a, up in found], toward, measured="face_a")}, radius=1)
    if said.faults:  # a profile of lengths that its bends do not leave
        return
    alike(said, drawn(said))


def tube_beside(gap=2.0):
    """A tray with a round tube of 30 beside its right edge, along it, and a profile that begins there."""
    base = folded({}).document.dump()
    base["stocks"]["t"] = {"kind": "bar", "name": "tube", "nominal": entry(30), "wall": entry(2)}
    base["parts"]["tube"] = {
        "kind": "rod", "name": "tube", "stock": "t", "axis": "y", "span": {"low": entry(-50), "high": entry(200)},
        "at": {"x": entry(230), "z": entry(40)},
    }  # fmt: skip
    built = edited(folded({}), ("", [{"op": "replace", "path": "", "value": base}]))
    assert not built.faults
    made = edited(built, begin_profile(built, "p", edge="right", toward="a"))
    feature = flange_id("p", "right")
    return edited(made, relate(made, "p", feature, "distance", ["line1", "part:tube"], Entry(text=f"{gap} mm")))


def test_a_profile_keeps_a_gap_to_a_tube_and_follows_it():
    made = tube_beside()
    where = "/parts/p/folding/flanges/right/drawing/relations/r5"
    # its line stands upright on the edge already, so the gap is measured
    assert made.faults == () and made.values[where].value == pytest.approx(15)
    told = edited(made, ("", [{"op": "replace", "path": where, "value": {"kind": "distance", "of": ["line1", "f3"], "entry": entry(2)}}]))
    assert [f.code for f in told.faults] == ["contradicts"]
    assert "its edge" in told.faults[0].message and "tube" in told.faults[0].message
    loose = edited(told, ("", [{"op": "add", "path": "/parts/p/folding/flanges/right/drawing/relations/r2/out", "value": True}]))
    assert [f.message for f in loose.faults] == ["tray, right drawn profile: its first bend begins 12 mm beyond the edge"]
    # a plate that reaches farther has it within itself
    wide = edited(loose, ("", [{"op": "replace", "path": "/parts/p/spans/x/high/text", "value": "220 mm"}]))
    assert wide.faults == ()
    line = solid(wide.parts["p"])
    up = line.vertices[line.vertices[:, 2] > 10]
    # the line lies on face A, which looks to the left here; the sheet is 1 thick
    assert {round(x, 4) for x in up[:, 0]} == {213.0, 214.0}
    moved = edited(wide, ("", [{"op": "replace", "path": "/parts/tube/at/x/text", "value": "225 mm"}]))
    up = solid(moved.parts["p"]).vertices
    assert {round(x, 4) for x in up[up[:, 2] > 10][:, 0]} == {208.0, 209.0}
    gone = edited(wide, ("", [{"op": "remove", "path": "/parts/tube"}]))
    assert "lost_reference" in [f.code for f in gone.faults]
