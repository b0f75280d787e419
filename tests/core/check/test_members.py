"""Problems of members: what each rule finds, what mends it, and what it leaves alone."""

import math

import numpy as np
import pytest

from tests.core.making.tube.frames import key, mm, stocked, two
from tests.core.making.tube.test_bent import BAIL, rod
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.making.pipeline import build


def problems(built, *codes):
    return [p.fault for p in check(built) if not codes or p.fault.code in codes]


@pytest.mark.parametrize(
    ("span", "offers"),
    [((0, 1), ("Mitre one and other", "Cope one onto other", "Cope other onto one")), ((-1, 1), ("Cope one onto other",))],
)
@pytest.mark.parametrize("copied", [False, True])
def test_an_end_that_nothing_is_said_of_is_told_once_with_what_would_do(span, offers, copied):
    d = two("round tube", "round tube", [(0, 300, 0), (0, 0, 250)], span=span)
    if copied:
        d.mirror("m", "x", "400 mm", "part:one", "part:other", names={"one": "one_m", "other": "other_m"})
    document = d.document()
    (found,) = problems(build(document), "open_end")
    assert found.severity == "warning" and "End A of one meets other" in found.message
    assert [m.label for m in found.mends] == list(offers)
    for mend in found.mends:
        mended = build(patched(document.dump(), mend.patch))
        assert not mended.faults and problems(mended) == []


def test_members_that_cross_or_stay_apart_are_left_alone():
    crossing = build(two("round bar", "round tube", [(0, 0, 300), (0, 200, 0)], "member_passage", at=(0, 0, 150)).document())
    assert problems(crossing) == []
    apart = build(two("round bar", "round tube", [(300, 0, 0), (0, 0, 200)], at=(0, 200, 0)).document())
    assert problems(apart, "open_end") == []


def test_a_line_without_a_member_is_told_by_frame():
    d = stocked("round tube")
    d.frame("f", {"p": mm((0, 0, 0)), "q": mm((100, 0, 0)), "r": mm((100, 0, 90))}, {"l": ("p", "q"), "m": ("q", "r")})
    (found,) = problems(build(d.document()), "bare_line")
    assert found.message == "f has 2 lines that no member lies on"
    d.member("one", "round_tube", "f", "l")
    (found,) = problems(build(d.document()), "bare_line")
    assert found.message == "f has a line that no member lies on" and found.entry == "/frames/f/lines/m"
    d.member("two", "round_tube", "f", "m", against="y")
    assert problems(build(d.document()), "bare_line") == []


@pytest.mark.parametrize(("at", "near"), [(100, False), (178, True), (-178, True), (165, False)])
def test_a_hole_too_near_an_end_is_told(at, near):
    """20 mm bar through a 400 mm tube: half of 20.4 mm has to be left."""
    d = two("round bar", "round tube", [(0, 0, 300), (0, 200, 0)], "member_passage", at=(0, at, 150), fit="0.4 mm")
    found = problems(build(d.document()), "hole_near_end")
    assert (bool(found) == near and all(f.measure == pytest.approx(200 - 178 - 10.2) for f in found)) or near


@pytest.mark.parametrize(("wall", "knife"), [("2.6", False), ("0.6", True)])
def test_a_cope_that_leaves_a_knife_s_edge_is_told(wall, knife):
    """Round tubes of one diameter, square to each other: the thinner the wall, the sharper the edge at the sides."""
    d = two("round tube", "round tube", [(300, 0, 0), (0, 0, 200)], "member_cope")
    d.data["stocks"]["round_tube"]["wall"]["text"] = wall
    found = problems(build(d.document()), "knife_edge")
    assert bool(found) == knife
    assert all("end A" in f.message and f.owner == "joint:one-other" for f in found)


@pytest.mark.parametrize(
    ("radius", "least", "tight"), [("8 mm", None, False), ("7.9 mm", None, True), ("16 mm", "20 mm", True), ("20 mm", "20 mm", False)]
)
def test_a_bend_tighter_than_the_stock_allows_is_told_with_what_would_do(radius, least, tight):
    """A solid rod of 8 mm: as thick as it is, or what the shop's tool does."""
    d = rod(BAIL, radius, against="y")
    if least:
        d.data["stocks"]["round_bar"]["least_radius"] = {"text": least}
    found = problems(build(d.document()), "bend_tight")
    assert bool(found) == tight
    for fault in found:
        assert problems(build(patched(d.document().dump(), fault.mends[0].patch)), "bend_tight") == []


