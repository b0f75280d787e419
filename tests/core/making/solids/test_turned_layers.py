"""What two parts have in common does not hang on which way they were turned to come to lie as they do. Referee: the manifold library."""

import itertools

import pytest

from zygon.check.overlap import common_length
from zygon.design.draft import Draft
from zygon.making.assembly.sweep import TOUCH, WAYS, runs_into
from zygon.making.pipeline import build
from zygon.making.solids.places import along_axes, placed_layers
from zygon.making.solids.solids import in_common, solid_volume

PLANES = {"lying": "z", "facing_front": "y", "facing_side": "x"}
NOTCH = {"width": "70 mm", "height": "60 mm"}


def pair(plane, turned, about, through, shift):
    """An angle piece that is turned, and a bar that lies across where it comes to lie, or beside it."""
    normal = PLANES[plane]
    u, v = (a for a in "xyz" if a != normal)
    d = Draft("pair", "ply12")
    d.board("angle", "ply12", plane, "0", ("0", "200 mm"), ("0", "90 mm"))
    d.feature(
        "angle",
        "notch",
        "rectangle",
        ({"x": "right", "y": "back", "z": "top"}[u], "30 mm"),
        ({"x": "right", "y": "back", "z": "top"}[v], "25 mm"),
        **NOTCH,
    )
    d.turn("angle", about, turned, **{a: "40 mm" for a in "xyz" if a != about})
    d.board("bar", "ply12", through, shift, ("-150 mm", "300 mm"), ("20 mm", "45 mm"))
    return build(d.document())


SHIFTS = ("4 mm", "31 mm", "110 mm", "-60 mm")


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("turned", ["0 deg", "90 deg", "180 deg", "270 deg"])
def test_turned_parts_overlap_where_their_solids_do(plane, turned):
    seen = set()
    for about, through, shift in itertools.product("xyz", PLANES, SHIFTS):
        built = pair(plane, turned, about, through, shift)
        a, b = built.made["angle"], built.made["bar"]
        assert along_axes(a) and along_axes(b)
        shared = in_common(a, b)
        assert bool(common_length(a, b, 0.01)) == bool(shared and shared.volume > 1), (about, through, shift)
        seen.add(bool(shared))
        for part in (a, b):
            layers = placed_layers(part)
            assert all(layer.u < layer.v for layer in layers)
            assert sum(x.outline.area * (x.high - x.low) for x in layers) == pytest.approx(solid_volume(part), rel=1e-3)
            for i, axis in enumerate("xyz"):
                assert min(x.bounds[axis][0] for x in layers) == pytest.approx(part.reaches[0][i], abs=1e-6)
                assert max(x.bounds[axis][1] for x in layers) == pytest.approx(part.reaches[1][i], abs=1e-6)
    assert seen == {True, False}


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("turned", ["90 deg", "270 deg"])
def test_a_turned_part_runs_into_what_its_boxes_say_it_meets(plane, turned):
    """Plain rectangles fill their boxes, so that boxes alone are the referee."""
    normal = PLANES[plane]
    d = Draft("pair", "ply12")
    d.board("bar", "ply12", plane, "0", ("0", "150 mm"), ("0", "20 mm")).turn(
        "bar", normal, turned, **{a: "0" for a in "xyz" if a != normal}
    )
    for n, other in enumerate(PLANES):
        d.board(f"wall{n}", "ply12", other, f"{170 * (-1) ** n} mm", ("-90 mm", "95 mm"), ("-80 mm", "70 mm"))
    built = build(d.document())
    bar, met = built.made["bar"], set()
    for other, (axis, sign) in itertools.product((p for k, p in built.made.items() if k != "bar"), WAYS):
        i = "xyz".index(axis)
        low, high = list(bar.reaches[0]), list(bar.reaches[1])
        low[i], high[i] = (low[i] - 300, high[i]) if sign < 0 else (low[i], high[i] + 300)
        meets = all(min(high[k], other.reaches[1][k]) - max(low[k], other.reaches[0][k]) > TOUCH for k in range(3))
        assert runs_into(bar, other, (axis, sign), 300.0, TOUCH) == meets, (other.key, axis, sign)
        met.add(meets)
    assert met == {True, False}
