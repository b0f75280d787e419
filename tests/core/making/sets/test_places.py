"""Sets go wherever their bores go: in rows, mirrored, repeated and turned; into edges, tubes and bent parts."""

import itertools
import math

import numpy as np
import pytest

from tests.core.making.sets.stacks import stack
from zygon.design.draft import Draft
from zygon.making.assembly.hold import drops
from zygon.making.assembly.plan import assembly
from zygon.making.pipeline import build
from zygon.making.solids.solids import solid_in_room


def lying(one):
    """Every piece of a set by what it is, where it lies and which way it looks, in no order."""
    return sorted(
        (p.hardware.designation, *np.round(p.motion.shift, 4), *np.round(p.motion.vector((0.0, 0.0, 1.0)), 6))
        for place in one.places
        for p in place.pieces
    )


def in_holes(built, one):
    """Whether no piece but what is screwed in has anything in common with a part: all lie in their holes, or on faces."""
    from zygon.check.sets import FILM
    from zygon.making.solids.hardware import bitten

    return all(bitten(p, part) < FILM for place in one.places for p in place.pieces for part in built.made.values())


def bracket(axis="z", **said):
    """Two boards with a bore, which copies can be made of."""
    return stack("ply18", "ply12", axis=axis, washer="plain_washer", nut_washer="plain_washer", size="M5", **said)


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("side", ["low", "high"])
@pytest.mark.parametrize("across", "xyz")
def test_a_mirror_image_has_the_mirrored_set(axis, side, across):
    d = bracket(axis, side=side)
    d.mirror("twin", across, "-40 mm", "part:b0", "part:b1")
    built = build(d.document())
    one = built.sets["hole"]
    assert not built.faults and len(one.places) == 2 and one.places[1].parts == tuple(f"{k}@twin.1" for k in one.places[0].parts)
    k = "xyz".index(across)
    first, second = one.places
    for a, b in zip(first.pieces, second.pieces, strict=True):
        image = list(a.motion.shift)
        image[k] = -80 - image[k]
        way = list(a.motion.vector((0.0, 0.0, 1.0)))
        way[k] = -way[k]
        assert b.motion.shift == pytest.approx(image) and b.motion.vector((0.0, 0.0, 1.0)) == pytest.approx(way)
        assert b.motion.handed == 1  # a screw has no mirror image
    assert in_holes(built, one)


@pytest.mark.parametrize("axis", "xyz")
def test_a_repeat_has_a_set_in_each_copy(axis):
    d = bracket(axis)
    along = "x" if axis != "x" else "y"
    d.repeat("row", "row", "part:b0", "part:b1", axis=along, number="3", spacing="260 mm")
    built = build(d.document())
    one = built.sets["hole"]
    assert len(one.places) == 3 and not built.faults and in_holes(built, one)
    k = "xyz".index(along)
    assert [round(p.at[k] - one.places[0].at[k], 6) for p in one.places] == [0, 260, 520]


def test_a_copy_that_lies_on_is_passed_by_one_longer_screw():
    d = Draft("d", "ply12")
    d.board("a", "ply12", "lying", "0 mm", ("0 mm", "100 mm"), ("0 mm", "100 mm"))
    d.repeat("row", "row", "part:a", axis="z", number="3", spacing="a.thickness")
    d.bore("hole", "z", {"x": "50 mm", "y": "50 mm"}, "5 mm", a=("cut", "0"))
    d.hardware("hole", size="M5")
    built = build(d.document())
    (place,) = built.sets["hole"].places
    assert place.pieces[0].hardware.length == min(x for x in (40, 45) if x >= 3 * 11.8 + 5.5)
    assert set(place.parts) == {"a", "a@row.1", "a@row.2"} and in_holes(built, built.sets["hole"])


