"""Rigid things and freedoms, for every example against a list made by hand; and for small scenes, each rule over its cases."""

import math

import numpy as np
import pytest

from tests.core.making.movement.scenes import arm, found, four_bar, held, moving_of, shaft, things_of
from zygon.check.moves import move_faults
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.layout_operations import mirror
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.geometry.motion import turning
from zygon.making.movement.pose import posed
from zygon.making.movement.report import travel_of
from zygon.making.movement.said import said_of
from zygon.making.pipeline import build
from zygon.measure.entry import Entry

#: Of each example: what moves, as (kind, a part of it, the room's axis), and how many things there are. Written down by hand from what each design is.
MOVES = {
    "frame": ([], 1),
    "stand": ([], 1),
    "frame-rack": ([], 1),
    "splayed-stand": ([], 1),
    "screen-board": ([("slides", "panel", "z")], 2),
    "inner-cover": ([], 1),
    "landing-board": ([], 1),
    "clamp-plate": ([], 1),
    "hive-floor": ([("slides", "slide", "y")], 2),
    "rebated-box": ([], 1),
    "cupboard": ([], 1),
    "brood-box": ([], 3),
    "roof": ([], 1),
    "frame-rests": ([], 2),
    "entrance-guard": ([], 1),
    "vent-plate": ([], 1),
    "feeder-tray": ([], 1),
    "electronics-box": ([], 1),
    "tube-stand": ([], 1),
    "carrying-bail": ([], 1),
    "smoker-hook": ([(how, leg, "y") for leg in ("leg_front", "leg_back") for how in ("turns", "slides")], 6),
    "drying-rack": ([], 1),
    "fold-down-leg": ([("turns", "leg", "x"), ("turns", "stay", "x")], 3),
    "tool-chest": ([("slides", "drawer_front", "y"), ("turns", "lid", "x")], 3),
    "hand-crank": ([("turns", "crank", "x"), ("slides", "crank", "x")], 2),
    "entrance-disc": ([("turns", "disc", "y")], 2),
    # ten frames hang in their rests; box, super, eaves and lid lie on one another
    "hive": ([("slides", f"top_bar{'' if n == 0 else f'@frames_row.{n}'}", "x") for n in range(10)], 15),
}


@pytest.mark.parametrize("name", sorted(EXAMPLES))
def test_what_moves_in_an_example(name):
    moves, things = MOVES[name]
    moving = moving_of(EXAMPLES[name]())
    assert len(moving.things) == things
    assert len(moving.movements) == len(moves)
    for kind, part, axis in moves:
        assert found(moving, kind, part).axis == axis


def test_every_example_is_listed():
    assert set(MOVES) == set(EXAMPLES)


def test_the_shaft_turns_with_crank_and_handle_in_walls_and_bearings():
    moving = moving_of(EXAMPLES["hand-crank"]())
    turning = found(moving, "turns", "shaft")
    assert set(turning.thing.pieces) == {"shaft", "crank", "handle"}
    assert moving.still is not None
    assert {"left", "right", "bearing_left", "bearing_right"} <= set(moving.still.pieces)
    assert turning.at[1:] == pytest.approx((80.0, 120.0))
    assert {"bearing_left", "bearing_right", "left", "right"} == set(moving.carriers["shaft"])


def test_the_lid_opens_from_its_hinge_and_the_drawer_runs_as_far_as_its_slides():
    moving = moving_of(EXAMPLES["tool-chest"]())
    lid, drawer = found(moving, "turns", "lid"), found(moving, "slides", "drawer_back")
    assert {"lid", "hinge~b", "hinge@hinges.1~b"} <= set(lid.thing.pieces)
    assert lid.ways == (1,)
    assert (lid.least, lid.most) == pytest.approx((-math.pi / 2, math.pi))
    assert (drawer.least, drawer.most) == (0.0, 350.0)
    assert drawer.way == pytest.approx((0, -1, 0))


@pytest.mark.parametrize("fit, runs", [("-0.1 mm", False), ("0", False), ("0.001 mm", True), ("0.3 mm", True)])
def test_a_part_runs_on_its_bolt_by_a_fit_over_nought_alone(fit, runs):
    moving = moving_of(arm(fit=fit))
    assert bool(moving.movements) is runs
    assert len(moving.things) == (2 if runs else 1)


