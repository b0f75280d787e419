"""What a cutter leaves to hand stays off its path: pockets on a laser, small holes on a router, all holes on a saw."""

import io

import ezdxf
import pytest

from tests.core.making.joints.pairs import pair
from zygon.cut.kerf import by_hand_of, compensated
from zygon.cut.reckon import cutting_order
from zygon.design.draft import Draft
from zygon.exchange.bundle import part_file, part_files
from zygon.making.pipeline import build
from zygon.screen.design import built_data, part_resources


def board(cutter):
    """A board with a pocket, a blind hole, a small hole and a large one."""
    d = Draft("by hand", "ply12", cutter=cutter)
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    d.feature("p", "pocket", "pocket", ("left", "50"), ("front", "60"), width=40, height=20, depth=4, radius=5)
    d.feature("p", "blind", "hole", ("left", "110"), ("front", "60"), diameter=20, depth=5)
    d.feature("p", "small", "hole", ("left", "140"), ("front", "60"), diameter=4)
    d.feature("p", "large", "hole", ("left", "170"), ("front", "60"), diameter=20)
    return build(d.document())


# cutter, owners on its path, left to a drill (with depth), lines to work to
LEFT = [
    ("laser", {"small", "large"}, {("blind", 5.0)}, {"pocket"}),
    ("router", {"pocket", "blind", "large"}, {("small", 0.0)}, set()),
    ("saw", {"pocket"}, {("blind", 5.0), ("small", 0.0), ("large", 0.0)}, set()),
]


def word(contour):
    return contour.owners[0].rsplit(":", 1)[-1]


@pytest.mark.parametrize(("cutter", "path", "drills", "notes"), LEFT)
def test_each_kind_of_cutter_leaves_what_it_cannot_make(cutter, path, drills, notes):
    built = board(cutter)
    flat = built.parts["p"].flat
    found = compensated(flat, 0.0, by_hand_of(built.document.cutters[cutter], "ply12"))
    assert {word(c) for name, c in cutting_order([found]) if name != "outside"} == path
    assert {(word(d.contour), d.depth) for d in found.drills} == drills
    assert {word(c) for c in found.notes} == notes


def test_a_lasers_file_has_a_pocket_on_the_note_layer_only():
    """Cut along, it would fall through: the file must not offer it as a path. Read back by the DXF library."""
    built = board("laser")
    layers = {}
    for entity in ezdxf.read(io.StringIO(part_file(built, built.parts["p"], "dxf", "compensated")[1])).modelspace():
        layers.setdefault(entity.dxf.layer, []).append(entity)
    assert not [name for name in layers if name.startswith("DEPTH")]
    assert any(e.dxftype() == "LWPOLYLINE" for e in layers["NOTE"])
    assert len(layers["CUT_INSIDE"]) == 2 and len(layers["DRILL"]) == 1


@pytest.mark.parametrize(("cutter", "path", "drills", "notes"), LEFT)
def test_the_screen_says_the_same_as_the_files(cutter, path, drills, notes):
    built = board(cutter)
    flat = next(v for k, v in part_resources(built).items() if k.startswith("flat"))
    by = {}
    for row in flat["contours"]:
        by.setdefault(row["operation"], set()).add((row["owners"][0][0].rsplit(":", 1)[-1], row["depth"]))
    assert by.get("drill", set()) == drills
    assert {name for name, _ in by.get("note", set())} == notes
    assert {name for op in ("inside", "depth") for name, _ in by.get(op, set())} == path
    if cutter == "router":
        assert by["depth"] == {("pocket", 4.0), ("blind", 5.0)}


@pytest.mark.parametrize("kind", ["groove", "dowels", "mortise_tenon", "dovetail"])
def test_a_part_turns_on_screen_just_where_it_has_a_second_file(kind):
    built = build(pair(kind, cutter="router").document())
    rows = {p["key"]: p for p in built_data(built, [])["parts"]}
    files = part_files(built, "svg", "nominal")
    for key, row in rows.items():
        assert row["turns"] == any(f"_{key}_" in name and "second-side" in name for name in files)


def test_a_bought_board_is_neither_marked_nor_turned():
    draft = pair("groove", cutter="router")
    draft.data["parts"]["b"]["kind"] = "bought"
    draft.data["marks"] = {"numbers": True, "mates": True, "inside": True}
    built = build(draft.document())
    assert built.parts["b"].flat.engraved == () and built.parts["a"].flat.engraved
    assert not next(p for p in built_data(built, [])["parts"] if p["key"] == "b")["turns"]
