"""A part that falls apart: what cuts it, what hangs on nothing any more, and mends that leave it whole."""

import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.exchange.bends import write_bends
from zygon.making.pipeline import build

HERE = ("centre", "0")
SHAPES = {
    "curved in": {"kind": "edge_curve", "rise": "8 mm", "bulge": "in"},
    "curved out": {"kind": "edge_curve", "rise": "8 mm", "bulge": "out"},
}


def plate():
    d = Draft("d", "galv20")
    d.board("plate", "galv20", "lying", "0", (0, "200 mm"), (0, "160 mm"))
    d.fold("plate")
    return d


def said(document, *codes):
    return [p.fault for p in check(build(document)) if not codes or p.fault.code in codes]


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
def test_a_flange_on_a_slanting_edge_stands_along_it(edge):
    d = plate()
    d.feature("plate", "shape", "taper", HERE, HERE, edge=edge, low="3 mm", high="9 mm")
    d.flange("plate", "wall", edge, "31 mm").flange("plate", "lip", "end", "14 mm", on="wall")
    assert not said(d.document())


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("shape", SHAPES)
def test_a_flange_on_an_edge_that_is_not_straight_hangs_on_nothing_and_the_mend_straightens_it(edge, shape):
    d = plate()
    d.feature("plate", "shape", SHAPES[shape]["kind"], HERE, HERE, edge=edge, **{k: v for k, v in SHAPES[shape].items() if k != "kind"})
    d.flange("plate", "wall", edge, "31 mm").flange("plate", "lip", "end", "14 mm", on="wall")
    (fault,) = said(d.document())
    assert fault.code == "pieces" and "wall and lip hang on nothing any more, as the " in fault.message
    for mend in fault.mends:
        assert not said(patched(d.document().dump(), list(mend.patch)))
    assert len(fault.mends) == 2


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("where", ["before the bend", "over the bend", "behind the bend"])
def test_a_flange_that_is_cut_off_is_named_and_bent_no_more_once_it_is_thrown_away(edge, where):
    d = plate()
    offset = {"before the bend": "12 mm", "over the bend": "-1 mm", "behind the bend": "-21 mm"}[where]
    across = edge in ("front", "back")
    u, v = (HERE, (edge, offset)) if across else ((edge, offset), HERE)
    size = {"width": "240 mm", "height": "9 mm"} if across else {"width": "9 mm", "height": "240 mm"}
    d.feature("plate", "gap", "rectangle", u, v, **size)
    d.flange("plate", "wall", edge, "40 mm").flange("plate", "lip", "end", "14 mm", on="wall")
    names = "lip hangs" if where == "behind the bend" else "wall and lip hang"
    (fault,) = said(d.document(), "pieces")
    assert f"falls into 2 pieces: {names} on nothing any more, as the cut-out cuts it apart" in fault.message
    assert next(m.label for m in fault.mends) == "Do without the cut-out"
    assert not said(patched(d.document().dump(), list(fault.mends[0].patch)))
    assert not said(patched(d.document().dump(), list(fault.mends[1].patch)), "pieces")
    # thrown away all the same: no bend of it is left in any list
    d.data["parts"]["plate"]["loose"] = "removed"
    built = build(d.document())
    left = ["wall"] if where == "behind the bend" else []
    assert [b.key for b in built.parts["plate"].flat.fold.bends] == left
    assert write_bends(built).count("\r\n") == (2 if left else 0)
    (gone,) = said(d.document(), "flange_gone")
    assert gone.owner.startswith("flange:plate:") and (gone.part, gone.severity) == ("plate", "warning")
    assert not said(patched(d.document().dump(), list(gone.mends[0].patch)), "flange_gone", "pieces")


def test_the_plate_is_the_part_also_where_what_is_cut_off_is_larger():
    d = plate()
    d.flange("plate", "wall", "right", "400 mm")
    d.feature("plate", "gap", "rectangle", ("right", "10 mm"), HERE, width="9 mm", height="240 mm")
    d.data["parts"]["plate"]["loose"] = "removed"
    flat = build(d.document()).parts["plate"].flat
    assert not flat.fold.bends and flat.bounds[2] < 190


@pytest.mark.parametrize(("height", "thrown"), [("200 mm", False), ("360 mm", True)])
def test_a_leg_cut_in_half_is_not_offered_to_be_thrown_away(height, thrown):
    d = Draft("d", "ply12")
    d.board("leg", "ply12", "facing_front", "0", (0, "60 mm"), (0, "400 mm"))
    d.feature("leg", "gap", "rectangle", HERE, ("bottom", height), width="80 mm", height="10 mm", name="window")
    (fault,) = said(d.document(), "pieces")
    assert fault.message == "leg falls into 2 pieces: the cut-out window cuts it apart"
    assert ("Take the loose piece away" in [m.label for m in fault.mends]) == thrown
    for mend in fault.mends:
        assert not said(patched(d.document().dump(), list(mend.patch)), "pieces")


@pytest.mark.parametrize("kind", ["hole", "rectangle", "slot", "pocket", "groove"])
def test_what_lies_beside_its_board_is_said_once(kind):
    sizes = {
        "hole": {"diameter": "8 mm"},
        "rectangle": {"width": "20 mm", "height": "9 mm"},
        "slot": {"length": "20 mm", "width": "6 mm"},
        "pocket": {"width": "20 mm", "height": "9 mm", "depth": "3 mm"},
        "groove": {"width": "6 mm", "depth": "4 mm", "length": "50 mm", "along": "u"},
    }
    d = Draft("d", "ply12", cutter="router")
    d.board("side", "ply12", "facing_front", "0", (0, "200 mm"), (0, "400 mm"))
    d.feature("side", "f", kind, ("left", "-300 mm"), HERE, **sizes[kind])
    faults = said(d.document())
    assert [f.code for f in faults] == ["off_part"]
