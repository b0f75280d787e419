"""Drawings solved, beside closed forms: nothing here reads the solver's own equations."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.drawing.figures import drawing, figures_of, solved
from zygon.drawing.freedoms import freedoms_of
from zygon.drawing.solver import solve_drawing

TRIANGLE = {"l": "a b", "m": "b c", "n": "c a"}
STANDS = [("held", "a"), ("level", "l")]


@given(st.floats(0.2, 5.0), st.floats(0.2, 3.0), st.floats(0.15, 2.9), st.sampled_from((1, -1)))
@settings(max_examples=60)
def test_triangles_from_three_sides(a: float, b: float, angle: float, hand: int) -> None:
    """The law of cosines gives the third corner, on the side on which it was drawn."""
    c = math.sqrt(a * a + b * b - 2 * a * b * math.cos(angle))
    made = drawing(
        {"a": (0, 0), "b": (a * 1.2, 0.05), "c": (b * math.cos(angle) * 0.9, hand * max(b * math.sin(angle) * 1.1, 0.05))},
        TRIANGLE,
        [*STANDS, ("distance", "l", a), ("distance", "n", b), ("distance", "m", c)],
    )
    found = solved(made)
    assert found.holds
    assert found.point("b") == pytest.approx((a, 0), abs=1e-6)
    assert found.point("c") == pytest.approx((b * math.cos(angle), hand * b * math.sin(angle)), abs=2e-5)
    assert freedoms_of(found).count == 0


def test_a_triangle_is_not_turned_inside_out_by_any_sizes() -> None:
    """From one triangle to others of quite another shape, both hands: the corner stays on its side."""
    for hand in (1, -1):
        for sides in ((30, 40, 50), (300, 40, 300), (40, 300, 299), (100, 55, 46), (5, 100, 98), (200, 200, 5)):
            made = drawing(
                {"a": (0, 0), "b": (100, 0), "c": (30, hand * 80)},
                TRIANGLE,
                [*STANDS, ("distance", "l", sides[0]), ("distance", "m", sides[1]), ("distance", "n", sides[2])],
            )
            found = solved(made)
            a, m, n = sides
            x = (a * a + n * n - m * m) / (2 * a)
            assert found.holds, sides
            assert found.point("c") == pytest.approx((x, hand * math.sqrt(n * n - x * x)), abs=1e-5), sides


@pytest.mark.parametrize("inside", [False, True])
@pytest.mark.parametrize("radii", [(1, 2, 3), (10, 10, 10), (5, 20, 8.5)])
def test_a_circle_that_touches_three_which_touch_one_another(radii: tuple[float, ...], inside: bool) -> None:
    """Descartes' theorem: the curvatures of four circles that touch one another: (sum k)² = 2 sum k²."""
    r1, r2, r3 = radii
    x3 = ((r1 + r3) ** 2 - (r2 + r3) ** 2 + (r1 + r2) ** 2) / (2 * (r1 + r2))
    centres = [(0.0, 0.0), (r1 + r2, 0.0), (x3, math.sqrt((r1 + r3) ** 2 - x3**2))]
    k = [1 / r for r in radii]
    root = 2 * math.sqrt(k[0] * k[1] + k[1] * k[2] + k[2] * k[0])
    wanted = abs(1 / (sum(k) + (root if not inside else -root)))
    middle = [sum(c[i] / r for c, r in zip(centres, radii, strict=True)) / sum(k) for i in (0, 1)]
    made = drawing(
        {"c": (middle[0], middle[1])},
        {"o": {"kind": "circle", "centre": "c", "radius": wanted * 1.15}},
        [("tangent", f"o f{i}") for i in range(3)],
        {f"f{i}": {"kind": "circle", "seen": [*c, r]} for i, (c, r) in enumerate(zip(centres, radii, strict=True))},
    )
    found = solved(made)
    assert found.holds
    assert found.radius("o") == pytest.approx(wanted, abs=1e-6)
    for c, r in zip(centres, radii, strict=True):
        apart = math.dist(found.point("c"), c)
        assert apart == pytest.approx(wanted - r if inside else wanted + r, abs=1e-6)
    assert freedoms_of(found).count == 0


