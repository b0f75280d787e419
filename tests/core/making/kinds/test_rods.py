"""Rods: where they lie along each axis, what is made of them by other libraries' reckoning, and what carries, names, copies and refuses them."""

import itertools
import math

import numpy as np
import pytest

from tests.core.making.tube.frames import key, stocked
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.layout import Place
from zygon.design.patch import patched
from zygon.edits.independent import make_independent
from zygon.errors import DocumentError
from zygon.exchange.bundle import cut_part, part_files
from zygon.exchange.cutlist import cut_list
from zygon.exchange.named import ExportError
from zygon.exchange.solids import solid_file, solid_part
from zygon.exchange.step import read_step, write_step
from zygon.making.asked.measured import measure, place_of, weigh
from zygon.making.asked.questions import offers_between
from zygon.making.flats.exact import is_sound, volume
from zygon.making.kinds.registry import meshes_of, sizes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.solids.exact import placed_solid
from zygon.nest.design import plans

D, LENGTH = 11.9, 137.0
ACROSS = {"x": ("y", "z"), "y": ("z", "x"), "z": ("x", "y")}
WORDS = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}


def rod(axis="x", run=("10 mm", "147 mm"), at=("33 mm", "52 mm"), stock="beech12"):
    d = Draft("rods", "ply18", "beech12", "steel6")
    return d.rod("axle", stock, axis, run, **dict(zip(ACROSS[axis], at, strict=True)))


def codes(built):
    return [p.fault.code for p in check(built) if p.fault.code != "no_speeds"]


@pytest.mark.parametrize("axis", "xyz")
def test_a_rod_lies_along_its_axis_about_its_centre_line(axis):
    built = build(rod(axis).document())
    part = built.made["axle"]
    k, (u, v) = "xyz".index(axis), ACROSS[axis]
    low, high = [0.0] * 3, [0.0] * 3
    low[k], high[k] = 10, 147
    for other, at in ((u, 33), (v, 52)):
        i = "xyz".index(other)
        low[i], high[i] = at - D / 2, at + D / 2
    assert part.reaches[0] == pytest.approx(low) and part.reaches[1] == pytest.approx(high)
    assert part.box.low == pytest.approx(low) and part.box.high == pytest.approx(high)
    assert np.linalg.det(np.array(part.matrix)[:3, :3]) == pytest.approx(1)
    assert not built.faults


@pytest.mark.parametrize("axis", "xyz")
def test_open_cascade_and_the_mesh_find_the_cylinder_s_volume(axis, tmp_path):
    """pi r^2 l (geometry); the mesh's chords lie within a sagitta."""
    built = build(rod(axis).document())
    part, whole = built.made["axle"], math.pi * (D / 2) ** 2 * LENGTH
    assert volume_of_part(part) == pytest.approx(whole, rel=1e-9)
    solid = placed_solid(part)
    assert is_sound(solid) and volume(solid) == pytest.approx(whole, rel=1e-9)
    (mesh,) = meshes_of(part)
    assert 0.985 * whole < mesh.moments()[0] < whole
    placed = mesh.positions @ np.array(part.matrix)[:3, :3].T + np.array(part.matrix)[:3, 3]
    assert placed.min(axis=0) == pytest.approx(part.reaches[0], abs=0.05) and placed.max(axis=0) == pytest.approx(part.reaches[1], abs=0.05)
    path = tmp_path / "axle.step"
    path.write_bytes(write_step(built))
    assert read_step(path, "axle.step")[1] == pytest.approx(whole, rel=1e-9)


def test_its_row_has_its_length_diameter_and_mass():
    d = (
        rod()
        .rod("second", "beech12", "z", ("0", "137 mm"), x="200 mm", y="0")
        .rod("short", "beech12", "z", ("0", "136 mm"), x="300 mm", y="0")
    )
    d.rod("steel", "steel6", "y", ("0", "137 mm"), x="400 mm", z="100 mm")
    built = build(d.document())
    rows = cut_list(built)
    assert [(r.part, r.quantity, r.length, r.width, r.area) for r in rows] == [
        ("axle, second", 2, 137, None, None),
        ("short", 1, 136, None, None),
        ("steel", 1, 137, None, None),
    ]
    assert rows[0].mass == pytest.approx(math.pi * 5.95**2 * 137 * 0.72 / 1000)
    assert rows[2].mass == pytest.approx(math.pi * 3**2 * 137 * 7.85 / 1000)
    assert [(r.nominal, r.measured) for r in rows] == [(12, 11.9), (12, 11.9), (6, None)]
    assert sizes_of(built.made["steel"]).thickness == 6
    assert weigh(built, ["axle", "steel"]).mass == pytest.approx(rows[0].mass + rows[2].mass, rel=5e-3)


