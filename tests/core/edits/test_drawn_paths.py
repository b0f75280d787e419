"""Paths of bent rods that are drawn: as they were, round by arcs of one radius, followed by the members on them; and against the closed form of their length."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.shared import edited
from zygon.design.draft import Draft
from zygon.drawn.drawing import Drawing
from zygon.edits.drawings.begin_path import begin_path
from zygon.edits.drawings.corners import ease_corner
from zygon.edits.drawings.draw import Press, draw
from zygon.edits.drawings.relate import erase, relate
from zygon.errors import DocumentError
from zygon.making.asked.drawings.of import place_of
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.owner import frame_id

F = frame_id("f")
#: In which plane, and which of x, y and z its two ways are.
PLANES = {"facing_front": (0, 2, 1), "lying": (0, 1, 2), "facing_side": (1, 2, 0)}


def rod(corners, plane="facing_front", radius="", lines_as_points=False, **more):
    """A rod along corners (u, v) in a plane at 70."""
    d = Draft("rod", "steel8")
    u, v, w = PLANES[plane]
    points = {}
    for n, (x, y) in enumerate(corners):
        at = ["70", "70", "70"]
        at[u], at[v] = f"{x}", f"{y}"
        points[f"p{n}"] = tuple(at)
    name = "p" if lines_as_points else "l"
    lines = {f"{name}{n}": (f"p{n}", f"p{n + 1}") for n in range(len(corners) - 1)}
    d.frame("f", points, lines)
    against = "xyz"[w]
    d.member("rod", "steel8", "f", *lines, against=against, **({"radius": radius} if radius else {}), **more)
    return build(d.document())


def body(built):
    assert built.faults == (), [f.message for f in built.faults]
    return built.made["rod"].body


L_SHAPE = [(0, 0), (0, 200), (150, 200)]


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("same_keys", [False, True])
def test_a_path_that_is_drawn_is_as_it_was(plane, same_keys):
    for corners, radius in ((L_SHAPE, "30"), ([(0, 0), (120, 0)], ""), ([(10, 0), (0, 200), (150, 220), (260, 60)], "25")):
        said = rod(corners, plane, radius, same_keys)
        made = edited(said, begin_path(said, F))
        assert body(made).length == pytest.approx(body(said).length)
        assert np.array(made.made["rod"].matrix) == pytest.approx(np.array(said.made["rod"].matrix), abs=1e-6)
        assert np.array(getattr(body(made), "points", 0)) == pytest.approx(np.array(getattr(body(said), "points", 0)), abs=1e-6)
        if len(corners) < 3:
            continue  # it lies in two planes
        # and follows the entries that it had
        where = "/frames/f/drawing/references/at_p1/x/text"
        longer = edited(made, ("", [{"op": "replace", "path": where, "value": f"{corners[1][0] + 40}"}]))
        again = rod([corners[0], (corners[1][0] + 40, corners[1][1]), *corners[2:]], plane, radius)
        assert body(longer).length == pytest.approx(body(again).length)


@pytest.mark.parametrize("plane", PLANES)
def test_rounds_that_are_drawn_are_what_it_is_bent_by(plane):
    straight = rod(L_SHAPE, plane, "30")
    made = edited(straight, begin_path(straight, F))
    eased = edited(made, ease_corner(made, F, "", ["p1"], "round", Entry(text="40 mm")))
    # by its closed form: what the round takes off both legs is 40, and a quarter of it comes back
    assert body(eased).length == pytest.approx(350 - 2 * 40 + math.pi / 2 * 40)
    assert body(eased).radius == pytest.approx(40)
    # the corner keeps the key that it had
    assert set(eased.document.frames["f"].points) == {"p0", "p1", "p2"}
    assert eased.document.frames["f"].points["p1"].drawn == "l0/l1"
    without = edited(eased, ("", [{"op": "remove", "path": "/parts/rod/radius"}]))
    assert body(without).length == pytest.approx(350 - 2 * 40 + math.pi / 2 * 40)


def test_a_line_that_is_drawn_on_is_followed_and_one_that_goes_is_left():
    said = rod(L_SHAPE, radius="30")
    made = edited(said, begin_path(said, F))
    more = edited(
        made,
        draw(
            made,
            F,
            "",
            "line",
            [Press(x=150, y=200, on="p2"), Press(x=150, y=50)],
            figures={},
            helping=False,
            sides=6,
            turns="left",
            text="",
        ),
    )
    lines = more.document.parts["rod"].lines
    assert lines[:2] == ["l0", "l1"] and len(lines) == 3
    assert body(more).length == pytest.approx(500 - 4 * 30 + 2 * math.pi / 2 * 30)
    less = edited(more, erase(more, F, "", ["l0"]))
    assert less.document.parts["rod"].lines == lines[1:]
    with pytest.raises(DocumentError, match="would have no line to lie on"):
        edited(less, erase(less, F, "", list(lines[1:])))


def test_a_ring_ends_before_it_comes_back():
    said = rod([(0, 0), (200, 0), (200, 150)], radius="20")
    made = edited(said, begin_path(said, F))
    closed = edited(
        made,
        draw(
            made,
            F,
            "",
            "line",
            [Press(x=200, y=150, on="p2"), Press(x=0, y=0, on="p0")],
            figures={},
            helping=False,
            sides=6,
            turns="left",
            text="",
        ),
    )
    assert len(closed.document.parts["rod"].lines) == 2 and closed.faults == ()


def test_rounds_of_two_radii_and_sharp_corners_are_said():
    said = rod([(0, 0), (0, 200), (150, 200), (150, 0)], radius="30")
    made = edited(said, begin_path(said, F))
    one = edited(made, ease_corner(made, F, "", ["p1"], "round", Entry(text="40 mm")))
    assert [f.message for f in one.faults] == ["rod is drawn with rounds of 30 mm and 40 mm"]
    bare = edited(one, ("", [{"op": "remove", "path": "/parts/rod/radius"}]))
    assert [f.message for f in bare.faults] == ["rod is drawn with a sharp corner"]
    both = edited(bare, ease_corner(bare, F, "", ["p2"], "round", Entry(text="40 mm")))
    assert body(both).length == pytest.approx(550 - 4 * 40 + math.pi * 40)


def test_what_is_no_path_is_said():
    said = rod(L_SHAPE, radius="30")
    made = edited(said, begin_path(said, F))
    for tool, presses in (
        ("circle", [Press(x=60, y=60), Press(x=80, y=60)]),
        ("spline", [Press(x=9, y=9), Press(x=80, y=60), Press(x=90, y=10)]),
    ):
        other = edited(made, draw(made, F, "", tool, presses, figures={}, helping=False, sides=6, turns="left", text=""))
        assert [f.code for f in other.faults] == ["bad_path"]
        helping = edited(made, draw(made, F, "", tool, presses, figures={}, helping=True, sides=6, turns="left", text=""))
        assert helping.faults == ()


def test_only_what_lies_in_a_plane_along_the_axes_is_drawn():
    d = Draft("rod", "steel8")
    d.frame("f", {"a": ("0", "0", "0"), "b": ("100", "0", "0"), "c": ("100", "50", "80")}, {"l": ("a", "b"), "m": ("b", "c")})
    d.member("rod", "steel8", "f", "l", "m", radius="20")
    with pytest.raises(DocumentError, match="no such plane"):
        begin_path(build(d.document()), F)


def test_it_follows_a_board_and_is_told_a_circle():
    said = rod(L_SHAPE, radius="30")
    built = edited(said, ("", [{"op": "add", "path": "/sizes/s", "value": {"name": "high", "entry": {"text": "200 mm"}}}]))
    made = edited(built, begin_path(built, F))
    made = edited(
        made, ("", [{"op": "replace", "path": f"/frames/f/drawing/references/at_{p}/y/text", "value": "high"} for p in ("p1", "p2")])
    )
    higher = edited(made, ("", [{"op": "replace", "path": "/sizes/s/entry/text", "value": "260 mm"}]))
    assert body(higher).length == pytest.approx(body(made).length + 60)
    ring = edited(made, ("", [{"op": "replace", "path": "/frames/f/drawing/references/at_p1/y/text", "value": "rod.right + 10"}]))
    assert any(f.code == "cycle" for f in ring.faults)


def test_a_distance_is_said_along_its_lines():
    said = rod(L_SHAPE, radius="30")
    made = edited(said, begin_path(said, F))
    loose = edited(made, erase(made, F, "", ["r3"]))
    drawing: Drawing = place_of(loose, F)[1]
    assert "at_p2" not in drawing.references
    longer = edited(loose, relate(loose, F, "", "distance", ["l1"], Entry(text="300 mm")))
    assert body(longer).length == pytest.approx(200 + 300 - 60 + math.pi / 2 * 30)


@settings(max_examples=25, deadline=None)
@given(st.lists(st.tuples(st.integers(80, 300), st.integers(-110, 110)), min_size=2, max_size=5), st.sampled_from(sorted(PLANES)))
def test_any_path_is_drawn_as_it_is(found, plane):
    corners, way = [(0.0, 0.0)], 0.0
    for long, turn in found:
        way += math.radians(turn)
        corners.append((round(corners[-1][0] + long * math.cos(way), 3), round(corners[-1][1] + long * math.sin(way), 3)))
    said = rod(corners, plane, "15")
    if said.faults:
        return
    made = edited(said, begin_path(said, F))
    assert body(made).length == pytest.approx(body(said).length, abs=1e-4)


@pytest.mark.parametrize("plane", PLANES)
def test_a_path_that_contradicts_is_told_once_and_stands(plane):
    said = rod(L_SHAPE, plane, "30")
    made = edited(said, begin_path(said, F))
    told = edited(made, ("", [{
        "op": "add", "path": "/frames/f/drawing/relations/more", "value": {"kind": "distance", "of": ["l0"], "entry": {"text": "170 mm"}, "order": 9},
    }]))  # fmt: skip
    assert [f.code for f in told.faults] == ["contradicts"]
    assert told.made["rod"].body.length == pytest.approx(body(made).length)
    mends = [m for m in told.faults[0].mends if m.label.startswith("Leave out: length of line 1")]
    assert edited(told, ("", mends[0].patch)).faults == ()