@pytest.mark.parametrize("signs", [(a, b, c) for a in (1, -1) for b in (1, -1) for c in (1, -1)])
def test_all_eight_circles_of_apollonius(signs: tuple[int, ...]) -> None:
    """Three circles that lie apart have eight that touch all of them; which is meant is as it was drawn. Solved beside as two linear equations and a quadratic."""
    given_ = [((0.0, 0.0), 3.0), ((20.0, 2.0), 4.0), ((8.0, 18.0), 2.0)]
    # |c - ci|² = (r + si ri)²; the differences are linear in x, y and r
    rows, right = [], []
    (x0, y0), r0 = given_[0]
    for (x, y), r, s in ((*g, s) for g, s in zip(given_[1:], signs[1:], strict=True)):
        rows.append([2 * (x - x0), 2 * (y - y0), 2 * (s * r - signs[0] * r0)])
        right.append(x * x + y * y - x0 * x0 - y0 * y0 - r * r + r0 * r0)
    m = np.array(rows)
    base = np.linalg.solve(m[:, :2], right)
    lean = np.linalg.solve(m[:, :2], -m[:, 2])
    # (base + lean r) is the centre
    d = base - (x0, y0)
    roots = np.roots([lean @ lean - 1, 2 * (d @ lean) - 2 * signs[0] * r0, d @ d - r0 * r0])
    radii = [float(r.real) for r in roots if abs(r.imag) < 1e-9 and r.real > 0]
    r = next(r for r in radii if all(r + s * g[1] > 0 for g, s in zip(given_, signs, strict=True)))
    x, y = base + lean * r
    made = drawing(
        {"c": (x + 0.3, y - 0.2)},
        {"o": {"kind": "circle", "centre": "c", "radius": r * 1.02}},
        [("tangent", f"f{i} o") for i in range(3)],
        {f"f{i}": {"kind": "circle", "seen": [*c, q]} for i, (c, q) in enumerate(given_)},
    )
    found = solved(made)
    assert (*found.point("c"), found.radius("o")) == pytest.approx((x, y, r), abs=1e-6)


@pytest.mark.parametrize("n", [3, 4, 5, 6, 8, 12])
def test_polygons_in_a_circle(n: int) -> None:
    """A side of a regular polygon is 2 r sin(180°/n)."""
    places = {f"p{i}": (50 * math.cos(2 * math.pi * i / n) + (i % 3), 50 * math.sin(2 * math.pi * i / n) - (i % 2)) for i in range(n)}
    curves = {f"l{i}": f"p{i} p{(i + 1) % n}" for i in range(n)}
    made = drawing(
        {**places, "o": (0, 0)},
        {**curves, "c": {"kind": "circle", "centre": "o", "radius": 45}},
        [("held", "o"), ("equal", " ".join(curves)), *(("on", f"p{i} c") for i in range(n)), ("level", "o p0"), ("diameter", "c", 84.0)],
    )
    found = solved(made)
    assert found.holds
    sides = [math.dist(found.point(f"p{i}"), found.point(f"p{(i + 1) % n}")) for i in range(n)]
    assert sides == pytest.approx([84 * math.sin(math.pi / n)] * n, abs=1e-6)
    assert freedoms_of(found).count == 0


@given(st.floats(0.0, 2 * math.pi))
@settings(max_examples=30)
def test_a_four_bar_chain(crank: float) -> None:
    """Crank 30, coupler 80, rocker 70, ground 90 (Grashof: 30 + 90 < 80 + 70): the joint lies where two circles cross, on its side."""
    a, b, c, g = 30.0, 80.0, 70.0, 90.0
    p = (a * math.cos(crank), a * math.sin(crank))
    d = math.dist(p, (g, 0))
    along = (b * b - c * c + d * d) / (2 * d)
    off = math.sqrt(b * b - along * along)
    ux, uy = (g - p[0]) / d, -p[1] / d
    q = (p[0] + ux * along - uy * off, p[1] + uy * along + ux * off)
    made = drawing(
        {"o": (0, 0), "g": (g, 0), "p": (p[0] + 2, p[1] - 1), "q": (q[0] - 2, q[1] + 3)},
        {"ground": "o g", "crank": "o p", "coupler": "p q", "rocker": "q g"},
        [("held", "o"), ("held", "g"), ("distance", "crank", a), ("distance", "coupler", b), ("distance", "rocker", c)],
    )
    free = solved(made)
    assert freedoms_of(free).count == 1
    assert set(freedoms_of(free).points) == {"p", "q"}
    led = solved(made, pulled={"p": p})
    assert led.point("p") == pytest.approx(p, abs=1e-3)
    turned = math.atan2(led.point("p")[1], led.point("p")[0])
    p = (a * math.cos(turned), a * math.sin(turned))
    d = math.dist(p, (g, 0))
    along = (b * b - c * c + d * d) / (2 * d)
    off = math.sqrt(b * b - along * along)
    ux, uy = (g - p[0]) / d, -p[1] / d
    assert led.point("q") == pytest.approx((p[0] + ux * along - uy * off, p[1] + uy * along + ux * off), abs=1e-5)


