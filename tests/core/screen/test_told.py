"""What a screen is told of parts, solids, fits and joints is what they are."""

import math
from dataclasses import replace

import numpy as np
import pytest
import trimesh

from tests.core.making.joints.pairs import pair
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.upgrade import load
from zygon.geometry.contour import polygon
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build
from zygon.making.result.operations import Bevel
from zygon.screen.design import built_data, part_resources
from zygon.screen.joint_figure import _true_level, joint_figure

L, N, A = "length", "count", "angle"
SLOPE = math.atan(1 / 6)
#: Two boards of 12 and 15 mm (12 and 12 where they lap or meet by an edge), 120 mm along what they share, with a fit of 0.4 mm.
FACTS = {
    "finger": [("fingers", 5, N), ("narrowest", 24, L)],
    "tab_slot": [("tabs", 1, N), ("narrowest", 36, L), ("left beyond the slots", 80, L)],
    "dovetail": [
        ("tails", 3, N),
        ("slope", SLOPE, A),
        ("tail, widest", 32, L),
        ("tail at its root", 32 - 2 * 15 / 6, L),
        ("pin, narrowest", 6, L),
    ],
    "mortise_tenon": [("tenons", 1, N), ("narrowest", 108, L), ("wide", 108, L), ("tenon thick", 12, L)],
    "groove": [("deep", 5, L), ("wide", 12.4, L)],
    "rebate": [("deep", 7.5, L), ("wide", 12, L)],
    "cross_lap": [("notch in the first", 60, L)],
    "half_lap": [("let into the first", 6, L), ("let into the second", 6, L)],
    "dovetail_lap": [("slope", SLOPE, A), ("let into the first", 6, L), ("let into the second", 6, L), ("tail at its root", 30, L)],
    "edge_key": [("keys", 1, N), ("slope", SLOPE, A), ("deep", 18, L), ("wide", 26.5, L), ("tail at its root", 26.5 - 2 * 18 / 6, L)],
    "dowels": [("dowels", 2, N), ("diameter", 6, L), ("deep in the face", 10, L), ("deep in the edge", 25, L)],
    "screws": [("screws", 2, N), ("long", 35, L), ("clearance hole", 4.5, L), ("pilot hole", 2.8, L), ("countersink", 8, L)],
    "butt": [],
    "face_glue": [("thick together", 27, L)],
}
LYING = {"half_lap", "dovetail_lap", "edge_key", "face_glue"}


@pytest.mark.parametrize("kind", FACTS)
def test_a_figure_tells_what_matters_of_its_joint_and_shows_as_much_beside_it(kind):
    more = {} if kind in ("butt", "face_glue") else {"fit": "0.4 mm"}
    figure = joint_figure(build(pair(kind, **more).document()), "a-b")
    found = [(f["label"], f["value"], f["kind"]) for f in figure["facts"]]
    assert [f[::2] for f in found] == [f[::2] for f in FACTS[kind]]
    assert [f[1] for f in found] == pytest.approx([f[1] for f in FACTS[kind]], abs=0.01)
    sizes = [(v["width"], v["height"]) for v in figure["views"]]
    room = 2 * 1.3 * 15  # as much on both sides as the thicker board is thick, and a third
    if kind == "dovetail":
        assert sizes == [pytest.approx((124, 15 + room / 2)), pytest.approx((12 + room, 15 + room))]
    elif kind not in LYING:
        assert sizes == [pytest.approx((124, 12 + room)), pytest.approx((12 + room, 15 + room))]
    elif kind == "edge_key":
        assert sizes == [pytest.approx((124, 3.2 * 18)), pytest.approx((3.2 * 18, 36))]


def test_where_an_edge_joint_has_no_depth_twice_the_thickness_is_shown():
    d = pair("edge_key")
    joint = d.data["joints"]["a-b"]
    d.data["joints"]["a-b"] = {k: v for k, v in joint.items() if k in ("a", "b", "order")} | {"kind": "butt"}
    figure = joint_figure(build(d.document()), "a-b")
    view = figure["views"][0]
    assert (view["width"], view["height"]) == pytest.approx((124, 3.2 * 24))