def test_it_needs_no_flat_and_no_sheet():
    built = build(rod().document())
    assert built.flats == {} and part_files(built, "dxf", "compensated") == {} and plans(built) == []


@pytest.mark.parametrize(("axis", "end"), [*itertools.product("xyz", (0, 1))])
def test_its_ends_centre_and_thickness_are_named(axis, end):
    d = rod(axis)
    d.board(
        "stop",
        "ply18",
        {"x": "facing_side", "y": "facing_front", "z": "lying"}[axis],
        f"axle.{WORDS[axis][end]}",
        ("0", "100 mm"),
        ("0", "100 mm"),
    )
    u, v = ACROSS[axis]
    d.rod("beside", "steel6", axis, ("0", "50 mm"), **{u: f"axle.{WORDS[u][1]} + 3 mm", v: "axle.centre"})
    d.size("thick", "axle.thickness")
    built = build(d.document())
    assert not built.faults
    assert built.values["/sizes/thick/entry"].value == D
    assert built.made["stop"].box.span(axis)[0] == pytest.approx((10, 147)[end])
    beside = built.made["beside"]
    assert beside.box.span(u)[0] == pytest.approx(33 + D / 2 + 3 - 3) and sum(beside.box.span(v)) / 2 == pytest.approx(52)


@pytest.mark.parametrize("axis", "xyz")
def test_it_follows_a_size_there_and_back_and_says_what_is_reversed(axis):
    d = rod(axis, run=("10 mm", "10 mm + long")).size("long", "137 mm")
    document = d.document()
    first = build(document).made["axle"]

    def with_size(text):
        return patched(document.dump(), [{"op": "replace", "path": "/sizes/long/entry/text", "value": text}])

    assert sizes_of(build(with_size("3 in")).made["axle"]).length == pytest.approx(76.2)
    assert build(with_size("137 mm")).made["axle"] == first
    wrong = build(with_size("-4 mm"), build(document).good)
    (fault,) = [f for f in wrong.faults if f.code == "reversed_span"]
    low, high = WORDS[axis]
    assert fault.part == "axle" and fault.entry == "/parts/axle/span" and fault.rule == f"{high} lies beyond {low}"
    mended = patched(with_size("-4 mm").dump(), list(fault.mends[0].patch))
    assert sizes_of(build(mended).made["axle"]).length == pytest.approx(4)


def cheeks(axis="x", fit="0.2 mm", bored=("left", "right"), at="60 mm"):
    """Two boards that stand 200 mm apart with a rod through both."""
    plane, other = ("facing_side", "y") if axis == "x" else ("facing_front", "x")
    names = WORDS[axis]
    d = Draft("cheeks", "ply18", "beech12")
    d.board("left", "ply18", plane, "0", ("0", "100 mm"), ("0", "120 mm"))
    d.board("right", "ply18", plane, "200 mm", ("0", "100 mm"), ("0", "120 mm"), face=names[1])
    d.rod("axle", "beech12", axis, (f"left.{names[0]}", f"right.{names[1]}"), **{other: "40 mm", "z": at})
    for side in bored:
        d.bore(f"{side}_hole", axis, {other: "axle.centre", "z": "axle.centre"}, "axle.thickness", **{side: ("cut", fit)})
    return d


@pytest.mark.parametrize("axis", "xy")
def test_the_bores_that_it_lies_in_carry_it(axis):
    assert codes(build(cheeks(axis).document())) == []


@pytest.mark.parametrize(("axis", "side"), [*itertools.product("xy", ("left", "right"))])
def test_a_board_without_its_bore_is_in_its_way(axis, side):
    built = build(cheeks(axis, bored=({"left": "right", "right": "left"}[side],)).document())
    (fault,) = [p.fault for p in check(built) if p.fault.code == "overlap"]
    assert {fault.part, fault.other} == {side, "axle"}
    shared = float(fault.value.split()[0].replace(",", "")) * (1000 if "cm" in fault.value else 1)
    assert shared == pytest.approx(math.pi * 5.95**2 * 17.7, rel=0.02)


