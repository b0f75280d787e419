"""Necks of a part's outline, and arcs inside it that its bit cannot cut."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.pipeline import build


def faults(outer, inner=(), cutter="router", code="thin_web", **features):
    """What is told of a part with this outline: (x, y, bulge) from its low corner on."""
    low = [min(p[k] for p in outer) for k in (0, 1)]
    outer = [[x - low[0], y - low[1], b] for x, y, b in outer]
    d = Draft("x", "ply12", cutter=cutter)
    from zygon.geometry.contour import Contour

    x0, y0, x1, y1 = Contour(tuple((x, y) for x, y, _ in outer), tuple(b for *_, b in outer), ("",) * len(outer)).bounds
    outer = [[x - x0, y - y0, b] for x, y, b in outer]
    d.board(
        "p",
        "ply12",
        "lying",
        "0",
        ("0", f"{x1 - x0} mm"),
        ("0", f"{y1 - y0} mm"),
        outline={"kind": "drawn", "outer": outer, "inner": list(inner)},
    )
    for key, fields in features.items():
        d.feature("p", key, fields.pop("kind"), ("centre", "0"), ("centre", "0"), **fields)
    built = build(d.document())
    assert not built.faults, built.faults
    return [p.fault for p in check(built) if p.fault.code == code], (x0 + low[0], y0 + low[1])


def turned(points, degrees):
    t = math.radians(degrees)
    return [(x * math.cos(t) - y * math.sin(t), x * math.sin(t) + y * math.cos(t), b) for x, y, b in points]


def waist(width, long=10.0):
    """Two squares of 40 mm joined by a bar."""
    h = width / 2
    return [
        (0, -20, 0), (40, -20, 0), (40, -h, 0), (40 + long, -h, 0), (40 + long, -20, 0), (80 + long, -20, 0),
        (80 + long, 20, 0), (40 + long, 20, 0), (40 + long, h, 0), (40, h, 0), (40, 20, 0), (0, 20, 0),
    ]  # fmt: skip


@settings(max_examples=30, deadline=None)
@given(st.floats(0.6, 25), st.floats(0, 90), st.floats(2, 40))
def test_a_neck_is_told_with_its_width_and_its_place(width, angle, long):
    """As thick as the board is the rule (11.8 mm); however the part lies."""
    found, low = faults(turned(waist(width, long), angle))
    if abs(width - 11.8) < 0.05:
        return
    assert bool(found) == (width < 11.8)
    if found:
        [fault] = found
        assert fault.measure == pytest.approx(width, abs=0.05) and "a neck of" in fault.message and fault.part == "p"
        x, y = fault.at[0] + low[0], fault.at[1] + low[1]
        t = math.radians(-angle)
        u, v = x * math.cos(t) - y * math.sin(t), x * math.sin(t) + y * math.cos(t)
        assert 40 - width < u < 40 + long + width and abs(v) <= width / 2 + 0.1


@pytest.mark.parametrize("gap", [4.0, 9.0])
def test_a_round_waist(gap):
    """Between two arcs of 30 mm the narrowest place is between their tops."""
    r, half = 30.0, gap / 2
    edge = r + half
    outer = [(-60, -edge, 0), (-r, -edge, -1), (r, -edge, 0), (60, -edge, 0), (60, edge, 0), (r, edge, -1), (-r, edge, 0), (-60, edge, 0)]
    found, low = faults(outer)
    [fault] = found
    assert fault.measure == pytest.approx(gap, abs=0.06)
    assert (fault.at[0] + low[0], fault.at[1] + low[1]) == pytest.approx((0, 0), abs=4)


def test_teeth_and_tips_are_no_necks_and_of_two_necks_the_worst_is_told():
    comb = [(0, 0, 0), (100, 0, 0), (100, 30, 0)]
    for k in range(9, -1, -1):
        comb += [(10 * k + 6, 30, 0), (10 * k + 6, 20, 0), (10 * k + 3, 20, 0), (10 * k + 3, 30, 0)]
    assert not faults([*comb, (0, 30, 0)])[0]
    star = [((30, 14)[k % 2] * math.cos(math.pi * k / 5), (30, 14)[k % 2] * math.sin(math.pi * k / 5), 0) for k in range(10)]
    assert not faults(star)[0]
    chain = [
        *waist(5)[:5],
        (90, -20, 0),
        (90, -2, 0),
        (98, -2, 0),
        (98, -20, 0),
        (140, -20, 0),
        (140, 20, 0),
        (98, 20, 0),
        (98, 2, 0),
        (90, 2, 0),
        (90, 20, 0),
        *waist(5)[7:],
    ]
    # of like ones the worst is told
    assert [round(f.measure) for f in faults(chain)[0]] == [4]


def test_a_slender_part_as_a_whole_is_no_neck():
    assert not faults([(0, 0, 0), (200, 0, 0), (200, 6, 0), (0, 6, 0)])[0]


def test_what_joints_leave_has_rules_of_its_own():
    """A lap leaves half of 20 mm."""
    d = Draft("x", "ply12", cutter="router")
    d.board("a", "ply12", "lying", "0", ("0", "100 mm"), ("0", "20 mm"))
    d.board("b", "ply12", "facing_side", "50 mm", ("0", "20 mm"), ("-30 mm", "30 mm"))
    d.joint("cross_lap", "a", "b")
    built = build(d.document())
    assert not built.faults and sum(r.area for r in built.flats["a"].flat.pieces) < 2000
    assert not [p for p in check(built) if "neck" in p.fault.message]
    d.data["joints"] = {}
    d.feature("a", "n", "edge_notch", ("centre", 0), ("centre", 0), edge="back", width="12 mm", depth="10 mm")
    assert [p for p in check(build(d.document())) if "neck" in p.fault.message]


def notched(radius):
    """A plate with a notch whose two lower corners are rounded."""
    b = -math.tan(math.pi / 8)
    return [
        (0, 0, 0), (100, 0, 0), (100, 60, 0), (70, 60, 0), (70, 30 + radius, b), (70 - radius, 30, 0),
        (30 + radius, 30, b), (30, 30 + radius, 0), (30, 60, 0), (0, 60, 0),
    ]  # fmt: skip


@pytest.mark.parametrize(("radius", "told"), [(0.5, True), (2.9, True), (3.0, False), (3.1, False), (8.0, False)])
def test_an_arc_that_turns_in_is_as_wide_as_the_bit(radius, told):
    """The router's bit is 6 mm."""
    found, _ = faults(notched(radius), code="tight_arc")
    assert len(found) == told
    if told:
        assert found[0].measure == pytest.approx(radius) and "R" in found[0].message and found[0].severity == "warning"
        d = math.dist(found[0].at, (70 - radius, 30 + radius))
        assert d == pytest.approx(radius, abs=1e-6) or math.dist(found[0].at, (30 + radius, 30 + radius)) == pytest.approx(radius, abs=1e-6)


