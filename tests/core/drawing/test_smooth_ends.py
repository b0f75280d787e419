"""Smooth curves that go on from what ends where they do: against scipy's clamped spline, over every kind of neighbour, both ends and both ways of drawing."""

import math

import numpy as np
import pytest
from scipy.interpolate import CubicSpline

from zygon.drawing.freedoms import freedoms_of
from zygon.drawing.loops import loops_of, spline_ways
from zygon.drawing.solver import solve_drawing
from zygon.drawn.drawing import Drawing

THROUGH = [(0.0, 0.0), (30.0, 18.0), (64.0, 5.0), (90.0, 20.0)]


def drawing(kind, at_start, turned, tangent=True):
    """A smooth curve with a line or an arc at one of its ends, which is drawn the one way or the other."""
    run = THROUGH if at_start else THROUGH[::-1]
    points = {f"s{n}": {"x": x, "y": y} for n, (x, y) in enumerate(run)}
    points |= {"far": {"x": -25.0, "y": 12.0}, "mid": {"x": -14.0, "y": -6.0}}
    end = "s0" if at_start else f"s{len(run) - 1}"
    if not at_start:
        points[end] = {"x": 0.0, "y": 0.0}
    a, b = ("far", end) if turned else (end, "far")
    other = {"kind": "line", "a": a, "b": b}
    if kind == "arc":
        centre = _centre((0, 0), (-25, 12), -40 if turned else 40)
        points["c"] = {"x": centre[0], "y": centre[1]}
        other = {"kind": "arc", "a": a, "b": b, "centre": "c"}
    if kind == "spline":
        other = {"kind": "spline", "through": ["far", "mid", end] if turned else [end, "mid", "far"]}
    smooth = {"kind": "spline", "through": [f"s{n}" for n in range(len(run))]}
    relations = {"r": {"kind": "tangent", "of": ["smooth", "other"]}} if tangent else {}
    return Drawing.model_validate({"points": points, "curves": {"smooth": smooth, "other": other}, "relations": relations})


def _centre(p, q, radius):
    mx, my, long = (p[0] + q[0]) / 2, (p[1] + q[1]) / 2, math.dist(p, q)
    off = math.copysign(math.sqrt(radius**2 - (long / 2) ** 2), radius)
    return mx - (q[1] - p[1]) / long * off, my + (q[0] - p[0]) / long * off


def tangent_at(solved, key, end):
    """The way along which a curve leaves one of its ends."""
    d = solved.unknowns.drawing
    curve = d.curves[key]
    p = np.array(solved.point(end))
    if curve.kind == "line":
        way = np.array(solved.point(curve.b if curve.a == end else curve.a)) - p
    elif curve.kind == "arc":
        r = p - np.array(solved.point(curve.centre))
        way = np.array((-r[1], r[0])) * (1 if end == curve.a else -1)
    else:
        through = [np.array(solved.point(k)) for k in curve.through]
        if end != curve.through[0]:
            through.reverse()
        knots = np.concatenate(([0], np.cumsum([np.linalg.norm(b - a) for a, b in zip(through, through[1:], strict=False)])))
        ways = spline_ways(solved, key)
        first = ways[0] if end == curve.through[0] else (tuple(-x for x in ways[1]) if ways[1] else None)
        return np.array(first) if first else CubicSpline(knots, through, bc_type="natural")(0, 1)
    return way / np.linalg.norm(way)


@pytest.mark.parametrize("kind", ["line", "arc", "spline"])
@pytest.mark.parametrize("at_start", [True, False])
@pytest.mark.parametrize("turned", [True, False])
def test_it_leaves_its_end_as_its_neighbour_arrives(kind, at_start, turned):
    d = drawing(kind, at_start, turned)
    assert d.fault() is None
    solved = solve_drawing(d, {})
    end = "s0" if at_start else "s3"
    own, other = tangent_at(solved, "smooth", end), tangent_at(solved, "other", end)
    assert own == pytest.approx(-other, abs=1e-9)
    # without the relation it does not
    plain = solve_drawing(drawing(kind, at_start, turned, tangent=False), {})
    assert spline_ways(plain, "smooth") == (None, None)
    # it costs nothing: no figure is lost, and it is not told as said twice
    assert freedoms_of(solved).count == freedoms_of(plain).count and freedoms_of(solved).twice == ()


@pytest.mark.parametrize("at_start", [True, False])
def test_its_arcs_lie_on_scipys_clamped_spline(at_start):
    solved = solve_drawing(drawing("line", at_start, turned=True), {})
    (run,) = loops_of(solved).open
    far = np.array((-25.0, 12.0))
    way = -far / np.linalg.norm(far)
    places = np.array([solved.point(f"s{n}") for n in range(4)])
    knots = np.concatenate(([0], np.cumsum(np.linalg.norm(np.diff(places, axis=0), axis=1))))
    ends = ((1, way), (2, np.zeros(2))) if at_start else ((2, np.zeros(2)), (1, -way))
    referee = CubicSpline(knots, places, bc_type=ends)(np.linspace(0, knots[-1], 20_000))
    smooth = [s for s in run.segments() if s.owner == "smooth"]
    for s in smooth:
        for p in (s.p, s.q):
            assert np.linalg.norm(referee - np.array(p), axis=1).min() < 0.01
    # no corner is seen where both meet: the chord from the line goes on as the line does
    free = CubicSpline(knots, places, bc_type="natural")(0 if at_start else knots[-1], 1)
    assert abs(float(free @ way)) / np.linalg.norm(free) < 0.9


@pytest.mark.parametrize(
    ("of", "through", "closed"),
    [
        (["smooth", "other"], ["s0", "s1", "s2"], True),
        (["smooth", "apart"], ["s0", "s1", "s2"], False),
        (["smooth", "round"], ["s0", "s1"], False),
    ],
)
def test_only_what_ends_where_it_does(of, through, closed):
    points = {f"s{n}": {"x": 10.0 * n, "y": 3.0 * n * n} for n in range(5)}
    curves = {
        "smooth": {"kind": "spline", "through": through, "closed": closed},
        "other": {"kind": "line", "a": "s0", "b": "s4"},
        "apart": {"kind": "line", "a": "s3", "b": "s4"},
        "round": {"kind": "circle", "centre": "s0", "radius": 4},
    }
    d = Drawing.model_validate({"points": points, "curves": curves, "relations": {"r": {"kind": "tangent", "of": of}}})
    assert d.fault() is not None and "smooth curve" in d.fault()[2]
