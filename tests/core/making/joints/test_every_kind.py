"""Every kind of joint at random thicknesses, runs, fits and slopes: what fills what, what is where, and what a round bit leaves."""

import numpy as np
import pytest
import shapely
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import MEETING, boxes_volume, pair, solid
from tests.explore import drawn
from zygon.check.run import check
from zygon.making.flats.flat import mesh_of
from zygon.making.joints.registry import REGISTRY
from zygon.making.pipeline import build
from zygon.making.solids.places import PlacedLayer, common, placed_layers

#: Kinds that take nothing but what the other board fills; screws, dowels and end play leave holes.
FILLING = [k for k in MEETING if k not in ("screws", "dowels")]
ROUTED = ["finger", "tab_slot", "mortise_tenon", "groove", "rebate", "cross_lap", "notch", "half_lap", "dovetail_lap", "edge_key"]


@st.composite
def pairs(draw, kinds, **more):
    """A pair joined by a random kind with random sizes; slopes are drawn where the kind has one."""
    kind = draw(st.sampled_from(kinds))
    ta, tb = draw(st.floats(8, 22)), draw(st.floats(8, 22))
    run = draw(st.floats(90, 260))
    own = dict(more)
    if kind in ("dovetail", "dovetail_lap", "edge_key"):
        own["slope"] = draw(st.sampled_from(["1:6", "1:8", "angle"]))
        own["angle"] = f"{draw(st.floats(4, 10)):.2f} deg"
    if kind == "mortise_tenon":
        own |= {"ends": draw(st.sampled_from(["through", "stopped"])), "end_play": 0, "thickness": f"{draw(st.floats(0.4, 1.0)) * ta:.3f}"}
    if kind in ("half_lap", "cross_lap"):
        own["share"] = draw(st.sampled_from(["1/2", "1/3", "0.6"]))
    if kind == "edge_key":
        own["shape"] = draw(st.sampled_from(["dovetail", "round"]))
    return kind, ta, tb, run, own


def mesh_of_part(part) -> trimesh.Trimesh:
    """A part's solid in the room for the referee, as the screen's mesh has it."""
    found = trimesh.util.concatenate([trimesh.Trimesh(m.positions, m.triangles) for m in mesh_of(part.flat)])
    found.apply_transform(np.array(part.matrix))
    return found


def spans_along(part, axis: str, at: dict[str, float]) -> list[tuple[float, float]]:
    """Where a line along ``axis`` runs inside a part's solid: cut by a plane, and the cut by the line. Referee: trimesh's sections."""
    (first, p), (second, q) = ((x, v + 1e-5) for x, v in at.items())
    i, j, k = ("xyz".index(x) for x in (first, second, axis))
    lines = trimesh.intersections.mesh_plane(mesh_of_part(part), np.eye(3)[i], np.eye(3)[i] * p)
    before, after = lines[:, 0, j] - q, lines[:, 1, j] - q
    crossing = lines[before * after < 0]
    share = before[before * after < 0] / (before - after)[before * after < 0]
    hits = sorted((crossing[:, 0, k] + share * (crossing[:, 1, k] - crossing[:, 0, k])).tolist())
    points = [h for n, h in enumerate(hits) if not n or h - hits[n - 1] > 1e-6]  # an edge is met by both its triangles
    return list(zip(points[::2], points[1::2], strict=True))


def test_every_kind_in_the_registry_is_tried_here():
    assert set(MEETING) == set(REGISTRY) - {"mitre", "bevel"}  # of boards at any angle: layout/test_angle_joints.py


@settings(max_examples=drawn(80))
@given(pairs(FILLING))
def test_with_no_clearance_the_boards_fill_their_blanks_overlap_nowhere_and_stay_whole(drawn):
    kind, ta, tb, run, own = drawn
    built = build(pair(kind, ta, tb, run, **own).document(), nominal=True)
    assert [f.message for f in built.faults if f.code != "weak_tail"] == []
    a, b = (solid(built.parts[k]) for k in "ab")
    assert boxes_volume(built) == pytest.approx(a.volume() + b.volume(), rel=2e-5)
    assert (a ^ b).volume() < 1e-5 * min(a.volume(), b.volume())
    for part in built.parts.values():
        assert len(part.flat.pieces) == 1
        assert len(solid(part).decompose()) == 1
        assert mesh_of_part(part).volume == pytest.approx(solid(part).volume(), rel=1e-6)