@pytest.mark.parametrize(
    ("plane", "up", "faces", "axes"),
    [
        ("lying", "a", ("top", "bottom"), "xy"),
        ("lying", "b", ("top", "bottom"), "xy"),
        ("facing_front", "a", ("front", "back"), "xz"),
        ("facing_side", "a", ("right", "left"), "yz"),
    ],
)
def test_a_board_s_faces_and_axes_are_called_as_they_lie(plane, up, faces, axes):
    d = Draft("d", "ply12", "galv20")
    d.board("p", "ply12", plane, "30 mm", ("11 mm", "211 mm"), ("7 mm", "97 mm"), up=up)
    d.feature("p", "one", "hole", ("centre", 0), ("centre", 0), diameter="6")
    d.data["parts"]["box"] = {"kind": "item", "name": "box", "price": 2}
    built = build(d.document())
    told = {p["key"]: p for p in built_data(built, check(built))["parts"]}
    p = told["p"]
    assert {p["face_a"], p["face_b"]} == set(faces) and {p["u"], p["v"]} == set(axes)
    assert (p["face_a"], p["face_b"]) == faces or plane != "lying"
    assert sorted(p["origin"]) == [7, 11] and p["has"] == [["hole", 6.0]] and p["thickness"] == 11.8
    k = "xyz".index(next(a for a in "xyz" if a not in axes))
    assert p["high"][k] - p["low"][k] == pytest.approx(11.8) and (p["low"][k] == pytest.approx(30) or p["high"][k] == pytest.approx(30))
    assert (told["box"]["face_a"], told["box"]["solid"], told["box"]["matrix"], told["box"]["low"], told["box"]["has"]) == (
        "",
        "",
        [],
        None,
        [],
    )


def test_a_solid_of_several_pieces_is_whole_and_only_a_bent_one_has_a_skin():
    d = Draft("d", "ply12", "galv20")
    d.board("p", "ply12", "lying", 0, (0, 300), (0, 80))
    d.feature("p", "gap", "rectangle", ("centre", 0), ("centre", 0), width="40", height="90")
    d.board("q", "galv20", "lying", 100, (0, 100), (0, 80))
    d.board("bent", "galv20", "lying", 200, (0, 100), (0, 80))
    d.fold("bent").flange("bent", "f", "left", "20 mm")
    built = build(d.document())
    solids = part_resources(built)
    for key in ("p", "q", "bent"):
        part = built.made[key]
        solid = solids[f"solid-{part.body.digest}"]
        positions, triangles = np.array(solid["positions"]).reshape(-1, 3), np.array(solid["triangles"]).reshape(-1, 3)
        mesh = trimesh.Trimesh(positions, triangles, process=False)
        assert mesh.volume == pytest.approx(volume_of(part.flat), rel=2e-3)
        assert mesh.body_count == (2 if key == "p" else 1) and sum(solid["counts"]) == len(triangles)
        assert (solid["skin"] is not None) is (key == "bent")


def test_each_stock_in_use_is_told_its_own_fits_on_the_chosen_cutter():
    d = Draft("d", "ply12", "ply6", cutter="laser")
    for n, stock in enumerate(("ply12", "ply6")):
        d.board(f"p{n}", stock, "lying", 40 * n, (0, 100), (0, 80))
    data = d.document().dump()
    kerfs = {"ply12": 0.18, "ply6": 0.11}
    row = {k: {"text": "0.1 mm", "unit": "mm"} for k in ("press", "snug", "slip", "loose")}
    data["fits"] = {
        **{f"own_{s}": {"stock": s, "cutter": data["cutter"], "tested_kerf": kerf, **row} for s, kerf in kerfs.items()},
        "other": {"stock": "ply6", "cutter": "elsewhere", "tested_kerf": 0.5, **row},
    }
    data["cutters"]["elsewhere"] = data["cutters"][data["cutter"]] | {"name": "elsewhere"}
    built = build(load(data))
    assert [(f["stock"], f["tested_kerf"]) for f in built_data(built, [])["fits"]] == list(kerfs.items())


@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
def test_a_section_through_a_sloping_edge_is_as_long_as_the_board_is_at_that_height(plane):
    d = Draft("d", "ply12")
    d.board("p", "ply12", plane, "30 mm", (0, 100), (0, 60))
    part = build(d.document()).flats["p"]

    def over(x):
        return polygon([(x, -5), (140, -5), (140, 65), (x, 65)])

    sloped = replace(part, body=replace(part.flat, bevels=(Bevel(over(80.0), over(92.0), "o", edge=True),), digest=f"sloped {plane}"))
    normal = part.frame.normal
    low, high = part.span_box.span(normal)
    for share in (0.1, 0.5, 0.8):
        # face A is the high face along the normal, or the low one
        of_a = share if part.frame.up > 0 else 1 - share
        found = _true_level(sloped, low + (high - low) * share)
        assert found.area == pytest.approx(60 * (92 - 12 * of_a), rel=1e-6)
