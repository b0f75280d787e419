"""Radius, K and thickness at their limits under every rule: what is built is finite everywhere, and what cannot be bent is said."""

import itertools
import json
import math
from types import SimpleNamespace

import pytest

from tests.explore import EXPLORE
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.upgrade import load
from zygon.geometry.contour import polygon
from zygon.making.flats.layers import volume_of
from zygon.making.metal.faces import _lean
from zygon.making.pipeline import build
from zygon.making.result.fold import face_motions
from zygon.screen.design import built_data, part_resources

RULES = ["k", "table", "din6935", "handbook-soft", "handbook-half-hard", "handbook-hard"]
KINDS = ["flange", "profile", "offset", "hem", "teardrop", "line"]


def bent(rule, kind, *, radius, thickness="1 mm", k=0.0, angle="90 deg", where="folding"):
    d = Draft("t", "galv20")
    stock = d.data["stocks"]["galv20"]
    stock.pop("measured", None)
    stock["nominal"] = d.entry(thickness)
    rows = [{"thickness": 1, "radius": r, "angle": 90, "k": k} for r in (0, 5)]
    stock["bending"] = {"rule": rule, "k": k, **({"table": rows} if rule == "table" else {})}
    d.board("p", "galv20", "lying", "0", ("0", "400 mm"), ("0", "300 mm"), up="a")
    d.fold("p", **({"radius": radius} if where == "folding" else {}))
    own = {"radius": radius} if where == "flange" else {}
    if kind == "flange":
        d.flange("p", "f", "left", "200 mm", angle=angle, **own)
    elif kind == "profile":
        d.profile("p", "f", "left", ("120 mm", angle), ("120 mm", "-45 deg"), **own)
    elif kind == "offset":
        d.flange("p", "f", "left", "120 mm", kind="offset", height="150 mm", **own)
    elif kind == "line":
        d.flange("p", "f", "left", "0", kind="line", at="120 mm", **own)
        del d.data["parts"]["p"]["folding"]["flanges"]["f"]["length"]
    else:
        d.flange("p", "f", "left", "120 mm", kind="hem", gap="0", style="closed" if kind == "hem" else "teardrop", **own)
    return d.document()


def finite(built):
    """Nothing that a screen reads is no number; the strict JSON of the standard is the referee."""
    problems = check(built)
    json.dumps(built_data(built, problems), allow_nan=False)
    json.dumps(part_resources(built, []), allow_nan=False)
    assert all(math.isfinite(x) for x in built.good.values())
    return problems


SWEEP = [
    *itertools.product(RULES, KINDS, ["0", "0.0001 mm", "0.01 mm", "2 mm", "30 mm"], ["1 mm"], [0.0, 1.0]),
    *itertools.product(RULES, ["flange", "offset"], ["0", "2 mm"], ["0.01 mm", "25 mm"], [0.0, 0.5]),
]


@pytest.mark.parametrize("where", ["folding", "flange"])
@pytest.mark.parametrize("rule", RULES)
def test_no_radius_k_or_thickness_gives_what_is_no_number(rule, where):
    # a radius of the flange's own goes the same way from there: its limits, and one between
    own = [s for s in SWEEP if s[0] == rule and (where == "folding" or s[2] in {"0", "0.01 mm", "30 mm"})]
    # each radius with each K, by the one way or the other
    own = own if EXPLORE else [s for n, s in enumerate(own) if (n + n // 5 + 3 * (where == "flange")) % 7 == 0]
    for _, kind, radius, thickness, k in own:
        built = build(bent(rule, kind, radius=radius, thickness=thickness, k=k, where=where))
        finite(built)
        part = built.flats.get("p")
        if part and part.flat.fold:
            assert all(b.width > 0 for b in part.flat.fold.bends)
            assert len(face_motions(part.flat.fold)) == len(part.flat.fold.faces)
            assert volume_of(part.flat) > 0


@pytest.mark.parametrize("angle", ["0.001 deg", "1 deg", "179.999 deg"])
@pytest.mark.parametrize("rule", RULES)
def test_no_angle_gives_what_is_no_number(rule, angle):
    for radius in ("0", "1 mm"):
        finite(build(bent(rule, "flange", radius=radius, angle=angle, k=0.3)))


@pytest.mark.parametrize("kind", ["flange", "profile", "offset", "teardrop", "line"])
@pytest.mark.parametrize(("rule", "k"), [("din6935", 0.0), ("k", 0.0), ("table", 0.0)])
def test_a_bend_that_would_take_no_sheet_is_said_at_its_radius(rule, k, kind):
    """DIN 6935 never lets k fall under 0, so that a radius of 0 has no allowance at all."""
    for where, entry in (("folding", "/parts/p/folding/radius"), ("flange", "/parts/p/folding/flanges/f/radius")):
        document = bent(rule, kind, radius="0", k=k, where=where)
        good = {entry: 3.0}
        found = [f for f in build(document, good).faults if f.code == "no_allowance"]
        assert [f.entry for f in found] == [entry], [f.message for f in found]
        assert "takes no length of sheet" in found[0].message and "0 mm" in found[0].value


@pytest.mark.parametrize("rule", ["handbook-soft", "handbook-half-hard", "handbook-hard"])
def test_a_sharp_bend_by_the_handbook_has_its_share_of_the_thickness(rule):
    built = build(bent(rule, "flange", radius="0"))
    share = {"handbook-soft": 0.55, "handbook-half-hard": 0.64, "handbook-hard": 0.71}[rule]
    assert built.parts["p"].flat.fold.bends[0].width == pytest.approx(share)
    assert not [f for f in built.faults if f.code == "no_allowance"]


@pytest.mark.parametrize(("k", "fine"), [(0.01, True), (0.0099, False)])
@pytest.mark.parametrize("kind", ["flange", "profile"])
def test_the_least_length_of_sheet_that_a_bend_takes(kind, k, fine):
    """A neutral radius of 0.01 mm: radius 0, K 0.01 of 1 mm."""
    built = build(bent("k", kind, radius="0", k=k))
    assert [f.code for f in built.faults] == ([] if fine else ["no_allowance"] * len(built.faults)) and fine is not bool(built.faults)


@pytest.mark.parametrize("angle", ["90 deg", "-90 deg"])
def test_a_profile_s_bend_is_looked_up_by_its_angle_whichever_way_it_goes(angle):
    """A table that knows no allowance at flat angles: a right angle has its own K, up and down."""
    data = bent("table", "profile", radius="0.005 mm", k=0.4).dump()
    table = data["stocks"]["galv20"]["bending"]["table"]
    data["stocks"]["galv20"]["bending"]["table"] = [
        {**row, "angle": a, "k": k} for row in table for a, k in ((10, 0.0), (80, 0.4), (170, 0.4))
    ]
    for leg in data["parts"]["p"]["folding"]["flanges"]["f"]["legs"]:
        leg["angle"]["text"] = angle
    built = build(load(data))
    assert not built.faults
    assert [round(math.degrees(b.angle)) for b in built.flats["p"].flat.fold.bends] == [int(angle[:-4])] * 2
    assert [b.k for b in built.flats["p"].flat.fold.bends] == pytest.approx([0.4, 0.4])


@pytest.mark.parametrize("limit", ["least_radius", "hole_distance"])
def test_a_limit_of_the_stock_that_cannot_be_worked_out_is_named(limit):
    d = Draft("d", "galv20")
    d.data["stocks"]["galv20"]["bending"][limit] = d.entry("((")
    d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "150 mm"))
    d.fold("p")
    d.flange("p", "wall", "back", "40 mm")
    faults = build(d.document()).faults
    assert {f.entry for f in faults} == {f"/stocks/galv20/bending/{limit}"}


