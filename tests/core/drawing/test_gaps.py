"""Distances between circles, lines and points, from where they come nearest: against closed forms, on every side, and in either order."""

import math

import pytest

from zygon.drawing.measured import measured
from zygon.drawing.solver import solve_drawing
from zygon.drawn.drawing import Drawing


def solved(curves, points, relation, figure, held=()):
    relations = {"r": {"kind": "distance", "of": relation, "entry": {"text": "1"}}}
    relations |= {f"h{n}": {"kind": "held", "of": [k]} for n, k in enumerate(held)}
    relations |= {
        f"k{n}": {"kind": "radius", "of": [k], "entry": {"text": "1"}}
        for n, k in enumerate(c for c in curves if curves[c]["kind"] == "circle")
    }
    d = Drawing.model_validate({"points": {k: {"x": x, "y": y} for k, (x, y) in points.items()}, "curves": curves, "relations": relations})
    assert d.fault() is None
    radii = {f"k{n}": curves[k]["radius"] for n, k in enumerate(c for c in curves if curves[c]["kind"] == "circle")}
    found = solve_drawing(d, {"r": figure, **radii})
    assert found.holds
    return found, measured(found, d.relations["r"])


@pytest.mark.parametrize("side", [1, -1])
@pytest.mark.parametrize("order", [1, -1])
@pytest.mark.parametrize("angle", [0, 37, 90, 200])
def test_a_circle_keeps_so_far_off_a_line_on_its_side(side, order, angle):
    c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    points = {"a": (0.0, 0.0), "b": (80 * c, 80 * s), "m": (30 * c - side * 25 * s, 30 * s + side * 25 * c)}
    curves = {"l": {"kind": "line", "a": "a", "b": "b"}, "o": {"kind": "circle", "centre": "m", "radius": 9.0}}
    for gap in (0.0, 2.5, 40.0):
        found, says = solved(curves, points, ["l", "o"][::order], gap, held=("a", "b"))
        x, y = found.point("m")
        assert side * (c * y - s * x) == pytest.approx(9 + gap) and says == pytest.approx(gap, abs=1e-9)


@pytest.mark.parametrize("order", [1, -1])
@pytest.mark.parametrize(("apart", "wanted"), [(40.0, lambda gap: 14 + 5 + gap), (4.0, lambda gap: 14 - 5 - gap)])
def test_two_circles_beside_or_within_one_another(order, apart, wanted):
    points = {"m": (0.0, 0.0), "n": (apart * 0.6, apart * 0.8)}
    curves = {"o": {"kind": "circle", "centre": "m", "radius": 14.0}, "i": {"kind": "circle", "centre": "n", "radius": 5.0}}
    found, says = solved(curves, points, ["o", "i"][::order], 3.0, held=("m",))
    assert math.dist(found.point("m"), found.point("n")) == pytest.approx(wanted(3.0)) and says == pytest.approx(3.0)


def test_a_wall_about_one_centre_says_a_radius():
    d = Drawing.model_validate({
        "points": {"m": {"x": 3, "y": 4}},
        "curves": {"o": {"kind": "circle", "centre": "m", "radius": 10}, "i": {"kind": "circle", "centre": "m", "radius": 8}},
        "relations": {"w": {"kind": "distance", "of": ["i", "o"], "entry": {"text": "3"}}, "d": {"kind": "diameter", "of": ["i"], "entry": {"text": "20"}}},
    })  # fmt: skip
    found = solve_drawing(d, {"w": 3.0, "d": 20.0})
    assert found.holds and found.radius("o") == pytest.approx(13)
    assert measured(found, d.relations["w"]) == pytest.approx(3)


@pytest.mark.parametrize(("start", "wanted"), [(20.0, 12.0), (3.0, 6.0)])
def test_a_point_outside_a_circle_or_within_it(start, wanted):
    points = {"m": (0.0, 0.0), "p": (start, 0.0)}
    found, _ = solved({"o": {"kind": "circle", "centre": "m", "radius": 9.0}}, points, ["p", "o"], 3.0, held=("m",))
    assert math.hypot(*found.point("p")) == pytest.approx(wanted)


@pytest.mark.parametrize("length", [5.0, 18.0, 50.0, 120.0])
def test_what_is_rounded_stays_as_round_where_a_side_grows(length):
    """A tube's section, rounded inside and out: only how long a side is changes."""
    r, points, curves, relations = 6.0, {}, {}, {}
    for n, (out, name) in enumerate(((r, "o"), (r - 3.0, "i"))):
        for k in range(4):
            c, s = ((1, 0), (0, 1), (-1, 0), (0, -1))[k]
            for end, (x, y) in (("a", (-14, -14 - out)), ("b", (14, -14 - out)), ("m", (14, -14))):
                if end != "m" or n == 0:
                    points[f"{name if end != 'm' else 'o'}{k}{end}"] = {"x": c * x - s * y, "y": s * x + c * y}
        for k in range(4):
            curves[f"{name}{k}"] = {"kind": "line", "a": f"{name}{k}a", "b": f"{name}{k}b"}
            curves[f"{name}{k}arc"] = {"kind": "arc", "a": f"{name}{k}b", "b": f"{name}{(k + 1) % 4}a", "centre": f"o{k}m"}
            relations[f"{name}{k}t"] = {"kind": "tangent", "of": [f"{name}{k}", f"{name}{k}arc"]}
            relations[f"{name}{k}u"] = {"kind": "tangent", "of": [f"{name}{k}arc", f"{name}{(k + 1) % 4}"]}
            relations[f"{name}{k}l"] = {"kind": "level" if k % 2 == 0 else "upright", "of": [f"{name}{k}"]}
    relations["equal"] = {"kind": "equal", "of": ["o0arc", "o1arc", "o2arc", "o3arc"]}
    relations["sides"] = {"kind": "equal", "of": ["o0", "o1"]}
    relations["long"] = {"kind": "distance", "of": ["o0"], "entry": {"text": "1"}}
    d = Drawing.model_validate({"points": points, "curves": curves, "relations": relations})
    found = solve_drawing(d, {"long": length})
    assert found.holds, [c.relations for c in found.clashes]
    assert found.radius("o0arc") == pytest.approx(r, rel=0.2) and found.radius("i0arc") > 1