@pytest.mark.parametrize("fit, runs", [("-0.05 mm", False), ("0", False), ("0.05 mm", True)])
def test_a_shaft_runs_in_its_bores_by_a_fit_over_nought_alone(fit, runs):
    moving = moving_of(shaft(fit=fit))
    assert [m.kind for m in moving.movements] == (["turns", "slides"] if runs else [])


def test_a_hole_cut_on_its_line_is_wider_by_the_kerf_and_runs():
    document = shaft(fit="0")
    data = document.dump()
    data["cutter"] = "laser" if "laser" in data["cutters"] else data["cutter"]
    for side in ("left", "right"):
        data["bores"]["holes"]["parts"][side]["on_line"] = True
    d = Draft("other", "ply12", "steel8", cutter="laser")
    data["cutters"], data["cutter"], data["fits"] = d.data["cutters"], "laser", d.data["fits"]
    moving = moving_of(load(data))
    assert [m.kind for m in moving.movements] == ["turns", "slides"]


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("mirrored", [False, True])
def test_an_axle_turns_about_its_own_axis_whichever_it_is(axis, mirrored):
    others = [a for a in "xyz" if a != axis]
    planes = {"x": "facing_side", "y": "facing_front", "z": "lying"}
    d = Draft("axle", "ply12", "steel8", cutter="router")
    for name, at in (("one", 0), ("other", 100)):
        d.board(name, "ply12", planes[axis], at, (0, 80), (0, 80))
    d.rod("axle", "steel8", axis, (-10, 130), **dict.fromkeys(others, "40 mm"))
    d.bore("holes", axis, {}, "8 mm", one=("cut", "0.2 mm"), other=("cut", "0.2 mm"))
    d.data["bores"]["holes"]["member"] = "axle"
    held(d, "one", "other")
    d.data["still"] = "one"
    part = "axle"
    if mirrored:
        d.mirror("over", axis, "-50 mm", "part:one", "part:other", "part:axle")
        held(d, "one@over.1", "other@over.1")
        part, d.data["still"] = "axle@over.1", "one@over.1"
    moving = moving_of(d.document())
    own = [m for m in moving.movements if part in m.thing.pieces]
    assert {(m.kind, m.axis) for m in own} == {("turns", axis), ("slides", axis)}


@pytest.mark.parametrize("part", ["wall", "arm"])
def test_what_is_chosen_stands_still_and_the_other_moves(part):
    data = arm().dump() | {"still": part}
    moving = moving_of(load(data))
    assert moving.still is not None
    assert part in moving.still.pieces
    (movement,) = moving.movements
    assert part not in movement.thing.pieces
    assert movement.kind == "turns"


def test_two_parts_that_are_said_to_be_held_do_not_move_and_free_ones_do():
    d = Draft("held", "ply12", cutter="router")
    d.data = arm().dump()
    d.data["ties"]["more"] = {"a": "arm", "b": "wall", "how": "held", "order": 9}
    assert not moving_of(load(d.data)).movements
    clamped = arm(fit="0").dump()
    assert not moving_of(load(clamped)).movements
    clamped["ties"]["more"] = {"a": "arm", "b": "wall", "how": "free", "order": 9}
    clamped["ties"]["out"] = {"a": "arm", "b": "wall", "how": "held", "order": 10, "out": True}
    assert len(moving_of(load(clamped)).things) == 2


def test_three_links_pinned_in_a_triangle_are_one_thing_and_four_have_one_freedom():
    moving = moving_of(four_bar({"A": (0, 0), "B": (0, 60), "C": (160, 120), "D": (200, 0)}))
    assert things_of(moving) == [{"base"}, {"crank"}, {"rocker"}, {"coupler"}]
    assert len(moving.closing) == 1
    # the rocker stands on the crank's own bolt: nothing is left to move
    d = four_bar({"A": (0, 0), "B": (0, 60), "C": (160, 120), "D": (200, 0)}).dump()
    d["ties"]["locked"] = {"a": "crank", "b": "base", "how": "held", "order": 0}
    assert not moving_of(load(d)).movements


