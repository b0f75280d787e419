"""Welds: gaps that are too wide, and holes where the seam will be, on whichever side they open."""

import itertools

import pytest

from tests.core.making.tube.frames import mm, stocked, two
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.making.pipeline import build


def codes(built):
    return [p.fault.code for p in check(built)]


@pytest.mark.parametrize("kind", ["member_mitre", "member_butt", "member_cope"])
@pytest.mark.parametrize(
    ("one", "other", "most"),
    [("square tube", "square tube", 3.0), ("thin round tube", "square tube", 1.5), ("round bar", "square tube", 3.0)],
)
def test_a_gap_is_as_wide_as_the_thinner_wall_at_most(one, other, most, kind):
    span = (0, 1) if kind == "member_mitre" else (-1, 1)
    for gap, wide in ((0, False), (most, False), (most + 0.1, True)):
        d = two(one, other, [(400, 0, 0), (0, 0, 300)], kind, span=span, gap=f"{gap} mm")
        built = build(d.document())
        assert not built.joints["one-other"].refused and ("weld_gap" in codes(built)) is wide
        if wide:
            (problem,) = [p for p in check(built) if p.fault.code == "weld_gap"]
            mended = build(patched(d.document().dump(), list(problem.fault.mends[0].patch)))
            assert "weld_gap" not in codes(mended) and mended.values["/joints/one-other/gap"].value == pytest.approx(most)
    # what is not welded has no seam
    d = two(one, other, [(400, 0, 0), (0, 0, 300)], kind, span=span, gap="5 mm", held="dry")
    assert "weld_gap" not in codes(build(d.document()))


WAYS = {"x": (300, 0, 0), "-x": (-300, 0, 0), "y": (0, 300, 0), "-y": (0, -300, 0)}


@pytest.mark.parametrize("walls", ["one", "both"])
@pytest.mark.parametrize(("branch", "opens"), list(itertools.product(WAYS, WAYS)))
def test_a_hole_is_in_the_way_of_a_seam_on_its_own_side_alone(branch, opens, walls):
    """A branch of 40 mm welded to the middle of an upright tube, and a hole of 8 mm that opens one way: near the seam, and clear of it."""
    d = stocked("square tube")
    d.frame(
        "f", {"p": mm((0, 0, -300)), "q": mm((0, 0, 300)), "r": mm((0, 0, 0)), "s": mm(WAYS[branch])}, {"m": ("p", "q"), "b": ("r", "s")}
    )
    d.member("main", "square_tube", "f", "m", against="y").member("branch", "square_tube", "f", "b")
    d.joint("member_butt", "branch", "main")
    # 0 degrees look to y, and run right-hand about z
    around = {"y": 0, "-x": 90, "-y": 180, "x": 270}[opens]
    for off, near in ((300, True), (300 + 20 + 7, True), (300 - 20 - 4 - 3.9, True), (300 + 20 + 4 + 4.1, False), (200, False)):
        hole = {"off": {"text": f"{off} mm"}, "wide": {"text": "8 mm"}, "around": {"text": f"{around} deg"}, "walls": walls}
        d.data["parts"]["main"]["holes"] = {"h": hole}
        built = build(d.document())
        assert not built.faults
        across = branch.strip("-") == opens.strip("-")
        side = branch == opens or (walls == "both" and across)
        assert ("hole_near_weld" in codes(built)) is (near and side), (off, branch, opens)


def test_nothing_is_said_of_what_a_bore_cuts_for_what_passes_through():
    d = two("square tube", "round bar", [(0, 0, 600), (0, 300, 0)], at=(0, 0, 300))
    d.joint("member_passage", "other", "one")
    assert "hole_near_weld" not in codes(build(d.document()))
