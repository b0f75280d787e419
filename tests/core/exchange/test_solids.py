"""Exact solids: Open CASCADE as the referee of folded volumes, and files read back by it and by trimesh."""

import io
import json
import math

import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.metal.test_folding import exact_volume, trees
from tests.core.making.metal.test_kinds import profile
from tests.core.making.metal.trays import entry, flange, folded, part_of, solid
from tests.explore import drawn
from zygon.cli import main
from zygon.design.examples import example
from zygon.errors import ImportFileError, ZygonError
from zygon.exchange.meshes import write_mesh
from zygon.exchange.step import read_step, solid_record, write_step, write_step_flat
from zygon.making.flats.exact import is_sound, solid_of, volume
from zygon.making.flats.layers import volume_of
from zygon.making.metal.zones import zones_of
from zygon.making.pipeline import build
from zygon.making.solids.exact import placed_solid


@given(trees(), st.floats(0.5, 3), st.floats(0.2, 0.5))
@settings(max_examples=drawn(16))
def test_open_cascade_finds_the_volume_of_any_tree_of_flanges(flanges, t, k):
    """Thickness times the middle surface, with bends A (R + T/2) wide (geometry)."""
    part = part_of(folded(flanges, thickness=t, k=k))
    found = solid_of(part.flat)
    assert is_sound(found)
    assert volume(found) == pytest.approx(exact_volume(part), rel=1e-5)  # corners are kept to a hundredth of a micrometre


TRAY = {s: flange(s, 30, order=n) for n, s in enumerate(("left", "front", "right", "back"))}
HOLE = {"kind": "hole", "u": {"origin": "right", "offset": entry(2)}, "v": {"origin": "centre", "offset": entry(0)}, "diameter": entry(12)}
SLOT = {**HOLE, "kind": "slot", "length": entry(40), "width": entry(8), "angle": entry("30 deg")}
del SLOT["diameter"]


@pytest.mark.parametrize(
    ("flanges", "features"),
    [
        (TRAY, {}),
        ({**TRAY, **{f"{s}_lip": flange("end", 12, on=s, order=5) for s in TRAY}}, {}),
        ({"right": flange("right", 40)}, {"h": HOLE}),  # a hole across the bend: ellipses on the cylinders
        ({"right": flange("right", 40, angle="50 deg", radius=6)}, {"s": SLOT}),
        ({"hem": flange("right", 12, kind="hem", gap=1)}, {}),
        ({"c": profile("right", (40, 90), (15, -60), (20, 45))}, {}),
        ({"tab": {**flange("right", 30, extent="centred", first=40), "rounding": entry(8), "relief": {"style": "round"}}}, {}),
    ],
)
def test_shapes_that_are_cut_across_bends_are_sound_and_as_large_as_their_mesh(flanges, features):
    part = part_of(folded(flanges, features=features, radius=2))
    found = solid_of(part.flat)
    assert is_sound(found)
    assert volume(found) == pytest.approx(solid(part).volume, rel=5e-3)


def test_a_hole_across_a_bend_takes_what_it_takes_on_the_flat_but_for_the_neutral_line():
    """Without the shift by K the hole would take its area times the thickness; across the bend it takes the middle surface's share."""
    plain = part_of(folded({"right": flange("right", 40)}, radius=2, k=0.5))
    holed = part_of(folded({"right": flange("right", 40)}, features={"h": HOLE}, radius=2, k=0.5))
    taken = volume(solid_of(plain.flat)) - volume(solid_of(holed.flat))
    assert taken == pytest.approx(math.pi * 36 * holed.flat.thickness, rel=1e-5)


@given(trees())
@settings(max_examples=drawn(20))
def test_regions_meet_edge_to_edge(flanges):
    part = part_of(folded(flanges))
    regions = zones_of(part.flat.pieces, part.flat.fold)
    shared = [e for r in regions for ring in r.rings for e in ring if e.shared]
    assert len(shared) % 2 == 0
    assert len(shared) >= 4 * len(part.flat.fold.bends)
    free = sum(math.dist(e.p, e.q) for r in regions for ring in r.rings for e in ring if not e.shared)
    assert free == pytest.approx(sum(p.outer.length for p in part.flat.pieces), abs=1e-2)