def test_a_part_that_is_mirrored_onto_its_own_bore_has_one_set_and_walls_apart_have_two():
    d = Draft("d", "ply12")
    d.board("a", "ply12", "facing_side", "0 mm", ("0 mm", "100 mm"), ("0 mm", "100 mm"))
    d.mirror("twin", "x", "150 mm", "part:a")
    d.bore("hole", "x", {"y": "50 mm", "z": "50 mm"}, "5 mm", a=("cut", "0"))
    d.hardware("hole", size="M5", side="low")
    built = build(d.document())
    one = built.sets["hole"]
    assert [p.parts for p in one.places] == [("a",), ("a@twin.1",)]
    # both heads look outward, as one is the other's image
    assert [p.way[0] for p in one.places] == [1, -1] and [p.at[0] for p in one.places] == [0, 300]
    assert in_holes(built, one)


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("side", ["low", "high"])
def test_rows_are_the_same_as_so_many_bores(axis, side):
    others = [a for a in "xyz" if a != axis]
    rows = stack("ply18", "ply12", axis=axis, side=side, size="M4", nut="locking_nut")
    rows.bore_rows("hole", **{others[0]: ("3", "30 mm"), others[1]: ("2", "-25 mm")})
    found = build(rows.document())
    own = stack("ply18", "ply12", axis=axis, side=side, size="M4", nut="locking_nut")
    first = own.data["bores"]["hole"]
    for n, (i, j) in enumerate(itertools.product(range(3), range(2))):
        at = {others[0]: own.entry(f"{60 + 30 * i} mm"), others[1]: own.entry(f"{50 - 25 * j} mm")}
        own.data["bores"][f"h{n}"] = {**first, "name": f"h{n}", "at": at, "order": n}
    del own.data["bores"]["hole"]
    single = build(own.document())
    assert lying(found.sets["hole"]) == sorted(x for one in single.sets.values() for x in lying(one))
    for key in ("b0", "b1"):
        a, b = (sorted(tuple(np.round(c.as_circle, 5)) for c in x.flats[key].flat.inside) for x in (found, single))
        assert a == b and len(a) == 6


def test_a_row_is_judged():
    for number, spacing, code in (
        ("0", "30 mm", "bad_value"),
        ("600", "0.1 mm", "bad_value"),
        ("3", "0 mm", "bad_value"),
        ("3", "300 mm", "bore_misses"),
    ):
        d = stack("ply12", "ply12", size="M5")
        d.bore_rows("hole", x=(number, spacing))
        built = build(d.document())
        assert {f.code for f in built.faults} == {code}, number
        assert len(built.sets["hole"].places) == 1
    d = stack("ply12", "ply12", size="M5")
    d.bore_rows("hole", x=("2", "120 mm"))
    assert len(build(d.document()).sets["hole"].places) == 2


EDGES = [("x", "low"), ("x", "high"), ("y", "low"), ("y", "high")]


@pytest.mark.parametrize(("axis", "side"), EDGES)
@pytest.mark.parametrize("up", ["a", "b"])
def test_a_wood_screw_goes_blind_into_every_edge(axis, side, up):
    """A board stands before each edge of one that lies; the screw's hole is in line through both."""
    d = Draft("d", "ply18", "ply12")
    d.board("shelf", "ply18", "lying", "40 mm", ("0 mm", "200 mm"), ("0 mm", "160 mm"), up=up)
    plane = {"x": "facing_side", "y": "facing_front"}[axis]
    words = {("x", "low"): "left", ("x", "high"): "right", ("y", "low"): "front", ("y", "high"): "back"}
    far = {"left": "right", "right": "left", "front": "back", "back": "front"}[words[axis, side]]
    d.board("wall", "ply12", plane, f"shelf.{words[axis, side]}", ("0 mm", "160 mm"), ("0 mm", "160 mm"), face=far)
    other = "y" if axis == "x" else "x"
    d.bore("hole", axis, {other: "70 mm", "z": "mid(shelf.bottom, shelf.top)"}, "4 mm", wall=("cut", "0"), shelf=("drill", "0"))
    d.hardware("hole", head="wood", size="4", side=side)
    built = build(d.document())
    one = built.sets["hole"]
    assert not built.faults and one.engaged >= 6 * 4  # along the sheet six diameters: Eurocode 5 (from memory)
    shelf = built.flats["shelf"]
    (bore,) = shelf.flat.bores
    assert bore.edge == words[axis, side] and bore.diameter == 2.8 and bore.depth == pytest.approx(one.engaged)
    # the hole in the shelf's solid is where the screw's tip is: a thin needle along it meets nothing
    place = one.places[0]
    tip = np.array(place.at) + np.array(place.way) * (place.tip - 1)
    mouth = np.array(place.at) + np.array(place.way) * (place.stack[0] + 1)
    import manifold3d

    for at in (tip, mouth + np.array(place.way) * 12):
        ball = manifold3d.Manifold.sphere(0.5, 12).translate(tuple(at))
        for part in built.made.values():
            assert (ball ^ solid_in_room(part)).volume() < 1e-9
    assert len(built.flats["wall"].flat.sinks) == 1


