"""Finger-jointed boxes at random: what the parts fill, and that nothing overlaps, comes loose or leaves a sliver."""

from itertools import combinations

import manifold3d
import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.shared import placed_mesh, solid_volume
from tests.explore import drawn
from zygon.check.overlap import common_length
from zygon.design.draft import Draft
from zygon.making.pipeline import build

thickness = st.floats(2, 16)


@st.composite
def boxes(draw, equal=None):
    """A box with random sizes, thicknesses, counts, pitches and starters, with or without lid, drafted like any other."""
    t = [draw(thickness)] * 6 if (draw(st.booleans()) if equal is None else equal) else [draw(thickness) for _ in range(6)]
    width, depth, height = (draw(st.floats(90, 400)) for _ in range(3))
    draft = Draft("box", "ply12")
    stock = draft.data["stocks"]["ply12"]
    names = ("front", "back", "left", "right", "floor", "lid")
    draft.data["stocks"] |= {
        f"s{i}": {**stock, "name": f"s{i}", "nominal": draft.entry(f"{x:.3f} mm"), "measured": None} for i, x in enumerate(t)
    }
    for record in draft.data["stocks"].values():
        if record.get("measured") is None:
            record.pop("measured", None)
    s = {n: f"s{i}" for i, n in enumerate(names)}
    draft.board("front", s["front"], "facing_front", 0, (0, width), (0, height))
    draft.board("back", s["back"], "facing_front", depth, (0, width), (0, height), face="back")
    draft.board("left", s["left"], "facing_side", 0, ("front.back", "back.front"), (0, height))
    draft.board("right", s["right"], "facing_side", width, ("front.back", "back.front"), (0, height), face="right")
    inside = (("left.right", "right.left"), ("front.back", "back.front"))
    draft.board("floor", s["floor"], "lying", 0, *inside)
    if draw(st.booleans()):
        draft.board("lid", s["lid"], "lying", height, *inside, face="top")
    for a, b in combinations(draft.data["parts"], 2):
        if {a, b} in ({"front", "back"}, {"left", "right"}, {"floor", "lid"}):
            continue
        how = draw(st.sampled_from(["auto", "count", "pitch"]))
        more = {"count": {"count": draw(st.integers(2, 9))}, "pitch": {"pitch": f"{draw(st.floats(12, 60)):.3f} mm"}, "auto": {}}[how]
        draft.joint("finger", a, b, fit=draw(st.sampled_from(["0", "0.1 mm", "0.3 mm"])), starts=draw(st.sampled_from(["a", "b"])), **more)
    return draft.document(), (width, depth, height)


@settings(max_examples=drawn(30))
@given(boxes())
def test_without_fit_the_parts_fill_their_blanks_and_overlap_nowhere(drawn):
    document, (width, depth, height) = drawn
    built = build(document, nominal=True)
    assert not built.faults
    parts = list(built.parts.values())
    t = {k: p.flat.thickness for k, p in built.parts.items()}
    top = t.get("lid", 0.0)
    hollow = (width - t["left"] - t["right"]) * (depth - t["front"] - t["back"]) * (height - t["floor"] - top)
    if not top:  # an open top: the sides reach up to the rim, and what they enclose is not filled
        hollow = (width - t["left"] - t["right"]) * (depth - t["front"] - t["back"]) * (height - t["floor"])
    assert solid_volume(built) == pytest.approx(width * depth * height - hollow, rel=1e-6)
    for a, b in combinations(parts, 2):
        assert common_length(a, b, 1e-3) == 0.0
    for part in parts:
        assert len(part.flat.pieces) == 1
        assert min(s.length for s in part.flat.pieces[0].outer.segments()) > 1e-3


@settings(max_examples=drawn(12))
@given(boxes())
def test_a_mesh_library_finds_the_same_volumes_and_no_overlap(drawn):
    """Referee: manifold3d's exact booleans on the solids in their places."""
    document, _ = drawn
    built = build(document, nominal=True)
    solids = {}
    for key, part in built.parts.items():
        mesh = placed_mesh(part)
        assert mesh.is_watertight or mesh.merge_vertices() is None
        solid = manifold3d.Manifold(manifold3d.Mesh(np.asarray(mesh.vertices, np.float32), np.asarray(mesh.faces, np.uint32)))
        assert solid.volume() == pytest.approx(part.flat.area * part.flat.thickness, rel=1e-4)
        solids[key] = solid
    for a, b in combinations(solids, 2):
        # float32 corners leave films of this order
        assert (solids[a] ^ solids[b]).volume() < 1e-4 * min(solids[a].volume(), solids[b].volume())