def test_an_arc_that_turns_out_may_be_as_tight_as_it_likes():
    b = math.tan(math.pi / 8)
    assert not faults([(1, 0, 0), (99, 0, b), (100, 1, 0), (100, 40, 0), (0, 40, 0), (0, 1, b)], code="tight_arc")[0]


def test_a_beam_cuts_any_arc():
    assert not faults(notched(0.5), cutter="laser", code="tight_arc")[0]


@pytest.mark.parametrize(("radius", "told"), [("1 mm", True), ("4 mm", False)])
def test_openings_have_corners_too(radius, told):
    found, _ = faults(
        [(0, 0, 0), (200, 0, 0), (200, 120, 0), (0, 120, 0)],
        code="tight_arc",
        f={"kind": "rectangle", "width": "60 mm", "height": "40 mm", "radius": radius},
    )
    assert len(found) == told and all(f.owner == "feature:p:f" for f in found)


def test_what_is_too_small_as_a_whole_is_told_once():
    fields = {"kind": "slot", "length": "40 mm", "width": "2.9 mm"}
    outer = [(0, 0, 0), (200, 0, 0), (200, 120, 0), (0, 120, 0)]
    assert not faults(outer, code="tight_arc", f=dict(fields))[0]
    assert len(faults(outer, code="too_small", f=dict(fields))[0]) == 1