@settings(max_examples=drawn(60))
@given(pairs(list(MEETING)), st.sampled_from([0.1, 0.4]))
def test_with_clearance_nothing_overlaps_nothing_grows_and_outer_faces_stay(drawn, clearance):
    kind, ta, tb, run, own = drawn
    document = pair(kind, ta, tb, run, fit=f"{clearance} mm", **own).document()
    loose, nominal = build(document), build(document, nominal=True)
    a, b = (solid(loose.parts[k]) for k in "ab")
    assert (a ^ b).volume() < 1e-5 * min(a.volume(), b.volume())
    for key in "ab":
        one, other = solid(loose.parts[key]), solid(nominal.parts[key])
        assert one.volume() <= other.volume() * (1 + 1e-9)
        assert np.array(one.bounding_box()) == pytest.approx(np.array(other.bounding_box()), abs=0.011)
        assert len(one.decompose()) == 1


# (kind, meeting, line: axis and place, entries): along the line the slot of b and what of a lies in it are measured
LINES = [
    ("groove", "x", {"y": 13.0, "z": 60.0}, {"depth": "5 mm"}),
    ("tab_slot", "x", {"y": 7.0, "z": 60.0}, {"number": 1}),
    ("tab_slot", "z", {"y": 7.0, "x": 86.0}, {"number": 1}),
    ("mortise_tenon", "x", {"y": 7.0, "z": 60.0}, {"number": 1}),
    ("mortise_tenon", "z", {"y": 7.0, "x": 86.0}, {"number": 1}),
    ("mortise_tenon", "x", {"y": 12.0, "z": 60.0}, {"number": 1, "ends": "stopped", "thickness": "6 mm"}),
    ("cross_lap", "x", {"y": 97.0, "z": 20.0}, {}),
    ("cross_lap", "y", {"x": 86.0, "z": 100.0}, {}),
    ("notch", "y", {"x": 86.0, "z": 100.0}, {}),
    ("edge_key", "y", {"x": 105.0, "z": 6.0}, {"number": 1}),
    ("edge_key", "y", {"x": 101.0, "z": 6.0}, {"number": 1, "shape": "round"}),
]


@pytest.mark.parametrize("clearance", [0.0, 0.2, -0.1])
@pytest.mark.parametrize(("kind", "axis", "at", "more"), LINES)
def test_a_slot_is_wider_than_its_tab_by_the_clearance_half_of_it_on_each_side(kind, axis, at, more, clearance):
    built = build(pair(kind, fit=f"{clearance} mm", **more).document())
    a, b = (spans_along(built.parts[k], axis, at) for k in "ab")
    if len(b) == 1:  # here it is b that lies in a's slot
        a, b = b, a
    (tab,) = a
    before, after = max(s[1] for s in b if s[1] <= sum(tab) / 2), min(s[0] for s in b if s[0] >= sum(tab) / 2)
    # across a sloping flank the clearance is measured square to it, along the line it is a little more
    assert (after - before) - (tab[1] - tab[0]) == pytest.approx(clearance, abs=3e-3)
    assert tab[0] - before == pytest.approx(clearance / 2, abs=2e-3)


def test_a_lap_at_a_frames_cross_is_wider_than_the_other_board_by_the_clearance():
    draft = pair("half_lap", fit="0.3 mm")
    draft.data["parts"]["a"]["spans"]["x"]["low"] = draft.entry("-100")
    draft.data["parts"]["a"]["spans"]["y"] = {"low": draft.entry("80"), "high": draft.entry("130")}
    built = build(draft.document())
    assert built.joints["a-b"].form == "cross"
    above = spans_along(built.parts["a"], "x", {"y": 105.0, "z": 9.0})
    assert above[1][0] - above[0][1] == pytest.approx(60.3, abs=1e-3)


def milled(layer: PlacedLayer, radius: float) -> PlacedLayer:
    """A layer as a round bit leaves it: what is to go is only gone where the bit can get."""
    x0, y0, x1, y1 = layer.outline.bounds
    room = shapely.box(x0 - 50, y0 - 50, x1 + 50, y1 + 50)
    void = shapely.difference(room, layer.outline)
    reached = void.buffer(-radius, quad_segs=64).buffer(radius, quad_segs=64)
    outline = shapely.difference(shapely.box(x0, y0, x1, y1), reached)
    return PlacedLayer(layer.u, layer.v, layer.normal, layer.low, layer.high, outline)


def bite(document) -> float:
    """How far the two boards bite into one another when both come from a 6 mm bit, in mm."""
    built = build(document)
    a, b = ([milled(layer, 3.0) for layer in placed_layers(built.parts[k])] for k in "ab")
    return max((common(x, y, 0.02) for x in a for y in b), default=0.0)