def test_what_is_pulled_beyond_its_reach_stays_at_the_nearest() -> None:
    made = drawing({"a": (0, 0), "b": (50, 0)}, {"l": "a b"}, [("held", "a"), ("distance", "l", 50.0)])
    for pull in ((0.0, 200.0), (200.0, 200.0), (-80.0, 60.0)):
        found = solved(made, pulled={"b": pull})
        assert found.holds
        assert math.hypot(*found.point("b")) == pytest.approx(50, abs=1e-6)
        assert math.dist(found.point("b"), pull) <= abs(math.hypot(*pull) - 50) + 0.05


def test_the_least_that_can_move_moves() -> None:
    """A length said of a loose line moves both ends alike; what hangs on nothing of it stays to the bit."""
    made = drawing({"a": (0, 0), "b": (40, 0), "c": (5.5, 77.25)}, {"l": "a b"}, [("distance", "l", 50.0)])
    found = solved(made)
    assert found.point("a") == pytest.approx((-5, 0), abs=1e-7)
    assert found.point("b") == pytest.approx((45, 0), abs=1e-7)
    assert found.point("c") == (5.5, 77.25)


@pytest.mark.parametrize("wanted", [30.0, 60.0, 90.0, 120.0, 150.0, 175.0, 5.0])
@pytest.mark.parametrize("hand", [1, -1])
@pytest.mark.parametrize("ends", ["a b|a c", "b a|a c", "a b|c a", "b a|c a"])
def test_angles_at_a_corner_are_those_between_its_sides(wanted: float, hand: int, ends: str) -> None:
    """However the lines were drawn, the angle is the corner's, and opens to the hand to which it was drawn."""
    one, two = ends.split("|")
    made = drawing(
        {"a": (0, 0), "b": (60, 0), "c": (40, 35 * hand)},
        {"l": one, "m": two},
        [("held", "a"), ("held", "b"), ("distance", "m", 50.0), ("angle", "l m", wanted)],
    )
    t = math.radians(wanted)
    found = solved(made)
    assert found.holds
    assert found.point("c") == pytest.approx((50 * math.cos(t), hand * 50 * math.sin(t)), abs=1e-6)


@pytest.mark.parametrize("side", [1, -1])
@pytest.mark.parametrize("turned", [0, 37, 90, 180, 215, 300])
def test_distances_from_a_line_keep_their_side(side: int, turned: float) -> None:
    t = math.radians(turned)
    c, s = math.cos(t), math.sin(t)

    def at(x: float, y: float) -> tuple[float, float]:
        return x * c - y * s, x * s + y * c

    made = drawing(
        {"p": at(30, 4 * side)},
        {},
        [("distance", "p f", 25.0)],
        {"f": {"kind": "line", "seen": [*at(0, 0), *at(100, 0)]}},
    )
    assert solved(made).point("p") == pytest.approx(at(30, 25 * side), abs=1e-9)
    # from the line, as it moves: the same distance on the same side
    moved = solve_drawing(made, figures_of(made), {"f": (*at(0, 300 * side), *at(100, 300 * side))})
    assert moved.point("p") == pytest.approx(at(30, 325 * side), abs=1e-6)