@pytest.mark.parametrize("name", ["hive-floor", "rebated-box", "splayed-stand", "electronics-box"])
def test_boards_with_depth_bevels_and_bores_have_exact_solids_too(name):
    for part in build(example(name)).flats.values():
        if part.flat.pieces and not part.made_by:
            found = solid_of(part.flat)
            assert is_sound(found), part.path
            assert volume(found) == pytest.approx(volume_of(part.flat), rel=6e-3), part.path


def test_step_read_back_has_the_same_volume_and_is_closed_and_valid(tmp_path):
    built = build(example("electronics-box"))
    path = tmp_path / "box.step"
    path.write_bytes(write_step(built))
    shape, found = read_step(path, "box.step")
    assert is_sound(shape)
    hardware = [p.hardware for one in built.sets.values() for place in one.places for p in place.pieces]
    own = sum(volume(placed_solid(p)) for p in built.flats.values()) + sum(s.volume for h in hardware for s in h.slices)
    assert found == pytest.approx(own, rel=1e-6) and hardware
    text = path.read_text()
    assert all(f"PRODUCT('{name}'" in text for name in ("base", "lid", "fan_40"))


def test_a_flat_as_step_is_as_thick_as_its_stock(tmp_path):
    part = build(example("roof")).parts["roof"]
    path = tmp_path / "flat.step"
    path.write_bytes(write_step_flat(part))
    shape, found = read_step(path, "flat.step")
    assert is_sound(shape)
    assert found == pytest.approx(part.flat.area * part.flat.thickness, rel=1e-6)


@pytest.mark.parametrize("to", ["stl", "3mf", "glb"])
def test_meshes_read_back_by_another_library_have_the_volume_of_the_parts(to):
    built = build(example("frame-rests"))
    scene = trimesh.load(io.BytesIO(write_mesh(built, to)), file_type=to, force="scene")
    scale = 1e9 if to == "glb" else 1.0  # glTF is in metres
    found = sum(abs(m.volume) for m in scene.dump()) * scale
    assert found == pytest.approx(sum(volume_of(p.flat) for p in built.flats.values()), rel=1e-4)
    size = scene.extents * (1000 if to == "glb" else 1)
    assert sorted(size)[-1] == pytest.approx(370, abs=1e-3)
    if to == "glb":  # y is up
        assert size[1] == pytest.approx(
            max(p.reaches[1][2] for p in built.parts.values()) - min(p.reaches[0][2] for p in built.parts.values()), abs=1e-2
        )


def test_a_solid_that_is_read_stands_as_a_mesh_of_its_volume(tmp_path):
    path = tmp_path / "rest.step"
    path.write_bytes(write_step(build(example("frame-rests"))))
    record = solid_record(path, "rest.step")
    mesh = trimesh.Trimesh(
        [record["positions"][i : i + 3] for i in range(0, len(record["positions"]), 3)],
        [record["triangles"][i : i + 3] for i in range(0, len(record["triangles"]), 3)],
    )
    assert mesh.volume == pytest.approx(record["volume"], rel=2e-2)
    assert min(record["positions"]) == 0
    assert record["size"][1] == pytest.approx(370, abs=1e-3)


def test_a_file_that_is_no_step_is_refused_by_name(tmp_path):
    path = tmp_path / "no.step"
    path.write_text("ISO-10303-21; nothing of it")
    with pytest.raises(ImportFileError, match=r"no\.step"):
        read_step(path, "no.step")


def test_nothing_to_write_is_said():
    from zygon.design.draft import Draft

    with pytest.raises(ZygonError, match="nothing to write"):
        write_mesh(build(Draft("empty", "galv20").document()), "stl")


def test_the_command_line_exports_step(tmp_path, capsys):
    design = tmp_path / "roof.json"
    design.write_text(json.dumps(example("roof").dump()))
    assert main(["export", str(design), "--to", "step", "--out", str(tmp_path / "out"), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["files"] == ["roof.step", "roof_roof_flat.step"]
    shape, _ = read_step(tmp_path / "out" / "roof.step", "roof.step")
    assert is_sound(shape)
