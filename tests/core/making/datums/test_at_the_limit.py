"""Values at their limits, words that mean the same, sizes that follow the design; SciPy is the referee for distances."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import lsq_linear

from tests.explore import drawn
from zygon.design.draft import Draft
from zygon.making.datums.measuring import SETTLED, _bounded, _tried
from zygon.making.pipeline import build


def board(thickness="12 mm", field="nominal"):
    d = Draft("d", "ply12").size("width", "200 mm")
    d.board("p", "ply12", "lying", 0, (0, "width"), (0, "100 mm"))
    d.data["stocks"]["ply12"][field] = d.entry(thickness)
    return d


@pytest.mark.parametrize("field", ["nominal", "measured"])
@pytest.mark.parametrize(
    ("thickness", "fine"), [("0.01 mm", True), ("0.0099 mm", False), ("0", False), ("-3 mm", False), ("0.02 mm", True)]
)
def test_a_stock_s_least_thickness(field, thickness, fine):
    d = board(thickness, field)
    if field == "nominal":
        d.data["stocks"]["ply12"].pop("measured", None)
    found = [f for f in build(d.document()).faults if f.entry == f"/stocks/ply12/{field}"]
    assert bool(found) != fine
    for f in found:
        assert (f.code, f.rule) == ("bad_value", "a thickness is at least 0.01 mm") and "a thickness of" in f.message


def test_a_thickness_that_cannot_be_read_is_said_once():
    d = board("nobody", "measured")
    found = [f for f in build(d.document()).faults if f.entry == "/stocks/ply12/measured"]
    assert [f.code for f in found] == ["broken_expression"]


def test_a_cycle_is_told_at_the_part_that_it_goes_through():
    d = Draft("d", "ply12")
    d.board("one", "ply12", "facing_side", "other.right + 5 mm", (0, 100), (0, 50))
    d.board("other", "ply12", "facing_side", "one.right + 5 mm", (0, 100), (0, 50), face="left")
    (fault,) = [f for f in build(d.document()).faults if f.code == "cycle"]
    assert fault.part in ("one", "other") and fault.entry.startswith(f"/parts/{fault.part}/") and "depends on itself" in fault.message


@pytest.mark.parametrize("word", ["centre", "center"])
@pytest.mark.parametrize("turned", [False, True])
def test_the_middle_may_be_written_either_way(word, turned):
    d = board()
    if turned:
        d.turn("p", "x", "90 deg", y="0", z="0")
    d.board("q", "ply12", "facing_side", f"p.{word}", (0, 50), (0, 50))
    built = build(d.document())
    assert not built.faults
    assert built.values["/parts/q/position/at"].value == pytest.approx(100)


@pytest.mark.parametrize("word", ["middle", "side", "centres", "thick"])
def test_a_face_that_no_board_has_is_told_with_those_it_has(word):
    d = board()
    d.board("q", "ply12", "facing_side", f"p.{word}", (0, 50), (0, 50))
    (fault,) = [f for f in build(d.document()).faults if f.code == "broken_expression"]
    assert fault.message.endswith(f"a board has no {word}; it has left, right, front, back, bottom, top, centre and thickness")


@pytest.mark.parametrize(
    ("text", "reading"), [("1-1/2 in", "1 + 1/2"), ("1 1/2 in + 2-3/4 in", "1 + 1/2, 2 + 3/4"), ("3/4 in", ""), ("38 mm", "")]
)
def test_a_mixed_number_tells_how_it_was_read(text, reading):
    d = board()
    d.size("more", text)
    d.board("q", "ply12", "facing_side", text, (0, 50), (0, 50))
    values = build(d.document()).values
    assert values["/parts/q/position/at"].reading == reading


def turned_beside(which):
    """Two boards of which one is turned about a line; the other one reads a face of it, or is read."""
    d = Draft("d", "ply12")
    d.board("a", "ply12", "lying", 0, (0, 100), (0, 50))
    d.board("b", "ply12", "lying", 40, (0, 100), (0, 50))
    d.turn(which, "z", "90 deg", x="0", y="0")
    d.board("c", "ply12", "facing_front", f"{which}.right", (0, 30), (0, 30))
    return build(d.document())


@pytest.mark.parametrize("which", ["a", "b"])
def test_one_turned_board_among_others_is_read_as_it_stands(which):
    built = turned_beside(which)
    # turned by a right angle its length runs to the back, and its right end with it
    assert built.values["/parts/c/position/at"].value == pytest.approx(100)


sides = st.lists(st.lists(st.floats(-50, 50), min_size=3, max_size=3).filter(lambda v: sum(x * x for x in v) > 1), min_size=1, max_size=4)


@settings(max_examples=drawn(80))
@given(sides, st.lists(st.floats(-100, 100), min_size=3, max_size=3), st.booleans())
def test_the_nearest_points_of_two_boxes_are_as_near_as_a_library_finds_them(columns, target, parallel):
    matrix = np.array(columns, float).T
    if parallel and matrix.shape[1] > 1:  # nearly parallel sides, where going coordinate by coordinate takes for ever
        matrix[:, 1] = matrix[:, 0] * 1.0001 + 1e-5
    goal = np.array(target, float)
    best = lsq_linear(matrix, goal, bounds=(0, 1), tol=1e-14, method="bvls" if matrix.shape[1] <= 3 else "trf")
    wanted = np.linalg.norm(matrix @ best.x - goal)
    for found in (_bounded(matrix, goal), _tried(matrix, goal, np.full(matrix.shape[1], 0.5))):
        assert ((found >= 0) & (found <= 1)).all()
        assert np.linalg.norm(matrix @ found - goal) <= wanted + max(1e-6, 100 * SETTLED)


@pytest.mark.parametrize(("made_of", "said"), [("p", ""), ("gone", "is left out or gone")])
def test_a_measured_size_tells_what_is_gone(made_of, said):
    d = board()
    d.board("q", "ply12", "lying", 50, (0, 80), (0, 60))
    place = {"part": "q", "what": "face", "name": "right"}
    d.data["sizes"]["gap"] = {
        "name": "gap",
        "kind": "length",
        "entry": d.entry("1 mm"),
        "measured": {"a": {"part": "p", "what": "face", "name": "right"}, "b": place, "along": "x"},
    }
    if made_of == "gone":
        d.data["parts"]["q"]["out"] = True
    built = build(d.document())
    lost = [f.message for f in built.faults if f.code == "lost_measure"]
    if said:
        assert lost == ["gap is measured, and q is left out or gone"]
    else:
        assert not lost and built.values["/sizes/gap/entry"].value == pytest.approx(120)
