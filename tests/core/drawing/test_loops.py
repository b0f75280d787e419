"""Outlines of a solved drawing: closed, open, crossing; and smooth curves as arcs, measured against scipy's spline."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import CubicSpline
from shapely.geometry import LineString, Point

from tests.core.drawing.figures import drawing, solved
from zygon.drawing.loops import loops_of, spline_arcs
from zygon.drawing.seen import find_relations
from zygon.geometry.contour import Contour

SQUARE = {"a": (0.0, 0.0), "b": (60.0, 0.0), "c": (60.0, 40.0), "d": (0.0, 40.0)}


@pytest.mark.parametrize("turned", ["a b|b c|c d|d a", "b a|b c|d c|a d", "c d|a b|d a|b c"])
def test_lines_close_however_they_were_drawn(turned: str) -> None:
    made = drawing(SQUARE, {f"l{n}": e for n, e in enumerate(turned.split("|"))})
    loops = loops_of(solved(made))
    assert [round(c.area, 9) for c in loops.closed] == [2400]
    assert (loops.open, loops.faults) == ((), ())
    assert sorted(loops.closed[0].owners) == ["l0", "l1", "l2", "l3"]


@pytest.mark.parametrize("sweep", [30, 90, 179, 180, 181, 270, 350])
def test_arcs_of_every_sweep_are_as_long_as_they_are_drawn(sweep: float) -> None:
    t = math.radians(sweep)
    made = drawing({"c": (5, 5), "a": (25, 5), "b": (5 + 20 * math.cos(t), 5 + 20 * math.sin(t))}, {"k": "a b c", "l": "b a"})
    [loop] = loops_of(solved(made)).closed
    assert abs(loop.area) == pytest.approx(200 * (t - math.sin(t)), rel=1e-9)
    assert sum(s.length for s in loop.segments() if s.bulge) == pytest.approx(20 * t, rel=1e-9)


@pytest.mark.parametrize("curves, codes, at", [
    ({"l": "a b", "m": "b c", "n": "c d"}, ["open"], (0, 40)),
    ({"l": "a b", "m": "b c", "n": "c d", "o": "d a", "p": "a c"}, ["branches", "branches"], (0, 0)),
    ({"l": "a b", "m": "b d", "n": "d c", "o": "c a"}, ["crosses_itself"], (30, 20)),
])  # fmt: skip
def test_what_does_not_close_is_told_where(curves: dict[str, str], codes: list[str], at: tuple[float, float]) -> None:
    faults = loops_of(solved(drawing(SQUARE, curves))).faults
    assert [f.code for f in faults] == codes
    assert any(f.at == pytest.approx(at) for f in faults) or codes == ["open"]
    if codes == ["open"]:
        assert faults[0].message == "it is open, its ends are 40 mm apart"


def test_helping_lines_are_no_outline() -> None:
    made = drawing(SQUARE, {"l": "a b", "m": "b c", "n": "c d", "o": "d a", "p": {"kind": "line", "a": "a", "b": "c", "helping": True}})
    assert loops_of(solved(made)).faults == ()


@given(st.lists(st.tuples(st.floats(-80, 80), st.floats(-80, 80)), min_size=3, max_size=7), st.booleans())
def test_smooth_curves_are_cut_within_two_hundredths(through: list[tuple[float, float]], closed: bool) -> None:
    ring = [*through, through[0]] if closed else through
    if any(math.dist(p, q) < 4 for p, q in zip(ring, ring[1:], strict=False)):
        return
    points, bulges = spline_arcs(through, closed)
    run = LineString(Contour(tuple(points), tuple(bulges), ("",) * len(bulges), closed=False).flatten(1e-4))
    knots = np.concatenate(([0], np.cumsum([math.dist(p, q) for p, q in zip(ring, ring[1:], strict=False)])))
    curve = CubicSpline(knots, np.array(ring), bc_type="periodic" if closed else "natural")
    worst = max(run.distance(Point(curve(t))) for t in np.linspace(0, knots[-1], 400))
    assert worst <= 0.025
    assert points[0] == ring[0] and points[-1] == ring[-1]


def test_relations_that_are_seen_are_those_that_hold_and_no_more() -> None:
    """A plate with rounded corners and a bore, drawn a little off: level, upright, tangent, equal, concentric; each adds something."""
    places = {
        "a": (10.0, 0.05), "b": (90.0, 0.0), "c": (100.0, 10.0), "d": (100.0, 50.0), "e": (0.0, 50.1), "f": (0.0, 10.0),
        "m": (90.0, 10.0), "n": (10.0, 10.0), "h": (10.02, 10.01),
    }  # fmt: skip
    curves: dict[str, Any] = {
        "l": "a b", "r": "b c m", "k": "c d", "o": "d e", "p": "e f", "s": "f a n", "u": {"kind": "circle", "centre": "h", "radius": 4},
    }  # fmt: skip
    found = find_relations(drawing(places, curves), 0.3, turned=math.radians(1))
    kinds = sorted((r.kind, tuple(sorted(r.of))) for r in found)
    assert ("level", ("l",)) in kinds and ("upright", ("k",)) in kinds and ("same_centre", ("s", "u")) in kinds
    assert sum(k == "tangent" for k, _ in kinds) == 4 and ("equal", ("r", "s")) in kinds
    assert not [k for k in kinds if k[0] in ("parallel", "square")]  # they follow
    assert find_relations(drawing({"a": (0, 0), "b": (50, 20)}, {"l": "a b"}), 0.3) == []