@pytest.mark.parametrize("head", ["socket", "hexagon"])
@pytest.mark.parametrize("shape", [{"shape": "round"}, {"shape": "square"}])
def test_a_set_passes_both_walls_of_a_tube(head, shape):
    d = Draft("d", "steel8", "ply12")
    d.data["stocks"]["steel8"] |= {**shape, "nominal": d.entry("30 mm"), "wall": d.entry("2 mm")}
    d.data["stocks"]["steel8"].pop("measured", None)
    d.frame("f", {"a": ("0 mm", "50 mm", "15 mm"), "b": ("300 mm", "50 mm", "15 mm")}, {"l": ("a", "b")})
    d.member("tube", "steel8", "f", "l")
    d.board("top", "ply12", "lying", "30 mm", ("0 mm", "300 mm"), ("0 mm", "100 mm"), face="bottom")
    d.bore("hole", "z", {"x": "150 mm", "y": "50 mm"}, "6 mm", tube=("cut", "0"), top=("cut", "0"))
    d.hardware("hole", head=head, size="M6", side="high", washer="plain_washer", nut_washer="plain_washer")
    built = build(d.document())
    one = built.sets["hole"]
    assert not built.faults
    assert one.needed == pytest.approx(1.6 + 11.8 + 30 + 1.6 + 5.2 + 1) and set(one.places[0].parts) == {"tube", "top"}
    assert one.places[0].stack == pytest.approx((1.6, 1.6 + 41.8))
    assert in_holes(built, one) or shape["shape"] == "round"  # washers lie on a round wall at its crown


def test_what_a_set_holds_does_not_drop_and_goes_in_when_all_is_there():
    d = Draft("d", "ply12", "ply18")
    d.board("wall", "ply18", "facing_front", "0 mm", ("0 mm", "200 mm"), ("0 mm", "300 mm"), face="back")
    d.board("plate", "ply12", "facing_front", "wall.front", ("40 mm", "160 mm"), ("100 mm", "200 mm"), face="back")
    built = build(d.document())
    assert [x.part for x in drops(built)] == ["plate"]
    d.bore("hole", "y", {"x": "100 mm", "z": "150 mm"}, "5 mm", wall=("cut", "0"), plate=("cut", "0"))
    d.hardware("hole", head="wood", size="4", side="low")
    built = build(d.document())
    assert not drops(built)
    plan = assembly(built)
    assert plan.sets[-1] == (("hole", 0),) and not any(plan.sets[:-1])
    assert {x.part: x.kept_by for x in plan.loose}["plate"] == "screwed"


def test_sets_come_in_behind_the_step_that_brings_their_last_part():
    d = stack("ply12", "ply12", "ply12", size="M5")
    d.bore("second", "z", {"x": "120 mm", "y": "50 mm"}, "5 mm", b0=("cut", "0"), b1=("cut", "0"))
    d.hardware("second", size="M5")
    built = build(d.document())
    plan = assembly(built)
    arrives = {k: n for n, step in enumerate(plan.steps, 1) for k in step.parts} | dict.fromkeys(plan.first, 0)
    for n, behind in enumerate(plan.sets):
        for key, place in behind:
            assert n == max(arrives[k] for k in built.sets[key].places[place].parts)
    assert sum(map(len, plan.sets)) == 2


def test_a_bent_part_is_passed_where_its_wall_is():
    from zygon.design.examples import example

    built = build(example("electronics-box"))
    fan = built.sets["fan_screw"]
    assert len(fan.places) == 4 and all(p.parts == ("base", "fan_40") for p in fan.places) and in_holes(built, fan)
    thick = built.flats["base"].flat.thickness
    assert fan.places[0].stack == pytest.approx((0.0, thick + 10), abs=1e-6)
    gaps = {round(math.dist(a.at, b.at), 3) for a, b in itertools.combinations(fan.places, 2)}
    assert gaps == {32.0, round(32 * math.sqrt(2), 3)}