@pytest.mark.parametrize("broken", ["u", "v", "both"])
def test_a_place_on_a_flange_that_cannot_be_worked_out_is_named_and_nothing_is_cut_there(broken):
    d = Draft("d", "galv20")
    d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "150 mm"))
    d.fold("p")
    d.flange("p", "wall", "back", "40 mm")
    u, v = ("((" if broken in (way, "both") else "15 mm" for way in "uv")
    d.flange_feature("p", "wall", "h", "hole", ("low", u), ("end", v), diameter="6 mm")
    built = build(d.document())
    assert {f.entry.rpartition("/features/h/")[2] for f in built.faults} == {f"{way}/offset" for way in "uv" if broken in (way, "both")}
    assert not built.parts["p"].flat.inside


@pytest.mark.parametrize(("anchor_u", "x"), [("low", 37.0), ("high", 163.0)])
@pytest.mark.parametrize("edge", ["front", "back", "left", "right"])
def test_a_hole_in_a_flange_is_measured_from_the_end_that_is_said(anchor_u, x, edge):
    """The flange is 200 mm long; a hole 37 mm from one end is 163 from the other, and lies there in the flat."""
    built = []
    for anchor, offset in ((anchor_u, 37), ("low" if anchor_u == "high" else "high", 163)):
        d = Draft("d", "galv20")
        d.board("p", "galv20", "lying", "0", ("0", "200 mm"), ("0", "200 mm"))
        d.fold("p")
        d.flange("p", "wall", edge, "40 mm")
        d.flange_feature("p", "wall", "h", "hole", (anchor, f"{offset} mm"), ("end", "15 mm"), diameter="6 mm")
        built.append(build(d.document()))
    one, other = (b.parts["p"].flat.inside[0].bounds for b in built)
    assert one == pytest.approx(other)
    middle = ((one[0] + one[2]) / 2, (one[1] + one[3]) / 2)
    # a flange is walked as its board's outline is: along the back and the left side it begins at the far end
    assert middle[0 if edge in ("front", "back") else 1] == pytest.approx(x if edge in ("front", "right") else 200 - x)


@pytest.mark.parametrize("end", [0, 1])
@pytest.mark.parametrize(("past", "lean"), [(-20.0, 0.0), (0.0, 0.0), (20.0, 0.5), (80.0, 2.0)])
@pytest.mark.parametrize("angle", [0.0, 2.1])
def test_a_face_goes_on_past_its_edge_by_the_tangent_of_its_corner(end, past, lean, angle):
    """A plate of 100 mm whose sides lean out by ``past`` at a depth of 40 mm, seen from its far edge; turned as it may lie."""
    way, out = (math.cos(angle), math.sin(angle)), (math.sin(angle), -math.cos(angle))

    def flat(x, y):
        return x * way[0] + y * out[0], x * way[1] + y * out[1]

    corners = [flat(x, y) for x, y in ((-past, -40.0), (100.0 + past, -40.0), (100.0, 0.0), (0.0, 0.0))]
    placed = SimpleNamespace(flat=flat, at=flat(0.0, 0.0), length=100.0, along=way, outward=out)
    assert _lean([polygon(corners).wound(ccw=True)], placed, end) == pytest.approx(lean)
