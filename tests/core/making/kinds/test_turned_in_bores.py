"""Turned parts bring their holes: as wide as they are in each board, blind where they end, in copies."""

import pytest

from tests.core.making.kinds.test_rods_in_bores import holes
from tests.core.making.sets.stacks import PLANES
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.let_through import let_through
from zygon.making.pipeline import build
from zygon.making.solids.solids import solid_in_room

WORDS = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}


def bushed(axis="z", turned=False, ends=("{0}", "{1} + 3 mm")):
    """A board of 12 across an axis, and a bushing in it whose collar lies on its far face, or its near one."""
    d = Draft("bushed", "ply12", cutter="router")
    d.data["stocks"]["ply12"].pop("measured", None)
    d.data["stocks"]["ply12"]["nominal"] = d.entry("12 mm")
    d.board("wall", "ply12", PLANES[axis], "0 mm", ("0 mm", "120 mm"), ("0 mm", "90 mm"), face=WORDS[axis][0])
    low, high = (f"wall.{w}" for w in WORDS[axis])
    steps = [{"across": "12 mm", "length": "12 mm"}, {"across": "18 mm"}]
    run = tuple(e.format(low, high) for e in ends)
    if turned:
        steps, run = steps[::-1], (f"{low} - 3 mm", high)
    others = [a for a in "xyz" if a != axis]
    d.turned("bush", axis, run, "18 mm", *steps, at={others[0]: "40 mm", others[1]: "30 mm"}, bores={"b": {"across": "8.2 mm"}})
    return d.document()


@pytest.mark.parametrize("turned", [False, True])
@pytest.mark.parametrize("axis", "xyz")
def test_a_bushing_has_a_hole_for_its_barrel_and_its_collar_lies_on_the_face(axis, turned):
    document = bushed(axis, turned)
    label, patch = let_through(build(document), "bush")
    assert label == "Let bush through 1 board"
    built = build(patched(document.dump(), patch))
    assert not built.faults and holes(built, "wall") == [("through", 12.0)]
    assert (solid_in_room(built.made["wall"]) ^ solid_in_room(built.made["bush"])).volume() < 20  # chords of the one and of the other
    assert {p.fault.code for p in check(built)} <= {"no_speeds"}


def test_where_it_ends_in_a_board_the_hole_is_blind_and_as_wide_as_it_is_there():
    document = bushed(ends=("{0} + 4 mm", "{0} + 19 mm"))
    built = build(patched(document.dump(), let_through(build(document), "bush")[1]))
    # its barrel reaches from 4 to 16: 8 in the board, and a millimetre of room under it
    assert [(k, wide, deep) for k, wide, deep in holes(built, "wall")] == [("a", 12.0, pytest.approx(9.0))]


def test_a_thicker_step_in_the_board_widens_the_hole():
    data = bushed().dump()
    data["parts"]["bush"]["steps"]["s0"]["length"]["text"] = "10 mm"
    document = patched(data, [])
    built = build(patched(document.dump(), let_through(build(document), "bush")[1]))
    assert holes(built, "wall") == [("through", 18.0)]


def test_copies_of_a_bushing_have_holes_too():
    data = bushed().dump()
    data["copies"]["row"] = {
        "kind": "row", "name": "row", "of": ["part:bush"], "axis": "x", "order": 0, "number": {"text": "3"}, "spacing": {"text": "30 mm"},
    }  # fmt: skip
    document = patched(data, [])
    built = build(patched(document.dump(), let_through(build(document), "bush")[1]))
    assert holes(built, "wall") == [("through", 12.0)] * 3


@pytest.mark.parametrize("turned", [False, True])
@pytest.mark.parametrize("axis", "xyz")
def test_it_comes_out_on_the_side_of_its_collar_alone(axis, turned):
    from zygon.making.assembly.plan import assembly

    document = bushed(axis, turned)
    built = build(patched(document.dump(), let_through(build(document), "bush")[1]))
    loose = {one.part: set(one.ways) for one in assembly(built).loose}
    out = (axis, -1 if turned else 1)
    assert loose.get("bush", set()) == {out} - {("z", -1)}  # down is where all things go


def pinned(over="8 mm", **more):
    """A stepped pin through a wall, its thin end beyond the far face riveted over."""
    d = Draft("pinned", "ply12", cutter="router")
    d.data["stocks"]["ply12"].pop("measured", None)
    d.data["stocks"]["ply12"]["nominal"] = d.entry("12 mm")
    d.board("wall", "ply12", "facing_side", "0 mm", ("0 mm", "120 mm"), ("0 mm", "90 mm"))
    d.turned(
        "pin",
        "x",
        ("wall.left - 10 mm", "wall.right + 8 mm"),
        "12 mm",
        {"across": "12 mm", "length": "10 mm"},
        {"across": "6 mm"},
        at={"y": "60 mm", "z": "45 mm"},
    )
    d.data["parts"]["pin"]["riveted"] = {"b": d.entry(over)}
    d.bore("hole", "x", {}, "6 mm", wall=("cut", "0.3 mm"))
    d.data["bores"]["hole"]["member"] = "pin"
    return build(d.document())


def test_an_end_that_is_riveted_over_holds_and_is_said_to_the_lathe():
    from zygon.exchange.cutlist import cut_list
    from zygon.making.assembly.hold import drops

    built = pinned()
    assert not built.faults and holes(built, "wall") == [("through", pytest.approx(6.3))]
    assert "8 of end B is riveted over" in next(r.note for r in cut_list(built) if r.part == "pin")
    assert not [d for d in drops(built) if d.part == "pin"]
    assert not [p for p in check(built) if p.fault.code == "rivet_short"]


@pytest.mark.parametrize(("over", "code"), [("5 mm", "rivet_short"), ("6 mm", ""), ("0 mm", "bad_profile"), ("30 mm", "bad_profile")])
def test_too_little_and_too_much_to_rivet_is_said(over, code):
    found = {p.fault.code for p in check(pinned(over))} & {"rivet_short", "bad_profile"}
    assert found == ({code} if code else set())
