"""Tubes and bars of any section as parts: how they lie along each axis and which way round, by other libraries' reckoning; mass, names, copies, faults."""

import itertools
import math

import numpy as np
import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.axles import place_axle
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list
from zygon.exchange.step import read_step, write_step
from zygon.making.asked.measured import weigh
from zygon.making.flats.exact import is_sound, volume
from zygon.making.kinds.registry import layers_of_part, meshes_of, sizes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.solids.exact import placed_solid
from zygon.stock.section import Section

ACROSS = {"x": ("y", "z"), "y": ("z", "x"), "z": ("x", "y")}
#: What is said of a stock, and the section that it is.
STOCKS = {
    "round tube": ({"shape": "round", "nominal": "42.4", "wall": "2"}, Section("round", 42.4, wall=2)),
    "square tube": ({"shape": "square", "nominal": "40", "wall": "3", "corner": "6"}, Section("square", 40, wall=3, corner=6)),
    "flat": ({"shape": "rectangle", "nominal": "5", "width": "30"}, Section("rectangle", 5, 30)),
    "tube of 50 by 30": ({"shape": "rectangle", "nominal": "30", "width": "50", "wall": "2"}, Section("rectangle", 30, 50, wall=2)),
    "hexagon": ({"shape": "hexagon", "nominal": "10"}, Section("hexagon", 10)),
}


def stocked(said: dict, **more) -> Draft:
    d = Draft("tubes", "ply18", "steel6", "beech12")
    bar = d.data["stocks"]["steel6"]
    bar.pop("measured", None)
    bar |= {k: v if k == "shape" else {"text": v} for k, v in said.items()} | more
    return d


def member(said: dict, axis: str, wide: str | None = None, **more):
    d = stocked(said, **more)
    d.rod("member", "steel6", axis, ("10 mm", "147 mm"), **dict(zip(ACROSS[axis], ("33 mm", "52 mm"), strict=True)))
    if wide:
        d.data["parts"]["member"]["wide"] = wide
    return d


@pytest.mark.parametrize(("axis", "turned"), list(itertools.product("xyz", (None, 0, 1))))
@pytest.mark.parametrize("name", STOCKS)
def test_a_member_lies_along_its_axis_with_its_width_where_it_is_said(name, axis, turned, tmp_path):
    said, section = STOCKS[name]
    wide = None if turned is None else ACROSS[axis][turned]
    built = build(member(said, axis, wide).document())
    assert not built.faults
    part = built.made["member"]
    first = next(a for a in "xyz" if a != axis)
    low, high = {axis: 10.0}, {axis: 147.0}
    for other, at in zip(ACROSS[axis], (33.0, 52.0), strict=True):
        half = section.extents[0 if other == (wide or first) else 1] / 2
        low[other], high[other] = at - half, at + half
    assert part.reaches[0] == pytest.approx([low[a] for a in "xyz"], abs=2e-3) and part.box.low == pytest.approx([low[a] for a in "xyz"])
    assert part.reaches[1] == pytest.approx([high[a] for a in "xyz"], abs=2e-3) and part.box.high == pytest.approx([high[a] for a in "xyz"])
    assert np.linalg.det(np.array(part.matrix)[:3, :3]) == pytest.approx(1)
    whole = section.area * 137
    solid = placed_solid(part)
    assert volume_of_part(part) == pytest.approx(whole) and is_sound(solid) and volume(solid) == pytest.approx(whole, rel=1e-6)
    (mesh,) = meshes_of(part)
    assert mesh.moments()[0] == pytest.approx(whole, rel=0.03)
    placed = mesh.positions @ np.array(part.matrix)[:3, :3].T + np.array(part.matrix)[:3, 3]
    assert placed.min(axis=0) == pytest.approx(part.reaches[0], abs=0.06) and placed.max(axis=0) == pytest.approx(part.reaches[1], abs=0.06)
    (layer,) = layers_of_part(part)
    assert layer.outline.area == pytest.approx(section.area, rel=2e-3) and (layer.low, layer.high) == (0, 137)
    path = tmp_path / "member.step"
    path.write_bytes(write_step(built))
    assert read_step(path, "member.step")[1] == pytest.approx(whole, rel=1e-6)


