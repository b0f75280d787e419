"""Strokes that lie on one another, and chords made lines and arcs again."""

from __future__ import annotations

import math

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zygon.paper.ink import Arc, Curve, Line
from zygon.paper.recognise import recognised
from zygon.paper.strokes import tidied

PENS = ("visible", "smooth", "hidden")
SPAN = st.tuples(st.integers(0, 40), st.integers(1, 20), st.sampled_from(PENS), st.booleans())


@given(st.lists(SPAN, min_size=1, max_size=8), st.floats(0, 6.2))
def test_of_lines_on_one_another_the_best_seen_is_drawn_once(spans, turn):
    """Against marking every half millimetre with the best pen that covers it."""
    c, s = math.cos(turn), math.sin(turn)

    def at(t: float) -> tuple[float, float]:
        return 3 + t * c, 5 + t * s

    lines = []
    for start, long, pen, back in spans:
        p, q = at(start), at(start + long)
        lines.append(Line(pen, q, p, "a") if back else Line(pen, p, q, "a"))
    found = tidied(lines)
    for k in range(130):
        t = k / 2 + 0.25
        over = [PENS.index(pen) for start, long, pen, _ in spans if start < t < start + long]
        here = [f for f in found if shapely.LineString((f.p, f.q)).distance(shapely.Point(at(t))) < 0.05]
        assert [PENS.index(f.pen) for f in here] == ([min(over)] if over else [])


@given(st.lists(st.tuples(st.integers(0, 23), st.integers(1, 24), st.sampled_from(PENS), st.booleans()), min_size=1, max_size=6))
def test_of_arcs_on_one_circle_the_best_seen_is_drawn_once(spans):
    """The same round a circle, by quarters of an hour; whole circles among them."""
    step = math.pi / 12
    arcs = []
    for start, long, pen, back in spans:
        low, sweep = start * step, long * step
        arcs.append(Arc(pen, (1, 2), 7, low + sweep, -sweep, "a") if back else Arc(pen, (1, 2), 7, low, sweep, "a"))
    found = [f for f in tidied(arcs) if isinstance(f, Arc)]
    for k in range(48):
        t = (k + 0.5) * step / 2
        over = [PENS.index(pen) for start, long, pen, _ in spans if (t - start * step) % (2 * math.pi) < long * step]
        here = [f for f in found if ((t - f.start) % (2 * math.pi) if f.sweep > 0 else (f.start - t) % (2 * math.pi)) < abs(f.sweep)]
        assert [PENS.index(f.pen) for f in here] == ([min(over)] if over else [])


def test_lines_of_two_parts_stay_each_its_own():
    found = tidied([Line("visible", (0, 0), (10, 0), "a"), Line("visible", (10, 0), (20, 0), "b"), Line("visible", (5, 0), (15, 0), "b")])
    assert sorted((f.of, *f.p, *f.q) for f in found) == [("a", 0, 0, 10, 0), ("b", 10, 0, 20, 0)]


@pytest.mark.parametrize("off", [0.0, 1e-4])
def test_a_curve_that_is_drawn_twice_is_drawn_once(off):
    points = tuple((x, x * x / 10) for x in range(11))
    found = tidied([Curve("hidden", points, "a"), Curve("visible", tuple((x, y + off) for x, y in reversed(points)), "b")])
    assert [f.pen for f in found] == ["visible"]


@given(st.integers(5, 60), st.floats(0.5, 200), st.floats(0, 6.2), st.floats(0.4, 6.2), st.booleans())
def test_chords_of_a_circle_are_an_arc_again(n, radius, start, sweep, shuffled):
    if sweep / n > 0.34:
        n = math.ceil(sweep / 0.34)
    places = [(4 + radius * math.cos(start + sweep * k / n), -3 + radius * math.sin(start + sweep * k / n)) for k in range(n + 1)]
    chords = [Line("visible", p, q) for p, q in zip(places, places[1:], strict=False)]
    if shuffled:
        chords = [Line("visible", c.q, c.p) if i % 2 else c for i, c in enumerate(chords[::-1])]
    found = recognised(chords, "visible", "x")
    if radius * (1 - math.cos(sweep / 2)) < 0.02:
        return  # flatter than what any circle could be told by
    assert len(found) == 1 and isinstance(found[0], Arc) and found[0].of == "x"
    assert found[0].radius == pytest.approx(radius, rel=1e-3)
    assert abs(found[0].sweep) == pytest.approx(sweep, rel=1e-3)
    assert {tuple(round(v, 3) for v in found[0].at(e)) for e in (0, 1)} == {tuple(round(v, 3) for v in places[e]) for e in (0, -1)}


def test_a_whole_ring_of_chords_is_a_circle():
    places = [(math.cos(2 * math.pi * k / 24), math.sin(2 * math.pi * k / 24)) for k in range(24)]
    found = recognised([Line("visible", p, q) for p, q in zip(places, [*places[1:], places[0]], strict=True)], "visible", "")
    assert len(found) == 1 and isinstance(found[0], Arc) and found[0].full


def test_a_square_of_chords_stays_four_lines():
    corners = [(0, 0), (10, 0), (10, 10), (0, 10)]
    found = recognised([Line("visible", p, q) for p, q in zip(corners, [*corners[1:], corners[0]], strict=True)], "visible", "")
    assert len(found) == 4 and all(isinstance(f, Line) for f in found)


def test_an_ellipse_of_chords_is_a_curve():
    places = [(8 * math.cos(k / 10), 3 * math.sin(k / 10)) for k in range(30)]
    found = recognised([Line("visible", p, q) for p, q in zip(places, places[1:], strict=False)], "visible", "")
    assert [type(f) for f in found] == [Curve] and len(found[0].points) == 30
