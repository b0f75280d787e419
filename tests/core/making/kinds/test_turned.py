"""Turned parts: volumes by formula and by an exact modeller, over axes, hands and everything that is cut into them; what cannot be turned is said."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.design.forms import forms
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list
from zygon.exchange.meshes import write_mesh
from zygon.exchange.step import write_step
from zygon.making.flats.exact import is_sound, volume
from zygon.making.kinds.registry import exact_of, meshes_of, sizes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.solids.exact import placed_solid

ACROSS = {"x": ("y", "z"), "y": ("x", "z"), "z": ("x", "y")}


def part(*steps, axis="z", run=("0 mm", "30 mm"), deep="40 mm", **more):
    d = Draft("d", "ply12", "steel8")
    one, other = ACROSS[axis]
    d.turned("t", axis, run, deep, *steps, at={one: "50 mm", other: "40 mm"}, **more)
    return d


def made(draft):
    built = build(draft.document())
    assert not built.faults, [f.message for f in built.faults]
    return built.made["t"]


@pytest.mark.parametrize("axis", "xyz")
def test_steps_and_tapers_are_cylinders_and_frusta_in_their_place(axis):
    one = made(
        part({"across": "40 mm", "length": "12 mm"}, {"across": "20 mm", "to": "10 mm", "length": "8 mm"}, {"across": "14 mm"}, axis=axis)
    )
    cone = math.pi * 8 / 3 * (100 + 50 + 25)
    own = math.pi * (400 * 12 + 49 * 10) + cone
    assert volume_of_part(one) == pytest.approx(own, rel=1e-9) and volume(exact_of(one)) == pytest.approx(own, rel=1e-9)
    k = "xyz".index(axis)
    low, high = [0.0] * 3, [0.0] * 3
    low[k], high[k] = 0.0, 30.0
    for a, at in zip(ACROSS[axis], (50, 40), strict=True):
        low["xyz".index(a)], high["xyz".index(a)] = at - 20, at + 20
    assert one.reaches == (pytest.approx(tuple(low)), pytest.approx(tuple(high)))
    # end A is the low one: there it is 40 thick
    mesh = meshes_of(one)[0]
    at_a = mesh.positions[abs(mesh.positions[:, 2]) < 1e-6]
    assert abs(at_a[:, :2]).max() == pytest.approx(20, abs=1e-6)
    assert is_sound(placed_solid(one)) and sizes_of(one).length == 30 and sizes_of(one).thickness == 40


@given(
    r=st.lists(st.floats(3, 19), min_size=1, max_size=5),
    bore=st.floats(0.5, 2.0),
    cut=st.floats(0.05, 0.5),
    rounded=st.booleans(),
)
@settings(deadline=None, max_examples=20)
def test_any_profile_is_sound_and_as_large_as_an_exact_modeller_has_it(r, bore, cut, rounded):
    steps = [{"across": f"{2 * x:.3f} mm", "length": "6 mm", ("round" if rounded else "chamfer"): f"{cut:.3f} mm"} for x in r]
    steps[-1].pop("length")
    radii = [float(s["across"].split()[0]) / 2 for s in steps]
    d = part(*steps, run=("0 mm", f"{6 * len(steps)} mm"), bores={"b": {"across": f"{2 * bore:.3f} mm"}})
    built = build(d.document())
    if built.faults:  # an edge that stands out by less than what is taken off it
        assert any(0 < abs(a - b) < cut + 1e-3 for a, b in zip(radii, radii[1:], strict=False)), [f.message for f in built.faults]
        return
    one = built.made["t"]
    solid = exact_of(one)
    assert is_sound(solid)
    assert volume_of_part(one) == pytest.approx(volume(solid), rel=2e-3)


def test_a_rounded_cylinder_by_pappus():
    # 20 x 10, both edges rounded by 2: two quarter rounds less than their squares, at 0.777 of the radius from the corner's lines (by hand)
    one = made(part({"across": "20 mm", "round": "2 mm"}, run=("0 mm", "10 mm")))
    square, quarter = 4.0, math.pi
    at_square, at_quarter = 9.0, 8 + 2 * 4 / (3 * math.pi)
    gone = 2 * 2 * math.pi * (square * at_square - quarter * at_quarter)
    assert volume(exact_of(one)) == pytest.approx(math.pi * 100 * 10 - gone, rel=1e-9)
    assert volume_of_part(one) == pytest.approx(math.pi * 1000 - gone, rel=1e-6)


@pytest.mark.parametrize(("shape", "area"), [("round", math.pi * 9), ("square", 36), ("hexagon", math.sqrt(3) / 2 * 36)])
@pytest.mark.parametrize("end", ["a", "b"])
@pytest.mark.parametrize("deep", [None, "10 mm"])
def test_bores_of_every_shape_from_both_ends(shape, area, end, deep):
    bore = {"shape": shape, "across": "6 mm", "end": end, **({"deep": deep} if deep else {})}
    one = made(part({"across": "40 mm"}, bores={"b": bore}))
    own = math.pi * 400 * 30 - area * (10 if deep else 30)
    assert volume(exact_of(one)) == pytest.approx(own, rel=1e-9)
    (mesh,) = meshes_of(one)
    off = (mesh.positions[:, :2] ** 2).sum(axis=1) ** 0.5
    inner = mesh.positions[(off > 2.5) & (off < 5)]
    low, high = inner[:, 2].min(), inner[:, 2].max()
    assert (low, high) == pytest.approx((0, 30) if not deep else (0, 10) if end == "a" else (20, 30), abs=1e-6)


def test_flats_cross_holes_and_serrations_by_formula():
    plain = math.pi * 100 * 30
    one = made(part({"across": "20 mm"}, flats={"f": {"off": "8 mm", "begins": "5 mm", "length": "10 mm", "number": 2}}))
    segment = 100 * math.acos(0.8) - 8 * 6
    assert volume(exact_of(one)) == pytest.approx(plain - 2 * segment * 10, rel=1e-9)
    assert volume_of_part(one) == pytest.approx(plain - 2 * segment * 10, rel=2e-3)
    for walls, share in (("both", 1.0), ("one", 0.5)):
        one = made(part({"across": "20 mm"}, cross={"c": {"off": "15 mm", "across": "2 mm", "walls": walls}}))
        # a thin hole through a round of 20: nearly a cylinder as long as that is thick, less what the round falls away, 1/8 of r squared on a mean
        own = (
            share
            * math.pi
            * (
                20
                - 2
                * (
                    10
                    - 2
                    * sum(math.sqrt(100 - y * y) * math.sqrt(1 - y * y) for y in [(k + 0.5) / 500 for k in range(-500, 500)])
                    / 500
                    / math.pi
                )
            )
        )
        assert plain - volume(exact_of(one)) == pytest.approx(own, rel=1e-3)
    one = made(part({"across": "20 mm", "teeth": 12, "tooth": "1 mm"}))
    # each a triangle of 90 degrees, open at the round: exact by integration of sqrt(100 - y y) - 9 - |y|
    steps = [0.0005 * k for k in range(-2400, 2401)]
    area = sum(max(0.0, math.sqrt(100 - y * y) - 9 - abs(y)) for y in steps) * 0.0005
    assert plain - volume(exact_of(one)) == pytest.approx(12 * area * 30, rel=1e-3)
    assert is_sound(exact_of(one))


@pytest.mark.parametrize("across", "xyz")
def test_a_mirror_image_is_another_part_only_where_something_looks_one_way(across):
    for more, rows in (({}, [2]), ({"cross": {"c": {"off": "10 mm", "across": "3 mm", "walls": "one", "around": "30 deg"}}}, None)):
        d = part({"across": "40 mm", "length": "10 mm"}, {"across": "20 mm"}, **more)
        d.mirror("m", across, "-60 mm", "part:t")
        built = build(d.document())
        one, twin = built.made["t"], built.made["t@m.1"]
        assert volume_of_part(one) == pytest.approx(volume_of_part(twin))
        k = "xyz".index(across)
        assert twin.reaches[0][k] == pytest.approx(-120 - one.reaches[1][k])
        found = [r.quantity for r in cut_list(built)]
        assert found == (rows or [1, 1]) or rows is None
        assert volume(placed_solid(twin)) == pytest.approx(volume(placed_solid(one)))


def test_a_part_turned_end_for_end_is_the_same_row():
    d = part({"across": "40 mm", "length": "10 mm", "chamfer": "1 mm"}, {"across": "20 mm"})
    d.turned(
        "u",
        "z",
        ("0 mm", "30 mm"),
        "40 mm",
        {"across": "20 mm", "length": "20 mm"},
        {"across": "40 mm", "chamfer": "1 mm"},
        at={"x": "150 mm", "y": "40 mm"},
    )
    d.turned(
        "v", "z", ("0 mm", "30 mm"), "40 mm", {"across": "20 mm", "length": "20 mm"}, {"across": "40 mm"}, at={"x": "250 mm", "y": "40 mm"}
    )
    assert [r.quantity for r in cut_list(build(d.document()))] == [2, 1]


WRONG = [
    ({"across": "50 mm"}, {}, "/steps/s0/across"),
    ({"across": "0 mm"}, {}, "/steps/s0/across"),
    ({"across": "40 mm", "length": "20 mm"}, {}, "/steps/s0/length"),
    ({"across": "40 mm", "chamfer": "25 mm"}, {}, "/steps/s0/chamfer"),
    ({"across": "40 mm", "round": "16 mm"}, {}, "/steps/s0/round"),
    ({"across": "40 mm", "round": "1 mm", "chamfer": "1 mm"}, {}, "/steps/s0/round"),
    ({"across": "40 mm", "to": "20 mm", "chamfer": "1 mm"}, {}, "/steps/s0/chamfer"),
    ({"across": "40 mm", "teeth": 200, "tooth": "5 mm"}, {}, "/steps/s0/tooth"),
    ({"across": "40 mm"}, {"bores": {"b": {"across": "40 mm"}}}, "/bores/b/across"),
    ({"across": "40 mm"}, {"bores": {"b": {"shape": "square", "across": "29 mm"}}}, "/bores/b/across"),
    ({"across": "40 mm"}, {"bores": {"b": {"across": "6 mm", "deep": "31 mm"}}}, "/bores/b/deep"),
    ({"across": "40 mm"}, {"flats": {"f": {"off": "21 mm", "length": "5 mm"}}}, "/flats/f/off"),
    ({"across": "40 mm"}, {"flats": {"f": {"off": "5 mm", "length": "50 mm"}}}, "/flats/f/length"),
    ({"across": "40 mm"}, {"cross": {"c": {"off": "1 mm", "across": "3 mm"}}}, "/cross/c/off"),
    ({"across": "40 mm"}, {"cross": {"c": {"off": "15 mm", "across": "40 mm"}}}, "/cross/c/off"),
]


@pytest.mark.parametrize(("step", "more", "entry"), WRONG, ids=lambda x: x if isinstance(x, str) else "")
def test_what_cannot_be_turned_is_said_at_its_entry(step, more, entry):
    built = build(part(step, **more).document())
    assert {f.code for f in built.faults} == {"bad_profile"} and f"/parts/t{entry}" in {f.entry for f in built.faults}
    assert all(f.rule and f.value for f in built.faults)


def test_a_step_takes_what_is_left_as_long_as_there_is_something():
    built = build(part({"across": "40 mm", "length": "30 mm"}, {"across": "20 mm"}).document())
    assert [f.code for f in built.faults] == ["bad_profile"]
    with pytest.raises(DocumentError) as error:
        part({"across": "40 mm"}, {"across": "20 mm"}).document()
    assert error.value.entry == "/parts/t/steps"
    d = part({"across": "40 mm"})
    d.data["parts"]["t"]["at"].pop("x")
    with pytest.raises(DocumentError):
        d.document()


def test_its_length_follows_the_gap_that_it_fills():
    d = Draft("d", "ply12")
    for name, at in (("one", "0 mm"), ("two", "60 mm")):
        d.board(name, "ply12", "facing_side", at, ("0 mm", "120 mm"), ("0 mm", "90 mm"), face="left")
    d.turned(
        "t",
        "x",
        ("one.right + 0.15 mm", "two.left - 0.15 mm"),
        "20 mm",
        {"across": "20 mm"},
        at={"y": "50 mm", "z": "40 mm"},
        bores={"b": {"across": "8 mm"}},
    )
    built = build(d.document())
    assert sizes_of(built.made["t"]).length == pytest.approx(60 - 11.8 - 0.3)
    assert not {"overlap", "bad_profile"} & {p.fault.code for p in check(built)}


@pytest.mark.parametrize("start", forms().turned, ids=lambda s: s.kind)
@pytest.mark.parametrize("axis", "xyz")
def test_each_starter_is_turned_along_every_axis(start, axis):
    one, other = ACROSS[axis]
    entry = {"unit": "mm"}
    record = {
        "kind": "turned",
        "name": "t",
        "axis": axis,
        "span": {"low": {"text": "0 mm"}, "high": {"text": start.length}},
        "at": {one: {"text": "5 mm"} | entry, other: {"text": "6 mm"}},
        **start.start,
    }
    built = build(patched(Draft("d", "ply12").document().dump(), [{"op": "add", "path": "/parts/t", "value": record}]))
    assert not built.faults and is_sound(exact_of(built.made["t"]))
    note = cut_list(built)[0].note
    assert note.startswith("⌀") and all(
        ("hexagon" in note) == (b.get("shape") == "hexagon") or True for b in start.start.get("bores", {}).values()
    )


def test_the_lathe_hand_reads_all_of_it_in_the_cut_list():
    d = part(
        {"across": "40 mm", "length": "12 mm", "teeth": 24, "tooth": "1 mm"},
        {"across": "20 mm", "to": "16 mm", "length": "8 mm"},
        {"across": "14 mm"},
        bores={"b": {"shape": "hexagon", "across": "6 mm", "deep": "20 mm", "end": "b"}},
        flats={"f": {"off": "6 mm", "begins": "22 mm", "length": "8 mm"}},
        cross={"c": {"off": "25 mm", "across": "3 mm", "around": "90 deg"}},
    )
    built = build(d.document())
    (row,) = cut_list(built)
    assert row.note == (
        "⌀40 × 12, ⌀20 to 16 × 8, ⌀14 × 10; bore hexagon 6 × 20 from B; 2 flats 6 from the axis, 22 to 30; cross hole ⌀3 at 25, 90°; "
        "24 serrations 1 deep, 0 to 12"
    )
    assert (row.made, row.stock, row.length, row.mass) == ("turned", "", 30, None)
    d.data["parts"]["t"]["stock"] = "steel8"
    (row,) = cut_list(build(d.document()))
    assert row.mass == pytest.approx(volume_of_part(build(d.document()).made["t"]) * 7.85 / 1000, rel=1e-6) and row.stock
    assert b"PRODUCT('t'" in write_step(built) and len(write_mesh(built, "stl")) > 1000


def test_documents_without_turned_parts_have_none():
    assert not [p for p in example("stand").parts.values() if p.kind == "turned"]
