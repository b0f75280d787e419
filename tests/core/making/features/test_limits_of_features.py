"""Features at their limits, on boards that are unlike along u and v: what just fits is cut, what does not is refused at its entry, in words."""

import math

import pytest

from zygon.design.draft import Draft
from zygon.making.pipeline import build

OFF = [(-0.01, True), (0.0, True), (0.01, False)]


def board(width=200, depth=50, plane="lying"):
    d = Draft("d", "ply12")
    d.board("p", "ply12", plane, 0, (0, f"{width} mm"), (0, f"{depth} mm"), up="a")
    return d


def faults(d):
    return build(d.document()).faults


@pytest.mark.parametrize(("off", "fits"), OFF)
@pytest.mark.parametrize(
    ("corner", "first", "second", "along"),
    [
        # the size runs along the edge that the corner's first word names, the second one along the other
        ("left-front", 50, 30, "v"),
        ("front-left", 200, 30, "u"),
        ("right-back", 50, 120, "v"),
        ("back-right", 200, 45, "u"),
    ],
)
def test_a_corner_cut_is_no_longer_than_its_edges(corner, first, second, along, off, fits):
    d = board()
    d.feature("p", "c", "corner", ("left", 0), ("front", 0), corner=corner, style="cut", size=f"{first + off}", size_2=f"{second}")
    found = faults(d)
    assert [f.entry for f in found] == ([] if fits else ["/parts/p/features/c/size"])
    if fits:
        area = build(d.document()).parts["p"].flat.area
        assert area == pytest.approx(200 * 50 - (first + off) * second / 2)
    else:
        assert (found[0].message, found[0].rule) == (f"p, corner: a corner of {first + off:g} mm", f"at most {first} mm here")


@pytest.mark.parametrize(("corner", "second"), [("left-front", 200), ("front-left", 50)])
@pytest.mark.parametrize(("off", "fits"), OFF)
def test_a_corner_s_second_size_is_no_longer_than_its_edge_either(corner, second, off, fits):
    d = board()
    d.feature("p", "c", "corner", ("left", 0), ("front", 0), corner=corner, style="step", size="30", size_2=f"{second + off}")
    found = faults(d)
    assert [(f.entry, f.rule) for f in found] == ([] if fits else [("/parts/p/features/c/size_2", f"at most {second} mm here")])


@pytest.mark.parametrize("corner", ["front-left", "left-front"])
def test_which_edge_a_corner_s_first_size_runs_along(corner):
    d = board()
    d.feature("p", "c", "corner", ("left", 0), ("front", 0), corner=corner, style="cut", size="40", size_2="10")
    points = build(d.document()).parts["p"].flat.pieces[0].outer.points
    along_front = min(x for x, y in points if y == 0)
    along_left = min(y for x, y in points if x == 0)
    assert (along_front, along_left) == pytest.approx((40, 10) if corner == "front-left" else (10, 40))


@pytest.mark.parametrize(("off", "fits"), OFF)
@pytest.mark.parametrize("size", [25])
def test_all_four_corners_share_their_edges(size, off, fits):
    d = board()
    d.feature("p", "c", "corner", ("left", 0), ("front", 0), corner="all", style="round", size=f"{size + off}")
    assert bool(faults(d)) != fits


@pytest.mark.parametrize(("length", "fits"), [(120.02, True), (120.0, False), (119.9, False)])
@pytest.mark.parametrize("upright", [False, True])
def test_a_link_is_long_enough_that_neither_end_lies_within_the_other(length, fits, upright):
    # ends of 100 and 40: their middles are 70 less than the length apart, and have to be more than 30... but no nearer than half their difference
    low, high = 100, 40
    length = length - 120 + (low + high) / 2 + (low - high) / 2
    d = board(*((100, length) if upright else (length, 100)))
    d.data["parts"]["p"]["outline"] = {"kind": "link", "low": d.entry(low), "high": d.entry(high)}
    if length < 100:  # then it is as long across as along
        return
    found = faults(d)
    assert bool(found) != fits
    for f in found:
        assert f.code == "bad_outline" and "one end's circle lies within the other's" in f.message
        assert f.rule == "a longer link, or ends less different in size" and f.owner == "outline" and f.part == "p"


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize(("off", "fits"), [(-0.01, True), (0.0, False), (0.01, False)])
def test_a_rebate_is_less_wide_than_its_board(edge, off, fits):
    across = 200 if edge in ("left", "right") else 50
    d = board()
    d.feature("p", "r", "rebate", ("left", 0), ("front", 0), edge=edge, width=f"{across + off}", depth="4")
    found = faults(d)
    assert bool(found) != fits
    for f in found:
        assert f.entry == "/parts/p/features/r/width" and "takes the whole board" in f.message and f.rule == f"less than {across} mm"


