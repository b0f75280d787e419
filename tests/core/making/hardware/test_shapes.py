"""Bodies read from files: what is found in them, how they are placed by it, their holes taken over, a newer file in their place."""

import math

import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

from zygon.design.draft import Draft
from zygon.design.parts.bought import Solid
from zygon.design.patch import patched
from zygon.edits.fittings import replace_shape
from zygon.edits.holes_over import take_holes
from zygon.errors import DocumentError, ImportFileError
from zygon.exchange.step import _written, mesh_record, read_step, solid_record
from zygon.exchange.to_buy import to_buy
from zygon.geometry.exact import compound
from zygon.geometry.found import find, names_kept
from zygon.making.pipeline import build
from zygon.making.solids.exact import placed_solid
from zygon.making.solids.solids import solid_in_room


def cylinder(at, way, across, long):
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(*at), gp_Dir(*way)), across / 2, long).Shape()


def bracket(long=60, hole=5, low=(7, -3, 11), more=0):
    """A plate of 60 x 40 x 6 with four holes through it, a blind one in its edge and a pin on top, not at the origin."""
    x, y, z = low
    shape = BRepPrimAPI_MakeBox(gp_Pnt(x, y, z), gp_Pnt(x + long, y + 40, z + 6)).Shape()
    for dx in (8, long - 8):
        for dy in (8, 32):
            shape = BRepAlgoAPI_Cut(shape, cylinder((x + dx, y + dy, z - 1), (0, 0, 1), hole, 10)).Shape()
    shape = BRepAlgoAPI_Cut(shape, cylinder((x - 1, y + 20, z + 3), (1, 0, 0), 3, 13)).Shape()
    shape = BRepAlgoAPI_Fuse(shape, cylinder((x + long / 2, y + 20, z + 6), (0, 0, 1), 10, 12)).Shape()
    for n in range(more):
        shape = compound([shape, BRepPrimAPI_MakeBox(gp_Pnt(x, y, z + 40 + 20 * n), gp_Pnt(x + 5, y + 5, z + 45 + 20 * n)).Shape()])
    return shape


@pytest.fixture
def written(tmp_path):
    def write(shape, name="bracket.step"):
        path = tmp_path / name
        path.write_bytes(_written([("bracket", shape)], "bracket"))
        return solid_record(path, name)

    return write


def test_holes_pins_and_faces_are_found_with_their_axes(written):
    record = written(bracket())
    holes = {(tuple(h["opens"]), tuple(h["ends"]), h["across"], h["through"]) for h in record["holes"] if not h.get("outer")}
    assert holes == {((x, y, 6.0), (x, y, 0.0), 5.0, True) for x in (8.0, 52.0) for y in (8.0, 32.0)} | {
        ((0.0, 20.0, 3.0), (12.0, 20.0, 3.0), 3.0, False)
    }
    pins = [h for h in record["holes"] if h.get("outer")]
    assert [(p["name"], p["across"]) for p in pins] == [("round_1", 10.0)]
    assert {tuple(f["looks"]) for f in record["faces"]} == {(0, 0, 1), (0, 0, -1), (1, 0, 0), (-1, 0, 0), (0, 1, 0), (0, -1, 0)}
    assert record["size"] == [60.0, 40.0, 18.0] and "solids" not in record


@pytest.mark.parametrize("kind", ["stl", "ply", "obj", "glb"])
def test_the_same_is_found_in_a_mesh(written, tmp_path, kind):
    record = written(bracket())
    path = tmp_path / f"bracket.{kind}"
    trimesh.Trimesh(np.array(record["positions"]).reshape(-1, 3) + 100, np.array(record["triangles"]).reshape(-1, 3), process=False).export(
        path
    )
    found = mesh_record(path, path.name)
    assert [(h["name"], h["opens"], h["across"], h["through"]) for h in found["holes"]] == [
        (h["name"], pytest.approx(h["opens"], abs=2e-3), pytest.approx(h["across"], abs=2e-3), h["through"]) for h in record["holes"]
    ]
    assert found["size"] == pytest.approx(record["size"], abs=1e-3) and found["volume"] == pytest.approx(record["volume"], rel=2e-3)