@pytest.mark.parametrize("name", STOCKS)
def test_its_row_has_its_sizes_and_what_it_weighs(name):
    said, section = STOCKS[name]
    (row,) = cut_list(build(member(said, "y").document()))
    small, large = sorted(section.extents)
    assert row.length == pytest.approx(137) and row.mass == pytest.approx(section.area * 137 * 7.85 / 1000)
    assert row.width == (pytest.approx(large) if large - small > 0.001 else None)
    stated = build(member(said, "y", metre=3.2).document())
    assert cut_list(stated)[0].mass == pytest.approx(3.2 * 137)  # g
    assert weigh(stated, ["member"]).mass == pytest.approx(3.2 * 137)
    assert sizes_of(stated.made["member"]).thickness == pytest.approx(small)


def test_other_entries_name_its_sides_as_it_lies():
    d = member(STOCKS["flat"][0], "x", "z")
    d.board("shelf", "ply18", "lying", "member.top", ("0", "100 mm"), ("member.back", "member.back + 50 mm"), face="bottom")
    built = build(d.document())
    assert built.made["shelf"].box.low == pytest.approx((0, 33 + 2.5, 52 + 15))


def test_a_rod_in_a_tube_overlaps_nothing_and_one_in_its_wall_does():
    for at, codes in (("52 mm", []), ("70 mm", ["overlap"])):
        d = member(STOCKS["round tube"][0], "x")
        d.rod("inside", "beech12", "x", ("0", "160 mm"), y="33 mm", z=at)
        assert [p.fault.code for p in check(build(d.document())) if p.fault.code in ("overlap",)] == codes


@pytest.mark.parametrize("plane", "xyz")
@pytest.mark.parametrize("axis", "xyz")
def test_members_that_are_mirrored_are_equal_and_lie_across_the_plane(axis, plane):
    d = member(STOCKS["tube of 50 by 30"][0], axis)
    d.mirror("across", plane, "300 mm", "part:member", names={"member": "other"})
    built = build(d.document())
    (row,) = cut_list(built)
    assert row.quantity == 2
    one, other = built.made.values()
    k = "xyz".index(plane)
    assert other.reaches[0][k] == pytest.approx(600 - one.reaches[1][k], abs=2e-3)
    assert np.linalg.det(np.array(other.matrix)[:3, :3]) == pytest.approx(1)


@pytest.mark.parametrize(
    "said, field, value",
    [
        ({"shape": "round", "nominal": "20", "wall": "10"}, "wall", "10 mm"),
        ({"shape": "square", "nominal": "20", "corner": "12"}, "corner", "12 mm"),
        ({"shape": "rectangle", "nominal": "20", "width": "-4"}, "width", "-4 mm"),
    ],
)
def test_what_a_section_cannot_be_is_said_of_its_entry_and_a_solid_stands(said, field, value):
    built = build(member(said, "z").document())
    (fault,) = [f for f in built.faults if f.entry == f"/stocks/steel6/{field}"]
    assert fault.value == value and f"a {field} of {value}" in fault.message and fault.rule
    assert volume_of_part(built.made["member"]) > 0


def test_a_width_runs_across_a_member_and_a_square_axle_turns_in_round_holes():
    with pytest.raises(DocumentError, match="lies across it"):
        member(STOCKS["flat"][0], "x", "x").document()
    d = member(STOCKS["square tube"][0], "x")
    d.board("wall", "ply18", "facing_front", "200 mm", ("0", "300 mm"), ("0", "300 mm"), face="front")
    built = build(d.document())
    _, patch = place_axle(built, "steel6", "wall", "front", (100.0, 200.0, 100.0))
    hole = build(patched(built.document.dump(), patch)).flats["wall"].flat.inside[0].as_circle
    # 40 square with corners of 6: its corners reach 14 times the root of 2 and 6, and 0.2 of play
    assert hole is not None and hole[2] == pytest.approx(14 * math.sqrt(2) + 6 + 0.1, abs=2e-3)


def test_a_bar_that_says_no_section_is_round_and_solid():
    d = Draft("old", "steel6")
    d.data["stocks"]["steel6"].pop("shape", None)
    d.rod("member", "steel6", "x", ("0", "100 mm"), y="0", z="0")
    assert volume_of_part(build(d.document()).made["member"]) == pytest.approx(math.pi * 9 * 100)