@pytest.mark.parametrize(
    ("axis", "at", "said"),
    [
        ("x", {"y": "25 mm", "z": "6 mm"}, "rod would enter p through its edge, which a flat cutter cannot bore"),
        ("y", {"x": "60 mm", "z": "6 mm"}, "rod would enter p through its edge, which a flat cutter cannot bore"),
        ("x", {"y": "25 mm", "z": "20 mm"}, "rod"),
        ("z", {"x": "60 mm", "y": "25 mm"}, ""),
    ],
)
def test_a_bore_that_a_flat_cutter_cannot_make_is_said(axis, at, said):
    d = board()
    d.bore("rod", axis, at, "8 mm", p=("cut", "0"))
    found = faults(d)
    assert [f.message for f in found][:1] == [said] if said not in ("", "rod") else bool(found) == bool(said)
    if said.startswith("rod would"):
        assert (found[0].code, found[0].entry, found[0].owner) == ("bore_in_edge", "/bores/rod/parts/p", "bore:rod")


@pytest.mark.parametrize(
    ("low", "high", "met"), [("-10 mm", "300 mm", True), ("90 mm", "110 mm", True), ("-10 mm", "90 mm", False), ("110 mm", "300 mm", False)]
)
def test_a_bore_along_a_sheet_is_met_at_the_middle_of_what_it_runs_in(low, high, met):
    d = board(200, 50)
    d.bore("rod", "x", {"y": "25 mm", "z": "6 mm"}, "8 mm", stretch=(low, high), p=("cut", "0"))
    assert ("bore_in_edge" in [f.code for f in faults(d)]) == met


@pytest.mark.parametrize("grain", ["u", "v"])
@pytest.mark.parametrize("height", [6.0, 9.0])
def test_a_grain_arrow_is_four_letters_long_with_two_heads_half_a_letter_wide(grain, height):
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 300), (0, 200), grain=grain, up="a")
    d.data["marks"] = {"numbers": False, "mates": False, "inside": False, "grain": True, "height": d.entry(f"{height} mm")}
    shaft, *heads = [m.contour.points for m in build(d.document()).parts["p"].flat.engraved]
    k = 0 if grain == "u" else 1
    assert len(heads) == 2 and math.dist(*shaft) == pytest.approx(4 * height)
    assert shaft[0][1 - k] == shaft[1][1 - k] and abs(shaft[1][k] - shaft[0][k]) == pytest.approx(4 * height)
    for head, end in zip(heads, shaft, strict=True):
        assert head[1] == pytest.approx(end)
        assert sorted(p[1 - k] - end[1 - k] for p in (head[0], head[2])) == pytest.approx([-height / 2, height / 2])
        inward = (shaft[1][k] - shaft[0][k]) / abs(shaft[1][k] - shaft[0][k]) * (1 if end == shaft[0] else -1)
        assert [(p[k] - end[k]) * inward for p in (head[0], head[2])] == pytest.approx([height / 2] * 2)


@pytest.mark.parametrize(("wide", "numbered"), [(6.55, True), (6.45, False)])
def test_letters_shrink_to_two_and_a_half_millimetres_and_no_further(wide, numbered):
    # one figure of 2.5 mm with a millimetre of clear wood round it
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, 60), (0, f"{wide} mm"), up="a")
    d.data["marks"] = {"numbers": True, "mates": False, "inside": False, "grain": False, "height": d.entry("4 mm")}
    marks = build(d.document()).parts["p"].flat.engraved
    assert bool(marks) == numbered


def test_a_trace_of_what_is_not_there_is_told_at_its_part():
    d = board()
    d.board("q", "ply12", "lying", 50, (0, "100 mm"), (0, "40 mm"), outline={"kind": "traced", "part": "p", "offset": d.entry("0")})
    d.board("s", "ply12", "facing_side", 300, (0, "100 mm"), (0, "40 mm"), outline={"kind": "traced", "part": "p", "offset": d.entry("0")})
    (fault,) = faults(d)
    assert (fault.part, fault.owner, fault.entry, fault.code) == ("s", "outline", "/parts/s/outline/part", "bad_outline")
    assert "parallel" in fault.message or "parallel" in fault.rule