def test_several_solids_are_one_bought_line(written):
    record = written(bracket(more=2))
    assert len(record["solids"]) == 3
    built = build(placed(record).document())
    assert not built.faults and [(r.name, r.needed) for r in to_buy(built)] == [("fitting", 1)]
    assert built.made["fitting"].body.volume == pytest.approx(record["volume"])


@pytest.mark.parametrize(
    ("data", "said"),
    [(b"", "cannot be read|no mesh"), (b"solid x\nendsolid x\n", "no mesh|cannot be read"), (b"\x00" * 400, "cannot be read|no mesh")],
)
def test_a_mesh_that_is_none_is_refused(tmp_path, data, said):
    path = tmp_path / "broken.stl"
    path.write_bytes(data)
    with pytest.raises(ImportFileError, match=said):
        mesh_record(path, "broken.stl")


def test_a_mesh_that_is_open_is_refused(tmp_path):
    box = trimesh.creation.box((10, 10, 10))
    path = tmp_path / "open.stl"
    trimesh.Trimesh(box.vertices, box.faces[:-2], process=False).export(path)
    with pytest.raises(ImportFileError, match="not closed"):
        mesh_record(path, "open.stl")


@given(
    across=st.floats(1, 30),
    turn=st.floats(0, 2 * math.pi),
    lean=st.floats(0, math.pi / 2),
    chords=st.integers(16, 90),
    deep=st.floats(3, 19),
)
@settings(max_examples=60, deadline=None)
def test_a_hole_is_found_however_it_lies(across, turn, lean, chords, deep):
    """A tube and a pot of trimesh, turned anyhow: the axis, the diameter, and whether it is through."""
    ring = trimesh.creation.annulus(across / 2, across / 2 + 5, 20, sections=chords)
    motion = trimesh.transformations.rotation_matrix(turn, (0, 0, 1)) @ trimesh.transformations.rotation_matrix(lean, (0.6, 0.8, 0))
    motion[:3, 3] = (30, -20, 7)
    ring.apply_transform(motion)
    found = find(np.asarray(ring.vertices), np.asarray(ring.faces))
    (hole,) = [h for h in found["holes"] if not h.get("outer")]
    assert hole["through"] and hole["across"] == pytest.approx(across, abs=2e-3)
    middle = (np.array(hole["opens"]) + hole["ends"]) / 2
    assert middle == pytest.approx([30, -20, 7], abs=2e-3)
    way = np.subtract(hole["ends"], hole["opens"]) / np.linalg.norm(np.subtract(hole["ends"], hole["opens"]))
    assert abs(way @ motion[:3, 2]) == pytest.approx(1, abs=1e-5)
    assert deep < 20


def placed(record, **more):
    """The bracket on a board, by its underside and its middle."""
    d = Draft("fitted", "ply18", cutter="router")
    d.board("board", "ply18", "lying", "0", ("0", "200 mm"), ("0", "120 mm"))
    d.data["parts"]["fitting"] = {
        "kind": "hardware", "name": "fitting", "shape": record, "order": 5, "on": {"a": "board"},
        "at": {"x": d.entry("board.centre"), "y": d.entry("board.centre"), "z": d.entry("board.top")},
        "by": {"x": "centre", "y": "centre", "z": "bottom"}, **more,
    }  # fmt: skip
    return d


def holes_in(built):
    flat = built.flats["board"].flat
    return sorted((round(p.as_circle[0], 3), round(p.as_circle[1], 3), round(2 * p.as_circle[2], 3)) for p in flat.pockets if p.as_circle)


def test_a_fittings_holes_are_taken_over_in_one_act(written):
    document = placed(written(bracket())).document()
    built = build(document)
    assert not built.faults
    label, patch = take_holes(built, "fitting")
    assert label == "Holes of fitting" and len(patch) == 1
    after = build(patched(document.dump(), patch))
    assert not after.faults
    # the plate of 60 x 40 lies about the middle of 200 x 120; its four holes, not the blind one in its edge; 4 diameters of 3.5 into 17.7
    assert [h[:2] for h in holes_in(after)] == [(78, 48), (78, 72), (122, 48), (122, 72)]
    assert [s.words for s in after.sets.values()] == ["wood screw, round head 3.5 × 20"]  # 6 of the plate and 14
    assert (solid_in_room(after.made["fitting"]) ^ solid_in_room(after.made["board"])).volume() < 1e-3
    with pytest.raises(DocumentError, match="no hole that lies on a part"):
        take_holes(after, "fitting")