@pytest.mark.parametrize(("height", "words"), [(200, None), (22, "before its first bend"), (24, None)])
def test_a_bender_needs_something_straight_to_hold(height, words):
    d = rod([(0, 0, 0), (0, 0, height), (300, 0, height), (300, 0, height - 200)], against="y")
    found = problems(build(d.document()), "short_straight")
    assert [words in f.message for f in found] == ([True] if words else [])
    near = rod([(0, 0, 0), (0, 0, 200), (37, 0, 200), (37, 0, 0)], against="y")
    (fault,) = problems(build(near.document()), "short_straight")
    assert "between its bends 1 and 2" in fault.message and fault.measure == pytest.approx(5)


@pytest.mark.parametrize(
    ("gap", "code"), [(0.0, "open_end"), (0.9, "open_end"), (4.0, "ends_short"), (40.0, "ends_short"), (44.0, ""), (80.0, "")]
)
@pytest.mark.parametrize(("slope", "many"), [(0.0, 0), (30.0, 0), (0.0, 8)])
def test_an_end_that_stops_just_short_of_what_it_runs_to_is_said(gap, code, slope, many):
    """Common practice: less than the tube is thick is a slip of a figure."""
    a = math.radians(slope)
    way = np.array((math.cos(a), 0.0, math.sin(a)))
    half = 42.4 / 2
    reach = (half + half * abs(way[2])) / math.cos(a)  # from the post's middle to where the rail's end comes to its side
    d = stocked("round tube")
    d.frame(
        "f",
        {"p": mm((0, 0, -400)), "q": mm((0, 0, 400)), "r": mm(way * (reach + gap)), "s": mm(way * 600)},
        {"l": ("p", "q"), "m": ("r", "s")},
    )
    d.member("post", key("round tube"), "f", "l", against="y")
    d.member("rail", key("round tube"), "f", "m", against="y")
    for n in range(many):
        d.frame(f"g{n}", {"a": mm((0, 2000 + 200 * n, 0)), "b": mm((500, 2000 + 200 * n, 0))}, {"l": ("a", "b")})
        d.member(f"aside_{n}", key("round tube"), f"g{n}", "l")
    found = [p.fault for p in check(build(d.document())) if p.fault.code in ("open_end", "ends_short")]
    assert [f.code for f in found] == ([code] if code else [])
    if code == "ends_short":
        assert found[0].part == "rail" and -found[0].measure == pytest.approx(gap - 1.0, abs=1.01)


@pytest.mark.parametrize(("lift", "said"), [(0.0, True), (30.0, True), (41.0, True), (43.0, False), (60.0, False)])
def test_a_bent_tube_that_crosses_itself_is_said(lift, said):
    d = stocked("round tube")
    corners = [(0, 0, 0), (900, 0, 0), (900, 600, 0), (400, 600, lift), (400, -400, lift)]
    names = "abcde"
    d.frame("f", {n: mm(c) for n, c in zip(names, corners, strict=True)}, {f"l{k}": (names[k], names[k + 1]) for k in range(4)})
    d.member("tube", key("round tube"), "f", *(f"l{k}" for k in range(4)), radius="100 mm", against="z")
    assert ("runs_into_itself" in [p.fault.code for p in check(build(d.document()))]) is said


def test_a_hairpin_of_its_own_radius_does_not_run_into_itself():
    d = stocked("round bar")
    d.frame(
        "f",
        {"a": mm((0, 0, 0)), "b": mm((400, 0, 0)), "c": mm((400, 42, 0)), "e": mm((0, 42, 0))},
        {"l": ("a", "b"), "m": ("b", "c"), "n": ("c", "e")},
    )
    d.member("rod", key("round bar"), "f", "l", "m", "n", radius="21 mm", against="z")
    assert "runs_into_itself" not in [p.fault.code for p in check(build(d.document()))]