def test_a_shelf_in_grooves_of_three_walls_leaves_by_the_fourth():
    for out, axis, sign in (("front", "y", -1), ("back", "y", 1)):
        d = Draft("case", "ply12", "ply6", cutter="router")
        d.board("left", "ply12", "facing_side", 0, (0, 200), (0, 200))
        d.board("right", "ply12", "facing_side", 300, (0, 200), (0, 200), face="right")
        d.board("wall", "ply12", "facing_front", 200 if out == "front" else 0, ("left.right", "right.left"), (0, 200),
                face="back" if out == "front" else "front")  # fmt: skip
        d.joint("dowels", "wall", "left")
        d.joint("dowels", "wall", "right")
        span = (0, "wall.front") if out == "front" else ("wall.back", 200)
        d.board("shelf", "ply6", "lying", 100, ("left.right", "right.left"), span)
        for side in ("left", "right"):
            d.joint("groove", "shelf", side, fit="loose", depth="5 mm", stop="0")
        (movement,) = moving_of(d.document()).movements
        assert (movement.kind, movement.axis) == ("slides", axis)
        assert movement.ways == (1,)
        assert movement.way["xyz".index(axis)] == pytest.approx(sign)


@pytest.mark.parametrize("axis, at", [("x", "-100 mm"), ("x", "1000 mm"), ("y", "-300 mm")])
def test_a_chest_and_its_mirror_image_move_alike_each_by_itself(axis, at):
    """Lids and drawers of both, whichever of them stands still; and no screw goes into the other one, though they lie on one axis."""
    chest = EXAMPLES["tool-chest"]()
    _, patch = mirror(chest, [f"part:{k}" for k in chest.placed()] + ["copy:hinges"], axis, at)
    built = build(patched(chest.dump() | {"moves": {}, "positions": {}}, patch))
    plain = build(chest)
    assert {k: len(s.places) for k, s in built.sets.items()} == {k: 2 * len(s.places) for k, s in plain.sets.items()}
    for one in built.sets.values():
        for place in one.places:
            assert len({"@mirror" in p for p in place.parts}) == 1
    said = said_of(built)
    assert len(said.moving.movements) == 4
    for m in said.moving.movements:
        travel = travel_of(said, m.key)
        ends = (0.0, 350.0) if m.kind == "slides" else (0.0, math.pi)
        if m.kind == "turns" and axis == "y":  # back to back, one lid opens until it meets the other
            assert travel.high.why in ("limit", "strikes")
            continue
        assert (travel.low.by, travel.high.by) == pytest.approx(ends, abs=1e-3)
    lids = [m for m in said.moving.movements if m.kind == "turns"]
    assert np.dot(lids[0].way, lids[1].way) == pytest.approx(-1 if axis == "y" else 1)


def entry(text):
    return {"text": text, "unit": "mm"}


@pytest.mark.parametrize("axis, angle", [("z", 30), ("x", 17), ("y", 90), ("z", -135)])
def test_what_is_turned_as_a_whole_moves_as_it_did(axis, angle):
    """The axes turn with it, and the stops are the same."""
    plain = said_of(build(load(EXAMPLES["tool-chest"]().dump() | {"moves": {}, "positions": {}})))
    data = EXAMPLES["tool-chest"]().dump() | {"moves": {}, "positions": {}}
    at = {a: entry("50 mm") for a in "xyz" if a != axis}
    data["groups"]["all"] = {"name": "all", "order": 0, "turns": {"t": {"axis": axis, "at": at, "angle": entry(f"{angle} deg")}}}
    for part in data["parts"].values():
        part["group"] = "all"
    turned = said_of(build(load(data)))
    motion = turning(axis, (50.0, 50.0, 50.0), math.radians(angle))
    for m in plain.moving.movements:
        other = found(turned.moving, m.kind, m.thing.pieces[0])
        assert other.way == pytest.approx(motion.vector(m.way), abs=1e-6)
        ends, others = (travel_of(s, x.key) for s, x in ((plain, m), (turned, other)))
        assert (others.low.by, others.high.by) == pytest.approx((ends.low.by, ends.high.by), abs=2e-3)


