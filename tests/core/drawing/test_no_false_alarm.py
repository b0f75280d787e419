"""Figures that can hold are never told as contradicting, however far they are from those that are kept: sweeps over sizes, against closed forms."""

import math

import pytest

from zygon.drawing.solver import solve_drawing
from zygon.drawn.drawing import Drawing

#: A hook: down, round, along and up again; what its straight lengths are follows from how deep and wide it is.
POINTS = {
    "a": (60, 15), "b": (60, -74), "c": (75, -89), "m": (75, -74), "d": (85, -89), "e": (100, -74), "n": (85, -74), "f": (100, -60), "p": (60, -89), "q": (100, -89),
}  # fmt: skip
LINES = {"shank": "a b", "under": "c d", "tip": "e f", "first": "b c m", "second": "d e n", "depth": "a p", "width": "p q"}
SAID = [
    ("held", "a"), ("upright", "shank"), ("level", "under"), ("upright", "tip"), ("tangent", "shank first"), ("tangent", "under first"),
    ("tangent", "under second"), ("tangent", "tip second"), ("equal", "first second"), ("radius", "first"), ("on", "p under"), ("on", "p shank"),
    ("on", "q under"), ("on", "q tip"), ("distance", "depth"), ("distance", "width"), ("distance", "tip"),
]  # fmt: skip


def hook():
    curves = {}
    for n, (key, said) in enumerate(LINES.items()):
        words = said.split()
        curves[key] = {
            "kind": "line" if len(words) == 2 else "arc",
            **dict(zip(("a", "b", "centre"), words, strict=False)),
            "order": n,
            "helping": key in ("depth", "width"),
        }
    relations = {
        f"r{n}": {"kind": kind, "of": of.split(), "order": n, **({"entry": {"text": "1"}} if kind in ("radius", "distance") else {})}
        for n, (kind, of) in enumerate(SAID)
    }
    return Drawing.model_validate(
        {"points": {k: {"x": x, "y": y} for k, (x, y) in POINTS.items()}, "curves": curves, "relations": relations}
    )


FIGURES = {of: f"r{n}" for n, (kind, of) in enumerate(SAID) if kind in ("radius", "distance")}


@pytest.mark.parametrize("depth", [46.0, 60.0, 85.0, 104.0, 131.0, 174.0])
@pytest.mark.parametrize("width", [31.0, 33.0, 36.0, 40.0, 55.0, 80.0, 120.0])
def test_a_hook_of_any_depth_and_width(depth, width):
    d = hook()
    found = solve_drawing(d, {FIGURES["first"]: 15.0, FIGURES["depth"]: depth, FIGURES["width"]: width, FIGURES["tip"]: 14.0})
    assert found.holds, [c.relations for c in found.clashes]
    assert math.dist(found.point("c"), found.point("d")) == pytest.approx(width - 30, abs=1e-5)
    assert found.point("b") == pytest.approx((60, 15 - depth + 15), abs=1e-5)
    assert found.point("f") == pytest.approx((60 + width, 15 - depth + 15 + 14), abs=1e-5)


@pytest.mark.parametrize("radius", [2.0, 6.0, 15.0, 19.0])
@pytest.mark.parametrize("tip", [1.0, 14.0, 60.0])
def test_a_hook_with_any_round(radius, tip):
    found = solve_drawing(hook(), {FIGURES["first"]: radius, FIGURES["depth"]: 104.0, FIGURES["width"]: 40.0, FIGURES["tip"]: tip})
    assert found.holds, [c.relations for c in found.clashes]
    assert found.radius("second") == pytest.approx(radius, abs=1e-5)
    assert math.dist(found.point("c"), found.point("d")) == pytest.approx(40 - 2 * radius, abs=1e-5)


def test_what_cannot_hold_is_told():
    """Rounds that are wider than the hook would turn its foot over."""
    found = solve_drawing(hook(), {FIGURES["first"]: 15.0, FIGURES["depth"]: 104.0, FIGURES["width"]: -1.0, FIGURES["tip"]: 14.0})
    assert not found.holds
