"""A folded part's sizes are outside ones or inside ones, as it says once; a flange that says otherwise goes by its own."""

import json
from pathlib import Path

import pytest

from tests.core.making.metal.test_flange_faces import T, solid_of, tray, worth
from tests.core.making.metal.trays import SIDES, entry, flange
from zygon.design.upgrade import as_schema, load, upgraded
from zygon.making.pipeline import build

FIXTURES = Path(__file__).parents[2] / "fixtures"


def faces(*edges):
    return {f"{e}_{w}": f"tray.{e}.{w}" for e in edges for w in ("inner", "outer", "end")}


@pytest.mark.parametrize("toward", "ab")
@pytest.mark.parametrize("radius", [0.6, 1.5, 4.0])
def test_inside_sizes_are_what_fits_between_the_walls(toward, radius):
    """By hand: the room between the walls is the spans, and from the floor to the rim the flanges' length."""
    flanges = {e: flange(e, 31, toward=toward) for e in SIDES}
    built = build(tray(flanges, probes=faces(*SIDES), sizes=None, radius=entry(radius), **{"corner": "open"}))
    outside = {e: worth(built, f"{e}_outer") for e in SIDES}
    assert outside == pytest.approx({"left": 10, "right": 210, "front": -30, "back": 90})
    data = tray(flanges, probes=faces(*SIDES), radius=entry(radius), corner="open").dump()
    data["parts"]["p"]["folding"]["sizes"] = "inside"
    built = build(load(data))
    assert built.faults == ()
    inside = {e: worth(built, f"{e}_inner") for e in SIDES}
    assert inside == pytest.approx({"left": 10, "right": 210, "front": -30, "back": 90})
    rim, floor = worth(built, "left_end"), T if toward == "a" else 0.0
    assert abs(rim - floor) == pytest.approx(31.0)
    points = solid_of(built)
    assert points[:, 0].min() == pytest.approx(10 - T) and points[:, 0].max() == pytest.approx(210 + T)
    assert points[:, 1].min() == pytest.approx(-30 - T) and points[:, 1].max() == pytest.approx(90 + T)


@pytest.mark.parametrize(
    ("own", "out", "high"),
    [
        ({}, 10 - T, 30 + T),
        ({"where": "outside"}, 10, 30 + T),
        ({"where": "edge"}, 10 - 2 * T, 30 + T),
        ({"measured": "outer"}, 10 - T, 30),
        ({"where": "outside", "measured": "outer"}, 10, 30),
        ({"measured": "tangent"}, 10 - T, 30 + 2 * T),
    ],
)
def test_a_flange_that_says_otherwise_goes_by_its_own(own, out, high):
    data = tray({"left": flange("left", 30)}, probes=faces("left")).dump()
    data["parts"]["p"]["folding"]["sizes"] = "inside"
    data["parts"]["p"]["folding"]["flanges"]["left"] |= own
    built = build(load(data))
    assert worth(built, "left_outer") == pytest.approx(out) and worth(built, "left_end") == pytest.approx(high)


def test_a_profile_s_lengths_run_inside_too():
    legs = [{"length": entry(20)}, {"length": entry(9)}]
    probes = {"top": "tray.sill.inner", "edge": "tray.sill.end"}
    data = tray({"sill": {"kind": "profile", "edge": "right", "legs": legs}}, probes=probes).dump()
    built = build(load(data))
    assert worth(built, "top") == pytest.approx(20 - T) and worth(built, "edge") == pytest.approx(210 - 9)
    data["parts"]["p"]["folding"]["sizes"] = "inside"
    built = build(load(data))
    # from the floor to the inner face of what lies over it, and from the wall's inner face to its end
    assert worth(built, "top") == pytest.approx(20 + T) and worth(built, "edge") == pytest.approx(210 - 9)


def test_a_design_of_the_schema_before_keeps_its_sizes_and_may_be_switched():
    old = json.loads((FIXTURES / "design-6.json").read_text())
    flanges = [f for p in upgraded(old)["parts"].values() if p["kind"] == "folded" for f in p["folding"]["flanges"].values()]
    assert flanges and not any("where" in f or "measured" in f for f in flanges if f["kind"] == "flange")
    assert as_schema(upgraded(old), 6) == old
    # what was said otherwise is still said, both ways; what follows inside sizes is said in full for an edit of that time
    data = tray(
        {"a": flange("left", 30, where="edge", measured="tangent"), "b": flange("right", 30), "c": flange("back", 9, kind="hem")}
    ).dump()
    data["parts"]["p"]["folding"]["sizes"] = "inside"
    before = as_schema(data, 6)["parts"]["p"]["folding"]
    assert "sizes" not in before
    said = {k: (f.get("where"), f.get("measured")) for k, f in before["flanges"].items()}
    assert said == {"a": ("edge", "tangent"), "b": ("inside", "inner"), "c": (None, None)}