def test_a_bore_too_tight_by_two_tenths_bites():
    assert "overlap" in codes(build(cheeks(fit="-0.2 mm").document()))


def test_what_nothing_carries_drops_as_far_as_it_lies_high():
    built = build(cheeks(bored=(), at="180 mm").document())
    (fault,) = [p.fault for p in check(built) if p.fault.code == "drops"]
    assert fault.part == "axle" and fault.value == "54.05 mm" and fault.other in ("left", "right")


@pytest.mark.parametrize(("axis", "plane"), [*itertools.product("xyz", "xyz")])
def test_its_mirror_image_is_the_same_rod(axis, plane):
    d = rod(axis).mirror("m", plane, "300 mm", "part:axle", names={"axle": "other"})
    built = build(d.document())
    own, image = built.made["axle"], built.made["axle@m.1"]
    k = "xyz".index(plane)
    assert image.handed == 1 and np.linalg.det(np.array(image.matrix)[:3, :3]) == pytest.approx(1)
    for i in range(3):
        low, high = own.reaches[0][i], own.reaches[1][i]
        low, high = (600 - high, 600 - low) if i == k else (low, high)
        assert (image.reaches[0][i], image.reaches[1][i]) == pytest.approx((low, high))
    (row,) = cut_list(built)
    assert row.quantity == 2 and row.part == "axle, other"
    # its faces are called as they stand
    for n, word in enumerate(WORDS[plane]):
        face = place_of(built, Place(part="axle@m.1", what="face", name=word))
        assert face.centre[k] == pytest.approx(image.reaches[n][k])


def test_rows_and_rings_of_it_and_what_is_written_out_on_its_own():
    d = rod("y").repeat("row", "row", "part:axle", number="4", spacing="50 mm", axis="x")
    built = build(d.document())
    assert [round(p.reaches[0][0], 3) for p in built.made.values()] == [round(52 - D / 2 + 50 * n, 3) for n in range(4)]
    alone = build(patched(d.document().dump(), make_independent(built, "row")[1]))
    assert sorted(p.reaches for p in alone.made.values()) == sorted(p.reaches for p in built.made.values())
    assert not any(p.made_by for p in alone.made.values()) and not alone.faults


def test_turned_it_takes_the_room_that_a_slanting_cylinder_takes():
    """Along an axis a cylinder reaches l |w| + d sqrt(1 - w^2), w the cosine between both (geometry)."""
    built = build(rod("x").turn("axle", "z", "30 deg", x="10 mm", y="33 mm").document())
    low, high = built.made["axle"].reaches
    c, s = math.cos(math.pi / 6), math.sin(math.pi / 6)
    assert [h - l for l, h in zip(low, high, strict=True)] == pytest.approx([LENGTH * c + D * s, LENGTH * s + D * c, D])  # noqa: E741


def test_the_room_between_two_rods_is_that_between_their_rounds():
    d = rod("x").rod("other", "steel6", "x", ("0", "100 mm"), y="33 mm + 30 mm", z="52 mm + 40 mm")
    built = build(d.document())
    found = measure(built, Place(part="axle", what="part"), Place(part="other", what="part"))
    assert found.gap == pytest.approx(50 - D / 2 - 3, abs=0.05)


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("spoilt", ["missing", "own"])
def test_a_rod_says_where_it_lies_along_both_other_axes(axis, spoilt):
    d = rod(axis)
    at = d.data["parts"]["axle"]["at"]
    if spoilt == "missing":
        del at[ACROSS[axis][0]]
    else:
        at[axis] = at[ACROSS[axis][0]]
    with pytest.raises(DocumentError) as error:
        d.document()
    assert error.value.entry == "/parts/axle/at" and f"a rod along {axis} has a place along each of the two other axes" in str(error.value)


def test_rods_are_cut_from_bars_and_boards_from_sheet():
    with pytest.raises(DocumentError) as error:
        rod(stock="ply18").document()
    assert error.value.entry == "/parts/axle/stock" and "axle cannot be of Birch plywood 18 mm: a rod is cut from bar stock" in str(
        error.value
    )
    d = rod().board("wall", "beech12", "lying", "0", ("0", "100 mm"), ("0", "100 mm"))
    with pytest.raises(DocumentError) as error:
        d.document()
    assert error.value.entry == "/parts/wall/stock" and "a board is cut from sheet stock" in str(error.value)