def test_what_turns_on_what_slides_goes_both_ways_at_once():
    """A flap on a bolt in a panel that is drawn out of its grooves."""
    d = Draft("flap", "ply12", "ply6", cutter="router")
    d.board("left", "ply12", "facing_side", 0, (0, 200), (0, 100))
    d.board("right", "ply12", "facing_side", 300, (0, 200), (0, 100), face="right")
    d.board("wall", "ply12", "facing_front", 200, ("left.right", "right.left"), (0, 100), face="back")
    d.joint("dowels", "wall", "left")
    d.joint("dowels", "wall", "right")
    d.board("panel", "ply12", "lying", 50, ("left.right", "right.left"), (0, "wall.front"))
    for side in ("left", "right"):
        d.joint("groove", "panel", side, fit="loose", depth="5 mm", stop="0")
    d.board("flap", "ply6", "lying", "panel.top", (100, 200), (20, 60))
    d.bore("pin", "z", {"x": "120", "y": "40"}, "5 mm", panel=("cut", "0"), flap=("cut", "0.2 mm"))
    d.hardware("pin", head="button", size="M5", side="high", nut="locking_nut")
    moving = moving_of(d.document())
    slide, turn = found(moving, "slides", "panel"), found(moving, "turns", "flap")
    assert turn.carried == slide.key
    assert set(moving.carried_by(slide)) >= {"panel", "flap"}
    assert "panel" not in moving.carried_by(turn)
    at = posed(moving, (), {slide.key: 30.0, turn.key: math.pi / 2})
    # the corner (200, 20) lies 80 to the right of the bolt and 20 before it: a quarter about z puts it 20 right and 80 behind, and 30 to the front
    sign = turn.way[2]
    x, y, _ = at.motions["flap"].point((200.0, 20.0, 60.0))
    assert (x, y) == pytest.approx((120 + 20 * sign, 40 + 80 * sign - 30))
    assert at.motions["panel"].point((0.0, 0.0, 0.0)) == pytest.approx((0, -30, 0))


def test_what_was_found_before_is_not_told_of_another_table_of_fits_nor_of_another_leaf():
    """What is kept hangs on all that bears on it: the slip fit, what a hinge lies on, the kerf of a hole that is cut on its line."""
    d = Draft("case", "ply12", cutter="router")
    d.board("left", "ply12", "facing_side", 0, (0, 200), (0, 200))
    d.board("right", "ply12", "facing_side", 400, (0, 200), (0, 200), face="right")
    held(d, "left", "right")
    d.board("shelf", "ply12", "lying", 100, ("left.right", "right.left"), (0, 200))
    for side in ("left", "right"):
        d.joint("groove", "shelf", side, fit="0.25 mm")
    data = d.document().dump()
    table = next(k for k, f in data["fits"].items() if (f["stock"], f["cutter"]) == ("ply12", data["cutter"]))
    for slip, runs in (("0.3 mm", False), ("0.2 mm", True), ("0.3 mm", False)):
        data["fits"][table]["slip"] = entry(slip)
        assert bool(moving_of(load(data)).movements) is runs
    chest = EXAMPLES["tool-chest"]().dump() | {"moves": {}, "positions": {}}
    assert len(moving_of(load(chest)).movements) == 2
    chest["parts"]["slide_left"]["on"]["b"] = chest["parts"]["slide_right"]["on"]["b"] = "bottom"
    assert [m.kind for m in moving_of(load(chest)).movements] == ["turns"]


@pytest.mark.parametrize("bit", ["3 mm", "4.4 mm", "5.5 mm", "5.75 mm", "5.9 mm", "6 mm", "1/4 in"])
def test_a_slide_goes_the_way_it_is_free_however_round_its_groove_ends(bit):
    """The front is where it counts from nought, whatever chords the round end of its groove falls into."""
    document = EXAMPLES["hive-floor"]()
    router = document.cutters["router"].model_copy(update={"bit": Entry(text=bit)})
    document = document.model_copy(update={"cutters": {**document.cutters, "router": router}})
    (movement,) = moving_of(document).movements
    assert movement.way == (0.0, -1.0, 0.0)
    assert not [f.message for f in move_faults(build(document)) or []]