@settings(max_examples=drawn(50))
@given(pairs(ROUTED), st.sampled_from(["dog_bone", "t_bone"]))
def test_after_a_round_bit_has_followed_the_contour_the_mate_still_goes_in(drawn, relief):
    kind, ta, tb, run, own = drawn
    draft = pair(kind, ta, tb, run, cutter="router", relief=relief, fit="0.05 mm", **own)
    draft.data["cutters"]["router"]["bits"] = {}  # a finer bit would cut what this one does not get into
    document = draft.document()
    if any(p.fault.code in ("under_kerf", "weak_tail") for p in check(build(document))):
        return  # the bit does not fit in at all, and that is said
    assert bite(document) == 0.0


@pytest.mark.parametrize("kind", ["mortise_tenon", "tab_slot", "finger"])
def test_without_a_relief_it_does_not_and_that_is_said(kind):
    document = pair(kind, cutter="router", relief="none", fit="0.05 mm").document()
    assert bite(document) > 0.0
    found = [p.fault for p in check(build(document)) if p.fault.code == "round_corners"]
    assert found and found[0].mends[0].patch[0]["value"] == "dog_bone"


@pytest.mark.parametrize("kind", ["dowels", "screws"])
@given(ta=st.floats(12, 25), tb=st.floats(12, 25), run=st.floats(100, 300), number=st.integers(2, 4))
@settings(max_examples=drawn(20))
def test_both_borings_of_a_pair_lie_in_line(kind, ta, tb, run, number):
    built = build(pair(kind, ta, tb, run, number=number).document())
    assert not built.faults
    a, b = built.parts["a"].flat, built.parts["b"].flat
    assert len(a.bores) == number
    holes = sorted((p.contour if kind == "dowels" else p).as_circle for p in (b.pockets if kind == "dowels" else b.inside))
    heights = sorted((x[1]) for x in holes)
    assert heights == pytest.approx(sorted(bore.along for bore in a.bores))
    for x, _, _ in holes:  # the hole in the face stands over the middle of the edge
        assert x == pytest.approx(80 + ta / 2, abs=1e-3)
    assert all(bore.w == pytest.approx(ta / 2, abs=1e-3) for bore in a.bores)


def test_a_dovetails_flanks_have_the_slope_that_was_asked_for():
    for slope, tangent in (("1:6", 1 / 6), ("1:8", 1 / 8)):
        built = build(pair("dovetail", slope=slope, number=2).document(), nominal=True)
        (bevel, _) = built.parts["b"].flat.bevels
        widths = sorted(c.bounds[3] - c.bounds[1] for c in (bevel.on_a, bevel.on_b))
        assert (widths[1] - widths[0]) / 2 / 15.0 == pytest.approx(tangent)
        tail = built.joints["a-b"].fingers[0]
        assert widths[1] == pytest.approx(tail.high - tail.low)


def test_a_panel_grows_into_its_groove_by_the_depth_less_the_end_play():
    built = build(pair("groove", depth="6 mm", end_play="0.5 mm").document())
    assert built.parts["a"].box.span("y") == pytest.approx((15 - 5.5, 160))
    assert built.parts["a"].span_box.span("y") == pytest.approx((15, 160))


def test_a_stopped_groove_notches_a_panel_that_ends_flush_and_shows_nothing_outside():
    built = build(pair("groove", ends="stopped", stop="20 mm", depth="6 mm").document(), nominal=True)
    (groove,) = built.parts["b"].flat.pockets
    assert (groove.contour.bounds[1], groove.contour.bounds[3]) == pytest.approx((20, 100))
    assert built.parts["a"].flat.bounds[0] == pytest.approx(-6)
    assert built.parts["a"].flat.area == pytest.approx(145 * 120 + 6 * 80, rel=1e-6)


def test_stacked_layers_make_up_a_thickness_and_cut_nothing():
    built = build(pair("face_glue", outline=True).document())
    assert built.joints["a-b"].details["together"] == pytest.approx(27)
    assert built.parts["b"].flat.plain and len(built.parts["b"].flat.engraved) == 1


def test_joints_survive_a_change_of_size_and_say_so_when_they_lose_their_contact():
    draft = pair("groove", depth="6 mm")
    assert build(draft.document()).parts["b"].flat.pockets
    draft.data["parts"]["a"]["spans"]["y"]["low"] = draft.entry("b.back + 4")
    apart = build(draft.document())
    assert apart.joints["a-b"].refused == "a ends 4 mm before b"
    assert not apart.parts["b"].flat.pockets and apart.parts["a"].box == apart.parts["a"].span_box