@settings(max_examples=drawn(20))
@given(boxes())
def test_with_fit_every_part_is_one_piece_and_outer_faces_never_move(drawn):
    document, (width, depth, height) = drawn
    loose, nominal = build(document), build(document, nominal=True)
    for key, part in loose.parts.items():
        assert len(part.flat.pieces) == 1
        assert part.flat.area <= nominal.parts[key].flat.area + 1e-6
    assert loose.parts["front"].flat.size[0] == pytest.approx(width, abs=1e-6)
    assert loose.parts["floor"].box.span("x") == pytest.approx((0, width), abs=1e-6)
    assert loose.parts["floor"].box.span("y") == pytest.approx((0, depth), abs=1e-6)
    assert loose.parts["left"].box.span("z") == pytest.approx((0, height), abs=1e-6)


@pytest.mark.parametrize("fit", [0.0, 0.08, 0.5, -0.1])
def test_fit_is_slot_minus_tab_with_half_on_each_flank(fit):
    draft = Draft("corner", "ply12")
    draft.board("front", "ply12", "facing_front", 0, (0, 200), (0, 90))
    draft.board("left", "ply12", "facing_side", 0, ("front.back", 200), (0, 90))
    draft.joint("finger", "front", "left", fit=f"{fit} mm", count=9)
    built = build(draft.document())
    along = shapely.LineString  # both boards crossed by a line within the corner's block, along the run

    def solid(key: str, u: float) -> list[tuple[float, float]]:
        from zygon.geometry.boolean import region_polygon

        part = built.parts[key]
        cut = shapely.intersection(region_polygon(part.flat.pieces[0]), along([(u, -1), (u, 91)]))
        return sorted((g.bounds[1], g.bounds[3]) for g in shapely.get_parts(cut))

    tabs, others = solid("front", 5.0), solid("left", -5.0)
    assert len(tabs) == 5 and len(others) == 4
    for (_, top), (low, high), (bottom, _) in zip(tabs, others, tabs[1:], strict=False):
        slot, tab = bottom - top, high - low
        assert slot - tab == pytest.approx(fit, abs=1e-5)
        assert low - top == pytest.approx(fit / 2, abs=1e-5)
        assert bottom - high == pytest.approx(fit / 2, abs=1e-5)


def test_pitch_leaves_both_ends_equal_and_the_others_half_a_pitch():
    draft = Draft("corner", "ply12")
    draft.board("front", "ply12", "facing_front", 0, (0, 200), (0, 100))
    draft.board("left", "ply12", "facing_side", 0, ("front.back", 200), (0, 100))
    draft.joint("finger", "front", "left", fit=0, pitch="30 mm")
    widths = [f.high - f.low for f in build(draft.document()).joints["front-left"].fingers]
    assert len(widths) % 2 == 1
    assert widths[0] == pytest.approx(widths[-1])
    assert widths[1:-1] == pytest.approx([15.0] * (len(widths) - 2))
    assert sum(widths) == pytest.approx(100)


@given(st.floats(20, 900), st.floats(1, 25))
def test_by_default_a_finger_is_at_least_as_wide_as_the_board_is_thick(run, t):
    from zygon.making.joints.finger import default_count

    n = default_count(run, t)
    assert n % 2 == 1
    assert n == 3 or run / n >= t - 1e-9


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [
        ("count", "1", "from 2 to 999"),
        ("count", "2.5", "whole number"),
        ("pitch", "-3 mm", "greater than 0"),
        ("pitch", "0", "greater than 0"),
    ],
)
def test_a_count_or_pitch_that_makes_no_sense_is_said(field, value, words):
    draft = Draft("corner", "ply12")
    draft.board("front", "ply12", "facing_front", 0, (0, 200), (0, 100))
    draft.board("left", "ply12", "facing_side", 0, ("front.back", 200), (0, 100))
    draft.joint("finger", "front", "left", **{field: value})
    faults = build(draft.document()).faults
    assert [f.entry for f in faults] == [f"/joints/front-left/{field}"]
    assert words in faults[0].rule