def test_what_contradicts_is_the_fewest() -> None:
    """Three sides that cannot close, among much else that has no part in it; a length said twice with two figures; a polygon's angles."""
    much = {"d": (200, 0), "e": (250, 0), "f": (220, 30)}
    made = drawing(
        {"a": (0, 0), "b": (40, 0), "c": (20, 30), **much},
        {**TRIANGLE, "o": "d e", "p": "e f", "q": "f d", "bridge": "b d"},
        [
            *STANDS, ("distance", "o", 50.0), ("distance", "p", 40.0), ("distance", "bridge", 150.0),
            ("distance", "l", 10.0), ("distance", "m", 12.0), ("distance", "q", 45.0), ("distance", "n", 30.0),
        ],
    )  # fmt: skip
    clashes = solved(made).clashes
    assert [c.relations for c in clashes] == [("r5", "r6", "r8")]
    assert clashes[0].left_out == "r8"
    twice = drawing({"a": (0, 0), "b": (40, 0)}, {"l": "a b"}, [("distance", "l", 40.0), ("level", "l"), ("across", "a b", 39.0)])
    assert [c.relations for c in solved(twice).clashes] == [("r0", "r1", "r2")]
    corners = drawing(
        {"a": (0, 0), "b": (40, 0), "c": (20, 30)}, TRIANGLE, [("angle", "l m", 60.0), ("angle", "m n", 60.0), ("angle", "n l", 61.0)]
    )
    assert [c.relations for c in solved(corners).clashes] == [("r0", "r1", "r2")]


def test_two_contradictions_are_told_apart() -> None:
    made = drawing(
        {"a": (0, 0), "b": (40, 0), "c": (0, 100), "d": (40, 100)},
        {"l": "a b", "m": "c d"},
        [("distance", "l", 40.0), ("distance", "m", 50.0), ("distance", "a b", 42.0), ("distance", "c d", 51.0)],
    )
    found = solved(made)
    assert {c.relations for c in found.clashes} == {("r0", "r2"), ("r1", "r3")}
    assert math.dist(found.point("a"), found.point("b")) == pytest.approx(40, abs=1e-6)
    assert math.dist(found.point("c"), found.point("d")) == pytest.approx(50, abs=1e-6)


def test_what_is_only_measured_or_left_out_holds_nothing() -> None:
    made = drawing({"a": (0, 0), "b": (40, 0)}, {"l": "a b"}, [("distance", "l", 40.0), ("distance", "a b", 90.0)])
    for change in ({"measured": True}, {"out": True}):
        r = made.relations["r1"].model_copy(update=change)
        assert solved(made.model_copy(update={"relations": {**made.relations, "r1": r}})).holds


@pytest.mark.parametrize(("kind", "things", "way"), [("level", "l", (1.0, 0.0)), ("upright", "l", (0.0, 1.0))])
def test_ways_in_which_a_point_can_move(kind: str, things: str, way: tuple[float, float]) -> None:
    made = drawing({"a": (0, 0), "b": (40, 40)}, {"l": "a b"}, [("held", "a"), (kind, things)])
    free = freedoms_of(solved(made))
    assert free.count == 1
    assert set(free.points) == {"b"}
    assert free.points["b"].way == pytest.approx(way, abs=1e-9)
    loose = freedoms_of(solved(drawing({"a": (0, 0)}, {"o": {"kind": "circle", "centre": "a", "radius": 5}})))
    assert (loose.count, loose.points["a"].way, loose.radii) == (3, None, ("o",))


def test_a_slot_made_longer_is_as_wide_as_it_was() -> None:
    """Nothing says how wide it is: the least movement leaves that alone, whatever the length comes to."""
    for long in (10.0, 41.0, 200.0):
        made = drawing(
            {"c": (28, 29), "d": (28, 55), "a1": (34, 29), "a2": (34, 55), "a3": (22, 55), "a4": (22, 29)},
            {"l": "a1 a2", "m": "a3 a4", "e": "a2 a3 d", "s": "a4 a1 c"},
            [
                ("tangent", "l e"), ("tangent", "m e"), ("tangent", "m s"), ("tangent", "l s"), ("equal", "e s"), ("upright", "c d"),
                ("distance", "l", long),
            ],
        )  # fmt: skip
        found = solved(made)
        assert found.radius("e") == pytest.approx(6, abs=2e-3)
        assert found.point("c")[0] == pytest.approx(28, abs=1e-6)