@pytest.mark.parametrize("side", "ab")
def test_what_wants_a_plane_refuses_a_rod(side):
    d = rod().board("wall", "ply18", "lying", "0", ("0", "100 mm"), ("0", "100 mm"))
    d.joint("butt", *(("axle", "wall") if side == "a" else ("wall", "axle")))
    with pytest.raises(DocumentError) as error:
        d.document()
    joint = next(iter(d.data["joints"]))
    assert error.value.entry == f"/joints/{joint}/{side}" and "axle is a rod: a joint is between parts that lie in a plane" in str(
        error.value
    )


def test_a_bore_and_a_tracing_refuse_a_rod():
    d = rod().bore("b", "z", {"x": "0", "y": "0"}, "5 mm", axle=("cut", "0"))
    with pytest.raises(DocumentError) as error:
        d.document()
    assert error.value.entry == "/bores/b/parts/axle" and "axle is a rod: a bore goes through" in str(error.value)
    d = rod().board("wall", "ply18", "lying", "0", ("0", "100 mm"), ("0", "100 mm"), outline={"kind": "traced", "part": "axle"})
    with pytest.raises(DocumentError) as error:
        d.document()
    assert error.value.entry == "/parts/wall/outline/part" and "what is traced lies in a plane" in str(error.value)


@pytest.mark.parametrize("ends", [("axle", "wall"), ("wall", "axle")])
def test_asked_how_it_could_be_joined_it_says_what_holds_it(ends):
    d = rod().board("wall", "ply18", "lying", "0", ("0", "100 mm"), ("0", "100 mm"))
    with pytest.raises(DocumentError) as error:
        offers_between(d.document(), *ends)
    assert (
        error.value.entry == "axle"
        and str(error.value)
        == "axle is a rod: a joint is between parts that lie in a plane; bore a hole for it, which holds what goes through"
    )


@pytest.mark.parametrize("to", ["step", "stl", "3mf", "glb"])
def test_it_goes_out_alone_as_any_solid_but_not_as_a_flat(to):
    built = build(rod().board("wall", "ply18", "lying", "0", ("0", "100 mm"), ("0", "100 mm")).document())
    name, content = solid_file(built, to, solid_part(built, "axle"))
    assert name == f"rods_axle.{to}" and len(content) > 100
    with pytest.raises(ExportError, match="axle has no flat"):
        solid_file(built, "step", solid_part(built, "axle"), flat=True)
    with pytest.raises(ExportError, match="axle has nothing to cut"):
        cut_part(built, "axle")
    assert solid_file(built, "step", solid_part(built, "wall"), flat=True)[0] == "rods_wall_flat.step"


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("wide", ["", "other"])
@pytest.mark.parametrize("plane", "xyz")
@pytest.mark.parametrize("name", ["angle", "unequal angle", "channel", "tee", "flat"])
def test_a_length_of_what_is_open_is_mirrored_and_stays_one_row(name, plane, wide, axis):
    """In the room its corners are those of the first one, mirrored; on the bench both are one piece."""
    d = stocked(name)
    others = [a for a in "xyz" if a != axis]
    d.rod("bar", key(name), axis, ("10 mm", "310 mm"), **{others[0]: "40 mm", others[1]: "70 mm"})
    if wide:
        d.data["parts"]["bar"]["wide"] = others[1]
    d.mirror("other", plane, "0", "part:bar", name="other")
    built = build(d.document())
    assert not built.faults
    one, other = (built.made[k] for k in built.made if k.startswith("bar"))

    def corners(part, sign=1):
        (mesh,) = meshes_of(part)
        m = np.array(part.matrix)
        points = mesh.positions @ m[:3, :3].T + m[:3, 3]
        points[:, "xyz".index(plane)] *= sign
        return {tuple(p) for p in np.round(points, 3).tolist()}

    assert corners(one) == corners(other, -1)
    (row,) = cut_list(built)
    assert row.quantity == 2
    # and a third of another turn is the same piece
    d.rod("third", key(name), others[0], ("10 mm", "310 mm"), **{axis: "500 mm", others[1]: "70 mm"})
    assert [r.quantity for r in cut_list(build(d.document()))] == [3]