@pytest.mark.parametrize(("size", "splits"), [("4", False), ("5", False), ("6", True)])
def test_a_screw_too_thick_for_an_edge_splits_it(size, splits):
    """A board of 8 takes a pilot hole of 4 in its edge: that of a screw of 5 is 3.5, of 6 is 4.2 (common practice)."""
    d = Draft("d", "ply18", "ply12")
    d.data["stocks"]["ply18"] |= {"nominal": d.entry("8 mm")}
    d.data["stocks"]["ply18"].pop("measured", None)
    d.board("shelf", "ply18", "lying", "40 mm", ("0 mm", "200 mm"), ("0 mm", "160 mm"))
    d.board("wall", "ply12", "facing_side", "shelf.left", ("0 mm", "160 mm"), ("0 mm", "160 mm"), face="right")
    d.bore("hole", "x", {"y": "70 mm", "z": "44 mm"}, "4 mm", wall=("cut", "0"), shelf=("drill", "0"))
    d.hardware("hole", head="wood", size=size, side="low")
    assert ("splits_edge" in [f.code for f in build(d.document()).faults]) == splits


@pytest.mark.parametrize(("said", "held", "fastened"), [({"head": "socket", "size": "M5"}, "usual", "screwed"), ({"head": "blind_rivet", "size": "4"}, "usual", "riveted"),
                                                         ({"head": "socket", "size": "M5"}, "glued", "glued"), ({}, "usual", "")])  # fmt: skip
def test_a_set_through_both_parts_of_a_joint_holds_it_unless_something_else_is_said(said, held, fastened):
    d = Draft("held", "ply12", cutter="router")
    d.board("side", "ply12", "facing_side", "0", ("0", "200 mm"), ("0", "100 mm"))
    d.board("shelf", "ply12", "lying", "40 mm", ("side.right", "200 mm"), ("0", "200 mm"))
    d.joint("groove", "shelf", "side", depth="4 mm", held=held)
    d.board("strip", "ply12", "lying", "shelf.top", ("side.right", "60 mm"), ("0", "200 mm"), face="bottom")
    if said:
        d.joint("face_glue", "strip", "shelf", held=held)
        d.bore("hole", "z", {"x": "40 mm", "y": "100 mm"}, "5 mm", strip=("cut", "0"), shelf=("cut", "0"))
        d.hardware("hole", side="high", **said)
    built = build(d.document())
    joint = built.joints["strip-shelf" if said else "shelf-side"]
    assert joint.fastened == fastened


@pytest.mark.parametrize("side", ["low", "high"])
def test_a_pilot_hole_under_a_pocket_is_as_deep_as_its_screw_reaches(side):
    """5 are taken off the face where the screw goes in: its hole is measured from there, and cut from the face."""
    d = Draft("pocketed", "ply18", "ply6", cutter="router")
    for stock, thick in (("ply18", "30 mm"), ("ply6", "6 mm")):
        d.data["stocks"][stock]["nominal"] = d.entry(thick)
        d.data["stocks"][stock].pop("measured", None)
    if side == "high":
        d.board("thick", "ply18", "lying", "0", ("0", "200 mm"), ("0", "160 mm"))
        d.board("thin", "ply6", "lying", "thick.top", ("0", "200 mm"), ("0", "160 mm"), face="bottom")
    else:
        d.board("thick", "ply18", "lying", "0", ("0", "200 mm"), ("0", "160 mm"), face="bottom")
        d.board("thin", "ply6", "lying", "thick.bottom", ("0", "200 mm"), ("0", "160 mm"), face="top")
    face = "top" if side == "high" else "bottom"
    d.feature("thick", "room", "pocket", ("left", "60 mm"), ("front", "50 mm"), width="30 mm", height="30 mm", depth="5 mm", face=face)
    d.bore("hole", "z", {"x": "60 mm", "y": "50 mm"}, "4 mm", thin=("cut", "0"), thick=("cut", "0"))
    d.hardware("hole", head="wood", size="4", side=side)
    built = build(d.document())
    one = built.sets["hole"]
    # 6 of board, 5 of nothing, 4 diameters of wood: 27, and 30 is sold; it reaches 19 into what is left of 25
    assert (one.needed, one.length) == (pytest.approx(27.0), 30.0)
    hole = next(p for p in built.flats["thick"].flat.pockets if p.owner == "bore:hole")
    assert hole.depth == pytest.approx(5 + 19) and hole.face == ("a" if side == "high" else "b")