def test_placed_by_a_hole_that_was_found(written):
    record = written(bracket())
    d = placed(record)
    first = next(h for h in record["holes"] if h["through"])
    d.data["parts"]["fitting"] |= {"by": {"x": first["name"], "y": first["name"], "z": "bottom"}}
    d.data["parts"]["fitting"]["at"] |= {"x": d.entry("50 mm"), "y": d.entry("40 mm")}
    built = build(d.document())
    low = built.made["fitting"].reaches[0]
    assert (low[0], low[1]) == (pytest.approx(50 - first["opens"][0]), pytest.approx(40 - first["opens"][1]))
    d.data["parts"]["fitting"]["by"]["x"] = "hole_99"
    faults = build(d.document()).faults
    assert [(f.code, f.entry) for f in faults] == [("bad_position", "/parts/fitting/by/x")]


def test_a_newer_file_keeps_what_was_built_on_the_older_one(written):
    document = placed(written(bracket())).document()
    document = patched(document.dump(), take_holes(build(document), "fitting")[1])
    newer = written(bracket(long=70, hole=5.5), "newer.step")
    label, patch = replace_shape(build(document), "fitting", Solid.model_validate(newer))
    assert label == "fitting: newer.step"
    after = build(patched(document.dump(), patch))
    assert not after.faults
    assert [h[:2] for h in holes_in(after)] == [(73, 48), (73, 72), (127, 48), (127, 72)]
    with pytest.raises(DocumentError, match="one that was read"):
        replace_shape(build(document), "board", Solid.model_validate(newer))


def test_a_hole_that_a_newer_file_has_not_is_said_at_its_bore(written):
    document = placed(written(bracket())).document()
    document = patched(document.dump(), take_holes(build(document), "fitting")[1])
    plain = BRepPrimAPI_MakeBox(gp_Pnt(0, 0, 0), gp_Pnt(60, 40, 6)).Shape()
    _, patch = replace_shape(build(document), "fitting", Solid.model_validate(written(plain, "plain.step")))
    faults = build(patched(document.dump(), patch)).faults
    assert [f.code for f in faults] == ["bad_hole"] and "has no such hole" in faults[0].message


def test_names_stay_with_what_lies_where_it_lay(written):
    record = written(bracket())
    shuffled = {**record, "holes": [{**h, "name": f"hole_{9 - n}"} for n, h in enumerate(reversed(record["holes"]))]}
    kept = names_kept(record, shuffled)
    by_place = {tuple(h["opens"]): h["name"] for h in record["holes"]}
    assert {tuple(h["opens"]): h["name"] for h in kept["holes"]} == by_place


def test_a_step_file_gives_it_back_where_it_lies(written, tmp_path):
    built = build(placed(written(bracket()), looks="-z", along="+y").document())
    assert not built.faults
    path = tmp_path / "out.step"
    path.write_bytes(_written([("fitting", placed_solid(built.made["fitting"]))], "out"))
    _, volume = read_step(path, "out.step")
    assert volume == pytest.approx(built.made["fitting"].body.volume, rel=2e-3)


def test_a_mirrored_fitting_has_its_holes_mirrored(written):
    document = placed(written(bracket())).document()
    document = patched(document.dump(), take_holes(build(document), "fitting")[1])
    data = document.dump()
    data["copies"]["other"] = {
        "kind": "mirror",
        "name": "other",
        "axis": "x",
        "at": {"text": "-20 mm"},
        "of": ["part:board", "part:fitting"],
        "order": 1,
    }
    built = build(patched(data, []))
    assert not built.faults
    copies = [p for p in built.made.values() if p.of == "fitting" and p.made_by]
    boards = [p for p in built.flats.values() if p.made_by]
    assert len(copies) == 1 and len(boards) == 1
    assert sum(len(s.places) for s in built.sets.values()) == 8
    assert (solid_in_room(copies[0]) ^ solid_in_room(boards[0])).volume() < 1e-3
