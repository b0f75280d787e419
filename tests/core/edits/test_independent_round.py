"""Copies of rods, turned parts and drawn profiles made independent are the solids that they were, whichever way they were mirrored or moved."""

import itertools

import numpy as np
import pytest

from tests.core.making.turned.test_half_profiles import entry, profile
from tests.core.shared import edited
from zygon.design.turned_starts import TURNED_STARTS
from zygon.design.upgrade import load
from zygon.edits.drawings.begin_profile import begin_profile
from zygon.edits.independent import make_independent
from zygon.geometry.solid import manifold_of
from zygon.making.kinds.registry import meshes_of
from zygon.making.pipeline import build


def solid(part):
    found = None
    for mesh in meshes_of(part):
        one = manifold_of(mesh, list(dict.fromkeys(mesh.owners))).transform(np.array(part.matrix)[:3])
        found = one if found is None else found + one
    return found


def same(before, after, copied):
    """The one copy, before and after."""
    assert after.faults == (), [f.message for f in after.faults]
    [was] = [p for k, p in before.made.items() if "@" in k]
    [now] = [p for k, p in after.made.items() if k not in before.made]
    assert copied == was.of
    a, b = solid(was), solid(now)
    assert b.volume() == pytest.approx(a.volume(), rel=1e-6)
    assert (a ^ b).volume() == pytest.approx(a.volume(), rel=1e-4)


def copied(part, axis, stocks=None, way="mirror"):
    copy = {"kind": "mirror", "name": "m", "axis": axis, "at": entry(-40), "of": ["part:k"]} if way == "mirror" else {
        "kind": "row", "name": "m", "axis": axis, "of": ["part:k"], "number": {"text": "2"}, "spacing": entry(150),
    }  # fmt: skip
    stocks = stocks or {"s": {"name": "ply", "nominal": entry(12)}}
    return build(load({"schema": 8, "name": "t", "unit": "mm", "stocks": stocks, "parts": {"k": part}, "copies": {"c": copy}}))


def turned(along, **record):
    return {
        "kind": "turned", "name": "knob", "axis": along, "span": {"low": entry(10), "high": entry("50 mm")},
        "at": {a: entry(50 + 10 * k) for k, a in enumerate(x for x in "xyz" if x != along)}, "deep": entry(30), **record,
    }  # fmt: skip


STEPS = {
    "steps": {
        "a": {"across": entry(24), "to": entry(14), "length": entry(15), "order": 0},
        "b": {"across": entry(12), "chamfer": entry(1), "order": 1},
    },
    "bores": {"x": {"across": entry(5), "deep": entry(9), "end": "b"}},
    "flats": {"f": {"off": entry(5), "begins": entry(22), "length": entry(8), "number": 1, "around": entry("30 deg")}},
    "cross": {"h": {"off": entry(35), "across": entry(3), "around": entry("70 deg"), "walls": "one"}},
}


@pytest.mark.parametrize(("along", "axis"), list(itertools.product("xyz", "xyz")))
def test_a_mirrored_turned_part_is_itself_on_its_own(along, axis):
    for record in (STEPS, {"drawing": _drawn(along)}):
        before = copied(turned(along, **record), axis)
        assert before.faults == (), [f.message for f in before.faults]
        same(before, edited(before, make_independent(before, "c")), "k")


def _drawn(along):
    points = [(0, 0), (14, 0), (14, 12), (6, 20), (6, 40), (0, 40)]
    found = profile(points)
    if along != "z":  # x of the drawing runs along the axis there
        found["points"] = {k: {"x": p["y"], "y": p["x"]} for k, p in found["points"].items()}
    way = "y" if along == "z" else "x"
    low = {"x": "left", "y": "front", "z": "bottom"}[along]
    found["references"]["end"] = {"kind": "line", way: entry(f"knob.{low}"), "seen": [0, 0, 0, 9] if way == "x" else [0, 0, 9, 0]}
    found["references"]["far"] = {"kind": "line", way: entry("30 mm"), "seen": [20, 0, 20, 9] if way == "x" else [0, 20, 9, 20]}
    found["relations"] = {"r1": {"kind": "on", "of": ["p0", "end"]}, "r2": {"kind": "on", "of": ["p3", "far"]}}
    return found


@pytest.mark.parametrize("start", [s for s in TURNED_STARTS if s not in ("knob",)])
def test_every_kind_to_begin_with(start):
    said = TURNED_STARTS[start]
    long = float(said.length.removesuffix(" mm"))
    part = turned("x", **{**said.start, "span": {"low": entry(10), "high": entry(10 + long)}})
    before = copied(part, "x")
    same(before, edited(before, make_independent(before, "c")), "k")


@pytest.mark.parametrize(("along", "axis"), list(itertools.product("xyz", "xyz")))
def test_a_rod_with_a_thread_at_one_end(along, axis):
    stocks = {"s": {"kind": "bar", "name": "rod", "nominal": entry(8), "lengths": {}}}
    rod = {
        "kind": "rod", "name": "rod", "stock": "s", "axis": along, "span": {"low": entry(10), "high": entry(90)},
        "at": {a: entry(50) for a in "xyz" if a != along}, "worked": {"b": {"thread": "M8", "long": entry(20), "chamfer": entry(1)}},
    }  # fmt: skip
    before = copied(rod, axis, stocks)
    same(before, edited(before, make_independent(before, "c")), "k")


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("axis", "xyz")
def test_a_drawn_profile_goes_along_with_what_it_was_drawn_to(edge, axis):
    stocks = {"s": {"name": "steel", "nominal": entry(1), "bending": {"rule": "k", "k": 0.42}}}
    plate = {
        "kind": "board", "name": "tray", "stock": "s", "plane": "lying", "position": {"face": "bottom", "at": entry(0)},
        "spans": {"x": {"low": entry(0), "high": entry(120)}, "y": {"low": entry(0), "high": entry(90)}},
    }  # fmt: skip
    before = copied(plate, axis, stocks, way="row")
    before = edited(before, begin_profile(before, "k", edge=edge))
    where = f"/parts/k/folding/flanges/{edge}/drawing"
    drawing = before.document.parts["k"].folding.flanges[edge].drawing
    length = next(k for k, r in drawing.relations.items() if r.kind == "distance")
    fast = {"kind": "line", "y": entry("33 mm"), "seen": [-50, 32, 50, 32], "order": 5}
    patch = [
        {"op": "add", "path": f"{where}/references/up", "value": fast},
        {"op": "replace", "path": f"{where}/relations/{length}", "value": {"kind": "on", "of": ["p2", "up"]}},
    ]
    before = edited(before, ("", patch))
    assert before.faults == (), [f.message for f in before.faults]
    same(before, edited(before, make_independent(before, "c")), "k")
